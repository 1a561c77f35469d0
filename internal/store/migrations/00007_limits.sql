-- +goose Up

-- The files a document names. Names are digests (media.name), and nothing else in
-- a document looks like one.
-- +goose StatementBegin
create function media_in(document jsonb) returns text[] language sql immutable strict parallel safe as $$
    select coalesce(array_agg(distinct found[1]), '{}') from regexp_matches(document::text, '"([0-9a-f]{64}\.[a-z0-9]{2,5})"', 'g') as found
$$;
-- +goose StatementEnd
alter table pages add column media text[] not null generated always as (media_in(draft)) stored;
alter table editions add column media text[] not null generated always as (media_in(document)) stored;
alter table themes add column media text[] not null generated always as (media_in(look)) stored;
alter table short_links add column media text[] not null generated always as (media_in(link)) stored;
create index editions_media on editions using gin (media);

-- Bytes are in the blob store, under a key that is used once. Rows that still have
-- theirs are moved by the program.
alter table media add column blob text not null default '';
alter table media add column size bigint not null default 0;
alter table media add column kept_at timestamptz;    -- when it was last uploaded or chosen
alter table media add column deleted_at timestamptz; -- its address says that it is gone
update media set size = octet_length(bytes), kept_at = created_at;
alter table media alter column kept_at set not null;
alter table media alter column bytes drop not null;
create index media_workspace on media (workspace_id, created_at desc);
create index media_unmoved on media (workspace_id, name) where blob = '' and deleted_at is null;

-- Blobs that belong to no row: noted before they are written and when their row
-- goes, so that none is left over whatever breaks off in between.
create table loose_blobs (
    blob  text primary key,
    since timestamptz not null
);
-- +goose StatementBegin
create function loosen_blob() returns trigger language plpgsql as $$
begin
    if old.blob <> '' then
        insert into loose_blobs values (old.blob, now()) on conflict do nothing;
    end if;
    return null;
end $$;
-- +goose StatementEnd
create trigger media_loosens after delete on media for each row execute function loosen_blob();

-- The export of a workspace: the one under way or the latest.
create table exports (
    workspace_id uuid primary key references workspaces on delete cascade,
    id           uuid        not null,
    state        text        not null, -- running, ready, failed, stopped
    done         integer     not null default 0,
    parts        integer     not null default 0,
    blob         text        not null default '',
    size         bigint      not null default 0,
    started_at   timestamptz not null,
    alive_at     timestamptz not null, -- whoever writes it says so
    ended_at     timestamptz
);
create trigger exports_loosen after delete on exports for each row execute function loosen_blob();

-- Sessions end with their member. One that was ended stays as a row without data,
-- so that a request that was still under way cannot bring it back.
alter table sessions add column member_id uuid references members on delete cascade;
alter table sessions add column ended_at timestamptz;
create index sessions_member on sessions (member_id);

-- Attempts to get in, under a keyed digest of who tries what; until is when the
-- budget is whole again (generic cell rate algorithm).
create table attempts (
    key   bytea primary key,
    until timestamptz not null
);
create index attempts_until on attempts (until);

-- Addresses that were published and are nobody's now. Until then nobody else may
-- have them.
create table resting_addresses (
    address text primary key,
    until   timestamptz not null
);

-- Whether what this edition took off the page stops leading at once, or a day
-- after.
alter table editions add column ends_links boolean not null default false;
create index editions_published on editions (page_id, published_at);

create index addresses_counted on addresses (counted_id);
create index source_tags_source on source_tags (source_id);
create index sources_page_order on sources (page_id, created_at, id);
create index short_links_order on short_links (workspace_id, created_at desc, id desc);
