-- +goose Up
-- How the work on a job goes beside the hours of the plan, and what steps that are done took by their norms.
ALTER TABLE job ADD COLUMN pace jsonb NOT NULL DEFAULT 'null', ADD COLUMN logged jsonb NOT NULL DEFAULT '[]';
CREATE INDEX job_logged ON job (company_id) WHERE logged <> '[]';

-- +goose Down
DROP INDEX job_logged;
ALTER TABLE job DROP COLUMN pace, DROP COLUMN logged;
