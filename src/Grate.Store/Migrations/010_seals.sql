-- What a signed visit showed is kept with it, as it was read when it was signed, chained to the stove's visit before.
create table signed_visits (
    visit_id uuid primary key references visits,
    appliance_id uuid not null references appliances,
    number integer not null check (number >= 1),
    -- JSON, kept as text: the hash is that of its bytes.
    shown text not null,
    previous bytea,
    hash bytea not null check (hash = sha256(convert_to(coalesce(encode(previous, 'hex'), '') || shown, 'UTF8'))),
    unique (appliance_id, number),
    check ((number = 1) = (previous is null))
);

create function refuse_change() returns trigger language plpgsql as $$
begin
    raise exception '% is never changed', tg_argv[0] using errcode = 'GR001';
end $$;
create trigger kept before update or delete on signed_visits for each row execute function refuse_change('what a signed visit showed');
create trigger kept before update or delete on visit_additions for each row execute function refuse_change('an addition');

-- What belongs to a visit is neither changed in a signed one nor moved out of it or into it.
create or replace function refuse_signed_visits_part() returns trigger language plpgsql as $$
begin
    if exists (select from visits where state = 'signed'
               and id in (case when tg_op <> 'INSERT' then old.visit_id end, case when tg_op <> 'DELETE' then new.visit_id end)) then
        raise exception 'a signed visit is never changed' using errcode = 'GR001';
    end if;
    return case tg_op when 'DELETE' then old else new end;
end $$;

-- A flue is changed by a new version.
create trigger kept before update or delete on flue_versions for each row execute function refuse_change('a version of a flue');
create trigger kept before update or delete on flue_segments for each row execute function refuse_change('a piece of a version of a flue');
create function refuse_piece_of_signed() returns trigger language plpgsql as $$
begin
    if exists (select from visits where flue_version_id = new.version_id and state = 'signed') then
        raise exception 'the flue of a signed visit is never changed' using errcode = 'GR001';
    end if;
    return new;
end $$;
create trigger added before insert on flue_segments for each row execute function refuse_piece_of_signed();

-- A stop is cleared, never edited: while it stands it may say what is the case now, and then it ends once.
create function refuse_change_of_stop() returns trigger language plpgsql as $$
begin
    if tg_op = 'DELETE' or old.cleared_at is not null
       or (new.id, new.appliance_id, new.visit_id, new.step, new.station, new.part, new.code, new.set_at, new.set_by, new.opens_again)
          is distinct from (old.id, old.appliance_id, old.visit_id, old.step, old.station, old.part, old.code, old.set_at, old.set_by, old.opens_again) then
        raise exception 'a stop is cleared, never changed' using errcode = 'GR001';
    end if;
    return new;
end $$;
create trigger kept before update or delete on safety_stops for each row execute function refuse_change_of_stop();
