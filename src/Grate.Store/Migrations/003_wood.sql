-- The household's wood is found on arrival; it was kept with the sweep before.
alter table visit_steps disable trigger signed_step;

update visit_steps a
set entries = jsonb_strip_nulls(jsonb_build_object(
        'amount', s.entries->'record'->'woodKgPerYear',
        'habit', s.entries->'record'->'habit',
        'toldMoistureWet', s.entries->'record'->'moistureWet')),
    version = a.version + 1
from visit_steps s
where s.visit_id = a.visit_id and s.step = 'sweep' and a.step = 'arrive' and a.entries is null
  and s.entries->'record' ?| array['woodKgPerYear', 'habit', 'moistureWet'];

update visit_steps
set entries = jsonb_set(entries, '{record}', (entries->'record') - array['woodKgPerYear', 'habit', 'moistureWet'])
where step = 'sweep' and entries->'record' ?| array['woodKgPerYear', 'habit', 'moistureWet'];

alter table visit_steps enable trigger signed_step;
