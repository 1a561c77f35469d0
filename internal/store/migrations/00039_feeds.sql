-- +goose Up

-- Feeds that blocks of pages take in. What was read last is kept.
create table feeds (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    address      text        not null,
    title        text        not null,
    items        jsonb       not null default '[]',
    media        text[]      not null default '{}', -- names of the pictures of items
    etag         text        not null default '',
    modified     text        not null default '', -- as it was sent
    asked_at     timestamptz not null,
    read_at      timestamptz not null, -- when it last answered with a feed
    due_at       timestamptz not null,
    used_at      timestamptz not null, -- when a page was last found that shows it
    failures     integer     not null default 0, -- in a row
    problem      text        not null default '', -- why there was no answer, in words
    unique (workspace_id, address)
);
create index on feeds (due_at);

-- Tells whether a page shows a feed.
create function shows_feed(document jsonb, feed uuid) returns boolean language sql immutable as
$$ select jsonb_path_exists(document, '$.blocks[*].feed.feedId ? (@ == $id)', jsonb_build_object('id', feed::text)) $$;
