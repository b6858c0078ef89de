-- One firm is one database. SI units; the unit stands in the column's name.
create extension if not exists pg_trgm;
create extension if not exists btree_gist;

create table firm (
    id boolean primary key default true check (id),
    name text not null check (length(name) between 1 and 200),
    place text not null,
    time_zone text not null,
    inspection_months integer not null default 12 check (inspection_months between 1 and 60),
    demo boolean not null default false
);

create table people (
    id uuid primary key,
    email text not null check (length(email) between 3 and 254),
    normalized_email text not null unique,
    name text not null check (length(name) between 1 and 200),
    role text not null check (role in ('technician', 'office', 'owner')),
    password_hash text,
    security_stamp text not null,
    access_failed_count integer not null default 0,
    lockout_end timestamptz
);

-- Keys for cookies live here so that any number of servers share them.
create table protection_keys (
    name text primary key,
    xml text not null
);

create table customers (
    id uuid primary key,
    name text not null check (length(name) between 1 and 200),
    phone text not null default '',
    email text not null default '',
    note text not null default ''
);

create table sites (
    id uuid primary key,
    customer_id uuid not null references customers,
    street text not null,
    place text not null,
    latitude double precision not null check (latitude between -90 and 90),
    longitude double precision not null check (longitude between -180 and 180),
    altitude_m double precision not null check (altitude_m between -430 and 5000),
    house_volume_m3 double precision check (house_volume_m3 between 20 and 20000),
    ach50 double precision check (ach50 between 0.1 and 60),
    built_era text check (built_era in ('before-1980', 'to-2005', 'later', 'low-energy')),
    monthly_c double precision[] not null check (array_length(monthly_c, 1) = 12),
    storey_names text[] not null check (array_length(storey_names, 1) between 1 and 6),
    storey_heights_m double precision[] not null check (array_length(storey_heights_m, 1) = array_length(storey_names, 1)),
    house_width_m double precision not null check (house_width_m between 3 and 60),
    roof_pitch_deg double precision not null check (roof_pitch_deg between 0 and 70),
    check (ach50 is not null or built_era is not null)
);
create index sites_customer on sites (customer_id);

create table appliances (
    id uuid primary key,
    site_id uuid not null references sites,
    kind text not null check (kind in ('steel', 'top-loader', 'insert', 'zero-clearance', 'multi-fuel', 'masonry-heater', 'cookstove')),
    combustor boolean not null,
    model text not null check (length(model) between 1 and 200),
    year integer not null check (year between 1800 and 2200),
    room text not null,
    nominal_kw double precision not null check (nominal_kw between 0.5 and 100),
    label_min_pa double precision check (label_min_pa between 0 and 100),
    label_max_pa double precision check (label_max_pa between 0 and 150),
    collar_height_m double precision not null check (collar_height_m between 0.05 and 4),
    check (label_min_pa < label_max_pa)
);
create index appliances_site on appliances (site_id);

-- What stood there at a visit stays true: a changed flue is a new version.
create table flue_versions (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    number integer not null check (number >= 1),
    valid_from date not null,
    cap text not null check (cap in ('open', 'low-resistance', 'cowl')),
    screen boolean not null,
    stove_x_m double precision not null,
    unique (appliance_id, number)
);

create table flue_segments (
    version_id uuid not null references flue_versions on delete cascade,
    position integer not null check (position between 0 and 59),
    label text not null check (length(label) between 1 and 80),
    construction text not null check (construction in ('single-wall-steel', 'double-wall-air', 'insulated-25',
        'insulated-50', 'clay-in-masonry', 'steel-liner-bare', 'steel-liner-insulated', 'brick-unlined')),
    diameter_m double precision check (diameter_m between 0.05 and 1.5),
    width_m double precision check (width_m between 0.05 and 1.5),
    depth_m double precision check (depth_m between 0.05 and 1.5),
    rise_m double precision not null check (rise_m >= 0),
    length_m double precision not null check (length_m between 0.02 and 40),
    surroundings text not null check (surroundings in ('indoor', 'attic', 'outdoor')),
    resistance_m2kw double precision check (resistance_m2kw between 0 and 5),
    roughness_mm double precision check (roughness_mm between 0 and 20),
    fittings jsonb not null default '[]' check (jsonb_typeof(fittings) = 'array'),
    primary key (version_id, position),
    check (rise_m <= length_m),
    check ((diameter_m is null) <> (width_m is null) and (width_m is null) = (depth_m is null))
);

create table visits (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    flue_version_id uuid not null references flue_versions,
    technician_id uuid not null references people,
    planned_start timestamptz not null,
    planned_end timestamptz not null,
    purpose text not null check (length(purpose) between 1 and 200),
    complaint text not null default '',
    state text not null default 'open' check (state in ('open', 'signed')),
    signed_at timestamptz,
    signed_by uuid references people,
    next_inspection date,
    check (planned_end > planned_start),
    check ((state = 'signed') = (signed_at is not null and signed_by is not null and next_inspection is not null)),
    exclude using gist (technician_id with =, tstzrange(planned_start, planned_end) with &&) where (state = 'open')
);
create index visits_appliance on visits (appliance_id, planned_start desc);
create index visits_day on visits (planned_start);

create table visit_steps (
    visit_id uuid not null references visits,
    step text not null check (step in ('booking', 'load', 'arrive', 'cold-checks', 'open-up', 'sweep', 'inside',
        'back-together', 'air', 'hot-test', 'agree', 'next')),
    status text not null check (status in ('open', 'done', 'skipped')),
    reason text not null default '' check (length(reason) <= 500),
    note text not null default '' check (length(note) <= 5000),
    entries jsonb,
    version integer not null check (version >= 1),
    save_id uuid not null,
    saved_at timestamptz not null,
    saved_by uuid not null references people,
    primary key (visit_id, step),
    check (status <> 'skipped' or reason <> '')
);

-- What was measured, and what was concluded from it then.
create table readings (
    visit_id uuid not null references visits,
    level text not null check (level in ('low', 'normal', 'high')),
    draft_pa double precision not null check (draft_pa between -60 and 150),
    entered jsonb not null,
    computed jsonb not null,
    expected_pa double precision not null,
    low_pa double precision not null,
    high_pa double precision not null,
    verdict text not null,
    rules_version text not null,
    primary key (visit_id, level)
);

create table findings (
    id uuid primary key,
    visit_id uuid not null references visits,
    part text not null check (length(part) between 1 and 60),
    condition text not null check (condition in ('sound', 'wearing', 'spent', 'unsafe', 'not-seen')),
    note text not null default '' check (length(note) <= 2000),
    look_again date,
    stop_code text,
    version integer not null check (version >= 1),
    save_id uuid not null,
    saved_at timestamptz not null,
    saved_by uuid not null references people,
    unique (visit_id, part),
    check ((condition = 'unsafe') = (stop_code is not null)),
    check (condition <> 'not-seen' or note <> '')
);

create table safety_stops (
    id uuid primary key,
    appliance_id uuid not null references appliances,
    visit_id uuid not null references visits,
    finding_id uuid unique references findings on delete cascade,
    code text not null,
    set_at timestamptz not null,
    set_by uuid not null references people,
    cleared_at timestamptz,
    cleared_by uuid references people,
    cleared_what text,
    cleared_retest text,
    check ((cleared_at is null) = (cleared_by is null)
       and (cleared_at is null) = (cleared_what is null)
       and (cleared_at is null) = (cleared_retest is null))
);
create index safety_stops_open on safety_stops (appliance_id) where cleared_at is null;

create table visit_additions (
    id uuid primary key,
    visit_id uuid not null references visits,
    written_at timestamptz not null,
    written_by uuid not null references people,
    text text not null check (length(text) between 1 and 5000)
);
create index visit_additions_visit on visit_additions (visit_id);

-- A signed visit is never changed: corrections are additions.
create function refuse_signed_visit() returns trigger language plpgsql as $$
begin
    if old.state = 'signed' then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;
create trigger signed_visit before update or delete on visits
    for each row execute function refuse_signed_visit();

create function refuse_signed_visits_part() returns trigger language plpgsql as $$
declare
    visit uuid := case tg_op when 'DELETE' then old.visit_id else new.visit_id end;
begin
    if exists (select 1 from visits where id = visit and state = 'signed') then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;
create trigger signed_step before insert or update or delete on visit_steps
    for each row execute function refuse_signed_visits_part();
create trigger signed_reading before insert or update or delete on readings
    for each row execute function refuse_signed_visits_part();
create trigger signed_finding before insert or update or delete on findings
    for each row execute function refuse_signed_visits_part();

-- One line of words per stove, kept by triggers, so that a search touches one index.
create table stove_search (
    appliance_id uuid primary key references appliances on delete cascade,
    words text not null
);
create index stove_search_words on stove_search using gin (words gin_trgm_ops);

create function stove_words(appliance uuid) returns void language sql as $$
    insert into stove_search (appliance_id, words)
    select a.id, lower(concat_ws(' ', c.name, s.street, s.place, replace(a.kind, '-', ' '), a.model,
                                 case when a.combustor then 'combustor' end, a.room))
    from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
    where a.id = appliance
    on conflict (appliance_id) do update set words = excluded.words
$$;

create function stove_words_of_appliance() returns trigger language plpgsql as $$
begin
    perform stove_words(new.id);
    return new;
end $$;
create trigger stove_words after insert or update on appliances
    for each row execute function stove_words_of_appliance();

create function stove_words_of_site() returns trigger language plpgsql as $$
begin
    perform stove_words(a.id) from appliances a where a.site_id = new.id;
    return new;
end $$;
create trigger stove_words after update on sites
    for each row execute function stove_words_of_site();

create function stove_words_of_customer() returns trigger language plpgsql as $$
begin
    perform stove_words(a.id) from appliances a join sites s on s.id = a.site_id where s.customer_id = new.id;
    return new;
end $$;
create trigger stove_words after update on customers
    for each row execute function stove_words_of_customer();
