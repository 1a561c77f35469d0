-- +goose Up

-- Windows in which a destination leads somewhere else, and when one of them is over or
-- has begun for good.
alter table destinations add column swaps jsonb not null default '[]';
alter table destinations add column swap_at timestamptz;
create index destinations_swap on destinations (swap_at) where swap_at is not null;

-- The destination that stands for one that was merged with it. Documents go on referring
-- to the one they referred to; its address may be kept once more.
alter table destinations add column if not exists merged_into uuid references destinations on delete cascade;
create index destinations_merged on destinations (merged_into) where merged_into is not null;
drop index destinations_address;
create unique index destinations_address on destinations (workspace_id, md5(address)) where merged_into is null;

-- The IDs by which a destination is referred to: its own, and those of what was merged
-- with it.
-- +goose StatementBegin
create function ids_of_destination(destination uuid) returns text[] language sql stable strict parallel safe as $$
    select array(select id::text from destinations where id = destination or merged_into = destination)
$$;
-- +goose StatementEnd

-- Changes of many destinations at once, so that they can be undone: of each what it was
-- and what it became.
create table destination_changes (
    id uuid primary key,
    workspace_id uuid not null references workspaces on delete cascade,
    user_id uuid references users on delete set null,
    at timestamptz not null,
    undone_at timestamptz,
    changed jsonb not null
);
create index destination_changes_at on destination_changes (workspace_id, at desc);
