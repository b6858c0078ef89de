-- Households are told, too, that somebody is late.
alter table message_texts
    drop constraint message_texts_kind_check,
    add constraint message_texts_kind_check check (kind in ('planned', 'reminder', 'cancelled', 'late'));

-- How long parts last is learned from what was fitted, which is little among all facts.
create index station_facts_fitted on station_facts (visit_id) where name like 'seal.%.fitted' or name like 'brick.%.renewed' or name = 'combustor.fitted-day';
