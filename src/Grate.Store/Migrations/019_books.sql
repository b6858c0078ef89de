-- A firm's own books: how it works, who is invited, and versions so that two clerks lose nothing of each other's.
alter table firm
    add column ways jsonb check (jsonb_typeof(ways) = 'object'),
    add column version integer not null default 1;

create table invitations (
    id uuid primary key,
    email text not null check (length(email) between 3 and 254),
    name text not null check (length(name) between 1 and 200),
    role text not null check (role in ('technician', 'office', 'owner')),
    secret_hash bytea not null unique check (length(secret_hash) = 32),
    made_at timestamptz not null,
    made_by uuid not null references people,
    ends_at timestamptz not null,
    used_at timestamptz,
    withdrawn_at timestamptz
);
create unique index invitations_open on invitations (lower(email)) where used_at is null and withdrawn_at is null;

alter table customers add column version integer not null default 1;
alter table sites
    add column version integer not null default 1,
    -- Fields that nobody confirmed on site yet.
    add column assumed text[] not null default '{}';
alter table appliances
    add column version integer not null default 1,
    add column assumed text[] not null default '{}',
    add column serial text not null default '' check (length(serial) <= 100),
    -- Taken out of the house: its record stays.
    add column out_at timestamptz,
    add column out_why text not null default '' check (length(out_why) <= 200);

-- Who wrote what, and what stood there before.
create table book_log (
    id uuid primary key,
    customer_id uuid not null references customers,
    at timestamptz not null,
    by uuid not null references people,
    what text not null check (length(what) between 1 and 200),
    before jsonb,
    after jsonb
);
create index book_log_customer on book_log (customer_id, at desc);
create trigger kept before update or delete on book_log for each row execute function refuse_change('what was written in the books');

-- Calls that wait for a day.
create table calls (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    words text not null check (length(words) between 1 and 1000),
    urgent boolean not null,
    wish text not null default '' check (length(wish) <= 200),
    minutes integer not null check (minutes between 15 and 600),
    -- What was asked on the telephone: finding to yes or no.
    told jsonb not null default '{}' check (jsonb_typeof(told) = 'object'),
    taken_at timestamptz not null,
    taken_by uuid not null references people,
    visit_id uuid references visits,
    closed_at timestamptz,
    closed_why text not null default '' check (length(closed_why) <= 500)
);
create index calls_waiting on calls (taken_at) where visit_id is null and closed_at is null;

-- A visit that is cancelled keeps its row and its reason.
alter table visits
    add column plan_version integer not null default 1,
    add column cancelled_why text not null default '' check (length(cancelled_why) <= 500),
    drop constraint visits_state_check,
    add constraint visits_state_check check (state in ('open', 'signed', 'cancelled'));
create table visit_log (
    id uuid primary key,
    visit_id uuid not null references visits,
    at timestamptz not null,
    by uuid not null references people,
    what text not null check (length(what) between 1 and 1000)
);
create index visit_log_visit on visit_log (visit_id, at);
create trigger kept before update or delete on visit_log for each row execute function refuse_change('a plan''s log');

-- The serial and the mail address are found too.
create or replace function stove_words(appliance uuid) returns void language sql as $$
    insert into stove_search (appliance_id, words)
    select a.id, lower(concat_ws(' ', c.name, s.street, s.place, replace(a.kind, '-', ' '), a.model,
                                 case when a.combustor then 'combustor' end, a.room, regexp_replace(c.phone, '[^0-9]', '', 'g'), c.email, a.serial))
    from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
    where a.id = appliance
    on conflict (appliance_id) do update set words = excluded.words
$$;

-- What was cancelled takes nothing more; it can only be planned again.
create or replace function refuse_signed_visit() returns trigger language plpgsql as $$
begin
    if old.state = 'signed' then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    end if;
    if tg_op = 'UPDATE' and old.state = 'cancelled' and new.state = 'signed' then
        raise exception 'a cancelled visit is not signed' using errcode = 'GR002';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;
create or replace function refuse_signed_visits_part() returns trigger language plpgsql as $$
declare
    closed text := (select max(state) from visits where state <> 'open'
        and id in (case when tg_op <> 'INSERT' then old.visit_id end, case when tg_op <> 'DELETE' then new.visit_id end));
begin
    if closed = 'signed' then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    elsif closed = 'cancelled' then
        raise exception 'a cancelled visit takes nothing' using errcode = 'GR002';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;
