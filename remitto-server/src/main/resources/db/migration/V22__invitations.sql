-- Links by which people make their own account, once each. Only a hash of what stands in the link is kept.
create table invitation (
  id bigint generated always as identity primary key,
  token_hash bytea not null unique check (length(token_hash) = 32),
  -- Blank: whoever opens the link says their own.
  email text not null,
  role text not null check (role in ('VIEWER', 'EDITOR', 'APPROVER', 'ADMIN')),
  made_by text not null,
  made_at timestamptz not null,
  expires_at timestamptz not null,
  used_at timestamptz
);
