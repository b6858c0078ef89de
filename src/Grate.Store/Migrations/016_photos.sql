-- Pictures of a visit: scaled down, upright and without any metadata before they come here.
create table photos (
    id uuid primary key,
    visit_id uuid not null references visits,
    step text not null,
    station text not null,
    -- The part it shows.
    part text not null,
    width integer not null check (width between 1 and 2000),
    height integer not null check (height between 1 and 2000),
    jpeg bytea not null check (length(jpeg) <= 4000000),
    sha256 bytea not null generated always as (sha256(jpeg)) stored,
    saved_at timestamptz not null,
    saved_by uuid not null references people
);
create index photos_of_visit on photos (visit_id);
-- JPEG is packed already.
alter table photos alter column jpeg set storage external;
create trigger signed_photo before insert or update or delete on photos
    for each row execute function refuse_signed_visits_part();
