package physics

import (
	"math"
	"testing"
	"testing/quick"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// positive maps any float to a usable quantity between 0.001 and 1000.
func positive(v float64) float64 { return 0.001 + math.Mod(math.Abs(v), 1000) }

func TestDropIsLinearInLengthAndCurrent(t *testing.T) {
	require.NoError(t, quick.Check(func(r, a, l float64) bool {
		r, a, l = positive(r), positive(a), positive(l)
		one := Drop(r, 0, 1, a, l)
		return math.Abs(Drop(r, 0, 1, 2*a, l)-2*one) < 1e-9*one && math.Abs(Drop(r, 0, 1, a, 3*l)-3*one) < 1e-8*one
	}, nil))
}

func TestParallelIsUnderItsSmallest(t *testing.T) {
	require.NoError(t, quick.Check(func(a, b, c float64) bool {
		a, b, c = positive(a), positive(b), positive(c)
		return Parallel(a, b, c) < min(a, b, c)
	}, nil))
	assert.Zero(t, Parallel())
}

func TestLongerRodsAndMoreRodsLowerTheResistance(t *testing.T) {
	last := math.Inf(1)
	for l := 1.2; l < 6; l += 0.6 {
		r := Rod(100, l, 0.016)
		assert.Less(t, r, last)
		assert.Greater(t, RodIS(100, l, 0.016), r, "the second school gives more")
		last = r
	}
	two, _ := Rods(40, 100, 2.4, 1, 2)
	assert.Less(t, two, 40.0)
	assert.Greater(t, two, 20.0, "rods near each other share soil")
}

func TestTemperature(t *testing.T) {
	assert.InDelta(t, 1.2, AtTemperature(1, 70), 1e-12)
	assert.InDelta(t, 0.96, AtTemperature(1, 10), 1e-12)
}

func TestCurrentOfThreePhases(t *testing.T) {
	assert.InDelta(t, 32, Current(7360, 230, 1, 1), 1e-9)
	assert.InDelta(t, 31.75, Current(22000, 400, 1, 3), 0.01)
}

func TestAdiabaticScales(t *testing.T) {
	assert.InDelta(t, 13.71, Adiabatic(3100*3100*0.4, 143), 0.01)
	assert.InDelta(t, 2*Adiabatic(1e4, 115), Adiabatic(4e4, 115), 1e-12)
}
