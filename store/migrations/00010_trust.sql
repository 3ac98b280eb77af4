-- +goose Up
-- What a person is authorised to do: granted by somebody, for a practice and a job or for all of
-- them, until a day. It is withdrawn, never changed or taken off.
CREATE TABLE authorisation (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    company_id uuid NOT NULL,
    person_id uuid NOT NULL,
    kind text NOT NULL,
    practice text NOT NULL DEFAULT '', -- empty for every practice
    job_ref text NOT NULL DEFAULT '',  -- empty for every job
    until date,
    licence text NOT NULL DEFAULT '',
    granted_by text NOT NULL,
    granted_by_id uuid,
    granted_at timestamptz NOT NULL DEFAULT now(),
    withdrawn_at timestamptz,
    withdrawn_by text,
    FOREIGN KEY (company_id, person_id) REFERENCES person (company_id, id)
);
CREATE INDEX authorisation_person ON authorisation (person_id) WHERE withdrawn_at IS NULL;
-- Until now the role stood for it: what it stood for is carried over, and says so.
INSERT INTO authorisation (company_id, person_id, kind, granted_by)
SELECT p.company_id, p.id, k.kind, 'carried over from the role ' || p.role
FROM person p, unnest(ARRAY['isolate', 'test', 'energise', 'release', 'sign']) AS k(kind)
WHERE p.role = 'supervisor' OR p.role = 'electrician' AND k.kind <> 'sign' OR p.role = 'apprentice' AND k.kind = 'test';

-- A leaver stays as whoever made what they made, and comes in no more. Without a hash nobody has a
-- password yet: they were invited.
ALTER TABLE person ADD COLUMN left_at timestamptz;

-- A link by which a person sets their password, once. Kept by its hash.
CREATE TABLE invitation (
    token_hash bytea PRIMARY KEY,
    company_id uuid NOT NULL,
    person_id uuid NOT NULL,
    made_by text NOT NULL,
    at timestamptz NOT NULL DEFAULT now(),
    until timestamptz NOT NULL,
    used_at timestamptz,
    FOREIGN KEY (company_id, person_id) REFERENCES person (company_id, id)
);

-- Sessions are kept by the hash of their token, with whose they are and on what. Those from before
-- stand by the token itself and end here.
DELETE FROM sessions;
ALTER TABLE sessions ADD COLUMN company_id uuid, ADD COLUMN person_id uuid, ADD COLUMN started_at timestamptz NOT NULL DEFAULT now(),
    ADD COLUMN agent text NOT NULL DEFAULT '', ADD COLUMN address text NOT NULL DEFAULT '';
CREATE INDEX sessions_person ON sessions (person_id);

-- Failures to sign in, which every instance counts: by what was tried (an account, an address, both,
-- a device), each by its hash.
CREATE TABLE sign_in_failure (what bytea NOT NULL, at timestamptz NOT NULL);
CREATE INDEX sign_in_failure_what ON sign_in_failure (what, at);
CREATE INDEX sign_in_failure_at ON sign_in_failure (at);
-- Devices from which a person came in before: a stranger who tries their password does not shut these out.
CREATE TABLE known_device (
    token_hash bytea NOT NULL,
    person_id uuid NOT NULL REFERENCES person,
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (token_hash, person_id)
);

-- The key with which a company seals what it signs (Ed25519). The private half is sealed by the server's
-- secret, which is not in the database.
CREATE TABLE company_key (
    company_id uuid PRIMARY KEY REFERENCES company,
    public bytea NOT NULL,
    sealed bytea NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now()
);

-- What came as a file, and how many of its records came with it. For jobs from before it is in the audit
-- alone: how many records came is not known any more.
ALTER TABLE job ADD COLUMN imported_by text, ADD COLUMN imported_at timestamptz, ADD COLUMN imported_records integer NOT NULL DEFAULT 0;

-- What a look at the server's health writes, so that a disk that refuses is found.
CREATE TABLE heartbeat (one boolean PRIMARY KEY DEFAULT true CHECK (one), at timestamptz NOT NULL);

-- +goose Down
DROP TABLE heartbeat;
ALTER TABLE job DROP COLUMN imported_by, DROP COLUMN imported_at, DROP COLUMN imported_records;
DROP TABLE company_key;
DROP TABLE known_device, sign_in_failure, invitation, authorisation;
ALTER TABLE sessions DROP COLUMN company_id, DROP COLUMN person_id, DROP COLUMN started_at, DROP COLUMN agent, DROP COLUMN address;
ALTER TABLE person DROP COLUMN left_at;
