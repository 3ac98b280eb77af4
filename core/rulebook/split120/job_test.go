package split120

import (
	"encoding/json"
	"math"
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
	j := &install.Job{Format: install.Format, Ref: "S-1", Title: "Loom house", Kind: install.SupplyUpgrade,
		Practice: "split120", Rules: install.Rules{Edition: "2023"}, Schools: install.Schools{},
		Site: install.Site{Customer: "Ode Marl", Address: "3 Loom Lane"},
		Supply: install.Supply{Earthing: "grounded-neutral", DeclaredV: 240, PFCkA: known(9), MainFuseA: known(200),
			EarthMM2: known(AreaMM2("4")), Intersystem: truth(true),
			Bonds: []install.Bond{{Service: "water pipe", Kind: waterPipe, MM2: known(AreaMM2("4")), Around: truth(true)}}},
		Outdoor: install.Outdoor{Electrodes: install.Electrodes{Rods: []install.PlacedRod{rod(0), rod(2)}}},
		Loads: install.Loads{AreaM2: known(area), Items: []install.Load{
			{Name: "Range", Category: "range", Watts: known(12000).Value, Count: 1, Basis: install.Measured},
			{Name: "Water heater", Category: "appliance", Watts: known(4500).Value, Count: 1, Basis: install.Measured},
		}},
		Board: install.Board{Name: "Panel A"},
		Chain: install.Chain{Enclosures: []install.Enclosure{
			{ID: "meter", Kind: "meter", Name: "Meter base", Owner: install.OwnerCustomer},
			{ID: "main", Kind: "disconnect", Name: "Disconnect", From: "meter", Owner: install.OwnerCustomer,
				RatingA: known(200), Disconnect: truth(true), Outside: truth(true), Joined: truth(true), New: true,
				Feed: install.Conductor{Material: "al", Size: "4/0", LengthM: known(2)}},
			{ID: "panel", Kind: "panel", Name: "Panel A", From: "main", Owner: install.OwnerCustomer, RatingA: known(200),
				Joined: truth(false), Feed: install.Conductor{Material: "al", Size: "4/0", EarthMM2: "4", Wires: 4, LengthM: known(6)}},
		}},
		Surge: install.SurgePlan{Devices: []install.SPD{{Name: "Arrester", Place: "origin", Type: "2", UpKV: 0.6, LineMM2: AreaMM2("10"), EarthMM2: AreaMM2("10"),
			LineM: 0.1, EarthM: 0.1, BackupA: 30, IsccrKA: 22, InKA: 20}}},
	}
	for n := 1; n <= 20; n++ {
		j.Board.Ways = append(j.Board.Ways, install.Way{No: n})
	}
	j.Circuits = []install.Circuit{circuitOf("c1", "ev-60", 1), circuitOf("c2", "small-appliance", 2)}
	j.Circuits[0].Serves.Plugged = truth(false)
	j.Circuits[1].Protection.ArcFault = true
	j.Circuits[1].Serves.Boxes = []install.Box{box("b1", "gfci", "", "line"), box("b2", "plain", "b1", "load"),
		box("b3", "plain", "b2", "line")}
	j.Tidy()
	return j
}

// rod is a listed rod of 8 ft and 5/8 in at a distance in metres from the one before.
func rod(spacing float64) install.PlacedRod {
	return install.PlacedRod{LengthM: 2.44, DiameterMM: 15.9, SpacingM: spacing, Mode: "vertical"}
}

func circuitOf(id, template string, way int) install.Circuit {
	c := Practice{}.Defaults(template)
	c.ID, c.Protection.Way = id, way
	for i := range c.Route.Segments {
		c.Route.Segments[i].Basis = install.Measured
	}
	return c
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
		assert.NotEqual(t, working.Fail, c.Verdict, "%s %s: %s", c.Circuit, c.ID, c.Summary)
		assert.NotEqual(t, working.Unknown, c.Verdict, "%s %s: %s", c.Circuit, c.ID, c.Summary)
		assert.NotEmpty(t, c.Summary, c.ID)
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

	j.Schools.Set("loadMethod", install.Chose("measured"))
	c := find(t, Practice{}.Judge(j), "", "demand")
	assert.Equal(t, working.Unknown, c.Verdict)
	j.Loads.PeakKVA, j.Loads.PeakDays, j.Loads.SeasonFactor, j.Loads.Generation = known(14), 30, 1, truth(false)
	r = Practice{}.Judge(j)
	assert.InDelta(t, (1.25*14000+11520)/240, r.Demand.AfterA, 0.01, "the peak with a quarter, the new load in full")
	j.Loads.PeakDays = 12
	assert.Equal(t, working.Fail, find(t, Practice{}.Judge(j), "", "demand").Verdict, "twelve days are no record")
}

// The fourth fixed appliance lowers the demand by the standard method, and the tool
// says that it fell and why.
func TestADemandThatFallsIsExplained(t *testing.T) {
	j := house()
	j.Schools.Set("loadMethod", install.Chose("standard"))
	for _, n := range []string{"Pump", "Opener"} {
		j.Loads.Items = append(j.Loads.Items, install.Load{Name: n, Category: "appliance", Watts: known(4000).Value,
			Count: 1, Basis: install.Measured})
	}
	j.Circuits = []install.Circuit{circuitOf("c1", "fixed", 1)}
	j.Circuits[0].Serves.PowerW = 600
	r := Practice{}.Judge(j)
	assert.Less(t, r.Demand.AfterA, r.Demand.BeforeA)
	assert.Contains(t, find(t, r, "", "demand").Summary, "It fell")
	j.Circuits[0].Serves.PowerW = 9000
	r = Practice{}.Judge(j)
	assert.Greater(t, r.Demand.AfterA, r.Demand.BeforeA)
	assert.NotContains(t, find(t, r, "", "demand").Summary, "It fell")
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
		{"6 gauge NM-B under 60 A needed", "c1", "conductor-load", working.Fail,
			func(j *install.Job) { j.Circuits[0].Route.LineMM2 = AreaMM2("6") }},
		{"six cables in one bundle", "c2", "capacity", working.Fail, func(j *install.Job) { j.Circuits[1].Route.Segments[0].Grouped = 6 }},
		{"an attic of 60 °C", "c2", "capacity", working.Fail, func(j *install.Job) {
			j.Circuits[1].Route.Segments[0].AmbientC, j.Circuits[1].Route.Segments[0].Grouped = 60, 2
		}},
		{"150 ft of 12 gauge", "c2", "voltage-drop", working.Caution,
			func(j *install.Job) { j.Circuits[1].Route.Segments[0].LengthM = 150 * footM }},
		{"and a local limit", "c2", "voltage-drop", working.Fail, func(j *install.Job) {
			j.Circuits[1].Route.Segments[0].LengthM = 150 * footM
			j.Schools.Local = []install.LocalRule{{Rule: "VD-BR", Value: 3, Reason: "county amendment 4"}}
		}},
		{"10 kA breakers at 12 kA", "c1", "breaking", working.Fail, func(j *install.Job) { j.Supply.PFCkA = known(22) }},
		{"fault current not asked", "c1", "breaking", working.Unknown, func(j *install.Job) { j.Supply.PFCkA = install.Fact{} }},
		{"no ground-fault device", "c2", "ground-fault", working.Fail,
			func(j *install.Job) { j.Circuits[1].Serves.Boxes[0].Device = "plain" }},
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
		{"no arc-fault breaker in a kitchen", "c2", "arc-fault", working.Fail,
			func(j *install.Job) { j.Circuits[1].Protection.ArcFault = false }},
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
		{"feeder without its ground", "", "feeder-ground-panel", working.Fail,
			func(j *install.Job) { j.Chain.Enclosures[2].Feed.EarthMM2 = "8" }},
		{"electrode conductor of 8", "", "electrode-conductor", working.Fail,
			func(j *install.Job) { j.Supply.EarthMM2 = known(AreaMM2("8")) }},
		{"the water meter not jumped", "", "bond-1", working.Fail, func(j *install.Job) { j.Supply.Bonds[0].Around = truth(false) }},
		{"nobody looked at the jumper", "", "bond-1", working.Unknown, func(j *install.Job) { j.Supply.Bonds[0].Around = nil }},
		{"no surge device at a new service", "", "surge-need", working.Fail, func(j *install.Job) { j.Surge.Devices = nil }},
		{"a surge device that bears 5 kA", "", "spd-1", working.Fail, func(j *install.Job) { j.Surge.Devices[0].IsccrKA = 5 }},
		{"leads of 30 in", "", "spd-1", working.Caution, func(j *install.Job) { j.Surge.Devices[0].LineM = 0.7 }},
		{"a generator without a transfer switch", "", "standby-transfer", working.Fail,
			func(j *install.Job) { j.Standby = standbySource() }},
		{"an automatic one that is too small", "", "standby-load", working.Fail,
			func(j *install.Job) { j.Standby = standbySource(); j.Standby.SourceVA = 3000 }},
		{"the same by hand", "", "standby-load", working.Caution, func(j *install.Job) {
			j.Standby = standbySource()
			j.Standby.SourceVA, j.Standby.Automatic = 3000, false
		}},
		{"a wall of 14 ft with one receptacle", "", "spacing-r1", working.Fail, func(j *install.Job) {
			j.Rooms = []install.Room{{ID: "r1", Name: "Den", Walls: []install.WallLine{{LengthM: 14 * footM, Has: 1}}}}
		}},
		{"a counter of 4 ft with one", "", "spacing-r1", working.Pass, func(j *install.Job) {
			j.Rooms = []install.Room{{ID: "r1", Name: "Den",
				Walls: []install.WallLine{{LengthM: 4 * footM, Counter: true, Has: 1}, {LengthM: 1.9 * footM}}}}
		}},
		{"standing leakage of 4.5 mA", "c1", "leakage", working.Fail, func(j *install.Job) {
			j.Circuits[0].Protection.RCDType, j.Circuits[0].Protection.IdnMA, j.Circuits[0].Serves.LeakMA = groundFault,
				classAMA, known(4.5)
		}},
		{"UF-B at 12 in", "c1", "cover", working.Fail, func(j *install.Job) {
			j.Circuits[0].Route.CableType, j.Circuits[0].Route.LineMM2 = "uf-2", AreaMM2("6")
			j.Circuits[0].Route.Segments[0].Method, j.Circuits[0].Route.Segments[0].DepthMM,
				j.Circuits[0].Route.Segments[0].Surface = "D", 12*inchMM, "other locations"
		}},
		{"conductors drawn without a ground", "c1", "ground", working.Unknown,
			func(j *install.Job) { j.Circuits[0].Route.CableType = "thhn-emt" }},
		{"a rewire with one small-appliance circuit", "", "required-circuits", working.Fail,
			func(j *install.Job) { j.Kind = install.Rewire }},
		{"30 in in front of the panel", "", "working-space", working.Fail, func(j *install.Job) {
			j.Board.Place = "garage"
			j.Board.Space = install.WorkSpace{DepthMM: 30 * inchMM, WidthMM: 762, HeightMM: 2100, BoardMM: 400, TopMM: 1800,
				HandleMM: 1700, Door90: truth(true)}
		}},
		{"a panel in a clothes closet", "", "working-space", working.Fail, func(j *install.Job) {
			j.Board.Place = "clothes_closet"
			j.Board.Space = install.WorkSpace{DepthMM: 1000, WidthMM: 762, HeightMM: 2100, BoardMM: 400, TopMM: 1800,
				HandleMM: 1700, Door90: truth(true)}
		}},
		{"half of it measured", "", "working-space", working.Unknown, func(j *install.Job) { j.Board.Space.DepthMM = 1000 }},
		{"an outlet without a ground", "", "ungrounded", working.Caution,
			func(j *install.Job) { j.Circuits[1].Serves.Boxes[2].Ground = truth(false) }},
		{"the drop in Canada", "c2", "voltage-drop", working.Fail, func(j *install.Job) {
			j.Circuits[1].Route.Segments[0].LengthM, j.Practice = 150*footM, CanadaID
		}},
		{"a device above the nameplate's", "c1", "design-current", working.Fail,
			func(j *install.Job) { j.Circuits[0].Point.MaxDeviceA = 50 }},
	} {
		j := house()
		x.change(j)
		c := find(t, Practice{}.Judge(j), x.circuit, x.check)
		assert.Equal(t, x.verdict, c.Verdict, "%s: %s", x.name, c.Summary)
	}
}

func standbySource() install.Standby {
	return install.Standby{Source: "generator", Automatic: true, SourceVA: 9000,
		Carries: []install.Carry{{Name: "Pump", RunVA: 1500, StartVA: 4000, LegA: true, LegB: true},
			{Name: "Lights", RunVA: 2000, LegB: true}}}
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
	require.Len(t, r.Legs, 1)
	legs := r.Legs[0]
	assert.InDelta(t, 52, legs.A, 1e-9)
	assert.InDelta(t, 34, legs.B, 1e-9)
	assert.InDelta(t, 18, legs.NeutralA, 1e-9)
	assert.Equal(t, 1, legs.Unknown, "space 4 has a label and no load")
	require.NotEmpty(t, legs.Moves)
	assert.Less(t, math.Abs(legs.AfterA-legs.AfterB), legs.NeutralA)
	for _, m := range legs.Moves {
		assert.NotEqual(t, legOf(m.From), legOf(m.To))
	}
	j.Board.Ways[2].LoadA = 22
	assert.Empty(t, Practice{}.Judge(j).Legs[0].Moves)
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
			assert.NotEqual(t, working.Fail, c.Verdict, "%s %s: %s", name, c.ID, c.Summary)
		}
		for _, p := range (Practice{}).Parts(j, &j.Circuits[0]) {
			assert.Positive(t, p.Count, "%s %s", name, p.Name)
		}
	}
}

// The Canadian code has names, limits and a first point of its own.
func TestTheCanadianVariant(t *testing.T) {
	j := house()
	j.Practice, j.Loads.BasementM2 = CanadaID, known(0)
	r := Practice{}.Judge(j)
	assert.Equal(t, "Bonding conductor", find(t, r, "c2", "ground").Title)
	assert.Equal(t, "Grounding conductor", find(t, r, "", "electrode-conductor").Title)
	chain := Practice{}.Chain(j)
	assert.Contains(t, chain.Rule, "service box")
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
	j.Practice = id
	e = Practice{}.Electrodes(j)
	assert.Equal(t, working.Pass, e.Checks[len(e.Checks)-1].Verdict)
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

// The available fault current falls along the chain, without the loop impedance that
// this practice does not ask for.
func TestFaultCurrentFallsAlongTheChain(t *testing.T) {
	j := house()
	chain := Practice{}.Chain(j)
	before := math.Inf(1)
	for _, n := range chain.Nodes {
		require.NotNil(t, n.FaultKA, n.ID)
		assert.Less(t, *n.FaultKA, before, n.ID)
		assert.Empty(t, n.Summary, n.ID)
		before = *n.FaultKA
	}
	// by hand: 240 V / 9 kA and twice 8 m of 4/0 aluminum
	r, ok := ResistancePerM("al", "4/0")
	require.True(t, ok)
	assert.InDelta(t, 240/(240/9000.0+2*r*8)/1000, before, 1e-9)
	c := find(t, Practice{}.Judge(j), "c1", "breaking")
	assert.InDelta(t, before, *c.Value, 1e-9)
}

// Ground-fault protection reaches what is plugged in by its room, and what is wired in
// only by the rules for appliances.
func TestWiredInAndPluggedIn(t *testing.T) {
	for _, x := range []struct {
		template, place, edition string
		want                     working.Verdict
	}{
		{"water-heater", "basement_unfinished", "2023", working.Pass},
		{"lighting", "bathroom", "2023", working.Pass},
		{"heating", "bathroom", "2023", working.Pass},
		{"dryer", "dryer_240", "2023", working.Fail},
		{"dryer", "dryer_240", "2017", working.Pass},
		{"range", "range_240", "2023", working.Fail},
		{"range", "range_240", "2020", working.Caution},
		{"range", "range_240", "2017", working.Pass},
		{"dishwasher", "dishwasher", "2023", working.Fail},
		{"cooling", "outdoor_hvac", "2017", working.Pass},
		{"cooling", "outdoor_hvac", "2023", working.Caution},
		{"sump", "sump", "2023", working.Fail},
	} {
		j := house()
		j.Edition = x.edition
		j.Circuits = []install.Circuit{circuitOf("c1", x.template, 1)}
		j.Circuits[0].Serves.Place = x.place
		c := find(t, Practice{}.Judge(j), "c1", "ground-fault")
		assert.Equal(t, x.want, c.Verdict, "%s at %s, %s: %s", x.template, x.place, x.edition, c.Summary)
	}
}
