-- Messages that leave the firm: a row of the transaction of what they tell; the file, or the mail, comes after it.
create table outgoing_messages (
    id uuid primary key,
    at timestamptz not null,
    from_name text not null,
    from_address text not null,
    to_name text not null,
    to_address text not null check (length(to_address) between 3 and 1000),
    subject text not null,
    body text not null,
    calendar_method text,
    calendar_text text,
    sent_at timestamptz,
    tries integer not null default 0,
    fault text
);
create index outgoing_messages_waiting on outgoing_messages (at) where sent_at is null;

-- What came of a purchase, by its save: a parcel that is sent again after another one is still the same parcel.
create table purchase_receipts (
    save_id uuid primary key,
    purchase_id uuid not null references purchases,
    at timestamptz not null
);
insert into purchase_receipts (save_id, purchase_id, at) select last_save, id, coalesce(ended_at, ordered_at) from purchases where last_save is not null on conflict do nothing;
alter table purchases drop column last_save;

-- A night's run that was asked for once more while it went on is not done when it ends.
alter table due_runs add column asked_again integer not null default 0;

-- A visit that lost its place waits as a card; another visit of its stove ends it.
alter table calls add column of_visit uuid references visits;
