-- what was read off instead of logged: new kinds of line, and the need of boards and maps
alter table entry drop constraint entry_type_check;
alter table entry add constraint entry_type_check check (type in ('skin', 'battery', 'power', 'load', 'refresh', 'rate', 'summary', 'speed', 'smooth', 'chip', 'title', 'scene', 'mark', 'span', 'end'));
alter table run drop constraint run_need_check;
alter table run add constraint run_need_check check (need in ('reaction', 'action', 'story', 'slow'));

-- place of the title that is played from the start
alter table run add column scene text;
-- facts that nobody stated, but the kit knew, by their names
alter table run add column from_kit text[] not null default '{}';
-- what each need asked for when the run was made; null for the usual bars
alter table run add column bars jsonb;

-- pictures that show what was read, of a run or of one of its lines: as JPEG, without the place and the camera that took them
create table picture (
  id uuid primary key,
  run_id uuid not null references run on delete cascade,
  entry_id uuid references entry (id) on delete set null,
  width integer not null check (width > 0),
  height integer not null check (height > 0),
  note text not null default '',
  jpeg bytea not null check (octet_length(jpeg) <= 1048576),
  small bytea not null,
  added_at timestamptz not null default now()
);
-- packed already: the database need not try again
alter table picture alter column jpeg set storage external;
create index picture_run on picture (run_id, added_at);
create index picture_entry on picture (entry_id) where entry_id is not null;

-- whether there is another run of the same device, title and setup
create index run_kind on run (device_id, title_id, setup_id) where deleted_at is null;
