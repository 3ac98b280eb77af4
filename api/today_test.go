package api_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	corePlan "arvelt/core/plan"
	"arvelt/core/whole"
)

// today is what the day of somebody says of a job, nil where it is none of theirs.
func (c *client) today(ref string) (job *whole.TodayJob, day time.Time) {
	c.Helper()
	var s api.TodaySheet
	c.do("GET", "/api/today", nil).into(c.T, &s)
	day, err := time.Parse(time.DateOnly, s.Day)
	require.NoError(c, err)
	if i := slices.IndexFunc(s.Jobs, func(j whole.TodayJob) bool { return j.Ref == ref }); i >= 0 {
		job = &s.Jobs[i]
	}
	return job, day
}

// Steps are given to people and days; each finds theirs on the day, with how to get in, what is next and what endangers them, and the office finds
// the week of all. Whom or when it cannot be is refused with what can.
func TestTheDayAndTheWeekOfTheCrew(t *testing.T) {
	w := serve(t)
	tobias, jana, remy, dot := w.as("tobias"), w.as("jana"), w.as("remy"), w.as("dot")
	const ref = "PW-2046"
	v := tobias.job(ref)
	id := v.Id
	job, day := jana.today(ref)
	require.Nil(t, job, "nothing of it is hers yet")
	on := func(days int) string { return day.AddDate(0, 0, days).Format(time.DateOnly) }
	plan := v.View.Job.Plan
	open := []string{}
	isolates := ""
	for _, task := range v.View.Tasks {
		if !task.Done && task.Others == "" {
			open = append(open, task.ID)
			if task.Isolation && isolates == "" {
				isolates = task.ID
			}
		}
	}
	require.Greater(t, len(open), 3)
	set := func(edits map[string]install.TaskEdit, start string) answer {
		now := tobias.job(ref)
		p := plan
		p.StartDate, p.Tasks = start, edits
		return tobias.part(now, "plan", p)
	}
	first, second := "", ""
	for _, task := range v.View.Tasks { // a step that comes after another
		if len(task.After) > 0 && task.Others == "" && !task.Done {
			first, second = task.After[0], task.ID
			break
		}
	}
	require.NotEmpty(t, second)

	for name, bad := range map[string]struct {
		edits map[string]install.TaskEdit
		start string
		says  string
	}{
		"before the work starts": {map[string]install.TaskEdit{first: {Day: on(0)}}, on(3), "a day from " + on(3)},
		"before what comes first": {map[string]install.TaskEdit{first: {Day: on(5)}, second: {Day: on(2)}}, "",
			"a day from " + on(5)},
		"more hours than a day has": {map[string]install.TaskEdit{first: {Who: "Jana Okell", Hours: 20, Day: on(1)},
			second: {Who: "Jana Okell", Hours: 20, Day: on(1)}}, "", "hours left for Jana Okell"},
		"no such day":      {map[string]install.TaskEdit{first: {Day: "2026-02-30"}}, "", "plan.tasks"},
		"nobody may do it": {map[string]install.TaskEdit{isolates: {Who: "Ines Pellmore", Day: on(1), Crew: 1}}, "", "authorised to isolate"},
	} {
		a := set(bad.edits, bad.start)
		assert.Equal(t, 422, a.status, "%s: %s", name, a.text)
		assert.Contains(t, a.text, bad.says, name)
	}

	var was api.WeekSheet
	dot.do("GET", "/api/week", nil).into(t, &was)
	planned := func(of api.WeekSheet, name string) float64 {
		at := slices.Index(of.Days, on(0))
		require.GreaterOrEqual(t, at, 0)
		return of.People[slices.IndexFunc(of.People, func(p corePlan.WeekPerson) bool { return p.Name == name })].Days[at].Hours
	}
	a := set(map[string]install.TaskEdit{first: {Who: "Jana Okell", Crew: 1, Hours: 5, Day: on(0)}, second: {Who: "Jana Okell", Crew: 1, Hours: 6, Day: on(0)},
		open[len(open)-1]: {Who: "Jana Okell", Crew: 1, Hours: 1, Day: on(-2)}}, "")
	require.Equal(t, 200, a.status, a.text)
	job, _ = jana.today(ref)
	require.NotNil(t, job)
	assert.Equal(t, v.View.Job.Site.Address, job.Address)
	assert.Equal(t, v.View.Job.Site.Access, job.Access)
	hers := 0
	for _, g := range job.Groups {
		for _, task := range g.Tasks {
			assert.Contains(t, []string{"", "Jana Okell"}, task.Who)
			if task.Who != "" {
				hers++
			}
		}
	}
	assert.Equal(t, 3, hers)
	if job.Next != nil {
		assert.Empty(t, job.Next.Closed)
	}
	none, _ := remy.today(ref)
	assert.Nil(t, none, "nothing of it is planned for him")

	var week api.WeekSheet
	dot.do("GET", "/api/week", nil).into(t, &week)
	at := slices.Index(week.Days, on(0))
	assert.InDelta(t, planned(was, "Jana Okell")+11, planned(week, "Jana Okell"), 0.01)
	for _, p := range week.People {
		switch p.Name {
		case "Jana Okell":
			assert.True(t, p.Days[at].Over)
			assert.Equal(t, 1, p.Slipped)
		default:
			assert.Zero(t, p.Slipped, p.Name)
		}
		assert.NotEqual(t, "Dot Farley", p.Name, "the office is no crew")
	}
	require.True(t, slices.ContainsFunc(week.Jobs, func(j api.PlannedJob) bool { return j.Ref == ref }))
	assert.Equal(t, 422, dot.do("GET", "/api/week?from=soon", nil).status)
	var next api.WeekSheet
	dot.do("GET", "/api/week?from="+on(7), nil).into(t, &next)
	assert.Equal(t, on(7), next.Days[0])

	// An authorisation that ends is said a month before, and nobody is planned for what it is needed for after it.
	ines, hers2 := w.as("ines"), tobias.colleague("jana")
	for _, a := range hers2.Authorisations {
		if a.Kind == string(install.Isolating) {
			require.Equal(t, 204, ines.do("DELETE", "/api/authorisations/"+a.Id, nil).status)
		}
	}
	got := ines.do("POST", "/api/people/"+hers2.Id+"/authorisations", put{"kind": install.Isolating, "until": on(4)})
	require.Equal(t, 204, got.status, got.text)
	a = set(map[string]install.TaskEdit{isolates: {Who: "Jana Okell", Crew: 1, Day: on(6)}}, "")
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "authorised to isolate on "+on(6))
	a = set(map[string]install.TaskEdit{isolates: {Who: "Jana Okell", Crew: 1, Day: on(3)}, first: {Who: "Jana Okell", Crew: 1, Day: on(0)}}, "")
	assert.Equal(t, 200, a.status, a.text)
	dot.do("GET", "/api/week", nil).into(t, &week)
	for _, p := range week.People {
		if p.Name == "Jana Okell" {
			require.Len(t, p.Lapses, 1)
			assert.Equal(t, on(4), p.Lapses[0].Until)
			assert.False(t, p.Lapses[0].Over)
		} else {
			assert.Empty(t, p.Lapses, p.Name)
		}
	}

	// A word for whoever comes next stands on their day; a lock that stays has one.
	remy.made(id, put{"kind": "day-end", "note": "the key is with the baker"})
	job, _ = jana.today(ref)
	require.NotNil(t, job)
	assert.Equal(t, []string{"Remy Stroud: the key is with the baker"}, job.Words)

	// What endangers people stands on the day and on the list of jobs.
	remy.made(id, left(install.LeftBlindEnd, put{"place": "by the cellar door", "reach": true}))
	job, _ = jana.today(ref)
	require.Len(t, job.Dangers, 1)
	var page api.JobPage
	dot.do("GET", "/api/jobs?q="+ref, nil).into(t, &page)
	require.Len(t, page.Jobs, 1)
	assert.Contains(t, page.Jobs[0].Danger, "by the cellar door")
}
