-- +goose Up
-- What was answered to requests that carry a key, so that one that is sent twice is done once.
create table idempotency_keys (
    owner      text        not null, -- who asks: a member, and the program that acts for them
    key        text        not null,
    request    bytea       not null, -- digest of what was asked
    created_at timestamptz not null,
    status     integer,              -- null while it is being done
    answer     bytea,                -- null where it is not kept
    primary key (owner, key)
);
create index on idempotency_keys (created_at);
