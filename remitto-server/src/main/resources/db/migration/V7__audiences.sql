-- Tables whose columns follow what people define live in a schema of their own.
create schema audience;

-- Records that events are of, and whose they are; joining people rewrites this and no event.
create table audience.record (
  record_no bigint generated always as identity primary key,
  dataset_id bigint not null,
  key text not null,
  person_id bigint,
  unique (dataset_id, key)
);
create index record_person on audience.record (person_id);

-- Records whose events changed since measures were worked out; of a set all of whose events did, there is one row without.
create table audience.touched (
  set_id bigint not null,
  record_no bigint
);
create index touched_set on audience.touched (set_id);

-- Datasets whose rows are events of people or companies.
create table event_set (
  id bigint generated always as identity primary key,
  name text not null unique,
  dataset_id bigint not null references dataset,
  -- The dataset whose key a column of the events holds.
  person_dataset bigint not null references dataset,
  person_column text not null,
  time_column text not null,
  columns jsonb not null,
  overlap_days int not null,
  rows bigint not null default 0,
  -- Rows without a key or a time, which are no events.
  without_key bigint not null default 0,
  without_time bigint not null default 0,
  -- Events whose record belongs to nobody yet.
  unlinked bigint not null default 0,
  newest_at timestamptz,
  read_at timestamptz,
  problem text not null default '',
  saved_by text not null,
  saved_at timestamptz not null
);

-- Values worked out over people's events.
create table measure (
  id bigint generated always as identity primary key,
  name text not null unique,
  about text not null,
  definition jsonb not null,
  people bigint not null default 0,
  refreshed_at timestamptz,
  millis bigint not null default 0,
  problem text not null default '',
  saved_by text not null,
  saved_at timestamptz not null
);

create table audience (
  id bigint generated always as identity primary key,
  name text not null unique,
  description text not null,
  about text not null,
  latest_version int not null,
  live_version int,
  -- Whether a route that sends it counts it before it draws up its manifest.
  count_first boolean not null default true,
  created_at timestamptz not null
);
create table audience_version (
  audience_id bigint not null references audience,
  number int not null,
  definition jsonb not null,
  author text not null,
  saved_at timestamptz not null,
  note text not null,
  primary key (audience_id, number)
);
create table audience_count (
  id bigint generated always as identity primary key,
  audience_id bigint not null references audience,
  version int not null,
  counted_at timestamptz not null,
  started_by text not null,
  members bigint not null default 0,
  held_out bigint not null default 0,
  joined bigint not null default 0,
  gone bigint not null default 0,
  millis bigint not null default 0,
  problem text not null default ''
);
create index audience_count_of on audience_count (audience_id, id desc);
-- Who was in it, from one count until another.
create table audience_member (
  audience_id bigint not null,
  person_id bigint not null,
  held_out boolean not null,
  since bigint not null,
  until bigint
);
create unique index audience_member_now on audience_member (audience_id, person_id) where until is null;
create index audience_member_person on audience_member (person_id);

create view audience.member as
  select audience_id, person_id from public.audience_member where until is null and not held_out;

-- The answer that counts, of all that a person said.
create table consent_answer (
  person_id bigint not null,
  purpose text not null,
  channel text not null,
  answer text not null check (answer in ('YES', 'NO')),
  said_at timestamptz,
  expires_at timestamptz,
  reason text not null,
  primary key (person_id, purpose, channel)
);

-- Everything that was said of a consent besides what people's records say: by a person or by an address.
create table consent_record (
  id bigint generated always as identity primary key,
  purpose text not null,
  channel text not null,
  answer text not null check (answer in ('YES', 'NO')),
  person_id bigint,
  address_hash text,
  said_at timestamptz not null,
  expires_at timestamptz,
  evidence text not null,
  -- Where it is from: HAND or DESTINATION, with its name.
  origin text not null,
  origin_name text not null,
  recorded_at timestamptz not null,
  check (person_id is not null or address_hash is not null)
);
create index consent_record_person on consent_record (person_id) where person_id is not null;
create index consent_record_address on consent_record (address_hash) where address_hash is not null;

-- Destinations where people say themselves what they agree to, and to what.
create table consent_feed (
  destination_id bigint primary key references destination,
  purpose text not null,
  channel text not null,
  read_at timestamptz,
  people bigint not null default 0,
  problem text not null default ''
);

-- What a consent attribute of people's records is about.
create table consent_meaning (
  attribute text primary key,
  purpose text not null,
  channel text not null
);

-- SHA-256 of every tidied address of a person's records, in hexadecimal.
create table person_address (
  person_id bigint not null,
  kind text not null,
  hash text not null,
  primary key (person_id, hash)
);
create index person_address_hash on person_address (hash);

-- Addresses that nothing is sent to, whatever anybody agreed to.
create table suppression (
  hash text primary key,
  reason text not null,
  added_by text not null,
  added_at timestamptz not null
);

-- When events are read and audiences counted anew.
create table audience_setting (
  single boolean primary key default true check (single),
  schedule jsonb not null,
  next_run timestamptz,
  -- One of how many people is in the sample; 0 while there is none, since everybody is counted.
  one_of int not null default 0,
  people bigint not null default 0,
  -- The latest time all of it was done, and by whom.
  run_by text not null default '',
  started_at timestamptz,
  beat_at timestamptz,
  finished_at timestamptz,
  stage text not null default '',
  problem text not null default ''
);
insert into audience_setting (schedule) values ('{"kind": "by-hand", "zone": "Europe/Oslo"}');

-- Datasets that carry the people of an audience.
alter table dataset add column audience_id bigint references audience;

-- What routes did with persons, whether they sent them as they are joined or as records of a source.
create view audience.sent as
  select r.id as route_id, e.source_key::bigint as person_id,
    'SENT' as state
  from route r
  join dataset d on d.id = r.dataset_id
  join source o on o.id = d.source_id and o.kind = 'people'
  join route_record e on e.route_id = r.id and e.source_key ~ '^\d{1,18}$'
  join record_state s on s.route_id = r.id and s.ordinal = e.ordinal
  where s.record_id is not null
  union
  select r.id, i.person_id, 'SENT'
  from route r
  join route_record e on e.route_id = r.id
  join record_state s on s.route_id = r.id and s.ordinal = e.ordinal and s.record_id is not null
  join identity_record i on i.dataset_id = r.dataset_id and i.key = e.source_key
  union
  select h.route_id, h.source_key::bigint, 'HELD'
  from held h
  join route r on r.id = h.route_id
  join dataset d on d.id = r.dataset_id
  join source o on o.id = d.source_id and o.kind = 'people'
  where h.source_key ~ '^\d{1,18}$'
  union
  select h.route_id, i.person_id, 'HELD'
  from held h
  join route r on r.id = h.route_id
  join identity_record i on i.dataset_id = r.dataset_id and i.key = h.source_key;
