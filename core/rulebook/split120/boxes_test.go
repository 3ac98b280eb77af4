package split120

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// The box of an accessory, worked by hand after 314.16: of 12 AWG each conductor takes 2.25 in³, all grounds up to four one, a device two.
func TestABoxIsChosenByWhatEntersIt(t *testing.T) {
	j := house()
	k := &j.Circuits[1]
	of := func(b install.Box, usual string) rulebook.BoxChoice { return Practice{}.BoxAt(j, k, &b, usual) }
	for _, c := range []struct {
		name    string
		box     install.Box
		usual   string
		id      string
		deeper  bool
		filling string
	}{
		// 2 + 1 + 2 = 5 of 2.25 = 11.25
		{"the last outlet", install.Box{Cables: 1, Device: install.PlainOutlet}, "single gang", "single gang:3x2x2-1/2", false, "11.25\u00a0in³"},
		// 4 + 1 + 2 = 7 of 2.25 = 15.75
		{"one that feeds on", install.Box{Cables: 2, Device: install.PlainOutlet}, "single gang", "single gang:3x2x3-1/2", true, "15.75\u00a0in³"},
		// 6 + 1 + 2 = 9 of 2.25 = 20.25
		{"one that feeds two", install.Box{Cables: 3, Device: install.PlainOutlet}, "single gang", "single gang:4sq-1-1/2", true, "20.25\u00a0in³"},
		// 4 + 1 + 4 = 9 of 2.25 = 20.25
		{"two devices", install.Box{Cables: 2, Device: install.GroundFault, Yokes: 2}, "single gang", "two gang:4sq-1-1/2", false, "20.25\u00a0in³"},
		// 6 + 1 = 7 of 2.25 = 15.75, no device
		{"a luminaire that feeds on", install.Box{Cables: 3, Device: install.Luminaire}, "ceiling box", "ceiling box:oct-2-1/8", true, "15.75\u00a0in³"},
		{"outdoors", install.Box{Cables: 1, Device: install.GroundFault, Weather: true}, "", "weatherproof:fs-1-3/4", false, "11.25\u00a0in³"},
	} {
		got := of(c.box, c.usual)
		assert.Equal(t, c.id, got.ID, c.name)
		assert.Equal(t, c.deeper, got.Deeper, c.name)
		assert.Contains(t, got.Why, c.filling, c.name)
		assert.False(t, got.Over, c.name)
	}
	// 16 + 1 + 2 and half a ground more for each above four: (16 + 1 + 4 × 0.25 + 2) × 2.25 = 45
	full := of(install.Box{Cables: 8, Device: install.PlainOutlet}, "single gang")
	assert.True(t, full.Over, full.Why)
	assert.Equal(t, "single gang:411sq-2-1/8", full.ID, "the largest is named")
	read := of(install.Box{Cables: 1, Device: install.PlainOutlet, VolumeML: 18 * in3ML}, "single gang")
	assert.Equal(t, "single gang:3x2x3-1/2", read.ID, "as large as the one that somebody chose")
	assert.Equal(t, "floor box", of(install.Box{Cables: 1, Device: install.PlainOutlet}, "floor box").ID, "sold in one size")
}

// More cables never take a smaller box, in either code.
func TestABoxGrowsWithItsCables(t *testing.T) {
	for _, practice := range []rulebook.Boxing{Practice{}, Canada{}} {
		j := house()
		if _, canada := practice.(Canada); canada {
			j.Practice, j.Edition = Canada{}.ID(), Canada{}.Terms().Editions[0]
		}
		for _, usual := range []string{"single gang", "two gang", "ceiling box", "4 in square", "weatherproof"} {
			was := -1
			for cables := 1; cables <= 8; cables++ {
				got := practice.BoxAt(j, &j.Circuits[1], &install.Box{Cables: cables, Device: install.PlainOutlet}, usual)
				at := boxSizes.Find(func(r *boxSizesRow) bool { return r.Usual+":"+r.ID == got.ID })
				assert.GreaterOrEqual(t, at, was, "%s of %d cables", usual, cables)
				was = at
			}
		}
	}
}
