-- How somebody wants things shown to them. Without a row, or without a zone, the browser decides.
create table user_setting (
  user_id bigint primary key references app_user,
  zone text,
  theme text not null check (theme in ('SYSTEM', 'LIGHT', 'DARK'))
);

-- Runs that may wait for somebody are few among all there ever were.
create index run_unsettled on run (route_id, trigger, id desc) where state in ('STOPPED', 'HALTED', 'INTERRUPTED', 'FAILED');
