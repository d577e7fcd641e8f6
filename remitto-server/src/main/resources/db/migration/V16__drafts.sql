-- What somebody was editing and has not saved. Text, not jsonb: the order of names is part of what editors compare.
create table draft (
  user_id bigint not null references app_user,
  kind text not null check (kind in ('ROUTE', 'DATASET', 'AUDIENCE', 'CROSSWALK', 'PROFILE', 'MATCH_RULES', 'FILE_LAYOUT', 'MEASURE')),
  subject text not null check (length(subject) between 1 and 200),
  title text not null check (length(title) <= 300),
  based_on int not null check (based_on >= 0),
  content text not null,
  saved_at timestamptz not null,
  primary key (user_id, kind, subject)
);
