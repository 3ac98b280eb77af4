package split120

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

func known(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

func truth(b bool) *bool { return &b }

// house is a dwelling of 1800 ft² on 200 A with a charge point and one string, all of
// it known.
func house() *install.Job {
	area := 1800 * footM * footM
	j := &install.Job{Format: install.Format, Ref: "S-1", Title: "Loom house", Kind: install.SupplyUpgrade, Practice: "split120", Edition: "2023", Schools: install.DefaultSchools(),
		Site:   install.Site{Customer: "Ode Marl", Address: "3 Loom Lane"},
		Supply: install.Supply{Earthing: "grounded-neutral", DeclaredV: 240, PFCkA: known(9), MainFuseA: known(200), EarthMM2: known(AreaMM2("4")), Intersystem: truth(true), Bonds: []install.Bond{{Service: "water pipe", MM2: known(AreaMM2("4")), Around: truth(true)}}},
		Loads: install.Loads{AreaM2: known(area), Items: []install.Load{
			{Name: "Range", Category: "range", Watts: known(12000).Value, Count: 1, Basis: install.Measured},
			{Name: "Water heater", Category: "appliance", Watts: known(4500).Value, Count: 1, Basis: install.Measured},
		}},
		Board: install.Board{Name: "Panel A"},
		Chain: install.Chain{Enclosures: []install.Enclosure{
			{ID: "meter", Kind: "meter", Name: "Meter base", Owner: install.OwnerCustomer},
			{ID: "main", Kind: "disconnect", Name: "Disconnect", From: "meter", Owner: install.OwnerCustomer, RatingA: known(200), Disconnect: truth(true), Joined: truth(true), New: true, Feed: install.Conductor{Material: "al", Size: "4/0", LengthM: known(2)}},
			{ID: "panel", Kind: "panel", Name: "Panel A", From: "main", Owner: install.OwnerCustomer, RatingA: known(200), Joined: truth(false), Feed: install.Conductor{Material: "al", Size: "4/0", EarthMM2: "4", Wires: 4, LengthM: known(6)}},
		}},
		Surge: install.SurgePlan{Devices: []install.SPD{{Name: "Arrester", Place: "origin", Type: "2", UpKV: 0.6, LineM: 0.1, EarthM: 0.1, BackupA: 30, IsccrKA: 22}}},
	}
	for n := 1; n <= 20; n++ {
		j.Board.Ways = append(j.Board.Ways, install.Way{No: n})
	}
	j.Circuits = []install.Circuit{circuitOf("c1", "ev-60", 1), circuitOf("c2", "small-appliance", 2)}
	j.Circuits[1].Protection.ArcFault = true
	j.Circuits[1].Serves.Boxes = []install.Box{box("b1", "gfci", "", "line"), box("b2", "plain", "b1", "load"), box("b3", "plain", "b2", "line")}
	j.Tidy()
	return j
}

func circuitOf(id, template string, way int) install.Circuit {
	c := Practice{}.Fresh(template)
	c.ID, c.Protection.Way = id, way
	for i := range c.Route.Segments {
		c.Route.Segments[i].Basis = install.Measured
	}
	return c
}

func box(id, device, from, side string) install.Box {
	b := install.Box{ID: id, Name: "Box " + id, Place: "kitchen_counter", Device: device, From: from, Side: side, RatingA: 20, Ground: truth(true), Shuttered: true, HeightMM: 1000, VolumeML: 22 * in3ML}
	if device == "gfci" {
		b.Feed = "line"
	}
	return b
}

func find(t *testing.T, r rulebook.Report, circuit, id string) working.Check {
	t.Helper()
	for _, c := range r.Checks() {
		if c.Circuit == circuit && c.ID == id {
			return c
		}
	}
	t.Fatalf("no check %s of %q", id, circuit)
	return working.Check{}
}

func TestAKnownHousePasses(t *testing.T) {
	j := house()
	require.NoError(t, j.Validate(terms))
	r := Practice{}.Judge(j)
	for _, c := range r.Checks() {
		assert.NotEqual(t, working.Fail, c.Verdict, "%s %s: %s", c.Circuit, c.ID, c.Says)
		assert.NotEqual(t, working.Unknown, c.Verdict, "%s %s: %s", c.Circuit, c.ID, c.Says)
		assert.NotEmpty(t, c.Says, c.ID)
		assert.NotEmpty(t, c.Sources, c.ID)
	}
	assert.Empty(t, Practice{}.Needs(j))
}

// By hand, 220.83: 1800 ft² × 3 + 3 small-appliance circuits (two least and the new
// one is one of them) … the figures below are added on paper.
func TestTheServiceLoadByHand(t *testing.T) {
	j := house()
	// general 5400 + 2 × 1500 + 1500 = 9900; range 12000; heater 4500; EV 48 A × 240 = 11520
	sum := 9900.0 + 12000 + 4500 + 11520
	amps := (8000 + 0.4*(sum-8000)) / 240
	r := Practice{}.Judge(j)
	assert.InDelta(t, amps, r.Demand.AfterA, 0.01)
	before := (8000 + 0.4*(9900+12000+4500-8000)) / 240
	assert.InDelta(t, before, r.Demand.BeforeA, 0.01)
	had, has := 0.0, 0.0
	for _, s := range r.Demand.Shares {
		has += s.Amps
		if !s.New {
			had += s.Amps
		}
	}
	assert.InDelta(t, r.Demand.BeforeA, had, 1e-6, "the shares add up without the new circuits")
	assert.InDelta(t, r.Demand.AfterA, has, 1e-6, "and with them")

	j.Schools.LoadMethod = "measured"
	c := find(t, Practice{}.Judge(j), "", "demand")
	assert.Equal(t, working.Unknown, c.Verdict)
	j.Loads.PeakKVA, j.Loads.PeakDays = known(14), 30
	r = Practice{}.Judge(j)
	assert.InDelta(t, (1.25*14000+11520)/240, r.Demand.AfterA, 0.01, "the peak with a quarter, the new load in full")
	j.Loads.PeakDays = 12
	assert.Equal(t, working.Fail, find(t, Practice{}.Judge(j), "", "demand").Verdict, "twelve days are no record")
}

// The fourth fixed appliance lowers the demand by the standard method, and the tool
// says that it fell and why.
func TestADemandThatFallsIsExplained(t *testing.T) {
	j := house()
	j.Schools.LoadMethod = "standard"
	for _, n := range []string{"Pump", "Opener"} {
		j.Loads.Items = append(j.Loads.Items, install.Load{Name: n, Category: "appliance", Watts: known(4000).Value, Count: 1, Basis: install.Measured})
	}
	j.Circuits = []install.Circuit{circuitOf("c1", "fixed", 1)}
	j.Circuits[0].Serves.PowerW = 600
	r := Practice{}.Judge(j)
	assert.Less(t, r.Demand.AfterA, r.Demand.BeforeA)
	assert.Contains(t, find(t, r, "", "demand").Says, "It fell")
	j.Circuits[0].Serves.PowerW = 9000
	r = Practice{}.Judge(j)
	assert.Greater(t, r.Demand.AfterA, r.Demand.BeforeA)
	assert.NotContains(t, find(t, r, "", "demand").Says, "It fell")
}

// Load management holds the house to its setting, never under what the rest draws.
func TestManagementHoldsTheHouse(t *testing.T) {
	j := house()
	free := Practice{}.Judge(j).Demand.AfterA
	j.Circuits[0].Point.ManagedA = free - 10
	assert.InDelta(t, free-10, Practice{}.Judge(j).Demand.AfterA, 0.01)
	j.Circuits[0].Point.ManagedA = 12
	without := house()
	without.Circuits = without.Circuits[1:]
	assert.InDelta(t, Practice{}.Judge(without).Demand.AfterA, Practice{}.Judge(j).Demand.AfterA, 0.01)
}

// Each row changes one thing of a house that passes, and names the check that then
// fails, is not known or cautions.
func TestOneThingWrong(t *testing.T) {
	for _, x := range []struct {
		name, circuit, check string
		verdict              working.Verdict
		change               func(*install.Job)
	}{
		{"48 A for hours on 50 A", "c1", "design-current", working.Fail, func(j *install.Job) { j.Circuits[0].Protection.RatingA = 50 }},
		{"14 gauge on 20 A", "c2", "capacity", working.Fail, func(j *install.Job) { j.Circuits[1].Route.LineMM2 = AreaMM2("14") }},
		{"6 gauge NM-B under 60 A needed", "c1", "conductor-load", working.Fail, func(j *install.Job) { j.Circuits[0].Route.LineMM2 = AreaMM2("6") }},
		{"six cables in one bundle", "c2", "capacity", working.Fail, func(j *install.Job) { j.Circuits[1].Route.Segments[0].Grouped = 6 }},
		{"an attic of 60 °C", "c2", "capacity", working.Fail, func(j *install.Job) {
			j.Circuits[1].Route.Segments[0].AmbientC, j.Circuits[1].Route.Segments[0].Grouped = 60, 2
		}},
		{"150 ft of 12 gauge", "c2", "voltage-drop", working.Caution, func(j *install.Job) { j.Circuits[1].Route.Segments[0].LengthM = 150 * footM }},
		{"and a local limit", "c2", "voltage-drop", working.Fail, func(j *install.Job) {
			j.Circuits[1].Route.Segments[0].LengthM = 150 * footM
			j.Schools.Local = []install.LocalRule{{Rule: "VD-BR", Value: 3, Reason: "county amendment 4"}}
		}},
		{"10 kA breakers at 12 kA", "c1", "breaking", working.Fail, func(j *install.Job) { j.Supply.PFCkA = known(22) }},
		{"fault current not asked", "c1", "breaking", working.Unknown, func(j *install.Job) { j.Supply.PFCkA = install.Fact{} }},
		{"no ground-fault device", "c2", "ground-fault", working.Fail, func(j *install.Job) { j.Circuits[1].Serves.Boxes[0].Device = "plain" }},
		{"line and load swapped", "c2", "string", working.Fail, func(j *install.Job) { j.Circuits[1].Serves.Boxes[0].Feed = "load" }},
		{"the marking not read", "c2", "ground-fault", working.Unknown, func(j *install.Job) { j.Circuits[1].Serves.Boxes[0].Feed = "" }},
		{"both pairs on LINE", "c2", "ground-fault", working.Fail, func(j *install.Job) { j.Circuits[1].Serves.Boxes[1].Side = "line" }},
		{"two devices in series", "c2", "string", working.Caution, func(j *install.Job) {
			j.Circuits[1].Serves.Boxes[1].Device, j.Circuits[1].Serves.Boxes[1].Feed = "gfci", "line"
			j.Circuits[1].Serves.Boxes[2].Side = "load"
		}},
		{"a three-slot outlet without ground or protection", "c2", "string", working.Fail, func(j *install.Job) {
			j.Circuits[1].Serves.Boxes[0].Device = "plain"
			j.Circuits[1].Serves.Boxes[1].Ground = truth(false)
		}},
		{"no arc-fault breaker in a kitchen", "c2", "arc-fault", working.Fail, func(j *install.Job) { j.Circuits[1].Protection.ArcFault = false }},
		{"an edition that is not there", "c2", "ground-fault", working.Unknown, func(j *install.Job) { j.Edition = "2011" }},
		{"plain shutters", "c2", "receptacles", working.Fail, func(j *install.Job) { j.Circuits[1].Serves.Boxes[2].Shuttered = false }},
		{"a 20 A outlet on 15 A", "c2", "receptacles", working.Fail, func(j *install.Job) {
			j.Circuits[1].Protection.RatingA = 15
		}},
		{"a box too small", "c2", "box-fill", working.Fail, func(j *install.Job) { j.Circuits[1].Serves.Boxes[1].VolumeML = 12.5 * in3ML }},
		{"a box not read", "c2", "box-fill", working.Caution, func(j *install.Job) { j.Circuits[1].Serves.Boxes[1].VolumeML = 0 }},
		{"two poles onto one space", "c1", "way", working.Fail, func(j *install.Job) { j.Circuits[1].Protection.Way = 3 }},
		{"a range on a two-conductor cable", "c1", "conductors", working.Fail, func(j *install.Job) { j.Circuits[0].Use = "range" }},
		{"service of 2/0 aluminum", "", "service-main", working.Fail, func(j *install.Job) { j.Chain.Enclosures[1].Feed.Size = "2/0" }},
		{"feeder without its ground", "", "feeder-ground-panel", working.Fail, func(j *install.Job) { j.Chain.Enclosures[2].Feed.EarthMM2 = "8" }},
		{"electrode conductor of 8", "", "electrode-conductor", working.Fail, func(j *install.Job) { j.Supply.EarthMM2 = known(AreaMM2("8")) }},
		{"the water meter not jumped", "", "bond-1", working.Fail, func(j *install.Job) { j.Supply.Bonds[0].Around = truth(false) }},
		{"nobody looked at the jumper", "", "bond-1", working.Unknown, func(j *install.Job) { j.Supply.Bonds[0].Around = nil }},
		{"no surge device at a new service", "", "surge-need", working.Fail, func(j *install.Job) { j.Surge.Devices = nil }},
		{"a surge device that bears 5 kA", "", "spd-1", working.Fail, func(j *install.Job) { j.Surge.Devices[0].IsccrKA = 5 }},
		{"leads of 30 in", "", "spd-1", working.Caution, func(j *install.Job) { j.Surge.Devices[0].LineM = 0.7 }},
		{"a generator without a transfer switch", "", "standby-transfer", working.Fail, func(j *install.Job) { j.Standby = standbySource() }},
		{"an automatic one that is too small", "", "standby-load", working.Fail, func(j *install.Job) { j.Standby = standbySource(); j.Standby.SourceVA = 3000 }},
		{"the same by hand", "", "standby-load", working.Caution, func(j *install.Job) {
			j.Standby = standbySource()
			j.Standby.SourceVA, j.Standby.Automatic = 3000, false
		}},
		{"a wall of 14 ft with one receptacle", "", "spacing-r1", working.Fail, func(j *install.Job) {
			j.Rooms = []install.Room{{ID: "r1", Name: "Den", Walls: []install.WallLine{{LengthM: 14 * footM, Has: 1}}}}
		}},
		{"a counter of 4 ft with one", "", "spacing-r1", working.Pass, func(j *install.Job) {
			j.Rooms = []install.Room{{ID: "r1", Name: "Den", Walls: []install.WallLine{{LengthM: 4 * footM, Counter: true, Has: 1}, {LengthM: 1.9 * footM}}}}
		}},
		{"standing leakage of 4.5 mA", "c1", "leakage", working.Fail, func(j *install.Job) {
			j.Circuits[0].Protection.RCDType, j.Circuits[0].Protection.IdnMA, j.Circuits[0].Serves.LeakMA = groundFault, classAMA, known(4.5)
		}},
		{"UF-B at 12 in", "c1", "cover", working.Fail, func(j *install.Job) {
			j.Circuits[0].Route.CableType, j.Circuits[0].Route.LineMM2 = "uf-2", AreaMM2("6")
			j.Circuits[0].Route.Segments[0].Method, j.Circuits[0].Route.Segments[0].DepthMM = install.Buried, 12*inchMM
		}},
		{"conductors drawn without a ground", "c1", "ground", working.Unknown, func(j *install.Job) { j.Circuits[0].Route.CableType = "thhn-emt" }},
		{"a rewire with one small-appliance circuit", "", "required-circuits", working.Fail, func(j *install.Job) { j.Kind = install.Rewire }},
		{"30 in in front of the panel", "", "working-space", working.Fail, func(j *install.Job) {
			j.Board.Space = install.WorkSpace{DepthMM: 30 * inchMM, WidthMM: 762, HeightMM: 2100, BoardMM: 400, TopMM: 1800, HandleMM: 1700, Door90: truth(true)}
		}},
		{"a panel in a clothes closet", "", "working-space", working.Fail, func(j *install.Job) {
			j.Board.Location = "Clothes closet"
			j.Board.Space = install.WorkSpace{DepthMM: 1000, WidthMM: 762, HeightMM: 2100, BoardMM: 400, TopMM: 1800, HandleMM: 1700, Door90: truth(true)}
		}},
		{"half of it measured", "", "working-space", working.Unknown, func(j *install.Job) { j.Board.Space.DepthMM = 1000 }},
		{"an outlet without a ground", "", "ungrounded", working.Caution, func(j *install.Job) { j.Circuits[1].Serves.Boxes[2].Ground = truth(false) }},
		{"the drop in Canada", "c2", "voltage-drop", working.Fail, func(j *install.Job) {
			j.Circuits[1].Route.Segments[0].LengthM, j.Schools.SplitCode = 150*footM, "cec"
		}},
		{"a device above the nameplate's", "c1", "design-current", working.Fail, func(j *install.Job) { j.Circuits[0].Point.MaxDeviceA = 50 }},
	} {
		j := house()
		x.change(j)
		c := find(t, Practice{}.Judge(j), x.circuit, x.check)
		assert.Equal(t, x.verdict, c.Verdict, "%s: %s", x.name, c.Says)
	}
}

func standbySource() install.Standby {
	return install.Standby{Source: "generator", Automatic: true, SourceVA: 9000, Carries: []install.Carry{{Name: "Pump", RunVA: 1500, StartVA: 4000, LegA: true, LegB: true}, {Name: "Lights", RunVA: 2000, LegB: true}}}
}

// Where a remedy is offered it cures the check and worsens none.
func TestRemediesHold(t *testing.T) {
	for name, change := range map[string]func(*install.Job){
		"thin":    func(j *install.Job) { j.Circuits[1].Route.LineMM2 = AreaMM2("14") },
		"swapped": func(j *install.Job) { j.Circuits[1].Serves.Boxes[0].Feed = "load" },
		"bare": func(j *install.Job) {
			j.Circuits[1].Serves.Boxes[0].Device, j.Circuits[1].Serves.Boxes[1].Side = "plain", "line"
		},
		"arc":    func(j *install.Job) { j.Circuits[1].Protection.ArcFault = false },
		"far":    func(j *install.Job) { j.Circuits[1].Route.Segments[0].LengthM = 75 * footM },
		"placed": func(j *install.Job) { j.Circuits[1].Protection.Way = 3 },
		"service": func(j *install.Job) {
			j.Chain.Enclosures[1].RatingA, j.Loads.Items[1].Watts = known(100), known(18000).Value
		},
		"kA": func(j *install.Job) { j.Supply.PFCkA = known(20) },
	} {
		j := house()
		change(j)
		r := Practice{}.Report(j, nil)
		offered := 0
		for _, c := range r.Checks() {
			for _, m := range c.Remedies {
				offered++
				fixed := house()
				change(fixed)
				for _, s := range m.Sets {
					set(t, fixed, s)
				}
				after := find(t, Practice{}.Judge(fixed), c.Circuit, c.ID)
				assert.True(t, c.Verdict.Worse(after.Verdict), "%s: %s leaves %s at %s", name, m.Title, c.ID, after.Verdict)
			}
		}
		assert.Positive(t, offered, "%s: nothing is offered", name)
	}
}

// set applies what a remedy sends to the sheets to a job, by its field's path.
func set(t *testing.T, j *install.Job, s working.Set) {
	t.Helper()
	raw, err := json.Marshal(j.CircuitByID(strings.TrimPrefix(s.Part, "circuits/")))
	require.NoError(t, err)
	var m map[string]any
	require.NoError(t, json.Unmarshal(raw, &m))
	at := m
	path := strings.Split(s.Field, ".")
	for _, k := range path[:len(path)-1] {
		at = at[k].(map[string]any)
	}
	at[path[len(path)-1]] = s.Value
	raw, err = json.Marshal(m)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(raw, j.CircuitByID(strings.TrimPrefix(s.Part, "circuits/"))))
}

// The legs: two poles lie on both, odd and even numbers of one row on the same; moves
// never make the difference larger, and none is proposed for an even panel.
func TestLegs(t *testing.T) {
	j := house()
	j.Circuits = nil
	for i := range j.Board.Ways[:4] {
		j.Board.Ways[i].Label, j.Board.Ways[i].LoadA = "Load", 0
	}
	j.Board.Ways[0].LoadA, j.Board.Ways[1].LoadA = 12, 10 // spaces 1 and 2, leg A
	j.Board.Ways[2].LoadA = 4                             // space 3, leg B
	j.Board.Ways[4].Label, j.Board.Ways[4].LoadA, j.Board.Ways[4].Poles = "Range", 30, 2
	r := Practice{}.Judge(j)
	require.NotNil(t, r.Legs)
	assert.InDelta(t, 52, r.Legs.A, 1e-9)
	assert.InDelta(t, 34, r.Legs.B, 1e-9)
	assert.InDelta(t, 18, r.Legs.NeutralA, 1e-9)
	assert.Equal(t, 1, r.Legs.Unknown, "space 4 has a label and no load")
	require.NotEmpty(t, r.Legs.Moves)
	assert.Less(t, math.Abs(r.Legs.AfterA-r.Legs.AfterB), r.Legs.NeutralA)
	for _, m := range r.Legs.Moves {
		assert.NotEqual(t, legOf(m.From), legOf(m.To))
	}
	j.Board.Ways[2].LoadA = 22
	assert.Empty(t, Practice{}.Judge(j).Legs.Moves)
}

// Properties of a circuit over sizes and lengths.
func TestCircuitsAreMonotonic(t *testing.T) {
	value := func(j *install.Job, id string) float64 {
		c := find(t, Practice{}.Judge(j), "c1", id)
		require.NotNil(t, c.Value, "%s: %s", id, c.Says)
		return *c.Value / *c.Limit
	}
	for _, cable := range []string{"nm-2", "mc-2", "thhn-pvc"} {
		dropBefore, loadBefore := math.Inf(1), math.Inf(1)
		for _, mm2 := range terms.Sizes[cable] {
			j := house()
			j.Circuits[0].Route.CableType, j.Circuits[0].Route.LineMM2, j.Circuits[0].Route.CPCMM2 = cable, mm2, AreaMM2("10")
			drop, load := value(j, "voltage-drop"), value(j, "conductor-load")
			assert.Less(t, drop, dropBefore, "%s %s", cable, sizeOf[mm2])
			assert.LessOrEqual(t, load, loadBefore+1e-9, "%s %s", cable, sizeOf[mm2])
			dropBefore, loadBefore = drop, load
		}
		before := 0.0
		for feet := 5.0; feet < 600; feet += 35 {
			j := house()
			j.Circuits[0].Route.Segments[0].LengthM = feet * footM
			now := value(j, "voltage-drop")
			assert.Greater(t, now, before)
			before = now
		}
	}
	hotter := math.Inf(1)
	for ambient := 20.0; ambient <= 60; ambient += 5 {
		a, _, _, err := ampacityOf("NEC", func() *install.Circuit {
			k := house().Circuits[0]
			k.Route.Segments[0].AmbientC = ambient
			return &k
		}(), "4", true)
		require.NoError(t, err)
		assert.LessOrEqual(t, a.DeratedA, hotter)
		hotter = a.DeratedA
	}
}

// Strings depend on their order; what no device opens stays so when a box is added at
// the end, and a device first in line covers all of it.
func TestStringCoverage(t *testing.T) {
	for n := 1; n <= 6; n++ {
		j := house()
		j.Circuits[1].Serves.Boxes = nil
		for i := range n {
			b := box("b"+string(rune('1'+i)), "plain", "", "line")
			if i > 0 {
				b.From = "b" + string(rune('0'+i))
			}
			j.Circuits[1].Serves.Boxes = append(j.Circuits[1].Serves.Boxes, b)
		}
		for first := range n {
			k := *j
			k.Circuits = slices.Clone(j.Circuits)
			k.Circuits[1].Serves.Boxes = slices.Clone(j.Circuits[1].Serves.Boxes)
			boxes := k.Circuits[1].Serves.Boxes
			boxes[first].Device, boxes[first].Feed = "gfci", "line"
			if first+1 < n {
				boxes[first+1].Side = "load"
			}
			r := Practice{}.Judge(&k)
			covered := 0
			for _, b := range r.Circuits[1].Boxes {
				if len(b.Protected) > 0 {
					covered++
				}
			}
			assert.Equal(t, n-first, covered, "device at %d of %d", first+1, n)
		}
	}
}

// The proving sequence: dead before live, neutral to ground closed only where the joint
// is, the jumper looked at after those, and no plug-in tester asked to trip a device
// that has no ground to trip it with.
func TestProvingSequence(t *testing.T) {
	j := house()
	j.Circuits[1].Serves.Boxes[2].Ground = truth(false)
	report := Practice{}.Judge(j)
	tests := Practice{}.Tests(j, &report)
	live := false
	at := map[string]rulebook.Test{}
	for _, x := range tests {
		assert.False(t, live && !x.Live, "%s is dead after a live one", x.ID)
		live = x.Live
		at[x.Circuit+"/"+x.ID] = x
		name, _, _ := strings.Cut(x.ID, ":")
		assert.Contains(t, TestIDs, name)
		for _, p := range x.Patterns {
			assert.Contains(t, terms.Patterns, p)
		}
	}
	says := func(id, answer string) working.Verdict {
		x, ok := at[id]
		require.True(t, ok, id)
		v, _ := x.Judge(install.Record{Answer: answer})
		return v
	}
	assert.Equal(t, working.Pass, says("/ng:main", closed))
	assert.Equal(t, working.Fail, says("/ng:main", open))
	assert.Equal(t, working.Pass, says("/ng:panel", open))
	assert.Equal(t, working.Fail, says("/ng:panel", closed))
	assert.Equal(t, "ng:panel", at["/bond-back"].After)
	assert.Equal(t, working.Pass, says("c2/hn", open))
	assert.Equal(t, working.Fail, says("c2/hg", closed))
	assert.Equal(t, working.Pass, says("c2/tester:b1", "correct"))
	assert.Equal(t, working.Fail, says("c2/tester:b1", "open_ground"))
	assert.Equal(t, working.Pass, says("c2/tester:b3", "open_ground"))
	assert.Equal(t, working.Fail, says("c2/tester:b3", "correct"), "a ground that is not there")
	assert.Contains(t, at["c2/trip:b3"].Where, "cannot trip")
	assert.NotContains(t, at["c2/trip:b2"].Where, "cannot trip")

	volts := func(id string, v float64) working.Verdict {
		x, _ := at["/"+id].Judge(install.Record{Subject: id, Value: &v})
		return x
	}
	assert.Equal(t, working.Pass, volts("volts-ll", 241))
	assert.Equal(t, working.Caution, volts("volts-ll", 222))
	assert.Equal(t, working.Fail, volts("volts-ll", 260))
	v := 131.0
	j.Records = []install.Record{{Kind: install.Reading, Subject: "volts-an", Value: &v}}
	tests = Practice{}.Tests(j, &report)
	i := slices.IndexFunc(tests, func(x rulebook.Test) bool { return x.ID == "volts-bn" })
	low := 109.0
	verdict, why := tests[i].Judge(install.Record{Subject: "volts-bn", Value: &low})
	assert.Equal(t, working.Fail, verdict)
	assert.Contains(t, why, "neutral")
}

// What the labels ask for becomes a step each, and stickers wait for the outlet.
func TestWork(t *testing.T) {
	j := house()
	j.Circuits[1].Serves.Boxes[1].Ground = truth(false)
	r := Practice{}.Judge(j)
	assert.Equal(t, []string{labelProtected, labelNoGround}, r.Circuits[1].Boxes[1].Labels)
	ids := []string{}
	for _, w := range (Practice{}).Work(j, &r) {
		ids = append(ids, w.ID)
	}
	assert.Subset(t, ids, []string{"c2-marking-b1", "c2-sticker-b2", "c2-sticker-b3", "bond-1", "joint-main"})
	assert.NotContains(t, ids, "c2-sticker-b1", "the device itself says what it is")
}

// Every template computes as it starts: nothing fails that nobody has decided yet, but
// for what a place asks for and a space in the panel.
func TestTemplatesCompute(t *testing.T) {
	for _, name := range templates {
		j := house()
		j.Circuits = []install.Circuit{circuitOf("c1", name, 1)}
		require.NoError(t, j.Validate(terms), name)
		r := Practice{}.Judge(j)
		for _, c := range r.Circuits[0].Checks {
			if c.ID == "ground-fault" || c.ID == "arc-fault" {
				continue
			}
			assert.NotEqual(t, working.Fail, c.Verdict, "%s %s: %s", name, c.ID, c.Says)
		}
		for _, p := range (Practice{}).Parts(j, &j.Circuits[0]) {
			assert.Positive(t, p.Count, "%s %s", name, p.Name)
		}
	}
}

// Any job that is let in computes without a panic and without a figure that is none.
func FuzzJobs(f *testing.F) {
	raw, err := json.Marshal(house())
	require.NoError(f, err)
	f.Add(raw)
	for _, name := range templates {
		j := house()
		j.Circuits = []install.Circuit{circuitOf("c1", name, 1)}
		raw, err := json.Marshal(j)
		require.NoError(f, err)
		f.Add(raw)
	}
	f.Fuzz(func(t *testing.T, raw []byte) {
		var j install.Job
		if json.Unmarshal(raw, &j) != nil {
			return
		}
		j.Tidy()
		if j.Practice != "split120" || j.Validate(terms) != nil {
			return
		}
		r := Practice{}.Report(&j, nil)
		Practice{}.Tests(&j, &r)
		Practice{}.Work(&j, &r)
		if _, err := json.Marshal(r); err != nil {
			t.Fatalf("%v", err) // a NaN or an infinity
		}
	})
}

// A label that is filled in takes as many figures as the common word does.
func TestLabelsKeepTheirPlaces(t *testing.T) {
	for r := range labelTable.Text {
		common, here := labelTable.Str(r, "common"), labelTable.Str(r, "here")
		assert.NotEmpty(t, here, common)
		assert.Equal(t, strings.Count(common, "%s"), strings.Count(here, "%s"), common)
	}
}

// The Canadian code has names, limits and a first point of its own.
func TestTheCanadianVariant(t *testing.T) {
	j := house()
	j.Schools.SplitCode = "cec"
	r := Practice{}.Judge(j)
	assert.Equal(t, "Bonding conductor", find(t, r, "c2", "ground").Title)
	assert.Equal(t, "Grounding conductor", find(t, r, "", "electrode-conductor").Title)
	chain := Practice{}.Chain(j)
	assert.Contains(t, chain.Rule, "first point")
	assert.Equal(t, "neutral bond of the service box", chain.Nodes[1].JointName)
	// by hand: 1800 ft² are 167.2 m²: 5000 + 1000, range 6000, heater 25 % of 4500, EV 11520
	assert.InDelta(t, (6000.0+6000+1125+11520)/240, r.Demand.AfterA, 0.01)
	had, has := 0.0, 0.0
	for _, s := range r.Demand.Shares {
		has += s.Amps
		if !s.New {
			had += s.Amps
		}
	}
	assert.InDelta(t, r.Demand.BeforeA, had, 1e-6)
	assert.InDelta(t, r.Demand.AfterA, has, 1e-6)

	j.Outdoor.Electrodes = install.Electrodes{Rods: []install.PlacedRod{{LengthM: 3, DiameterMM: 16}}, Measured: known(9)}
	e := Practice{}.Electrodes(j)
	assert.Equal(t, working.Fail, e.Checks[len(e.Checks)-1].Verdict, "one rod, whatever it reads")
	j.Schools.SplitCode = "nec"
	e = Practice{}.Electrodes(j)
	assert.Equal(t, working.Pass, e.Checks[len(e.Checks)-1].Verdict)
}

// What others do in a service change becomes steps with who waits for whom, and the
// torque of each new enclosure is a reading against its maker's figure.
func TestServiceWorkAndTorque(t *testing.T) {
	j := house()
	j.Chain.Enclosures[1].TorqueNm, j.Chain.Enclosures[1].TorqueSheet = known(31), "sheet 3"
	r := Practice{}.Judge(j)
	who, after := map[string]string{}, map[string][]string{}
	for _, w := range (Practice{}).Work(j, &r) {
		who[w.ID], after[w.ID] = w.Who, w.After
	}
	assert.Equal(t, "inspector", who["service-10"])
	assert.Equal(t, []string{"outage-dead-tests", "service-10"}, after["service-11"], "no release before the inspection")
	assert.Contains(t, after["service-12"], "service-11")
	assert.Contains(t, who, "lugs-main")
	tests := Practice{}.Tests(j, &r)
	i := slices.IndexFunc(tests, func(x rulebook.Test) bool { return x.ID == "torque:main" })
	require.GreaterOrEqual(t, i, 0)
	assert.InDelta(t, 274.4, *tests[i].Expected, 0.05)
	for v, want := range map[float64]working.Verdict{274: working.Pass, 250: working.Pass, 200: working.Fail, 320: working.Fail} {
		got, _ := tests[i].Judge(install.Record{Value: &v})
		assert.Equal(t, want, got, "%g", v)
	}
}

// Table 210.21(B)(3), and a single outlet by 210.21(B)(1).
func TestOutletsOnTheirCircuit(t *testing.T) {
	for _, x := range []struct {
		outlet, circuit float64
		single, fits    bool
	}{
		{15, 15, false, true}, {20, 15, false, false}, {15, 20, false, true}, {20, 20, false, true}, {30, 20, false, false},
		{30, 30, false, true}, {20, 30, false, false}, {50, 40, false, true}, {40, 40, false, true}, {50, 50, false, true}, {40, 50, false, false},
		{20, 20, true, true}, {15, 20, true, false}, {30, 20, true, true},
	} {
		assert.Equal(t, x.fits, outletFits(x.outlet, x.circuit, x.single) == "", "%g on %g, single %v", x.outlet, x.circuit, x.single)
	}
}

// A circuit's working, by hand: 12 AWG copper NM-B at 40 °C beside two more, on 20 A.
func TestACircuitByHand(t *testing.T) {
	j := house()
	s := &j.Circuits[1].Route.Segments[0]
	s.AmbientC, s.Grouped, s.LengthM = 40, 3, 40*footM
	r := Practice{}.Judge(j)
	c := find(t, r, "c2", "capacity")
	// 30 A at 90 °C × 0.91 × 0.8 (six conductors) = 21.84; 60 °C column 20 A
	assert.InDelta(t, 30*0.91*0.8, c.Steps[0].Value, 1e-9)
	assert.InDelta(t, 20, c.Steps[1].Value, 0)
	assert.Equal(t, working.Pass, c.Verdict)
	d := find(t, r, "c2", "voltage-drop")
	// 2 × 12.9 Ω·cmil/ft × 16 A × 47 ft / 6530 cmil, of 120 V
	assert.InDelta(t, 2*12.9*16*47/6530.0, d.Steps[0].Value, 1e-6)
	assert.InDelta(t, 2*12.9*16*47/6530.0/120*100, *d.Value, 1e-6)
	assert.InDelta(t, 47*footM*3 / *d.Value, r.Circuits[1].Summary.MaxLengthM, 1e-6)
	box := find(t, r, "c2", "box-fill")
	// two cables: 4 conductors, the grounds together and a device of two: 7 × 2.25 in³
	assert.InDelta(t, 7*2.25, *box.Value, 1e-9)
	sub := circuitOf("c9", "feeder-60", 9)
	j.Circuits = append(j.Circuits, sub)
	j.Circuits[1].From, j.Circuits[1].Protection.Way = "c9", 0
	r = Practice{}.Judge(j)
	d = find(t, r, "c2", "voltage-drop")
	assert.Greater(t, len(d.Steps), 3, "the feeder's drop is added")
	assert.Contains(t, d.Steps[len(d.Steps)-1].Symbol, sub.Name)
	feeder := find(t, r, "c9", "design-current")
	assert.InDelta(t, 8, *feeder.Value, 1e-9, "16 A at 120 V are 8 A of the 240 V feeder")
}

// Every name that a job may hold is called something, and what is drawn and joined is
// counted: one connector for hot, neutral and ground of each box that feeds on.
func TestWordsAndParts(t *testing.T) {
	words := Practice{}.Words()
	for _, list := range [][]string{terms.Uses, terms.CableTypes, terms.Categories, terms.Families, terms.RCDTypes, terms.Patterns} {
		for _, id := range list {
			assert.NotEmpty(t, words[id], id)
		}
	}
	for _, id := range terms.Places {
		assert.NotEmpty(t, words["place:"+id], id)
		_, err := protectionOf(2023, outlet{Room: id, Volts: legV})
		assert.NoError(t, err, id)
	}
	for _, cable := range terms.CableTypes {
		for _, m := range terms.Methods[cable] {
			assert.NotEmpty(t, words[m], m)
		}
		assert.NotEmpty(t, terms.Sizes[cable], cable)
		for _, mm2 := range terms.Sizes[cable] {
			assert.NotEmpty(t, SizeOf(mm2))
			assert.InDelta(t, mm2, AreaMM2(SizeOf(mm2)), 0)
		}
	}
	j := house()
	count := map[string]float64{}
	for _, p := range (Practice{}).Parts(j, &j.Circuits[1]) {
		count[p.Key] += p.Count
	}
	assert.InDelta(t, 6, count["connector"], 0, "two boxes feed on")
	assert.InDelta(t, 3, count["device-box"], 0)
	assert.InDelta(t, 1, count["outlet:gfci:20"], 0)
	j.Circuits[0].Route.CableType, j.Circuits[0].Route.CPCMM2 = "thhn-emt", AreaMM2("10")
	for _, p := range (Practice{}).Parts(j, &j.Circuits[0]) {
		if strings.HasPrefix(p.Key, "wire:") {
			assert.InDelta(t, feet(j.Circuits[0].Route.LengthM()), p.Count, 1e-9, "the second hot")
		}
	}
}

// dwelling is a whole house of n circuits, each with a string of four boxes or one load.
func dwelling(n int) *install.Job {
	j := house()
	j.Circuits = nil
	for i := range n {
		k := circuitOf(text("c", i+1), templates[i%len(templates)], 0)
		if rulesOf(k.Use).isString {
			for b := range 4 {
				x := box(text("b", b+1), "plain", "", "line")
				if b == 0 {
					x.Device, x.Feed = "gfci", "line"
				} else {
					x.From, x.Side = text("b", b), "load"
				}
				k.Serves.Boxes = append(k.Serves.Boxes, x)
			}
		}
		j.Circuits = append(j.Circuits, k)
	}
	return j
}

// The whole of a house, by its number of circuits: the cost is linear in them.
func BenchmarkDwelling(b *testing.B) {
	for _, n := range []int{10, 40, 100, 1000} {
		j := dwelling(n)
		b.Run(text(n), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if r := (Practice{}).Judge(j); len(r.Circuits) != n {
					b.Fatal("circuits")
				}
			}
		})
	}
}

// Sizes of a service never fall with its rating, nor what an electrode conductor or a
// ground needs; more is never asked of a smaller one.
func TestServiceSizesAreMonotonic(t *testing.T) {
	at := func(s string) int { return slices.Index(sizes, s) }
	for _, material := range []string{"cu", "al"} {
		conductor, electrode, ground, jumper := -1, -1, -1, -1
		for _, rating := range []float64{100, 110, 125, 150, 175, 200, 225, 250, 300, 350, 400} {
			out, _, err := calcService(serviceIn{RatingA: rating, Material: material})
			require.NoError(t, err, "%g %s", rating, material)
			for _, x := range []struct {
				key    string
				before *int
			}{{"conductor", &conductor}, {"gec_water_cu", &electrode}, {"feeder_egc_cu", &ground}, {"mbj_cu", &jumper}} {
				now := at(out[x.key].(string))
				assert.GreaterOrEqual(t, now, *x.before, "%s of %g A in %s", x.key, rating, material)
				*x.before = now
			}
		}
	}
}

// Results do not depend on the order of what has none: loads, circuits, ways.
func TestOrderHasNoMeaningWhereItHasNone(t *testing.T) {
	a, b := dwelling(24), dwelling(24)
	for _, n := range []string{"Pump", "Opener", "Heater"} {
		l := install.Load{Name: n, Category: "appliance", Watts: known(1200).Value, Count: 1, Basis: install.Measured}
		a.Loads.Items, b.Loads.Items = append(a.Loads.Items, l), append([]install.Load{l}, b.Loads.Items...)
	}
	slices.Reverse(b.Circuits)
	slices.Reverse(b.Board.Ways)
	ra, rb := Practice{}.Judge(a), Practice{}.Judge(b)
	assert.InDelta(t, ra.Demand.AfterA, rb.Demand.AfterA, 1e-9)
	for _, x := range ra.Circuits {
		i := slices.IndexFunc(rb.Circuits, func(y rulebook.CircuitReport) bool { return y.ID == x.ID })
		require.GreaterOrEqual(t, i, 0)
		assert.Equal(t, x.Verdict, rb.Circuits[i].Verdict, x.Name)
		assert.Equal(t, x.Summary, rb.Circuits[i].Summary, x.Name)
	}
}

// Adding a load never lowers the demand by the methods without a step, nor adding a
// circuit that draws.
func TestDemandNeverFallsWithoutAStep(t *testing.T) {
	for _, method := range []string{"existing", "optional"} {
		before := 0.0
		for n := range 9 {
			j := house()
			j.Schools.LoadMethod = method
			for range n {
				j.Loads.Items = append(j.Loads.Items, install.Load{Name: "Load", Category: "appliance", Watts: known(900).Value, Count: 1, Basis: install.Measured})
			}
			r := Practice{}.Judge(j)
			assert.Greater(t, r.Demand.AfterA, before, "%s, %d", method, n)
			assert.GreaterOrEqual(t, r.Demand.AfterA, r.Demand.BeforeA)
			before = r.Demand.AfterA
		}
	}
}
