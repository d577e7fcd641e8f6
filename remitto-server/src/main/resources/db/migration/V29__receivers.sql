-- Calls of other tools: kept as they come before they are answered, and laid out in tables behind views afterwards.
create table receiver (
  id bigint generated always as identity primary key,
  source_id bigint not null references source,
  name text not null,
  -- The view that its rows are read from; it stays, since queries name it.
  table_name text not null check (octet_length(table_name) between 1 and 63),
  definition jsonb not null,
  revision int not null,
  -- The revision whose table the view shows; 0 before there is one.
  shown_revision int not null default 0,
  -- SHA-256 of the part of the address that tells it apart; the part itself is sealed with the secrets.
  code_hash bytea not null unique,
  secret bytea not null,
  author text not null,
  saved_at timestamptz not null,
  paused boolean not null default false,
  -- Why its calls could not be laid out when they last were to be; blank when they could.
  problem text not null default '',
  created_at timestamptz not null,
  archived_at timestamptz
);
create unique index receiver_name on receiver (name) where archived_at is null;
create unique index receiver_table_name on receiver (table_name) where archived_at is null;

create table received_call (
  id bigint generated always as identity primary key,
  receiver_id bigint not null references receiver,
  received_at timestamptz not null,
  headers jsonb not null,
  body bytea not null,
  verdict text not null check (verdict in ('WAITING', 'KEPT', 'HELD', 'DOUBLE', 'REFUSED')),
  -- Of the receiver that it was laid out by; 0 while it was not.
  revision int not null default 0,
  records int not null default 0,
  rows int not null default 0,
  -- What does not fit, or why it was refused.
  problem text not null default ''
);
create index received_call_latest on received_call (receiver_id, id);
create index received_call_waiting on received_call (receiver_id, revision, id) where verdict <> 'REFUSED';
create index received_call_held on received_call (receiver_id) where verdict = 'HELD';

-- Events that are known, so that the same one twice is one.
create table received_event (
  receiver_id bigint not null references receiver,
  revision int not null,
  event text not null,
  call_id bigint not null references received_call on delete cascade,
  primary key (receiver_id, revision, event)
);
create index received_event_call on received_event (call_id);
