-- What grows with every frame and reading is cut into parts by its run, so that
-- each stays small and they can lie on several machines. Rows are copied: a
-- large library takes its time, once.

alter table picture drop constraint picture_entry_id_fkey;
alter table frame_chunk rename to frame_chunk_whole;
alter table frame_chunk_whole rename constraint frame_chunk_pkey to frame_chunk_whole_pkey;
alter table entry rename to entry_whole;
alter table entry_whole rename constraint entry_pkey to entry_whole_pkey;
alter index entry_id rename to entry_whole_id;
alter index entry_change rename to entry_whole_change;
alter index entry_span rename to entry_whole_span;
alter index entry_source rename to entry_whole_source;
alter table source_batch rename to source_batch_whole;
alter table source_batch_whole rename constraint source_batch_pkey to source_batch_whole_pkey;

create table frame_chunk (
  run_id uuid not null references run on delete cascade,
  seq integer not null,
  frames integer not null check (frames > 0),
  packed bytea not null,
  -- [[frame of this chunk before which time has no data, µs], …]
  gaps jsonb not null default '[]',
  primary key (run_id, seq)
) partition by hash (run_id);
-- packed already: the database need not try again
alter table frame_chunk alter column packed set storage external;

create table entry (
  run_id uuid not null references run on delete cascade,
  seq integer not null,
  type text not null check (type in ('skin', 'battery', 'power', 'load', 'refresh', 'link', 'rate', 'summary', 'speed', 'smooth', 'chip', 'title', 'scene', 'mark', 'span', 'end')),
  at_ms double precision not null,
  line jsonb not null,
  id uuid not null default gen_random_uuid(),
  source text not null default 'file' check (source in ('file', 'hand', 'source')),
  source_id uuid references source on delete cascade,
  -- which screen wrote it
  writer text,
  -- a span that is still going on
  open boolean not null default false,
  -- another source's line counts in its place
  used boolean not null default true,
  -- kept, so that other screens hear of it
  taken_back boolean not null default false,
  change bigint,
  primary key (run_id, seq),
  unique (run_id, id)
) partition by hash (run_id);

create table source_batch (
  run_id uuid not null references run on delete cascade,
  source_id uuid not null references source on delete cascade,
  seq bigint not null,
  through bigint not null,
  frames bytea not null,
  deflated boolean not null default false,
  -- what each batch of the row was, 16 bytes a batch in their order; null where it was stored before this was kept
  digests bytea,
  primary key (source_id, seq, run_id)
) partition by hash (run_id);

do $$
begin
  for i in 0..7 loop
    execute format('create table frame_chunk_%s partition of frame_chunk for values with (modulus 8, remainder %s)', i, i);
    execute format('create table entry_%s partition of entry for values with (modulus 8, remainder %s)', i, i);
    -- batches are packed, and their rows replaced, when their run has ended
    execute format('create table source_batch_%s partition of source_batch for values with (modulus 8, remainder %s) with (autovacuum_vacuum_scale_factor = 0.05)', i, i);
  end loop;
end
$$;

insert into frame_chunk (run_id, seq, frames, packed, gaps)
  select run_id, seq, frames, packed, gaps from frame_chunk_whole;
insert into entry (run_id, seq, type, at_ms, line, id, source, source_id, writer, open, used, taken_back, change)
  select run_id, seq, type, at_ms, line, id, source, source_id, writer, open, used, taken_back, change from entry_whole;
insert into source_batch (run_id, source_id, seq, through, frames, deflated, digests)
  select source.run_id, source_id, seq, through, source_batch_whole.frames, deflated, digests from source_batch_whole join source on source.id = source_id;
drop table frame_chunk_whole, entry_whole, source_batch_whole;

create index entry_change on entry (run_id, change) where change is not null;
create index entry_span on entry (run_id) where type = 'span';
create index entry_source on entry (source_id) where source_id is not null;
create index source_batch_run on source_batch (run_id);
alter table picture add constraint picture_entry foreign key (run_id, entry_id) references entry (run_id, id) on delete set null (entry_id);

-- all of it is written anew with a version of the method
alter table analysis set (autovacuum_vacuum_scale_factor = 0.05);

-- goes up with every batch of a source: whichever server process stores one says
-- which number it has seen, and one that has seen an older number is refused
alter table source add column fence bigint not null default 0;
