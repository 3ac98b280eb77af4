package store

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/survey"
)

// Change loads a job, lets apply change it and saves what was touched, every
// added record and seal, the audit and the job's standing in one transaction.
// A key that was used before is answered with the job as it is. What is to be made of the job
// as it will be is made meanwhile, as the database commits; it only reads, and is nothing where
// that fails.
func (s Scope) Change(ctx context.Context, who Person, id, key string, apply func(*Loaded) error, meanwhile ...func(*Loaded)) (*Loaded,
	error) {
	done, err := s.turns.take(ctx, id)
	if err != nil {
		return nil, err
	}
	defer done()
	l, tx, err := s.claimJob(ctx, id, who, key)
	if tx != nil {
		defer tx.Rollback(context.WithoutCancel(ctx)) // nothing once it is committed
	}
	if err != nil {
		return nil, err
	}
	l.Who, l.tx = who, tx
	if !l.claimed {
		_, err = s.claimed(ctx, tx, who, key, about(ctx, "job "+id))
	} else if err = l.applied(apply); err == nil {
		if err = s.assigned(ctx, tx, l); err == nil && l.stockWas != nil && !l.undoing {
			take := l.View().Take
			err = take.Ordered(l.Job.Words, l.stockWas, l.Job.Materials.Lines)
		}
	}
	if l.claimed && err == nil {
		if err = s.save(ctx, tx, l); err == nil && l.signer != nil {
			err = s.happened(ctx, tx, who, SealedOne, l.Job.Ref+", "+l.Job.Revision())
		}
	}
	if err != nil {
		return nil, err
	}
	committed := make(chan error, 1)
	go func() { committed <- commit(ctx, tx) }()
	for _, f := range meanwhile {
		f(l)
	}
	if err := <-committed; err != nil {
		return nil, err
	}
	s.cache.keep(l)
	return l, nil
}

// UnsureError says that the database did not answer a commit: what was written may be saved or
// not. The same write under the same key settles it.
type UnsureError struct{ Err error }

func (e *UnsureError) Error() string {
	return "it is not known whether this was saved: " + e.Err.Error()
}

func (e *UnsureError) Unwrap() error { return e.Err }

// commit ends a transaction. What the database itself answers is a refusal; where it does not
// answer the outcome is not known.
func commit(ctx context.Context, tx pgx.Tx) error {
	err := tx.Commit(ctx)
	var said *pgconn.PgError
	if err == nil || errors.Is(err, pgx.ErrTxCommitRollback) || errors.As(err, &said) && said.Severity == "ERROR" {
		return err
	}
	return &UnsureError{err}
}

// save writes what was changed, and then where the job stands, which is worked out while the
// database writes the first: the two need nothing of each other.
func (s Scope) save(ctx context.Context, tx pgx.Tx, l *Loaded) error {
	batch, err := s.write(l)
	if err != nil {
		return err
	}
	written := make(chan error, 1)
	go func() { written <- tx.SendBatch(ctx, batch).Close() }()
	standing := &pgx.Batch{}
	err = s.stand(standing, l)
	if err := cmp.Or(<-written, err); err != nil {
		return err
	}
	return tx.SendBatch(ctx, standing).Close()
}

// write queues what was touched, added and removed, and the audit.
func (s Scope) write(l *Loaded) (*pgx.Batch, error) {
	j := &l.Job
	batch := &pgx.Batch{}
	l.command = uuid.NewString()
	for part, what := range l.touched {
		p, _ := install.PartNamed(part)
		after, err := json.Marshal(p.Of(j))
		if err != nil {
			return nil, err
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
			part, p.Place(j), from+1, after, l.Who.Name, l.Now)
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
	return batch, nil
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
	l.Version, l.stamp = l.Version+1, uuid.New()
	batch.Queue(`UPDATE job SET version = $3, customer = $4, town = $5, stage = $6, hold = $7, hold_sheet = $8, hold_who = $9,
		holds = $10, trouble = $11, updated_at = $12, address = $13, stamp = $14, starts = $15, names = $16,
		locks = $17, waits = $18, planned = $19, danger = $20, pace = $21, logged = $22 WHERE id = $1 AND company_id = $2`,
		l.ID, s.CompanyID, l.Version, v.Job.Site.Customer, v.Job.Site.Town, v.State.Stage, hold, sheet, who,
		len(v.State.Holds), trouble, l.Now, v.Job.Site.Address, l.stamp, starts(v.Job), names(v.Job), locks(v.Tests.Locks), v.State.Waiting(),
		plan.PlannedOf(v.Job, v.Tasks, v.Batons), dangerOf(v.Dangers), v.Pace, plan.LoggedOf(v.Job, v.Tasks, l.Prices))
	j := v.Job
	batch.Queue(findQuery, l.ID, s.CompanyID, strings.ToLower(strings.Join([]string{j.Ref, j.Title, j.Site.Customer, j.Site.Address,
		j.Site.Town, string(v.State.Stage), string(j.Kind)}, "\n")))
	return s.queueNotice(batch, "job", l.ID, l.Version)
}

// findQuery keeps what a job is found by, where that has changed: the index over it is large, and
// the job's own row changes with every edit.
const findQuery = `INSERT INTO job_find (job_id, company_id, words) VALUES ($1, $2, $3) ON CONFLICT (job_id) DO UPDATE SET
	words = EXCLUDED.words WHERE job_find.words <> EXCLUDED.words`

// locks are those that hang on a job, whose and which.
func locks(list []install.Record) string {
	out := []string{}
	for i := range list {
		out = append(out, strings.TrimSpace(list[i].By+" "+list[i].LockTag))
	}
	return strings.Join(out, "; ")
}

// dangerOf is what people are at risk by now, the newest first; empty for nothing.
func dangerOf(list []survey.Finding) string {
	out := []string{}
	for i := range list {
		out = append(out, strings.TrimSpace(list[i].Title+". "+list[i].Seen))
	}
	return strings.Join(out, " · ")
}

// starts is the day on which the work begins, nil where none is planned.
func starts(j *install.Job) *time.Time {
	at, err := time.Parse(time.DateOnly, j.Plan.StartDate)
	if err != nil {
		return nil
	}
	return &at
}

// names are those who are on the plan.
func names(j *install.Job) []string {
	out := []string{}
	for _, t := range j.Plan.Tasks {
		for _, name := range install.NamesIn(t.Who) {
			if !slices.Contains(out, name) {
				out = append(out, name)
			}
		}
	}
	slices.Sort(out)
	return out
}

// audit writes who changed what, with how the part was: copied in the database,
// before the part is written.
func (s Scope) audit(batch *pgx.Batch, l *Loaded, part, what, title string, from int) {
	by := l.Who.Name
	if l.Who.Through != "" {
		by = l.Job.Words.Say("%s, taken over by %s", by, l.Who.Through)
	}
	batch.Queue(`INSERT INTO edit (company_id, job_id, at, person_id, by_name, part, what, from_version, to_version, before, undone,
			command, title, undoes)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, (SELECT body FROM job_part WHERE job_id = $2 AND company_id = $1 AND part = $6), $10,
			$11, $12, $13)`,
		s.CompanyID, l.ID, l.Now, l.Who.ID, by, part, what, from, from+1, l.undoing, l.command, cmp.Or(l.title, title),
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
