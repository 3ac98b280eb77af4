package split120

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Pigtails and connectors of boxes, by hand: cables at it are the one that feeds it and those to what it feeds.
func TestWhatIsJoinedInABox(t *testing.T) {
	plain := func(id, from string) install.Box { return box(id, "plain", from, "line") }
	with := func(b install.Box, change func(*install.Box)) install.Box { change(&b); return b }
	two := func(b *install.Box) { b.Yokes = 2 }
	for name, x := range map[string]struct {
		boxes         []install.Box // what is joined is counted in the first
		shared        bool
		links, throu  int   // with pigtails, and through the screws of the device
		ports, ported []int // of each joint, for the same
	}{
		"one cable, one device: its own screws": {[]install.Box{plain("a", "")}, false, 0, 0, nil, nil},
		"it feeds on":                           {[]install.Box{plain("a", ""), plain("b", "a")}, false, 3, 1, []int{3, 3, 3}, []int{3}},
		"two devices":                           {[]install.Box{with(plain("a", ""), two)}, false, 6, 4, []int{3, 3, 3}, []int{3}},
		"two devices that feed on":              {[]install.Box{with(plain("a", ""), two), plain("b", "a")}, false, 6, 4, []int{4, 4, 4}, []int{4}},
		"three ways":                            {[]install.Box{plain("a", ""), plain("b", "a"), plain("c", "a")}, false, 3, 3, []int{4, 4, 4}, []int{4, 4, 4}},
		"what hangs on the load side of a device is under its other screws": {[]install.Box{box("a", "gfci", "", "line"), box("b", "plain", "a", "load")},
			false, 1, 1, []int{3}, []int{3}},
		"a joint":                                {[]install.Box{box("a", "", "", "line"), plain("b", "a")}, false, 0, 0, []int{2, 2, 2}, []int{2, 2, 2}},
		"a luminaire at the end joins its leads": {[]install.Box{box("a", string(install.Luminaire), "", "line")}, false, 0, 0, []int{2, 2, 2}, []int{2, 2, 2}},
		"a neutral that two lines share never hangs on a device": {[]install.Box{plain("a", ""), plain("b", "a")}, true, 3, 2, []int{3, 2, 3, 3},
			[]int{2, 3, 3}},
		"no ground": {[]install.Box{with(plain("a", ""), func(b *install.Box) { b.Ground = truth(false) }), plain("b", "a")}, false, 2, 0, []int{3, 3}, nil},
	} {
		j := house()
		k := &j.Circuits[1]
		k.Serves.Boxes, k.Protection.Shared.Is = x.boxes, x.shared
		if x.shared {
			k.Protection.Poles = 2
		}
		for way, want := range map[string]struct {
			links int
			ports []int
		}{"pigtail": {x.links, x.ports}, linksThrough: {x.throu, x.ported}} {
			j.Schools.Set("deviceLinks", install.Chose(way))
			got := joinedIn(j, k, &k.Serves.Boxes[0])
			var ports []int
			for _, joint := range got.joints {
				ports = append(ports, joint.Conductors)
			}
			assert.Equal(t, want.ports, ports, "%s, %s", name, way)
			assert.Equal(t, want.links, got.links, "%s, %s", name, way)
		}
	}
}

// What is joined is bought by the company's way: one listed for the number of conductors, or one with so many ports; more go into several.
func TestConnectorsAreBoughtByWhatTheyJoin(t *testing.T) {
	bought := func(school string, mm2 float64, conductors ...int) map[string]float64 {
		joints := make([]rulebook.Joint, len(conductors))
		for i, n := range conductors {
			joints[i] = rulebook.Joint{Conductors: n, MM2: mm2}
		}
		out := map[string]float64{}
		for _, p := range rulebook.Connectors(house().Words, connectors.Rows(), school, SizeOf, joints) {
			require.NotEmpty(t, p.Name)
			out[p.Key] = p.Count
		}
		return out
	}
	assert.Equal(t, map[string]float64{"connector:twist:12:3": 2, "connector:twist:12:4": 1}, bought("twist", AreaMM2("12"), 3, 4, 3))
	assert.Equal(t, map[string]float64{"connector:lever:12:3": 2, "connector:lever:12:5": 1}, bought("lever", AreaMM2("14"), 3, 4, 3), "four take five ports")
	assert.Equal(t, map[string]float64{"connector:lever:10:2": 1}, bought("lever", AreaMM2("10"), 2), "a larger one for a larger conductor")
	assert.Equal(t, map[string]float64{"connector:lever:12:5": 2}, bought("lever", AreaMM2("12"), 8), "5 + 5 ports, two of them for the link")
	assert.Equal(t, map[string]float64{"connector:lever:12:5": 2, "connector:lever:12:3": 1}, bought("lever", AreaMM2("12"), 9),
		"5 + 5 + 3, four for two links")
	assert.Equal(t, map[string]float64{"connector:3:" + "13.3": 1}, bought("twist", AreaMM2("6"), 3), "one of no row is asked for by what it joins")
}
