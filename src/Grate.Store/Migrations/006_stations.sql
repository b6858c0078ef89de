-- A station is not a step: every station keeps its own entry, what was concluded from it, and its facts.
create table station_entries (
    visit_id uuid not null references visits,
    step text not null,
    station text not null check (length(station) between 1 and 60),
    -- Shape of the entry; older shapes are read by upgrading them.
    schema integer not null check (schema >= 1),
    entry jsonb not null check (jsonb_typeof(entry) = 'object'),
    answer jsonb,
    -- What was said then; the report of a signed visit prints this.
    sentences jsonb not null default '[]' check (jsonb_typeof(sentences) = 'array'),
    -- The stop that follows from the numbers.
    stop_code text,
    stop_why text,
    blocks_signing text,
    rules_version text not null,
    version integer not null check (version >= 1),
    save_id uuid not null,
    saved_at timestamptz not null,
    saved_by uuid not null references people,
    primary key (visit_id, step, station),
    check ((stop_code is null) = (stop_why is null))
);

-- What history, due dates and searches read, by name; SI, the unit stands in the name.
create table station_facts (
    visit_id uuid not null,
    step text not null,
    station text not null,
    name text not null check (length(name) between 1 and 200),
    value double precision,
    word text,
    primary key (visit_id, step, station, name),
    foreign key (visit_id, step, station) references station_entries on delete cascade,
    check ((value is null) <> (word is null))
);
create index station_facts_name on station_facts (name, value) where value is not null;

alter table findings disable trigger signed_finding;
alter table visit_steps disable trigger signed_step;

-- What the twelve steps held.
insert into station_entries (visit_id, step, station, schema, entry, answer, sentences, rules_version, version, save_id, saved_at, saved_by)
select visit_id, step, 'wood', 1, entries, null::jsonb, coalesce(computed, '[]'::jsonb), coalesce(rules_version, ''), version, save_id, saved_at, saved_by
from visit_steps where step = 'arrive' and jsonb_typeof(entries) = 'object'
union all
select visit_id, step, 'cold-flue', 1, entries, null::jsonb, coalesce(computed, '[]'::jsonb), coalesce(rules_version, ''), version, save_id, saved_at, saved_by
from visit_steps where step = 'cold-checks' and jsonb_typeof(entries) = 'object'
union all
select visit_id, step, 'deposits', 1, entries->'record', null::jsonb, coalesce(computed, '[]'::jsonb), coalesce(rules_version, ''), version, save_id, saved_at, saved_by
from visit_steps where step = 'sweep' and jsonb_typeof(entries->'record') = 'object'
union all
select visit_id, step, 'top', 1, entries->'top', null::jsonb, case when jsonb_typeof(entries->'record') = 'object' then '[]'::jsonb else coalesce(computed, '[]'::jsonb) end,
       coalesce(rules_version, ''), version, save_id, saved_at, saved_by
from visit_steps where step = 'sweep' and jsonb_typeof(entries->'top') = 'object'
union all
select s.visit_id, s.step, 'hot-draft', 1, s.entries,
       (select jsonb_build_object('fires', jsonb_agg(jsonb_build_object('level', r.level, 'readingPa', r.draft_pa, 'answer', r.computed,
            'reckoning', jsonb_build_object('sentences', '[]'::jsonb, 'explanations', '[]'::jsonb, 'nextTest', null, 'questions', '[]'::jsonb, 'stopCode', null), 'finding', null)
            order by array_position(array['low', 'normal', 'high'], r.level)), 'sentences', coalesce(s.computed, '[]'::jsonb))
        from readings r where r.visit_id = s.visit_id having count(*) > 0),
       coalesce(s.computed, '[]'::jsonb), coalesce(s.rules_version, (select max(r.rules_version) from readings r where r.visit_id = s.visit_id), ''),
       s.version, s.save_id, s.saved_at, s.saved_by
from visit_steps s where s.step = 'hot-test' and jsonb_typeof(s.entries) = 'object';

-- What the readings found out; s_visit is what is not systematic in the band.
insert into station_facts (visit_id, step, station, name, value, word)
select r.visit_id, 'hot-test', 'hot-draft', 'hot.' || r.level || '.' || f.name, f.value, f.word
from readings r
join station_entries e on e.visit_id = r.visit_id and e.station = 'hot-draft'
cross join lateral (values
    ('draft-pa', r.draft_pa, null::text), ('expected-pa', r.expected_pa, null), ('low-pa', r.low_pa, null), ('high-pa', r.high_pa, null), ('verdict', null, r.verdict),
    ('visit-sigma-pa', (select sqrt(sum(power((c->>'sigmaPa')::double precision, 2))) from jsonb_array_elements(r.computed->'contributions') c
                        where c->>'input' not in ('heat-transfer', 'lengths', 'diameters')), null)) as f(name, value, word)
where f.value is not null or f.word is not null;

insert into station_facts (visit_id, step, station, name, value, word)
select e.visit_id, e.step, e.station, f.name, f.value, f.word
from station_entries e
cross join lateral (
    select 'cold.outdoor-c' as name, (e.entry->>'outdoorC')::double precision as value, null as word where e.station = 'cold-flue'
    union all select 'cold.room-c', (e.entry->>'roomC')::double precision, null where e.station = 'cold-flue'
    union all select 'cold.room-off-pa', (e.entry->>'roomOffPa')::double precision, null where e.station = 'cold-flue'
    union all select 'cold.room-on-pa', (e.entry->>'roomOnPa')::double precision, null where e.station = 'cold-flue'
    union all select 'top.bad', null, 'yes' where e.station = 'top' and ((e.entry->>'screenCloggedShare')::double precision >= 0.25 or (e.entry->>'exposed')::boolean)
    union all select 'deposits.worst-mm', (select max(coalesce((d.value->>'worstMm')::double precision, (d.value->>'mm')::double precision, 0)) from jsonb_each(e.entry->'found') d), null
              where e.station = 'deposits' and jsonb_typeof(e.entry->'found') = 'object'
    union all select 'deposits.left-mm', coalesce((e.entry->>'leftMm')::double precision, 0), null
              where e.station = 'deposits' and (e.entry->>'leftMm' is not null or e.entry->>'sweptL' is not null or e.entry->'done' ? 'swept')
    union all select 'deposits.minutes', (e.entry->>'minutes')::double precision, null where e.station = 'deposits'
    union all select 'deposits.glaze-left', null, 'yes' where e.station = 'deposits' and (e.entry->>'glazeLeft')::boolean
    union all select 'deposits.stage.' || d.key, (d.value->>'stage')::double precision, null
              from jsonb_each(case when e.station = 'deposits' and jsonb_typeof(e.entry->'found') = 'object' then e.entry->'found' else '{}'::jsonb end) d) f
where f.value is not null or f.word is not null;

-- A stop that follows from numbers rests on its station, not on a finding.
alter table safety_stops
    add column step text,
    add column station text,
    add column why text not null default '',
    add check ((step is null) = (station is null));
update safety_stops t
set step = case f.part when 'hot-test' then 'hot-test' else 'sweep' end, station = case f.part when 'hot-test' then 'hot-draft' else 'deposits' end, why = f.note, finding_id = null
from findings f where t.finding_id = f.id and f.part in ('hot-test', 'deposits');
update station_entries e set stop_code = f.stop_code, stop_why = f.note
from findings f
where f.visit_id = e.visit_id and f.stop_code is not null
  and (f.part = 'hot-test' and e.station = 'hot-draft' or f.part = 'deposits' and e.station = 'deposits');
delete from findings where part in ('hot-test', 'deposits');
create unique index safety_stops_station on safety_stops (visit_id, step, station) where station is not null and cleared_at is null;

-- A mark belongs to part and step: before and after are two.
alter table findings add column step text;
update findings set step = case
    when part in ('alarms', 'clearances', 'hearth', 'connector', 'fuel') then 'arrive'
    when part in ('door-rope', 'latch', 'glass', 'controls', 'ash-door') then 'cold-checks'
    when part in ('probe', 'combustor', 'baffle') then 'open-up'
    when part in ('flue', 'cap', 'clean-out') then 'sweep'
    when part in ('bricks', 'tubes', 'seals', 'grate', 'channels', 'oven-path') then 'inside'
    when part = 'refitted' then 'back-together'
    when part in ('duct', 'intake', 'damper') then 'air'
    else 'hot-test' end;
alter table findings
    alter column step set not null,
    drop constraint findings_visit_id_part_key,
    add unique (visit_id, step, part);

drop table readings;
alter table visit_steps drop column entries, drop column computed, drop column rules_version;
alter table findings enable trigger signed_finding;
alter table visit_steps enable trigger signed_step;

create trigger signed_station before insert or update or delete on station_entries
    for each row execute function refuse_signed_visits_part();
create trigger signed_fact before insert or update or delete on station_facts
    for each row execute function refuse_signed_visits_part();

-- Why something was left out when the visit was signed, by its code.
alter table visits add column left_out jsonb not null default '{}' check (jsonb_typeof(left_out) = 'object');
create index visits_flue on visits (flue_version_id);
create index visits_technician on visits (technician_id, planned_start);
create index safety_stops_visit on safety_stops (visit_id);
