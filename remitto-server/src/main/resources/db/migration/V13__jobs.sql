-- Work that somebody asked for and waits for: its progress, and its result for an hour.
create table job (
  id bigint generated always as identity primary key,
  asked_by text not null,
  asked_at timestamptz not null default now(),
  beat_at timestamptz not null default now(),
  looked_at timestamptz not null default now(),
  state text not null check (state in ('UNDER_WAY', 'DONE', 'FAILED', 'CANCELLED')),
  doing text not null default '',
  rows_done bigint not null default 0,
  result jsonb,
  problem text not null default ''
);
create index job_by_age on job (asked_at);
