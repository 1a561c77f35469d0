-- +goose Up
-- What was there before a variant of a trial was put in place: { draft, revision, edition, endedAt, ending }.
alter table trials add column undo jsonb;

-- +goose Down
alter table trials drop column undo;
