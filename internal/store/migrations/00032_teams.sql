-- +goose Up
-- What members may do: runs (everything), edits (pages, Shelf, sources), reads (figures).
update memberships set role = 'runs';
alter table memberships
    add constraint memberships_role check (role in ('runs', 'edits', 'reads')),
    add column whole boolean not null default true; -- of the whole workspace; of some pages otherwise
create table membership_pages (
    workspace_id uuid not null,
    user_id      uuid not null,
    page_id      uuid not null references pages on delete cascade,
    primary key (workspace_id, user_id, page_id),
    foreign key (workspace_id, user_id) references memberships on delete cascade
);

-- Whom letters invited to be members.
create table invitations (
    id           uuid        primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    email        text        not null, -- lower case
    role         text        not null check (role in ('runs', 'edits', 'reads')),
    whole        boolean     not null,
    pages        jsonb       not null, -- IDs, of a member for some pages
    invited_by   text        not null, -- e-mail address, as it was then
    created_at   timestamptz not null,
    until        timestamptz not null,
    unique (workspace_id, email)
);
create index invitations_until on invitations (until);
