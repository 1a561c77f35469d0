-- +goose Up
-- What publishing an edition changed, in words; null for editions from before that was kept.
alter table editions add column changes jsonb;
