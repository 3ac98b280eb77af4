// Package storetest gives tests a real PostgreSQL database each, cloned from
// one that was migrated once, on the throwaway cluster that ./test starts.
package storetest

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/require"

	"arvelt/store"
)

var (
	empty  = &Template{name: "migrated"}
	number atomic.Int64
)

// Template is a database that is filled once in a run of tests and cloned for each.
type Template struct {
	name string
	fill func(url string) error
	once sync.Once
	made error
}

// NewTemplate is a migrated database that fill has filled.
func NewTemplate(name string, fill func(url string) error) *Template {
	return &Template{name: name, fill: fill}
}

// URL makes a clone of the template and returns its address. It is dropped when the
// test ends.
func (m *Template) URL(t testing.TB) string {
	t.Helper()
	template := fmt.Sprintf("template_%s_%d", m.name, os.Getpid())
	m.once.Do(func() {
		if m.made = makeOwner(t); m.made != nil {
			return
		}
		if m.made = exec(t, "CREATE DATABASE "+template+" OWNER "+owner); m.made != nil {
			return
		}
		if m.made = store.Migrate(context.Background(), as(t, owner, template), named(t, template)); m.made != nil {
			return
		}
		if m.fill != nil {
			m.made = m.fill(named(t, template))
		}
	})
	require.NoError(t, m.made)
	return made(t, " TEMPLATE "+template+" STRATEGY FILE_COPY")
}

// made makes a database of the owner's in a way, for as long as the test runs, and returns its address.
func made(t testing.TB, how string) string {
	t.Helper()
	name := fmt.Sprintf("test_%d_%d", os.Getpid(), number.Add(1))
	require.NoError(t, exec(t, "CREATE DATABASE "+name+" OWNER "+owner+how))
	t.Cleanup(func() {
		if err := exec(t, "DROP DATABASE "+name+" WITH (FORCE)"); err != nil {
			t.Log(err)
		}
	})
	return named(t, name)
}

func base(t testing.TB) string {
	u := os.Getenv("ARVELT_TEST_DATABASE")
	require.NotEmpty(t, u, "ARVELT_TEST_DATABASE is not set: run the tests with ./test")
	return u
}

// The roles of the tests: the owner is no superuser, as on a PostgreSQL that somebody else manages.
const (
	owner       = "arvelt_tests_owner"
	application = "arvelt_tests_app"
)

// named is the address of a database, as the application comes in.
func named(t testing.TB, name string) string { return as(t, application, name) }

// as is the address of a database for a role; for the cluster's own superuser where it is empty.
func as(t testing.TB, role, name string) string {
	u, err := url.Parse(base(t))
	require.NoError(t, err)
	u.Path = "/" + name
	if role != "" {
		u.User = url.User(role)
	}
	return u.String()
}

// makeOwner makes the owner's role, once in a cluster.
func makeOwner(t testing.TB) error {
	err := exec(t, "CREATE ROLE "+owner+" LOGIN CREATEROLE")
	var said *pgconn.PgError
	if errors.As(err, &said) && (said.Code == "42710" || said.Code == "23505") {
		return nil
	}
	return err
}

// database is the name of the database that an address leads to.
func database(t testing.TB, address string) string {
	u, err := url.Parse(address)
	require.NoError(t, err)
	return strings.TrimPrefix(u.Path, "/")
}

// Owner is the address at which the owner of a test's database comes in.
func Owner(t testing.TB, address string) string { return as(t, owner, database(t, address)) }

// Raw is the database of a store past everything that holds the application: for what a test sets up or looks up.
func Raw(t testing.TB, st *store.Store) *pgxpool.Pool {
	t.Helper()
	config, err := pgxpool.ParseConfig(as(t, "", st.Pool.Config().ConnConfig.Database))
	require.NoError(t, err)
	config.MaxConns = st.Pool.Config().MaxConns // benchmarks compare the two
	pool, err := pgxpool.NewWithConfig(context.Background(), config)
	require.NoError(t, err)
	t.Cleanup(pool.Close)
	return pool
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
	return empty.URL(t)
}

// Bare makes a database in which nothing is, and returns its address.
func Bare(t testing.TB) string {
	t.Helper()
	require.NoError(t, makeOwner(t))
	return made(t, "")
}

// New opens a store on a database of its own.
func New(t testing.TB) *store.Store {
	t.Helper()
	return Open(t, URL(t))
}

// Open opens a store on a database that a test was given.
func Open(t testing.TB, url string) *store.Store {
	t.Helper()
	st, err := store.Open(context.Background(), url)
	require.NoError(t, err)
	t.Cleanup(st.Close)
	return st
}
