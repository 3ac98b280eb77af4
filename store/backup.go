package store

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"maps"
	"slices"
	"time"

	"filippo.io/age"
	"github.com/jackc/pgx/v5"
)

// A backup is one file that age (C2SP) encrypts with a passphrase: inside it is a gzipped tar archive of
//
//	backup.json             when it was made, of which schema, the server's secret
//	TABLE/00000001.csv …    the rows of each table in pieces, as COPY writes them in CSV with the columns' names first
//	sums.json               the rows, bytes and SHA-256 of each table
//
// so that with the passphrase, age, tar and PostgreSQL it is read without Arvelt too.
const backupFormat = "arvelt-backup/1"

// backupHead is what stands first in a backup.
type backupHead struct {
	Format string    `json:"format"`
	Made   time.Time `json:"made"`
	Schema int64     `json:"schema"`
	Secret string    `json:"secret"` // by which the companies' keys in it are sealed; empty where the server had none
}

// TableSum is what a backup has of one table.
type TableSum struct {
	Rows   int64  `json:"rows"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// Backup says what a backup has.
type Backup struct {
	Made   time.Time
	Schema int64
	Tables map[string]TableSum
	// Resealed is how many companies' keys a restore sealed by the server's own secret, and Closed how many it could not open:
	// their companies sign nothing before the server has the secret of before.
	Resealed, Closed int
}

// pieceMost is how long a piece of a table is in a backup, in bytes.
const pieceMost = 4 << 20

// PassphraseLeast is how long the passphrase of a backup is at least.
const PassphraseLeast = 12

// workFactor is the base-2 logarithm of scrypt's cost, 128 MiB and about half a second: who has the file guesses slowly.
const workFactor = 17

// MakeBackup writes all companies with their pictures and sealed keys, in one state of the database, encrypted with a passphrase.
// It reads as the owner. Sessions and what is counted of failures to sign in are left out: after a restore everybody signs in.
func MakeBackup(ctx context.Context, owner, secret, passphrase string, w io.Writer) (Backup, error) {
	if len(passphrase) < PassphraseLeast {
		return Backup{}, fmt.Errorf("passphrase: give at least %d signs", PassphraseLeast)
	}
	pool, err := owning(ctx, owner)
	if err != nil {
		return Backup{}, err
	}
	defer pool.Close()
	to, err := age.NewScryptRecipient(passphrase)
	if err != nil {
		return Backup{}, err
	}
	to.SetWorkFactor(workFactor)
	sealed, err := age.Encrypt(w, to)
	if err != nil {
		return Backup{}, err
	}
	packed := gzip.NewWriter(sealed)
	archive := tar.NewWriter(packed)
	var out Backup
	err = pgx.BeginTxFunc(ctx, pool, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}, func(tx pgx.Tx) error {
		out, err = archived(ctx, tx, secret, archive)
		return err
	})
	// Each writes what it still has into the next.
	return out, errors.Join(err, archive.Close(), packed.Close(), sealed.Close())
}

// ErrNoOwner says that a role sees nothing of the companies.
var ErrNoOwner = errors.New("ARVELT_OWNER_URL: the role does not own the tables, and sees nothing of the companies: give the address of their owner")

const ownsQuery = `SELECT pg_has_role(relowner, 'USAGE') FROM pg_class WHERE oid = 'company'::regclass`

func archived(ctx context.Context, tx pgx.Tx, secret string, archive *tar.Writer) (Backup, error) {
	// A role that is not the owner sees no company, and would make an empty backup that looks like one.
	var own bool
	if err := tx.QueryRow(ctx, ownsQuery).Scan(&own); err != nil {
		return Backup{}, err
	}
	if !own {
		return Backup{}, ErrNoOwner
	}
	head := backupHead{Format: backupFormat, Made: time.Now().UTC().Truncate(time.Second), Secret: secret}
	if err := tx.QueryRow(ctx, schemaQuery).Scan(&head.Schema); err != nil {
		return Backup{}, err
	}
	if err := fits(head.Schema, Schema()); err != nil {
		return Backup{}, err
	}
	out := Backup{Made: head.Made, Schema: head.Schema, Tables: map[string]TableSum{}}
	if err := entry(archive, "backup.json", head.Made, head); err != nil {
		return out, err
	}
	for _, t := range tables {
		if !t.kept {
			continue
		}
		p := &pieces{archive: archive, table: t.name, at: head.Made, sum: sha256.New()}
		tag, err := tx.Conn().PgConn().CopyTo(ctx, p, `COPY (SELECT * FROM `+pgx.Identifier{t.name}.Sanitize()+`) TO STDOUT (FORMAT csv, HEADER)`)
		if err == nil {
			err = p.flush()
		}
		if err != nil {
			return out, fmt.Errorf("table %s: %w", t.name, err)
		}
		out.Tables[t.name] = TableSum{Rows: tag.RowsAffected(), Bytes: p.total, SHA256: hex.EncodeToString(p.sum.Sum(nil))}
	}
	return out, entry(archive, "sums.json", head.Made, out.Tables)
}

// entry writes a JSON file into an archive.
func entry(archive *tar.Writer, name string, at time.Time, v any) error {
	body, err := json.MarshalIndent(v, "", "  ")
	if err != nil {
		return err
	}
	if err := archive.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: int64(len(body)), ModTime: at}); err != nil {
		return err
	}
	_, err = archive.Write(body)
	return err
}

// pieces writes the rows of a table into an archive, which wants to know how long a file is before it is written.
type pieces struct {
	archive *tar.Writer
	table   string
	at      time.Time
	sum     hash.Hash
	buf     bytes.Buffer
	n       int
	total   int64
}

func (p *pieces) Write(b []byte) (int, error) {
	p.buf.Write(b)
	p.sum.Write(b)
	p.total += int64(len(b))
	if p.buf.Len() >= pieceMost {
		return len(b), p.flush()
	}
	return len(b), nil
}

func (p *pieces) flush() error {
	p.n++
	if err := p.archive.WriteHeader(&tar.Header{Name: fmt.Sprintf("%s/%08d.csv", p.table, p.n), Mode: 0o600, Size: int64(p.buf.Len()),
		ModTime: p.at}); err != nil {
		return err
	}
	_, err := p.buf.WriteTo(p.archive)
	return err
}

// NoBackupError says that a file is no backup that can be read.
type NoBackupError struct {
	Why string
	Err error
}

func (e *NoBackupError) Error() string {
	if e.Err != nil {
		return fmt.Sprintf("%s (%v)", e.Why, e.Err)
	}
	return e.Why
}

func (e *NoBackupError) Unwrap() error { return e.Err }

// CheckBackup reads a backup to its end and compares its sums.
func CheckBackup(passphrase string, r io.Reader) (Backup, error) {
	b, _, err := readBackup(passphrase, r, func(backupHead) error { return nil }, func(string, io.Reader) error { return nil })
	return b, err
}

// readBackup opens a backup, gives its head to begin and the rows of each table, as one stream, to take; what take leaves is
// read too, so that the sums hold.
func readBackup(passphrase string, r io.Reader, begin func(backupHead) error, take func(table string, rows io.Reader) error) (Backup,
	backupHead, error) {
	var head backupHead
	out := Backup{Tables: map[string]TableSum{}}
	archive, err := opened(passphrase, r)
	if err != nil {
		return out, head, err
	}
	damaged := func(err error) error { return &NoBackupError{"the backup is damaged or cut short", err} }
	file, err := archive.Next()
	if err != nil || file.Name != "backup.json" {
		return out, head, damaged(err)
	}
	if err := json.NewDecoder(archive).Decode(&head); err != nil {
		return out, head, damaged(err)
	}
	out.Made, out.Schema = head.Made, head.Schema
	switch {
	case head.Format != backupFormat:
		return out, head, &NoBackupError{Why: fmt.Sprintf("format: %q is not accepted; give %q", head.Format, backupFormat)}
	case head.Schema > Schema():
		return out, head, &NoBackupError{Why: fmt.Sprintf("the backup is of a newer Arvelt (schema %d, this one knows %d): use that one", head.Schema, Schema())}
	}
	if err := begin(head); err != nil {
		return out, head, err
	}
	if file, err = archive.Next(); err != nil {
		return out, head, damaged(err)
	}
	for _, t := range tables {
		rows := &tableRows{archive: archive, prefix: t.name + "/", file: file, sum: sha256.New()}
		if !t.kept || !rows.begun() { // a backup of before the table has none of it
			continue
		}
		if err := take(t.name, rows); err != nil {
			return out, head, fmt.Errorf("table %s: %w", t.name, err)
		}
		if _, err := io.Copy(io.Discard, rows); err != nil {
			return out, head, damaged(err)
		}
		file = rows.file
		out.Tables[t.name] = TableSum{Bytes: rows.total, SHA256: hex.EncodeToString(rows.sum.Sum(nil))}
	}
	var sums map[string]TableSum
	if file == nil || file.Name != "sums.json" {
		return out, head, damaged(fmt.Errorf("its sums are missing"))
	}
	if err := json.NewDecoder(archive).Decode(&sums); err != nil {
		return out, head, damaged(err)
	}
	if _, err := archive.Next(); err != io.EOF {
		return out, head, damaged(err)
	}
	if !slices.Equal(slices.Sorted(maps.Keys(sums)), slices.Sorted(maps.Keys(out.Tables))) {
		return out, head, damaged(errors.New("it has other tables than its sums say"))
	}
	for name, is := range out.Tables {
		if want := sums[name]; is.Bytes != want.Bytes || is.SHA256 != want.SHA256 {
			return out, head, damaged(fmt.Errorf("table %s is not what its sum says", name))
		}
	}
	out.Tables = sums
	return out, head, nil
}

func opened(passphrase string, r io.Reader) (*tar.Reader, error) {
	who, err := age.NewScryptIdentity(passphrase)
	if err != nil {
		return nil, fmt.Errorf("passphrase: %w", err)
	}
	plain, err := age.Decrypt(r, who)
	var other *age.NoIdentityMatchError
	if errors.As(err, &other) {
		return nil, &NoBackupError{Why: "the passphrase is not that of this backup"}
	}
	if err != nil {
		return nil, &NoBackupError{"the file is no backup of Arvelt", err}
	}
	unpacked, err := gzip.NewReader(plain)
	if err != nil {
		return nil, &NoBackupError{"the backup is damaged or cut short", err}
	}
	return tar.NewReader(unpacked), nil
}

// tableRows reads the pieces of one table as one stream, and leaves the archive at the first file behind them.
type tableRows struct {
	archive *tar.Reader
	prefix  string
	file    *tar.Header // where the archive is; nil at its end
	sum     hash.Hash
	total   int64
}

func (t *tableRows) begun() bool {
	return t.file != nil && len(t.file.Name) > len(t.prefix) && t.file.Name[:len(t.prefix)] == t.prefix
}

func (t *tableRows) Read(b []byte) (int, error) {
	for t.begun() {
		n, err := t.archive.Read(b)
		t.sum.Write(b[:n])
		t.total += int64(n)
		if err != io.EOF {
			return n, err
		}
		if t.file, err = t.archive.Next(); err != nil && err != io.EOF {
			return n, err
		}
		if n > 0 {
			return n, nil
		}
	}
	return 0, io.EOF
}
