package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/jackc/pgx/v5"

	"arvelt/core/install"
)

// TokenHash is what a token is kept as: whoever reads the database comes in with none of them.
func TokenHash(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

// checkPerson holds a person to their bounds. The error is [install.Errors].
func checkPerson(p Person) error {
	var wrong install.Errors
	say := func(field, value, accept string) {
		wrong = append(wrong, install.FieldError{Field: field, Value: value, Accept: accept})
	}
	readable := func(s string, most int) bool {
		return strings.TrimSpace(s) != "" && utf8.ValidString(s) && utf8.RuneCountInString(s) <= most && !strings.ContainsFunc(s, unicode.IsControl)
	}
	if !readable(p.Name, 80) {
		say("name", p.Name, "a name of at most 80 characters")
	}
	local, host, at := strings.Cut(p.Email, "@")
	if !readable(p.Email, 200) || !at || local == "" || host == "" || strings.ContainsAny(p.Email, " ,;<>\"") || strings.Contains(host, "@") {
		say("email", p.Email, "an email address, as jana@firm.example")
	}
	if !slices.Contains(install.Roles, p.Role) {
		say("role", p.Role, "one of "+strings.Join(install.Roles, ", "))
	}
	if len(wrong) > 0 {
		return wrong
	}
	return nil
}

// EmailTakenError says that somebody signs in with an email already.
type EmailTakenError struct{ Email string }

func (e *EmailTakenError) Error() string {
	return fmt.Sprintf("email: %q is somebody's already; give another", e.Email)
}

// invitedFor is how long a link to set a password is good.
const invitedFor = 7 * 24 * time.Hour

// Invite adds a person to the company, and returns the token of a link by which they set their
// password, once.
func (s Scope) Invite(ctx context.Context, who Person, p Person) (id, token string, until time.Time, err error) {
	p.CompanyID, p.Hash = s.CompanyID, ""
	err = pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		on := &Store{Pool: s.Pool, db: tx, Now: s.Now}
		if id, err = on.NewPerson(ctx, p); err != nil {
			return err
		}
		if err = s.happened(ctx, tx, who, InvitedOne, p.Name+", "+p.Role); err != nil {
			return err
		}
		token, until, err = on.For(s.CompanyID).link(ctx, tx, who, id)
		return err
	})
	return id, token, until, err
}

// Link makes a new link by which a person sets their password. Those that were made before are good no more.
func (s Scope) Link(ctx context.Context, who Person, id string) (token string, until time.Time, err error) {
	other, err := s.Colleague(ctx, id)
	if err != nil {
		return "", until, err
	}
	err = pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		if err := s.happened(ctx, tx, who, LinkMade, other.Name); err != nil {
			return err
		}
		token, until, err = s.link(ctx, tx, who, id)
		return err
	})
	return token, until, err
}

func (s Scope) link(ctx context.Context, tx pgx.Tx, who Person, id string) (token string, until time.Time, err error) {
	token, until = rand.Text(), s.Now().Add(invitedFor)
	if _, err := tx.Exec(ctx, `UPDATE invitation SET used_at = $2 WHERE person_id = $1 AND used_at IS NULL`, id, s.Now()); err != nil {
		return "", until, err
	}
	_, err = tx.Exec(ctx, `INSERT INTO invitation (token_hash, company_id, person_id, made_by, at, until) VALUES ($1, $2, $3, $4, $5, $6)`,
		TokenHash(token), s.CompanyID, id, who.Name, s.Now(), until)
	return token, until, err
}

// Invited is whom a link is for; [ErrNotFound] where it is used up, too old or none of ours.
func (s *Store) Invited(ctx context.Context, token string) (Person, error) {
	return one[Person](ctx, s.entering("company_of_invitation($1)", TokenHash(token)),
		`SELECT `+personColumns+` FROM person WHERE left_at IS NULL AND id = (SELECT person_id FROM invitation
		WHERE token_hash = $1 AND used_at IS NULL AND until > $2)`, TokenHash(token), s.Now())
}

// Welcome sets the password of whom a link is for and uses the link up. Every session of theirs ends.
func (s *Store) Welcome(ctx context.Context, token, hash string) (p Person, err error) {
	err = pgx.BeginFunc(ctx, s.entering("company_of_invitation($1)", TokenHash(token)), func(tx pgx.Tx) error {
		var id string
		err := tx.QueryRow(ctx, `UPDATE invitation SET used_at = $2 WHERE token_hash = $1 AND used_at IS NULL AND until > $2
			RETURNING person_id::text`, TokenHash(token), s.Now()).Scan(&id)
		if errors.Is(err, pgx.ErrNoRows) {
			return ErrNotFound
		}
		if err == nil {
			err = s.setPassword(ctx, tx, id, hash, "")
		}
		if err == nil {
			p, err = one[Person](ctx, tx, `SELECT `+personColumns+` FROM person WHERE id::text = $1 AND left_at IS NULL`, id)
		}
		return err
	})
	return p, err
}

// SetPassword sets a person's password. Every session of theirs ends but the one with the token that is kept.
func (s *Store) SetPassword(ctx context.Context, id, hash, keptToken string) error {
	return pgx.BeginFunc(ctx, s.entering("company_of_person($1)", id), func(tx pgx.Tx) error { return s.setPassword(ctx, tx, id, hash, keptToken) })
}

func (s *Store) setPassword(ctx context.Context, tx pgx.Tx, id, hash, keptToken string) error {
	batch := &pgx.Batch{}
	batch.Queue(`UPDATE person SET password_hash = $2 WHERE id::text = $1`, id, hash)
	batch.Queue(`UPDATE invitation SET used_at = $2 WHERE person_id::text = $1 AND used_at IS NULL`, id, s.Now())
	batch.Queue(`DELETE FROM sessions WHERE person_id::text = $1 AND token <> $2`, id, keptToken)
	if err := tx.SendBatch(ctx, batch).Close(); err != nil {
		return err
	}
	p, err := one[Person](ctx, tx, `SELECT `+personColumns+` FROM person WHERE id::text = $1`, id)
	if err != nil {
		return err
	}
	if err := s.For(p.CompanyID).happened(ctx, tx, p, PasswordSet, p.Name); err != nil {
		return err
	}
	return s.For("").notify(ctx, tx, "session", "", 0)
}

// SetRole changes a person's role. Where the company would have no owner left it is refused.
func (s Scope) SetRole(ctx context.Context, who Person, id, role string) error {
	if !slices.Contains(install.Roles, role) {
		return install.Errors{{Field: "role", Value: role, Accept: "one of " + strings.Join(install.Roles, ", ")}}
	}
	return s.changePerson(ctx, who, RoleChanged, role, id, `UPDATE person SET role = $3 WHERE id::text = $2 AND company_id = $1`, role)
}

// SetLeft says that a person has left, or is back. Sessions of a leaver end at once; who made what
// they made they stay.
func (s Scope) SetLeft(ctx context.Context, who Person, id string, left bool) error {
	if !left {
		return s.changePerson(ctx, who, BackOne, "", id, `UPDATE person SET left_at = NULL WHERE id::text = $2 AND company_id = $1`)
	}
	sessions, err := s.Sessions(ctx, id)
	if err != nil {
		return err
	}
	tokens := make([]string, len(sessions))
	for i, x := range sessions {
		tokens[i] = x.Token
	}
	if err := s.changePerson(ctx, who, LeftOne, "", id, `UPDATE person SET left_at = $3, password_hash = '' WHERE id::text = $2 AND company_id = $1`, s.Now()); err != nil {
		return err
	}
	return s.EndSessions(ctx, who, id, tokens)
}

// changePerson changes a person of the company, unless it would have no owner any more.
func (s Scope) changePerson(ctx context.Context, who Person, what What, how, id, sql string, args ...any) error {
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		// Two owners who each take the other's role wait for one another.
		if _, err := tx.Exec(ctx, `SELECT FROM company WHERE id = $1 FOR UPDATE`, s.CompanyID); err != nil {
			return err
		}
		var name string
		err := tx.QueryRow(ctx, sql+` RETURNING name`, append([]any{s.CompanyID, id}, args...)...).Scan(&name)
		if errors.Is(err, pgx.ErrNoRows) {
			err = ErrNotFound
		}
		if err == nil {
			if how != "" {
				name += ", " + how
			}
			err = s.happened(ctx, tx, who, what, name)
		}
		if err != nil {
			return err
		}
		var owners int
		if err := tx.QueryRow(ctx, `SELECT count(*) FROM person WHERE company_id = $1 AND role = 'owner' AND left_at IS NULL`,
			s.CompanyID).Scan(&owners); err != nil {
			return err
		}
		if owners == 0 {
			return &NothingError{"The company would have no owner any more: make somebody else one first."}
		}
		return s.peopleChanged(ctx, tx)
	})
}

// Session is one session of a person.
type Session struct {
	Token   string // as it is kept, by its hash
	At      time.Time
	Agent   string // what the browser calls itself
	Address string // where it came from when it began
}

// Sessions are those of a person of the company, the newest first.
func (s Scope) Sessions(ctx context.Context, person string) ([]Session, error) {
	rows, err := s.db.Query(ctx, `SELECT token, started_at, agent, address FROM sessions WHERE company_id = $1 AND person_id::text = $2
		AND expiry > $3 ORDER BY started_at DESC`, s.CompanyID, person, s.Now())
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Session])
}

// SessionCounts is how many sessions each person of the company has.
func (s Scope) SessionCounts(ctx context.Context) (map[string]int, error) {
	rows, err := s.db.Query(ctx, `SELECT person_id::text, count(*) FROM sessions WHERE company_id = $1 AND expiry > $2 GROUP BY 1`, s.CompanyID, s.Now())
	if err != nil {
		return nil, err
	}
	out := map[string]int{}
	var person string
	var n int
	_, err = pgx.ForEachRow(rows, []any{&person, &n}, func() error { out[person] = n; return nil })
	return out, err
}

// Began says whose a session is and on what it began.
func (s Scope) Began(ctx context.Context, person string, x Session) error {
	batch := &pgx.Batch{}
	batch.Queue(namesSession, x.Token) // it is nobody's yet
	batch.Queue(`UPDATE sessions SET company_id = $2, person_id = $3, started_at = $4, agent = $5, address = $6 WHERE token = $1`,
		x.Token, s.CompanyID, person, s.Now(), x.Agent, x.Address)
	return s.db.SendBatch(ctx, batch).Close()
}

// The failures to sign in that are let pass within [failWindow]: with an account from one address or
// known device, from one address with whatever account, with one account from wherever.
const (
	failsOfPair    = 10
	failsOfAddress = 60
	failsOfAccount = 40
	failWindow     = 5 * time.Minute
)

// Try is an attempt to sign in.
type Try struct {
	Account string // the email, in small letters
	Address string
	Device  string // token of a device; empty for none
}

// TooManyError says that signing in is closed for a while.
type TooManyError struct{}

func (*TooManyError) Error() string {
	return "Too many tries. Wait five minutes."
}

// Attempt counts a try as a failure before it is judged, so that many at once count too, and errs with
// [TooManyError] where there were too many. A device from which the person came in before is counted by
// itself: strangers do not shut it out.
func (s *Store) Attempt(ctx context.Context, t Try) error {
	var known bool
	if t.Device != "" {
		if err := s.entering("company_of_email($1)", t.Account).QueryRow(ctx, `SELECT EXISTS (SELECT FROM known_device d JOIN person p ON p.id = d.person_id
			WHERE d.token_hash = $1 AND lower(p.email) = $2)`, TokenHash(t.Device), t.Account).Scan(&known); err != nil {
			return err
		}
	}
	limits := []struct {
		what string
		most int
	}{{"pair " + t.Account + " " + t.Address, failsOfPair}, {"account " + t.Account, failsOfAccount}, {"address " + t.Address, failsOfAddress}}
	if known {
		limits = limits[:1]
		limits[0].what = "device " + t.Account + " " + t.Device
	}
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		for _, l := range limits {
			what := TokenHash(l.what)
			var n int
			// The lock makes tries at once wait for each other's count.
			if _, err := tx.Exec(ctx, `SELECT pg_advisory_xact_lock(hashtextextended(encode($1, 'hex'), 7))`, what); err != nil {
				return err
			}
			if err := tx.QueryRow(ctx, `SELECT count(*) FROM sign_in_failure WHERE what = $1 AND at > $2`, what,
				s.Now().Add(-failWindow)).Scan(&n); err != nil {
				return err
			}
			if n >= l.most {
				return &TooManyError{}
			}
			if _, err := tx.Exec(ctx, `INSERT INTO sign_in_failure (what, at) VALUES ($1, $2)`, what, s.Now()); err != nil {
				return err
			}
		}
		return nil
	})
}

// CameIn takes the failures of a try back that succeeded, and keeps the device as known.
func (s *Store) CameIn(ctx context.Context, t Try, person, device string) error {
	batch := &pgx.Batch{}
	batch.Queue(`DELETE FROM sign_in_failure WHERE what = ANY($1)`, [][]byte{TokenHash("pair " + t.Account + " " + t.Address),
		TokenHash("device " + t.Account + " " + t.Device)})
	// One of the others was this try's.
	for _, what := range []string{"account " + t.Account, "address " + t.Address} {
		batch.Queue(`DELETE FROM sign_in_failure WHERE ctid = (SELECT ctid FROM sign_in_failure WHERE what = $1 ORDER BY at DESC LIMIT 1)`, TokenHash(what))
	}
	batch.Queue(`DELETE FROM sign_in_failure WHERE at < $1`, s.Now().Add(-failWindow))
	batch.Queue(`INSERT INTO known_device (token_hash, company_id, person_id, at) VALUES ($1, arvelt_company(), $2, $3)
		ON CONFLICT (token_hash, person_id) DO UPDATE SET at = $3`,
		TokenHash(device), person, s.Now())
	return s.entering("company_of_person($1)", person).SendBatch(ctx, batch).Close()
}
