package store

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/exact"
	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/van"
	"arvelt/core/whole"
)

// State is what a computed answer rests on: the stamp of a job, which moves with every change
// of it, and that of the company's settings, which price it.
type State struct{ Job, Company uuid.UUID }

// State reads both in one query.
func (s Scope) State(ctx context.Context, id string) (v State, err error) {
	if _, err := uuid.Parse(id); err != nil {
		return v, ErrNotFound
	}
	err = s.db.QueryRow(ctx, `SELECT j.stamp, c.stamp FROM job j JOIN company c ON c.id = j.company_id WHERE j.id = $1 AND
		j.company_id = $2`, id, s.CompanyID).Scan(&v.Job, &v.Company)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return v, err
}

// Practice is that which a job follows.
func (s Scope) Practice(ctx context.Context, id string) (practice string, err error) {
	err = s.db.QueryRow(ctx, `SELECT practice FROM job WHERE id = $1 AND company_id = $2`, id, s.CompanyID).Scan(&practice)
	return practice, notFound(err)
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
	Kit       []van.Held        // what the company has of tools, protection and instruments
	Rule      install.QuoteRule // by which the company makes a price
	Now       time.Time
	Who       Person

	company        string
	signer         *handover.Signer         // of the company; nil where the server has no secret
	stamp          uuid.UUID                // of this state of the job
	edition        string                   // of a job of before the edition was a part
	companyStamp   uuid.UUID                // of the list that Prices are from
	claimed        bool                     // the key of the change in work was not used before
	tx             pgx.Tx                   // of the change in work
	touched        map[string]string        // part to what was done, for the audit
	planWas        *install.Plan            // who and what was on the plan before it was edited; nil where it was not
	stockWas       map[string]install.Stock // what was ordered before the materials were edited; nil where they were not
	undoing        bool                     // nothing of it is to be undone: it takes back, brings back or begins
	undoes         *string                  // the command that it takes back
	command, title string                   // of the audit: what is changed together
	gone           map[string]string        // names of parts that were taken off
	saved          *whole.View
	removed        []string
	stale          map[string]*StaleError
	records        int
	seals          int
	notes          [][2]string // audit lines beside the parts: what it is about, what was done
}

// note adds a line to the audit beside those of the parts.
func (l *Loaded) note(about, what string) { l.notes = append(l.notes, [2]string{about, what}) }

// Acts is who loaded the job, as it knows whoever acts on it.
func (l *Loaded) Acts() install.Person { return l.Who.ActsOn(&l.Job, l.Now) }

// View computes everything of the job for the person who loaded it. After a save
// it is what the save computed.
func (l *Loaded) View() whole.View {
	if l.saved != nil {
		return *l.saved
	}
	return whole.Of(&l.Job, l.Prices, l.Acts(), l.Now)
}

// staleOf is the error of a part that is no longer as it was read; one that somebody has
// taken off meanwhile is not there any more.
func (l *Loaded) staleOf(part string) error {
	if e := l.stale[part]; e != nil {
		return e
	}
	return fmt.Errorf("part %q: somebody has taken it off meanwhile: %w", part, ErrNotFound)
}

// Touch marks a part as changed against the version that was read.
func (l *Loaded) Touch(part string, base int, what string) error {
	if err := l.mayEdit(part); err != nil {
		return err
	}
	if now, ok := l.Versions[part]; ok && now != base {
		return l.staleOf(part)
	} else if !ok && base != 0 {
		return fmt.Errorf("part %q: %w", part, ErrNotFound)
	}
	l.touched[part] = what
	return nil
}

// Receive books in a delivery as somebody counted it. The error is [install.Errors].
func (l *Loaded) Receive(d install.Delivery) error {
	if err := l.Touch("materials", l.Versions["materials"], "booked in delivery "+cmp.Or(d.Number, d.ID)); err != nil {
		return err
	}
	take := l.View().Take
	if err := take.Receive(&l.Job, d); err != nil {
		return err
	}
	return l.Job.Materials.Validate(whole.Practice(&l.Job).Terms())
}

// Job loads a job whole, for a person to look at.
func (s Scope) Job(ctx context.Context, who Person, id string) (*Loaded, error) {
	var l *Loaded
	err := s.snapshot(ctx, func(tx pgx.Tx) (err error) {
		l, err = s.load(ctx, tx, id)
		return err
	})
	if err != nil {
		return nil, err
	}
	l.Who = who
	return l, nil
}

// The head of a job tells its version and its company's; the rest is sent for
// only when it is not kept here under them. A job is loaded in one exchange with
// the database when it is, in two when it is not, however much it holds.
const (
	headColumns = `j.ref, j.title, j.kind, j.practice, j.edition, j.version, j.stamp, c.stamp`
	headFrom    = ` FROM job j JOIN company c ON c.id = j.company_id WHERE j.id = $1 AND j.company_id = $2`
	headQuery   = `SELECT ` + headColumns + headFrom
	// claimHeadQuery takes the lock on the job and an idempotency key with it.
	claimHeadQuery = `WITH taken AS (INSERT INTO idempotency (company_id, person_id, key, about) VALUES ($2, $3, $4, $5) ON
		CONFLICT DO NOTHING RETURNING 1)
		SELECT ` + headColumns + `, EXISTS (SELECT FROM taken)` + headFrom + ` FOR UPDATE OF j`

	partsQuery = `SELECT part, version, body, updated_by, updated_at FROM job_part WHERE job_id = $1 AND company_id = $2 ORDER
		BY ord, part`
	recordsQuery = `SELECT body FROM job_record WHERE job_id = $1 AND company_id = $2 ORDER BY seq`
	importQuery  = `SELECT j.imported_by, j.imported_at, j.imported_records, k.public, CASE WHEN j.imported_by IS NOT NULL THEN
		ARRAY(SELECT hash FROM photo WHERE job_id = j.id AND company_id = j.company_id) END FROM job j LEFT JOIN company_key k ON k.company_id = j.company_id
		WHERE j.id = $1 AND j.company_id = $2`
	sealsQuery    = `SELECT seal FROM revision WHERE job_id = $1 AND company_id = $2 ORDER BY seq`
	companyQuery  = `SELECT ` + companyColumns + ` FROM company WHERE id = $1`
	claimKeyQuery = `INSERT INTO idempotency (company_id, person_id, key, about) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING`
)

// State is the state that was loaded or saved.
func (l *Loaded) State() State { return State{l.stamp, l.companyStamp} }

func (s Scope) load(ctx context.Context, tx pgx.Tx, id string) (*Loaded, error) {
	if _, err := uuid.Parse(id); err != nil {
		return nil, ErrNotFound
	}
	l := s.blank(id)
	batch := &pgx.Batch{}
	batch.Queue(headQuery, id, s.CompanyID).QueryRow(func(row pgx.Row) error { return l.scanHead(row) })
	if err := tx.SendBatch(ctx, batch).Close(); err != nil {
		return nil, notFound(err)
	}
	return l, s.fill(ctx, tx, l)
}

// claimJob begins a transaction, takes the idempotency key of a change and the lock on its job,
// and reads the job's head, in one exchange; the job is loaded in another where it is not kept.
func (s Scope) claimJob(ctx context.Context, id string, who Person, key string) (l *Loaded, tx pgx.Tx, err error) {
	if _, err := uuid.Parse(id); err != nil {
		return nil, nil, ErrNotFound
	}
	l = s.blank(id)
	tx, err = s.db.beginWith(ctx, pgx.TxOptions{}, func(batch *pgx.Batch) {
		batch.Queue(claimHeadQuery, id, s.CompanyID, who.ID, key, about(ctx, "job "+id)).QueryRow(func(row pgx.Row) error {
			return l.scanHead(row, &l.claimed)
		})
	})
	if err != nil {
		return nil, nil, notFound(err)
	}
	// The time is taken under the lock, so that the audit is in the order of its rows.
	l.Now = s.now()
	return l, tx, s.fill(ctx, tx, l)
}

func notFound(err error) error {
	if errors.Is(err, pgx.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

// scanHead reads the head of a job, and what a query answers beside it.
func (l *Loaded) scanHead(row pgx.Row, more ...any) error {
	j := &l.Job
	return row.Scan(append([]any{&j.Ref, &j.Title, &j.Kind, &j.Practice, &l.edition, &l.Version, &l.stamp, &l.companyStamp}, more...)...)
}

// fill loads what is not kept of a job and its company in the state that its head tells.
func (s Scope) fill(ctx context.Context, tx pgx.Tx, l *Loaded) error {
	head := l.Job
	if err := whole.Known(head.Practice); err != nil {
		return err
	}
	j := &l.Job
	batch := &pgx.Batch{}
	kept := s.cache.job(l.ID, l.stamp)
	if kept != nil {
		kept.into(l)
	} else {
		l.queueRest(batch, s.CompanyID)
	}
	company, ok := s.cache.company(s.CompanyID, l.companyStamp)
	if !ok {
		batch.Queue(companyQuery, s.CompanyID).Query(func(rows pgx.Rows) error {
			c, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByPos[Company])
			company = cachedPrices{stamp: c.Stamp, prices: c.Settings.PriceList(), company: c}
			return err
		})
	}
	if batch.Len() > 0 {
		if err := tx.SendBatch(ctx, batch).Close(); err != nil {
			return err
		}
	}
	if kept == nil && j.Imported != nil {
		for i := range j.Records[:min(j.Imported.Records, len(j.Records))] {
			j.Records[i].Foreign = true
		}
	}
	j.Format, j.Ref, j.Title, j.Kind, j.Practice = install.Format, head.Ref, head.Title, head.Kind, head.Practice
	if j.Edition == "" { // a job of before the edition was a part
		j.Edition = l.edition
	}
	whole.Carry(j)
	if kept == nil {
		for _, seal := range j.Seals {
			l.Revisions = append(l.Revisions, seal.Revision)
		}
		j.SortRooms()
		j.Tidy()
		s.cache.keep(l)
	}
	if !ok {
		s.cache.keepCompany(s.CompanyID, company)
	}
	l.price(company)
	return nil
}

// blank is a job of which nothing is loaded yet.
func (s Scope) blank(id string) *Loaded {
	return &Loaded{ID: id, company: s.CompanyID, Versions: map[string]int{}, touched: map[string]string{},
		stale: map[string]*StaleError{}, Now: s.now()}
}

// now is the time as it is kept.
func (s *Store) now() time.Time { return s.Now().UTC().Truncate(time.Microsecond) }

// price gives a job that is loaded the company's list and clock, and marks what
// is added to it from now on.
func (l *Loaded) price(c cachedPrices) {
	l.Prices, l.companyStamp, l.Now = c.prices, c.stamp, l.Now.In(c.company.Location())
	l.Rule, l.Kit = c.company.Settings.Quote, c.company.Settings.Holds()
	l.records, l.seals = len(l.Job.Records), len(l.Job.Seals)
}

// queueRest queues what fills a job beside its head.
func (l *Loaded) queueRest(batch *pgx.Batch, company string) {
	j := &l.Job
	batch.Queue(partsQuery, l.ID, company).Query(func(rows pgx.Rows) error {
		for rows.Next() {
			st := &StaleError{}
			if err := rows.Scan(&st.Part, &st.Version, &st.Body, &st.By, &st.At); err != nil {
				return err
			}
			l.Versions[st.Part], l.stale[st.Part] = st.Version, st
			if p, ok := install.PartNamed(st.Part); !ok {
				return fmt.Errorf("part %s is not known", st.Part)
			} else if err := json.Unmarshal(st.Body, p.Added(j)); err != nil {
				return fmt.Errorf("part %s: %w", st.Part, err)
			}
		}
		return rows.Err()
	})
	batch.Queue(recordsQuery, l.ID, company).Query(func(rows pgx.Rows) (err error) {
		j.Records, err = bodies[install.Record](rows)
		return err
	})
	batch.Queue(importQuery, l.ID, company).QueryRow(func(row pgx.Row) error {
		var by *string
		var at *time.Time
		var n int
		var pictures []string
		if err := row.Scan(&by, &at, &n, (*[]byte)(&j.SealedBy), &pictures); err != nil {
			return err
		}
		if by != nil && at != nil {
			j.Imported = &install.Imported{By: *by, At: at.UTC(), Records: n}
			for _, hash := range handover.Pictures(j) {
				if !slices.Contains(pictures, hash) {
					j.Imported.PicturesMissing++
				}
			}
		}
		return nil
	})
	batch.Queue(sealsQuery, l.ID, company).Query(func(rows pgx.Rows) (err error) {
		j.Seals, err = bodies[install.Seal](rows)
		return err
	})
}

// bodies decodes a column of JSON.
func bodies[T any](rows pgx.Rows) ([]T, error) {
	return pgx.CollectRows(rows, func(row pgx.CollectableRow) (v T, err error) {
		var body []byte
		if err = row.Scan(&body); err == nil {
			err = json.Unmarshal(body, &v)
		}
		return v, err
	})
}

// SetPart decodes a part into the job and checks it against the practice's
// terms. An unknown part is [ErrNotFound]; a wrong field [install.Errors].
func (l *Loaded) SetPart(part string, base int, body []byte) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	p, err := l.part(part)
	if err != nil {
		return err
	}
	if p.Kind.Kept {
		return cmp.Or(l.mayEdit(part), error(&proving.NotYetError{Why: l.Job.Words.Say("%s: nobody edits them by hand.", p.Named(&l.Job))}))
	}
	into := p.Added(&l.Job)
	was := l.Job.Outage
	switch {
	case into == any(&l.Job.Plan) && l.planWas == nil:
		l.planWas = &install.Plan{Tasks: asItWas(l.Job.Plan.Tasks), Trades: slices.Clone(l.Job.Plan.Trades)}
	case into == any(&l.Job.Materials) && l.stockWas == nil:
		l.stockWas = asItWas(l.Job.Materials.Lines)
	}
	if err := l.Touch(part, base, "edited "+part); err != nil {
		return err
	}
	if err := decode(body, into); err != nil {
		return err
	}
	if id, other := p.Misnamed(into); other {
		return install.Errors{{Field: part + ".id", Value: id, Accept: p.ID}}
	}
	if into == any(&l.Job.Outage) {
		l.Job.Outage.Booked(&was)
	}
	l.Job.SortRooms()
	l.Job.Tidy()
	if err := l.Job.Fits(); err != nil {
		return err
	}
	return p.Check(&l.Job, whole.Practice(&l.Job).Terms())
}

// asItWas is a copy of a map, never nil.
func asItWas[V any](m map[string]V) map[string]V {
	if m == nil {
		return map[string]V{}
	}
	return maps.Clone(m)
}

// mayEdit errs where a part is not the person's to change.
func (l *Loaded) mayEdit(name string) error {
	if p, ok := install.PartNamed(name); ok && !p.Kind.MayEdit(l.Who.Role) {
		return &PartRoleError{Role: l.Who.Role, Part: p.Named(&l.Job), By: p.Kind.By}
	}
	return nil
}

// part reads the name of a part that the job has, or has room for.
func (l *Loaded) part(name string) (install.Part, error) {
	p, ok := install.PartNamed(name)
	switch {
	case !ok:
		return p, fmt.Errorf("part %q: %w", name, ErrNotFound)
	case p.Full(&l.Job):
		return p, install.Errors{{Field: p.Kind.Name, Value: strconv.Itoa(p.Kind.Most + 1),
			Accept: fmt.Sprintf("at most %d %s", p.Kind.Most, p.Kind.Name)}}
	}
	return p, nil
}

// PartRoleError says that a role may not edit a part.
type PartRoleError struct {
	Role, Part string
	By         []string // the roles that may
}

func (e *PartRoleError) Error() string {
	return fmt.Sprintf("%s is not for the role %q to change: for %s", e.Part, e.Role, strings.Join(e.By, ", "))
}

// Remove takes an entry of a list out of the job, unless it stays: records are never lost.
func (l *Loaded) Remove(part string, base int) error {
	p, ok := install.PartNamed(part)
	if !ok || !p.Kind.List || p.Of(&l.Job) == nil {
		return fmt.Errorf("part %q: %w", part, ErrNotFound)
	}
	if err := l.editable(part, base); err != nil {
		return err
	}
	if why := p.Stays(&l.Job); why != "" {
		return &NothingError{why}
	}
	l.drop(part)
	p.Drop(&l.Job)
	return nil
}

// editable errs where a part that stands may not be edited: the revision is
// signed, or the part is no longer as it was read.
func (l *Loaded) editable(part string, base int) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	if err := l.mayEdit(part); err != nil {
		return err
	}
	if l.Versions[part] != base {
		return l.staleOf(part)
	}
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

// decode puts a body into a part: the whole of it and nothing beside it. The error is [install.Errors].
func decode(body []byte, into any) error {
	fresh := reflect.New(reflect.TypeOf(into).Elem())
	var given map[string]json.RawMessage
	dec := json.NewDecoder(bytes.NewReader(body))
	dec.DisallowUnknownFields()
	err := exact.Check(body, fresh.Interface())
	if err == nil {
		err = dec.Decode(fresh.Interface())
	}
	if err == nil {
		err = json.Unmarshal(body, &given) // refuses what stands behind the object
	}
	if err == nil && given == nil {
		return install.Errors{{Field: "body", Value: "null", Accept: "the whole part as a JSON object"}}
	}
	if err == nil {
		if name := absent(fresh.Type().Elem(), given); name != "" {
			return install.Errors{{Field: name, Value: "not there", Accept: "every field of the part: what is left out would be lost"}}
		}
	}
	if err != nil {
		var te *json.UnmarshalTypeError
		if errors.As(err, &te) {
			return install.Errors{{Field: te.Field, Value: te.Value, Accept: "a value of another kind, " + te.Type.String()}}
		}
		return install.Errors{{Field: "body", Value: err.Error(), Accept: "the whole part as a JSON object"}}
	}
	reflect.ValueOf(into).Elem().Set(fresh.Elem())
	return nil
}

// absent is the first field of a part that an object lacks. Fields that came after the first
// job files (seal:"omitempty") may be left out.
func absent(t reflect.Type, given map[string]json.RawMessage) string {
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if _, there := given[name]; !there && name != "" && name != "-" && f.Tag.Get("seal") != "omitempty" {
			return name
		}
	}
	return ""
}

// RefTakenError says that another job of the company has the reference.
type RefTakenError struct{ Ref string }

func (e *RefTakenError) Error() string {
	return fmt.Sprintf("ref: %q is another job's already; give a reference that no job has", e.Ref)
}

// Create adds a job with all it holds.
func (s Scope) Create(ctx context.Context, who Person, key string, job install.Job) (*Loaded, error) {
	return s.create(ctx, who, key, "create "+job.Ref, job, nil)
}

// Begin is Create of a job that the company has numbered: sent again under its key it is the same, though the next number is another by then.
func (s Scope) Begin(ctx context.Context, who Person, key string, job install.Job) (*Loaded, error) {
	return s.create(ctx, who, key, "create the next", job, nil)
}

// Import is Create of a job that came as a file: it is marked so, its people are names and its isolations never in force.
func (s Scope) Import(ctx context.Context, who Person, key string, job install.Job) (*Loaded, error) {
	return s.create(ctx, who, key, "create "+job.Ref, job, &install.Imported{By: who.Name, At: s.now(), Records: len(job.Records)})
}

func (s Scope) create(ctx context.Context, who Person, key, what string, job install.Job, brought *install.Imported) (*Loaded, error) {
	var id string
	err := pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		done, target, err := s.claim(ctx, tx, who, key, what)
		if err != nil || done {
			id = target
			return err
		}
		job.Tidy()
		err = tx.QueryRow(ctx,
			`INSERT INTO job (company_id, ref, title, kind, practice, edition) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id::text`,
			s.CompanyID, job.Ref, job.Title, job.Kind, job.Practice, job.Edition).Scan(&id)
		if unique(err, "ref") {
			return &RefTakenError{job.Ref}
		}
		if err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `UPDATE company SET jobs = jobs + 1 WHERE id = $1`, s.CompanyID); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `UPDATE idempotency SET target = $4 WHERE company_id = $1 AND person_id = $2 AND key = $3`, s.CompanyID,
			who.ID, key, id); err != nil {
			return err
		}
		c, err := one[Company](ctx, tx, `SELECT `+companyColumns+` FROM company WHERE id = $1`, s.CompanyID)
		if err != nil {
			return err
		}
		if brought != nil {
			job.Imported = brought
			for i := range job.Records {
				job.Records[i].Foreign = true
			}
			if _, err := tx.Exec(ctx, `UPDATE job SET imported_by = $2, imported_at = $3, imported_records = $4 WHERE id = $1`, id, brought.By,
				brought.At, brought.Records); err != nil {
				return err
			}
			if err := s.happened(ctx, tx, who, ImportedOne, job.Ref); err != nil {
				return err
			}
		}
		l := &Loaded{ID: id, Versions: map[string]int{}, touched: map[string]string{}, stale: map[string]*StaleError{},
			Job: job, Prices: c.Settings.PriceList(), Rule: c.Settings.Quote, Kit: c.Settings.Holds(), Now: s.now().In(c.Location()), Who: who}
		for p := range l.Job.Parts() {
			l.touched[p.String()] = "started " + p.Kind.Name
		}
		l.undoing = true
		return s.save(ctx, tx, l)
	})
	if err != nil {
		return nil, err
	}
	return s.Job(ctx, who, id)
}

// NothingError says that there is nothing to do.
type NothingError struct{ Why string }

func (e *NothingError) Error() string { return e.Why }

// SignedFile returns the job file as it was signed under a revision.
func (s Scope) SignedFile(ctx context.Context, id, revision string) (file []byte, err error) {
	err = s.db.QueryRow(ctx, `SELECT file FROM revision WHERE job_id = $1 AND company_id = $2 AND revision = $3 AND length(file) > 0`, id,
		s.CompanyID, revision).Scan(&file)
	if errors.Is(err, pgx.ErrNoRows) {
		err = fmt.Errorf("revision %q: %w", revision, ErrNotFound)
	}
	return file, err
}
