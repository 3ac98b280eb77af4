package api

import (
	"github.com/gin-gonic/gin"

	"arvelt/core/dark"
	"arvelt/core/materials"
	"arvelt/core/survey"
	"arvelt/core/whole"
	"arvelt/store"
)

// Circuits answers the Circuits sheet. It is computed once for each version.
func (s *Server) Circuits(c *gin.Context, id Id) {
	s.computed(c, id, "circuits", func(l *store.Loaded) any {
		p := whole.Practice(&l.Job)
		return CircuitsSheet{Report: p.Report(&l.Job, materials.Price(p, l.Prices)), Unplaced: survey.UnplacedOf(&l.Job, p.Survey()),
			Dark: dark.Of(&l.Job)}
	})
}

// ChangeRun does one thing to the runs of circuits.
func (s *Server) ChangeRun(c *gin.Context, id Id, params ChangeRunParams) {
	p, scope := s.who(c)
	var ch RunChange
	if err := decode(c, &ch); err != nil {
		fail(c, err)
		return
	}
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.Rerun(ch) })
}
