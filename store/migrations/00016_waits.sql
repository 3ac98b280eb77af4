-- +goose Up
-- What a job waits for, sheet by sheet, for the list: how much, and the first of it in words.
ALTER TABLE job ADD COLUMN waits jsonb NOT NULL DEFAULT '[]';

-- +goose Down
ALTER TABLE job DROP COLUMN waits;
