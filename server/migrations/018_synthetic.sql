-- scores of synthetic benchmarks, kept apart from runs, each as one document
create table synthetic (
  id uuid primary key,
  doc jsonb not null,
  revision bigint not null default 0,
  changed_at timestamptz not null default now(),
  deleted_at timestamptz
);
