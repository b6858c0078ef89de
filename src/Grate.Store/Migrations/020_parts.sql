-- Lists of taking apart that were kept for a model of stove are few among all facts.
create index station_facts_for_model on station_facts (visit_id) where name = 'apart.for-model';
