-- +goose Up
-- A state of a job is known by its stamp, which no other state has: a version comes again where
-- an older state of the database is restored under a server that runs.
ALTER TABLE job ADD COLUMN stamp uuid NOT NULL DEFAULT gen_random_uuid();
ALTER TABLE company ADD COLUMN stamp uuid NOT NULL DEFAULT gen_random_uuid(), ADD COLUMN jobs integer NOT NULL DEFAULT 0;
UPDATE company SET jobs = (SELECT count(*) FROM job WHERE company_id = company.id);

-- Jobs are searched by an index over all that is searched, the address too.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
ALTER TABLE job ADD COLUMN address text NOT NULL DEFAULT '';
UPDATE job SET address = coalesce(p.body->>'address', '') FROM job_part p
    WHERE p.company_id = job.company_id AND p.job_id = job.id AND p.part = 'site';
CREATE TABLE job_find (
    job_id uuid PRIMARY KEY,
    company_id uuid NOT NULL,
    words text NOT NULL,
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
INSERT INTO job_find SELECT id, company_id, lower(concat_ws(E'\n', ref, title, customer, address, town, stage, kind)) FROM job;
CREATE INDEX job_find_words ON job_find USING gin (words gin_trgm_ops);
DROP INDEX job_recent;
CREATE INDEX job_recent ON job (company_id, updated_at DESC, id DESC);
CREATE INDEX idempotency_at ON idempotency (at);

-- +goose Down
DROP INDEX idempotency_at, job_recent;
DROP TABLE job_find;
CREATE INDEX job_recent ON job (company_id, updated_at DESC);
ALTER TABLE job DROP COLUMN address, DROP COLUMN stamp;
ALTER TABLE company DROP COLUMN jobs, DROP COLUMN stamp;
