package materials

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook/iec230"
)

func job(lengths ...float64) *install.Job {
	c := install.Circuit{ID: "c1", Use: "ev", Point: install.Point{CurrentA: 32, Outdoor: true}, Route: install.Route{CableType: "swa3-90", LineMM2: 6, SlackM: 1, BoardTailM: 1, PointTailM: 0.5},
		Protection: install.Protection{Curve: "B", RatingA: 32, RCDType: "A", IdnMA: 30, IcnKA: 6}, PEN: install.PEN{Option: "tt_rod", Rods: 2}}
	for _, l := range lengths {
		c.Route.Segments = append(c.Route.Segments, install.Segment{LengthM: l, Method: "C", Basis: install.Measured})
	}
	return &install.Job{Supply: install.Supply{Earthing: "TN-C-S"}, Circuits: []install.Circuit{c}, Materials: install.Materials{WastagePc: 5, Lines: map[string]install.Stock{}}}
}

func line(t *testing.T, to TakeOff, key string) Line {
	for _, l := range to.Lines {
		if l.Key == key {
			return l
		}
	}
	t.Fatalf("no line %s", key)
	return Line{}
}

func TestCableIsOrderedWithSlackTailsAndWaste(t *testing.T) {
	c := line(t, Of(job(12, 6), iec230.Practice{}, nil), "c1:cable:swa3-90:6")
	assert.InDelta(t, 20.5, c.Need, 1e-9)
	assert.InDelta(t, 22, c.Order, 1e-9, "20.5 × 1.05 = 21.525, next metre")
	assert.Nil(t, c.Price)
}

func TestClipsBySpacing(t *testing.T) {
	// 16.6 mm armoured: 400 mm apart. 12 m: 30 spaces, 31 clips; 6 m: 16.
	clips := line(t, Of(job(12, 6), iec230.Practice{}, nil), "c1:clip:armoured")
	assert.InDelta(t, 47, clips.Need, 1e-9)
	assert.InDelta(t, 50, clips.Order, 1e-9)
}

func TestAShortDeliveryIsCaught(t *testing.T) {
	for _, c := range []struct {
		name    string
		stock   install.Stock
		short   float64
		trouble string
	}{
		{"nothing yet", install.Stock{}, 20.5, ""},
		{"long enough", install.Stock{Delivered: 25, Lengths: "25"}, 0, ""},
		{"too short", install.Stock{Delivered: 18}, 2.5, "2.5 m shorter"},
		{"two pieces that add up", install.Stock{Delivered: 24, Lengths: "12 + 12"}, 20.5, "in one piece"},
		{"a second piece long enough", install.Stock{Delivered: 30, Lengths: "8 + 22"}, 0, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := job(12, 6)
			j.Materials.Lines["c1:cable:swa3-90:6"] = c.stock
			to := Of(j, iec230.Practice{}, nil)
			l := line(t, to, "c1:cable:swa3-90:6")
			assert.InDelta(t, c.short, l.Short, 1e-9)
			if c.trouble == "" {
				assert.Empty(t, to.Troubles)
			} else {
				require.Len(t, to.Troubles, 1)
				assert.Contains(t, to.Troubles[0], c.trouble)
			}
		})
	}
}

func TestPricesSumOrAreUnknown(t *testing.T) {
	j := job(12, 6)
	prices := map[string]Item{}
	for _, l := range Of(j, iec230.Practice{}, nil).Lines {
		prices[priceKey(l.Key)] = Item{Price: 2}
	}
	to := Of(j, iec230.Practice{}, prices)
	require.NotNil(t, to.Total)
	sum := 0.0
	for _, l := range to.Lines {
		sum += 2 * l.Order
	}
	assert.InDelta(t, sum, *to.Total, 1e-9)
	delete(prices, "earth-rod")
	assert.Nil(t, Of(j, iec230.Practice{}, prices).Total)
	_, ok := Price(iec230.Practice{}, prices)(j)
	assert.False(t, ok)
}

func TestTheDecisionIsOrdered(t *testing.T) {
	assert.InDelta(t, 2, line(t, Of(job(5), iec230.Practice{}, nil), "c1:earth-rod").Order, 0)
	j := job(5)
	j.Circuits[0].PEN.Option = "voltage_monitor"
	line(t, Of(j, iec230.Practice{}, nil), "c1:pen-device")
}

func TestALongerRouteNeverNeedsLess(t *testing.T) {
	last := 0.0
	for l := 1.0; l < 90; l += 0.7 {
		c := line(t, Of(job(l), iec230.Practice{}, nil), "c1:cable:swa3-90:6")
		assert.GreaterOrEqual(t, c.Order, last)
		assert.GreaterOrEqual(t, c.Order, c.Need)
		assert.InDelta(t, math.Trunc(c.Order), c.Order, 0)
		last = c.Order
	}
}
