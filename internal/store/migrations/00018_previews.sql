-- +goose Up

-- Addresses under which a working copy can be looked at until a time; the secret itself is not kept.
create table page_previews (
    digest     bytea primary key,
    page_id    uuid        not null references pages on delete cascade,
    until      timestamptz not null,
    created_at timestamptz not null
);
create index page_previews_page on page_previews (page_id);
