-- +goose Up
-- Pictures, each once in a job by its hash; what they show is a record.
CREATE TABLE photo (
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    hash text NOT NULL,
    jpeg bytea NOT NULL,
    PRIMARY KEY (job_id, hash),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);

-- +goose Down
DROP TABLE photo;
