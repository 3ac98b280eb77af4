package materials

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/goods"
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
)

func measured(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// quantities are what a list orders by product, each once.
func quantities(t *testing.T, to TakeOff) map[string]float64 {
	out := map[string]float64{}
	for _, l := range to.Lines {
		_, twice := out[l.Key]
		assert.False(t, twice, "%s stands twice", l.Key)
		out[l.Key] = l.Order
	}
	return out
}

func gaps(to TakeOff) string {
	out := []string{}
	for _, g := range to.Gaps {
		out = append(out, g.What)
	}
	return strings.Join(out, "\n")
}

// An enclosure that the job puts in is on the list with what feeds it, what it is fixed with, and what is joined in it; what is not known of it
// is named, and there is no total before it is.
func TestTheSupplyArrangementIsOrdered(t *testing.T) {
	yes := true
	for practice, x := range map[string]struct {
		book rulebook.Book
		e    install.Enclosure
		want map[string]float64
	}{
		"iec230": {rulebook.Complete(iec230.Practice{}), install.Enclosure{Kind: "isolator", Owner: install.OwnerCustomer, RatingA: measured(100),
			Feed: install.Conductor{Material: "cu", Size: "25", EarthMM2: "16", LengthM: measured(1.4), Way: "tails"}, Mounted: install.OnMasonry},
			map[string]float64{"isolator:100": 1, "service:cu:25": 3, "service-earth:16": 2, "supply-entry:tail-gland": 1, "supply-fixing:plug": 4,
				"marking:supply": 1}},
		"split120": {rulebook.Complete(split120.Practice{}), install.Enclosure{Kind: "disconnect", Owner: install.OwnerCustomer, RatingA: measured(200),
			Disconnect: &yes, Feed: install.Conductor{Material: "al", Size: "4/0", LengthM: measured(6.7), Way: "metal conduit"},
			Mounted: install.OnMetalCladding},
			map[string]float64{"disconnect:200": 1, "service:al:4/0": 70, "conduit:emt:2": 3, "coupling:emt:2": 4, "supply-entry:bushing:2": 1,
				"clip:strap:2": 10,
				"compound":     1, "supply-fixing:backboard": 1, "supply-fixing:screw": 12}},
	} {
		x.e.ID, x.e.Name, x.e.From, x.e.New = "new", "New one", "head", true
		job := func(change func(*install.Enclosure)) *install.Job {
			e := x.e
			change(&e)
			return &install.Job{Practice: practice, Kind: install.SupplyUpgrade, Materials: install.Materials{WastagePc: 5}, Chain: install.Chain{
				Enclosures: []install.Enclosure{{ID: "head", Kind: "meter", Name: "Meter", Owner: install.OwnerCustomer}, e}}}
		}
		list := func(change func(*install.Enclosure)) TakeOff { return Of(Model{Job: job(change), Book: x.book}) }
		whole := list(func(*install.Enclosure) {})
		assert.Empty(t, gaps(whole), practice)
		assert.Equal(t, x.want, quantities(t, whole), practice)
		for _, l := range whole.Lines {
			assert.NotEqual(t, WorkGroup, l.Group, "%s has no family", l.Key)
			assert.Equal(t, []string{"outage-fit:new"}, l.Asks[0].Steps, l.Key)
		}
		prices := map[string]Item{}
		for _, l := range whole.Lines {
			prices[l.Key] = Item{Price: 1}
		}
		assert.NotNil(t, Of(Model{Job: job(func(*install.Enclosure) {}), Book: x.book, Prices: prices}).Total)
		for says, change := range map[string]func(*install.Enclosure){
			"its rating": func(e *install.Enclosure) { e.RatingA = install.Fact{} }, "what it is fixed to": func(e *install.Enclosure) { e.Mounted = "" },
			"how long its conductors are":         func(e *install.Enclosure) { e.Feed.LengthM = install.Fact{} },
			"material and size of its conductors": func(e *install.Enclosure) { e.Feed.Size = "" },
			"in what its conductors run":          func(e *install.Enclosure) { e.Feed.Way = "by hand" },
		} {
			to := list(change)
			assert.Contains(t, gaps(to), "New one: not known yet: "+says, practice)
			assert.Nil(t, Of(Model{Job: job(change), Book: x.book, Prices: prices}).Total, "no total of a list that is not whole")
		}
		operators := list(func(e *install.Enclosure) { e.From = "" })
		l := line(t, operators, "service:"+string(x.e.Feed.Material)+":"+x.e.Feed.Size)
		assert.Zero(t, l.Order, "the operator brings what comes from their equipment")
		assert.Zero(t, l.Short)
	}
}

// What others bring is not bought and not priced; it is missing until it came, and of what the client supplies until somebody saw that it
// does and who answers for it.
func TestWhatOthersBringIsNotBought(t *testing.T) {
	yes, no := true, false
	for name, x := range map[string]struct {
		b       install.Brought
		ready   bool
		trouble bool
		says    string
	}{
		"in place":          {install.Brought{By: install.IsThere}, true, false, "in place already"},
		"not yet":           {install.Brought{By: install.ByClient}, false, false, "nobody has said when"},
		"expected":          {install.Brought{By: install.ByOthers, Expected: "2026-12-04"}, false, false, "expected on 2026-12-04"},
		"came, not seen":    {install.Brought{By: install.ByClient, Arrived: "2026-12-04"}, false, false, "nobody has looked"},
		"came, no warranty": {install.Brought{By: install.ByClient, Arrived: "2026-12-04", Suitable: &yes}, false, false, "who answers for it"},
		"came and does": {install.Brought{By: install.ByClient, Arrived: "2026-12-04", Suitable: &yes, Warranty: install.ByClient}, true, false,
			"there since"},
		"does not do": {install.Brought{By: install.ByClient, Arrived: "2026-12-04", Suitable: &no, Note: "no earth"}, false, true,
			"not suitable: no earth"},
		"not whole":         {install.Brought{By: install.ByClient, Arrived: "2026-12-04", Missing: "the grille"}, false, true, "missing of it: the grille"},
		"out of the van":    {install.Brought{By: install.ByStock, Arrived: "2026-12-04"}, true, false, "there since"},
		"others brought it": {install.Brought{By: install.ByOthers, Arrived: "2026-12-04"}, true, false, "there since"},
	} {
		j := job(5)
		prices := map[string]Item{"charge-point": {Price: 400}}
		before := line(t, of(j, prices), "charge-point")
		require.NotNil(t, before.Price)
		j.Materials.Brought = map[string]install.Brought{"c1:charge-point": x.b}
		to := of(j, prices)
		l := line(t, to, "charge-point")
		assert.Equal(t, [3]float64{0, 0, 0}, [3]float64{l.Need, l.Order, *l.Price}, name)
		assert.Equal(t, x.ready, l.Short == 0, name)
		require.NotNil(t, l.Asks[0].Brought, name)
		assert.Contains(t, l.Asks[0].Brought.Says, x.says, name)
		stops := slices.ContainsFunc(to.Stops, func(s Stop) bool { return s.Step == "c1-point" })
		assert.Equal(t, x.trouble, stops, name)
		assert.Equal(t, x.trouble, len(to.Troubles) > 0, name)
	}
}

// What came short stops the steps that it does not suffice for, and no others.
func TestWhatCameShortStopsItsSteps(t *testing.T) {
	j := job(12, 6) // 20.5 m
	k := j.Circuits[0]
	k.ID, k.Name = "c2", "Shed"
	k.Route.Segments = []install.Segment{{LengthM: 7, Method: "C", Basis: install.Measured}} // 9.5 m
	j.Circuits = append(j.Circuits, k)
	steps := func(s install.Stock) (out []string) {
		j.Materials.Lines["cable:swa3-90:6"] = s
		for _, stop := range of(j, nil).Stops {
			out = append(out, stop.Step)
		}
		return out
	}
	assert.Empty(t, steps(install.Stock{}), "nothing is known to be short before anything came")
	assert.Equal(t, []string{"c1-cable"}, steps(install.Stock{Delivered: 30, Lengths: "2x15"}))
	assert.Equal(t, []string{"c1-cable", "c2-cable"}, steps(install.Stock{Delivered: 8, Lengths: "8"}))
	assert.Empty(t, steps(install.Stock{Delivered: 30, Lengths: "20.5 + 9.5"}))
	j.Materials.Lines = map[string]install.Stock{"c1:cable:swa3-90:6": {Ordered: 20, Delivered: 20, Lengths: "20"}, "c2:cable:swa3-90:6": {Ordered: 10,
		Delivered: 10, Lengths: "10"}}
	l := line(t, of(j, nil), "cable:swa3-90:6")
	assert.Equal(t, [2]any{30.0, "20 + 10"}, [2]any{l.Delivered, l.Lengths}, "older jobs kept it circuit by circuit")
}

// In packs as it is sold the order is what a plan of the cuts buys; each cut stands in it once, one behind the other on its drum.
func TestTheCutPlanCutsEveryRunOnce(t *testing.T) {
	j := job(12, 6)
	for i, m := range []float64{33, 8, 21, 5} {
		k := j.Circuits[0]
		k.ID = string(rune('d' + i))
		k.Route.Segments = []install.Segment{{LengthM: m, Method: "C", Basis: install.Assumed}}
		j.Circuits = append(j.Circuits, k)
	}
	prices := map[string]Item{"cable:swa3-90": {Unit: "m", Price: 2, Packs: []float64{25, 50, 100}}}
	to := of(j, prices)
	l := line(t, to, "cable:swa3-90:6")
	assert.InDelta(t, 125, l.Order, 0)
	assert.InDelta(t, 250, *l.Price, 0)
	plans := CutPlans(&to, j, nil)
	require.Len(t, plans, 1)
	p := plans[0]
	assert.Empty(t, p.Lacks)
	assert.Equal(t, [2]any{125.0, true}, [2]any{p.Bought, p.Exact})
	assert.GreaterOrEqual(t, p.Hand, p.Bought)
	bought, cuts := 0.0, map[string]float64{}
	for _, b := range p.Buy {
		bought += b.Length * float64(b.Count)
	}
	assert.InDelta(t, p.Bought, bought, 1e-9)
	for _, b := range p.Bars {
		at := 0.0
		for _, c := range b.Cuts {
			assert.InDelta(t, at, c.Start, 1e-9)
			assert.InDelta(t, c.Length, c.End-c.Start, 1e-9)
			at = c.End
			cuts[c.For] += c.Length
		}
		assert.InDelta(t, b.Length, at+b.Left, 1e-9)
	}
	assert.Equal(t, map[string]float64{"c1": 21.6, "d": 37.3, "e": 11.1, "f": 24.7, "g": 7.9}, cuts, "each with a twentieth, up to the next 0.1 m")
	require.Len(t, p.Measure, 3, "the three longest that nobody measured")
	assert.Equal(t, "d", p.Measure[0].For)
	require.NotNil(t, p.Measure[0].Longer)
	assert.LessOrEqual(t, p.Measure[0].Shorter, *p.Measure[0].Longer)
	prices["cable:swa3-90"] = Item{Unit: "m", Packs: []float64{38}}
	tight := of(j, prices)
	assert.Nil(t, CutPlans(&tight, j, nil)[0].Measure[0].Longer, "a tenth longer no drum of 38 m holds it")
	prices["cable:swa3-90"] = Item{Unit: "m", Price: 2, Packs: []float64{25, 50, 100}}

	j.Materials.Lines["cable:swa3-90:6"] = install.Stock{Delivered: 100, Lengths: "100"}
	to = of(j, prices)
	p = CutPlans(&to, j, nil)[0]
	assert.InDelta(t, 25, p.Bought, 0, "what is on site comes first")
	prices["cable:swa3-90"] = Item{Unit: "m", Packs: []float64{25}}
	j.Materials.Lines = nil
	to = of(j, prices)
	assert.Contains(t, CutPlans(&to, j, nil)[0].Lacks, "in one piece, and the longest that is sold is 25")
	assert.Contains(t, gaps(to), "in one piece, and the longest that is sold is 25", "nobody calls such a list whole")
}

// A list in metres serves a job in feet, and the other way about; what the list keeps of a kind is the price of each of it.
func TestAPriceIsOfItsUnit(t *testing.T) {
	prices := map[string]Item{"cable": {Unit: "m", Price: 3}, "cable:nm-2": {Unit: "ft", Price: 1}, "clip": {Unit: "pcs", Price: 2}}
	for product, want := range map[string]struct {
		in   string
		each float64
	}{"cable:uf-2:3.31": {"ft", 0.9144}, "cable:nm-2:3.31": {"ft", 1}, "cable:nm-2:2.08": {"m", 1 / 0.3048}, "clip:flat:nm": {"pcs", 2}} {
		got, ok := each(prices, product, want.in)
		assert.True(t, ok, product)
		assert.InDelta(t, want.each, got, 1e-9, product)
	}
	_, ok := each(prices, "box:1g", "pcs")
	assert.False(t, ok)
}

// A note is read in any form that means one thing, against the list; one that cannot be read whole is not read at all.
func TestADeliveryNoteIsReadWhole(t *testing.T) {
	j := job(12, 6)
	j.Materials.Lines["cable:swa3-90:6"] = install.Stock{Ordered: 50}
	to := of(j, nil)
	note, err := ReadNote([]byte("# number: D-9\n# date: 2026-12-04\nitem;qty;uom;pieces;note\n6 MM² three-core armoured, 90 °C;\"75,5 "+
		"\";ft;1x75,5;wet\n;;;;\n"), &to, j)
	require.NoError(t, err)
	assert.Equal(t, "D-9", note.Number)
	assert.Equal(t, []NoteLine{{Row: 4, Product: "cable:swa3-90:6", Name: "6 mm² three-core armoured, 90 °C", Unit: "m", Said: 23.01, Lengths: "23.01",
		Remark: "wet", Open: 50}}, note.Lines)
	for _, raw := range []string{"product,count,lengths\ncable:swa3-90:6,100.25,100.25\n",
		"product,count,unit,lengths\ncable:swa3-90:6,1005,ft,333 + 335 + 337\n"} {
		note, err = ReadNote([]byte(raw), &to, j)
		require.NoError(t, err)
		k := *j
		assert.NoError(t, to.Receive(&k, install.Delivery{ID: "e", CountedBy: "Dot", Lines: []install.DeliveryLine{{Product: "cable:swa3-90:6",
			Counted: note.Lines[0].Said, Lengths: note.Lines[0].Lengths}}}), "what a note says may be counted as it says")
	}
	note,
		err = ReadNote([]byte(`{"format":"arvelt-delivery/1","number":"D-9","merchant":"Q","on":"","lines":[{"product":"gland:20","name":"","count":2,"unit":"pcs","lengths":[],"remark":""}]}`), &to, j)
	require.NoError(t, err)
	assert.InDelta(t, 2, note.Lines[0].Said, 0)
	var bad goods.Errors
	_, err = ReadNote([]byte("product,count,unit,lengths\ngland:20,2,pcs,\nghost,1,,\ngland:20,two,,\ncable:swa3-90:6,1,kg,\ngland:20,1,pcs,3 + 4\n"), &to, j)
	require.ErrorAs(t, err, &bad)
	said := []string{}
	for _, e := range bad {
		said = append(said, e.Error()[:len("row 3, product")])
	}
	assert.Equal(t, []string{"row 3, product", "row 4, count: ", "row 5, unit: \"", "row 6, lengths"}, said)
	for _, raw := range []string{"", "product,price\na,1\n", "{\"format\":\"other\"}", "{", "# date: soon\nproduct,count\ngland:20,1\n", "product,count\n"} {
		_, err = ReadNote([]byte(raw), &to, j)
		assert.ErrorAs(t, err, &bad, raw)
	}
}

// A delivery adds to what came; the same note is booked in once, its pieces are what was counted, and what it lacks is claimed.
func TestADeliveryIsBookedInOnce(t *testing.T) {
	j := job(12, 6)
	to := of(j, nil)
	d := install.Delivery{ID: "d1", Number: "D-1", Merchant: "Q", On: "2026-12-04", CountedBy: "Dot", Lines: []install.DeliveryLine{
		{Product: "cable:swa3-90:6", Name: "armoured", Said: 50, Counted: 30, Lengths: "18 + 12"}, {Product: "gland:20", Name: "gland", Said: 2, Counted: 2}}}
	k := *j
	m := &k.Materials
	require.NoError(t, to.Receive(&k, d))
	assert.Equal(t, install.Stock{Delivered: 30, Lengths: "18 + 12"}, m.Lines["cable:swa3-90:6"])
	assert.Empty(t, j.Materials.Lines, "what was read before is as it was")
	assert.ErrorContains(t, to.Receive(&k, d), "booked in")
	d.ID, d.Number = "d2", "D-2"
	require.NoError(t, to.Receive(&k, d))
	assert.Equal(t, install.Stock{Delivered: 60, Lengths: "18 + 12 + 18 + 12"}, m.Lines["cable:swa3-90:6"])
	d.Lines = slices.Clone(d.Lines)
	d.ID, d.Number, d.Lines[0].Lengths = "d3", "D-3", "18"
	assert.ErrorContains(t, to.Receive(&k, d), "together, as they were counted")
	d.Lines[0].Product = "ghost"
	assert.ErrorContains(t, to.Receive(&k, d), "a product of the order list")
	claims := to.Claims(&k)
	require.Len(t, claims, 2)
	assert.Contains(t, claims[0].Text, "armoured: the note says 50\u00a0m, 30\u00a0m came.")
	assert.NotContains(t, claims[0].Text, "gland")
}

// A list that is written out and read again changes nothing; one that cannot be read whole is not taken.
func TestAPriceListComesBackEqual(t *testing.T) {
	now := []Item{{Key: "cable:a:1", Name: "A, \"first\"", Unit: "m", Price: 1.25, High: 2, Hours: 0.5, Packs: []float64{50, 100}, LeadDays: 3,
		Merchant: "Q", Instead: []string{"cable:b:1"}},
		{Key: "clip", Name: "Clip", Unit: "pcs", Packs: []float64{}, Instead: []string{}}, {Key: "kept", Name: "K", Unit: "pcs", Packs: []float64{},
			Instead: []string{}}}
	rows := [][]string{CatalogueColumns}
	for i := range now[:2] {
		cells := []string{}
		for _, v := range CatalogueRow(&now[i]) {
			cells = append(cells, strings.TrimSpace(strings.ReplaceAll(fmt.Sprint(v), "\n", " ")))
		}
		rows = append(rows, cells)
	}
	table, err := goods.Rows(rows)
	require.NoError(t, err)
	got, err := ReadCatalogue(table, now)
	require.NoError(t, err)
	assert.Equal(t, [4]int{0, 0, 2, 1}, [4]int{len(got.Added), len(got.Changed), got.Same, got.Kept})
	assert.Equal(t, now, got.Items)

	table, err = goods.Read("key;price;packs\ncable:a:1;1,5;\nnew;3;10\n")
	require.NoError(t, err)
	got, err = ReadCatalogue(table, now)
	require.NoError(t, err)
	assert.Equal(t, []ImportChange{{"cable:a:1", "A, \"first\"", "price", "1.25", "1.5"}, {"cable:a:1", "A, \"first\"", "packs", "50 | 100", ""}}, got.Changed)
	assert.Equal(t, []string{"new · new"}, got.Added)
	assert.InDelta(t, 2, got.Items[0].High, 0, "what the file has no column for stays")
	assert.InDelta(t, 1.25, now[0].Price, 0, "the list as it was is as it was")

	table, err = goods.Read("key,price,packs,lead days\na,1 234,,\na,1,,\n,1,,\nb,,,\nc,1,0,\nd,1,,2.5\ne,-1,,\n")
	require.NoError(t, err)
	got, err = ReadCatalogue(table, now)
	require.NoError(t, err)
	said := []string{}
	for _, e := range got.Unread {
		said = append(said, e.Column)
	}
	assert.Equal(t, []string{"key", "key", "price", "packs", "lead days", "price"}, said)
	table, err = goods.Read("name,cost\na,1\n")
	require.NoError(t, err)
	_, err = ReadCatalogue(table, now)
	assert.ErrorContains(t, err, "key and price")
}
