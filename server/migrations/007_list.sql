-- What lists and plans ask of the figures, read out once, when they are written.
alter table analysis
  add column stamina text generated always as (summary #>> '{headline,stamina,word}') stored,
  add column average_fps double precision generated always as ((summary #>> '{headline,pace,average}')::float8) stored,
  add column peak_c double precision generated always as ((figures #>> '{warmth,peakC}')::float8) stored,
  add column percent_per_hour double precision generated always as ((figures #>> '{drain,percentPerHour}')::float8) stored,
  add column seconds double precision generated always as ((figures #>> '{frames,seconds}')::float8) stored,
  -- the warm-up curve of the hottest spot
  add column warm_fit jsonb generated always as (jsonb_path_query_first(figures, '$.warmth.spots[*] ? (@.spot == $.warmth.hottest)') -> 'fit') stored;
create index analysis_stamina on analysis (stamina);

-- the order of the list, the latest first, with the name that decides where two are of one moment
drop index run_order;
create index run_order on run (coalesce(started_at, imported_at) desc, id desc) where deleted_at is null;
create index run_name_order on run (lower(name), id) where deleted_at is null;
