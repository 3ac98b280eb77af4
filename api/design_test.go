package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/design"
	"arvelt/core/install"
)

const (
	wholeWalk230 = `hall g: 2 double socket, 3 light, smoke alarm
parlour g: 6 double socket, 2 light
kitchen g: 8 double socket, cooker 9kW, hood, dishwasher, 6 downlight, heat alarm
scullery g: 3 double socket, washer, light, water heater 3kW
landing up: double socket, 2 light, smoke alarm
front bedroom up: 5 double socket, light
bathroom up: shaver, 3 downlight, extractor, shower 9kW`
	wholeWalk120 = `hall: 2 duplex, 3 light, smoke alarm
den: 6 duplex, 2 light
kitchen: 8 duplex, range 9kW, dishwasher, 6 recessed light
laundry: 2 duplex, washer, dryer, light, water heater 4500W
landing up: duplex, 2 light, smoke alarm
front bedroom up: 5 duplex, light
bathroom up: 2 duplex, 3 recessed light, exhaust fan`
)

// The walk becomes the design: circuits are proposed for its points, taken one by one and whole, in one step each, and demand, order, tests,
// steps, what goes dark and the papers follow from them; what is measured and decided stays, in both practices.
func TestTheWalkBecomesTheDesign(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk string }{
		"iec230":   {"PW-9330", "PW-2052", wholeWalk230},
		"split120": {"PW-9331", "PW-2054", wholeWalk120},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		id := v.Id
		main := v.View.Job.Board
		main.Ways = ways(30)
		require.Equal(t, 200, c.part(v, "board", main).status)
		proposed := func() (p design.Proposal) {
			a := c.do("GET", "/api/jobs/"+id+"/design", nil)
			require.Equal(t, 200, a.status, a.text)
			a.into(t, &p)
			return p
		}
		take := func(tag string, circuits ...string) answer {
			return c.do("POST", "/api/jobs/"+id+"/design", put{"tag": tag, "circuits": circuits})
		}
		p := proposed()
		require.Greater(t, len(p.Circuits), 7)
		assert.Empty(t, p.Left)
		for _, k := range p.Circuits {
			assert.Empty(t, k.Fails, k.Name)
			assert.Positive(t, k.Way, k.Name)
		}
		require.Empty(t, c.read(id).View.Job.Circuits, "looking takes nothing")

		// One of them, then a leg of it is measured; the others leave it as it is.
		first := p.Circuits[0]
		require.Equal(t, 200, take(p.Tag, first.ID).status)
		v = c.read(id)
		require.Len(t, v.View.Job.Circuits, 1)
		k := v.View.Job.Circuits[0]
		require.Len(t, k.Serves.Boxes, len(first.Stops))
		c.runs(id, install.RunChange{Do: install.SetLeg, Circuit: k.ID, Box: k.Serves.Boxes[0].ID, LengthM: 4.25, Basis: install.Measured})
		for says, a := range map[string]answer{
			"something has changed": take(p.Tag, p.Circuits[1].ID),
			"at least one circuit":  take(proposed().Tag),
			"a circuit of the":      take(proposed().Tag, first.ID),
		} {
			assert.Equal(t, 422, a.status, says)
			assert.Contains(t, a.text, says)
		}
		p = proposed()
		all := []string{}
		for _, k := range p.Circuits {
			assert.NotEqual(t, first.Name, k.Name)
			all = append(all, k.ID)
		}
		a := take(p.Tag, all...)
		require.Equal(t, 200, a.status, a.text)
		v = c.read(id)
		require.Len(t, v.View.Job.Circuits, len(all)+1)
		assert.Equal(t, 4.25, v.View.Job.Circuits[0].Route.Segments[0].LengthM)
		a = c.do("POST", "/api/jobs/"+id+"/undo", put{"command": "", "free": false})
		require.Equal(t, 200, a.status, a.text)
		require.Len(t, c.read(id).View.Job.Circuits, 1, "one undo takes all of it back")
		again := proposed()
		require.Equal(t, p, again)
		require.Equal(t, 200, take(again.Tag, all...).status)

		v = c.read(id)
		sheet := c.circuitsOf(id)
		assert.Empty(t, sheet.Unplaced)
		assert.Empty(t, proposed().Circuits)
		for _, check := range sheet.Report.Checks() {
			assert.False(t, check.Circuit != "" && check.Verdict == "fail" && !check.Outside, "%s: %s", check.Title, check.Summary)
		}
		assert.Positive(t, sheet.Report.Circuit(first.ID).Summary.DesignA)
		assert.NotEmpty(t, v.View.Take.Lines)
		tests, steps := map[string]bool{}, 0
		for _, r := range v.View.Tests.Rows {
			tests[r.Circuit] = true
		}
		for _, s := range v.View.Tasks {
			if strings.HasSuffix(s.ID, "-cable") {
				steps++
			}
		}
		for _, k := range v.View.Job.Circuits {
			assert.True(t, tests[k.ID], "%s is tested: %v", k.Name, tests)
		}
		assert.Equal(t, len(all)+1, steps)
		rooms := 0
		for _, d := range c.darkOf(id).Devices {
			rooms = max(rooms, len(d.Rooms))
		}
		assert.Equal(t, 7, rooms, "the main switch darkens every room")
		pack := c.pdf("/api/jobs/" + id + "/pack")
		for _, k := range v.View.Job.Circuits {
			assert.Contains(t, strings.ReplaceAll(pack, "\n", " "), k.Name)
		}
	}
	dot := w.as("dot")
	v := c.job("PW-9330")
	a := dot.do("POST", "/api/jobs/"+v.Id+"/design", put{"tag": "x", "circuits": []string{"c1"}})
	assert.Equal(t, 403, a.status, "the office designs nothing")
}
