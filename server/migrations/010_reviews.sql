-- reviews: what is written of which runs, as one document
create table review (
  id uuid primary key,
  doc jsonb not null,
  revision bigint not null default 0,
  changed_at timestamptz not null default now(),
  deleted_at timestamptz
);

-- what was published, whole: never changed
create table publication (
  review_id uuid not null references review on delete cascade,
  revision integer not null check (revision > 0),
  published_at timestamptz not null default now(),
  -- texts with their figures filled in, runs and comparisons as they were
  written jsonb not null,
  corrections text[] not null default '{}',
  primary key (review_id, revision)
);
