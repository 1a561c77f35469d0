-- +goose Up
-- A form that is sent twice is one booking by the key it carries. Who asks for the same time in the same words is
-- somebody else, as far as anybody can know, and is shown nothing of the first.
drop index bookings_alike;
alter table bookings add column once text not null default ''; -- a digest of the key of the form; empty for none
create unique index bookings_once on bookings (page_id, once) where once <> '';
