-- How long the firm's own parts last, reckoned every night from what was fitted and renewed; only of parts whose ends are known often enough.
create table part_lives (
    part text primary key,
    quarter_years double precision not null check (quarter_years > 0),
    half_years double precision not null check (half_years >= quarter_years)
);
