package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// FullError says that a restore would put a backup in the place of what a database holds.
type FullError struct{ Companies int }

func (e *FullError) Error() string {
	return fmt.Sprintf("the database is not empty (companies: %d): nothing was restored. With --replace the backup takes their place, and what it "+
		"does not have is lost", e.Companies)
}

// Restore puts a backup into a database, in one transaction: all of it, or nothing. The file is read twice, as nothing is touched
// before all of it was found whole. Keys are sealed anew by this server's secret. Versions go on above every one that was given
// out, so that nobody who read what is gone overwrites what is restored, and running servers read everything anew.
func Restore(ctx context.Context, owner, application, secret, passphrase string, file io.ReadSeeker, replace bool) (Backup, error) {
	found, err := CheckBackup(passphrase, file)
	if err != nil {
		return found, err
	}
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return found, err
	}
	app, err := pgx.ParseConfig(application)
	if err != nil {
		return found, errAddress
	}
	pool, err := owning(ctx, owner)
	if err != nil {
		return found, err
	}
	defer pool.Close()
	if err := receive(ctx, pool, found.Schema, replace); err != nil {
		return found, err
	}
	err = pgx.BeginFunc(ctx, pool, func(tx pgx.Tx) error {
		_, head, err := readBackup(passphrase, file, func(backupHead) error { return emptied(ctx, tx) },
			func(table string, rows io.Reader) error { return filled(ctx, tx, table, rows) })
		if err != nil {
			return err
		}
		if found.Resealed, found.Closed, err = reseal(ctx, tx, head.Secret, secret); err != nil {
			return err
		}
		return settled(ctx, tx, head.Made)
	})
	if err != nil {
		return found, err
	}
	if err := up(ctx, pool, 0); err != nil {
		return found, err
	}
	return found, equip(ctx, pool, app)
}

// receive brings an empty database to the schema of a backup, and errs where it is not to be replaced.
func receive(ctx context.Context, pool *pgxpool.Pool, schema int64, replace bool) error {
	var there bool
	var now int64
	companies := 0
	if err := pool.QueryRow(ctx, `SELECT to_regclass('company') IS NOT NULL`).Scan(&there); err != nil {
		return err
	}
	if there {
		if err := pool.QueryRow(ctx, `SELECT count(*) FROM company`).Scan(&companies); err != nil {
			return err
		}
		if err := pool.QueryRow(ctx, schemaQuery).Scan(&now); err != nil {
			return err
		}
	}
	switch {
	case companies > 0 && !replace:
		return &FullError{companies}
	case now > schema:
		return fmt.Errorf("the backup is of schema %d and the database of %d: restore it into a new, empty database, which is then brought up to date", schema, now)
	}
	return up(ctx, pool, schema)
}

// emptied takes everything out of a database.
func emptied(ctx context.Context, tx pgx.Tx) error {
	names := []string{}
	for _, t := range tables {
		var there bool // it is not where the backup is of a schema before it
		if err := tx.QueryRow(ctx, `SELECT to_regclass($1) IS NOT NULL`, t.name).Scan(&there); err != nil {
			return err
		}
		if there && t.name != "goose_db_version" {
			names = append(names, pgx.Identifier{t.name}.Sanitize())
		}
	}
	// In one statement, so that it waits for everybody once.
	_, err := tx.Exec(ctx, `TRUNCATE `+strings.Join(names, ", "))
	return err
}

// filled puts the rows of a table in.
func filled(ctx context.Context, tx pgx.Tx, table string, rows io.Reader) error {
	name := pgx.Identifier{table}.Sanitize()
	// COPY puts nothing in behind row-level security: the owner is let past it, for this transaction.
	var forced bool
	if err := tx.QueryRow(ctx, `SELECT relforcerowsecurity FROM pg_class WHERE oid = to_regclass($1)`, table).Scan(&forced); err != nil {
		return err
	}
	columns, err := csvHead(rows)
	if err != nil {
		return err
	}
	if forced {
		if _, err := tx.Exec(ctx, `ALTER TABLE `+name+` NO FORCE ROW LEVEL SECURITY`); err != nil {
			return err
		}
	}
	if _, err := tx.Conn().PgConn().CopyFrom(ctx, rows, `COPY `+name+` (`+columns+`) FROM STDIN (FORMAT csv)`); err != nil {
		return err
	}
	if forced {
		if _, err := tx.Exec(ctx, `ALTER TABLE `+name+` FORCE ROW LEVEL SECURITY`); err != nil {
			return err
		}
	}
	var counted *string // the column that numbers the rows; none in most
	if err := tx.QueryRow(ctx, `SELECT max(column_name::text) FROM information_schema.columns WHERE table_schema = 'public' AND table_name = $1
		AND is_identity = 'YES'`, table).Scan(&counted); err != nil || counted == nil {
		return err
	}
	_, err = tx.Exec(ctx, `SELECT setval(pg_get_serial_sequence($1, $2), max(`+pgx.Identifier{*counted}.Sanitize()+`)) FROM `+name, table, *counted)
	return err
}

// reseal seals the companies' keys, which a backup has by the secret of before, by this server's.
func reseal(ctx context.Context, tx pgx.Tx, before, now string) (resealed, closed int, err error) {
	rows, err := tx.Query(ctx, `SELECT company_id::text, sealed FROM company_key`)
	if err != nil {
		return 0, 0, err
	}
	type key struct {
		Company string
		Sealed  []byte
	}
	keys, err := pgx.CollectRows(rows, pgx.RowToStructByPos[key])
	if err != nil {
		return 0, 0, err
	}
	for _, k := range keys {
		if _, err := openKey(now, k.Company, k.Sealed); err == nil && now != "" {
			continue // it is this server's already
		}
		seed, err := openKey(before, k.Company, k.Sealed)
		if err != nil || before == "" || now == "" {
			closed++
			continue
		}
		sealed, err := sealKey(now, k.Company, seed)
		if err != nil {
			return 0, 0, err
		}
		if _, err := tx.Exec(ctx, `UPDATE company_key SET sealed = $2 WHERE company_id = $1`, k.Company, sealed); err != nil {
			return 0, 0, err
		}
		resealed++
	}
	return resealed, closed, nil
}

// versionsAhead is how far versions go on above those of a backup: above every one that was given out since it was made.
const versionsAhead = 100_000

// settled tells everybody that all is another: versions go on above those that were given out, states have new stamps, each company
// reads of it in what happened, and every instance and browser reads anew.
func settled(ctx context.Context, tx pgx.Tx, made time.Time) error {
	events := [][]byte{}
	for _, what := range []string{"session", "resync"} {
		body, err := json.Marshal(Event{What: what})
		if err != nil {
			return err
		}
		events = append(events, body)
	}
	batch := &pgx.Batch{}
	batch.Queue(`UPDATE company SET version = version + $1, stamp = gen_random_uuid()`, versionsAhead)
	batch.Queue(`UPDATE job SET version = version + $1, stamp = gen_random_uuid()`, versionsAhead)
	batch.Queue(`UPDATE job_part SET version = version + $1`, versionsAhead)
	batch.Queue(`INSERT INTO happening (company_id, at, by_name, what, about) SELECT id, now(), 'the command line', $1, $2 FROM company`, RestoredAll,
		made.Format(time.RFC3339))
	for _, e := range events {
		batch.Queue(`SELECT pg_notify($1, $2)`, Channel, string(e))
	}
	return tx.SendBatch(ctx, batch).Close()
}

// csvHead reads the line of the columns' names, which are plain words, as COPY wants them.
func csvHead(rows io.Reader) (columns string, err error) {
	line := []byte{}
	for one := make([]byte, 1); ; line = append(line, one[0]) {
		if _, err := io.ReadFull(rows, one); err != nil {
			return "", fmt.Errorf("the names of its columns: %w", err)
		}
		if one[0] == '\n' {
			break
		}
		if len(line) > 4000 {
			return "", errors.New("the names of its columns are too long")
		}
	}
	names := strings.Split(string(line), ",")
	for i := range names {
		names[i] = pgx.Identifier{names[i]}.Sanitize()
	}
	return strings.Join(names, ", "), nil
}
