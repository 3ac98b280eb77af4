package api_test

import (
	"encoding/json"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

func yes() *bool { v := true; return &v }
func no() *bool  { v := false; return &v }

func local(rule string, v float64) []install.LocalRule {
	return []install.LocalRule{{Rule: rule, Value: v, Reason: "the county asks it"}}
}

// Figures and verdicts that were wrong, each with the change that shows it.
func TestVerdictsThatWereWrong(t *testing.T) {
	c := serve(t).as("tobias")
	trench := func(found ...install.Obstruction) func(*install.Job) {
		return func(j *install.Job) { j.Outdoor.Runs[0].Found = found }
	}
	stone := install.Obstruction{AtM: 20, What: "ledge", LengthM: 1, WidthM: 1, TopMM: 300}
	way := func(option string, bottom float64) install.Obstruction {
		o := stone
		o.Option, o.BottomMM = option, bottom
		return o
	}
	garden := install.Run{ID: "g", Name: "Garden", Kind: install.Trench, DuctMM: 50, Located: "L1", LocatedTo: "2099-01-01",
		DugBy: "us", Liable: "us", String: yes(), Capped: yes(),
		Stretches: []install.RunStretch{{Place: "bed", LengthM: 4, Basis: install.Measured,
			Surface: "garden, low disturbance", CoverMM: 600, RibbonMM: 300}}}
	c.holds([]stood{
		{"a way around over a cover that is too small", "PW-2050", "", "past-yard-1", working.Fail, func(j *install.Job) {
			trench(way("around", 0))(j)
			j.Outdoor.Runs[0].Stretches[2].CoverMM = 200
		}},
		{"a way under what nobody knows the depth of", "PW-2050", "", "past-yard-1", working.Fail, trench(way("under", 0))},
		{"a local rule of 900 mm on the circuit", "PW-2037", "c1", "cover", working.Fail,
			func(j *install.Job) { j.Schools.Local = local("cover-garden", 900) }},
		{"the practice of 750 mm on the circuit is a caution", "PW-2037", "c1", "cover", working.Pass, func(*install.Job) {}},
		{"a surge device near a load whose branch is not known", "PW-2052", "", "spd-2", working.Unknown, func(j *install.Job) {
			d := j.Surge.Devices[0]
			d.Place, d.FromM, d.BranchA = "load", 14, 0
			j.Surge.Devices = append(j.Surge.Devices, d)
		}},
		{"a surge device near a load behind 32 A", "PW-2052", "", "spd-2", working.Pass, func(j *install.Job) {
			d := j.Surge.Devices[0]
			d.Place, d.FromM, d.BranchA = "load", 14, 32
			j.Surge.Devices = append(j.Surge.Devices, d)
		}},
		{"a lightning rod and a device of 10 kA", "PW-2054", "", "spd-1", working.Fail,
			func(j *install.Job) { j.Surge.Rod, j.Surge.Devices[0].InKA = true, 10 }},
		{"a lightning rod and a device of 20 kA", "PW-2054", "", "spd-1", working.Pass, func(j *install.Job) { j.Surge.Rod = true }},
		{"a line lead that is too thin", "PW-2054", "", "spd-1", working.Fail, func(j *install.Job) { j.Surge.Devices[0].LineMM2 = 1.3 }},
		{"a bend tighter than its duct allows", "PW-2050", "", "bend-radius-yard", working.Fail,
			func(j *install.Job) { j.Outdoor.Runs[0].Stretches[1].RadiusMM = 150 }},
		{"a bend that the operator wants wider", "PW-2050", "", "bend-radius-yard", working.Fail, func(j *install.Job) { j.Outdoor.Runs[0].RadiusMM = 914.4 }},
		{"bends of 24 in", "PW-2050", "", "bend-radius-yard", working.Pass, func(*install.Job) {}},
		{"a duct that leaves the ground in the thin grade", "PW-2050", "", "riser-yard", working.Fail, func(j *install.Job) {
			j.Outdoor.Runs[0].Stretches[0].Surface, j.Outdoor.Runs[0].Riser = "above ground", "schedule 40 PVC"
		}},
		{"in the thick one", "PW-2050", "", "riser-yard", working.Pass, func(j *install.Job) { j.Outdoor.Runs[0].Stretches[0].Surface = "above ground" }},
		{"rods joined in pieces", "PW-2050", "", "rod-join", working.Caution, func(j *install.Job) { j.Outdoor.Electrodes.Continuous = is(false) }},
		{"rods joined by nobody knows what", "PW-2050", "", "rod-join", working.Unknown, func(j *install.Job) { j.Outdoor.Electrodes.Continuous = nil }},
		{"line at the bottom of a meter base", "PW-2050", "", "line-side-meter", working.Caution, func(j *install.Job) { j.Chain.Enclosures[meterOf(j)].LineAt = "bottom" }},
		{"conductors that enter on its load side", "PW-2050", "", "line-side-meter", working.Fail,
			func(j *install.Job) { j.Chain.Enclosures[meterOf(j)].Enters = "bottom" }},
		{"leads of two meters", "PW-2054", "", "spd-1", working.Fail,
			func(j *install.Job) { j.Surge.Devices[0].LineM, j.Surge.Devices[0].EarthM = 1, 1 }},
		{"a Type 2 without a breaker", "PW-2054", "", "spd-1", working.Unknown, func(j *install.Job) { j.Surge.Devices[0].BackupA = 0 }},
		{"9000 VA on an automatic source of 1000 VA", "PW-2052", "", "standby-load", working.Fail, func(j *install.Job) {
			j.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 1000,
				Carries: []install.Carry{{Name: "house", RunVA: 9000}}}
		}},
		{"900 VA on it", "PW-2052", "", "standby-load", working.Pass, func(j *install.Job) {
			j.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 1000,
				Carries: []install.Carry{{Name: "house", RunVA: 900}}}
		}},
		{"and no changeover", "PW-2052", "", "standby-transfer", working.Fail, func(j *install.Job) {
			j.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 1000,
				Carries: []install.Carry{{Name: "house", RunVA: 900}}}
		}},
		{"IT is kept and not judged", "PW-2052", "", "earthing-it", working.Unknown, func(j *install.Job) { j.Supply.Earthing = "IT" }},
		{"nor is its loop", "PW-2052", "c3", "loop", working.Unknown, func(j *install.Job) { j.Supply.Earthing = "IT" }},
		{"a device ahead of a source that it is blind to", "PW-2052", "c10", "residual", working.Fail, func(j *install.Job) {
			j.Circuits[9].Protection.RCDType, j.Circuits[9].Protection.IdnMA, j.Circuits[9].Protection.Poles = "A", 30, 2
			j.Circuits[11].Serves.Kind = "EV point without d.c. detection"
		}},
		{"a device ahead of an infeed that nobody asked the manufacturer of", "PW-2052", "c10", "backfeed", working.Unknown,
			func(j *install.Job) { j.Circuits[11].Serves.Backfeed = true }},
		{"split phase, a breaker that takes no backfeed", "PW-2054", "c1", "backfeed", working.Fail, func(j *install.Job) {
			j.Circuits[0].Serves.Backfeed, j.Circuits[0].Protection.BothWays = true, no()
		}},
		{"a transfer switch that is no service equipment ahead of the disconnect", "PW-2054", "", "transfer-ahead-ats",
			working.Fail, func(j *install.Job) {
				j.Chain.Enclosures = append(j.Chain.Enclosures,
					install.Enclosure{ID: "ats", Kind: "transfer", Name: "Transfer", From: "meter",
						Owner: install.OwnerCustomer, Disconnect: no()})
				j.Chain.Enclosures[2].From = "ats"
			}},
		{"rods that nobody has placed", "PW-2050", "", "rods-none", working.Unknown,
			func(j *install.Job) { j.Outdoor.Electrodes.Rods = nil }},
		{"an outlet on LINE of the ground-fault outlet", "PW-2054", "c2", "ground-fault", working.Fail,
			func(j *install.Job) { j.Circuits[1].Serves.Boxes[1].Side = "line" }},
	})
	const ref = "PW-2037"
	v := c.job(ref)
	before := bodies(t, v.View.Job)
	v.View.Job.Outdoor.Runs = []install.Run{garden}
	c.take(ref, before, bodies(t, v.View.Job))
	cover := func() working.Verdict {
		for _, k := range c.shown(v.Id) {
			if k.ID == "run-cover-g-1" {
				return k.Verdict
			}
		}
		return ""
	}
	assert.NotEqual(t, working.Fail, cover())
	was := bodies(t, c.job(ref).View.Job)
	v.View.Job.Schools.Local = local("cover-garden", 900)
	c.take(ref, was, bodies(t, v.View.Job))
	assert.Equal(t, working.Fail, cover(), "the works outdoors read the local rule too")
}

// A riser above ground is asked for no cover; a decided way past an obstruction grows the
// run; a failing run closes the steps that would cover it, and the job holds.
func TestTheWorksOutdoorsHold(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2050"
	v := c.job(ref)
	id := v.Id
	set := func(change func(*install.Run)) {
		now := c.job(ref)
		o := now.View.Job.Outdoor
		change(&o.Runs[0])
		a := c.part(now, "outdoor", o)
		require.Equal(t, 200, a.status, a.text)
	}
	works := func() (ids map[string]working.Check, length float64, hours float64) {
		ids = map[string]working.Check{}
		var r struct {
			Runs []struct {
				LengthM float64         `json:"lengthM"`
				Checks  []working.Check `json:"checks"`
				Steps   []struct {
					ID    string  `json:"id"`
					Hours float64 `json:"hours"`
				} `json:"steps"`
			} `json:"runs"`
		}
		c.do("GET", "/api/jobs/"+id+"/outdoor", nil).into(t, &r)
		for _, k := range r.Runs[0].Checks {
			ids[k.ID] = k
		}
		for _, s := range r.Runs[0].Steps {
			if s.ID == "run-yard-dig" {
				hours = s.Hours
			}
		}
		return ids, r.Runs[0].LengthM, hours
	}
	set(func(r *install.Run) {
		r.Stretches[0].Surface, r.Stretches[0].CoverMM, r.Stretches[0].RibbonMM = rulebook.AboveGround, 0, 0
	})
	checks, before, dig := works()
	assert.NotContains(t, checks, "run-cover-yard-1")
	assert.NotContains(t, checks, "ribbon-yard-1")
	set(func(r *install.Run) {
		r.Found = []install.Obstruction{{AtM: 9, What: "ledge", LengthM: 1, WidthM: 1.5, TopMM: 520, BottomMM: 900, Option: "around"}}
	})
	checks, after, longer := works()
	assert.InDelta(t, before+3, after, 1e-9, "twice the width")
	assert.Greater(t, longer, dig)
	assert.Equal(t, working.Fail, checks["bends-yard"].Verdict, "four bends of 45° come on top")
	now := c.job(ref)
	fill := taskOf(t, now, "run-yard-halffill")
	assert.Contains(t, fill.Closed, "Held by “")
	c.held(id, ticks("run-yard-halffill", true), 409, "Held by “")
	holds := []string{}
	for _, h := range now.View.State.Holds {
		holds = append(holds, string(h.Stage)+": "+h.What)
	}
	assert.Contains(t, holds, "design: Sum of bends between pull points fails")
	assert.Contains(t, strings.Join(holds, "\n"), "first fix: Draw string tied at both ends: ")
}

// The screw of a panel that is no longer the first comes out as a step of its own, and each
// enclosure is fitted, terminated and joined in that order on the day.
func TestTheOrderOfTheDay(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2050")
	out := taskOf(t, v, "joint-panel")
	assert.Contains(t, out.Title, "Take the bonding screw or strap out of Panel A")
	assert.True(t, out.Isolation)
	at := func(v api.JobView, id string) int {
		for i, task := range v.View.Tasks {
			if task.ID == id {
				return i
			}
		}
		t.Fatal(id)
		return 0
	}
	// It is energised once, reconnected once, and its meter set once, though a trench and the service both say so.
	times := map[string]int{}
	for _, task := range v.View.Tasks {
		for says, what := range map[string]string{"Energize": "energized", "econnect": "reconnected", "Set the meter": "metered", "Meter back": "metered"} {
			if strings.Contains(task.Title, says) {
				times[what]++
			}
		}
	}
	assert.Equal(t, map[string]int{"energized": 1, "reconnected": 1, "metered": 1}, times)
	v = c.job("PW-2054")
	assert.Contains(t, taskOf(t, v, "lugs-outside").After, "outage-fit:outside")
	assert.Contains(t, taskOf(t, v, "joint-outside").After, "lugs-outside")
	for _, pair := range [][2]string{{"outage-fit:meter", "outage-fit:outside"}, {"joint-panel", "c1-board"},
		{"outage-dead-tests", "service-10"}, {"service-12", "outage-energise"}} {
		assert.Less(t, at(v, pair[0]), at(v, pair[1]), "%v", pair)
	}
	assert.Contains(t, taskOf(t, v, "outage-energise").After, "service-12", "nothing is energised before the utility is back")
	var sheet api.SupplySheet
	c.do("GET", "/api/jobs/"+v.Id+"/supply", nil).into(t, &sheet)
	day := map[string]bool{}
	for _, s := range sheet.Outage.Steps {
		day[s.ID] = true
	}
	assert.True(t, day["service-10"] && day["service-12"], "inspection and reconnection are of the day")
	assert.False(t, day["c1-point"] || day["c2-point"], "what is not connected yet need not wait for the dark")
	assert.NotContains(t, sheet.Outage.Why, "Nothing holds it")
}

// What the survey counts and asks.
func TestTheWalkAsksWhatIsMissing(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2046")
	walk := func(text string) (asked string, kinds map[string]string) {
		now := c.job("PW-2046")
		a := c.do("POST", "/api/jobs/"+now.Id+"/walk", put{"text": text})
		require.Equal(t, 200, a.status, a.text)
		var out api.JobView
		a.into(t, &out)
		kinds = map[string]string{}
		for _, r := range out.View.Job.Rooms {
			kinds[r.Name] = r.Kind
		}
		for _, q := range out.View.Walk.Questions {
			asked += q.Asks + "\n"
		}
		return asked, kinds
	}
	_ = v
	asked, kinds := walk("Bathroom f1: 2 double socket ## cracked tile\nGarage:\nfront lobby: 2 light\nlounge: 4 double socket, " +
		"smoke alarm\nsnug: 4 double socket, light")
	assert.Equal(t, "hall", kinds["front lobby"])
	assert.Contains(t, asked, "Bathroom has no shaver point", "sockets do not silence it")
	assert.Contains(t, asked, "Garage has no socket")
	assert.NotContains(t, asked, "snug: 0 of 1 a smoke alarm in the main living room")
	assert.NotContains(t, asked, "the 1 new lights")
	assert.NotContains(t, asked, "has no something")
	for _, r := range c.job("PW-2046").View.Job.Rooms {
		if r.Name == "Bathroom" {
			assert.Equal(t, "cracked tile", r.Note)
			closed := r
			closed.Closed = "2026-11-20"
			require.Equal(t, 422, c.part(c.job("PW-2046"), "rooms/"+r.ID, closed).status, "nobody let them be closed")
			c.made(c.job("PW-2046").Id, left(install.LeftCovered, put{"room": r.ID}))
			require.Equal(t, 200, c.part(c.job("PW-2046"), "rooms/"+r.ID, closed).status)
		}
	}
	holds := ""
	for _, h := range c.job("PW-2046").View.State.Holds {
		holds += h.What + "\n"
	}
	assert.Contains(t, holds, "Bathroom: its walls were closed on 2026-11-20 and this is not done")
	// A way with a device that nothing names.
	now := c.job("PW-2046")
	b := now.View.Job.Board
	b.Ways[1].Label = ""
	require.Equal(t, 200, c.part(now, "board", b).status)
	holds = ""
	for _, h := range c.job("PW-2046").View.State.Holds {
		holds += h.What + "\n"
	}
	assert.Contains(t, holds, "way 2 has a device (B32) and nothing says what it feeds")
}

// stock puts what came of a line on the Materials sheet and reads the line back.
func (c *client) stock(ref, key string, s install.Stock) materials.Line {
	c.Helper()
	v := c.job(ref)
	m := v.View.Job.Materials
	m.Lines[key] = s
	a := c.part(v, "materials", m)
	require.Equal(c, 200, a.status, a.text)
	for _, l := range c.job(ref).View.Take.Lines {
		if l.Key == key {
			return l
		}
	}
	require.Fail(c, "no line "+key)
	return materials.Line{}
}

// A delivery is told in the unit of its line and by what must be cut from it.
func TestDeliveries(t *testing.T) {
	c := serve(t).as("dot")
	nm := "cable:nm-2:3.31"
	l := c.stock("PW-2054", nm, install.Stock{Ordered: 70, Delivered: 31})
	assert.Contains(t, l.Trouble, "31\u00a0ft is")
	assert.Contains(t, l.Trouble, "ft shorter than the 105\u00a0ft that are needed. Do not travel for Boat bay outlets, Galley counter.")
	assert.NotContains(t, l.Trouble, " m ")
	l = c.stock("PW-2054", nm, install.Stock{Ordered: 100, Delivered: 110, Lengths: "2x32 ft + 46"})
	assert.Empty(t, l.Trouble, "a string is cut at every outlet")
	assert.Zero(t, l.Short)
	v := c.job("PW-2054")
	m := v.View.Job.Materials
	m.Lines[nm] = install.Stock{Lengths: "10 kg"}
	a := c.part(v, "materials", m)
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, a.problem(t).Title, "piece lengths in ft")

	ring := "cable:flat-te-70:2.5"
	l = c.stock("PW-2052", ring, install.Stock{Ordered: 200, Delivered: 250, Lengths: "5x50"})
	assert.Zero(t, l.Short, "a ring is cut at every outlet: %s", l.Trouble)
	cooker := "cable:flat-te-70:6"
	l = c.stock("PW-2052", cooker, install.Stock{Ordered: 17, Delivered: 17, Lengths: "8 + 9"})
	assert.Contains(t, l.Trouble, "must come in one piece")
	l = c.stock("PW-2052", cooker, install.Stock{Ordered: 50, Delivered: 17})
	assert.Positive(t, l.Short, "in which pieces is not known")
	assert.Contains(t, l.Remark, "In which pieces?")
	l = c.stock("PW-2052", cooker, install.Stock{Ordered: 50, Delivered: 17, Lengths: "17"})
	assert.Equal(t, "17\u00a0m of the 50\u00a0m that were ordered came.", l.Remark)
}

// What circuits take beside their cable, in both practices.
func TestPartsThatWereForgotten(t *testing.T) {
	c := serve(t).as("tobias")
	lines := func(ref string) map[string]materials.Line {
		out := map[string]materials.Line{}
		for _, l := range c.job(ref).View.Take.Lines {
			out[l.Key] = l
		}
		return out
	}
	edit := func(ref string, change func(*install.Job)) func() {
		v := c.job(ref)
		before := bodies(t, v.View.Job)
		change(v.View.Job)
		after := bodies(t, v.View.Job)
		c.take(ref, before, after)
		return func() { c.take(ref, after, before) }
	}
	back := edit("PW-2052", func(j *install.Job) {
		k := &j.Circuits[7]
		k.Route.CableType, k.Route.LineMM2 = "singles-70", 2.5
		for i := range k.Route.Segments {
			k.Route.Segments[i].Method = "B"
		}
	})
	got := lines("PW-2052")
	for _, key := range []string{"core-neutral:2.5", "conduit:16", "conduit-fixing:16"} {
		assert.Contains(t, got, key, "single cores take neutral, earth and conduit")
	}
	assert.Contains(t, got["core-neutral:2.5"].Name, "neutral")
	back()
	assert.Contains(t, lines("PW-2054"), "clip:flat:thhn", "the conduit of drawn conductors is fixed")
	edit("PW-2054", func(j *install.Job) {
		j.Circuits[1].Serves.Boxes[0].Weather = true
		j.Circuits[1].Serves.Boxes = append(j.Circuits[1].Serves.Boxes,
			install.Box{ID: "b9", Name: "Inner post", Place: "garage", Device: "gfci", From: "b3", Side: "line",
				Feed: "line", RatingA: 20, Ground: yes(), Shuttered: true, HeightMM: 1000, VolumeML: 400})
		j.Board.Ways[29].Blank = false
	})
	got = lines("PW-2054")
	assert.InDelta(t, 2, got["outlet:gfci:20:shuttered"].Need, 0, "one of each circuit: one product")
	assert.InDelta(t, 1, got["outlet:gfci:20:shuttered:weather"].Need, 0)
	assert.InDelta(t, 1, got["blank"].Need, 0)
	assert.Positive(t, got["pigtail:12"].Need)
	edit("PW-2054", func(j *install.Job) { j.Circuits[1].Protection.RatingA = 15 })
	for key, l := range lines("PW-2054") {
		if strings.HasPrefix(key, "outlet:") {
			assert.Contains(t, l.Trouble, "not ordered while it is refused", key)
		}
	}
}

// A variation has no price while its cable or circuit is not known, and says how many ways
// are free.
func TestAVariationWithoutItsCircuitHasNoPrice(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2044")
	c.made(v.Id, put{"kind": "scope", "person": "Anselm Roake"})
	room := ""
	for _, r := range v.View.Job.Rooms {
		if r.Name == "nave room" {
			room = r.ID
		}
	}
	a := c.do("POST", "/api/jobs/"+v.Id+"/variations", put{"room": room, "text": "aircon 12A", "accept": false})
	require.Equal(t, 200, a.status, a.text)
	assert.Contains(t, a.text, "No way of the board is free")
	var answer struct {
		Change struct {
			Cost *float64 `json:"cost"`
		} `json:"change"`
	}
	a.into(t, &answer)
	assert.Nil(t, answer.Change.Cost)
}

// A key is good for one write; a part is whole or refused; an undo never panics; a figure
// too small to compute with is refused.
func TestHostileWritesLoseNothing(t *testing.T) {
	w := serve(t)
	c, jana := w.as("tobias"), w.as("jana")
	v := c.job("PW-2046")
	put1 := func(key string, body any) answer {
		return c.do("POST", "/api/jobs/"+v.Id+"/records", body, "Idempotency-Key", key)
	}
	require.Equal(t, 200, put1("one-key-for-all", put{"kind": "loose-end", "note": "first"}).status)
	require.Equal(t, 200, put1("one-key-for-all", put{"kind": "loose-end", "note": "first"}).status, "a retry")
	a := put1("one-key-for-all", put{"kind": "loose-end", "note": "second"})
	assert.Equal(t, 409, a.status, a.text)
	assert.Contains(t, a.problem(t).Title, "another write")
	assert.Len(t, c.job("PW-2046").View.Loose, 1)
	for _, key := range []string{"short", strings.Repeat("k", 101), "with space in it", "caf\u00e9-caf\u00e9"} {
		a := put1(key, put{"kind": "loose-end", "note": "x"})
		assert.Equal(t, 422, a.status, key)
	}
	for _, field := range []string{"note", "evidence", "calibrated", "answer", "supersedes", "called", "subject", "circuit", "place"} {
		a := c.do("POST", "/api/jobs/"+v.Id+"/records", put{"kind": "loose-end", "note": "x", field: "a\x00b"})
		assert.Equal(t, 422, a.status, "%s: %s", field, a.text)
	}
	assert.Equal(t, 422, c.do("POST", "/api/jobs/"+v.Id+"/records", put{"kind": "isolation", "pairsDead": []string{"L-N\x00"}}).status)
	v = c.job("PW-2046")
	for _, part := range []string{"materials", "loads", "board", "plan", "outdoor", "site"} {
		path := "/api/jobs/" + v.Id + "/parts?part=" + url.QueryEscape(part) + "&base=" + strconv.Itoa(v.Versions[part])
		whole := bodies(t, v.View.Job)[part]
		if whole == "" {
			raw, err := json.Marshal(v.View.Job.Plan)
			require.NoError(t, err)
			whole = string(raw)
		}
		for _, body := range []string{"null", "{}", "[]", whole + " {}", whole + "x"} {
			assert.Equal(t, 422, c.do("PUT", path, body).status, "%s %.20s", part, body)
		}
	}
	assert.Equal(t, v.Versions, c.job("PW-2046").Versions)

	// Jana's edit of a circuit that Tobias takes off is not undone with a panic.
	k := v.View.Job.Circuits[0]
	k.Name = "Point at the lane"
	require.Equal(t, 200, jana.part(jana.job("PW-2046"), "circuits/c1", k).status)
	now := c.job("PW-2046")
	require.Equal(t, 200, c.do("DELETE", "/api/jobs/"+v.Id+"/parts?part=circuits/c1&base="+strconv.Itoa(now.Versions["circuits/c1"]),
		nil).status)
	for range 2 {
		a := jana.do("POST", "/api/jobs/"+v.Id+"/undo", put{"command": "", "free": false})
		assert.Equal(t, 409, a.status, a.text)
		assert.Contains(t, a.problem(t).Title, "taken it off")
	}
	// Made again it begins above every version that it had: who read the old one overwrites nothing.
	read := now.Versions["circuits/c1"]
	now = c.job("PW-2046")
	k.Name = "Point at the wall"
	require.Equal(t, 200, c.part(now, "circuits/c1", k).status)
	assert.Greater(t, c.job("PW-2046").Versions["circuits/c1"], read)
	for base := range read + 1 {
		body, err := json.Marshal(k)
		require.NoError(t, err)
		a := c.do("PUT", "/api/jobs/"+v.Id+"/parts?part=circuits/c1&base="+strconv.Itoa(base), string(body))
		assert.Equal(t, 409, a.status, "base %d: %s", base, a.text)
	}

	house := c.job("PW-2052")
	tiny := house.View.Job.Circuits[5]
	tiny.Point.CurrentA = 1e-305
	a = c.part(house, "circuits/c6", tiny)
	assert.Equal(t, 422, a.status)
	assert.Equal(t, 200, c.do("GET", "/api/jobs/"+house.Id+"/circuits", nil).status)
}

// What the survey found is carried on: to the findings that it suggests, to the hint of
// what wiring of those years usually is, and to the paper.
func TestWhatWasFoundIsCarriedOn(t *testing.T) {
	c := serve(t).as("tobias")
	year := func(y int) *int { return &y }
	for _, k := range []struct {
		ref         string
		built       int
		rewired     *int
		hint, prove string
	}{
		{"PW-2056", 1958, nil, "lighting without a protective conductor", "insulation at 250 V first"},
		{"PW-2056", 1958, year(1999), "one residual-current device for part of the board", "both ages of core colours"},
		{"PW-2057", 1968, nil, "aluminum branch wiring", "metal of the conductors in a box of every circuit"},
	} {
		j := c.job(k.ref)
		if j.View.Frozen {
			c.made(j.Id, put{"kind": "reopen", "note": "the survey goes on"})
			j = c.job(k.ref)
		}
		f := j.View.Job.Found
		f.Board.Built, f.Board.Rewired = year(k.built), k.rewired
		f.Board.Near, f.Board.Covers = install.NearWater, install.CoversFire
		f.Circuits = append([]install.FoundCircuit{},
			install.FoundCircuit{Name: "Cellar lights", Device: "B6", Wiring: install.WiringRubber},
			install.FoundCircuit{Name: "Old pump", Wiring: install.WiringAluminium})
		require.Equal(t, 200, c.part(j, "found", f).status)
		var sheet struct{ Case survey.Case }
		c.do("GET", "/api/jobs/"+j.Id+"/case", nil).into(t, &sheet)
		require.NotNil(t, sheet.Case.Hint)
		assert.Contains(t, sheet.Case.Hint.Summary, k.hint)
		assert.Contains(t, sheet.Case.Hint.Prove, k.prove)
		had := map[string]string{}
		for _, s := range sheet.Case.Suggest {
			had[s.Kind] = s.Place
		}
		for kind, place := range map[string]string{"wet-place": j.View.Job.Board.Location,
			"no-residual": j.View.Job.Board.Location, "old-cable": "Cellar lights", "aluminium": "Old pump"} {
			assert.Equal(t, place, had[kind], "%s %s", k.ref, kind)
		}
		text := c.pdf("/api/jobs/" + j.Id + "/pack")
		for _, want := range []string{"built in " + strconv.Itoa(k.built), "water above or beside it", "all, above 30 mA",
			"Cellar lights B6, rubber insulation"} {
			assert.Contains(t, text, want)
		}
	}
	j := c.job("PW-2056")
	f := j.View.Job.Found
	f.Board.Built, f.Board.Rewired = year(1990), year(1950)
	a := c.part(j, "found", f)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "1990 or later")
	f.Board.Rewired, f.Board.Covers = nil, "most"
	a = c.part(j, "found", f)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "none, some, all, fire")
}

// The way past an obstruction and who decided it stand on the pack with what it is.
func TestThePackSaysHowAnObstructionWasPassed(t *testing.T) {
	c := serve(t).as("tobias")
	j := c.job("PW-2050")
	o := j.View.Job.Outdoor
	o.Runs[0].Found = []install.Obstruction{{AtM: 6, What: "Old drain", LengthM: 0.5, WidthM: 1, TopMM: 500, BottomMM: 700,
		Option: "under", By: "Wanda Ost"}, {AtM: 9, What: "Tree root", LengthM: 1, WidthM: 1, TopMM: 300}}
	require.Equal(t, 200, c.part(j, "outdoor", o).status)
	text := c.pdf("/api/jobs/" + j.Id + "/pack")
	assert.Contains(t, text, "Old drain at 19.7 ft; passed under, decided by Wanda Ost")
	assert.Contains(t, text, "Tree root at 29.5 ft; way past it not decided")
}

// A date alone is no plan: the sheet is ready when somebody does each task.
func TestAPlanIsReadyWhenEachTaskHasSomebody(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2052")
	p := v.View.Job.Plan
	p.StartDate = "2027-03-01"
	require.Equal(t, 200, c.part(v, "plan", p).status)
	v = c.job("PW-2052")
	assert.Equal(t, working.Caution, v.View.State.Joints["plan"])
	for _, task := range v.View.Tasks {
		e := p.Tasks[task.ID]
		e.Who = "Jana Okell, Remy Stroud"
		p.Tasks[task.ID] = e
	}
	require.Equal(t, 200, c.part(v, "plan", p).status)
	assert.Equal(t, working.Pass, c.job("PW-2052").View.State.Joints["plan"])
}

// meterOf is the place of the meter base in a supply arrangement.
func meterOf(j *install.Job) int {
	return slices.IndexFunc(j.Chain.Enclosures, func(e install.Enclosure) bool { return e.Kind == "meter" })
}
