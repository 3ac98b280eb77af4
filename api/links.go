package api

import (
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/store"
)

// tradePath is the page of another trade. What stands behind the sign is not sent by browsers, and so in no log.
const tradePath = "/with#"

// plans refuses who may not plan a job.
func plans(p store.Person) error {
	k, _ := install.PartNamed("plan")
	if !k.Kind.MayEdit(p.Role) {
		return &Forbidden{"That is for whoever plans a job: " + strings.Join(k.Kind.By, ", ") + "."}
	}
	return nil
}

// JobLinks answers the links of a job that are good.
func (s *Server) JobLinks(c *gin.Context, id Id) {
	_, scope := s.who(c)
	out := []store.Shared{}
	for _, kind := range []store.LinkKind{store.TradeLink, store.JobDays} {
		list, err := scope.Links(c, kind, id, "")
		if err != nil {
			fail(c, err)
			return
		}
		out = append(out, list...)
	}
	reply(c, out)
}

// ShareJob makes a link of a job.
func (s *Server) ShareJob(c *gin.Context, id Id) {
	p, scope := s.who(c)
	var in ShareJobJSONBody
	err := plans(p)
	if err == nil {
		err = decode(c, &in)
	}
	var l *store.Loaded
	if err == nil {
		l, err = scope.Job(c, p, id)
	}
	if err != nil {
		fail(c, err)
		return
	}
	shared, path := store.Shared{Kind: store.LinkKind(in.Kind), JobID: id, Subject: given(in.Subject), Called: l.Job.Ref}, tradePath
	switch shared.Kind {
	case store.TradeLink:
		t := l.Job.Plan.TradeByID(shared.Subject)
		if t == nil {
			ids := []string{}
			for i := range l.Job.Plan.Trades {
				ids = append(ids, l.Job.Plan.Trades[i].ID)
			}
			fail(c, install.Errors{{Field: "subject", Value: shared.Subject, Accept: "a trade of the plan by id: " + strings.Join(ids, ", ")}})
			return
		}
		shared.Called += ", " + l.Job.Words.Say(string(install.TradeNames[t.Kind])) + " " + t.Who
	case store.JobDays:
		shared.Subject, path = "", calendarStart
	default:
		fail(c, install.Errors{{Field: "kind", Value: in.Kind, Accept: "trade, or job for its calendar"}})
		return
	}
	s.share(c, p, scope, shared, path)
}

func (s *Server) share(c *gin.Context, p store.Person, scope store.Scope, l store.Shared, path string) {
	made, token, err := scope.Share(c, p, l)
	if err != nil {
		fail(c, err)
		return
	}
	if path == calendarStart {
		token += ".ics"
	}
	c.JSON(http.StatusCreated, MadeLink{Link: path + token, Shared: made})
}

// MyLinks answers the links of one's own calendar.
func (s *Server) MyLinks(c *gin.Context) {
	p, scope := s.who(c)
	list, err := scope.Links(c, store.PersonDays, "", p.ID)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, append([]store.Shared{}, list...))
}

// ShareMine makes a link of one's own calendar.
func (s *Server) ShareMine(c *gin.Context) {
	p, scope := s.who(c)
	s.share(c, p, scope, store.Shared{Kind: store.PersonDays, Subject: p.ID, Called: p.Name}, calendarStart)
}

// Unshare withdraws a link.
func (s *Server) Unshare(c *gin.Context, id Id) {
	p, scope := s.who(c)
	if err := scope.Unshare(c, p, id, plans(p) != nil); err != nil {
		fail(c, err)
		return
	}
	c.Status(http.StatusNoContent)
}

// errNoLink is said of a link that shows nothing, whatever the reason.
var errNoLink = &store.NothingError{Why: "This link shows nothing any more: it has ended or was withdrawn. Ask the electrical contractor for a new one."}

// With answers what another trade is shown of a job.
func (s *Server) With(c *gin.Context) {
	var in WithJSONBody
	err := decode(c, &in)
	var link store.Shared
	var scope store.Scope
	if err == nil {
		link, scope, err = s.store.Shown(c, in.Link, store.TradeLink)
	}
	var company store.Company
	if err == nil {
		company, err = scope.Company(c)
	}
	var l *store.Loaded
	if err == nil {
		l, err = scope.Job(c, store.Person{}, link.JobID)
	}
	if errors.Is(err, store.ErrNotFound) {
		err = errNoLink
	}
	if err != nil {
		fail(c, err)
		return
	}
	v := l.View()
	sheet, ok := whole.TradeSheetOf(&v, link.Subject, l.Now)
	if !ok {
		fail(c, errNoLink)
		return
	}
	c.Header("Referrer-Policy", "no-referrer")
	reply(c, TradePage{Company: company.Name, Phone: company.Settings.Phone, Locale: string(l.Job.Words.Locale()), Timezone: company.Timezone,
		Currency: company.Currency,
		Until:    link.Until, Sheet: sheet})
}
