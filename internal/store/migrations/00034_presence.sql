-- +goose Up
-- Who has a page open to work on it, and until when that is taken to be so. Lost with a crash, and
-- back within half a minute.
create unlogged table present (
    page_id uuid        not null references pages on delete cascade,
    user_id uuid        not null references users on delete cascade,
    until   timestamptz not null,
    primary key (page_id, user_id)
);
create index present_until on present (until);
