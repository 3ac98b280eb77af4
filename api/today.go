package api

import (
	"errors"
	"time"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/whole"
	"arvelt/core/words"
	"arvelt/store"
)

// Today answers the jobs of the person on this day.
func (s *Server) Today(c *gin.Context) {
	p, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	now := scope.Now().In(k.Location())
	rows, err := scope.Today(c, p, now)
	if err != nil {
		fail(c, err)
		return
	}
	out := TodaySheet{Day: now.Format(time.DateOnly), Jobs: []TodayJob{}, Ahead: []AheadJob{}}
	if err := eachJob(c, p, scope, rows, func(l *store.Loaded) {
		v := l.View()
		job := whole.TodayOf(&v, l.Kit, p.Name, l.Now)
		job.ID = l.ID
		out.Jobs = append(out.Jobs, job)
	}); err != nil {
		fail(c, err)
		return
	}
	if out.Next, err = scope.NextDay(c, p, now); err == nil && out.Next != "" {
		rows, err = scope.On(c, p, out.Next)
		day, _ := time.ParseInLocation(time.DateOnly, out.Next, now.Location())
		if err == nil {
			err = eachJob(c, p, scope, rows, func(l *store.Loaded) {
				v := l.View()
				job := whole.AheadOf(&v, l.Kit, p.Name, day)
				job.ID = l.ID
				out.Ahead = append(out.Ahead, job)
			})
		}
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, out)
}

// eachJob loads jobs of a list one after the other; those that were taken away meanwhile are left out.
func eachJob(c *gin.Context, p store.Person, scope store.Scope, rows []store.Row, do func(*store.Loaded)) error {
	for _, r := range rows {
		l, err := scope.Job(c, p, r.ID)
		if errors.Is(err, store.ErrNotFound) {
			continue
		}
		if err != nil {
			return err
		}
		do(l)
	}
	return nil
}

// Norms answers the norms of the work beside what it took.
func (s *Server) Norms(c *gin.Context) {
	_, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	logged, err := scope.Logged(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, plan.Norms(words.In(k.Settings.Locale), k.Settings.PriceList(), logged))
}

// Dangers answers the jobs of the company on which people are at risk now.
func (s *Server) Dangers(c *gin.Context) {
	_, scope := s.who(c)
	list, err := scope.Endangered(c)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, list)
}

// Week answers what is planned in the company in a week.
func (s *Server) Week(c *gin.Context, params WeekParams) {
	_, scope := s.who(c)
	k, err := scope.Company(c)
	if err != nil {
		fail(c, err)
		return
	}
	today := scope.Now().In(k.Location())
	from := today.AddDate(0, 0, -(int(today.Weekday())+6)%7) // Monday
	if said := given(params.From); said != "" {
		if from, err = time.Parse(time.DateOnly, said); err != nil {
			fail(c, install.Errors{{Field: "from", Value: said, Accept: "a day, as 2006-01-02"}})
			return
		}
	}
	jobs, err := scope.Planned(c)
	if err != nil {
		fail(c, err)
		return
	}
	names, err := scope.Crew(c)
	if err != nil {
		fail(c, err)
		return
	}
	spoken := words.In(k.Settings.Locale)
	for i := range names {
		for n := range names[i].Lapses {
			l := &names[i].Lapses[n]
			l.Kind = spoken.Say(string(install.AuthorityNames[install.Authority(l.Kind)]))
		}
	}
	planned := make([][]plan.Planned, len(jobs))
	for i := range jobs {
		planned[i] = jobs[i].Planned
	}
	out := WeekSheet{Today: today.Format(time.DateOnly), Jobs: jobs}
	out.Days, out.People = plan.Week(names, planned, from, today)
	reply(c, out)
}
