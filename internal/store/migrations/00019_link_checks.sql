-- +goose Up

-- What came of asking the address of a destination last.
create table link_checks (
    destination_id    uuid primary key references destinations on delete cascade,
    address           text        not null, -- the one that was asked
    arrived           text        not null default '',
    method            text        not null,
    status            integer     not null,
    took_ms           integer     not null,
    redirects         integer     not null,
    permanent         boolean     not null,
    failure           text        not null default '',
    certificate_until timestamptz,
    at                timestamptz not null,
    failures          integer     not null -- in a row
);

-- When to ask a destination again. A new one rests a little: it may still be typed.
alter table destinations add column next_check_at timestamptz not null default now() + interval '2 minutes';
create index destinations_checks on destinations (next_check_at) where address like 'http%';
