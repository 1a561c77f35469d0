-- +goose Up
alter table events
    add column country  text    not null default '', -- where the address belonged, ISO 3166-1 alpha-2; empty for not known
    add column language text    not null default '', -- asked for first by the browser, ISO 639-1; empty for not said
    add column paid     boolean not null default false; -- an advertisement brought the visit

update events set paid = true where utm_medium in ('cpc', 'ppc', 'cpm', 'cpv', 'cpa') or utm_medium like 'paid%';

-- Clicks on what is one of several things to press on a block.
create table daily_items (
    endpoint_id uuid    not null references endpoints on delete cascade,
    utc_day     date    not null,
    day         date    not null,
    block       text    not null,
    item        text    not null,
    source      text    not null,
    clicks      integer not null,
    takers      integer not null,
    primary key (endpoint_id, utc_day, day, block, item, source)
);

-- Visits by what else is known of them.
create table daily_traits (
    endpoint_id    uuid    not null references endpoints on delete cascade,
    utc_day        date    not null,
    day            date    not null,
    trait          text    not null, -- country, language, payment
    value          text    not null, -- empty for not known
    visits         integer not null,
    clicked_visits integer not null,
    primary key (endpoint_id, utc_day, day, trait, value)
);

-- Both are made from the events that are there.
insert into counted_days (endpoint_id, utc_day, due)
select distinct endpoint_id, (at at time zone 'UTC')::date, true from events where exists (select from endpoints where id = endpoint_id)
on conflict (endpoint_id, utc_day) do update set version = excluded.version, due = true, due_from = excluded.due_from, failures = 0;
