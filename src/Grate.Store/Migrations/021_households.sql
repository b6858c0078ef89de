-- Who else of a household is called, the language they are written to in, when they want visits; records joined and forgotten.
alter table customers
    add column contacts jsonb not null default '[]' check (jsonb_typeof(contacts) = 'array'),
    add column language text not null default '' check (length(language) <= 10),
    add column wish jsonb not null default '{"when": "any", "notOn": []}' check (jsonb_typeof(wish) = 'object'),
    add column joined_into uuid references customers,
    add column forgotten_at timestamptz;

-- What a stove's label asks for, the stoves that stood on its flue before, and since when that flue is to be looked through.
alter table appliances
    add column label jsonb not null default '{}' check (jsonb_typeof(label) = 'object'),
    add column stood_before uuid[] not null default '{}',
    add column look_since date,
    add column look_why text not null default '' check (length(look_why) <= 100);

-- What not everybody can do, and when somebody is away.
alter table people add column skills text[] not null default '{}' check (skills <@ array['roof', 'liner', 'masonry-heater', 'combustor']);
create table absences (
    id uuid primary key,
    person_id uuid not null references people,
    first_day date not null,
    last_day date not null,
    why text not null default '' check (length(why) <= 200),
    made_at timestamptz not null,
    made_by uuid not null references people,
    check (last_day between first_day and first_day + 400)
);
create index absences_person on absences (person_id, last_day);

-- Several go to one visit; nobody is in two places, whoever holds the visit.
alter table visits
    add column helpers uuid[] not null default '{}' check (cardinality(helpers) <= 5),
    drop constraint visits_technician_id_tstzrange_excl;
create table visit_times (
    visit_id uuid not null references visits on delete cascade,
    person_id uuid not null references people,
    during tstzrange not null,
    primary key (visit_id, person_id),
    exclude using gist (person_id with =, during with &&)
);
create function keep_visit_times() returns trigger language plpgsql as $$
begin
    delete from visit_times where visit_id = new.id;
    if new.state = 'open' then
        insert into visit_times select new.id, person, tstzrange(new.planned_start, new.planned_end)
        from (select distinct unnest(new.technician_id || new.helpers) as person) them;
    end if;
    return null;
end $$;
insert into visit_times select id, technician_id, tstzrange(planned_start, planned_end) from visits where state = 'open';
create trigger times_made after insert on visits for each row execute function keep_visit_times();
create trigger times_changed after update of technician_id, helpers, planned_start, planned_end, state on visits for each row execute function keep_visit_times();

-- Pages of a search come in one order, however many rows there are.
create index stove_search_order on stove_search (left(words, 100), appliance_id);

-- Everybody's number finds the household.
create or replace function stove_words(appliance uuid) returns void language sql as $$
    insert into stove_search (appliance_id, words)
    select a.id, lower(concat_ws(' ', c.name, s.street, s.place, replace(a.kind, '-', ' '), a.model,
                                 case when a.combustor then 'combustor' end, a.room, regexp_replace(c.phone, '[^0-9]', '', 'g'), c.email, a.serial,
                                 (select string_agg(concat_ws(' ', k->>'whose', regexp_replace(k->>'phone', '[^0-9]', '', 'g'), k->>'email'), ' ') from jsonb_array_elements(c.contacts) k)))
    from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id left join imports i on i.id = c.import_id
    where a.id = appliance and i.undone_at is null
    on conflict (appliance_id) do update set words = excluded.words
$$;

-- What is kept for good is written over only where a household asks to be forgotten, and written again only where a firm's archive is read back.
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
    if current_setting('grate.forgets', true) = 'yes' and tg_op = 'UPDATE' then
        return new;
    end if;
    raise exception '% is never changed', tg_argv[0] using errcode = 'GR001';
end $$;
create or replace function refuse_signed_visit() returns trigger language plpgsql as $$
begin
    if old.state = 'signed' and (tg_op <> 'UPDATE' or current_setting('grate.forgets', true) is distinct from 'yes') then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    end if;
    if tg_op = 'UPDATE' and old.state = 'cancelled' and new.state = 'signed' then
        raise exception 'a cancelled visit is not signed' using errcode = 'GR002';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;
create or replace function refuse_signed_visits_part() returns trigger language plpgsql as $$
declare
    closed text;
begin
    if (tg_op = 'UPDATE' and current_setting('grate.forgets', true) = 'yes') or (tg_op = 'INSERT' and current_setting('grate.restores', true) = 'yes') then
        return new;
    end if;
    closed := (select max(state) from visits where state <> 'open'
        and id in (case when tg_op <> 'INSERT' then old.visit_id end, case when tg_op <> 'DELETE' then new.visit_id end));
    if closed = 'signed' then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    elsif closed = 'cancelled' then
        raise exception 'a cancelled visit takes nothing' using errcode = 'GR002';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;
-- Houses that passed from one household to another.
create table house_passages (
    house_id uuid not null references sites,
    from_customer uuid not null references customers,
    to_customer uuid not null references customers,
    at timestamptz not null,
    primary key (house_id, at)
);
create index house_passages_from on house_passages (from_customer);

-- A household is forgotten: its names, numbers and words go, from what was sealed too, whose chain is made anew. What was measured stays with the flue.
-- Of a house that passed, only what was told while they lived there.
create function forget_household(customer uuid, now timestamptz) returns void language plpgsql security definer set search_path = public as $$
declare
    them uuid[] := (select array_agg(id) from customers where id = customer or joined_into = customer);
    sealed record;
    before bytea;
    stove uuid;
    scrubbed jsonb;
begin
    create temporary table lived on commit drop as
        select s.id as house, coalesce((select max(p.at) from house_passages p where p.house_id = s.id), '-infinity') as since, 'infinity'::timestamptz as until from sites s where s.customer_id = customer
        union all
        select p.house_id, coalesce((select max(q.at) from house_passages q where q.house_id = p.house_id and q.at < p.at), '-infinity'), p.at from house_passages p where p.from_customer = any(them);
    create temporary table theirs on commit drop as
        select v.id as visit, v.appliance_id as stove from visits v join appliances a on a.id = v.appliance_id join lived l on l.house = a.site_id where v.planned_start >= l.since and v.planned_start < l.until;
    perform set_config('grate.forgets', 'yes', true);
    update customers set name = 'Forgotten household', phone = '', email = '', note = '', contacts = '[]', language = '', wish = default, forgotten_at = now, version = version + 1 where id = any(them);
    update book_log g set before = null, after = null where customer_id = any(them);
    update calls w set words = 'forgotten', wish = '', closed_why = case when closed_why = '' then '' else 'forgotten' end
        from appliances a join lived l on l.house = a.site_id where a.id = w.appliance_id and w.taken_at >= l.since and w.taken_at < l.until;
    update visits set complaint = '', asked = '', cancelled_why = case when cancelled_why = '' then '' else 'forgotten' end where id in (select visit from theirs);
    update visit_log set what = 'What the household said is forgotten.' where visit_id in (select visit from theirs) and (what like 'The household asks%' or what like 'Cancelled:%');
    update household_notes n set text = '', kind = case when n.jpeg is null then n.kind else 'note' end, jpeg = null
        from appliances a join lived l on l.house = a.site_id where a.id = n.appliance_id and n.at >= l.since and n.at < l.until and (n.text <> '' or n.jpeg is not null);
    update household_links k set withdrawn_at = now from appliances a join lived l on l.house = a.site_id
        where a.id = k.appliance_id and k.made_at >= l.since and k.made_at < l.until and k.withdrawn_at is null;
    update visit_links set ends_at = least(ends_at, now) where visit_id in (select visit from theirs);
    update station_entries set entry = entry - 'name' - 'strokes',
            answer = replace(answer::text, 'signed by ' || signer, 'signed by the household')::jsonb, sentences = replace(sentences::text, 'signed by ' || signer, 'signed by the household')::jsonb
        from (select visit_id as of_visit, coalesce(nullif(btrim(trim(both '"' from (entry->'name')::text)), ''), 'the household') as signer from station_entries where station = 'agreement') n
        where visit_id in (select visit from theirs) and station = 'agreement' and of_visit = visit_id;
    for sealed in select w.*, w.visit_id in (select visit from theirs) as own from signed_visits w where w.appliance_id in (select t.stove from theirs t) order by w.appliance_id, w.number loop
        if stove is distinct from sealed.appliance_id then
            stove := sealed.appliance_id;
            before := null;
        end if;
        scrubbed := sealed.shown::jsonb;
        if sealed.own then
            scrubbed := jsonb_set(scrubbed, '{record,customer}', jsonb_build_object('id', scrubbed #>> '{record,customer,id}', 'name', 'Forgotten household'));
            scrubbed := jsonb_set(scrubbed, '{record,visit,complaint}', '""');
            scrubbed := jsonb_set(scrubbed, '{stations}', (select coalesce(jsonb_agg(coalesce(r || (
                select jsonb_build_object('entry', e.entry::text, 'answer', e.answer::text, 'sentences', e.sentences::text) from station_entries e
                where e.visit_id = sealed.visit_id and e.step = r->>'step' and e.station = r->>'station' and e.station = 'agreement'), r)), '[]') from jsonb_array_elements(scrubbed->'stations') r));
        end if;
        update signed_visits w set shown = scrubbed::text, previous = before, hash = sha256(convert_to(coalesce(encode(before, 'hex'), '') || scrubbed::text, 'UTF8'))
            where w.visit_id = sealed.visit_id returning w.hash into before;
    end loop;
    perform set_config('grate.forgets', '', true);
end $$;
