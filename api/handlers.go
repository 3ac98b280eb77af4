package api

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"strings"

	"github.com/bytedance/sonic"
	"github.com/gin-gonic/gin"
	"github.com/maypok86/otter/v2"

	"arvelt/core/exact"
	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/van"
	"arvelt/core/whole"
	"arvelt/core/words"
	"arvelt/paper"
	"arvelt/store"
)

// decode reads a JSON body strictly: an unknown field is an error, so that
// nothing that was sent is lost in silence.
func decode(c *gin.Context, into any) error {
	defer turnOver(c)
	return decodeFrom(c.Request.Body, into)
}

func decodeFrom(body io.Reader, into any) error {
	var text json.RawMessage
	dec := json.NewDecoder(body)
	err := dec.Decode(&text)
	if err == nil && bytes.Equal(text, []byte("null")) {
		return &BadRequest{"The body is null: send a value."}
	}
	if err == nil {
		err = exact.Check(text, into)
	}
	if err == nil {
		strict := json.NewDecoder(bytes.NewReader(text))
		strict.DisallowUnknownFields()
		err = strict.Decode(into)
	}
	if err == nil && dec.More() {
		return &BadRequest{"Something stands behind the JSON of the body: send one value."}
	}
	var te *json.UnmarshalTypeError
	var tooLarge *http.MaxBytesError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &tooLarge):
		return err
	case errors.As(err, &te):
		return install.Errors{{Field: te.Field, Value: te.Value, Accept: "a " + te.Type.String()}}
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return &BadRequest{"The body ends early: it is truncated or empty. Send it whole."}
	}
	return &BadRequest{"The body is not understood: " + strings.TrimPrefix(err.Error(), "json: ") + "."}
}

// given is what an optional parameter holds, its zero when it was left out.
func given[T any](p *T) (v T) {
	if p != nil {
		v = *p
	}
	return v
}

func companyAnswer(k store.Company) Company {
	out := Company{Version: k.Version, Name: k.Name, Currency: k.Currency, Prices: k.Settings.Prices,
		Instruments: k.Settings.Instruments, Schools: k.Settings.Schools, Address: k.Settings.Address,
		Phone: k.Settings.Phone, Licence: k.Settings.Licence, Locale: string(k.Settings.Speaks()),
		Refs: string(k.Settings.Refs), Practice: k.Settings.Practice, Kind: string(k.Settings.Kind), Quote: k.Settings.Quote, Kit: k.Settings.Kit}
	out.Schools.Tidy()
	install.Fill(&out.Quote)
	if out.Kit == nil {
		out.Kit = []van.Held{}
	}
	if out.Instruments == nil {
		out.Instruments = []Instrument{}
	}
	if out.Prices == nil {
		out.Prices = []materials.Item{}
	}
	return out
}

// Company answers the company's own lists.
func (s *Server) Company(c *gin.Context) {
	_, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, companyAnswer(k))
}

// SaveCompany saves the company's own lists.
func (s *Server) SaveCompany(c *gin.Context, params SaveCompanyParams) {
	p, scope := s.who(c)
	var in Company
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	if !proving.Manages(p.Role) {
		problem(c, Problem{Status: http.StatusForbidden,
			Title: "Prices, hours and defaults are changed by the owner, the supervisor or the office."})
		return
	}
	if now, err := scope.Company(c); err == nil && !now.Settings.Schools.Equal(in.Schools) && mayDecide(p) != nil {
		fail(c, &Forbidden{"The choices that every new job begins with, local rules among them, are changed by the owner or the supervisor."})
		return
	}
	settings := store.Settings{Locale: words.Locale(in.Locale), Prices: in.Prices, Instruments: in.Instruments, Schools: in.Schools,
		Address: in.Address,
		Phone:   in.Phone, Licence: in.Licence, Refs: install.RefPattern(in.Refs), Practice: in.Practice, Kind: install.Kind(in.Kind),
		Quote: in.Quote, Kit: in.Kit}
	if err := settings.Validate(); err != nil {
		fail(c, err)
		return
	}
	k, err := scope.SaveCompany(c, p, params.IdempotencyKey, in.Version, settings)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, companyAnswer(k))
}

// ListJobs answers a page of the company's jobs. The first page of all is kept for one state.
func (s *Server) ListJobs(c *gin.Context, params ListJobsParams) {
	_, scope := s.who(c)
	q := given(params.Q)
	if len(q) > 200 {
		fail(c, &BadRequest{"q is longer than 200 characters: search for less."})
		return
	}
	f := store.Find{Q: strings.TrimSpace(strings.ToValidUTF8(strings.ReplaceAll(q, "\x00", ""), "")), After: given(params.After),
		Limit: given(params.Limit)}
	if f != (store.Find{}) {
		page, err := scope.Jobs(c, f)
		if err != nil {
			fail(c, err)
			return
		}
		reply(c, page)
		return
	}
	mark, err := scope.ListMark(c)
	if err != nil {
		fail(c, err)
		return
	}
	body, ok := s.answers.get(scope.CompanyID, mark)
	if !ok {
		page, err := scope.Jobs(c, f)
		if err == nil {
			body, err = encode(page)
		}
		if err != nil {
			fail(c, err)
			return
		}
		s.answers.put(scope.CompanyID, mark, body)
	}
	conditional(c, body)
}

// Soon answers the jobs that the person takes along.
func (s *Server) Soon(c *gin.Context) {
	p, scope := s.who(c)
	rows, err := scope.Soon(c, p)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, rows)
}

// create makes a job that is within its bounds, in the way that is given.
func (s *Server) create(c *gin.Context, p store.Person, key string, job install.Job, by func(context.Context, store.Person, string,
	install.Job) (*store.Loaded, error)) {
	if err := whole.Accept(&job); err != nil {
		fail(c, err)
		return
	}
	l, err := by(c, p, key, job)
	if err != nil {
		fail(c, err)
		return
	}
	s.answerJob(c, http.StatusCreated, l)
}

// ImportJob imports a job file.
func (s *Server) ImportJob(c *gin.Context, params ImportJobParams) {
	p, scope := s.who(c)
	if !proving.Manages(p.Role) {
		problem(c, Problem{Status: http.StatusForbidden,
			Title: "A job file brings records of others with it: it is imported by the owner, the supervisor or the office."})
		return
	}
	job, err := whole.Read(c.Request.Body)
	if err != nil {
		fail(c, &BadRequest{err.Error()})
		return
	}
	as := given(params.As)
	if err := handover.Admit(job, as); err != nil {
		fail(c, &BadRequest{err.Error()})
		return
	}
	s.create(c, p, params.IdempotencyKey, *job, scope.Import)
}

func jobView(l *store.Loaded) JobView {
	revisions := l.Revisions
	if revisions == nil {
		revisions = []string{}
	}
	return JobView{Id: l.ID, Version: l.Version, Versions: l.Versions, View: l.View(), SignedRevisions: revisions}
}

// load reads the job for the signed-in person; nil when it answered with why not.
func (s *Server) load(c *gin.Context, id Id) *store.Loaded {
	p, scope := s.who(c)
	l, err := scope.Job(c, p, id)
	if err != nil {
		fail(c, err)
		return nil
	}
	return l
}

// Job answers a job whole.
func (s *Server) Job(c *gin.Context, id Id) {
	if l := s.load(c, id); l != nil {
		s.answerJob(c, http.StatusOK, l)
	}
}

// answersMost bounds the encoded answers that are kept: the jobs list and what is computed of
// jobs, in bytes. Each holds for one state of what it was made of, which is asked for on every
// read, so it is never stale.
const answersMost = 64 << 20

type keptAnswer struct {
	at   any // the state, comparable
	body []byte
}

type answerCache struct {
	kept *otter.Cache[string, keptAnswer]
}

func newAnswerCache() answerCache {
	return answerCache{otter.Must(&otter.Options[string, keptAnswer]{MaximumWeight: answersMost,
		Weigher: func(id string, k keptAnswer) uint32 { return uint32(len(id) + len(k.body) + 64) }})}
}

func (a answerCache) get(id string, at any) ([]byte, bool) {
	k, ok := a.kept.GetIfPresent(id)
	return k.body, ok && k.at == at
}

func (a answerCache) put(id string, at any, body []byte) { a.kept.Set(id, keptAnswer{at, body}) }

// computed answers what is computed of a job, once for each version of the job
// and of the company's list.
func (s *Server) computed(c *gin.Context, id Id, what string, compute func(*store.Loaded) any) {
	p, scope := s.who(c)
	at, err := scope.State(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	body, ok := s.answers.get(what+" "+id, at)
	if !ok {
		l, err := scope.Job(c, p, id)
		if err != nil {
			fail(c, err)
			return
		}
		if body, err = encode(compute(l)); err != nil {
			fail(c, err)
			return
		}
		if l.State() == at {
			s.answers.put(what+" "+id, at, body)
		}
	}
	conditional(c, body)
}

// SavePart saves one part of the model.
func (s *Server) SavePart(c *gin.Context, id Id, params SavePartParams) {
	p, scope := s.who(c)
	body, err := io.ReadAll(c.Request.Body)
	if err != nil {
		fail(c, err)
		return
	}
	answer, err := s.changed(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error {
		return l.SetPart(params.Part, params.Base, body)
	})
	if err != nil {
		out := problemOf(err)
		if out.Theirs != nil {
			out.Mine = json.RawMessage(body)
		}
		problem(c, out)
		return
	}
	c.Data(http.StatusOK, jsonType, answer)
}

// encode encodes an answer as encoding/json does, byte for byte, in under half
// its time: a whole job is 70 kB and goes out after every edit.
func encode(v any) ([]byte, error) { return sonic.ConfigStd.Marshal(v) }

// reply answers with a value, or with why it cannot be told, such as a figure that is no
// number.
func reply(c *gin.Context, v any) {
	body, err := encode(v)
	if err != nil {
		fail(c, err)
		return
	}
	if c.Request.Method == http.MethodGet {
		conditional(c, body)
		return
	}
	c.Data(http.StatusOK, jsonType, body)
}

const jsonType = "application/json; charset=utf-8"

// changed changes a job and returns the encoded answer.
func (s *Server) changed(c *gin.Context, scope store.Scope, p store.Person, id, key string, apply func(*store.Loaded) error) ([]byte,
	error) {
	var a answered
	var wrong error
	_, err := scope.Change(c, p, id, key, apply, func(l *store.Loaded) { a, wrong = s.views.answer(l, hasTag(c)) })
	if err = cmp.Or(err, wrong); err != nil {
		return nil, err
	}
	s.views.keep(a)
	return a.body, nil
}

// SaveParts changes parts together.
func (s *Server) SaveParts(c *gin.Context, id Id, params SavePartsParams) {
	p, scope := s.who(c)
	var v PartsChange
	if err := decode(c, &v); err != nil {
		fail(c, err)
		return
	}
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.SetParts(v.Title, v.Parts) })
}

// RemovePart removes a circuit or a room of which nothing was recorded.
func (s *Server) RemovePart(c *gin.Context, id Id, params RemovePartParams) {
	p, scope := s.who(c)
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.Remove(params.Part, params.Base) })
}

func (s *Server) change(c *gin.Context, scope store.Scope, p store.Person, id, key string, apply func(*store.Loaded) error) {
	answer, err := s.changed(c, scope, p, id, key, apply)
	if err != nil {
		fail(c, err)
		return
	}
	c.Data(http.StatusOK, jsonType, answer)
}

// shownMost is how much of a value that is refused is shown, in bytes.
const shownMost = 60

// decodeRecord reads a record: the members of its kind and no others.
func decodeRecord(body []byte, r *NewRecord) error {
	if err := decodeFrom(bytes.NewReader(body), r); err != nil {
		return err
	}
	var all map[string]json.RawMessage
	if err := json.Unmarshal(body, &all); err != nil {
		return &BadRequest{"The body is not a record: send one object."}
	}
	given := map[string]string{}
	for name, value := range all {
		if name != "kind" && name != "sent" {
			given[name] = string(value[:min(len(value), shownMost)])
		}
	}
	return install.MembersOf(r.Kind, given)
}

// AddRecord adds a record in the signed-in person's name.
func (s *Server) AddRecord(c *gin.Context, id Id, params AddRecordParams) {
	p, scope := s.who(c)
	var r NewRecord
	body, err := io.ReadAll(c.Request.Body)
	if err == nil {
		err = decodeRecord(body, &r)
	}
	turnOver(c)
	if err != nil {
		fail(c, err)
		return
	}
	r.Sent.DeviceNow = given(params.DeviceTime)
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error {
		clear := s.roll.of(id, &l.Job, p.ID, l.Now) // before the record takes a lock off
		if err := l.AddRecord(c, r.Record, r.Sent); err != nil {
			return err
		}
		return clear.Holds(&l.Job, &r.Record)
	})
}

// Steps answers what the person can take back and bring back.
func (s *Server) Steps(c *gin.Context, id Id) {
	p, scope := s.who(c)
	steps, err := scope.Steps(c, p, id)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, steps)
}

// Redo brings back the command that the person took back last.
func (s *Server) Redo(c *gin.Context, id Id, params RedoParams) {
	p, scope := s.who(c)
	l, err := scope.Redo(c, p, id, params.IdempotencyKey)
	if err != nil {
		fail(c, err)
		return
	}
	s.answerJob(c, http.StatusOK, l)
}

// Undo takes back the person's last command, or the one that is named.
func (s *Server) Undo(c *gin.Context, id Id, params UndoParams) {
	p, scope := s.who(c)
	var which store.TakeBack
	if err := decode(c, &which); err != nil {
		fail(c, err)
		return
	}
	l, err := scope.Undo(c, p, id, params.IdempotencyKey, which)
	if err != nil {
		fail(c, err)
		return
	}
	s.answerJob(c, http.StatusOK, l)
}

// History answers who changed what and when.
func (s *Server) History(c *gin.Context, id Id) {
	_, scope := s.who(c)
	edits, err := scope.History(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, edits)
}

// JobFile answers the open job file.
func (s *Server) JobFile(c *gin.Context, id Id, params JobFileParams) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	var file bytes.Buffer
	name := l.Job.Ref
	if params.Revision != nil {
		name += "-" + *params.Revision
		_, scope := s.who(c)
		signed, err := scope.SignedFile(c, id, *params.Revision)
		if err != nil {
			fail(c, err)
			return
		}
		file.Write(signed)
	} else if err := handover.Write(&file, &l.Job); err != nil {
		fail(c, err)
		return
	}
	if !s.attach(c, name+".json") {
		return
	}
	c.Data(http.StatusOK, jsonType, file.Bytes())
}

// printed loads a job for paper, with what stands on every page; nil after it has
// answered with what went wrong.
func (s *Server) printed(c *gin.Context, id Id) (*store.Loaded, paper.Context) {
	l := s.load(c, id)
	if l == nil {
		return nil, paper.Context{}
	}
	_, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return nil, paper.Context{}
	}
	return l, paper.Context{Company: paper.Company{Name: k.Name, Address: k.Settings.Address, Phone: k.Settings.Phone,
		Licence: k.Settings.Licence}, Currency: k.Currency, Location: k.Location(), Words: whole.Practice(&l.Job).Words(), Now: l.Now,
		Photo: func(hash string) ([]byte, error) { return scope.Photo(c, id, hash) }}
}

// Pack answers the handover pack of the job as it stands, or of a signed revision as it
// was signed.
func (s *Server) Pack(c *gin.Context, id Id, params PackParams) {
	l, on := s.printed(c, id)
	if l == nil {
		return
	}
	view := l.View()
	if revision := given(params.Revision); revision != "" {
		_, scope := s.who(c)
		file, err := scope.SignedFile(c, id, revision)
		if err != nil {
			fail(c, err)
			return
		}
		job, err := whole.Read(bytes.NewReader(file))
		if err != nil {
			fail(c, err)
			return
		}
		job.SealedBy, job.Imported = l.Job.SealedBy, l.Job.Imported
		view = whole.Of(job, l.Prices, l.Who.ActsOn(job, l.Now), l.Now)
	}
	var out bytes.Buffer
	if err := paper.Pack(&out, &view, on); err != nil {
		fail(c, err)
		return
	}
	if !s.attach(c, l.Job.Ref+"-"+view.Revision+".pdf") {
		return
	}
	c.Data(http.StatusOK, "application/pdf", out.Bytes())
}

// TableCsv answers one table of a job as CSV or as a workbook.
func (s *Server) TableCsv(c *gin.Context, id Id, table string, params TableCsvParams) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	switch table { // what is reckoned apart from the view
	case "quote":
		sheet := l.Quote()
		s.table(c, l.Job.Ref+"-quote", params.Format, paper.QuoteRows(&sheet))
		return
	case "order":
		order := l.OpenOrder()
		s.table(c, l.Job.Ref+"-order", params.Format, paper.OrderRows(&order))
		return
	}
	view := l.View()
	rows, err := paper.Rows(table, &view)
	if err != nil {
		fail(c, err)
		return
	}
	s.table(c, l.Job.Ref+"-"+table, params.Format, rows)
}

// jobsCsv answers all jobs of the company as the database sends them. What breaks off on the way
// breaks the connection, so that nobody takes a part for the whole.
func (s *Server) jobsCsv(c *gin.Context, scope store.Scope) {
	if !s.attach(c, "jobs.csv") {
		return
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	err := paper.StreamCSV(c.Writer, func(yield func([]any, error) bool) {
		if !yield([]any{"reference", "title", "kind", "customer", "address", "town", "stage", "held by", "sheet", "waits for",
			"things held", "trouble", "locks in place", "changed"}, nil) {
			return
		}
		for j, err := range scope.EachJob(c) {
			if !yield([]any{j.Ref, j.Title, j.Kind, j.Customer, j.Address, j.Town, j.Stage, j.Hold, j.Sheet, j.Who, j.Holds, j.Trouble, j.Locks,
				j.UpdatedAt}, err) {
				return
			}
		}
	})
	if err != nil {
		slog.Error("a list broke off", "error", err)
		panic(http.ErrAbortHandler)
	}
}

// companyTables are the tables of the company itself.
var companyTables = []string{"jobs", "prices", "instruments", "stock"}

// CompanyCsv answers one table of the company as CSV, those but the jobs as a workbook too.
func (s *Server) CompanyCsv(c *gin.Context, table string, params CompanyCsvParams) {
	_, scope := s.who(c)
	if table == "jobs" {
		s.jobsCsv(c, scope)
		return
	}
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	var rows [][]any
	switch table {
	case "prices":
		head := []any{}
		for _, name := range materials.CatalogueColumns {
			head = append(head, name)
		}
		rows = append(rows, head)
		for i := range k.Settings.Prices {
			rows = append(rows, materials.CatalogueRow(&k.Settings.Prices[i]))
		}
	case "instruments":
		rows = append(rows, []any{"name", "serial", "calibrated to", "kind"})
		for _, i := range k.Settings.Instruments {
			rows = append(rows, []any{i.Name, i.Serial, i.Calibrated, string(i.Kit)})
		}
	case "stock":
		items, err := scope.Stock(c)
		if err != nil {
			fail(c, err)
			return
		}
		rows = append(rows, []any{"product", "name", "count", "unit", "place", "from", "by", "on"})
		for _, k := range items {
			rows = append(rows, []any{k.Product, k.Name, k.Count, k.Unit, k.Place, k.From, k.By, k.On})
		}
	default:
		fail(c, &paper.TableError{Table: table, Known: companyTables})
		return
	}
	s.table(c, table, params.Format, rows)
}

// attach names the file of an answer; the name comes from a reference that a
// person typed, so only plain characters of it are kept.
func (s *Server) attach(c *gin.Context, name string) bool {
	who, scope := s.who(c)
	if err := scope.Note(c, who, store.Exported, name); err != nil {
		fail(c, err)
		return false
	}
	safe := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || strings.ContainsRune("-_.", r) {
			return r
		}
		return '_'
	}, name)
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s"`, safe))
	return true
}
