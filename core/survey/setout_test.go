package survey_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Points are held against what stands before them, against the worktop below them and against who reaches them; what is not said is open.
func TestPointsAreSetOut(t *testing.T) {
	job := walked(t, "kitchen g: 2 double socket @1000 /north, double socket /east, light, = double socket")
	r := &job.Rooms[0]
	r.Furniture = []install.Furniture{{Name: "run of units", Kind: install.Worktop, Wall: "North ", FromMM: 0, ToMM: 2400, TopMM: 900},
		{Name: "tall larder", Kind: install.Stands, Wall: "east", FromMM: 500, ToMM: 1100, TopMM: 2100}}
	of := func() []survey.SetPoint {
		s := survey.SetOut(job, rulebook.Complete(iec230.Practice{}))
		require.Len(t, s, 1)
		return s[0].Points
	}
	require.Len(t, of(), 3, "what stays is not set out")
	assert.Equal(t, working.Unknown, of()[0].Verdict, "how far along its wall is not said")
	assert.Equal(t, working.Pass, of()[2].Verdict, "a light is in the middle unless somebody says otherwise")
	r.Points[0].OffsetMM = 1200
	assert.Equal(t, working.Caution, of()[0].Verdict)
	assert.Contains(t, of()[0].Says[0], "100\u00a0mm above the worktop of run of units")
	r.Points[0].HeightMM = 1100
	assert.Equal(t, working.Pass, of()[0].Verdict)
	r.Points[0].HeightMM = 450
	assert.Contains(t, of()[0].Says[0], "behind run of units")

	r.Points[1].OffsetMM = 800
	got := of()[1]
	assert.True(t, got.Usual, "450 mm, the usual height")
	assert.Contains(t, got.Says[0], "behind tall larder, whose top is at 2100\u00a0mm")
	r.Points[1].OffsetMM = 1500
	assert.Equal(t, working.Pass, of()[1].Verdict)

	job.Schools.Set(rulebook.Reach.ID, install.Chose(rulebook.ReachAsked))
	r.Points[1].HeightMM = 1400
	assert.Contains(t, of()[1].Says[0], "everybody reaches 450\u00a0mm to 1200\u00a0mm")
	assert.Equal(t, working.Pass, of()[2].Verdict, "nobody plugs into a light")
}

// On the plan of ways no two rooms share a place, each stands one column behind the room that its cables come through, and a way that comes
// back to itself does not hang it.
func TestRoomsAreLaidOutByTheirWays(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 16))
	for range 300 {
		job := &install.Job{}
		n := 1 + rnd.IntN(20)
		for i := range n {
			r := install.Room{ID: string(rune('a' + i)), Legs: []install.Leg{{LengthM: 3, Basis: install.Assumed}}}
			if rnd.IntN(3) > 0 {
				r.From = string(rune('a' + rnd.IntN(n)))
			}
			job.Rooms = append(job.Rooms, r)
		}
		plan := survey.WaysPlanOf(job)
		require.Len(t, plan.Rooms, n)
		at, column := map[[2]int]bool{}, map[string]int{}
		for _, p := range plan.Rooms {
			require.False(t, at[[2]int{p.Column, p.Row}])
			at[[2]int{p.Column, p.Row}] = true
			column[p.Room] = p.Column
			assert.Equal(t, column[p.From]+1, max(p.Column, 1))
			assert.Less(t, p.Column, plan.Columns)
			assert.Less(t, p.Row, plan.Rows)
			assert.True(t, p.Assumed)
		}
	}
}
