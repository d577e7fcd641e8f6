-- Times are always given by the application's clock; nothing here defaults to the current time.

create table app_user (
  id bigint generated always as identity primary key,
  email text not null unique,
  name text not null,
  role text not null check (role in ('VIEWER', 'EDITOR', 'APPROVER', 'ADMIN')),
  password_hash text not null,
  created_at timestamptz not null
);

create table journal (
  id bigint generated always as identity primary key,
  at timestamptz not null,
  actor text not null,
  action text not null,
  subject_kind text not null,
  subject_id bigint not null,
  subject text not null,
  detail text not null
);
create function journal_is_append_only() returns trigger language plpgsql as $$
begin
  raise exception 'the journal is append-only';
end $$;
create trigger journal_append_only before update or delete on journal
  for each row execute function journal_is_append_only();

create table source (
  id bigint generated always as identity primary key,
  name text not null unique,
  kind text not null,
  settings jsonb not null,
  secret bytea not null,
  created_at timestamptz not null,
  report jsonb,
  tested_at timestamptz,
  test_problem text
);

create table dataset (
  id bigint generated always as identity primary key,
  name text not null unique,
  description text not null,
  source_id bigint not null references source,
  latest_version int not null,
  live_version int,
  created_at timestamptz not null,
  newest_row_at timestamptz,
  row_count bigint,
  seen_at timestamptz
);
create table dataset_version (
  dataset_id bigint not null references dataset,
  number int not null,
  definition jsonb not null,
  author text not null,
  saved_at timestamptz not null,
  note text not null,
  primary key (dataset_id, number)
);

create table profile_version (
  profile text not null,
  number int not null,
  title text not null,
  body text not null,
  saved_at timestamptz not null,
  primary key (profile, number)
);

create table destination (
  id bigint generated always as identity primary key,
  name text not null unique,
  profile text not null,
  profile_version int not null,
  settings jsonb not null,
  secret bytea not null,
  limits_off boolean not null,
  created_at timestamptz not null,
  tested_at timestamptz,
  test_result text,
  test_problem text,
  foreign key (profile, profile_version) references profile_version
);
create table destination_object (
  destination_id bigint not null references destination,
  object text not null,
  title text not null,
  people boolean not null,
  description jsonb,
  fingerprint bigint,
  described_at timestamptz,
  primary key (destination_id, object)
);
-- One row a destination: the moment from which the next call may be made, shared by every route and process.
create table pace (
  destination_id bigint primary key references destination,
  next_at timestamptz not null
);

create table route (
  id bigint generated always as identity primary key,
  name text not null unique,
  dataset_id bigint not null references dataset,
  destination_id bigint not null references destination,
  object text not null,
  latest_version int not null,
  live_version int,
  paused boolean not null,
  next_departure timestamptz,
  created_at timestamptz not null
);
create table route_version (
  route_id bigint not null references route,
  number int not null,
  definition jsonb not null,
  author text not null,
  saved_at timestamptz not null,
  note text not null,
  primary key (route_id, number)
);

create table run (
  id bigint generated always as identity primary key,
  route_id bigint not null references route,
  trigger text not null check (trigger in ('HAND', 'TIMETABLE', 'TRIAL', 'RETRY', 'UNDO')),
  state text not null check (state in ('DRAWING', 'DRAWN', 'STOPPED', 'SENDING', 'SENT', 'HALTED', 'DISCARDED',
    'CANCELLED', 'INTERRUPTED', 'FAILED', 'SKIPPED')),
  route_version int not null,
  dataset_version int not null,
  profile_version int not null,
  object_fingerprint bigint not null,
  started_by text not null,
  started_at timestamptz not null,
  drawn_at timestamptz,
  approved_by text,
  sent_at timestamptz,
  finished_at timestamptz,
  read_count bigint not null default 0,
  added bigint not null default 0,
  changed bigint not null default 0,
  removed bigint not null default 0,
  unchanged bigint not null default 0,
  held bigint not null default 0,
  left_out bigint not null default 0,
  leaving bigint not null default 0,
  known_before bigint not null default 0,
  missing_rows bigint not null default 0,
  adopted bigint not null default 0,
  field_counts jsonb not null default '{}',
  unchanged_ordinals bytea,
  left_out_ordinals bytea,
  undo_of bigint references run,
  -- Why it halted, when it did: FAULT, CIRCUIT, PAUSED, WAVE.
  halt text not null default '',
  -- What somebody asked of the process that works on it: CANCEL, PAUSE.
  wish text not null default '',
  wave_passed boolean not null default false,
  message text not null default '',
  owner text not null,
  epoch int not null,
  beat_at timestamptz not null
);
create index run_of_route on run (route_id, id desc);
-- Runs of one route never overlap, whatever process starts them.
create unique index run_one_at_a_time on run (route_id) where state in ('DRAWING', 'SENDING');

-- The records of a route's dataset: who they are. Never changes once a record was met.
create table route_record (
  route_id bigint not null references route,
  ordinal int not null,
  key_high bigint not null,
  key_low bigint not null,
  source_key text not null,
  label text not null,
  primary key (route_id, ordinal),
  unique (route_id, key_high, key_low)
);

-- How they stand: what each is bound to there, and the input that was dealt with. A record that was only met has none.
create table record_state (
  route_id bigint not null,
  ordinal int not null,
  record_id bigint,
  input_fingerprint bigint not null,
  sent_fingerprint bigint not null,
  stance smallint not null,
  stance_reason text not null,
  primary key (route_id, ordinal)
) with (fillfactor = 80);
create unique index record_state_binding on record_state (record_id, route_id) where record_id is not null;

-- What a destination acknowledged, per record and field. Whoever made the record wrote its fields, but for those that
-- have a writer of their own: [route, run, line], and after an undo also the value taken back and the rule that gave it.
create table destination_record (
  id bigint generated always as identity primary key,
  destination_id bigint not null references destination,
  object text not null,
  remote_id text not null,
  fields jsonb not null,
  route_id bigint not null,
  run_id bigint not null,
  line int not null,
  writers jsonb not null default '{}',
  unique (destination_id, object, remote_id)
);

-- The writers of some fields: the same for each.
create function jsonb_writers(fields jsonb, route bigint, run bigint, line int) returns jsonb language sql immutable as $$
  select coalesce(jsonb_object_agg(name, jsonb_build_array(route, run, line)), '{}') from jsonb_object_keys(fields) as name
$$;

-- What a run intends. A line never changes once the manifest is drawn up.
create table manifest_line (
  run_id bigint not null,
  line int not null,
  ordinal int not null,
  source_key text not null,
  label text not null,
  verdict text not null,
  code text not null,
  reason text not null,
  remote_id text not null,
  fields jsonb not null,
  input_fingerprint bigint not null,
  sent_fingerprint bigint not null,
  there_read_at timestamptz,
  primary key (run_id, line)
) partition by range (run_id);
create index manifest_line_verdict on manifest_line (run_id, verdict, line);

-- What came of a line. A line that goes and has none is still planned, unless a call that carries it is open.
create table line_outcome (
  run_id bigint not null,
  line int not null,
  state text not null,
  remote_id text not null,
  answer text not null,
  answered_at timestamptz not null,
  primary key (run_id, line)
) partition by range (run_id);

-- Calls that were written down before they were made and whose outcome is not written down yet.
create table open_call (
  run_id bigint not null references run,
  call_no int not null,
  epoch int not null,
  verdict text not null,
  lines int[] not null,
  opened_at timestamptz not null,
  primary key (run_id, call_no)
);

create table held (
  id bigint generated always as identity primary key,
  route_id bigint not null references route,
  source_key text not null,
  label text not null,
  field text not null,
  code text not null,
  reason text not null,
  by_destination boolean not null,
  detail jsonb not null,
  run_id bigint not null,
  line int not null,
  first_seen timestamptz not null,
  last_seen timestamptz not null,
  tries int not null,
  unique (route_id, source_key, field, code)
);

create table circuit (
  destination_id bigint primary key references destination,
  failures int not null,
  openings int not null,
  open_since timestamptz,
  try_at timestamptz,
  reason text not null
);

-- What a destination describes differently than before.
create table schema_change (
  id bigint generated always as identity primary key,
  destination_id bigint not null references destination,
  object text not null,
  kind text not null,
  field text not null,
  value text not null,
  text text not null,
  affected bigint not null,
  noticed_at timestamptz not null,
  seen_by text not null default ''
);
create index schema_change_of_object on schema_change (destination_id, object, noticed_at);

create table stocktake (
  id bigint generated always as identity primary key,
  destination_id bigint not null references destination,
  object text not null,
  state text not null check (state in ('COUNTING', 'DONE', 'FAILED', 'INTERRUPTED')),
  started_by text not null,
  started_at timestamptz not null,
  beat_at timestamptz not null,
  finished_at timestamptz,
  there bigint not null default 0,
  known bigint not null default 0,
  counts jsonb not null default '{}',
  fill jsonb not null default '{}',
  message text not null default ''
);
create table stocktake_seen (
  stocktake_id bigint not null references stocktake,
  remote_id text not null,
  primary key (stocktake_id, remote_id)
);
create table stocktake_alike (
  stocktake_id bigint not null references stocktake,
  field text not null,
  value text not null,
  remote_id text not null
);
create index stocktake_alike_value on stocktake_alike (stocktake_id, field, value);
create table stocktake_finding (
  stocktake_id bigint not null references stocktake,
  number int not null,
  kind text not null,
  remote_id text not null,
  field text not null,
  known jsonb,
  there jsonb,
  route_id bigint,
  source_key text not null,
  label text not null,
  settled text not null default '',
  primary key (stocktake_id, number)
);
create index stocktake_finding_kind on stocktake_finding (stocktake_id, kind, number);

create table test_record (
  id bigint generated always as identity primary key,
  route_id bigint not null references route,
  destination_id bigint not null references destination,
  object text not null,
  remote_id text not null,
  source_key text not null,
  made_by text not null,
  made_at timestamptz not null,
  removed_at timestamptz
);

-- Table of the scheduler library (db-scheduler 16).
create table scheduled_tasks (
  task_name text not null,
  task_instance text not null,
  task_data bytea,
  execution_time timestamp with time zone,
  picked boolean not null,
  picked_by text,
  last_success timestamp with time zone,
  last_failure timestamp with time zone,
  consecutive_failures int,
  last_heartbeat timestamp with time zone,
  version bigint not null,
  priority smallint,
  state text,
  primary key (task_name, task_instance)
);
create index scheduled_tasks_execution_time on scheduled_tasks (execution_time);
create index scheduled_tasks_last_heartbeat on scheduled_tasks (last_heartbeat);
create index scheduled_tasks_priority_execution_time on scheduled_tasks (priority desc, execution_time asc);
