-- The house around the flue: storeys below ground, the stove's storey, what stands around.
alter table sites add column ground_m double precision not null default 0 check (ground_m between 0 and 12);

create table site_obstacles (
    site_id uuid not null references sites on delete cascade,
    position integer not null check (position between 0 and 19),
    name text not null check (length(name) between 1 and 60),
    across_m double precision not null check (across_m between -60 and 120),
    width_m double precision not null check (width_m between 0.1 and 40),
    top_m double precision not null check (top_m between 0 and 60),
    primary key (site_id, position)
);

alter table appliances add column storey integer not null default 0 check (storey between 0 and 5);
alter table flue_segments add column toward text not null default 'right' check (toward in ('left', 'right'));

-- What was concluded from a step's entries when they were saved.
alter table visit_steps
    add column computed jsonb,
    add column rules_version text,
    add check ((computed is null) = (rules_version is null));
