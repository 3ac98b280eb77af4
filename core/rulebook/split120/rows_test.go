package split120

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
)

// typed are the tables whose every row is made into a thing of its own when the program
// starts: a use, a cable, a kind of bond, a word.
var typed = []string{"calcs", "calc_keys", "circuit_uses", "cable_types", "cable_makes", "methods", "options", "option_choices", "circuit_plans",
	"canada_editions", "eras", "point_kits", "reach", "room_places", "risers", "duct_radius",
	"enclosures", "soils", "overhead_parts", "bond_kinds", "isolation_routes",
	"canada_words", "survey_asks", "survey_points", "survey_readings", "finding_classes", "fabric", "colours", "typical", "rooms",
	"findings", "vocabulary", "questions", "estimates", "kinds", "floors", "switching", "control_parts", "elv_cables", "heights"}

// everyJob are jobs that together meet every rule: each template in each place, edition
// and code, services of every size, walls, standby, surge.
func everyJob() (out []*install.Job) {
	places := slices.Clone(terms.Places)
	for _, practice := range []rulebook.Practice{Practice{}, Canada{}} {
		for _, edition := range practice.Terms().Editions {
			for at := range places {
				j := dwelling(len(templates))
				j.Edition, j.Practice, j.Loads.BasementM2 = edition, practice.ID(), known(30)
				for i := range j.Circuits {
					k := &j.Circuits[i]
					k.Serves.Place = places[(at+i)%len(places)]
					for b := range k.Serves.Boxes {
						k.Serves.Boxes[b].Place = places[(at+i+b)%len(places)]
					}
					sizes := terms.Sizes[k.Route.CableType]
					k.Route.LineMM2 = sizes[(at+i)%len(sizes)]
					k.Route.Segments[0].AmbientC, k.Route.Segments[0].Grouped = float64(5+(7*at+3*i)%56), 1+(at*3+i)%20
					k.Protection.RatingA = terms.Ratings["breaker"][(at+i)%len(terms.Ratings["breaker"])]
				}
				j.Schools.Set("loadMethod", install.Chose([]string{"existing", "optional", "standard", "measured"}[at%4]))
				j.Kind = []install.Kind{install.SupplyUpgrade, install.Rewire, install.Surge}[at%3]
				j.Board.Place = boardPlaces()[at%len(boardPlaces())]
				j.Board.Space = install.WorkSpace{DepthMM: 900, WidthMM: 900, HeightMM: 2000, BoardMM: 400, TopMM: 1800,
					HandleMM: 1700, Door90: truth(true)}
				j.Standby = standbySource()
				j.Surge.Rod = at%2 == 0
				j.Supply.EarthTo = terms.EarthTo[at%len(terms.EarthTo)]
				j.Supply.Bonds = nil
				for _, kind := range terms.BondKinds {
					j.Supply.Bonds = append(j.Supply.Bonds,
						install.Bond{Service: kind, Kind: kind, MM2: known(AreaMM2("4")),
							CircuitA: []float64{15, 20, 60, 100, 200, 300, 400}[at%7], Around: truth(at%2 == 0)})
				}
				j.Outdoor.Electrodes.Rods[0].Mode = []install.RodMode{"vertical", "flat", "slant"}[at%3]
				j.Outdoor.Electrodes.Rods[0].AngleDeg = 20
				j.Chain.Enclosures[1].Feed.Size = sizes[(at*2)%len(sizes)]
				j.Rooms = []install.Room{{ID: "r1", Name: "Den", Kind: []string{"den", "garage"}[at%2],
					Walls: []install.WallLine{{LengthM: 5, Has: 2}, {LengthM: 2, Counter: true, Has: 2}}}}
				out = append(out, j)
			}
		}
	}
	return out
}

// Every row of every table is read by a rule, or it is not there.
func TestEveryRowIsReadByARule(t *testing.T) {
	for _, x := range table.All() {
		x.Watch()
	}
	rulebook.RunCases(casesOf(t), byName, &strings.Builder{})
	for _, j := range everyJob() {
		r := Practice{}.Judge(j)
		Practice{}.Chain(j)
		Practice{}.Electrodes(j)
		Practice{}.Kits(j, nil)
		Practice{}.Parts(j, &j.Circuits[0])
		Practice{}.Tests(j, &r)
		Practice{}.Work(j, &r)
		for _, notch := range []bool{false, true} {
			Practice{}.TimberLimits(j, &install.TimberCut{Notch: notch, DepthMM: 235, SpanMM: 3600})
		}
	}
	for r := range boxSizes.Text {
		for cables := range 9 {
			house := house()
			Practice{}.BoxAt(house, &house.Circuits[1], &install.Box{Cables: cables, Device: install.PlainOutlet}, boxSizes.Row(r).Usual)
		}
	}
	outdoorOf(NEC)
	outdoorOf(CEC)
	readEveryCalculation(t)
	for _, x := range table.All() {
		if slices.Contains(typed, x.Name) {
			continue
		}
		for _, r := range x.Unread() {
			if x == protectionNotes && x.Text[r][0] == "G-TEST" {
				continue // the reminder of the practice, read while it starts
			}
			assert.Fail(t, "no rule reads this row", "%s: %s", x.Name, strings.Join(x.Text[r], ","))
		}
	}
}

// readEveryCalculation runs the calculations of the bench over the whole of their tables.
func readEveryCalculation(t *testing.T) {
	t.Helper()
	for r := range screwTorques.Text {
		for _, head := range []string{"slotted_narrow", "slotted_wide", "hex_split_bolt", "hex_other"} {
			_, _, _ = calcTorque(torqueIn{Lookups: []torqueLookup{{ID: "x", Size: screwTorques.Text[r][0], Head: head}}})
		}
	}
	for r := range hexTorques.Text {
		_, _, _ = calcTorque(torqueIn{Lookups: []torqueLookup{{ID: "x", HexSocket: hexTorques.Text[r][0]}}})
	}
	for n := 1.0; n <= 5; n++ {
		_, err := RangeDemand(slices.Repeat([]float64{3}, int(n)))
		require.NoError(t, err)
		_, err = RangeDemand(slices.Repeat([]float64{8}, int(n)))
		require.NoError(t, err)
	}
	for id := range afciPlaces.Text {
		_, _, err := calcExtension(extensionIn{Edition: 2023, Room: afciPlaces.Text[id][0], AddedFt: 7})
		require.NoError(t, err)
	}
	for n := 1.0; n <= 24; n++ {
		nipple := 12.0
		for _, size := range []string{"14", "4/0"} {
			_, _, _ = calcConduit(conduitIn{Type: "emt", Conductors: []wires{{"thhn", size, n}}})
			_, _, _ = calcConduit(conduitIn{Type: "emt", Conductors: []wires{{"thhn", size, n}}, NippleIn: &nipple})
		}
	}
	for r := range boxVolumes.Text {
		_, _, err := calcBox(boxIn{Conductors: []counted{{boxVolumes.Text[r][0], 2}}, Grounds: []counted{{"14", 6}},
			Devices: []boxDevice{{Largest: "14"}}, Clamps: true, Fittings: 1})
		require.NoError(t, err)
	}
	_, _, err := calcCanada(canadaIn{UpperM2: 60, Other: []float64{3000}})
	require.NoError(t, err)
	_, _, err = calcOptional(optionalIn{Edition: 2023, AreaFt2: 900, HVAC: hvac{SpaceVA: 9000, SpaceUnits: 5}})
	require.NoError(t, err)
	_, _, err = calcStandard(standardIn{Edition: 2023, AreaFt2: 90000, Small: 9, Laundry: 9,
		Fixed: []appliance{{VA: 90000, Volts: 120}}, EvseVA: 9000, EV125: true})
	require.NoError(t, err)
	roof := Conditions{Material: "cu", InsulationC: 90, AmbientC: 30, CCC: 3, TerminalC: 75, Roof: true, School: "NEC"}
	_, err = roof.Of("12", true)
	require.NoError(t, err)
	dropAdvice("VD-BR")
	dropAdvice("VD-FD")
	dropAdvice("VD-TOT")
	for n := 1.0; n <= 60; n++ {
		for _, school := range []string{"NEC", "CEC"} {
			_, err := AdjustmentFactor(school, n)
			require.NoError(t, err)
		}
	}
	for c := -10.0; c <= 85; c++ {
		_, _ = AmbientFactor(90, c)
	}
	for a := 5.0; a <= 800; a += 5 {
		NextRating(a)
		GroundSize("cu", a)
		BondingSize("cu", a)
	}
	for _, size := range sizes {
		for _, material := range []string{"cu", "al"} {
			smallLimit(size, material)
			jumperFor("cu", material, 4*Cmil(size)/1000)
			byArea(electrodeSizes.Table, material, 4*Cmil(size)/1000)
		}
	}
}
