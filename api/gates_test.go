package api_test

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"maps"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/working"
	"arvelt/store"
)

// put is a record as a person sends it.
type put map[string]any

// add sends a record and returns what the server says to it.
func (c *client) add(id string, r put) answer {
	c.Helper()
	if r["kind"] == "energise" && r["closes"] == nil {
		r = c.closes(id, r)
	}
	if r["kind"] == "tick" && r["note"] != nil && r["person"] == nil { // what others did, by one of them
		r = maps.Clone(r)
		r["person"] = "Ode Lampard"
	}
	if _, said := r["clampA"]; !said && (r["kind"] == "reading" || r["kind"] == "loose-end" && r["parted"] != nil) {
		r = maps.Clone(r)
		r["clampA"], r["acrossV"] = 0.02, 0.3
	}
	if _, said := r["clear"]; r["kind"] == "energise" && !said {
		r = maps.Clone(r)
		r["clear"] = c.clear(id)
	}
	return c.do("POST", "/api/jobs/"+id+"/records", r)
}

// clear confirms everybody who may be on the site and whose device has not reported.
func (c *client) clear(id string) []put {
	c.Helper()
	var on proving.Clearance
	c.do("GET", "/api/jobs/"+id+"/clear", nil).into(c.T, &on)
	out := []put{}
	for _, p := range on.People {
		if !p.Reported {
			out = append(out, put{"person": p.Name, "how": "stands beside me", "by": "whoever permits"})
		}
	}
	return out
}

// closes reconnects what was disconnected for the tests, and fills in what a permission leaves open: all that the person keeps open, or what was
// closed last, and the locks as they hang.
func (c *client) closes(id string, r put) put {
	c.Helper()
	tests, out := c.reconnects(id).View.Tests, maps.Clone(r)
	out["closes"] = tests.Parts[0].Closes
	if _, said := r["counted"]; !said {
		out["counted"] = proving.Hang(tests.Locks)
	}
	return out
}

// reconnects records as reconnected whatever was disconnected for a test.
func (c *client) reconnects(id string) api.JobView {
	c.Helper()
	v := c.read(id)
	for _, x := range v.View.Tests.Conductors {
		if x.Parted != nil {
			v = c.made(id, put{"kind": "loose-end", "subject": x.Parted.ID, "done": true, "note": "back, tightened"})
		}
	}
	return v
}

// made sends a record that must be taken and returns the job after it.
func (c *client) made(id string, r put) (v api.JobView) {
	c.Helper()
	a := c.add(id, r)
	require.Equal(c, 200, a.status, "%v: %s", r, a.text)
	a.into(c.T, &v)
	return v
}

// held sends a record that must be refused with a reason.
func (c *client) held(id string, r put, status int, says string) {
	c.Helper()
	a := c.add(id, r)
	assert.Equal(c, status, a.status, "%v: %s", r, a.text)
	assert.Contains(c, a.problem(c.T).Title, says)
}

// twin is a second electrician of the demo company of the same name.
func (w *world) twin(of string) *client {
	first, err := w.st.PersonByEmail(context.Background(), of+"@pellmore.example")
	require.NoError(w, err)
	second := first
	second.Email = of + "-2@pellmore.example"
	second.ID, err = w.st.NewPerson(context.Background(), store.Person{CompanyID: second.CompanyID, Name: second.Name,
		Email: second.Email, Role: second.Role, Hash: second.Hash})
	require.NoError(w, err)
	for _, a := range first.Authorisations {
		require.NoError(w, w.st.For(second.CompanyID).Grant(context.Background(), first, second.ID, a, nil))
	}
	return w.as(of + "-2")
}

func rowOf(t *testing.T, v api.JobView, circuit, id string) proving.Row {
	t.Helper()
	i := slices.IndexFunc(v.View.Tests.Rows, func(r proving.Row) bool { return r.ID == id && r.Circuit == circuit })
	require.GreaterOrEqual(t, i, 0, "no test %s of %q", id, circuit)
	return v.View.Tests.Rows[i]
}

func taskOf(t *testing.T, v api.JobView, id string) plan.Task {
	t.Helper()
	ids := []string{}
	for _, task := range v.View.Tasks {
		if task.ID == id {
			return task
		}
		ids = append(ids, task.ID)
	}
	require.Fail(t, "no task "+id, "%v", ids)
	return plan.Task{}
}

// isolates opens every device of a job but the intake, and reads every pair dead wherever somebody works.
func (c *client) isolates(id string) put {
	c.Helper()
	return opens(c.read(id), func(d isolate.Device) bool { return d.Kind != isolate.IntakeKind })
}

// opens is an isolation by some devices, read dead at every place of the job.
func opens(v api.JobView, which func(isolate.Device) bool) put {
	devices, proofs := []put{}, []put{}
	for _, d := range v.View.Tests.Devices {
		if which(d) {
			devices = append(devices, put{"device": d.ID, "kept": "lock", "startOff": d.Automatic})
		}
	}
	for _, p := range v.View.Tests.Places {
		proofs = append(proofs, dead(p, 0.4))
	}
	return put{"kind": "isolation", "opens": devices, "lockTag": "padlock 4", "tester": "Tarn V2, no. 11", "testerKind": "contact",
		"provedBefore": true, "proofs": proofs, "provedAfter": true, "stillLive": "the tails"}
}

// dead is every pair of a place as it was read, V.
func dead(p isolate.Place, volts float64) put {
	read := []put{}
	for _, pair := range p.Pairs {
		read = append(read, put{"pair": pair, "v": volts})
	}
	return put{"at": p.ID, "cables": p.Cables, "read": read}
}

func reads(circuit, subject, unit string, v float64) put {
	return put{"kind": "reading", "subject": subject, "circuit": circuit, "unit": unit, "value": v, "instrument": "Tarn M3",
		"calibrated": "2030-01-01"}
}

func says(circuit, subject string, yes bool) put {
	return put{"kind": "reading", "subject": subject, "circuit": circuit, "passed": yes}
}

// firstFix ticks what is open of first fix, as far as it is taken.
func (c *client) firstFix(v api.JobView) {
	c.Helper()
	for _, room := range v.View.Rooms {
		c.add(v.Id, put{"kind": "point-work", "room": room.Room, "steps": []string{"tagged"}, "done": true})
	}
	for _, task := range v.View.Tasks {
		if task.Stage == "first fix" && !task.Done {
			r := ticks(task.ID, true)
			r["note"] = "no camera"
			c.add(v.Id, r)
		}
	}
}

func ticks(id string, done bool) put { return put{"kind": "tick", "subject": id, "done": done} }

func permits() put {
	return put{"kind": "energise", "use": "test", "guarding": "person", "confirmed": []string{"covers", "people", "guarded", "own-lock"}}
}

// restores puts back what was in service before and not altered.
func restores() put {
	return put{"kind": "energise", "use": "restore", "confirmed": []string{"covers", "people", "unaltered", "own-lock"}}
}

// serves puts into service what permits energised.
func serves() put {
	return put{"kind": "energise", "use": "service", "confirmed": []string{"covers", "people", "own-lock"}}
}

// deadTests reads what PW-2037 still owes before it is energised.
func deadTests(c *client, id string) api.JobView {
	c.Helper()
	for _, r := range []put{reads("", "continuity-earth", "Ω", 0.03), reads("", "continuity-bond", "Ω", 0.04),
		reads("c1", "r1r2", "Ω", 0.1),
		reads("c1", "insulation-ln", "MΩ", 300), reads("c1", "insulation-le", "MΩ", 300),
		reads("c1", "insulation-ne", "MΩ", 300), says("c1", "polarity-dead", true)} {
		c.made(id, r)
	}
	return c.reconnects(id)
}

// Nobody energises what is not ready: with a lock of somebody else hanging, something left
// undone, a step open, a check failing, a test older than the work, or without having
// seen to it.
func TestWhatHoldsThePermissionToEnergise(t *testing.T) {
	w := serve(t)
	jana, tobias, remy := w.as("jana"), w.as("tobias"), w.as("remy")
	const ref = "PW-2037"
	id := jana.job(ref).Id
	jana.made(id, jana.isolates(id))
	v := deadTests(jana, id)
	why := func() string { return jana.job(ref).View.Tests.MayEnergise() }

	// What an apprentice left undone, and may not wave through.
	assert.Contains(t, v.View.Tests.MayEnergise(), "Cover of the board off")
	end := v.View.Loose[0].ID
	remy.held(id, put{"kind": "loose-end", "subject": end, "done": true, "note": "on"}, 403, "authorised to clear what holds the work")
	jana.held(id, put{"kind": "loose-end", "subject": end, "done": true}, 422, "note")
	v = jana.made(id, put{"kind": "loose-end", "subject": end, "done": true, "note": "cover on, four screws"})
	require.Len(t, v.View.Cleared, 2, "and what was disconnected for a test")
	v = jana.made(id, put{"kind": "loose-end", "subject": end, "supersedes": v.View.Cleared[0].ID, "note": "one screw was missing"})
	require.Len(t, v.View.Loose, 1, "it is open again")
	remy.held(id, put{"kind": "loose-end", "note": "paint", "path": "handover"}, 403, "decides that it may stay")
	jana.made(id, put{"kind": "loose-end", "note": "paint round the gland", "path": "handover"})
	jana.made(id, put{"kind": "loose-end", "subject": end, "done": true, "note": "screw found"})
	assert.Empty(t, why(), "what may wait for the handover holds nothing back")

	// A lock of somebody else, and of somebody of the same name.
	assert.Contains(t, tobias.job(ref).View.Tests.MayEnergise(), "lock of Jana Okell is in place")
	tobias.held(id, permits(), 409, "only its owner takes it off")
	twin := w.twin("jana")
	twin.held(id, permits(), 409, "lock of Jana Okell is in place")
	jana.made(id, ticks("c1-point", false))
	twin.held(id, ticks("c1-point", true), 409, "your own isolation of today")

	// The step taken back holds it; done again, the older dead tests prove nothing of it.
	assert.Contains(t, why(), "Dead tests come first")
	v = jana.made(id, ticks("c1-point", true))
	assert.Equal(t, "Older than the last work that it is to prove: do it again.", rowOf(t, v, "c1", "r1r2").Summary)
	assert.NotEqual(t, working.Unknown, rowOf(t, v, "", "continuity-earth").Verdict, "what it does not touch stays proved")
	v = deadTests(jana, id)
	assert.Empty(t, v.View.Tests.MayEnergise())
	jana.made(id, ticks("c1-label", false))
	assert.Empty(t, why(), "a label is for the service")
	jana.held(id, serves(), 409, "label the circuit at both ends")
	jana.made(id, ticks("c1-label", true))

	// A check of the design that fails.
	before := bodies(t, jana.job(ref).View.Job)
	wrong := jana.job(ref).View.Job
	wrong.Circuits[0].Protection.IcnKA = 1
	jana.take(ref, before, bodies(t, wrong))
	jana.held(id, permits(), 409, "The design is not in order: Breaking capacity")
	jana.take(ref, bodies(t, wrong), before)

	// What the person who permits has seen.
	jana.held(id, put{"kind": "energise", "use": "test"}, 422, "covers")
	jana.held(id, put{"kind": "energise"}, 422, "and for what")
	jana.held(id, put{"kind": "energise", "use": "test", "guarding": "person", "confirmed": []string{"covers", "people", "guarded"}}, 422, "own-lock")

	// The lock comes off by its owner; by the supervisor only with the reason.
	lock := jana.job(ref).View.Tests.Locks[0].ID
	remy.held(id, put{"kind": "lock-off", "subject": lock}, 403, "only its owner")
	twin.held(id, put{"kind": "lock-off", "subject": lock}, 403, "only its owner")
	tobias.held(id, put{"kind": "lock-off", "subject": lock, "note": "left at ten"}, 422, "how Jana Okell was reached")
	miscounted := permits()
	miscounted["counted"] = 9
	jana.held(id, miscounted, 422, "as they hang there")
	jana.made(id, put{"kind": "lock-off", "subject": lock})
	jana.held(id, ticks("c1-torque", true), 409, "your own isolation of today")
	miscounted["counted"] = 1
	tobias.held(id, miscounted, 422, "energise.counted")
	v = tobias.made(id, permits())
	assert.Equal(t, []string{"covers", "people", "guarded", "own-lock"}, v.View.Tests.Energised.Confirmed)
	assert.Empty(t, v.View.Tests.Energised.Note, "nothing is written that nobody said")
}

// A planning hold never stops somebody from switching off and locking a danger.
func TestAnybodyQualifiedMayIsolateWhateverHolds(t *testing.T) {
	c := serve(t).as("jana")
	for _, ref := range []string{"PW-2044", "PW-2046", "PW-2038"} {
		v := c.job(ref)
		require.NotEmpty(t, v.View.State.Holds, ref)
		assert.NotNil(t, c.made(v.Id, c.isolates(v.Id)).View.Tests.Isolation, ref)
	}
}

// The external loop impedance is read with the earth off: nothing is energised before it
// is proved to be on again.
func TestTheEarthIsBackBeforeAnythingIsEnergised(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	id := c.job("PW-2037").Id
	c.held(id, reads("", "ze", "Ω", 0.2), 409, "your own isolation of today")
	c.made(id, c.isolates(id))
	v := deadTests(c, id)
	v = c.made(id, put{"kind": "loose-end", "subject": v.View.Loose[0].ID, "done": true, "note": "cover on"})
	require.Empty(t, v.View.Tests.MayEnergise())
	c.held(id, says("", "earth-back", true), 409, "First the test that it comes after")
	v = c.made(id, reads("", "ze", "Ω", 0.2))
	assert.Contains(t, v.View.Tests.MayEnergise(), "The main earthing conductor is connected again is not done")
	c.held(id, permits(), 409, "earthing conductor")
	assert.Empty(t, c.made(id, says("", "earth-back", true)).View.Tests.MayEnergise())
	assert.NotEmpty(t, c.made(id, reads("", "ze", "Ω", 0.19)).View.Tests.MayEnergise(), "it came off again")
	c.made(id, says("", "earth-back", true))
	c.made(id, permits())
	c.held(id, reads("", "ze", "Ω", 0.2), 409, "main switch off")
}

// The worst of the readings counts until one takes another's place with the reason; a loop
// that the line conductor alone exceeds is refused; one that Ze and R1+R2 do not give is
// explained before it counts.
func TestReadingsAreHeldToEachOther(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	id := c.job("PW-2037").Id
	c.made(id, c.isolates(id))
	deadTests(c, id)
	v := c.job("PW-2037")
	c.made(id, put{"kind": "loose-end", "subject": v.View.Loose[0].ID, "done": true, "note": "cover on"})
	first := rowOf(t, v, "c1", "r1r2").Reading.ID
	c.held(id, put{"kind": "reading", "subject": "r1r2", "circuit": "c1", "unit": "Ω", "value": 0.6,
		"instrument": "Tarn M3", "supersedes": first}, 422, "note")
	high := reads("c1", "r1r2", "Ω", 0.6)
	high["supersedes"], high["note"] = first, "read at the far clamp"
	v = c.made(id, high)
	row := rowOf(t, v, "c1", "r1r2")
	assert.Equal(t, working.Unknown, row.Verdict, row.Summary)
	assert.True(t, row.Explain)
	c.held(id, permits(), 409, "R1+R2")
	w.as("remy").held(id, put{"kind": "remark", "subject": row.Reading.ID, "note": "long way"}, 403, "clear what holds the work")
	v = c.made(id, put{"kind": "remark", "subject": row.Reading.ID, "note": "the cable goes round the carport"})
	row = rowOf(t, v, "c1", "r1r2")
	assert.Equal(t, working.Caution, row.Verdict)
	assert.Contains(t, row.Summary, "Explained: the cable goes round the carport.")
	c.made(id, permits())

	// 0.6 Ω of a cable of 10 mm² with three equal cores: 0.3 Ω is the line alone.
	c.held(id, reads("c1", "zs", "Ω", 0.2), 409, "impossible")
	v = c.made(id, reads("c1", "zs", "Ω", 0.5))
	row = rowOf(t, v, "c1", "zs")
	assert.InDelta(t, 0.81, *row.Expected, 0.02, "Ze 0.21 and the R1+R2 that was read")
	assert.Equal(t, working.Unknown, row.Verdict)
	assert.Contains(t, row.Summary, "It proves nothing of the protective conductor")
	v = c.made(id, reads("c1", "zs", "Ω", 1.6))
	row = rowOf(t, v, "c1", "zs")
	assert.Equal(t, working.Fail, row.Verdict, "the highest counts")
	assert.Len(t, row.Beside, 1)
	v = c.made(id, reads("c1", "zs", "Ω", 0.8))
	assert.Equal(t, working.Fail, rowOf(t, v, "c1", "zs").Verdict, "a better one beside it changes nothing")
	mended := reads("c1", "zs", "Ω", 0.8)
	mended["supersedes"], mended["note"] = row.Reading.ID, "neutral bar screw remade"
	c.made(id, mended)
	v = c.job("PW-2037")
	assert.NotEqual(t, working.Fail, rowOf(t, v, "c1", "zs").Verdict)
}

// A record takes the place only of one of its kind and subject.
func TestARecordIsSupersededOnlyByItsLike(t *testing.T) {
	w := serve(t)
	tobias, remy, dot := w.as("tobias"), w.as("remy"), w.as("dot")
	v := tobias.job("PW-2046")
	v = tobias.made(v.Id, put{"kind": "observation", "subject": "other", "path": "C1", "evidence": "seen",
		"note": "live parts", "risk": "r", "mend": "m"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	count := func() int {
		var sheet api.CaseSheet
		tobias.do("GET", "/api/jobs/"+v.Id+"/case", nil).into(t, &sheet)
		return sheet.Case.Count
	}
	require.Equal(t, 1, count())
	photo := pngOf(32, 32)
	a := remy.do("POST", "/api/jobs/"+v.Id+"/photos?subject=board", string(photo), "Content-Type", "image/png")
	require.Less(t, a.status, 300, a.text)
	for name, r := range map[string]put{
		"a photo": {"kind": "photo", "subject": "board", "reference": sha(photo), "supersedes": finding},
		"a reading": {"kind": "survey-reading", "subject": "voltage-ln", "value": 230, "unit": "V", "place": "board",
			"instrument": "M3", "supersedes": finding},
		"other finding": {"kind": "observation", "subject": "open-way", "path": "C2", "evidence": "seen", "note": "n",
			"supersedes": finding},
		"nothing there": {"kind": "observation", "subject": "other", "path": "C2", "evidence": "seen", "note": "n",
			"risk": "r", "mend": "m", "supersedes": "no-such-record"},
	} {
		a := remy.add(v.Id, r)
		assert.GreaterOrEqual(t, a.status, 400, name)
		assert.Equal(t, 1, count(), name)
	}
	dot.add(v.Id, put{"kind": "decision", "subject": finding, "path": "later", "person": "Ottilie", "supersedes": finding})
	assert.Equal(t, 1, count(), "a decision is beside the finding, never in its place")
}

// A danger holds the job until somebody was told and it is safe, is not declined without a
// reason, and stays on the list until it is mended.
func TestADangerHoldsUntilItIsFollowedUp(t *testing.T) {
	w := serve(t)
	tobias, remy, dot := w.as("tobias"), w.as("remy"), w.as("dot")
	v := tobias.job("PW-2046")
	id := v.Id
	require.NotEqual(t, install.Survey, v.View.State.Stage)
	v = remy.made(id, put{"kind": "observation", "subject": "overheated", "path": "C1", "evidence": "seen",
		"note": "the neutral bar is brown"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	holds := func() (out []string) {
		for _, h := range tobias.job("PW-2046").View.State.Holds {
			if h.Sheet == "survey" {
				out = append(out, string(h.Stage)+": "+h.What)
			}
		}
		return out
	}
	assert.Equal(t, install.Survey, v.View.State.Stage, "it is held where it stands")
	assert.Contains(t, holds(), "survey: danger, nobody told: Signs of heat at a connection")
	dot.held(id, put{"kind": "decision", "subject": finding, "path": "declined", "person": "Ottilie Brandreth"}, 422, "note")
	dot.held(id, put{"kind": "finding-step", "subject": finding, "path": "told", "note": "rang"}, 422, "person")
	dot.made(id, put{"kind": "finding-step", "subject": finding, "path": "told",
		"person": "Ottilie Brandreth", "note": "in the hall, at once"})
	remy.held(id, put{"kind": "finding-step", "subject": finding, "path": "made-safe", "note": "taped", "person": "Ottilie Brandreth"}, 403,
		"authorised to clear what holds the work")
	assert.Contains(t, holds(), "survey: danger, not made safe: Signs of heat at a connection")
	v = tobias.made(id, put{"kind": "finding-step", "subject": finding, "path": "made-safe", "note": "cupboard locked, notice up",
		"person": "Ottilie Brandreth"})
	assert.NotEqual(t, install.Survey, v.View.State.Stage)
	assert.Contains(t, holds(), "handover: danger made safe but not rectified: Signs of heat at a connection")
	tobias.made(id, put{"kind": "finding-step", "subject": finding, "path": "mended", "note": "neutral bar renewed"})
	assert.Empty(t, holds())
	var sheet api.CaseSheet
	tobias.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
	require.Equal(t, 1, sheet.Case.Count, "it stays with what was done about it")
	assert.Contains(t, sheet.Case.Sections[0].Findings[0].Mended, "neutral bar renewed (Tobias Marrick")
}

// Two findings that one board mends are priced once.
func TestOneWorkThatMendsTwoFindingsIsPricedOnce(t *testing.T) {
	c := serve(t).as("tobias")
	id := c.job("PW-2046").Id
	price := func() (low, high float64) {
		var sheet api.CaseSheet
		c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
		require.NotNil(t, sheet.Case.Price)
		return sheet.Case.Price.Low, sheet.Case.Price.High
	}
	c.made(id, put{"kind": "observation", "subject": "combustible-board", "path": "C3", "evidence": "seen", "note": "old plastic"})
	low, high := price()
	assert.Equal(t, []float64{780, 1350}, []float64{low, high})
	c.made(id, put{"kind": "observation", "subject": "escape-board", "path": "C3", "evidence": "seen", "note": "under the only stair"})
	low, high = price()
	assert.Equal(t, []float64{780, 1350}, []float64{low, high}, "one board mends both")
	c.made(id, put{"kind": "observation", "subject": "overheated", "path": "C2", "evidence": "seen", "note": "brown terminal, way 3"})
	c.made(id, put{"kind": "observation", "subject": "double-tapped", "path": "C2", "evidence": "seen", "note": "way 5"})
	low, high = price()
	assert.Equal(t, []float64{780 + 2*45, 1350 + 2*120}, []float64{low, high}, "two connections are two works")
}

// A hazard that is not cleared closes first fix where it is, and says so on the task.
func TestAHazardClosesTheWorkWhereItIs(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2044"
	v := c.job(ref)
	room := func(name string) string {
		for _, r := range v.View.Job.Rooms {
			if r.Name == name {
				return r.ID
			}
		}
		t.Fatal(name)
		return ""
	}
	hall, landing := room("hall"), room("landing")
	closed := func(id string) string { return taskOf(t, c.job(ref), id+"-boxes").Closed }
	assert.Contains(t, closed(hall), "suspected asbestos", "nobody has said where: it may be anywhere")
	c.held(v.Id, ticks(landing+"-boxes", true), 409, "suspected asbestos, textured ceilings, upper floor")
	found := v.View.Job.Found
	found.Hazards[0].Floor = "f1"
	for _, r := range v.View.Job.Rooms {
		if r.Name == "landing" {
			found.Hazards[0].Floor = r.Floor
		}
	}
	require.Equal(t, 200, c.part(c.job(ref), "found", found).status)
	assert.Contains(t, closed(hall), "First: hall: find and mark", "downstairs goes on")
	assert.Contains(t, closed(landing), "Nothing touches it")
	found.Hazards[0].Clear, found.Hazards[0].How = true, "sample 88-2 clear"
	require.Equal(t, 200, c.part(c.job(ref), "found", found).status)
	c.made(v.Id, ticks(landing+"-locate", true))
	assert.Empty(t, closed(landing))
	c.made(v.Id, ticks(landing+"-boxes", true))
}

// A step that says a picture is taken is ticked by a picture, or with why there is none.
func TestAPictureTicksWhatIsPhotographed(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2037")
	c.made(v.Id, ticks("c1-photo", false))
	c.held(v.Id, ticks("c1-photo", true), 409, "no picture of it")
	for _, subject := range []string{"c1", "c1-photo"} {
		assert.False(t, taskOf(t, c.job("PW-2037"), "c1-photo").Done)
		a := c.do("POST", "/api/jobs/"+v.Id+"/photos?subject="+subject, string(pngOf(20, 20)), "Content-Type", "image/png")
		require.Equal(t, 200, a.status, "%s %s", subject, a.text)
	}
	assert.True(t, taskOf(t, c.job("PW-2037"), "c1-photo").Done, "its own picture closes it")
	c.made(v.Id, ticks("c1-photo", false))
	without := ticks("c1-photo", true)
	without["note"] = "the wall was closed by others"
	assert.Equal(t, "the wall was closed by others", taskOf(t, c.made(v.Id, without), "c1-photo").Note)
}

// What is not lawful cannot be chosen, and what is the operator's is not put in by us.
func TestWhatNobodyMayDoIsRefused(t *testing.T) {
	c := serve(t).as("tobias")
	for ref, routes := range map[string][]string{"PW-2038": {"pull-it-yourself"}, "PW-2050": {"live-cut", "pull-meter"}} {
		v := c.job(ref)
		for _, route := range routes {
			o := v.View.Job.Outage
			o.Route = route
			a := c.part(v, "outage", o)
			assert.Equal(t, http.StatusUnprocessableEntity, a.status, route)
			assert.Contains(t, a.problem(t).Title, "outage.route")
		}
	}
	v := c.job("PW-2038")
	chain := v.View.Job.Chain
	for i := range chain.Enclosures {
		if chain.Enclosures[i].ID == "head" {
			chain.Enclosures[i].New = true
		}
	}
	a := c.part(v, "chain", chain)
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, a.problem(t).Title, "put in by them")
}

func sha(b []byte) string {
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:])
}

// What a phone kept without a connection is on record with the time at which it happened, in the
// phone's own order, whatever its clock says; and what nobody may decide alone is not taken late.
func TestWhatWaitedForAConnection(t *testing.T) {
	w := serve(t)
	jana, tobias := w.as("jana"), w.as("tobias")
	const ref = "PW-2037"
	id := jana.job(ref).Id
	clock := time.Now().Add(2 * time.Hour) // the phone's, two hours ahead
	seq := 0
	late := func(c *client, r put, minutesAgo int) answer {
		seq++
		r["sent"] = map[string]any{"occurredAt": clock.Add(-time.Duration(minutesAgo) * time.Minute), "device": "phone-7", "seq": seq}
		return c.do("POST", "/api/jobs/"+id+"/records", r, "Device-Time", clock.Format(time.RFC3339Nano))
	}
	took := func(r put, minutesAgo int) (v api.JobView) {
		a := late(jana, r, minutesAgo)
		require.Equal(t, 200, a.status, a.text)
		a.into(t, &v)
		return v
	}
	v := took(jana.isolates(id), 5)
	iso := v.View.Tests.Isolation
	require.NotNil(t, iso, "judged as of when it was made")
	assert.InDelta(t, 5, time.Since(iso.At).Minutes(), 0.5)
	assert.InDelta(t, 0, time.Since(iso.ReceivedAt).Minutes(), 0.5)
	assert.InDelta(t, 7200, iso.ClockOffS, 5, "a clock that is wrong is said")
	took(ticks("c1-point", true), 4)
	v = took(reads("c1", "r1r2", "Ω", 0.1), 4) // the same minute: the phone's count says that it came after
	row := func(v api.JobView, test string) *proving.Row {
		for i := range v.View.Tests.Rows {
			if r := &v.View.Tests.Rows[i]; r.ID == test && r.Circuit == "c1" {
				return r
			}
		}
		require.Fail(t, test)
		return nil
	}
	assert.NotContains(t, row(v, "r1r2").Summary, "do it again", "the phone's own order")

	// The same reading by a second phone, made before the work by any clock but its own.
	a := jana.do("POST", "/api/jobs/"+id+"/records", put{"kind": "tick", "subject": "c1-point", "done": true, "sent": map[string]any{
		"occurredAt": clock.Add(-2 * time.Minute), "device": "tablet-3", "seq": 1}}, "Device-Time", clock.Format(time.RFC3339Nano))
	require.Equal(t, 200, a.status, a.text)
	a.into(t, &v)
	assert.Contains(t, row(v, "r1r2").Summary, "Older than the last work", "where both orders are possible the unsafe one holds")

	for _, r := range []put{permits(), {"kind": "lock-off", "subject": iso.ID, "note": "he is gone"}} {
		a := late(tobias, r, 3)
		assert.Equal(t, 409, a.status, a.text)
		assert.Contains(t, a.text, "waited for a connection")
	}
	for says, sent := range map[string]map[string]any{
		"sent.device":     {"occurredAt": clock, "seq": 9},
		"sent.seq":        {"occurredAt": clock, "device": "x"},
		"sent.occurredAt": {"occurredAt": clock.Add(time.Hour), "device": "x", "seq": 9},
	} {
		a := jana.do("POST", "/api/jobs/"+id+"/records", put{"kind": "loose-end", "note": "n", "sent": sent}, "Device-Time",
			clock.Format(time.RFC3339Nano))
		assert.Equal(t, 422, a.status, a.text)
		assert.Contains(t, a.text, says)
	}
}
