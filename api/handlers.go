package api

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/whole"
	"arvelt/paper"
	"arvelt/store"
)

// decode reads a JSON body strictly: an unknown field is an error, so that
// nothing that was sent is lost in silence.
func decode(c *gin.Context, into any) error {
	dec := json.NewDecoder(c.Request.Body)
	dec.DisallowUnknownFields()
	err := dec.Decode(into)
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

// Health answers whether the database is reachable.
func (s *Server) Health(c *gin.Context) {
	if err := s.store.Pool.Ping(c); err != nil {
		problem(c, Problem{Status: http.StatusServiceUnavailable, Title: "The database is not reachable."})
		return
	}
	c.JSON(http.StatusOK, Health{Status: "ready", Version: Version})
}

// Terms answers the names that the practice accepts and what they are called.
func (s *Server) Terms(c *gin.Context) {
	p := iec230.Practice{}
	t, words := p.Terms(), p.Words()
	named := func(ids []string) []Named {
		out := make([]Named, len(ids))
		for i, id := range ids {
			out[i] = Named{Id: id, Name: words[id]}
		}
		return out
	}
	out := Terms{Practice: words[p.ID()], Earthing: t.Earthing, Curves: t.Curves, Ratings: t.Ratings[t.Families[0]], RcdTypes: t.RCDTypes, PenOptions: named(t.PENOptions), Categories: named(t.Categories), Fresh: []Circuit{p.Fresh("ev"), p.Fresh("fixed")}, Notice: iec230.Notice}
	seen := map[string]bool{}
	for _, cable := range t.CableTypes {
		out.Cables = append(out.Cables, NamedSizes{Id: cable, Name: words[cable], Sizes: t.Sizes[cable], Methods: t.Methods[cable]})
		for _, m := range t.Methods[cable] {
			if !seen[m] {
				seen[m] = true
				out.Methods = append(out.Methods, Named{Id: m, Name: words[m]})
			}
		}
	}
	c.JSON(http.StatusOK, out)
}

func companyAnswer(k store.Company) Company {
	out := Company{Version: k.Version, Name: k.Name, Currency: k.Currency, Prices: k.Settings.Prices, Instruments: k.Settings.Instruments, Schools: k.Settings.Schools}
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
	c.JSON(http.StatusOK, companyAnswer(k))
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
		problem(c, Problem{Status: http.StatusForbidden, Title: "Prices, hours and defaults are changed by the owner, the supervisor or the office."})
		return
	}
	settings := store.Settings{Prices: in.Prices, Instruments: in.Instruments, Schools: in.Schools}
	if err := settings.Validate(); err != nil {
		fail(c, err)
		return
	}
	k, err := scope.SaveCompany(c, p, params.IdempotencyKey, in.Version, settings)
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, companyAnswer(k))
}

// ListJobs lists the company's jobs.
func (s *Server) ListJobs(c *gin.Context, params ListJobsParams) {
	_, scope := s.who(c)
	q := ""
	if params.Q != nil {
		q = *params.Q
	}
	if len(q) > 200 {
		fail(c, &BadRequest{"q is longer than 200 characters: search for less."})
		return
	}
	if q = strings.TrimSpace(strings.ToValidUTF8(strings.ReplaceAll(q, "\x00", ""), "")); q != "" {
		rows, err := scope.Jobs(c, q)
		if err != nil {
			fail(c, err)
			return
		}
		c.JSON(http.StatusOK, rows)
		return
	}
	count, versions, err := scope.ListMark(c)
	if err != nil {
		fail(c, err)
		return
	}
	mark := [2]int{count, versions}
	body, ok := s.answers.get(scope.CompanyID, mark)
	if !ok {
		rows, err := scope.Jobs(c, "")
		if err == nil {
			body, err = json.Marshal(rows)
		}
		if err != nil {
			fail(c, err)
			return
		}
		s.answers.put(scope.CompanyID, mark, body)
	}
	c.Data(http.StatusOK, "application/json; charset=utf-8", body)
}

// edition is the edition that a new job pins.
const edition = "2018+A2:2022"

// StartJob starts a job with the company's defaults.
func (s *Server) StartJob(c *gin.Context, params StartJobParams) {
	p, scope := s.who(c)
	var in NewJob
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	job := install.Job{Format: install.Format, Ref: strings.TrimSpace(in.Ref), Title: strings.TrimSpace(in.Title), Kind: install.Kind(in.Kind), Practice: iec230.Practice{}.ID(), Edition: edition,
		Site: install.Site{Customer: in.Customer, Address: in.Address, Town: in.Town}, Supply: install.Supply{DeclaredV: iec230.NominalV},
		Board: install.Board{Name: "Board A"}, Materials: install.Materials{WastagePc: 5}, Schools: k.Settings.Schools}
	s.create(c, scope, p, params.IdempotencyKey, job)
}

func (s *Server) create(c *gin.Context, scope store.Scope, p store.Person, key string, job install.Job) {
	if err := whole.Accept(&job); err != nil {
		fail(c, err)
		return
	}
	l, err := scope.Create(c, p, key, job)
	if err != nil {
		fail(c, err)
		return
	}
	answerJob(c, http.StatusCreated, l)
}

// ImportJob imports a job file.
func (s *Server) ImportJob(c *gin.Context, params ImportJobParams) {
	p, scope := s.who(c)
	if !proving.Manages(p.Role) {
		problem(c, Problem{Status: http.StatusForbidden, Title: "A job file brings records of others with it: it is imported by the owner, the supervisor or the office."})
		return
	}
	job, err := handover.Read(c.Request.Body)
	if err != nil {
		var tooLarge *http.MaxBytesError
		if !errors.As(err, &tooLarge) {
			err = &BadRequest{err.Error()}
		}
		fail(c, err)
		return
	}
	as := ""
	if params.As != nil {
		as = *params.As
	}
	if err := handover.Admit(job, as); err != nil {
		fail(c, &BadRequest{err.Error()})
		return
	}
	s.create(c, scope, p, params.IdempotencyKey, *job)
}

func answerJob(c *gin.Context, status int, l *store.Loaded) {
	revisions := l.Revisions
	if revisions == nil {
		revisions = []string{}
	}
	c.JSON(status, JobView{Id: l.ID, Version: l.Version, Versions: l.Versions, View: l.View(), SignedRevisions: revisions})
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
		answerJob(c, http.StatusOK, l)
	}
}

// answerCache keeps encoded answers: the jobs list and Circuits sheets. An entry
// holds for one state of what it was made of, which is asked for on every read,
// so it can never be stale.
type answerCache struct {
	mu   sync.Mutex
	kept map[string]keptAnswer
}

type keptAnswer struct {
	at   [2]int
	body []byte
}

const answersMost = 2000

func newAnswerCache() *answerCache { return &answerCache{kept: map[string]keptAnswer{}} }

func (s *answerCache) get(id string, at [2]int) ([]byte, bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	k, ok := s.kept[id]
	return k.body, ok && k.at == at
}

func (s *answerCache) put(id string, at [2]int, body []byte) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.kept) >= answersMost {
		clear(s.kept)
	}
	s.kept[id] = keptAnswer{at, body}
}

// Circuits answers the Circuits sheet. It is computed once for each version.
func (s *Server) Circuits(c *gin.Context, id Id) {
	p, scope := s.who(c)
	now, err := scope.Versions(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	at := [2]int{now.Job, now.Company}
	body, ok := s.answers.get(id, at)
	if !ok {
		l, err := scope.Job(c, p, id)
		if err != nil {
			fail(c, err)
			return
		}
		report := whole.Practice(&l.Job).Report(&l.Job, materials.Price(whole.Practice(&l.Job), l.Prices))
		if body, err = json.Marshal(CircuitsSheet{Version: l.Version, Report: report}); err != nil {
			fail(c, err)
			return
		}
		if l.Version == now.Job {
			s.answers.put(id, at, body)
		}
	}
	c.Data(http.StatusOK, "application/json; charset=utf-8", body)
}

// SavePart saves one part of the model.
func (s *Server) SavePart(c *gin.Context, id Id, params SavePartParams) {
	p, scope := s.who(c)
	body, err := io.ReadAll(c.Request.Body)
	if err != nil {
		fail(c, err)
		return
	}
	l, err := scope.Change(c, p, id, params.IdempotencyKey, func(l *store.Loaded) error {
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
	answerJob(c, http.StatusOK, l)
}

// RemoveCircuit removes a circuit of which nothing was recorded.
func (s *Server) RemoveCircuit(c *gin.Context, id Id, params RemoveCircuitParams) {
	p, scope := s.who(c)
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.Remove(params.Part, params.Base) })
}

func (s *Server) change(c *gin.Context, scope store.Scope, p store.Person, id, key string, apply func(*store.Loaded) error) {
	l, err := scope.Change(c, p, id, key, apply)
	if err != nil {
		fail(c, err)
		return
	}
	answerJob(c, http.StatusOK, l)
}

// AddRecord adds a record in the signed-in person's name.
func (s *Server) AddRecord(c *gin.Context, id Id, params AddRecordParams) {
	p, scope := s.who(c)
	var r NewRecord
	if err := decode(c, &r); err != nil {
		fail(c, err)
		return
	}
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.NewRecord(r) })
}

// Undo undoes the person's last edit.
func (s *Server) Undo(c *gin.Context, id Id, params UndoParams) {
	p, scope := s.who(c)
	l, err := scope.Undo(c, p, id, params.IdempotencyKey)
	if err != nil {
		fail(c, err)
		return
	}
	answerJob(c, http.StatusOK, l)
}

// History answers who changed what and when.
func (s *Server) History(c *gin.Context, id Id) {
	_, scope := s.who(c)
	edits, err := scope.History(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, edits)
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
	attach(c, name+".json")
	c.Data(http.StatusOK, "application/json; charset=utf-8", file.Bytes())
}

// Pack answers the handover pack.
func (s *Server) Pack(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	_, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	view := l.View()
	var out bytes.Buffer
	if err := paper.Pack(&out, &view, paper.Context{Company: k.Name, Location: k.Location(), Words: whole.Practice(&l.Job).Words(), Now: l.Now}); err != nil {
		fail(c, err)
		return
	}
	attach(c, l.Job.Ref+"-"+view.Revision+".pdf")
	c.Data(http.StatusOK, "application/pdf", out.Bytes())
}

// TableCsv answers one table of a job as CSV.
func (s *Server) TableCsv(c *gin.Context, id Id, table string) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	view := l.View()
	var out bytes.Buffer
	if err := paper.CSV(&out, table, &view); err != nil {
		fail(c, err)
		return
	}
	attach(c, l.Job.Ref+"-"+table+".csv")
	c.Data(http.StatusOK, "text/csv; charset=utf-8", out.Bytes())
}

// companyTables are the tables of the company itself.
var companyTables = []string{"jobs", "prices", "instruments"}

// CompanyCsv answers one table of the company as CSV.
func (s *Server) CompanyCsv(c *gin.Context, table string) {
	_, scope := s.who(c)
	var rows [][]any
	if table == "jobs" {
		jobs, err := scope.Jobs(c, "")
		if err != nil {
			fail(c, err)
			return
		}
		rows = append(rows, []any{"reference", "title", "kind", "customer", "town", "stage", "held by", "sheet", "waits for", "things held", "trouble", "changed"})
		for _, j := range jobs {
			rows = append(rows, []any{j.Ref, j.Title, j.Kind, j.Customer, j.Town, j.Stage, j.Hold, j.Sheet, j.Who, j.Holds, j.Trouble, j.UpdatedAt})
		}
	} else {
		k, err := scope.Company(c)
		if err != nil {
			fail(c, err)
			return
		}
		switch table {
		case "prices":
			rows = append(rows, []any{"key", "name", "unit", "price", "hours"})
			for _, p := range k.Settings.Prices {
				rows = append(rows, []any{p.Key, p.Name, p.Unit, p.Price, p.Hours})
			}
		case "instruments":
			rows = append(rows, []any{"name", "serial", "calibrated to"})
			for _, i := range k.Settings.Instruments {
				rows = append(rows, []any{i.Name, i.Serial, i.Calibrated})
			}
		default:
			fail(c, &paper.TableError{Table: table, Known: companyTables})
			return
		}
	}
	var out bytes.Buffer
	if err := paper.WriteCSV(&out, rows); err != nil {
		fail(c, err)
		return
	}
	attach(c, table+".csv")
	c.Data(http.StatusOK, "text/csv; charset=utf-8", out.Bytes())
}

// attach names the file of an answer; the name comes from a reference that a
// person typed, so only plain characters of it are kept.
func attach(c *gin.Context, name string) {
	safe := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || strings.ContainsRune("-_.", r) {
			return r
		}
		return '_'
	}, name)
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s"`, safe))
}
