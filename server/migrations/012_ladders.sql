-- searches for the highest setting that holds, each as one document
create table ladder (
  id uuid primary key,
  doc jsonb not null,
  revision bigint not null default 0,
  changed_at timestamptz not null default now(),
  deleted_at timestamptz
);
