-- +goose Up

-- Values of campaign tags that a workspace has used, to be offered again.
create table campaign_values (
    workspace_id uuid        not null references workspaces on delete cascade,
    tag          text        not null, -- such as utm_source
    value        text        not null,
    used_at      timestamptz not null,
    primary key (workspace_id, tag, value)
);
