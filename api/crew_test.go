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
	"arvelt/core/working"
	"arvelt/store"
)

// planned puts steps on the plan of a job beside what stands there.
func (c *client) planned(ref string, edits map[string]install.TaskEdit) answer {
	c.Helper()
	v := c.job(ref)
	p := v.View.Job.Plan
	tasks := map[string]install.TaskEdit{}
	for id, e := range p.Tasks {
		tasks[id] = e
	}
	for id, e := range edits {
		tasks[id] = e
	}
	p.Tasks = tasks
	return c.part(v, "plan", p)
}

// Work at height takes two, one of whom climbs and is recorded for it and another stands by: on the plan, and before the step is done. Whatever takes a
// skill that the company keeps record of is planned for somebody who has it on that day.
func TestWorkAtHeightTakesTwo(t *testing.T) {
	w := serve(t)
	tobias, jana := w.as("tobias"), w.as("jana")
	for _, ref := range []string{"PW-2038", "PW-2054"} {
		v := tobias.job(ref)
		id := ""
		for i := range v.View.Tasks {
			if x := &v.View.Tasks[i]; x.Kind == install.MarkingStep && !x.Isolation && x.Closed == "" && !x.Done && x.Others == "" {
				id = x.ID
				break
			}
		}
		require.NotEmpty(t, id, ref)
		high := func(e install.TaskEdit) answer {
			e.AtHeight = install.IsAtHeight
			return tobias.planned(ref, map[string]install.TaskEdit{id: e})
		}
		refused := func(e install.TaskEdit, field, says string) {
			t.Helper()
			a := high(e)
			assert.Equal(t, 422, a.status, a.text)
			assert.Contains(t, a.text, "plan.tasks["+id+"]."+field)
			assert.Contains(t, a.text, says)
		}
		refused(install.TaskEdit{Crew: 1}, "crew", "one works and one stands by")
		refused(install.TaskEdit{Who: "Jana Okell"}, "who", "2 people, as the step takes")
		refused(install.TaskEdit{Who: "Jana Okell, Remy Stroud", StandBy: "Tobias Marrick"}, "standBy", "one of those who do the step")
		refused(install.TaskEdit{StandBy: "Nobody At All"}, "standBy", "one of the people of the company")
		refused(install.TaskEdit{Who: "Jana Okell, Remy Stroud", StandBy: "Jana Okell"}, "standBy", "does not climb")
		refused(install.TaskEdit{Who: "Ines Pellmore, Remy Stroud"}, "who", "Work at height")
		refused(install.TaskEdit{AtHeight: "perhaps", Who: "x"}, "who", "people of the company")

		require.Equal(t, 200, high(install.TaskEdit{Who: "Jana Okell, Remy Stroud"}).status)
		step := taskOf(t, tobias.job(ref), id)
		assert.Equal(t, 2, step.Crew)
		assert.Contains(t, step.Closed, "who stands by")
		assert.Equal(t, working.PlanSheet, step.ClosedAt.Sheet)
		jana.held(v.Id, ticks(id, true), 409, "who stands by")
		require.Equal(t, 200, high(install.TaskEdit{Who: "Jana Okell, Remy Stroud", StandBy: "Remy Stroud"}).status)
		assert.Equal(t, "Remy Stroud", taskOf(t, tobias.job(ref), id).StandBy)
		jana.made(v.Id, ticks(id, true))
		van := w.as("jana").van(v.Id)
		assert.False(t, slices.ContainsFunc(van.Items, func(i api.VanItem) bool { return i.ID == "kit:platform" }), "what is done asks for nothing more")
		jana.made(v.Id, ticks(id, false))
		assert.True(t, slices.ContainsFunc(jana.van(v.Id).Items, func(i api.VanItem) bool { return i.ID == "kit:platform" }))
		assert.Equal(t, 422, tobias.planned(ref, map[string]install.TaskEdit{id: {AtHeight: "perhaps"}}).status)
	}

	// A point high up makes work on its room one for two, by the practice of the company.
	v := tobias.job("PW-2044")
	room := v.View.Job.Rooms[slices.IndexFunc(v.View.Job.Rooms, func(r install.Room) bool {
		return slices.ContainsFunc(r.Points, func(p install.RoomPoint) bool { return p.State == install.New })
	})]
	before := taskOf(t, v, room.ID+"-fit")
	require.False(t, before.Height)
	n := slices.IndexFunc(room.Points, func(p install.RoomPoint) bool { return p.State == install.New })
	room.Points[n].HeightMM = 3600
	a := tobias.part(v, "rooms/"+room.ID, room)
	require.Equal(t, 200, a.status, a.text)
	v = tobias.job("PW-2044")
	fit := taskOf(t, v, room.ID+"-fit")
	assert.True(t, fit.Height)
	assert.Equal(t, 2, fit.Crew)
	assert.Contains(t, fit.Skills, install.Climbing)
	assert.False(t, taskOf(t, v, room.ID+"-locate").Height)
	schools := v.View.Job.Schools
	schools.Options["workHeight"] = install.Chose("marked")
	require.Equal(t, 200, tobias.part(v, "schools", schools).status)
	assert.False(t, taskOf(t, tobias.job("PW-2044"), room.ID+"-fit").Height)

	// A skill that lapses counts no more on a day behind its end; the week says that it ends.
	ines, hers := w.as("ines"), tobias.colleague("jana")
	for _, x := range hers.Authorisations {
		if x.Kind == string(install.Climbing) {
			require.Equal(t, 204, ines.do("DELETE", "/api/authorisations/"+x.Id, nil).status)
		}
	}
	day := func(n int) string { return time.Now().UTC().AddDate(0, 0, n).Format(time.DateOnly) }
	require.Equal(t, 204, tobias.do("POST", "/api/people/"+hers.Id+"/authorisations", put{"kind": install.Climbing, "until": day(3)}).status)
	v = tobias.job("PW-2054")
	id := v.View.Tasks[slices.IndexFunc(v.View.Tasks, func(x corePlan.Task) bool { return x.Kind == install.MarkingStep && !x.Done && x.Others == "" })].ID
	on := func(n int) answer {
		return tobias.planned("PW-2054", map[string]install.TaskEdit{id: {Who: "Jana Okell, Remy Stroud", AtHeight: install.IsAtHeight, Day: day(n)}})
	}
	a = on(5)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "recorded on "+day(5)+" for “Work at height”: Tobias Marrick")
	require.Equal(t, 200, on(2).status, "it holds until then")
	var week api.WeekSheet
	ines.do("GET", "/api/week", nil).into(t, &week)
	for _, p := range week.People {
		if p.Name == "Jana Okell" {
			require.Len(t, p.Lapses, 1)
			assert.Equal(t, "Work at height", p.Lapses[0].Kind)
		}
	}
}

// Hours are started and stopped on a step, or noted; what took more than a quarter above its hours is said, when the work ends is reckoned anew, and the
// company's list is corrected by what its jobs took.
func TestHoursOnTheStepCorrectTheNorms(t *testing.T) {
	w := serve(t)
	tobias, jana, remy := w.as("tobias"), w.as("jana"), w.as("remy")
	clock := time.Now()
	w.st.Now = func() time.Time { return clock }
	defer func() { w.st.Now = time.Now }()
	const ref = "PW-9501"
	v := tobias.walked(ref, "iec230", "PW-2044", "hall: 2 double socket, light\nstudy: double socket, light\nloft room: double socket\nstore: light")
	marks := []corePlan.Task{}
	for _, x := range v.View.Tasks {
		if (x.Norm == "locate" || x.Norm == "mark") && !x.Isolation && !x.Done && x.Closed == "" && x.Others == "" {
			marks = append(marks, x)
		}
	}
	marks = slices.DeleteFunc(marks, func(x corePlan.Task) bool { return x.Norm != marks[0].Norm })
	require.GreaterOrEqual(t, len(marks), 3)
	norm, each := marks[0].Norm, marks[0].Hours
	clocks := func(id string, stop bool) put { return put{"kind": "clock", "subject": id, "done": stop} }
	jana.held(v.Id, clocks("no-such-step", false), 409, "not on this job's plan")
	w.as("dot").held(v.Id, clocks(marks[0].ID, false), 403, "")

	jana.made(v.Id, clocks(marks[0].ID, false))
	got := taskOf(t, remy.made(v.Id, clocks(marks[0].ID, false)), marks[0].ID)
	require.Len(t, got.Clocks, 2)
	assert.Equal(t, "Jana Okell", got.Clocks[0].By)
	assert.Zero(t, got.Worked)
	clock = clock.Add(15 * time.Minute)
	remy.made(v.Id, clocks(marks[0].ID, true))
	got = taskOf(t, jana.made(v.Id, ticks(marks[0].ID, true)), marks[0].ID)
	assert.Empty(t, got.Clocks, "the tick stops the hours of whoever ticks")
	assert.InDelta(t, 0.5, got.Worked, 0.01)
	assert.True(t, got.Over)
	for _, x := range marks[1:3] {
		jana.made(v.Id, put{"kind": "worked", "subject": x.ID, "value": 2 * each * float64(x.Crew), "note": ""})
		jana.made(v.Id, ticks(x.ID, true))
	}
	v = jana.job(ref)
	pace := v.View.Pace
	assert.True(t, pace.Enough)
	assert.Greater(t, pace.Factor, 1.9)
	assert.Contains(t, pace.Over, marks[0].ID)
	assert.NotEmpty(t, pace.Ends)

	// A clock that nobody stopped counts nothing, and asks whose it is.
	jana.made(v.Id, clocks(marks[2].ID, false))
	clock = clock.Add(20 * time.Hour)
	was := taskOf(t, v, marks[2].ID).Worked
	v = jana.job(ref)
	got = taskOf(t, v, marks[2].ID)
	require.Len(t, got.Clocks, 1)
	assert.True(t, got.Clocks[0].Lost)
	assert.Equal(t, was, got.Worked)

	var norms []corePlan.NormRow
	tobias.do("GET", "/api/norms", nil).into(t, &norms)
	n := slices.IndexFunc(norms, func(r corePlan.NormRow) bool { return r.Norm == norm })
	require.GreaterOrEqual(t, n, 0)
	require.NotEmpty(t, norms[n].Lines)
	line := norms[n].Lines[0]
	assert.Equal(t, "hours:"+norm, line.Key)
	assert.Equal(t, 3, norms[n].Steps)
	assert.Greater(t, line.Proposed, line.Hours)
	var company struct {
		store.Settings
		Version int `json:"version"`
	}
	ines := w.as("ines")
	all := map[string]any{}
	ines.do("GET", "/api/company", nil).into(t, &all)
	ines.do("GET", "/api/company", nil).into(t, &company)
	prices := company.Prices
	at := slices.IndexFunc(prices, func(p api.PriceItem) bool { return p.Key == line.Key })
	if at < 0 {
		at = len(prices)
		prices = append(prices, api.PriceItem{Key: line.Key, Name: line.Name, Unit: "h", Packs: []float64{}, Instead: []string{}})
	}
	prices[at].Hours = line.Proposed
	all["prices"] = prices
	a := ines.do("PUT", "/api/company", all)
	require.Equal(t, 200, a.status, a.text)
	tobias.do("GET", "/api/norms", nil).into(t, &norms)
	n = slices.IndexFunc(norms, func(r corePlan.NormRow) bool { return r.Norm == norm })
	assert.InDelta(t, 1, norms[n].Factor, 0.05)
	assert.Empty(t, norms[n].Lines, "taken over once")
	open := tobias.walked("PW-9503", "iec230", "PW-2044", "hall: 2 double socket")
	for _, x := range open.View.Tasks {
		if x.Norm == norm && !x.Done && open.View.Job.Plan.Tasks[x.ID].Hours == 0 {
			assert.Greater(t, x.Hours, each, "other jobs are planned with it")
		}
	}
}

// The evening before, everybody sees what the next day asks for: what can be done first, what cannot and what could be in its place, and what goes into
// the van for it.
func TestTheEveningBefore(t *testing.T) {
	w := serve(t)
	tobias, jana := w.as("tobias"), w.as("jana")
	const ref = "PW-9502"
	v := tobias.walked(ref, "iec230", "PW-2044", "hall: 2 double socket, light\nstudy: double socket, light\nloft room: double socket\nstore: light")
	var sheet api.TodaySheet
	jana.do("GET", "/api/today", nil).into(t, &sheet)
	today, err := time.Parse(time.DateOnly, sheet.Day)
	require.NoError(t, err)
	day := today.AddDate(0, 0, 1).Format(time.DateOnly)
	free, later := []string{}, ""
	for _, x := range v.View.Tasks {
		switch {
		case x.Done || x.Others != "":
		case x.Closed == "" && !x.Isolation:
			free = append(free, x.ID)
		case later == "" && x.Isolation && len(x.After) > 0:
			later = x.ID
		}
	}
	require.GreaterOrEqual(t, len(free), 3)
	require.NotEmpty(t, later)
	a := tobias.planned(ref, map[string]install.TaskEdit{free[0]: {Who: "Jana Okell", Crew: 1, Day: day}, free[1]: {Who: "Jana Okell", Crew: 1,
		Day: day, AtHeight: "no"},
		later: {Who: "Jana Okell", Crew: 1, Day: day}})
	require.Equal(t, 200, a.status, a.text)
	jana.do("GET", "/api/today", nil).into(t, &sheet)
	require.Equal(t, day, sheet.Next)
	ahead := sheet.Ahead[slices.IndexFunc(sheet.Ahead, func(j api.AheadJob) bool { return j.Ref == ref })]
	ids := []string{}
	for _, s := range ahead.Steps {
		ids = append(ids, s.ID)
	}
	assert.ElementsMatch(t, []string{free[0], free[1], later}, ids)
	last := ahead.Steps[len(ahead.Steps)-1]
	assert.Equal(t, later, last.ID, "what cannot be done stands behind")
	assert.NotEmpty(t, last.Held)
	assert.True(t, last.Off)
	assert.Empty(t, ahead.Steps[0].Held)
	require.NotEmpty(t, ahead.Instead)
	for _, s := range ahead.Instead {
		assert.NotContains(t, ids, s.ID)
	}
	require.NotEmpty(t, ahead.Items)
	var charged *api.VanItem
	for i := range ahead.Items {
		assert.Nil(t, ahead.Items[i].Packed)
		if ahead.Items[i].Charge && ahead.Items[i].Verdict == working.Pass {
			charged = &ahead.Items[i]
		}
	}
	require.NotNil(t, charged, "what runs on a battery is charged tonight")
	jana.made(v.Id, put{"kind": "packed", "subject": charged.ID, "done": true, "note": ""})
	jana.do("GET", "/api/today", nil).into(t, &sheet)
	ahead = sheet.Ahead[slices.IndexFunc(sheet.Ahead, func(j api.AheadJob) bool { return j.Ref == ref })]
	assert.Equal(t, 1, ahead.Inside)
	assert.False(t, slices.ContainsFunc(ahead.Items, func(i api.VanItem) bool { return i.ID == charged.ID }))

	// The sheet of the day is a paper: for whoever works there, with the way in.
	sheetOf := jana.pdf("/api/jobs/" + v.Id + "/day.pdf?day=" + day)
	for _, says := range []string{"Day sheet", v.View.Job.Site.Address, "Jana Okell", "Into the van", "Locked at"} {
		assert.Contains(t, sheetOf, says)
	}
	assert.NotContains(t, sheetOf, charged.Name, "it is in")
	assert.Contains(t, jana.pdf("/api/jobs/"+v.Id+"/day.pdf"), "No step is planned")
	assert.Equal(t, 422, jana.do("GET", "/api/jobs/"+v.Id+"/day.pdf?day=tomorrow", nil).status)

	// What another day asks for is judged by that day: a tester whose calibration ends tonight is none tomorrow.
	var remySheet api.TodaySheet
	w.as("remy").do("GET", "/api/today", nil).into(t, &remySheet)
	assert.False(t, slices.ContainsFunc(remySheet.Ahead, func(j api.AheadJob) bool { return j.Ref == ref }), "nothing of it is his")
}
