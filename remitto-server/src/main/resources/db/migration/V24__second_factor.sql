-- A second factor of signing in (RFC 6238): the secret that a person's authenticator shares, sealed.
create table second_factor (
  user_id bigint primary key references app_user,
  sealed bytea not null,
  begun_at timestamptz not null,
  -- Null while it is being set up: it is asked for once a first code was right.
  confirmed_at timestamptz,
  -- The time step of the last code that was taken, so that each is worth something once.
  last_step bigint not null default 0
);

-- What a person signs in with who lost the authenticator, once each; only hashes are kept.
create table recovery_code (
  user_id bigint not null references app_user,
  code_hash bytea not null check (length(code_hash) = 32),
  used_at timestamptz,
  primary key (user_id, code_hash)
);
