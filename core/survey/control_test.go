package survey

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// What is said of the switching of lights makes the switches, the cables between them and what is bought; what is not said is one-way,
// assumed.
func TestSwitchingMakesControls(t *testing.T) {
	light := func(switching string, dimmed bool) install.RoomPoint {
		return install.RoomPoint{ID: "p", Kind: "light", Count: 3, State: install.New, Switching: switching, Dimmed: dimmed}
	}
	of := func(points ...install.RoomPoint) []Control {
		return ControlsOf(&install.Job{}, &install.Room{ID: "r", Name: "Hall", Points: points}, &rulebook.Survey{})
	}
	for name, x := range map[string]struct {
		point     install.RoomPoint
		positions int
		straps    int
		parts     map[SwitchPart]int
		assumed   bool
	}{
		"nobody said":   {light("", false), 1, 0, map[SwitchPart]int{OneWaySwitch: 1}, true},
		"one-way":       {light("one-way", false), 1, 0, map[SwitchPart]int{OneWaySwitch: 1}, false},
		"one-way, dim":  {light("one-way", true), 1, 0, map[SwitchPart]int{DimmerSwitch: 1}, false},
		"two-way":       {light("two-way", false), 2, 1, map[SwitchPart]int{TwoWaySwitch: 2}, false},
		"two-way, dim":  {light("two-way", true), 2, 1, map[SwitchPart]int{DimmerSwitch: 1, TwoWaySwitch: 1}, false},
		"three places":  {light("intermediate", false), 3, 2, map[SwitchPart]int{TwoWaySwitch: 2, IntermediateSwitch: 1}, false},
		"by the bed":    {light("bedside", false), 2, 1, map[SwitchPart]int{TwoWaySwitch: 2}, false},
		"by a presence": {light("sensor", true), 1, 0, map[SwitchPart]int{SensorSwitch: 1}, false},
	} {
		got := of(x.point)
		require.Len(t, got, 1, name)
		parts := map[SwitchPart]int{}
		for _, p := range got[0].Parts {
			parts[p.ID] += p.Count
			assert.NotEmpty(t, p.Name)
		}
		assert.Equal(t, x.parts, parts, name)
		assert.Equal(t, x.positions, got[0].Positions, name)
		assert.Equal(t, x.straps, got[0].Straps, name)
		assert.Equal(t, x.assumed, got[0].Assumed, name)
		assert.Equal(t, 3, got[0].Lamps, "one control for the lights of an entry")
	}
	kept := light("two-way", false)
	kept.State = install.Kept
	assert.Empty(t, of(kept), "what stays takes nothing")
	assert.Empty(t, of(light("two-way", false), install.RoomPoint{ID: "s", Kind: "switch", Count: 2, State: install.New}),
		"switches that were walked are those")
	assert.Empty(t, of(install.RoomPoint{ID: "f", Kind: "fan", Count: 1, State: install.New}), "a fan goes with the light of its room")
	for _, s := range Switchings {
		assert.NotEmpty(t, of(light(s, false))[0].Parts, "%s has its parts", s)
		if Positions[s] > 0 {
			assert.Equal(t, Positions[s], of(light(s, false))[0].Positions, s)
		}
	}
}

// The cores of each leg follow from where it is fed: two to a switch, three where a neutral comes along or a sensor works, three between
// positions; fed at the switch the sensor has its neutral there.
func TestTheCoresOfEachLeg(t *testing.T) {
	option := &install.Option{ID: "switchFeed", Default: install.Chose(rulebook.FedAtLight),
		Choices: []install.OptionChoice{{ID: rulebook.FedAtLight}, {ID: rulebook.FedNeutral}, {ID: rulebook.FedAtSwitch}}}
	for _, x := range []struct {
		feed, switching string
		cores, counts   []int
		begins          string
	}{
		{rulebook.FedAtLight, "one-way", []int{2}, []int{1}, "light to switch"},
		{rulebook.FedAtLight, "intermediate", []int{2, 3}, []int{1, 2}, "light to switch"},
		{rulebook.FedAtLight, "sensor", []int{3}, []int{1}, "light to sensor"},
		{rulebook.FedNeutral, "two-way", []int{3, 3}, []int{1, 1}, "light to switch"},
		{rulebook.FedAtSwitch, "two-way", []int{2, 3}, []int{1, 1}, "switch to light"},
		{rulebook.FedAtSwitch, "sensor", []int{2}, []int{1}, "sensor to light"},
	} {
		job := &install.Job{}
		job.Schools.Set("switchFeed", install.Chose(x.feed))
		got := ControlsOf(job, &install.Room{ID: "r", Points: []install.RoomPoint{{ID: "p", Kind: "light", Count: 1, State: install.New,
			Switching: x.switching}}},
			&rulebook.Survey{SwitchFeed: option})[0]
		cores, counts := []int{}, []int{}
		for _, l := range got.Legs {
			cores, counts = append(cores, l.Cores), append(counts, l.Count)
		}
		assert.Equal(t, x.cores, cores, "%s %s", x.feed, x.switching)
		assert.Equal(t, x.counts, counts, "%s %s", x.feed, x.switching)
		assert.Equal(t, x.begins, got.Legs[0].Name)
	}
}
