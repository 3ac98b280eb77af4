package api_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/plan"
	"arvelt/core/van"
	"arvelt/core/whole"
)

// workdays are the next days of work from tomorrow on.
func workdays(n int) (out []string) {
	for d := time.Now().UTC().AddDate(0, 0, 1); len(out) < n; d = d.AddDate(0, 0, 1) {
		if d.Weekday() != time.Saturday && d.Weekday() != time.Sunday {
			out = append(out, d.Format(time.DateOnly))
		}
	}
	return out
}

func (c *client) outlook(o plan.Outlook) answer {
	c.Helper()
	if o.Away == nil {
		o.Away = []plan.Away{}
	}
	if o.Weather == nil {
		o.Weather = []outdoor.Forecast{}
	}
	return c.do("PUT", "/api/outlook", o)
}

// drop gives a job an overhead run.
func (c *client) drop(ref string) api.JobView {
	c.Helper()
	return c.outdoors(ref, func(o *install.Outdoor) {
		o.Runs = append(slices.Clone(o.Runs), install.Run{ID: "drop", Name: "Drop", Kind: install.Overhead})
	})
}

// Whoever is away has no day: not as it is proposed, nor as somebody plans it, and the week says so; a closed company has none for anybody.
func TestWhoIsAwayHasNoDay(t *testing.T) {
	for practice, like := range map[string]string{"iec230": "PW-2044", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			w := serve(t)
			tobias := w.as("tobias")
			const ref = "PW-9541"
			kind := map[string]string{"iec230": "double socket", "split120": "duplex"}[practice]
			v := tobias.walked(ref, practice, like, "study: 6 "+kind+"\nden: 4 "+kind)
			study := v.View.Job.Rooms[0].ID
			days := workdays(12)
			jana := tobias.colleague("jana").Id
			assert.Equal(t, 403, w.as("remy").do("PUT", "/api/outlook", plan.Outlook{Away: []plan.Away{}, Weather: []outdoor.Forecast{}}).status)
			for says, away := range map[string]plan.Away{"person": {Person: "nobody", From: days[0], To: days[0]}, "from": {From: "soon", To: days[0]},
				"to": {From: days[1], To: days[0]}} {
				a := tobias.outlook(plan.Outlook{Away: []plan.Away{away}})
				assert.Equal(t, 422, a.status)
				assert.Contains(t, a.text, "away[0]."+says)
			}
			require.Equal(t, 200, tobias.outlook(plan.Outlook{Away: []plan.Away{{Person: jana, From: days[0], To: days[9], Why: "training"},
				{From: days[2], To: days[3], Why: "stocktaking"}}}).status)
			for _, s := range tobias.proposed(ref).Steps {
				assert.False(t, slices.Contains(s.Who, "Jana Okell") && s.Day <= days[9], "%s on %s: she is away", s.Task, s.Day)
				assert.NotContains(t, days[2:4], s.Day, "closed")
			}
			a := tobias.planned(ref, map[string]install.TaskEdit{study + "-boxes": {Who: "Jana Okell", Day: days[5]}})
			assert.Equal(t, 422, a.status)
			assert.Contains(t, a.text, "Jana Okell is away from "+days[0])
			a = tobias.planned(ref, map[string]install.TaskEdit{study + "-boxes": {Who: "Tobias Marrick", Day: days[2]}})
			assert.Equal(t, 422, a.status)
			assert.Contains(t, a.text, "stocktaking")
			a = tobias.planned(ref, map[string]install.TaskEdit{study + "-boxes": {Who: "Jana Okell", Day: days[10]}})
			require.Equal(t, 200, a.status, a.text)

			var week api.WeekSheet
			tobias.do("GET", "/api/week?from="+days[5], nil).into(t, &week)
			n := slices.IndexFunc(week.People, func(p plan.WeekPerson) bool { return p.Name == "Jana Okell" })
			require.GreaterOrEqual(t, n, 0)
			assert.Contains(t, week.People[n].Days[0].Away, "training")

			// It was planned before it was known: it does not go any more, and says why.
			require.Equal(t, 200, tobias.outlook(plan.Outlook{Away: []plan.Away{{Person: jana, From: days[10], To: days[10], Why: "dentist"}}}).status)
			assert.Contains(t, dayOf(tobias.proposed(ref), study+"-boxes").Clash, "dentist")
		})
	}
}

// Work outdoors is not proposed for a day whose weather holds it, and says so where it is planned for one: on the week, and the evening before with
// what makes it go all the same. Weather is typed, or made up by a stand-in that says so; a figure that nobody said holds nothing.
func TestTheWeatherHoldsWorkOutdoors(t *testing.T) {
	num := func(x float64) *float64 { return &x }
	for practice, ref := range map[string]string{"iec230": "PW-2052", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			w := serve(t)
			tobias := w.as("tobias")
			tobias.drop(ref)
			const survey, bracket = "run-drop-survey", "run-drop-bracket"
			for says, f := range map[string]outdoor.Forecast{"weather[0].rainMM": {Day: "2026-12-24", RainMM: num(-1)}, "weather[0].day": {Day: "Monday"},
				"weather[0].highC": {Day: "2026-12-24", LowC: num(9), HighC: num(4)}} {
				a := tobias.outlook(plan.Outlook{Weather: []outdoor.Forecast{f}})
				assert.Equal(t, 422, a.status)
				assert.Contains(t, a.text, says)
			}
			today := time.Now().UTC()
			wet := []outdoor.Forecast{}
			for n := range 25 {
				wet = append(wet, outdoor.Forecast{Day: today.AddDate(0, 0, n+1).Format(time.DateOnly), RainMM: num(12)})
			}
			require.Equal(t, 200, tobias.outlook(plan.Outlook{Weather: wet}).status)
			step := dayOf(tobias.proposed(ref), bracket)
			require.NotNil(t, step)
			assert.Greater(t, step.Day, wet[24].Day)
			rain := map[string]string{"iec230": "12\u00a0mm of rain, at most 2\u00a0mm", "split120": "0.472\u00a0in of rain, at most 0.0787\u00a0in"}[practice]
			assert.Contains(t, step.Why, rain)

			day := workdays(1)[0]
			both := install.TaskEdit{Who: "Tobias Marrick, Jana Okell", Crew: 2, Day: day, StandBy: "Jana Okell"}
			a := tobias.planned(ref, map[string]install.TaskEdit{survey: {Who: "Tobias Marrick", Day: day}, bracket: both})
			require.Equal(t, 200, a.status, a.text)
			assert.Contains(t, dayOf(tobias.proposed(ref), bracket).Clash, "rain")
			var week api.WeekSheet
			tobias.do("GET", "/api/week?from="+day, nil).into(t, &week)
			said := ""
			for _, j := range week.Jobs {
				for _, p := range j.Planned {
					if j.Ref == ref && p.Task == bracket {
						said = p.Weather
					}
				}
			}
			assert.Contains(t, said, "Work at height outdoors")
			on, err := time.Parse(time.DateOnly, day)
			require.NoError(t, err)
			w.st.Now = func() time.Time { return on.Add(-8 * time.Hour) } // the evening before
			defer func() { w.st.Now = time.Now }()
			var sheet api.TodaySheet
			tobias.do("GET", "/api/today", nil).into(t, &sheet)
			ahead := ""
			for _, a := range sheet.Ahead {
				for _, s := range a.Steps {
					if a.Ref == ref && s.ID == bracket {
						ahead = s.Weather
					}
				}
			}
			assert.Contains(t, ahead, "a platform that is made for that wind")

			require.Equal(t, 200, tobias.outlook(plan.Outlook{Weather: []outdoor.Forecast{{Day: day, LowC: num(12)}}}).status)
			assert.NotContains(t, dayOf(tobias.proposed(ref), bracket).Clash, "rain", "nobody said how much it rains")
			var o plan.Outlook
			a = tobias.do("POST", "/api/outlook/simulated", nil)
			require.Equal(t, 200, a.status, a.text)
			a.into(t, &o)
			assert.Len(t, o.Weather, 10)
			assert.Empty(t, o.Weather[0].By, "nobody typed it")
			assert.Equal(t, a.text, tobias.do("POST", "/api/outlook/simulated", nil).text, "the same for who asks again")
			o.Weather[3].RainMM = num(40)
			tobias.outlook(o).into(t, &o)
			assert.Equal(t, "Tobias Marrick", o.Weather[3].By)
			assert.Empty(t, o.Weather[4].By, "he typed nothing of that day")
		})
	}
}

// With one vehicle people work at one site at a time; two steps that somebody fixed change their days where both go.
func TestVehiclesAndChangedDays(t *testing.T) {
	w := serve(t)
	tobias := w.as("tobias")
	ends := func() (last string, vehicles int) {
		var p whole.Proposal
		tobias.do("GET", "/api/days", nil).into(t, &p)
		for _, j := range p.Jobs {
			last = max(last, j.Ends)
			for _, s := range j.Steps {
				if strings.HasPrefix(s.Why, "Every vehicle") {
					vehicles++
				}
			}
		}
		return last, vehicles
	}
	before, none := ends()
	assert.Zero(t, none)
	ines := w.as("ines")
	var company api.Company
	ines.do("GET", "/api/company", nil).into(t, &company)
	company.Kit = append(company.Kit, van.Held{Kit: van.Vehicle, Name: "Van 1"})
	a := ines.do("PUT", "/api/company", company)
	require.Equal(t, 200, a.status, a.text)
	after, some := ends()
	assert.Positive(t, some)
	assert.GreaterOrEqual(t, after, before)
	var looking api.Looking
	tobias.do("GET", "/api/days/looking", nil).into(t, &looking)
	assert.Zero(t, looking.Part, "nothing is looked for now")

	const ref = "PW-9551"
	v := tobias.walked(ref, "iec230", "PW-2044", "study: 2 double socket\nden: 2 double socket")
	study, den := v.View.Job.Rooms[0].ID, v.View.Job.Rooms[1].ID
	days := workdays(8)
	require.Equal(t, 200, tobias.planned(ref, map[string]install.TaskEdit{study + "-locate": {Who: "Jana Okell", Day: days[1]},
		den + "-locate": {Who: "Jana Okell", Day: days[6]}}).status)
	assert.Nil(t, dayOf(tobias.proposed(ref), study+"-locate").Swap, "it goes as it stands")
	require.Equal(t, 200, tobias.traded(ref, install.Trade{ID: "t1", Kind: install.Joiner, Who: "Adze", Rooms: []string{study}, Waits: install.FirstWaits,
		Asked: days[0], Promised: days[4]}).status)
	s := dayOf(tobias.proposed(ref), study+"-locate")
	assert.Contains(t, s.Clash, "Adze")
	require.NotNil(t, s.Swap)
	assert.Equal(t, den+"-locate", s.Swap.Task)
	assert.Equal(t, days[6], s.Swap.Day)
	a = tobias.planned(ref, map[string]install.TaskEdit{study + "-locate": {Who: "Jana Okell", Day: days[6]}, den + "-locate": {Who: "Jana Okell",
		Day: days[1]}})
	require.Equal(t, 200, a.status, a.text)
	assert.Empty(t, dayOf(tobias.proposed(ref), study+"-locate").Clash)
	assert.Empty(t, dayOf(tobias.proposed(ref), den+"-locate").Clash)
}

// What others do in a chain of crews has a holder: who of them, what they must find ready and since when it is theirs. One that nobody holds, or whose
// day has passed, is said on the plan and on the week. In both practices.
func TestEachHandOffHasAHolder(t *testing.T) {
	for practice, ref := range map[string]string{"iec230": "PW-2052", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			w := serve(t)
			tobias := w.as("tobias")
			v := tobias.drop(ref)
			const inspect = "run-drop-inspect-o"
			baton := func() plan.Baton {
				list := tobias.job(ref).View.Batons
				i := slices.IndexFunc(list, func(b plan.Baton) bool { return b.Task == inspect })
				require.GreaterOrEqual(t, i, 0)
				return list[i]
			}
			b := baton()
			assert.Contains(t, b.Waits, "Riser cable down the wall")
			assert.Equal(t, "everything in sight", b.Finds)
			assert.Empty(t, b.Alert)
			both := install.TaskEdit{Who: "Tobias Marrick, Jana Okell", Crew: 2, StandBy: "Jana Okell"}
			a := tobias.planned(ref, map[string]install.TaskEdit{"run-drop-bracket": both, "run-drop-riser": both})
			require.Equal(t, 200, a.status, a.text)
			for _, step := range []string{"survey", "bracket", "riser"} {
				r := ticks("run-drop-"+step, true)
				r["note"] = "no camera"
				tobias.made(v.Id, r)
			}
			b = baton()
			assert.Empty(t, b.Waits)
			assert.Equal(t, time.Now().UTC().Format(time.DateOnly), b.Since)
			assert.Contains(t, b.Alert, "Nobody holds it")
			weekly := func() bool {
				var week api.WeekSheet
				tobias.do("GET", "/api/week", nil).into(t, &week)
				for _, j := range week.Jobs {
					if slices.ContainsFunc(j.Planned, func(p plan.Planned) bool { return j.Ref == ref && p.Task == "baton:"+inspect }) {
						return true
					}
				}
				return false
			}
			assert.True(t, weekly())
			day := time.Now().UTC().AddDate(0, 0, 2).Format(time.DateOnly)
			a = tobias.planned(ref, map[string]install.TaskEdit{inspect: {Who: "Borough inspector, 000 4411", Day: day}})
			require.Equal(t, 200, a.status, a.text)
			b = baton()
			assert.Empty(t, b.Alert)
			assert.Equal(t, "Borough inspector, 000 4411", b.Contact)
			assert.False(t, weekly())
			w.st.Now = func() time.Time { return time.Now().AddDate(0, 0, 5) }
			defer func() { w.st.Now = time.Now }()
			assert.Contains(t, baton().Alert, "that day has passed")
			tobias.held(v.Id, ticks(inspect, true), 422, "tick.note")
			r := ticks(inspect, true)
			r["note"], r["person"] = "sticker 88", "Ottoline Frame"
			tobias.made(v.Id, r)
			assert.False(t, slices.ContainsFunc(tobias.job(ref).View.Batons, func(b plan.Baton) bool { return b.Task == inspect }))
		})
	}
}
