// Package store keeps companies, people and jobs in PostgreSQL through pgx.
//
// Everything of a company is reached through a [Scope], which adds the company
// to every query and names it to the database, which shows no others' rows. A
// job is loaded whole, changed in memory by a function of the caller's and
// saved in one transaction with an audit row, the job's standing and an event.
package store

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/van"
	"arvelt/core/words"
)

// Channel is the PostgreSQL notification channel of changes.
const Channel = "arvelt"

// querier answers a query: a pool or a transaction.
type querier interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
}

// DB is the pool, or one transaction on it.
type DB interface {
	Begin(ctx context.Context) (pgx.Tx, error)
	Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error)
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
	SendBatch(ctx context.Context, b *pgx.Batch) pgx.BatchResults
}

// Store is the database.
type Store struct {
	Pool *pgxpool.Pool
	db   DB
	// Now is the clock; tests replace it.
	Now func() time.Time

	turns  *turns    // nil inside a transaction of many writes
	secret string    // seals the companies' keys; empty for none
	cache  *jobCache // nil inside a transaction of many writes
}

// Open connects as the application, by a role that owns nothing ([TooMightyError]), to a database that [Migrate] has brought up
// to date.
func Open(ctx context.Context, url string) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, errAddress
	}
	if !strings.Contains(url, "pool_max_conns") {
		config.MaxConns = int32(max(connsLeast, 4*runtime.GOMAXPROCS(0)))
	}
	// Nobody waits without end for a row that somebody holds, or holds one and says nothing more.
	for name, ms := range map[string]string{"statement_timeout": "20000", "lock_timeout": "3000", "idle_in_transaction_session_timeout": "20000"} {
		if _, set := config.ConnConfig.RuntimeParams[name]; !set {
			config.ConnConfig.RuntimeParams[name] = ms
		}
	}
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, err
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	err = checkRole(ctx, pool)
	if err == nil {
		err = checkSchema(ctx, pool)
	}
	if err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{Pool: pool, db: pool, Now: time.Now, cache: newJobCache(), turns: &turns{of: map[string]*turn{}}}, nil
}

// connsLeast is how many connections the pool has on a small machine.
const connsLeast = 10

// Beat writes to the database by a connection of its own.
func (s *Store) Beat(ctx context.Context) error {
	conn, err := pgx.ConnectConfig(ctx, s.Pool.Config().ConnConfig.Copy())
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	_, err = conn.Exec(ctx, `INSERT INTO heartbeat (at) VALUES (now()) ON CONFLICT (one) DO UPDATE SET at = now()`)
	return err
}

// InTx runs f on a store whose every write is part of one transaction: all of
// them happen, or none. Others that want the same lock wait.
func (s *Store) InTx(ctx context.Context, lock int64, f func(*Store) error) error {
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, `SELECT pg_advisory_xact_lock($1)`, lock); err != nil {
			return err
		}
		return f(&Store{Pool: s.Pool, db: tx, Now: s.Now, secret: s.secret})
	})
}

// snapshot runs f on one consistent state of the company.
func (s Scope) snapshot(ctx context.Context, f func(pgx.Tx) error) error {
	tx, err := s.db.beginWith(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}, func(*pgx.Batch) {})
	if err != nil {
		return err
	}
	defer tx.Rollback(context.WithoutCancel(ctx)) // nothing once it is over
	if err := f(tx); err != nil {
		return err
	}
	return tx.Commit(ctx)
}

// Close closes the pool.
func (s *Store) Close() { s.Pool.Close() }

// ErrNotFound says that there is no such thing in the signed-in company.
var ErrNotFound = errors.New("not found")

// Person is one of a company's people.
type Person struct {
	ID        string
	CompanyID string
	Name      string
	Email     string
	Role      string
	Hash      string
	// Authorisations are what somebody granted them, and nobody withdrew.
	Authorisations []Authorisation
	Left           bool // they left the company: they stay as whoever made what they made
	// Through is who took over what the person had left on a device; empty where they act themselves.
	Through string `db:"-"`
}

const personColumns = `id::text, company_id::text, name, email, role, password_hash, ` + authorisationsColumn + `, left_at IS NOT NULL`

// PersonByEmail finds the person who signs in.
func (s *Store) PersonByEmail(ctx context.Context, email string) (Person, error) {
	return one[Person](ctx, s.entering("company_of_email($1)", email),
		`SELECT `+personColumns+` FROM person WHERE lower(email) = lower($1) AND left_at IS NULL`, email)
}

// AnyByEmail is PersonByEmail of those who left too, for the command line.
func (s *Store) AnyByEmail(ctx context.Context, email string) (Person, error) {
	return one[Person](ctx, s.entering("company_of_email($1)", email), `SELECT `+personColumns+` FROM person WHERE lower(email) = lower($1)`, email)
}

// PersonByID returns the person of a session.
func (s *Store) PersonByID(ctx context.Context, id string) (Person, error) {
	if _, err := uuid.Parse(id); err != nil {
		return Person{}, ErrNotFound
	}
	return one[Person](ctx, s.entering("company_of_person($1)", id), `SELECT `+personColumns+` FROM person WHERE id = $1`, id)
}

// DemoPeople lists the people of the demo company; none without demo data.
func (s *Store) DemoPeople(ctx context.Context) ([]Person, error) {
	rows, err := s.entering("company_of_demo()").Query(ctx,
		`SELECT p.id::text, p.company_id::text, p.name, p.email, p.role, '', '[]'::jsonb, false FROM person p JOIN company c ON c.id = p.company_id WHERE c.demo AND p.left_at IS NULL
		ORDER BY array_position(ARRAY['owner','supervisor','electrician','apprentice','office'], p.role)`)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Person])
}

func one[T any](ctx context.Context, q querier, sql string, args ...any) (T, error) {
	rows, err := q.Query(ctx, sql, args...)
	if err != nil {
		var zero T
		return zero, err
	}
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByPos[T])
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return v, err
}

// Settings is what a company keeps for itself.
type Settings struct {
	Prices      []materials.Item `json:"prices"`
	Instruments []Instrument     `json:"instruments"`
	Schools     install.Schools  `json:"schools"`
	// Address, Phone and Licence stand on what leaves the company on paper.
	Address string `json:"address"`
	Phone   string `json:"phone"`
	Licence string `json:"licence"`
	// Locale is how dates are written and how it is spoken where no job is open; empty for
	// British English.
	Locale words.Locale `json:"locale,omitempty"`
	// Refs is how the jobs are numbered. Practice and Kind are those with which a job begins where nobody chooses another; empty for
	// the first that is offered.
	Refs     install.RefPattern `json:"refs,omitempty"`
	Practice string             `json:"practice,omitempty"`
	Kind     install.Kind       `json:"kind,omitempty"`
	// Kit is what it has beside its test instruments and its stock: tools, protection, first aid.
	Kit []van.Held `json:"kit"`
	// Quote is how it makes a price.
	Quote install.QuoteRule `json:"quote"`
}

// Speaks is the locale of the company.
func (s *Settings) Speaks() words.Locale { return cmp.Or(s.Locale, words.British) }

// Instrument is a test instrument of the company.
type Instrument struct {
	// Kit is the kind of kit that it is; empty where nobody has said.
	Kit        van.Kit `json:"kit"`
	Name       string  `json:"name"`
	Serial     string  `json:"serial"`
	Calibrated string  `json:"calibrated"`
}

// Holds is everything that the company has of the kinds of kit, its instruments among it.
func (s Settings) Holds() []van.Held {
	out := slices.Clone(s.Kit)
	for _, i := range s.Instruments {
		if i.Kit != "" {
			out = append(out, van.Held{Kit: i.Kit, Name: strings.TrimSpace(i.Name + " " + i.Serial), Until: i.Calibrated})
		}
	}
	return out
}

// PriceList returns the prices by key.
func (s Settings) PriceList() map[string]materials.Item {
	out := make(map[string]materials.Item, len(s.Prices))
	for _, p := range s.Prices {
		out[p.Key] = p
	}
	return out
}

// Company is a company with its settings.
type Company struct {
	ID       string
	Name     string
	Currency string
	Demo     bool
	Timezone string
	Version  int
	Stamp    uuid.UUID // of this state of it
	Settings Settings
}

// Location is the company's time zone: the day of an isolation ends there.
func (c Company) Location() *time.Location {
	if l, err := time.LoadLocation(c.Timezone); err == nil {
		return l
	}
	return time.UTC
}

// NewCompany makes a company.
func (s *Store) NewCompany(ctx context.Context, c Company) (id string, err error) {
	id = uuid.NewString()
	_, err = s.within(id).Exec(ctx, `INSERT INTO company (id, name, currency, demo, timezone, settings) VALUES ($1, $2, $3, $4, $5, $6)`, id,
		c.Name, c.Currency, c.Demo, c.Timezone, c.Settings)
	return id, err
}

// NewPerson adds a person to their company.
func (s *Store) NewPerson(ctx context.Context, p Person) (id string, err error) {
	if err := checkPerson(p); err != nil {
		return "", err
	}
	err = s.within(p.CompanyID).QueryRow(ctx, `INSERT INTO person (company_id, name, email, role, password_hash) VALUES ($1, $2, $3, $4, $5)
		RETURNING id::text`, p.CompanyID, p.Name, p.Email, p.Role, p.Hash).Scan(&id)
	if unique(err, "person_email") {
		err = &EmailTakenError{p.Email}
	}
	return id, err
}

// CompanyByName finds a company for the command line.
func (s *Store) CompanyByName(ctx context.Context, name string) (id string, err error) {
	err = s.db.QueryRow(ctx, `SELECT coalesce(company_named($1)::text, '')`, name).Scan(&id)
	if err == nil && id == "" {
		return "", fmt.Errorf("company %q: %w", name, ErrNotFound)
	}
	return id, err
}

// Scope is the database as one company sees it.
type Scope struct {
	*Store
	CompanyID string

	db scoped // hides that of the store
}

// For returns the company's scope.
func (s *Store) For(companyID string) Scope { return Scope{s, companyID, s.within(companyID)} }

const companyColumns = `id::text, name, currency, demo, timezone, version, stamp, settings`

// Company returns the scope's company.
func (s Scope) Company(ctx context.Context) (Company, error) {
	return one[Company](ctx, s.db, `SELECT `+companyColumns+` FROM company WHERE id = $1`, s.CompanyID)
}

// StaleError says that somebody saved a part since it was read.
type StaleError struct {
	Part    string
	Version int
	By      string
	At      time.Time
	Body    json.RawMessage
}

func (e *StaleError) Error() string {
	return fmt.Sprintf("%s was saved by %s at %s, after you read it", e.Part, e.By, e.At.Format("15:04:05"))
}

// SaveCompany saves the settings against the version that was read.
func (s Scope) SaveCompany(ctx context.Context, who Person, key string, base int, settings Settings) (Company, error) {
	err := pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		done, _, err := s.claim(ctx, tx, who, key, "company")
		if err != nil || done {
			return err
		}
		now, err := one[Company](ctx, tx, `SELECT `+companyColumns+` FROM company WHERE id = $1 FOR UPDATE`, s.CompanyID)
		if err != nil {
			return err
		}
		if now.Version != base {
			body, err := json.Marshal(now.Settings)
			if err != nil {
				return err
			}
			return &StaleError{Part: "company", Version: now.Version, By: "somebody", At: s.Now(), Body: body}
		}
		_, err = tx.Exec(ctx, `UPDATE company SET settings = $2, version = version + 1, stamp = gen_random_uuid() WHERE id = $1`,
			s.CompanyID, settings)
		return errors.Join(err, s.happened(ctx, tx, who, SettingsSaved, ""), s.notify(ctx, tx, "company", s.CompanyID, base+1))
	})
	if err != nil {
		return Company{}, err
	}
	return s.Company(ctx)
}

// claim takes an idempotency key. done is true when the key was used before,
// for target; the caller then answers without doing the write again.
func (s Scope) claim(ctx context.Context, tx pgx.Tx, who Person, key, what string) (done bool, target string, err error) {
	what = about(ctx, what)
	tag, err := tx.Exec(ctx, claimKeyQuery, s.CompanyID, who.ID, key, what)
	if err != nil || tag.RowsAffected() == 1 {
		return false, "", err
	}
	target, err = s.claimed(ctx, tx, who, key, what)
	return err == nil, target, err
}

// WriteKey is the key of a context under which a fingerprint of the write stands: its
// path and body, so that an idempotency key is good for that write alone.
const WriteKey = "arvelt-write"

// about is what a key is claimed for: a target and the fingerprint of the write.
func about(ctx context.Context, target string) string {
	if print, ok := ctx.Value(WriteKey).(string); ok {
		return target + " " + print
	}
	return target
}

// claimed returns what a key that was used before made; a [*KeyError] when it
// was used for another write.
func (s Scope) claimed(ctx context.Context, tx pgx.Tx, who Person, key, about string) (target string, err error) {
	var was string
	if err := tx.QueryRow(ctx, `SELECT about, target FROM idempotency WHERE company_id = $1 AND person_id = $2 AND key = $3`, s.CompanyID,
		who.ID, key).Scan(&was, &target); err != nil {
		return "", err
	}
	if was != about {
		return "", &KeyError{Key: key, About: was}
	}
	return target, nil
}

// KeyError says that an idempotency key was used for another write.
type KeyError struct{ Key, About string }

func (e *KeyError) Error() string {
	target, _, _ := strings.Cut(e.About, " ")
	return fmt.Sprintf("Idempotency-Key %q was used for another write (of a %s); give a new one for each write", e.Key, target)
}

// Event tells other browsers and instances what changed.
type Event struct {
	Company string `json:"company"`
	What    string `json:"what"` // job, jobs, company, session, left, ask
	ID      string `json:"id"`
	Version int    `json:"version"`
}

// Ask has the devices of the company report who is on a job: somebody asks to energise there.
func (s Scope) Ask(ctx context.Context, job string) error {
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error { return s.notify(ctx, tx, "ask", job, 0) })
}

func (s Scope) notify(ctx context.Context, tx pgx.Tx, what, id string, version int) error {
	batch := &pgx.Batch{}
	if err := s.queueNotice(batch, what, id, version); err != nil {
		return err
	}
	return tx.SendBatch(ctx, batch).Close()
}

func (s Scope) queueNotice(batch *pgx.Batch, what, id string, version int) error {
	body, err := json.Marshal(Event{s.CompanyID, what, id, version})
	if err != nil {
		return err
	}
	batch.Queue(`SELECT pg_notify($1, $2)`, Channel, string(body))
	return nil
}

// unique reports whether err is a broken unique constraint whose name holds part.
func unique(err error, part string) bool {
	var pe *pgconn.PgError
	return errors.As(err, &pe) && pe.Code == "23505" && strings.Contains(pe.ConstraintName, part)
}

// SessionEnded tells every instance to forget the sessions that it keeps at hand.
func (s *Store) SessionEnded(ctx context.Context) error {
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error { return s.For("").notify(ctx, tx, "session", "", 0) })
}

// Owner returns the company's owner, in whose name the command line acts.
func (s Scope) Owner(ctx context.Context) (Person, error) {
	return one[Person](ctx, s.db, `SELECT `+personColumns+` FROM person WHERE company_id = $1 AND role = 'owner' AND left_at IS NULL ORDER BY name LIMIT 1`,
		s.CompanyID)
}
