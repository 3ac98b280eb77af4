-- +goose Up
-- Whose locks hang on a job, for the list: who, and which lock and tag.
ALTER TABLE job ADD COLUMN locks text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE job DROP COLUMN locks;
