package api_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/working"
)

// Tests that a job owes: by its kind, its devices and what is known of it.
func TestTheTestsThatAJobOwes(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	a := c.do("POST", "/api/jobs", put{"ref": "U-1", "title": "Tails", "kind": "supply-upgrade", "practice": "iec230",
		"customer": "Ms Roe", "address": "1 Weir Lane"})
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
	assert.Contains(t, rowOf(t, v, "", "torque:meter").Closed, "torque from the manufacturer's instruction")
	ground := rowOf(t, v, "c3", "ground-continuity")
	assert.Contains(t, ground.Where, "Not to Window sill")
	assert.Equal(t, "Equipment ground to the boxes that have one", ground.Title)
}

// Torque at 230 V: each new enclosure owes it, held to the manufacturer's figure once that is known.
func TestTorqueOfEachNewEnclosure(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2038")
	row := rowOf(t, v, "", "torque:isolator")
	assert.Equal(t, "N·m", row.Unit)
	assert.Contains(t, row.Closed, "torque from the manufacturer's instruction", "a blank is no pass")
	for _, r := range v.View.Tests.Rows {
		assert.NotEqual(t, "torque:meter", r.ID, "the operator's meter is nobody's to tighten")
	}
	before := bodies(t, v.View.Job)
	want := 3.5
	v.View.Job.Chain.Enclosures[3].TorqueNm = install.Fact{Value: &want, Basis: install.Enquiry}
	v.View.Job.Chain.Enclosures[3].TorqueSheet = "Solvig IS-100 sheet 1"
	c.take("PW-2038", before, bodies(t, v.View.Job))
	row = rowOf(t, c.job("PW-2038"), "", "torque:isolator")
	assert.NotContains(t, row.Closed, "manufacturer's instruction")
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
	v.View.Job.Schools.Set("swaCores", install.Chose("A"))
	c.take("PW-2037", before, bodies(t, v.View.Job))
	a, taskA := cores()
	assert.Equal(t, "line brown · neutral black, sleeved blue at both ends · protective grey, sleeved green-yellow at both ends", a)
	v = c.job("PW-2037")
	before = bodies(t, v.View.Job)
	v.View.Job.Schools.Set("swaCores", install.Chose("B"))
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
		assert.NotContains(t, k.Operator.Why, "demand is not computed yet", k.ID)
	}
}

// Insulation is judged by the voltage it was read at.
func TestInsulationByItsVoltage(t *testing.T) {
	c := serve(t).as("jana")
	id := c.job("PW-2037").Id
	c.made(id, c.isolates(id))
	low := reads("c1", "insulation-ln", "MΩ", 40)
	low["testV"] = 250
	row := rowOf(t, c.made(id, low), "c1", "insulation-ln")
	assert.Equal(t, working.Unknown, row.Verdict, "without a surge device it is explained: %s", row.Summary)
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
	one := opens(v, func(d isolate.Device) bool { return d.Kind == isolate.IntakeKind })
	v = c.made(id, one)
	require.Nil(t, v.View.Tests.Isolation)
	assert.Contains(t, rowOf(t, v, "", "path").Closed, "To open: Main breaker. Yours makes nothing dead: ")
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
		return c.made(id, put{"kind": "reading", "subject": test, "value": v, "unit": "V", "instrument": "Tarn M4 22871",
			"calibrated": "2027-06-01", "note": "read again"})
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
			assert.Contains(t, r.Closed, "open the main disconnect now", "%s %s", r.Circuit, r.ID)
			closed++
		}
	}
	assert.Greater(t, closed, 5)
	c.held(id, put{"kind": "reading", "subject": "functional", "circuit": "c1", "passed": true}, 409, "An open neutral is suspected")
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

// A neutral that is lifted for a test is noted as left undone with the reading.
func TestALiftedNeutralIsNotForgotten(t *testing.T) {
	c := serve(t).as("tobias")
	id := c.job("PW-2050").Id
	// The service is off by the utility, today: the outdoor disconnect has nothing ahead of it that could be opened.
	v := c.job("PW-2050")
	o := v.View.Job.Outage
	o.Route, o.Day = "utility-disconnect", time.Now().Format(time.DateOnly)
	o.BookedOn = o.Day
	require.Equal(t, 200, c.part(v, "outage", o).status)
	c.made(id, opens(v, func(isolate.Device) bool { return true }))
	v = c.made(id, put{"kind": "reading", "subject": "ng:panel", "answer": "open"})
	require.Len(t, v.View.Loose, 1)
	assert.Contains(t, v.View.Loose[0].Note, "Feeder neutral of Panel A, or the joint ahead of it")
	assert.Equal(t, "neutral:panel", v.View.Loose[0].Parted)
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

// What was read at a joint settles it on the chain: it is not asked for again.
func TestAJointThatWasReadIsSettled(t *testing.T) {
	c := serve(t).as("tobias")
	for ref, put := range map[string]int{"PW-2054": 1, "PW-2057": 0} { // not read yet, and read
		var sheet api.SupplySheet
		c.do("GET", "/api/jobs/"+c.job(ref).Id+"/supply", nil).into(t, &sheet)
		assert.Len(t, sheet.Chain.Jumpers, put, ref)
		for _, k := range sheet.Chain.Checks {
			if strings.HasPrefix(k.ID, "joint-") {
				assert.Equal(t, put == 0, k.Verdict == working.Pass, "%s %s: %s", ref, k.ID, k.Summary)
			}
		}
	}
}
