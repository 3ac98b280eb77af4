package split120

import (
	"encoding/json"
	"fmt"
	"math"

	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

var (
	conductorAreas = table.LoadOf[conductorAreasRow](dataFiles, "conductor_areas")
	conduits       = table.LoadOf[conduitsRow](dataFiles, "conduit")
	fillLimits     = table.LoadOf[fillLimitsRow](dataFiles, "conduit_fill_limits")
	boxVolumes     = table.LoadOf[boxVolumesRow](dataFiles, "box_fill")
	boxRules       = table.LoadOf[boxRulesRow](dataFiles, "box_fill_rules")
	screwTorques   = table.LoadOf[screwTorquesRow](dataFiles, "torque_screw")
	hexTorques     = table.LoadOf[hexTorquesRow](dataFiles, "torque_hex_socket")
	voltageLimits  = table.LoadOf[voltageLimitsRow](dataFiles, "voltage_limits")
)

type ampacityIn struct {
	Size        string  `json:"size" doc:"14 … 1, 1/0 … 4/0, then kcmil 250 … 600"`
	Material    string  `json:"material" doc:"cu, al"`
	InsulationC float64 `json:"insulation_c" unit:"degC"`
	AmbientC    float64 `json:"ambient_c" unit:"degC"`
	CCC         float64 `json:"ccc" doc:"current-carrying conductors together"`
	TerminalC   float64 `json:"terminal_c" unit:"degC"`
	NMB         bool    `json:"nm_b,omitempty"`
	NextUp      bool    `json:"next_size_up" doc:"false for a circuit of several receptacles"`
	Roof        bool    `json:"rooftop_adder,omitempty"`
	School      string  `json:"school,omitempty" doc:"NEC, CEC"`
}

// ampacityOut is what ampacity answers.
type ampacityOut struct {
	AmbientUsedC  float64 `json:"ambient_used_c"`
	FactorAmbient float64 `json:"factor_ambient"`
	FactorAdjust  float64 `json:"factor_adjust"`
	DeratedA      float64 `json:"derated_a"`
	CapA          float64 `json:"cap_a"`
	Ampacity      float64 `json:"ampacity"`
	MaxOcpd       float64 `json:"max_ocpd"`
}

func calcAmpacity(in ampacityIn) (out ampacityOut, steps []working.Step, err error) {
	c := Conditions{in.Material, in.InsulationC, in.AmbientC, in.CCC, in.TerminalC, in.NMB, in.Roof, in.School}
	if err := rulebook.FirstError(sizeOK("size", in.Size, in.Material), c.check()); err != nil {
		return out, nil, err
	}
	a, err := c.Of(in.Size, in.NextUp)
	if err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	w.Add("derated", "tabulated × ambient × adjustment",
		text(tabulated(in.Size, in.Material, in.InsulationC), " × ", a.Ambient, " × ", a.Adjust), a.DeratedA, "A", ampacities.Source.Ref)
	w.Add("cap", "column of the terminals", text(in.TerminalC, " °C"), a.CapA, "A", "NEC 110.14(C)")
	w.Add("ampacity", "the smaller", text("min(", a.DeratedA, ", ", a.CapA, ")"), a.A, "A", "")
	w.Add("device", "standard rating", "", a.MaxOCPDA, "A", "NEC 240.4, 240.6(A)")
	return ampacityOut{AmbientUsedC: a.AmbientC, FactorAmbient: a.Ambient, FactorAdjust: a.Adjust, DeratedA: a.DeratedA,
		CapA: a.CapA, Ampacity: a.A, MaxOcpd: a.MaxOCPDA}, w.Steps, nil
}

type evIn struct {
	ContinuousA float64 `json:"continuous_a" unit:"A" range:"above 0"`
	OtherA      float64 `json:"other_a,omitempty" unit:"A" doc:"load that is not continuous" range:"0 or more"`
	Material    string  `json:"material" doc:"cu, al"`
	InsulationC float64 `json:"insulation_c" unit:"degC"`
	AmbientC    float64 `json:"ambient_c" unit:"degC"`
	CCC         float64 `json:"ccc" doc:"current-carrying conductors together"`
	TerminalC   float64 `json:"terminal_c" unit:"degC"`
	NMB         bool    `json:"nm_b,omitempty"`
}

// evOut is what ev-circuit answers.
type evOut struct {
	MinRatingA float64 `json:"min_rating_a"`
	Ocpd       float64 `json:"ocpd"`
	Conductor  string  `json:"conductor"`
	DeratedA   float64 `json:"derated_a"`
	CapA       float64 `json:"cap_a"`
	EgcCu      string  `json:"egc_cu"`
}

// calcEV sizes a circuit of a continuous load: 125 % of it for the device and for
// the column of the terminals, the load itself for the derated conductor.
func calcEV(in evIn) (out evOut, steps []working.Step, err error) {
	c := Conditions{in.Material, in.InsulationC, in.AmbientC, in.CCC, in.TerminalC, in.NMB, false, ""}
	if err := rulebook.FirstError(rulebook.OneOf("material", in.Material, "cu", "al"), c.check(),
		rulebook.Positive("continuous_a", in.ContinuousA, "A"), rulebook.ZeroOrMore("other_a", in.OtherA, "A")); err != nil {
		return out, nil, err
	}
	if _, err := c.Of("2", true); err != nil { // the conditions are refused before a size is looked for
		return out, nil, err
	}
	w := &rulebook.Worked{}
	least := w.Add("load", "125 % of the continuous + the rest", text("1.25 × ", in.ContinuousA, " + ", in.OtherA),
		rule(ampacityRules.Table, "CONT-125")*in.ContinuousA+in.OtherA, "A", "NEC 210.19, 210.20, 625.41")
	ocpd := NextRating(least)
	if ocpd == 0 {
		return out, nil, fmt.Errorf("continuous_a: %g is not accepted; no standard rating reaches %g A", in.ContinuousA, least)
	}
	w.Add("device", "next standard rating", "", ocpd, "A", "NEC 240.6(A)")
	var a Ampacity
	size := smallest(in.Material, func(s string) bool {
		a, _ = c.Of(s, true)
		return working.AtMost(least, a.CapA) && working.AtMost(in.ContinuousA+in.OtherA, a.DeratedA) && working.AtMost(ocpd, a.MaxOCPDA)
	})
	if size == "" {
		return out, nil, fmt.Errorf("continuous_a: %g is not accepted; no size up to 600 kcmil carries it under these conditions",
			in.ContinuousA)
	}
	w.Add("derated", "tabulated × factors, "+size, text(tabulated(size, in.Material, in.InsulationC), " × ", a.Ambient,
		" × ", a.Adjust), a.DeratedA, "A", ampacities.Source.Ref)
	w.Add("terminals", "their column", "", a.CapA, "A", "NEC 110.14(C)")
	return evOut{MinRatingA: least, Ocpd: ocpd, Conductor: size, DeratedA: a.DeratedA, CapA: a.CapA,
		EgcCu: GroundSize("cu", ocpd)}, w.Steps, nil
}

type dropIn struct {
	Material string  `json:"material" doc:"cu, al"`
	Size     string  `json:"size"`
	CurrentA float64 `json:"current_a" unit:"A" range:"0 or more"`
	LengthFt float64 `json:"length_ft" unit:"ft" doc:"one way" range:"0 or more"`
	Volts    float64 `json:"volts" unit:"V" range:"above 0"`
	LimitPc  float64 `json:"limit_percent" unit:"%" range:"above 0"`
	MinSize  string  `json:"min_size,omitempty" doc:"where to begin"`
	Sets     int     `json:"sets,omitempty" doc:"in parallel"`
}

// resistivityK is that of a conductor at 75 °C in Ω·cmil/ft, K in the drop's formula.
func resistivityK(material string) float64 {
	return voltageLimits.One(func(row *voltageLimitsRow) bool {
		return row.ID == "K-"+map[string]string{"cu": "CU", "al": "AL"}[material]
	}).Max
}

// dropV is the drop in volts of a single-phase run by the K formula: 2·K·I·L/CM.
func dropV(material, size string, amps, feet, sets float64) float64 {
	return 2 * resistivityK(material) * amps * feet / Cmil(size) / sets
}

type dropOut struct {
	V        float64 `json:"vd_v"`
	Percent  float64 `json:"vd_percent"`
	TableV   float64 `json:"vd_table_v"`
	Within   bool    `json:"within_limit"`
	Smallest *string `json:"smallest_size_for_limit"` // null where no size is enough
}

func calcVoltageDrop(in dropIn) (dropOut, []working.Step, error) {
	var out dropOut
	sets := float64(max(in.Sets, 1))
	if err := rulebook.FirstError(sizeOK("size", in.Size, in.Material), rulebook.ZeroOrMore("current_a", in.CurrentA, "A"),
		rulebook.ZeroOrMore("length_ft", in.LengthFt, "ft"), rulebook.Positive("volts", in.Volts, "V"),
		rulebook.Positive("limit_percent", in.LimitPc, "%")); err != nil {
		return out, nil, err
	}
	if in.MinSize != "" {
		if err := sizeOK("min_size", in.MinSize, in.Material); err != nil {
			return out, nil, err
		}
	}
	w := &rulebook.Worked{}
	v := w.Add("drop", "2 × K × I × L / CM / sets",
		text("I ", in.CurrentA, " A, L ", in.LengthFt, " ft, CM ", Cmil(in.Size)),
		dropV(in.Material, in.Size, in.CurrentA, in.LengthFt, sets), "V", voltageLimits.Source.Ref)
	pc := w.Add("drop", "V / U", text(v, " / ", in.Volts), v/in.Volts*100, "%", "")
	r := conductors.Num(conductors.Find(func(it *conductorsRow) bool { return it.Size == in.Size }), "r_dc_"+in.Material+"_ohm_kft")
	byTable := w.Add("by the table", "2 × L × R / 1000 × I / sets", text("R ", r, " Ω/kft"),
		2*in.LengthFt*r/1000*in.CurrentA/sets, "V", conductors.Source.Ref)
	fits := smallest(in.Material, func(s string) bool {
		return (in.MinSize == "" || larger(s, in.MinSize) == s) &&
			working.AtMost(dropV(in.Material, s, in.CurrentA, in.LengthFt, sets)/in.Volts*100, in.LimitPc)
	})
	out = dropOut{V: v, Percent: pc, TableV: byTable, Within: working.AtMost(pc, in.LimitPc)}
	if fits != "" {
		out.Smallest = &fits
	}
	return out, w.Steps, nil
}

type serviceIn struct {
	RatingA  float64  `json:"rating_a" unit:"A"`
	Material string   `json:"material" doc:"cu, al"`
	NeutralA float64  `json:"neutral_load_a" unit:"A"`
	Sets     int      `json:"parallel_sets,omitempty"`
	Whole    *bool    `json:"whole_dwelling,omitempty" doc:"carries the whole load of one dwelling; yes unless said"`
	NextUp   bool     `json:"next_size_up,omitempty" doc:"sized for the calculated load, the next rating up protects it"`
	LoadA    *float64 `json:"calculated_load_a,omitempty" unit:"A"`
}

// requiredA is what the conductors of a service must carry (NEC 310.12): 83 % of
// the rating for the whole load of one dwelling of 100 to 400 A, else the rating.
func requiredA(ratingA float64, whole bool) (float64, error) {
	if !whole {
		return ratingA, nil
	}
	if ratingA < 100 || ratingA > 400 {
		return 0, fmt.Errorf("rating_a: %g is not accepted for 83 %%; give 100 to 400 A, or say that it does not carry the whole dwelling",
			ratingA)
	}
	return rule(ampacityRules.Table, "DWELL-83") * ratingA, nil
}

// serviceOut is what service-sizing answers; sizes are trade sizes.
type serviceOut struct {
	Required      float64 `json:"required_ampacity"`
	Conductor     string  `json:"conductor"`
	Carries       float64 `json:"ampacity_75"`
	GECWaterCu    string  `json:"gec_water_cu"`
	GECWaterAl    string  `json:"gec_water_al"`
	GECRodCu      string  `json:"gec_rod_cu"`
	GECConcreteCu string  `json:"gec_concrete_cu"`
	Jumper        string  `json:"mbj_cu"`
	Neutral       string  `json:"neutral_min"`
	FeederCu      string  `json:"feeder_egc_cu"`
	FeederAl      string  `json:"feeder_egc_al"`
	PerRaceway    string  `json:"ssbj_per_raceway_cu,omitempty"` // of several sets
}

func calcService(in serviceIn) (out serviceOut, steps []working.Step, err error) {
	n := max(in.Sets, 1)
	sets := float64(n)
	if err := rulebook.FirstError(rulebook.OneOf("material", in.Material, "cu", "al"),
		rulebook.Positive("rating_a", in.RatingA, "A"), rulebook.ZeroOrMore("neutral_load_a", in.NeutralA, "A"),
		rulebook.Between("parallel_sets", sets, 1, 6, "sets")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	need, err := requiredA(in.RatingA, rulebook.Or(in.Whole, true))
	rulesOut := "rating, or 83 % of it for a whole dwelling"
	if in.NextUp {
		if in.LoadA == nil {
			return out, nil, fmt.Errorf("calculated_load_a is missing: with the next rating up the conductor carries the " +
				"calculated load; give it in A")
		}
		need, err, rulesOut = *in.LoadA, rulebook.Positive("calculated_load_a", *in.LoadA, "A"),
			"calculated load, the next rating up protects it"
	}
	if err != nil {
		return out, nil, err
	}
	w.Add("required", rulesOut, text(in.RatingA, " A"), need, "A", "NEC 310.12, 240.4(B)")
	parallel := func(s string) bool {
		return n == 1 || larger(s,
			ampacityRules.One(func(it *ampacityRulesRow) bool { return it.ID == "PARALLEL" }).Value) == s
	}
	size := smallest(in.Material, func(s string) bool {
		a := tabulated(s, in.Material, 75) * sets
		return parallel(s) && working.AtMost(need, a) && (!in.NextUp || working.AtMost(in.RatingA, NextRating(a)))
	})
	if size == "" {
		return out, nil, fmt.Errorf("rating_a: %g is not accepted; no size up to 600 kcmil in %d sets carries %g A: give more "+
			"parallel_sets", in.RatingA, n, need)
	}
	carries := w.Add("ampacity", "75 °C column × sets, "+size, text(tabulated(size, in.Material, 75), " × ", n),
		tabulated(size, in.Material, 75)*sets, "A", ampacities.Source.Ref)
	kcmil := Cmil(size) / 1000
	row := byArea(electrodeSizes.Table, in.Material, kcmil*sets)
	gec := electrodeSizes.Row(row).GecCu
	jumper := jumperFor("cu", in.Material, kcmil*sets)
	perRaceway := jumperFor("cu", in.Material, kcmil)
	neutral := smallest(in.Material, func(s string) bool {
		return parallel(s) && working.AtMost(in.NeutralA/sets, tabulated(s, in.Material, 75))
	})
	if neutral == "" {
		return out, nil, fmt.Errorf("neutral_load_a: %g is not accepted; no size up to 600 kcmil in %d sets carries it", in.NeutralA, n)
	}
	neutral = larger(neutral, jumperFor(in.Material, in.Material, kcmil))
	w.Add("electrode conductor", "by area of the service conductor", text(kcmil*sets, " kcmil: ", gec, " cu"), kcmil*sets,
		"kcmil", electrodeSizes.Source.Ref)
	out = serviceOut{Required: need, Conductor: size, Carries: carries,
		GECWaterCu: gec, GECWaterAl: electrodeSizes.Row(row).GecAl, GECRodCu: smaller(gec, "6"),
		GECConcreteCu: smaller(gec, "4"), Jumper: jumper, Neutral: neutral,
		FeederCu: GroundSize(copper, in.RatingA), FeederAl: GroundSize(aluminum, in.RatingA)}
	if n > 1 {
		out.PerRaceway = perRaceway
	}
	return out, w.Steps, nil
}

// jumperFor is the bonding jumper of a material for service conductors of an area
// in kcmil; above the table 12.5 % of it (NEC 250.102(C)(1)).
func jumperFor(of, material string, kcmil float64) string {
	if r := byArea(jumperSizes.Table, material, kcmil); r >= 0 {
		return jumperSizes.Str(r, "jumper_"+of)
	}
	return smallest(of, func(s string) bool { return working.AtMost(0.125*kcmil*1000, Cmil(s)) })
}

type deratedIn struct {
	RatingA     float64 `json:"rating_a" unit:"A"`
	Material    string  `json:"material" doc:"cu, al"`
	InsulationC float64 `json:"insulation_c" unit:"degC"`
	AmbientC    float64 `json:"ambient_c" unit:"degC"`
	CCC         float64 `json:"ccc" doc:"current-carrying conductors together"`
}

// deratedOut is what service-derated answers.
type deratedOut struct {
	RequiredAmpacity float64 `json:"required_ampacity"`
	TableSize        string  `json:"table_size"`
	Conductor        string  `json:"conductor"`
	DeratedA         float64 `json:"derated_a"`
}

func calcServiceDerated(in deratedIn) (out deratedOut, steps []working.Step, err error) {
	c := Conditions{in.Material, in.InsulationC, in.AmbientC, in.CCC, 75, false, false, ""}
	need, err := requiredA(in.RatingA, true)
	if err := rulebook.FirstError(rulebook.OneOf("material", in.Material, "cu", "al"), c.check(), err); err != nil {
		return out, nil, err
	}
	if _, err := c.Of("2", true); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	w.Add("required", "83 % of the rating", text("0.83 × ", in.RatingA), need, "A", "NEC 310.12")
	plain := smallest(in.Material, func(s string) bool { return working.AtMost(need, tabulated(s, in.Material, 75)) })
	var a Ampacity
	size := smallest(in.Material, func(s string) bool {
		a, _ = c.Of(s, true)
		return working.AtMost(need, a.A)
	})
	if size == "" {
		return out, nil, fmt.Errorf("rating_a: %g is not accepted; no size up to 600 kcmil carries %g A under these conditions", in.RatingA,
			need)
	}
	w.Add("derated", "tabulated × ambient × adjustment, "+size,
		text(tabulated(size, in.Material, in.InsulationC), " × ", a.Ambient, " × ", a.Adjust), a.DeratedA, "A", ampacities.Source.Ref)
	return deratedOut{RequiredAmpacity: need, TableSize: plain, Conductor: size, DeratedA: a.DeratedA}, w.Steps, nil
}

type upsizeIn struct {
	OCPDA     float64 `json:"ocpd_a" unit:"A" range:"1 to 800"`
	Required  string  `json:"required" doc:"size that the load needs"`
	Installed string  `json:"installed" doc:"size that is pulled"`
}

// upsizeOut is what egc-upsize answers.
type upsizeOut struct {
	BaseEgc    string  `json:"base_egc"`
	Ratio      float64 `json:"ratio"`
	NeededCmil float64 `json:"needed_cmil"`
	Egc        string  `json:"egc"`
}

// calcUpsize raises the equipment grounding conductor with its circuit conductors
// (NEC 250.122(B)). AWG steps are geometric and results land on sizes: areas are
// compared with 0.1 %.
func calcUpsize(in upsizeIn) (out upsizeOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(sizeOK("required", in.Required, "cu"), sizeOK("installed", in.Installed, "cu"),
		rulebook.Between("ocpd_a", in.OCPDA, 1, 800, "A")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	base := GroundSize("cu", in.OCPDA)
	ratio := w.Add("ratio", "installed / required", text(Cmil(in.Installed), " / ", Cmil(in.Required)),
		max(1, Cmil(in.Installed)/Cmil(in.Required)), "", "NEC 250.122(B)")
	need := w.Add("needed", "area by the table × ratio, "+base, text(Cmil(base), " × ", ratio), Cmil(base)*ratio, "cmil",
		groundSizes.Source.Ref)
	size := smallest("cu", func(s string) bool { return Cmil(s) >= need*(1-0.001) })
	if size == "" || larger(size, in.Installed) == size {
		size = in.Installed // never larger than the circuit conductors (250.122(A))
	}
	return upsizeOut{BaseEgc: base, Ratio: ratio, NeededCmil: need, Egc: size}, w.Steps, nil
}

// having lists the names of the rows of a table that have a number in a column.
func having(t *table.Table, name, column string) (names []string) {
	for r := range t.Text {
		if !math.IsNaN(t.Num(r, column)) {
			names = append(names, t.Str(r, name))
		}
	}
	return names
}

// wires is a number of conductors of one kind and size: ["thhn", "3/0", 3].
type wires struct {
	kind, size string
	n          float64
}

// Tuple says how one is written in a list of lists.
func (wires) Tuple() string { return "insulation size count" }

func (x *wires) UnmarshalJSON(raw []byte) error {
	var parts []any
	if err := json.Unmarshal(raw, &parts); err != nil {
		return fmt.Errorf("conductors: %s is not accepted; give [insulation, size, count], the count a whole number from 1", raw)
	}
	var ok1, ok2, ok3 bool
	if len(parts) == 3 {
		x.kind, ok1 = parts[0].(string)
		x.size, ok2 = sizeText(parts[1])
		x.n, ok3 = parts[2].(float64)
	}
	if !ok1 || !ok2 || !ok3 || x.n < 1 || x.n != math.Trunc(x.n) {
		return fmt.Errorf("conductors: %s is not accepted; give [insulation, size, count], the count a whole number from 1", raw)
	}
	return nil
}

// sizeText reads a size that may have been written as a number.
func sizeText(v any) (string, bool) {
	switch v := v.(type) {
	case string:
		return v, true
	case float64:
		return text(v), true
	}
	return "", false
}

type conduitIn struct {
	Type       string   `json:"type" doc:"emt, pvc40, pvc80"`
	Conductors []wires  `json:"conductors" doc:"thhn, xhhw or compact_xhhw"`
	Check      string   `json:"check_size,omitempty" doc:"trade size to check"`
	NippleIn   *float64 `json:"nipple_in,omitempty" unit:"in"`
}

// conduitOut is what conduit-fill answers: the smallest trade size, nil where none holds
// them, and how full a size that was asked for is.
type conduitOut struct {
	AreaIn2   float64  `json:"area_in2"`
	Limit     float64  `json:"limit_percent"`
	Size      *string  `json:"trade_size"`
	Fill      *float64 `json:"fill_percent"`
	Checked   *float64 `json:"checked_fill_percent,omitempty"`
	CheckedOK *bool    `json:"checked_ok,omitempty"`
}

func calcConduit(in conduitIn) (out conduitOut, steps []working.Step, err error) {
	if err := rulebook.OneOf("type", in.Type, "emt", "pvc40", "pvc80"); err != nil {
		return out, nil, err
	}
	if len(in.Conductors) == 0 {
		return out, nil, fmt.Errorf("conductors: an empty list is not accepted; give [insulation, size, count] for each kind")
	}
	area, count := 0.0, 0.0
	for _, c := range in.Conductors {
		if err := rulebook.OneOf("conductors", c.kind, "thhn", "xhhw", "compact_xhhw"); err != nil {
			return out, nil, err
		}
		r := conductorAreas.Find(func(it *conductorAreasRow) bool { return it.Size == c.size })
		if r < 0 || math.IsNaN(conductorAreas.Num(r, c.kind+"_area_in2")) {
			return out, nil, fmt.Errorf("conductors: %q is not in the table of %s; give one of %q", c.size, c.kind,
				having(conductorAreas.Table, "size", c.kind+"_area_in2"))
		}
		area, count = area+conductorAreas.Num(r, c.kind+"_area_in2")*c.n, count+c.n
	}
	w := &rulebook.Worked{}
	w.Add("area", "sum of the conductors", text(count, " conductors"), area, "in²", conductorAreas.Source.Ref)
	row := min(count, 3) - 1
	if in.NippleIn != nil {
		if err := rulebook.Positive("nipple_in", *in.NippleIn, "in"); err != nil {
			return out, nil, err
		}
		if *in.NippleIn <= 24 {
			row = 3
		}
	}
	limit := w.Add("limit", "fill by the number of conductors, or of a nipple up to 24 in", "",
		fillLimits.Row(int(row)).FillPercent, "%", fillLimits.Source.Ref)
	fill := func(r int) float64 { return area / conduits.Num(r, in.Type+"_area_in2") * 100 }
	out.AreaIn2, out.Limit = area, limit
	for r := range conduits.Text {
		if working.AtMost(fill(r), limit) {
			size := conduits.Row(r).TradeSize
			percent := w.Add("fill", "area / inside, "+size, "", fill(r), "%", conduits.Source.Ref)
			out.Size, out.Fill = &size, &percent
			break
		}
	}
	if in.Check != "" {
		r := conduits.Find(func(it *conduitsRow) bool { return it.TradeSize == in.Check })
		if r < 0 {
			return out, nil, fmt.Errorf("check_size: %q is not accepted; give a trade size from 1/2 to 4", in.Check)
		}
		percent, ok := fill(r), working.AtMost(fill(r), limit)
		out.Checked, out.CheckedOK = &percent, &ok
	}
	return out, w.Steps, nil
}

// of one lbf·in

func conductorCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("ampacity", "what a conductor carries, and what may protect it", calcAmpacity),
		rulebook.Define("ev-circuit", "device and conductor of a continuous load", calcEV),
		rulebook.Define("voltage-drop", "voltage drop of a run, and the smallest size within the limit", calcVoltageDrop),
		rulebook.Define("service-sizing", "conductors, jumpers and electrode conductors of a service", calcService),
		rulebook.Define("service-derated", "a dwelling service through a hot place", calcServiceDerated),
		rulebook.Define("egc-upsize", "the equipment grounding conductor raised with its circuit", calcUpsize),
		rulebook.Define("conduit-fill", "fill of a conduit and the smallest that holds it", calcConduit),
		rulebook.Define("box-fill", "volume that conductors and devices take in a box", calcBox),
		rulebook.Define("torque", "torque of a terminal: marked, else by the tables", calcTorque),
	}
}
