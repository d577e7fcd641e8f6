-- Rows of files: tables behind views. Datasets are read from the views of the schema landed, by the login that reads people.
create schema landing;
create schema landed;

create table file_set (
  id bigint generated always as identity primary key,
  source_id bigint not null references source,
  name text not null unique,
  -- The view that its rows are read from; it stays, since queries name it.
  table_name text not null unique check (octet_length(table_name) between 1 and 63),
  definition jsonb not null,
  revision int not null,
  -- The revision whose table the view shows; less than the latest while files are read again.
  shown_revision int not null,
  author text not null,
  saved_at timestamptz not null,
  paused boolean not null default false,
  looked_at timestamptz,
  problem text not null default '',
  created_at timestamptz not null,
  archived_at timestamptz
);

-- What is known of each file by its path.
create table landed_file (
  id bigint generated always as identity primary key,
  file_set_id bigint not null references file_set,
  path text not null,
  size bigint not null,
  modified_at timestamptz not null,
  tag text not null,
  sha256 text not null default '',
  state text not null check (state in ('SEEN', 'READ', 'FAILED', 'SUPERSEDED')),
  -- Of the file set that it was read or failed by; 0 while it was only seen.
  revision int not null,
  seen_at timestamptz not null,
  read_at timestamptz,
  rows bigint not null default 0,
  held bigint not null default 0,
  -- Why it failed, or what else is to be said of it.
  problem text not null default '',
  unique (file_set_id, path)
);

create table held_file_row (
  file_id bigint not null references landed_file on delete cascade,
  line bigint not null,
  problem text not null,
  content text not null,
  primary key (file_id, line)
);
