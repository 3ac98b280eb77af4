package iec230

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// What is joined in boxes, by hand: sockets have terminals for the two cables of a ring, a light at which the line goes on to a switch has none.
func TestWhatIsJoinedInABox(t *testing.T) {
	run := func(device install.BoxDevice, cables int) install.Box {
		return install.Box{ID: "b", Device: device, Cables: cables, Room: "r", Point: "p"}
	}
	for name, x := range map[string]struct {
		box  install.Box
		mm2  float64
		feed string
		want map[string]float64
	}{
		"a socket on a ring":              {run(install.PlainOutlet, 2), 2.5, rulebook.FedAtLight, map[string]float64{}},
		"a spur more":                     {run(install.PlainOutlet, 3), 2.5, rulebook.FedAtLight, map[string]float64{}},
		"more than its terminals take":    {run(install.PlainOutlet, 4), 2.5, rulebook.FedAtLight, map[string]float64{"connector:lever:5:4": 3}},
		"of a larger cable sooner":        {run(install.PlainOutlet, 3), 4, rulebook.FedAtLight, map[string]float64{"connector:lever:5:4": 3}},
		"a joint box":                     {run(install.NoDevice, 3), 2.5, rulebook.FedAtLight, map[string]float64{"connector:lever:3:4": 3}},
		"a joint box of 6 mm²":            {run(install.NoDevice, 2), 6, rulebook.FedAtLight, map[string]float64{"connector:lever:2:6": 3}},
		"the last light":                  {run(install.Luminaire, 1), 1.5, rulebook.FedAtLight, map[string]float64{"connector:lever:2:4": 1}},
		"a light on the way":              {run(install.Luminaire, 2), 1.5, rulebook.FedAtLight, map[string]float64{"connector:lever:3:4": 1}},
		"with a neutral to the switch":    {run(install.Luminaire, 3), 1.5, rulebook.FedNeutral, map[string]float64{"connector:lever:5:4": 3}},
		"fed at the switch, its neutral":  {run(install.Luminaire, 2), 1.5, rulebook.FedAtSwitch, map[string]float64{"connector:lever:3:4": 1}},
		"an alarm on the way":             {run(install.Alarm, 2), 1.5, rulebook.FedAtLight, map[string]float64{}},
		"a size that no connector is for": {run(install.NoDevice, 2), 25, rulebook.FedAtLight, map[string]float64{"connector:2:25": 3}},
	} {
		job := &install.Job{}
		job.Schools.Set("switchFeed", install.Chose(x.feed))
		k := install.Circuit{ID: "c", Route: install.Route{CableType: "flat-te-70", LineMM2: x.mm2}, Serves: install.Serves{Boxes: []install.Box{x.box}}}
		got := map[string]float64{}
		for _, p := range connectorParts(job, &k) {
			got[p.Key] = p.Count
		}
		assert.Equal(t, x.want, got, name)
	}

	job := &install.Job{}
	job.Schools.Set("connectors", install.Chose("screw"))
	three := install.Circuit{Route: install.Route{CableType: "flat-te-70", LineMM2: 1.5}, Serves: install.Serves{Boxes: []install.Box{
		{ID: "a", Device: install.Luminaire, Room: "r", Point: "p"}, {ID: "b", From: "a", Device: install.Luminaire, Room: "r", Point: "p"},
		{ID: "c", From: "b", Device: install.Luminaire, Room: "r", Point: "p"}}}}
	parts := connectorParts(job, &three)
	assert.Len(t, parts, 1, "the switch of three lights together is joined at the first of them")
	assert.Equal(t, "connector:screw:4:2.5", parts[0].Key)
	assert.InDelta(t, 1, parts[0].Count, 0)
}
