-- +goose Up

-- Pages on which a heading keeps what stands under it in order by pull, and when that was
-- seen to last.
alter table pages add column by_pull boolean not null
    generated always as (jsonb_path_exists(draft, '$.blocks[*].heading.order ? (@ == "pull")')) stored;
alter table pages add column ordered_at timestamptz;
create index pages_by_pull on pages (ordered_at nulls first) where by_pull;
