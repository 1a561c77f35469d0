-- +goose Up

-- Addresses that nobody may have for a while; "resting" is what a page does.
alter table resting_addresses rename to withheld_addresses;

alter table pages add column labels jsonb not null default '[]';
-- The revision that was published last; later ones are edits since.
alter table pages add column published_revision bigint not null default 0;
update pages set published_revision = revision from editions
where editions.page_id = pages.id and number = live_edition
    and draft->'blocks' = document->'blocks' and draft->'header' = document->'header' and draft->'look' = document->'look';

-- When what was deleted is gone for good; null for what was not.
alter table pages add column delete_at timestamptz;
alter table short_links add column delete_at timestamptz;
create index pages_deleted on pages (delete_at) where delete_at is not null;
create index short_links_deleted on short_links (delete_at) where delete_at is not null;

-- What of an edition reach goes by, beside its rows; null where it shows always.
-- +goose StatementBegin
create or replace function times_in(document jsonb) returns jsonb language sql immutable strict parallel safe as $$
    select case when document ? 'when' or document ? 'takeovers' or document ? 'resting'
        then jsonb_strip_nulls(jsonb_build_object(
            'open', document->'when', 'takeovers', document->'takeovers', 'resting', document->'resting')) end
$$;
-- +goose StatementEnd
