-- Households are found by their telephone number too, as it is written and by its digits alone.
create or replace function stove_words(appliance uuid) returns void language sql as $$
    insert into stove_search (appliance_id, words)
    select a.id, lower(concat_ws(' ', c.name, s.street, s.place, replace(a.kind, '-', ' '), a.model,
                                 case when a.combustor then 'combustor' end, a.room, c.phone, regexp_replace(c.phone, '[^0-9]', '', 'g')))
    from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
    where a.id = appliance
    on conflict (appliance_id) do update set words = excluded.words
$$;
select stove_words(id) from appliances;
