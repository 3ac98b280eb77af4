package store

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/whole"
)

// Row is a job in the list.
type Row struct {
	ID        string    `json:"id"`
	Ref       string    `json:"ref"`
	Title     string    `json:"title"`
	Kind      string    `json:"kind"`
	Customer  string    `json:"customer"`
	Town      string    `json:"town"`
	Stage     string    `json:"stage"`
	Hold      string    `json:"hold"`
	Sheet     string    `json:"sheet"`
	Who       string    `json:"who"`
	Holds     int       `json:"holds"`
	Trouble   string    `json:"trouble"`
	UpdatedAt time.Time `json:"updatedAt"`
}

const listLimit = 500

// Jobs lists the company's jobs, newest change first, those that match q.
func (s Scope) Jobs(ctx context.Context, q string) ([]Row, error) {
	const columns = `SELECT id::text, ref, title, kind, customer, town, stage, hold, hold_sheet, hold_who, holds, trouble, updated_at FROM job WHERE company_id = $1 `
	var rows pgx.Rows
	var err error
	if q = strings.TrimSpace(q); q == "" {
		rows, err = s.db.Query(ctx, columns+`ORDER BY updated_at DESC LIMIT $2`, s.CompanyID, listLimit)
	} else {
		like := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(q) + "%"
		rows, err = s.db.Query(ctx, columns+`AND (ref ILIKE $3 OR title ILIKE $3 OR customer ILIKE $3 OR town ILIKE $3 OR stage ILIKE $3 OR kind ILIKE $3) ORDER BY updated_at DESC LIMIT $2`, s.CompanyID, listLimit, like)
	}
	if err != nil {
		return nil, err
	}
	out := make([]Row, 0, 64)
	defer rows.Close()
	for rows.Next() { // scanned by hand: this is the page opened most
		var r Row
		if err := rows.Scan(&r.ID, &r.Ref, &r.Title, &r.Kind, &r.Customer, &r.Town, &r.Stage, &r.Hold, &r.Sheet, &r.Who, &r.Holds, &r.Trouble, &r.UpdatedAt); err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, rows.Err()
}

// ListMark tells one state of the company's jobs from another: jobs are only
// added and their versions only grow, so count and sum move with every change.
func (s Scope) ListMark(ctx context.Context) (count, versions int, err error) {
	err = s.db.QueryRow(ctx, `SELECT count(*), coalesce(sum(version), 0) FROM job WHERE company_id = $1`, s.CompanyID).Scan(&count, &versions)
	return count, versions, err
}

// Versions are what a computed answer rests on: the version of the job, which
// moves with every change of it, and of the company's settings, which price it.
type Versions struct{ Job, Company int }

// Versions reads both in one query.
func (s Scope) Versions(ctx context.Context, id string) (v Versions, err error) {
	if _, err := uuid.Parse(id); err != nil {
		return v, ErrNotFound
	}
	err = s.db.QueryRow(ctx, `SELECT j.version, c.version FROM job j JOIN company c ON c.id = j.company_id WHERE j.id = $1 AND j.company_id = $2`, id, s.CompanyID).Scan(&v.Job, &v.Company)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return v, err
}

// JobID finds a job by its reference.
func (s Scope) JobID(ctx context.Context, ref string) (id string, err error) {
	err = s.db.QueryRow(ctx, `SELECT id::text FROM job WHERE ref = $1 AND company_id = $2`, ref, s.CompanyID).Scan(&id)
	if errors.Is(err, pgx.ErrNoRows) {
		err = fmt.Errorf("job %q: %w", ref, ErrNotFound)
	}
	return id, err
}

// Loaded is a job as read from the database, with what saving it needs.
type Loaded struct {
	ID        string
	Version   int
	Versions  map[string]int // by part
	Job       install.Job
	Revisions []string // signed, oldest first
	Prices    map[string]materials.Item
	Now       time.Time
	Who       Person

	tx      pgx.Tx            // of the change in work
	touched map[string]string // part to what was done, for the audit
	undoing bool
	saved   *whole.View
	removed []string
	stale   map[string]*StaleError
	records int
	seals   int
}

// View computes everything of the job for the person who loaded it. After a save
// it is what the save computed.
func (l *Loaded) View() whole.View {
	if l.saved != nil {
		return *l.saved
	}
	return whole.Of(&l.Job, l.Prices, l.Who.Name, l.Now)
}

// Touch marks a part as changed against the version that was read.
func (l *Loaded) Touch(part string, base int, what string) error {
	if now, ok := l.Versions[part]; ok && now != base {
		return l.stale[part]
	} else if !ok && base != 0 {
		return fmt.Errorf("part %q: %w", part, ErrNotFound)
	}
	l.touched[part] = what
	return nil
}

// Job loads a job whole, for a person to look at.
func (s Scope) Job(ctx context.Context, who Person, id string) (*Loaded, error) {
	var l *Loaded
	err := s.snapshot(ctx, func(tx pgx.Tx) (err error) {
		l, err = s.load(ctx, tx, id, "")
		return err
	})
	if err != nil {
		return nil, err
	}
	l.Who = who
	return l, nil
}

func (s Scope) load(ctx context.Context, tx pgx.Tx, id, lock string) (*Loaded, error) {
	if _, err := uuid.Parse(id); err != nil {
		return nil, ErrNotFound
	}
	l := &Loaded{ID: id, Versions: map[string]int{}, touched: map[string]string{}, stale: map[string]*StaleError{}, Now: s.Now().UTC().Truncate(time.Microsecond)}
	j := &l.Job
	j.Format = install.Format
	err := tx.QueryRow(ctx, `SELECT ref, title, kind, practice, edition, version FROM job WHERE id = $1 AND company_id = $2 `+lock, id, s.CompanyID).
		Scan(&j.Ref, &j.Title, &j.Kind, &j.Practice, &j.Edition, &l.Version)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, ErrNotFound
	}
	if err != nil {
		return nil, err
	}
	rows, err := tx.Query(ctx, `SELECT part, version, body, updated_by, updated_at FROM job_part WHERE job_id = $1 AND company_id = $2 ORDER BY ord, part`, id, s.CompanyID)
	if err != nil {
		return nil, err
	}
	for rows.Next() {
		st := &StaleError{}
		if err := rows.Scan(&st.Part, &st.Version, &st.Body, &st.By, &st.At); err != nil {
			return nil, err
		}
		l.Versions[st.Part], l.stale[st.Part] = st.Version, st
		if err := json.Unmarshal(st.Body, partOf(j, st.Part, true)); err != nil {
			return nil, fmt.Errorf("part %s: %w", st.Part, err)
		}
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	if j.Records, err = collect[install.Record](ctx, tx, `SELECT body FROM job_record WHERE job_id = $1 AND company_id = $2 ORDER BY seq`, id, s.CompanyID); err != nil {
		return nil, err
	}
	if j.Seals, err = collect[install.Seal](ctx, tx, `SELECT seal FROM revision WHERE job_id = $1 AND company_id = $2 ORDER BY seq`, id, s.CompanyID); err != nil {
		return nil, err
	}
	for _, seal := range j.Seals {
		l.Revisions = append(l.Revisions, seal.Revision)
	}
	c, err := one[Company](ctx, tx, `SELECT `+companyColumns+` FROM company WHERE id = $1`, s.CompanyID)
	if err != nil {
		return nil, err
	}
	l.Prices, l.Now = c.Settings.PriceList(), l.Now.In(c.Location())
	l.records, l.seals = len(j.Records), len(j.Seals)
	j.Tidy()
	return l, nil
}

func collect[T any](ctx context.Context, tx pgx.Tx, sql string, args ...any) ([]T, error) {
	rows, err := tx.Query(ctx, sql, args...)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (v T, err error) {
		var body []byte
		if err = row.Scan(&body); err == nil {
			err = json.Unmarshal(body, &v)
		}
		return v, err
	})
}

// Parts are the parts that every job has, circuits beside them.
var Parts = []string{"site", "supply", "board", "loads", "materials", "plan", "schools"}

// partOf returns a pointer to a part of the job, nil when there is none of that
// name. A circuit is made when add is set.
func partOf(j *install.Job, part string, add bool) any {
	switch part {
	case "site":
		return &j.Site
	case "supply":
		return &j.Supply
	case "board":
		return &j.Board
	case "loads":
		return &j.Loads
	case "materials":
		return &j.Materials
	case "plan":
		return &j.Plan
	case "schools":
		return &j.Schools
	}
	if id, ok := strings.CutPrefix(part, "circuits/"); ok && id != "" {
		if c := j.CircuitByID(id); c != nil {
			return c
		}
		if add {
			j.Circuits = append(j.Circuits, install.Circuit{ID: id})
			return &j.Circuits[len(j.Circuits)-1]
		}
	}
	return nil
}

// SetPart decodes a part into the job and checks it against the practice's
// terms. An unknown part is [ErrNotFound]; a wrong field [install.Errors].
func (l *Loaded) SetPart(part string, base int, body []byte) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	if strings.HasPrefix(part, "circuits/") && len(l.Job.Circuits) >= 40 && l.Job.CircuitByID(part[9:]) == nil {
		return install.Errors{{Field: "circuits", Value: "41", Accept: "at most 40 circuits"}}
	}
	if partOf(&l.Job, part, true) == nil {
		return fmt.Errorf("part %q: %w", part, ErrNotFound)
	}
	if err := l.Touch(part, base, "edited "+part); err != nil {
		return err
	}
	terms := whole.Practice(&l.Job).Terms()
	var err error
	switch p := partOf(&l.Job, part, false).(type) {
	case *install.Site:
		err = decode(body, p, func() error { return p.Validate() })
	case *install.Supply:
		err = decode(body, p, func() error { return p.Validate(terms) })
	case *install.Board:
		err = decode(body, p, func() error { return p.Validate() })
	case *install.Loads:
		err = decode(body, p, func() error { return p.Validate(terms) })
	case *install.Materials:
		err = decode(body, p, func() error { return p.Validate() })
	case *install.Plan:
		err = decode(body, p, func() error { return p.Validate() })
	case *install.Schools:
		err = decode(body, p, func() error { return p.Validate() })
	case *install.Circuit:
		id := p.ID
		err = decode(body, p, func() error {
			if p.ID != id {
				return install.Errors{{Field: part + ".id", Value: p.ID, Accept: id}}
			}
			return p.Validate(terms)
		})
	}
	l.Job.Tidy()
	return err
}

// Remove takes a circuit out of the job, unless something was recorded of it:
// records are never lost.
func (l *Loaded) Remove(part string, base int) error {
	id, ok := strings.CutPrefix(part, "circuits/")
	i := slices.IndexFunc(l.Job.Circuits, func(c install.Circuit) bool { return c.ID == id })
	if !ok || i < 0 {
		return fmt.Errorf("part %q: %w", part, ErrNotFound)
	}
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	if now := l.Versions[part]; now != base {
		return l.stale[part]
	}
	for _, r := range l.Job.Records {
		if r.Circuit == id || strings.HasPrefix(r.Subject, id+"-") {
			return &NothingError{"Circuit " + id + " has records (" + string(r.Kind) + " by " + r.By + "): it stays."}
		}
	}
	l.Job.Circuits = slices.Delete(l.Job.Circuits, i, i+1)
	l.removed = append(l.removed, part)
	return nil
}

func frozenError(j *install.Job) error {
	return &FrozenError{Revision: j.Revision()}
}

// FrozenError says that a signed revision takes no edits.
type FrozenError struct{ Revision string }

func (e *FrozenError) Error() string {
	return "revision " + e.Revision + " is signed and takes no edits: open a new revision first"
}

// decode puts a body into a part and then checks it. check is called after the
// part is set: a method value would be bound to the part as it was.
func decode[T any](body []byte, into *T, check func() error) error {
	var fresh T
	dec := json.NewDecoder(bytes.NewReader(body))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&fresh); err != nil {
		var te *json.UnmarshalTypeError
		if errors.As(err, &te) {
			return install.Errors{{Field: te.Field, Value: te.Value, Accept: "a value of another kind, " + te.Type.String()}}
		}
		return install.Errors{{Field: "body", Value: err.Error(), Accept: "the whole part as a JSON object"}}
	}
	*into = fresh
	return check()
}

// Change loads a job, lets apply change it and saves what was touched, every
// added record and seal, the audit and the job's standing in one transaction.
// A key that was used before is answered with the job as it is.
func (s Scope) Change(ctx context.Context, who Person, id, key string, apply func(*Loaded) error) (*Loaded, error) {
	var l *Loaded
	err := pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) (err error) {
		done, _, err := s.claim(ctx, tx, who, key, "job "+id)
		if err != nil {
			return err
		}
		if l, err = s.load(ctx, tx, id, "FOR UPDATE"); err != nil {
			return err
		}
		l.Who, l.tx = who, tx
		if done {
			return nil
		}
		if err := apply(l); err != nil {
			return err
		}
		return s.save(ctx, tx, l)
	})
	if err != nil {
		return nil, err
	}
	return l, nil
}

func (s Scope) save(ctx context.Context, tx pgx.Tx, l *Loaded) error {
	j := &l.Job
	for part, what := range l.touched {
		var before, after []byte
		if st := l.stale[part]; st != nil {
			before = st.Body
		}
		after, err := json.Marshal(partOf(j, part, false))
		if err != nil {
			return err
		}
		ord := 0
		for i := range j.Circuits {
			if part == "circuits/"+j.Circuits[i].ID {
				ord = i
			}
		}
		from := l.Versions[part]
		l.Versions[part] = from + 1
		if _, err := tx.Exec(ctx, `INSERT INTO job_part (company_id, job_id, part, ord, version, body, updated_by, updated_at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
			ON CONFLICT (job_id, part) DO UPDATE SET version = $5, body = $6, updated_by = $7, updated_at = $8`, s.CompanyID, l.ID, part, ord, from+1, after, l.Who.Name, l.Now); err != nil {
			return err
		}
		if err := s.audit(ctx, tx, l, part, what, from, before); err != nil {
			return err
		}
	}
	for _, part := range l.removed {
		if _, err := tx.Exec(ctx, `DELETE FROM job_part WHERE job_id = $1 AND company_id = $2 AND part = $3`, l.ID, s.CompanyID, part); err != nil {
			return err
		}
		if err := s.audit(ctx, tx, l, part, "removed "+part, l.Versions[part], l.stale[part].Body); err != nil {
			return err
		}
		delete(l.Versions, part)
	}
	for _, r := range j.Records[l.records:] {
		if _, err := tx.Exec(ctx, `INSERT INTO job_record (company_id, job_id, id, kind, body) VALUES ($1, $2, $3, $4, $5)`, s.CompanyID, l.ID, r.ID, r.Kind, r); err != nil {
			return err
		}
		if err := s.audit(ctx, tx, l, "records", "recorded "+string(r.Kind)+" "+r.Subject, 0, nil); err != nil {
			return err
		}
	}
	for i, seal := range j.Seals[l.seals:] {
		// The file of a revision is kept as it was signed: of an imported job
		// that is the newest one only, and only while nothing was reopened.
		var file bytes.Buffer
		if l.seals+i == len(j.Seals)-1 && j.Frozen() {
			if err := handover.Write(&file, j); err != nil {
				return err
			}
		}
		if _, err := tx.Exec(ctx, `INSERT INTO revision (company_id, job_id, revision, seal, file) VALUES ($1, $2, $3, $4, $5)`, s.CompanyID, l.ID, seal.Revision, seal, file.Bytes()); err != nil {
			return err
		}
		l.Revisions = append(l.Revisions, seal.Revision)
	}
	return s.stand(ctx, tx, l)
}

// stand writes where the job stands, for the list.
func (s Scope) stand(ctx context.Context, tx pgx.Tx, l *Loaded) error {
	v := l.View()
	l.saved = &v
	hold, sheet, who, trouble := "", "", "", ""
	if len(v.State.Holds) > 0 {
		h := v.State.Holds[0]
		hold, sheet, who = h.What, h.Sheet, h.Who
	}
	if len(v.Take.Troubles) > 0 {
		trouble = v.Take.Troubles[0]
	}
	l.Version++
	_, err := tx.Exec(ctx, `UPDATE job SET version = $3, customer = $4, town = $5, stage = $6, hold = $7, hold_sheet = $8, hold_who = $9, holds = $10, trouble = $11, updated_at = $12 WHERE id = $1 AND company_id = $2`,
		l.ID, s.CompanyID, l.Version, l.Job.Site.Customer, l.Job.Site.Town, v.State.Stage, hold, sheet, who, len(v.State.Holds), trouble, l.Now)
	return errors.Join(err, s.notify(ctx, tx, "job", l.ID, l.Version))
}

func (s Scope) audit(ctx context.Context, tx pgx.Tx, l *Loaded, part, what string, from int, before []byte) error {
	_, err := tx.Exec(ctx, `INSERT INTO edit (company_id, job_id, at, person_id, by_name, part, what, from_version, to_version, before, undone) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
		s.CompanyID, l.ID, l.Now, l.Who.ID, l.Who.Name, part, what, from, from+1, before, l.undoing)
	return err
}

// RefTakenError says that another job of the company has the reference.
type RefTakenError struct{ Ref string }

func (e *RefTakenError) Error() string {
	return fmt.Sprintf("ref: %q is another job's already; give a reference that no job has", e.Ref)
}

// Create adds a job with all it holds.
func (s Scope) Create(ctx context.Context, who Person, key string, job install.Job) (*Loaded, error) {
	var id string
	err := pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		done, target, err := s.claim(ctx, tx, who, key, "create "+job.Ref)
		if err != nil || done {
			id = target
			return err
		}
		job.Tidy()
		err = tx.QueryRow(ctx, `INSERT INTO job (company_id, ref, title, kind, practice, edition) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id::text`,
			s.CompanyID, job.Ref, job.Title, job.Kind, job.Practice, job.Edition).Scan(&id)
		if unique(err, "ref") {
			return &RefTakenError{job.Ref}
		}
		if err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `UPDATE idempotency SET target = $4 WHERE company_id = $1 AND person_id = $2 AND key = $3`, s.CompanyID, who.ID, key, id); err != nil {
			return err
		}
		c, err := one[Company](ctx, tx, `SELECT `+companyColumns+` FROM company WHERE id = $1`, s.CompanyID)
		if err != nil {
			return err
		}
		l := &Loaded{ID: id, Versions: map[string]int{}, touched: map[string]string{}, Job: job, Prices: c.Settings.PriceList(), Now: s.Now().UTC().Truncate(time.Microsecond).In(c.Location()), Who: who}
		for _, part := range Parts {
			l.touched[part] = "started " + part
		}
		for i := range job.Circuits {
			l.touched["circuits/"+job.Circuits[i].ID] = "started circuit"
		}
		return s.save(ctx, tx, l)
	})
	if err != nil {
		return nil, err
	}
	return s.Job(ctx, who, id)
}

// NewRecord completes a record with who and when and adds it to the job, with
// a seal when it is a signature.
func (l *Loaded) NewRecord(r install.Record) error {
	r.ID, r.At, r.By, r.Role = uuid.NewString(), l.Now.UTC(), l.Who.Name, l.Who.Role
	if r.PairsDead == nil {
		r.PairsDead = []string{}
	}
	if r.Kind == install.Reading {
		for i := len(l.Job.Records) - 1; i >= 0; i-- {
			if old := &l.Job.Records[i]; old.Kind == install.Reading && old.Subject == r.Subject && old.Circuit == r.Circuit {
				r.Supersedes = old.ID
				break
			}
		}
	} else {
		r.Supersedes = ""
	}
	if err := whole.Allow(&l.Job, r, l.Prices, l.Now); err != nil {
		return err
	}
	l.Job.Records = append(l.Job.Records, r)
	if r.Kind == install.Signature {
		seal, err := handover.Seal(&l.Job)
		if err != nil {
			return err
		}
		l.Job.Seals = append(l.Job.Seals, seal)
	}
	return nil
}

// Undo restores the part that the person saved last on the job. What was
// undone is passed over, so that the next undo reaches the edit before it.
func (s Scope) Undo(ctx context.Context, who Person, id, key string) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		var seq int64
		var part, what string
		var before []byte
		var since bool
		err := l.tx.QueryRow(ctx, `SELECT seq, part, what, before, EXISTS (SELECT FROM edit later WHERE later.job_id = e.job_id AND later.company_id = e.company_id AND later.part = e.part AND later.seq > e.seq AND NOT later.undone)
			FROM edit e WHERE job_id = $1 AND company_id = $2 AND person_id = $3 AND before IS NOT NULL AND NOT undone ORDER BY seq DESC LIMIT 1`, id, s.CompanyID, who.ID).
			Scan(&seq, &part, &what, &before, &since)
		if errors.Is(err, pgx.ErrNoRows) {
			return &NothingError{"There is no edit of yours to undo."}
		}
		if err != nil {
			return err
		}
		if since {
			return l.stale[part]
		}
		if err := l.SetPart(part, l.Versions[part], before); err != nil {
			return err
		}
		l.touched[part], l.undoing = "undid: "+what, true
		_, err = l.tx.Exec(ctx, `UPDATE edit SET undone = true WHERE seq = $1 AND company_id = $2`, seq, s.CompanyID)
		return err
	})
}

// NothingError says that there is nothing to do.
type NothingError struct{ Why string }

func (e *NothingError) Error() string { return e.Why }

// Edit is one line of the history.
type Edit struct {
	At   time.Time `json:"at"`
	By   string    `json:"by"`
	Part string    `json:"part"`
	What string    `json:"what"`
}

// History returns the newest edits of a job.
func (s Scope) History(ctx context.Context, id string) ([]Edit, error) {
	if _, err := s.Versions(ctx, id); err != nil {
		return nil, err
	}
	rows, err := s.db.Query(ctx, `SELECT at, by_name, part, what FROM edit WHERE job_id = $1 AND company_id = $2 ORDER BY seq DESC LIMIT 200`, id, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Edit])
}

// SignedFile returns the job file as it was signed under a revision.
func (s Scope) SignedFile(ctx context.Context, id, revision string) (file []byte, err error) {
	err = s.db.QueryRow(ctx, `SELECT file FROM revision WHERE job_id = $1 AND company_id = $2 AND revision = $3 AND length(file) > 0`, id, s.CompanyID, revision).Scan(&file)
	if errors.Is(err, pgx.ErrNoRows) {
		err = fmt.Errorf("revision %q: %w", revision, ErrNotFound)
	}
	return file, err
}
