-- +goose Up
-- When and to whom a row of an edition showed; null for always and to everybody.
alter table edition_rows add column showing jsonb;
