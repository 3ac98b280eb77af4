package api

import (
	"strings"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/words"
)

// NextJob answers with what the next job of the company begins.
func (s *Server) NextJob(c *gin.Context) {
	_, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	ref, err := scope.NextRef(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, NextJob{Ref: ref, Practice: k.Settings.Practice, Kind: string(k.Settings.Kind)})
}

// StartJob starts a job with the company's defaults.
func (s *Server) StartJob(c *gin.Context, params StartJobParams) {
	p, scope := s.who(c)
	var in NewJob
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	practice, err := practiceOf(given(in.Practice))
	if err == nil && p.Role == install.RoleApprentice {
		err = &Forbidden{"A job is started by the owner, the supervisor, an electrician or the office."}
	}
	if err != nil {
		fail(c, err)
		return
	}
	opening := practice.Opening()
	if in.Edition != nil && *in.Edition != "" {
		opening.Edition = *in.Edition
	}
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	ref, by := strings.TrimSpace(in.Ref), scope.Create
	if ref == "" {
		by = scope.Begin
		if ref, err = scope.NextRef(c); err != nil {
			fail(c, err)
			return
		}
	}
	job := install.Job{Format: install.Format, Ref: ref, Title: strings.TrimSpace(in.Title),
		Kind: install.Kind(in.Kind), Practice: practice.ID(), Rules: install.Rules{Edition: opening.Edition},
		Site:   install.Site{Customer: in.Customer, Address: in.Address, Town: in.Town},
		Supply: install.Supply{DeclaredV: opening.DeclaredV, Earthing: install.Earthing(opening.Earthing)},
		Board:  install.Board{Name: words.In(practice.Terms().Locale).Say("Board A")}, Materials: install.Materials{WastagePc: 5},
		Schools: k.Settings.Schools.Under(practice.Terms())}
	s.create(c, p, params.IdempotencyKey, job, by)
}
