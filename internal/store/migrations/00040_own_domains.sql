-- +goose Up
-- Hosts of their own under which workspaces show their pages. Several workspaces may want a host;
-- the one that proved that it is theirs has it. One that was theirs stays known after it is removed:
-- visits that came from it then came from nowhere else.
alter table domains drop constraint domains_host_key;
alter table domains add column token text not null default '';
alter table domains add column main boolean not null default false;
alter table domains add column front_page uuid references pages on delete set null;
alter table domains add column removed_at timestamptz;

-- What is known of it.
alter table domains add column proven_at timestamptz;
alter table domains add column used_since timestamptz;
alter table domains add column lost_at timestamptz;
alter table domains add column certificate_until timestamptz;
alter table domains add column doubts integer not null default 0;
alter table domains add column doubted_at timestamptz;
alter table domains add column wanted_at timestamptz;
alter table domains add column check_at timestamptz;
alter table domains add column found jsonb not null default '{}';

-- What became of its certificate.
alter table domains add column renew_at timestamptz;
alter table domains add column refusals integer not null default 0;
alter table domains add column refused_at timestamptz;
alter table domains add column refused_because text not null default '';

create unique index domains_proven on domains (host) where proven_at is not null and removed_at is null;
create unique index domains_wanted on domains (workspace_id, host) where removed_at is null;
create index domains_due on domains (check_at) where removed_at is null;

-- Certificates with their keys, and what is on the way to one: for all processes.
create table certificate_files (
    name        text primary key,
    content     bytea       not null,
    modified_at timestamptz not null
);
create table certificate_locks (
    name  text primary key,
    taken uuid        not null, -- by whom
    until timestamptz not null  -- taken anew while the work goes on
);
