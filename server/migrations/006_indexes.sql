-- every reference that is searched, or followed when what it refers to is deleted
create index entry_source on entry (source_id) where source_id is not null;
create index bench_change_run on bench_change (run_id);
create index cool_change_cool_down on cool_change (cool_down_id);
create index run_device on run (device_id);
create index run_title on run (title_id);
create index run_setup on run (setup_id) where setup_id is not null;
create index refusal_title on refusal (title_id);
create index refusal_setup on refusal (setup_id) where setup_id is not null;
create index viewer_request_device on viewer_request (device_id) where device_id is not null;
create index viewer_request_answer on viewer_request (answered_by) where answered_by is not null;
create index card_step_device on card_step (device_id) where device_id is not null;
create index card_step_title on card_step (title_id);
create index card_step_setup on card_step (setup_id) where setup_id is not null;
create index card_step_request on card_step (request_id) where request_id is not null;
