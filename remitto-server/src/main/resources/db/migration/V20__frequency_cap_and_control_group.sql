-- Two more names that say what they hold; nothing is computed anew.

alter table quiet_days rename to frequency_cap;

update audience_version set definition = (definition - 'holdOut') || jsonb_build_object('controlGroup', definition -> 'holdOut')
where definition ? 'holdOut';
update draft set content = regexp_replace(content, '"holdOut"(\s*:)', '"controlGroup"\1', 'g')
where kind = 'AUDIENCE' and content like '%"holdOut"%';
