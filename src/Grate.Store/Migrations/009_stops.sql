-- A stop is a record of its own: it rests on a part's mark or on a station's numbers, and outlives both. Every opening is a
-- row; it ends by a re-test that passed, never by a change of what it rests on.
alter table safety_stops
    add column part text,
    add column opens_again uuid references safety_stops,
    -- What made it and was not yet measured again.
    add column awaits text[] not null default '{}';
update safety_stops t set step = f.step, part = f.part, why = f.note from findings f where f.id = t.finding_id;
update safety_stops set awaits = array[code] where cleared_at is null;
drop index safety_stops_station;
alter table safety_stops
    drop column finding_id,
    drop constraint safety_stops_check1,
    alter column step set not null,
    add constraint safety_stops_source check ((station is null) <> (part is null));
create unique index safety_stops_standing on safety_stops (visit_id, step, station, part, code) nulls not distinct where cleared_at is null;

-- More than one stop may follow from a station's numbers.
alter table station_entries add column stops jsonb not null default '[]' check (jsonb_typeof(stops) = 'array');
alter table station_entries disable trigger signed_station;
update station_entries set stops = jsonb_build_array(jsonb_build_object('code', stop_code, 'why', stop_why)) where stop_code is not null;
alter table station_entries enable trigger signed_station;
alter table station_entries drop column stop_code, drop column stop_why;
