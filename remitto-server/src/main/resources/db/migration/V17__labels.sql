-- Whose something is, and what it is tagged with, so that long lists can be worked with. It decides nothing.
create table label (
  kind text not null check (kind in ('SOURCE', 'DATASET', 'CROSSWALK', 'AUDIENCE', 'ROUTE', 'DESTINATION')),
  thing_id bigint not null,
  owner_id bigint references app_user,
  tags text[] not null default '{}',
  primary key (kind, thing_id)
);
