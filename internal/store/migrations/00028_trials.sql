-- +goose Up
-- Variants that were tried on a page, and how that ended.
create table trials (
    id         text        primary key,
    page_id    uuid        not null references pages on delete cascade,
    trial      jsonb       not null, -- as it stands in editions
    plan       jsonb       not null, -- what it could find, as was said before it began
    worth      double precision not null, -- the smallest difference worth having
    began_at   timestamptz not null,
    until      timestamptz not null,
    ended_at   timestamptz, -- null while it runs, or has run out by itself
    ending     text        not null default '', -- ended, changed, chosen
    chosen     integer     not null default 0
);
create index trials_page on trials (page_id, began_at desc);
create unique index trials_running on trials (page_id) where ended_at is null;

alter table editions add column trial jsonb generated always as (document->'trial') stored;

create table daily_trials (
    endpoint_id uuid     not null references endpoints on delete cascade,
    utc_day     date     not null,
    day         date     not null,
    trial       text     not null,
    variant     smallint not null, -- 0 is the page as it is
    reach       integer  not null,
    takers      integer  not null,
    primary key (endpoint_id, utc_day, day, trial, variant)
);
