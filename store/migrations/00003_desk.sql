-- +goose Up
-- What is sent to the operator's desk: each message once, under its own id,
-- until the desk has it. A sender takes one by moving its next try on, so that
-- no two instances send at the same moment.
CREATE TABLE desk_message (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    person_id uuid NOT NULL,
    kind text NOT NULL,
    letter jsonb NOT NULL,
    state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'received', 'agreed', 'booked', 'refused', 'lost')),
    tries integer NOT NULL DEFAULT 0,
    trouble text NOT NULL DEFAULT '',
    answer jsonb,
    created_at timestamptz NOT NULL DEFAULT now(),
    next_try timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
CREATE INDEX desk_message_open ON desk_message (next_try) WHERE state IN ('waiting', 'received');
CREATE INDEX desk_message_job ON desk_message (job_id, created_at);

-- +goose Down
DROP TABLE desk_message;
