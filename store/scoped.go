package store

import (
	"context"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
)

// scoped is a database in which every transaction names the company first, in the same exchange: the rows of others are not
// there (row-level security, migration 12).
type scoped struct {
	DB   // the pool, or a transaction on it
	name string
	of   []any
}

// namesCompany names a company that is known. The others that may name one are of the form of [entering].
const namesCompany = `SELECT set_config('arvelt.company', $1, true)`

// within is the database as a company sees it; nothing of any where it is empty or none.
func (s *Store) within(company string) scoped {
	if uuid.Validate(company) != nil {
		company = ""
	}
	return scoped{s.db, namesCompany, []any{company}}
}

// entering is the database as the company sees it that a function of the database answers.
func (s *Store) entering(function string, args ...any) scoped {
	return scoped{s.db, `SELECT set_config('arvelt.company', coalesce(` + function + `::text, ''), true)`, args}
}

// begin queues what names the company.
func (d scoped) begin(b *pgx.Batch) { b.Queue(d.name, d.of...) }

// Begin begins a transaction of the company.
func (d scoped) Begin(ctx context.Context) (pgx.Tx, error) {
	return d.beginWith(ctx, pgx.TxOptions{}, func(*pgx.Batch) {})
}

// beginWith begins a transaction of the company with what first queues, in one exchange. Inside another transaction it is a
// part of that one, whatever the options say.
func (d scoped) beginWith(ctx context.Context, options pgx.TxOptions, first func(*pgx.Batch)) (tx pgx.Tx, err error) {
	batch := &pgx.Batch{}
	var results pgx.BatchResults
	if pool, fresh := d.DB.(*pgxpool.Pool); fresh {
		batch.BeginTx(options)
		d.begin(batch)
		first(batch)
		results = pool.SendBatch(ctx, batch)
		tx = results.Tx()
	} else {
		if tx, err = d.DB.Begin(ctx); err != nil {
			return nil, err
		}
		d.begin(batch)
		first(batch)
		results = tx.SendBatch(ctx, batch)
	}
	if err := results.Close(); err != nil {
		_ = tx.Rollback(context.WithoutCancel(ctx))
		return nil, err
	}
	return tx, nil
}

// SendBatch sends a batch of the company. Its results are read by the callbacks of its queries.
func (d scoped) SendBatch(ctx context.Context, b *pgx.Batch) pgx.BatchResults {
	batch := &pgx.Batch{}
	d.begin(batch)
	batch.QueuedQueries = append(batch.QueuedQueries, b.QueuedQueries...)
	return d.DB.SendBatch(ctx, batch)
}

// send sends one statement behind what names the company.
func (d scoped) send(ctx context.Context, sql string, args []any) (pgx.BatchResults, error) {
	batch := &pgx.Batch{}
	d.begin(batch)
	batch.Queue(sql, args...)
	results := d.DB.SendBatch(ctx, batch)
	if _, err := results.Exec(); err != nil {
		results.Close()
		return nil, err
	}
	return results, nil
}

// Exec runs a statement as the company.
func (d scoped) Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error) {
	results, err := d.send(ctx, sql, args)
	if err != nil {
		return pgconn.CommandTag{}, err
	}
	tag, err := results.Exec()
	if over := results.Close(); err == nil {
		err = over
	}
	return tag, err
}

// Query asks as the company.
func (d scoped) Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error) {
	results, err := d.send(ctx, sql, args)
	if err != nil {
		return nil, err
	}
	rows, err := results.Query()
	if err != nil {
		results.Close()
		return nil, err
	}
	return &batchRows{Rows: rows, results: results}, nil
}

// QueryRow asks for one row as the company.
func (d scoped) QueryRow(ctx context.Context, sql string, args ...any) pgx.Row {
	rows, err := d.Query(ctx, sql, args...)
	return batchRow{rows, err}
}

// batchRows are the rows of a batch's last statement: with them the batch ends, and gives its connection back.
type batchRows struct {
	pgx.Rows
	results pgx.BatchResults
	over    error
}

func (r *batchRows) Close() {
	r.Rows.Close()
	if err := r.results.Close(); r.over == nil {
		r.over = err
	}
}

// Next reads the next row.
func (r *batchRows) Next() bool {
	next := r.Rows.Next()
	if !next {
		r.Close()
	}
	return next
}

// Err is what went wrong, also at the end of the batch.
func (r *batchRows) Err() error {
	if err := r.Rows.Err(); err != nil {
		return err
	}
	return r.over
}

type batchRow struct {
	rows pgx.Rows
	err  error
}

func (r batchRow) Scan(dest ...any) error {
	if r.err != nil {
		return r.err
	}
	defer r.rows.Close()
	if !r.rows.Next() {
		if err := r.rows.Err(); err != nil {
			return err
		}
		return pgx.ErrNoRows
	}
	if err := r.rows.Scan(dest...); err != nil {
		return err
	}
	r.rows.Close()
	return r.rows.Err()
}
