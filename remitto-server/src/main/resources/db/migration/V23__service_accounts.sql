-- Accounts of programs. Nobody signs in to them; their tokens do what they were made for.
alter table app_user add column kind text not null default 'PERSON' check (kind in ('PERSON', 'SERVICE'));
alter table app_user alter column email drop not null;
alter table app_user alter column password_hash drop not null;
alter table app_user add constraint app_user_credentials
  check ((kind = 'PERSON') = (email is not null) and (kind = 'PERSON' or password_hash is null));

-- Only a hash of a token is kept. A revoked or expired one stays, since the journal may be asked what it was.
create table api_token (
  id bigint generated always as identity primary key,
  account_id bigint not null references app_user,
  name text not null,
  token_hash bytea not null unique check (length(token_hash) = 32),
  -- The last characters, by which people tell one token from another.
  tail text not null,
  scopes text[] not null check (cardinality(scopes) > 0),
  -- Narrowed to these routes, and to these destinations with every route to them; both empty: not narrowed.
  route_ids bigint[] not null default '{}',
  destination_ids bigint[] not null default '{}',
  made_by text not null,
  made_at timestamptz not null,
  expires_at timestamptz not null,
  revoked_at timestamptz,
  revoked_by text,
  last_used_at timestamptz,
  last_used_from text,
  check ((revoked_at is null) = (revoked_by is null))
);
create index api_token_account on api_token (account_id);
