-- +goose Up
-- What was changed together is one command: it is undone together, under the title that it had.
ALTER TABLE edit ADD COLUMN command uuid, ADD COLUMN title text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE edit DROP COLUMN command, DROP COLUMN title;
