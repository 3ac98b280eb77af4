package store

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"runtime/debug"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"arvelt/core/handover"
	"arvelt/core/install"
)

// work is a connection or a transaction on which a change is made.
type work interface {
	Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error)
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	QueryRow(ctx context.Context, sql string, args ...any) pgx.Row
	SendBatch(ctx context.Context, b *pgx.Batch) pgx.BatchResults
}

// Change loads a job, lets apply change it and saves what was touched, every
// added record and seal, the audit and the job's standing in one transaction.
// A key that was used before is answered with the job as it is.
func (s Scope) Change(ctx context.Context, who Person, id, key string, apply func(*Loaded) error) (*Loaded, error) {
	if s.db != DB(s.Pool) { // inside InTx, as a part of its transaction
		var l *Loaded
		err := pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) (err error) {
			l, err = s.change(ctx, tx, &changing{who: who, id: id, key: key, apply: apply})
			return err
		})
		return l, err
	}
	return s.changeAlone(ctx, &changing{who: who, id: id, key: key, apply: apply, alone: true})
}

// ChangeAhead is Change for an apply that reads nothing but the job it is given
// and leaves no trace outside of it. It is worked out on what is kept of the job
// while the database still claims and locks, and once more only when another
// change came between. encode makes the answer while the database saves; it may
// only read. [Loaded.Encoded] is nil for a key that was used before.
func (s Scope) ChangeAhead(ctx context.Context, who Person, id, key string, apply func(*Loaded) error,
	encode func(*Loaded) ([]byte, error)) (*Loaded, error) {
	return s.changeAlone(ctx, &changing{who: who, id: id, key: key, apply: apply, encode: encode, alone: true, ahead: true})
}

// changing is one change asked for.
type changing struct {
	who     Person
	id, key string
	apply   func(*Loaded) error
	encode  func(*Loaded) ([]byte, error) // nil when no answer is wanted
	alone   bool                          // the transaction is this change's own
	ahead   bool
}

// changeAlone makes a change in a transaction that begins with its first exchange
// and is committed with its last one. A connection that is given back inside a
// transaction is closed, and the database takes everything back.
func (s Scope) changeAlone(ctx context.Context, c *changing) (*Loaded, error) {
	conn, err := s.Pool.Acquire(ctx)
	if err != nil {
		return nil, err
	}
	defer conn.Release()
	l, err := s.change(ctx, conn, c)
	if err != nil {
		if conn.Conn().PgConn().TxStatus() != 'I' {
			if _, back := conn.Exec(ctx, `ROLLBACK`); back != nil {
				err = errors.Join(err, back)
			}
		}
		return nil, err
	}
	s.cache.keep(l)
	return l, nil
}

func (s Scope) change(ctx context.Context, on work, c *changing) (*Loaded, error) {
	var ahead *draft
	if c.ahead {
		ahead = s.draftAhead(c)
		defer ahead.wait()
	}
	l, taken, err := s.claimAndLoad(ctx, on, c.id, []any{c.who.ID, c.key, about(ctx, "job "+c.id)}, c.alone)
	if err != nil {
		return nil, err
	}
	l.Who, l.tx = c.who, on
	if !taken {
		if _, err := s.claimed(ctx, on, c.who, c.key, about(ctx, "job "+c.id)); err != nil {
			return nil, err
		}
		if c.alone {
			_, err = on.Exec(ctx, `COMMIT`)
		}
		return l, err
	}
	d := ahead
	if !d.standsOn(l) {
		d = s.draft(c, l)
	}
	return d.l, d.send(ctx, on)
}

// draft is a change worked out: the job as it will be, and what writes it.
type draft struct {
	l       *Loaded
	batch   *pgx.Batch
	err     error         // of the change; the job then stays as it was
	wrong   error         // of encoding the answer
	from    int           // version of the job that it changes
	company int           // version of the company's list that it was computed with
	worked  chan struct{} // closed when l, batch and err stand
	encoded chan struct{} // closed when the answer stands
}

func newDraft(l *Loaded) *draft {
	return &draft{l: l, from: l.Version, company: l.companyVersion, worked: make(chan struct{}), encoded: make(chan struct{})}
}

// draft works a change out on a job as loaded.
func (s Scope) draft(c *changing, l *Loaded) *draft {
	d := newDraft(l)
	go d.work(s, c)
	return d
}

// draftAhead works a change out on what is kept of the job, nil when nothing is.
func (s Scope) draftAhead(c *changing) *draft {
	kept, list, ok := s.cache.both(c.id, s.CompanyID)
	if !ok {
		return nil
	}
	l := s.blank(c.id)
	kept.into(l)
	l.price(list)
	l.Version, l.Who = kept.version, c.who
	return s.draft(c, l)
}

// standsOn reports whether the draft was worked out on the job as it is now.
func (d *draft) standsOn(l *Loaded) bool {
	return d != nil && d.from == l.Version && d.company == l.companyVersion
}

// wait returns when nothing works on the draft any more.
func (d *draft) wait() {
	if d != nil {
		<-d.encoded
	}
}

func (d *draft) work(s Scope, c *changing) {
	defer close(d.encoded)
	func() {
		defer close(d.worked)
		defer caught(&d.err)
		if d.err = c.apply(d.l); d.err == nil {
			d.batch, d.err = s.write(d.l)
		}
		if d.err == nil && c.alone {
			d.batch.Queue(`COMMIT`)
		}
	}()
	if d.err == nil && c.encode != nil {
		defer caught(&d.wrong)
		d.l.Encoded, d.wrong = c.encode(d.l)
	}
}

// caught makes an error of a panic: nobody above a goroutine of its own would
// catch it, and one job must not end the server.
func caught(err *error) {
	if r := recover(); r != nil {
		*err = fmt.Errorf("a change could not be worked out: %v\n%s", r, debug.Stack())
	}
}

// send writes the draft in one exchange, which ends the transaction when it is
// the change's own.
func (d *draft) send(ctx context.Context, on work) error {
	<-d.worked
	err := d.err
	if err == nil {
		err = on.SendBatch(ctx, d.batch).Close()
	}
	<-d.encoded
	return errors.Join(err, d.wrong)
}

// write queues what was touched, added and removed, the audit and the job's
// standing.
func (s Scope) write(l *Loaded) (*pgx.Batch, error) {
	j := &l.Job
	batch := &pgx.Batch{}
	l.command = uuid.NewString()
	for part, what := range l.touched {
		after, err := json.Marshal(partOf(j, part, false))
		if err != nil {
			return nil, err
		}
		ord := 0
		for i := range j.Circuits {
			if part == "circuits/"+j.Circuits[i].ID {
				ord = i
			}
		}
		// A part that was taken off and is made again begins above every version that it had: nobody
		// who read the old one overwrites the new. The job's own version counts every change.
		title := l.named(part)
		from, had := l.Versions[part]
		if !had {
			from = l.Version
		}
		l.Versions[part] = from + 1
		l.stale[part] = &StaleError{Part: part, Version: from + 1, By: l.Who.Name, At: l.Now, Body: after}
		s.audit(batch, l, part, what, title, from) // first, as it copies what the part was
		batch.Queue(`INSERT INTO job_part (company_id, job_id, part, ord, version, body, updated_by, updated_at) VALUES ($1, $2, $3,
			$4, $5, $6, $7, $8)
			ON CONFLICT (job_id, part) DO UPDATE SET version = $5, body = $6, updated_by = $7, updated_at = $8`, s.CompanyID, l.ID,
			part, ord, from+1, after, l.Who.Name, l.Now)
	}
	for _, part := range l.removed {
		s.audit(batch, l, part, "removed "+part, l.named(part), l.Versions[part])
		batch.Queue(`DELETE FROM job_part WHERE job_id = $1 AND company_id = $2 AND part = $3`, l.ID, s.CompanyID, part)
		delete(l.Versions, part)
		delete(l.stale, part)
	}
	for _, r := range j.Records[l.records:] {
		batch.Queue(`INSERT INTO job_record (company_id, job_id, id, kind, body) VALUES ($1, $2, $3, $4, $5)`, s.CompanyID,
			l.ID, r.ID, r.Kind, r)
		s.audit(batch, l, "records", "recorded "+string(r.Kind)+" "+r.Subject, "", 0)
	}
	for _, n := range l.notes {
		s.audit(batch, l, n[0], n[1], "", 0)
	}
	for i, seal := range j.Seals[l.seals:] {
		// The file of a revision is kept as it was signed: of an imported job
		// that is the newest one only, and only while nothing was reopened.
		var file bytes.Buffer
		if l.seals+i == len(j.Seals)-1 && j.Frozen() {
			if err := handover.Write(&file, j); err != nil {
				return nil, err
			}
		}
		batch.Queue(`INSERT INTO revision (company_id, job_id, revision, seal, file) VALUES ($1, $2, $3, $4, $5)`,
			s.CompanyID, l.ID, seal.Revision, seal, file.Bytes())
		l.Revisions = append(l.Revisions, seal.Revision)
	}
	return batch, s.stand(batch, l)
}

// stand writes where the job stands, for the list, and tells the browsers.
func (s Scope) stand(batch *pgx.Batch, l *Loaded) error {
	v := l.View()
	l.saved = &v
	hold, sheet, who, trouble := "", "", "", ""
	if len(v.State.Holds) > 0 {
		h := v.State.Holds[0]
		hold, sheet, who = h.What, string(h.Sheet), h.Who
	}
	if len(v.Take.Troubles) > 0 {
		trouble = v.Take.Troubles[0]
	}
	l.Version++
	batch.Queue(`UPDATE job SET version = $3, customer = $4, town = $5, stage = $6, hold = $7, hold_sheet = $8, hold_who = $9,
		holds = $10, trouble = $11, updated_at = $12 WHERE id = $1 AND company_id = $2`,
		l.ID, s.CompanyID, l.Version, v.Job.Site.Customer, v.Job.Site.Town, v.State.Stage, hold, sheet, who,
		len(v.State.Holds), trouble, l.Now)
	return s.queueNotice(batch, "job", l.ID, l.Version)
}

// audit writes who changed what, with how the part was: copied in the database,
// before the part is written.
func (s Scope) audit(batch *pgx.Batch, l *Loaded, part, what, title string, from int) {
	batch.Queue(`INSERT INTO edit (company_id, job_id, at, person_id, by_name, part, what, from_version, to_version, before, undone,
			command, title, undoes)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, (SELECT body FROM job_part WHERE job_id = $2 AND company_id = $1 AND part = $6), $10,
			$11, $12, $13)`,
		s.CompanyID, l.ID, l.Now, l.Who.ID, l.Who.Name, part, what, from, from+1, l.undoing, l.command, cmp.Or(l.title, title),
		l.undoes)
}

// PartChange is one part of a command, against the version that was read.
type PartChange struct {
	Part string          `json:"part"`
	Base int             `json:"base"`
	Body json.RawMessage `json:"body"`
}

// mostParts is how many parts one command may change.
const mostParts = 60

// SetParts changes parts together, under a title in the words of who does it: all are taken or
// none, and one undo takes all of them back.
func (l *Loaded) SetParts(title string, parts []PartChange) error {
	if len(parts) == 0 || len(parts) > mostParts {
		return install.Errors{{Field: "parts", Value: strconv.Itoa(len(parts)), Accept: fmt.Sprintf("1 to %d parts", mostParts)}}
	}
	if n := utf8.RuneCountInString(title); n > 120 || !utf8.ValidString(title) || strings.ContainsRune(title, 0) {
		return install.Errors{{Field: "title", Value: strings.ToValidUTF8(title, "?"), Accept: "readable text of at most 120 characters"}}
	}
	l.title = title
	seen := map[string]bool{}
	for _, p := range parts {
		if seen[p.Part] {
			return install.Errors{{Field: "parts", Value: p.Part, Accept: "each part once"}}
		}
		seen[p.Part] = true
		if err := l.SetPart(p.Part, p.Base, p.Body); err != nil {
			return err
		}
	}
	return nil
}
