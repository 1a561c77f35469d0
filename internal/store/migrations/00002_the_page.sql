-- +goose Up

-- Which of the several things on a block was pressed; empty where there is one.
alter table events add column item text not null default '';

-- Looks that a workspace keeps as themes of its own.
create table themes (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    name         text        not null,
    look         jsonb       not null,
    created_at   timestamptz not null
);
create index themes_workspace on themes (workspace_id, created_at);
