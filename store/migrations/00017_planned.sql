-- +goose Up
-- The steps of a job that have a day or somebody who does them, for the day and the week; and what people are at risk by on it now.
ALTER TABLE job ADD COLUMN planned jsonb NOT NULL DEFAULT '[]', ADD COLUMN danger text NOT NULL DEFAULT '';
CREATE INDEX job_planned ON job (company_id) WHERE planned <> '[]';
CREATE INDEX job_danger ON job (company_id) WHERE danger <> '';

-- +goose Down
DROP INDEX job_danger;
DROP INDEX job_planned;
ALTER TABLE job DROP COLUMN planned, DROP COLUMN danger;
