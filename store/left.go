package store

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Ended is a session that somebody else ended.
type Ended struct {
	CompanyID string
	PersonID  string
	By        string
	At        time.Time
}

// EndedSession says whose session a token was that somebody else ended; [ErrNotFound] where none did.
func (s *Store) EndedSession(ctx context.Context, token string) (Ended, error) {
	return one[Ended](ctx, s.entering("company_of_ended_session($1)", TokenHash(token)),
		`SELECT company_id::text, person_id::text, ended_by, at FROM session_ended WHERE token_hash = $1`, TokenHash(token))
}

// EndSessions ends the sessions of a person of the company that have these tokens, and tells every
// instance. What their devices still hold may be handed in under them ([Store.HandIn]).
func (s Scope) EndSessions(ctx context.Context, who Person, person string, tokens []string) error {
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		batch := &pgx.Batch{}
		for _, token := range tokens {
			hash, err := hex.DecodeString(token) // sessions are kept by it
			if err != nil {
				return err
			}
			batch.Queue(`INSERT INTO session_ended (token_hash, company_id, person_id, ended_by, at) VALUES ($1, $2, $3, $4, $5) ON CONFLICT
				DO NOTHING`, hash, s.CompanyID, person, who.Name, s.Now())
			batch.Queue(`DELETE FROM sessions WHERE token = $1`, token)
		}
		if err := tx.SendBatch(ctx, batch).Close(); err != nil {
			return err
		}
		var name string
		if err := tx.QueryRow(ctx, `SELECT name FROM person WHERE id::text = $1`, person).Scan(&name); err != nil {
			return err
		}
		if err := s.happened(ctx, tx, who, SessionsEnded, fmt.Sprintf("%s, %d", name, len(tokens))); err != nil {
			return err
		}
		return s.For("").notify(ctx, tx, "session", "", 0)
	})
}

// People lists the company's people.
func (s Scope) People(ctx context.Context) ([]Person, error) {
	rows, err := s.db.Query(ctx, `SELECT `+personColumns+` FROM person WHERE company_id = $1 ORDER BY name`, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Person])
}

// Left is a write that a device still held when its person's session was ended.
type Left struct {
	ID       string
	PersonID string
	Person   string
	JobID    string
	Ref      string
	Key      string
	Path     string        // where it would have been sent
	Body     []byte        // as it would have been sent
	ClockOff time.Duration // the device's clock against the server's when it was handed in
	Seq      int           // the device's count when it was made
	HandedAt time.Time
}

// leftMost bounds what one person may leave undecided.
const leftMost = 2000

// HandIn keeps a write of an ended session for decision; one that was handed in before is kept once.
func (s *Store) HandIn(ctx context.Context, e Ended, w Left) error {
	if _, err := uuid.Parse(w.JobID); err != nil {
		return ErrNotFound
	}
	scope := s.For(e.CompanyID)
	return pgx.BeginFunc(ctx, scope.db, func(tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, `INSERT INTO left_write (company_id, person_id, job_id, key, path, body, clock_off, seq, handed_at)
			SELECT $1, $2, j.id, $4, $5, $6, $7, $8, $9 FROM job j WHERE j.id = $3 AND j.company_id = $1 AND
				(SELECT count(*) FROM left_write WHERE company_id = $1 AND person_id = $2 AND decided_at IS NULL) < $10
			ON CONFLICT (company_id, person_id, key) DO UPDATE SET seq = left_write.seq`,
			e.CompanyID, e.PersonID, w.JobID, w.Key, w.Path, w.Body, w.ClockOff, w.Seq, s.Now(), leftMost)
		if err != nil {
			return err
		}
		if tag.RowsAffected() == 0 {
			return &NothingError{fmt.Sprintf("It is of a job that is not the company's, or %d writes of this person wait for decision.", leftMost)}
		}
		return scope.notify(ctx, tx, "left", w.JobID, 0)
	})
}

const leftQuery = `SELECT w.id::text, w.person_id::text, p.name, w.job_id::text, j.ref, w.key, w.path, w.body, w.clock_off, w.seq,
	w.handed_at FROM left_write w JOIN person p ON p.id = w.person_id JOIN job j ON j.id = w.job_id
	WHERE w.company_id = $1 AND w.decided_at IS NULL`

// Lefts lists what waits for decision, each person's in the order in which it was made.
func (s Scope) Lefts(ctx context.Context) ([]Left, error) {
	rows, err := s.db.Query(ctx, leftQuery+` ORDER BY p.name, w.person_id, w.seq, w.handed_at`, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Left])
}

// Left returns one that waits for decision.
func (s Scope) Left(ctx context.Context, id string) (Left, error) {
	if _, err := uuid.Parse(id); err != nil {
		return Left{}, ErrNotFound
	}
	return one[Left](ctx, s.db, leftQuery+` AND w.id = $2`, s.CompanyID, id)
}

// Decide says what became of one: taken over in its person's name, or set aside for a reason. One
// that was decided meanwhile is [ErrNotFound].
func (s Scope) Decide(ctx context.Context, who Person, id string, taken bool, reason string) error {
	var done string
	err := s.db.QueryRow(ctx, `UPDATE left_write SET decided_at = $3, decided_by = $4, taken = $5, reason = $6 WHERE id = $2 AND
		company_id = $1 AND decided_at IS NULL RETURNING id::text`, s.CompanyID, id, s.Now(), who.Name, taken, reason).Scan(&done)
	if errors.Is(err, pgx.ErrNoRows) {
		return ErrNotFound
	}
	return err
}
