-- a run that is, or was, recorded at the bench
create table recording (
  run_id uuid primary key references run on delete cascade,
  status text not null default 'ready' check (status in ('ready', 'running', 'ended')),
  -- by the server's clock, ms since 1970
  started_ms double precision,
  end_ms double precision,
  end_reason text check (end_reason in ('planned', 'crash', 'stopped', 'would-not-start')),
  -- the run's clock goes so many times as fast: practice with stand-ins
  speed double precision not null check (speed >= 1),
  plan jsonb not null,
  step jsonb,
  -- number of the last change of a line or of this row: what the event stream resumes by
  change bigint not null default 0,
  -- which source the figures stand on, and whether they hold all that has come
  used jsonb not null default '[]',
  settled boolean not null default true,
  opened_at timestamptz not null default now()
);

-- changes that were made, by the ids of their makers: none is made twice
create table bench_change (
  id uuid primary key,
  run_id uuid not null references recording on delete cascade
);

create table source (
  id uuid primary key default gen_random_uuid(),
  run_id uuid not null references recording on delete cascade,
  name text not null check (btrim(name) <> ''),
  kind text not null,
  stand_in boolean not null,
  -- the key itself is shown once and kept nowhere
  key_sha256 text not null unique,
  -- what is added to its times to get the run's; null while its clock is the run's own
  offset_ms double precision,
  -- number of the batch that is waited for
  next_seq bigint not null default 0,
  frames bigint not null default 0,
  lines bigint not null default 0,
  refused bigint not null default 0,
  -- [{batch, line, reason}, …], the last few
  refusals jsonb not null default '[]',
  ended text,
  -- where a text dump of timestamps stands on the run's clock
  anchor jsonb,
  heard_ms double precision,
  revoked_at timestamptz,
  created_at timestamptz not null default now()
);
create index source_run on source (run_id);

-- frames as they came, a batch a row: the lines as JSON; deflated, many batches in one row, once the run has ended
create table source_batch (
  source_id uuid not null references source on delete cascade,
  seq bigint not null,
  through bigint not null,
  frames bytea not null,
  deflated boolean not null default false,
  primary key (source_id, seq)
);

alter table entry drop constraint entry_source_check;
alter table entry add constraint entry_source_check check (source in ('file', 'hand', 'source'));
alter table entry add column source_id uuid references source on delete cascade;
-- which screen wrote it
alter table entry add column writer text;
-- a span that is still going on
alter table entry add column open boolean not null default false;
-- another source's line counts in its place
alter table entry add column used boolean not null default true;
-- kept, so that other screens hear of it
alter table entry add column taken_back boolean not null default false;
alter table entry add column change bigint;
create index entry_change on entry (run_id, change) where change is not null;
create index entry_span on entry (run_id) where type = 'span';

-- a cool-down that is watched: readings have ids, and there is a line to come down to
alter table cool_down add column ready_c double precision;
alter table cool_down add column watched boolean not null default false;
create table cool_change (
  id uuid primary key,
  cool_down_id uuid not null references cool_down on delete cascade
);
