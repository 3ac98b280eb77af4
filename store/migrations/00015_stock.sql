-- +goose Up
-- What a company has lying in vans and on shelves: left over from jobs, or put there. Each length is a row of its own. A row whose count is 0 was used up or
-- thrown away, and stays for what was taken of it.
CREATE TABLE stock_item (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    company_id uuid NOT NULL REFERENCES company,
    product text NOT NULL,
    name text NOT NULL,
    unit text NOT NULL,
    by_length boolean NOT NULL,
    count double precision NOT NULL CHECK (count >= 0),
    place text NOT NULL,
    from_ref text NOT NULL,
    by_name text NOT NULL,
    at timestamptz NOT NULL
);
CREATE INDEX stock_item_there ON stock_item (company_id, product) WHERE count > 0;

ALTER TABLE stock_item ENABLE ROW LEVEL SECURITY;
ALTER TABLE stock_item FORCE ROW LEVEL SECURITY;
CREATE POLICY company ON stock_item USING (company_id = arvelt_company()) WITH CHECK (company_id = arvelt_company());
CREATE POLICY owner ON stock_item TO CURRENT_USER
    USING (session_user <> current_user OR current_setting('arvelt.everyone', true) = 'on')
    WITH CHECK (session_user <> current_user OR current_setting('arvelt.everyone', true) = 'on');

-- +goose Down
DROP TABLE stock_item;
