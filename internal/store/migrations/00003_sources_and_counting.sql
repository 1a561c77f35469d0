-- +goose Up

-- What kind of place a source is, and by what it can be known without its tag.
alter table sources add column kind     text  not null default 'profile';
alter table sources add column medium   text  not null default 'social';
alter table sources add column profiles jsonb not null default '[]'; -- addresses of the profile, the main one first
alter table sources add column names    jsonb not null default '[]'; -- other names in utm_source
alter table sources add column networks jsonb not null default '[]'; -- besides those of the profiles
alter table sources add column since    timestamptz;                 -- null: nobody knows, or always
update sources set since = created_at;

alter table workspaces add column keep_days integer not null default 760; -- raw events; daily figures stay
alter table pages add column pruned_before timestamptz not null default '-infinity'; -- raw events before that are deleted

-- Events move into monthly partitions, which the program makes as they are
-- needed. No foreign key: an event may wait in the log while its page is erased,
-- and is then left out by the insert itself.
alter table events rename to events_before;
alter table events_before rename constraint events_pkey to events_before_pkey;
drop index events_page;
drop index events_repeats;
create table events (
    id           uuid        not null, -- UUIDv7, made when it happened
    at           timestamptz not null,
    page_id      uuid        not null,
    edition      integer     not null,
    kind         text        not null,
    block        text        not null, -- empty for a view
    item         text        not null,
    place        integer     not null, -- 0 for a view
    source       text        not null, -- ID, or key of an unlisted one; empty for untagged
    evidence     text        not null,
    tag          text        not null, -- as it stood in the address
    utm_source   text        not null,
    utm_medium   text        not null,
    utm_campaign text        not null,
    utm_term     text        not null,
    utm_content  text        not null,
    referrer     text        not null, -- host only
    user_agent   text        not null,
    visitor      bytea       not null,
    flags        integer     not null, -- of the event itself; repeats are marked when figures are made
    rules        integer     not null,
    primary key (id, at)
) partition by range (at);
create index events_page on events (page_id, at);

-- +goose StatementBegin
do $$
declare
    month timestamptz;
begin
    for month in select distinct date_trunc('month', at at time zone 'UTC') at time zone 'UTC' from events_before loop
        execute format('create table %I partition of events for values from (%L) to (%L)',
            'events_' || to_char(month at time zone 'UTC', 'YYYY_MM'), month, (month at time zone 'UTC' + interval '1 month') at time zone 'UTC');
    end loop;
end $$;
-- +goose StatementEnd

insert into events
select id, at, page_id, edition, kind, block, item, place, coalesce(source_id::text, ''), evidence, tag, '', '', '', '', '',
       referrer, user_agent, visitor, flags & ~16, rules
from events_before;
drop table events_before;

-- Sums of each page's UTC days, made from events. day is the day in the
-- workspace's zone. They may be thrown away and made again.
create table daily_pages (
    page_id        uuid    not null references pages on delete cascade,
    unit           date    not null, -- the UTC day of the events
    day            date    not null,
    source         text    not null,
    evidence       text    not null,
    device         text    not null,
    views          integer not null,
    visits         integer not null,
    visitors       integer not null,
    clicks         integer not null,
    clicked_visits integer not null,
    primary key (page_id, unit, day, source, evidence, device)
);
create table daily_blocks (
    page_id uuid    not null references pages on delete cascade,
    unit    date    not null,
    day     date    not null,
    block   text    not null,
    source  text    not null,
    device  text    not null,
    clicks  integer not null,
    takers  integer not null,
    reach   integer not null,
    primary key (page_id, unit, day, block, source, device)
);
create table daily_left_out (
    page_id uuid    not null references pages on delete cascade,
    unit    date    not null,
    day     date    not null,
    reason  text    not null,
    views   integer not null,
    clicks  integer not null,
    primary key (page_id, unit, day, reason)
);

-- Days whose sums no longer hold, or were never made. A version is never used
-- twice, so whoever made sums knows whether they still hold when they are kept.
create sequence daily_versions;
create table daily_due (
    page_id uuid   not null references pages on delete cascade,
    unit    date   not null,
    version bigint not null default nextval('daily_versions'),
    primary key (page_id, unit)
);
insert into daily_due (page_id, unit)
select distinct page_id, (at at time zone 'UTC')::date from events;
