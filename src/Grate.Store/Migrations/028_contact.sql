-- How the firm is reached; what nobody entered stands nowhere.
alter table firm add column contact jsonb not null default '{}' check (jsonb_typeof(contact) = 'object');

-- What is not known is not known: a stove that nobody inspected has no next inspection. What a list told of its last sweep is kept as
-- what it is, and not as the day on which its flue was drawn.
alter table appliances add column swept_told date;
do $$
declare
    bound text;
begin
    for bound in select conname from pg_constraint where conrelid = 'visits'::regclass and contype = 'c' and pg_get_constraintdef(oid) like '%next_inspection%' loop
        execute format('alter table visits drop constraint %I', bound);
    end loop;
end $$;
alter table visits add check ((state = 'signed') = (signed_at is not null and signed_by is not null)), add check (state = 'signed' or next_inspection is null);
update appliances a set swept_told = f.valid_from from flue_versions f, sites s, customers c, imports i
    where f.appliance_id = a.id and f.number = 1 and s.id = a.site_id and c.id = s.customer_id and i.id = c.import_id and f.valid_from < (i.at at time zone (select time_zone from firm))::date;
