-- what is set stands as pairs, in the order in which it was asked for; earlier setups are carried over whole
update setup set facts = jsonb_strip_nulls(jsonb_build_object(
  'pairs', (
    select jsonb_agg(jsonb_build_object('key', known.key, 'value', setup.facts ->> known.was, 'unit', known.unit) order by known.place)
    from (values
      (1, 'tier', 'tier', ''), (2, 'emulator', 'emulator', ''), (3, 'layer', 'layer', ''), (4, 'service', 'service', ''),
      (5, 'link', 'link', ''), (6, 'version', 'version', ''), (7, 'backend', 'backend', ''),
      (8, 'internalResolution', 'internal resolution', '×'), (9, 'hacks', 'hacks', ''), (10, 'cpuPreset', 'CPU preset', ''),
      (11, 'graphicsDriver', 'graphics driver', ''), (12, 'apiWrapper', 'API wrapper', ''), (13, 'bitRateMbps', 'bit rate', 'Mbit/s'),
      (14, 'resolution', 'resolution', ''), (15, 'capFps', 'cap', 'fps')
    ) as known (place, was, key, unit)
    where setup.facts ? known.was
  ),
  'notes', facts -> 'notes'
)) where facts <> '{}';
