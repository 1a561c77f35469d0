-- +goose Up
-- What part of an hour came from a source, and which blocks were pressed in it.
create table daily_hour_shares (
    endpoint_id uuid     not null references endpoints on delete cascade,
    utc_day     date     not null,
    day         date     not null,
    hour        smallint not null,
    split       text     not null, -- source: visits; block: clicks
    of_key      text     not null, -- the source, with unlisted ones together, or the block
    count       integer  not null,
    primary key (endpoint_id, utc_day, day, hour, split, of_key)
);

-- They are made from the events that are there.
insert into counted_days (endpoint_id, utc_day, due)
select distinct endpoint_id, (at at time zone 'UTC')::date, true from events where exists (select from endpoints where id = endpoint_id)
on conflict (endpoint_id, utc_day) do update set version = excluded.version, due = true, due_from = excluded.due_from, failures = 0;
