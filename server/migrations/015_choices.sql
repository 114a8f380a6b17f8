-- choices between options without an order, each as one document
create table choice (
  id uuid primary key,
  doc jsonb not null,
  revision bigint not null default 0,
  changed_at timestamptz not null default now(),
  deleted_at timestamptz
);

-- a ladder that is climbed in a step of a day
alter table card_step add column ladder_id uuid references ladder on delete set null;
create index card_step_ladder on card_step (ladder_id) where ladder_id is not null;
