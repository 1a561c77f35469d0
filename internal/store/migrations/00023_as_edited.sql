-- +goose Up

-- Pages of which each saved change goes live by itself, and who wanted that.
alter table pages add column as_edited boolean not null default false;
alter table pages add column as_edited_by uuid references users on delete set null;
create index pages_going_live on pages (id) where as_edited and revision > published_revision;

-- Editions that went live by themselves; they have a limit of their own.
alter table editions add column as_edited boolean not null default false;
