-- +goose Up
-- Which jobs somebody takes along: when a job starts and who is on its plan.
ALTER TABLE job ADD COLUMN starts date, ADD COLUMN names text[] NOT NULL DEFAULT '{}';
UPDATE job SET starts = nullif(p.body->>'startDate', '')::date FROM job_part p
    WHERE p.company_id = job.company_id AND p.job_id = job.id AND p.part = 'plan' AND p.body->>'startDate' ~ '^\d{4}-\d{2}-\d{2}$';
CREATE INDEX job_starts ON job (company_id, starts) WHERE starts IS NOT NULL;

-- +goose Down
DROP INDEX job_starts;
ALTER TABLE job DROP COLUMN names, DROP COLUMN starts;
