package iec230

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

type rdfIn struct {
	Circuits []struct {
		Name       string  `json:"name"`
		InA        float64 `json:"in_a" unit:"A" range:"above 0"`
		IbA        float64 `json:"ib_a" unit:"A" range:"0 or more"`
		Continuous bool    `json:"continuous"`
	} `json:"circuits"`
	Basis        *string  `json:"count_basis" doc:"all_outgoing when absent, or continuous_only"`
	Manufacturer *float64 `json:"maker_rdf" doc:"the manufacturer's factor, which goes before the table's" range:"above 0"`
}

// DiversityFactor returns the rated diversity factor of a board with so many
// outgoing circuits (IEC 61439-3 Table 101).
func DiversityFactor(circuits int) float64 {
	for r := range boardRDF.Text {
		if to := boardRDF.Row(r).CircuitsTo; math.IsNaN(to) || float64(circuits) <= to {
			return boardRDF.Row(r).Rdf
		}
	}
	return boardRDF.Row(len(boardRDF.Text) - 1).Rdf
}

// highShare is the share of its rating from which a continuously loaded device
// warms its neighbour.
const highShare = 0.8

type rdfOut struct {
	Counted  int         `json:"circuits_counted"`
	RDF      float64     `json:"rdf"`
	Circuits []rdfLoaded `json:"circuits"`
	AllOK    bool        `json:"all_ok"`
	Pairs    []string    `json:"adjacent_high_pairs"`
}

type rdfLoaded struct {
	Name     string  `json:"name"`
	AllowedA float64 `json:"allowed_a"`
	OK       bool    `json:"ok"`
}

func rdf(in rdfIn) (rdfOut, []working.Step, error) {
	var out rdfOut
	w := &rulebook.Worked{}
	if len(in.Circuits) == 0 {
		return out, nil, fmt.Errorf("circuits is empty: give at least one outgoing circuit")
	}
	counted := len(in.Circuits)
	switch basis := rulebook.Or(in.Basis, "all_outgoing"); basis {
	case allOutgoing:
	case continuousOnly:
		counted = 0
		for _, c := range in.Circuits {
			if c.Continuous {
				counted++
			}
		}
	default:
		return out, nil, fmt.Errorf("count_basis: %q is not accepted; give all_outgoing or continuous_only", basis)
	}
	factor, source := DiversityFactor(counted), boardRDF.Source.Ref
	if in.Manufacturer != nil {
		if err := rulebook.Positive("maker_rdf", *in.Manufacturer, "1"); err != nil || *in.Manufacturer > 1 {
			return out, nil, fmt.Errorf("maker_rdf: %g is not accepted; give a factor above 0 and up to 1", *in.Manufacturer)
		}
		factor, source = *in.Manufacturer, "the manufacturer's factor"
	}
	w.Add("RDF", "by outgoing circuits", f(float64(counted)), factor, "", source)
	rows, pairs, all := []rdfLoaded{}, []string{}, true
	high := func(i int) bool {
		c := in.Circuits[i]
		return c.Continuous && working.AtMost(highShare*c.InA, c.IbA)
	}
	for i, c := range in.Circuits {
		if err := rulebook.FirstError(rulebook.Positive("circuits.in_a", c.InA, "A"),
			rulebook.ZeroOrMore("circuits.ib_a", c.IbA, "A")); err != nil {
			return out, nil, err
		}
		allowed := c.InA
		if c.Continuous {
			allowed = factor * c.InA
		}
		ok := working.AtMost(c.IbA, allowed)
		all = all && ok
		w.Add(c.Name, "RDF × In for a continuous load, else In", text(c.IbA, " A drawn"), allowed, "A", source)
		rows = append(rows, rdfLoaded{Name: c.Name, AllowedA: allowed, OK: ok})
		if i > 0 && high(i-1) && high(i) {
			pairs = append(pairs, in.Circuits[i-1].Name+"|"+c.Name)
		}
	}
	return rdfOut{Counted: counted, RDF: factor, Circuits: rows, AllOK: all, Pairs: pairs}, w.Steps, nil
}

// Leak is the standing protective-conductor current of one circuit in mA.
type Leak struct {
	Name string  `json:"name"`
	MA   float64 `json:"leak_ma" unit:"mA"`
}

type groupingIn struct {
	Idn      float64 `json:"idn_ma" unit:"mA"`
	Circuits []Leak  `json:"circuits"`
}

// LeakLimit is the standing leakage in mA that one residual-current device may
// bear: 30 % of its rating (531.3.2).
func LeakLimit(idn float64) float64 { return rcdStandingLeakageShareMax.V() * idn }

// FirstFit packs circuits by falling leakage, each into the first group that
// still holds it within limit mA; those over the limit alone are returned apart.
func FirstFit(circuits []Leak, limit float64) (groups [][]Leak, alone []string) {
	sorted := slices.Clone(circuits)
	slices.SortStableFunc(sorted, func(a, b Leak) int {
		return cmp.Or(cmp.Compare(b.MA, a.MA), strings.Compare(a.Name, b.Name))
	})
	var sums []float64
next:
	for _, c := range sorted {
		if !working.AtMost(c.MA, limit) {
			alone = append(alone, c.Name)
			continue
		}
		for i := range groups {
			if working.AtMost(sums[i]+c.MA, limit) {
				groups[i], sums[i] = append(groups[i], c), sums[i]+c.MA
				continue next
			}
		}
		groups, sums = append(groups, []Leak{c}), append(sums, c.MA)
	}
	return groups, alone
}

// groupingOut is what rcd-grouping answers.
type groupingOut struct {
	TotalMa                float64  `json:"total_ma"`
	LimitMa                float64  `json:"limit_ma"`
	SingleDeviceOk         bool     `json:"single_device_ok"`
	GroupsFirstFit         float64  `json:"groups_first_fit"`
	GroupsLowerBound       float64  `json:"groups_lower_bound"`
	CircuitsOverLimitAlone []string `json:"circuits_over_limit_alone"`
	SharePc                float64  `json:"share_pc"`
}

func rcdGrouping(in groupingIn) (out groupingOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if err := rulebook.Positive("idn_ma", in.Idn, "mA"); err != nil {
		return out, nil, err
	}
	if len(in.Circuits) == 0 {
		return out, nil, fmt.Errorf("circuits is empty: give at least one circuit with its standing leakage")
	}
	total, packed := 0.0, 0.0
	limit := w.Add("limit", "30 % × IΔn", text(rcdStandingLeakageShareMax.V(), " × ", in.Idn),
		LeakLimit(in.Idn), "mA", rcdRules.Source.Ref)
	for _, c := range in.Circuits {
		if err := rulebook.ZeroOrMore("circuits.leak_ma", c.MA, "mA"); err != nil {
			return out, nil, err
		}
		total += c.MA
		if working.AtMost(c.MA, limit) {
			packed += c.MA
		}
	}
	w.Add("together", "sum", "", total, "mA", "")
	groups, alone := FirstFit(in.Circuits, limit)
	for i, g := range groups {
		names, sum := []string{}, 0.0
		for _, c := range g {
			names, sum = append(names, c.Name), sum+c.MA
		}
		w.Add(text("group ", float64(i+1)), "first fit by falling leakage", strings.Join(names, " + "), sum, "mA", "")
	}
	// A hair under a whole number is that number: 9.000000001 mA of 9 is one group.
	least := w.Add("at least", "sum / limit, next whole number", text(packed, " / ", limit), math.Ceil(packed/limit-1e-9), "", "")
	return groupingOut{TotalMa: total, LimitMa: limit, SingleDeviceOk: working.AtMost(total, limit),
		GroupsFirstFit: float64(len(groups)), GroupsLowerBound: least, CircuitsOverLimitAlone: rulebook.Sorted(alone),
		SharePc: w.Add("share", "sum / IΔn", text(total, " / ", in.Idn), total/in.Idn*100, "%", "")}, w.Steps, nil
}

type submainIn struct {
	Ze      float64 `json:"ze_ohm" unit:"ohm"`
	LimitPc float64 `json:"limit_pc" unit:"%" doc:"on the drop of both stages together"`
	Submain stage   `json:"submain"`
	Final   stage   `json:"final"`
}

// stage is one cable of the chain with the device that protects it.
type stage struct {
	Table      string   `json:"table"`
	Line       float64  `json:"line_mm2" unit:"mm2"`
	CPC        float64  `json:"cpc_mm2" unit:"mm2"`
	LengthM    float64  `json:"length_m" unit:"m"`
	Multiplier *float64 `json:"multiplier" doc:"20 degC to operating temperature; by the table's insulation when absent"`
	IbA        float64  `json:"ib_a" unit:"A"`
	Curve      string   `json:"curve"`
	InA        float64  `json:"in_a" unit:"A"`
	TimeS      *float64 `json:"time_s" unit:"s" doc:"of the submain, 5 when absent; a final circuit has 0.4"`
}

func (s stage) work(w *rulebook.Worked, name string, ze, timeS float64) (zs, limit, volts float64, err error) {
	r1, e1 := ResistancePerM("cu", s.Line)
	r2, e2 := ResistancePerM("cu", s.CPC)
	mv, x, e3 := dropAt("line_mm2", s.Table, s.Line, 1, "")
	limit, ia, e4 := ZsMax(s.Curve, s.InA, timeS, CminDefault)
	m := rulebook.Or(s.Multiplier, HotMultiplier(insulationC(s.Table)))
	if err := rulebook.FirstError(rulebook.At("line_mm2", e1), rulebook.At("cpc_mm2", e2), e3, e4,
		rulebook.Positive("length_m", s.LengthM, "m"), rulebook.Positive("multiplier", m, "1"),
		rulebook.ZeroOrMore("ib_a", s.IbA, "A"), rulebook.Positive("in_a", s.InA, "A")); err != nil {
		return 0, 0, 0, fmt.Errorf("%s.%w", name, err)
	}
	loop := w.Add("R1+R2, "+name, "(r1 + r2) × L × multiplier / 1000",
		fmt.Sprintf("(%s + %s) × %s × %s / 1000", f(r1), f(r2), f(s.LengthM), f(m)),
		physics.LoopResistance(r1, r2, s.LengthM, m), "Ω", conductors.Source.Ref)
	zs = w.Add("Zs, "+name, "impedance before it + (R1+R2)", text(ze, " + ", loop), ze+loop, "Ω", "")
	w.Add("Zs max, "+name, "U0 × Cmin / Ia", text(NominalV, " × ", CminDefault, " / ", ia), limit, "Ω", "411.4.4")
	volts = w.Add("drop, "+name, "mV/A/m × Ib × L / 1000",
		fmt.Sprintf("%s × %s × %s / 1000", f(mv), f(s.IbA), f(s.LengthM)), physics.Drop(mv, x, 1, s.IbA, s.LengthM), "V",
		dropSource(s.Table))
	return zs, limit, volts, nil
}

// submainOut is what submain-final answers.
type submainOut struct {
	ZdbOhm          float64 `json:"zdb_ohm"`
	ZsOhm           float64 `json:"zs_ohm"`
	SubmainZsMaxOhm float64 `json:"submain_zs_max_ohm"`
	FinalZsMaxOhm   float64 `json:"final_zs_max_ohm"`
	SubmainOk       bool    `json:"submain_ok"`
	FinalOk         bool    `json:"final_ok"`
	VdSubmainV      float64 `json:"vd_submain_v"`
	VdFinalV        float64 `json:"vd_final_v"`
	VdTotalV        float64 `json:"vd_total_v"`
	VdTotalPc       float64 `json:"vd_total_pc"`
	VdOk            bool    `json:"vd_ok"`
	VdFinalAloneOk  bool    `json:"vd_final_alone_ok"`
}

func submainFinal(in submainIn) (out submainOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.ZeroOrMore("ze_ohm", in.Ze, "Ω"), rulebook.Positive("limit_pc", in.LimitPc, "%")); err != nil {
		return out, nil, err
	}
	zdb, limit1, v1, err := in.Submain.work(w, "submain", in.Ze, rulebook.Or(in.Submain.TimeS, 5))
	if err != nil {
		return out, nil, err
	}
	zs, limit2, v2, err := in.Final.work(w, "final", zdb, 0.4)
	if err != nil {
		return out, nil, err
	}
	pc := w.Add("drop, both", "V / U0", text("(", v1, " + ", v2, ") / ", NominalV), (v1+v2)/NominalV*100, "%", vdLimits.Source.Ref)
	return submainOut{ZdbOhm: zdb, ZsOhm: zs, SubmainZsMaxOhm: limit1, FinalZsMaxOhm: limit2,
		SubmainOk: working.AtMost(zdb, limit1), FinalOk: working.AtMost(zs, limit2), VdSubmainV: v1, VdFinalV: v2,
		VdTotalV: v1 + v2, VdTotalPc: pc, VdOk: working.AtMost(pc, in.LimitPc),
		VdFinalAloneOk: working.AtMost(v2/NominalV*100, in.LimitPc)}, w.Steps, nil
}

type voltageIn struct {
	School string  `json:"school" doc:"bs7671, iec60364, sans10142 or is732"`
	U      float64 `json:"u_v" unit:"V"`
}

// VoltageWindow is the least and greatest supply voltage in volts line to neutral.
func VoltageWindow(school string) (low, high float64, err error) {
	r := supplyVoltages.Find(func(it *supplyVoltagesRow) bool { return it.School == school })
	if r < 0 {
		return 0, 0, fmt.Errorf("school: %q is not accepted; give bs7671, iec60364, sans10142 or is732", school)
	}
	return NominalV * (1 + supplyVoltages.Row(r).LowPc/100), NominalV * (1 + supplyVoltages.Row(r).HighPc/100), nil
}

// voltageOut is what supply-voltage answers.
type voltageOut struct {
	LowV        float64 `json:"low_v"`
	HighV       float64 `json:"high_v"`
	DeviationPc float64 `json:"deviation_pc"`
	Inside      bool    `json:"inside"`
}

func supplyVoltage(in voltageIn) (out voltageOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	low, high, err := VoltageWindow(in.School)
	if err := rulebook.FirstError(err, rulebook.Positive("u_v", in.U, "V")); err != nil {
		return out, nil, err
	}
	w.Add("window", text(low, " to ", high, " V"), "", high, "V", supplyVoltages.Source.Ref)
	deviation := w.Add("deviation", "U / U0 − 1", text(in.U, " / ", NominalV, " − 1"), (in.U/NominalV-1)*100, "%", "")
	return voltageOut{LowV: low, HighV: high, DeviationPc: deviation,
		Inside: working.AtMost(low, in.U) && working.AtMost(in.U, high)}, w.Steps, nil
}

func boardCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("board-rdf", "continuous loads of a board against its rated diversity factor", rdf),
		rulebook.Define("rcd-grouping", "standing leakage of circuits that share a residual-current device", rcdGrouping),
		rulebook.Define("submain-final", "a distribution circuit and a final circuit after it", submainFinal),
		rulebook.Define("supply-voltage", "a measured supply voltage against the declared window", supplyVoltage),
	}
}
