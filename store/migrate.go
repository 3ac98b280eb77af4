package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrationFiles embed.FS

// errAddress says that the application's address is none. It may hold a password: it is not repeated.
var errAddress = errors.New("DATABASE_URL is not understood: give postgres://user@host:port/name")

// owning connects as the owner, who sees the rows of every company.
func owning(ctx context.Context, url string) (*pgxpool.Pool, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		// The url may hold a password: it is not repeated.
		return nil, errors.New("ARVELT_OWNER_URL is not understood: give postgres://user@host:port/name")
	}
	config.ConnConfig.RuntimeParams["arvelt.everyone"] = "on"
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, err
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("the database does not answer its owner: %w", err)
	}
	return pool, nil
}

// Migrate brings the schema up to date as the owner, makes the role with which the application comes in (that of its own
// address), and gives it what it needs.
func Migrate(ctx context.Context, owner, application string) error {
	app, err := pgx.ParseConfig(application)
	if err != nil {
		return errAddress
	}
	// By connections of its own, as a change of the schema may take longer than any write.
	pool, err := owning(ctx, owner)
	if err != nil {
		return err
	}
	defer pool.Close()
	if app.User == pool.Config().ConnConfig.User {
		return &TooMightyError{Role: app.User, Why: []string{"owns the tables"}}
	}
	if err := up(ctx, pool, 0); err != nil {
		return fmt.Errorf("migrating the database: %w", err)
	}
	return equip(ctx, pool, app)
}

// equip makes the application's role and gives it what it needs.
func equip(ctx context.Context, pool *pgxpool.Pool, app *pgx.ConnConfig) error {
	return pool.AcquireFunc(ctx, func(conn *pgxpool.Conn) error {
		if err := makeRole(ctx, conn.Conn(), app); err != nil {
			return err
		}
		return pgx.BeginFunc(ctx, conn, func(tx pgx.Tx) error {
			// Two instances that start at once do it one after the other.
			if _, err := tx.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended('arvelt privileges', 0))`); err != nil {
				return err
			}
			return grant(ctx, tx, app.User)
		})
	})
}

// up brings the schema to a number, the newest where it is 0.
func up(ctx context.Context, pool *pgxpool.Pool, to int64) error {
	sub, err := fs.Sub(migrationFiles, "migrations")
	if err != nil {
		return err
	}
	// A session lock lets several instances start at once: one migrates.
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	db := stdlib.OpenDBFromPool(pool)
	defer db.Close()
	provider, err := goose.NewProvider(goose.DialectPostgres, db, sub, goose.WithSessionLocker(locker))
	if err != nil {
		return err
	}
	if now, err := provider.GetDBVersion(ctx); err == nil {
		if err := fits(now, 0); err != nil {
			return err
		}
	}
	if to > 0 {
		_, err = provider.UpTo(ctx, to)
	} else {
		_, err = provider.Up(ctx)
	}
	return err
}

// Schema is the number of the newest migration that this program knows.
func Schema() int64 {
	files, err := fs.Glob(migrationFiles, "migrations/*.sql")
	if err != nil || len(files) == 0 {
		return 0
	}
	n, err := goose.NumericComponent(files[len(files)-1])
	if err != nil {
		return 0
	}
	return n
}

// fits errs where a database's schema is not the one that this program knows.
func fits(now, wanted int64) error {
	switch newest := Schema(); {
	case now > newest:
		return fmt.Errorf("the database is of a newer Arvelt (schema %d, this one knows %d): start that one", now, newest)
	case now < wanted:
		return fmt.Errorf("the database is of schema %d, and this Arvelt needs %d: bring it up to date with arvelt migrate, "+
			"with the owner's address in ARVELT_OWNER_URL", now, newest)
	}
	return nil
}

// schemaQuery is the number of a database's newest migration.
const schemaQuery = `SELECT coalesce(max(version_id), 0) FROM goose_db_version WHERE is_applied`

// checkSchema errs where the database is not as [Migrate] leaves it.
func checkSchema(ctx context.Context, db DB) error {
	var now int64
	err := db.QueryRow(ctx, schemaQuery).Scan(&now)
	var said *pgconn.PgError
	if errors.As(err, &said) && (said.Code == "42P01" || said.Code == "42501") {
		now, err = 0, nil // nothing there, or nothing granted yet
	}
	if err != nil {
		return err
	}
	return fits(now, Schema())
}
