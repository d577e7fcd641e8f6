-- Names that say what they hold in the terms of the field; nothing is computed anew.

drop index run_one_at_a_time;
drop index run_unsettled;
alter table run drop constraint run_state_check;
update run set state = case state
    when 'DRAWING' then 'PREPARING'
    when 'DRAWN' then 'READY'
    when 'STOPPED' then 'AWAITING_APPROVAL'
    else 'SUSPENDED'
  end
where state in ('DRAWING', 'DRAWN', 'STOPPED', 'HALTED');
alter table run add constraint run_state_check check (state in ('PREPARING', 'READY', 'AWAITING_APPROVAL', 'SENDING', 'SENT',
  'SUSPENDED', 'DISCARDED', 'CANCELLED', 'INTERRUPTED', 'FAILED', 'SKIPPED'));
-- Runs of one route never overlap, whatever process starts them.
create unique index run_one_at_a_time on run (route_id) where state in ('PREPARING', 'SENDING');
-- Runs that may wait for somebody are few among all there ever were.
create index run_unsettled on run (route_id, trigger, id desc)
  where state in ('AWAITING_APPROVAL', 'SUSPENDED', 'INTERRUPTED', 'FAILED');
-- Why it was suspended, when it was: FAULT, CIRCUIT, PAUSED, WAVE.
alter table run rename column halt to suspension;
-- What somebody asked of the process that works on it: CANCEL, PAUSE.
alter table run rename column wish to request;
alter table run rename column drawn_at to prepared_at;

alter table pace rename to rate_limit;

alter table record_state rename column stance to state;
alter table record_state rename column stance_reason to state_reason;

alter table identity_record rename column tidied to normalised;

alter table pinned_example rename to golden_example;
alter table golden_example rename column pinned_by to added_by;
alter table golden_example rename column pinned_at to added_at;
alter index pinned_example_of_route rename to golden_example_of_route;
