-- Pages of households: secret addresses, of which only a hash is kept, and what households tell through them.
create table household_links (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    secret_hash bytea not null unique check (length(secret_hash) = 32),
    made_at timestamptz not null,
    made_by uuid not null references people,
    withdrawn_at timestamptz
);
create unique index household_links_one on household_links (appliance_id) where withdrawn_at is null;

create table household_notes (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    kind text not null check (kind in ('night', 'ash', 'wood', 'note')),
    kg double precision check (kg between 0 and 100000),
    hours double precision check (hours between 0 and 100),
    coals text check (coals in ('none', 'some', 'plenty')),
    days double precision check (days between 0 and 400),
    text text not null default '' check (length(text) <= 500),
    at timestamptz not null
);
create index household_notes_of on household_notes (appliance_id, at);
create trigger kept before update on household_notes for each row execute function refuse_change('what a household told');
