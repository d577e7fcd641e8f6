-- What was told of runs to whoever collects lineage. Nothing is told of what began before that was first asked for.
create table lineage_since (
  one boolean primary key default true check (one),
  since timestamptz not null
);
create table lineage_event (
  what text not null check (what in ('RUN', 'MATCHING')),
  subject bigint not null,
  phase text not null check (phase in ('BEGIN', 'END')),
  told_at timestamptz not null,
  primary key (what, subject, phase)
);
