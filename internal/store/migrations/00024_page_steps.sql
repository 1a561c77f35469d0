-- +goose Up

-- Steps that changed a working copy, so that they can be undone on another day and from
-- another device; each member undoes their own. What was undone is kept until something
-- else is done.
create table page_steps (
    page_id uuid not null references pages on delete cascade,
    user_id uuid not null references users on delete cascade,
    number bigint generated always as identity,
    key text not null,
    name text not null,
    before jsonb not null,
    after jsonb not null,
    -- Of both documents, in bytes of text.
    size integer not null,
    undone boolean not null default false,
    at timestamptz not null,
    media text[] not null generated always as (media_in(before) || media_in(after)) stored,
    primary key (page_id, number),
    unique (page_id, user_id, key)
);
create index page_steps_at on page_steps (at);
