-- Troubles that were closed are few among all facts.
create index station_facts_troubles on station_facts (visit_id) where name like 'trouble.%';

-- The firm's own numbers in the table of troubles; null as shipped again. The newest counts.
create table trouble_tunes (
    id uuid primary key,
    what text not null check (length(what) between 1 and 100),
    value double precision check (value between -1 and 1000),
    at timestamptz not null,
    by uuid not null references people
);
create index trouble_tunes_what on trouble_tunes (what, at desc, id desc);
create trigger kept before update or delete on trouble_tunes for each row execute function refuse_change('what was said of a number');
create view trouble_numbers as select what, value from (select distinct on (what) what, value from trouble_tunes order by what, at desc, id desc) t where value is not null;

-- A call that was solved by telephone is looked back at after a week.
alter table calls
    add column solved boolean not null default false,
    add column look_back date,
    add column looked_back_at timestamptz;
create index calls_look_back on calls (look_back) where looked_back_at is null and look_back is not null;
