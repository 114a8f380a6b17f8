-- Numbers that were typed before they were rounded where they come in: nothing
-- of this field needs more than a millionth, and what the database's own
-- arithmetic cannot hold made every query fail that met it.
update run set
  room_c = round(room_c::numeric, 6)::float8,
  target_fps = nullif(round(target_fps::numeric, 6)::float8, 0),
  refresh_hz = nullif(round(refresh_hz::numeric, 6)::float8, 0),
  native_fps = nullif(round(native_fps::numeric, 6)::float8, 0),
  battery_wh = nullif(round(battery_wh::numeric, 6)::float8, 0)
where abs(room_c) < 1e-6 and room_c <> 0 or target_fps < 1e-6 or refresh_hz < 1e-6 or native_fps < 1e-6 or battery_wh < 1e-6;
update cool_down set room_c = 0 where abs(room_c) < 1e-6 and room_c <> 0;
