package api_test

import (
	"maps"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/desk"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/outage"
	"arvelt/core/whole"
	"arvelt/core/working"
)

// outdoors changes the first outdoor run of a job.
func (c *client) outdoors(ref string, change func(*install.Outdoor)) api.JobView {
	c.Helper()
	v := c.job(ref)
	o := v.View.Job.Outdoor
	change(&o)
	require.Equal(c.T, 200, c.part(v, "outdoor", o).status)
	return c.job(ref)
}

// The ground is broken only where other services are located: under a number, with marks that hold, and with who digs and who answers for it.
func TestGroundIsBrokenOnlyWhereItIsLocated(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2050"
	v := c.outdoors(ref, func(o *install.Outdoor) {
		r := &o.Runs[0]
		inOrder(r, c.surface(ref))
		r.Located, r.LocatedTo, r.DugBy, r.Liable = "", "", "", ""
	})
	dig := "run-" + v.View.Job.Outdoor.Runs[0].ID + "-dig"
	for _, step := range v.View.Tasks {
		if step.ID == dig {
			for _, first := range step.After {
				by := ticks(first, true)
				by["note"] = "the paint on the ground"
				c.made(v.Id, by)
			}
		}
	}
	says := func(what string) {
		t.Helper()
		task := taskOf(t, c.job(ref), dig)
		assert.Contains(t, task.Closed, what)
		require.NotNil(t, task.ClosedAt)
		assert.Equal(t, [2]any{working.SupplySheet, working.OutdoorLeaf}, [2]any{task.ClosedAt.Sheet, task.ClosedAt.Leaf})
		by := ticks(dig, true)
		by["note"] = "the digger's sheet"
		c.held(v.Id, by, 409, what)
	}
	says("No request to locate other utilities")
	c.outdoors(ref, func(o *install.Outdoor) { o.Runs[0].Located = "unknown" })
	says("is no reference")
	c.outdoors(ref, func(o *install.Outdoor) { o.Runs[0].Located = "L 88-204" })
	says("Until when")
	c.outdoors(ref, func(o *install.Outdoor) { o.Runs[0].LocatedTo = "2020-01-04" })
	says("held until 2020-01-04")
	c.outdoors(ref, func(o *install.Outdoor) { o.Runs[0].LocatedTo = time.Now().AddDate(0, 0, 9).Format(time.DateOnly) })
	says("who digs and who is")
	c.outdoors(ref, func(o *install.Outdoor) { o.Runs[0].DugBy, o.Runs[0].Liable = "Marsh Diggers", "Marsh Diggers" })
	assert.NotContains(t, taskOf(t, c.job(ref), dig).Closed, "Held by")

	// The rods go into the ground too.
	c.outdoors(ref, func(o *install.Outdoor) {
		o.Electrodes.Rods = []install.PlacedRod{{Place: "north wall", LengthM: 2.44, DiameterMM: 16, Mode: "vertical"}}
	})
	c.held(v.Id, ticks("rods", true), 409, "No request to locate other utilities")
	c.outdoors(ref, func(o *install.Outdoor) {
		o.Electrodes.Marks = install.Marks{Located: "L 88-205", LocatedTo: time.Now().AddDate(0, 0, 9).Format(time.DateOnly), DugBy: "we", Liable: "we"}
	})
	c.made(v.Id, ticks("rods", true))
}

// A circuit that runs in the ground has no run of its own, and is dug no earlier.
func TestTheTrenchOfACircuitIsLocated(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2037"
	v := c.job(ref)
	k := v.View.Job.Circuits[0]
	ground := install.Method("")
	for method, trait := range whole.Practice(v.View.Job).Terms().Laid {
		if trait.Ground {
			ground = method
		}
	}
	k.Route.Marks = install.Marks{}
	k.Route.Segments = append(k.Route.Segments, install.Segment{Place: "yard", LengthM: 6, Basis: install.Measured, Method: ground, AmbientC: 15, Grouped: 1})
	a := c.part(v, "circuits/"+k.ID, k)
	require.Equal(t, 200, a.status, a.text)
	v = c.job(ref)
	c.made(v.Id, ticks(k.ID+"-mark", true))
	trench := k.ID + "-trench"
	c.made(v.Id, ticks(trench, false)) // it is not dug after all
	c.held(v.Id, ticks(trench, true), 409, "No request to locate other services")
	assert.Equal(t, k.ID, taskOf(t, c.job(ref), trench).ClosedAt.Circuit)
	k.Route.Marks = install.Marks{Located: "41-7", LocatedTo: time.Now().AddDate(0, 0, 9).Format(time.DateOnly),
		DugBy: "Marsh Diggers", Liable: "Marsh Diggers"}
	require.Equal(t, 200, c.part(c.job(ref), "circuits/"+k.ID, k).status)
	c.made(v.Id, ticks(trench, true))
}

// What nobody can look at once a trench is filled is on record before: its depth as dug, bends, warning tape, string and caps. The step and the
// fact of the draw string are one.
func TestATrenchIsFilledOnlyWhenItIsRight(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2050"
	no, right := false, func(r *install.Run) { inOrder(r, c.surface(ref)) }
	v := c.outdoors(ref, func(o *install.Outdoor) { right(&o.Runs[0]) })
	run := "run-" + v.View.Job.Outdoor.Runs[0].ID + "-"
	held := func(step string) string { return taskOf(t, c.job(ref), run+step).Closed }
	assert.NotContains(t, held("halffill"), "Held by")
	for what, spoil := range map[string]func(*install.Run){
		"Depth as dug": func(r *install.Run) { r.Stretches[0].DugMM = install.Fact{} },
		"deeper":       func(r *install.Run) { shallow := 150.0; r.Stretches[0].DugMM.Value = &shallow },
		"Sum of bends": func(r *install.Run) {
			r.Stretches[0].BendDeg, r.Stretches[0].RadiusMM = 180, 900
			r.Stretches = append(r.Stretches, r.Stretches[0], r.Stretches[0])
		},
		"Radius of the bends":    func(r *install.Run) { r.Stretches[0].BendDeg = 90 },
		"above the conduit":      func(r *install.Run) { r.Stretches[0].RibbonMM = 20 },
		"Draw string":            func(r *install.Run) { r.String = nil },
		"Ends capped":            func(r *install.Run) { r.Capped = &no },
		"the way past the ledge": func(r *install.Run) { r.Found = []install.Obstruction{{What: "ledge", AtM: 1}} },
		"how long it is":         func(r *install.Run) { r.Found = []install.Obstruction{{What: "ledge", AtM: 1, Option: "break out"}} },
		"lay it bare first": func(r *install.Run) {
			r.Found = []install.Obstruction{{What: "ledge", AtM: 1, LengthM: 1, Option: "over"}}
		},
		"dig down beside it": func(r *install.Run) {
			r.Found = []install.Obstruction{{What: "ledge", AtM: 1, LengthM: 1, TopMM: 300, Option: "under"}}
		},
	} {
		c.outdoors(ref, func(o *install.Outdoor) { right(&o.Runs[0]); spoil(&o.Runs[0]) })
		assert.Contains(t, held("halffill"), what, what)
		assert.Contains(t, held("fill"), what, what)
		by := ticks(run+"halffill", true)
		c.held(v.Id, by, 409, what)
	}
	// The draw string: the step is not done while the works outdoors say otherwise.
	v = c.outdoors(ref, func(o *install.Outdoor) { right(&o.Runs[0]) })
	for _, task := range v.View.Tasks {
		if strings.HasPrefix(task.ID, run) && !task.Done {
			by := ticks(task.ID, true)
			by["note"] = "seen by us"
			if task.ID == run+"ballast" {
				break
			}
			a := c.add(v.Id, by)
			require.Equal(t, 200, a.status, "%s %s", task.ID, a.text)
		}
	}
	require.True(t, taskOf(t, c.job(ref), run+"string").Done)
	v = c.outdoors(ref, func(o *install.Outdoor) { o.Runs[0].String = &no })
	string_ := taskOf(t, v, run+"string")
	assert.False(t, string_.Done)
	assert.Contains(t, string_.Again, "do not say that the draw string is tied")
	c.held(v.Id, ticks(run+"string", true), 409, "do not say that the draw string is tied")
}

// inOrder makes a run that nothing fails of, laid under a surface.
func inOrder(r *install.Run, surface string) {
	yes := true
	r.Found, r.String, r.Capped, r.RadiusMM = nil, &yes, &yes, 0
	for i := range r.Stretches {
		s, deep := &r.Stretches[i], 900.0
		s.Surface, s.CoverMM, s.RibbonMM, s.BendDeg, s.RadiusMM = surface, 900, 400, 0, 0
		s.DugMM = install.Fact{Value: &deep, Basis: install.Measured}
	}
}

// surface is one under which a cover is asked for.
func (c *client) surface(ref string) string {
	c.Helper()
	var r struct {
		Rules struct {
			Covers []struct {
				Place string `json:"place"`
				MM    float64
			} `json:"covers"`
		} `json:"rules"`
	}
	c.do("GET", "/api/jobs/"+c.job(ref).Id+"/outdoor", nil).into(c.T, &r)
	require.NotEmpty(c.T, r.Rules.Covers)
	return r.Rules.Covers[0].Place
}

// dayOf is the plan of the outage of a job.
func (c *client) dayOf(id string) outage.Plan {
	c.Helper()
	var sheet api.SupplySheet
	c.do("GET", "/api/jobs/"+id+"/supply", nil).into(c.T, &sheet)
	return sheet.Outage
}

// The planned outage waits for its list: what is short, who is not booked, light and the day itself. The supervisor lets go in writing what
// may be let go, for that alone, and the pack prints it.
func TestThePlannedOutageWaitsForItsList(t *testing.T) {
	for _, ref := range []string{"PW-2054", "PW-2038"} {
		t.Run(ref, func(t *testing.T) {
			w := serve(t)
			c, jana := w.as("tobias"), w.as("jana")
			v := c.job(ref)
			id := v.Id
			var isolate string
			for _, task := range v.View.Tasks {
				if task.ID == "outage-isolate" {
					isolate = task.Closed
					require.NotNil(t, task.ClosedAt)
					assert.Equal(t, working.OutageLeaf, task.ClosedAt.Leaf)
				}
			}
			assert.Contains(t, isolate, "Before the cut")
			c.held(id, ticks("outage-isolate", true), 409, "Before the cut")
			open := func() (out []outage.Item) {
				for _, i := range c.dayOf(id).Checks {
					if i.Open() {
						out = append(out, i)
					}
				}
				return out
			}
			require.NotEmpty(t, open())
			jana.held(id, put{"kind": "release", "subject": "cutoff:parts", "note": "counted"}, 403, "supervisor")
			c.held(id, put{"kind": "release", "subject": "cutoff:ghost", "note": "x"}, 422, "subject")
			c.held(id, put{"kind": "release", "subject": "cutoff:parts", "note": ""}, 422, "note")
			// The facts that are facts.
			yes, no := true, false
			now := c.job(ref)
			o := now.View.Job.Outage
			o.Day = time.Now().Format(time.DateOnly)
			o.Inspector = install.Booking{Needed: &yes, Who: "Ada Finch", On: "2020-01-01"}
			o.LightReady, o.DarkReady, o.NoTemporary, o.Temporary, o.NoTails, o.Crew, o.Latitude = &no, &yes, true, nil, true, 4, nil
			o.BookedOn, o.BookedFor, o.Weather = o.Day, "", install.Weather{}
			require.Equal(t, 200, c.part(now, "outage", o).status)
			state := map[outage.ItemID]bool{}
			for _, i := range open() {
				state[i.ID] = true
			}
			assert.True(t, state[outage.ItemInspector], "booked for another day")
			assert.True(t, state[outage.ItemLight])
			c.held(id, put{"kind": "release", "subject": "cutoff:light", "note": "lamps"}, 409, "Nobody lets this go")
			o.LightReady, o.Inspector.Needed, o.Start = &yes, &no, "07:00"
			require.Equal(t, 200, c.part(c.job(ref), "outage", o).status)
			for _, i := range open() {
				if i.May {
					c.made(id, put{"kind": "release", "subject": "cutoff:" + string(i.ID), "note": "looked at it with Jana: " + string(i.ID)})
				}
			}
			for _, i := range open() {
				assert.NotContains(t, []outage.ItemID{outage.ItemParts, outage.ItemFirstFix}, i.ID, i.Says())
			}
			assert.Contains(t, c.pdf("/api/jobs/"+id+"/pack"), "looked at it with Jana: first-fix")
			// It was let go for what stood there then: of anything else it is none.
			var done string
			for _, task := range c.job(ref).View.Tasks {
				if task.Stage == install.FirstFix && !task.Done && task.Closed == "" && task.Others == "" && !task.Photo {
					done = task.ID
				}
			}
			if done != "" {
				c.made(id, ticks(done, true))
				state := c.dayOf(id)
				assert.True(t, state.Item(outage.ItemFirstFix).Open())
			}
		})
	}
}

// A danger may be left as it is by whoever decides it, and the notice of it is never: it is signed or witnessed, it stands on the pack, and what
// it endangers is not put into service by us.
func TestADangerIsRefusedOnlyWithNotice(t *testing.T) {
	w := serve(t)
	c, remy := w.as("tobias"), w.as("remy")
	const ref = "PW-2037"
	v := c.job(ref)
	id, k := v.Id, v.View.Job.Circuits[0].ID
	v = remy.made(id, put{"kind": "observation", "subject": "live-exposed", "path": "C1", "evidence": "seen", "circuit": k, "note": "bare end in the loft"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	holds := func() string {
		out := []string{}
		for _, h := range c.job(ref).View.State.Holds {
			out = append(out, string(h.Stage)+": "+h.What)
		}
		return strings.Join(out, "\n")
	}
	waits := func() string {
		out := []string{}
		for _, x := range c.job(ref).View.Tests.Waits() {
			out = append(out, x.Why)
		}
		return strings.Join(out, "\n")
	}
	assert.Contains(t, waits(), "A danger that is not made safe: A live part can be touched")
	again := put{"kind": "observation", "subject": "live-exposed", "path": "C1", "evidence": "seen", "circuit": k, "note": "gone", "supersedes": finding,
		"done": true}
	remy.held(id, again, 409, "not taken back")
	again["path"], again["done"] = "C3", false
	remy.held(id, again, 403, "no danger after all")
	c.held(id, put{"kind": "decision", "subject": finding, "path": "declined", "person": "Ms Ley", "note": "no money"}, 422, "signed")
	c.made(id, put{"kind": "decision", "subject": finding, "path": "declined", "person": "Ms Ley", "note": "no money", "signed": true})
	assert.Contains(t, holds(), "survey: the notice of a dangerous condition: A live part can be touched")
	notice := "/api/jobs/" + id + "/findings/" + finding + "/notice.pdf"
	paper := c.pdf(notice)
	for _, says := range []string{"A live part can be touched", "bare end in the loft", "It is not made safe", "Received by", "Witness"} {
		assert.Contains(t, paper, says)
	}
	c.held(id, put{"kind": "finding-step", "subject": finding, "path": "notice", "person": "Ms Ley"}, 422, "witness")
	c.made(id, put{"kind": "finding-step", "subject": finding, "path": "notice", "person": "Ms Ley", "witness": "Remy Aust"})
	assert.NotContains(t, holds(), "A live part can be touched", "the job goes on elsewhere")
	paper = c.pdf(notice)
	assert.Contains(t, paper, "witness: Remy Aust")
	assert.NotContains(t, paper, "Received by", "it is handed over")
	v = c.made(id, put{"kind": "observation", "subject": "live-exposed", "path": "C3", "evidence": "seen", "note": "a scratched lid"})
	mild := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	for of, status := range map[string]int{mild: 409, "ghost": 404} {
		a := c.do("GET", "/api/jobs/"+id+"/findings/"+of+"/notice.pdf", nil)
		assert.Equal(t, status, a.status, a.text)
	}
	assert.Contains(t, waits(), "we do not put it into service: A live part can be touched")
	pack := c.pdf("/api/jobs/" + id + "/pack")
	for _, says := range []string{"no money", "signed", "Notice of a dangerous condition", "witness: Remy Aust"} {
		assert.Contains(t, pack, says)
	}
	c.held(id, put{"kind": "finding-step", "subject": finding, "path": "made-safe", "note": "capped"}, 422, "person")
	c.made(id, put{"kind": "finding-step", "subject": finding, "path": "made-safe", "note": "capped", "person": "Ms Ley"})
	assert.NotContains(t, waits(), "A live part can be touched")
}

// Damage at the equipment of the operator is reported, with what was seen and the supply number, and tracked until it is closed; nobody declines it.
func TestDamageAtTheOperatorsEquipmentIsReported(t *testing.T) {
	w := serve(t)
	c, dot := w.as("tobias"), w.as("dot")
	const ref = "PW-2044"
	v := c.job(ref)
	id := v.Id
	v = c.made(id, put{"kind": "observation", "subject": "intake-damage", "path": "C1", "evidence": "seen", "place": "cut-out", "note": "lid cracked through"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	photo := c.do("POST", "/api/jobs/"+id+"/photos?subject="+finding, string(pngOf(20, 20)), "Content-Type", "image/png")
	require.Equal(t, 200, photo.status, photo.text)
	holds := func() string {
		out := []string{}
		for _, h := range c.job(ref).View.State.Holds {
			out = append(out, string(h.Stage)+": "+h.What)
		}
		return strings.Join(out, "\n")
	}
	assert.Contains(t, holds(), "survey: the report to the operator: Damage at the operator's equipment, cut-out")
	for _, path := range []string{"declined", "later"} {
		dot.held(id, put{"kind": "decision", "subject": finding, "path": path, "person": "Mr Roake", "note": "no", "signed": true}, 409, "reported to them")
	}
	var sheet struct {
		Letters []desk.Letter `json:"letters"`
	}
	c.do("GET", "/api/jobs/"+id+"/desk", nil).into(t, &sheet)
	said := ""
	for _, l := range sheet.Letters {
		if l.Kind == "damage" {
			for _, f := range l.Facts {
				said += f.Name + ": " + f.Value + "\n"
			}
		}
	}
	for _, fact := range []string{"lid cracked through", "class C1", "photos that go with it: 1", "cut-out"} {
		assert.Contains(t, said, fact)
	}
	assert.NotContains(t, said, "Telephone", "a danger waits for no telephone number")
	c.held(id, put{"kind": "finding-step", "subject": finding, "path": "mended", "note": "new lid"}, 409, "not reported")
	dot.held(id, put{"kind": "finding-step", "subject": finding, "path": "reported", "person": "fault desk"}, 422, "called")
	dot.made(id, put{"kind": "finding-step", "subject": finding, "path": "reported", "person": "fault desk", "called": "2026-05-04T09:30",
		"reference": "F 7-114"})
	assert.NotContains(t, holds(), "the report to the operator")
	assert.Contains(t, holds(), "handover: reported to the operator and not closed: Damage at the operator's equipment")
	c.made(id, put{"kind": "observation", "subject": "intake-damage", "path": "C1", "evidence": "seen", "place": "cut-out", "note": "lid cracked, sooty",
		"supersedes": finding})
	assert.NotContains(t, holds(), "the report to the operator", "a correction is reported already")
	records := c.job(ref).View.Job.Records
	finding = records[len(records)-1].ID
	c.made(id, put{"kind": "finding-step", "subject": finding, "path": "made-safe", "note": "cupboard locked", "person": "Mr Roake"})
	c.made(id, put{"kind": "finding-step", "subject": finding, "path": "mended", "note": "operator put a new cut-out in, F 7-114"})
	assert.NotContains(t, holds(), "Damage at the operator's equipment")
	other := c.made(id, put{"kind": "observation", "subject": "open-way", "path": "C2", "evidence": "seen", "note": "one"})
	c.held(id, put{"kind": "finding-step", "subject": other.View.Job.Records[len(other.View.Job.Records)-1].ID, "path": "reported", "person": "x",
		"called": "2026-05-04T09:30"}, 409, "nothing of it to report")
}

// A finding that is accepted is work of the job with its parts; its step, ticked, says that it is mended.
func TestAnAcceptedFindingIsWorkAndParts(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2044"
	v := c.job(ref)
	id := v.Id
	v = c.made(id, put{"kind": "observation", "subject": "label-missing", "path": "C3", "evidence": "seen", "place": "Board A", "note": "no chart"})
	finding := v.View.Job.Records[len(v.View.Job.Records)-1].ID
	step := "mend-" + finding
	for _, task := range v.View.Tasks {
		assert.NotEqual(t, step, task.ID, "nothing is agreed yet")
	}
	v = c.made(id, put{"kind": "decision", "subject": finding, "path": "accepted", "person": "Mr Roake"})
	assert.Contains(t, taskOf(t, v, step).Title, "Trace and label the circuits")
	ordered := false
	for _, l := range v.View.Take.Lines {
		ordered = ordered || strings.HasSuffix(l.Key, "work:label") && l.Short == 1 && l.Price != nil
	}
	assert.True(t, ordered)
	v = c.made(id, put{"kind": "observation", "subject": "label-missing", "path": "C3", "evidence": "seen", "place": "Board A", "note": "no chart at all",
		"supersedes": finding})
	assert.False(t, taskOf(t, v, step).Done, "a correction keeps the step")
	by := ticks(step, true)
	by["note"] = "traced, chart in the lid"
	c.made(id, by)
	var sheet api.CaseSheet
	c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
	mended := ""
	for _, s := range sheet.Case.Sections {
		for _, f := range s.Findings {
			if f.Kind == "label-missing" {
				mended = f.Mended
			}
		}
	}
	assert.Contains(t, mended, "traced, chart in the lid (Tobias Marrick")
}

// makes gives a job a circuit of a use under the id c1.
func (c *client) makes(v api.JobView, use install.Use) {
	c.Helper()
	k := c.template(v.View.Job.Practice, use)
	k.ID = "c1"
	a := c.part(v, "circuits/c1", k)
	require.Equal(c.T, 200, a.status, a.text)
}

// Asbestos that is not cleared holds whatever touches the element, at whatever stage, and each route through its room; nothing elsewhere.
func TestAsbestosHoldsWhateverTouchesIt(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.walked("PW-9301", "iec230", "PW-2044", "hall: 2 double socket\nattic: double socket, light\nstore: light")
	id := v.Id
	c.makes(v, "ring")
	v = c.read(id)
	attic, hall, store := roomOf(v, "attic").ID, roomOf(v, "hall").ID, roomOf(v, "store").ID
	// The store is reached through the attic.
	room := *v.View.Job.RoomByID(store)
	room.From = attic
	require.Equal(t, 200, c.part(v, "rooms/"+store, room).status)
	c.placeAll(id, func(name string) string { return "c1" })
	v = c.read(id)
	found := v.View.Job.Found
	found.Hazards = []install.Hazard{{Kind: install.SuspectedAsbestos, Place: "textured ceiling", Room: attic}}
	require.Equal(t, 200, c.part(v, "found", found).status)
	v = c.read(id)
	for _, step := range []string{attic + "-boxes", attic + "-fit", "c1-cable"} {
		task := taskOf(t, v, step)
		assert.Contains(t, task.Closed, "textured ceiling", step)
		require.NotNil(t, task.ClosedAt, step)
		assert.Equal(t, working.ExistingLeaf, task.ClosedAt.Leaf)
	}
	assert.NotContains(t, taskOf(t, v, hall+"-boxes").Closed, "textured ceiling")
	v.View.Job.Found.Hazards[0].Clear, v.View.Job.Found.Hazards[0].How = true, "sample 14 clear"
	require.Equal(t, 200, c.part(v, "found", v.View.Job.Found).status)
	assert.NotContains(t, taskOf(t, c.read(id), "c1-cable").Closed, "textured ceiling")
}

// A meter counts as set once its reading and seal are noted; the serial of the one that was found stays. A sealed enclosure gives no step until
// it may be opened, by a reference and a day.
func TestTheMeterAndTheSealAreNoted(t *testing.T) {
	c := serve(t).as("tobias")
	const ref = "PW-2054"
	v := c.job(ref)
	id := v.Id
	by := ticks("service-meter", true)
	by["note"] = "rang the utility"
	assert.Contains(t, taskOf(t, v, "service-meter").Closed, "does not say yet when the meter was set")
	c.held(id, by, 409, "does not say yet when the meter was set")
	supply := v.View.Job.Supply
	was := supply.MeterSerial
	supply.Meter = install.MeterSet{On: "2026-05-04", Serial: "M 2", Out: "10442", Reading: "3", Seal: "S 9"}
	require.Equal(t, 200, c.part(v, "supply", supply).status)
	v = c.job(ref)
	assert.NotContains(t, taskOf(t, v, "service-meter").Closed, "meter was set")
	assert.Equal(t, was, v.View.Job.Supply.MeterSerial)
	assert.Contains(t, c.pdf("/api/jobs/"+id+"/pack"), "taken out at 10442")

	// PW-2050 takes a joint apart in a panel that stays.
	const sealed = "PW-2050"
	v = c.job(sealed)
	chain := v.View.Job.Chain
	panel := chain.Enclosure("panel")
	require.NotNil(t, panel)
	panel.Sealed = install.SealWhole
	require.Equal(t, 200, c.part(v, "chain", chain).status)
	task := taskOf(t, c.job(sealed), "joint-panel")
	assert.Contains(t, task.Closed, "is sealed, or not ours to open")
	c.held(v.Id, ticks("joint-panel", true), 409, "is sealed")
	panel.Unsealed = install.Unsealing{By: "utility, field crew", Reference: "U 4-118"}
	require.Equal(t, 200, c.part(c.job(sealed), "chain", chain).status)
	assert.Contains(t, taskOf(t, c.job(sealed), "joint-panel").Closed, "is sealed", "no day")
	panel.Unsealed.On = "2026-05-04"
	require.Equal(t, 200, c.part(c.job(sealed), "chain", chain).status)
	assert.NotContains(t, taskOf(t, c.job(sealed), "joint-panel").Closed, "is sealed")
}

// Readings are taken point by point: the worst counts, once one names its point every point is read, and the holds and the pack say which.
func TestTheWorstPointCounts(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.walked("PW-9302", "iec230", "PW-2044", "hall: 2 double socket\nstore: double socket")
	id := v.Id
	c.makes(v, "ring")
	c.placeAll(id, func(string) string { return "c1" })
	c.firstFix(c.read(id))
	c.made(id, c.isolates(id))
	v = c.read(id)
	row := rowOf(t, v, "c1", "r1r2")
	require.GreaterOrEqual(t, len(row.Points), 3)
	read := func(n int, ohm float64) api.JobView {
		r := reads("c1", "r1r2", "Ω", ohm)
		r["box"] = row.Points[n].ID
		return c.made(id, r)
	}
	bad := reads("c1", "r1r2", "Ω", 0.4)
	bad["box"] = "ghost"
	c.held(id, bad, 422, "reading.box")
	for _, first := range []string{"ring-r1", "ring-rn", "ring-r2"} {
		if f := rowOf(t, v, "c1", first); f.Expected == nil && f.Unit != "" {
			c.made(id, reads("c1", first, "Ω", 0.5))
		}
	}
	v = read(0, 0.31)
	now := rowOf(t, v, "c1", "r1r2")
	assert.Equal(t, working.Unknown, now.Verdict, "one point is not the circuit")
	assert.Contains(t, now.Summary, "still to be read: "+row.Points[1].Name)
	for n := 1; n < len(row.Points); n++ {
		v = read(n, 0.3+0.01*float64(n))
	}
	worst := len(row.Points) - 1
	now = rowOf(t, v, "c1", "r1r2")
	assert.Equal(t, row.Points[worst].ID, now.Reading.Box)
	assert.Contains(t, now.Summary, "The worst is at "+row.Points[worst].Name)
	over := put{"kind": "reading", "subject": "r1r2", "circuit": "c1", "unit": "Ω", "overRange": true, "instrument": "MFT 1", "box": row.Points[1].ID}
	v = c.made(id, over)
	assert.Equal(t, working.Fail, rowOf(t, v, "c1", "r1r2").Verdict, "the worst counts, though another point is good")
	failed := []string{}
	for _, h := range v.View.State.Holds {
		failed = append(failed, h.What)
	}
	assert.Contains(t, strings.Join(failed, "\n"), "failed at "+row.Points[1].Name)
	pack := c.pdf("/api/jobs/" + id + "/pack")
	assert.Contains(t, pack, "Point by point")
	assert.Contains(t, pack, "the worst")
}

// Steps are put to people of the company, as many as they take, and one of them such as may say that it is done.
func TestStepsArePutToWhoMay(t *testing.T) {
	w := serve(t)
	tobias := w.as("tobias")
	for _, ref := range []string{"PW-2038", "PW-2054"} {
		v := tobias.job(ref)
		one := func(kind install.StepKind, crew int) string {
			for _, task := range v.View.Tasks {
				if task.Kind == kind && task.Crew == crew && !task.Done && task.Others == "" {
					return task.ID
				}
			}
			require.Fail(t, "no such step", "%s %s of %d", ref, kind, crew)
			return ""
		}
		two := 0 // people, where the step is given another number
		put := func(task, who string) answer {
			plan := v.View.Job.Plan
			plan.Tasks = map[string]install.TaskEdit{task: {Who: who, Crew: two}}
			a := tobias.part(v, "plan", plan)
			v = tobias.job(ref)
			return a
		}
		connects := one(install.ConnectingStep, 1)
		for who, says := range map[string]string{"Nobody At All": "people of the company by name", "Remy Stroud": "no apprentice",
			"Dot Farley": "no apprentice"} {
			a := put(connects, who)
			require.Equal(t, 422, a.status, "%s: %s", who, a.text)
			assert.Contains(t, a.text, "plan.tasks["+connects+"].who")
			assert.Contains(t, a.text, says, who)
		}
		two = 2
		for _, who := range []string{"Jana Okell", "Jana Okell, Jana Okell"} {
			a := put(connects, who)
			require.Equal(t, 422, a.status, "%s: %s", who, a.text)
			assert.Contains(t, a.text, "2 people, as the step takes")
		}
		require.Equal(t, 200, put(connects, "Remy Stroud, Jana Okell").status)
		assert.Equal(t, "Remy Stroud, Jana Okell", taskOf(t, v, connects).Who)
	}
}

// What the design fails is not ordered as it is; what came is never refused, and what was ordered before stays.
func TestWhatTheDesignFailsIsNotOrdered(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, ref := range map[string]string{"iec230": "PW-2052", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			v := c.job(ref)
			require.Equal(t, practice, v.View.Job.Practice)
			held := func() (key string, why *materials.Held) {
				for _, l := range c.job(ref).View.Take.Lines {
					if l.Held != nil {
						return l.Key, l.Held
					}
				}
				return "", nil
			}
			k := v.View.Job.Circuits[0]
			fits := k.Protection
			if key, why := held(); why != nil {
				require.NotEqual(t, k.ID, why.Circuit, key)
			}
			k.Protection.RatingA = 100
			was := v.View.Job.Circuits[0].Route
			require.Equal(t, 200, c.part(v, "circuits/"+k.ID, k).status)
			var line *materials.Line
			for _, l := range c.job(ref).View.Take.Lines {
				if l.Held != nil && l.Held.Circuit == k.ID {
					line = &l
					break
				}
			}
			require.NotNil(t, line, "what is of it is held")
			assert.Contains(t, line.Held.Why, "Not ordered while")
			put := func(s install.Stock) answer {
				m := c.job(ref).View.Job.Materials
				m.Lines = maps.Clone(m.Lines)
				if m.Lines == nil {
					m.Lines = map[string]install.Stock{}
				}
				m.Lines[line.Key] = s
				return c.part(c.job(ref), "materials", m)
			}
			a := put(install.Stock{Ordered: max(line.Ordered, line.Free) + 3})
			require.Equal(t, 422, a.status, a.text)
			assert.Contains(t, a.text, "materials.lines["+line.Key+"].ordered")
			assert.Contains(t, a.text, "Not ordered while")
			require.Equal(t, 200, put(install.Stock{Ordered: line.Ordered, Delivered: 2}).status, "what came came")
			k.Protection, k.Route = fits, was
			require.Equal(t, 200, c.part(c.job(ref), "circuits/"+k.ID, k).status)
			for _, l := range c.job(ref).View.Take.Lines {
				if l.Held != nil {
					assert.NotEqual(t, k.ID, l.Held.Circuit, l.Name)
				}
			}
		})
	}
}
