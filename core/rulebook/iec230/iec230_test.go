package iec230

import (
	"encoding/json"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
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

func byName(_, name string) (rulebook.Calc, bool) {
	for _, c := range (Practice{}).Calcs() {
		if c.Name == name {
			return c, true
		}
	}
	return rulebook.Calc{}, false
}

func casesOf(t *testing.T) (cases []rulebook.Case) {
	t.Helper()
	raw, err := os.ReadFile("testdata/cases.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(raw, &cases))
	return cases
}

func TestPublishedCases(t *testing.T) {
	var said strings.Builder
	passed, failed := rulebook.RunCases(casesOf(t), byName, &said)
	assert.Zero(t, failed, said.String())
	assert.Equal(t, 57, passed)
}

// More of each rule than the published cases show, worked by hand.
func TestCalculationsByHand(t *testing.T) {
	for _, c := range []struct{ name, calc, in, key, want string }{
		{"armoured in the ground, four factors", "cable-size",
			`{"phases":1,"ib_a":32,"in_a":32,"table":"ccc_swa_90","column":"D_2c","ambient_c":20,"ground":true,"soil_k_m_w":2.5,
				"soil_col":"direct","apply_cc":true,"grouping":{"arrangement":"direct","spacing":"touching","n":2},"length_m":30,
				"vd_limit_pc":5}`, "it_min_a", "47.41"},
		{"three phases take the line voltage", "cable-size",
			`{"phases":3,"power_w":11000,"table":"ccc_swa_90","column":"C_34c","ambient_c":30,"length_m":40,"vd_limit_pc":5}`, "ib_a",
			"15.88"},
		{"a method made for insulation takes no Ci", "cable-size",
			`{"phases":1,"ib_a":10,"in_a":16,"table":"ccc_flat_te_70","column":"m100","ambient_c":30,"insulation_mm":100,
				"length_m":10,"vd_limit_pc":5}`, "ci", "1"},
		{"ambient between rows takes the hotter", "cable-size",
			`{"phases":1,"ib_a":10,"in_a":16,"table":"ccc_flat_te_70","column":"mC","ambient_c":37,"length_m":10,"vd_limit_pc":5}`, "ca",
			"0.87"},
		{"600 mm of insulation is 0.5", "cable-size",
			`{"phases":1,"ib_a":10,"in_a":16,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"insulation_mm":600,
				"length_m":10,"vd_limit_pc":5}`, "ci", "0.5"},
		{"D at 5 s uses ten times", "zs-check", `{"ze_ohm":0.2,"line_mm2":10,"cpc_mm2":10,"length_m":20,"curve":"D","in_a":20,"time_s":5}`,
			"ia_a", "200"},
		{"aluminium neutral by conductance", "bonding",
			`{"system":"TN-C-S","neutral_mm2":95,"neutral_material":"al","installed_mm2":16,"line_mm2":35}`,
			"neutral_cu_equiv_mm2", "57.3"},
		{"57 mm² of copper equivalent asks for 25", "bonding",
			`{"system":"TN-C-S","neutral_mm2":95,"neutral_material":"al","installed_mm2":16,"line_mm2":35}`, "main_bonding_mm2", "25"},
		{"three phases double the single", "pfc", `{"phases":3,"z_ln_ohm":0.1,"z_le_ohm":0.2,"icn_ka":6}`, "pfc_ka", "4.6"},
		{"let-through replaces I²t", "adiabatic", `{"i2t":18000,"t_s":0.1,"k":115,"proposed_mm2":1.5}`, "s_min_mm2", "1.167"},
		{"managed charging takes what is left", "max-demand",
			`{"supply_a":80,"managed_limit_a":60,"loads":{"cooker":[{"a":40}],"water_instant":[{"a":25}],"ev":[{"a":32}]}}`,
			"ev_available_a", "16"},
		{"under 6 A there is none", "max-demand",
			`{"supply_a":60,"managed_limit_a":60,"loads":{"storage_heating":[{"a":55}],"ev":[{"a":32}]}}`, "ev_available_a", "0"},
		{"third instant heater at a quarter", "max-demand",
			`{"supply_a":100,"loads":{"water_instant":[{"a":40},{"a":20},{"a":30}]}}`, "total_a", "75"},
		{"rods until the target", "rod",
			`{"school":"bs7430","length_m":2.4,"diameter_mm":16,"rho_ohm_m":100,"spacing_m":2.4,"target_ohm":20}`, "rods_needed", "3"},
		{"old standard judges 200 ms", "rcd-verdict",
			`{"type":"A","idn_ma":30,"delay":"none","school":"bs7671_a2","standard":"bs4293","readings":{"x1_0":220}}`,
			"failures", "[x1_0_slow]"},
		{"no trip is null", "rcd-verdict",
			`{"type":"A","idn_ma":30,"delay":"none","school":"three_test","readings":{"x1_0":20,"x1_180":null,"x5_0":12,"x5_180":12}}`,
			"failures", "[x1_180_no_trip]"},
		{"the three-test school misses its x5", "rcd-verdict",
			`{"type":"A","idn_ma":30,"delay":"none","school":"three_test","readings":{"x1_0":20}}`, "failures", "[x5_0_missing]"},
		{"a false trip alone is acceptable", "ev-pen",
			`{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"B","rcd_idn_ma":30,"dc_detection_6ma":false,
				"pen_option":"voltage_monitor","opens_pe_and_all_live":true,"monitor_log":[{"u_v":230,"opened":true,
				"t_s":1}]}`, "acceptable", "true"},
		{"a slow monitor is not", "ev-pen",
			`{"system":"TN-C-S","location":"indoor","serves_vehicle_outdoors":true,"current_a":32,"rcd_type":"A","rcd_idn_ma":30,
				"dc_detection_6ma":true,"pen_option":"voltage_monitor","opens_pe_and_all_live":true,"monitor_log":[{"u_v":200,
				"opened":true,"t_s":6}]}`, "reasons", "[pen_monitor_no_trip]"},
		{"a rod close to the house", "ev-pen",
			`{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"A","rcd_idn_ma":30,"dc_detection_6ma":true,
				"pen_option":"tt_rod","ra_ohm":250,"separation_m":2}`, "reasons", "[ra_unstable simultaneous_contact]"},
		{"250 V with surge devices in", "insulation",
			`{"nominal_v":230,"test_v":250,"surge_cannot_disconnect":true,"circuits":[{"name":"a","mohm":1}]}`, "all_circuits_ok", "true"},
		{"a ring in warm insulation loses its legs", "ring-design",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":80,"column":"m101","ca":0.87,"ze_ohm":0.8,"curve":"B","in_a":32,
				"vd_limit_pc":5,"floor_area_m2":101}`, "ccc_ok", "false"},
		{"a ring's far point is a quarter of 80 m of 19.51 mΩ/m", "ring-design",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":80,"column":"mC","ze_ohm":0.8,"curve":"B","in_a":32,"vd_limit_pc":5,
				"floor_area_m2":101}`, "r1r2_far_20c", "0.3902"},
		{"101 m² is over one ring's floor", "ring-design",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":80,"column":"mC","ze_ohm":0.8,"curve":"B","in_a":32,"vd_limit_pc":5,
				"floor_area_m2":101}`, "area_ok", "false"},
		{"line and protective conductor changed over at the third socket", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.49,"rn":0.49,"r2":0.8,"step2":[0.24,0.24,null],
				"step3":[0.31,0.32,0.32]}}`, "verdict", "[line_cpc_reversed_at_2]"},
		{"line and neutral changed over", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.49,"rn":0.49,"r2":0.8,"step2":[0.24,0.24,0.24],
				"step3":[0.31,null,0.32]}}`, "verdict", "[line_neutral_reversed_at_1]"},
		{"pipes beside the protective conductor", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.49,"rn":0.49,"r2":0.6,"step2":[0.24],"step3":[0.27]}}`,
			"verdict", "[parallel_path_cpc]"},
		{"equal conductors have a ratio of one", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":2.5,"length_m":66,"readings":{"r1":0.49,"rn":0.49,"r2":0.49,"step2":[0.24],"step3":[0.24]}}`,
			"verdict", "[healthy]"},
		{"two legs open", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":null,"rn":0.49,"r2":null,"step2":[],"step3":[]}}`,
			"verdict", "[open_leg_cpc open_leg_line]"},
		{"uneven on a ring of its full length", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.49,"rn":0.49,"r2":0.8,"step2":[0.24,0.18],"step3":[0.31,0.3]}}`,
			"verdict", "[unexplained_variation]"},
		{"two spurs", "ring-diagnosis",
			`{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.49,"rn":0.49,"r2":0.8,"step2":[0.24,0.32,0.4],
				"step3":[0.31,0.4,0.5]}}`, "verdict", "[spur_at_1 spur_at_2]"},
		{"the submain alone: 0.35 + 30 m of 7.392 mΩ/m", "submain-final",
			`{"ze_ohm":0.35,"limit_pc":3,"submain":{"table":"ccc_swa_70","line_mm2":6,"cpc_mm2":6,"length_m":30,"multiplier":1.2,
				"ib_a":25,"curve":"C","in_a":32,"time_s":5},"final":{"table":"ccc_flat_te_70","line_mm2":1.5,"cpc_mm2":1,
				"length_m":20,"multiplier":1.2,"ib_a":6,"curve":"B","in_a":6}}`, "zdb_ohm", "0.5718"},
		{"both drops together against the limit", "submain-final",
			`{"ze_ohm":0.35,"limit_pc":3,"submain":{"table":"ccc_swa_70","line_mm2":6,"cpc_mm2":6,"length_m":30,"multiplier":1.2,
				"ib_a":25,"curve":"C","in_a":32,"time_s":5},"final":{"table":"ccc_flat_te_70","line_mm2":1.5,"cpc_mm2":1,
				"length_m":20,"multiplier":1.2,"ib_a":6,"curve":"B","in_a":6}}`, "vd_total_pc", "3.893"},
		{"a circuit over the ceiling by itself", "rcd-grouping",
			`{"idn_ma":30,"circuits":[{"name":"server","leak_ma":10},{"name":"a","leak_ma":5},{"name":"b","leak_ma":5}]}`,
			"circuits_over_limit_alone", "[server]"},
		{"it is not packed", "rcd-grouping",
			`{"idn_ma":30,"circuits":[{"name":"server","leak_ma":10},{"name":"a","leak_ma":5},{"name":"b","leak_ma":5}]}`,
			"groups_first_fit", "2"},
		{"only what runs on is counted", "board-rdf",
			`{"count_basis":"continuous_only","circuits":[{"name":"a","in_a":32,"ib_a":20,"continuous":true},{"name":"b","in_a":6,
				"ib_a":6,"continuous":false}]}`, "rdf", "1"},
		{"the manufacturer's factor goes first", "board-rdf",
			`{"maker_rdf":0.9,"circuits":[{"name":"a","in_a":32,"ib_a":28,"continuous":true},{"name":"b","in_a":6,"ib_a":6,
				"continuous":false}]}`, "all_ok", "true"},
		{"206 V is low by one school", "supply-voltage", `{"school":"is732","u_v":206}`, "inside", "false"},
		{"0.5 m of leads is as advised", "spd-let-through",
			`{"up_kv":1.4,"lead_line_m":0.2,"lead_earth_m":0.3,"uw_kv":4,"distance_to_load_m":10}`, "lead_verdict", `"advised"`},
		{"10 m of wiring is still near", "spd-let-through",
			`{"up_kv":1.4,"lead_line_m":0.2,"lead_earth_m":0.3,"uw_kv":4,"distance_to_load_m":10}`, "extra_spd", "false"},
		{"beyond 1 km nothing counts, low voltage first", "spd-crl",
			`{"environment":"rural","ng":1,"lengths_km":{"lpal":0.8,"lpcl":0.5,"lpah":2}}`, "lp_km", "1.8"},
		{"a national factor", "spd-crl", `{"environment":"urban","ng":0.5,"factor_f":2,"lengths_km":{"lpcl":1}}`, "crl", "3400"},
		{"a deep joist counts as 250", "joist",
			`{"depth_mm":300,"span_mm":4000,"holes":[{"x_mm":2800,"dia_mm":62.5,"centre_from_top_mm":150}]}`, "acceptable", "true"},
		{"a notch at mid-span", "joist", `{"depth_mm":200,"span_mm":4000,"notches":[{"x_mm":2000,"depth_mm":30}]}`,
			"notch_faults", "[[depth zone]]"},
		{"a thick wall hides the other face", "safe-zone",
			`{"wall_w_mm":4000,"wall_h_mm":2400,"thickness_mm":150,"corner_left":false,"corner_right":false,"rcd_30ma":true,
				"accessories":[{"x":2000,"y":1100,"w":86,"h":86,"face":"other"}],"segments":[{"a":[2000,1100],"b":[2000,2000],
				"depth_mm":20}]}`, "all_ok", "false"},
		{"a zone without a residual-current device is not enough", "safe-zone",
			`{"wall_w_mm":4000,"wall_h_mm":2400,"thickness_mm":75,"corner_left":false,"corner_right":true,"rcd_30ma":false,
				"accessories":[],"segments":[{"a":[3900,100],"b":[3900,2000],"depth_mm":20}]}`, "all_ok", "false"},
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

// One line of the working of every calculation, recomputed by hand from the inputs
// and the printed tables; every calculation names a source.
func TestTheWorkingOfEveryCalculationByHand(t *testing.T) {
	sampled := map[string]bool{}
	for _, c := range []struct {
		calc, in, symbol string
		value            float64
		source           string
	}{
		{"cable-size", `{"phases":1,"power_w":7200,"table":"ccc_flat_te_70","column":"mC","ambient_c":40,"length_m":11,"vd_limit_pc":5}`,
			"It", 32 / 0.87, "4D5"},
		{"cable-size", `{"phases":1,"power_w":7200,"table":"ccc_flat_te_70","column":"mC","ambient_c":40,"length_m":11,"vd_limit_pc":5}`,
			"drop, 4 mm²", 11 * 7200.0 / 230 * 11 / 1000 / 230 * 100, "4D5"},
		{"voltage-drop", `{"phases":1,"table":"ccc_flat_te_70","size_mm2":4,"ib_a":26,"length_m":17,"limit_pc":5}`,
			"stretch", 11 * 26 * 17 / 1000.0, ""},
		{"voltage-drop", `{"phases":1,"table":"ccc_flat_te_70","size_mm2":4,"ib_a":26,"length_m":17,"limit_pc":5}`, "mV/A/m", 11, "4D5"},
		{"max-length", `{"table":"ccc_flat_te_70","line_mm2":4,"cpc_mm2":1.5,"ze_ohm":0.2,"curve":"C","in_a":20,"time_s":0.4,
			"ib_a":20,"limit_pc":5}`, "L by loop", (230*0.95/200 - 0.2) * 1000 / ((4.61 + 12.1) * 1.2), "411.4"},
		{"zs-check", `{"ze_ohm":0.2,"line_mm2":6,"cpc_mm2":2.5,"length_m":23,"curve":"B","in_a":40,"time_s":0.4}`, "R1+R2",
			(3.08 + 7.41) * 23 * 1.2 / 1000, "60228"},
		{"zs-temp-verdict", `{"ze_ohm":0.2,"zs_measured_ohm":0.9,"test_temp_c":10,"curve":"B","in_a":20,"time_s":0.4}`,
			"Zs at 70 °C", 0.2 + 0.7*1.2/(1+0.004*(10-20)), "643"},
		{"adiabatic", `{"zs_ohm":0.5,"t_s":0.4,"k":115,"proposed_mm2":2.5}`, "S min", 460 * math.Sqrt(0.4) / 115, "543.1.3"},
		{"pfc", `{"phases":1,"z_ln_ohm":0.1,"z_le_ohm":0.25,"icn_ka":6}`, "PFC", 2.3, "643"},
		{"bonding", `{"system":"TN-S","earthing_conductor_mm2":16,"installed_mm2":10,"line_mm2":25}`, "main bonding", 10, "54"},
		{"rod", `{"school":"bs7430","length_m":1.8,"diameter_mm":14,"rho_ohm_m":60}`, "R",
			60 / (2 * math.Pi * 1.8) * (math.Log(8*1.8/0.014) - 1), "7430"},
		{"rod", `{"school":"is3043","length_m":1.8,"diameter_mm":14,"rho_ohm_m":60}`, "R",
			60 / (2 * math.Pi * 1.8) * math.Log(4*1.8/0.014), "3043"},
		{"tt-electrode", `{"ra_ohm":90,"idn_ma":[100]}`, "touch voltage", 9, "411.5.3"},
		{"insulation", `{"nominal_v":230,"test_v":500,"circuits":[{"name":"a","mohm":6},{"name":"b","mohm":3}]}`, "together", 2, ""},
		{"rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"bs7671_a2","readings":{"x1_0":29}}`, "x1_0", 29, "61008"},
		{"ring-design", `{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":50,"column":"mC","ze_ohm":0.2,"curve":"B","in_a":32,
			"vd_limit_pc":5,"floor_area_m2":60}`, "R1+R2 at the far point, 70 °C", (7.41 + 12.1) * 50 / 1000 / 4 * 1.2, "0.004"},
		{"ring-diagnosis", `{"line_mm2":4,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.3,"rn":0.3,"r2":0.8,"step2":[0.15],
			"step3":[0.27]}}`, "line to protective conductor", 1.1 / 4, "ring"},
		{"max-demand", `{"supply_a":80,"loads":{"cooker":[{"w":6900,"socket_in_unit":true}],"lighting":[{"w":920}]}}`,
			"Cooking", 10 + 0.3*20 + 5, "diversity"},
		{"ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":16,"rcd_type":"A","rcd_idn_ma":30,"dc_detection_6ma":true,
			"pen_option":"tt_rod","ra_ohm":80}`, "touch voltage", 2.4, "411.5.3"},
		{"rcd-grouping", `{"idn_ma":100,"circuits":[{"name":"a","leak_ma":12},{"name":"b","leak_ma":21}]}`, "limit", 30, "531.3.2"},
		{"board-rdf", `{"circuits":[{"name":"a","in_a":20,"ib_a":15,"continuous":true},{"name":"b","in_a":6,"ib_a":2,"continuous":false}]}`,
			"a", 0.8 * 20, "61439-3"},
		{"submain-final", `{"ze_ohm":0.2,"limit_pc":5,"submain":{"table":"ccc_swa_70","line_mm2":10,"cpc_mm2":10,"length_m":30,
			"multiplier":1.2,"ib_a":30,"curve":"B","in_a":40,"time_s":5},"final":{"table":"ccc_flat_te_70","line_mm2":2.5,
			"cpc_mm2":1.5,"length_m":9,"multiplier":1.2,"ib_a":13,"curve":"B",
			"in_a":16}}`, "Zs, final", 0.2 + 3.66*30*1.2/1000 + 19.51*9*1.2/1000, ""},
		{"submain-final", `{"ze_ohm":0.2,"limit_pc":5,"submain":{"table":"ccc_swa_70","line_mm2":10,"cpc_mm2":10,"length_m":30,
			"multiplier":1.2,"ib_a":30,"curve":"B","in_a":40,"time_s":5},"final":{"table":"ccc_flat_te_70","line_mm2":2.5,
			"cpc_mm2":1.5,"length_m":9,"multiplier":1.2,"ib_a":13,"curve":"B","in_a":16}}`, "drop, final", 18 * 13 * 9 / 1000.0, "4D5"},
		{"supply-voltage", `{"school":"bs7671","u_v":219}`, "deviation", (219/230.0 - 1) * 100, ""},
		{"spd-let-through", `{"up_kv":1.3,"lead_line_m":0.25,"lead_earth_m":0.35,"uw_kv":2.5,"distance_to_load_m":4}`,
			"U effective", 1.3 + 0.6, "534.4"},
		{"spd-crl", `{"environment":"suburban","ng":2,"lengths_km":{"lpal":0.2,"lpcl":0.5,"lpch":0.3}}`, "LP",
			2*0.2 + 0.5 + 0.2*0.3, "443.5"},
		{"joist", `{"depth_mm":200,"span_mm":3600,"holes":[],"notches":[]}`, "hole", 50, "joists"},
		{"safe-zone", `{"wall_w_mm":3000,"wall_h_mm":2400,"thickness_mm":100,"corner_left":true,"corner_right":false,
			"rcd_30ma":true,"accessories":[],"segments":[{"a":[60,300],"b":[60,2000],"depth_mm":31}]}`, "corner", 31, "522.6.202"},
		{"bend-clip", `{"armoured":true,"od_mm":17}`, "r min", 6 * 17, "cable standards"},
	} {
		_, steps, err := calcByName(t, c.calc).Run([]byte(c.in))
		require.NoError(t, err, c.calc)
		i := slices.IndexFunc(steps, func(s working.Step) bool { return s.Symbol == c.symbol })
		if assert.GreaterOrEqual(t, i, 0, "%s has no step %q: %v", c.calc, c.symbol, steps) {
			assert.InDelta(t, c.value, steps[i].Value, 1e-9*math.Max(1, c.value), "%s: %s", c.calc, c.symbol)
			assert.Contains(t, steps[i].Source, c.source, "%s: %s", c.calc, c.symbol)
		}
		assert.True(t, slices.ContainsFunc(steps, func(s working.Step) bool { return s.Source != "" }), "%s names no source", c.calc)
		sampled[c.calc] = true
	}
	for _, c := range (Practice{}).Calcs() {
		assert.True(t, sampled[c.Name], "no working of %s is sampled", c.Name)
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
		{"cable-size", `{"phases":1,"ib_a":40,"in_a":32,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"length_m":10,
			"vd_limit_pc":5}`, "in_a: 32"},
		{"cable-size", `{"phases":1,"ib_a":200,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,"length_m":10,"vd_limit_pc":5}`,
			"no mcb_rcbo"},
		{"cable-size", `{"phases":1,"ib_a":20,"table":"ccc_flat_te_70","column":"mv_am","ambient_c":30,"length_m":10,"vd_limit_pc":5}`,
			"mv_am"},
		{"cable-size", `{"phases":1,"ib_a":20,"table":"ccc_flat_te_70","column":"mC","ambient_c":75,"length_m":10,"vd_limit_pc":5}`,
			"75 °C"},
		{"cable-size", `{"phases":1,"ib_a":20,"table":"ccc_flat_te_70","column":"mC","ambient_c":30,
			"grouping":{"arrangement":"heap","n":3},"length_m":10,"vd_limit_pc":5}`, "heap"},
		{"zs-check", `{"ze_ohm":0.3,"line_mm2":6,"cpc_mm2":2.5,"length_m":10,"curve":"K","in_a":32,"time_s":0.4}`, "B, C or D"},
		{"zs-temp-verdict", `{"ze_ohm":0.5,"zs_measured_ohm":0.4,"test_temp_c":15,"curve":"B","in_a":32,"time_s":0.4}`,
			"measure both again"},
		{"adiabatic", `{"t_s":9,"k":115,"proposed_mm2":4,"i_a":100}`, "up to 5 s"},
		{"rcd-verdict", `{"type":"A","idn_ma":30,"delay":"none","school":"three_test","readings":{"x1_0":"fast"}}`, "x1_0"},
		{"max-demand", `{"supply_a":60,"loads":{"sauna":[{"a":20}]}}`, "sauna"},
		{"ev-pen", `{"system":"TN-C-S","location":"outdoor","current_a":32,"rcd_type":"A","rcd_idn_ma":30,"dc_detection_6ma":true,
			"pen_option":"luck"}`, "luck"},
		{"rod", `{"school":"x","length_m":2.4,"diameter_mm":16,"rho_ohm_m":100}`, "bs7430"},
		{"insulation", `{"nominal_v":230,"test_v":500,"circuits":[]}`, "circuits is empty"},
		{"ring-design", `{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":70,"column":"m1","ze_ohm":0.3,"curve":"B","in_a":32,
			"vd_limit_pc":5,"floor_area_m2":90}`, "m102"},
		{"ring-diagnosis", `{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.49,"r2":0.8,"step2":[],"step3":[]}}`,
			"readings.rn is missing"},
		{"ring-diagnosis", `{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":-1,"rn":0.4,"r2":0.8,"step2":[],"step3":[]}}`,
			"-1"},
		{"ring-diagnosis", `{"line_mm2":2.5,"cpc_mm2":1.5,"length_m":66,"readings":{"r1":0.4,"rn":0.4,"r2":0.8,"step2":[0.2],"step3":[]}}`,
			"step3"},
		{"submain-final", `{"ze_ohm":0.35,"limit_pc":5,"submain":{"table":"ccc_swa_90","line_mm2":10,"cpc_mm2":10,"length_m":24,
			"ib_a":32,"curve":"B","in_a":40},"final":{"table":"ccc_flat_te_70","line_mm2":3,"cpc_mm2":1.5,"length_m":12,"ib_a":16,
			"curve":"B","in_a":20}}`, "final."},
		{"board-rdf", `{"maker_rdf":2,"circuits":[{"name":"a","in_a":32,"ib_a":20,"continuous":true}]}`, "maker_rdf: 2"},
		{"rcd-grouping", `{"idn_ma":30,"circuits":[{"name":"a","leak_ma":-1}]}`, "leak_ma: -1"},
		{"supply-voltage", `{"school":"moon","u_v":230}`, "sans10142"},
		{"spd-crl", `{"environment":"sea","ng":1,"lengths_km":{"lpal":1}}`, "suburban"},
		{"spd-crl", `{"environment":"rural","ng":null,"lengths_km":{"lpal":1}}`, "thunderstorm_days"},
		{"spd-crl", `{"environment":"rural","ng":1,"lengths_km":{}}`, "unknown_rest"},
		{"spd-let-through", `{"up_kv":1.5,"lead_line_m":-0.1,"lead_earth_m":0.4,"uw_kv":2.5,"distance_to_load_m":7}`, "lead_line_m"},
		{"joist", `{"depth_mm":200,"span_mm":4000,"holes":[{"x_mm":5000,"dia_mm":20,"centre_from_top_mm":100}]}`, "5000"},
		{"safe-zone", `{"wall_w_mm":4000,"wall_h_mm":2400,"thickness_mm":75,"corner_left":false,"corner_right":false,
			"rcd_30ma":true,"accessories":[],"segments":[{"a":[0],"b":[0,1],"depth_mm":20}]}`, "segments.a"},
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
	j := &install.Job{Format: install.Format, Ref: "T-1", Title: "t", Kind: install.EVCharger, Practice: "iec230",
		Rules: install.Rules{Edition: "2018+A2:2022"}, Schools: install.Schools{}, Site: install.Site{Premises: "owner-occupied"}}
	j.Supply = install.Supply{Earthing: "TN-C-S", DeclaredV: 230, ZeOhm: num(0.25), PFCkA: num(1.1), MainFuseA: num(100),
		TailsMM2: num(25), TailsM: num(2), EarthMM2: num(16), NeutralMM2: num(25), Bonds: []install.Bond{{Service: "water", MM2: num(10)}}}
	j.Loads.Items = []install.Load{{Name: "Shower", Category: "water_instant", Watts: &w, Count: 1,
		Basis: install.Measured}, {Name: "Rings", Category: "socket_circuits", Amps: &sock, Count: 1, Basis: install.Measured}}
	j.Board = install.Board{Name: "A", MakerRDF: 1, Ways: []install.Way{{No: 1, Label: "Ring", Device: "B32"}, {No: 2}}}
	j.Circuits = []install.Circuit{{ID: "c1", Name: "Charge point", Use: "ev",
		Point: install.Point{Outdoor: true, CurrentA: 32, DCDetection: &yes},
		Route: install.Route{CableType: "swa3-90", LineMM2: 6, SlackM: 1, BoardTailM: 1, PointTailM: 0.5,
			Segments: []install.Segment{{Place: "wall", LengthM: 12, Basis: install.Measured, Method: "C", AmbientC: 30,
				Grouped: 1}, {Place: "bed", LengthM: 6, Basis: install.Measured, Method: "D", AmbientC: 20, Grouped: 1,
				DepthMM: 600, SoilKmW: 2.5}}},
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
		assert.Equal(t, working.Pass, c.Verdict, "%s: %s %v", c.ID, c.Summary, c.Missing)
		assert.NotEmpty(t, c.Summary, c.ID)
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
	r := Practice{}.Report(j, func(j *install.Job, i int) (float64, map[string]float64) {
		return j.Circuits[i].Route.LineMM2 * 10, nil
	})
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
		{"buried flat cable has no table", func(j *install.Job) { j.Circuits[0].Route.CableType = "flat-te-70" },
			"capacity", working.Unknown},
		{"soil not known", func(j *install.Job) { j.Circuits[0].Route.Segments[1].SoilKmW = 0 }, "capacity", working.Caution},
		{"estimated length", func(j *install.Job) { j.Circuits[0].Route.Segments[0].Basis = install.Assumed },
			"voltage-drop", working.Caution},
		{"Ze missing", func(j *install.Job) { j.Supply.ZeOhm = install.Fact{} }, "loop", working.Unknown},
		{"Ze assumed", func(j *install.Job) { j.Supply.ZeOhm.Basis = install.Assumed }, "loop", working.Caution},
		{"curve D: only the residual device opens in time", func(j *install.Job) { j.Circuits[0].Protection.Curve = "D" },
			"loop", working.Caution},
		{"curve D and no residual device", func(j *install.Job) {
			j.Circuits[0].Protection.Curve,
				j.Circuits[0].Protection.RCDType = "D", ""
		}, "loop", working.Fail},
		{"PFC over Icn", func(j *install.Job) { j.Supply.PFCkA = num(7) }, "breaking-capacity", working.Fail},
		{"type AC", func(j *install.Job) { j.Circuits[0].Protection.RCDType = "AC" }, "residual", working.Fail},
		{"type A, no detection", func(j *install.Job) { j.Circuits[0].Point.DCDetection = &no }, "residual", working.Fail},
		{"detection not known", func(j *install.Job) { j.Circuits[0].Point.DCDetection = nil }, "residual", working.Unknown},
		{"type B needs none", func(j *install.Job) { j.Circuits[0].Point.DCDetection = &no; j.Circuits[0].Protection.RCDType = "B" },
			"residual", working.Pass},
		{"no decision", func(j *install.Job) { j.Circuits[0].PEN.Option = "" }, "pen", working.Unknown},
		{"indoors", func(j *install.Job) { j.Circuits[0].PEN.Option = ""; j.Circuits[0].Point.Outdoor = false }, "pen", working.Pass},
		{"TN-S", func(j *install.Job) { j.Circuits[0].PEN.Option = ""; j.Supply.Earthing = "TN-S" }, "pen", working.Unknown},
		{"TN-S by the operator's word", func(j *install.Job) {
			j.Circuits[0].PEN.Option, j.Supply.Earthing, j.Supply.EarthingBy = "", "TN-S", install.Enquiry
		}, "pen", working.Pass},
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
		{"electrode at the terminal too high",
			func(j *install.Job) { j.Circuits[0].PEN = install.PEN{Option: "met_electrode", RaOhm: num(20)} }, "pen", working.Fail},
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
			assert.Equal(t, c.want, got.Verdict, "%s %v %v", got.Summary, got.Missing, got.Assumed)
		})
	}
}

func TestTheFuseRemediesHoldTheHouse(t *testing.T) {
	j := millHouse()
	heat := 11.0
	j.Loads.Items = append(j.Loads.Items, install.Load{Name: "Storage", Category: "storage_heating", Amps: &heat, Count: 1,
		Basis: install.Measured})
	d := checkOf(t, j, "demand")
	require.Equal(t, working.Fail, d.Verdict, "30 + 32 + 11 + 32 = 105 A")
	titles := []string{}
	for _, r := range d.Remedies {
		titles = append(titles, r.Title)
	}
	assert.Equal(t, []string{"Load management that holds the house to 100 A", "Limit charging to 25 A",
		"Limit charging to 20 A", "Limit charging to 16 A"}, titles, "28 A would not hold")
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
		c := Practice{}.Defaults(use)
		c.ID = "c1"
		require.NoError(t, c.Validate(terms), use)
		j := millHouse()
		j.Circuits = []install.Circuit{c}
		assert.NotEqual(t, working.Pass, checkOf(t, j, "voltage-drop").Verdict, "its length is assumed")
		assert.Equal(t, working.Unknown, checkOf(t, j, "way").Verdict)
		if use == "ev" {
			assert.Equal(t, working.Unknown, checkOf(t, j, "pen").Verdict)
			assert.Equal(t, working.Unknown, checkOf(t, j, "residual").Verdict, "nobody read the manufacturer's instructions")
		}
	}
}

func TestEveryTableIsSourced(t *testing.T) {
	for _, x := range tables.All() {
		assert.NotEmpty(t, x.Source.Ref, x.Name)
		assert.NotEmpty(t, x.Source.Confidence, x.Name)
		assert.NotEmpty(t, x.Text, x.Name)
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
	sys, _ := begin(j)
	b.ReportAllocs()
	for b.Loop() {
		sys.report(&j.Circuits[0])
	}
}
