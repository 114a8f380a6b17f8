-- who may: one passcode, those who were let in, and codes that let one more in

create table passcode (
  one boolean primary key default true check (one),
  salt bytea not null,
  hash bytea not null,
  -- what scrypt was asked to spend: a later program may ask for more
  n integer not null,
  r integer not null,
  p integer not null,
  set_at timestamptz not null default now()
);

create table session (
  id uuid primary key,
  -- SHA-256 of what the browser keeps
  token_hash bytea not null unique,
  role text not null check (role in ('reader', 'bench', 'reviewer')),
  name text not null,
  made_at timestamptz not null default now(),
  used_at timestamptz not null default now()
);

create table join_code (
  -- SHA-256 of six digits, and of the token in the QR code
  code_hash bytea primary key,
  token_hash bytea not null unique,
  role text not null check (role in ('reader', 'bench', 'reviewer')),
  name text not null,
  until timestamptz not null
);

-- wrong tries, as rate-limiter-flexible keeps them
create table tries (
  key varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);
