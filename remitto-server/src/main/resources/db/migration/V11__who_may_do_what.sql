-- Users: names are unique whatever their case, an account can be switched off, and rights are given by role or by user.
update app_user u set name = u.name || ' ' || u.id
where exists (select 1 from app_user o where lower(o.name) = lower(u.name) and o.id < u.id);
create unique index app_user_name on app_user (lower(name));
alter table app_user add column active boolean not null default true;

create table role_right (
  role text not null check (role in ('VIEWER', 'EDITOR', 'APPROVER', 'ADMIN')),
  may text not null,
  primary key (role, may)
);
insert into role_right (role, may)
select role, may from unnest(array['EDITOR', 'APPROVER', 'ADMIN']) as role,
  unnest(array['SEE_PERSONAL_VALUES', 'DOWNLOAD_PERSONAL_VALUES']) as may;

-- What a user may do beyond the role, or may not do although the role may.
create table user_right (
  user_id bigint not null references app_user,
  may text not null,
  granted boolean not null,
  primary key (user_id, may)
);

-- Failed sign-ins: by account and address, by account, and by address; a subject is a hash of what was tried.
create table sign_in_failure (
  subject text primary key,
  failures int not null,
  last_at timestamptz not null,
  locked_until timestamptz
);

-- Sessions, as the session library keeps them.
create table spring_session (
  primary_id char(36) not null primary key,
  session_id char(36) not null unique,
  creation_time bigint not null,
  last_access_time bigint not null,
  max_inactive_interval int not null,
  expiry_time bigint not null,
  principal_name varchar(100)
);
create index spring_session_expiry on spring_session (expiry_time);
create index spring_session_principal on spring_session (principal_name);
create table spring_session_attributes (
  session_primary_id char(36) not null references spring_session (primary_id) on delete cascade,
  attribute_name varchar(200) not null,
  attribute_bytes bytea not null,
  primary key (session_primary_id, attribute_name)
);

-- Who acted is the user's id from now on; names can change. What was written by name is read as the user of that name.
-- The journal keeps the name as it was, with the id beside it.
alter table journal add column actor_id bigint;
do $$
declare
  place record;
begin
  for place in
    select * from (values
      ('dataset_version', 'author'), ('route_version', 'author'), ('run', 'started_by'), ('run', 'approved_by'),
      ('schema_change', 'seen_by'), ('stocktake', 'started_by'), ('test_record', 'made_by'),
      ('crosswalk_version', 'author'), ('hash_key', 'made_by'), ('field_owner', 'set_by'), ('pinned_example', 'pinned_by'),
      ('profile_version', 'author'), ('destination_grant', 'signed_in_by'), ('sign_in_attempt', 'asked_by'),
      ('prerequisite_tick', 'ticked_by'), ('field_order', 'set_by'), ('identity_source', 'saved_by'),
      ('identity_run', 'started_by'), ('identity_run', 'decided_by'), ('identity_pin', 'decided_by'),
      ('identity_rules', 'author'), ('identity_setting', 'put_by'), ('identity_setting', 'judged_by'),
      ('event_set', 'saved_by'), ('measure', 'saved_by'), ('audience_version', 'author'), ('audience_count', 'started_by'),
      ('suppression', 'added_by'), ('audience_setting', 'run_by'), ('erasure', 'asked_by'), ('file_layout', 'saved_by')
    ) as places (tab, col)
  loop
    execute format('update %I t set %I = u.id::text from app_user u where u.name = t.%I', place.tab, place.col, place.col);
  end loop;
end $$;

-- A login that may do more than read is used only where an administrator accepted it. What is archived stays for history.
alter table source
  add column login_accepted_by text,
  add column login_accepted_at timestamptz,
  add column login_accepted_reason text,
  add column archived_at timestamptz;

-- Origins that an administrator let data go to. Null for a destination from before: what it has now is let in at its first use.
alter table destination
  add column let_in text[],
  add column archived_at timestamptz;

-- Who changed the guards of matching last, and what was changed about a part since a manifest was approved, are found by these.
alter table identity_setting add column guards_by text not null default '';
create index journal_of_subject on journal (subject_kind, subject_id, at);

-- Who let pass what a guard stopped; unlike approved_by, which names whoever sent.
alter table run add column stop_approved_by text;
alter table identity_run add column approved boolean not null default false;

-- Archived: gone from lists and out of service; versions, manifests and the journal go on naming it.
alter table dataset add column archived_at timestamptz;
alter table route add column archived_at timestamptz;
alter table crosswalk add column archived_at timestamptz;
alter table profile add column archived_at timestamptz;
