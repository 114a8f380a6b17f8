-- how it plays, as the player says; the check got another name when the table was parted
do $$
declare
  old text;
begin
  select conname into strict old from pg_constraint
  where conrelid = 'entry'::regclass and contype = 'c' and pg_get_constraintdef(oid) like '%smooth%';
  execute format('alter table entry drop constraint %I', old);
end
$$;
alter table entry add constraint entry_kind check (type in ('skin', 'battery', 'power', 'load', 'refresh', 'link', 'rate', 'summary', 'speed', 'smooth', 'feel', 'chip', 'title', 'scene', 'mark', 'span', 'end'));
