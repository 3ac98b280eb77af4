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

-- +goose Down
DROP TABLE authorisation;
