-- Datasets that were read from end to end, and what their columns held.
create table dataset_read (
  id bigint generated always as identity primary key,
  dataset_id bigint not null references dataset on delete cascade,
  -- Version of the dataset that was read.
  version integer not null,
  read_at timestamptz not null,
  -- What it was read for, and the name of the route where it was one.
  reader text not null check (reader in ('ROUTE', 'MATCHING', 'CHECK')),
  reader_name text not null default '',
  rows bigint not null,
  -- What the columns held; absent where they were profiled less than an hour before.
  profile jsonb,
  -- Whether each expectation was met.
  findings jsonb not null
);
create index dataset_read_of_dataset on dataset_read (dataset_id, id desc);

-- Expectations that the last read, or the last count of rows, did not meet.
create table broken_expectation (
  dataset_id bigint not null references dataset on delete cascade,
  -- In words.
  expectation text not null,
  response text not null check (response in ('TELL', 'HOLD_ROWS', 'STOP_ROUTES')),
  since timestamptz not null,
  rows bigint not null,
  detail text not null,
  primary key (dataset_id, expectation)
);

-- Reads whose only purpose is to check a dataset.
create table dataset_check (
  dataset_id bigint primary key references dataset on delete cascade,
  -- Whether somebody asked for one that has not begun.
  asked boolean not null default false,
  -- When the one that is under way began, so that one server does it; absent while none is.
  begun_at timestamptz,
  -- When the last one began, whatever came of it.
  tried_at timestamptz,
  -- When rows were last counted.
  counted_at timestamptz,
  -- Why the last one failed; blank if it went well.
  problem text not null default ''
);

-- What arrived, the newest first, whatever it came by.
create index received_call_at on received_call (received_at desc, id desc);
create index landed_file_at on landed_file (coalesce(read_at, seen_at) desc, id desc);
create index dataset_read_at on dataset_read (read_at desc, id desc);
