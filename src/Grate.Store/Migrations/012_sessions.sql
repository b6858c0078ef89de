-- Who may sign in no more: names stay under signed visits.
alter table people add column disabled_at timestamptz, drop column access_failed_count, drop column lockout_end;

-- A session ends at sign-out, whatever cookie is still about.
create table sessions (
    id uuid primary key,
    person_id uuid not null references people,
    started_at timestamptz not null,
    ended_at timestamptz
);
create index sessions_person on sessions (person_id) where ended_at is null;

-- Guesses are counted before they are looked at, by where they come from and for whom (as hashes).
create table sign_in_tries (
    address text not null,
    account text not null,
    tries integer not null,
    since timestamptz not null,
    primary key (address, account)
);
