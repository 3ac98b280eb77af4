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
	jobs := jobViews{scope: scope, who: p, seen: map[string]*jobSeen{}} // most jobs of the next day are of this one too
	err = jobs.each(c, rows, func(j *jobSeen) {
		job := whole.TodayOf(&j.view, j.Kit, p.Name, j.Now)
		job.ID = j.ID
		out.Jobs = append(out.Jobs, job)
	})
	if err == nil {
		out.Next, err = scope.NextDay(c, p, now)
	}
	var outlook plan.Outlook
	if err == nil && out.Next != "" {
		outlook, err = scope.Outlook(c)
	}
	if err == nil && out.Next != "" {
		day, _ := time.ParseInLocation(time.DateOnly, out.Next, now.Location())
		if rows, err = scope.On(c, p, out.Next); err == nil {
			err = jobs.each(c, rows, func(j *jobSeen) {
				job := whole.AheadOf(&j.view, j.Kit, &outlook, p.Name, day)
				job.ID = j.ID
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

// jobSeen is a job with its view.
type jobSeen struct {
	*store.Loaded

	view whole.View
}

// jobViews are jobs as somebody sees them, each loaded and computed once.
type jobViews struct {
	scope store.Scope
	who   store.Person
	seen  map[string]*jobSeen
}

// each goes through the jobs of a list; those that were taken away meanwhile are left out.
func (v *jobViews) each(c *gin.Context, rows []store.Row, do func(*jobSeen)) error {
	for i := range rows {
		j := v.seen[rows[i].ID]
		if j == nil {
			l, err := v.scope.Job(c, v.who, rows[i].ID)
			if errors.Is(err, store.ErrNotFound) {
				continue
			}
			if err != nil {
				return err
			}
			j = &jobSeen{l, l.View()}
			v.seen[rows[i].ID] = j
		}
		do(j)
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
	outlook, err := scope.Outlook(c)
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
	out.Days, out.People = plan.Week(spoken, names, planned, &outlook, from, today)
	reply(c, out)
}
