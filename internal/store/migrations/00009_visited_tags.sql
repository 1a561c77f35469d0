-- +goose Up

-- Whether anybody but the creator ever came by a tag. One that nobody came by can be
-- given to another source; of older ones, all count as visited whose source was.
alter table source_tags add column visited boolean not null default false;

update source_tags set visited = true from sources where sources.id = source_tags.source_id and sources.seen_at is not null;

update source_tags set visited = true
from (select distinct page_id, lower(tag) as tag from events where kind = 'view' and tag <> '' and flags & 8 = 0) came
where came.page_id = source_tags.page_id and came.tag = source_tags.tag;
