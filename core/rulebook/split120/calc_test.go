package split120

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/rulebook"
	"arvelt/core/working"
)

func calcByName(t testing.TB, name string) rulebook.Calc {
	t.Helper()
	for _, c := range (Practice{}).Calcs() {
		if c.Name == name {
			return c
		}
	}
	t.Fatalf("no calculation %s", name)
	return rulebook.Calc{}
}

func run(t testing.TB, name, in string) (map[string]any, []working.Step) {
	t.Helper()
	out, steps, err := calcByName(t, name).Run([]byte(in))
	require.NoError(t, err, "%s %s", name, in)
	return out, steps
}

// More of each rule than the published cases show, worked by hand.
func TestCalculationsByHand(t *testing.T) {
	for _, c := range []struct{ name, calc, in, key, want string }{
		{"three of ten circuits in one sealed hole", "ampacity",
			`{"size":"14","material":"cu","insulation_c":90,"ambient_c":30,"ccc":12,"terminal_c":60,"nm_b":true,"next_size_up":false}`,
			"derated_a", "12.5"},
		{"rounded down to the rating below, 10 A of the newest edition", "ampacity",
			`{"size":"14","material":"cu","insulation_c":90,"ambient_c":30,"ccc":12,"terminal_c":60,"nm_b":true,"next_size_up":false}`,
			"max_ocpd", "10"},
		{"33 °C are added close above a roof: 40 + 33, 0.5 of 75 A", "ampacity",
			`{"size":"6","material":"cu","insulation_c":90,"ambient_c":40,"ccc":3,"terminal_c":75,"next_size_up":true,
				"rooftop_adder":true}`, "derated_a", "37.5"},
		{"twelve conductors by the Canadian bands", "ampacity",
			`{"size":"12","material":"cu","insulation_c":90,"ambient_c":30,"ccc":12,"terminal_c":75,"next_size_up":true,"school":"CEC"}`,
			"factor_adjust", "0.7"},
		{"10 AWG stays at 30 A whatever it carries", "ampacity",
			`{"size":"10","material":"cu","insulation_c":90,"ambient_c":30,"ccc":3,"terminal_c":75,"next_size_up":true}`, "max_ocpd", "30"},
		{"80 A continuous: 100 A, 3 AWG at 75 °C", "ev-circuit",
			`{"continuous_a":80,"material":"cu","insulation_c":90,"ambient_c":30,"ccc":2,"terminal_c":75}`, "conductor", `"3"`},
		{"in aluminum 1 AWG", "ev-circuit", `{"continuous_a":80,"material":"al","insulation_c":90,"ambient_c":30,"ccc":2,"terminal_c":75}`,
			"conductor", `"1"`},
		{"two sets halve the drop", "voltage-drop",
			`{"material":"cu","size":"1/0","current_a":100,"length_ft":200,"volts":240,"limit_percent":3,"sets":2}`, "vd_v", "2.443"},
		{"nothing is large enough", "voltage-drop",
			`{"material":"cu","size":"600","current_a":400,"length_ft":3000,"volts":240,"limit_percent":1}`,
			"smallest_size_for_limit", "null"},
		{"not the whole dwelling: the rating itself", "service-sizing",
			`{"rating_a":200,"material":"cu","neutral_load_a":95,"whole_dwelling":false}`, "conductor", `"3/0"`},
		{"180 A calculated, the next rating up is 200", "service-sizing",
			`{"rating_a":200,"material":"cu","neutral_load_a":95,"whole_dwelling":false,"next_size_up":true,"calculated_load_a":176}`,
			"conductor", `"3/0"`},
		{"the calculated load decides when it is small, but 200 A must protect it", "service-sizing",
			`{"rating_a":200,"material":"cu","neutral_load_a":95,"whole_dwelling":false,"next_size_up":true,"calculated_load_a":120}`,
			"conductor", `"3/0"`},
		{"a hot place: 4/0 at 46 °C carries 205 × 0.82", "service-derated",
			`{"rating_a":200,"material":"al","insulation_c":90,"ambient_c":46,"ccc":3}`, "conductor", `"4/0"`},
		{"six conductors together make it larger, 260 × 0.82 × 0.8", "service-derated",
			`{"rating_a":200,"material":"al","insulation_c":90,"ambient_c":46,"ccc":6}`, "conductor", `"300"`},
		{"never larger than the circuit", "egc-upsize", `{"ocpd_a":20,"required":"12","installed":"10"}`, "egc", `"10"`},
		{"a nipple holds 60 %", "conduit-fill", `{"type":"emt","conductors":[["thhn","6",4]],"nipple_in":18}`, "limit_percent", "60"},
		{"one cable fills 53 %", "conduit-fill", `{"type":"emt","conductors":[["thhn","4/0",1]]}`, "limit_percent", "53"},
		{"a bundle that no trade size holds", "conduit-fill", `{"type":"pvc80","conductors":[["thhn","600",9]]}`, "trade_size", "null"},
		{"six grounds: 1.5 of the largest", "box-fill", `{"edition":2020,"conductors":[],"grounds":[["12",6]]}`, "fill_in3", "3.375"},
		{"all grounds together before 2020", "box-fill", `{"edition":2017,"conductors":[],"grounds":[["12",6]]}`, "fill_in3", "2.25"},
		{"a wide device counts two a gang", "box-fill",
			`{"conductors":[["6",3]],"devices":[{"largest":"6","gangs":2}],"box_in3":42}`, "spare_in3", "7"},
		{"three connectors are one pair", "box-fill",
			`{"school":"CEC","conductors":[["12",2]],"wire_connectors":3,"box_ml":86.1}`, "fits", "true"},
		{"by the newer edition small ones do not count toward four", "dwelling-standard",
			`{"edition":2020,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1,"fixed_appliances":[{"va":4500,
				"volts":240},{"va":1000,"volts":120},{"va":800,"volts":120},{"va":300,"volts":120}]}`, "appliances_va", "6600"},
		{"by the older all four do", "dwelling-standard",
			`{"edition":2017,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1,"fixed_appliances":[{"va":4500,
				"volts":240},{"va":1000,"volts":120},{"va":800,"volts":120},{"va":300,"volts":120}]}`, "appliances_va", "4950"},
		{"the fourth fixed appliance lets demand fall", "dwelling-standard",
			`{"edition":2020,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1,"fixed_appliances":[{"va":4500},
				{"va":1000},{"va":800},{"va":500}]}`, "appliances_va", "5100"},
		{"a charger before 2023 by its nameplate", "dwelling-standard",
			`{"edition":2020,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1,"evse_va":3840,"ev_125":true}`, "evse_va",
			"4800"},
		{"a dryer counts at least 5000 VA", "dwelling-standard",
			`{"edition":2023,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1,"dryer_va":4200}`, "dryer_va", "5000"},
		{"a small house still has 100 A", "dwelling-standard",
			`{"edition":2023,"area_ft2":600,"small_appliance_circuits":2,"laundry_circuits":1}`, "service_rating", "100"},
		{"strips interlocked with the compressor", "dwelling-optional",
			`{"edition":2023,"area_ft2":2000,"small_appliance_circuits":2,"laundry_circuits":1,"hvac":{"heat_pump_va":6000,
				"supplemental_va":15000,"interlocked":true}}`, "hvac_va", "9750"},
		{"four room heaters and more", "dwelling-optional",
			`{"edition":2023,"area_ft2":2000,"small_appliance_circuits":2,"laundry_circuits":1,"hvac":{"space_heat_va":12000,
				"space_heat_units":6}}`, "hvac_option", `"5"`},
		{"a charger in full after the sum", "dwelling-optional",
			`{"edition":2023,"area_ft2":2000,"small_appliance_circuits":2,"laundry_circuits":1,"hvac":{"cool_va":4000},
				"evse_va":9600,"ev_mode":"separate"}`, "total_va", "23800"},
		{"a record that may not be used fits nothing", "existing-220.87",
			`{"peak_kva":5,"new_loads_va":[],"service_a":200,"valid_record":false}`, "fits", "false"},
		{"no room is no setting", "existing-220.87",
			`{"peak_kva":40,"new_loads_va":[],"service_a":100,"valid_record":true}`, "max_continuous_ev_setting_a", "0"},
		{"two ranges of 12 kW and less", "range-demand", `{"ranges_kw":[8,12]}`, "demand_kw", "11"},
		{"half a kW above counts as one", "range-demand", `{"ranges_kw":[12.5]}`, "demand_kw", "8.4"},
		{"less than half does not", "range-demand", `{"ranges_kw":[12.4]}`, "demand_kw", "8"},
		{"a flat below 80 m²", "canada-load",
			`{"ground_upper_m2":60,"basement_m2":0,"range_w":0,"heat_w":0,"cool_w":0,"evse_w":0,"other_over_1500_w":[]}`,
			"load_w", "14400"},
		{"without a range the first 6000 W of the rest in full", "canada-load",
			`{"ground_upper_m2":85,"basement_m2":0,"range_w":0,"heat_w":0,"cool_w":0,"evse_w":0,"other_over_1500_w":[4000,4000]}`,
			"other_w", "6500"},
		{"equal legs keep their voltage", "open-neutral", `{"leg1_w":500,"leg2_w":500}`, "overvoltage_leg", "0"},
		{"a range within reach of a sink by the 2020 edition", "gfci-afci-coverage",
			`{"edition":2020,"outlets":[{"id":"r","room":"range_240","volts":240,"sink_in":60}]}`, "gfci_count", "1"},
		{"and out of reach", "gfci-afci-coverage", `{"edition":2020,"outlets":[{"id":"r","room":"range_240","volts":240,"sink_in":80}]}`,
			"gfci_count", "0"},
		{"72 in is within", "gfci-afci-coverage", `{"edition":2017,"outlets":[{"id":"r","room":"den","tub_in":72}]}`, "gfci_count", "1"},
		{"seven feet more need it", "afci-extension", `{"edition":2017,"room":"hallway","added_ft":7,"added_outlets":0}`,
			"afci_required", "true"},
		{"not in a garage", "afci-extension", `{"edition":2023,"room":"garage","added_ft":40,"added_outlets":3}`, "afci_required", "false"},
		{"under a ground-fault breaker nothing is bare", "gfci-downstream",
			`{"gfci_breaker":true,"devices":[{"id":"a","type":"plain","from":"panel"},{"id":"b","type":"gfci","from":"a",
				"reversed":true},{"id":"c","type":"plain","from":"b","side":"load"}]}`, "protected", "[a c]"},
		{"two in series: the second trips alone", "gfci-downstream",
			`{"devices":[{"id":"a","type":"gfci","from":"panel","side":"line"},{"id":"b","type":"gfci","from":"a","side":"load"},
				{"id":"c","type":"plain","from":"b","side":"load"}]}`, "dead_when_tripped", `{"a":["a","b","c"],"b":["b","c"]}`},
		{"no ground, its own device", "receptacle-replacement",
			`{"egc_present":false,"choice":"gfci","gfci_required":true,"afci_required":false,"tr_area":true,"tr":true,
				"connects_egc_from_gfci":true}`, "missing", "[remove EGC run on from GFCI without ground]"},
		{"a bootleg is never right", "receptacle-replacement",
			`{"egc_present":true,"choice":"bootleg","gfci_required":false,"afci_required":false,"tr_area":false,"tr":false}`, "accept",
			"false"},
		{"12 ft and a little are two", "receptacle-spacing", `{"wall_lines_ft":[12.1]}`, "wall_receptacles", "2"},
		{"beyond 264 mA the time is stated no further", "gfci-curve", `{"fault_ma":[1000]}`, "results",
			`[{"ma":1000,"max_s":0.02498,"must_trip":true}]`},
		{"6 mA must trip", "nuisance", `{"leakages":[{"ma":3,"n":2}]}`, "verdict", `"must_trip"`},
		{"nothing lit", "tester-pattern", `{"lamps":[0,0,0]}`, "matches", "[open_hot]"},
		{"without a sweep the bells suffice", "trench-bill",
			`{"trade_size":"1","trench_ft":25,"legs_ft":[25],"sweeps_90":0,"sweep_radius_in":0,"cover_in":18,"bedding_in":0,
				"trench_width_in":6,"location":"other_locations","utility_cover_in":0,
				"service_conductors":false}`, "couplings_with_bell_ends", "0"},
		{"the utility asks for more", "cover-verdict",
			`{"runs":[{"id":"a","location":"other_locations","method":"pvc_in","cover_in":20,"utility_in":30}]}`, "runs",
			`[{"id":"a","ok":false,"required_in":30}]`},
		{"a short run needs no fitting", "pvc-expansion",
			`{"length_ft":4,"t_min_f":20,"t_max_f":90,"t_install_f":50,"fitting_travel_in":4}`, "fittings", "0"},
		{"a slope is no plateau", "fall-of-potential",
			`{"current_probe_ft":80,"readings":[{"at_percent":52,"ohm":10},{"at_percent":62,"ohm":15},{"at_percent":72,"ohm":22}]}`,
			"single_rod_ok", "false"},
		{"everything out of turn", "sequence", `{"done":[4]}`, "violations", "[step 4 before 2 step 4 before 3]"},
		{"a closet with a door that binds", "working-space",
			`{"depth_in":30,"width_in":40,"equipment_width_in":14,"height_in":80,"equipment_top_in":72,"highest_handle_in":80,
				"place":"clothes_closet","door_opens_90":false}`, "faults", "[depth door handle place]"},
		{"a marked torque goes first", "torque", `{"lookups":[{"id":"a","size":"6","head":"slotted_wide","marked_lbf_in":20}]}`, "torques",
			`[{"basis":"marked","id":"a","lbf_in":20,"n_m":2.26}]`},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, _ := run(t, c.calc, c.in)
			said, err := json.Marshal(got[c.key])
			require.NoError(t, err)
			if strings.HasPrefix(c.want, "[") && !strings.HasPrefix(c.want, "[{") {
				assert.Equal(t, c.want, strings.NewReplacer(`"`, "", ",", " ").Replace(string(said)))
				return
			}
			assert.JSONEq(t, c.want, string(said))
		})
	}
}

// What is outside a table or a rule is refused by key and value.
func TestCalculationsRefuseBadInput(t *testing.T) {
	for _, c := range []struct{ calc, in, says string }{
		{"ampacity", `{"size":"7","material":"cu","insulation_c":90,"ambient_c":30,"ccc":3,"terminal_c":75,"next_size_up":true}`,
			`size: "7"`},
		{"ampacity", `{"size":"14","material":"al","insulation_c":90,"ambient_c":30,"ccc":3,"terminal_c":75,"next_size_up":true}`,
			"not made in aluminum"},
		{"ampacity", `{"size":"6","material":"cu","insulation_c":80,"ambient_c":30,"ccc":3,"terminal_c":75,"next_size_up":true}`,
			"insulation_c: 80"},
		{"ampacity", `{"size":"6","material":"cu","insulation_c":60,"ambient_c":58,"ccc":3,"terminal_c":60,"next_size_up":true}`,
			"ambient_c: 58"},
		{"ampacity", `{"size":"6","material":"cu","insulation_c":90,"ambient_c":30,"ccc":2.5,"terminal_c":75,"next_size_up":true}`,
			"ccc: 2.5"},
		{"ev-circuit", `{"continuous_a":9000,"material":"cu","insulation_c":90,"ambient_c":30,"ccc":2,"terminal_c":75}`,
			"continuous_a: 9000"},
		{"voltage-drop", `{"material":"cu","size":"6","current_a":48,"length_ft":-1,"volts":240,"limit_percent":3}`, "length_ft: -1"},
		{"service-sizing", `{"rating_a":600,"material":"cu","neutral_load_a":10}`, "rating_a: 600"},
		{"service-sizing", `{"rating_a":200,"material":"cu","neutral_load_a":10,"next_size_up":true}`, "calculated_load_a is missing"},
		{"egc-upsize", `{"ocpd_a":1200,"required":"6","installed":"4"}`, "ocpd_a: 1200"},
		{"conduit-fill", `{"type":"emt","conductors":[["thhn","6"]]}`, "insulation, size, count"},
		{"conduit-fill", `{"type":"emt","conductors":[["compact_xhhw","3",1]]}`,
			`"3" is not in the table of compact_xhhw; give one of ["8" "6" "4" "2"`},
		{"conduit-fill", `{"type":"emt","conductors":[["thhn","6",1]],"check_size":"5"}`, `check_size: "5"`},
		{"box-fill", `{"conductors":[["4",1]]}`, `conductors: "4"`},
		{"box-fill", `{"conductors":[["14",1.5]]}`, "size, count"},
		{"dwelling-standard", `{"edition":2014,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1}`, "edition: 2014"},
		{"dwelling-optional", `{"edition":2023,"area_ft2":1000,"small_appliance_circuits":2,"laundry_circuits":1,"ev_mode":"maybe"}`,
			`ev_mode: "maybe"`},
		{"range-demand", `{"ranges_kw":[9,9,9,9,9,9]}`, "6 ranges"},
		{"range-demand", `{"ranges_kw":[30]}`, "ranges_kw: 30"},
		{"leg-balance", `{"loads_120":{}}`, "loads_120: 0"},
		{"leg-balance", `{"loads_120":{"a":5},"as_wired":{"a":3}}`, "as_wired.a: 3"},
		{"gfci-afci-coverage", `{"edition":2023,"outlets":[{"id":"a","room":"moat"}]}`, `"moat"`},
		{"gfci-downstream", `{"devices":[{"id":"a","type":"plain","from":"b"},{"id":"b","type":"plain","from":"a"}]}`,
			"comes back to itself"},
		{"gfci-downstream", `{"devices":[{"id":"a","type":"plain","from":"nowhere"}]}`, `"nowhere"`},
		{"gfci-downstream", `{"devices":[{"id":"a","type":"plain","from":"panel"},{"id":"a","type":"plain","from":"panel"}]}`,
			"a name of its own"},
		{"receptacle-replacement",
			`{"egc_present":true,"choice":"any","gfci_required":false,"afci_required":false,"tr_area":false,"tr":false}`, `choice: "any"`},
		{"tester-pattern", `{"lamps":[1,2,0]}`, "lamps"},
		{"fall-of-potential", `{"current_probe_ft":80,"readings":[{"at_percent":62,"ohm":15}]}`, "52 % is missing"},
		{"sequence", `{"done":[99]}`, "done: 99"},
		{"pvc-expansion", `{"length_ft":40,"t_min_f":20,"t_max_f":90,"t_install_f":5,"fitting_travel_in":4}`, "t_install_f: 5"},
		{"torque", `{"lookups":[{"id":"a","size":"250","head":"slotted_narrow"}]}`,
			`lookups.size: "250" is not in the table for slotted_narrow; give one of ["14" "12"`},
		{"trench-bill", `{"trade_size":"9","trench_ft":25,"legs_ft":[25],"sweeps_90":0,"sweep_radius_in":0,"cover_in":18,
			"bedding_in":0,"trench_width_in":6,"location":"other_locations","utility_cover_in":0,
			"service_conductors":false}`, `trade_size: "9"`},
	} {
		_, _, err := calcByName(t, c.calc).Run([]byte(c.in))
		if assert.Error(t, err, "%s %s", c.calc, c.in) {
			assert.Contains(t, err.Error(), c.says, c.calc)
		}
	}
}

// One line of the working of every calculation, recomputed by hand from the inputs
// and the printed tables.
func TestTheWorkingOfEveryCalculationByHand(t *testing.T) {
	sampled := map[string]bool{}
	for _, c := range []struct {
		calc, in, symbol string
		value            float64
		source           string
	}{
		{"ampacity", `{"size":"8","material":"cu","insulation_c":90,"ambient_c":43,"ccc":5,"terminal_c":75,"next_size_up":true}`, "derated",
			55 * 0.87 * 0.8, "310.16"},
		{"ev-circuit", `{"continuous_a":40,"material":"cu","insulation_c":90,"ambient_c":30,"ccc":2,"terminal_c":75}`,
			"load", 50, "625.41"},
		{"voltage-drop", `{"material":"al","size":"2","current_a":70,"length_ft":90,"volts":240,"limit_percent":3}`, "drop",
			2 * 21.2 * 70 * 90 / 66360, "C84.1"},
		{"service-sizing", `{"rating_a":125,"material":"cu","neutral_load_a":60}`, "required", 0.83 * 125, "310.12"},
		{"service-derated", `{"rating_a":150,"material":"cu","insulation_c":90,"ambient_c":38,"ccc":3}`, "derated", 145 * 0.91, "310.16"},
		{"egc-upsize", `{"ocpd_a":60,"required":"6","installed":"4"}`, "needed", 10380 * 41740 / 26240.0, "250.122"},
		{"conduit-fill", `{"type":"emt","conductors":[["thhn","8",3],["thhn","10",1]]}`, "area", 3*0.0366 + 0.0211, "Table 5"},
		{"box-fill", `{"conductors":[["12",4]],"grounds":[["12",2]],"devices":["12"]}`, "device", 4.5, "314.16"},
		{"torque", `{"lookups":[{"id":"bar","size":"2","head":"hex_other"}]}`, "bar", 150, "Annex I"},
		{"dwelling-standard", `{"edition":2023,"area_ft2":2000,"small_appliance_circuits":2,"laundry_circuits":1}`,
			"lighting", 3000 + 0.35*(6000+4500-3000), "220"},
		{"dwelling-optional", `{"edition":2023,"area_ft2":2000,"small_appliance_circuits":2,"laundry_circuits":1,
			"appliances":[{"va":9000}]}`, "demand", 10000 + 0.4*9500, "220.82"},
		{"existing-220.83", `{"edition":2023,"area_ft2":1200,"small_appliance_circuits":2,"laundry_circuits":1,
			"appliances":[{"va":6000}],"heat_va":5000,"cool_va":3000,"new_hvac":true,
			"service_a":100}`, "total", 8000 + 0.4*(3600+4500+6000-8000) + 5000, "220.83"},
		{"existing-220.87", `{"peak_kva":12,"new_loads_va":[7200],"service_a":125,"valid_record":true}`, "total",
			1.25*12000 + 7200, "220.87"},
		{"range-demand", `{"ranges_kw":[13,17]}`, "demand", 11 * 1.15, "220.55"},
		{"ems-limit", `{"edition":2020,"other_load_va":20000,"evse_va":[7680,7680],"managed_limit_va":9600,"service_a":150,
			"min_current_a":6}`, "managed", 29600 / 240.0, "750.30"},
		{"canada-load", `{"ground_upper_m2":120,"basement_m2":80,"range_w":14000,"heat_w":9000,"cool_w":3000,"evse_w":0,
			"other_over_1500_w":[]}`, "range", 6000 + 0.4*2000, "8-200"},
		{"leg-balance", `{"loads_120":{"a":700,"b":500,"c":300}}`, "imbalance", 100, "220.61"},
		{"open-neutral", `{"leg1_w":300,"leg2_w":900}`, "leg 1", 180, "series"},
		{"gfci-afci-coverage", `{"edition":2023,"outlets":[{"id":"a","room":"garage"},{"id":"b","room":"attic"}]}`,
			"ground-fault", 1, "210.8"},
		{"afci-extension", `{"edition":2023,"room":"den","added_ft":9,"added_outlets":0}`, "added", 9, "210.12"},
		{"gfci-downstream", `{"devices":[{"id":"a","type":"gfci","from":"panel"},{"id":"b","type":"plain","from":"a","side":"load"}]}`,
			"protected", 2, "210.8"},
		{"receptacle-replacement",
			`{"egc_present":false,"choice":"grounding_plain","gfci_required":true,"afci_required":false,"tr_area":false,
				"tr":false}`, "missing", 2, "406.4"},
		{"receptacle-spacing", `{"wall_lines_ft":[30,8]}`, "walls", 4, "210.52"},
		{"gfci-curve", `{"fault_ma":[40]}`, "t", math.Pow(0.5, 1.43), "UL 943"},
		{"nuisance", `{"leakages":[{"ma":0.5,"n":3},{"ma":0.4}]}`, "leakage", 1.9, "UL 943"},
		{"tester-pattern", `{"lamps":[1,0,1]}`, "hot_neutral_reversed", 1, "circuit logic"},
		{"spd-lead", `{"lead_in":12,"surge_ka":5,"device_let_through_v":600}`, "average slope", 0.3048 * 5000 / 8, "230.67"},
		{"trench-bill", `{"trade_size":"2","trench_ft":60,"legs_ft":[60,5],"sweeps_90":2,"sweep_radius_in":24,"cover_in":24,
			"bedding_in":2,"trench_width_in":12,"location":"other_locations","utility_cover_in":0,
			"service_conductors":true}`, "depth", 24 + 2.375 + 2, "Table 4"},
		{"cover-verdict", `{"runs":[{"id":"a","location":"street_road_driveway_parking","method":"pvc_in","cover_in":24}]}`,
			"a", 24, "300.5"},
		{"pvc-expansion", `{"length_ft":50,"t_min_f":0,"t_max_f":100,"t_install_f":60,"fitting_travel_in":4}`, "change",
			3.38e-5 * 600 * 100, "352"},
		{"ground-rods", `{"length_ft":10,"diameter_in":0.625,"rho_ohm_m":50,"spacing_ft":10}`, "one rod",
			50 / (2 * math.Pi * 3.048) * (math.Log(4*3.048/(0.625*0.0254/2)) - 1), "250"},
		{"fall-of-potential", `{"current_probe_ft":120,"readings":[{"at_percent":52,"ohm":19},{"at_percent":62,"ohm":20},
			{"at_percent":72,"ohm":20.5}]}`, "spread", 5, ""},
		{"sequence", `{"done":[1,2,3]}`, "next", 4, "practice"},
		{"transfer", `{"sense_s":3,"crank_s":5,"warm_s":6,"switch_s":0.2,"loads_va":[9000],"generator_va":7500,
			"retransfer_delay_s":30,"cooldown_s":90}`, "to shed", 1500, "702"},
		{"voltage-range", `{"readings":[{"kind":"ln","v":121}]}`, "ln", 121, "C84.1"},
		{"working-space", `{"depth_in":40,"width_in":30,"equipment_width_in":34,"height_in":80,"equipment_top_in":70,
			"highest_handle_in":60,"place":"garage","door_opens_90":true}`, "width", 30, "110.26"},
		{"neutral-bond", `{"nodes":[{"id":"m","role":"meter"},{"id":"p","role":"panel"}],"neutral_current_a":20,"r_neutral_ohm":0.1,
			"r_ground_path_ohm":0.3}`, "I ground", 5, ""},
		{"separate-building", `{"wires":4,"existing_installation":false,"egc_in_supply":true,"continuous_metallic_paths":false,
			"ground_fault_protection_upstream":false,"single_branch_circuit_with_egc":false}`, "supply", 0, "250.32"},
	} {
		_, steps := run(t, c.calc, c.in)
		i := slices.IndexFunc(steps, func(s working.Step) bool { return s.Symbol == c.symbol })
		if assert.GreaterOrEqual(t, i, 0, "%s has no step %q: %v", c.calc, c.symbol, steps) {
			assert.InDelta(t, c.value, steps[i].Value, 1e-9*math.Max(1, c.value), "%s: %s", c.calc, c.symbol)
			assert.Contains(t, steps[i].Source, c.source, "%s: %s", c.calc, c.symbol)
		}
		sampled[c.calc] = true
	}
	for _, c := range (Practice{}).Calcs() {
		assert.True(t, sampled[c.Name], "no working of %s is sampled", c.Name)
	}
}

// Every calculation shows its working and names a source.
func TestEveryCalculationShowsItsWorking(t *testing.T) {
	for _, c := range casesOf(t) {
		_, steps, err := calcByName(t, c.Calc).Run(c.Inputs)
		require.NoError(t, err)
		assert.True(t, slices.ContainsFunc(steps, func(s working.Step) bool { return s.Source != "" }), "%s names no source", c.Calc)
		for _, s := range steps {
			assert.False(t, math.IsNaN(s.Value) || math.IsInf(s.Value, 0), "%s: %s", c.Calc, s.Symbol)
		}
	}
}

// A larger conductor carries no less, drops no more and needs no smaller electrode
// conductor; a hotter place carries no more; a longer run drops no less.
func TestConductorsAreMonotonic(t *testing.T) {
	for _, material := range []string{"cu", "al"} {
		var last, lastDrop float64 = 0, math.Inf(1)
		for _, size := range sizes {
			if math.IsNaN(tabulated(size, material, 75)) {
				continue
			}
			cool, err := Conditions{Material: material, InsulationC: 90, AmbientC: 30, CCC: 3, TerminalC: 75, School: "NEC"}.Of(size, true)
			require.NoError(t, err)
			hot, err := Conditions{Material: material, InsulationC: 90, AmbientC: 52, CCC: 9, TerminalC: 75, School: "NEC"}.Of(size, true)
			require.NoError(t, err)
			drop := dropV(material, size, 60, 100, 1)
			assert.Greater(t, cool.A, last, size)
			assert.Less(t, drop, lastDrop, size)
			assert.Less(t, hot.A, cool.A, size)
			assert.Greater(t, dropV(material, size, 60, 101, 1), drop)
			last, lastDrop = cool.A, drop
		}
	}
	previous := ""
	for _, rating := range []float64{15, 20, 60, 100, 200, 300, 400, 500, 600, 800} {
		size := GroundSize("cu", rating)
		if previous != "" {
			assert.Equal(t, size, larger(size, previous), "%v A", rating)
		}
		previous = size
	}
}

// Demand never falls when a load is added, but at the step of the fourth fixed
// appliance, which the working says.
func TestDemandFallsOnlyAtTheFourthFixedAppliance(t *testing.T) {
	demand := func(n int) (float64, string) {
		fixed := make([]appliance, n)
		for i := range fixed {
			fixed[i] = appliance{VA: 1200, Volts: 120}
		}
		raw, err := json.Marshal(map[string]any{"edition": 2023, "area_ft2": 1800, "small_appliance_circuits": 2,
			"laundry_circuits": 1, "fixed_appliances": fixed})
		require.NoError(t, err)
		out, steps := run(t, "dwelling-standard", string(raw))
		for _, s := range steps {
			if s.Symbol == "fixed appliances" {
				return out["total_va"].(float64), s.With
			}
		}
		return 0, ""
	}
	for n := 1; n < 9; n++ {
		before, _ := demand(n - 1)
		after, says := demand(n)
		if n == 4 {
			assert.LessOrEqual(t, after, before)
			assert.Contains(t, says, "may lower")
			continue
		}
		assert.Greater(t, after, before, "%d", n)
	}
}

// The best split of the legs is no worse than any wiring of them.
func FuzzLegs(f *testing.F) {
	f.Add(1500.0, 1200.0, 700.0, 900.0, uint8(5))
	f.Fuzz(func(t *testing.T, a, b, c, d float64, wired uint8) {
		loads, legs := map[string]float64{}, map[string]int{}
		for i, v := range []float64{a, b, c, d} {
			name := string(rune('a' + i))
			loads[name], legs[name] = v, 1+int(wired>>i&1)
		}
		raw, err := json.Marshal(map[string]any{"loads_120": loads, "as_wired": legs})
		if err != nil {
			return // no JSON number
		}
		out, _, err := calcByName(t, "leg-balance").Run(raw)
		if err != nil {
			return
		}
		assert.LessOrEqual(t, out["best_neutral_a"].(float64), out["as_wired_neutral_a"].(float64)*(1+1e-3)+1e-9)
	})
}

// Whatever is given to a calculation: an answer, or an error; never a panic, never
// a figure that is no number.
func FuzzCalculations(f *testing.F) {
	for _, c := range casesOf(f) {
		f.Add(c.Calc, string(c.Inputs))
	}
	f.Fuzz(func(t *testing.T, name, in string) {
		for _, c := range (Practice{}).Calcs() {
			if c.Name != name {
				continue
			}
			out, steps, err := c.Run([]byte(in))
			if err != nil {
				assert.NotEmpty(t, err.Error())
				return
			}
			_, err = json.Marshal(out)
			assert.NoError(t, err)
			_, err = json.Marshal(steps)
			assert.NoError(t, err)
		}
	})
}
