-- What the firm asks or pays, for its sums on site; what was set before stays in the log.
create table prices (
    thing text primary key,
    price double precision check (price >= 0)
);

create table price_log (
    thing text not null,
    before double precision,
    after double precision,
    at timestamptz not null,
    by uuid not null references people
);
create trigger kept before update or delete on price_log for each row execute function refuse_change('what prices were');
