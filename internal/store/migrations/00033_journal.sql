-- +goose Up
-- Who did what in a workspace, and when. What somebody does again and again within an hour is one
-- entry.
create table journal (
    id           uuid        primary key,
    workspace_id uuid        not null references workspaces on delete cascade,
    who          text        not null, -- e-mail address, as it was then
    did          text        not null,
    page_id      uuid,                 -- of what it was about, which may be gone
    page         text        not null, -- what that was called then
    subject      text        not null, -- what else it was about, in a word
    hour         timestamptz not null,
    first_at     timestamptz not null,
    last_at      timestamptz not null,
    times        integer     not null,
    unique nulls not distinct (workspace_id, hour, who, did, page_id, subject)
);
create index journal_latest on journal (workspace_id, last_at desc, id desc);
create index journal_over on journal (last_at);
