-- +goose Up
-- Accounts that somebody asked for and whose e-mail address is not confirmed.
create table pending_accounts (
    id           uuid        primary key,
    email        text        not null unique, -- lower case
    page_address text        not null,
    zone         text        not null,
    created_at   timestamptz not null,
    until        timestamptz not null
);
create index pending_accounts_until on pending_accounts (until);

-- What letters carry to open something, once, by its digest.
create table letter_tokens (
    digest  bytea       primary key,
    purpose text        not null,
    subject uuid        not null, -- what it opens
    until   timestamptz not null
);
create index letter_tokens_subject on letter_tokens (subject, purpose);
create index letter_tokens_until on letter_tokens (until);

-- E-mail addresses that are to be changed, or were: the old one is told.
create table email_changes (
    id         uuid        primary key,
    user_id    uuid        not null references users on delete cascade,
    old_email  text        not null,
    email      text        not null,
    created_at timestamptz not null,
    done_at    timestamptz
);
create index email_changes_user on email_changes (user_id);

alter table sessions
    add column id         uuid        not null default gen_random_uuid(),
    add column user_agent text        not null default '',
    add column created_at timestamptz not null default now(),
    add column used_at    timestamptz not null default now();
create unique index sessions_id on sessions (id);

alter table users
    add column totp_secret    text,        -- base32 (RFC 4648); null without a second factor
    add column totp_step      bigint not null default 0, -- of the code that was taken last, so that none is taken twice
    add column delete_at      timestamptz; -- when the account is gone for good; null unless it was deleted
create index users_delete_at on users (delete_at) where delete_at is not null;

create table recovery_codes (
    user_id uuid  not null references users on delete cascade,
    digest  bytea not null,
    primary key (user_id, digest)
);

create table passkeys (
    id         uuid        primary key,
    user_id    uuid        not null references users on delete cascade,
    name       text        not null,
    handle     bytea       not null unique, -- the credential's ID
    credential jsonb       not null,
    created_at timestamptz not null,
    used_at    timestamptz
);
create index passkeys_user on passkeys (user_id);
