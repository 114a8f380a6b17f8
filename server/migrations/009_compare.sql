-- what comparing needs of a run's figures, small enough to be read for a whole library
alter table analysis add column comparing jsonb;

-- runs that were set beside each other
create table comparison (
  id uuid primary key,
  -- null: as its sides tell
  name text,
  kind text not null check (kind in ('pair', 'before-after', 'field', 'matrix')),
  margin double precision not null check (margin > 0),
  anyway boolean not null default false,
  -- kept for good; others go after a month
  kept boolean not null default false,
  -- the first line when it was kept
  answer_then text,
  made_at timestamptz not null default now(),
  changed_at timestamptz not null default now(),
  deleted_at timestamptz
);
create table comparison_side (
  comparison_id uuid not null references comparison on delete cascade,
  place smallint not null,
  name text,
  primary key (comparison_id, place)
);
create table comparison_run (
  comparison_id uuid not null,
  side smallint not null,
  place smallint not null,
  run_id uuid not null references run on delete cascade,
  primary key (comparison_id, side, place),
  unique (comparison_id, run_id),
  foreign key (comparison_id, side) references comparison_side on delete cascade
);
create index comparison_run_run on comparison_run (run_id);

-- values that nobody measured here: shown beside runs, never counted with them
create table weak_value (
  id uuid primary key,
  device_id uuid not null references device on delete cascade,
  title_id uuid not null references title on delete cascade,
  setup_id uuid references setup on delete set null,
  measure text not null,
  value double precision,
  low double precision,
  high double precision,
  source text not null,
  who text not null default '',
  dated date,
  added_at timestamptz not null default now()
);
create index weak_value_title on weak_value (title_id);
create index weak_value_device on weak_value (device_id);
create index weak_value_setup on weak_value (setup_id) where setup_id is not null;
