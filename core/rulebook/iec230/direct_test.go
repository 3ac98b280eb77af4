package iec230

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/working"
)

// clampedHouse is a house with two circuits on one shared device of type A and one on its own, all of which are there.
func clampedHouse() *install.Job {
	j := &install.Job{Format: install.Format, Kind: install.Rewire, Practice: "iec230", Supply: install.Supply{Earthing: install.TNS},
		Board: install.Board{Name: "A", Groups: []install.Group{{ID: "g1", Name: "left", RCDType: "A", IdnMA: 30, RatingA: 63}}}}
	for i, template := range []string{"ring", "ring", "radial-20"} {
		k := Practice{}.Defaults(template)
		k.ID, k.Name, k.State = []string{"c1", "c2", "c3"}[i], []string{"Down", "Up", "Shed"}[i], install.AlteredCircuit
		k.Protection.Way = i + 1
		if i < 2 {
			k.Protection.Group, k.Protection.RCDType, k.Protection.IdnMA = "g1", "", 0
		} else {
			k.Protection.RCDType, k.Protection.IdnMA = "A", 30
		}
		j.Circuits = append(j.Circuits, k)
	}
	j.Tidy()
	return j
}

func clamp(circuit, reading string, ma float64, at int) install.Record {
	return install.Record{ID: circuit + reading, Kind: install.SurveyReading, Subject: reading, Circuit: circuit, Value: &ma, By: "Jana",
		At: time.Date(2026, 11, 1, at, 0, 0, 0, time.UTC)}
}

func findCheck(t *testing.T, j *install.Job, id, object string) *working.Check {
	t.Helper()
	r := Practice{}.Judge(j)
	checks := r.Checks()
	for i := range checks {
		if string(checks[i].Rule) == id && (checks[i].Object == object || checks[i].Circuit == object) {
			return &checks[i]
		}
	}
	return nil
}

// What is read with a clamp takes the place of an estimate, adds up behind each device, and is held to what that device bears.
func TestLeakageIsHeldToItsOwnDevice(t *testing.T) {
	j := clampedHouse()
	require.Nil(t, findCheck(t, j, "group-direct", "g1"), "nothing was read")
	estimate := findCheck(t, j, "group", "g1").Summary
	j.Records = []install.Record{clamp("c1", clampAlternating, 4.5, 8), clamp("c2", clampAlternating, 5.5, 8), clamp("c1", clampDirect, 4, 8)}
	group := findCheck(t, j, "group", "g1")
	assert.NotEqual(t, estimate, group.Summary)
	assert.Equal(t, working.Fail, group.Verdict)
	assert.Contains(t, group.Summary, "10 mA stand of 9 mA")

	direct := findCheck(t, j, "group-direct", "g1")
	assert.Equal(t, working.Caution, direct.Verdict, "one of two circuits was read")
	j.Records = append(j.Records, clamp("c2", clampDirect, 3, 9))
	assert.Equal(t, working.Fail, findCheck(t, j, "group-direct", "g1").Verdict, "7 mA together, though each is below 6")
	for kind, want := range map[string]working.Verdict{"AC": working.Fail, "F": working.Pass, "B": working.Pass} {
		j.Board.Groups[0].RCDType = kind
		assert.Equal(t, want, findCheck(t, j, "group-direct", "g1").Verdict, kind)
	}
	assert.Nil(t, findCheck(t, j, "leakage-direct", "c3"), "behind another device")
	j.Records = append(j.Records, clamp("c3", clampDirect, 6.5, 9))
	assert.Equal(t, working.Fail, findCheck(t, j, "leakage-direct", "c3").Verdict)
	back := clamp("c3", clampDirect, 6.5, 10)
	back.Done = true
	j.Records = append(j.Records, back)
	assert.Nil(t, findCheck(t, j, "leakage-direct", "c3"), "taken back")
}

// Much leakage and never a trip is no good sign: it waits for a trip test that is newer than the reading.
func TestLeakageWithoutATripIsSuspect(t *testing.T) {
	j := clampedHouse()
	j.Records = []install.Record{clamp("c1", clampAlternating, 9, 8), clamp("c2", clampAlternating, 5, 8)}
	require.Nil(t, findCheck(t, j, "group-quiet", "g1"), "14 mA of 30: it must not trip at that")
	j.Records = append(j.Records, clamp("c2", clampAlternating, 7, 9))
	quiet := func() *working.Check { return findCheck(t, j, "group-quiet", "g1") }
	assert.Equal(t, working.Unknown, quiet().Verdict)
	assert.Contains(t, quiet().Missing[0], "whether it ever trips")
	j.Board.Groups[0].Trips = install.TripsOften
	assert.Equal(t, working.Caution, quiet().Verdict)
	j.Board.Groups[0].Trips = install.TripsNever
	assert.Equal(t, working.Unknown, quiet().Verdict)
	assert.Contains(t, quiet().Summary, "Suspect: 16 mA")
	tried := func(ms float64, over bool, at int) {
		r := install.Record{ID: "x", Kind: install.Reading, Subject: "rcd-x1:g1", OverRange: over, At: time.Date(2026, 11, 1, at, 0, 0, 0, time.UTC)}
		if !over {
			r.Value = &ms
		}
		j.Records = append(j.Records, r)
	}
	tried(38, false, 7)
	assert.Equal(t, working.Unknown, quiet().Verdict, "older than the leakage that was read")
	tried(38, false, 10)
	assert.Equal(t, working.Pass, quiet().Verdict)
	tried(0, true, 11)
	assert.Equal(t, working.Fail, quiet().Verdict)
	j.Circuits[2].Protection.Trips = install.TripsNever
	j.Records = append(j.Records, clamp("c3", clampAlternating, 20, 9))
	assert.Equal(t, working.Unknown, findCheck(t, j, "leakage-quiet", "c3").Verdict)
}
