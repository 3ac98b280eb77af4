package split120

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// sharing is the house with a string of four outlets whose two lines share a neutral, on spaces 6 and 8.
func sharing(t *testing.T) *install.Job {
	t.Helper()
	j := house()
	k := circuitOf("c3", "small-appliance", 6)
	k.Name, k.Protection.Poles, k.Route.CableType = "Counter", 2, "nm-3"
	k.Protection.Shared = install.SharedNeutral{Is: true, Opens: install.OpensTogether}
	from := ""
	for i, line := range []install.Line{install.FirstLine, install.SecondLine, install.FirstLine, install.SecondLine} {
		b := box("s"+string(rune('1'+i)), "plain", from, "line")
		b.Line, b.Through = line, truth(false)
		k.Serves.Boxes, from = append(k.Serves.Boxes, b), b.ID
	}
	j.Circuits = append(j.Circuits, k)
	j.Tidy()
	require.NoError(t, j.Circuits[2].Validate(Practice{}.Terms()))
	require.NoError(t, j.Agrees(Practice{}.Terms(), nil))
	return j
}

func TestASharedNeutralIsJudged(t *testing.T) {
	for name, x := range map[string]struct {
		change  func(k *install.Circuit)
		verdict working.Verdict
		says    string
	}{
		"as it should be": {nil, working.Pass, "Lines on legs A and B"},
		"opened apart":    {func(k *install.Circuit) { k.Protection.Shared.Opens = install.OpensApart }, working.Fail, "handle tie"},
		"tied": {func(k *install.Circuit) {
			k.Protection.Shared.Opens, k.Protection.Shared.SecondWay = install.OpensTied, 12
		}, working.Pass, "carries the difference"},
		"nobody looked":    {func(k *install.Circuit) { k.Protection.Shared.Opens = "" }, working.Unknown, ""},
		"both on one leg":  {func(k *install.Circuit) { k.Protection.Shared.SecondWay = 10 }, working.Fail, "Both lines are on leg"},
		"through a device": {func(k *install.Circuit) { k.Serves.Boxes[1].Through = truth(true) }, working.Fail, "pigtail"},
		"at the last box":  {func(k *install.Circuit) { k.Serves.Boxes[3].Through = truth(true) }, working.Pass, ""},
		"not looked at":    {func(k *install.Circuit) { k.Serves.Boxes[1].Through = nil }, working.Unknown, ""},
		"a line not said":  {func(k *install.Circuit) { k.Serves.Boxes[2].Line = "" }, working.Unknown, ""},
		"behind its ground-fault": {func(k *install.Circuit) {
			k.Serves.Boxes[0].Device, k.Serves.Boxes[1].Side = install.GroundFault, install.LoadSide
		}, working.Fail, "makes it trip"},
	} {
		j := sharing(t)
		if x.change != nil {
			x.change(&j.Circuits[2])
		}
		r := Practice{}.Judge(j)
		c := find(t, r, "c3", "shared-neutral")
		assert.Equal(t, x.verdict, c.Verdict, "%s: %s %v", name, c.Summary, c.Missing)
		assert.Contains(t, c.Summary, x.says, name)
	}
}

// On two legs the neutral carries the difference, on one leg the sum; with it open the small load gets nearly both legs.
func TestWhatFlowsInASharedNeutral(t *testing.T) {
	step := func(j *install.Job, name string) float64 {
		for _, s := range find(t, Practice{}.Judge(j), "c3", "shared-neutral").Steps {
			if s.Symbol == name {
				return s.Value
			}
		}
		require.Fail(t, "no step "+name)
		return 0
	}
	j := sharing(t)
	r := Practice{}.Judge(j)
	load := r.Circuit("c3").Summary.DesignA
	assert.InDelta(t, 16, load, 1e-9, "80 % of 20 A on each line")
	assert.InDelta(t, 0, step(j, "neutral"), 0.01)
	assert.InDelta(t, 240*16.0/17, step(j, "neutral open"), 2, "a load of 1 A in series with one of 16 A")
	j.Circuits[2].Protection.Shared.SecondWay = 10
	assert.InDelta(t, 2*load, step(j, "neutral"), 1)
}

// The lines load their legs, its outlets are those of a leg, and one hot conductor is never isolated alone.
func TestASharedNeutralReachesPanelTestsAndIsolation(t *testing.T) {
	j := sharing(t)
	alone := *j
	alone.Circuits = j.Circuits[:2]
	with, without := Practice{}.Judge(j).Legs[0], Practice{}.Judge(&alone).Legs[0]
	assert.InDelta(t, 16, with.A-without.A, 1e-9)
	assert.InDelta(t, 16, with.B-without.B, 1e-9)
	r := Practice{}.Judge(j)
	tests := map[string]rulebook.Test{}
	for _, x := range (Practice{}).Tests(j, &r) {
		if x.Circuit == "c3" {
			tests[x.ID] = x
		}
	}
	for _, id := range []string{"hh", "hn", "shared-neutral", "tester:s1", "shared-ll", "shared-an", "shared-bn", "shared-off"} {
		assert.Contains(t, tests, id)
	}
	v, says := tests["shared-ll"].Judge(install.Record{Value: known(2).Value})
	assert.Equal(t, working.Fail, v)
	assert.Contains(t, says, "on one leg")
	v, _ = tests["shared-ll"].Judge(install.Record{Value: known(241).Value})
	assert.Equal(t, working.Pass, v)
	v, _ = tests["shared-an"].Judge(install.Record{Value: known(170).Value})
	assert.Equal(t, working.Fail, v, "the neutral is open")
	parts := func() string {
		out := ""
		for _, p := range (Practice{}).Parts(j, &j.Circuits[2]) {
			out += p.Key + " "
		}
		return out
	}
	assert.Contains(t, parts(), "device:breaker:2:20:10 ")
	j.Circuits[2].Protection.Shared.Opens, j.Circuits[2].Protection.Shared.SecondWay = install.OpensTied, 12
	assert.Contains(t, parts(), "device:breaker:1:20:10 handle-tie ")
	assert.NoError(t, j.Agrees(Practice{}.Terms(), nil))
	j.Circuits[2].Protection.Shared.SecondWay = 2
	assert.Error(t, j.Agrees(Practice{}.Terms(), nil), "another circuit stands there")
}

func TestASharedNeutralHasTwoPoles(t *testing.T) {
	j := sharing(t)
	k := j.Circuits[2]
	k.Protection.Poles = 1
	assert.ErrorContains(t, k.Validate(Practice{}.Terms()), "protection.poles")
	k = j.Circuits[2]
	k.Protection.Shared.SecondWay = k.Protection.Way
	assert.ErrorContains(t, k.Validate(Practice{}.Terms()), "secondWay")
}
