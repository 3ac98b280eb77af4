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
	serviceSteps = table.Load(dataFiles, "service_sequence")
	clearances   = table.Load(dataFiles, "service_clearances")
)

func coverOK(key, location string) (int, error) {
	r := covers.Where("location", location)
	if r < 0 {
		names := []string{}
		for i := range covers.Text {
			names = append(names, covers.Str(i, "location"))
		}
		return 0, fmt.Errorf("%s: %q is not in the table; give one of %q", key, location, names)
	}
	return r, nil
}

type trenchIn struct {
	Trade     string    `json:"trade_size"`
	TrenchFt  float64   `json:"trench_ft" unit:"ft"`
	Legs      []float64 `json:"legs_ft" unit:"ft" doc:"each straight run of conduit"`
	Sweeps    float64   `json:"sweeps_90"`
	RadiusIn  float64   `json:"sweep_radius_in" unit:"in"`
	OtherDeg  float64   `json:"other_bends_deg,omitempty" unit:"deg"`
	CoverIn   float64   `json:"cover_in" unit:"in"`
	BeddingIn float64   `json:"bedding_in" unit:"in"`
	WidthIn   float64   `json:"trench_width_in" unit:"in"`
	Location  string    `json:"location"`
	UtilityIn float64   `json:"utility_cover_in" unit:"in"`
	Service   bool      `json:"service_conductors"`
}

// calcTrench is the parts and the digging of an underground run in PVC: sticks of
// 10 ft with one bell each, elbows with plain ends.
func calcTrench(in trenchIn) (map[string]any, []working.Step, error) {
	location, err := coverOK("location", in.Location)
	duct := conduits.Where("trade_size", in.Trade)
	if duct < 0 {
		err = fmt.Errorf("trade_size: %q is not in the table; give 1/2 to 4", in.Trade)
	}
	if err := rulebook.FirstError(err, rulebook.Positive("trench_ft", in.TrenchFt, "ft"), rulebook.ZeroOrMore("sweeps_90", in.Sweeps, ""), rulebook.ZeroOrMore("sweep_radius_in", in.RadiusIn, "in"), rulebook.ZeroOrMore("other_bends_deg", in.OtherDeg, "deg"), rulebook.ZeroOrMore("cover_in", in.CoverIn, "in"), rulebook.ZeroOrMore("bedding_in", in.BeddingIn, "in"), rulebook.Positive("trench_width_in", in.WidthIn, "in"), rulebook.ZeroOrMore("utility_cover_in", in.UtilityIn, "in")); err != nil {
		return nil, nil, err
	}
	if len(in.Legs) == 0 {
		return nil, nil, fmt.Errorf("legs_ft: an empty list is not accepted; give each straight run in ft")
	}
	stick := rule(underground, "UG-STICK")
	sticks := 0.0
	for _, l := range in.Legs {
		if err := rulebook.Positive("legs_ft", l, "ft"); err != nil {
			return nil, nil, err
		}
		sticks += math.Ceil(l/stick - 1e-9)
	}
	w := &rulebook.Worked{}
	source := underground.Source.Ref
	w.Add("sticks", "each leg up to whole sticks of 10 ft", fmt.Sprint(in.Legs), sticks, "", source)
	joints := w.Add("joints", "sticks + sweeps − 1", text(sticks, " + ", in.Sweeps, " − 1"), sticks+in.Sweeps-1, "", source)
	od := conduits.Num(duct, "od_pvc_in")
	depth := w.Add("depth", "cover + outside diameter + bedding", text(in.CoverIn, " + ", od, " + ", in.BeddingIn), in.CoverIn+od+in.BeddingIn, "in", conduits.Source.Ref)
	required := w.Add("cover needed", "table, or the utility's", "", max(covers.Num(location, "pvc_in"), in.UtilityIn), "in", covers.Source.Ref)
	bends := w.Add("bends", "90° each sweep + the rest", "", 90*in.Sweeps+in.OtherDeg, "°", source)
	return map[string]any{"sticks": sticks, "joints": joints, "couplings_with_bell_ends": max(0, joints-sticks), "couplings_plain_ends": joints, "sweeps": in.Sweeps,
		"ribbon_required": in.Service && in.CoverIn >= 18, "ribbon_ft": in.TrenchFt, "ribbon_max_depth_in": max(0, in.CoverIn-rule(underground, "UG-RIBBON")),
		"trench_depth_in": depth, "cover_required_in": required, "cover_ok": working.AtMost(required, in.CoverIn),
		"excavation_yd3": w.Add("digging", "length × width × depth", text(in.TrenchFt, " ft × ", in.WidthIn, " in × ", depth, " in"), in.TrenchFt*in.WidthIn/12*depth/12/27, "yd³", "geometry"),
		"sweep_arc_ft":   in.Sweeps * math.Pi / 2 * in.RadiusIn / 12, "bend_total_deg": bends, "bend_ok": working.AtMost(bends, rule(underground, "UG-BENDS"))}, w.Steps, nil
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

func calcCover(in coverIn) (map[string]any, []working.Step, error) {
	w := &rulebook.Worked{}
	list := []any{}
	for _, run := range in.Runs {
		r, err := coverOK("runs.location", run.Location)
		if err := rulebook.FirstError(err, rulebook.OneOf("runs.method", run.Method, "direct_in", "rmc_imc_in", "pvc_in", "gfci20_in", "lv30_in"), rulebook.ZeroOrMore("runs.cover_in", run.CoverIn, "in"), rulebook.ZeroOrMore("runs.utility_in", run.UtilityIn, "in")); err != nil {
			return nil, nil, err
		}
		if math.IsNaN(covers.Num(r, run.Method)) {
			w.Add(run.ID, "not laid so at "+run.Location, "", run.CoverIn, "in", covers.Source.Ref)
			list = append(list, map[string]any{"id": run.ID, "required_in": nil, "ok": false})
			continue
		}
		need := w.Add(run.ID, "table, or the utility's", "", max(covers.Num(r, run.Method), run.UtilityIn), "in", covers.Source.Ref)
		list = append(list, map[string]any{"id": run.ID, "required_in": need, "ok": working.AtMost(need, run.CoverIn)})
	}
	return map[string]any{"runs": list}, w.Steps, nil
}

type expansionIn struct {
	LengthFt float64 `json:"length_ft" unit:"ft"`
	MinF     float64 `json:"t_min_f" unit:"degF"`
	MaxF     float64 `json:"t_max_f" unit:"degF"`
	InstallF float64 `json:"t_install_f" unit:"degF"`
	TravelIn float64 `json:"fitting_travel_in" unit:"in"`
}

// calcExpansion is the movement of a straight run of PVC (NEC 352.44).
func calcExpansion(in expansionIn) (map[string]any, []working.Step, error) {
	if err := rulebook.FirstError(rulebook.Positive("length_ft", in.LengthFt, "ft"), rulebook.Between("t_max_f", in.MaxF, in.MinF, 250, "°F"), rulebook.Between("t_install_f", in.InstallF, in.MinF, in.MaxF, "°F"), rulebook.Positive("fitting_travel_in", in.TravelIn, "in")); err != nil {
		return nil, nil, err
	}
	w := &rulebook.Worked{}
	k := rule(underground, "PVC-EXP") * 12 * in.LengthFt
	change := w.Add("change", "3.38e-5 × length × swing", text(in.LengthFt*12, " in × ", in.MaxF-in.MinF, " °F"), k*(in.MaxF-in.MinF), "in", underground.Source.Ref)
	required := working.AtMost(rule(underground, "PVC-EXPMIN"), change)
	fittings := 0.0
	if required {
		fittings = math.Ceil(change/in.TravelIn - 1e-9)
	}
	room := w.Add("still to come", "up from the installing temperature", text(in.MaxF-in.InstallF, " °F"), k*(in.MaxF-in.InstallF), "in", "")
	return map[string]any{"change_in": change, "fitting_required": required, "fittings": fittings, "room_for_expansion_in": room}, w.Steps, nil
}

type rodsIn struct {
	LengthFt   float64 `json:"length_ft" unit:"ft"`
	DiameterIn float64 `json:"diameter_in" unit:"in"`
	Rho        float64 `json:"rho_ohm_m" unit:"ohm m"`
	SpacingFt  float64 `json:"spacing_ft" unit:"ft"`
	Listed     bool    `json:"listed,omitempty" doc:"marked as a listed rod, which may be thinner"`
}

func calcRods(in rodsIn) (map[string]any, []working.Step, error) {
	if err := rulebook.FirstError(rulebook.Positive("length_ft", in.LengthFt, "ft"), rulebook.Positive("diameter_in", in.DiameterIn, "in"), rulebook.Positive("rho_ohm_m", in.Rho, "ohm m"), rulebook.Positive("spacing_ft", in.SpacingFt, "ft")); err != nil {
		return nil, nil, err
	}
	w := &rulebook.Worked{}
	length := in.LengthFt * footM
	one := w.Add("one rod", "ρ/(2πL) × (ln(4L/a) − 1)", text("ρ ", in.Rho, ", L ", length, " m"), RodOhm(in.Rho, length, in.DiameterIn*inchMM/1000), "Ω", grounding.Source.Ref)
	two := w.Add("two rods", "(R1 + Rm) / 2", text("s ", in.SpacingFt*footM, " m"), (one+mutualOhm(in.Rho, length, in.SpacingFt*footM))/2, "Ω", grounding.Source.Ref)
	spaced := working.AtMost(rule(grounding, "ROD-SPACE"), in.SpacingFt)
	made := working.AtMost(rule(grounding, "ROD-LEN"), in.LengthFt) && working.AtMost(thinnestRod(in.Listed), in.DiameterIn)
	return map[string]any{"r_single_ohm": one, "single_rod_ok": working.AtMost(one, rule(grounding, "ROD-2")), "r_two_ohm": two, "ratio_two_to_one": two / one, "spacing_ok": spaced, "two_rods_satisfy_code": spaced && made}, w.Steps, nil
}

// listedRodIn is the diameter in inches of the thinnest listed rod (250.52(A)(5)).
const listedRodIn = 0.5

// thinnestRod is the least diameter of a rod in inches.
func thinnestRod(listed bool) float64 {
	if listed {
		return listedRodIn
	}
	return rule(grounding, "ROD-DIA")
}

type potentialReading struct {
	At  float64 `json:"at_percent" unit:"%"`
	Ohm float64 `json:"ohm" unit:"ohm"`
}

type potentialIn struct {
	ProbeFt  float64            `json:"current_probe_ft" unit:"ft"`
	Readings []potentialReading `json:"readings"`
}

// calcPotential reads an electrode by fall of potential: the reading at 62 %, good
// when those at 52 and 72 % lie within a tenth of it.
func calcPotential(in potentialIn) (map[string]any, []working.Step, error) {
	if err := rulebook.Positive("current_probe_ft", in.ProbeFt, "ft"); err != nil {
		return nil, nil, err
	}
	at := func(pc float64) (float64, error) {
		for _, r := range in.Readings {
			if r.At == pc {
				return r.Ohm, rulebook.Positive("readings.ohm", r.Ohm, "ohm")
			}
		}
		return 0, fmt.Errorf("readings.at_percent: %g %% is missing; give readings at 52, 62 and 72 %%", pc)
	}
	low, e1 := at(52)
	mid, e2 := at(62)
	high, e3 := at(72)
	if err := rulebook.FirstError(e1, e2, e3); err != nil {
		return nil, nil, err
	}
	w := &rulebook.Worked{}
	probe := w.Add("potential probe", "61.8 % of the current probe", text(in.ProbeFt, " ft"), 0.618*in.ProbeFt, "ft", grounding.Source.Ref)
	spread := w.Add("spread", "farthest of 52 and 72 % from 62 %", text(low, ", ", mid, ", ", high, " Ω"), max(math.Abs(low-mid), math.Abs(high-mid))/mid*100, "%", "practice")
	valid := working.AtMost(spread, 10)
	return map[string]any{"probe_ft": probe, "resistance_ohm": mid, "spread_percent": spread, "valid": valid, "single_rod_ok": valid && working.AtMost(mid, rule(grounding, "ROD-2"))}, w.Steps, nil
}

type sequenceIn struct {
	Done []float64 `json:"done" doc:"numbers of the steps that are done"`
}

// calcSequence says which steps of a service change may come next, and which were
// done before what they depend on.
func calcSequence(in sequenceIn) (map[string]any, []working.Step, error) {
	done := map[string]bool{}
	for _, v := range in.Done {
		step := text(v)
		if serviceSteps.Where("step", step) < 0 {
			return nil, nil, fmt.Errorf("done: %g is not a step; give numbers from 1 to %d", v, len(serviceSteps.Text))
		}
		done[step] = true
	}
	w := &rulebook.Worked{}
	next, violations := []any{}, []any{}
	for r := range serviceSteps.Text {
		step := serviceSteps.Str(r, "step")
		open := true
		for _, on := range strings.FieldsFunc(serviceSteps.Str(r, "depends_on"), func(c rune) bool { return c == ';' }) {
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
			w.Add("next", serviceSteps.Str(r, "action"), serviceSteps.Str(r, "who"), n, "", serviceSteps.Source.Ref)
		}
	}
	return map[string]any{"next_allowed": next, "violations": violations}, w.Steps, nil
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

func calcTransfer(in transferIn) (map[string]any, []working.Step, error) {
	if err := rulebook.FirstError(rulebook.ZeroOrMore("sense_s", in.SenseS, "s"), rulebook.ZeroOrMore("crank_s", in.CrankS, "s"), rulebook.ZeroOrMore("warm_s", in.WarmS, "s"), rulebook.ZeroOrMore("switch_s", in.SwitchS, "s"), rulebook.Positive("generator_va", in.GeneratorVA, "VA"), rulebook.ZeroOrMore("retransfer_delay_s", in.RetransferS, "s"), rulebook.ZeroOrMore("cooldown_s", in.CooldownS, "s")); err != nil {
		return nil, nil, err
	}
	sum := 0.0
	for _, v := range in.Loads {
		if err := rulebook.ZeroOrMore("loads_va", v, "VA"); err != nil {
			return nil, nil, err
		}
		sum += v
	}
	w := &rulebook.Worked{}
	dark := w.Add("dark", "sense + crank + warm + switch", text(in.SenseS, " + ", in.CrankS, " + ", in.WarmS, " + ", in.SwitchS), in.SenseS+in.CrankS+in.WarmS+in.SwitchS, "s", "transfer sequence")
	shed := w.Add("to shed", "loads − generator", text(sum, " − ", in.GeneratorVA), max(0, sum-in.GeneratorVA), "VA", clauseStandby.nec)
	return map[string]any{"outage_s": dark, "auto_full_load_ok": working.AtMost(sum, in.GeneratorVA), "shed_needed_va": shed, "run_after_return_s": in.RetransferS + in.CooldownS}, w.Steps, nil
}

type voltageReading struct {
	Kind string  `json:"kind" doc:"ll between legs, ln leg to neutral"`
	V    float64 `json:"v" unit:"V"`
}

type voltageIn struct {
	Readings []voltageReading `json:"readings"`
}

func calcVoltage(in voltageIn) (map[string]any, []working.Step, error) {
	w := &rulebook.Worked{}
	list := []any{}
	for _, r := range in.Readings {
		if err := rulebook.FirstError(rulebook.OneOf("readings.kind", r.Kind, "ll", "ln"), rulebook.ZeroOrMore("readings.v", r.V, "V")); err != nil {
			return nil, nil, err
		}
		found := "outside"
		for _, grade := range []string{"A", "B"} {
			row := voltageLimits.Where("id", grade+"-SVC-"+strings.ToUpper(r.Kind))
			if working.AtMost(voltageLimits.Num(row, "min"), r.V) && working.AtMost(r.V, voltageLimits.Num(row, "max")) {
				found = grade
				break
			}
		}
		w.Add(r.Kind, "range A, B or outside", found, r.V, "V", voltageLimits.Source.Ref)
		list = append(list, map[string]any{"v": r.V, "kind": r.Kind, "range": found})
	}
	return map[string]any{"readings": list}, w.Steps, nil
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
	at := func(id string) float64 { return rule(clearances, id) }
	if code == CEC {
		metres := func(id string) float64 { return at(id) * 1000 / inchMM }
		return spaceNeed{metres("CA-WS"), 0, metres("CA-WSH"), metres("CA-HANDLE")} // as wide as the equipment
	}
	return spaceNeed{at("WS-DEPTH"), at("WS-WIDTH"), at("WS-HEIGHT"), at("HANDLE")}
}

// calcSpace judges the working space in front of equipment and the place where it hangs
// (NEC 110.26, 240.24; CEC 2-308, 26-600).
func calcSpace(in spaceIn) (map[string]any, []working.Step, error) {
	place := boardTable.Where("place", in.Place)
	if place < 0 {
		return nil, nil, fmt.Errorf("place: %q is not accepted; give one of %q", in.Place, boardPlaces())
	}
	if err := rulebook.FirstError(rulebook.OneOf("school", in.School, "", "NEC", "CEC"), rulebook.ZeroOrMore("depth_in", in.DepthIn, "in"), rulebook.ZeroOrMore("width_in", in.WidthIn, "in"), rulebook.ZeroOrMore("equipment_width_in", in.EquipmentIn, "in"), rulebook.ZeroOrMore("height_in", in.HeightIn, "in"), rulebook.ZeroOrMore("equipment_top_in", in.TopIn, "in"), rulebook.ZeroOrMore("highest_handle_in", in.HandleIn, "in"), rulebook.ZeroOrMore("existing_rating_a", in.ExistingA, "A")); err != nil {
		return nil, nil, err
	}
	code := Code(cmp.Or(in.School, string(NEC)))
	n := spaceNeeds(code)
	w := &rulebook.Worked{}
	faults := []string{}
	judge := func(name string, need, have float64, ok bool) {
		w.Add(name, text("needs ", need), "", have, "in", under(clearances, code).Ref)
		if !ok {
			faults = append(faults, name)
		}
	}
	width, height := max(n.widthIn, in.EquipmentIn), max(n.heightIn, in.TopIn)
	judge("depth", n.depthIn, in.DepthIn, working.AtMost(n.depthIn, in.DepthIn))
	judge("width", width, in.WidthIn, working.AtMost(width, in.WidthIn))
	if most := rule(clearances, "WS-EXIST"); code == NEC && in.ExistingA > 0 && working.AtMost(in.ExistingA, most) {
		w.Add("height", text("not asked of existing equipment of a dwelling up to ", most, " A"), "", in.HeightIn, "in", "NEC 110.26(A)(3) exception 1")
	} else {
		judge("height", height, in.HeightIn, working.AtMost(height, in.HeightIn))
	}
	judge("handle", n.handleIn, in.HandleIn, working.AtMost(in.HandleIn, n.handleIn))
	if boardTable.Str(place, "barred") == "1" {
		faults = append(faults, "place")
	}
	if !in.Door90 {
		faults = append(faults, "door")
	}
	return map[string]any{"ok": len(faults) == 0, "faults": rulebook.Texts(faults)}, w.Steps, nil
}

func serviceCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("trench-bill", "parts and digging of an underground run", []string{"sticks", "joints", "couplings_with_bell_ends", "couplings_plain_ends", "sweeps", "ribbon_required", "ribbon_ft", "ribbon_max_depth_in", "trench_depth_in", "cover_required_in", "cover_ok", "excavation_yd3", "sweep_arc_ft", "bend_total_deg", "bend_ok"}, calcTrench),
		rulebook.Define("cover-verdict", "cover of buried runs", []string{"runs"}, calcCover),
		rulebook.Define("pvc-expansion", "expansion of a run of PVC, and its fittings", []string{"change_in", "fitting_required", "fittings", "room_for_expansion_in"}, calcExpansion),
		rulebook.Define("ground-rods", "one ground rod and two", []string{"r_single_ohm", "single_rod_ok", "r_two_ohm", "ratio_two_to_one", "spacing_ok", "two_rods_satisfy_code"}, calcRods),
		rulebook.Define("fall-of-potential", "an electrode read by fall of potential", []string{"probe_ft", "resistance_ohm", "spread_percent", "valid", "single_rod_ok"}, calcPotential),
		rulebook.Define("sequence", "which steps of a service change may come next", []string{"next_allowed", "violations"}, calcSequence),
		rulebook.Define("transfer", "a standby source: dark time, load and run after return", []string{"outage_s", "auto_full_load_ok", "shed_needed_va", "run_after_return_s"}, calcTransfer),
		rulebook.Define("voltage-range", "voltages of the service against their ranges", []string{"readings"}, calcVoltage),
		rulebook.Define("working-space", "working space in front of equipment", []string{"ok", "faults"}, calcSpace),
	}
}
