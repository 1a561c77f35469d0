-- +goose Up
-- Times that visitors asked for.
create table bookings (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    page_id      uuid        references pages on delete set null,
    page_name    text        not null, -- as it was called then
    block        text        not null,
    block_title  text        not null,
    edition      integer     not null,
    source       text        not null, -- where the visit came from, as in daily_pages
    own          boolean     not null, -- by a member's browser: in no figures
    language     text        not null,
    place        text        not null, -- where it is, as the page said then
    zone         text        not null, -- by whose clocks it was asked for
    starts_at    timestamptz not null,
    ends_at      timestamptz not null,
    name         text        not null,
    address      text        not null,
    address_key  text        not null, -- in small letters
    word         text        not null, -- that the visitor wrote with it
    price        bigint      not null, -- in the smallest unit of the currency; 0 for nothing
    currency     text        not null,
    asked_at     timestamptz not null,
    state        text        not null default 'asked' check (state in ('asked', 'agreed', 'declined', 'calledOff', 'withdrawn')),
    state_at     timestamptz not null,
    agreed_at    timestamptz,
    reply        text        not null default '', -- that the creator wrote with the answer
    told_at      timestamptz -- when the creator was last told of what the visitor did; null for not yet
);
-- Sent twice it is one.
create unique index bookings_alike on bookings (workspace_id, block, starts_at, address_key, md5(name || chr(10) || word))
    where state = 'asked';
create index on bookings (workspace_id, starts_at, id);
create index on bookings (workspace_id, starts_at) where state = 'asked';
create index on bookings (page_id, ends_at) where state = 'agreed';
create index on bookings (page_id, asked_at);
create index on bookings (workspace_id, told_at);
create index on bookings (workspace_id) where told_at is null;
create index on bookings (ends_at);

-- For what was agreed to.
alter table payments add column booking_id uuid references bookings on delete set null;
create index on payments (booking_id) where booking_id is not null;
