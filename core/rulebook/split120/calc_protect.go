package split120

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"arvelt/core/network"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

var (
	gfciPlaces      = table.LoadOf[gfciPlacesRow](dataFiles, "gfci_locations")
	roomPlaces      = table.LoadOf[roomPlacesRow](dataFiles, "room_places")
	roomsMatrix     = table.LoadOf[roomsMatrixRow](dataFiles, "rooms_matrix")
	afciPlaces      = table.LoadOf[afciPlacesRow](dataFiles, "afci_locations")
	protectionNotes = table.Load(dataFiles, "protection_notes")
	receptacleRules = table.Load(dataFiles, "receptacle_rules")
	gfciTrip        = table.Load(dataFiles, "gfci_trip")
	testerPatterns  = table.LoadOf[testerPatternsRow](dataFiles, "tester_patterns")
	spdRules        = table.Load(dataFiles, "spd_rules")
)

// reachIn is the distance in inches of a sink bowl or tub edge within which a
// receptacle has ground-fault protection whatever the room; itself included. Canada has
// a distance of its own.
const reachIn = 72.0

// Answer is what a rule says of a place: that it asks for something, that it does not,
// that it does under a condition, or nothing, where the table does not know the place.
type Answer string

const (
	Yes         Answer = "y"
	No          Answer = "n"
	OnCondition Answer = "c"
	Open        Answer = ""
)

func answer(yes bool) Answer {
	if yes {
		return Yes
	}
	return No
}

// cecColumn is the column of Canada among those of the editions.
const cecColumn = "cec"

type outlet struct {
	ID        string   `json:"id"`
	Room      string   `json:"room"`
	Volts     float64  `json:"volts,omitempty" unit:"V"`
	SinkIn    *float64 `json:"sink_in,omitempty" unit:"in" doc:"to the edge of a sink bowl"`
	TubIn     *float64 `json:"tub_in,omitempty" unit:"in" doc:"to the edge of a tub or shower"`
	HeightIn  float64  `json:"height_in,omitempty" unit:"in"`
	RatingA   float64  `json:"rating_a,omitempty" unit:"A" doc:"of the receptacle; decides shutters at 250 V"`
	Dedicated bool     `json:"dedicated_appliance,omitempty" doc:"for an appliance that is not easily moved"`
}

type coverageIn struct {
	Edition int      `json:"edition"`
	Outlets []outlet `json:"outlets"`
}

// Protection is what a receptacle needs. Condition says when ground-fault protection is
// needed where that depends.
type Protection struct {
	GFCI, AFCI, Tamper, Weather Answer
	Condition                   string
}

// protectionOf is what a receptacle needs by its place, in the column of an edition or
// of Canada (NEC 210.8, 210.12, 406.9, 406.12; CEC 26-650 on). Places of 240 V are those
// of the ground-fault table.
func protectionOf(column string, o outlet) (Protection, error) {
	room, place := roomsMatrix.Find(func(it *roomsMatrixRow) bool { return it.Room == o.Room }),
		gfciPlaces.Find(func(it *gfciPlacesRow) bool { return it.ID == o.Room })
	if room < 0 && place < 0 {
		return Protection{}, fmt.Errorf("outlets.room: %q is not in the table; give a room such as kitchen_counter, bedroom or range_240",
			o.Room)
	}
	two := o.Volts == lineV
	p := Protection{AFCI: No}
	switch {
	case two && column == cecColumn: // the rule speaks of 5-15 and 5-20 receptacles
		p.GFCI = No
	case two && room < 0:
		p.GFCI = Answer(gfciPlaces.Str(place, "gfci_"+column))
	case two: // the 2017 edition speaks of 125 V receptacles in rooms
		p.GFCI = answer(column != column2017 && roomsMatrix.Str(room, "gfci_"+column) == string(Yes))
	case room >= 0:
		p.GFCI = Answer(roomsMatrix.Str(room, "gfci_"+column))
	default:
		p.GFCI = Answer(gfciPlaces.Str(place, "gfci_"+column))
	}
	if p.GFCI == OnCondition {
		p.Condition = lower(gfciPlaces.Row(place).Remark)
	}
	if near(column, o) && !(two && (column == column2017 || column == cecColumn)) {
		p.GFCI, p.Condition = Yes, ""
	}
	if !two {
		p.AFCI = arcNeed(column, room, place)
	}
	p.Tamper, p.Weather = No, No
	switch {
	case room >= 0:
		p.Tamper, p.Weather = Answer(roomsMatrix.Row(room).Tr), Answer(roomsMatrix.Row(room).Wr)
	case place >= 0:
		p.Tamper, p.Weather = Answer(gfciPlaces.Row(place).Tr), Answer(gfciPlaces.Row(place).Wr)
	}
	// 250 V receptacles up to 20 A take shutters like those of 125 V.
	if two && (o.RatingA == 0 || o.RatingA > shutteredUpToA) {
		p.Tamper = No
	} else if two && p.Tamper == Open {
		p.Tamper = Yes
	}
	if o.Dedicated || o.HeightIn > rule(receptacleRules, "SP-HIGH")*12 {
		p.Tamper = No
	}
	return p, nil
}

// shutteredUpToA is the largest receptacle in amperes that takes shutters (406.12).
const shutteredUpToA = 20.0

// near reports whether a receptacle stands so close to a sink or tub that the room does
// not matter.
func near(column string, o outlet) bool {
	reach := reachIn
	if column == cecColumn {
		reach = rule(receptacleRules, "CA-GFCI") * 1000 / inchMM
	}
	return o.SinkIn != nil && working.AtMost(*o.SinkIn, reach) || o.TubIn != nil && working.AtMost(*o.TubIn, reach)
}

// arcNeed is what the arc-fault table says of a place at 120 V: by the room itself, or
// by the area that the place lies in, where that is one.
func arcNeed(column string, room, place int) Answer {
	if room >= 0 {
		return Answer(roomsMatrix.Str(room, "afci_"+column))
	}
	if area := gfciPlaces.Row(place).Area; area != "" {
		return Answer(afciPlaces.Str(afciPlaces.Find(func(it *afciPlacesRow) bool { return it.ID == area }), "afci_"+column))
	}
	return Open
}

// wiredNeed is what the rules ask of something that is wired in at a place: those of
// 210.8(C) to (F) and 422.5, as the rooms of 210.8(A) speak of receptacles. lighting
// says that it feeds luminaires, ratingA its circuit.
func wiredNeed(column string, place string, lighting bool, ratingA float64) (need Answer, condition string) {
	r := gfciPlaces.Find(func(it *gfciPlacesRow) bool { return it.ID == place })
	if r < 0 {
		if roomsMatrix.Find(func(it *roomsMatrixRow) bool { return it.Room == place }) >= 0 {
			return No, ""
		}
		return Open, ""
	}
	need = Answer(gfciPlaces.Str(r, "wired_"+column))
	if gfciPlaces.Row(r).WiredFor == wiredForLighting && !lighting {
		return No, ""
	}
	if most := "wired_max_" + column; gfciPlaces.Has(most) && ratingA > gfciPlaces.Num(r, most) {
		return No, ""
	}
	if need == OnCondition {
		condition = lower(gfciPlaces.Row(r).Remark)
	}
	return need, condition
}

type coverageOut struct {
	Outlets []outletCover `json:"outlets"`
	GFCI    int           `json:"gfci_count"`
	AFCI    int           `json:"afci_count"`
}

// outletCover is what an outlet needs; null where it depends on what the table does not know.
type outletCover struct {
	ID      string `json:"id"`
	GFCI    *bool  `json:"gfci"`
	AFCI    *bool  `json:"afci"`
	Tamper  *bool  `json:"tr"`
	Weather *bool  `json:"wr"`
}

// known is a yes or a no, else nothing.
func (a Answer) known() *bool {
	if a != Yes && a != No {
		return nil
	}
	yes := a == Yes
	return &yes
}

func calcCoverage(in coverageIn) (coverageOut, []working.Step, error) {
	if err := editionOK(in.Edition); err != nil {
		return coverageOut{}, nil, err
	}
	w := &rulebook.Worked{}
	out := coverageOut{Outlets: []outletCover{}}
	for _, o := range in.Outlets {
		p, err := protectionOf(text(in.Edition), o)
		if err != nil {
			return out, nil, err
		}
		if p.GFCI == Yes {
			out.GFCI++
		}
		if p.AFCI == Yes {
			out.AFCI++
		}
		out.Outlets = append(out.Outlets, outletCover{ID: o.ID, GFCI: p.GFCI.known(), AFCI: p.AFCI.known(), Tamper: p.Tamper.known(),
			Weather: p.Weather.known()})
	}
	w.Add("ground-fault", "by room, or within 6 ft of a sink or tub", "", float64(out.GFCI), "", gfciPlaces.Source.Ref)
	w.Add("arc-fault", "by room", "", float64(out.AFCI), "", afciPlaces.Source.Ref)
	return out, w.Steps, nil
}

type extensionIn struct {
	Edition int     `json:"edition"`
	Room    string  `json:"room"`
	AddedFt float64 `json:"added_ft" unit:"ft" range:"0 or more"`
	Outlets float64 `json:"added_outlets" range:"0 or more"`
}

// extensionOut is what afci-extension answers.
type extensionOut struct {
	AfciRequired bool `json:"afci_required"`
}

// calcExtension says whether a circuit that is lengthened needs arc-fault
// protection (NEC 210.12): not with at most 6 ft and nothing added.
func calcExtension(in extensionIn) (out extensionOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(editionOK(in.Edition), rulebook.ZeroOrMore("added_ft", in.AddedFt, "ft"),
		rulebook.ZeroOrMore("added_outlets", in.Outlets, "")); err != nil {
		return out, nil, err
	}
	column := text("afci_", in.Edition)
	named := false
	if r := roomsMatrix.Find(func(it *roomsMatrixRow) bool { return it.Room == in.Room }); r >= 0 {
		named = roomsMatrix.Str(r, column) == yesMark
	} else if r := afciPlaces.Find(func(it *afciPlacesRow) bool { return it.ID == in.Room }); r >= 0 {
		named = afciPlaces.Str(r, column) == yesMark
	} else {
		return out, nil, fmt.Errorf("room: %q is not in the table; give a room such as bedroom or garage", in.Room)
	}
	w := &rulebook.Worked{}
	w.Add("added", "more than 6 ft, or an outlet", text(in.Outlets, " outlets"), in.AddedFt, "ft", "NEC 210.12")
	return extensionOut{AfciRequired: named && (in.AddedFt > 6 || in.Outlets > 0)}, w.Steps, nil
}

type stringDevice struct {
	ID       string `json:"id"`
	Type     string `json:"type" doc:"gfci, plain"`
	From     string `json:"from" doc:"panel, or the device whose terminals feed it"`
	Side     string `json:"side,omitempty" doc:"line or load terminals of that device"`
	Reversed bool   `json:"reversed,omitempty" doc:"its feed is landed on its load terminals"`
}

type stringIn struct {
	Devices []stringDevice `json:"devices"`
	Breaker bool           `json:"gfci_breaker,omitempty"`
}

// stringOut is what gfci-downstream answers: devices by name, and by device what it opens.
type stringOut struct {
	Protected   []string            `json:"protected"`
	Unprotected []string            `json:"unprotected"`
	Dead        []string            `json:"dead_as_wired"`
	Trips       map[string][]string `json:"dead_when_tripped"`
}

// calcString follows a string of receptacles. A device of the present generation
// with feed on its load terminals locks out: its face and line terminals are dead,
// and its load terminals are only a splice.
func calcString(in stringIn) (out stringOut, steps []working.Step, err error) {
	byID := map[string]*stringDevice{}
	for i := range in.Devices {
		d := &in.Devices[i]
		if d.ID == "" || d.ID == fromPanel || byID[d.ID] != nil {
			return out, nil, fmt.Errorf("devices.id: %q is not accepted; give each device a name of its own", d.ID)
		}
		if err := rulebook.FirstError(rulebook.OneOf("devices.type", d.Type, "gfci", "plain"),
			rulebook.OneOf("devices.side", d.Side, "", "line", "load")); err != nil {
			return out, nil, err
		}
		byID[d.ID] = d
	}
	for i := range in.Devices {
		at := &in.Devices[i]
		for steps := 0; at.From != fromPanel; steps++ {
			next := byID[at.From]
			if next == nil {
				return out, nil, fmt.Errorf("devices.from: %q is not accepted; give panel or one of the devices", at.From)
			}
			if steps > len(in.Devices) {
				return out, nil, fmt.Errorf("devices.from: %q is not accepted; the string comes back to itself", at.From)
			}
			at = next
		}
	}
	net := stringNet(in.Devices)
	reach, protects := net.Reach(network.State{}), net.Protection(network.State{})
	covered, bare, dead := []string{}, []string{}, []string{}
	opens := map[string][]string{}
	for i := range in.Devices {
		d := &in.Devices[i]
		slots := net.Node(d.ID+face, network.L1)
		by := protects.By(slots)
		switch {
		case !reach.Live(slots):
			dead = append(dead, d.ID)
		case len(by) > 0 || in.Breaker:
			covered = append(covered, d.ID)
		default:
			bare = append(bare, d.ID)
		}
		for _, g := range by {
			opens[g] = append(opens[g], d.ID)
		}
	}
	for g, ids := range opens {
		opens[g] = rulebook.Sorted(ids)
	}
	w := &rulebook.Worked{}
	w.Add("protected", "what hangs on load terminals, and each working device itself", strings.Join(covered, ", "),
		float64(len(covered)), "", "NEC 210.8; "+protectionNotes.Source.Ref)
	return stringOut{rulebook.Sorted(covered), rulebook.Sorted(bare), rulebook.Sorted(dead), opens}, w.Steps, nil
}

// What a device has: the terminals marked so, and its slots.
const (
	line = "/line"
	load = "/load"
	face = "/face"
)

// stringNet is a string of receptacles as a network: a plain one joins its terminals and its slots, a ground-fault one opens its load
// terminals and its slots, and passes nothing back.
func stringNet(devices []stringDevice) *network.Net {
	net := &network.Net{}
	panel := net.Node(fromPanel, network.L1)
	net.Source(fromPanel, network.Drive{Line: panel, Return: net.Node(fromPanel, network.N), V: 120, Behind: network.Unknown})
	at := func(id, terminals string) network.Node { return net.Node(id+terminals, network.L1) }
	for i := range devices {
		d := &devices[i]
		if d.Type == gfciType {
			net.Device(d.ID, network.Pole{From: at(d.ID, line), To: at(d.ID, load), OneWay: true},
				network.Pole{From: at(d.ID, line), To: at(d.ID, face), OneWay: true})
		} else {
			net.Link(at(d.ID, line), at(d.ID, load))
			net.Link(at(d.ID, line), at(d.ID, face))
		}
		from, to := panel, at(d.ID, line)
		if d.From != fromPanel {
			from = at(d.From, line)
			if d.Side == loadTerminals {
				from = at(d.From, load)
			}
		}
		if d.Reversed {
			to = at(d.ID, load)
		}
		net.Conductor(from, to, network.Unknown)
	}
	return net
}

type replacementIn struct {
	Ground       bool   `json:"egc_present" doc:"a grounding means is in the box"`
	Choice       string `json:"choice" doc:"nongrounding, gfci, grounding_via_gfci, grounding_plain, bootleg"`
	Upstream     bool   `json:"upstream_gfci,omitempty"`
	NeedsGFCI    bool   `json:"gfci_required"`
	NeedsAFCI    bool   `json:"afci_required"`
	AFCI         bool   `json:"afci_provided,omitempty"`
	TamperArea   bool   `json:"tr_area"`
	Tamper       bool   `json:"tr"`
	Wet          bool   `json:"wet_or_damp,omitempty"`
	Weather      bool   `json:"wr,omitempty"`
	GroundOnward bool   `json:"connects_egc_from_gfci,omitempty" doc:"a grounding conductor runs on from it"`
}

// replacementOut is what receptacle-replacement answers.
type replacementOut struct {
	Accept  bool     `json:"accept"`
	Labels  []string `json:"labels"`
	Missing []string `json:"missing"`
}

// calcReplacement judges the replacement of a receptacle (NEC 406.4(D)).
func calcReplacement(in replacementIn) (out replacementOut, steps []working.Step, err error) {
	if err := rulebook.OneOf("choice", in.Choice, "nongrounding", "gfci", "grounding_via_gfci", "grounding_plain", "bootleg"); err != nil {
		return out, nil, err
	}
	missing, labels := []string{}, []string{}
	need := func(lacks bool, what string) {
		if lacks && !slices.Contains(missing, what) {
			missing = append(missing, what)
		}
	}
	const means = "grounding means or GFCI with labels"
	switch in.Choice {
	case choiceTwoSlot:
		need(in.Ground, "grounding type receptacle")
	case gfciType:
		if !in.Ground {
			labels = append(labels, "No Equipment Ground")
			need(in.GroundOnward, "remove EGC run on from GFCI without ground")
		}
	case choiceBehindGFCI:
		if !in.Ground {
			labels = append(labels, "GFCI Protected", "No Equipment Ground")
			need(in.GroundOnward, "remove EGC run on from GFCI without ground")
		}
		need(!in.Upstream, "GFCI protection")
	case choiceGrounding:
		need(!in.Ground, means)
	case choiceBootleg:
		need(true, means)
	}
	need(in.NeedsGFCI && in.Choice != gfciType && !in.Upstream, "GFCI protection")
	need(in.NeedsAFCI && !in.AFCI, "AFCI protection")
	need(in.TamperArea && !in.Tamper && in.Choice != choiceTwoSlot, "tamper resistance")
	need(in.Wet && !in.Weather, "weather resistance")
	w := &rulebook.Worked{}
	w.Add("missing", "406.4(D)(1) to (6)", strings.Join(missing, ", "), float64(len(missing)), "", receptacleRules.Source.Ref)
	return replacementOut{Accept: len(missing) == 0, Labels: rulebook.Sorted(labels), Missing: rulebook.Sorted(missing)}, w.Steps, nil
}

type spacingIn struct {
	Walls    []float64 `json:"wall_lines_ft" unit:"ft" doc:"each unbroken line"`
	Counters []float64 `json:"counter_ft,omitempty" unit:"ft" doc:"each separate space"`
	School   string    `json:"school,omitempty" doc:"NEC, CEC"`
}

// reaches are the least widths of walls and counters that count, and how far any point of
// them may lie from a receptacle, ft.
func reaches(code Code) (wallMin, wall, counterMin, counter float64) {
	at := func(id string) float64 { return rule(receptacleRules, id) }
	if code == CEC {
		mm := func(id string) float64 { return at(id) / 1000 / footM }
		return mm("CA-WALLMIN"), at("CA-WALL") / footM, mm("CA-CTMIN"), mm("CA-COUNTER")
	}
	return at("SP-MIN"), at("SP-WALL"), at("CT-MIN") / 12, at("CT-POINT") / 12
}

// spacingOut is what receptacle-spacing answers.
type spacingOut struct {
	WallReceptacles    float64 `json:"wall_receptacles"`
	CounterReceptacles float64 `json:"counter_receptacles"`
}

// calcSpacing counts the receptacles of wall lines and counters (NEC 210.52): no
// point farther than 6 ft along a wall of 2 ft or more, 24 in along a counter of
// 12 in or more.
func calcSpacing(in spacingIn) (out spacingOut, steps []working.Step, err error) {
	count := func(key string, lines []float64, least, reach float64) (n float64, err error) {
		for _, l := range lines {
			if err := rulebook.ZeroOrMore(key, l, "ft"); err != nil {
				return 0, err
			}
			if working.AtMost(least, l) {
				n += math.Ceil(l/(2*reach) - 1e-9)
			}
		}
		return n, nil
	}
	if err := rulebook.OneOf("school", in.School, "", "NEC", "CEC"); err != nil {
		return out, nil, err
	}
	code := Code(cmp.Or(in.School, string(NEC)))
	wallMin, wall, counterMin, counter := reaches(code)
	walls, err1 := count("wall_lines_ft", in.Walls, wallMin, wall)
	counters, err2 := count("counter_ft", in.Counters, counterMin, counter)
	if err := rulebook.FirstError(err1, err2); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	w.Add("walls", text("one for each ", 2*wall, " ft of a line or part, from ", wallMin, " ft"), fmt.Sprint(in.Walls),
		walls, "", clauseSpacing.ref(code))
	w.Add("counters", text("one for each ", 2*counter, " ft of a space or part, from ", counterMin, " ft"),
		fmt.Sprint(in.Counters), counters, "", clauseSpacing.ref(code))
	return spacingOut{WallReceptacles: walls, CounterReceptacles: counters}, w.Steps, nil
}

type curveIn struct {
	Faults []float64 `json:"fault_ma" unit:"mA"`
}

// gfciMaxS is the longest time in seconds in which a class A device opens at a
// current in mA from 6: (20/I)^1.43, stated up to 264 mA.
func gfciMaxS(ma float64) float64 {
	return math.Pow(gfciCurveOver.V()/min(ma, gfciCurveTo.V()), gfciCurvePower.V())
}

type curveOut struct {
	Results []curvePoint `json:"results"`
}

type curvePoint struct {
	MA       float64  `json:"ma"`
	MustTrip bool     `json:"must_trip"`
	MaxS     *float64 `json:"max_s"` // null where it need not trip
}

func calcCurve(in curveIn) (curveOut, []working.Step, error) {
	w := &rulebook.Worked{}
	out := curveOut{Results: []curvePoint{}}
	for _, ma := range in.Faults {
		if err := rulebook.ZeroOrMore("fault_ma", ma, "mA"); err != nil {
			return out, nil, err
		}
		opens := gfciOpensFrom.V()
		row := curvePoint{MA: ma, MustTrip: ma >= opens}
		if ma >= opens {
			t := w.Add("t", "(20 / I)^1.43", text(ma, " mA"), gfciMaxS(ma), "s", gfciTrip.Source.Ref)
			row.MaxS = &t
		}
		out.Results = append(out.Results, row)
	}
	return out, w.Steps, nil
}

type leakage struct {
	Name string   `json:"name,omitempty"`
	MA   float64  `json:"ma" unit:"mA"`
	N    *float64 `json:"n,omitempty"`
}

type nuisanceIn struct {
	Leakages []leakage `json:"leakages"`
}

// nuisanceOut is what nuisance answers.
type nuisanceOut struct {
	LeakageMa            float64 `json:"leakage_ma"`
	Verdict              string  `json:"verdict"`
	WithinPlanningBudget bool    `json:"within_planning_budget"`
}

func calcNuisance(in nuisanceIn) (out nuisanceOut, steps []working.Step, err error) {
	sum := 0.0
	for _, l := range in.Leakages {
		n := rulebook.Or(l.N, 1)
		if err := rulebook.FirstError(rulebook.ZeroOrMore("leakages.ma", l.MA, "mA"),
			rulebook.ZeroOrMore("leakages.n", n, "")); err != nil {
			return out, nil, err
		}
		sum += l.MA * n
	}
	w := &rulebook.Worked{}
	w.Add("leakage", "sum", "", sum, "mA", protectionNotes.Source.Ref)
	budget := w.Add("budget", "of standing leakage to plan with", "", rule(protectionNotes, "G-LEAK"), "mA", protectionNotes.Source.Ref)
	verdict := "no_trip"
	switch {
	case working.AtMost(gfciOpensFrom.V(), sum):
		verdict = "must_trip"
	case working.AtMost(gfciStaysBelow.V(), sum):
		verdict = "may_trip"
	}
	return nuisanceOut{LeakageMa: sum, Verdict: verdict, WithinPlanningBudget: working.AtMost(sum, budget)}, w.Steps, nil
}

type testerIn struct {
	Lamps []float64 `json:"lamps" doc:"hot-neutral, hot-ground, neutral-ground: 1 lit, 0 dark"`
}

// testerOut is what tester-pattern answers.
type testerOut struct {
	Matches []string `json:"matches"`
}

func calcTester(in testerIn) (out testerOut, steps []working.Step, err error) {
	if len(in.Lamps) != 3 || slices.ContainsFunc(in.Lamps, func(v float64) bool { return v != 0 && v != 1 }) {
		return out, nil, fmt.Errorf("lamps: %v is not accepted; give three of 1 (lit) or 0 (dark)", in.Lamps)
	}
	matches := []string{}
	w := &rulebook.Worked{}
	for r := range testerPatterns.Text {
		if testerPatterns.Row(r).LampHn == in.Lamps[0] && testerPatterns.Row(r).LampHg == in.Lamps[1] &&
			testerPatterns.Row(r).LampNg == in.Lamps[2] {
			matches = append(matches, testerPatterns.Row(r).Condition)
			w.Add(testerPatterns.Row(r).Condition, testerPatterns.Row(r).Meaning, "", 1, "", testerPatterns.Source.Ref)
		}
	}
	return testerOut{Matches: rulebook.Sorted(matches)}, w.Steps, nil
}

type spdIn struct {
	LeadIn  float64 `json:"lead_in" unit:"in" doc:"both leads together" range:"0 or more"`
	SurgeKA float64 `json:"surge_ka" unit:"kA" range:"above 0"`
	DeviceV float64 `json:"device_let_through_v" unit:"V" range:"0 or more"`
}

// spdOut is what spd-lead answers.
type spdOut struct {
	InductanceUh       float64 `json:"inductance_uh"`
	AddedVAverageSlope float64 `json:"added_v_average_slope"`
	AddedVPeakSlope    float64 `json:"added_v_peak_slope"`
	TotalLetThroughV   float64 `json:"total_let_through_v"`
}

// calcSPD adds what the leads of a surge device let through: L × di/dt of an 8/20
// wave.
func calcSPD(in spdIn) (out spdOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(rulebook.ZeroOrMore("lead_in", in.LeadIn, "in"),
		rulebook.Positive("surge_ka", in.SurgeKA, "kA"), rulebook.ZeroOrMore("device_let_through_v", in.DeviceV, "V")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	source := spdRules.Source.Ref
	uh := w.Add("L", "1 µH/m × length", text(in.LeadIn, " in"), rule(spdRules, "S-L")*in.LeadIn*inchMM/1000, "µH", source)
	average := w.Add("average slope", "L × I / 8 µs", text(uh, " × ", in.SurgeKA*1000, " / 8"), uh*in.SurgeKA*1000/8, "V", source)
	peak := w.Add("peak slope", "L × 0.149 × I", text(uh, " × 0.149 × ", in.SurgeKA*1000),
		uh*rule(spdRules, "S-DIDT-PK")*in.SurgeKA*1000, "V", source)
	return spdOut{InductanceUh: uh, AddedVAverageSlope: average, AddedVPeakSlope: peak,
		TotalLetThroughV: w.Add("total", "device + average slope", text(in.DeviceV, " + ", average), in.DeviceV+average,
			"V", "")}, w.Steps, nil
}

func protectCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("gfci-afci-coverage", "ground-fault, arc-fault, tamper and weather resistance of a list of outlets", calcCoverage),
		rulebook.Define("afci-extension", "whether a lengthened circuit needs arc-fault protection", calcExtension),
		rulebook.Define("gfci-downstream", "which receptacles of a string are protected, and what a trip takes away", calcString),
		rulebook.Define("receptacle-replacement", "what a replaced receptacle needs, and its labels", calcReplacement),
		rulebook.Define("receptacle-spacing", "receptacles of wall lines and counters", calcSpacing),
		rulebook.Define("gfci-curve", "longest trip time of a class A device", calcCurve),
		rulebook.Define("nuisance", "standing leakage on one ground-fault device", calcNuisance),
		rulebook.Define("tester-pattern", "what the lamps of a receptacle tester may mean", calcTester),
		rulebook.Define("spd-lead", "what the leads of a surge device add", calcSPD),
	}
}
