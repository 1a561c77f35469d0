-- +goose Up

-- What takes the place of a page for a while; over or not, until the next is set.
alter table pages add column takeovers jsonb not null default '[]';
-- They may refer to destinations, as the working copy does.
alter table pages drop column destinations;
alter table pages add column destinations text[] not null
    generated always as (destinations_in(draft || takeovers)) stored;
create index pages_destinations on pages using gin (destinations);

-- What of an edition reach goes by, beside its rows; null where it shows always.
-- +goose StatementBegin
create function times_in(document jsonb) returns jsonb language sql immutable strict parallel safe as $$
    select case when document ? 'when' or document ? 'takeovers'
        then jsonb_build_object('open', document->'when', 'takeovers', document->'takeovers') end
$$;
-- +goose StatementEnd
alter table editions add column timetable jsonb generated always as (times_in(document)) stored;

create index editions_takeovers on editions (page_id, published_at) where timetable ? 'takeovers';

-- Reach by source goes by all evidence from now on, as the page does, and not by tags alone.
update counted_days set due = true, due_from = now(), failures = 0
from (select edition_rows.page_id, min(published_at) as since
      from edition_rows join editions on editions.page_id = edition_rows.page_id and number = edition
      where showing ? 'to' group by edition_rows.page_id) as ruled
where endpoint_id = ruled.page_id and utc_day >= (since at time zone 'UTC')::date;
