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
