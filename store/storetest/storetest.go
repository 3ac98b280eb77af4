// Package storetest gives tests a real PostgreSQL database each, cloned from
// one that was migrated once, on the throwaway cluster that ./test starts.
package storetest

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"arvelt/store"
)

var (
	template = fmt.Sprintf("template_%d", os.Getpid())
	once     sync.Once
	made     error
	number   atomic.Int64
)

func base(t testing.TB) string {
	u := os.Getenv("ARVELT_TEST_DATABASE")
	require.NotEmpty(t, u, "ARVELT_TEST_DATABASE is not set: run the tests with ./test")
	return u
}

func named(t testing.TB, name string) string {
	u, err := url.Parse(base(t))
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}

func exec(t testing.TB, sql string) error {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, base(t))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, sql)
	return err
}

// URL makes an empty, migrated database and returns its address. It is dropped
// when the test ends.
func URL(t testing.TB) string {
	t.Helper()
	once.Do(func() {
		if made = exec(t, "CREATE DATABASE "+template); made != nil {
			return
		}
		var st *store.Store
		if st, made = store.Open(context.Background(), named(t, template)); made == nil {
			st.Close()
		}
	})
	require.NoError(t, made)
	name := fmt.Sprintf("test_%d_%d", os.Getpid(), number.Add(1))
	require.NoError(t, exec(t, "CREATE DATABASE "+name+" TEMPLATE "+template+" STRATEGY FILE_COPY"))
	t.Cleanup(func() {
		if err := exec(t, "DROP DATABASE "+name+" WITH (FORCE)"); err != nil {
			t.Log(err)
		}
	})
	return named(t, name)
}

// New opens a store on a database of its own.
func New(t testing.TB) *store.Store {
	t.Helper()
	st, err := store.Open(context.Background(), URL(t))
	require.NoError(t, err)
	t.Cleanup(st.Close)
	return st
}
