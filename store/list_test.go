package store_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/store"
	"arvelt/store/storetest"
)

// another starts a job like the firm's own under a reference.
func (f *firm) another(t *testing.T, ref, customer, address string) string {
	t.Helper()
	l, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	j := l.Job
	j.Ref, j.Site.Customer, j.Site.Address = ref, customer, address
	made, err := f.Create(ctx, f.who, f.key(), j)
	require.NoError(t, err)
	return made.ID
}

// Page by page every job is met once, newest change first, and the total is of all.
func TestTheListIsPaged(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	for i := range 24 {
		f.another(t, fmt.Sprintf("P-%02d", i), "Somebody", fmt.Sprintf("%d Eel Quay", i))
	}
	seen, after, pages := map[string]bool{}, "", 0
	last := time.Now().Add(time.Hour)
	for {
		page, err := f.Jobs(ctx, store.Find{Limit: 10, After: after})
		require.NoError(t, err)
		assert.Equal(t, 25, page.Total)
		assert.True(t, page.Exact)
		for _, r := range page.Jobs {
			assert.False(t, seen[r.ID], r.Ref)
			seen[r.ID] = true
			assert.False(t, r.UpdatedAt.After(last))
			last = r.UpdatedAt
		}
		pages++
		if after = page.Next; after == "" {
			break
		}
	}
	assert.Len(t, seen, 25)
	assert.Equal(t, 3, pages)
	each := 0
	for _, err := range f.EachJob(ctx) {
		require.NoError(t, err)
		each++
	}
	assert.Equal(t, 25, each)

	// Every word must stand somewhere, the address too.
	for q, want := range map[string]int{"eel quay": 24, "p-07": 1, "somebody 7 eel": 2, "QUAY p-1": 10, "nowhere": 0} {
		page, err := f.Jobs(ctx, store.Find{Q: q, Limit: 100})
		require.NoError(t, err)
		assert.Len(t, page.Jobs, want, q)
		assert.Equal(t, want, page.Total, q)
	}
	second, err := f.Jobs(ctx, store.Find{Q: "eel", Limit: 20})
	require.NoError(t, err)
	assert.Equal(t, 24, second.Total)
	second, err = f.Jobs(ctx, store.Find{Q: "eel", Limit: 20, After: second.Next})
	require.NoError(t, err)
	assert.Len(t, second.Jobs, 4)

	var wrong install.Errors
	for _, bad := range []store.Find{{After: "x"}, {After: "\xff"}, {Limit: -1}, {Limit: 201}, {After: strings.Repeat("A", 400)}} {
		_, err := f.Jobs(ctx, bad)
		assert.ErrorAs(t, err, &wrong, "%v", bad)
	}
}

// What was kept of a job is not taken for its state once an older one was restored under the
// server: the same version number is not the same state.
func TestARestoredDatabaseIsNoticed(t *testing.T) {
	st := storetest.New(t)
	f := newFirm(t, st, "f")
	for _, sql := range []string{`CREATE TABLE saved_job AS SELECT * FROM job`, `CREATE TABLE saved_part AS SELECT * FROM job_part`} {
		_, err := storetest.Raw(t, st).Exec(ctx, sql)
		require.NoError(t, err)
	}
	_, version := f.customer(t)
	_, err := f.site("lost by the restore", version, f.key())
	require.NoError(t, err)
	for _, sql := range []string{
		`UPDATE job SET version = s.version, stamp = s.stamp FROM saved_job s WHERE s.id = job.id`,
		`UPDATE job_part SET version = s.version, body = s.body FROM saved_part s WHERE s.job_id = job_part.job_id AND s.part = job_part.part`} {
		_, err := storetest.Raw(t, st).Exec(ctx, sql)
		require.NoError(t, err)
	}
	got, version := f.customer(t)
	assert.NotEqual(t, "lost by the restore", got)
	// Saved again to the version that the lost state had: still not the lost one.
	_, err = storetest.Raw(t, st).Exec(ctx, `UPDATE job SET version = version + 1, stamp = gen_random_uuid()`)
	require.NoError(t, err)
	got, _ = f.customer(t)
	assert.NotEqual(t, "lost by the restore", got)
	_, err = f.site("after it", version, f.key())
	require.NoError(t, err)
	got, _ = f.customer(t)
	assert.Equal(t, "after it", got)
}

// A commit that the database does not answer is told as not known, never as not saved; the same
// write under the same key settles it and is done once.
func TestALostCommitIsSettledByItsKey(t *testing.T) {
	st := storetest.New(t)
	f := newFirm(t, st, "f")
	_, err := storetest.Raw(t, st).Exec(ctx, `CREATE FUNCTION breaks() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM
		pg_terminate_backend(pg_backend_pid()); RETURN NULL; END $$`)
	require.NoError(t, err)
	_, err = storetest.Raw(t, st).Exec(ctx, `CREATE CONSTRAINT TRIGGER breaks AFTER UPDATE ON job_part DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
		EXECUTE FUNCTION breaks()`)
	require.NoError(t, err)
	_, version := f.customer(t)
	key := f.key()
	_, err = f.site("once", version, key)
	var unsure *store.UnsureError
	require.ErrorAs(t, err, &unsure)
	_, err = storetest.Raw(t, st).Exec(ctx, `DROP TRIGGER breaks ON job_part`)
	require.NoError(t, err)
	for range 2 {
		_, err = f.site("once", version, key)
		require.NoError(t, err)
	}
	got, now := f.customer(t)
	assert.Equal(t, "once", got)
	assert.Equal(t, version+1, now)
}

// Keys of writes are kept longer than anything may wait in a browser, then taken off.
func TestKeysAreKeptLongerThanAnythingWaits(t *testing.T) {
	st := storetest.New(t)
	f := newFirm(t, st, "f")
	assert.Greater(t, store.KeysKept, install.LongestWait)
	key := f.key()
	_, version := f.customer(t)
	_, err := f.site("first", version, key)
	require.NoError(t, err)
	aged := func(by time.Duration) {
		_, err := storetest.Raw(t, st).Exec(ctx, `UPDATE idempotency SET at = now() - $1::interval`, fmt.Sprintf("%d seconds", int(by.Seconds())))
		require.NoError(t, err)
		_, err = st.ForgetKeys(ctx)
		require.NoError(t, err)
	}
	aged(install.LongestWait)
	_, err = f.site("first", version, key)
	require.NoError(t, err, "still known: answered, not done again")
	aged(store.KeysKept + time.Hour)
	_, err = f.site("first", version, key)
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale, "forgotten: it is a new write, against a version that is gone")
}
