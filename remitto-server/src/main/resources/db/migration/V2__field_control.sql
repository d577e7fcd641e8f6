-- When a record is looked at again though its input is as it was, since a value of it waits for its time.
alter table record_state add column recheck_at timestamptz;
-- By field, the fingerprint at its last write of the column whose change lets it be written.
alter table destination_record add column marks jsonb not null default '{}';

create table crosswalk (
  id bigint generated always as identity primary key,
  name text not null unique,
  description text not null,
  latest_version int not null,
  live_version int,
  created_at timestamptz not null
);
create table crosswalk_version (
  crosswalk_id bigint not null references crosswalk,
  number int not null,
  entries jsonb not null,
  author text not null,
  saved_at timestamptz not null,
  note text not null,
  primary key (crosswalk_id, number)
);

-- Keys of keyed hashes, sealed; they go to the hash and nowhere else.
create table hash_key (
  name text primary key,
  sealed bytea not null,
  made_by text not null,
  made_at timestamptz not null
);

-- Who wrote what there, as the tool tells: by client and field how many values are theirs, and when the newest was written.
alter table stocktake add column writers jsonb not null default '{}';

-- The cells that the rules of a line read, so that a value can be explained by what it was made of.
alter table manifest_line add column inputs jsonb not null default '{}';

-- Fields that several routes could write, and the one that does.
create table field_owner (
  destination_id bigint not null references destination,
  object text not null,
  field text not null,
  route_id bigint not null references route,
  set_by text not null,
  set_at timestamptz not null,
  primary key (destination_id, object, field)
);

-- Records with the values that a route's rules must give them.
create table pinned_example (
  id bigint generated always as identity primary key,
  route_id bigint not null references route,
  name text not null,
  cells jsonb not null,
  expected jsonb not null,
  pinned_by text not null,
  pinned_at timestamptz not null
);
create index pinned_example_of_route on pinned_example (route_id, id);
