package api

import (
	"bytes"
	"log/slog"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/whole"
	"arvelt/paper"
	"arvelt/store"
)

// Goods answers what is claimed of the deliveries of a job.
func (s *Server) Goods(c *gin.Context, id Id) {
	s.computed(c, id, "goods", func(l *store.Loaded) any {
		view := l.View()
		return GoodsSheet{Claims: view.Take.Claims(view.Job)}
	})
}

// Cuts answers the cut plans of a job, a line of JSON each time that they are shown: the best so far while better ones are looked for, at last
// those that stay. Whoever closes the connection stops the search.
func (s *Server) Cuts(c *gin.Context, id Id) {
	p, scope := s.who(c)
	at, err := scope.State(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	kept := "cuts " + id
	body, ok := s.answers.get(kept, at)
	var l *store.Loaded
	if !ok {
		if l, err = scope.Job(c, p, id); err != nil {
			fail(c, err)
			return
		}
	}
	h := c.Writer.Header()
	h.Set("Content-Type", "application/x-ndjson")
	h.Set("Cache-Control", "private, no-store")
	h.Set("X-Accel-Buffering", "no")
	if !ok {
		if body, err = s.lookForCuts(c, l); err != nil {
			slog.ErrorContext(c, "cut plans", "job", id, "error", err)
			return
		}
		if c.Request.Context().Err() == nil && l.State() == at {
			s.answers.put(kept, at, body)
		}
	}
	line(c, body)
}

// line sends a line. The body is left as it is: it may be kept for others.
func line(c *gin.Context, body []byte) {
	c.Writer.Write(body)         //nolint:errcheck // whoever is gone is told nothing
	c.Writer.Write([]byte{'\n'}) //nolint:errcheck // as above
}

// lookForCuts looks for cut plans and shows the best so far; it answers those that stay, as they are sent.
func (s *Server) lookForCuts(c *gin.Context, l *store.Loaded) ([]byte, error) {
	view, last := l.View(), time.Now()
	plans := materials.CutPlans(&view.Take, view.Job, func(at int, soFar func() []materials.CutPlan) bool {
		select {
		case <-c.Request.Context().Done():
			return false
		case <-s.drained:
			return false
		default:
		}
		if time.Since(last) < s.cutsShown {
			return true
		}
		body, err := encode(CutsSheet{Plans: soFar(), At: at})
		if err != nil {
			return false
		}
		line(c, body)
		c.Writer.Flush()
		last = time.Now()
		return true
	})
	return encode(CutsSheet{Plans: plans, At: len(plans), Done: true})
}

// OrderJson answers what of a job is still to be ordered.
func (s *Server) OrderJson(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	order := l.OpenOrder()
	if !s.attach(c, l.Job.Ref+"-order.json") {
		return
	}
	c.JSON(http.StatusOK, order)
}

// ReadNote reads a delivery note against the order list of a job.
func (s *Server) ReadNote(c *gin.Context, id Id) {
	var in SentFile
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	l := s.load(c, id)
	if l == nil {
		return
	}
	view := l.View()
	note, err := materials.ReadNote(in.Content, &view.Take, &l.Job)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, note)
}

// Receive books in a delivery.
func (s *Server) Receive(c *gin.Context, id Id, params ReceiveParams) {
	var in install.Delivery
	s.changes(c, id, params.IdempotencyKey, &in, func(l *store.Loaded) error { return l.Receive(in) })
}

// ImportPrices says what a price list would change of the company's, and changes it where that is asked for.
func (s *Server) ImportPrices(c *gin.Context, params ImportPricesParams) {
	p, scope := s.who(c)
	var in SentPrices
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	if !proving.Manages(p.Role) {
		problem(c, Problem{Status: http.StatusForbidden, Title: "Prices are changed by the owner, the supervisor or the office."})
		return
	}
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	table, err := paper.ReadTable(in.Content)
	if err != nil {
		fail(c, err)
		return
	}
	out, err := materials.ReadCatalogue(table, k.Settings.Prices)
	if err == nil && in.Take && len(out.Unread) > 0 {
		err = out.Unread
	}
	if err == nil && in.Take {
		settings := k.Settings
		settings.Prices = out.Items
		if err = settings.Validate(); err == nil {
			_, err = scope.SaveCompany(c, p, params.IdempotencyKey, in.Version, settings)
		}
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, out)
}

// table answers rows as CSV, or as a workbook where that is asked for, under a name.
func (s *Server) table(c *gin.Context, name string, format *string, rows [][]any) {
	var out bytes.Buffer
	ending, kind := ".csv", "text/csv; charset=utf-8"
	var err error
	switch {
	case format == nil || *format == "csv":
		err = paper.WriteCSV(&out, rows)
	case *format == "xlsx":
		ending, kind = ".xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
		err = paper.WriteXLSX(&out, name, rows)
	default:
		err = install.Errors{{Field: "format", Value: *format, Accept: "csv or xlsx"}}
	}
	if err != nil {
		fail(c, err)
		return
	}
	if s.attach(c, name+ending) {
		c.Data(http.StatusOK, kind, out.Bytes())
	}
}

// Substitutes answers what may be taken in the place of a product, as the rules judge it.
func (s *Server) Substitutes(c *gin.Context, id Id, params SubstitutesParams) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	out, err := whole.SubstitutesOf(&l.Job, l.Prices, l.Acts(), l.Now, params.Product)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, out)
}

// Substitute puts another product in the place of one.
func (s *Server) Substitute(c *gin.Context, id Id, params SubstituteParams) {
	var in Substitution
	s.changes(c, id, params.IdempotencyKey, &in, func(l *store.Loaded) error { return l.Substitute(in.Product, in.Instead) })
}

// Van answers what goes into the van.
func (s *Server) Van(c *gin.Context, id Id) {
	s.computed(c, id, "van", func(l *store.Loaded) any {
		view := l.View()
		return whole.VanOf(&view, l.Kit, l.Now)
	})
}
