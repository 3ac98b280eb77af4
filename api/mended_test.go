package api_test

import (
	"encoding/json"
	"io"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
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
	garden := install.Run{ID: "g", Name: "Garden", Kind: install.Trench, DuctMM: 50, Located: "L1", LocatedTo: "2099-01-01", DugBy: "us", Liable: "us", String: yes(), Capped: yes(), Stretches: []install.RunStretch{{Place: "bed", LengthM: 4, Basis: install.Measured, Surface: "garden, low disturbance", CoverMM: 600, RibbonMM: 300}}}
	c.holds([]stood{
		{"a way around over a cover that is too small", "PW-2050", "", "past-yard-1", working.Fail, func(j *install.Job) {
			trench(way("around", 0))(j)
			j.Outdoor.Runs[0].Stretches[2].CoverMM = 200
		}},
		{"a way under what nobody knows the depth of", "PW-2050", "", "past-yard-1", working.Fail, trench(way("under", 0))},
		{"a local rule of 900 mm on the circuit", "PW-2037", "c1", "cover", working.Fail, func(j *install.Job) { j.Schools.Local = local("cover-garden", 900) }},
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
		{"a lightning rod and a device of 10 kA", "PW-2054", "", "spd-1", working.Fail, func(j *install.Job) { j.Surge.Rod, j.Surge.Devices[0].InKA = true, 10 }},
		{"a lightning rod and a device of 20 kA", "PW-2054", "", "spd-1", working.Pass, func(j *install.Job) { j.Surge.Rod = true }},
		{"leads of two meters", "PW-2054", "", "spd-1", working.Fail, func(j *install.Job) { j.Surge.Devices[0].LineM, j.Surge.Devices[0].EarthM = 1, 1 }},
		{"a Type 2 without a breaker", "PW-2054", "", "spd-1", working.Unknown, func(j *install.Job) { j.Surge.Devices[0].BackupA = 0 }},
		{"9000 VA on an automatic source of 1000 VA", "PW-2052", "", "standby-load", working.Fail, func(j *install.Job) {
			j.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 1000, Carries: []install.Carry{{Name: "house", RunVA: 9000}}}
		}},
		{"900 VA on it", "PW-2052", "", "standby-load", working.Pass, func(j *install.Job) {
			j.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 1000, Carries: []install.Carry{{Name: "house", RunVA: 900}}}
		}},
		{"and no changeover", "PW-2052", "", "standby-transfer", working.Fail, func(j *install.Job) {
			j.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 1000, Carries: []install.Carry{{Name: "house", RunVA: 900}}}
		}},
		{"IT is kept and not judged", "PW-2052", "", "earthing-it", working.Unknown, func(j *install.Job) { j.Supply.Earthing = "IT" }},
		{"nor is its loop", "PW-2052", "c3", "loop", working.Unknown, func(j *install.Job) { j.Supply.Earthing = "IT" }},
		{"a device ahead of a source that it is blind to", "PW-2052", "c10", "residual", working.Fail, func(j *install.Job) {
			j.Circuits[9].Protection.RCDType, j.Circuits[9].Protection.IdnMA, j.Circuits[9].Protection.Poles = "A", 30, 2
			j.Circuits[11].Serves.Kind = "EV point without d.c. detection"
		}},
		{"a device ahead of an infeed that nobody asked the maker of", "PW-2052", "c10", "backfeed", working.Unknown, func(j *install.Job) { j.Circuits[11].Serves.Backfeed = true }},
		{"split phase, a breaker that takes no backfeed", "PW-2054", "c1", "backfeed", working.Fail, func(j *install.Job) {
			j.Circuits[0].Serves.Backfeed, j.Circuits[0].Protection.BothWays = true, no()
		}},
		{"a transfer switch that is no service equipment ahead of the disconnect", "PW-2054", "", "transfer-ahead-ats", working.Fail, func(j *install.Job) {
			j.Chain.Enclosures = append(j.Chain.Enclosures, install.Enclosure{ID: "ats", Kind: "transfer", Name: "Transfer", From: "meter", Owner: install.OwnerCustomer, Disconnect: no()})
			j.Chain.Enclosures[2].From = "ats"
		}},
		{"rods that nobody has placed", "PW-2050", "", "rods-none", working.Unknown, func(j *install.Job) { j.Outdoor.Electrodes.Rods = nil }},
		{"an outlet on LINE of the ground-fault outlet", "PW-2054", "c2", "ground-fault", working.Fail, func(j *install.Job) { j.Circuits[1].Serves.Boxes[1].Side = "line" }},
	})
	const ref = "PW-2037"
	v := c.job(ref)
	before := bodies(t, v.View.Job)
	v.View.Job.Outdoor.Runs = []install.Run{garden}
	c.take(ref, before, bodies(t, v.View.Job))
	cover := func() working.Verdict {
		for _, k := range c.shown(v.Id) {
			if k.ID == "cover-g-1" {
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
	assert.NotContains(t, checks, "cover-yard-1")
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
	assert.Contains(t, fill.Closed, "Outdoor works: ")
	c.held(id, ticks("run-yard-halffill", true), 409, "Outdoor works: ")
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
	v = c.job("PW-2054")
	assert.Contains(t, taskOf(t, v, "lugs-outside").After, "outage-fit:outside")
	assert.Contains(t, taskOf(t, v, "joint-outside").After, "lugs-outside")
	for _, pair := range [][2]string{{"outage-fit:meter", "outage-fit:outside"}, {"joint-panel", "c1-board"}, {"outage-dead-tests", "service-10"}, {"service-12", "outage-energise"}} {
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

// Tests that a job owes: by its kind, its devices and what is known of it.
func TestTheTestsThatAJobOwes(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	a := c.do("POST", "/api/jobs", put{"ref": "U-1", "title": "Tails", "kind": "supply-upgrade", "practice": "iec230", "customer": "Ms Roe", "address": "1 Weir Lane"})
	require.Equal(t, 201, a.status, a.text)
	var v api.JobView
	a.into(t, &v)
	ids := map[string]bool{}
	for _, r := range v.View.Tests.Rows {
		ids[r.ID] = true
	}
	for _, id := range []string{"continuity-earth", "insulation-tails", "ze", "earth-back", "polarity-supply", "pfc", "functional"} {
		assert.True(t, ids[id], "a change of the supply owes %s without any circuit", id)
	}
	ids = map[string]bool{}
	for _, r := range c.job("PW-2052").View.Tests.Rows {
		ids[r.Circuit+"/"+r.ID] = true
	}
	for _, id := range []string{"c1/ring-r1", "c1/ring-rn", "c1/ring-r2"} {
		assert.True(t, ids[id], id)
	}
	shared := 0
	for id := range ids {
		if strings.HasPrefix(id, "/rcd-x1:") {
			shared++
		}
	}
	assert.Equal(t, len(c.job("PW-2052").View.Job.Board.Groups), shared, "a shared device is timed once")

	// Split phase: a lighting circuit has its polarity, an enclosure its torque, known or not.
	v = c.job("PW-2054")
	before := bodies(t, v.View.Job)
	v.View.Job.Circuits[1].Use = "lighting"
	v.View.Job.Chain.Enclosures[1].TorqueNm, v.View.Job.Chain.Enclosures[1].TorqueSheet = install.Fact{}, ""
	v.View.Job.Circuits[2].Serves.Boxes[1].Ground = no()
	c.take("PW-2054", before, bodies(t, v.View.Job))
	v = c.job("PW-2054")
	rowOf(t, v, "c2", "polarity")
	assert.Contains(t, rowOf(t, v, "", "torque:meter").Closed, "torque from the maker's instruction")
	ground := rowOf(t, v, "c3", "ground-continuity")
	assert.Contains(t, ground.Where, "Not to Window sill")
	assert.Equal(t, "Equipment ground to the boxes that have one", ground.Title)
}

// Torque at 230 V: each new enclosure owes it, held to the maker's figure once that is known.
func TestTorqueOfEachNewEnclosure(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2038")
	row := rowOf(t, v, "", "torque:isolator")
	assert.Equal(t, "N·m", row.Unit)
	assert.Contains(t, row.Closed, "torque from the maker's instruction", "a blank is no pass")
	for _, r := range v.View.Tests.Rows {
		assert.NotEqual(t, "torque:meter", r.ID, "the operator's meter is nobody's to tighten")
	}
	before := bodies(t, v.View.Job)
	want := 3.5
	v.View.Job.Chain.Enclosures[3].TorqueNm = install.Fact{Value: &want, Basis: install.Enquiry}
	v.View.Job.Chain.Enclosures[3].TorqueSheet = "Solvig IS-100 sheet 1"
	c.take("PW-2038", before, bodies(t, v.View.Job))
	row = rowOf(t, c.job("PW-2038"), "", "torque:isolator")
	assert.NotContains(t, row.Closed, "maker's instruction")
	assert.Contains(t, row.Where, "Solvig IS-100 sheet 1")
}

// The cores of an armoured cable: brown, black and grey, as the company has it, said on
// the Circuits sheet, with the work and on the paper.
func TestTheCoresOfAnArmouredCable(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2037")
	cores := func() (sheet, task string) {
		v := c.job("PW-2037")
		var out api.CircuitsSheet
		c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).into(t, &out)
		return out.Report.Circuit("c1").Summary.Cores, taskOf(t, v, "c1-board").Caution + taskOf(t, v, "c1-board").Title
	}
	before := bodies(t, v.View.Job)
	v.View.Job.Circuits[0].Route.CableType = "swa3-90"
	v.View.Job.Circuits[0].Route.CPC, v.View.Job.Circuits[0].Route.CPCMM2 = "", 0
	v.View.Job.Schools.SwaCores = "A"
	c.take("PW-2037", before, bodies(t, v.View.Job))
	a, taskA := cores()
	assert.Equal(t, "line brown · neutral black, sleeved blue at both ends · protective grey, sleeved green-yellow at both ends", a)
	v = c.job("PW-2037")
	before = bodies(t, v.View.Job)
	v.View.Job.Schools.SwaCores = "B"
	c.take("PW-2037", before, bodies(t, v.View.Job))
	b, taskB := cores()
	assert.Equal(t, "line brown · neutral grey, sleeved blue at both ends · protective black, sleeved green-yellow at both ends", b)
	assert.Contains(t, taskA, a)
	assert.Contains(t, taskB, b)
	assert.Contains(t, c.pdf("/api/jobs/"+v.Id+"/pack"), "neutral grey, sleeved blue")
}

// A rewire has its demand from its circuits, also where nothing is there before it.
func TestTheDemandIsOfTheCircuitsToo(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2052")
	before := bodies(t, v.View.Job)
	v.View.Job.Loads.Items = nil
	c.take("PW-2052", before, bodies(t, v.View.Job))
	v = c.job("PW-2052")
	var out api.CircuitsSheet
	c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).into(t, &out)
	require.Positive(t, out.Report.Demand.AfterA)
	for _, k := range out.Report.Circuits {
		assert.NotContains(t, k.Operator.Why, "demand is not yet known", k.ID)
	}
}

// Insulation is judged by the voltage it was read at.
func TestInsulationByItsVoltage(t *testing.T) {
	c := serve(t).as("jana")
	id := c.job("PW-2037").Id
	c.made(id, isolates())
	low := reads("c1", "insulation-ln", "MΩ", 40)
	low["testV"] = 250
	row := rowOf(t, c.made(id, low), "c1", "insulation-ln")
	assert.Equal(t, working.Unknown, row.Verdict, "without a surge device it is explained: %s", row.Says)
	v := c.made(id, put{"kind": "remark", "subject": row.Reading.ID, "note": "the charge point cannot be disconnected"})
	assert.Equal(t, working.Caution, rowOf(t, v, "c1", "insulation-ln").Verdict)
	odd := reads("c1", "insulation-le", "MΩ", 40)
	odd["testV"] = 1000
	c.held(id, odd, 422, "testV")
}

// An open neutral closes every other live test until the supply was off; the legs are read
// anew after that.
func TestAnOpenNeutralStopsTheTests(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2050")
	id := v.Id
	rows := v.View.Tests.Rows
	fresh, stops := 0, 0
	for _, r := range rows {
		if r.ID == "volts-an" || r.ID == "volts-bn" || r.ID == "volts-ll" {
			fresh++
			assert.Contains(t, r.Closed, "permission")
			stops++
		}
	}
	assert.Equal(t, 3, fresh)
	one := put{"kind": "isolation", "source": "breaker 4", "lockTag": "7", "tester": "T", "provedBefore": true, "provedAfter": true, "stillLive": "the panel", "oneHot": true, "pairsDead": []string{"hot-N", "hot-G"}}
	c.held(id, one, 422, "hot-N, hot-G, N-G")
	one["pairsDead"] = []string{"hot-N", "hot-G", "N-G"}
	v = c.made(id, one)
	assert.Contains(t, rowOf(t, v, "", "path").Closed, "the board is live")
	w.as("jana").held(c.job("PW-2037").Id, put{"kind": "isolation", "source": "b", "lockTag": "7", "tester": "T", "provedBefore": true, "provedAfter": true, "oneHot": true, "pairsDead": []string{"L-N"}}, 422, "oneHot")
}

// Legs that lie apart are an open neutral: nothing else is tested live until the cause is
// found, the supply was off, and both legs are read anew; a reading from before it went
// off counts no more.
func TestLegsApartCloseEveryLiveTest(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2057")
	id := v.Id
	c.made(id, put{"kind": "reopen", "note": "a lamp burned out in an hour"})
	volts := func(test string, v float64) api.JobView {
		return c.made(id, put{"kind": "reading", "subject": test, "value": v, "unit": "V", "instrument": "Tarn M4 22871", "calibrated": "2027-06-01", "note": "read again"})
	}
	volts("volts-an", 128.5)
	v = volts("volts-bn", 112.5)
	assert.Equal(t, working.Fail, rowOf(t, v, "", "volts-bn").Verdict)
	closed := 0
	for _, r := range v.View.Tests.Rows {
		switch {
		case !r.Live:
		case r.ID == "volts-ll" || r.ID == "volts-an" || r.ID == "volts-bn":
			assert.Empty(t, r.Closed, "%s is how the cause is found", r.ID)
		default:
			assert.Contains(t, r.Closed, "find the cause", "%s %s", r.Circuit, r.ID)
			closed++
		}
	}
	assert.Greater(t, closed, 5)
	c.held(id, put{"kind": "reading", "subject": "functional", "circuit": "c1", "passed": true}, 409, "find the cause")
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
	asked, kinds := walk("Bathroom f1: 2 double socket ## cracked tile\nGarage:\nfront lobby: 2 light\nlounge: 4 double socket, smoke alarm\nsnug: 4 double socket, light")
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

// A string heeds its tests and says nothing of itself that is not so.
func TestAStringHeedsItsTests(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2054"
	v := c.job(ref)
	before := bodies(t, v.View.Job)
	boxes := v.View.Job.Circuits[1].Serves.Boxes
	boxes[1].Ground, boxes[1].Side = no(), "line"
	c.take(ref, before, bodies(t, v.View.Job))
	var sheet api.CircuitsSheet
	c.do("GET", "/api/jobs/"+v.Id+"/circuits", nil).into(t, &sheet)
	r := sheet.Report.Circuit("c2")
	assert.Empty(t, r.Boxes[1].Labels, "an outlet that nothing protects does not say that it is")
	said := []string{}
	for _, k := range r.Checks {
		if k.ID == "ground-fault" {
			for _, x := range k.Remedies {
				said = append(said, x.Title)
			}
		}
	}
	assert.Contains(t, strings.Join(said, "\n"), "from LINE to LOAD of By the side door")
	now := c.job(ref)
	was := bodies(t, now.View.Job)
	now.View.Job.Circuits[1].Serves.Boxes[0].Feed = ""
	c.take(ref, was, bodies(t, now.View.Job))
	assert.Contains(t, taskOf(t, c.job(ref), "c2-marking-b1").Closed, "which pair the feed lies on")
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
	nm := "c2:cable:nm-2:3.31"
	l := c.stock("PW-2054", nm, install.Stock{Ordered: 70, Delivered: 31})
	assert.Contains(t, l.Trouble, "31\u00a0ft is")
	assert.Contains(t, l.Trouble, "ft shorter than the run of")
	assert.NotContains(t, l.Trouble, " m ")
	l = c.stock("PW-2054", nm, install.Stock{Ordered: 70, Delivered: 64, Lengths: "32 ft + 32 ft"})
	assert.Empty(t, l.Trouble, "a string is cut at every outlet")
	assert.Zero(t, l.Short)
	v := c.job("PW-2054")
	m := v.View.Job.Materials
	m.Lines[nm] = install.Stock{Lengths: "10 m"}
	a := c.part(v, "materials", m)
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, a.problem(t).Title, "piece lengths in ft")

	ring := "c1:cable:flat-te-70:2.5"
	l = c.stock("PW-2052", ring, install.Stock{Ordered: 70, Delivered: 70, Lengths: "35 + 35"})
	assert.Zero(t, l.Short, "a ring is cut at every outlet: %s", l.Trouble)
	cooker := "c6:cable:flat-te-70:6"
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
	for _, key := range []string{"c8:core-neutral:2.5", "c8:conduit", "c8:conduit-fixing"} {
		assert.Contains(t, got, key, "single cores take neutral, earth and conduit")
	}
	assert.Contains(t, got["c8:core-neutral:2.5"].Name, "neutral")
	back()
	assert.Contains(t, lines("PW-2054"), "c1:clip:flat", "the conduit of drawn conductors is fixed")
	edit("PW-2054", func(j *install.Job) {
		j.Circuits[1].Serves.Boxes[0].Weather = true
		j.Circuits[1].Serves.Boxes = append(j.Circuits[1].Serves.Boxes, install.Box{ID: "b9", Name: "Inner post", Place: "garage", Device: "gfci", From: "b3", Side: "line", Feed: "line", RatingA: 20, Ground: yes(), Shuttered: true, HeightMM: 1000, VolumeML: 400})
		j.Board.Ways[29].Blank = false
	})
	got = lines("PW-2054")
	assert.InDelta(t, 1, got["c2:outlet:gfci:20, tamper resistant"].Need, 0)
	assert.InDelta(t, 1, got["c2:outlet:gfci:20, tamper resistant, weather resistant with in-use cover"].Need, 0)
	assert.InDelta(t, 1, got["board:blank"].Need, 0)
	assert.Positive(t, got["c2:pigtail:12"].Need)
	edit("PW-2054", func(j *install.Job) { j.Circuits[1].Protection.RatingA = 15 })
	for key, l := range lines("PW-2054") {
		if strings.HasPrefix(key, "c2:outlet:") {
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
	assert.Contains(t, a.text, "none of its ways is free")
	var answer struct {
		Change struct {
			Cost *float64 `json:"cost"`
		} `json:"change"`
	}
	a.into(t, &answer)
	assert.Nil(t, answer.Change.Cost)
}

// A letter says what is computed, never 0 A.
func TestLettersSayTheComputedLoad(t *testing.T) {
	c := serve(t).as("dot")
	for _, ref := range []string{"PW-2052", "PW-2054"} {
		var sheet api.DeskSheet
		c.do("GET", "/api/jobs/"+c.job(ref).Id+"/desk", nil).into(t, &sheet)
		seen := false
		for _, l := range sheet.Letters {
			for _, f := range l.Facts {
				if f.Name == "New loads" {
					seen = true
					assert.NotContains(t, f.Value, ", 0 A", ref)
					assert.NotContains(t, f.Value, "Sail loft", "its feed holds it")
				}
			}
		}
		assert.True(t, seen, ref)
	}
	id := c.job("PW-2046").Id
	c.held(id, put{"kind": "operator", "circuit": "c1", "path": "agreed", "reference": "T-1", "called": "2026-11-02T09:30"}, 422, "operator.person")
	c.held(id, put{"kind": "operator", "circuit": "c1", "path": "agreed", "reference": "T-1", "person": "Ms Lund"}, 422, "operator.called")
	c.made(id, put{"kind": "operator", "circuit": "c1", "path": "agreed", "reference": "T-1", "person": "Ms Lund", "called": "2026-11-02T09:30"})
	var sheet api.SupplySheet
	for number, want := range map[string]working.Verdict{"0044173026555": working.Fail, "9944173026558": working.Fail, "4544173026556": working.Pass} {
		v := c.job("PW-2038")
		s := v.View.Job.Supply
		s.Number = number
		require.Equal(t, 200, c.part(v, "supply", s).status)
		c.do("GET", "/api/jobs/"+v.Id+"/supply", nil).into(t, &sheet)
		assert.Equal(t, want, sheet.Number.Verdict, number)
	}
}

// pdf reads the text of a PDF that the server answers.
func (c *client) pdf(path string) string {
	c.Helper()
	a := c.do("GET", path, nil)
	require.Equal(c, 200, a.status, a.text[:min(200, len(a.text))])
	file := filepath.Join(c.TempDir(), "paper.pdf")
	require.NoError(c, os.WriteFile(file, []byte(a.text), 0o600))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(c, err)
	return strings.Join(strings.Fields(string(out)), " ")
}

// The pack of a whole house, in both practices: what was read is on it, and nothing that
// was read is called not looked at.
func TestThePackOfAWholeHouse(t *testing.T) {
	c := serve(t).as("tobias")
	text := c.pdf("/api/jobs/" + c.job("PW-2057").Id + "/pack")
	for _, want := range []string{"Standby source generator, 14 kVA, transfers by itself", "joined here, read", "kept apart, read", "0.625 in thick", "2 ground rods", "200 A at Outdoor disconnect", "arc-fault breaker, 1", "Receipt of the client", "Gas line to the generator by the gas fitter"} {
		assert.Contains(t, text, want)
	}
	assert.NotContains(t, text, "not yet looked at")
	text = c.pdf("/api/jobs/" + c.job("PW-2056").Id + "/pack")
	for _, want := range []string{"1 Ring, ground floor 0.33 0.33 0.54 0.22 410 380 395 500 yes 0.44 1.37 24", "No surge protection, Board A: declined (Leonie Strand", "Making good of plaster by the mason", "The outside wash house", "Cut-out sound, seal in place", "calibrated to"} {
		assert.Contains(t, text, want)
	}
	assert.NotContains(t, text, "vehicle")
}

// The pack of a signed revision can be had after it was opened anew; an emoji that somebody
// typed keeps no pack from printing; what was declined stands in it with the reason.
func TestThePackCanAlwaysBeHad(t *testing.T) {
	w := serve(t)
	c, remy := w.as("tobias"), w.as("remy")
	v := c.job("PW-2029")
	id := v.Id
	c.made(id, put{"kind": "reopen"})
	v = c.job("PW-2029")
	s := v.View.Job.Site
	s.Customer = "Somebody 🚗 Else"
	require.Equal(t, 200, c.part(v, "site", s).status)
	remy.made(id, put{"kind": "loose-end", "note": "back tomorrow 👍"})
	now := c.pdf("/api/jobs/" + id + "/pack")
	assert.Contains(t, now, "Somebody □ Else")
	assert.Contains(t, now, "back tomorrow □")
	assert.Contains(t, now, "Revision B is not signed")
	then := c.pdf("/api/jobs/" + id + "/pack?revision=A")
	assert.Contains(t, then, "signed by Tobias Marrick")
	assert.Contains(t, then, "Marguerite Osk")
	assert.NotContains(t, then, "not signed: work in progress")
	assert.Equal(t, 404, c.do("GET", "/api/jobs/"+id+"/pack?revision=Q", nil).status)

	split := c.pdf("/api/jobs/" + c.job("PW-2054").Id + "/pack")
	for _, says := range []string{"Panel schedule", "A/B", "New: Meter base", "joined here", "Metal water pipe", "Rod 2", "Surge device Korv SG-2"} {
		assert.Contains(t, split, says, says)
	}
	house := c.pdf("/api/jobs/" + c.job("PW-2052").Id + "/pack")
	for _, says := range []string{"Schedule of circuits", "Schedule of test readings", "rn Ω", "Behind Feed to the sail loft", "Annex: checks with their working"} {
		assert.Contains(t, house, says)
	}
	for _, word := range []string{"vehicle", "charge point", "…", "from way 0"} {
		assert.NotContains(t, house, word)
	}
}

// A neutral that is lifted for a test is noted as left undone with the reading.
func TestALiftedNeutralIsNotForgotten(t *testing.T) {
	c := serve(t).as("tobias")
	id := c.job("PW-2050").Id
	iso := isolates()
	iso["pairsDead"] = []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"}
	c.made(id, iso)
	v := c.made(id, put{"kind": "reading", "subject": "ng:panel", "answer": "open"})
	require.Len(t, v.View.Loose, 1)
	assert.Contains(t, v.View.Loose[0].Note, "Feeder neutral of Panel A lifted")
	v = c.made(id, put{"kind": "reading", "subject": "ng:panel", "answer": "open"})
	assert.Len(t, v.View.Loose, 1, "it is noted once")
	// The jumper is looked at after every enclosure, not after the last.
	c.held(id, says("", "bond-back", true), 409, "First the test that it comes after")
	c.made(id, put{"kind": "reading", "subject": "ng:outside", "answer": "closed"})
	c.held(id, says("", "bond-back", true), 409, "First the test that it comes after")
	c.made(id, put{"kind": "reading", "subject": "ng:loft", "answer": "open"})
	v = c.made(id, says("", "bond-back", true))
	assert.Equal(t, working.Pass, rowOf(t, v, "", "bond-back").Verdict)
	v = c.made(id, put{"kind": "reading", "subject": "ng:outside", "answer": "closed"})
	assert.Equal(t, working.Unknown, rowOf(t, v, "", "bond-back").Verdict)
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
	require.Equal(t, 200, c.do("DELETE", "/api/jobs/"+v.Id+"/parts?part=circuits/c1&base="+strconv.Itoa(now.Versions["circuits/c1"]), nil).status)
	for range 2 {
		a := jana.do("POST", "/api/jobs/"+v.Id+"/undo", nil)
		assert.Equal(t, 409, a.status, a.text)
		assert.Contains(t, a.problem(t).Title, "taken it off")
	}
	house := c.job("PW-2052")
	tiny := house.View.Job.Circuits[5]
	tiny.Point.CurrentA = 1e-305
	a = c.part(house, "circuits/c6", tiny)
	assert.Equal(t, 422, a.status)
	assert.Equal(t, 200, c.do("GET", "/api/jobs/"+house.Id+"/circuits", nil).status)
}

// What is worth it goes out compressed, the interface as it was built, and the events as
// they come.
func TestAnswersAreCompressed(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	id := c.job("PW-2052").Id
	size := func(encoding string) (n int, header http.Header) {
		req, err := http.NewRequest("GET", c.url+"/api/jobs/"+id, nil)
		require.NoError(t, err)
		req.Header.Set("Cookie", c.cookie)
		req.Header.Set("Accept-Encoding", encoding)
		res, err := http.DefaultTransport.RoundTrip(req)
		require.NoError(t, err)
		defer res.Body.Close()
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return len(body), res.Header
	}
	plain, header := size("identity")
	assert.Empty(t, header.Get("Content-Encoding"))
	packed, header := size("gzip")
	assert.Equal(t, "gzip", header.Get("Content-Encoding"))
	assert.Less(t, packed*5, plain, "a job is packed to under a fifth")
}
