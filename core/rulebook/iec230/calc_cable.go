package iec230

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

func f(v float64) string { return unit.Format(v) }

// text joins words and figures into a line of working.
func text(parts ...any) string { return unit.Text(parts...) }

func phasesOK(p int) error {
	if p != 1 && p != 3 {
		return fmt.Errorf("phases: %d is not accepted; give 1 or 3", p)
	}
	return nil
}

type grouping struct {
	Arrangement string `json:"arrangement" doc:"bunched, single_layer_wall, perforated_tray, ladder; direct, single_way_duct"`
	N           int    `json:"n" doc:"circuits together, this one included"`
	Spacing     string `json:"spacing,omitempty" doc:"touching, one_diameter, 0.125m … in the ground"`
}

// conditions are what surrounds a cable and lowers what it may carry.
type conditions struct {
	School       string
	Table        string
	Column       string
	AmbientC     float64
	Ground       bool
	Grouping     *grouping
	InsulationMM float64
	SoilKmW      float64
	SoilColumn   string
	ApplyCc      bool
	Family       string
}

// factors are the correction factors of Appendix 4, each 1 when it does not act.
type factors struct{ ca, cg, ci, cs, cf, cc float64 }

func (x factors) product() float64 { return x.ca * x.cg * x.ci * x.cs * x.cf * x.cc }

// madeForInsulation reports whether the method already allows for thermal
// insulation, so that Ci is not applied on top (methods 100 to 103).
func madeForInsulation(column string) bool { return strings.HasPrefix(column, "m10") }

func correctionFactors(c conditions) (factors, error) {
	x := factors{1, 1, 1, 1, DeviceFactor(c.Family), 1}
	var err error
	if x.ca, err = AmbientFactor(c.School, insulationC(c.Table), c.AmbientC, c.Ground); err != nil {
		return x, rulebook.At("ambient_c", err)
	}
	if c.Grouping != nil {
		if x.cg, err = GroupingFactor(c.Grouping.Arrangement, c.Grouping.Spacing, c.Grouping.N); err != nil {
			return x, fmt.Errorf("grouping.%w", err)
		}
	}
	if !madeForInsulation(c.Column) {
		x.ci = InsulationFactor(c.InsulationMM)
	}
	if c.SoilKmW > 0 {
		if x.cs, err = SoilFactor(c.SoilKmW, c.SoilColumn); err != nil {
			return x, err
		}
	}
	if c.ApplyCc {
		x.cc = deviceFactors.Row(2).Factor
	}
	return x, nil
}

type cableSizeIn struct {
	Phases       int       `json:"phases" doc:"1 or 3"`
	PowerW       *float64  `json:"power_w" unit:"W"`
	IbA          *float64  `json:"ib_a" unit:"A" range:"above 0"`
	PF           *float64  `json:"pf" doc:"power factor, 1 when absent" range:"above 0"`
	InA          *float64  `json:"in_a" unit:"A" doc:"smallest rating of the family not under Ib when absent"`
	Family       *string   `json:"device_family" doc:"mcb_rcbo when absent"`
	Table        string    `json:"table" doc:"ccc_flat_te_70, ccc_swa_70, ccc_swa_90"`
	Column       string    `json:"column"`
	School       *string   `json:"school" doc:"bs7671 when absent, or iec60364"`
	AmbientC     float64   `json:"ambient_c" unit:"degC"`
	Ground       bool      `json:"ground,omitempty"`
	Grouping     *grouping `json:"grouping"`
	InsulationMM float64   `json:"insulation_mm,omitempty" unit:"mm"`
	SoilKmW      float64   `json:"soil_k_m_w,omitempty" unit:"K.m/W"`
	SoilColumn   *string   `json:"soil_col" doc:"direct or in_ducts"`
	ApplyCc      bool      `json:"apply_cc,omitempty" doc:"0.9 for cables in the ground"`
	RingFinal    bool      `json:"ring_final,omitempty"`
	LengthM      float64   `json:"length_m" unit:"m" range:"above 0"`
	LimitPc      float64   `json:"vd_limit_pc" unit:"%" range:"above 0"`
}

func nominal(phases int) float64 {
	if phases == 3 {
		return LineV
	}
	return NominalV
}

// ringLegA is the least current-carrying capacity of each leg of a 30/32 A
// ring final circuit, and ringDropA the current spread that stands for its
// load in the voltage drop (433.1.204).
const (
	ringLegA  = 20.0
	ringDropA = 26.0
)

type cableSizeOut struct {
	IbA       float64 `json:"ib_a"`
	InA       float64 `json:"in_a"`
	Ca        float64 `json:"ca"`
	Cg        float64 `json:"cg"`
	Ci        float64 `json:"ci"`
	Cs        float64 `json:"cs"`
	Cf        float64 `json:"cf"`
	Cc        float64 `json:"cc"`
	ItA       float64 `json:"it_min_a"`
	BySize    float64 `json:"size_ccc_mm2"` // for the current alone
	IzA       float64 `json:"iz_effective_a"`
	SizeMM2   float64 `json:"size_mm2"`
	DropV     float64 `json:"vd_v"`
	DropPc    float64 `json:"vd_pc"`
	Governing string  `json:"governing"`
}

func (in *cableSizeIn) family() string { return rulebook.Or(in.Family, "mcb_rcbo") }

// rating is the design current and the rating of the device: the one that is given, else the
// least of its family that carries the current.
func (in *cableSizeIn) rating(w *rulebook.Worked, pf float64) (ib, inA float64, err error) {
	switch {
	case in.IbA != nil:
		ib = *in.IbA
	case in.PowerW != nil:
		ib = w.Add("Ib", "P / (U × pf)", fmt.Sprintf("%s / (%s × %s)", f(*in.PowerW), f(nominal(in.Phases)), f(pf)),
			physics.Current(*in.PowerW, nominal(in.Phases), pf, in.Phases), "A", "")
	default:
		return 0, 0, fmt.Errorf("ib_a is missing: give ib_a in A or power_w in W")
	}
	if err := rulebook.Positive("ib_a", ib, "A"); err != nil {
		return 0, 0, err
	}
	family := in.family()
	ratings := Ratings(family)
	if ratings == nil {
		return 0, 0, fmt.Errorf("device_family %q is not known: %s", family, strings.Join(families(), ", "))
	}
	inA = math.NaN()
	if in.InA != nil {
		inA = *in.InA
	} else {
		for _, r := range ratings {
			if working.AtMost(ib, r) && !(inA < r) {
				inA = r
			}
		}
	}
	if math.IsNaN(inA) {
		return 0, 0, fmt.Errorf("in_a: no %s is rated %s A or more", family, f(ib))
	}
	if !working.AtMost(ib, inA) {
		return 0, 0, fmt.Errorf("in_a: %s A is under the design current of %s A; give a rating of at least that", f(inA), f(ib))
	}
	return ib, inA, nil
}

func cableSize(in cableSizeIn) (cableSizeOut, []working.Step, error) {
	w, out := &rulebook.Worked{}, cableSizeOut{}
	pf := rulebook.Or(in.PF, 1)
	if err := rulebook.FirstError(phasesOK(in.Phases), rulebook.Positive("length_m", in.LengthM, "m"),
		rulebook.Positive("vd_limit_pc", in.LimitPc, "%"), rulebook.Positive("pf", pf, "1")); err != nil {
		return out, nil, err
	}
	ib, inA, err := in.rating(w, pf)
	if err != nil {
		return out, nil, err
	}
	w.Add("In", "Ib ≤ In", in.family(), inA, "A", "433.1.1")
	if err := columnFits(in, inA); err != nil {
		return out, nil, err
	}
	t := capacityTables[in.Table]
	x, err := correctionFactors(conditions{School: rulebook.Or(in.School, "bs7671"), Table: in.Table, Column: in.Column,
		AmbientC: in.AmbientC, Ground: in.Ground, Grouping: in.Grouping,
		InsulationMM: in.InsulationMM, SoilKmW: in.SoilKmW, SoilColumn: rulebook.Or(in.SoilColumn, "in_ducts"),
		ApplyCc: in.ApplyCc, Family: in.family()})
	if err != nil {
		return out, nil, err
	}
	base := inA
	if in.RingFinal {
		base = ringLegA
	}
	it := w.Add("It", "In / (Ca × Cg × Ci × Cs × Cf × Cc)",
		fmt.Sprintf("%s / (%s × %s × %s × %s × %s × %s)", f(base), f(x.ca), f(x.cg), f(x.ci), f(x.cs), f(x.cf), f(x.cc)),
		base/x.product(), "A", t.Source.Ref)
	out = cableSizeOut{IbA: ib, InA: inA, Ca: x.ca, Cg: x.cg, Ci: x.ci, Cs: x.cs, Cf: x.cf, Cc: x.cc, ItA: it}
	sized := false
	for r := range t.Text {
		size, tabulated := t.Num(r, "size_mm2"), t.Num(r, in.Column)
		if !sized {
			if math.IsNaN(tabulated) || !working.AtMost(it, tabulated) || in.RingFinal && size < ringLeastMM2 {
				continue
			}
			sized = true
			out.BySize = size
			out.IzA = w.Add("Iz", "tabulated × factors", fmt.Sprintf("%s × %s", f(tabulated), f(x.product())),
				tabulated*x.product(), "A", t.Source.Ref)
		}
		mv, reactance, err := dropAt("phases", in.Table, size, in.Phases, "")
		if err != nil {
			return out, nil, err
		}
		load := ib
		if in.RingFinal {
			mv, reactance, load = mv/4, reactance/4, ringDropA
		}
		volts := physics.Drop(mv, reactance, pf, load, in.LengthM)
		pc := volts / nominal(in.Phases) * 100
		w.Add(fmt.Sprintf("drop, %s mm²", f(size)), "mV/A/m × Ib × L / 1000",
			fmt.Sprintf("%s × %s × %s / 1000 = %s V", f(physics.DropPerAmpereMetre(mv, reactance, pf)), f(load),
				f(in.LengthM), f(volts)), pc, "%", dropSource(in.Table))
		if working.AtMost(pc, in.LimitPc) {
			out.SizeMM2, out.DropV, out.DropPc, out.Governing = size, volts, pc, "ccc"
			if size != out.BySize {
				out.Governing = "vd"
			}
			return out, w.Steps, nil
		}
	}
	if !sized {
		return out, w.Steps, fmt.Errorf("column: no size in %s carries %s A in %s; give a lower current, a better method or the "+
			"table of a larger cable", in.Table, f(it), in.Column)
	}
	return out, w.Steps, fmt.Errorf("length_m: no size in %s keeps the drop over %s m within %s %%; give a shorter run or the "+
		"table of a larger cable", in.Table, f(in.LengthM), f(in.LimitPc))
}

// columnFits reports what is wrong with the column that a size is asked from, or with a
// device of inA amperes on a ring.
func columnFits(in cableSizeIn, inA float64) error {
	if err := knownTable(in.Table); err != nil {
		return err
	}
	switch columns := flatColumns(capacityTables[in.Table]); {
	case !slices.Contains(columns, in.Column):
		return fmt.Errorf("column: %q is not in table %s; give one of %s", in.Column, in.Table, strings.Join(columns, ", "))
	case in.Phases == 3 && loadedCores(in.Column) == 2:
		return fmt.Errorf("column: %q is of two loaded conductors; give a column of three for phases 3", in.Column)
	case in.RingFinal && !RingDevice(inA):
		return fmt.Errorf("in_a: %s A is not accepted for a ring final circuit; give 30 or 32 A, or size it as a radial", f(inA))
	}
	return nil
}

// loadedCores is how many conductors of a column carry load, 3 for one that is not of two.
func loadedCores(column string) int {
	if strings.HasPrefix(column, "m") || strings.HasSuffix(column, "_2c") || strings.HasSuffix(column, "2") {
		return 2
	}
	return 3
}

type dropIn struct {
	Phases  int      `json:"phases"`
	Table   string   `json:"table"`
	SizeMM2 float64  `json:"size_mm2" unit:"mm2"`
	Method  *string  `json:"vd_method" doc:"AB or C for single cores"`
	IbA     *float64 `json:"ib_a" unit:"A"`
	LengthM *float64 `json:"length_m" unit:"m"`
	Loads   []struct {
		AtM float64 `json:"at_m" unit:"m"`
		A   float64 `json:"a" unit:"A"`
	} `json:"loads,omitempty"`
	PF      *float64 `json:"pf"`
	LimitPc float64  `json:"limit_pc" unit:"%"`
	Ct      *struct {
		Ca float64 `json:"ca"`
		Cg float64 `json:"cg"`
		It float64 `json:"it_a" unit:"A"`
		Tp float64 `json:"tp" unit:"degC"`
	} `json:"ct"`
}

// ConductorTempFactor returns Ct, which lowers the resistive part of the drop
// when a cable runs under its full current (Appendix 4, 6.1).
func ConductorTempFactor(ca, cg, ib, it, tp float64) float64 {
	return (230 + tp - (ca*ca*cg*cg-ib*ib/(it*it))*(tp-30)) / (230 + tp)
}

// dropOut is what voltage-drop answers.
type dropOut struct {
	Ct     float64 `json:"ct"`
	VdV    float64 `json:"vd_v"`
	VdPc   float64 `json:"vd_pc"`
	Passes bool    `json:"passes"`
}

func voltageDrop(in dropIn) (out dropOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	pf := rulebook.Or(in.PF, 1)
	if err := rulebook.FirstError(phasesOK(in.Phases), rulebook.Positive("limit_pc", in.LimitPc, "%"),
		rulebook.Positive("pf", pf, "1")); err != nil {
		return out, nil, err
	}
	if pf > 1 {
		return out, nil, fmt.Errorf("pf: %g is not accepted; give a power factor above 0 and up to 1", pf)
	}
	type stretch struct{ m, a float64 }
	var run []stretch
	total := 0.0
	if len(in.Loads) > 0 {
		type tap struct{ at, a float64 }
		taps := make([]tap, 0, len(in.Loads))
		for _, l := range in.Loads {
			if err := rulebook.FirstError(rulebook.Positive("loads.at_m", l.AtM, "m"), rulebook.Positive("loads.a", l.A, "A")); err != nil {
				return out, nil, err
			}
			taps = append(taps, tap{l.AtM, l.A})
			total += l.A
		}
		for i := range taps { // few taps: insertion sort keeps equal places in order
			for j := i; j > 0 && taps[j].at < taps[j-1].at; j-- {
				taps[j], taps[j-1] = taps[j-1], taps[j]
			}
		}
		at, carries := 0.0, total
		for _, tp := range taps {
			run = append(run, stretch{tp.at - at, carries})
			at, carries = tp.at, carries-tp.a
		}
	} else {
		if in.IbA == nil || in.LengthM == nil {
			return out, nil, fmt.Errorf("ib_a and length_m are missing: give both, or loads")
		}
		if err := rulebook.FirstError(rulebook.Positive("ib_a", *in.IbA, "A"),
			rulebook.Positive("length_m", *in.LengthM, "m")); err != nil {
			return out, nil, err
		}
		total = *in.IbA
		run = []stretch{{*in.LengthM, total}}
	}
	r, x, err := dropAt("size_mm2", in.Table, in.SizeMM2, in.Phases, rulebook.Or(in.Method, ""))
	if err != nil {
		return out, nil, err
	}
	ct := 1.0
	if c := in.Ct; c != nil {
		if err := rulebook.FirstError(rulebook.Positive("ct.it_a", c.It, "A"), rulebook.Positive("ct.tp", c.Tp, "degC")); err != nil {
			return out, nil, err
		}
		ct = w.Add("Ct", "(230+tp−(Ca²Cg²−Ib²/It²)(tp−30))/(230+tp)",
			fmt.Sprintf("Ca %s, Cg %s, Ib %s, It %s, tp %s", f(c.Ca), f(c.Cg), f(total), f(c.It), f(c.Tp)),
			ConductorTempFactor(c.Ca, c.Cg, total, c.It, c.Tp), "", "Appendix 4, 6.1")
	}
	mv := w.Add("mV/A/m", "r × Ct × pf + x × sin φ", fmt.Sprintf("r %s, x %s, pf %s", f(r), f(x), f(pf)),
		physics.DropPerAmpereMetre(r*ct, x, pf), "mV/A/m", dropSource(in.Table))
	volts := 0.0
	for _, s := range run {
		volts += w.Add("stretch", "mV/A/m × I × L / 1000", fmt.Sprintf("%s × %s × %s / 1000", f(mv), f(s.a), f(s.m)),
			mv*s.a*s.m/1000, "V", "")
	}
	pc := w.Add("drop", "V / Un", fmt.Sprintf("%s / %s", f(volts), f(nominal(in.Phases))), volts/nominal(in.Phases)*100, "%", "")
	return dropOut{Ct: ct, VdV: volts, VdPc: pc, Passes: working.AtMost(pc, in.LimitPc)}, w.Steps, nil
}

type maxLengthIn struct {
	Table   string  `json:"table"`
	Line    float64 `json:"line_mm2" unit:"mm2"`
	CPC     float64 `json:"cpc_mm2" unit:"mm2"`
	Ze      float64 `json:"ze_ohm" unit:"ohm"`
	Curve   string  `json:"curve"`
	InA     float64 `json:"in_a" unit:"A"`
	TimeS   float64 `json:"time_s" unit:"s"`
	IbA     float64 `json:"ib_a" unit:"A"`
	LimitPc float64 `json:"limit_pc" unit:"%"`
	Ring    bool    `json:"ring,omitempty"`
}

// maxLengthOut is what max-length answers.
type maxLengthOut struct {
	LengthZsM  float64 `json:"length_zs_m"`
	LengthVdM  float64 `json:"length_vd_m"`
	MaxLengthM float64 `json:"max_length_m"`
	Governing  string  `json:"governing"`
}

func maxLength(in maxLengthIn) (out maxLengthOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	r1, e1 := ResistancePerM("cu", in.Line)
	r2, e2 := ResistancePerM("cu", in.CPC)
	mv, _, e3 := dropAt("line_mm2", in.Table, in.Line, 1, "")
	zs, _, e4 := ZsMax(in.Curve, in.InA, in.TimeS, CminDefault)
	if err := rulebook.FirstError(rulebook.At("line_mm2", e1), rulebook.At("cpc_mm2", e2), e3, e4,
		rulebook.Positive("ib_a", in.IbA, "A"), rulebook.Positive("in_a", in.InA, "A"),
		rulebook.Positive("limit_pc", in.LimitPc, "%")); err != nil {
		return out, nil, err
	}
	if !(in.Ze >= 0) {
		return out, nil, fmt.Errorf("ze_ohm: %g is not accepted; give 0 or more", in.Ze)
	}
	ways := 1.0
	if in.Ring && (!RingDevice(in.InA) || in.Line < ringLeastMM2) {
		return out, nil, fmt.Errorf("ring: %g mm² on %g A is not accepted; a ring has at least %g mm² on 30 or 32 A",
			in.Line, in.InA, ringLeastMM2)
	}
	if in.Ring {
		ways = 4 // the far point of a ring sees a quarter of the loop
	}
	m := HotMultiplier(insulationC(in.Table))
	byZs := w.Add("L by loop", "(Zs max − Ze) × 1000 / ((r1 + r2) × multiplier)",
		fmt.Sprintf("(%s − %s) × 1000 / (%s × %s)", f(zs), f(in.Ze), f(r1+r2), f(m)),
		max(0, (zs-in.Ze)*1000/((r1+r2)*m)*ways), "m", "411.4")
	byDrop := w.Add("L by drop", "limit × U0 × 1000 / (mV/A/m × Ib)",
		fmt.Sprintf("%s %% × %s × 1000 / (%s × %s)", f(in.LimitPc), f(NominalV), f(mv), f(in.IbA)),
		in.LimitPc/100*NominalV*1000/(mv*in.IbA)*ways, "m", "Appendix 4")
	governing := "vd"
	if byZs < byDrop {
		governing = "zs"
	}
	return maxLengthOut{LengthZsM: byZs, LengthVdM: byDrop, MaxLengthM: min(byZs, byDrop), Governing: governing}, w.Steps, nil
}

type bendClipIn struct {
	Armoured bool    `json:"armoured"`
	OD       float64 `json:"od_mm" unit:"mm"`
}

// BendFactor returns the smallest inside bend radius as a multiple of the
// overall diameter.
func BendFactor(armoured bool, od float64) float64 {
	if armoured {
		return bending.One(func(it *bendingRow) bool { return it.Cable == "armoured any" }).Factor
	}
	for r := range bending.Text {
		if to := bending.Row(r).OdToMM; math.IsNaN(to) || working.AtMost(od, to) {
			return bending.Row(r).Factor
		}
	}
	return bending.Row(2).Factor
}

// ClipSpacing returns the largest distance between clips in mm, horizontally
// and vertically, for a cable of the overall diameter (or major axis).
func ClipSpacing(armoured bool, od float64) (horizontal, vertical float64, err error) {
	kind := "flat or round sheathed"
	if armoured {
		kind = "armoured"
	}
	for r := range clipSpacing.Text {
		if clipSpacing.Row(r).Cable == kind && working.AtMost(od, clipSpacing.Row(r).OdToMM) {
			return clipSpacing.Row(r).HorizontalMM, clipSpacing.Row(r).VerticalMM, nil
		}
	}
	return 0, 0, fmt.Errorf("od_mm: %g is not accepted; the clip table goes up to 40 mm", od)
}

// bendClipOut is what bend-clip answers.
type bendClipOut struct {
	BendFactor       float64 `json:"bend_factor"`
	MinRadiusMm      float64 `json:"min_radius_mm"`
	ClipHorizontalMm float64 `json:"clip_horizontal_mm"`
	ClipVerticalMm   float64 `json:"clip_vertical_mm"`
}

func bendClip(in bendClipIn) (out bendClipOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if err := rulebook.Positive("od_mm", in.OD, "mm"); err != nil {
		return out, nil, err
	}
	h, v, err := ClipSpacing(in.Armoured, in.OD)
	if err != nil {
		return out, nil, err
	}
	factor := BendFactor(in.Armoured, in.OD)
	radius := w.Add("r min", "factor × diameter", fmt.Sprintf("%s × %s", f(factor), f(in.OD)), factor*in.OD, "mm", bending.Source.Ref)
	return bendClipOut{BendFactor: factor, MinRadiusMm: radius, ClipHorizontalMm: h, ClipVerticalMm: v}, w.Steps, nil
}

func cableCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("cable-size", "smallest cable that carries the device's current under its conditions and keeps the drop",
			cableSize),
		rulebook.Define("voltage-drop", "voltage drop of one load or of loads along a run", voltageDrop),
		rulebook.Define("max-length", "longest circuit by loop impedance and by drop", maxLength),
		rulebook.Define("bend-clip", "bend radius and clip spacing of a cable", bendClip),
	}
}
