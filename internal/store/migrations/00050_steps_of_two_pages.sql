-- +goose Up
-- A step that changed two pages has the same key on both.
create index page_steps_key on page_steps (user_id, key);

-- +goose Down
drop index page_steps_key;
