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
