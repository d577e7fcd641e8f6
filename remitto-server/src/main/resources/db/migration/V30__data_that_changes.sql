-- What was seen of datasets that something waits for a change of.
create table dataset_probe (
  dataset_id bigint primary key references dataset,
  -- How a change is told; blank before the first look.
  means text not null default '' check (means in ('', 'COUNTERS', 'NEWEST_AND_COUNT', 'COUNT')),
  -- What was seen, which is the same while nothing changed.
  mark text not null default '',
  -- When somebody last began to look, so that one server does.
  looked_at timestamptz,
  -- How long the last look took.
  millis bigint not null default 0,
  -- When a change was last seen, and what waits for it was begun.
  changed_at timestamptz,
  -- Why the last look failed; blank if it went well.
  problem text not null default ''
);
