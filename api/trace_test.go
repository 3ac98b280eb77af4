package api_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
)

// Circuits that are there are traced: what goes dead with a device comes onto its run, partings and cables tell the order as far as they do,
// and what nobody tried stays open, in both practices.
func TestCircuitsAreTraced(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	for practice, x := range map[string]struct {
		ref, like, walk string
		use             install.Use
	}{
		"iec230":   {"PW-9380", "PW-2052", "study g: = 3 double socket\nhall g: = double socket, = light", "sockets"},
		"split120": {"PW-9381", "PW-2054", "study: = 3 duplex\nhall: = duplex, = light", "general"},
	} {
		v := w.as("tobias").walked(x.ref, practice, x.like, x.walk)
		id := v.Id
		main := v.View.Job.Board
		main.Ways = ways(8)
		parts := put{"board": main}
		for i, name := range []string{"c1", "c2"} {
			k := c.template(practice, x.use)
			k.ID, k.Name, k.State, k.Protection.Way = name, []string{"Left", "Right"}[i], install.KeptCircuit, i+1
			parts["circuits/"+name] = k
		}
		a := w.as("tobias").together(x.ref, "what is there", parts)
		require.Equal(t, 200, a.status, a.text)
		study, hall := roomOf(v, "study"), roomOf(v, "hall")
		of := func(r *install.Room, n, dead, live int) put {
			return put{"room": r.ID, "point": r.Points[n].ID, "dead": dead, "live": live}
		}
		trace := func(circuit, box string, traced ...put) put {
			return put{"kind": "trace", "circuit": circuit, "subject": box, "traced": traced, "instrument": "Tarn V2"}
		}
		tracing := func() survey.Tracing {
			var sheet struct{ Tracing survey.Tracing }
			c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
			return sheet.Tracing
		}
		left := func() *survey.TracedCircuit { // the two came in no order
			all := tracing().Circuits
			return &all[slices.IndexFunc(all, func(k survey.TracedCircuit) bool { return k.ID == "c1" })]
		}
		assert.Equal(t, 5, tracing().Open)
		c.held(id, trace("c9", "", of(study, 0, 1, 0)), 422, "circuit")
		c.held(id, trace("c1", "", of(study, 0, 3, 1)), 422, "traced")
		c.held(id, trace("c1", "p77", put{"box": "p77", "dead": 1, "live": 0}), 422, "subject")
		c.held(id, trace("c1", ""), 422, "traced")

		c.made(id, trace("c1", "", of(study, 0, 3, 0), of(hall, 0, 1, 0), of(hall, 1, 0, 1)))
		v = c.read(id)
		k := v.View.Job.CircuitByID("c1")
		require.Len(t, k.Serves.Boxes, 4, "what went dead is on its run")
		assert.Empty(t, v.View.Job.CircuitByID("c2").Serves.Boxes)
		assert.Equal(t, 1, tracing().Open)
		assert.Contains(t, tracing().Next, "Right")

		// Parted at the second and at the last, as they are walked: the order is told whole but for none.
		truth := []string{k.Serves.Boxes[2].ID, k.Serves.Boxes[0].ID, k.Serves.Boxes[3].ID, k.Serves.Boxes[1].ID}
		behind := func(n int) []put {
			out := []put{}
			for i, box := range truth {
				if i != n {
					out = append(out, put{"box": box, "dead": map[bool]int{true: 1}[i > n], "live": map[bool]int{true: 1}[i < n]})
				}
			}
			return out
		}
		c.made(id, trace("c1", truth[1], behind(1)...))
		open := left()
		assert.Len(t, open.Order, 3, "one, then the parted one, then two whose order is open")
		assert.Contains(t, open.Tells, "is not known")
		c.made(id, trace("c1", truth[2], behind(2)...))
		order, ok := func() ([]string, bool) { return left().Known() }()
		require.True(t, ok)
		assert.Equal(t, truth, order)
		k = c.read(id).View.Job.CircuitByID("c1")
		at := ""
		for _, id := range truth {
			assert.Equal(t, at, k.Serves.BoxByID(id).From, "its run stands in that order")
			at = id
		}
		c.made(id, trace("c2", "", of(hall, 1, 1, 0)))
		assert.Zero(t, tracing().Open)
		assert.Len(t, c.read(id).View.Job.CircuitByID("c2").Serves.Boxes, 1)
	}
}
