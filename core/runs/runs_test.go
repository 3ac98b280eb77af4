package runs

import (
	"math"
	"math/rand/v2"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// chain is a circuit of boxes one behind the other, legs m apart.
func chain(m ...float64) *install.Circuit {
	k := &install.Circuit{}
	from := ""
	for i := range m {
		id := "p" + strconv.Itoa(i+1)
		k.Serves.Boxes = append(k.Serves.Boxes, install.Box{ID: id, From: from, Device: install.PlainOutlet})
		if m[i] > 0 {
			k.Route.Segments = append(k.Route.Segments, install.Segment{To: id, LengthM: m[i]})
		}
		from = id
	}
	return k
}

func ring(back float64, m ...float64) *install.Circuit {
	k := chain(m...)
	k.Serves.Back = k.Serves.Boxes[len(m)-1].ID
	k.Route.Segments = append(k.Route.Segments, install.Segment{To: install.BackLeg, LengthM: back})
	return k
}

func TestARadialIsAsLongAsItsCable(t *testing.T) {
	k := chain(10, 3, 4)
	k.Route.SlackM, k.Route.BoardTailM, k.Route.PointTailM = 1, 0.5, 0.5
	r := Of(k)
	require.Equal(t, 2, r.Worst)
	assert.InDelta(t, k.Route.LengthM(), r.Stops[2].SeenM, 1e-9, "the textbook's length: segments, slack and tails")
	assert.InDelta(t, 12, r.Stops[0].SeenM, 1e-9)
	// A load in three equal parts: 12 m carry all, 3 two thirds, 4 one third.
	assert.InDelta(t, 12+3*2/3.0+4/3.0, r.Stops[2].SpreadM, 1e-9)
}

func TestASpreadLoadIsTheTextbooksWhereItsPointsAreAlikeApart(t *testing.T) {
	for n := 1; n <= 12; n++ {
		legs := make([]float64, n)
		for i := range legs {
			legs[i] = 2.5
		}
		r := Of(chain(legs...))
		l := 2.5 * float64(n)
		assert.InDelta(t, l*float64(n+1)/float64(2*n), r.Stops[n-1].SpreadM, 1e-9, "(n + 1) / 2n of %d", n)
	}
}

func TestARingIsBothWaysInParallel(t *testing.T) {
	k := ring(20, 10, 6, 4)
	r := Of(k)
	assert.InDelta(t, 40, r.RingM, 1e-9)
	for i, a := range []float64{10, 16, 20} {
		assert.InDelta(t, a*(40-a)/40, r.Stops[i].SeenM, 1e-9)
		assert.InDelta(t, 40-a, r.Stops[i].BackM, 1e-9)
		assert.Zero(t, r.Stops[i].SpurM)
	}
	assert.Equal(t, 2, r.Worst)
	assert.InDelta(t, 10, r.Stops[2].SeenM, 1e-9, "a quarter of the ring at its far point")

	// A spur off its first box: what is seen at that box, and the spur.
	k.Serves.Boxes = append(k.Serves.Boxes, install.Box{ID: "s", From: "p1", Device: install.PlainOutlet})
	k.Route.Segments = append(k.Route.Segments, install.Segment{To: "s", LengthM: 7})
	r = Of(k)
	assert.InDelta(t, 7.5+7, r.Stops[3].SeenM, 1e-9)
	assert.InDelta(t, 7, r.Stops[3].SpurM, 1e-9)
	assert.Equal(t, 3, r.Worst, "the spur is the worst now")
}

func TestAnUnknownLegIsUnknownWhereItHasAPart(t *testing.T) {
	k := chain(10, 0, 4)
	r := Of(k)
	assert.True(t, r.Stops[0].Known)
	assert.False(t, r.Stops[1].Known)
	assert.False(t, r.Stops[2].Known)
	assert.Equal(t, []string{"p2"}, r.Unknown)
	assert.Equal(t, -1, r.Worst, "the worst may be one that nobody knows")

	whole := chain(0, 0)
	whole.Route.Segments = []install.Segment{{LengthM: 30}}
	r = Of(whole)
	assert.False(t, r.Legged)
	assert.Len(t, r.Unknown, 2)
	assert.Empty(t, Of(&install.Circuit{}).Stops)
}

// No point of a ring sees more than a quarter of it, and moving a point along a radial changes no other's way there.
func TestRingsOfAnyLegs(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 3))
		legs := make([]float64, 2+r.IntN(9))
		for i := range legs {
			legs[i] = 0.5 + 12*r.Float64()
		}
		got := Of(ring(0.5+12*r.Float64(), legs...))
		for _, s := range got.Stops {
			assert.LessOrEqual(t, s.SeenM, got.RingM/4+1e-9)
			assert.InDelta(t, s.OutM*s.BackM/(s.OutM+s.BackM), s.SeenM, 1e-9)
			assert.False(t, math.IsNaN(s.SpreadM))
			assert.LessOrEqual(t, s.SpreadM, got.RingM/4+1e-9, "a load that is spread drops less than all of it at the far point")
		}
	}
}
