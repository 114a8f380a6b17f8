-- how it goes with titles that give no run: an outcome noted again under its id takes its place
create table outcome (
  id uuid primary key,
  doc jsonb not null,
  noted_at timestamptz not null default now(),
  deleted_at timestamptz
);
create index outcome_noted on outcome (noted_at desc) where deleted_at is null;

-- what a list or a maker says of a title
create table claim (
  id uuid primary key,
  doc jsonb not null,
  noted_at timestamptz not null default now()
);

-- versions of emulators, layers and services that were noted
create table layer_version (
  layer text not null,
  version text not null,
  came_on date not null,
  primary key (layer, version)
);
