package split120

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// withSubpanel is the house with a feeder of two poles to a panel of eight spaces, on which a circuit stands.
func withSubpanel(t *testing.T) *install.Job {
	t.Helper()
	j := house()
	feed := circuitOf("c3", "feeder", 5)
	if feed.Use != useDistribution {
		for _, template := range (Practice{}).Templates() {
			if k := (Practice{}).Defaults(template); k.Use == useDistribution {
				feed = circuitOf("c3", template, 5)
			}
		}
	}
	require.Equal(t, useDistribution, feed.Use)
	feed.Name, feed.Protection.Poles = "Feeder", 2
	end := circuitOf("c4", "small-appliance", 1)
	end.From = "c3"
	j.Circuits = append(j.Circuits, feed, end)
	b := install.Board{ID: "b1", Name: "Studio panel", Feed: "c3", New: true, RatingA: known(125), Joined: truth(false)}
	for n := 1; n <= 8; n++ {
		b.Ways = append(b.Ways, install.Way{No: n, Halves: n > 6})
	}
	j.Boards = []install.Board{b}
	j.Tidy()
	require.NoError(t, j.Agrees(Practice{}.Terms(), nil))
	return j
}

func TestAPanelBehindAFeederIsJudgedForItself(t *testing.T) {
	onHalf := func(way int, half install.Half) func(*install.Job) {
		return func(j *install.Job) { j.Circuits[3].Protection.Way, j.Circuits[3].Protection.Half = way, half }
	}
	for name, x := range map[string]struct {
		change  func(*install.Job)
		rule    working.RuleID
		of      string
		verdict working.Verdict
		says    string
	}{
		"its space":                {nil, "way", "c4", working.Pass, "Space 1, leg A."},
		"one that is not there":    {onHalf(12, ""), "way", "c4", working.Fail, "not there"},
		"half-size where listed":   {onHalf(7, "b"), "way", "c4", working.Pass, "Space 7b, half-size"},
		"half-size elsewhere":      {onHalf(1, "a"), "way", "c4", working.Fail, "does not take half-size"},
		"bars":                     {nil, "board-feed", "b1", working.Pass, "Bars of 125"},
		"bars too small":           {func(j *install.Job) { j.Boards[0].RatingA = known(20) }, "board-feed", "b1", working.Fail, "Bars of 20"},
		"its own smaller main":     {ownMain, "board-feed", "b1", working.Pass, "behind 16"},
		"bars not known":           {func(j *install.Job) { j.Boards[0].RatingA = install.Fact{} }, "board-feed", "b1", working.Unknown, ""},
		"neutral apart":            {nil, "board-joint", "b1", working.Pass, "four wires"},
		"neutral joined to ground": {func(j *install.Job) { j.Boards[0].Joined = truth(true) }, "board-joint", "b1", working.Fail, "joined in it"},
		"nobody looked":            {func(j *install.Job) { j.Boards[0].Joined = nil }, "board-joint", "b1", working.Unknown, ""},
		"within its list":          {func(j *install.Job) { j.Boards[0].MostCircuits = 8 }, "board-poles", "b1", working.Pass, "1 poles of the 8"},
		"more than its list": {func(j *install.Job) {
			j.Boards[0].MostCircuits = 2
			j.Boards[0].Ways[1] = install.Way{No: 2, Label: "Range", Device: "40", Poles: 2}
		}, "board-poles", "b1", working.Fail, "3 poles of the 2"},
	} {
		j := withSubpanel(t)
		if x.change != nil {
			x.change(j)
		}
		r := Practice{}.Judge(j)
		var found *working.Check
		for _, c := range r.Checks() {
			if c.Rule == x.rule && (c.Object == x.of || c.Circuit == x.of) {
				found = &c
			}
		}
		require.NotNil(t, found, name)
		assert.Equal(t, x.verdict, found.Verdict, "%s: %s %v", name, found.Summary, found.Missing)
		assert.Contains(t, found.Summary, x.says, name)
	}
}

// ownMain gives the panel a main breaker smaller than its bars.
func ownMain(j *install.Job) { j.Boards[0].RatingA, j.Boards[0].MainSwitchA = known(20), known(16) }

// A feeder carries the heavier leg of the panel behind it, and the legs of both panels are told apart.
func TestAFeederCarriesTheHeavierLeg(t *testing.T) {
	j := withSubpanel(t)
	second := circuitOf("c5", "small-appliance", 2) // space 2, leg A beside the first
	second.From = "c3"
	j.Circuits = append(j.Circuits, second)
	a, _, _, _, _ := circuitLoad(&j.Circuits[3])
	b, _, _, _, _ := circuitLoad(&j.Circuits[4])
	load := func() float64 {
		r := Practice{}.Judge(j)
		return r.Circuit("c3").Summary.DesignA
	}
	require.Positive(t, a)
	assert.InDelta(t, a+b, load(), 1e-9, "both on leg A")
	j.Circuits[4].Protection.Way = 3 // leg B
	assert.InDelta(t, max(a, b), load(), 1e-9, "one on each leg")
	r := Practice{}.Judge(j)
	legs := map[string]rulebook.Legs{}
	for _, l := range r.Legs {
		legs[l.Board] = l
	}
	assert.InDelta(t, a, legs["b1"].A, 1e-9)
	assert.InDelta(t, b, legs["b1"].B, 1e-9)
	before := legs[""].A
	j.Circuits[4].Protection.Way = 2
	r = Practice{}.Judge(j)
	for _, l := range r.Legs {
		if l.Board == "" {
			assert.InDelta(t, before+b, l.A, 1e-9, "what hangs on leg A there hangs on leg A here")
		}
	}
}

// A further panel is proved apart and read leg by leg before its branches are closed.
func TestAPanelBehindAFeederIsTestedForItself(t *testing.T) {
	j := withSubpanel(t)
	r := Practice{}.Judge(j)
	tests := map[string]rulebook.Test{}
	for _, x := range (Practice{}).Tests(j, &r) {
		tests[x.ID] = x
	}
	for _, id := range []string{"ng:b1", "volts-ll:b1", "volts-an:b1", "volts-bn:b1"} {
		assert.Contains(t, tests, id)
	}
	v, says := tests["ng:b1"].Judge(install.Record{Answer: "closed"})
	assert.Equal(t, working.Fail, v, says)
	j.Records = []install.Record{{Kind: install.Reading, Subject: "volts-an:b1", Value: known(131).Value}}
	v, says = tests["volts-bn:b1"].Judge(install.Record{Subject: "volts-bn:b1", Value: known(109).Value})
	assert.Equal(t, working.Fail, v, "an open neutral of the feeder: %s", says)
}

// A box in which conductors are only joined stays in reach: no marking frees it of that.
func TestSplicesStayInReach(t *testing.T) {
	for reach, verdict := range map[*bool]working.Verdict{truth(true): working.Pass, truth(false): working.Fail, nil: working.Unknown} {
		j := withSubpanel(t)
		b := box("j1", "none", "", "line")
		b.Accessible, b.Sealed = reach, truth(true)
		j.Circuits[3].Serves.Boxes = []install.Box{b}
		assert.Equal(t, verdict, find(t, Practice{}.Judge(j), "c4", "joints").Verdict)
	}
}
