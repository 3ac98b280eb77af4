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
	LengthM float64  `json:"length_m" unit:"m" doc:"of the whole ring" range:"above 0"`
	Column  string   `json:"column" doc:"installation method of the flat cable: mC, mA, m100 to m103"`
	Ca      *float64 `json:"ca" doc:"ambient factor, 1 when absent" range:"above 0"`
	Ze      float64  `json:"ze_ohm" unit:"ohm" range:"0 or more"`
	Curve   string   `json:"curve"`
	InA     float64  `json:"in_a" unit:"A" range:"above 0"`
	LimitPc float64  `json:"vd_limit_pc" unit:"%" range:"above 0"`
	AreaM2  float64  `json:"floor_area_m2" unit:"m2" range:"0 or more"`
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

type ringDiagnosisOut struct {
	Step2     *float64           `json:"step2_expected,omitempty"`
	Step3     *float64           `json:"step3_expected,omitempty"`
	Step3Low  *float64           `json:"step3_low,omitempty"`
	Predicted *float64           `json:"r1_predicted,omitempty"`
	Recorded  *float64           `json:"r1r2_recorded,omitempty"`
	SpurM     map[string]float64 `json:"spur_length_m,omitempty"`
	Verdict   []string           `json:"verdict"`
	OK        bool               `json:"ok"`
}

func ringDiagnosis(in ringDiagnosisIn) (ringDiagnosisOut, []working.Step, error) {
	d := ringReader{in: in, healthy: true}
	if err := d.check(); err != nil {
		return d.out, nil, err
	}
	if d.legs() {
		d.ends()
		d.sockets()
	}
	if len(d.out.Verdict) == 0 {
		d.out.Verdict = []string{"healthy"}
	}
	d.out.Verdict, d.out.OK = rulebook.Sorted(d.out.Verdict), d.healthy
	return d.out, d.w.Steps, nil
}

// ringReader finds what the three steps of a ring's continuity readings say about it.
type ringReader struct {
	in      ringDiagnosisIn
	perM    float64 // mΩ/m of the line conductor
	w       rulebook.Worked
	out     ringDiagnosisOut
	joint   bool // an end-to-end reading is wrong: the readings at the sockets say nothing more
	healthy bool // nothing was found, or nothing but spurs
}

// finds notes what is wrong.
func (d *ringReader) finds(code string) {
	d.healthy = false
	d.out.Verdict = append(d.out.Verdict, code)
}

func (d *ringReader) check() error {
	var e1, e2 error
	d.perM, e1 = ResistancePerM("cu", d.in.Line)
	_, e2 = ResistancePerM("cu", d.in.CPC)
	if err := rulebook.FirstError(rulebook.At("line_mm2", e1), rulebook.At("cpc_mm2", e2),
		rulebook.Positive("length_m", d.in.LengthM, "m")); err != nil {
		return err
	}
	x := &d.in.Readings
	for _, end := range []struct {
		key string
		o   ohms
	}{{"r1", x.R1}, {"rn", x.Rn}, {"r2", x.R2}} {
		if !end.o.given {
			return fmt.Errorf("readings.%s is missing: give ohms end to end, or null when over range", end.key)
		}
	}
	if len(x.Step2) != len(x.Step3) {
		return fmt.Errorf("readings.step3: %d readings beside %d of step2; give one of each for every socket",
			len(x.Step3), len(x.Step2))
	}
	return nil
}

// legs reports whether each conductor goes round.
func (d *ringReader) legs() bool {
	x := &d.in.Readings
	for _, leg := range []struct {
		open bool
		code string
	}{{x.R1.open, "open_leg_line"}, {x.Rn.open, "open_leg_neutral"}, {x.R2.open, "open_leg_cpc"}} {
		if leg.open {
			d.finds(leg.code)
		}
	}
	return d.healthy
}

// ends compares the end-to-end readings with each other.
func (d *ringReader) ends() {
	r1, rn, r2 := d.in.Readings.R1.v, d.in.Readings.Rn.v, d.in.Readings.R2.v
	if !working.AtMost(math.Abs(r1-rn), ringAgree) {
		d.joint = true
		d.w.Add("r1 − rn", "agree within 0.05 Ω", text(r1, " − ", rn), r1-rn, "Ω", ringRules.Source.Ref)
		if r1 > rn {
			d.finds("high_resistance_joint_line")
		} else {
			d.finds("high_resistance_joint_neutral")
		}
	}
	ratio := expectedRatio(d.in.Line, d.in.CPC)
	want := d.w.Add("r2 expected", "ratio × smaller of r1, rn", text(ratio, " × ", min(r1, rn)), ratio*min(r1, rn), "Ω",
		ringRules.Source.Ref)
	slack := max(ringAgree, ringSpread*want)
	switch {
	case !working.AtMost(r2, want+slack):
		d.joint = true
		d.finds("high_resistance_joint_cpc")
	case !working.AtMost(want-slack, r2):
		d.finds("parallel_path_cpc")
	}
}

// sockets compares the readings at the sockets, the ends cross-connected, with what the ends
// let expect.
func (d *ringReader) sockets() {
	x := &d.in.Readings
	r1, rn, r2 := x.R1.v, x.Rn.v, x.R2.v
	ref := ringRules.Source.Ref
	e := d.w.Add("line to neutral", "(r1 + rn) / 4", text("(", r1, " + ", rn, ") / 4"), (r1+rn)/4, "Ω", ref)
	predicted := d.w.Add("r1 by the plan", "mΩ/m × L / 1000", text(d.perM, " × ", d.in.LengthM, " / 1000"),
		d.perM*d.in.LengthM/1000, "Ω", conductors.Source.Ref)
	far := d.w.Add("line to protective conductor", "(r1 + r2) / 4", text("(", r1, " + ", r2, ") / 4"), RingFar(r1, r2), "Ω", ref)
	d.out.Step2, d.out.Predicted, d.out.Step3 = &e, &predicted, &far
	if r1+r2 > 0 {
		near := d.w.Add("its low end, at the board", "r1 × r2 / (r1 + r2)",
			text(r1, " × ", r2, " / (", r1, " + ", r2, ")"), r1*r2/(r1+r2), "Ω", ref)
		d.out.Step3Low = &near
	}
	recorded, low, high := math.Inf(-1), math.Inf(1), math.Inf(-1)
	for i := range x.Step2 {
		a, b := x.Step2[i], x.Step3[i]
		if a.open && !b.open {
			d.finds(text("line_cpc_reversed_at_", i))
		}
		if b.open && !a.open {
			d.finds(text("line_neutral_reversed_at_", i))
		}
		if !b.open {
			recorded = max(recorded, b.v)
		}
		if !a.open {
			low, high = min(low, a.v), max(high, a.v)
		}
	}
	if !math.IsInf(recorded, 0) {
		d.w.Add("R1+R2 to record", "highest line to protective conductor", "", recorded, "Ω", ref)
		d.out.Recorded = &recorded
	}
	if d.joint || math.IsInf(low, 0) {
		return
	}
	above := !working.AtMost(high, e+ringAgree)
	uneven := !working.AtMost(e-ringAgree, low) || !working.AtMost(high-low, ringAgree)
	switch {
	case low < 0.5*e && !above:
		d.finds("ends_not_cross_connected")
	case uneven && r1 < 0.9*predicted:
		d.finds("interconnected_legs")
	case above:
		d.spurs(e)
	case uneven:
		d.finds("unexplained_variation")
	}
}

// spurs finds the sockets that stand on one, and how far out: a spur is lawful, so a ring with
// nothing else to say of it is in order.
func (d *ringReader) spurs(expected float64) {
	d.out.SpurM = map[string]float64{}
	for i, a := range d.in.Readings.Step2 {
		if !a.open && !working.AtMost(a.v, expected+ringAgree) {
			k := strconv.Itoa(i)
			d.out.Verdict = append(d.out.Verdict, "spur_at_"+k)
			d.out.SpurM[k] = d.w.Add("spur at reading "+k, "excess / (2 × mΩ/m)",
				text("(", a.v, " − ", expected, ") × 1000 / (2 × ", d.perM, ")"), (a.v-expected)*1000/(2*d.perM), "m", ringRules.Source.Ref)
		}
	}
}

func ringCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("ring-design", "a ring final circuit: leg capacity, drop, far-point loop, area", ringDesign),
		rulebook.Define("ring-diagnosis", "what the continuity readings of a ring say about it", ringDiagnosis),
	}
}
