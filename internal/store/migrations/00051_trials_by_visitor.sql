-- +goose Up
-- Variants are shared out among visitors of a day, so that what is compared has to be told apart by them.
alter table daily_trials
    add column visitors       integer not null default 0,
    add column reach_squared  bigint  not null default 0, -- sum over visitors of the square of their visits
    add column reach_takers   bigint  not null default 0, -- of their visits times those of them that pressed
    add column takers_squared bigint  not null default 0; -- of the square of these

-- Days whose events are gone: every visit as a visitor of its own.
update daily_trials set visitors = reach, reach_squared = reach, reach_takers = takers, takers_squared = takers;

-- The others are made from the events that are there.
update counted_days set due = true, due_from = now(), failures = 0
from (select endpoint_id, utc_day from daily_trials group by 1, 2) as tried
where counted_days.endpoint_id = tried.endpoint_id and counted_days.utc_day = tried.utc_day
    and exists (select from events where events.endpoint_id = tried.endpoint_id
        and at >= tried.utc_day and at < tried.utc_day + 1);
