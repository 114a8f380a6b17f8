-- A source's key ends with the session that made it, with a new passcode, and a
-- quarter of an hour after its run. No reference: that the session is gone is
-- what ends the key.
alter table source add column session_id uuid;
alter table recording add column ended_at timestamptz;
update recording set ended_at = now() where status = 'ended';
