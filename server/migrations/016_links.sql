-- how the link of a streamed title was
alter table entry drop constraint entry_type_check;
alter table entry add constraint entry_type_check check (type in ('skin', 'battery', 'power', 'load', 'refresh', 'link', 'rate', 'summary', 'speed', 'smooth', 'chip', 'title', 'scene', 'mark', 'span', 'end'));
