package store

import (
	"context"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// outbox is a table of what goes to somebody outside.
type outbox struct {
	table   string
	company string // function of the database that names the company of what is due
	open    string // states in which it is sent or asked about
	event   string // of which the browsers are told when one moves
	columns string // that are read of one beside those of [Sending]
}

// Sending is something that is to be sent to somebody outside, or asked about.
type Sending struct {
	ID, CompanyID, JobID, PersonID, State string
	Tries                                 int

	box *outbox
}

// lease is how long what was taken belongs to the one that took it.
const lease = 45 * time.Second

// takeDue takes the next of an outbox whose try is due, for this instance alone; nil when there is none.
func takeDue[T any](ctx context.Context, s *Store, box *outbox, sending func(*T) *Sending) (*T, error) {
	d, err := one[T](ctx, s.entering(box.company+"($1)", s.Now()),
		`UPDATE `+box.table+` SET next_try = $1::timestamptz + $2::interval, tries = tries + 1
		WHERE id = (SELECT id FROM `+box.table+` WHERE state IN (`+box.open+`) AND next_try <= $1 ORDER BY next_try LIMIT 1
		FOR UPDATE SKIP LOCKED)
		RETURNING id::text, company_id::text, job_id::text, person_id::text, state, tries, `+box.columns, s.Now(), lease)
	if errors.Is(err, ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	sending(&d).box = box
	return &d, nil
}

// Later puts something off: it is tried again after a pause that grows.
func (s *Store) Later(ctx context.Context, d *Sending, trouble string, pause time.Duration) error {
	return s.moved(ctx, d, func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `UPDATE `+d.box.table+` SET next_try = $2, trouble = $3 WHERE id = $1`, d.ID, s.Now().Add(pause), trouble)
		return err
	})
}

// moved changes something of an outbox and tells the browsers.
func (s *Store) moved(ctx context.Context, d *Sending, change func(pgx.Tx) error) error {
	return pgx.BeginFunc(ctx, s.within(d.CompanyID), func(tx pgx.Tx) error {
		if err := change(tx); err != nil {
			return err
		}
		return s.For(d.CompanyID).notify(ctx, tx, d.box.event, d.JobID, 0)
	})
}
