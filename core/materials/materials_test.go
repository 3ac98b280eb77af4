package materials

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
)

// drawn is a practice whose circuits have a wire beside the cable, cut to its length.
type drawn struct{ iec230.Practice }

func (drawn) Parts(_ *install.Job, c *install.Circuit) []rulebook.Part {
	return []rulebook.Part{{Key: "wire", Count: c.Route.LengthM(), Unit: "m", Cut: true}, {Key: "box", Count: 20}}
}

func TestWhatIsCutBesideTheCableHasItsWasteToo(t *testing.T) {
	to := Of(Model{Job: job(37.5), Book: rulebook.Complete(drawn{})})
	assert.InDelta(t, 42, line(t, to, "wire").Order, 0, "40 m and a twentieth")
	assert.InDelta(t, line(t, to, "cable:swa3-90:6").Order, line(t, to, "wire").Order, 0)
	assert.InDelta(t, 20, line(t, to, "box").Order, 0, "pieces are not wasted")
}

func job(lengths ...float64) *install.Job {
	c := install.Circuit{ID: "c1", Use: "ev", Point: install.Point{CurrentA: 32, Outdoor: true},
		Route:      install.Route{CableType: "swa3-90", LineMM2: 6, SlackM: 1, BoardTailM: 1, PointTailM: 0.5},
		Protection: install.Protection{Curve: "B", RatingA: 32, RCDType: "A", IdnMA: 30, IcnKA: 6},
		PEN:        install.PEN{Option: "tt_rod", Rods: 2}}
	for _, l := range lengths {
		c.Route.Segments = append(c.Route.Segments, install.Segment{LengthM: l, Method: "C", Basis: install.Measured})
	}
	return &install.Job{Supply: install.Supply{Earthing: "TN-C-S"}, Circuits: []install.Circuit{c},
		Materials: install.Materials{WastagePc: 5, Lines: map[string]install.Stock{}}}
}

// of is the list of a job of the 230 V practice.
func of(j *install.Job, prices map[string]Item) TakeOff {
	return Of(Model{Job: j, Book: rulebook.Complete(iec230.Practice{}), Prices: prices})
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
	c := line(t, of(job(12, 6), nil), "cable:swa3-90:6")
	assert.InDelta(t, 20.5, c.Need, 1e-9)
	assert.InDelta(t, 22, c.Order, 1e-9, "20.5 × 1.05 = 21.525, next metre")
	assert.Nil(t, c.Price)
}

func TestClipsBySpacing(t *testing.T) {
	// 16.6 mm armoured: 400 mm apart. 12 m: 30 spaces, 31 clips; 6 m: 16.
	clips := line(t, of(job(12, 6), nil), "clip:armoured:16.6")
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
		{"too short", install.Stock{Delivered: 18}, 2.5, "2.5\u00a0m shorter"},
		{"two pieces that add up", install.Stock{Delivered: 24, Lengths: "12 + 12"}, 20.5, "in one piece"},
		{"a second piece long enough", install.Stock{Delivered: 30, Lengths: "8 + 22"}, 0, ""},
		{"delivered in full, the pieces not measured", install.Stock{Delivered: 25}, 20.5, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := job(12, 6)
			j.Materials.Lines["cable:swa3-90:6"] = c.stock
			to := of(j, nil)
			l := line(t, to, "cable:swa3-90:6")
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
	for _, l := range of(j, nil).Lines {
		prices[l.Key] = Item{Price: 2}
	}
	to := of(j, prices)
	require.NotNil(t, to.Total)
	sum := 0.0
	for _, l := range to.Lines {
		sum += 2 * l.Order
	}
	assert.InDelta(t, sum, *to.Total, 1e-9)
	delete(prices, "earth-rod")
	assert.Nil(t, of(j, prices).Total)
	// What is unpriced in both designs cancels; what is unpriced in one does not.
	longer := job(15, 6)
	extra, ok := Extra(rulebook.Complete(iec230.Practice{}), prices, j, longer)
	assert.True(t, ok)
	assert.Positive(t, extra)
	longer.Circuits[0].PEN.Rods++
	_, ok = Extra(rulebook.Complete(iec230.Practice{}), prices, j, longer)
	assert.False(t, ok, "one rod more, and no price of a rod")
}

func TestTheDecisionIsOrdered(t *testing.T) {
	assert.InDelta(t, 2, line(t, of(job(5), nil), "earth-rod").Order, 0)
	j := job(5)
	j.Circuits[0].PEN.Option = "voltage_monitor"
	line(t, of(j, nil), "pen-device")
}

func TestALongerRouteNeverNeedsLess(t *testing.T) {
	last := 0.0
	for l := 1.0; l < 90; l += 0.7 {
		c := line(t, of(job(l), nil), "cable:swa3-90:6")
		assert.GreaterOrEqual(t, c.Order, last)
		assert.GreaterOrEqual(t, c.Order, c.Need)
		assert.InDelta(t, math.Trunc(c.Order), c.Order, 0)
		last = c.Order
	}
}

// The walk is ordered by kind and box: what is new, with a box for what is moved
// too; what stays or goes is not bought.
func TestTheWalkIsOrdered(t *testing.T) {
	point := func(kind, state, box string, n int) install.RoomPoint {
		return install.RoomPoint{Kind: kind, State: state, Count: n, Box: box}
	}
	j := &install.Job{Rooms: []install.Room{
		{Points: []install.RoomPoint{point("socket-2", install.New, "", 4), point("socket-2", install.Moved, "", 1),
			point("tv", install.Removed, "", 3), {Typed: "frob", Count: 1, State: install.New}}},
		{Points: []install.RoomPoint{point("socket-2", install.New, "2g 47", 2), point("light", install.Kept, "", 5)}},
	}}
	to := of(j, map[string]Item{"point:socket-2": {Price: 4}, "box:2g 35": {Price: 1}})
	got := map[string]float64{}
	for _, l := range to.Lines {
		got[l.Key] = l.Order
	}
	assert.Equal(t, map[string]float64{"point:socket-2": 6, "box:2g 35": 5, "box:2g 47": 2}, got)
	assert.Equal(t, 24.0, *line(t, to, "point:socket-2").Price)
	assert.Equal(t, 1, to.Unpriced)
	assert.Nil(t, to.Total)
	extra, ok := Extra(rulebook.Complete(iec230.Practice{}), nil, j, j)
	assert.True(t, ok, "a remedy is priced by its circuits alone")
	assert.Zero(t, extra)
}

// What a circuit needs beside its cable and breaker: spurs in pieces of their own,
// a conductor beside the cable, the device that is fitted, and what circuits share.
func TestTheTakeOffFollowsTheDesign(t *testing.T) {
	design := func(change func(*install.Job, *install.Circuit)) TakeOff {
		j := job(10)
		c := rulebook.Complete(iec230.Practice{}).Defaults("ring")
		c.ID, c.Name = "r", "Ring"
		c.Route.Segments[0].LengthM, c.Route.SlackM, c.Route.BoardTailM, c.Route.PointTailM = 40, 0, 0, 0
		c.Route.Segments[0].Basis = install.Assumed
		change(j, &c)
		j.Circuits = []install.Circuit{c}
		j.Materials.WastagePc = 10
		return of(j, nil)
	}
	template := design(func(_ *install.Job, c *install.Circuit) { c.Route.Segments[0].Basis = "" })
	for _, l := range template.Lines {
		assert.False(t, l.ByLength, "of a route that is the template's no cable is ordered: %s", l.Key)
	}
	assert.Contains(t, template.Gaps[0].What, "its route is that of the template")
	plain := design(func(*install.Job, *install.Circuit) {})
	assert.InDelta(t, 44, line(t, plain, "cable:flat-te-70:2.5").Order, 0)
	assert.Contains(t, line(t, plain, "device:rcbo:A:B32:30:6").Name, "B32")

	spurs := design(func(_ *install.Job, c *install.Circuit) {
		c.Serves.Spurs = []install.Spur{{Place: "porch", LengthM: 3.2, Outlets: 1}, {Place: "attic", LengthM: 4, Outlets: 2, Fused: true}}
	})
	cable := line(t, spurs, "cable:flat-te-70:2.5")
	assert.InDelta(t, 47.2, cable.Need, 1e-9, "the ring of 40 and its spurs of 7.2 are one product")
	assert.InDelta(t, 52, cable.Order, 0, "47.2 m and a tenth, up to the metre once")
	require.Len(t, cable.Asks, 2)
	assert.InDelta(t, 7.2, cable.Asks[1].Need, 1e-9)
	line(t, spurs, "fused-spur")

	beside := design(func(_ *install.Job, c *install.Circuit) { c.Route.CPC, c.Route.CPCMM2 = "separate", 4 })
	assert.InDelta(t, 44, line(t, beside, "cpc:4").Order, 0)

	al := design(func(_ *install.Job, c *install.Circuit) { c.Route.Aluminium = true })
	assert.Contains(t, line(t, al, "al-cable:flat-te-70:2.5").Name, "aluminium")

	arc := design(func(_ *install.Job, c *install.Circuit) { c.Protection.ArcFault = true })
	assert.Contains(t, line(t, arc, "device:afdd:A:B32:30:6").Name, "Arc-fault and combined")
	arc = design(func(_ *install.Job, c *install.Circuit) { c.Protection.ArcFault, c.Protection.RCDType = true, "" })
	line(t, arc, "device:afdd::B32:6")
	fuse := design(func(_ *install.Job, c *install.Circuit) { c.Protection.Family, c.Protection.RCDType = "bs3036", "" })
	assert.Contains(t, line(t, fuse, "device:fuse:bs3036:32").Name, "rewirable fuse")

	shared := design(func(j *install.Job, c *install.Circuit) {
		j.Board.Groups = []install.Group{{ID: "g", Name: "Lights", RCDType: "A", IdnMA: 30, RatingA: 63}}
		c.Protection.RCDType, c.Protection.Group = "", "g"
	})
	line(t, shared, "device:mcb:B32:6")
	assert.Contains(t, line(t, shared, "device:rccb:A:63:30").Name, "63 A, type A 30 mA")
}

// A ring is cut at every outlet, so its cable may come in pieces; each spur is one piece; a
// single run is one. Aluminium is held to it as copper is, and the line speaks its unit.
func TestWhatMustComeInOnePiece(t *testing.T) {
	for _, c := range []struct {
		name    string
		change  func(*install.Circuit)
		key     string
		lengths string
		short   bool
		says    string
	}{
		{"a single run", func(*install.Circuit) {}, "cable:swa3-90:6", "15 + 15", true, "in one piece"},
		{"a single run of aluminium", func(k *install.Circuit) { k.Route.Aluminium = true }, "al-cable:swa3-90:6",
			"15 + 15", true, "in one piece"},
		{"a ring", func(k *install.Circuit) { k.Use, k.Serves.Outlets = "ring", 8 }, "cable:swa3-90:6", "15 + 15", false, ""},
		{"a ring, too little", func(k *install.Circuit) { k.Use, k.Serves.Outlets = "ring", 8 }, "cable:swa3-90:6",
			"10 + 10", true, "together"},
		{"spurs of 3 and 4 m", func(k *install.Circuit) { k.Serves.Spurs = []install.Spur{{LengthM: 3}, {LengthM: 4}} },
			"cable:swa3-90:6", "20.5 + 4 + 4", false, ""},
		{"spurs of 3 and 4 m from one", func(k *install.Circuit) {
			k.Serves.Spurs = []install.Spur{{LengthM: 3},
				{LengthM: 4}}
		}, "cable:swa3-90:6", "20.5 + 7", false, ""},
		{"spurs of 3 and 4 m from short pieces", func(k *install.Circuit) {
			k.Serves.Spurs = []install.Spur{{LengthM: 3},
				{LengthM: 4}}
		}, "cable:swa3-90:6", "20.5 + 3.5 + 3.5", true, "in one piece"},
	} {
		j := job(12, 6)
		c.change(&j.Circuits[0])
		j.Materials.Lines[c.key] = install.Stock{Delivered: 30, Lengths: c.lengths}
		l := line(t, of(j, nil), c.key)
		assert.Equal(t, c.short, l.Short > 0, "%s: %s", c.name, l.Trouble)
		assert.Contains(t, l.Trouble, c.says, c.name)
	}
	l := Line{Name: "12 AWG", Unit: "ft", Need: 60, ByLength: true, Asks: []Ask{{For: "Range", Need: 60, pieces: []Piece{{Length: 60}}}}}
	l.stock(nil, install.Stock{Ordered: 70, Delivered: 31})
	assert.Contains(t, l.Trouble, "31\u00a0ft is 29\u00a0ft shorter than the 60\u00a0ft that are needed. Do not travel for Range.")
	assert.Equal(t, "31\u00a0ft of the 70\u00a0ft that were ordered came.", l.Remark)
}

// Of any pieces, what is said to be enough can be cut: each run fits into a piece.
func FuzzPiecesHoldTheRuns(f *testing.F) {
	f.Add(4.0, 3.0, 7.0, 1.0)
	f.Add(4.0, 3.0, 4.0, 4.0)
	f.Fuzz(func(t *testing.T, a, b, x, y float64) {
		for _, v := range []float64{a, b, x, y} {
			if !(v > 0.01 && v < 1000) {
				t.Skip()
			}
		}
		l := Line{Unit: "m", Need: a + b, ByLength: true, Asks: []Ask{{Need: a, pieces: []Piece{{Length: a}}}, {Need: b, pieces: []Piece{{Length: b}}}}}
		cut, _, _ := l.serve([]float64{x, y}, true)
		assert.Equal(t, cut > 0, l.Asks[0].Lacks || l.Asks[1].Lacks)
		if cut == 0 {
			fits := x+1e-6 >= a && y+1e-6 >= b || x+1e-6 >= b && y+1e-6 >= a || x+1e-6 >= a+b || y+1e-6 >= a+b
			assert.True(t, fits, "%g and %g from %g and %g", a, b, x, y)
		}
	})
}

// Of every product that the list may name it is known who decides what may stand in its place, by the nearest of its names.
func TestWhoDecidesWhatStandsInAPlace(t *testing.T) {
	for product, want := range map[string]May{"cable:flat-te-70:6": MayDesign, "cable:data": MayLike, "cable:strapper": MayCircuit, "device:mcb:B16:6": MayDesign,
		"device:rccb:A:63:30": MayBoard, "device:spd:2:275:1.4": MaySurge, "duct:cement": MayNever, "duct:ring:50.8": MayLike, "labels": MayLike,
		"meter-base:200": MaySupply, "work:board": MayNever} {
		may, why, at := Substitution(product)
		assert.Equal(t, want, may, product)
		assert.Equal(t, may == MayLike || may == MayDesign, why == "", "%s: why not", product)
		assert.Equal(t, may == MaySupply || may == MaySurge || may == MayCircuit || may == MayBoard, at != nil, "%s: where", product)
	}
	for r := range substitutions.Text {
		assert.Contains(t, []May{MayLike, MayDesign, MaySupply, MaySurge, MayCircuit, MayBoard, MayNever}, May(substitutions.Row(r).May))
	}
}
