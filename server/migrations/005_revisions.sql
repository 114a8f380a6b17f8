-- goes up with every change of a run or its lines: figures count for the revision that they were computed from
alter table run add column revision bigint not null default 0;
alter table analysis add column revision bigint not null default 0;

-- what each batch of a row was, 16 bytes a batch in their order: the same number with other content is no duplicate;
-- null where it was stored before this was kept
alter table source_batch add column digests bytea;

-- names that look the same are the same: composed letters, where nobody has that name already
update device set name = normalize(name, NFC) where id in (select distinct on (lower(normalize(name, NFC))) id from device where name is not nfc normalized order by lower(normalize(name, NFC)), created_at, id)
  and not exists (select from device other where other.id <> device.id and lower(other.name) = lower(normalize(device.name, NFC)));
update title set name = normalize(name, NFC) where id in (select distinct on (lower(normalize(name, NFC))) id from title where name is not nfc normalized order by lower(normalize(name, NFC)), created_at, id)
  and not exists (select from title other where other.id <> title.id and lower(other.name) = lower(normalize(title.name, NFC)));
update accessory set name = normalize(name, NFC) where id in (select distinct on (lower(normalize(name, NFC))) id from accessory where name is not nfc normalized order by lower(normalize(name, NFC)), created_at, id)
  and not exists (select from accessory other where other.id <> accessory.id and lower(other.name) = lower(normalize(accessory.name, NFC)));
update instrument set name = normalize(name, NFC) where id in (select distinct on (lower(normalize(name, NFC))) id from instrument where name is not nfc normalized order by lower(normalize(name, NFC)), created_at, id)
  and not exists (select from instrument other where other.id <> instrument.id and lower(other.name) = lower(normalize(instrument.name, NFC)));
update setup set name = normalize(name, NFC) where id in (select distinct on (title_id, lower(normalize(name, NFC))) id from setup where name is not nfc normalized order by title_id, lower(normalize(name, NFC)), created_at, id)
  and not exists (select from setup other where other.id <> setup.id and other.title_id = setup.title_id and lower(other.name) = lower(normalize(setup.name, NFC)));
