-- titles that are played straight after a step's own, on one clock
alter table card_step add column "then" jsonb not null default '[]';
