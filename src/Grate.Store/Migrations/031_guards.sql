-- What a signed visit shows is changed by nobody who serves: forgetting and restoring prove themselves by who they run as, the owner of a
-- security-definer function; a setting that anybody can make proves nothing. (Where one role owns and serves, the setting is all there is:
-- docs/running.md asks for two.)
create function as_owner(relation oid) returns boolean language sql stable as $$
    select current_user = pg_get_userbyid(relowner) from pg_class where oid = relation
$$;

-- Transactions that read an archive back into an empty firm.
create table restorations (txid bigint primary key);
create function restores() returns boolean language sql stable as $$ select exists (select from restorations where txid = txid_current()) $$;

create or replace function refuse_change() returns trigger language plpgsql as $$
begin
    if tg_op = 'UPDATE' and as_owner(tg_relid) and current_setting('grate.forgets', true) = 'yes' then
        return new;
    end if;
    raise exception '% is never changed', tg_argv[0] using errcode = 'GR001';
end $$;
create or replace function refuse_signed_visit() returns trigger language plpgsql as $$
begin
    if old.state = 'signed' and (tg_op <> 'UPDATE' or not as_owner(tg_relid) or current_setting('grate.forgets', true) is distinct from 'yes') then
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
    if as_owner(tg_relid) and ((tg_op = 'UPDATE' and current_setting('grate.forgets', true) = 'yes') or (tg_op = 'INSERT' and restores())) then
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

-- An archive is read back into a firm that has nothing yet; whoever begins that is looked at here, not where it is asked for.
create function begin_restoration() returns boolean language plpgsql security definer set search_path = public as $$
begin
    lock table firm, people, customers in exclusive mode;
    if exists (select from customers) or exists (select from visits) or (select count(*) from people) > 1 then
        return false;
    end if;
    insert into restorations values (txid_current()) on conflict do nothing;
    return true;
end $$;
create function restore_rows(relation text, given jsonb) returns void language plpgsql security definer set search_path = public as $$
begin
    if not exists (select from restorations where txid = txid_current()) or relation <> all (array[
        'firm', 'people', 'imports', 'customers', 'sites', 'site_obstacles', 'house_passages', 'book_log', 'appliances',
        'flue_versions', 'flue_segments', 'visits', 'visit_log', 'visit_steps', 'station_entries', 'station_facts', 'findings', 'safety_stops',
        'photos', 'visit_additions', 'signed_visits', 'calls', 'absences', 'household_notes', 'inbox', 'stock_pieces', 'fitted_parts',
        'stock_log', 'stock_offers', 'purchases', 'purchase_receipts', 'prices', 'price_log', 'message_texts', 'trouble_tunes']) then
        raise exception 'nothing is restored into %', relation using errcode = 'GR001';
    end if;
    if relation = 'firm' then
        update firm f set name = r.name, place = r.place, time_zone = r.time_zone, inspection_months = r.inspection_months, service_hours_week = r.service_hours_week, ways = r.ways, contact = r.contact, version = f.version + 1
            from jsonb_populate_recordset(null::firm, given) r;
    elsif relation = 'people' then
        insert into people select r.* from (select jsonb_array_elements(given) as row) a, jsonb_populate_record(null::people, a.row || jsonb_build_object('security_stamp', gen_random_uuid())) r;
    else
        execute format('insert into %I select * from jsonb_populate_recordset(null::%I, $1)', relation, relation) using given;
    end if;
end $$;
create function end_restoration() returns void language sql security definer set search_path = public as $$ delete from restorations where txid = txid_current() $$;

-- What came from outside, and what was written to them, is forgotten with the household.
create or replace function forget_household(customer uuid, now timestamptz) returns void language plpgsql security definer set search_path = public as $$
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
    delete from outgoing_messages m where m.to_address <> '' and exists (select from customers c where c.id = any(them) and c.email <> '' and lower(m.to_address) = lower(regexp_replace(c.email, '\s*[;,]\s*', ',', 'g')));
    update customers set name = 'Forgotten household', phone = '', email = '', note = '', contacts = '[]', language = '', wish = default, forgotten_at = now, version = version + 1 where id = any(them);
    update book_log g set before = null, after = null where customer_id = any(them);
    update calls w set words = 'forgotten', wish = '', closed_why = case when closed_why = '' then '' else 'forgotten' end
        from appliances a join lived l on l.house = a.site_id where a.id = w.appliance_id and w.taken_at >= l.since and w.taken_at < l.until;
    update visits set complaint = '', asked = '', cancelled_why = case when cancelled_why = '' then '' else 'forgotten' end where id in (select visit from theirs);
    update visit_log set what = 'What the household said is forgotten.' where visit_id in (select visit from theirs) and (what like 'The household asks%' or what like 'Cancelled:%');
    update household_notes n set text = '', kind = case when n.jpeg is null then n.kind else 'note' end, jpeg = null
        from appliances a join lived l on l.house = a.site_id where a.id = n.appliance_id and n.at >= l.since and n.at < l.until and (n.text <> '' or n.jpeg is not null);
    update inbox n set text = '' from appliances a join lived l on l.house = a.site_id where a.id = n.appliance_id and n.at >= l.since and n.at < l.until and n.text <> '';
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

-- What is wrong in reality is recorded as it stands: a run that falls, too.
do $$
declare
    bound text;
begin
    for bound in select conname from pg_constraint where conrelid = 'flue_segments'::regclass and contype = 'c' and pg_get_constraintdef(oid) like '%rise_m%' loop
        execute format('alter table flue_segments drop constraint %I', bound);
    end loop;
end $$;
alter table flue_segments add check (rise_m between -5 and 40), add check (abs(rise_m) <= length_m);
