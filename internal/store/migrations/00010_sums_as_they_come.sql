-- +goose Up

-- What visitors of an edition could press, as it was called and where it stood.
create table edition_rows (
    page_id  uuid    not null,
    edition  integer not null,
    position integer not null, -- from the top, icons and footer included
    key      text    not null,
    title    text    not null,
    kind     text    not null, -- of the block, or icons, or footer
    place    integer not null, -- among the blocks, from 1; 0 for icons and footer
    primary key (page_id, edition, position),
    foreign key (page_id, edition) references editions on delete cascade
);
create index edition_rows_key on edition_rows (page_id, key, edition desc) include (title);

-- The state of the sums of each UTC day that has any. Whoever changes sums locks
-- its row first.
create table counted_days (
    page_id  uuid        not null references counted on delete cascade,
    unit     date        not null, -- the UTC day
    version  bigint      not null default nextval('daily_versions'), -- another with every change
    due      boolean     not null default false, -- the sums are to be made anew from the events
    due_from timestamptz not null default now(), -- but not before this
    failures integer     not null default 0, -- of making them, since it last succeeded
    places   text[]      not null default '{}', -- unlisted sources that are told apart
    crowded  boolean     not null default false, -- some that were not are among "others", in order of arrival
    primary key (page_id, unit)
);
create index counted_days_due on counted_days (unit, page_id) where due or crowded;

-- Sums by hour are made from the events that are there; whatever has events is
-- counted once more for them.
insert into counted_days (page_id, unit, due)
select distinct page_id, (at at time zone 'UTC')::date, true from events where exists (select from counted where id = page_id);
insert into counted_days (page_id, unit)
select page_id, unit from daily_pages union select page_id, unit from daily_left_out
on conflict do nothing;
insert into counted_days (page_id, unit, due) select page_id, unit, true from daily_due on conflict do nothing;
drop table daily_due;

create table daily_hours (
    page_id uuid     not null references counted on delete cascade,
    unit    date     not null,
    day     date     not null,
    hour    smallint not null, -- by the workspace's clock
    views   integer  not null,
    visits  integer  not null,
    clicks  integer  not null,
    primary key (page_id, unit, day, hour)
);

-- What visitors with very many events brought to the sums of a day so far. It is
-- counted anew now and then and not with every batch.
create table busy_visitors (
    page_id uuid        not null,
    unit    date        not null,
    visitor bytea       not null,
    brought jsonb       not null, -- rows of the sums
    events  integer     not null, -- that went into them
    due     timestamptz,          -- when it is to be counted anew; null when nothing came since
    primary key (page_id, unit, visitor),
    foreign key (page_id, unit) references counted_days on delete cascade
);
create index busy_visitors_due on busy_visitors (due) where due is not null;

-- Finds a day, and what a visitor did on it. Days come before visitors, so that
-- what is written today stands together.
create index events_day on events (page_id, ((at at time zone 'UTC')::date), visitor);
drop index events_page;
