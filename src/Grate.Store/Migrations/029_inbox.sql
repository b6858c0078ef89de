-- What households say from outside: it stands on the office's Today until somebody has seen it.
create table inbox (
    id uuid primary key,
    at timestamptz not null,
    kind text not null check (kind in ('co', 'chimney-fire', 'smoke', 'cancelled', 'date', 'note', 'glass')),
    appliance_id uuid not null references appliances,
    visit_id uuid references visits,
    text text not null default '' check (length(text) <= 500),
    seen_at timestamptz,
    seen_by uuid references people,
    check ((seen_at is null) = (seen_by is null))
);
create index inbox_new on inbox (at) where seen_at is null;
create index inbox_seen on inbox (seen_at);

-- What was pressed while they called: danger orders the loose list.
alter table calls add column emergency text check (emergency in ('co', 'chimney-fire', 'smoke'));
