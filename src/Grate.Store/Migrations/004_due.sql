-- What is due for every stove, computed from its records; every row can be computed again.
create table due_stoves (
    appliance_id uuid primary key references appliances on delete cascade,
    -- When the records behind it were read: an older look never overwrites a newer one.
    read_at timestamptz not null,
    wood_kg double precision not null check (wood_kg >= 0),
    rules_version text not null
);

-- Tasks that one visit can do together, in order of time.
create table due_visits (
    appliance_id uuid not null references due_stoves on delete cascade,
    number integer not null check (number >= 1),
    earliest date not null,
    by_day date not null,
    latest date not null,
    urgent boolean not null,
    minutes integer not null check (minutes between 1 and 1440),
    kinds text[] not null,
    tasks jsonb not null check (jsonb_typeof(tasks) = 'array'),
    primary key (appliance_id, number),
    check (earliest <= by_day and by_day <= latest)
);
create index due_visits_by_day on due_visits (by_day);
create index due_visits_order on due_visits (urgent desc, by_day, appliance_id);

-- One row a night, whichever server ran it.
create table due_runs (
    day date primary key,
    started_at timestamptz not null,
    finished_at timestamptz,
    stoves integer
);

-- A visit that was planned for less is no inspection.
alter table visits add column inspects boolean not null default true;
create index visits_open on visits (appliance_id) where state = 'open';

alter table firm add column service_hours_week double precision not null default 24 check (service_hours_week between 0 and 80);
