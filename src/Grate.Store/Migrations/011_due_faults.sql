-- A stove for which nothing could be computed: the others are, and the owner is told.
create table due_faults (
    appliance_id uuid primary key references appliances on delete cascade,
    since timestamptz not null,
    reason text not null
);

-- No date of a record lies outside what anybody enters: far years stop what computes with them.
alter table findings add check (look_again between '1900-01-01' and '2200-01-01') not valid;
alter table visits add check (planned_start between '1900-01-01' and '2200-01-01') not valid;
alter table visits add check (next_inspection between '1900-01-01' and '2200-01-01') not valid;
