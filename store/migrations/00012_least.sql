-- +goose Up
-- The database itself holds one company from another: the application comes in by a role that owns nothing, and sees the rows
-- of the company that its transaction names. What is granted to the role stands in privileges.go.
CREATE FUNCTION arvelt_company() RETURNS uuid LANGUAGE sql STABLE AS
    $$ SELECT nullif(current_setting('arvelt.company', true), '')::uuid $$;

-- Whether an edit was taken back or brought back stands beside it, so that the audit is only ever added to.
CREATE TABLE edit_state (
    seq bigint PRIMARY KEY REFERENCES edit,
    company_id uuid NOT NULL REFERENCES company,
    undone boolean NOT NULL,
    redone boolean NOT NULL
);
INSERT INTO edit_state SELECT seq, company_id, undone, redone FROM edit WHERE undone OR redone;
ALTER TABLE edit DROP COLUMN redone;
CREATE TRIGGER edit_append_only BEFORE UPDATE OR DELETE ON edit FOR EACH ROW EXECUTE FUNCTION refuse_change();

ALTER TABLE known_device ADD COLUMN company_id uuid;
UPDATE known_device SET company_id = p.company_id FROM person p WHERE p.id = person_id;
ALTER TABLE known_device ALTER COLUMN company_id SET NOT NULL, ADD FOREIGN KEY (company_id, person_id) REFERENCES person (company_id, id);

-- Every table of companies: rows of the company named, for everybody. The owner, who migrates and backs up, sees all where it says
-- so, and in the functions below, which answer for it whoever asks.
-- +goose StatementBegin
DO $$
DECLARE
    t text;
    own text;
    everyone text := 'session_user <> current_user OR current_setting(''arvelt.everyone'', true) = ''on''';
BEGIN
    FOREACH t IN ARRAY ARRAY['company', 'person', 'sessions', 'session_ended', 'invitation', 'known_device', 'authorisation', 'company_key',
        'happening', 'job', 'job_find', 'job_part', 'job_record', 'revision', 'edit', 'edit_state', 'idempotency', 'photo', 'desk_message', 'left_write']
    LOOP
        own := CASE t WHEN 'company' THEN 'id = arvelt_company()'
            -- A session is found by the hash of its token, before anybody knows whose it is.
            WHEN 'sessions' THEN '(company_id = arvelt_company() OR token = current_setting(''arvelt.token'', true))'
            ELSE 'company_id = arvelt_company()' END;
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        -- jobs_with reads job_find past the policy, with the company in its own query: LIKE tells what it compares, so that behind a
        -- policy no index would serve it.
        IF t <> 'job_find' THEN
            EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
        END IF;
        EXECUTE format('CREATE POLICY company ON %I USING (%s) WITH CHECK (%s)', t, own, own);
        EXECUTE format('CREATE POLICY owner ON %1$I TO CURRENT_USER USING (%2$s) WITH CHECK (%2$s)', t, everyone);
    END LOOP;
END $$;
-- +goose StatementEnd

-- What is asked before anybody knows the company is answered with the company alone.
CREATE FUNCTION company_of_email(text) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$ SELECT company_id FROM person WHERE lower(email) = lower($1) $$;
CREATE FUNCTION company_of_person(uuid) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$ SELECT company_id FROM person WHERE id = $1 $$;
CREATE FUNCTION company_of_invitation(bytea) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$ SELECT company_id FROM invitation WHERE token_hash = $1 $$;
CREATE FUNCTION company_of_ended_session(bytea) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$ SELECT company_id FROM session_ended WHERE token_hash = $1 $$;
CREATE FUNCTION company_named(text) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$ SELECT id FROM company WHERE $1 = '' OR name = $1 ORDER BY name LIMIT 1 $$;
CREATE FUNCTION company_of_demo() RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$ SELECT id FROM company WHERE demo LIMIT 1 $$;
CREATE FUNCTION company_of_due_message(timestamptz) RETURNS uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS
    $$ SELECT company_id FROM desk_message WHERE state IN ('waiting', 'received') AND next_try <= $1 ORDER BY next_try LIMIT 1 $$;
-- What is kept for a while is thrown away for all companies alike, and never before its time.
CREATE FUNCTION forget_keys(before timestamptz) RETURNS bigint LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS
    $$ WITH gone AS (DELETE FROM idempotency WHERE at < least(before, now() - interval '90 days') RETURNING 1) SELECT count(*) FROM gone $$;
CREATE FUNCTION forget_sessions() RETURNS bigint LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS
    $$ WITH gone AS (DELETE FROM sessions WHERE expiry < now() RETURNING 1) SELECT count(*) FROM gone $$;
-- The jobs of the company in which every pattern is found.
-- +goose StatementBegin
CREATE FUNCTION jobs_with(patterns text[]) RETURNS SETOF uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
    pattern text;
    every text := '';
BEGIN
    FOREACH pattern IN ARRAY patterns LOOP
        every := every || format(' AND words LIKE %L', pattern);
    END LOOP;
    RETURN QUERY EXECUTE 'SELECT job_id FROM job_find WHERE company_id = $1' || every USING arvelt_company();
END $$;
-- +goose StatementEnd

-- +goose Down
DROP FUNCTION jobs_with, forget_sessions, forget_keys, company_of_due_message, company_of_demo, company_named, company_of_ended_session,
    company_of_invitation, company_of_person, company_of_email;
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['company', 'person', 'sessions', 'session_ended', 'invitation', 'known_device', 'authorisation', 'company_key',
        'happening', 'job', 'job_find', 'job_part', 'job_record', 'revision', 'edit', 'edit_state', 'idempotency', 'photo', 'desk_message', 'left_write']
    LOOP
        EXECUTE format('DROP POLICY company ON %I', t);
        EXECUTE format('DROP POLICY owner ON %I', t);
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('ALTER TABLE %I DISABLE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
ALTER TABLE known_device DROP COLUMN company_id;
DROP TRIGGER edit_append_only ON edit;
ALTER TABLE edit ADD COLUMN redone boolean NOT NULL DEFAULT false;
UPDATE edit SET undone = s.undone, redone = s.redone FROM edit_state s WHERE s.seq = edit.seq;
DROP TABLE edit_state;
DROP FUNCTION arvelt_company;
