-- Troubles that were closed are few among all facts.
create index station_facts_troubles on station_facts (visit_id) where name like 'trouble.%';

-- How often the firm expects a cause, where it says otherwise than the shipped table; null as shipped again. The newest counts.
create table trouble_tunes (
    id uuid primary key,
    cause text not null check (length(cause) between 1 and 60),
    prior double precision check (prior > 0 and prior < 1),
    at timestamptz not null,
    by uuid not null references people
);
create index trouble_tunes_cause on trouble_tunes (cause, at desc, id desc);
create trigger kept before update or delete on trouble_tunes for each row execute function refuse_change('what was said of a cause');

-- A call that was solved by telephone is looked back at after a week.
alter table calls
    add column solved boolean not null default false,
    add column look_back date,
    add column looked_back_at timestamptz;
create index calls_look_back on calls (look_back) where looked_back_at is null and look_back is not null;
