package store_test

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/store"
	"arvelt/store/storetest"
)

// withoutCompany are the tables whose rows are of no company: what is counted before it is known whose account it is, and what
// is of the database itself.
var withoutCompany = []string{"sign_in_failure", "heartbeat", "goose_db_version"}

// denied is the SQLSTATE of an error, empty where there is none.
func denied(err error) string {
	var said *pgconn.PgError
	if errors.As(err, &said) {
		return said.Code
	}
	if err != nil {
		return err.Error()
	}
	return ""
}

// as runs SQL as the application, in a transaction that names a company.
func as(t *testing.T, st *store.Store, company string, run func(pgx.Tx)) {
	t.Helper()
	tx, err := st.Pool.Begin(ctx)
	require.NoError(t, err)
	defer tx.Rollback(ctx)
	_, err = tx.Exec(ctx, `SELECT set_config('arvelt.company', $1, true)`, company)
	require.NoError(t, err)
	run(tx)
}

type queryRower interface {
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
}

// attempt runs SQL that may fail inside a transaction, and takes it back.
func attempt(t *testing.T, tx pgx.Tx, sql string, args ...any) (rows int64, state string) {
	t.Helper()
	point, err := tx.Begin(ctx)
	require.NoError(t, err)
	defer point.Rollback(ctx)
	tag, err := point.Exec(ctx, sql, args...)
	return tag.RowsAffected(), denied(err)
}

// Raw SQL of the application's role sees, adds and changes rows of the company that its transaction names and of no other, in
// every table.
func TestTheDatabaseHoldsOneCompanyFromAnother(t *testing.T) {
	st := storetest.New(t)
	one, two := newFirm(t, st, "one"), newFirm(t, st, "two")
	raw := storetest.Raw(t, st)
	_, err := raw.Exec(ctx, `INSERT INTO sessions (token, data, expiry, company_id) SELECT name, '', now() + interval '1 day', id FROM company`)
	require.NoError(t, err)
	count := func(db queryRower, table, where string, args ...any) (n int) {
		require.NoError(t, db.QueryRow(ctx, `SELECT count(*) FROM `+table+where, args...).Scan(&n), table)
		return n
	}
	rows := 0
	for table := range store.Tables() {
		if slices.Contains(withoutCompany, table) {
			continue
		}
		column := "company_id"
		if table == "company" {
			column = "id"
		}
		own := count(raw, table, ` WHERE `+column+` = $1`, one.CompanyID)
		rows += own
		as(t, st, "", func(tx pgx.Tx) { assert.Zero(t, count(tx, table, ""), "%s without a company", table) })
		as(t, st, one.CompanyID, func(tx pgx.Tx) {
			assert.Equal(t, own, count(tx, table, ""), table)
			assert.Zero(t, count(tx, table, ` WHERE `+column+` = $1`, two.CompanyID), table)
			// Whoever may write at all writes no row of the other.
			for _, sql := range []string{`DELETE FROM %[1]s WHERE %[2]s = $1`, `UPDATE %[1]s SET %[2]s = %[2]s WHERE %[2]s = $1`} {
				n, state := attempt(t, tx, fmt.Sprintf(sql, table, column), two.CompanyID)
				assert.Zero(t, n, table)
				assert.Contains(t, []string{"", "42501"}, state, table)
			}
			_, err := tx.Exec(ctx, `SELECT set_config('arvelt.everyone', 'on', true)`)
			require.NoError(t, err)
			assert.Equal(t, own, count(tx, table, ""), "what the owner says is nothing in the mouth of the application: %s", table)
		})
	}
	assert.Greater(t, rows, 12)
	as(t, st, one.CompanyID, func(tx pgx.Tx) {
		for _, sql := range []string{
			`INSERT INTO person (company_id, name, email, role, password_hash) VALUES ($1, 'X', 'x@firm.example', 'owner', '')`,
			`INSERT INTO happening (company_id, at, by_name, what) VALUES ($1, now(), 'X', 'signed in')`,
			`INSERT INTO company (id, name, currency, settings) VALUES ($1, 'X', '', '{}')`,
			`UPDATE job SET company_id = $1`,
			`INSERT INTO job (company_id, ref, title, kind, practice, edition) VALUES ($1, 'J-9', 'X', 'x', 'x', 'x')`,
		} {
			_, state := attempt(t, tx, sql, two.CompanyID)
			assert.Equal(t, "42501", state, sql)
		}
	})
}

// Nothing that a table is held by is left out of one of a later migration.
func TestEveryTableIsHeld(t *testing.T) {
	raw := storetest.Raw(t, storetest.New(t))
	rows, err := raw.Query(ctx, `SELECT relname, relrowsecurity, relforcerowsecurity FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace`)
	require.NoError(t, err)
	var name string
	var on, forced bool
	found := 0
	_, err = pgx.ForEachRow(rows, []any{&name, &on, &forced}, func() error {
		found++
		assert.Contains(t, store.Tables(), name, "what the application may do in it")
		if !slices.Contains(withoutCompany, name) {
			assert.True(t, on, "row-level security of %s", name)
			assert.Equal(t, name != "job_find", forced, "%s: the search alone is read past it, by jobs_with", name)
		}
		return nil
	})
	require.NoError(t, err)
	assert.Len(t, store.Tables(), found)
	// Functions of the owner's answer with a company or with what is the company's own, and none of them takes a text as SQL.
	var definers int
	require.NoError(t, raw.QueryRow(ctx, `SELECT count(*) FROM pg_proc WHERE prosecdef AND pronamespace = 'public'::regnamespace`).Scan(&definers))
	assert.Equal(t, 12, definers)
}

// What happened is only ever added to, and nothing of it can be switched off.
func TestTheApplicationChangesNoHistoryAndNoSchema(t *testing.T) {
	st := storetest.New(t)
	f := newFirm(t, st, "one")
	_, err := f.site("Other", 1, f.key())
	require.NoError(t, err)
	as(t, st, f.CompanyID, func(tx pgx.Tx) {
		for _, table := range []string{"job_record", "revision", "edit", "happening", "photo", "company_key", "session_ended"} {
			for _, sql := range []string{`DELETE FROM %s`, `UPDATE %s SET company_id = company_id`, `TRUNCATE %s`} {
				_, state := attempt(t, tx, fmt.Sprintf(sql, table))
				assert.Equal(t, "42501", state, sql, table)
			}
		}
		for _, sql := range []string{
			`TRUNCATE job CASCADE`,
			`ALTER TABLE job DISABLE ROW LEVEL SECURITY`,
			`ALTER TABLE job NO FORCE ROW LEVEL SECURITY`,
			`ALTER TABLE job_record DISABLE TRIGGER ALL`,
			`DROP TRIGGER job_record_append_only ON job_record`,
			`DROP POLICY company ON job`,
			`CREATE POLICY all_of_it ON job USING (true)`,
			`ALTER TABLE person ADD COLUMN more text`,
			`DROP TABLE heartbeat`,
			`CREATE TABLE public.own (x text)`,
			`CREATE OR REPLACE FUNCTION arvelt_company() RETURNS uuid LANGUAGE sql AS $$ SELECT NULL::uuid $$`,
			`SET session_replication_role = replica`,
			`SET ROLE arvelt_tests_owner`,
			`CREATE ROLE another`,
			`ALTER ROLE arvelt_tests_app BYPASSRLS`,
			`INSERT INTO goose_db_version (version_id, is_applied) VALUES (1, true)`,
		} {
			_, state := attempt(t, tx, sql)
			assert.Equal(t, "42501", state, sql)
		}
		_, state := attempt(t, tx, `UPDATE job SET title = 'Own'`)
		assert.Empty(t, state, "what it needs it may")
		_, state = attempt(t, tx, `SET row_security = off`)
		assert.Empty(t, state, "which only makes a query fail that would show less")
	})
	// The owner's own hand is held as well: the trigger refuses it.
	raw := storetest.Raw(t, st)
	_, err = raw.Exec(ctx, `UPDATE edit SET what = 'nothing'`)
	assert.ErrorContains(t, err, "append-only")
}

// A role that could do more is no way in for the application, and what is not migrated yet says how it is.
func TestTheApplicationComesInAsItself(t *testing.T) {
	url := storetest.URL(t)
	st := storetest.Open(t, url)
	owner := storetest.Owner(t, url)
	for _, mighty := range []string{owner, storetest.Raw(t, st).Config().ConnString()} {
		_, err := store.Open(ctx, mighty)
		var e *store.TooMightyError
		require.ErrorAs(t, err, &e)
		assert.Contains(t, err.Error(), "ARVELT_OWNER_URL")
		assert.NotEmpty(t, e.Why)
	}
	var e *store.TooMightyError
	assert.ErrorAs(t, store.Migrate(ctx, owner, owner), &e)
	require.NoError(t, store.Migrate(ctx, owner, url), "again changes nothing")
	raw := storetest.Raw(t, st)
	_, err := raw.Exec(ctx, `DELETE FROM goose_db_version WHERE version_id = $1`, store.Schema())
	require.NoError(t, err)
	_, err = store.Open(ctx, url)
	assert.ErrorContains(t, err, "arvelt migrate")
	// A role that was given too much since loses it with the next migration.
	_, err = raw.Exec(ctx, fmt.Sprintf(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (%d, true);
		GRANT TRUNCATE, DELETE ON job_record TO PUBLIC`, store.Schema()))
	require.NoError(t, err)
	_, err = store.Open(ctx, url)
	require.ErrorAs(t, err, &e)
	require.NoError(t, store.Migrate(ctx, owner, url))
	again, err := store.Open(ctx, url)
	require.NoError(t, err)
	again.Close()
}
