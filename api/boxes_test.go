package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/survey"
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

// Lamps are bought by cap, colour and power; two colours in one room are asked about once, and what lies in the stock serves only where it is
// the same lamp.
func TestLampsOfOneRoomAreAlike(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, cap, other string }{
		"iec230":   {"PW-9410", "PW-2052", "study g: 2 light, wall light, double socket", "E27", "E26"},
		"split120": {"PW-9411", "PW-2054", "study g: 2 light, wall light, duplex", "E26", "E27"},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		room := *roomOf(v, "study")
		room.Points = slices.Clone(room.Points)
		lamp := install.Lamp{Cap: x.other, ColourK: 2700, PowerW: 8}
		room.Points[0].Lamp = lamp
		a := c.part(v, "rooms/"+room.ID, room)
		assert.Equal(t, 422, a.status, "not of this practice")
		assert.Contains(t, a.text, x.cap)
		lamp.Cap = x.cap
		room.Points[0].Lamp, room.Points[1].Lamp = lamp, lamp
		room.Points[1].Lamp.ColourK = 4000
		a = c.part(v, "rooms/"+room.ID, room)
		require.Equal(t, 200, a.status, a.text)
		asked := func() bool {
			return slices.ContainsFunc(c.job(x.ref).View.Walk.Questions, func(q survey.Question) bool {
				return strings.Contains(q.Asks, "2700\u00a0K, 4000\u00a0K in one room")
			})
		}
		assert.True(t, asked())
		room.Answered = map[string]string{"lamp-colours": "the wall light is for reading"}
		require.Equal(t, 200, c.part(c.job(x.ref), "rooms/"+room.ID, room).status)
		assert.False(t, asked(), "once")
		v = c.job(x.ref)
		assert.InDelta(t, 2, lineOf(t, v, "lamp:"+x.cap+":2700:8").Order, 0)
		assert.InDelta(t, 1, lineOf(t, v, "lamp:"+x.cap+":4000:8").Order, 0)

		for _, k := range []string{"2700:8", "3000:8"} {
			a = c.do("POST", "/api/stock", put{"product": "lamp:" + x.cap + ":" + k, "name": "Lamps", "unit": "pcs", "byLength": false, "count": 5,
				"place": "Van 1"})
			require.Equal(t, 200, a.status, a.text)
		}
		offers := c.shelf(v.Id).Offers
		of := slices.IndexFunc(offers, func(o materials.OfStock) bool { return o.Kept.Product == "lamp:"+x.cap+":2700:8" })
		require.GreaterOrEqual(t, of, 0)
		assert.InDelta(t, 2, offers[of].Take, 0)
		assert.False(t, slices.ContainsFunc(offers, func(o materials.OfStock) bool { return strings.HasSuffix(o.Kept.Product, ":3000:8") }))
	}
}

// What is joined in the boxes of a design is on its order, by kind and number of conductors; the way of the house and what stands in a box change
// it, a joint box brings its own, and the steps that fit the points take it.
func TestConnectorsReachTheOrder(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, way, other string }{
		"iec230":   {"PW-9420", "PW-2052", wholeWalk230, "lever", "screw"},
		"split120": {"PW-9421", "PW-2054", wholeWalk120, "twist", "lever"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		bought := func() (n float64, kinds int) {
			for _, l := range c.job(x.ref).View.Take.Lines {
				if !strings.HasPrefix(l.Key, "connector:") {
					continue
				}
				kinds++
				n += l.Need
				assert.NotNil(t, l.Price, l.Key)
				for _, a := range l.Asks {
					assert.NotEmpty(t, a.By.Circuit)
					assert.NotEmpty(t, a.Steps, "%s: no step takes it", l.Key)
				}
			}
			return n, kinds
		}
		before, _ := bought()
		assert.Positive(t, before, practice)
		way := func(id install.OptionID, choice string) {
			s := c.job(x.ref).View.Job.Schools
			s.Set(id, install.Chose(choice))
			a := c.part(c.job(x.ref), "schools", s)
			require.Equal(t, 200, a.status, a.text)
		}
		way("connectors", x.other)
		for _, l := range c.job(x.ref).View.Take.Lines {
			assert.False(t, strings.HasPrefix(l.Key, "connector:"+x.way+":"), "%s: the house takes the others", l.Key)
		}
		way("connectors", x.way)
		if practice == "split120" {
			links := lineStarting(t, c.job(x.ref), "pigtail:")
			way("deviceLinks", "through")
			fewer, _ := bought()
			assert.Less(t, fewer, before)
			assert.Less(t, lineStarting(t, c.job(x.ref), "pigtail:").Need, links.Need)
			way("deviceLinks", "pigtail")
		}

		// A joint box in a run brings a connector for each of its conductors.
		v = c.job(x.ref)
		at := slices.IndexFunc(v.View.Job.Circuits, func(k install.Circuit) bool { return len(k.Serves.Boxes) > 2 })
		require.GreaterOrEqual(t, at, 0)
		k := v.View.Job.Circuits[at]
		was, _ := bought()
		boxes := slices.Clone(k.Serves.Boxes)
		last := len(boxes) - 1
		joint := install.Box{ID: "joint-new", Name: "Joint", Device: install.NoDevice, From: boxes[last].From, Side: boxes[last].Side, Room: boxes[last].Room}
		boxes[last].From, boxes[last].Side = joint.ID, ""
		k.Serves.Boxes = slices.Insert(boxes, last, joint)
		a := c.part(v, "circuits/"+k.ID, k)
		require.Equal(t, 200, a.status, a.text)
		now, _ := bought()
		assert.InDelta(t, was+3, now, 0, "%s: line, neutral and earth go on in it", practice)
	}
}

// lineStarting is the first line of an order whose product begins like that.
func lineStarting(t *testing.T, v api.JobView, begins string) materials.Line {
	t.Helper()
	all := v.View.Take.Lines
	i := slices.IndexFunc(all, func(l materials.Line) bool { return strings.HasPrefix(l.Key, begins) })
	require.GreaterOrEqual(t, i, 0, begins)
	return all[i]
}
