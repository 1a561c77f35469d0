-- +goose Up

-- Addresses that something leads to, each kept once in a workspace. Documents and
-- short links refer to them by ID.
create table destinations (
    id           uuid primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    address      text        not null, -- where it leads now
    title        text        not null,
    note         text        not null default '',
    labels       jsonb       not null default '[]',
    picture      jsonb,
    revision     bigint      not null default 1,
    created_at   timestamptz not null default now(),
    edited_at    timestamptz -- null: it was made quietly, and goes with the last reference
);
create unique index destinations_address on destinations (workspace_id, md5(address));
create index destinations_order on destinations (workspace_id, created_at desc, id desc);

-- Where it led, and from when on. The latest is where it leads now.
create table destination_addresses (
    destination_id uuid        not null references destinations on delete cascade,
    since          timestamptz not null default now(),
    address        text        not null,
    user_id        uuid references users on delete set null, -- null: it was made so
    primary key (destination_id, since)
);

-- The destinations a document refers to: nothing else in one looks like their IDs.
-- +goose StatementBegin
create function destinations_in(document jsonb) returns text[] language sql immutable strict parallel safe as $$
    select coalesce(array_agg(distinct found[1]), '{}')
    from regexp_matches(document::text, '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}', 'g') as found
$$;
-- +goose StatementEnd
alter table pages add column destinations text[] not null generated always as (destinations_in(draft)) stored;
alter table editions add column destinations text[] not null generated always as (destinations_in(document)) stored;
alter table short_links add column destinations text[] not null generated always as (destinations_in(link)) stored;
create index pages_destinations on pages using gin (destinations);
create index editions_destinations on editions using gin (destinations);
create index short_links_destinations on short_links using gin (destinations);
alter table destinations add column media text[] not null generated always as (coalesce(media_in(picture), '{}')) stored;
