package api

import (
	"fmt"

	"github.com/gin-gonic/gin"

	"arvelt/core/dark"
	"arvelt/core/design"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/whole"
	"arvelt/store"
)

// Circuits answers the Circuits sheet. It is computed once for each version.
func (s *Server) Circuits(c *gin.Context, id Id) {
	s.computed(c, id, "circuits", func(l *store.Loaded) any {
		p := whole.Practice(&l.Job)
		return CircuitsSheet{Report: p.Report(&l.Job, materials.Price(p, l.Prices)), Unplaced: survey.UnplacedOf(&l.Job, p.Survey(), false),
			Leaving: survey.UnplacedOf(&l.Job, p.Survey(), true)}
	})
}

// DarkSheet answers what goes dark by each device. It is computed once for each version.
func (s *Server) DarkSheet(c *gin.Context, id Id) {
	s.computed(c, id, "dark", func(l *store.Loaded) any { return dark.Of(&l.Job) })
}

// DeadPlan answers what is to be opened to work at a place, beside what is open.
func (s *Server) DeadPlan(c *gin.Context, id Id, params DeadPlanParams) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	terms := whole.Practice(&l.Job).Terms()
	house := isolate.Of(&l.Job, &terms)
	if _, ok := house.Place(params.Place); !ok {
		fail(c, fmt.Errorf("place %q: %w", params.Place, store.ErrNotFound))
		return
	}
	open := []string{}
	if params.Open != nil {
		open = *params.Open
	}
	reply(c, house.Plan(params.Place, open))
}

// Proposal answers the circuits that are proposed for the points of the walk. It is computed once for each version.
func (s *Server) Proposal(c *gin.Context, id Id) {
	s.computed(c, id, "design", func(l *store.Loaded) any {
		p, _ := design.Propose(&l.Job, whole.Practice(&l.Job))
		return p
	})
}

// TakeProposal takes circuits of a proposal.
func (s *Server) TakeProposal(c *gin.Context, id Id, params TakeProposalParams) {
	p, scope := s.who(c)
	var choice ProposalChoice
	if err := decode(c, &choice); err != nil {
		fail(c, err)
		return
	}
	s.change(c, scope, p, id, params.IdempotencyKey, func(l *store.Loaded) error { return l.TakeProposal(choice.Tag, choice.Circuits) })
}

// RunWorking answers the figures along the run of a circuit with their working.
func (s *Server) RunWorking(c *gin.Context, id Id, params RunWorkingParams) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	if l.Job.CircuitByID(params.Circuit) == nil {
		fail(c, fmt.Errorf("circuit %q: %w", params.Circuit, store.ErrNotFound))
		return
	}
	reply(c, append([]rulebook.StopReport{}, whole.Practice(&l.Job).StopsOf(&l.Job, params.Circuit)...))
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
