package iec230

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

func calcByName(t testing.TB, name string) rulebook.Calc {
	for _, c := range (Practice{}).Calcs() {
		if c.Name == name {
			return c
		}
	}
	t.Fatalf("no calculation %s", name)
	return rulebook.Calc{}
}

func TestPublishedCases(t *testing.T) {
	raw, err := os.ReadFile("testdata/cases.json")
	require.NoError(t, err)
	var cases []rulebook.Case
	require.NoError(t, json.Unmarshal(raw, &cases))
	var said strings.Builder
	passed, failed := rulebook.RunCases(cases, func(_, calc string) (rulebook.Calc, bool) { return calcByName(t, calc), true }, &said)
	assert.Zero(t, failed, said.String())
	assert.Equal(t, 36, passed)
}

// More of each rule than the published cases show, worked by hand.
func TestCalculationsByHand(t *testing.T) {
	for _, c := range []struct{ name, calc, in, key, want string }{
		{"armoured in the ground, four factors", "cable-size", `{"phases":1,"ib_a":32,"in_a":32,"table":"ccc_swa_90","column":"D_2c","ambient_c":20,"ground":true,"soil_k_m_w":2.5,"soil_col":"direct","apply_cc":true,"grouping":{"arrangement":"direct","spacing":"touching","n":2},"length_m":30,"vd_limit_pc":5}`, "it_min_a", "47.41"},
		{"three phases take the line voltage", "cable-size", `{"phases":3,"power_w":11000,"table":"ccc_swa_90","column":"C_34c","ambient_c":30,"length_m":40,"vd_limit_pc":5}`, "ib_a", "15.88"},
		{"a method made for insulation takes no Ci", "cable-size", `{"phases":1,"ib_a":10,"in_a":16,"table":"ccc_flat_te_70","column":"m100","ambient_c":30,"insulation_mm":100,"length_m":10,"vd_limit_pc":5}`, "ci", "1"},
		{"ambient between rows takes the hotter", "cable-size", `{"phases":1,"ib_a":10,"in_a":16,"table":"ccc_flat_te_70","column":"mC","ambient_c":37,"length_m":10,"vd_limit_pc":5}`, "ca", "0.87"},
		{"600 mm of insulation is 0.5", "cable-size", `{"phases":1,"ib_a":10,"in_a":16,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"insulation_mm":600,"length_m":10,"vd_limit_pc":5}`, "ci", "0.5"},
		{"D at 5 s uses ten times", "zs-check", `{"ze_ohm":0.2,"line_mm2":10,"cpc_mm2":10,"length_m":20,"curve":"D","in_a":20,"time_s":5}`, "ia_a", "200"},
		{"aluminium neutral by conductance", "bonding", `{"system":"TN-C-S","neutral_mm2":95,"neutral_material":"al","installed_mm2":16,"line_mm2":35}`, "neutral_cu_equiv_mm2", "57.3"},
		{"57 mm² of copper equivalent asks for 25", "bonding", `{"system":"TN-C-S","neutral_mm2":95,"neutral_material":"al","installed_mm2":16,"line_mm2":35}`, "main_bonding_mm2", "25"},
		{"three phases double the single", "pfc", `{"phases":3,"z_ln_ohm":0.1,"z_le_ohm":0.2,"icn_ka":6}`, "pfc_ka", "4.6"},
		{"let-through replaces I²t", "adiabatic", `{"i2t":18000,"t_s":0.1,"k":115,"proposed_mm2":1.5}`, "s_min_mm2", "1.167"},
		{"managed charging takes what is left", "max-demand", `{"supply_a":80,"managed_limit_a":60,"loads":{"cooker":[{"a":40}],"water_instant":[{"a":25}],"ev":[{"a":32}]}}`, "ev_available_a", "16"},
		{"under 6 A there is none", "max-demand", `{"supply_a":60,"managed_limit_a":60,"loads":{"storage_heating":[{"a":55}],"ev":[{"a":32}]}}`, "ev_available_a", "0"},
		{"third instant heater at a quarter", "max-demand", `{"supply_a":100,"loads":{"water_instant":[{"a":40},{"a":20},{"a":30}]}}`, "total_a", "75"},
		{"rods until the target", "rod", `{"school":"bs7430","length_m":2.4,"diameter_mm":16,"rho_ohm_m":100,"spacing_m":2.4,"target_ohm":20}`, "rods_needed", "3"},
		{"old standard judges 200 ms", "rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"bs7671_a2","standard":"bs4293","readings":{"x1_0":220}}`, "failures", "[x1_0_slow]"},
		{"no trip is null", "rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"three_test","readings":{"x1_0":20,"x1_180":null,"x5_0":12,"x5_180":12}}`, "failures", "[x1_180_no_trip]"},
		{"the three-test school misses its x5", "rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"three_test","readings":{"x1_0":20}}`, "failures", "[x5_0_missing]"},
		{"a false trip alone is acceptable", "ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"B","rcd_idn_ma":30,"dc_detection_6ma":false,"pen_option":"voltage_monitor","opens_pe_and_all_live":true,"monitor_log":[{"u_v":230,"opened":true,"t_s":1}]}`, "acceptable", "true"},
		{"a slow monitor is not", "ev-pen", `{"system":"TN-C-S","location":"indoor","serves_vehicle_outdoors":true,"current_a":32,"rcd_type":"A","rcd_idn_ma":30,"dc_detection_6ma":true,"pen_option":"voltage_monitor","opens_pe_and_all_live":true,"monitor_log":[{"u_v":200,"opened":true,"t_s":6}]}`, "reasons", "[pen_monitor_no_trip]"},
		{"a rod close to the house", "ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"A","rcd_idn_ma":30,"dc_detection_6ma":true,"pen_option":"tt_rod","ra_ohm":250,"separation_m":2}`, "reasons", "[ra_unstable simultaneous_contact]"},
		{"250 V with surge devices in", "insulation", `{"nominal_v":230,"test_v":250,"surge_cannot_disconnect":true,"circuits":[{"name":"a","mohm":1}]}`, "all_circuits_ok", "true"},
		{"a thick armoured cable", "bend-clip", `{"armoured":true,"od_mm":21}`, "clip_vertical_mm", "600"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, _, err := calcByName(t, c.calc).Run([]byte(c.in))
			require.NoError(t, err)
			text, err := json.Marshal(got[c.key])
			require.NoError(t, err)
			want := c.want
			if strings.HasPrefix(want, "[") {
				assert.Equal(t, want, strings.NewReplacer(`"`, "", ",", " ").Replace(string(text)))
				return
			}
			assert.JSONEq(t, want, string(text))
		})
	}
}

func TestCalculationsRefuseBadInput(t *testing.T) {
	for _, c := range []struct{ calc, in, says string }{
		{"voltage-drop", `{"phases":1,"table":"ccc_flat_te_70","size_mm2":2.5,"ib_a":-3,"length_m":10,"limit_pc":5}`, "ib_a: -3"},
		{"voltage-drop", `{"phases":1,"table":"ccc_flat_te_70","size_mm2":2.5,"ib_a":"ten","length_m":10,"limit_pc":5}`, "ib_a"},
		{"voltage-drop", `{"phases":2,"table":"ccc_flat_te_70","size_mm2":2.5,"ib_a":3,"length_m":10,"limit_pc":5}`, "phases: 2"},
		{"voltage-drop", `{"phases":1,"table":"ccc_flat_te_70","size_mm2":3,"ib_a":3,"length_m":10,"limit_pc":5}`, "3 mm²"},
		{"voltage-drop", `{"phases":1,"table":"paper","size_mm2":2.5,"ib_a":3,"length_m":10,"limit_pc":5}`, "ccc_flat_te_70"},
		{"voltage-drop", `{"phases":1,"size_mm2":2.5,"ib_a":3,"length_m":10,"limit_pc":5}`, "table is missing"},
		{"voltage-drop", `{"phases":1,`, "JSON object"},
		{"voltage-drop", `{"colour":"red"}`, "colour"},
		{"cable-size", `{"phases":1,"ib_a":40,"in_a":32,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"length_m":10,"vd_limit_pc":5}`, "in_a: 32"},
		{"cable-size", `{"phases":1,"ib_a":200,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"length_m":10,"vd_limit_pc":5}`, "no mcb_rcbo"},
		{"cable-size", `{"phases":1,"ib_a":20,"table":"ccc_flat_te_70","column":"mv_am","ambient_c":30,"length_m":10,"vd_limit_pc":5}`, "mv_am"},
		{"cable-size", `{"phases":1,"ib_a":20,"table":"ccc_flat_te_70","column":"mC","ambient_c":75,"length_m":10,"vd_limit_pc":5}`, "75 °C"},
		{"cable-size", `{"phases":1,"ib_a":20,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"grouping":{"arrangement":"heap","n":3},"length_m":10,"vd_limit_pc":5}`, "heap"},
		{"zs-check", `{"ze_ohm":0.3,"line_mm2":6,"cpc_mm2":2.5,"length_m":10,"curve":"K","in_a":32,"time_s":0.4}`, "B, C or D"},
		{"zs-temp-verdict", `{"ze_ohm":0.5,"zs_measured_ohm":0.4,"test_temp_c":15,"curve":"B","in_a":32,"time_s":0.4}`, "measure both again"},
		{"adiabatic", `{"t_s":9,"k":115,"proposed_mm2":4,"i_a":100}`, "up to 5 s"},
		{"rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"three_test","readings":{"x1_0":"fast"}}`, "x1_0"},
		{"max-demand", `{"supply_a":60,"loads":{"sauna":[{"a":20}]}}`, "sauna"},
		{"ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"A","rcd_idn_ma":30,"dc_detection_6ma":true,"pen_option":"luck"}`, "luck"},
		{"rod", `{"school":"x","length_m":2.4,"diameter_mm":16,"rho_ohm_m":100}`, "bs7430"},
		{"insulation", `{"nominal_v":230,"test_v":500,"circuits":[]}`, "circuits is empty"},
	} {
		_, _, err := calcByName(t, c.calc).Run([]byte(c.in))
		require.Error(t, err, c.in)
		assert.Contains(t, err.Error(), c.says)
	}
}

func num(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// millHouse is a job whose every check passes: 18 m of 6 mm² armoured.
func millHouse() *install.Job {
	yes := true
	w := 6900.0
	sock := 32.0
	j := &install.Job{Format: install.Format, Ref: "T-1", Title: "t", Kind: install.EVCharger, Practice: "iec230", Schools: install.DefaultSchools()}
	j.Supply = install.Supply{Earthing: "TN-C-S", DeclaredV: 230, ZeOhm: num(0.25), PFCkA: num(1.1), MainFuseA: num(100), TailsMM2: num(25), TailsM: num(2), EarthMM2: num(16), NeutralMM2: num(25), Bonds: []install.Bond{{Service: "water", MM2: num(10)}}}
	j.Loads.Items = []install.Load{{Name: "Shower", Category: "water_instant", Watts: &w, Count: 1, Basis: install.Measured}, {Name: "Rings", Category: "socket_circuits", Amps: &sock, Count: 1, Basis: install.Measured}}
	j.Board = install.Board{Name: "A", Ways: []install.Way{{No: 1, Label: "Ring", Device: "B32"}, {No: 2}}}
	j.Circuits = []install.Circuit{{ID: "c1", Name: "Charge point", Use: "ev", Point: install.Point{Outdoor: true, CurrentA: 32, DCDetection: &yes},
		Route:      install.Route{CableType: "swa3-90", LineMM2: 6, SlackM: 1, BoardTailM: 1, PointTailM: 0.5, Segments: []install.Segment{{Place: "wall", LengthM: 12, Basis: install.Measured, Method: "C", AmbientC: 30, Grouped: 1}, {Place: "bed", LengthM: 6, Basis: install.Measured, Method: "D", AmbientC: 20, Grouped: 1, DepthMM: 600, SoilKmW: 2.5}}},
		Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 32, IcnKA: 6, RCDType: "A", IdnMA: 30, Way: 2, Poles: 2},
		PEN:        install.PEN{Option: "voltage_monitor", OpensAll: &yes}}}
	j.Records = []install.Record{{ID: "r1", Kind: install.Operator, Path: "agreed", Reference: "x"}}
	return j
}

func checkOf(t testing.TB, j *install.Job, id string) working.Check {
	r := Practice{}.Report(j, nil)
	for _, c := range r.Checks() {
		if c.ID == id {
			return c
		}
	}
	t.Fatalf("no check %s", id)
	return working.Check{}
}

func TestAWholeJobPasses(t *testing.T) {
	r := Practice{}.Report(millHouse(), nil)
	for _, c := range r.Checks() {
		assert.Equal(t, working.Pass, c.Verdict, "%s: %s %v", c.ID, c.Says, c.Missing)
		assert.NotEmpty(t, c.Says, c.ID)
	}
	assert.NoError(t, millHouse().Circuits[0].Validate(Practice{}.Terms()))
}

// The figures of the circuit, by hand: L = 20.5 m; 7.3 × 32 × 20.5 / 1000 +
// 1.75 × 32 × 2 / 1000 = 4.901 V; 0.25 + (3.08+3.08) × 20.5 × 1.2 / 1000.
func TestTheCircuitsFigures(t *testing.T) {
	j := millHouse()
	assert.InDelta(t, 4.9008/230*100, *checkOf(t, j, "voltage-drop").Value, 1e-6)
	assert.InDelta(t, 0.25+6.16*20.5*1.2/1000, *checkOf(t, j, "loop").Value, 1e-9)
	assert.InDelta(t, 46*0.9, *checkOf(t, j, "capacity").Limit, 1e-9, "buried part governs: 46 A by the 70 °C table, Cc 0.9")
	assert.InDelta(t, 30.0+32+32, *checkOf(t, j, "demand").Value, 1e-9)
	assert.Contains(t, checkOf(t, j, "voltage-drop").Steps[1].Source, "4D4B", "the drop's own table is named")
	j.Circuits[0].Route.Terminals90 = true
	assert.InDelta(t, 0.25+6.16*20.5*1.28/1000, *checkOf(t, j, "loop").Value, 1e-9)
}

func TestMoreLengthIsNeverBetter(t *testing.T) {
	last := map[string]float64{}
	for l := 5.0; l < 120; l += 5 {
		j := millHouse()
		j.Circuits[0].Route.Segments[0].LengthM = l
		for _, id := range []string{"voltage-drop", "loop"} {
			v := *checkOf(t, j, id).Value
			assert.Greater(t, v, last[id])
			last[id] = v
		}
	}
}

func TestAFailedCheckListsRemediesThatPass(t *testing.T) {
	j := millHouse()
	j.Circuits[0].Route.Segments[0].LengthM = 48
	r := Practice{}.Report(j, func(j *install.Job) (float64, bool) { return j.Circuits[0].Route.LineMM2 * 10, true })
	var drop working.Check
	for _, c := range r.Checks() {
		if c.ID == "voltage-drop" {
			drop = c
		}
	}
	require.Equal(t, working.Fail, drop.Verdict)
	require.NotEmpty(t, drop.Remedies)
	assert.Equal(t, "10 mm² in place of 6 mm²", drop.Remedies[0].Title)
	assert.InDelta(t, 40, *drop.Remedies[0].Extra, 1e-9)
	j.Circuits[0].Route.LineMM2 = drop.Remedies[0].Sets[0].Value.(float64)
	assert.Equal(t, working.Pass, checkOf(t, j, "voltage-drop").Verdict, "taking the remedy mends it")
}

func TestVerdictsOfTheCircuit(t *testing.T) {
	no := false
	for _, c := range []struct {
		name   string
		change func(*install.Job)
		check  string
		want   working.Verdict
	}{
		{"device under the load", func(j *install.Job) { j.Circuits[0].Protection.RatingA = 25 }, "design-current", working.Fail},
		{"six in a bunch", func(j *install.Job) { j.Circuits[0].Route.Segments[0].Grouped = 6 }, "capacity", working.Fail},
		{"buried flat cable has no table", func(j *install.Job) { j.Circuits[0].Route.CableType = "flat-te-70" }, "capacity", working.Unknown},
		{"soil not known", func(j *install.Job) { j.Circuits[0].Route.Segments[1].SoilKmW = 0 }, "capacity", working.Caution},
		{"estimated length", func(j *install.Job) { j.Circuits[0].Route.Segments[0].Basis = install.Assumed }, "voltage-drop", working.Caution},
		{"Ze missing", func(j *install.Job) { j.Supply.ZeOhm = install.Fact{} }, "loop", working.Unknown},
		{"Ze assumed", func(j *install.Job) { j.Supply.ZeOhm.Basis = install.Assumed }, "loop", working.Caution},
		{"curve D", func(j *install.Job) { j.Circuits[0].Protection.Curve = "D" }, "loop", working.Fail},
		{"PFC over Icn", func(j *install.Job) { j.Supply.PFCkA = num(7) }, "breaking-capacity", working.Fail},
		{"type AC", func(j *install.Job) { j.Circuits[0].Protection.RCDType = "AC" }, "residual", working.Fail},
		{"type A, no detection", func(j *install.Job) { j.Circuits[0].Point.DCDetection = &no }, "residual", working.Fail},
		{"detection not known", func(j *install.Job) { j.Circuits[0].Point.DCDetection = nil }, "residual", working.Unknown},
		{"type B needs none", func(j *install.Job) { j.Circuits[0].Point.DCDetection = &no; j.Circuits[0].Protection.RCDType = "B" }, "residual", working.Pass},
		{"no decision", func(j *install.Job) { j.Circuits[0].PEN.Option = "" }, "pen", working.Unknown},
		{"indoors", func(j *install.Job) { j.Circuits[0].PEN.Option = ""; j.Circuits[0].Point.Outdoor = false }, "pen", working.Pass},
		{"TN-S", func(j *install.Job) { j.Circuits[0].PEN.Option = ""; j.Supply.Earthing = "TN-S" }, "pen", working.Pass},
		{"does not open all", func(j *install.Job) { j.Circuits[0].PEN.OpensAll = &no }, "pen", working.Fail},
		{"rod, 250 Ω", func(j *install.Job) {
			j.Circuits[0].PEN = install.PEN{Option: "tt_rod", RaOhm: num(250), SeparationM: num(4)}
		}, "pen", working.Caution},
		{"rod by estimate only", func(j *install.Job) {
			j.Circuits[0].PEN = install.PEN{Option: "tt_rod", SoilOhmM: num(100), RodLengthM: 2.4, SeparationM: num(4)}
		}, "pen", working.Caution},
		{"rod too near", func(j *install.Job) {
			j.Circuits[0].PEN = install.PEN{Option: "tt_rod", RaOhm: num(60), SeparationM: num(1)}
		}, "pen", working.Fail},
		{"electrode at the terminal too high", func(j *install.Job) { j.Circuits[0].PEN = install.PEN{Option: "met_electrode", RaOhm: num(20)} }, "pen", working.Fail},
		{"shallow", func(j *install.Job) { j.Circuits[0].Route.Segments[1].DepthMM = 300 }, "cover", working.Caution},
		{"not on record", func(j *install.Job) { j.Records = nil }, "operator", working.Unknown},
		{"only applied", func(j *install.Job) { j.Records[0].Path = "applied" }, "operator", working.Unknown},
		{"refused", func(j *install.Job) { j.Records[0].Path = "refused" }, "operator", working.Fail},
		{"way taken", func(j *install.Job) { j.Circuits[0].Protection.Way = 1 }, "way", working.Fail},
		{"no way chosen", func(j *install.Job) { j.Circuits[0].Protection.Way = 0 }, "way", working.Unknown},
		{"main fuse of 60 A", func(j *install.Job) { j.Supply.MainFuseA = num(60) }, "demand", working.Fail},
		{"tails too thin", func(j *install.Job) { j.Supply.TailsMM2 = num(16) }, "tails", working.Fail},
		{"bond too thin", func(j *install.Job) { j.Supply.Bonds[0].MM2 = num(6) }, "bonding-water", working.Fail},
		{"bonds not looked at", func(j *install.Job) { j.Supply.Bonds = nil }, "bonding", working.Unknown},
		{"TT without an electrode", func(j *install.Job) { j.Supply.Earthing = "TT" }, "electrode", working.Unknown},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := millHouse()
			c.change(j)
			got := checkOf(t, j, c.check)
			assert.Equal(t, c.want, got.Verdict, "%s %v %v", got.Says, got.Missing, got.Assumed)
		})
	}
}

func TestTheFuseRemediesHoldTheHouse(t *testing.T) {
	j := millHouse()
	heat := 11.0
	j.Loads.Items = append(j.Loads.Items, install.Load{Name: "Storage", Category: "storage_heating", Amps: &heat, Count: 1, Basis: install.Measured})
	d := checkOf(t, j, "demand")
	require.Equal(t, working.Fail, d.Verdict, "30 + 32 + 11 + 32 = 105 A")
	titles := []string{}
	for _, r := range d.Remedies {
		titles = append(titles, r.Title)
	}
	assert.Equal(t, []string{"Load management that holds the house to 100 A", "Limit charging to 25 A", "Limit charging to 20 A", "Limit charging to 16 A"}, titles, "28 A would not hold")
}

// A full board is no dead end: an enclosure of its own is offered and passes.
func TestAFullBoardIsMendedByAnEnclosure(t *testing.T) {
	j := millHouse()
	j.Circuits[0].Protection.Way = 0
	for i := range j.Board.Ways {
		j.Board.Ways[i] = install.Way{No: i + 1, Label: "taken", Device: "B6"}
	}
	full := checkOf(t, j, "way")
	require.Equal(t, working.Fail, full.Verdict)
	require.Len(t, full.Remedies, 1)
	assert.Equal(t, "An enclosure of its own beside the board", full.Remedies[0].Title)
	j.Circuits[0].Protection.OwnEnclosure = true
	assert.Equal(t, working.Pass, checkOf(t, j, "way").Verdict)
	require.NoError(t, j.Circuits[0].Validate(terms))
	j.Circuits[0].Protection.Way = 1
	assert.ErrorContains(t, j.Circuits[0].Validate(terms), "protection.way")
}

// A circuit as it starts is accepted, and nothing about it passes unseen: it
// rests on an assumed length and has no decision.
func TestAFreshCircuitIsValidAndDecidesNothing(t *testing.T) {
	for _, use := range []string{"ev", "fixed"} {
		c := Practice{}.Fresh(use)
		c.ID = "c1"
		require.NoError(t, c.Validate(terms), use)
		j := millHouse()
		j.Circuits = []install.Circuit{c}
		assert.NotEqual(t, working.Pass, checkOf(t, j, "voltage-drop").Verdict, "its length is assumed")
		assert.Equal(t, working.Unknown, checkOf(t, j, "way").Verdict)
		if use == "ev" {
			assert.Equal(t, working.Unknown, checkOf(t, j, "pen").Verdict)
			assert.Equal(t, working.Unknown, checkOf(t, j, "residual").Verdict, "nobody read the maker's sheet")
		}
	}
}

func TestEveryTableIsSourced(t *testing.T) {
	for _, x := range []*table{ambientAir, conductors, diversity, evNotify, rcdTrip, cableMakes, penOptions} {
		assert.NotEmpty(t, x.source.Ref, x.name)
		assert.NotEmpty(t, x.source.Confidence, x.name)
		assert.NotEmpty(t, x.text, x.name)
	}
}

func FuzzCalcs(f *testing.F) {
	f.Add("zs-check", `{"ze_ohm":0.35,"line_mm2":4,"cpc_mm2":1.5,"length_m":18,"curve":"B","in_a":32,"time_s":0.4}`)
	f.Add("cable-size", `{"phases":1,"power_w":9000,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"length_m":14,"vd_limit_pc":5}`)
	f.Add("rcd-verdict", `{"type":"A","readings":{"x1_0":null}}`)
	f.Fuzz(func(t *testing.T, name, input string) {
		for _, c := range (Practice{}).Calcs() {
			if c.Name == name {
				out, _, err := c.Run([]byte(input))
				if err == nil && out == nil {
					t.Fatal("neither a result nor an error")
				}
			}
		}
	})
}

func BenchmarkCircuit(b *testing.B) {
	j := millHouse()
	demand, _ := demandOf(j)
	b.ReportAllocs()
	for b.Loop() {
		circuitReport(j, &j.Circuits[0], demand)
	}
}
