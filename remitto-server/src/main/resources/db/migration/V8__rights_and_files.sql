-- What people may ask for: to be forgotten, with a receipt of it.
create table erasure_key (
  single boolean primary key default true check (single),
  sealed bytea not null
);

create table erasure (
  id bigint generated always as identity primary key,
  -- The request that asks for it, as whoever asks here names it. No name of a person.
  reference text not null,
  asked_by text not null,
  asked_at timestamptz not null,
  -- Empty once everything here is forgotten.
  person_id bigint,
  beat_at timestamptz,
  forgotten_at timestamptz,
  finished_at timestamptz,
  -- What was forgotten here, by kind of data, and where rows of the person came from.
  counts jsonb not null default '{}',
  sources jsonb not null default '{}',
  -- Why it does not go on, as far as it is known.
  waits_for text not null default '',
  -- Why the marks were taken away again, if they were.
  let_back_in text not null default ''
);

create table erasure_removal (
  erasure_id bigint not null references erasure,
  number int not null,
  destination_id bigint not null,
  destination text not null,
  object text not null,
  -- Kept only until it is removed there.
  remote_id text not null,
  state text not null check (state in ('PENDING', 'REMOVED', 'NOT_THERE', 'BY_HAND', 'DONE_BY_HAND')),
  answer text not null default '',
  at timestamptz,
  primary key (erasure_id, number)
);

create table erased_mark (
  mark text primary key,
  erasure_id bigint not null references erasure
);

-- Files that a destination takes: what they hold and how they are spelled, and those that were delivered.
create table file_layout (
  destination_id bigint not null references destination,
  name text not null,
  definition jsonb not null,
  saved_by text not null,
  saved_at timestamptz not null,
  primary key (destination_id, name)
);

create table file_delivery (
  run_id bigint not null references run,
  number int not null,
  call_no int not null,
  path text not null,
  rows bigint not null,
  bytes bigint not null,
  sha256 text not null,
  delivered_at timestamptz not null,
  primary key (run_id, number)
);

-- How often a person is written to.
create table quiet_days (
  single boolean primary key default true check (single),
  most int not null,
  days int not null
);
create table message_route (
  route_id bigint primary key references route
);
create table person_message (
  person_id bigint not null,
  route_id bigint not null,
  run_id bigint not null,
  at timestamptz not null
);
create index person_message_person on person_message (person_id, at);

-- Datasets that say by address what somebody agreed to.
create table consent_dataset (
  dataset_id bigint primary key references dataset,
  definition jsonb not null,
  read_at timestamptz,
  answers bigint not null default 0,
  -- Rows that say nothing that can be used, by why.
  unusable jsonb not null default '{}',
  problem text not null default ''
);
create index consent_record_origin on consent_record (origin);

-- Events as a dataset of their own, to look up in.
alter table dataset add column event_set_id bigint references event_set;
