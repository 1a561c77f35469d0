-- +goose Up
-- Who left an e-mail address on a page.
create table sign_ups (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    page_id      uuid        references pages on delete set null,
    page_name    text        not null, -- as it was called then
    block        text        not null,
    block_title  text        not null,
    edition      integer     not null,
    address      text        not null,
    address_key  text        not null, -- in small letters: one person once
    source       text        not null, -- where the visit came from, as in daily_pages
    own          boolean     not null, -- by a member's browser: in no figures
    language     text        not null,
    consent      text        not null, -- what was agreed to, word for word
    asked_at     timestamptz not null,
    letters      integer     not null default 1, -- how often a letter to confirm it was sent
    letter_at    timestamptz not null,
    confirmed_at timestamptz,
    unique (workspace_id, address_key)
);
create index on sign_ups (workspace_id, asked_at desc, id desc);
create index on sign_ups (page_id, asked_at) where confirmed_at is not null;
create index on sign_ups (letter_at) where confirmed_at is null;
create index on sign_ups (workspace_id) where confirmed_at is not null;

-- Where a workspace's sign-ups are handed on to.
create table list_services (
    workspace_id uuid primary key references workspaces on delete cascade,
    address      text        not null, -- of its interface
    list         text        not null,
    token        text        not null,
    created_at   timestamptz not null,
    off_at       timestamptz,
    off_because  text        not null default ''
);

-- What the list service is to know of a sign-up, and whether it does.
create table list_members (
    sign_up_id   uuid primary key,
    workspace_id uuid        not null references list_services on delete cascade,
    present      boolean     not null, -- false: it is to be taken off
    version      integer     not null default 1,
    attempts     integer     not null default 0,
    next_at      timestamptz, -- null once it knows
    told_at      timestamptz,
    status       integer     not null default 0, -- of the last answer; 0 for none
    failure      text        not null default ''
);
create index on list_members (next_at) where next_at is not null;
create index on list_members (workspace_id);
