-- +goose Up
-- Orders on their way to the merchant: each once, under its own id, until the merchant has it, and then asked about until all of it was delivered.
CREATE TABLE merchant_order (
    id uuid PRIMARY KEY,
    company_id uuid NOT NULL,
    job_id uuid NOT NULL,
    person_id uuid NOT NULL,
    sent jsonb NOT NULL,
    state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'received', 'confirmed', 'delivered', 'refused', 'lost', 'withdrawn')),
    tries integer NOT NULL DEFAULT 0,
    trouble text NOT NULL DEFAULT '',
    answer jsonb,
    created_at timestamptz NOT NULL DEFAULT now(),
    next_try timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (company_id, job_id) REFERENCES job (company_id, id)
);
CREATE INDEX merchant_order_open ON merchant_order (next_try) WHERE state IN ('waiting', 'received', 'confirmed');
CREATE INDEX merchant_order_job ON merchant_order (job_id, created_at);

ALTER TABLE merchant_order ENABLE ROW LEVEL SECURITY;
ALTER TABLE merchant_order FORCE ROW LEVEL SECURITY;
CREATE POLICY company ON merchant_order USING (company_id = arvelt_company()) WITH CHECK (company_id = arvelt_company());
CREATE POLICY owner ON merchant_order TO CURRENT_USER
    USING (session_user <> current_user OR current_setting('arvelt.everyone', true) = 'on')
    WITH CHECK (session_user <> current_user OR current_setting('arvelt.everyone', true) = 'on');
CREATE FUNCTION company_of_due_order(timestamptz) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS
    $$ SELECT company_id FROM merchant_order WHERE state IN ('waiting', 'received', 'confirmed') AND next_try <= $1 ORDER BY next_try LIMIT 1 $$;

-- +goose Down
DROP FUNCTION company_of_due_order;
DROP TABLE merchant_order;
