package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Points of extra-low voltage have a schedule of their own: each a home run by the route of its room, the cables summed, and how far they
// are from power judged.
func TestExtraLowVoltageHasAScheduleOfItsOwn(t *testing.T) {
	rooms, err := survey.Apply(nil, nil, survey.Read("study: 2 data, phone, 3 socket\nden: tv, 2 data\nstore: 2 socket", words, ""), "", ids())
	require.NoError(t, err)
	rooms[0].Legs = []install.Leg{{LengthM: 6, Basis: install.Measured}}
	job := &install.Job{Rooms: rooms}
	got := survey.LowVoltageOf(job, words)
	require.Len(t, got.Rooms, 2, "sockets are none of it")
	study, den := got.Rooms[0], got.Rooms[1]
	assert.Equal(t, 11.0, study.HomeM, "6 m of way, and both ends")
	assert.False(t, study.Assumed)
	assert.True(t, den.Assumed)
	assert.Greater(t, den.HomeM, 0.0)
	require.Len(t, got.Cables, 2)
	assert.Equal(t, 5, got.Cables[0].Runs, "four of data and one of the telephone, which takes the same cable")
	assert.InDelta(t, 3*study.HomeM+2*den.HomeM, got.Cables[0].LengthM, 1e-9)
	assert.Equal(t, 1, got.Cables[1].Runs)

	for _, x := range []struct {
		apart   float64
		divided bool
		want    working.Verdict
	}{{0, false, working.Unknown}, {20, false, working.Fail}, {50, false, working.Pass}, {20, true, working.Pass}} {
		job.Rooms[0].ApartMM, job.Rooms[0].Divided = x.apart, x.divided
		low := survey.LowVoltageOf(job, words)
		assert.Equal(t, x.want, low.Rooms[0].Verdict, "%+v", x)
		assert.NotEmpty(t, low.Rooms[0].Says)
		assert.Len(t, low.Held(), 2-map[bool]int{true: 1}[x.want == working.Pass])
	}
	job.Rooms[1].Points[0].State = install.Kept
	assert.Equal(t, 1, len(survey.LowVoltageOf(job, words).Cables), "what stays takes no cable")
}
