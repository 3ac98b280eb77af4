package iec230

import (
	"fmt"
	"math"
	"slices"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

type zsIn struct {
	Ze         float64  `json:"ze_ohm" unit:"ohm"`
	Line       float64  `json:"line_mm2" unit:"mm2"`
	CPC        float64  `json:"cpc_mm2" unit:"mm2"`
	LengthM    float64  `json:"length_m" unit:"m" range:"above 0"`
	Multiplier *float64 `json:"multiplier" doc:"20 degC to operating temperature, 1.2 when absent" range:"above 0"`
	Curve      string   `json:"curve"`
	InA        float64  `json:"in_a" unit:"A" range:"above 0"`
	TimeS      float64  `json:"time_s" unit:"s"`
	Cmin       *float64 `json:"cmin" doc:"0.95 when absent" range:"above 0"`
	RCD        *float64 `json:"rcd_ma" unit:"mA" range:"above 0"`
}

type zsOut struct {
	R1R2        float64  `json:"r1r2_ohm"`
	Zs          float64  `json:"zs_ohm"`
	ZsMax       float64  `json:"zs_max_ohm"`
	Ia          float64  `json:"ia_a"`
	FaultMin    float64  `json:"fault_min_a"`
	Passes      bool     `json:"passes"`
	RCDZsMax    *float64 `json:"rcd_zs_max_ohm,omitempty"`
	PassesByRCD *bool    `json:"passes_with_rcd,omitempty"`
}

func zsCheck(in zsIn) (zsOut, []working.Step, error) {
	var out zsOut
	w := &rulebook.Worked{}
	r1, e1 := ResistancePerM("cu", in.Line)
	r2, e2 := ResistancePerM("cu", in.CPC)
	cmin, m := rulebook.Or(in.Cmin, CminDefault), rulebook.Or(in.Multiplier, HotMultiplier(70))
	limit, ia, e3 := ZsMax(in.Curve, in.InA, in.TimeS, cmin)
	if err := rulebook.FirstError(rulebook.At("line_mm2", e1), rulebook.At("cpc_mm2", e2), e3,
		rulebook.Positive("length_m", in.LengthM, "m"), rulebook.Positive("in_a", in.InA, "A"),
		rulebook.Positive("multiplier", m, "1"), rulebook.Positive("cmin", cmin, "1")); err != nil {
		return out, nil, err
	}
	if !(in.Ze >= 0) {
		return out, nil, fmt.Errorf("ze_ohm: %g is not accepted; give 0 or more", in.Ze)
	}
	loop := w.Add("R1+R2", "(r1 + r2) × L × multiplier / 1000",
		fmt.Sprintf("(%s + %s) × %s × %s / 1000", f(r1), f(r2), f(in.LengthM), f(m)),
		physics.LoopResistance(r1, r2, in.LengthM, m), "Ω", conductors.Source.Ref)
	zs := w.Add("Zs", "Ze + (R1+R2)", text(in.Ze, " + ", loop), in.Ze+loop, "Ω", "")
	w.Add("Zs max", "U0 × Cmin / Ia", fmt.Sprintf("%s × %s / %s", f(NominalV), f(cmin), f(ia)), limit, "Ω", "411.4.4")
	fault := w.Add("If min", "U0 × Cmin / Zs", fmt.Sprintf("%s × %s / %s", f(NominalV), f(cmin), f(zs)), NominalV*cmin/zs, "A", "")
	out = zsOut{R1R2: loop, Zs: zs, ZsMax: limit, Ia: ia, FaultMin: fault, Passes: working.AtMost(zs, limit)}
	if in.RCD != nil {
		if err := rulebook.Positive("rcd_ma", *in.RCD, "mA"); err != nil {
			return out, nil, err
		}
		by := w.Add("Zs max with RCD", "50 / IΔn", fmt.Sprintf("50 / (%s / 1000)", f(*in.RCD)), TouchV*1000/(*in.RCD), "Ω",
			ttLimits.Source.Ref)
		passes := working.AtMost(zs, by)
		out.RCDZsMax, out.PassesByRCD = &by, &passes
	}
	return out, w.Steps, nil
}

type zsTempIn struct {
	Ze       float64 `json:"ze_ohm" unit:"ohm"`
	Measured float64 `json:"zs_measured_ohm" unit:"ohm"`
	TempC    float64 `json:"test_temp_c" unit:"degC"`
	Curve    string  `json:"curve"`
	InA      float64 `json:"in_a" unit:"A"`
	TimeS    float64 `json:"time_s" unit:"s"`
}

// siteShare is the share of the tabulated limit that a reading taken cold may
// reach (rule of thumb of the site).
var siteShare = testParameters.Fixed("zs_rule_of_thumb")

// ZsAtOperating corrects a measured loop impedance to operating temperature:
// only the part beyond Ze is the circuit's and warms with it.
func ZsAtOperating(ze, measured, tempC, multiplier float64) float64 {
	return ze + (measured-ze)*multiplier/(1+physics.TempCoefficient*(tempC-20))
}

// zsTempOut is what zs-temp-verdict answers.
type zsTempOut struct {
	ZsCorrectedOhm  float64 `json:"zs_corrected_ohm"`
	ZsMaxOhm        float64 `json:"zs_max_ohm"`
	PassesCorrected bool    `json:"passes_corrected"`
	Limit80pcOhm    float64 `json:"limit_80pc_ohm"`
	Passes80pc      bool    `json:"passes_80pc"`
}

func zsTempVerdict(in zsTempIn) (out zsTempOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	limit, _, err := ZsMax(in.Curve, in.InA, in.TimeS, CminDefault)
	if err := rulebook.FirstError(err, rulebook.Positive("zs_measured_ohm", in.Measured, "ohm"),
		rulebook.Positive("in_a", in.InA, "A")); err != nil {
		return out, nil, err
	}
	if in.Measured < in.Ze {
		return out, nil, fmt.Errorf("zs_measured_ohm: %g is under ze_ohm %g; the loop includes the supply, so measure both again",
			in.Measured, in.Ze)
	}
	hot := w.Add("Zs at 70 °C", "Ze + (Zm − Ze) × 1.2 / (1 + 0.004 (T − 20))",
		fmt.Sprintf("%s + (%s − %s) × 1.2 / (1 + 0.004 × (%s − 20))", f(in.Ze), f(in.Measured), f(in.Ze), f(in.TempC)),
		ZsAtOperating(in.Ze, in.Measured, in.TempC, HotMultiplier(70)), "Ω", testParameters.Source.Ref)
	w.Add("Zs max", "U0 × Cmin / Ia", "", limit, "Ω", "411.4.4")
	cold := w.Add("site limit", "0.8 × Zs max", fmt.Sprintf("%s × %s", f(siteShare), f(limit)), siteShare*limit, "Ω",
		testParameters.Source.Ref)
	return zsTempOut{ZsCorrectedOhm: hot, ZsMaxOhm: limit, PassesCorrected: working.AtMost(hot, limit), Limit80pcOhm: cold,
		Passes80pc: working.AtMost(in.Measured, cold)}, w.Steps, nil
}

type adiabaticIn struct {
	IA       *float64 `json:"i_a" unit:"A"`
	Zs       *float64 `json:"zs_ohm" unit:"ohm"`
	Cmin     *float64 `json:"cmin" doc:"1.0 when absent"`
	I2t      *float64 `json:"i2t" unit:"A2s" doc:"let-through energy in place of I2t"`
	TimeS    float64  `json:"t_s" unit:"s"`
	K        float64  `json:"k"`
	Proposed float64  `json:"proposed_mm2" unit:"mm2"`
}

type adiabaticOut struct {
	IA     *float64 `json:"i_a,omitempty"`
	SMin   float64  `json:"s_min_mm2"`
	Next   *float64 `json:"next_standard_mm2"` // null above the largest
	Passes bool     `json:"passes"`
}

func adiabatic(in adiabaticIn) (adiabaticOut, []working.Step, error) {
	var out adiabaticOut
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("t_s", in.TimeS, "s"), rulebook.Positive("k", in.K, "A√s/mm²"),
		rulebook.Positive("proposed_mm2", in.Proposed, "mm²")); err != nil {
		return out, nil, err
	}
	if in.TimeS > 5 {
		return out, nil, fmt.Errorf("t_s: %g is not accepted; the adiabatic rule holds up to 5 s", in.TimeS)
	}
	energy := 0.0
	switch {
	case in.IA != nil:
		if err := rulebook.Positive("i_a", *in.IA, "A"); err != nil {
			return out, nil, err
		}
		out.IA = in.IA
	case in.Zs != nil:
		if err := rulebook.Positive("zs_ohm", *in.Zs, "ohm"); err != nil {
			return out, nil, err
		}
		c := rulebook.Or(in.Cmin, 1)
		i := w.Add("I", "U0 × Cmin / Zs", fmt.Sprintf("%s × %s / %s", f(NominalV), f(c), f(*in.Zs)), NominalV*c/(*in.Zs), "A", "")
		out.IA = &i
	case in.I2t == nil:
		return out, nil, fmt.Errorf("i_a is missing: give i_a in A, zs_ohm in ohm, or i2t in A²s")
	}
	if out.IA != nil {
		energy = *out.IA * *out.IA * in.TimeS
	}
	if in.I2t != nil {
		energy = *in.I2t
		if err := rulebook.Positive("i2t", energy, "A²s"); err != nil {
			return out, nil, err
		}
	}
	s := w.Add("S min", "√(I²t) / k", fmt.Sprintf("√%s / %s", f(energy), f(in.K)), physics.Adiabatic(energy, in.K), "mm²", "543.1.3")
	out.SMin, out.Passes = s, working.AtMost(s, in.Proposed)
	if next := NextSize(s); !math.IsNaN(next) {
		out.Next = &next
	}
	return out, w.Steps, nil
}

type pfcIn struct {
	Phases int     `json:"phases"`
	Zln    float64 `json:"z_ln_ohm" unit:"ohm"`
	Zle    float64 `json:"z_le_ohm" unit:"ohm"`
	Icn    float64 `json:"icn_ka" unit:"kA"`
}

// pfcOut is what pfc answers.
type pfcOut struct {
	PsccLnA  float64 `json:"pscc_ln_a"`
	PefcA    float64 `json:"pefc_a"`
	PfcKa    float64 `json:"pfc_ka"`
	Adequate bool    `json:"adequate"`
}

func pfc(in pfcIn) (out pfcOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(phasesOK(in.Phases), rulebook.Positive("z_ln_ohm", in.Zln, "ohm"),
		rulebook.Positive("z_le_ohm", in.Zle, "ohm"), rulebook.Positive("icn_ka", in.Icn, "kA")); err != nil {
		return out, nil, err
	}
	ln := w.Add("line to neutral", "U0 / Z", fmt.Sprintf("%s / %s", f(NominalV), f(in.Zln)),
		physics.FaultCurrent(NominalV, in.Zln), "A", "")
	le := w.Add("line to earth", "U0 / Z", fmt.Sprintf("%s / %s", f(NominalV), f(in.Zle)), physics.FaultCurrent(NominalV, in.Zle), "A", "")
	high := max(ln, le)
	if in.Phases == 3 {
		high *= testPfcThreePhaseFromSingle.V()
	}
	w.Add("PFC", "highest, twice it for three phases", text(high, " / 1000"), high/1000, "kA", testParameters.Source.Ref)
	return pfcOut{PsccLnA: ln, PefcA: le, PfcKa: high / 1000, Adequate: working.AtMost(high/1000, in.Icn)}, w.Steps, nil
}

type ttIn struct {
	Ra  float64   `json:"ra_ohm" unit:"ohm"`
	Idn []float64 `json:"idn_ma" unit:"mA"`
}

// stableRa is the electrode resistance in ohms above which it may not be
// stable, as soil dries and freezes (note to Table 41.5).
var stableRa = ttLimits.Fixed("advice_max_ohm")

type ttOut struct {
	Devices []ttDevice `json:"devices"`
	Stable  bool       `json:"stable"`
	Improve bool       `json:"needs_improvement"`
}

type ttDevice struct {
	Idn    float64 `json:"idn_ma"`
	TouchV float64 `json:"touch_v"`
	RaMax  float64 `json:"ra_max_ohm"`
	Passes bool    `json:"passes"`
}

func ttElectrode(in ttIn) (ttOut, []working.Step, error) {
	var out ttOut
	w := &rulebook.Worked{}
	if err := rulebook.Positive("ra_ohm", in.Ra, "ohm"); err != nil {
		return out, nil, err
	}
	if len(in.Idn) == 0 {
		return out, nil, fmt.Errorf("idn_ma is empty: give at least one rated residual current in mA")
	}
	devices, allPass := []ttDevice{}, true
	for _, idn := range in.Idn {
		if err := rulebook.Positive("idn_ma", idn, "mA"); err != nil {
			return out, nil, err
		}
		touch := w.Add("touch voltage", "Ra × IΔn", fmt.Sprintf("%s × %s / 1000", f(in.Ra), f(idn)), in.Ra*idn/1000, "V",
			ttLimits.Source.Ref)
		ok := working.AtMost(touch, TouchV)
		allPass = allPass && ok
		devices = append(devices, ttDevice{Idn: idn, TouchV: touch, RaMax: TouchV * 1000 / idn, Passes: ok})
	}
	stable := working.AtMost(in.Ra, stableRa)
	return ttOut{Devices: devices, Stable: stable, Improve: !stable || !allPass}, w.Steps, nil
}

type rodIn struct {
	School     string   `json:"school" doc:"bs7430 or is3043"`
	LengthM    float64  `json:"length_m" unit:"m"`
	DiameterMM float64  `json:"diameter_mm" unit:"mm"`
	Rho        float64  `json:"rho_ohm_m" unit:"ohm.m"`
	N          *int     `json:"n"`
	SpacingM   *float64 `json:"spacing_m" unit:"m" doc:"rod length when absent"`
	Target     *float64 `json:"target_ohm" unit:"ohm"`
}

// groupFactor returns the published lambda for n rods in line, 0 for one.
func groupFactor(n int) (float64, error) {
	if n == 1 {
		return 0, nil
	}
	r := rodLambda.Find(func(it *rodLambdaRow) bool { return same(it.N, float64(n)) })
	if r < 0 {
		return 0, fmt.Errorf("n: %d rods is not accepted; the table has 1 to 10", n)
	}
	return rodLambda.Row(r).LambdaPublished, nil
}

type rodOut struct {
	Single float64  `json:"single_ohm"`
	A      *float64 `json:"a,omitempty"`
	Lambda *float64 `json:"lambda_n,omitempty"`
	Group  *float64 `json:"group_ohm,omitempty"`
	// Needed and GroupAtNeeded are null where ten rods do not reach the target, and absent
	// where none is given.
	Needed        **float64 `json:"rods_needed,omitempty"`
	GroupAtNeeded **float64 `json:"group_ohm_at_needed,omitempty"`
}

func rod(in rodIn) (rodOut, []working.Step, error) {
	var out rodOut
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("length_m", in.LengthM, "m"),
		rulebook.Positive("diameter_mm", in.DiameterMM, "mm"), rulebook.Positive("rho_ohm_m", in.Rho, "Ωm")); err != nil {
		return out, nil, err
	}
	formula, single := "ρ/(2πL) × (ln(8L/d) − 1)", physics.Rod(in.Rho, in.LengthM, in.DiameterMM/1000)
	switch in.School {
	case schoolBS7430:
	case schoolIS3043:
		formula, single = "ρ/(2πL) × ln(4L/d)", physics.RodIS(in.Rho, in.LengthM, in.DiameterMM/1000)
	default:
		return out, nil, fmt.Errorf("school: %q is not accepted; give bs7430 or is3043", in.School)
	}
	w.Add("R", formula, fmt.Sprintf("ρ %s, L %s, d %s", f(in.Rho), f(in.LengthM), f(in.DiameterMM/1000)), single, "Ω",
		map[string]string{"bs7430": "BS 7430 9.5", "is3043": "IS 3043"}[in.School])
	out.Single = single
	spacing := rulebook.Or(in.SpacingM, in.LengthM)
	if err := rulebook.Positive("spacing_m", spacing, "m"); err != nil {
		return out, nil, err
	}
	if in.N != nil {
		lambda, err := groupFactor(*in.N)
		if err != nil {
			return out, nil, err
		}
		group, a := physics.Rods(single, in.Rho, spacing, lambda, *in.N)
		w.Add("Rn", "R/n × (1 + λ a)", fmt.Sprintf("%s / %d × (1 + %s × %s)", f(single), *in.N, f(lambda), f(a)), group,
			"Ω", rodLambda.Source.Ref)
		out.A, out.Lambda, out.Group = &a, &lambda, &group
	}
	if in.Target != nil {
		if err := rulebook.Positive("target_ohm", *in.Target, "ohm"); err != nil {
			return out, nil, err
		}
		var needed, reached *float64
		out.Needed, out.GroupAtNeeded = &needed, &reached
		for n := 1; n <= 10; n++ {
			lambda, err := groupFactor(n)
			if err != nil {
				return out, nil, err
			}
			group, _ := physics.Rods(single, in.Rho, spacing, lambda, n)
			if working.AtMost(group, *in.Target) {
				w.Add("rods needed", "smallest n with Rn ≤ target",
					fmt.Sprintf("n %d: %s ≤ %s", n, f(group), f(*in.Target)), float64(n), "", "")
				rods := float64(n)
				needed, reached = &rods, &group
				break
			}
		}
	}
	return out, w.Steps, nil
}

type bondingIn struct {
	System    string   `json:"system" doc:"TN-C-S, TN-S, TT"`
	Neutral   *float64 `json:"neutral_mm2" unit:"mm2"`
	Material  *string  `json:"neutral_material" doc:"cu when absent, or al"`
	Earthing  *float64 `json:"earthing_conductor_mm2" unit:"mm2"`
	Line      float64  `json:"line_mm2" unit:"mm2"`
	Installed float64  `json:"installed_mm2" unit:"mm2"`
}

// MainBonding returns the main bonding conductor in mm² copper: on TN-C-S by
// the operator's neutral (Table 54.8), elsewhere half the earthing conductor
// within 6 and 25, next standard size (544.1.1). size is the neutral's copper
// equivalent or the earthing conductor.
func MainBonding(system string, size float64) float64 {
	if install.Earthing(system) == install.TNCS {
		for r := range bondingPME.Text {
			if to := bondingPME.Row(r).SupplyNeutralCuEquivToMM2; math.IsNaN(to) || working.AtMost(size, to) {
				return bondingPME.Row(r).BondingCuMM2
			}
		}
	}
	half := size * bondingMainShareOfEarthingConductor.V()
	return NextSize(min(max(half, bondingMainMin.V()), bondingMainMaxNeeded.V()))
}

type bondingOut struct {
	NeutralCu  *float64 `json:"neutral_cu_equiv_mm2,omitempty"`
	Half       *float64 `json:"half_mm2,omitempty"`
	EarthingOK *bool    `json:"earthing_ok,omitempty"`
	Main       float64  `json:"main_bonding_mm2"`
	Passes     bool     `json:"passes"`
	CPCTable   float64  `json:"cpc_table_mm2"`
}

func bonding(in bondingIn) (bondingOut, []working.Step, error) {
	var out bondingOut
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("line_mm2", in.Line, "mm²"),
		rulebook.Positive("installed_mm2", in.Installed, "mm²")); err != nil {
		return out, nil, err
	}
	var size float64
	switch install.Earthing(in.System) {
	case install.TNCS:
		if in.Neutral == nil {
			return out, nil, fmt.Errorf("neutral_mm2 is missing: on TN-C-S the bonding follows the operator's neutral")
		}
		size = *in.Neutral
		if m := rulebook.Or(in.Material, "cu"); install.Metal(m) != install.Copper {
			r, e1 := ResistancePerM(m, size)
			cu, e2 := ResistancePerM("cu", size)
			if err := rulebook.At("neutral_mm2", rulebook.FirstError(e1, e2)); err != nil {
				return out, nil, err
			}
			size = w.Add("copper equivalent", "S × r_cu / r", fmt.Sprintf("%s × %s / %s", f(size), f(cu), f(r)), size*cu/r,
				"mm²", conductors.Source.Ref)
		}
		out.NeutralCu = &size
	case install.TNS, install.TT:
		if in.Earthing == nil {
			return out, nil, fmt.Errorf("earthing_conductor_mm2 is missing: on %s the bonding follows the earthing conductor", in.System)
		}
		if err := rulebook.Positive("earthing_conductor_mm2", *in.Earthing, "mm²"); err != nil {
			return out, nil, err
		}
		// By the conductor that is required for the tails, not by the one that is there.
		size = w.Add("required", "earthing conductor by table for the tails",
			text(in.Line, " mm²; ", *in.Earthing, " mm² is there"), CPCTable(in.Line), "mm²", cpcMin.Source.Ref)
		half, ok := size/2, working.AtMost(size, *in.Earthing)
		out.Half, out.EarthingOK = &half, &ok
	default:
		return out, nil, fmt.Errorf("system: %q is not accepted; give TN-C-S, TN-S or TT", in.System)
	}
	need := w.Add("main bonding", "by table", text(in.System, ", ", size, " mm²"), MainBonding(in.System, size), "mm²",
		bondingPME.Source.Ref)
	out.Main, out.Passes, out.CPCTable = need, working.AtMost(need, in.Installed), CPCTable(in.Line)
	return out, w.Steps, nil
}

type insulationIn struct {
	NominalV float64 `json:"nominal_v" unit:"V"`
	TestV    float64 `json:"test_v" unit:"V"`
	SELV     bool    `json:"selv,omitempty"`
	Surge    bool    `json:"surge_cannot_disconnect,omitempty"`
	Circuits []struct {
		Name string  `json:"name"`
		M    float64 `json:"mohm" unit:"Mohm"`
	} `json:"circuits"`
}

// InsulationLimit returns the test voltage in volts and the least insulation
// resistance in MΩ (Table 64).
func InsulationLimit(nominalV float64, selv, surgeConnected bool) (testV, limit float64) {
	row := 1
	switch {
	case selv:
		row = 0
	case surgeConnected:
		row = 3
	case nominalV > 500:
		row = 2
	}
	return irLimits.Row(row).TestVDC, irLimits.Row(row).MinMohm
}

// InvestigateMohm is the insulation resistance under which a new circuit is
// looked into though it passes.
const InvestigateMohm = 2.0

type insulationOut struct {
	RequiredV  float64             `json:"required_test_v"`
	VoltageOK  bool                `json:"voltage_ok"`
	Limit      float64             `json:"limit_mohm"`
	Circuits   []insulationVerdict `json:"circuits"`
	Parallel   float64             `json:"parallel_mohm"`
	ParallelOK bool                `json:"parallel_ok"`
	AllOK      bool                `json:"all_circuits_ok"`
}

type insulationVerdict struct {
	Name        string `json:"name"`
	Passes      bool   `json:"passes"`
	Investigate bool   `json:"investigate"`
}

func insulation(in insulationIn) (insulationOut, []working.Step, error) {
	var out insulationOut
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("nominal_v", in.NominalV, "V"),
		rulebook.Positive("test_v", in.TestV, "V")); err != nil {
		return out, nil, err
	}
	if len(in.Circuits) == 0 {
		return out, nil, fmt.Errorf("circuits is empty: give at least one reading")
	}
	need, limit := InsulationLimit(in.NominalV, in.SELV, in.Surge)
	w.Add("test voltage", "by table", "", need, "V", irLimits.Source.Ref)
	rows, all := []insulationVerdict{}, []float64{}
	ok := true
	for _, c := range in.Circuits {
		if err := rulebook.Positive("circuits.mohm", c.M, "MΩ"); err != nil {
			return out, nil, err
		}
		passes := working.AtMost(limit, c.M)
		ok = ok && passes
		all = append(all, c.M)
		rows = append(rows, insulationVerdict{Name: c.Name, Passes: passes, Investigate: c.M < InvestigateMohm})
	}
	together := w.Add("together", "1 / Σ(1/R)", fmt.Sprint(all), physics.Parallel(all...), "MΩ", "")
	return insulationOut{RequiredV: need, VoltageOK: in.TestV == need, Limit: limit, Circuits: rows, Parallel: together,
		ParallelOK: working.AtMost(limit, together), AllOK: ok}, w.Steps, nil
}

type rcdIn struct {
	Type     string   `json:"type" doc:"AC, A, F, B"`
	Idn      float64  `json:"idn_ma" unit:"mA"`
	Delay    string   `json:"delay" doc:"none or S"`
	School   string   `json:"school" doc:"bs7671_a2 or three_test"`
	LoadType *string  `json:"load_type"`
	Standard *string  `json:"standard" doc:"bs4293 for old devices"`
	ButtonOK *bool    `json:"button_ok"`
	Readings readings `json:"readings"`
}

// readings keeps apart a reading that is absent and one that is null, which
// says that the device did not trip.
type readings struct {
	HalfTripped *bool     `json:"x0_5_tripped"`
	X1a         *nullable `json:"x1_0"`
	X1b         *nullable `json:"x1_180"`
	X5a         *nullable `json:"x5_0"`
	X5b         *nullable `json:"x5_180"`
}

// RCDLimits returns the shortest and longest trip time in ms at a multiple of
// the rated residual current; device is general, s_type or bs4293_general.
func RCDLimits(device string, multiple float64) (low, high float64, ok bool) {
	r := rcdTrip.Find(func(it *rcdTripRow) bool { return it.Device == device && same(it.Multiple, multiple) })
	if r < 0 {
		return 0, 0, false
	}
	return rcdTrip.Row(r).MinMS, rcdTrip.Row(r).MaxMS, true
}

// rcdOut is what rcd-verdict answers.
type rcdOut struct {
	Failures []string `json:"failures"`
	Passes   bool     `json:"passes"`
}

func rcdVerdict(in rcdIn) (out rcdOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if !slices.Contains([]string{"AC", "A", "F", "B"}, in.Type) {
		return out, nil, fmt.Errorf("type: %q is not accepted; give AC, A, F or B", in.Type)
	}
	if in.Delay != undelayed && in.Delay != delayedS {
		return out, nil, fmt.Errorf("delay: %q is not accepted; give none or S", in.Delay)
	}
	if in.School != threeTests && in.School != editionTests {
		return out, nil, fmt.Errorf("school: %q is not accepted; give bs7671_a2 or three_test", in.School)
	}
	if err := rulebook.Positive("idn_ma", in.Idn, "mA"); err != nil {
		return out, nil, err
	}
	device := "general"
	if in.Delay == delayedS {
		device = "s_type"
	}
	failures := []string{}
	say := func(code string) { failures = append(failures, code) }
	if in.Readings.HalfTripped != nil && *in.Readings.HalfTripped {
		say("nuisance_trip_at_half")
	}
	judge := func(name string, multiple float64, n *nullable) {
		if n == nil {
			return
		}
		low, high, _ := RCDLimits(device, multiple)
		if rulebook.Or(in.Standard, "") == standardBS4293 && multiple == 1 {
			low, high, _ = RCDLimits("bs4293_general", 1)
		}
		switch {
		case n.null:
			say(name + "_no_trip")
		case !working.AtMost(n.v, high):
			say(name + "_slow")
		case in.Delay == delayedS && !working.AtMost(low, n.v):
			say(name + "_too_fast_for_S")
		}
		w.Add(name, fmt.Sprintf("%s to %s ms", f(low), f(high)), "", n.v, "ms", rcdTrip.Source.Ref)
	}
	if in.Readings.X1a == nil && in.Readings.X1b == nil {
		say("x1_missing")
	}
	judge("x1_0", 1, in.Readings.X1a)
	judge("x1_180", 1, in.Readings.X1b)
	if in.School == threeTests {
		if in.Readings.X5a == nil && in.Idn <= rcdAdditionalProtectionIdnMax.V() {
			say("x5_0_missing")
		}
		judge("x5_0", 5, in.Readings.X5a)
		judge("x5_180", 5, in.Readings.X5b)
	}
	if in.LoadType != nil {
		r := rcdByLoad.Find(func(it *rcdByLoadRow) bool { return it.Load == *in.LoadType })
		if r < 0 {
			return out, nil, fmt.Errorf("load_type: %q is not known", *in.LoadType)
		}
		switch rcdByLoad.Str(r, in.Type) {
		case residualBarred:
			say("wrong_type")
		case residualConditional:
			say("type_conditional")
		}
	}
	if in.ButtonOK != nil && !*in.ButtonOK {
		say("button_fails")
	}
	passes := true
	for _, code := range failures {
		passes = passes && code == codeConditional
	}
	return rcdOut{Failures: rulebook.Sorted(failures), Passes: passes}, w.Steps, nil
}

func faultCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("zs-check", "earth fault loop impedance against the device's limit", zsCheck),
		rulebook.Define("zs-temp-verdict", "a measured loop impedance, corrected for temperature and by the 80 % rule", zsTempVerdict),
		rulebook.Define("adiabatic", "smallest protective conductor that withstands a fault", adiabatic),
		rulebook.Define("pfc", "prospective fault current against a breaking capacity", pfc),
		rulebook.Define("tt-electrode", "electrode resistance against residual-current devices", ttElectrode),
		rulebook.Define("rod", "resistance of earth rods", rod),
		rulebook.Define("bonding", "main bonding conductor and table protective conductor", bonding),
		rulebook.Define("insulation", "insulation resistance readings", insulation),
		rulebook.Define("rcd-verdict", "residual-current device readings and type", rcdVerdict),
	}
}
