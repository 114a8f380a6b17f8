-- a run need not come from a file: it may be written down by hand
alter table run alter column file_name drop not null;
alter table run alter column file_bytes drop not null;
alter table run alter column file_sha256 drop not null;
alter table run alter column content_sha256 drop not null;

-- each line has a name of its own, so that one can be taken back, and says where it came from:
-- the file, or someone's hand afterwards
alter table entry add column id uuid not null default gen_random_uuid();
alter table entry add column source text not null default 'file' check (source in ('file', 'hand'));
create unique index entry_id on entry (id);

-- where a device's skin is read, on its front or back, as shares of its width and height
create table spot_place (
  device_id uuid not null references device on delete cascade,
  spot text not null check (btrim(spot) <> ''),
  side text not null check (side in ('front', 'back')),
  x double precision not null check (x between 0 and 1),
  y double precision not null check (y between 0 and 1),
  primary key (device_id, spot)
);
