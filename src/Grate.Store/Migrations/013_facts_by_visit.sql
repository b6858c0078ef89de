-- What earlier visits found is read visit by visit, for one stove or for all of them at night: from the index alone.
alter table station_facts drop constraint station_facts_pkey, add primary key (visit_id, step, station, name) include (value, word);
alter table findings drop constraint findings_visit_id_step_part_key,
    add constraint findings_visit_id_step_part_key unique (visit_id, step, part) include (condition, look_again);
