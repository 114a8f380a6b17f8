-- What a helper at the bench added: that much they may change or remove again.
create table made_by (
  id uuid primary key,
  session_id uuid not null,
  made_at timestamptz not null default now()
);
create index made_by_session on made_by (session_id);
