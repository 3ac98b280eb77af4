-- +goose Up
-- An undo says which command it took back, so that it can be brought back once.
ALTER TABLE edit ADD COLUMN undoes uuid, ADD COLUMN redone boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE edit DROP COLUMN undoes, DROP COLUMN redone;
