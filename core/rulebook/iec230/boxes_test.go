package iec230

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
)

// singlesOf is a circuit of single cores of a size, drawn in over so many stretches of 3 m.
func singlesOf(mm2 float64, stretches int) install.Circuit {
	k := Practice{}.Defaults("sockets")
	k.Route.CableType, k.Route.LineMM2, k.Route.CPC, k.Route.Segments = "singles-70", mm2, "", nil
	for range stretches {
		k.Route.Segments = append(k.Route.Segments, install.Segment{LengthM: 3, Method: "B", AmbientC: 30, Grouped: 1})
	}
	return k
}

// A box is as deep as what enters it asks: of flat cable each brings three conductors.
func TestABoxIsChosenByWhatEntersIt(t *testing.T) {
	k := Practice{}.Defaults("sockets")
	k.Route.CableType = "flat-te-70"
	for _, c := range []struct {
		mm2          float64
		cables       int
		usual, id    string
		deeper, over bool
	}{
		{2.5, 2, "2g 35", "2g 35", false, false}, // of a ring: 6 conductors
		{2.5, 3, "2g 35", "2g 35", false, false}, // with a spur: 9
		{2.5, 4, "2g 35", "2g 47", true, false},  // 12
		{2.5, 3, "1g 35", "1g 47", true, false},  // 9 of at most 6
		{1.5, 3, "1g 25", "1g 35", true, false},  // 9 of at most 6
		{6, 2, "1g 47", "1g 47", false, false},   // 6
		{10, 2, "1g 35", "1g 47", true, true},    // 6 of at most 3 in the deepest
		{2.5, 2, "floor", "floor", false, false}, // sold in one size
	} {
		k.Route.LineMM2 = c.mm2
		got := Practice{}.BoxAt(&install.Job{}, &k, &install.Box{Cables: c.cables}, c.usual)
		assert.Equal(t, c.id, got.ID, "%v", c)
		assert.Equal(t, c.deeper, got.Deeper, "%v", c)
		assert.Equal(t, c.over, got.Over, "%v", c)
	}
	k.Serves.Boxes = []install.Box{{ID: "a"}, {ID: "b", From: "a"}, {ID: "c", From: "b"}, {ID: "s", From: "b"}}
	k.Serves.Back = "c"
	for i, want := range []int{2, 3, 2, 1} {
		assert.Equal(t, want, k.Serves.CablesAt(&k.Serves.Boxes[i]), "a ring with a spur: %s", k.Serves.Boxes[i].ID)
	}
}

// Single cores are drawn into the smallest conduit that they fill to 40 % at most, with a bend at each change of direction. Of 2.5 mm² by
// hand: 2 × 9.62 + 6.6 (1.5 mm² earth) or 9.62 mm² in 132.7 mm² is below 40 %; of 10 mm²: 2 × 27.3 mm² is above it.
func TestConduitIsCountedByWhatItHolds(t *testing.T) {
	counts := func(mm2 float64, stretches int) map[string]float64 {
		k, out := singlesOf(mm2, stretches), map[string]float64{}
		for _, p := range (Practice{}).Parts(&install.Job{}, &k) {
			if strings.HasPrefix(p.Key, "conduit") {
				out[p.Key] = p.Count
			}
		}
		return out
	}
	assert.Equal(t, map[string]float64{"conduit:16": 4, "conduit-fixing:coupler:16": 5, "conduit-fixing:16": 17, "conduit-bend:16": 3,
		"conduit-box:16": 1}, counts(2.5, 4), "12 m in four stretches: a saddle each 0.75 m and one more, one box after two bends")
	assert.Equal(t, map[string]float64{"conduit:20": 1, "conduit-fixing:coupler:20": 2, "conduit-fixing:20": 4}, counts(10, 1))
}
