create table device (
  id uuid primary key default gen_random_uuid(),
  name text not null check (btrim(name) <> ''),
  created_at timestamptz not null default now()
);
create unique index device_name on device (lower(name));

create table title (
  id uuid primary key default gen_random_uuid(),
  name text not null check (btrim(name) <> ''),
  created_at timestamptz not null default now()
);
create unique index title_name on title (lower(name));

create table setup (
  id uuid primary key default gen_random_uuid(),
  title_id uuid not null references title,
  name text not null check (btrim(name) <> ''),
  created_at timestamptz not null default now()
);
create unique index setup_name on setup (title_id, lower(name));

create table run (
  id uuid primary key default gen_random_uuid(),
  name text not null check (btrim(name) <> ''),
  device_id uuid not null references device,
  title_id uuid not null references title,
  setup_id uuid references setup,
  target_fps double precision check (target_fps > 0),
  refresh_hz double precision check (refresh_hz > 0),
  native_fps double precision check (native_fps > 0),
  need text check (need in ('reaction', 'action', 'story')),
  room_c double precision,
  battery_wh double precision check (battery_wh > 0),
  conditions text[] not null default '{}',
  split_minutes smallint check (split_minutes in (1, 2, 5, 10)),
  started_at timestamptz,
  imported_at timestamptz not null default now(),
  -- the file as it came
  file_name text not null,
  file_bytes bigint not null,
  file_sha256 text not null,
  content_sha256 text not null,
  -- rows of the file: all, those that could not be read (line, reason), lines of unknown kind
  rows_total integer not null,
  rows_dropped integer not null,
  dropped_list jsonb not null,
  passed_over integer not null,
  cut_off boolean not null,
  deleted_at timestamptz
);
create index run_content on run (content_sha256);
create index run_order on run (coalesce(started_at, imported_at) desc);

-- frame times, some ten thousand a row, packed as server/frames/chunkCodec.ts says
create table frame_chunk (
  run_id uuid not null references run on delete cascade,
  seq integer not null,
  frames integer not null check (frames > 0),
  packed bytea not null,
  -- [[frame of this chunk before which time has no data, µs], …]
  gaps jsonb not null default '[]',
  primary key (run_id, seq)
);
-- packed already: the database need not try again
alter table frame_chunk alter column packed set storage external;

-- readings, marks, spans and the end: one row a line of the open run file
create table entry (
  run_id uuid not null references run on delete cascade,
  seq integer not null,
  type text not null check (type in ('skin', 'battery', 'power', 'load', 'refresh', 'rate', 'mark', 'span', 'end')),
  at_ms double precision not null,
  line jsonb not null,
  primary key (run_id, seq)
);

create table analysis (
  run_id uuid primary key references run on delete cascade,
  method_version integer not null,
  figures jsonb not null,
  -- what lists show, so that they need not read all figures
  summary jsonb not null,
  -- per-second pace, reduced for a chart
  series jsonb not null,
  computed_at timestamptz not null default now()
);

-- what this database remembers of itself, for instance that the demo was loaded
create table setting (
  key text primary key,
  value jsonb not null
);
