-- +goose Up
-- What happened in a company beside the edits of jobs: who came in and who failed to, what left and came as a file, who may what.
-- Written under a lock of the company, so that the order of the rows is that in which they were committed.
CREATE TABLE happening (
    seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    company_id uuid NOT NULL REFERENCES company,
    at timestamptz NOT NULL,
    person_id uuid,
    by_name text NOT NULL,
    what text NOT NULL,
    about text NOT NULL DEFAULT '',
    address text NOT NULL DEFAULT ''
);
CREATE INDEX happening_company ON happening (company_id, seq DESC);
CREATE TRIGGER happening_append_only BEFORE UPDATE OR DELETE ON happening FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- +goose Down
DROP TABLE happening;
