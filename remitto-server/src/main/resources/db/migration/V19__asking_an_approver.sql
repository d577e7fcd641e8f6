-- Whoever may not approve asks somebody who may, about a manifest or a version of a route.
create table approval_request (
  id bigint generated always as identity primary key,
  run_id bigint references run,
  route_id bigint references route,
  version int,
  note text not null,
  asked_by text not null,
  asked_at timestamptz not null,
  check ((run_id is null) <> (route_id is null)),
  check ((route_id is null) = (version is null)),
  unique (run_id),
  unique (route_id, version)
);
