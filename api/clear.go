package api

import (
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/proving"
)

// roll is who of a job has reported since somebody asked to energise. It lives in this process alone: what it does not know counts as not seen,
// which is the safe side.
type roll struct {
	mu    sync.Mutex
	asked map[[2]string]time.Time         // by job and who asked
	seen  map[string]map[string]time.Time // by job and person, with nothing waiting to be sent
}

func newRoll() *roll {
	return &roll{asked: map[[2]string]time.Time{}, seen: map[string]map[string]time.Time{}}
}

// keptFor is how long the roll remembers.
const keptFor = 24 * time.Hour

func (r *roll) ask(job, who string, now time.Time) {
	r.mu.Lock()
	defer r.mu.Unlock()
	for k, at := range r.asked { // what nobody needs any more does not pile up
		if now.Sub(at) > keptFor {
			delete(r.asked, k)
			delete(r.seen, k[0])
		}
	}
	r.asked[[2]string{job, who}] = now
}

func (r *roll) report(job, who string, now time.Time) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.seen[job] == nil {
		r.seen[job] = map[string]time.Time{}
	}
	r.seen[job][who] = now
}

func (r *roll) of(id string, job *install.Job, who string, now time.Time) proving.Clearance {
	r.mu.Lock()
	defer r.mu.Unlock()
	return proving.ClearanceOf(job, who, r.asked[[2]string{id, who}], r.seen[id], now)
}

// AskClear notes that somebody asks to energise, has every device of the company report, and answers who may be on the site.
func (s *Server) AskClear(c *gin.Context, id Id) {
	p, scope := s.who(c)
	l := s.load(c, id)
	if l == nil {
		return
	}
	s.roll.ask(id, p.ID, l.Now)
	if err := scope.Ask(c, id); err != nil {
		fail(c, err)
		return
	}
	reply(c, s.roll.of(id, &l.Job, p.ID, l.Now))
}

// WhoIsClear answers who may be on the site and has reported since.
func (s *Server) WhoIsClear(c *gin.Context, id Id) {
	p, _ := s.who(c)
	if l := s.load(c, id); l != nil {
		reply(c, s.roll.of(id, &l.Job, p.ID, l.Now))
	}
}

// Report takes that a device of somebody is there and has nothing waiting to be sent.
func (s *Server) Report(c *gin.Context, id Id) {
	p, _ := s.who(c)
	if l := s.load(c, id); l != nil {
		s.roll.report(id, p.ID, l.Now)
		c.Status(http.StatusNoContent)
	}
}
