-- A piece of a flue stays the same piece when it is moved or called otherwise; those without an id go by their label,
-- so that pieces of a flue once saved under one name get names of their own.
alter table flue_segments add column id text check (char_length(id) between 1 and 80);
update flue_segments s set label = left(label, 70) || ' (' || position + 1 || ')'
where exists (select from flue_segments below where below.version_id = s.version_id and below.label = s.label and below.position < s.position);
create unique index on flue_segments (version_id, label);
create unique index on flue_segments (version_id, coalesce(id, label));
