-- +goose Up
-- Every row carries the company it belongs to, and a child row's company must
-- be its parent's: the foreign keys are composite so that no query can join
-- across companies by mistake.
CREATE TABLE company (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    name text NOT NULL,
    currency text NOT NULL,
    demo boolean NOT NULL DEFAULT false,
    timezone text NOT NULL DEFAULT 'UTC',
    version integer NOT NULL DEFAULT 1,
    settings jsonb NOT NULL
);

CREATE TABLE person (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    company_id uuid NOT NULL REFERENCES company,
    name text NOT NULL,
    email text NOT NULL,
    role text NOT NULL CHECK (role IN ('owner', 'supervisor', 'electrician', 'apprentice', 'office')),
    password_hash text NOT NULL,
    UNIQUE (company_id, id)
);
CREATE UNIQUE INDEX person_email ON person (lower(email));

CREATE TABLE sessions (
    token text PRIMARY KEY,
    data bytea NOT NULL,
    expiry timestamptz NOT NULL
);
CREATE INDEX sessions_expiry ON sessions (expiry);

CREATE TABLE job (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    company_id uuid NOT NULL REFERENCES company,
    ref text NOT NULL,
    title text NOT NULL,
    kind text NOT NULL,
    practice text NOT NULL,
    edition text NOT NULL,
    version integer NOT NULL DEFAULT 1,
    customer text NOT NULL DEFAULT '',
    town text NOT NULL DEFAULT '',
    stage text NOT NULL DEFAULT 'survey',
    hold text NOT NULL DEFAULT '',
    hold_sheet text NOT NULL DEFAULT '',
    hold_who text NOT NULL DEFAULT '',
    holds integer NOT NULL DEFAULT 0,
    trouble text NOT NULL DEFAULT '',
    updated_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (company_id, id),
    UNIQUE (company_id, ref)
);
CREATE INDEX job_recent ON job (company_id, updated_at DESC);

-- The facts and decisions of a job, one row a part: the unit of optimistic
-- locking, so that two people collide only where they edit the same thing.
CREATE TABLE job_part (
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    part text NOT NULL,
    ord integer NOT NULL DEFAULT 0,
    version integer NOT NULL DEFAULT 1,
    body jsonb NOT NULL,
    updated_by text NOT NULL,
    updated_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (job_id, part),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);

-- What happened: readings, isolations, ticks, signatures. Only ever added.
CREATE TABLE job_record (
    seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    id text NOT NULL,
    kind text NOT NULL,
    body jsonb NOT NULL,
    UNIQUE (job_id, id),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
CREATE INDEX job_record_job ON job_record (job_id, seq);

CREATE TABLE revision (
    seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    revision text NOT NULL,
    seal jsonb NOT NULL,
    file bytea,
    UNIQUE (job_id, revision),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);

-- The audit trail: who changed which part, from which version, and how it was.
CREATE TABLE edit (
    seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    at timestamptz NOT NULL DEFAULT now(),
    person_id uuid NOT NULL,
    by_name text NOT NULL,
    part text NOT NULL,
    what text NOT NULL,
    from_version integer,
    to_version integer,
    before jsonb,
    undone boolean NOT NULL DEFAULT false,
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
CREATE INDEX edit_job ON edit (job_id, seq DESC);

-- The answer of a write under its key, so that a retry is answered and not done again.
CREATE TABLE idempotency (
    company_id uuid NOT NULL REFERENCES company,
    person_id uuid NOT NULL,
    key text NOT NULL,
    about text NOT NULL,
    target text NOT NULL DEFAULT '',
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (company_id, person_id, key)
);

-- +goose StatementBegin
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION '% is append-only: correct it by a new row that supersedes', TG_TABLE_NAME;
END $$;
-- +goose StatementEnd
CREATE TRIGGER job_record_append_only BEFORE UPDATE OR DELETE ON job_record FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER revision_append_only BEFORE UPDATE OR DELETE ON revision FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- +goose Down
DROP TABLE idempotency, edit, revision, job_record, job_part, job, sessions, person, company;
DROP FUNCTION refuse_change;
