package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/materials"
)

// Boxes by what enters them, plates by the finish of the room, a fan with its duct: what the walk and the runs say reaches the order, its
// price and the steps, and a finish that the list has no price of leaves the price open.
func TestBoxesPlatesAndFansReachTheOrder(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, box, plated, duct string }{
		"iec230":   {"PW-9400", "PW-2052", wholeWalk230, "box:2g 35", "point:socket-2", "air-duct:100"},
		"split120": {"PW-9401", "PW-2054", wholeWalk120, "box:single gang:", "plate:duplex", "air-duct:4in"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		list := func() (lines []materials.Line) { return c.job(x.ref).View.Take.Lines }
		find := func(begins string) *materials.Line {
			all := list()
			if i := slices.IndexFunc(all, func(l materials.Line) bool { return strings.HasPrefix(l.Key, begins) }); i >= 0 {
				return &all[i]
			}
			return nil
		}
		box := find(x.box)
		require.NotNil(t, box, x.box)
		assert.False(t, box.Assumed, "its points stand on runs")
		white := find(x.plated)
		require.NotNil(t, white, x.plated)
		require.NotNil(t, white.Price)

		room := *roomOf(v, "kitchen")
		bad := room
		bad.Finish = "gold leaf"
		a := c.part(v, "rooms/"+room.ID, bad)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "gold leaf")
		assert.Contains(t, a.text, "brass")
		room.Finish = install.Brass
		room.Points = append(slices.Clone(room.Points), install.RoomPoint{ID: "fan-new", Kind: "fan", Count: 1, State: install.New, DuctM: 2.5})
		a = c.part(v, "rooms/"+room.ID, room)
		require.Equal(t, 200, a.status, a.text)
		brass := find("finish:brass:" + x.plated)
		require.NotNil(t, brass)
		assert.Nil(t, brass.Price)
		assert.InDelta(t, white.Need, brass.Need+find(x.plated).Need, 1e-9, "none lost, none doubled")
		duct := find(x.duct)
		require.NotNil(t, duct)
		own := slices.IndexFunc(duct.Asks, func(a materials.Ask) bool { return a.By.Room == room.ID })
		require.GreaterOrEqual(t, own, 0)
		assert.False(t, duct.Asks[own].Assumed, "it was measured")
		take := c.job(x.ref).View.Take
		assert.Nil(t, take.Total)
		assert.True(t, slices.ContainsFunc(take.Gaps, func(g materials.Gap) bool {
			return strings.Contains(g.What, "on no circuit yet: 1.")
		}), "the fan is on none: %v", take.Gaps)
		steps := map[string]bool{}
		for _, s := range c.job(x.ref).View.Tasks {
			steps[s.ID] = true
		}
		for _, l := range list() {
			for _, a := range l.Asks {
				for _, step := range a.Steps {
					assert.True(t, steps[step], "%s: no step %s on the plan", l.Key, step)
				}
			}
		}

		// The house is of steel but for that room; in a room that says white it is white.
		m := c.job(x.ref).View.Job.Materials
		m.Finish = install.Steel
		require.Equal(t, 200, c.part(c.job(x.ref), "materials", m).status)
		assert.NotNil(t, find("finish:steel:"+x.plated))
		assert.Nil(t, find(x.plated))
		assert.InDelta(t, brass.Need, find("finish:brass:"+x.plated).Need, 0)
		assert.Equal(t, practice == "iec230", find("earth-tail") != nil)
	}
}
