package api_test

import (
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/dark"
	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// circuitsOf is the Circuits sheet of a job.
func (c *client) circuitsOf(id string) (sheet api.CircuitsSheet) {
	c.T.Helper()
	a := c.do("GET", "/api/jobs/"+id+"/circuits", nil)
	require.Equal(c.T, 200, a.status, a.text)
	a.into(c.T, &sheet)
	return sheet
}

// darkOf is what goes dark by each device of a job.
func (c *client) darkOf(id string) (r dark.Report) {
	c.T.Helper()
	a := c.do("GET", "/api/jobs/"+id+"/dark", nil)
	require.Equal(c.T, 200, a.status, a.text)
	a.into(c.T, &r)
	return r
}

// runs does one thing to the runs of a job.
func (c *client) runs(id string, ch install.RunChange) {
	c.T.Helper()
	a := c.do("POST", "/api/jobs/"+id+"/runs", ch)
	require.Equal(c.T, 200, a.status, "%+v: %s", ch, a.text)
}

// walked is a job of two floors with their points, and circuits of templates that none of them stands on yet.
func (c *client) walked(ref, practice, like, walk string, templates ...string) api.JobView {
	c.T.Helper()
	a := c.do("POST", "/api/jobs", put{"ref": ref, "title": "House of two floors", "kind": "rewire", "practice": practice,
		"customer": "Oda Brill", "address": "3 Tallow Court", "town": "Tarrowick"})
	require.Equal(c.T, 201, a.status, a.text)
	require.Equal(c.T, 200, c.part(c.job(ref), "supply", c.job(like).View.Job.Supply).status)
	a = c.do("POST", "/api/jobs/"+c.job(ref).Id+"/walk", put{"text": walk})
	require.Equal(c.T, 200, a.status, a.text)
	var terms struct{ Defaults []install.Circuit }
	c.do("GET", "/api/terms?practice="+practice, nil).into(c.T, &terms)
	for n, template := range templates {
		i := slices.IndexFunc(terms.Defaults, func(k install.Circuit) bool { return k.Name == template })
		require.GreaterOrEqual(c.T, i, 0, template)
		k := terms.Defaults[i]
		k.ID = "c" + string(rune('1'+n))
		a := c.part(c.job(ref), "circuits/"+k.ID, k)
		require.Equal(c.T, 200, a.status, a.text)
	}
	return c.job(ref)
}

func (c *client) placeAll(id string, on func(name string) string) {
	c.T.Helper()
	for _, u := range c.circuitsOf(id).Unplaced {
		var k *install.Circuit
		v := c.read(id)
		if k = v.View.Job.CircuitByID(on(u.Name)); k == nil {
			continue
		}
		ch := install.RunChange{Do: install.PlacePoint, Circuit: k.ID, Room: u.Room, Point: u.Point}
		ch.After, ch.Before = k.Serves.End()
		c.runs(id, ch)
	}
}

func (c *client) read(id string) (v api.JobView) {
	c.T.Helper()
	c.do("GET", "/api/jobs/"+id, nil).into(c.T, &v)
	return v
}

func reportOf(c *client, id, circuit string) rulebook.CircuitReport {
	s := c.circuitsOf(id)
	return s.Report.Circuit(circuit)
}

func stopsOf(s api.CircuitsSheet, circuit string) map[string]rulebook.StopReport {
	out := map[string]rulebook.StopReport{}
	for _, r := range s.Report.Circuit(circuit).Run {
		out[r.ID] = r
	}
	return out
}

const twoFloors = `hall g: 2 double socket, 2 light
parlour g: 4 double socket, light
landing f1: double socket, light, smoke alarm
bedroom f1: 3 double socket, light, data`

// The main job: points of the walk become runs; one leg is measured, one point moves to another circuit, one device is opened, and
// every sheet follows; one undo takes a move back on both circuits.
func TestPointsBecomeRunsAndEverySheetFollows(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.walked("PW-9100", "iec230", "PW-2052", twoFloors, "Ring final circuit", "Lighting", "Radial socket circuit of 20 A")
	id := v.Id
	names := []string{}
	for _, u := range c.circuitsOf(id).Unplaced {
		names = append(names, u.Name)
	}
	assert.NotContains(t, strings.Join(names, ","), "data", "extra-low voltage stands on no circuit of the mains")
	c.placeAll(id, func(name string) string {
		return map[string]string{"double socket-outlet": "c1", "lighting point": "c2", "smoke alarm": "c2"}[name]
	})
	s := c.circuitsOf(id)
	assert.Empty(t, s.Unplaced)
	k := c.read(id).View.Job.CircuitByID("c1")
	require.Len(t, k.Serves.Boxes, 10)
	assert.Equal(t, k.Serves.Boxes[9].ID, k.Serves.Back, "a ring comes back from its last point")
	for _, r := range s.Report.Circuit("c1").Run {
		assert.Nil(t, r.R1R2, "where nobody knows how much cable lies between the points nothing is known at them")
	}

	// The legs of the ring, one measured: the figures follow, the worst point has a name, and the test sheet names it.
	c.runs(id, install.RunChange{Do: install.DivideRoute, Circuit: "c1"})
	before := reportOf(c, id, "c1").Summary.R1R2Cold
	c.runs(id, install.RunChange{Do: install.SetLeg, Circuit: "c1", Box: k.Serves.Boxes[4].ID, LengthM: 14, Basis: install.Measured})
	s = c.circuitsOf(id)
	assert.Greater(t, s.Report.Circuit("c1").Summary.R1R2Cold, before)
	worst := ""
	for _, r := range s.Report.Circuit("c1").Run {
		require.NotNil(t, r.ZsHot)
		assert.Contains(t, r.By, "B32")
		if r.Worst {
			worst = r.Label
			assert.InDelta(t, s.Report.Circuit("c1").Summary.ZsHot, *r.ZsHot, 1e-9, "the check is of that point")
		}
	}
	require.NotEmpty(t, worst)
	where := ""
	for _, row := range c.read(id).View.Tests.Rows {
		if row.ID == "r1r2" && row.Circuit == "c1" {
			where = row.Where
		}
	}
	assert.Contains(t, where, worst)
	a := c.do("GET", "/api/jobs/"+id+"/runs?circuit=c1", nil)
	require.Equal(t, 200, a.status, a.text)
	assert.Contains(t, a.text, "a × b / (a + b)", "the working has the textbook's form")
	assert.Equal(t, 404, c.do("GET", "/api/jobs/"+id+"/runs?circuit=c9", nil).status)

	// One point moves to another circuit: both follow, materials and the drawing of what goes dark too.
	cable := func() (m float64) {
		for _, l := range c.read(id).View.Take.Lines {
			for _, a := range l.Asks {
				if a.By.Circuit == "c1" && l.ByLength {
					m += a.Need
				}
			}
		}
		return m
	}
	was := cable()
	moved := k.Serves.Boxes[9].ID
	c.runs(id, install.RunChange{Do: install.MoveBox, Circuit: "c1", Box: moved, To: "c3"})
	s = c.circuitsOf(id)
	assert.Len(t, s.Report.Circuit("c1").Run, 9)
	assert.Len(t, s.Report.Circuit("c3").Run, 1)
	assert.InDelta(t, was, cable(), 0.01, "the cable that came to it goes back to the board")
	open := func(device string) []string {
		out := []string{}
		for _, d := range c.darkOf(id).Devices {
			if d.ID == device {
				for _, r := range d.Rooms {
					out = append(out, r.Name)
				}
			}
		}
		return out
	}
	assert.Equal(t, []string{"bedroom"}, open("circuit:c3"))
	assert.Equal(t, []string{"hall", "parlour", "landing", "bedroom"}, open("circuit:c2"))
	require.Equal(t, 200, c.do("POST", "/api/jobs/"+id+"/undo", put{"command": "", "free": false}).status)
	assert.Equal(t, []string{"elsewhere"}, open("circuit:c3"), "nothing stands on its run")
	assert.Len(t, reportOf(c, id, "c1").Run, 10, "one undo puts it back on its ring")

	// A leg that nobody knows: nothing of the circuit is reckoned from what is known of the others, and its cable is said to be short.
	c.runs(id, install.RunChange{Do: install.MoveBox, Circuit: "c1", Box: moved, To: "c3"})
	c.runs(id, install.RunChange{Do: install.MoveBox, Circuit: "c1", Box: k.Serves.Boxes[8].ID, To: "c3", After: moved})
	two := reportOf(c, id, "c3")
	assert.Zero(t, two.Summary.R1R2Cold)
	assert.Zero(t, two.Summary.LengthM)
	assert.NotNil(t, two.Run[0].R1R2)
	assert.Nil(t, two.Run[1].R1R2)
	assert.Contains(t, gapsOf(c.read(id)), "the cable is short by the legs to "+two.Run[1].Label)
	for range 2 {
		require.Equal(t, 200, c.do("POST", "/api/jobs/"+id+"/undo", put{"command": "", "free": false}).status)
	}

	// A joint is no point, a ring that is broken is two radials, and what is on a circuit holds its room.
	c.runs(id, install.RunChange{Do: install.InsertJoint, Circuit: "c1", After: k.Serves.Boxes[1].ID, Before: k.Serves.Boxes[2].ID, RatingA: 32})
	c.runs(id, install.RunChange{Do: install.BreakRing, Circuit: "c1", Box: k.Serves.Boxes[5].ID})
	v = c.read(id)
	assert.Equal(t, install.Use("sockets"), v.View.Job.CircuitByID("c1").Use)
	assert.Equal(t, 10, v.View.Job.CircuitByID("c1").Serves.Points())
	room := v.View.Job.Rooms[0]
	a = c.do("DELETE", "/api/jobs/"+id+"/parts?part=rooms/"+room.ID+"&base="+strconv.Itoa(v.Versions["rooms/"+room.ID]), nil)
	assert.Equal(t, 409, a.status)
	assert.Contains(t, a.text, "Take it off the run first")

	// Rooms fit their points: the circuit has no second step for the same ones.
	for _, task := range v.View.Tasks {
		assert.NotEqual(t, "c1-point", task.ID)
	}
}

// The bad input of runs: each is refused with what would be accepted, and nothing of it is kept.
func TestWhatARunCannotBeIsRefusedWithItsReason(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.walked("PW-9101", "iec230", "PW-2052", twoFloors, "Ring final circuit", "Lighting")
	id := v.Id
	c.placeAll(id, func(name string) string { return map[string]string{"double socket-outlet": "c1"}[name] })
	v = c.read(id)
	version := v.Version
	refused := func(ch put, field, accepts string) {
		t.Helper()
		a := c.do("POST", "/api/jobs/"+id+"/runs", ch)
		require.Equal(t, 422, a.status, a.text)
		assert.Contains(t, a.text, field)
		assert.Contains(t, a.text, accepts)
	}
	refused(put{"do": "off", "circuit": "c1", "box": "p99"}, "run.box", "a box of")
	refused(put{"do": "wiggle", "circuit": "c1"}, "run.do", "place, move, joint")
	refused(put{"do": "place", "circuit": "c2", "room": v.View.Job.Rooms[0].ID, "point": v.View.Job.Rooms[0].Points[0].ID}, "run.count", "stand on a run")
	refused(put{"do": "leg", "circuit": "c1", "box": "p1", "lengthM": 0}, "run.lengthM", "or more")
	refused(put{"do": "split", "circuit": "c1", "box": "p3"}, "run.box", "break the ring first")
	a := w.as("remy").do("POST", "/api/jobs/"+id+"/runs", put{"do": "divide", "circuit": "c1"})
	assert.Equal(t, 403, a.status, a.text)

	body := func(change func(k *install.Circuit)) install.Circuit {
		k := *v.View.Job.CircuitByID("c1")
		k.Serves.Boxes, k.Route.Segments = slices.Clone(k.Serves.Boxes), slices.Clone(k.Route.Segments)
		change(&k)
		return k
	}
	for field, change := range map[string]func(k *install.Circuit){
		"serves.back":          func(k *install.Circuit) { k.Serves.Back = "" },
		"serves.boxes[1].from": func(k *install.Circuit) { k.Serves.Boxes[1].From = "p9" },
		"route.segments[0].to": func(k *install.Circuit) { k.Route.Segments[0].To = "p77" },
		"serves.boxes[1].tag":  func(k *install.Circuit) { k.Serves.Boxes[1].Tag = 1 },
		"serves.boxes[0].device": func(k *install.Circuit) {
			k.Serves.Boxes[0].Device = "gfci" // of the other practice
		},
		"circuits/c1.from": func(k *install.Circuit) { k.From = "c1" },
	} {
		a := c.part(v, "circuits/c1", body(change))
		assert.Equal(t, 422, a.status, field)
		assert.Contains(t, a.text, field)
	}
	two := *v.View.Job.CircuitByID("c2")
	two.Protection.Way = 3
	require.Equal(t, 200, c.part(v, "circuits/c2", two).status)
	a = c.part(c.read(id), "circuits/c1", body(func(k *install.Circuit) { k.Protection.Way = 3 }))
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "protection.way")
	assert.Equal(t, version+1, c.read(id).Version, "only what was accepted is kept")

	// An imported file is told all of it at once.
	job := c.read(id).View.Job
	job.Ref, job.Circuits[0].From, job.Circuits[0].Protection.Way = "PW-9102", "c1", 3
	var file strings.Builder
	require.NoError(t, handover.Write(&file, job))
	a = c.do("POST", "/api/jobs/import", file.String())
	require.Equal(t, 422, a.status, a.text)
	assert.Contains(t, a.text, "circuits/c1.from")
}

// The split-phase practice: a run of outlets knows what its own devices open, its figures are in feet, and what its circuits list the
// walk does not list again.
func TestARunOfTheSplitPhasePractice(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.walked("PW-9103", "split120", "PW-2054", "den: 4 duplex\nbedroom: 2 duplex, ceiling light", "Receptacles of 20 A")
	id := v.Id
	c.placeAll(id, func(string) string { return "c1" })
	k := *c.read(id).View.Job.CircuitByID("c1")
	require.Len(t, k.Serves.Boxes, 7)
	assert.Equal(t, "living", k.Serves.Boxes[0].Place, "the kind of room says the kind of place")
	assert.Equal(t, install.Luminaire, k.Serves.Boxes[6].Device)
	k.Serves.Boxes = slices.Clone(k.Serves.Boxes)
	k.Serves.Boxes[2].Device, k.Serves.Boxes[2].Feed = install.GroundFault, install.LineSide
	for i := 3; i < 7; i++ {
		k.Serves.Boxes[i].Side = install.LoadSide
	}
	a := c.part(c.read(id), "circuits/c1", k)
	require.Equal(t, 200, a.status, a.text)
	c.runs(id, install.RunChange{Do: install.DivideRoute, Circuit: "c1"})
	s := c.circuitsOf(id)
	stops := stopsOf(s, "c1")
	assert.Len(t, stops[k.Serves.Boxes[2].ID].Protects, 4, "what hangs on its load terminals")
	assert.Contains(t, strings.Join(stops[k.Serves.Boxes[4].ID].By, ";"), "the ground-fault outlet at P003")
	assert.NotContains(t, strings.Join(stops[k.Serves.Boxes[1].ID].By, ";"), "ground-fault")
	last := stops[k.Serves.Boxes[6].ID]
	require.NotNil(t, last.DropPc)
	assert.True(t, last.Worst)
	outlets := 0.0
	for _, l := range c.read(id).View.Take.Lines {
		if strings.Contains(l.Key, "outlet:") || strings.Contains(l.Key, "point:socket") {
			outlets += l.Need
		}
	}
	assert.InDelta(t, 6, outlets, 0, "each outlet is bought once")
	devices := c.darkOf(id).Devices
	i := slices.IndexFunc(devices, func(d dark.Device) bool { return d.ID == "box:c1/"+k.Serves.Boxes[2].ID })
	require.GreaterOrEqual(t, i, 0)
	points := 0
	for _, r := range devices[i].Rooms {
		points += len(r.Points)
	}
	assert.Equal(t, 5, points, "itself and the four on its load terminals")
}

// gapsOf is what of a job cannot be put on the order list yet.
func gapsOf(v api.JobView) string {
	out := []string{}
	for _, g := range v.View.Take.Gaps {
		out = append(out, g.What)
	}
	return strings.Join(out, ";")
}
