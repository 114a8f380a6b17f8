-- how it plays, as the player says
alter table entry drop constraint entry_type_check;
alter table entry add constraint entry_type_check check (type in ('skin', 'battery', 'power', 'load', 'refresh', 'link', 'rate', 'summary', 'speed', 'smooth', 'feel', 'chip', 'title', 'scene', 'mark', 'span', 'end'));
