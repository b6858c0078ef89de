-- Secret addresses of calendars: only a hash is kept, so that nobody reads them out of the database.
create table calendar_feeds (
    id uuid primary key,
    -- Whose round; null for the whole firm.
    person_id uuid references people,
    secret_hash bytea not null unique check (length(secret_hash) = 32),
    created_at timestamptz not null,
    created_by uuid not null references people,
    revoked_at timestamptz
);
