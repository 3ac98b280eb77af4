package api_test

import (
	"maps"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// How lights are switched makes the switches, their boxes and cables, on the walk, in the order and in the steps of the room, in the words of
// each practice.
func TestSwitchingReachesTheOrderAndTheSteps(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct {
		ref, like, walk string
		names           []string
		leg             string
	}{
		"iec230": {"PW-9340", "PW-2052", "hall g: 2 two way light, smoke alarm\nstair g: intermediate light\nstore g: light, 2 socket",
			[]string{"One-way switch", "Two-way switch", "Intermediate switch", "three cores and earth"}, "two strappers and the common"},
		"split120": {"PW-9341", "PW-2054", "hall: 2 three way light, smoke alarm\nstair: four way light\nstore: light, 2 duplex",
			[]string{"Single-pole switch", "Three-way switch", "Four-way switch", "three conductors and ground"}, "two travelers and the common"},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		require.Len(t, v.View.Walk.Controls, 3)
		stair := v.View.Walk.Controls[1]
		assert.Equal(t, 3, stair.Positions)
		assert.Equal(t, 2, stair.Straps)
		assert.True(t, v.View.Walk.Controls[2].Assumed, "nobody said how that of the store is switched")
		lines := map[string]float64{}
		names := []string{}
		for _, l := range v.View.Take.Lines {
			lines[l.Key] = l.Need
			names = append(names, l.Name)
		}
		assert.Equal(t, 1.0, lines["switch:one-way"])
		assert.Equal(t, 4.0, lines["switch:two-way"])
		assert.Equal(t, 1.0, lines["switch:intermediate"])
		assert.Positive(t, lines["cable:switch-drop"])
		assert.Positive(t, lines["cable:strapper"])
		for _, name := range x.names {
			assert.Contains(t, strings.Join(names, "\n"), name)
		}
		steps := []string{}
		for _, s := range v.View.Tasks {
			steps = append(steps, s.Title)
		}
		assert.Contains(t, strings.Join(steps, "\n"), "for 1 points and 3 switches")
		// With a neutral to each switch its cable has a core more; the crew has the cores of each leg on the setting-out.
		schools := v.View.Job.Schools
		schools.Options = maps.Clone(schools.Options)
		schools.Set("switchFeed", install.Chose("neutral"))
		require.Equal(t, 200, c.part(v, "schools", schools).status)
		v = c.job(x.ref)
		assert.Equal(t, 3, v.View.Walk.Controls[0].Legs[0].Cores)
		for _, l := range v.View.Take.Lines {
			assert.NotEqual(t, "cable:switch-drop", l.Key, "every leg has three")
		}
		assert.InDelta(t, lines["cable:strapper"]+lines["cable:switch-drop"], lineOf(t, v, "cable:strapper").Need, 0.6, "not a metre less or more")
		paper := strings.Join(strings.Fields(c.pdf("/api/jobs/"+v.Id+"/setting-out.pdf")), " ")
		assert.Contains(t, paper, x.leg)

		// The answer to how it is switched is taken up at once.
		room := v.View.Job.Rooms[2]
		room.Points[0].Switching = "sensor"
		require.Equal(t, 200, c.part(v, "rooms/"+room.ID, room).status)
		v = c.job(x.ref)
		assert.False(t, v.View.Walk.Controls[2].Assumed)
		for _, l := range v.View.Take.Lines {
			assert.NotEqual(t, "switch:one-way", l.Key)
		}
	}
}

// Points of extra-low voltage have a schedule with their home runs, cables on the order, and a hold until somebody read how far they run
// from power, in both practices.
func TestExtraLowVoltageReachesTheOrderAndTheHolds(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, least, cable string }{
		"iec230":   {"PW-9342", "PW-2052", "study g: 2 data, tv, 4 double socket", "50 mm", "cable:data"},
		"split120": {"PW-9343", "PW-2054", "study: 2 data, tv, 4 duplex", "2 in", "cable:data"},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		require.Len(t, v.View.Walk.LowVoltage.Rooms, 1)
		held := func() (says string) {
			for _, h := range c.job(x.ref).View.State.Holds {
				if strings.Contains(h.What, "power:") || strings.Contains(h.What, "to power than") {
					says += h.What
				}
			}
			return says
		}
		assert.Contains(t, strings.ReplaceAll(held(), "\u00a0", " "), "at least "+x.least)
		need := 0.0
		for _, l := range v.View.Take.Lines {
			if l.Key == x.cable {
				need = l.Need
			}
		}
		assert.Positive(t, need)
		room := v.View.Job.Rooms[0]
		room.ApartMM = 20
		require.Equal(t, 200, c.part(v, "rooms/"+room.ID, room).status)
		assert.Contains(t, held(), "put a divider between them")
		room.Divided = true
		require.Equal(t, 200, c.part(c.job(x.ref), "rooms/"+room.ID, room).status)
		assert.Empty(t, held())
		room.ApartMM = -3
		a := c.part(c.job(x.ref), "rooms/"+room.ID, room)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "0 when not read")
		assert.Contains(t, c.do("GET", "/api/jobs/"+v.Id+"/tables/low-voltage", nil).text, "study")
	}
}
