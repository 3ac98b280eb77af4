package outage

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

var monday = time.Date(2026, 6, 1, 7, 0, 0, 0, time.UTC)

func task(id, kind string, hours float64, crew int, after ...string) plan.Task {
	return plan.Task{ID: id, Title: id, Stage: install.SecondFix, Isolation: true, Hours: hours, Crew: crew, After: after,
		Day: true, Step: kind}
}

// day is an outage of five steps: isolate, strip, two fits that need not wait for
// each other, dead tests, energise.
func day(crew int) Input {
	job := &install.Job{Outage: install.Outage{Start: "08:00", Crew: crew, Day: "2026-06-10"}}
	return Input{Job: job, Now: monday, Tasks: []plan.Task{
		task("outage-isolate", plan.StepIsolate, 0.5, 1), task("outage-strip", plan.StepStrip, 1, 1, "outage-isolate"),
		task("outage-fit:a", plan.StepFit, 1, 1, "outage-strip"), task("outage-fit:b", plan.StepFit, 2, 1, "outage-strip"),
		task("c1-label", plan.StepLabel, 0.5, 1, "outage-strip"),
		task("outage-dead-tests", plan.StepDead, 0.75, 1, "outage-fit:a", "outage-fit:b"),
		task("outage-energise", plan.StepEnergise, 0.5, 1, "outage-dead-tests"),
		task("outage-live-tests", plan.StepLive, 0.75, 1, "outage-energise"),
	}}
}

func step(p Plan, id string) Step {
	for _, s := range p.Steps {
		if s.ID == id {
			return s
		}
	}
	return Step{}
}

func TestHourByHour(t *testing.T) {
	one := Of(day(1))
	assert.Equal(t, "08:00 – 08:30", step(one, "outage-isolate").Clock)
	assert.Equal(t, "08:30 – 09:30", step(one, "outage-strip").Clock)
	assert.Equal(t, 6.25, one.DarkH, "0.5 + 1 + 1 + 2 + 0.5 + 0.75 + 0.5, one after the other")
	two := Of(day(2))
	assert.Equal(t, 4.75, two.DarkH, "two people fit side by side")
	assert.Equal(t, "12:45", two.OnAt)
	assert.True(t, step(two, "c1-label").Drop)
	assert.False(t, step(two, "outage-live-tests").Dark, "the supply is back")
}

// Nothing is begun before what it waits for has ended, and never more people
// work than there are.
func TestTheScheduleKeepsOrderAndCrew(t *testing.T) {
	for crew := 1; crew <= 4; crew++ {
		in := day(crew)
		in.Tasks[3].Crew = 2
		p := Of(in)
		require.Len(t, p.Steps, len(in.Tasks))
		for _, task := range in.Tasks {
			for _, first := range task.After {
				assert.GreaterOrEqual(t, step(p, task.ID).From, step(p, first).To, "%s after %s", task.ID, first)
			}
		}
		for at := 0.05; at < 10; at += 0.1 {
			busy := 0
			for _, s := range p.Steps {
				if s.From < at && at < s.To {
					busy += s.Crew
				}
			}
			assert.LessOrEqual(t, busy, crew)
		}
	}
}

// The point of no return is the first end of a step from which going back takes
// longer than going on.
func TestThePointOfNoReturn(t *testing.T) {
	p := Of(day(1))
	require.NotEmpty(t, p.NoReturn)
	for _, s := range p.Steps {
		if s.ID == p.NoReturn {
			assert.Greater(t, s.BackH, s.OnH)
			break
		}
		if s.Dark {
			assert.LessOrEqual(t, s.BackH, s.OnH, s.ID)
		}
	}
	assert.Contains(t, p.Turn, "going back")
	assert.Empty(t, Of(Input{Job: &install.Job{}, Now: monday}).Steps)
}

func TestTheEarliestDayFollowsWhatIsLatest(t *testing.T) {
	in := day(2)
	in.Routes = []rulebook.IsolationRoute{{ID: "operator", Title: "The operator", Chosen: true, Offered: true,
		Earliest: "2026-06-08", LeadSays: "usual"}}
	in.Take = materials.TakeOff{Lines: []materials.Line{{Name: "Board", Unit: "pcs", Need: 1, Short: 1, Due: "2026-06-04"},
		{Name: "Cable", Unit: "m", Need: 5}}}
	p := Of(in)
	assert.Equal(t, "2026-06-08", p.Earliest)
	assert.Contains(t, p.Why, "The operator")

	// One delivery later moves the day, and is named.
	in.Take.Lines[0].Due = "2026-06-12"
	p = Of(in)
	assert.Equal(t, "2026-06-12", p.Earliest)
	assert.Contains(t, p.Why, "Board")
	held := 0
	for _, c := range p.Causes {
		if c.Holds {
			held++
			assert.Equal(t, "Board", c.What)
		}
	}
	assert.Equal(t, 1, held)

	in.Take.Lines[0].Due = ""
	assert.Contains(t, Of(in).Why, "No date yet for Board")
	in.Routes[0].Chosen = false
	why := Of(in).Why
	assert.Contains(t, why, "No date yet for isolation, Board")
	assert.NotContains(t, why, "Nothing holds it", "what is not known may hold it")
	nothing := in
	nothing.Take = materials.TakeOff{}
	assert.Contains(t, Of(nothing).Why, "no take-off yet")
	assert.NotContains(t, Of(nothing).Why, "Nothing holds it")
	in.Routes[0].Chosen = true
	yes := true
	in.Job.Outage.Inspector = install.Booking{Needed: &yes, Who: "Ms Dell", On: "2026-06-20"}
	assert.Equal(t, "2026-06-20", Of(in).Earliest)
	in.Routes[0].Offered = false
	assert.Contains(t, Of(in).Why, "isolation")
}

func check(p Plan, what string) Item {
	for _, c := range p.Checks {
		if c.What == what {
			return c
		}
	}
	return Item{}
}

// What fails of the supply arrangement holds the cut-off where its rule says so; a seal, which the visit puts right, does not.
func TestTheSupplyArrangementHoldsByItsRules(t *testing.T) {
	in := day(2)
	failed := func(rule *working.Rule) working.Check {
		c := rule.Check("", "meter")
		c.Decide(false)
		return *c
	}
	in.Chain = &rulebook.ChainReport{Checks: []working.Check{failed(&rulebook.SealRule), failed(&rulebook.JointRule)}}
	p := Of(in)
	assert.Nil(t, p.Item(ItemSupply))
	in.Chain.Checks = append(in.Chain.Checks, failed(&rulebook.LineSideRule))
	p = Of(in)
	require.NotNil(t, p.Item(ItemSupply))
	assert.True(t, p.Item(ItemSupply).Open())
	assert.False(t, p.Item(ItemSupply).May, "nobody lets it go")
}

// A tail that is too short needs a joint, whatever was said of the others; a planned joint settles it.
func TestAShortTailNeedsAJoint(t *testing.T) {
	in := day(2)
	short := 0.2
	in.Job.Found.Circuits = []install.FoundCircuit{{Name: "Press", TailM: install.Fact{Value: &short, Basis: install.Measured}}}
	in.Job.Outage.NoTails = true
	p := Of(in)
	assert.Equal(t, working.Fail, p.Item(ItemTails).State)
	in.Job.Found.Circuits[0].Joint = true
	p = Of(in)
	assert.Equal(t, working.Pass, p.Item(ItemTails).State)
}

// Work that is forecast past dark needs light for it beside the light at the board.
func TestWorkPastDarkNeedsLight(t *testing.T) {
	in := day(1)
	yes, at := true, 50.0
	in.Job.Outage.Latitude, in.Job.Outage.Longitude, in.Job.Outage.LightReady = &at, &at, &yes
	in.Job.Outage.Day, in.Job.Outage.Start = "2026-12-20", "12:00"
	p := Of(in)
	assert.True(t, p.Late)
	assert.Equal(t, working.Fail, p.Item(ItemLight).State)
	in.Job.Outage.DarkReady = &yes
	p = Of(in)
	assert.Equal(t, working.Pass, p.Item(ItemLight).State)
}

func TestBeforeTheCut(t *testing.T) {
	fact := func(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }
	yes, no := true, false
	in := day(2)
	p := Of(in)
	assert.False(t, p.Ready)
	for what, want := range map[string]working.Verdict{"Parts delivered and counted": working.Unknown,
		"Existing cables long enough for the board": working.Unknown, "A lawful isolation": working.Fail,
		"Inspector": working.Unknown, "Temporary supply": working.Unknown,
		"Light at the board while it is dark": working.Unknown, "First fix done": working.Pass, "Crew": working.Pass} {
		assert.Equal(t, want, check(p, what).State, what)
	}

	o := &in.Job.Outage
	o.Inspector.Needed, o.LightReady, o.NoTemporary, o.BookedOn = &no, &yes, true, "2026-06-09"
	in.Job.Found.Circuits = []install.FoundCircuit{{Name: "Press", TailM: fact(0.8)}}
	in.Take.Lines = []materials.Line{{Name: "Board", Need: 1}}
	in.Routes = []rulebook.IsolationRoute{{Title: "The operator", Chosen: true, Offered: true, Visits: 1, Earliest: "2026-06-09"}}
	p = Of(in)
	assert.True(t, p.Ready, "%+v", p.Checks)

	// Each thing alone keeps it from being ready.
	for name, spoil := range map[string]func(*Input){
		"short part":   func(i *Input) { i.Take.Lines = []materials.Line{{Name: "Board", Need: 1, Short: 1}} },
		"short tail":   func(i *Input) { i.Job.Found.Circuits = []install.FoundCircuit{{Name: "Press", TailM: fact(0.2)}} },
		"unread tail":  func(i *Input) { i.Job.Found.Circuits = []install.FoundCircuit{{Name: "Press"}} },
		"not booked":   func(i *Input) { i.Job.Outage.BookedOn = "" },
		"booked late":  func(i *Input) { i.Job.Outage.BookedOn = "2026-06-11" },
		"another way":  func(i *Input) { i.Job.Outage.BookedFor = "elsewhere" },
		"not that day": func(i *Input) { i.Routes[0].OnDay, i.Job.Outage.Day = true, "2026-06-10" },
		"no light":     func(i *Input) { i.Job.Outage.LightReady = &no },
		"freezer":      func(i *Input) { i.Job.Outage.Temporary = []install.Temporary{{What: "freezer"}} },
		"inspector":    func(i *Input) { i.Job.Outage.Inspector.Needed = &yes },
		"too early":    func(i *Input) { i.Job.Outage.Day = "2026-06-05" },
		"first fix":    func(i *Input) { i.Tasks = append(i.Tasks, plan.Task{ID: "x", Stage: install.FirstFix}) },
		"crew too few": func(i *Input) { i.Tasks[2].Crew = 3 },
	} {
		bad := in
		job := *in.Job
		bad.Job = &job
		bad.Routes = append([]rulebook.IsolationRoute{}, in.Routes...)
		bad.Tasks = append([]plan.Task{}, in.Tasks...)
		spoil(&bad)
		assert.False(t, Of(bad).Ready, name)
	}
}

// Published sunrise and sunset, to within three minutes: London at midsummer and
// midwinter, the equator at an equinox.
func TestDaylight(t *testing.T) {
	for _, c := range []struct {
		lat, lon  float64
		day       time.Time
		rise, set float64
	}{
		{51.5, -0.13, time.Date(2026, 6, 21, 0, 0, 0, 0, time.UTC), 3 + 43.0/60, 20 + 22.0/60},
		{51.5, -0.13, time.Date(2026, 12, 21, 0, 0, 0, 0, time.UTC), 8 + 4.0/60, 15 + 53.0/60},
		{0, 0, time.Date(2026, 3, 20, 0, 0, 0, 0, time.UTC), 6 + 4.0/60, 18 + 11.0/60},
		{40.7, -74, time.Date(2026, 7, 4, 0, 0, 0, 0, time.FixedZone("EDT", -4*3600)), 5 + 29.0/60, 20 + 31.0/60},
	} {
		rise, set, ok := Sun(c.lat, c.lon, c.day)
		require.True(t, ok)
		assert.InDelta(t, c.rise, rise, 3.0/60, "rise %v", c.day)
		assert.InDelta(t, c.set, set, 3.0/60, "set %v", c.day)
	}
	_, _, ok := Sun(78, 15, time.Date(2026, 6, 21, 0, 0, 0, 0, time.UTC))
	assert.False(t, ok, "the midnight sun does not set")
	// North of the equator days grow from midwinter to midsummer.
	last := 0.0
	for m := time.January; m <= time.June; m++ {
		rise, set, _ := Sun(50, 10, time.Date(2026, m, 15, 0, 0, 0, 0, time.UTC))
		assert.Greater(t, set-rise, last)
		last = set - rise
	}
	assert.False(t, math.IsNaN(last))
}

// A company whose clock is far from the site's sun reads the sun by the site's.
func TestTheSunIsReadByTheClockOfTheSite(t *testing.T) {
	utc := time.Date(2026, 12, 12, 0, 0, 0, 0, time.UTC)
	there, says := clockAt(nil, -66.4, utc)
	_, set, ok := Sun(44.1, -66.4, there)
	require.True(t, ok)
	assert.InDelta(t, 16+47.0/60, set, 5.0/60)
	assert.Contains(t, says, "UTC-4")
	for _, near := range []float64{-8.5, 0, 15, 30} {
		there, says = clockAt(nil, near, utc)
		assert.Equal(t, utc, there)
		assert.Empty(t, says)
	}
}

func TestLightAndWeatherWarn(t *testing.T) {
	place := 50.0
	rain, cold, wind := 4.0, -3.0, 15.0
	in := day(1)
	in.Job.Outage.Latitude, in.Job.Outage.Longitude = &place, &place
	in.Job.Outage.Day, in.Job.Outage.Start = "2026-12-20", "12:00"
	in.Job.Outage.Weather = install.Weather{RainMM: &rain, TempC: &cold, WindMS: &wind}
	p := Of(in)
	assert.Contains(t, p.Sun, "sunset")
	assert.Len(t, p.Weather, 3)
	in.Terms.Fahrenheit = true
	assert.Equal(t, "33.6 mph: wind: no ladder or mast work.", Of(in).Weather[1])
	mild := 0.0
	in.Job.Outage.Weather = install.Weather{RainMM: &mild, WindMS: &mild}
	in.Job.Outage.Day, in.Job.Outage.Start = "2026-06-20", "08:00"
	p = Of(in)
	assert.Empty(t, p.Weather)
	assert.Contains(t, p.Sun, "covers the work")
}

// On the day: what is done late pushes the supply's return, and what may wait is
// named to be dropped first.
func TestTheRunningClock(t *testing.T) {
	in := day(1)
	in.Job.Outage.Day = "2026-06-01"
	assert.Contains(t, Of(in).Running.Summary, "not begun")
	in.Now = time.Date(2026, 6, 1, 10, 40, 0, 0, time.UTC)
	late := time.Date(2026, 6, 1, 9, 30, 0, 0, time.UTC)
	in.Tasks[0].Done, in.Tasks[0].DoneAt = true, &late
	p := Of(in)
	r := p.Running
	assert.Equal(t, "outage-strip", r.Next)
	assert.Equal(t, 1.0, *step(p, "outage-isolate").LateH)
	assert.InDelta(t, 1.17, r.LateH, 0.01, "the strip-out should have ended at 09:30")
	assert.Equal(t, "15:25", r.BackOn)
	assert.Len(t, r.Drop, 1)
	assert.Contains(t, r.Drop[0], "c1-label")
	for i := range in.Tasks {
		in.Tasks[i].Done, in.Tasks[i].DoneAt = true, &late
	}
	assert.Contains(t, Of(in).Running.Summary, "done")
	in.Job.Outage.Day = "2026-06-02"
	assert.Nil(t, Of(in).Running, "only on the day itself")
}

// What the chain says goes in or comes out stands in the step at that enclosure.
func TestJointsStandInTheSteps(t *testing.T) {
	in := day(1)
	in.Job.Chain.Enclosures = []install.Enclosure{{ID: "a", Name: "Gate"}, {ID: "z", Name: "Old panel"}}
	in.Chain = &rulebook.ChainReport{Jumpers: []rulebook.Jumper{{At: "a", Name: "main bonding jumper", Action: "put in"},
		{At: "z", Name: "bonding screw", Action: "take out"}}}
	p := Of(in)
	assert.Contains(t, step(p, "outage-fit:a").Caution, "Put in the main bonding jumper at Gate")
	assert.Contains(t, step(p, "outage-strip").Caution, "Take out the bonding screw at Old panel")
}
