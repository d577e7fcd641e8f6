-- Whom a sign-in server knows by which subject. An account is found by this, never by an address alone.
create table open_id_identity (
  issuer text not null,
  subject text not null,
  user_id bigint not null unique references app_user,
  linked_at timestamptz not null,
  primary key (issuer, subject)
);
