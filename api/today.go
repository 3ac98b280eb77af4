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
	out := TodaySheet{Day: now.Format(time.DateOnly), Jobs: []TodayJob{}}
	for _, r := range rows {
		l, err := scope.Job(c, p, r.ID)
		if errors.Is(err, store.ErrNotFound) {
			continue // it was taken away meanwhile
		}
		if err != nil {
			fail(c, err)
			return
		}
		v := l.View()
		job := whole.TodayOf(&v, l.Kit, p.Name, l.Now)
		job.ID = r.ID
		out.Jobs = append(out.Jobs, job)
	}
	reply(c, out)
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
