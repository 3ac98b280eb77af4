package materials

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// Off-cuts are what no run needs: together no more than came beyond the need, none shorter than is worth keeping, none longer than the piece it is of.
func TestOffcutsAreWhatNoRunNeeds(t *testing.T) {
	rng := rand.New(rand.NewPCG(19, 4))
	kept := 0
	for range 400 {
		l := Line{Unit: "m", ByLength: true}
		came := []float64{}
		for range 1 + rng.IntN(4) {
			came = append(came, float64(5+rng.IntN(95)))
		}
		for range 1 + rng.IntN(5) {
			a := Ask{Need: float64(1+rng.IntN(300)) / 10}
			if rng.IntN(2) == 0 {
				a.pieces = []Piece{{Length: a.Need}}
			}
			l.Need += a.Need
			l.Asks = append(l.Asks, a)
		}
		l.Lengths, l.Delivered = joined(came), total(came)
		cut, _, _ := (&Line{Unit: "m", Asks: append([]Ask{}, l.Asks...)}).serve(came, true)
		if cut > 0 || l.Need > l.Delivered {
			continue
		}
		off := l.offcuts()
		assert.LessOrEqual(t, total(off), l.Delivered-l.Need+1e-3)
		for _, p := range off {
			assert.GreaterOrEqual(t, p, float64(leastKept))
		}
		kept += len(off)
		for i := range l.Asks {
			assert.False(t, l.Asks[i].Lacks, "what is asked is left as it was")
		}
	}
	assert.Greater(t, kept, 100)
}

// What is taken out of the stock is bought no more: the longer the piece, the less is bought, and never less than nothing.
func TestWhatIsTakenIsNotBought(t *testing.T) {
	j := job(12, 6)
	before := of(j, nil)
	need := line(t, before, "cable:swa3-90:6").Need
	last := line(t, before, "cable:swa3-90:6").Order
	for _, length := range []float64{1, 5, 11, need - 1, need, need + 20} {
		j.Purchases.Taken = []install.Transfer{{Product: "cable:swa3-90:6", Count: length, Unit: "m", Lengths: exactly(length)}}
		to := of(j, nil)
		n := 0.0
		for _, o := range OrderOf(&to, j, nil, "2026-12-01").Lines {
			if o.Product == "cable:swa3-90:6" {
				n = o.Count
			}
		}
		assert.LessOrEqual(t, n, last, "%g", length)
		last = n
		l := line(t, to, "cable:swa3-90:6")
		assert.Empty(t, l.Trouble, "the rest is still to come")
		assert.Empty(t, to.Stops)
		if length >= need {
			assert.Zero(t, n)
			assert.Zero(t, l.Short)
		} else {
			assert.Positive(t, n+boolean(l.Short > 0))
		}
	}
	// It is there for others again once it is left.
	to := of(j, nil)
	m, kept, err := to.LeaveNow(j, Leave{Product: "cable:swa3-90:6", Lengths: "10 + 9", Place: "Van"}, "2026-12-01", "Dot")
	require.NoError(t, err)
	assert.Len(t, kept, 2)
	assert.InDelta(t, 19, m.Count, 1e-9)
	_, _, err = to.LeaveNow(j, Leave{Product: "cable:swa3-90:6", Lengths: "1000", Place: "Van"}, "2026-12-01", "Dot")
	assert.ErrorContains(t, err, "no more than is there")
}

func boolean(b bool) float64 {
	if b {
		return 1
	}
	return 0
}
