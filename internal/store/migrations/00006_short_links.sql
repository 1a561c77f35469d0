-- +goose Up

-- Whatever visits are counted of: pages and short links. Events, sums and shared
-- figures belong to one, under the name of page_id for either.
create table counted (
    id            uuid primary key,
    workspace_id  uuid        not null references workspaces on delete cascade,
    pruned_before timestamptz not null default '-infinity' -- raw events before that are deleted
);
create index counted_workspace on counted (workspace_id);
insert into counted (id, workspace_id, pruned_before) select id, workspace_id, pruned_before from pages;
alter table pages drop column pruned_before;
alter table pages add constraint pages_counted foreign key (id) references counted on delete cascade;

alter table daily_pages drop constraint daily_pages_page_id_fkey;
alter table daily_blocks drop constraint daily_blocks_page_id_fkey;
alter table daily_left_out drop constraint daily_left_out_page_id_fkey;
alter table daily_due drop constraint daily_due_page_id_fkey;
alter table shared_figures drop constraint shared_figures_page_id_fkey;
alter table daily_pages add constraint daily_pages_counted foreign key (page_id) references counted on delete cascade;
alter table daily_blocks add constraint daily_blocks_counted foreign key (page_id) references counted on delete cascade;
alter table daily_left_out add constraint daily_left_out_counted foreign key (page_id) references counted on delete cascade;
alter table daily_due add constraint daily_due_counted foreign key (page_id) references counted on delete cascade;
alter table shared_figures add constraint shared_figures_counted foreign key (page_id) references counted on delete cascade;

-- Pages and short links stand in the same place, so they share their addresses.
alter table page_addresses rename to addresses;
alter table addresses rename column page_id to counted_id;
alter table addresses rename constraint page_addresses_pkey to addresses_pkey;
alter index page_addresses_present rename to addresses_present;
alter table addresses drop constraint page_addresses_page_id_fkey;
alter table addresses add constraint addresses_counted foreign key (counted_id) references counted on delete cascade;

create table short_links (
    id           uuid primary key references counted on delete cascade,
    workspace_id uuid        not null references workspaces on delete cascade,
    link         jsonb       not null,
    revision     bigint      not null default 1,
    created_at   timestamptz not null
);
create index short_links_workspace on short_links (workspace_id, created_at);
