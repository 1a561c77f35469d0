-- +goose Up
create table workspaces (
    id         uuid primary key,
    zone       text        not null,
    created_at timestamptz not null
);

create table members (
    id            uuid primary key,
    workspace_id  uuid        not null references workspaces on delete cascade,
    email         text        not null unique, -- lower case
    password_hash text        not null,
    created_at    timestamptz not null
);
create index members_workspace on members (workspace_id);

-- The shape the session library's PostgreSQL store expects.
create table sessions (
    token  text primary key,
    data   bytea       not null,
    expiry timestamptz not null
);
create index sessions_expiry on sessions (expiry);

create table pages (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    draft        jsonb       not null,
    revision     bigint      not null default 1,
    live_edition integer     not null default 0, -- 0: never published
    created_at   timestamptz not null
);
create index pages_workspace on pages (workspace_id, created_at);

-- Present and past addresses: a past one leads to the page for good, and the
-- primary key keeps it from being taken by anybody else.
create table page_addresses (
    address text primary key,
    page_id uuid        not null references pages on delete cascade,
    present boolean     not null,
    since   timestamptz not null
);
create unique index page_addresses_present on page_addresses (page_id) where present;

create table editions (
    page_id      uuid        not null references pages on delete cascade,
    number       integer     not null,
    document     jsonb       not null,
    published_at timestamptz not null,
    member_id    uuid references members on delete set null,
    primary key (page_id, number)
);

create table sources (
    id         uuid primary key,
    page_id    uuid        not null references pages on delete cascade,
    name       text        not null,
    retired_at timestamptz,
    seen_at    timestamptz, -- the latest counted visit; null until the first
    created_at timestamptz not null
);
create index sources_page on sources (page_id, created_at);

-- Present and past tags: old posts and printed cards keep carrying past ones.
create table source_tags (
    page_id   uuid    not null references pages on delete cascade,
    tag       text    not null,
    source_id uuid    not null references sources on delete cascade,
    present   boolean not null,
    primary key (page_id, tag)
);
create unique index source_tags_present on source_tags (source_id) where present;

create table media (
    workspace_id uuid        not null references workspaces on delete cascade,
    name         text        not null, -- SHA-256 of the bytes, with its ending
    bytes        bytea       not null,
    width        integer     not null,
    height       integer     not null,
    created_at   timestamptz not null,
    primary key (name, workspace_id)
);

create table events (
    id         uuid primary key, -- UUIDv7, made when it happened
    at         timestamptz not null,
    page_id    uuid        not null references pages on delete cascade,
    edition    integer     not null,
    kind       text        not null,
    block      text        not null, -- empty for a view
    place      integer     not null, -- 0 for a view
    source_id  uuid references sources on delete set null,
    evidence   text        not null,
    tag        text        not null, -- as it stood in the address
    referrer   text        not null, -- host only
    user_agent text        not null,
    visitor    bytea       not null,
    flags      integer     not null,
    rules      integer     not null
);
create index events_page on events (page_id, at);
create index events_repeats on events (visitor, at);

-- Destroyed after 48 hours; with them goes the way from a key to an address.
create table salts (
    day  date primary key,
    salt bytea not null
);

-- What this installation signs with.
create table keys (
    name  text primary key,
    value bytea not null
);
