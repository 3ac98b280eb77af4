package split120

import (
	"cmp"
	"fmt"
	"math"
	"strconv"
	"strings"

	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

var (
	serviceSteps = table.LoadOf[serviceStepsRow](dataFiles, "service_sequence")
	clearances   = table.LoadOf[clearancesRow](dataFiles, "service_clearances")
)

func coverOK(key, location string) (int, error) {
	r := covers.Find(func(it *coversRow) bool { return it.Location == location })
	if r < 0 {
		names := []string{}
		for i := range covers.Text {
			names = append(names, covers.Row(i).Location)
		}
		return 0, fmt.Errorf("%s: %q is not in the table; give one of %q", key, location, names)
	}
	return r, nil
}

type trenchIn struct {
	Trade     string    `json:"trade_size"`
	TrenchFt  float64   `json:"trench_ft" unit:"ft" range:"above 0"`
	Legs      []float64 `json:"legs_ft" unit:"ft" doc:"each straight run of conduit" range:"above 0"`
	Sweeps    float64   `json:"sweeps_90" range:"0 or more"`
	RadiusIn  float64   `json:"sweep_radius_in" unit:"in" range:"0 or more"`
	OtherDeg  float64   `json:"other_bends_deg,omitempty" unit:"deg" range:"0 or more"`
	CoverIn   float64   `json:"cover_in" unit:"in" range:"0 or more"`
	BeddingIn float64   `json:"bedding_in" unit:"in" range:"0 or more"`
	WidthIn   float64   `json:"trench_width_in" unit:"in" range:"above 0"`
	Location  string    `json:"location"`
	UtilityIn float64   `json:"utility_cover_in" unit:"in" range:"0 or more"`
	Service   bool      `json:"service_conductors"`
}

// trenchOut is what trench-bill answers.
type trenchOut struct {
	Sticks                float64 `json:"sticks"`
	Joints                float64 `json:"joints"`
	CouplingsWithBellEnds float64 `json:"couplings_with_bell_ends"`
	CouplingsPlainEnds    float64 `json:"couplings_plain_ends"`
	Sweeps                float64 `json:"sweeps"`
	RibbonRequired        bool    `json:"ribbon_required"`
	RibbonFt              float64 `json:"ribbon_ft"`
	RibbonMaxDepthIn      float64 `json:"ribbon_max_depth_in"`
	TrenchDepthIn         float64 `json:"trench_depth_in"`
	CoverRequiredIn       float64 `json:"cover_required_in"`
	CoverOk               bool    `json:"cover_ok"`
	ExcavationYd3         float64 `json:"excavation_yd3"`
	SweepArcFt            float64 `json:"sweep_arc_ft"`
	BendTotalDeg          float64 `json:"bend_total_deg"`
	BendOk                bool    `json:"bend_ok"`
}

// calcTrench is the parts and the digging of an underground run in PVC: sticks of
// 10 ft with one bell each, elbows with plain ends.
func calcTrench(in trenchIn) (out trenchOut, steps []working.Step, err error) {
	location, err := coverOK("location", in.Location)
	duct := conduits.Find(func(it *conduitsRow) bool { return it.TradeSize == in.Trade })
	if duct < 0 {
		err = fmt.Errorf("trade_size: %q is not in the table; give 1/2 to 4", in.Trade)
	}
	if err := rulebook.FirstError(err, rulebook.Positive("trench_ft", in.TrenchFt, "ft"),
		rulebook.ZeroOrMore("sweeps_90", in.Sweeps, ""), rulebook.ZeroOrMore("sweep_radius_in", in.RadiusIn, "in"),
		rulebook.ZeroOrMore("other_bends_deg", in.OtherDeg, "deg"), rulebook.ZeroOrMore("cover_in", in.CoverIn, "in"),
		rulebook.ZeroOrMore("bedding_in", in.BeddingIn, "in"), rulebook.Positive("trench_width_in", in.WidthIn, "in"),
		rulebook.ZeroOrMore("utility_cover_in", in.UtilityIn, "in")); err != nil {
		return out, nil, err
	}
	if len(in.Legs) == 0 {
		return out, nil, fmt.Errorf("legs_ft: an empty list is not accepted; give each straight run in ft")
	}
	stick := rule(underground, "UG-STICK")
	sticks := 0.0
	for _, l := range in.Legs {
		if err := rulebook.Positive("legs_ft", l, "ft"); err != nil {
			return out, nil, err
		}
		sticks += math.Ceil(l/stick - 1e-9)
	}
	w := &rulebook.Worked{}
	source := underground.Source.Ref
	w.Add("sticks", "each leg up to whole sticks of 10 ft", fmt.Sprint(in.Legs), sticks, "", source)
	joints := w.Add("joints", "sticks + sweeps − 1", text(sticks, " + ", in.Sweeps, " − 1"), sticks+in.Sweeps-1, "", source)
	od := conduits.Row(duct).OdPvcIn
	depth := w.Add("depth", "cover + outside diameter + bedding", text(in.CoverIn, " + ", od, " + ", in.BeddingIn),
		in.CoverIn+od+in.BeddingIn, "in", conduits.Source.Ref)
	required := w.Add("cover needed", "table, or the utility's", "", max(covers.Row(location).PvcIn, in.UtilityIn),
		"in", covers.Source.Ref)
	bends := w.Add("bends", "90° each sweep + the rest", "", 90*in.Sweeps+in.OtherDeg, "°", source)
	return trenchOut{Sticks: sticks, Joints: joints, CouplingsWithBellEnds: max(0, joints-sticks),
		CouplingsPlainEnds: joints, Sweeps: in.Sweeps, RibbonRequired: in.Service && in.CoverIn >= 18,
		RibbonFt: in.TrenchFt, RibbonMaxDepthIn: max(0, in.CoverIn-rule(underground, "UG-RIBBON")), TrenchDepthIn: depth,
		CoverRequiredIn: required, CoverOk: working.AtMost(required, in.CoverIn),
		ExcavationYd3: w.Add("digging", "length × width × depth",
			text(in.TrenchFt, " ft × ", in.WidthIn, " in × ", depth, " in"), in.TrenchFt*in.WidthIn/12*depth/12/27, "yd³",
			"geometry"), SweepArcFt: in.Sweeps * math.Pi / 2 * in.RadiusIn / 12, BendTotalDeg: bends,
		BendOk: working.AtMost(bends, rule(underground, "UG-BENDS"))}, w.Steps, nil
}

type coverRun struct {
	ID        string  `json:"id"`
	Location  string  `json:"location"`
	Method    string  `json:"method" doc:"direct_in, rmc_imc_in, pvc_in, gfci20_in, lv30_in"`
	CoverIn   float64 `json:"cover_in" unit:"in"`
	UtilityIn float64 `json:"utility_in,omitempty" unit:"in"`
}

type coverIn struct {
	Runs []coverRun `json:"runs"`
}

type coverOut struct {
	Runs []coveredRun `json:"runs"`
}

type coveredRun struct {
	ID       string   `json:"id"`
	Required *float64 `json:"required_in"` // null where it may not be laid so
	OK       bool     `json:"ok"`
}

func calcCover(in coverIn) (coverOut, []working.Step, error) {
	w := &rulebook.Worked{}
	out := coverOut{Runs: []coveredRun{}}
	for _, run := range in.Runs {
		r, err := coverOK("runs.location", run.Location)
		if err := rulebook.FirstError(err, rulebook.OneOf("runs.method", run.Method, "direct_in", "rmc_imc_in", "pvc_in",
			"gfci20_in", "lv30_in"), rulebook.ZeroOrMore("runs.cover_in", run.CoverIn, "in"),
			rulebook.ZeroOrMore("runs.utility_in", run.UtilityIn, "in")); err != nil {
			return out, nil, err
		}
		if math.IsNaN(covers.Num(r, run.Method)) {
			w.Add(run.ID, "not laid so at "+run.Location, "", run.CoverIn, "in", covers.Source.Ref)
			out.Runs = append(out.Runs, coveredRun{ID: run.ID})
			continue
		}
		need := w.Add(run.ID, "table, or the utility's", "", max(covers.Num(r, run.Method), run.UtilityIn), "in", covers.Source.Ref)
		out.Runs = append(out.Runs, coveredRun{ID: run.ID, Required: &need, OK: working.AtMost(need, run.CoverIn)})
	}
	return out, w.Steps, nil
}

type expansionIn struct {
	LengthFt float64 `json:"length_ft" unit:"ft"`
	MinF     float64 `json:"t_min_f" unit:"degF"`
	MaxF     float64 `json:"t_max_f" unit:"degF"`
	InstallF float64 `json:"t_install_f" unit:"degF"`
	TravelIn float64 `json:"fitting_travel_in" unit:"in"`
}

// expansionOut is what pvc-expansion answers.
type expansionOut struct {
	ChangeIn           float64 `json:"change_in"`
	FittingRequired    bool    `json:"fitting_required"`
	Fittings           float64 `json:"fittings"`
	RoomForExpansionIn float64 `json:"room_for_expansion_in"`
}

// calcExpansion is the movement of a straight run of PVC (NEC 352.44).
func calcExpansion(in expansionIn) (out expansionOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(rulebook.Positive("length_ft", in.LengthFt, "ft"),
		rulebook.Between("t_max_f", in.MaxF, in.MinF, 250, "°F"),
		rulebook.Between("t_install_f", in.InstallF, in.MinF, in.MaxF, "°F"),
		rulebook.Positive("fitting_travel_in", in.TravelIn, "in")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	k := rule(underground, "PVC-EXP") * 12 * in.LengthFt
	change := w.Add("change", "3.38e-5 × length × swing", text(in.LengthFt*12, " in × ", in.MaxF-in.MinF, " °F"),
		k*(in.MaxF-in.MinF), "in", underground.Source.Ref)
	required := working.AtMost(rule(underground, "PVC-EXPMIN"), change)
	fittings := 0.0
	if required {
		fittings = math.Ceil(change/in.TravelIn - 1e-9)
	}
	room := w.Add("still to come", "up from the installing temperature", text(in.MaxF-in.InstallF, " °F"),
		k*(in.MaxF-in.InstallF), "in", "")
	return expansionOut{ChangeIn: change, FittingRequired: required, Fittings: fittings, RoomForExpansionIn: room}, w.Steps, nil
}

type rodsIn struct {
	LengthFt   float64 `json:"length_ft" unit:"ft"`
	DiameterIn float64 `json:"diameter_in" unit:"in"`
	Rho        float64 `json:"rho_ohm_m" unit:"ohm m"`
	SpacingFt  float64 `json:"spacing_ft" unit:"ft"`
	Listed     bool    `json:"listed,omitempty" doc:"marked as a listed rod, which may be thinner"`
}

// rodsOut is what ground-rods answers.
type rodsOut struct {
	RSingleOhm         float64 `json:"r_single_ohm"`
	SingleRodOk        bool    `json:"single_rod_ok"`
	RTwoOhm            float64 `json:"r_two_ohm"`
	RatioTwoToOne      float64 `json:"ratio_two_to_one"`
	SpacingOk          bool    `json:"spacing_ok"`
	TwoRodsSatisfyCode bool    `json:"two_rods_satisfy_code"`
}

func calcRods(in rodsIn) (out rodsOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(rulebook.Positive("length_ft", in.LengthFt, "ft"),
		rulebook.Positive("diameter_in", in.DiameterIn, "in"), rulebook.Positive("rho_ohm_m", in.Rho, "ohm m"),
		rulebook.Positive("spacing_ft", in.SpacingFt, "ft")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	length := in.LengthFt * footM
	one := w.Add("one rod", "ρ/(2πL) × (ln(4L/a) − 1)", text("ρ ", in.Rho, ", L ", length, " m"),
		RodOhm(in.Rho, length, in.DiameterIn*inchMM/1000), "Ω", grounding.Source.Ref)
	two := w.Add("two rods", "(R1 + Rm) / 2", text("s ", in.SpacingFt*footM, " m"),
		(one+mutualOhm(in.Rho, length, in.SpacingFt*footM))/2, "Ω", grounding.Source.Ref)
	spaced := working.AtMost(rule(grounding.Table, "ROD-SPACE"), in.SpacingFt)
	made := working.AtMost(rule(grounding.Table, "ROD-LEN"), in.LengthFt) && working.AtMost(thinnestRod(in.Listed), in.DiameterIn)
	return rodsOut{RSingleOhm: one, SingleRodOk: working.AtMost(one, rule(grounding.Table, "ROD-2")), RTwoOhm: two,
		RatioTwoToOne: two / one, SpacingOk: spaced, TwoRodsSatisfyCode: spaced && made}, w.Steps, nil
}

// listedRodIn is the diameter in inches of the thinnest listed rod (250.52(A)(5)).
const listedRodIn = 0.5

// thinnestRod is the least diameter of a rod in inches.
func thinnestRod(listed bool) float64 {
	if listed {
		return listedRodIn
	}
	return rule(grounding.Table, "ROD-DIA")
}

type potentialReading struct {
	At  float64 `json:"at_percent" unit:"%"`
	Ohm float64 `json:"ohm" unit:"ohm" range:"above 0"`
}

type potentialIn struct {
	ProbeFt  float64            `json:"current_probe_ft" unit:"ft" range:"above 0"`
	Readings []potentialReading `json:"readings"`
}

// potentialOut is what fall-of-potential answers.
type potentialOut struct {
	ProbeFt       float64 `json:"probe_ft"`
	ResistanceOhm float64 `json:"resistance_ohm"`
	SpreadPercent float64 `json:"spread_percent"`
	Valid         bool    `json:"valid"`
	SingleRodOk   bool    `json:"single_rod_ok"`
}

// calcPotential reads an electrode by fall of potential: the reading at 62 %, good
// when those at 52 and 72 % lie within a tenth of it.
func calcPotential(in potentialIn) (out potentialOut, steps []working.Step, err error) {
	if err := rulebook.Positive("current_probe_ft", in.ProbeFt, "ft"); err != nil {
		return out, nil, err
	}
	for _, r := range in.Readings {
		if err := rulebook.Positive("readings.ohm", r.Ohm, "ohm"); err != nil {
			return out, nil, err
		}
	}
	at := func(pc float64) (float64, error) {
		for _, r := range in.Readings {
			if r.At == pc {
				return r.Ohm, nil
			}
		}
		return 0, fmt.Errorf("readings.at_percent: %g %% is missing; give readings at 52, 62 and 72 %%", pc)
	}
	low, e1 := at(52)
	mid, e2 := at(62)
	high, e3 := at(72)
	if err := rulebook.FirstError(e1, e2, e3); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	probe := w.Add("potential probe", "61.8 % of the current probe", text(in.ProbeFt, " ft"), 0.618*in.ProbeFt, "ft", grounding.Source.Ref)
	spread := w.Add("spread", "farthest of 52 and 72 % from 62 %", text(low, ", ", mid, ", ", high, " Ω"),
		max(math.Abs(low-mid), math.Abs(high-mid))/mid*100, "%", "practice")
	valid := working.AtMost(spread, 10)
	return potentialOut{ProbeFt: probe, ResistanceOhm: mid, SpreadPercent: spread, Valid: valid,
		SingleRodOk: valid && working.AtMost(mid, rule(grounding.Table, "ROD-2"))}, w.Steps, nil
}

type sequenceIn struct {
	Done []float64 `json:"done" doc:"numbers of the steps that are done"`
}

// sequenceOut is what sequence answers.
type sequenceOut struct {
	NextAllowed []float64 `json:"next_allowed"`
	Violations  []string  `json:"violations"`
}

// calcSequence says which steps of a service change may come next, and which were
// done before what they depend on.
func calcSequence(in sequenceIn) (out sequenceOut, steps []working.Step, err error) {
	done := map[string]bool{}
	for _, v := range in.Done {
		step := text(v)
		if serviceSteps.Find(func(it *serviceStepsRow) bool { return it.Step == step }) < 0 {
			return out, nil, fmt.Errorf("done: %g is not a step; give numbers from 1 to %d", v, len(serviceSteps.Text))
		}
		done[step] = true
	}
	w := &rulebook.Worked{}
	next, violations := []float64{}, []string{}
	for r := range serviceSteps.Text {
		step := serviceSteps.Row(r).Step
		open := true
		for _, on := range strings.FieldsFunc(serviceSteps.Row(r).DependsOn, func(c rune) bool { return c == ';' }) {
			if done[on] {
				continue
			}
			open = false
			if done[step] {
				violations = append(violations, "step "+step+" before "+on)
			}
		}
		if open && !done[step] {
			n, _ := strconv.ParseFloat(step, 64)
			next = append(next, n)
			w.Add("next", serviceSteps.Row(r).Action, serviceSteps.Row(r).Who, n, "", serviceSteps.Source.Ref)
		}
	}
	return sequenceOut{NextAllowed: next, Violations: violations}, w.Steps, nil
}

type transferIn struct {
	SenseS      float64   `json:"sense_s" unit:"s"`
	CrankS      float64   `json:"crank_s" unit:"s"`
	WarmS       float64   `json:"warm_s" unit:"s"`
	SwitchS     float64   `json:"switch_s" unit:"s"`
	Loads       []float64 `json:"loads_va" unit:"VA"`
	GeneratorVA float64   `json:"generator_va" unit:"VA"`
	RetransferS float64   `json:"retransfer_delay_s" unit:"s"`
	CooldownS   float64   `json:"cooldown_s" unit:"s"`
}

// transferOut is what transfer answers.
type transferOut struct {
	OutageS         float64 `json:"outage_s"`
	AutoFullLoadOk  bool    `json:"auto_full_load_ok"`
	ShedNeededVa    float64 `json:"shed_needed_va"`
	RunAfterReturnS float64 `json:"run_after_return_s"`
}

func calcTransfer(in transferIn) (out transferOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(rulebook.ZeroOrMore("sense_s", in.SenseS, "s"),
		rulebook.ZeroOrMore("crank_s", in.CrankS, "s"), rulebook.ZeroOrMore("warm_s", in.WarmS, "s"),
		rulebook.ZeroOrMore("switch_s", in.SwitchS, "s"), rulebook.Positive("generator_va", in.GeneratorVA, "VA"),
		rulebook.ZeroOrMore("retransfer_delay_s", in.RetransferS, "s"), rulebook.ZeroOrMore("cooldown_s", in.CooldownS, "s")); err != nil {
		return out, nil, err
	}
	sum := 0.0
	for _, v := range in.Loads {
		if err := rulebook.ZeroOrMore("loads_va", v, "VA"); err != nil {
			return out, nil, err
		}
		sum += v
	}
	w := &rulebook.Worked{}
	dark := w.Add("dark", "sense + crank + warm + switch",
		text(in.SenseS, " + ", in.CrankS, " + ", in.WarmS, " + ", in.SwitchS), in.SenseS+in.CrankS+in.WarmS+in.SwitchS, "s",
		"transfer sequence")
	shed := w.Add("to shed", "loads − generator", text(sum, " − ", in.GeneratorVA), max(0, sum-in.GeneratorVA), "VA", clauseStandby.nec)
	return transferOut{OutageS: dark, AutoFullLoadOk: working.AtMost(sum, in.GeneratorVA), ShedNeededVa: shed,
		RunAfterReturnS: in.RetransferS + in.CooldownS}, w.Steps, nil
}

type voltageReading struct {
	Kind string  `json:"kind" doc:"ll between legs, ln leg to neutral"`
	V    float64 `json:"v" unit:"V"`
}

type voltageIn struct {
	Readings []voltageReading `json:"readings"`
}

// voltageRange is a range of service voltages (ANSI C84.1).
type voltageRange string

const (
	rangeA     voltageRange = "A"
	rangeB     voltageRange = "B"
	outOfRange voltageRange = "outside"
)

// voltageOut is what voltage-range answers.
type voltageOut struct {
	Readings []voltageFound `json:"readings"`
}

type voltageFound struct {
	V     float64      `json:"v"`
	Kind  string       `json:"kind"`
	Range voltageRange `json:"range"`
}

func calcVoltage(in voltageIn) (out voltageOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	list := []voltageFound{}
	for _, r := range in.Readings {
		if err := rulebook.FirstError(rulebook.OneOf("readings.kind", r.Kind, "ll", "ln"),
			rulebook.ZeroOrMore("readings.v", r.V, "V")); err != nil {
			return out, nil, err
		}
		found := outOfRange
		for _, grade := range []voltageRange{rangeA, rangeB} {
			row := voltageLimits.Find(func(it *voltageLimitsRow) bool { return it.ID == string(grade)+"-SVC-"+strings.ToUpper(r.Kind) })
			if working.AtMost(voltageLimits.Row(row).Min, r.V) && working.AtMost(r.V, voltageLimits.Row(row).Max) {
				found = grade
				break
			}
		}
		w.Add(r.Kind, "range A, B or outside", string(found), r.V, "V", voltageLimits.Source.Ref)
		list = append(list, voltageFound{r.V, r.Kind, found})
	}
	return voltageOut{list}, w.Steps, nil
}

type spaceIn struct {
	DepthIn     float64 `json:"depth_in" unit:"in"`
	WidthIn     float64 `json:"width_in" unit:"in"`
	EquipmentIn float64 `json:"equipment_width_in" unit:"in"`
	HeightIn    float64 `json:"height_in" unit:"in"`
	TopIn       float64 `json:"equipment_top_in" unit:"in"`
	HandleIn    float64 `json:"highest_handle_in" unit:"in"`
	Place       string  `json:"place" doc:"garage, basement, under_stairs, clothes_closet, bathroom, over_stairs …"`
	Door90      bool    `json:"door_opens_90"`
	ExistingA   float64 `json:"existing_rating_a,omitempty" unit:"A" doc:"of equipment that stays as it was in a dwelling"`
	School      string  `json:"school,omitempty" doc:"NEC, CEC"`
}

// spaceNeed is the space in front of equipment that a code asks for, in inches.
type spaceNeed struct{ depthIn, widthIn, heightIn, handleIn float64 }

func spaceNeeds(code Code) spaceNeed {
	at := func(id string) float64 { return rule(clearances.Table, id) }
	if code == CEC {
		metres := func(id string) float64 { return at(id) * 1000 / inchMM }
		return spaceNeed{metres("CA-WS"), 0, metres("CA-WSH"), metres("CA-HANDLE")} // as wide as the equipment
	}
	return spaceNeed{at("WS-DEPTH"), at("WS-WIDTH"), at("WS-HEIGHT"), at("HANDLE")}
}

// spaceOut is what working-space answers.
type spaceOut struct {
	Ok     bool     `json:"ok"`
	Faults []string `json:"faults"`
}

// calcSpace judges the working space in front of equipment and the place where it hangs
// (NEC 110.26, 240.24; CEC 2-308, 26-600).
func calcSpace(in spaceIn) (out spaceOut, steps []working.Step, err error) {
	place := boardTable.Find(func(it *boardRow) bool { return it.Place == in.Place })
	if place < 0 {
		return out, nil, fmt.Errorf("place: %q is not accepted; give one of %q", in.Place, boardPlaces())
	}
	if err := rulebook.FirstError(rulebook.OneOf("school", in.School, "", "NEC", "CEC"),
		rulebook.ZeroOrMore("depth_in", in.DepthIn, "in"), rulebook.ZeroOrMore("width_in", in.WidthIn, "in"),
		rulebook.ZeroOrMore("equipment_width_in", in.EquipmentIn, "in"),
		rulebook.ZeroOrMore("height_in", in.HeightIn, "in"), rulebook.ZeroOrMore("equipment_top_in", in.TopIn, "in"),
		rulebook.ZeroOrMore("highest_handle_in", in.HandleIn, "in"),
		rulebook.ZeroOrMore("existing_rating_a", in.ExistingA, "A")); err != nil {
		return out, nil, err
	}
	code := Code(cmp.Or(in.School, string(NEC)))
	n := spaceNeeds(code)
	w := &rulebook.Worked{}
	faults := []string{}
	judge := func(name string, need, have float64, ok bool) {
		w.Add(name, text("needs ", need), "", have, "in", under(clearances.Table, code).Ref)
		if !ok {
			faults = append(faults, name)
		}
	}
	width, height := max(n.widthIn, in.EquipmentIn), max(n.heightIn, in.TopIn)
	judge("depth", n.depthIn, in.DepthIn, working.AtMost(n.depthIn, in.DepthIn))
	judge("width", width, in.WidthIn, working.AtMost(width, in.WidthIn))
	if most := rule(clearances.Table, "WS-EXIST"); code == NEC && in.ExistingA > 0 && working.AtMost(in.ExistingA, most) {
		w.Add("height", text("not asked of existing equipment of a dwelling up to ", most, " A"), "", in.HeightIn, "in",
			"NEC 110.26(A)(3) exception 1")
	} else {
		judge("height", height, in.HeightIn, working.AtMost(height, in.HeightIn))
	}
	judge("handle", n.handleIn, in.HandleIn, working.AtMost(in.HandleIn, n.handleIn))
	if boardTable.Row(place).Barred == "1" {
		faults = append(faults, "place")
	}
	if !in.Door90 {
		faults = append(faults, "door")
	}
	return spaceOut{Ok: len(faults) == 0, Faults: rulebook.Sorted(faults)}, w.Steps, nil
}

func serviceCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("trench-bill", "parts and digging of an underground run", calcTrench),
		rulebook.Define("cover-verdict", "cover of buried runs", calcCover),
		rulebook.Define("pvc-expansion", "expansion of a run of PVC, and its fittings", calcExpansion),
		rulebook.Define("ground-rods", "one ground rod and two", calcRods),
		rulebook.Define("fall-of-potential", "an electrode read by fall of potential", calcPotential),
		rulebook.Define("sequence", "which steps of a service change may come next", calcSequence),
		rulebook.Define("transfer", "a standby source: dark time, load and run after return", calcTransfer),
		rulebook.Define("voltage-range", "voltages of the service against their ranges", calcVoltage),
		rulebook.Define("working-space", "working space in front of equipment", calcSpace),
	}
}
