package store

import (
	"context"
	"crypto/rand"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// LinkKind is what a link shows.
type LinkKind string

// What links show.
const (
	TradeLink  LinkKind = "trade"  // another trade its sheet of a job
	PersonDays LinkKind = "person" // a calendar the days of a person
	JobDays    LinkKind = "job"    // a calendar the days of a job
)

// Shared is a link by which somebody reads something without signing in.
type Shared struct {
	ID        string     `json:"id"`
	Kind      LinkKind   `json:"kind"`
	JobID     string     `json:"jobId"`
	Subject   string     `json:"subject"`
	Called    string     `json:"called"`
	By        string     `json:"by"`
	At        time.Time  `json:"at"`
	Until     time.Time  `json:"until"`
	ReadAt    *time.Time `json:"readAt"` // nil while nobody has read it
	companyID string
}

// How long links are good: a trade is in the house for weeks, a calendar is subscribed to for good and withdrawn.
var linkedFor = map[LinkKind]time.Duration{TradeLink: 60 * 24 * time.Hour, PersonDays: 400 * 24 * time.Hour, JobDays: 200 * 24 * time.Hour}

// mostLinks is how many links of a company are good at once.
const mostLinks = 500

const sharedColumns = `SELECT id::text, kind, coalesce(job_id::text, ''), subject, called, made_by, at, until, read_at, company_id::text FROM shared_link `

func sharedRow(row pgx.CollectableRow) (l Shared, err error) {
	err = row.Scan(&l.ID, &l.Kind, &l.JobID, &l.Subject, &l.Called, &l.By, &l.At, &l.Until, &l.ReadAt, &l.companyID)
	return l, err
}

// Share makes a link and returns its secret, which is kept nowhere.
func (s Scope) Share(ctx context.Context, who Person, l Shared) (made Shared, token string, err error) {
	token = rand.Text()
	l.By, l.At, l.Until = who.Name, s.Now(), s.Now().Add(linkedFor[l.Kind])
	err = pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		var n int
		if err := tx.QueryRow(ctx, `SELECT count(*) FROM shared_link WHERE company_id = $1 AND withdrawn_at IS NULL AND until > $2`, s.CompanyID,
			s.Now()).Scan(&n); err != nil {
			return err
		}
		if n >= mostLinks {
			return &NothingError{"The company has 500 links that are good: withdraw some first."}
		}
		if err := tx.QueryRow(ctx, `INSERT INTO shared_link (token_hash, company_id, kind, job_id, subject, called, made_by, at, until)
			VALUES ($1, $2, $3, nullif($4, '')::uuid, $5, $6, $7, $8,
				$9) RETURNING id::text`, TokenHash(token), s.CompanyID, l.Kind, l.JobID, l.Subject, l.Called,
			l.By, l.At, l.Until).Scan(&l.ID); err != nil {
			return err
		}
		return s.happened(ctx, tx, who, SharedOne, l.Called)
	})
	return l, token, err
}

// Links are those of a kind that are good: of a job, or of a person, or of the company where neither is named.
func (s Scope) Links(ctx context.Context, kind LinkKind, job, subject string) ([]Shared, error) {
	rows, err := s.db.Query(ctx, sharedColumns+`WHERE company_id = $1 AND kind = $2 AND ($3 = '' OR job_id::text = $3) AND ($4 = '' OR subject = $4)
		AND withdrawn_at IS NULL AND until > $5 ORDER BY at DESC LIMIT $6`, s.CompanyID, kind, job, subject, s.Now(), mostLinks)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, sharedRow)
}

// Unshare withdraws a link; [ErrNotFound] where none of the company is good under the id. mine says whose it may be: their own calendar is a person's
// to withdraw, everything else of who plans.
func (s Scope) Unshare(ctx context.Context, who Person, id string, mine bool) error {
	if _, err := uuid.Parse(id); err != nil {
		return ErrNotFound
	}
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		var called string
		err := tx.QueryRow(ctx, `UPDATE shared_link SET withdrawn_at = $3, withdrawn_by = $4 WHERE id = $2 AND company_id = $1 AND withdrawn_at IS NULL
			AND (NOT $5 OR kind = $6 AND subject = $7) RETURNING called`, s.CompanyID, id, s.Now(), who.Name, mine, PersonDays, who.ID).Scan(&called)
		if errors.Is(err, pgx.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		return s.happened(ctx, tx, who, UnsharedOne, called)
	})
}

// Shown is the link of a secret and the scope of its company; [ErrNotFound] where it was withdrawn, has ended or is none of ours.
func (s *Store) Shown(ctx context.Context, token string, kinds ...LinkKind) (l Shared, scope Scope, err error) {
	l, err = func() (Shared, error) {
		rows, err := s.entering("company_of_link($1)", TokenHash(token)).Query(ctx,
			`UPDATE shared_link SET read_at = $2 WHERE token_hash = $1 AND withdrawn_at IS NULL
			AND until > $2 AND kind = ANY($3) RETURNING id::text, kind, coalesce(job_id::text, ''), subject, called, made_by, at, until, read_at,
				company_id::text`,
			TokenHash(token), s.Now(), kinds)
		if err != nil {
			return Shared{}, err
		}
		l, err := pgx.CollectExactlyOneRow(rows, sharedRow)
		if errors.Is(err, pgx.ErrNoRows) {
			err = ErrNotFound
		}
		return l, err
	}()
	return l, s.For(l.companyID), err
}
