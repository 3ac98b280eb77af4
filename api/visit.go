package api

import (
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/store"
)

// MakeVisit makes the job of a change that is planned for later and notes its reference with the plan. Sent again it is the job that was made.
func (s *Server) MakeVisit(c *gin.Context, id Id, params MakeVisitParams) {
	who, scope := s.who(c)
	var in MakeVisitJSONBody
	err := decode(c, &in)
	if err == nil && who.Role == install.RoleApprentice {
		err = &Forbidden{"A job is started by the owner, the supervisor, an electrician or the office."}
	}
	if err != nil {
		fail(c, err)
		return
	}
	l := s.load(c, id)
	if l == nil {
		return
	}
	at := slices.IndexFunc(l.Job.Plan.Later, func(x install.Later) bool { return x.ID == in.Later })
	if at < 0 {
		fail(c, install.Errors{{Field: "later", Value: in.Later, Accept: l.Job.Words.Say("the id of a planned change of this job")}})
		return
	}
	if visit := l.Job.Plan.Later[at].Visit; visit != "" {
		fail(c, &store.NothingError{Why: l.Job.Words.Say("Its visit is made already: %s.", visit)})
		return
	}
	ref, err := scope.NextRef(c)
	if err != nil {
		fail(c, err)
		return
	}
	job := whole.VisitOf(&l.Job, &l.Job.Plan.Later[at], ref)
	if err := whole.Accept(&job); err != nil {
		fail(c, err)
		return
	}
	made, err := scope.Begin(c, who, params.IdempotencyKey, job)
	if err != nil {
		fail(c, err)
		return
	}
	note := func(l *store.Loaded) error { return l.NoteVisit(in.Later, made.Job.Ref) }
	if _, err := scope.Change(c, who, id, params.IdempotencyKey+"-noted", note); err != nil {
		fail(c, err)
		return
	}
	s.answerJob(c, http.StatusCreated, made)
}
