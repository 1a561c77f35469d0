-- +goose Up

-- Read-only addresses of a page's figures. Only a digest of what is in the
-- address is kept, so that nobody who reads this table can open one.
create table shared_figures (
    id         uuid primary key,
    page_id    uuid        not null references pages on delete cascade,
    digest     bytea       not null unique,
    name       text        not null, -- whom it is for
    until      timestamptz not null,
    created_at timestamptz not null
);
create index shared_figures_page on shared_figures (page_id, created_at);
