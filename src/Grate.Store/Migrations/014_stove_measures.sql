-- What was measured of a stove's body, m by the name of the measure.
alter table appliances add column measures jsonb not null default '{}' check (jsonb_typeof(measures) = 'object');
