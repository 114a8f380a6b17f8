-- a stretch of a sitting that is a run of its own in lists and comparisons: its lines are the sitting's
alter table run
  add column sitting_id uuid references run on delete cascade,
  add column part_from_ms double precision,
  add column part_to_ms double precision,
  add column part_last boolean,
  -- several titles were played: its stretches stand for it wherever one title is meant
  add column is_sitting boolean not null default false,
  -- the revision that its stretches were made of
  add column parts_revision bigint,
  add constraint run_part check ((sitting_id is null) = (part_from_ms is null) and (sitting_id is null) = (part_to_ms is null) and (sitting_id is null) = (part_last is null));
create index run_sitting on run (sitting_id, part_from_ms) where sitting_id is not null;
-- runs of one sitting that were joined: they are put away, and come back when it is taken apart
alter table run add column joined_into uuid references run on delete set null;
create index run_joined on run (joined_into) where joined_into is not null;
