-- a record of the kit is a name and facts, any of which may be unknown; contract/kit.ts says which there are
alter table device add column facts jsonb not null default '{}';
alter table title add column facts jsonb not null default '{}';
alter table setup add column facts jsonb not null default '{}';

create table accessory (
  id uuid primary key default gen_random_uuid(),
  name text not null check (btrim(name) <> ''),
  facts jsonb not null default '{}',
  created_at timestamptz not null default now()
);
create unique index accessory_name on accessory (lower(name));

create table instrument (
  id uuid primary key default gen_random_uuid(),
  name text not null check (btrim(name) <> ''),
  facts jsonb not null default '{}',
  created_at timestamptz not null default now()
);
create unique index instrument_name on instrument (lower(name));

-- a title, or one of its setups, that a device would not take
create table refusal (
  id uuid primary key default gen_random_uuid(),
  device_id uuid not null references device on delete cascade,
  title_id uuid not null references title on delete cascade,
  setup_id uuid references setup on delete cascade,
  says text not null default '',
  created_at timestamptz not null default now()
);
create unique index refusal_once on refusal (device_id, title_id, setup_id) nulls not distinct;

-- conditions of a run that preflight asked for
alter table run add column preflight jsonb not null default '{}';

-- viewers' wishes: the same one from several sources is one
create table viewer_request (
  id uuid primary key default gen_random_uuid(),
  title_id uuid not null references title,
  device_id uuid references device,
  -- [{source, asked}, …]
  sources jsonb not null,
  answered_by uuid references run on delete set null,
  created_at timestamptz not null default now()
);
create unique index viewer_request_once on viewer_request (title_id, device_id) nulls not distinct;

create table card (
  id uuid primary key default gen_random_uuid(),
  name text not null check (btrim(name) <> ''),
  policy text not null check (policy in ('highest', 'best playable', 'as delivered')),
  template boolean not null,
  rules jsonb not null,
  day jsonb not null,
  -- goes up with every change, so that two people do not run over one another
  revision integer not null default 0,
  -- the day's plan that is followed, and the revision that it was made for
  plan jsonb,
  plan_revision integer,
  created_at timestamptz not null default now(),
  deleted_at timestamptz
);

create table card_step (
  id uuid primary key,
  card_id uuid not null references card on delete cascade,
  position integer not null,
  device_id uuid references device,
  title_id uuid not null references title,
  setup_id uuid references setup,
  minutes integer not null check (minutes > 0),
  repeats integer not null check (repeats > 0),
  attended boolean not null,
  wanted integer not null check (wanted >= 0),
  after uuid[] not null,
  conditions jsonb not null,
  request_id uuid references viewer_request on delete set null,
  note text not null,
  unique (card_id, position) deferrable initially deferred
);

-- what happened on the day, in the order of its telling; ids are the tellers' own
create table card_event (
  id uuid primary key,
  card_id uuid not null references card on delete cascade,
  seq bigint generated always as identity,
  step_id uuid,
  run_id uuid references run on delete cascade,
  event jsonb not null
);
create index card_event_order on card_event (card_id, seq);
create index card_event_run on card_event (run_id) where run_id is not null;

-- how a device cooled after a run
create table cool_down (
  id uuid primary key default gen_random_uuid(),
  device_id uuid not null references device on delete cascade,
  spot text not null check (btrim(spot) <> ''),
  room_c double precision,
  started_at timestamptz not null,
  -- [{atS, c}, …]
  readings jsonb not null,
  -- time constant of the fitted curve; null where the readings carry none
  tau_s double precision check (tau_s > 0)
);
create index cool_down_device on cool_down (device_id);
