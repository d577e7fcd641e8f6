-- Finds people by a part of a name, an address or an id.
create extension if not exists pg_trgm;

-- Datasets that describe people, and what their columns say of them.
create table identity_source (
  dataset_id bigint primary key references dataset,
  place int not null,
  columns jsonb not null,
  country text not null,
  country_column text not null,
  saved_by text not null,
  saved_at timestamptz not null
);

create table identity_run (
  id bigint generated always as identity primary key,
  started_at timestamptz not null,
  started_by text not null,
  beat_at timestamptz not null,
  finished_at timestamptz,
  problem text not null default '',
  summary jsonb
);
-- One at a time.
create unique index identity_run_open on identity_run ((true)) where finished_at is null;

create table person (
  id bigint primary key,
  label text not null,
  records int not null,
  kept jsonb not null
);

-- Ids that are no person's any more, and whose they became.
create table retired_person (
  id bigint primary key,
  into_id bigint not null,
  run_id bigint not null
);

create table identity_record (
  dataset_id bigint not null,
  key text not null,
  person_id bigint not null,
  cells jsonb not null,
  search text not null,
  primary key (dataset_id, key)
);
create index identity_record_person on identity_record (person_id);
create index identity_record_key on identity_record (key);
create index identity_record_search on identity_record using gin (search gin_trgm_ops);

-- Pairs that may be one person. A blank reason: followed, or not strong enough to be.
create table identity_link (
  one_dataset bigint not null,
  one_key text not null,
  other_dataset bigint not null,
  other_key text not null,
  person_id bigint not null,
  other_person_id bigint not null,
  weight real not null,
  used boolean not null,
  reason text not null,
  ledger jsonb not null
);
create index identity_link_person on identity_link (person_id);
create index identity_link_other_person on identity_link (other_person_id);
create index identity_link_review on identity_link (weight desc) where not used;

-- What people decided about pairs; the latest decision about a pair counts.
create table identity_pin (
  id bigint generated always as identity primary key,
  one_dataset bigint not null,
  one_key text not null,
  other_dataset bigint not null,
  other_key text not null,
  together boolean not null,
  reason text not null,
  decided_by text not null,
  decided_at timestamptz not null
);
