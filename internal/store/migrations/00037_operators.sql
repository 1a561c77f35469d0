-- +goose Up
-- Whoever runs the service keeps somebody out, or takes something down.
alter table users
    add column suspended_at      timestamptz,
    add column suspended_because text not null default '';
alter table endpoints
    add column taken_down_at      timestamptz,
    add column taken_down_because text not null default '';

-- What they did, and why.
create table operator_journal (
    id      uuid primary key,
    at      timestamptz not null,
    who     text        not null, -- on the machine
    did     text        not null,
    subject text        not null,
    because text        not null
);
create index on operator_journal (at desc, id desc);
