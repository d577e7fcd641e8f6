-- Neither destinations nor routes are ever deleted, and to look each up again for every record cost an eighth of writing it down.
alter table destination_record drop constraint destination_record_destination_id_fkey;
alter table route_record drop constraint route_record_route_id_fkey;
