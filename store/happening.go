package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// What happens in a company beside the edits of its jobs.
type What string

// The kinds of it.
const (
	CameIn        What = "signed in"
	Failed        What = "failed to sign in"
	WentOut       What = "signed out"
	InvitedOne    What = "added a person"
	LinkMade      What = "made a link for a password"
	PasswordSet   What = "set a password"
	RoleChanged   What = "changed a role"
	LeftOne       What = "let a person in no more"
	BackOne       What = "let a person in again"
	Granted       What = "authorised"
	Withdrawn     What = "withdrew an authorisation"
	SessionsEnded What = "ended sessions"
	Exported      What = "took out a file"
	ImportedOne   What = "imported a job"
	SealedOne     What = "signed and sealed"
	SettingsSaved What = "changed the company’s lists"
	RestoredAll   What = "restored a backup"
	StockChanged  What = "changed the stock"
	SharedOne     What = "shared by a link"
	UnsharedOne   What = "withdrew a link"
)

// Happening is one line of what happened.
type Happening struct {
	Seq     int64
	At      time.Time
	By      string
	What    What
	About   string
	Address string
}

type addressKey struct{}

// From gives a context the address that a request came from, for the lines that it leaves.
func From(ctx context.Context, address string) context.Context {
	return context.WithValue(ctx, addressKey{}, address)
}

// happened writes a line in a transaction. The lock makes lines stand in the order of their commits.
func (s Scope) happened(ctx context.Context, tx pgx.Tx, who Person, what What, about string) error {
	address, _ := ctx.Value(addressKey{}).(string)
	if _, err := tx.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended($1, 11))`, s.CompanyID); err != nil {
		return err
	}
	// The time is taken under the lock, so that it is in the same order.
	_, err := tx.Exec(ctx, `INSERT INTO happening (company_id, at, person_id, by_name, what, about, address)
		VALUES ($1, $2, nullif($3, '')::uuid, $4, $5, $6, $7)`, s.CompanyID, s.Now(), who.ID, who.Name, what, about, address)
	return err
}

// Note writes a line by itself.
func (s Scope) Note(ctx context.Context, who Person, what What, about string) error {
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error { return s.happened(ctx, tx, who, what, about) })
}

// happeningsPage is how many lines are read at once.
const happeningsPage = 100

// Happenings are the newest lines before a number, or the newest of all where it is 0.
func (s Scope) Happenings(ctx context.Context, before int64) ([]Happening, error) {
	rows, err := s.db.Query(ctx, `SELECT seq, at, by_name, what, about, address FROM happening WHERE company_id = $1 AND ($2 = 0 OR seq < $2)
		ORDER BY seq DESC LIMIT $3`, s.CompanyID, before, happeningsPage)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Happening])
}
