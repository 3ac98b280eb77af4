package iec230

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// r1r2Where says how R1+R2 of the circuit is read.
func (c *circuit) r1r2Where() string {
	if c.k.Use == "ring" {
		return "Each conductor end to end first; then line and protective conductor cross-connected at the board and read at every outlet: the highest counts."
	}
	return "Line and protective conductor joined at the board, measured at the point farthest from it."
}

// TestIDs names the tests that a reading may be of, in the order of the
// sequence: dead, permission to energise, live (BS 7671 643, IEC 60364-6).
var TestIDs = []string{
	"continuity-earth", "continuity-bond", "r1r2", "insulation-ln", "insulation-le", "insulation-ne", "polarity-dead", "electrode",
	"polarity-live", "ze", "pfc", "zs", "rcd-x1", "rcd-x5", "rcd-button", "functional", "ev-functional", "ev-pen",
}

// unexpected is the share, and unexpectedOhm the least difference in ohms,
// beyond which a low-resistance reading is not what the model expects: the
// scatter of instruments and of route lengths lies well within.
const (
	unexpected    = 0.3
	unexpectedOhm = 0.05
)

func differs(got, expected float64) bool {
	return math.Abs(got-expected) > math.Max(unexpectedOhm, unexpected*expected)
}

const (
	deadCaution = "Circuit isolated, locked and tagged; tester proved, every pair dead, tester proved again."
	liveCaution = "Live work: only a competent person, insulated probes, covers shut again at once."
)

// Tests lists the tests of the job: the supply's once, then each circuit's,
// dead ones first.
func (Practice) Tests(job *install.Job, report *rulebook.Report) []rulebook.Test {
	var dead, live []rulebook.Test
	sys := newSystem(job)
	addDead := func(t rulebook.Test) { t.Caution = deadCaution; dead = append(dead, t) }
	addLive := func(t rulebook.Test) {
		t.Live, t.Caution = true, liveCaution
		live = append(live, t)
	}
	addDead(rulebook.Test{ID: "continuity-earth", Title: "Continuity of the main earthing conductor", Unit: "Ω", Where: "From the main earthing terminal to the means of earthing, one end free.", Judge: lowOhms})
	if len(job.Supply.Bonds) > 0 {
		addDead(rulebook.Test{ID: "continuity-bond", Title: "Continuity of main bonding, the highest", Unit: "Ω", Where: "From the main earthing terminal to each bonding clamp, on the pipe side.", Judge: lowOhms})
	}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		sum := report.Circuit(k.ID).Summary
		c := circuit{system: sys, k: k, rules: rulesOf(k.Use), feed: sys.feedOf(k.From)}
		known := sum.ZsMax > 0
		r1r2 := rulebook.Test{ID: "r1r2", Circuit: k.ID, Title: "R1+R2 of the circuit", Unit: "Ω", Where: c.r1r2Where(), Judge: func(r install.Record) (working.Verdict, string) { return judgeR1R2(*r.Value, sum) }}
		if sum.R1R2Cold > 0 {
			r1r2.Expected = &sum.R1R2Cold
		}
		addDead(r1r2)
		for _, pair := range []struct{ id, name string }{{"insulation-ln", "line to neutral"}, {"insulation-le", "line to earth"}, {"insulation-ne", "neutral to earth"}} {
			addDead(rulebook.Test{ID: pair.id, Circuit: k.ID, Title: "Insulation resistance, " + pair.name, Unit: "MΩ", Where: "500 V d.c. at the board, charge point and other electronics disconnected; 250 V where they cannot be.", Judge: judgeInsulation})
		}
		addDead(rulebook.Test{ID: "polarity-dead", Circuit: k.ID, Title: "Polarity, dead", YesNo: true, Where: "With R1+R2: line in line, neutral in neutral, at both ends.", Judge: rulebook.YesNo})
		atTerminal := k.PEN.Option == "met_electrode" && c.penApplies()
		if c.separateEarth() || atTerminal {
			idn, limit := c.residualMA(), 0.0
			if atTerminal {
				limit = METElectrodeMax(math.Max(report.Demand.AfterA, 1))
			}
			addDead(rulebook.Test{ID: "electrode", Circuit: k.ID, Title: "Earth electrode resistance", Unit: "Ω", Where: "Three-pole, the electrode disconnected from the installation; move the middle probe by a tenth both ways.", Judge: func(r install.Record) (working.Verdict, string) {
				if limit > 0 {
					return judgeTerminal(*r.Value, limit)
				}
				return judgeElectrode(*r.Value, idn, ruleOf(job, nil, "electrode-advised"))
			}})
		}
		addLive(rulebook.Test{ID: "polarity-live", Circuit: k.ID, Title: "Polarity of the supply", YesNo: true, Where: "At the board's incoming terminals, then at the point.", Judge: rulebook.YesNo})
		if i == 0 {
			ze := rulebook.Test{ID: "ze", Title: "External loop impedance Ze", Unit: "Ω", Where: "At the origin, main switch off and locked, earthing disconnected from the installation: connect it again before anything is energised.", Judge: func(r install.Record) (working.Verdict, string) { return judgeZe(*r.Value, job) }}
			if job.Supply.ZeOhm.Known() {
				ze.Expected = job.Supply.ZeOhm.Value
			}
			pfc := rulebook.Test{ID: "pfc", Title: "Prospective fault current, the highest", Unit: "kA", Where: "At the board, line to neutral and line to earth; write the higher.", Judge: func(r install.Record) (working.Verdict, string) { return judgePFC(*r.Value, job) }}
			if job.Supply.PFCkA.Known() {
				pfc.Expected = job.Supply.PFCkA.Value
			}
			addLive(ze)
			addLive(pfc)
		}
		_, tempC := dropTable(k)
		zs := rulebook.Test{ID: "zs", Circuit: k.ID, Title: "Loop impedance Zs at the point", Unit: "Ω", Where: "Where the user touches: the metal case where there is one; the highest reading counts.", Judge: func(r install.Record) (working.Verdict, string) {
			return judgeZs(r, job, sum, c.separateEarth(), tempC)
		}}
		if known && sum.ZsCold > 0 {
			zs.Expected = &sum.ZsCold
		}
		addLive(zs)
		if kind, idn, delayed := c.residualDevice(); kind != "" {
			addLive(rulebook.Test{ID: "rcd-x1", Circuit: k.ID, Title: "Residual-current device at its rating, the slower half-cycle", Unit: "ms", Where: "At the point, loads disconnected; both half-cycles, write the longer time.", Judge: judgeRCD(1, delayed)})
			if fiveTimes(job) && idn <= rcdRules.Fixed("additional_protection_idn_max") {
				addLive(rulebook.Test{ID: "rcd-x5", Circuit: k.ID, Title: "Residual-current device at five times, the slower half-cycle", Unit: "ms", Where: "At the point, loads disconnected; both half-cycles, write the longer time.", Judge: judgeRCD(5, delayed)})
			}
			addLive(rulebook.Test{ID: "rcd-button", Circuit: k.ID, Title: "Residual-current device's own button", YesNo: true, Where: "At the board, after the timed tests.", Judge: rulebook.YesNo})
		}
		addLive(rulebook.Test{ID: "functional", Circuit: k.ID, Title: "Switching and isolation", YesNo: true, Where: "The device and any isolator open and close the circuit.", Judge: rulebook.YesNo})
		if k.Use == "ev" {
			addLive(rulebook.Test{ID: "ev-functional", Circuit: k.ID, Title: "Charge point with a vehicle simulator", YesNo: true, Where: "Not connected, connected, charging, stop, and a simulated earth fault, as its maker says.", Judge: rulebook.YesNo})
			if c.penApplies() && (k.PEN.Option == "voltage_monitor" || k.PEN.Option == "touch_voltage_device") {
				addLive(rulebook.Test{ID: "ev-pen", Circuit: k.ID, Title: "Broken neutral-earth device", YesNo: true, Where: "As its maker says: it opens line, neutral and protective conductor within 5 s.", Judge: rulebook.YesNo})
			}
		}
	}
	return append(dead, live...)
}

func lowOhms(r install.Record) (working.Verdict, string) {
	guide := testParameters.Fixed("bond_continuity_max")
	if working.AtMost(*r.Value, guide) {
		return working.Pass, text("At most ", guide, " Ω, the guide for a joint.")
	}
	return working.Caution, text(*r.Value, " Ω is above the guide of ", guide, " Ω: allow for the conductor's length and the leads, or look for a poor joint.")
}

func judgeR1R2(v float64, sum rulebook.Summary) (working.Verdict, string) {
	if sum.R1R2Cold == 0 {
		return working.Caution, "The model has no expectation: the route is not complete."
	}
	if !differs(v, sum.R1R2Cold) {
		return working.Pass, "As the model expects."
	}
	if v > sum.R1R2Cold {
		return working.Caution, "Higher than the model: a loose terminal, a longer route, or the wrong conductor."
	}
	return working.Caution, "Lower than the model: a parallel path, leads not nulled, or a shorter route than entered."
}

func judgeInsulation(r install.Record) (working.Verdict, string) {
	if r.OverRange {
		return working.Pass, "Above the instrument's range."
	}
	_, limit := InsulationLimit(NominalV, false, false)
	switch {
	case *r.Value < limit:
		return working.Fail, text("Under ", limit, " MΩ: find the cause before anything is energised.")
	case *r.Value < InvestigateMohm:
		return working.Caution, text("Passes ", limit, " MΩ, but under ", InvestigateMohm, " MΩ on a new circuit: look for the cause.")
	}
	return working.Pass, text("At least ", limit, " MΩ.")
}

// judgeTerminal judges an electrode at the main earthing terminal by what a broken
// combined conductor may put on the vehicle.
func judgeTerminal(v, limit float64) (working.Verdict, string) {
	if !working.AtMost(v, limit) {
		return working.Fail, text("Above ", limit, " Ω, at which a broken combined conductor leaves ", touchLimitV, " V at this demand.")
	}
	return working.Pass, text("Within ", limit, " Ω for a broken combined conductor at this demand.")
}

func judgeElectrode(v, idn, stable float64) (working.Verdict, string) {
	if idn <= 0 {
		return working.Unknown, "No residual-current device is known whose rating the electrode serves."
	}
	limit := TouchV * 1000 / idn
	switch {
	case !working.AtMost(v, limit):
		return working.Fail, text("Above ", limit, " Ω for a ", idn, " mA device.")
	case !working.AtMost(v, stable):
		return working.Caution, text("Within ", limit, " Ω, but above ", stable, " Ω it may not be stable.")
	}
	return working.Pass, text("Within ", stable, " Ω.")
}

func judgeZe(v float64, job *install.Job) (working.Verdict, string) {
	known := job.Supply.ZeOhm
	if !known.Known() {
		return working.Caution, "The Supply sheet has no figure to compare with: enter this one there."
	}
	if v > known.V()+unexpectedOhm {
		return working.Fail, text("Higher than the ", known.V(), " Ω that the design rests on: put this figure on the Supply sheet and see what still holds.")
	}
	if differs(v, known.V()) {
		return working.Caution, text("Lower than the ", known.V(), " Ω of the design: the design is on the safe side; the fault current may be higher.")
	}
	return working.Pass, "As the design has it."
}

// judgePFC judges the fault current at the main board by the devices there, with what
// their makers state for them and the device ahead, or for the board.
func judgePFC(v float64, job *install.Job) (working.Verdict, string) {
	lacks := ""
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if k.From != "" { // at another board less current flows; its checks follow this figure
			continue
		}
		breaks := max(k.Protection.IcnKA, k.Protection.CascadeKA)
		if working.AtMost(v, breaks) {
			continue
		}
		if breaks = max(breaks, job.Board.ConditionalKA); !working.AtMost(v, breaks) {
			return working.Fail, text("Above the ", breaks, " kA that the device of ", k.Name, " breaks.")
		}
		lacks = conditionalLacks(&job.Supply)
	}
	if lacks != "" {
		return working.Unknown, "More than a device breaks by itself. Not yet known: " + lacks + "."
	}
	return working.Pass, "Every device at this board breaks it."
}

func judgeZs(r install.Record, job *install.Job, sum rulebook.Summary, electrode bool, tempC float64) (working.Verdict, string) {
	v := *r.Value
	if sum.ZsMax == 0 {
		return working.Unknown, "The limit is not yet known: the design is not complete."
	}
	limit, how := sum.ZsMax, ""
	switch {
	case electrode:
		how = text("limit ", limit, " Ω with the residual-current device")
	case job.Schools.ZsReading == "corrected" && r.TempC != nil && v >= job.Supply.ZeOhm.V():
		v = ZsAtOperating(job.Supply.ZeOhm.V(), v, *r.TempC, HotMultiplier(tempC))
		how = text(v, " Ω corrected to ", tempC, " °C against ", limit, " Ω")
	default:
		limit *= siteShare
		how = text("against ", limit, " Ω, 80 % of the limit, as it was read cold")
	}
	if by := sum.ZsResidual; !working.AtMost(v, limit) && by > 0 && working.AtMost(v, by) {
		return working.Caution, text("Over what the overcurrent device opens in time (", how, "); the residual-current device does up to ", by, " Ω.")
	}
	if !working.AtMost(v, limit) {
		return working.Fail, "Too high: " + how + "."
	}
	if sum.ZsCold > 0 && differs(*r.Value, sum.ZsCold) {
		return working.Caution, "Within the limit (" + how + "), but not what the model expects: look for a loose terminal, a parallel path or another length."
	}
	return working.Pass, "Within the limit: " + how + "."
}

// fiveTimes reports whether devices are also tested at five times their rating: by the
// choice of the company, or by an edition that asks for it. An edition that the table
// does not know asks for it.
func fiveTimes(job *install.Job) bool {
	row := editionOf(job)
	return job.Schools.RCDTests == "three_test" || row < 0 || editionTable.Num(row, "five_times") == 1
}

// judgeRCD judges the longer trip time at a multiple of the rating: a delayed device has
// a least time too, without which it does not wait for the one behind it.
func judgeRCD(multiple float64, delayed bool) func(install.Record) (working.Verdict, string) {
	kind := "general"
	if delayed {
		kind = "s_type"
	}
	return func(r install.Record) (working.Verdict, string) {
		low, limit, _ := RCDLimits(kind, multiple)
		switch {
		case r.OverRange:
			return working.Fail, "It did not trip."
		case !working.AtMost(*r.Value, limit):
			return working.Fail, text("Slower than ", limit, " ms.")
		case delayed && !working.AtMost(low, *r.Value):
			return working.Fail, text("Faster than ", low, " ms: it does not wait as a delayed device does.")
		case delayed:
			return working.Pass, text("Between ", low, " and ", limit, " ms, as a delayed device.")
		}
		return working.Pass, text("Within ", limit, " ms.")
	}
}
