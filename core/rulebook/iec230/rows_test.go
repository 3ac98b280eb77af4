package iec230

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
)

// typed are the tables whose every row is made into a thing of its own when the program
// starts: a use, a cable, a kind of point, a word.
var typed = []string{"calcs", "calc_keys", "eras", "reach", "circuit_uses", "cable_types", "cable_makes", "methods", "local_rules",
	"options", "option_choices", "circuit_plans", "point_kits",
	"enclosures", "isolation_routes", "soil_resistivity", "colours",
	"survey_asks", "survey_points", "survey_readings", "finding_classes", "fabric", "typical", "rooms", "findings",
	"vocabulary", "questions", "estimates", "kinds", "floors", "switching", "control_parts", "elv_cables", "heights"}

// everyHouse are houses that together meet every rule.
func everyHouse() (out []*install.Job) {
	for _, kind := range (Practice{}).Terms().RCDTypes {
		j := clampedHouse()
		j.Board.Groups[0].RCDType = kind
		j.Records = []install.Record{clamp("c1", clampDirect, 4, 8)}
		out = append(out, j)
	}
	at := 0
	for seed := range uint64(40) {
		j := anyHouse(seed, 2*len(templates)/3)
		for _, template := range templates {
			c := Practice{}.Defaults(template)
			c.ID, c.Name = "t"+template, template
			c.Protection.Way = 0
			sizes := terms.Sizes[c.Route.CableType]
			c.Route.LineMM2 = sizes[(at+int(seed))%len(sizes)]
			s := &c.Route.Segments[0]
			s.AmbientC, s.Grouped = float64(5+(5*at+int(seed))%55), 1+(at+int(seed))%6
			s.InsulationMM = []float64{0, 50, 100, 200, 400, 900}[at%6]
			s.SoilKmW = []float64{0, 0.5, 0.7, 1, 1.5, 2, 2.5, 3}[at%8]
			c.Route.Terminals90 = at%2 == 0
			family := circuitFamilies[at%len(circuitFamilies)]
			c.Protection.Family = family
			c.Protection.RatingA = Ratings(family)[(at/2+int(seed))%len(Ratings(family))]
			c.Protection.Curve = terms.Curves[at%len(terms.Curves)]
			c.Serves.Kind = terms.LoadKinds[at%len(terms.LoadKinds)]
			c.Serves.Recessed = install.Recess{Fitted: true, Fire: true, Covered: true, Tested: no(), Coverable: no()}
			c.Route.Aluminium = at%9 == 0
			c.PEN = install.PEN{Option: install.BrokenPEN(terms.PENOptions[at%len(terms.PENOptions)]), RaOhm: num(20),
				SeparationM: num(3), OpensAll: yes()}
			if cableKinds[c.Route.CableType].armoured {
				c.Route.CPC = "armour"
			}
			if template == "distribution" {
				c.Protection.RCDType, c.Protection.IdnMA = "A", 100
			}
			j.Circuits = append(j.Circuits, c)
			at++
		}
		j.Site.Premises = install.Premises[int(seed)%len(install.Premises)]
		j.Edition = editionTable.Text[int(seed)%len(editionTable.Text)][0]
		j.Supply.EarthLaid = terms.EarthLaid[int(seed)%len(terms.EarthLaid)]
		j.Supply.TailsMM2 = num([]float64{16, 25, 35}[seed%3])
		j.Supply.NeutralMM2 = num([]float64{25, 50, 95, 150, 185}[seed%5])
		j.Schools.Set("tables", install.Chose(nationalTables()[seed%4]))
		j.Schools.Set("penSplit", install.Chose(splitAtBoard))
		j.Chain.Enclosures = []install.Enclosure{{ID: "b", Kind: "board", Name: "B", Owner: install.OwnerCustomer,
			Feed: install.Conductor{Material: []install.Metal{"cu", "al"}[seed%2], Size: "16"}}}
		j.Surge = install.SurgePlan{Environment: install.Environments[seed%3], Flashes: num(1), OverheadLV: 0.2,
			CableLV: 0.1, OverheadHV: 0.2, CableHV: 0.2, UnknownRest: true,
			Devices: []install.SPD{{Name: "A", Place: "origin", Type: install.SPDTypes[seed%4], UpKV: 1.2, UcV: 275,
				LineMM2: 4, EarthMM2: 6}, {Name: "B", Place: "load", Type: []string{"2", "3"}[seed%2], FromM: 1}}}
		j.Schools.Set("surgeNeed", install.Chose([]string{"consequence", "risk-level"}[seed%2]))
		near, far := 300.0, 3000.0
		j.Circuits[0].From, j.Circuits[0].Protection.RCDType = "tdistribution", "A"
		for _, kind := range bathPoints.Text {
			j.Rooms = append(j.Rooms, install.Room{ID: "r" + kind[0], Name: kind[0], Kind: "bathroom",
				Bath: install.BathRoom{Fitted: install.Baths[seed%3], Jets: []*bool{yes(), nil}[seed%2],
					Bonded: []*bool{yes(), nil}[seed%2], BondMM2: num(2.5)},
				Points: []install.RoomPoint{{ID: "p", Kind: kind[0], HeightMM: 1000, BathMM: &near},
					{ID: "q", Kind: kind[0], HeightMM: 1000, BathMM: &far}, {ID: "z", Kind: kind[0], Inside: true}}})
		}
		out = append(out, j)
	}
	return out
}

// Every row of every table is read by a rule, or it is not there.
func TestEveryRowIsReadByARule(t *testing.T) {
	for _, x := range tables.All() {
		x.Watch()
	}
	rulebook.RunCases(casesOf(t), byName, &strings.Builder{})
	for _, j := range everyHouse() {
		r := Practice{}.Judge(j)
		Practice{}.Chain(j)
		split := *j
		split.Supply.Earthing = "TN-C-S"
		Practice{}.Chain(&split)
		Practice{}.Electrodes(j)
		Practice{}.Kits(j, nil)
		Practice{}.Bars(j, &j.Board)
		Practice{}.InspectionYears(j.Site.Premises)
		for _, x := range (Practice{}).Tests(j, &r) {
			v := 0.5
			x.Judge(install.Record{Value: &v})
		}
	}
	readEveryCalculation()
	for r := range boxes.Text {
		for cables := range 9 {
			k := Practice{}.Defaults("sockets")
			Practice{}.BoxAt(&install.Job{}, &k, &install.Box{Cables: cables}, boxes.Row(r).Usual)
		}
	}
	for _, mm2 := range terms.Sizes["singles-70"] {
		k := singlesOf(mm2, 12)
		k.Serves.Boxes = []install.Box{{ID: "b", Device: install.PlainOutlet}}
		Practice{}.Parts(&install.Job{}, &k)
	}
	for _, x := range tables.All() {
		if slices.Contains(typed, x.Name) {
			continue
		}
		for _, r := range x.Unread() {
			row := strings.Join(x.Text[r], ",")
			if slices.ContainsFunc(atStart[x.Name], func(begins string) bool { return strings.HasPrefix(row, begins) }) {
				continue
			}
			assert.Fail(t, "no rule reads this row", "%s: %s", x.Name, row)
		}
	}
}

// atStart are the rows that a rule reads once while the program starts, by what they
// begin with: the usual figures of local rules and what cables are made of.
var atStart = map[string][]string{
	"schools":             {"cmin"},
	"ev_notify":           {"max_demand_notify_limit", "single_device_notify_limit"},
	"ring_rules":          {"r1_rn_agree_within", "r2_over_r1_2p5_1p5"},
	"test_parameters":     {"zs_rule_of_thumb"},
	"tt_limits":           {"advice_max_ohm"},
	"bath_zones":          {"open_shower_reach"},
	"spd_crl":             {"threshold"},
	"ev_rules":            {"touch_voltage_limit"},
	"voltage_drop_limits": {"bs7671"},
	"k_values":            {"al,cable core", "cu,cable core"},
}

// readEveryCalculation runs what the bench offers over the whole of its tables.
func readEveryCalculation() {
	_, _, _ = RCDLimits("rdc_dd", 1)
	for _, tables := range nationalTables() {
		outdoorOf(tables)
	}
	for _, school := range []string{"bs7671", "iec60364", "sans10142", "is732"} {
		for c := 10.0; c <= 80; c += 5 {
			for _, insulation := range []float64{70, 90} {
				_, _ = AmbientFactor(school, insulation, c, false)
				_, _ = AmbientFactor(school, insulation, c, true)
			}
		}
		_, _, _ = supplyVoltage(voltageIn{School: school, U: 230})
	}
	for n := 1; n <= 20; n++ {
		_, _ = GroupingFactor("bunched", "", n)
		_, _ = groupFactor(n)
		for r := range groupingGround.Text {
			_, _ = GroupingFactor(groupingGround.Text[r][0], groupingGround.Text[r][1], n)
		}
	}
	for od := 5.0; od <= 40; od += 5 {
		for _, armoured := range []bool{false, true} {
			BendFactor(armoured, od)
			_, _, _ = ClipSpacing(armoured, od)
		}
	}
	for _, mm2 := range standardSizes("cu") {
		CPCTable(mm2)
		for name := range capacityTables {
			for _, phases := range []int{1, 3} {
				for _, method := range []string{"AB", "C"} {
					_, _, _ = MillivoltsPerAmpereMetre(name, mm2, phases, method)
				}
			}
		}
	}
	for name, t := range capacityTables {
		for _, column := range flatColumns(t) {
			for a := 5.0; a < 500; a += 3 {
				in := a
				_, _, _ = cableSize(cableSizeIn{Phases: 1, IbA: &in, InA: &in, Table: name, Column: column, AmbientC: 30,
					LengthM: 1, LimitPc: 50})
			}
		}
	}
	for r := range fuseZs.Text {
		_, _, _ = deviceZsMax(&install.Protection{Family: fuseZs.Text[r][0], RatingA: fuseZs.Num(r, "rating_a")},
			fuseZs.Num(r, "time_s"), CminDefault)
	}
	for _, d := range demandRows {
		_, _, _, _ = Diversified(d.category, []float64{5, 5, 5}, true)
	}
	_, _, _ = pfc(pfcIn{Phases: 3, Zln: 0.2, Zle: 0.2, Icn: 6})
	InsulationLimit(24, true, false)
	InsulationLimit(690, false, false)
	InsulationLimit(230, false, true)
	for _, device := range []string{"general", "s_type", "bs4293_general"} {
		RCDLimits(device, 1)
		RCDLimits(device, 5)
	}
}
