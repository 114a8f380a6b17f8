-- an emulator or a layer may be a fork of another: it has versions of its own
alter table layer_version add column fork_of text check (length(fork_of) <= 120);
