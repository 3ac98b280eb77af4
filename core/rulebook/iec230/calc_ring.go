package iec230

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"

	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

type ringIn struct {
	Line    float64  `json:"line_mm2" unit:"mm2"`
	CPC     float64  `json:"cpc_mm2" unit:"mm2"`
	LengthM float64  `json:"length_m" unit:"m" doc:"of the whole ring"`
	Column  string   `json:"column" doc:"installation method of the flat cable: mC, mA, m100 to m103"`
	Ca      *float64 `json:"ca" doc:"ambient factor, 1 when absent"`
	Ze      float64  `json:"ze_ohm" unit:"ohm"`
	Curve   string   `json:"curve"`
	InA     float64  `json:"in_a" unit:"A"`
	LimitPc float64  `json:"vd_limit_pc" unit:"%"`
	AreaM2  float64  `json:"floor_area_m2" unit:"m2"`
}

// RingAreaM2 is the floor area in m² that one ring final circuit may serve
// (Appendix 15).
const RingAreaM2 = 100.0

// RingDropV is the drop in volts to the far point of a ring of metres: a quarter
// of the single run for the current that stands for its load (433.1.204, and the
// usual on-site practice of 20 A at the far point and 12 A spread).
func RingDropV(millivolts, metres float64) float64 {
	return physics.Drop(millivolts/4, 0, 1, ringDropA, metres)
}

// RingFar is the resistance in ohms of line and protective conductor to the far
// point of a ring whose conductors measure r1 and r2 ohms end to end.
func RingFar(r1, r2 float64) float64 { return (r1 + r2) / 4 }

// ringOut is what ring-design answers.
type ringOut struct {
	IzA        float64 `json:"iz_a"`
	CccOk      bool    `json:"ccc_ok"`
	DeviceOk   bool    `json:"device_ok"`
	SizeOk     bool    `json:"size_ok"`
	VdV        float64 `json:"vd_v"`
	VdPc       float64 `json:"vd_pc"`
	VdOk       bool    `json:"vd_ok"`
	R1Ohm      float64 `json:"r1_ohm"`
	R2Ohm      float64 `json:"r2_ohm"`
	R1r2Far20c float64 `json:"r1r2_far_20c"`
	R1r2Far70c float64 `json:"r1r2_far_70c"`
	ZsOhm      float64 `json:"zs_ohm"`
	ZsMaxOhm   float64 `json:"zs_max_ohm"`
	ZsOk       bool    `json:"zs_ok"`
	AreaOk     bool    `json:"area_ok"`
}

func ringDesign(in ringIn) (out ringOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	r1, e1 := ResistancePerM("cu", in.Line)
	r2, e2 := ResistancePerM("cu", in.CPC)
	limit, ia, e3 := ZsMax(in.Curve, in.InA, 0.4, CminDefault)
	mv, _, e4 := dropAt("line_mm2", "ccc_flat_te_70", in.Line, 1, "")
	ca := rulebook.Or(in.Ca, 1)
	if err := rulebook.FirstError(rulebook.At("line_mm2", e1), rulebook.At("cpc_mm2", e2), e3, e4,
		rulebook.Positive("length_m", in.LengthM, "m"), rulebook.Positive("in_a", in.InA, "A"),
		rulebook.Positive("vd_limit_pc", in.LimitPc, "%"), rulebook.Positive("ca", ca, "1"),
		rulebook.ZeroOrMore("ze_ohm", in.Ze, "Ω"), rulebook.ZeroOrMore("floor_area_m2", in.AreaM2, "m²")); err != nil {
		return out, nil, err
	}
	t := capacityTables[flatTable]
	if !slices.Contains(flatColumns(t), in.Column) {
		return out, nil, fmt.Errorf("column: %q is not in the table of flat cable; give one of %v", in.Column, flatColumns(t))
	}
	tabulated := t.Num(t.Where("size_mm2", in.Line), in.Column)
	if math.IsNaN(tabulated) {
		return out, nil, fmt.Errorf("line_mm2: %g has no capacity in column %s", in.Line, in.Column)
	}
	iz := w.Add("Iz of a leg", "It × Ca", text(tabulated, " × ", ca), tabulated*ca, "A", t.Source.Ref)
	w.Add("needed", "20 A in each leg", "", ringLegA, "A", "433.1.204")
	volts := w.Add("drop", "mV/A/m / 4 × 26 A × L / 1000",
		fmt.Sprintf("%s / 4 × %s × %s / 1000", f(mv), f(ringDropA), f(in.LengthM)), RingDropV(mv, in.LengthM), "V", t.Source.Ref)
	pc := w.Add("drop", "V / U0", text(volts, " / ", NominalV), volts/NominalV*100, "%", "")
	line := w.Add("r1", "mΩ/m × L / 1000", text(r1, " × ", in.LengthM, " / 1000"), r1*in.LengthM/1000, "Ω", conductors.Source.Ref)
	cpc := w.Add("r2", "mΩ/m × L / 1000", text(r2, " × ", in.LengthM, " / 1000"), r2*in.LengthM/1000, "Ω", conductors.Source.Ref)
	cold := w.Add("R1+R2 at the far point, 20 °C", "(r1 + r2) / 4", text("(", line, " + ", cpc, ") / 4"),
		RingFar(line, cpc), "Ω", ringRules.Source.Ref)
	m := HotMultiplier(70)
	hot := w.Add("R1+R2 at the far point, 70 °C", "× multiplier", text(cold, " × ", m), cold*m, "Ω", multipliers.Source.Ref)
	zs := w.Add("Zs", "Ze + (R1+R2)", text(in.Ze, " + ", hot), in.Ze+hot, "Ω", "")
	w.Add("Zs max", "U0 × Cmin / Ia", text(NominalV, " × ", CminDefault, " / ", ia), limit, "Ω", "411.4.4")
	return ringOut{IzA: iz, CccOk: working.AtMost(ringLegA, iz) && RingDevice(in.InA) && in.Line >= ringLeastMM2,
		DeviceOk: RingDevice(in.InA), SizeOk: in.Line >= ringLeastMM2, VdV: volts, VdPc: pc,
		VdOk: working.AtMost(pc, in.LimitPc), R1Ohm: line, R2Ohm: cpc, R1r2Far20c: cold, R1r2Far70c: hot, ZsOhm: zs,
		ZsMaxOhm: limit, ZsOk: working.AtMost(zs, limit), AreaOk: working.AtMost(in.AreaM2, RingAreaM2)}, w.Steps, nil
}

// flatColumns lists the installation methods of the flat cable's table.
func flatColumns(t *table) []string {
	return slices.DeleteFunc(slices.Sorted(slices.Values(t.Columns())),
		func(c string) bool { return c == "size_mm2" || c == "cpc_mm2" || c == "mv_am" })
}

// ohms is a reading of a low-resistance meter, or null when it was over range;
// a reading that is absent is neither.
type ohms struct {
	given, open bool
	v           float64
}

// UnmarshalJSON reads a number of ohms from 0, or null for over range.
func (o *ohms) UnmarshalJSON(b []byte) error {
	*o = ohms{given: true, open: string(b) == "null"}
	if o.open {
		return nil
	}
	if err := json.Unmarshal(b, &o.v); err != nil || o.v < 0 {
		return fmt.Errorf("readings: %s is not accepted; give ohms from 0, or null when over range", b)
	}
	return nil
}

// RingReadings are the readings of the continuity test of a ring: conductors end
// to end, then line to neutral and line to protective conductor at each socket
// in ring order and at the end of each spur, with the ends cross-connected.
type RingReadings struct {
	R1    ohms   `json:"r1" doc:"ohm end to end, null when over range"`
	Rn    ohms   `json:"rn" doc:"ohm end to end, null when over range"`
	R2    ohms   `json:"r2" doc:"ohm end to end, null when over range"`
	Step2 []ohms `json:"step2" doc:"ohm line to neutral at each socket"`
	Step3 []ohms `json:"step3" doc:"ohm line to protective conductor at each socket"`
}

type ringDiagnosisIn struct {
	Line     float64      `json:"line_mm2" unit:"mm2"`
	CPC      float64      `json:"cpc_mm2" unit:"mm2"`
	LengthM  float64      `json:"length_m" unit:"m" doc:"of the whole ring by the plan"`
	Readings RingReadings `json:"readings"`
}

// Slack of the ring test: readings that agree within this many ohms are equal,
// and a protective conductor may differ by a tenth of what is expected.
var (
	ringAgree  = ringRules.Fixed("r1_rn_agree_within")
	ringRatio  = ringRules.Fixed("r2_over_r1_2p5_1p5")
	ringSpread = 0.1
)

// expectedRatio is r2 over r1 as the guides have it: from cross-sections, 1.67 for
// 2.5 with 1.5 mm².
func expectedRatio(line, cpc float64) float64 {
	if line == 2.5 && cpc == 1.5 {
		return ringRatio
	}
	return line / cpc
}

func ringDiagnosis(in ringDiagnosisIn) (map[string]any, []working.Step, error) {
	w := &rulebook.Worked{}
	perM, e1 := ResistancePerM("cu", in.Line)
	_, e2 := ResistancePerM("cu", in.CPC)
	if err := rulebook.FirstError(rulebook.At("line_mm2", e1), rulebook.At("cpc_mm2", e2),
		rulebook.Positive("length_m", in.LengthM, "m")); err != nil {
		return nil, nil, err
	}
	x := in.Readings
	for _, end := range []struct {
		key string
		o   ohms
	}{{"r1", x.R1}, {"rn", x.Rn}, {"r2", x.R2}} {
		if !end.o.given {
			return nil, nil, fmt.Errorf("readings.%s is missing: give ohms end to end, or null when over range", end.key)
		}
	}
	if len(x.Step2) != len(x.Step3) {
		return nil, nil, fmt.Errorf("readings.step3: %d readings beside %d of step2; give one of each for every socket",
			len(x.Step3), len(x.Step2))
	}
	codes := []string{}
	say := func(code string) { codes = append(codes, code) }
	answer := func(out map[string]any) (map[string]any, []working.Step, error) {
		ok := true
		for _, c := range codes {
			ok = ok && len(c) > 8 && c[:8] == "spur_at_"
		}
		if len(codes) == 0 {
			say("healthy")
		}
		out["verdict"], out["ok"] = rulebook.Texts(codes), ok
		return out, w.Steps, nil
	}
	if x.R1.open {
		say("open_leg_line")
	}
	if x.Rn.open {
		say("open_leg_neutral")
	}
	if x.R2.open {
		say("open_leg_cpc")
	}
	if len(codes) > 0 {
		return answer(map[string]any{})
	}
	r1, rn, r2 := x.R1.v, x.Rn.v, x.R2.v
	joint := false
	if !working.AtMost(math.Abs(r1-rn), ringAgree) {
		joint = true
		w.Add("r1 − rn", "agree within 0.05 Ω", text(r1, " − ", rn), r1-rn, "Ω", ringRules.Source.Ref)
		if r1 > rn {
			say("high_resistance_joint_line")
		} else {
			say("high_resistance_joint_neutral")
		}
	}
	want := w.Add("r2 expected", "ratio × smaller of r1, rn", text(expectedRatio(in.Line, in.CPC), " × ", min(r1, rn)),
		expectedRatio(in.Line, in.CPC)*min(r1, rn), "Ω", ringRules.Source.Ref)
	slack := max(ringAgree, ringSpread*want)
	switch {
	case !working.AtMost(r2, want+slack):
		joint = true
		say("high_resistance_joint_cpc")
	case !working.AtMost(want-slack, r2):
		say("parallel_path_cpc")
	}
	e := w.Add("line to neutral", "(r1 + rn) / 4", text("(", r1, " + ", rn, ") / 4"), (r1+rn)/4, "Ω", ringRules.Source.Ref)
	out := map[string]any{"step2_expected": e, "r1_predicted": w.Add("r1 by the plan", "mΩ/m × L / 1000",
		text(perM, " × ", in.LengthM, " / 1000"), perM*in.LengthM/1000, "Ω", conductors.Source.Ref)}
	out["step3_expected"] = w.Add("line to protective conductor", "(r1 + r2) / 4", text("(", r1, " + ", r2, ") / 4"),
		RingFar(r1, r2), "Ω", ringRules.Source.Ref)
	if r1+r2 > 0 {
		out["step3_low"] = w.Add("its low end, at the board", "r1 × r2 / (r1 + r2)",
			text(r1, " × ", r2, " / (", r1, " + ", r2, ")"), r1*r2/(r1+r2), "Ω", ringRules.Source.Ref)
	}
	recorded, low, high := math.Inf(-1), math.Inf(1), math.Inf(-1)
	for i := range x.Step2 {
		a, b := x.Step2[i], x.Step3[i]
		if a.open && !b.open {
			say(text("line_cpc_reversed_at_", i))
		}
		if b.open && !a.open {
			say(text("line_neutral_reversed_at_", i))
		}
		if !b.open {
			recorded = max(recorded, b.v)
		}
		if !a.open {
			low, high = min(low, a.v), max(high, a.v)
		}
	}
	if !math.IsInf(recorded, 0) {
		out["r1r2_recorded"] = w.Add("R1+R2 to record", "highest line to protective conductor", "", recorded, "Ω", ringRules.Source.Ref)
	}
	if joint || math.IsInf(low, 0) {
		return answer(out)
	}
	above := !working.AtMost(high, e+ringAgree)
	uneven := !working.AtMost(e-ringAgree, low) || !working.AtMost(high-low, ringAgree)
	switch {
	case low < 0.5*e && !above:
		say("ends_not_cross_connected")
	case uneven && r1 < 0.9*out["r1_predicted"].(float64):
		say("interconnected_legs")
	case above:
		lengths := map[string]any{}
		for i, a := range x.Step2 {
			if !a.open && !working.AtMost(a.v, e+ringAgree) {
				k := strconv.Itoa(i)
				say("spur_at_" + k)
				lengths[k] = w.Add("spur at reading "+k, "excess / (2 × mΩ/m)",
					text("(", a.v, " − ", e, ") × 1000 / (2 × ", perM, ")"), (a.v-e)*1000/(2*perM), "m", ringRules.Source.Ref)
			}
		}
		out["spur_length_m"] = lengths
	case uneven:
		say("unexplained_variation")
	}
	return answer(out)
}

func ringCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.DefineOut("ring-design", "a ring final circuit: leg capacity, drop, far-point loop, area", ringDesign),
		rulebook.Define("ring-diagnosis", "what the continuity readings of a ring say about it",
			[]string{"step2_expected", "step3_expected", "step3_low", "r1_predicted", "r1r2_recorded", "spur_length_m",
				"verdict", "ok"}, ringDiagnosis),
	}
}
