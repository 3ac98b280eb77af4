package split120

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Buses that a roof feeds beside the service, by hand: 1.25 × its current and the main breaker, against 100 % of the bus wherever it is and 120 %
// (in Canada 125 %) at the far end of it.
func TestABusIsFedFromBothSides(t *testing.T) {
	for _, x := range []struct {
		name                  string
		practice              rulebook.Practice
		bus, main, roof, with float64
		want                  working.Verdict
	}{
		{"175 + 1.25 × 20 = 200", Practice{}, 200, 175, 20, 200, working.Pass},
		{"200 + 1.25 × 30 = 237.5 of 240", Practice{}, 200, 200, 30, 237.5, working.Caution},
		{"200 + 1.25 × 33 = 241.25", Practice{}, 200, 200, 33, 241.25, working.Fail},
		{"the same in Canada, of 250", Canada{}, 200, 200, 33, 241.25, working.Caution},
		{"a bus of 225 with 200 ahead", Practice{}, 225, 200, 20, 225, working.Pass},
		{"nobody read the bus", Practice{}, 0, 200, 20, 0, working.Unknown},
	} {
		j := house()
		j.Practice, j.Edition = x.practice.ID(), x.practice.Terms().Editions[0]
		j.Board.MainSwitchA, j.Board.RatingA = known(x.main), install.Fact{}
		if x.bus > 0 {
			j.Board.RatingA = known(x.bus)
		}
		j.Circuits[1].Serves.Backfeed, j.Circuits[1].Point.CurrentA = true, x.roof
		c := find(t, x.practice.Judge(j), "c2", "both-sides")
		assert.Equal(t, x.want, c.Verdict, x.name)
		if x.with > 0 {
			assert.InDelta(t, x.with, *c.Value, 1e-9, x.name)
		}
	}
}
