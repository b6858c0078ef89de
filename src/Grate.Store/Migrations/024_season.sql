-- The season's plan: a proposal, made anew whenever it is asked for.
create table season_plans (
    one boolean primary key default true check (one),
    monday date not null,
    made_at timestamptz not null,
    made_by uuid not null references people,
    sentences jsonb not null
);
create table season_bricks (
    appliance_id uuid not null references appliances,
    number integer not null,
    monday date not null,
    weeks_off integer not null,
    price_min double precision not null,
    primary key (appliance_id, number)
);
create index season_bricks_monday on season_bricks (monday);
