package standby

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

func source() install.Standby {
	return install.Standby{Source: "generator", Automatic: true, SourceVA: 7000, SenseS: 3, CrankS: 5, WarmS: 10,
		SwitchS: 0.5, ReturnS: 300, CoolS: 180, Carries: []install.Carry{
			{Name: "Well pump", RunVA: 1200, StartVA: 3600}, {Name: "Freezer", RunVA: 400},
			{Name: "Water heater", RunVA: 4500, Shed: true}, {Name: "Kiln", RunVA: 6000, Shed: true}}}
}

// By hand: 3 + 5 + 10 + 0.5 s dark; 1200 + 400 VA, and the heater's 4500 fits into 7000,
// while the kiln never does.
func TestTheSequence(t *testing.T) {
	r := Of(nil, source())
	assert.InDelta(t, 18.5, r.DarkS, 1e-9)
	assert.InDelta(t, 480.5, r.AfterS, 1e-9)
	titles := []string{}
	for _, f := range r.Frames {
		titles = append(titles, f.Title)
	}
	assert.Equal(t, []string{"The supply is lost", "The source starts", "It warms up",
		"The switch opens towards the utility", "The source feeds what it is switched to", "Water heater is let on",
		"The supply comes back", "The load goes back", "It cools down", "It stands by again"}, titles)
	assert.InDelta(t, 1600, r.Frames[4].LoadVA, 1e-9)
	assert.InDelta(t, 6100, r.Frames[5].LoadVA, 1e-9)
	assert.Equal(t, []string{"Kiln"}, r.Frames[5].Waiting)
}

// Whatever the settings: time never runs back, the two sides are never closed at once,
// and the load is fed only from a side that has voltage.
func TestNeverBothSides(t *testing.T) {
	for seed := range 200 {
		s := source()
		s.SenseS, s.CrankS, s.SwitchS = float64(seed%7), float64(seed%11), float64(seed%3)
		s.SourceVA = float64(seed * 97)
		s.Automatic = seed%2 == 0
		at := math.Inf(-1)
		for _, f := range Of(nil, s).Frames {
			require.GreaterOrEqual(t, f.AtS, at)
			at = f.AtS
			switch f.Fed {
			case Utility:
				require.True(t, f.Supply && f.Switch == Utility, "%+v", f)
			case Source:
				require.True(t, f.Running && f.Switch == Source, "%+v", f)
			}
			require.Equal(t, f.LoadVA > s.SourceVA && s.SourceVA > 0, f.Over, "%+v", f)
		}
	}
}

func TestNoSource(t *testing.T) {
	r := Of(nil, install.Standby{})
	assert.Empty(t, r.Frames)
	assert.NotEmpty(t, r.Summary)
}
