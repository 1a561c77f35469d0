-- +goose Up
-- What partners counted, to be held against what we did.
create table partners (
    id         uuid        primary key,
    page_id    uuid        not null references pages on delete cascade,
    name       text        not null,
    mapping    jsonb       not null, -- of the columns of their reports
    tolerance  double precision not null,
    created_at timestamptz not null,
    unique (page_id, name)
);
create table partner_counts (
    partner_id uuid    not null references partners on delete cascade,
    day        date    not null,
    subject    text    not null, -- as it stands in the report
    clicks     integer not null,
    primary key (partner_id, day, subject)
);
