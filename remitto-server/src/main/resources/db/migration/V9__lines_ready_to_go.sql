-- What a line brings, ready to be sent and to be known: the written values by field, the fingerprints of columns that let
-- them through, and when its record is to be looked at again.
alter table manifest_line add column sends json not null default '{}';
alter table manifest_line add column marks jsonb not null default '{}';
alter table manifest_line add column recheck_at timestamptz;

-- Lines that can still go, and those of which somebody may say that they arrived.
update manifest_line m set
  sends = coalesce((select json_object_agg(f ->> 'field', coalesce(f -> 'fresh', 'null'))
    from jsonb_array_elements(m.fields) f where f ->> 'outcome' = 'WRITTEN'), '{}'),
  marks = coalesce((select jsonb_object_agg(f ->> 'field', f -> 'mark')
    from jsonb_array_elements(m.fields) f where f ->> 'outcome' = 'WRITTEN' and f ? 'mark'), '{}'),
  recheck_at = (select min(case when f ->> 'until' like '+%' then 'infinity' else f ->> 'until' end::timestamptz)
    from jsonb_array_elements(m.fields) f)
from run r
where r.id = m.run_id and m.verdict in ('ADDED', 'CHANGED', 'REMOVED') and case
  when exists (select 1 from line_outcome o where o.run_id = m.run_id and o.line = m.line)
  then exists (select 1 from line_outcome o where o.run_id = m.run_id and o.line = m.line and o.state = 'UNKNOWN')
  else r.state in ('DRAWN', 'STOPPED', 'SENDING', 'HALTED', 'INTERRUPTED') end;

-- What an answered call brought, until its lines have outcomes and the known state follows: written down in one row, so that
-- sending need not wait for the rest.
alter table open_call add column remotes text[] not null default '{}';
alter table open_call add column answers text[] not null default '{}';
alter table open_call add column answered_at timestamptz;

-- When the last call was answered.
alter table run add column answered_at timestamptz;
