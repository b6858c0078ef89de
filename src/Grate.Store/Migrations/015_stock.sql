-- Rope, tape and cement in vans and in the store; what came, went and was counted.
create table stock_pieces (
    id uuid primary key,
    -- Whose van; null is the store.
    van_id uuid references people,
    kind text not null check (kind in ('rope', 'tape', 'cement')),
    size_mm double precision check ((size_mm is null) = (kind = 'cement')),
    -- m of rope and tape, tubes of cement.
    amount double precision not null check (amount >= 0),
    version integer not null
);
create index stock_pieces_there on stock_pieces (van_id) where amount > 0;

create table stock_log (
    save_id uuid not null,
    line integer not null,
    piece_id uuid not null references stock_pieces,
    move text not null,
    before double precision not null,
    after double precision not null,
    -- Where the piece lay then.
    van_id uuid references people,
    -- The seal it was cut for.
    visit_id uuid references visits,
    seal text,
    note text not null default '',
    at timestamptz not null,
    by uuid not null references people,
    primary key (save_id, line),
    check ((visit_id is null) = (seal is null))
);
create index stock_log_at on stock_log (at);
create index stock_log_seal on stock_log (visit_id, seal) where visit_id is not null;
create trigger kept before update or delete on stock_log for each row execute function refuse_change('what happened to the stock');

create table stock_offers (
    id uuid primary key,
    name text not null,
    kind text not null check (kind in ('rope', 'tape')),
    size_mm double precision not null,
    length_m double precision not null,
    price double precision not null check (price >= 0)
);
