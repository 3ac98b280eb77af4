package split120

import (
	"encoding/json"
	"fmt"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// twoMains is a house with two service disconnects side by side behind one meter base.
func twoMains() *install.Job {
	j := house()
	j.Chain.Enclosures = []install.Enclosure{
		{ID: "meter", Kind: "meter", Name: "Meter base", Owner: install.OwnerCustomer, RatingA: known(320)},
		{ID: "one", Kind: "disconnect", Name: "Disconnect 1", From: "meter", Owner: install.OwnerCustomer,
			RatingA: known(200), Disconnect: truth(true), Outside: truth(true), Joined: truth(true),
			Feed: install.Conductor{Material: "cu", Size: "3/0", Wires: 3, LengthM: known(1)}},
		{ID: "two", Kind: "disconnect", Name: "Disconnect 2", From: "meter", Owner: install.OwnerCustomer,
			RatingA: known(200), Disconnect: truth(true), Outside: truth(true), Joined: truth(true),
			Feed: install.Conductor{Material: "cu", Size: "3/0", Wires: 3, LengthM: known(1)}},
		{ID: "pa", Kind: "panel", Name: "Panel 1", From: "one", Owner: install.OwnerCustomer, RatingA: known(200),
			Joined: truth(false), Feed: install.Conductor{Material: "cu", Size: "3/0", EarthMM2: "6", Wires: 4, LengthM: known(4)}},
		{ID: "pb", Kind: "panel", Name: "Panel 2", From: "two", Owner: install.OwnerCustomer, RatingA: known(200),
			Joined: truth(false), Feed: install.Conductor{Material: "cu", Size: "3/0", EarthMM2: "6", Wires: 4, LengthM: known(4)}},
	}
	j.Supply.EarthTo = rodsKind
	j.Supply.Bonds[0].MM2 = known(AreaMM2("1/0"))
	return j
}

// The line side is judged by the marking against the entry, and against what is usual of a meter base.
func TestTheLineSideOfAnEnclosure(t *testing.T) {
	for _, x := range []struct {
		line, enters string
		want         working.Verdict
	}{{"top", "", working.Pass}, {"bottom", "", working.Caution}, {"bottom", "top", working.Fail}, {"top", "left", working.Pass}, {"", "top", working.Unknown},
		{"", "", ""}} {
		j := house()
		j.Chain.Enclosures[0].Kind, j.Chain.Enclosures[0].LineAt, j.Chain.Enclosures[0].Enters = kindMeter, x.line, x.enters
		got := working.Verdict("")
		for _, c := range (Practice{}).Chain(j).Checks {
			if c.Rule == rulebook.LineSideRule.ID && c.Object == j.Chain.Enclosures[0].ID {
				got = c.Verdict
			}
		}
		assert.Equal(t, x.want, got, "line at %q, conductors from %q", x.line, x.enters)
	}
}

// Each of two service disconnects has its own jumper (250.24(B), 250.28(D)(2)), is read
// closed, and its conductors are the service's: no equipment ground, three of them.
func TestEachServiceDisconnectHasItsOwnJumper(t *testing.T) {
	j := twoMains()
	chain := Practice{}.Chain(j)
	for _, id := range []string{"one", "two"} {
		n := node(chain, id)
		assert.Equal(t, rulebook.JointMust, n.Joint, id)
		assert.Equal(t, 3, n.Wires, id)
		assert.Equal(t, working.Pass, n.Verdict, id)
	}
	assert.Equal(t, rulebook.JointNever, node(chain, "pb").Joint)
	assert.Equal(t, 4, node(chain, "pb").Wires)

	r := Practice{}.Judge(j)
	find(t, r, "", "service-one")
	find(t, r, "", "service-two")
	for _, c := range r.Checks() {
		assert.NotContains(t, []string{"feeder-two", "feeder-ground-two"}, c.ID, "its conductors are the service's")
	}
	closed := install.Record{Answer: closed}
	for _, x := range (Practice{}).Tests(j, &r) {
		if x.ID == "ng:two" {
			v, says := x.Judge(closed)
			assert.Equal(t, working.Pass, v, says)
		}
	}
	for _, w := range (Practice{}).Work(j, &r) {
		assert.NotContains(t, w.Title, "Leave Disconnect", w.ID)
	}

	j.Chain.Enclosures[2].Joined = truth(false)
	assert.Equal(t, working.Fail, node(Practice{}.Chain(j), "two").Verdict, "the second one without a jumper: no way back for a fault")

	out, _, err := calcNeutralBond(bondInput{Nodes: []bondNode{{ID: "m", Role: "meter"},
		{ID: "a", From: "m", Role: "service_disconnect", AsBuiltBond: truth(true)},
		{ID: "b", From: "m", Role: "service_disconnect", AsBuiltBond: truth(false)},
		{ID: "p", From: "b", Role: "panel", AsBuiltBond: truth(true)}}})
	require.NoError(t, err)
	assert.Equal(t, []string{"a", "b"}, out.Mains)
	assert.Equal(t, []string{"illegal bond at p", "missing bond at b"}, out.Findings)
}

// By hand. Two mains of 200 A on copper: each carries only part of the dwelling, so 200 A
// are needed: 3/0 carries 200, 2/0 carries 175, and 175 is itself a rating (240.4(B)).
// One main alone needs 0.83 × 200 = 166: 2/0 passes. Two panels of 100 A behind one main
// of 200 A, each behind 100 A: 100 A and a ground of 8 AWG; 4 AWG (85 A) fails at 100,
// 3 AWG carries 100.
func TestOnlyTheWholeLoadTakesLess(t *testing.T) {
	at := func(j *install.Job, id string) working.Check { return find(t, Practice{}.Judge(j), "", id) }
	j := twoMains()
	assert.Equal(t, working.Pass, at(j, "service-one").Verdict)
	j.Chain.Enclosures[1].Feed.Size = "2/0"
	c := at(j, "service-one")
	assert.Equal(t, working.Fail, c.Verdict, c.Summary)
	j.Chain.Enclosures = append(j.Chain.Enclosures[:2:2], j.Chain.Enclosures[3])
	c = at(j, "service-one")
	assert.Equal(t, working.Pass, c.Verdict, c.Summary)
	assert.InDelta(t, 166, *c.Value, 1e-9)

	j = twoMains()
	j.Chain.Enclosures = append(j.Chain.Enclosures[:2:2], j.Chain.Enclosures[3:]...)
	for i := range j.Chain.Enclosures[2:] {
		e := &j.Chain.Enclosures[2+i]
		e.From, e.RatingA, e.Feed.Size, e.Feed.EarthMM2, e.Feed.DeviceA = "one", known(100), "3", "8", known(100)
	}
	for _, id := range []string{"pa", "pb"} {
		c = at(j, "feeder-"+id)
		assert.Equal(t, working.Pass, c.Verdict, c.Summary)
		assert.InDelta(t, 100, *c.Value, 1e-9)
		c = at(j, "feeder-ground-"+id)
		assert.Equal(t, working.Pass, c.Verdict, c.Summary)
	}
	j.Chain.Enclosures[2].Feed.Size = "4"
	assert.Equal(t, working.Fail, at(j, "feeder-pa").Verdict)
	j.Chain.Enclosures[2].Feed.Size, j.Chain.Enclosures[2].Feed.DeviceA = "3", install.Fact{}
	assert.Equal(t, working.Caution, at(j, "feeder-pa").Verdict, "the device ahead is only assumed to have the panel's rating")
	// The service of two mains of 200 A behind a base of 320 A.
	assert.InDelta(t, 320, Practice{}.Judge(twoMains()).Demand.FuseA, 1e-9)
}

// A gas pipe is no electrode, has no jumper past its meter and is sized by the circuit
// that may make it live: 40 A give 10 AWG (Table 250.122), 100 A give 8. A water pipe
// in the earth asks for the table of the service conductors (4/0 aluminum: 4 AWG) and
// for another electrode beside it; rods ask for 6.
func TestElectrodesAndPipes(t *testing.T) {
	gas := func(size string, circuitA float64, around *bool) *install.Job {
		j := house()
		j.Supply.Bonds = []install.Bond{{Service: "gas pipe", Kind: "gas-pipe", MM2: known(AreaMM2(size)),
			CircuitA: circuitA, Around: around}}
		return j
	}
	for _, x := range []struct {
		name, check string
		want        working.Verdict
		job         *install.Job
	}{
		{"10 AWG for 40 A, no jumper", "bond-1", working.Pass, gas("10", 40, truth(false))},
		{"10 AWG for 100 A", "bond-1", working.Fail, gas("10", 100, truth(false))},
		{"a jumper past the operator's meter", "bond-1", working.Fail, gas("8", 100, truth(true))},
		{"nobody looked for a jumper", "bond-1", working.Unknown, gas("8", 100, nil)},
		{"nobody said which circuit", "bond-1", working.Unknown, gas("8", 0, truth(false))},
		{"6 AWG to rods beside a gas pipe", "electrode-conductor", working.Pass, func() *install.Job {
			j := gas("8", 100, truth(false))
			j.Supply.EarthMM2, j.Supply.EarthTo = known(AreaMM2("6")), rodsKind
			return j
		}()},
		{"8 AWG to rods", "electrode-conductor", working.Fail, func() *install.Job {
			j := house()
			j.Supply.EarthMM2, j.Supply.EarthTo = known(AreaMM2("8")), rodsKind
			return j
		}()},
		{"6 AWG to rods, 4 AWG to the pipe: each by its own", "bond-1", working.Pass, func() *install.Job {
			j := house()
			j.Supply.EarthMM2, j.Supply.EarthTo = known(AreaMM2("6")), rodsKind
			return j
		}()},
		{"6 AWG to the water pipe", "electrode-conductor", working.Fail, func() *install.Job {
			j := house()
			j.Supply.EarthMM2, j.Supply.EarthTo = known(AreaMM2("6")), waterPipe
			return j
		}()},
		{"6 AWG, nobody said to what", "electrode-conductor", working.Unknown, func() *install.Job {
			j := house()
			j.Supply.EarthMM2 = known(AreaMM2("6"))
			return j
		}()},
		{"6 AWG bond of the water pipe", "bond-1", working.Fail, func() *install.Job {
			j := house()
			j.Supply.Bonds[0].MM2 = known(AreaMM2("6"))
			return j
		}()},
		{"a bond of nobody knows what", "bond-1", working.Unknown, func() *install.Job {
			j := house()
			j.Supply.Bonds[0].Kind = ""
			return j
		}()},
		{"a water pipe with rods", "supplemental-electrode", working.Pass, house()},
		{"a water pipe alone", "supplemental-electrode", working.Fail, func() *install.Job {
			j := house()
			j.Outdoor.Electrodes.Rods = nil
			return j
		}()},
		{"a gas pipe alone", "electrodes", working.Unknown, func() *install.Job {
			j := gas("8", 100, truth(false))
			j.Outdoor.Electrodes.Rods = nil
			return j
		}()},
		{"a disconnect outdoors", "emergency-disconnect", working.Pass, house()},
		{"all indoors", "emergency-disconnect", working.Fail, func() *install.Job {
			j := house()
			j.Chain.Enclosures[1].Outside = truth(false)
			return j
		}()},
		{"nobody looked", "emergency-disconnect", working.Unknown, func() *install.Job {
			j := house()
			j.Chain.Enclosures[1].Outside = nil
			return j
		}()},
		{"an edition before it", "emergency-disconnect", working.Pass, func() *install.Job {
			j := house()
			j.Edition, j.Chain.Enclosures[1].Outside = "2017", truth(false)
			return j
		}()},
		{"a surge device of 5 kA", "spd-1", working.Fail, func() *install.Job { j := house(); j.Surge.Devices[0].InKA = 5; return j }()},
		{"of 10 kA", "spd-1", working.Pass, func() *install.Job { j := house(); j.Surge.Devices[0].InKA = 10; return j }()},
		{"of leads of nobody knows what size", "spd-1", working.Caution, func() *install.Job { j := house(); j.Surge.Devices[0].LineMM2 = 0; return j }()},
		{"of a lead that is too thin", "spd-1", working.Fail, func() *install.Job { j := house(); j.Surge.Devices[0].EarthMM2 = 1.3; return j }()},
		{"of nobody knows what", "spd-1", working.Unknown, func() *install.Job { j := house(); j.Surge.Devices[0].InKA = 0; return j }()},
		{"in 2020 nobody asks", "spd-1", working.Pass, func() *install.Job {
			j := house()
			j.Edition, j.Surge.Devices[0].InKA = "2020", 0
			return j
		}()},
	} {
		c := find(t, Practice{}.Judge(x.job), "", x.check)
		assert.Equal(t, x.want, c.Verdict, "%s: %s", x.name, c.Summary)
	}
	j := gas("8", 100, truth(false))
	r := Practice{}.Judge(j)
	for _, w := range (Practice{}).Work(j, &r) {
		assert.NotContains(t, w.Title, "gas pipe on both sides", w.ID)
	}
}

// A rod is 5/8 in thick, or listed and at least 1/2 in; flat it lies 30 in deep, slanted at
// most 45° from the vertical.
func TestRodsByThicknessAndLie(t *testing.T) {
	at := func(change func(*install.PlacedRod), id string) working.Check {
		j := house()
		change(&j.Outdoor.Electrodes.Rods[0])
		for _, c := range (Practice{}).Electrodes(j).Checks {
			if c.ID == id {
				return c
			}
		}
		return working.Check{Verdict: "absent"}
	}
	for _, x := range []struct {
		name, check string
		want        working.Verdict
		change      func(*install.PlacedRod)
	}{
		{"5/8 in", "rod-thickness-1", working.Pass, func(*install.PlacedRod) {}},
		{"1/2 in and listed", "rod-thickness-1", working.Pass, func(r *install.PlacedRod) { r.DiameterMM, r.Listed = 12.7, truth(true) }},
		{"1/2 in, nobody looked", "rod-thickness-1", working.Unknown, func(r *install.PlacedRod) { r.DiameterMM = 12.7 }},
		{"1/2 in, not listed", "rod-thickness-1", working.Fail, func(r *install.PlacedRod) { r.DiameterMM, r.Listed = 12.7, truth(false) }},
		{"1/4 in, listed as anything", "rod-thickness-1", working.Fail,
			func(r *install.PlacedRod) { r.DiameterMM, r.Listed = 6.1, truth(true) }},
		{"flat at 30 in", "rod-lie-1", working.Pass, func(r *install.PlacedRod) { r.Mode, r.Rock, r.TopMM = "flat", true, 762 }},
		{"flat at the surface", "rod-lie-1", working.Fail, func(r *install.PlacedRod) { r.Mode, r.Rock = "flat", true }},
		{"slanted by 40°", "rod-lie-1", working.Pass, func(r *install.PlacedRod) { r.Mode, r.Rock, r.AngleDeg = "slant", true, 40 }},
		{"slanted by 50°", "rod-lie-1", working.Fail, func(r *install.PlacedRod) { r.Mode, r.Rock, r.AngleDeg = "slant", true, 50 }},
		{"slanted by nobody knows", "rod-lie-1", working.Unknown, func(r *install.PlacedRod) { r.Mode, r.Rock = "slant", true }},
	} {
		c := at(x.change, x.check)
		assert.Equal(t, x.want, c.Verdict, "%s: %s", x.name, c.Summary)
	}
	for _, x := range []struct {
		in     float64
		listed bool
		ok     bool
	}{{0.625, false, true}, {0.5, true, true}, {0.5, false, false}, {0.4, true, false}} {
		out, _, err := calcRods(rodsIn{LengthFt: 8, DiameterIn: x.in, Rho: 100, SpacingFt: 8, Listed: x.listed})
		require.NoError(t, err)
		assert.Equal(t, x.ok, out.TwoRodsSatisfyCode, "%v", x)
	}
}

// Places and editions, each near the limit of what a table says.
func TestProtectionByPlaceEditionAndWiring(t *testing.T) {
	sink := func(in float64) *float64 { return &in }
	for _, x := range []struct {
		column string
		o      outlet
		want   Protection
	}{
		{"2023", outlet{Room: "microwave", Volts: 120}, Protection{Yes, Yes, Yes, No, ""}},
		{"2017", outlet{Room: "microwave", Volts: 120}, Protection{No, Yes, Yes, No, ""}},
		{"2017", outlet{Room: "microwave", Volts: 120, SinkIn: sink(72)}, Protection{Yes, Yes, Yes, No, ""}},
		{"2017", outlet{Room: "microwave", Volts: 120, SinkIn: sink(73)}, Protection{No, Yes, Yes, No, ""}},
		{"2017", outlet{Room: "laundry", Volts: 240, SinkIn: sink(10), RatingA: 30}, Protection{No, No, No, No, ""}},
		{"2020", outlet{Room: "living", Volts: 240, SinkIn: sink(10), RatingA: 20}, Protection{Yes, No, Yes, No, ""}},
		{"2023", outlet{Room: "living", Volts: 240, RatingA: 15}, Protection{No, No, Yes, No, ""}},
		{"2023", outlet{Room: "living", Volts: 240, RatingA: 30}, Protection{No, No, No, No, ""}},
		{"2017", outlet{Room: "ev_240", Volts: 240, RatingA: 50}, Protection{Yes, No, No, No, ""}},
		{"2023", outlet{Room: "sump", Volts: 120}, Protection{Yes, Open, Yes, Open, ""}},
		{"cec", outlet{Room: "kitchen_counter", Volts: 120}, Protection{No, No, Yes, No, ""}},
		{"cec", outlet{Room: "kitchen_counter", Volts: 120, SinkIn: sink(59)}, Protection{Yes, No, Yes, No, ""}},
		{"cec", outlet{Room: "kitchen_counter", Volts: 120, SinkIn: sink(60)}, Protection{No, No, Yes, No, ""}},
		{"cec", outlet{Room: "garage", Volts: 120}, Protection{No, Yes, Yes, No, ""}},
		{"cec", outlet{Room: "bathroom", Volts: 120}, Protection{Yes, No, Yes, No, ""}},
	} {
		got, err := protectionOf(x.column, x.o)
		require.NoError(t, err)
		assert.Equal(t, x.want, got, "%s %s %g V", x.column, x.o.Room, x.o.Volts)
	}
	at := func(template, place, edition string, plugged *bool, ratingA float64) working.Verdict {
		j := house()
		j.Edition = edition
		k := circuitOf("c1", template, 1)
		k.Serves.Place, k.Serves.Plugged = place, plugged
		if ratingA > 0 {
			k.Protection.RatingA = ratingA
		}
		j.Circuits = []install.Circuit{k}
		return find(t, Practice{}.Judge(j), "c1", "ground-fault").Verdict
	}
	for _, x := range []struct {
		name, template, place, edition string
		plugged                        *bool
		ratingA                        float64
		want                           working.Verdict
	}{
		{"lights in a crawl space", "lighting", "crawl", "2023", nil, 0, working.Fail},
		{"a heater there", "heating", "crawl", "2023", nil, 0, working.Pass},
		{"an outlet wired in outdoors", "fixed", "outdoor", "2020", truth(false), 0, working.Fail},
		{"before 2020", "fixed", "outdoor", "2017", truth(false), 0, working.Pass},
		{"on 60 A in 2020", "heating", "outdoor", "2020", nil, 60, working.Pass},
		{"on 60 A in 2023, the stricter reading", "heating", "outdoor", "2023", nil, 60, working.Fail},
		{"a charging receptacle", "ev-50", "ev_240", "2023", truth(true), 0, working.Fail},
		{"in 2017 too (625.54)", "ev-50", "ev_240", "2017", truth(true), 0, working.Fail},
		{"wired in", "ev-50", "ev_240", "2017", truth(false), 0, working.Pass},
		{"wired in, readings differ", "ev-50", "ev_240", "2023", truth(false), 0, working.Caution},
		{"nobody knows", "ev-50", "ev_240", "2023", nil, 0, working.Unknown},
		{"a disposer by cord", "disposer", "kitchen_other", "2023", truth(true), 0, working.Fail},
		{"wired in", "disposer", "kitchen_other", "2023", truth(false), 0, working.Pass},
		{"nobody knows", "disposer", "kitchen_other", "2023", nil, 0, working.Unknown},
	} {
		assert.Equal(t, x.want, at(x.template, x.place, x.edition, x.plugged, x.ratingA), x.name)
	}
	j := house()
	j.Circuits = []install.Circuit{circuitOf("c1", "microwave", 1), circuitOf("c2", "sump", 2)}
	j.Circuits[1].Serves.Plugged = truth(true)
	r := Practice{}.Judge(j)
	assert.Equal(t, working.Fail, find(t, r, "c1", "arc-fault").Verdict, "a kitchen")
	assert.Equal(t, working.Unknown, find(t, r, "c2", "arc-fault").Verdict, "the room of the pump is not known")
}

// One duplex is two receptacles; a single one must reach the circuit's rating.
func TestSingleAndDuplex(t *testing.T) {
	at := func(single bool, outletA, circuitA float64) working.Verdict {
		j := house()
		j.Circuits[1].Serves.Boxes = j.Circuits[1].Serves.Boxes[:1]
		j.Circuits[1].Protection.RatingA = circuitA
		b := &j.Circuits[1].Serves.Boxes[0]
		b.Single, b.RatingA = single, outletA
		return find(t, Practice{}.Judge(j), "c2", "receptacles").Verdict
	}
	assert.Equal(t, working.Pass, at(false, 15, 20))
	assert.Equal(t, working.Fail, at(true, 15, 20))
	assert.Equal(t, working.Pass, at(true, 20, 20))
	assert.Equal(t, working.Fail, at(false, 20, 15))
}

// Space, place, devices, fill, cover: one pass and one fail of each near the limit.
func TestSmallRules(t *testing.T) {
	space := func(change func(*install.Job)) *install.Job {
		j := house()
		j.Board.Place = "garage"
		j.Board.Space = install.WorkSpace{DepthMM: 915, WidthMM: 762, HeightMM: 1900, BoardMM: 400, TopMM: 1800,
			HandleMM: 1700, Door90: truth(true)}
		change(j)
		return j
	}
	buried := func(surface string, depthIn float64) *install.Job {
		j := house()
		j.Circuits[0].Route.CableType, j.Circuits[0].Route.LineMM2 = "uf-2", AreaMM2("6")
		seg := &j.Circuits[0].Route.Segments[0]
		seg.Method, seg.DepthMM, seg.Surface = "D", depthIn*inchMM, surface
		return j
	}
	rewire := func(change func(*install.Job)) *install.Job {
		j := house()
		j.Kind = install.Rewire
		j.Circuits = []install.Circuit{circuitOf("c1", "small-appliance", 1), circuitOf("c2", "small-appliance", 2),
			circuitOf("c3", "laundry", 3), circuitOf("c4", "bathroom", 4)}
		j.Rooms = []install.Room{{ID: "r1", Name: "Hall", Kind: "hall"}}
		change(j)
		return j
	}
	six := func(j *install.Job) { // 6/2 with its ground of 10 AWG on 30 A: 10 AWG would carry it
		k := circuitOf("c1", "water-heater", 1)
		k.Route.LineMM2 = AreaMM2("6")
		j.Circuits = []install.Circuit{k}
	}
	for _, x := range []struct {
		name, circuit, check string
		want                 working.Verdict
		job                  *install.Job
	}{
		{"an existing panel of 200 A under 75 in", "", "working-space", working.Pass, space(func(*install.Job) {})},
		{"one of 225 A", "", "working-space", working.Fail, space(func(j *install.Job) { j.Chain.Enclosures[2].RatingA = known(225) })},
		{"a new one", "", "working-space", working.Fail, space(func(j *install.Job) { j.Chain.Enclosures[2].New = true })},
		{"below a flight of stairs", "", "working-space", working.Pass, space(func(j *install.Job) { j.Board.Place = "under_stairs" })},
		{"over the steps", "", "working-space", working.Fail, space(func(j *install.Job) { j.Board.Place = "over_stairs" })},
		{"10 A in 2020", "c1", "design-current", working.Fail, func() *install.Job {
			j := house()
			j.Edition, j.Circuits[0].Protection.RatingA, j.Circuits[0].Point.CurrentA = "2020", 10, 6
			return j
		}()},
		{"10 A in 2023", "c1", "design-current", working.Pass, func() *install.Job {
			j := house()
			j.Circuits[0].Protection.RatingA, j.Circuits[0].Point.CurrentA = 10, 6
			return j
		}()},
		{"24 in in a garden", "c1", "cover", working.Pass, buried("other locations", 24)},
		{"23 in", "c1", "cover", working.Fail, buried("other locations", 23)},
		{"18 in under a drive", "c1", "cover", working.Pass, buried("driveway of a dwelling", 18)},
		{"directly under a building", "c1", "cover", working.Fail, buried("under a building, in raceway", 40)},
		{"nobody said under what", "c1", "cover", working.Unknown, buried("", 40)},
		{"a garage without its circuit", "", "required-circuits", working.Fail,
			rewire(func(j *install.Job) { j.Rooms[0].Kind = "garage" })},
		{"with it", "", "required-circuits", working.Pass, rewire(func(j *install.Job) {
			j.Rooms[0].Kind = "garage"
			j.Circuits = append(j.Circuits, circuitOf("c5", "garage", 5))
		})},
		{"no garage", "", "required-circuits", working.Pass, rewire(func(*install.Job) {})},
		{"nobody walked the rooms", "", "required-circuits", working.Unknown, rewire(func(j *install.Job) { j.Rooms = nil })},
		{"6/2 on 30 A, by its fault current", "c1", "ground", working.Caution, func() *install.Job { j := house(); six(j); return j }()},
		{"the edition before the exception", "c1", "ground", working.Fail,
			func() *install.Job { j := house(); six(j); j.Edition = "2017"; return j }()},
		{"at the end of 600 ft too little flows", "c1", "ground", working.Fail, func() *install.Job {
			j := house()
			six(j)
			j.Circuits[0].Route.Segments[0].LengthM = 600 * footM
			return j
		}()},
	} {
		c := find(t, Practice{}.Judge(x.job), x.circuit, x.check)
		assert.Equal(t, x.want, c.Verdict, "%s: %s", x.name, c.Summary)
	}
	j := house()
	j.Circuits[0].Route.CableType, j.Circuits[0].Route.CPCMM2, j.Circuits[0].Route.CPC = "thhn-emt", 0, "armour"
	assert.InDelta(t, 31, *find(t, Practice{}.Judge(j), "c1", "conduit").Limit, 0, "two conductors fill 31 %, not 40")
	ser, ok := Practice{}.Cable("ser", AreaMM2("1/0"))
	require.True(t, ok)
	assert.InDelta(t, 54*inchMM, ser.ClipHorMM, 1e-6)
}

// The joint in the meter base stands only on the utility's written rule, and a transfer
// switch that is no service equipment not ahead of the service disconnect.
func TestSettledByTheStricterReading(t *testing.T) {
	at := func(j *install.Job, id string) working.Check {
		for _, c := range (Practice{}).Chain(j).Checks {
			if c.ID == id {
				return c
			}
		}
		return working.Check{Verdict: "absent"}
	}
	j := house()
	j.Schools.Set("bondAt", install.Chose("meter"))
	c := at(j, "bond-at-meter-meter")
	assert.Equal(t, working.Unknown, c.Verdict)
	j.Schools.Set("bondRule", install.Chose("service handbook 4.2"))
	c = at(j, "bond-at-meter-meter")
	assert.Equal(t, working.Caution, c.Verdict)
	assert.Equal(t, "low", c.Sources[0].Confidence)
	j = house()
	insert(j, install.Enclosure{ID: "ts", Kind: "transfer", Name: "Transfer switch", Owner: install.OwnerCustomer,
		Disconnect: truth(false)}, "main")
	assert.Equal(t, working.Fail, at(j, "transfer-ahead-ts").Verdict)
	j.Chain.Enclosure("ts").Disconnect = truth(true)
	assert.Equal(t, working.Verdict("absent"), at(j, "transfer-ahead-ts").Verdict)
}

// Conductors hang 10 ft over walkers, 12 over a drive, 18 over a road (230.24(B)); in
// Canada 3.5, 4 and 5.5 m. Without a duct the column of direct burial counts.
func TestHeightsAndDirectBurial(t *testing.T) {
	for _, x := range []struct {
		code           Code
		place          string
		overhead, duct bool
		mm             float64
		barred         bool
	}{
		{NEC, overWalk, true, false, 10 * 304.8, false}, {NEC, overDrive, true, false, 12 * 304.8, false},
		{NEC, overRoad, true, false, 18 * 304.8, false},
		{CEC, overWalk, true, false, 3500, false}, {CEC, overDrive, true, false, 4000, false}, {CEC, overRoad, true, false, 5500, false},
		{NEC, "other locations", false, true, 18 * 25.4, false}, {NEC, "other locations", false, false, 24 * 25.4, false},
		{NEC, "under a building, in raceway", false, false, 0, true}, {NEC, "under a building, in raceway", false, true, 0, false},
	} {
		c, ok := outdoorOf(x.code).At(x.place, x.overhead, x.duct)
		require.True(t, ok, x.place)
		assert.InDelta(t, x.mm, c.MM, 1e-6, "%v", x)
		assert.Equal(t, x.barred, c.Barred, "%v", x)
	}
	_, ok := outdoorRules.At("the moon", true, false)
	assert.False(t, ok)
}

// Canada judges by its own rules: one pass and one fail of each, by hand.
func TestCanadaByItsOwnRules(t *testing.T) {
	space := func(depth, handle float64) *install.Job {
		j := house()
		j.Board.Place = "garage"
		j.Board.Space = install.WorkSpace{DepthMM: depth, WidthMM: 1000, HeightMM: 2300, BoardMM: 400, TopMM: 1800,
			HandleMM: handle, Door90: truth(true)}
		return j
	}
	wall := func(w install.WallLine) *install.Job {
		j := house()
		j.Rooms = []install.Room{{ID: "r1", Name: "Den", Walls: []install.WallLine{w}}}
		return j
	}
	circuits := func(names ...string) *install.Job {
		j := house()
		j.Kind, j.Circuits = install.Rewire, nil
		for i, n := range names {
			j.Circuits = append(j.Circuits, circuitOf(fmt.Sprintf("c%d", i+1), n, 2*i+1))
		}
		return j
	}
	split := circuits("small-appliance", "laundry")
	split.Circuits[0].Protection.Poles, split.Circuits[0].Protection.RatingA = 2, 15
	ground := func(ratingA float64, mm2 string) *install.Job {
		j := house()
		k := circuitOf("c1", "dryer", 1)
		k.Route.CPC, k.Route.CPCMM2, k.Protection.RatingA = "separate", AreaMM2(mm2), ratingA
		j.Circuits = []install.Circuit{k}
		return j
	}
	for _, x := range []struct {
		name, circuit, check string
		want                 working.Verdict
		job                  *install.Job
	}{
		{"1 m in front, handle at 1.7 m", "", "working-space", working.Pass, space(1000, 1700)},
		{"950 mm", "", "working-space", working.Fail, space(950, 1700)},
		{"a handle at 1.75 m", "", "working-space", working.Fail, space(1000, 1750)},
		{"a grounding conductor of 6 AWG", "", "electrode-conductor", working.Pass,
			func() *install.Job { j := house(); j.Supply.EarthMM2 = known(AreaMM2("6")); return j }()},
		{"of 8 AWG", "", "electrode-conductor", working.Fail, func() *install.Job {
			j := house()
			j.Supply.EarthMM2, j.Supply.EarthTo = known(AreaMM2("8")), rodsKind
			return j
		}()},
		{"a bond of 12 AWG on 30 A", "c1", "ground", working.Pass, ground(30, "12")},
		{"of 14 AWG", "c1", "ground", working.Fail, ground(30, "14")},
		{"a wall of 890 mm counts not", "", "spacing-r1", working.Pass, wall(install.WallLine{LengthM: 0.89})},
		{"one of 900 does", "", "spacing-r1", working.Fail, wall(install.WallLine{LengthM: 0.9})},
		{"a counter of 1.8 m with one", "", "spacing-r1", working.Pass, wall(install.WallLine{LengthM: 1.8, Counter: true, Has: 1})},
		{"of 1.9 m", "", "spacing-r1", working.Fail, wall(install.WallLine{LengthM: 1.9, Counter: true, Has: 1})},
		{"no bathroom circuit is asked for", "", "required-circuits", working.Pass,
			circuits("small-appliance", "small-appliance", "laundry")},
		{"a split circuit of 15 A counts as two", "", "required-circuits", working.Pass, split},
		{"one kitchen circuit", "", "required-circuits", working.Fail, circuits("small-appliance", "laundry")},
		{"no surge device", "", "surge-need", working.Caution, func() *install.Job { j := house(); j.Surge.Devices = nil; return j }()},
		{"the counter needs no arc-fault", "c2", "arc-fault", working.Pass,
			func() *install.Job { j := house(); j.Circuits[1].Protection.ArcFault = false; return j }()},
		{"a garage receptacle does", "c1", "arc-fault", working.Fail, circuits("garage")},
	} {
		x.job.Practice = CanadaID
		c := find(t, Practice{}.Judge(x.job), x.circuit, x.check)
		assert.Equal(t, x.want, c.Verdict, "%s: %s %v", x.name, c.Summary, c.Missing)
	}
	cold := Conditions{Material: "cu", InsulationC: 90, AmbientC: 10, CCC: 3, TerminalC: 75, School: "CEC"}
	a, err := cold.Of("12", true)
	require.NoError(t, err)
	assert.InDelta(t, 1, a.Ambient, 0, "Table 5A begins above 30 °C")
	cold.School = "NEC"
	a, err = cold.Of("12", true)
	require.NoError(t, err)
	assert.InDelta(t, 1.15, a.Ambient, 0)
}

// Nothing of a Canadian job cites the other code: sources, working, sentences, steps.
func TestACanadianJobCitesItsOwnCode(t *testing.T) {
	other := regexp.MustCompile(`NEC\b|UL 943|\(?\b(110|2[0-9]{2}|3[0-9]{2}|4[0-9]{2}|6[0-9]{2}|7[0-9]{2})\.[0-9]+\([A-Z0-9]`)
	for _, change := range []func(*install.Job){
		func(*install.Job) {},
		func(j *install.Job) { *j = *dwelling(len(templates)) },
		func(j *install.Job) { *j = *twoMains() },
		func(j *install.Job) {
			j.Kind = install.Rewire
			j.Schools.Set("bondAt", install.Chose("meter"))
			j.Standby = standbySource()
		},
		func(j *install.Job) {
			j.Schools.Set("loadMethod", install.Chose("measured"))
			j.Loads.PeakKVA, j.Loads.PeakDays = known(12), 40
			j.Circuits[1].Serves.Boxes[1].Ground = truth(false)
			j.Supply.Bonds = append(j.Supply.Bonds, install.Bond{Service: "gas", Kind: "gas-pipe", MM2: known(AreaMM2("14"))})
			j.Outdoor.Electrodes.Rods[0].Mode, j.Outdoor.Electrodes.Rods[1].DiameterMM = "flat", 9
			j.Board.Place, j.Board.Space = "bathroom",
				install.WorkSpace{DepthMM: 300, WidthMM: 300, HeightMM: 300, BoardMM: 400, TopMM: 1800, HandleMM: 1900,
					Door90: truth(false)}
		},
	} {
		j := house()
		change(j)
		j.Practice, j.Loads.BasementM2 = CanadaID, known(0)
		r := Practice{}.Report(j, nil)
		chain, electrodes, outdoor := Practice{}.Chain(j), Practice{}.Electrodes(j), Practice{}.Outdoor(j)
		tests, work := Practice{}.Tests(j, &r), Practice{}.Work(j, &r)
		for i := range tests {
			tests[i].Judge = nil
		}
		for _, part := range []any{r, chain, electrodes, outdoor, work} {
			raw, err := json.MarshalIndent(part, "", " ")
			require.NoError(t, err)
			assert.Empty(t, other.FindAllString(string(raw), -1), "%T", part)
		}
	}
}
