-- +goose Up
-- How far down openings of a page got, where the page measures that: the furthest block that was on screen. Nobody is told
-- apart, so these are counts from the beginning. Days are those of the workspace's zone at that time.
create table daily_scrolls (
    endpoint_id uuid    not null references endpoints (id) on delete cascade,
    day         date    not null,
    edition     integer not null,
    block       text    not null,
    count       integer not null,
    primary key (endpoint_id, day, edition, block)
);

-- +goose Down
drop table daily_scrolls;
