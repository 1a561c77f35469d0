-- +goose Up

-- Destinations that were taken in from a file at once, to be taken out again.
create table imports (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    user_id      uuid references users on delete set null,
    at           timestamptz not null,
    made         uuid[]      not null, -- destinations
    undone_at    timestamptz
);
create index imports_workspace on imports (workspace_id, at desc);

-- What the columns of a file were said to be, by the names of its columns.
create table column_mappings (
    workspace_id uuid        not null references workspaces on delete cascade,
    columns      bytea       not null, -- SHA-256 of their names
    mapping      jsonb       not null,
    used_at      timestamptz not null,
    primary key (workspace_id, columns)
);
