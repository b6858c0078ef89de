-- Lists of taking apart that were kept for a model of stove are few among all facts.
create index station_facts_for_model on station_facts (visit_id) where name = 'apart.for-model';

-- One stock and one catalogue for every part: what has a size, and what is counted in pieces.
alter table stock_pieces drop constraint stock_pieces_kind_check, drop constraint stock_pieces_check,
    add constraint stock_pieces_size check (kind not in ('rope', 'tape', 'duct') or size_mm is not null);
alter table stock_offers drop constraint stock_offers_kind_check, alter column size_mm drop not null,
    add constraint stock_offers_size check (kind not in ('rope', 'tape', 'duct') or size_mm is not null);
-- m of rope and tape, pieces of anything else.
alter table stock_offers rename column length_m to amount;
alter table stock_offers
    add column supplier text not null default '',
    add column supplier_mail text not null default '',
    add column lead_days integer not null default 0 check (lead_days between 0 and 400);

-- What a stove wants from the stock, computed with what is due.
alter table due_stoves add column wants jsonb not null default '[]' check (jsonb_typeof(wants) = 'array');
create index due_stoves_wants on due_stoves (appliance_id) where wants <> '[]';

-- What was ordered; what of it came goes into the stock, with its line in the stock's log.
create table purchases (
    id uuid primary key,
    save_id uuid not null,
    line integer not null,
    name text not null,
    kind text not null,
    size_mm double precision,
    pack_amount double precision not null check (pack_amount > 0),
    packs integer not null check (packs between 1 and 1000),
    received integer not null check (received between 0 and packs),
    supplier text not null,
    ordered_on date not null,
    expected_on date not null check (expected_on >= ordered_on),
    ordered_at timestamptz not null,
    ordered_by uuid not null references people,
    -- The newest save that booked something in: sent twice it is one.
    last_save uuid,
    -- Nothing more will come of it.
    ended_at timestamptz,
    unique (save_id, line)
);
create index purchases_coming on purchases (expected_on) where ended_at is null and received < packs;

-- What stoves want is computed in the next run.
update due_runs set finished_at = null where day = (select max(day) from due_runs);

-- A household may send a picture of its glass: scaled down, upright and without any metadata before it comes here.
alter table household_notes drop constraint household_notes_kind_check,
    add constraint household_notes_kind_check check (kind in ('night', 'ash', 'wood', 'note', 'glass')),
    add column jpeg bytea check (length(jpeg) <= 4000000),
    add check ((kind = 'glass') = (jpeg is not null));
alter table household_notes alter column jpeg set storage external;

-- Lists that were brought in; one can be taken back until something rests on what it brought.
create table imports (
    id uuid primary key,
    name text not null check (length(name) between 1 and 200),
    households integer not null check (households >= 0),
    stoves integer not null check (stoves >= 0),
    at timestamptz not null,
    by uuid not null references people,
    undone_at timestamptz,
    undone_by uuid references people
);
create index imports_at on imports (at);
alter table customers add column import_id uuid references imports;
create index customers_import on customers (import_id) where import_id is not null;

-- What was taken back is found no more.
create or replace function stove_words(appliance uuid) returns void language sql as $$
    insert into stove_search (appliance_id, words)
    select a.id, lower(concat_ws(' ', c.name, s.street, s.place, replace(a.kind, '-', ' '), a.model,
                                 case when a.combustor then 'combustor' end, a.room, regexp_replace(c.phone, '[^0-9]', '', 'g'), c.email, a.serial))
    from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id left join imports i on i.id = c.import_id
    where a.id = appliance and i.undone_at is null
    on conflict (appliance_id) do update set words = excluded.words
$$;

-- What households are told of their visits, and the links by which they answer.
create table message_texts (
    kind text not null check (kind in ('planned', 'reminder', 'cancelled')),
    language text not null check (length(language) between 2 and 10),
    subject text not null check (length(subject) between 1 and 150),
    body text not null check (length(body) between 1 and 4000),
    by uuid not null references people,
    at timestamptz not null,
    primary key (kind, language)
);
create table visit_links (
    id uuid primary key,
    visit_id uuid not null references visits,
    secret_hash bytea not null unique check (length(secret_hash) = 32),
    made_at timestamptz not null,
    made_by uuid not null references people,
    ends_at timestamptz not null
);
create index visit_links_visit on visit_links (visit_id);
-- What the household asked for; a new plan answers it.
alter table visits add column asked text not null default '' check (length(asked) <= 300);
