-- +goose Up

-- Passcodes of pages and blocks. Documents name them by ID, so that no edition and no
-- export holds one.
create table passcodes (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    hash         text        not null, -- argon2id, PHC string format
    created_at   timestamptz not null
);
create index passcodes_workspace on passcodes (workspace_id);
