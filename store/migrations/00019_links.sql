-- +goose Up
-- Links by which somebody reads something without signing in: another trade its sheet of a job, a calendar the days of a person or a job. Each is kept by the
-- hash of its secret, ends, and can be withdrawn; it writes nothing.
CREATE TABLE shared_link (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    token_hash bytea NOT NULL UNIQUE,
    company_id uuid NOT NULL REFERENCES company,
    kind text NOT NULL,
    job_id uuid,               -- the job that it is of; null for none
    subject text NOT NULL,     -- the trade or the person that it is for, by id; empty for the job itself
    called text NOT NULL,      -- whom or what it is for, in words
    made_by text NOT NULL,
    at timestamptz NOT NULL,
    until timestamptz NOT NULL,
    withdrawn_at timestamptz,
    withdrawn_by text,
    read_at timestamptz,       -- when it was last read by
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
CREATE INDEX shared_link_of ON shared_link (company_id, kind, job_id) WHERE withdrawn_at IS NULL;

ALTER TABLE shared_link ENABLE ROW LEVEL SECURITY;
ALTER TABLE shared_link FORCE ROW LEVEL SECURITY;
CREATE POLICY company ON shared_link USING (company_id = arvelt_company()) WITH CHECK (company_id = arvelt_company());
CREATE POLICY owner ON shared_link TO CURRENT_USER
    USING (session_user <> current_user OR current_setting('arvelt.everyone', true) = 'on')
    WITH CHECK (session_user <> current_user OR current_setting('arvelt.everyone', true) = 'on');
CREATE FUNCTION company_of_link(bytea) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS
    $$ SELECT company_id FROM shared_link WHERE token_hash = $1 $$;

-- +goose Down
DROP FUNCTION company_of_link;
DROP TABLE shared_link;
