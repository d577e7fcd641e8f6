-- Which version of each profile is in service; one that is saved is not thereby switched on.
create table profile (
  profile text primary key,
  latest_version int not null,
  live_version int
);
insert into profile (profile, latest_version, live_version)
  select profile, max(number), max(number) from profile_version group by profile;
alter table profile_version add column author text not null default 'Remitto';
alter table profile_version alter column author drop default;
alter table profile_version add column note text not null default '';
alter table profile_version alter column note drop default;
alter table profile_version add foreign key (profile) references profile;

-- The way to sign in that was chosen, and a number that goes up whenever the connection is another.
alter table destination add column sign_in text not null default '';
alter table destination alter column sign_in drop default;
alter table destination add column revision int not null default 1;

-- What a person allowed by signing in at the tool.
create table destination_grant (
  destination_id bigint primary key references destination,
  sealed bytea not null,
  revision int not null,
  signed_in_by text not null,
  signed_in_at timestamptz not null,
  renewed_at timestamptz,
  renewing_until timestamptz
);

-- Sign-ins that were begun here and have not come back from the tool.
create table sign_in_attempt (
  state_hash text primary key,
  destination_id bigint not null references destination,
  sealed bytea not null,
  back text not null,
  asked_by text not null,
  asked_at timestamptz not null
);

-- Prerequisites that a person says are met, where no call can tell.
create table prerequisite_tick (
  destination_id bigint not null references destination,
  name text not null,
  ticked_by text not null,
  ticked_at timestamptz not null,
  primary key (destination_id, name)
);

-- Fields that several routes write in turn: a route later in the order leaves alone what an earlier one wrote.
create table field_order (
  destination_id bigint not null references destination,
  object text not null,
  field text not null,
  place int not null,
  route_id bigint not null references route,
  set_by text not null,
  set_at timestamptz not null,
  primary key (destination_id, object, field, route_id)
);

-- The steps of values that rules found beyond the row, since what they found may be another later.
alter table manifest_line add column beyond jsonb not null default '{}';
