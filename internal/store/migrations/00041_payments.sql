-- +goose Up
-- By which service visitors pay a workspace. One that was ended still tells of what was paid by it.
create table payment_services (
    id           uuid primary key, -- stands in the address that notices come to
    workspace_id uuid        not null references workspaces on delete cascade,
    address      text        not null, -- of its interface
    token        text        not null,
    secret       text        not null, -- that notices are signed with
    created_at   timestamptz not null,
    ended_at     timestamptz,
    failed_at    timestamptz,          -- when it last took nothing
    failure      text        not null default ''
);
create unique index payment_services_present on payment_services (workspace_id) where ended_at is null;
create index on payment_services (workspace_id);

-- What visitors pay. Amounts are in the smallest unit of the currency.
create table payments (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    service_id   uuid        not null, -- by which it is paid
    page_id      uuid        references pages on delete set null,
    page_name    text        not null, -- as it was called then
    block        text        not null,
    block_title  text        not null,
    edition      integer     not null,
    source       text        not null, -- where the visit came from, as in daily_pages
    own          boolean     not null, -- by a member's browser: in no figures
    language     text        not null,
    amount       bigint      not null check (amount > 0),
    currency     text        not null,
    word         text        not null, -- that the visitor wrote with it
    begun_at     timestamptz not null,
    checkout     text        not null default '', -- what the service calls it
    paid_at      timestamptz,
    failed_at    timestamptz,
    refunded     bigint      not null default 0,
    refunded_at  timestamptz
);
create index on payments (workspace_id, begun_at desc, id desc);
create index on payments (page_id, paid_at) where paid_at is not null;
create index on payments (workspace_id) where paid_at is null;
create index on payments (begun_at) where paid_at is null;
