-- A stocktake may read only what changed in the destination since the stocktake before it.
alter table stocktake add column since timestamptz;
alter table stocktake add column base_id bigint references stocktake;
alter table stocktake add constraint stocktake_since_has_a_base check ((since is null) = (base_id is null));
