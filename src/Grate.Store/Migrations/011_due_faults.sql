-- A stove for which nothing could be computed: the others are, and the owner is told.
create table due_faults (
    appliance_id uuid primary key references appliances on delete cascade,
    since timestamptz not null,
    reason text not null
);
