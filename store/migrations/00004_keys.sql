-- +goose Up
-- A key belongs to a person who is signed in to a company, which is checked
-- before it is taken: the reference only locked the company's row on every write.
ALTER TABLE idempotency DROP CONSTRAINT idempotency_company_id_fkey;

-- +goose Down
ALTER TABLE idempotency ADD FOREIGN KEY (company_id) REFERENCES company;
