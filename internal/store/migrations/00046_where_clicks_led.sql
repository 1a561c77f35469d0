-- +goose Up

-- Where clicks led: a destination, and the address that it had at that moment. Neither changes any more, whatever
-- becomes of the destination. They are counted by their number: an address may be too long for a key.
create table click_targets (
    id             bigint generated always as identity primary key,
    workspace_id   uuid not null references workspaces on delete cascade,
    destination_id uuid not null, -- it may be deleted
    address        text not null,
    address_key    text not null  -- what all addresses share that lead to the same place
);
create unique index click_targets_led on click_targets (workspace_id, destination_id, md5(address));
create index click_targets_key on click_targets (workspace_id, md5(address_key));

alter table events add column click_target_id bigint; -- null for a view, and for a click that led to no destination

create table daily_targets (
    endpoint_id     uuid    not null references endpoints on delete cascade,
    utc_day         date    not null,
    day             date    not null,
    click_target_id bigint  not null,
    block           text    not null, -- or where a short link led
    item            text    not null,
    clicks          integer not null,
    primary key (endpoint_id, utc_day, day, click_target_id, block, item)
);
create index daily_targets_target on daily_targets (click_target_id, utc_day);
