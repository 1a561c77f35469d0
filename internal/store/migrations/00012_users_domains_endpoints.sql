-- +goose Up

-- People, and the workspaces they belong to.
create table users (
    id            uuid primary key,
    email         text        not null unique, -- lower case
    password_hash text        not null,
    created_at    timestamptz not null
);
create table memberships (
    workspace_id uuid        not null references workspaces on delete cascade,
    user_id      uuid        not null references users on delete cascade,
    role         text        not null, -- owner
    created_at   timestamptz not null,
    primary key (workspace_id, user_id)
);
create index memberships_user on memberships (user_id, created_at);
insert into users (id, email, password_hash, created_at) select id, email, password_hash, created_at from members;
insert into memberships (workspace_id, user_id, role, created_at) select workspace_id, id, 'owner', created_at from members;

alter table sessions drop constraint sessions_member_id_fkey;
alter table sessions rename column member_id to user_id;
alter table sessions add constraint sessions_user foreign key (user_id) references users on delete cascade;
alter index sessions_member rename to sessions_user_id;
alter table editions drop constraint editions_member_id_fkey;
alter table editions rename column member_id to user_id;
alter table editions add constraint editions_user foreign key (user_id) references users on delete set null;
drop table members;

-- Pages and short links: what stands at a public address, and what visits are
-- counted of. Events, sums and shared figures belong to one of them. Whose it is
-- stands here; a page or a link that says otherwise cannot be stored.
alter table counted rename to endpoints;
alter index counted_pkey rename to endpoints_pkey;
alter index counted_workspace rename to endpoints_workspace;
alter table endpoints add constraint endpoints_of_workspace unique (id, workspace_id);
alter table pages drop constraint pages_counted;
alter table pages add constraint pages_endpoint foreign key (id, workspace_id) references endpoints (id, workspace_id) on delete cascade;
alter table short_links drop constraint short_links_id_fkey;
alter table short_links add constraint short_links_endpoint foreign key (id, workspace_id) references endpoints (id, workspace_id) on delete cascade;

alter table addresses rename column counted_id to endpoint_id;
alter table addresses rename constraint addresses_counted to addresses_endpoint;
alter index addresses_counted rename to addresses_of_endpoint;
alter table events rename column page_id to endpoint_id;
alter table shared_figures rename column page_id to endpoint_id;
alter table shared_figures rename constraint shared_figures_counted to shared_figures_endpoint;
alter index shared_figures_page rename to shared_figures_of_endpoint;
alter table daily_pages rename column page_id to endpoint_id;
alter table daily_pages rename column unit to utc_day;
alter table daily_pages rename constraint daily_pages_counted to daily_pages_endpoint;
alter table daily_blocks rename column page_id to endpoint_id;
alter table daily_blocks rename column unit to utc_day;
alter table daily_blocks rename constraint daily_blocks_counted to daily_blocks_endpoint;
alter table daily_left_out rename column page_id to endpoint_id;
alter table daily_left_out rename column unit to utc_day;
alter table daily_left_out rename constraint daily_left_out_counted to daily_left_out_endpoint;
alter table daily_hours rename column page_id to endpoint_id;
alter table daily_hours rename column unit to utc_day;
alter table counted_days rename column page_id to endpoint_id;
alter table counted_days rename column unit to utc_day;
alter table busy_visitors rename column page_id to endpoint_id;
alter table busy_visitors rename column unit to utc_day;

-- Addresses belong to a domain. The one with the nil ID is the installation's own,
-- which everybody shares; its host is a setting.
create table domains (
    id           uuid primary key,
    workspace_id uuid references workspaces on delete cascade, -- null: shared by all
    host         text        not null unique,
    created_at   timestamptz not null
);
insert into domains (id, host, created_at) values ('00000000-0000-0000-0000-000000000000', '', now());
alter table addresses add column domain_id uuid not null default '00000000-0000-0000-0000-000000000000' references domains on delete cascade;
alter table addresses alter column domain_id drop default;
alter table addresses drop constraint addresses_pkey;
alter table addresses add primary key (domain_id, address);
alter table resting_addresses add column domain_id uuid not null default '00000000-0000-0000-0000-000000000000' references domains on delete cascade;
alter table resting_addresses alter column domain_id drop default;
alter table resting_addresses drop constraint resting_addresses_pkey;
alter table resting_addresses add primary key (domain_id, address);

-- Each user agent is kept once.
create table user_agents (
    id       bigint generated always as identity primary key,
    text     text not null unique,
    last_day date not null -- UTC day of the latest event that has it, or later
);
insert into user_agents (text, last_day) select user_agent, max((at at time zone 'UTC')::date) from events group by user_agent;
alter table events add column user_agent_id bigint;
alter table events add column outcome text not null default ''; -- where a short link led; empty for a page
update events set user_agent_id = user_agents.id,
    outcome = case when exists (select from short_links where short_links.id = endpoint_id) then block else '' end,
    block = case when exists (select from short_links where short_links.id = endpoint_id) then '' else block end
from user_agents where user_agents.text = events.user_agent;
alter table events alter column user_agent_id set not null;
alter table events drop column user_agent;
