-- Every table has a key, and what refers to something refers to something that is there. Tables of lines and known state are left
-- without foreign keys: they are written by the million, by one writer that holds both sides.

delete from identity_link a using identity_link b
where a.ctid < b.ctid and (a.one_dataset, a.one_key, a.other_dataset, a.other_key) = (b.one_dataset, b.one_key, b.other_dataset, b.other_key);
drop index identity_link_one;
alter table identity_link add primary key (one_dataset, one_key, other_dataset, other_key);

alter table audience_member add primary key (audience_id, person_id, since);

delete from stocktake_alike a using stocktake_alike b
where a.ctid < b.ctid
  and (a.stocktake_id, a.field, a.value, a.remote_id) = (b.stocktake_id, b.field, b.value, b.remote_id);
drop index stocktake_alike_value;
alter table stocktake_alike add primary key (stocktake_id, field, value, remote_id);

alter table person_message add column id bigint generated always as identity primary key;
alter table audience.touched add column id bigint generated always as identity primary key;

delete from audience_member m where not exists (select from audience a where a.id = m.audience_id);
alter table audience_member add foreign key (audience_id) references audience on delete cascade;
delete from person_message m where not exists (select from run r where r.id = m.run_id);
alter table person_message add foreign key (run_id) references run;
alter table erasure_removal add foreign key (destination_id) references destination;
update stocktake_finding f set route_id = null
where route_id is not null and not exists (select from route r where r.id = f.route_id);
alter table stocktake_finding add foreign key (route_id) references route;

alter table audience add check (about in ('PERSON', 'COMPANY'));
alter table measure add check (about in ('PERSON', 'COMPANY'));
alter table person add check (about in ('PERSON', 'COMPANY'));
alter table identity_run add check (about in ('PERSON', 'COMPANY'));
alter table identity_setting add check (about in ('PERSON', 'COMPANY'));
alter table identity_rules add check (about in ('PERSON', 'COMPANY'));
alter table identity_source add check (about in ('PERSON', 'COMPANY'));
alter table stocktake_finding add check (kind in ('EDITED', 'DELETED', 'STRAY', 'DOUBLE'));
