package api

import (
	"math/rand/v2"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/schedule"
	"arvelt/core/whole"
	"arvelt/store"
)

// How far days are searched: anew, and where a proposal stood before.
const (
	proposedAnew  = 2000
	proposedAgain = 150
	proposedFor   = 2 * time.Second // at most
)

// orders are the orders of the proposals that stood last, by company: the next begins with it, so that a change of one step moves few others.
type orders struct {
	sync.Mutex
	of map[string]whole.OrderOf
	// done is what part of the search that runs is done, by company.
	done map[string]float64
}

// part is what part of the search of a company that runs is done; 0 for none.
func (o *orders) part(company string) float64 {
	o.Lock()
	defer o.Unlock()
	return o.done[company]
}

// tell notes what part of the search of a company is done; once it ends nothing is kept.
func (o *orders) tell(company string, part float64) {
	o.Lock()
	defer o.Unlock()
	if o.done == nil {
		o.done = map[string]float64{}
	}
	if o.done[company] = part; part >= 1 {
		delete(o.done, company)
	}
}

func (o *orders) last(company string) whole.OrderOf {
	o.Lock()
	defer o.Unlock()
	return o.of[company]
}

// mostOrders is how many are kept: one that is not is made anew.
const mostOrders = 1000

func (o *orders) keep(company string, order whole.OrderOf) {
	o.Lock()
	defer o.Unlock()
	if o.of == nil || len(o.of) > mostOrders {
		o.of = map[string]whole.OrderOf{}
	}
	o.of[company] = order
}

// planner is who plans, with their company; not ok when it answered that they do not, or why not.
func (s *Server) planner(c *gin.Context) (p store.Person, scope store.Scope, k store.Company, ok bool) {
	p, scope = s.who(c)
	err := plans(p)
	if err == nil {
		k, err = scope.Company(c)
	}
	if err != nil {
		fail(c, err)
	}
	return p, scope, k, err == nil
}

// ProposeDays answers on which days the open steps of the company's jobs could be done.
func (s *Server) ProposeDays(c *gin.Context) {
	p, scope, k, ok := s.planner(c)
	if !ok {
		return
	}
	jobs, firm, err := openJobs(c, p, scope)
	if err != nil {
		fail(c, err)
		return
	}
	before := s.orders.last(p.CompanyID)
	search := schedule.Options{Schedules: proposedAnew, Chance: rand.New(rand.NewPCG(1, 1))}
	if before != nil {
		search.Schedules = proposedAgain
	}
	search.Told = func(part float64) { s.orders.tell(p.CompanyID, part) }
	until := time.Now().Add(proposedFor)
	search.Stop = func() bool { return time.Now().After(until) || c.Request.Context().Err() != nil }
	out, order := whole.Propose(jobs, firm, scope.Now().In(k.Location()), before, search)
	s.orders.keep(p.CompanyID, order)
	reply(c, out)
}

// openJobs are the jobs on which there is something to plan, with who may be of their crews, and what the company has.
func openJobs(c *gin.Context, p store.Person, scope store.Scope) (jobs []whole.Proposing, firm whole.Firm, err error) {
	rows, err := scope.Open(c)
	if err != nil {
		return nil, firm, err
	}
	teamOf, err := scope.Teams(c)
	if err != nil {
		return nil, firm, err
	}
	views := jobViews{scope: scope, who: p, seen: map[string]*jobSeen{}}
	err = views.each(c, rows, func(j *jobSeen) {
		firm = whole.Firm{Held: j.Kit, Prices: j.Prices}
		if !j.view.Frozen {
			jobs = append(jobs, whole.Proposing{ID: j.ID, View: &j.view, Team: teamOf(j.view.Job)})
		}
	})
	return jobs, firm, err
}
