-- +goose Up

-- What the client called its save of the working copy. Whoever never got the answer
-- knows by it that the save was made.
alter table pages add column saved_as text not null default '';
