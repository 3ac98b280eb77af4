-- +goose Up
-- A session that somebody else ended: what its phone still holds is decided on, not lost.
CREATE TABLE session_ended (
    token_hash bytea PRIMARY KEY,
    company_id uuid NOT NULL,
    person_id uuid NOT NULL,
    ended_by text NOT NULL,
    at timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (company_id, person_id) REFERENCES person (company_id, id)
);
-- Writes that such a phone handed in, each as it would have been sent.
CREATE TABLE left_write (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    company_id uuid NOT NULL,
    person_id uuid NOT NULL,
    job_id uuid NOT NULL,
    key text NOT NULL,
    path text NOT NULL,
    body bytea NOT NULL,
    clock_off interval NOT NULL DEFAULT '0', -- the device's clock against the server's
    seq bigint NOT NULL DEFAULT 0,           -- the device's count
    handed_at timestamptz NOT NULL DEFAULT now(),
    decided_at timestamptz,
    decided_by text,
    taken boolean,
    reason text NOT NULL DEFAULT '',
    UNIQUE (company_id, person_id, key),
    FOREIGN KEY (company_id, person_id) REFERENCES person (company_id, id),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
CREATE INDEX left_write_open ON left_write (company_id, handed_at) WHERE decided_at IS NULL;

-- +goose Down
DROP TABLE left_write, session_ended;
