-- How much of a part is kept at least, and how long it keeps.
alter table stock_offers
    add column minimum double precision not null default 0 check (minimum between 0 and 1000),
    add column shelf_months integer check (shelf_months between 1 and 240);
-- What was ordered may be off the list when it comes.
alter table purchases add column shelf_months integer check (shelf_months between 1 and 240);
alter table stock_pieces
    add column batch text not null default '' check (length(batch) <= 60),
    add column best_before date;
create index stock_pieces_batch on stock_pieces (lower(batch)) where batch <> '';

-- Parts on their stoves, with what tells one from another.
create table fitted_parts (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    kind text not null,
    name text not null check (length(name) between 1 and 80),
    batch text not null default '' check (length(batch) <= 60),
    fitted_on date not null,
    warranty_until date check (warranty_until >= fitted_on),
    gone_on date check (gone_on >= fitted_on),
    at timestamptz not null,
    by uuid not null references people
);
create index fitted_parts_stove on fitted_parts (appliance_id);
create index fitted_parts_batch on fitted_parts (lower(batch)) where batch <> '';
