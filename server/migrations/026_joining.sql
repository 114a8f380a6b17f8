-- what of a joined sitting came from its runs, so that only what was typed there goes back to them
alter table entry
  -- the line of the run that it was joined from; null where somebody wrote it at the sitting
  add column copied_from uuid,
  -- written by joining itself: where titles begin, pauses between them
  add column by_joining boolean not null default false;
-- its runs are there on their own again: it would count their minutes twice
alter table run
  add column taken_apart boolean not null default false,
  -- how long a run was when it was joined; null: as far as the next one
  add column joined_ms double precision;

-- sittings that were joined before: what says the same as a line of its run came from there
create temporary table joined_before on commit drop as
  select run.id, run.joined_into, extract(epoch from run.started_at - sitting.started_at)::float8 * 1000 as after_ms
  from run join run sitting on sitting.id = run.joined_into;
update entry set copied_from = original.id
from joined_before join entry original on original.run_id = joined_before.id
where entry.run_id = joined_before.joined_into and entry.type = original.type and original.used and not original.taken_back
  and entry.line - array['atMs', 'lowMs', 'highMs', 'fromMs', 'toMs'] = original.line - array['atMs', 'lowMs', 'highMs', 'fromMs', 'toMs']
  and abs(entry.at_ms - original.at_ms - joined_before.after_ms) < 0.01;
update entry set by_joining = true
from joined_before
where entry.run_id = joined_before.joined_into and entry.copied_from is null and entry.source = 'hand' and (
  (entry.type in ('title', 'scene') and abs(entry.at_ms - joined_before.after_ms) < 0.01)
  or (entry.type = 'span' and entry.line ->> 'kind' = 'pause' and abs((entry.line ->> 'toMs')::float8 - joined_before.after_ms) < 0.01)
  or (entry.type = 'mark' and (entry.line ->> 'note' like 'end of %' or entry.line ->> 'note' like '% stayed with the runs that this was joined from.')));
