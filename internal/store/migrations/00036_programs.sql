-- +goose Up
-- What programs of a member get in with.
create table api_tokens (
    id           uuid primary key,
    workspace_id uuid        not null,
    user_id      uuid        not null,
    name         text        not null,
    digest       bytea       not null unique, -- SHA-256 of the token
    role         text        not null, -- at most; less where the member's own is
    created_at   timestamptz not null,
    used_at      timestamptz,
    until        timestamptz not null,
    foreign key (workspace_id, user_id) references memberships (workspace_id, user_id) on delete cascade
);
create index on api_tokens (user_id, workspace_id);

-- Addresses that are told of what happens in a workspace.
create table webhooks (
    id               uuid primary key,
    workspace_id     uuid        not null references workspaces on delete cascade,
    address          text        not null,
    kinds            jsonb       not null, -- what it is told of: a list of names
    clicks           integer     not null, -- how many on a day are told of; 0 where they are not
    secret           text        not null,
    old_secret       text        not null default '', -- signs too, until then
    old_secret_until timestamptz,
    created_at       timestamptz not null,
    off_at           timestamptz,
    off_because      text        not null default ''
);
create index on webhooks (workspace_id);

-- What they are told, and what came of it.
create table webhook_deliveries (
    id         uuid primary key,
    webhook_id uuid        not null references webhooks on delete cascade,
    kind       text        not null,
    body       text        not null,
    created_at timestamptz not null,
    state      text        not null, -- waiting, delivered, failed
    attempts   integer     not null default 0,
    next_at    timestamptz not null,
    last_at    timestamptz,
    status     integer     not null default 0, -- of the last answer; 0 for none
    failure    text        not null default '' -- why there was none
);
create index on webhook_deliveries (webhook_id, created_at desc, id desc);
create index on webhook_deliveries (next_at) where state = 'waiting';

-- Which webhooks were told that a page was clicked so often on a day.
create table webhook_clicks_told (
    webhook_id uuid not null references webhooks on delete cascade,
    page_id    uuid not null references pages on delete cascade,
    day        date not null,
    primary key (webhook_id, page_id, day)
);
