package iec230

import (
	"math"
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// r1r2Where says how R1+R2 of the circuit is read.
func (c *circuit) r1r2Where(stops []rulebook.StopReport) string {
	if c.k.Use == useRing {
		where := "Each conductor end to end first; then line and protective conductor cross-connected at the board and read at " +
			"every outlet: the highest counts"
		if far := c.farthest(stops); far != "" {
			return where + "; it is expected at " + far + "."
		}
		return where + "."
	}
	if far := c.farthest(stops); far != "" {
		return "Line and protective conductor joined at the board, measured at every point; the highest, expected at " + far + ", counts."
	}
	return "Line and protective conductor joined at the board, measured at the point farthest from it."
}

// farthest is the point from which the loop of the circuit is highest, in words; empty where that is not known.
func (c *circuit) farthest(stops []rulebook.StopReport) string {
	for i := range stops {
		if stops[i].Worst && len(stops) > 1 {
			return c.k.Serves.Boxes[i].Called()
		}
	}
	return ""
}

// TestIDs names the tests that a reading may be of, in the order of the
// sequence: dead, permission to energise, live (BS 7671 643, IEC 60364-6).
var TestIDs = []string{
	"continuity-earth", "continuity-bond", "continuity-cpc", "insulation-tails", "torque", "ze", "earth-back", "ring-r1", "ring-rn",
	"ring-r2", "r1r2", "insulation-ln", "insulation-le", "insulation-ne", "polarity-dead", "electrode",
	"electrode-alone",
	"polarity-supply", "voltage", "voltage-ne", "polarity-live", "pfc", "zs", "rcd-half", "rcd-x1", "rcd-x5", "rcd-dc", "rdc-6", "rcd-button",
	"functional", "ev-functional", "ev-pen",
	"spd-light", "changeover", "source-joint", "transfer", "loss-of-mains",
}

const (
	deadCaution = "Circuit isolated, locked and tagged; tester proved, every pair dead, tester proved again."
	liveCaution = "Live work: only a competent person, insulated probes, covers shut again at once."
)

// Tests lists the tests of the job: the supply's once, then each circuit's,
// dead ones first.
func (Practice) Tests(job *install.Job, report *rulebook.Report) []rulebook.Test {
	sys := newSystem(job)
	l := &testList{job: job, report: report, read: rulebook.ReadingsOf(job), timed: map[string]bool{}}
	if job.Trait().Origin {
		l.supply()
	}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		c := circuit{system: sys, k: k, rules: rulesOf(k.Use), feed: sys.feedOf(k.From)}
		l.dead(&c)
		l.live(&c)
	}
	for i := range job.Boards {
		if b := &job.Boards[i]; job.Touches(b) && job.Trait().Origin {
			l.board(sys, b)
		}
	}
	if len(job.Surge.Devices) > 0 {
		l.addLive(rulebook.Test{ID: "spd-light", Title: "Indicator of each surge device", YesNo: true,
			Where: "Seen without opening a cover: each shows that it is in order, as its manufacturer says.", Judge: rulebook.YesNo})
	}
	if job.Standby.Source != "" && job.Trait().Origin {
		l.addLive(rulebook.Test{ID: "transfer", Title: "Loss and return of the supply, tried", YesNo: true, OfSource: true,
			Where: "Open the main switch: the source starts and takes over; close it: the load goes back and the source runs down. The " +
				"operator's side was dead towards the network throughout.", Judge: rulebook.YesNo})
	}
	return append(l.deadOnes, l.liveOnes...)
}

// sourceTests are those of a standby source. The earth of the network is not relied on while the source runs islanded: it makes its own joint,
// to its own electrode (BS 7671 551.4.3.2.1).
func sourceTests(job *install.Job) []rulebook.Test {
	missing := "First the source in the supply arrangement, with its own electrode and the joint that it makes only while islanded."
	if slices.ContainsFunc(job.Chain.Enclosures, func(e install.Enclosure) bool {
		return e.Kind == kindSource && e.Electrode != nil && *e.Electrode && e.IslandedOnly != nil && *e.IslandedOnly
	}) {
		missing = ""
	}
	return rulebook.SourceTests(job, rulebook.SourceWords{Supply: "network", Earth: "earth"}, true, missing)
}

// supply adds the tests of what every circuit rests on.
func (l *testList) supply() {
	job := l.job
	l.addDead(rulebook.Test{ID: "continuity-earth", Title: "Continuity of the main earthing conductor", Unit: "Ω",
		Where:   "From the main earthing terminal to the means of earthing, one end free.",
		Parting: rulebook.Parted(rulebook.Parting{ID: rulebook.PartedEarth, Name: "Main earthing conductor"}), Judge: lowOhms})
	if len(job.Supply.Bonds) > 0 {
		l.addDead(rulebook.Test{ID: "continuity-bond", Title: "Continuity of main bonding, the highest", Unit: "Ω",
			Where: "From the main earthing terminal to each bonding clamp, on the pipe side.", Judge: lowOhms})
	}
	if job.Kind == install.SupplyUpgrade {
		l.addDead(insulationTest(job, "insulation-tails", "",
			"Insulation resistance of tails and board, live conductors together to earth",
			"500 V d.c. with the ways off: line and neutral joined, against the main earthing terminal."))
	}
	for _, t := range rulebook.TorqueTests(job, "N·m", 1) {
		l.addDead(t)
	}
	for _, t := range sourceTests(job) {
		l.addDead(t)
	}
	if len(job.Circuits) > 0 || job.Kind == install.SupplyUpgrade || len(job.Surge.Devices) > 0 {
		l.origin()
	}
	if job.Supply.Earthing == install.TT {
		l.electrodes()
	}
}

// testList gathers the tests of a job, dead and live apart.
type testList struct {
	job                *install.Job
	report             *rulebook.Report
	read               rulebook.Readings
	deadOnes, liveOnes []rulebook.Test
	timed              map[string]bool // shared residual-current devices that have their tests
}

func (l *testList) addDead(t rulebook.Test) {
	t.Caution = deadCaution
	l.deadOnes = append(l.deadOnes, t)
}

func (l *testList) addLive(t rulebook.Test) {
	t.Live, t.Caution = true, liveCaution
	l.liveOnes = append(l.liveOnes, t)
}

// origin adds what is read of the incoming supply: the external loop impedance while
// the installation stays isolated, the earthing conductor back, and once it is energised
// its polarity and fault current.
func (l *testList) origin() {
	job := l.job
	ze := rulebook.Test{ID: "ze", Title: "External loop impedance Ze", Unit: "Ω", Origin: true,
		Caution: "Live terminals with the earthing conductor off: nothing may be switched on and nobody touches metal until it is back. " +
			liveCaution,
		Where: "At the origin on the incoming supply, main switch off and locked, earthing conductor disconnected from the " +
			"installation for this reading only.",
		Briefly: []rulebook.Parting{{ID: rulebook.PartedEarth, Name: "Main earthing conductor"}},
		Judge:   func(r install.Record) (working.Verdict, string) { return judgeZe(*r.Value, job) }}
	if job.Supply.ZeOhm.Known() {
		ze.Expected = job.Supply.ZeOhm.Value
	}
	l.deadOnes = append(l.deadOnes, ze)
	l.addDead(rulebook.Test{ID: "earth-back", Title: "The main earthing conductor is connected again", YesNo: true,
		After: []string{"ze"}, FromOrigin: true, Where: "Looked at, tightened and pulled by hand, before the main switch is unlocked.",
		Judge: rulebook.YesNo})
	if job.Kind == install.SupplyUpgrade {
		l.addLive(rulebook.Test{ID: "polarity-supply", Title: "Polarity of the incoming supply", YesNo: true, Stops: true,
			Where: "At the incoming terminals of the main switch: line to neutral and line to earth at nominal, neutral to earth " +
				"near nothing.", Judge: rulebook.YesNo})
	}
	l.voltage()
	pfc := rulebook.Test{ID: "pfc", Title: "Prospective fault current, the highest", Unit: "kA",
		Where: "At the board, line to neutral and line to earth; write the higher.",
		Judge: func(r install.Record) (working.Verdict, string) { return judgePFC(*r.Value, job, &job.Board) }}
	if job.Supply.PFCkA.Known() {
		pfc.Expected = job.Supply.PFCkA.Value
	}
	l.addLive(pfc)
	if job.Kind == install.SupplyUpgrade {
		l.addLive(rulebook.Test{ID: "functional", Title: "Main switch and isolator", YesNo: true,
			Where: "Each opens and closes the whole installation, its positions marked.", Judge: rulebook.YesNo})
	}
}

// board adds what is read at a further board: its polarity, the fault current there, which its devices break, and its main switch.
func (l *testList) board(sys *system, b *install.Board) {
	job := l.job
	l.addLive(rulebook.Test{ID: "polarity-board:" + b.ID, Title: "Polarity at " + b.Name, YesNo: true, Stops: true,
		Where: "At the incoming terminals of its main switch: line to neutral and line to earth at nominal, neutral to earth near nothing.",
		Judge: rulebook.YesNo})
	pfc := rulebook.Test{ID: "pfc:" + b.ID, Title: "Prospective fault current at " + b.Name + ", the higher", Unit: "kA",
		Where: "At its main switch, line to neutral and line to earth; write the higher.",
		Judge: func(r install.Record) (working.Verdict, string) { return judgePFC(*r.Value, job, b) }}
	if here := job.On(b); len(here) > 0 {
		if ka, ok := (&circuit{system: sys, k: here[0], feed: sys.feedOf(here[0].From)}).faultAtBoard(); ok {
			pfc.Expected = &ka
		}
	}
	l.addLive(pfc)
	l.addLive(rulebook.Test{ID: "functional:" + b.ID, Title: "Main switch of " + b.Name, YesNo: true,
		Where: "Opens and closes all of that board, its positions marked.", Judge: rulebook.YesNo})
}

// residualMA is the highest rating in mA of the devices that an electrode serves: those
// of the circuits fed from one distribution circuit, or from the main board under the
// empty id. 0 without any.
func (l *testList) residualMA(sys *system, from string) float64 {
	most := 0.0
	for i := range l.job.Circuits {
		k := &l.job.Circuits[i]
		if c := (circuit{system: sys, k: k, rules: rulesOf(k.Use),
			feed: sys.feedOf(k.From)}); k.From == from || from == "" && c.feed.electrode == nil {
			most = max(most, c.residualMA())
		}
	}
	return most
}

// electrode adds an electrode, judged by the device of the highest rating that it serves.
func (l *testList) electrode(id, circuit, title string, idn float64) {
	l.addDead(rulebook.Test{ID: id, Circuit: circuit, Title: title, Unit: "Ω", Where: electrodeWhere, Parting: electrodeOff(circuit),
		Judge: func(r install.Record) (working.Verdict, string) {
			return judgeElectrode(*r.Value, idn, ruleOf(l.job, nil, "electrode-advised"))
		}})
}

// electrodeOff is the conductor to the electrode of the installation, or of a circuit.
func electrodeOff(circuit string) func(*install.Record) []rulebook.Parting {
	return rulebook.Parted(rulebook.Parting{ID: rulebook.PartedElectrode + ":" + circuit, Name: "Clamp at the electrode"})
}

// surgeOff are the surge devices, which a test at the full voltage reads like a fault.
func surgeOff(job *install.Job, full float64) func(*install.Record) []rulebook.Parting {
	return func(r *install.Record) []rulebook.Parting {
		if r.TestV != full || len(job.Surge.Devices) == 0 {
			return nil
		}
		return []rulebook.Parting{{ID: rulebook.PartedSurge, Name: "Surge devices"}}
	}
}

const electrodeWhere = "Three-pole, the electrode disconnected from the installation; move the middle probe by a tenth both ways."

// insulationTest is an insulation resistance with the test voltages it may be read at.
func insulationTest(job *install.Job, id, circuit, title, where string) rulebook.Test {
	full, _ := InsulationLimit(NominalV, false, false)
	low, _ := InsulationLimit(NominalV, false, true)
	return rulebook.Test{ID: id, Circuit: circuit, Title: title, Unit: "MΩ", Pierced: true, TestV: []float64{full, low}, Where: where,
		Parting: surgeOff(job, full),
		Explain: func(r install.Record) bool { return r.TestV == low && len(job.Surge.Devices) == 0 },
		Judge: func(r install.Record) (working.Verdict, string) {
			return judgeInsulation(r, len(job.Surge.Devices) > 0)
		}}
}

// dead adds the dead tests of a circuit.
func (l *testList) dead(c *circuit) {
	if c.k.Use == useSurge {
		return // its device is seen with the supply on; a test voltage would only hurt it
	}
	if c.k.State == install.KeptCircuit {
		l.deadAtObject(c.k)
		return
	}
	report := l.report.Circuit(c.k.ID)
	k, sum := c.k, report.Summary
	r1r2 := rulebook.Test{ID: "r1r2", Circuit: k.ID, Title: "R1+R2 of the circuit", Unit: "Ω", Where: c.r1r2Where(report.Run), Points: rulebook.PointsOf(k),
		Judge:   func(r install.Record) (working.Verdict, string) { return judgeR1R2(*r.Value, sum) },
		Explain: func(r install.Record) bool { return sum.R1R2Cold > 0 && rulebook.Differs(*r.Value, sum.R1R2Cold) }}
	if sum.R1R2Cold > 0 {
		r1r2.Expected = &sum.R1R2Cold
	}
	if k.Use == useRing {
		l.ring(c)
	}
	l.addDead(r1r2)
	loads := "lamps, appliances and electronics"
	if k.Use == useEV {
		loads = "charge point and other electronics"
	}
	where := "500 V d.c. at the board, " + loads + " disconnected; 250 V where they cannot be."
	for _, pair := range []struct{ id, name string }{{"insulation-ln", "line to neutral"},
		{"insulation-le", "line to earth"}, {"insulation-ne", "neutral to earth"}} {
		l.addDead(insulationTest(l.job, pair.id, k.ID, "Insulation resistance, "+pair.name, where))
	}
	l.addDead(rulebook.Test{ID: "polarity-dead", Circuit: k.ID, Title: "Polarity, dead", YesNo: true,
		Where: "With R1+R2: line in line, neutral in neutral, at both ends.", Judge: rulebook.YesNo})
	switch {
	case k.PEN.Option == penElectrode && c.penApplies():
		limit := METElectrodeMax(math.Max(l.report.Demand.AfterA, 1))
		l.addDead(rulebook.Test{ID: "electrode", Circuit: k.ID,
			Title: "Resistance of the electrode at the main earthing terminal", Unit: "Ω", Where: electrodeWhere, Parting: electrodeOff(k.ID),
			Judge: func(r install.Record) (working.Verdict, string) { return judgeTerminal(*r.Value, limit) }})
	case c.penApplies() && k.PEN.Option == penRod:
		l.electrode("electrode", k.ID, "Resistance of the charge point's own electrode", c.residualMA())
	}
	if k.Use == useDistribution {
		if below := c.system.feedOf(k.ID); below.electrode != nil && below.electrode != c.feed.electrode {
			l.electrode("electrode", k.ID, "Resistance of the electrode behind "+k.Name, l.residualMA(c.system, k.ID))
		}
	}
}

// deadAtObject adds the dead tests of what is repaired or replaced on a circuit that stays.
func (l *testList) deadAtObject(k *install.Circuit) {
	l.addDead(rulebook.Test{ID: "continuity-cpc", Circuit: k.ID, Title: "Continuity of the protective conductor at what was worked on", Unit: "Ω",
		Where: "From its earthing terminal to the main earthing terminal or to metal that is known to be earthed.", Judge: lowOhms})
	l.addDead(insulationTest(l.job, "insulation-le", k.ID, "Insulation resistance, line and neutral together to earth",
		"500 V d.c. with lamps, appliances and electronics disconnected; 250 V where they cannot be."))
	l.addDead(rulebook.Test{ID: "polarity-dead", Circuit: k.ID, Title: "Polarity, dead", YesNo: true,
		Where: "Line in line, neutral in neutral; the switch in the line.", Judge: rulebook.YesNo})
}

// ring adds the three conductors of a ring end to end: line and neutral alike, the
// protective conductor by the ratio of the sections (BS 7671 643.2, ring final circuits).
func (l *testList) ring(c *circuit) {
	cable, ok := Practice{}.Cable(c.k.Route.CableType, c.k.Route.LineMM2)
	length := l.report.Circuit(c.k.ID).Summary.LengthM
	end := func(id, title string, expected float64, judge func(install.Record) (working.Verdict, string)) {
		t := rulebook.Test{ID: id, Circuit: c.k.ID, Title: title, Unit: "Ω",
			Where: "At the board, both legs of the ring off their terminals: end to end of the one conductor.", Judge: judge}
		if expected > 0 {
			t.Expected = &expected
		}
		l.addDead(t)
	}
	line, earth := 0.0, 0.0
	if ok {
		line, earth = cable.R1*length/1000, cable.R2*length/1000
	}
	like := func(v, other float64, name string) (working.Verdict, string) {
		if math.Abs(v-other) > math.Max(rulebook.UnexpectedOhm, 0.1*other) {
			return working.Fail, text(v, " Ω against ", other, " Ω ", name, ": a leg is open, bridged or crossed, or a joint is loose.")
		}
		return working.Pass, text("As ", name, ", ", other, " Ω.")
	}
	first := func() (float64, bool) { return l.read.Highest("ring-r1", c.k.ID) }
	end("ring-r1", "Ring, line end to end (r1)", line, func(r install.Record) (working.Verdict, string) {
		if line > 0 && rulebook.Differs(*r.Value, line) {
			return working.Caution, "Not what the model expects: another length, or a cross connection."
		}
		return working.Pass, "The line conductor is a ring."
	})
	end("ring-rn", "Ring, neutral end to end (rn)", line, func(r install.Record) (working.Verdict, string) {
		r1, ok := first()
		if !ok {
			return working.Unknown, "Read r1 too: the two are compared."
		}
		return like(*r.Value, r1, "the line conductor")
	})
	end("ring-r2", "Ring, protective conductor end to end (r2)", earth, func(r install.Record) (working.Verdict, string) {
		r1, ok := first()
		if !ok || line == 0 {
			return working.Unknown, "Read r1 too: the two are compared."
		}
		return like(*r.Value, r1*earth/line, "by the sections of line and protective conductor")
	})
}

// live adds the live tests of a circuit.
func (l *testList) live(c *circuit) {
	if c.k.Use == useSurge {
		return
	}
	k, sum := c.k, l.report.Circuit(c.k.ID).Summary
	where := "At the board's incoming terminals, then at the point."
	if k.State == install.KeptCircuit {
		where = "At what was worked on: line to neutral and line to earth at nominal, neutral to earth near nothing."
	}
	l.addLive(rulebook.Test{ID: "polarity-live", Circuit: k.ID, Title: "Polarity of the supply", YesNo: true, Where: where, Judge: rulebook.YesNo})
	_, tempC := dropTable(k)
	expected := l.loopExpected(c, sum)
	zs := rulebook.Test{ID: "zs", Circuit: k.ID, Title: "Loop impedance Zs at the point", Unit: "Ω",
		Points:   rulebook.PointsOf(k),
		AsksTemp: zsReading.In(&c.Job.Schools) == readingCorrected,
		Where:    "Where the user touches: the metal case where there is one; the highest reading counts.",
		Possible: func(r install.Record) string { return l.impossible(c, *r.Value) },
		Explain: func(r install.Record) bool {
			_, calculated := l.calculated(c, &r)
			return !calculated && expected > 0 && rulebook.Differs(*r.Value, expected)
		},
		Judge: func(r install.Record) (working.Verdict, string) {
			return l.judgeLoop(c, r, sum, expected, tempC)
		}}
	if c.residualMA() > 0 && k.State != install.KeptCircuit {
		zs.Calculated = func(r install.Record) (float64, bool) { return l.calculated(c, &r) }
	}
	if sum.ZsMax > 0 && expected > 0 {
		zs.Expected = &expected
	}
	if k.State == install.KeptCircuit && !k.Seen {
		zs.Judge = func(install.Record) (working.Verdict, string) {
			return working.Unknown, "Its limit is that of the device ahead: look at the device and say on the Circuits sheet that it is as recorded."
		}
	}
	if k.State == install.KeptCircuit {
		zs.Expected, zs.Explain = nil, nil // what it should be was not designed here
	}
	l.addLive(zs)
	l.residual(c)
	if k.Serves.Backfeed && k.State != install.KeptCircuit { // a source that stays as it was is restored
		l.addLive(rulebook.LossOfMains(k, "Loss of mains, tried", "operator"))
	}
	l.addLive(rulebook.Test{ID: "functional", Circuit: k.ID, Title: "Switching and isolation", YesNo: true,
		Where: "The device and any isolator open and close the circuit.", Judge: rulebook.YesNo})
	if k.Use == useEV {
		l.addLive(rulebook.Test{ID: "ev-functional", Circuit: k.ID, Title: "Charge point with a vehicle simulator",
			YesNo: true, Where: "Not connected, connected, charging, stop, and a simulated earth fault, as its manufacturer says.",
			Judge: rulebook.YesNo})
		if k.Point.DCDetection != nil && *k.Point.DCDetection && k.Protection.RCDType != "B" {
			l.addLive(rulebook.Test{ID: "rdc-6", Circuit: k.ID, Title: "6 mA direct-current detection, the slower polarity", Unit: "ms",
				Where: "With an instrument that gives 6 mA of smooth direct current, at the point while it charges, as its manufacturer says.",
				Judge: judgeTrip("rdc_dd", 1)})
		}
		if c.penApplies() && (k.PEN.Option == penMonitor || k.PEN.Option == penTouch) {
			l.addLive(rulebook.Test{ID: "ev-pen", Circuit: k.ID, Title: "Broken neutral-earth device", YesNo: true,
				Where: "As its manufacturer says: it opens line, neutral and protective conductor within 5 s.", Judge: rulebook.YesNo})
		}
	}
}

func lowOhms(r install.Record) (working.Verdict, string) {
	guide := testBondContinuityMax.V()
	if working.AtMost(*r.Value, guide) {
		return working.Pass, text("At most ", guide, " Ω, the guide for a joint.")
	}
	return working.Caution, text(*r.Value, " Ω is above the guide of ", guide,
		" Ω: allow for the conductor's length and the leads, or look for a poor joint.")
}

func judgeR1R2(v float64, sum rulebook.Summary) (working.Verdict, string) {
	if sum.R1R2Cold == 0 {
		return working.Caution, "The model has no expectation: the route is not complete."
	}
	if !rulebook.Differs(v, sum.R1R2Cold) {
		return working.Pass, "As the model expects."
	}
	if v > sum.R1R2Cold {
		return working.Caution, "Higher than the model: a loose terminal, a longer route, or the wrong conductor."
	}
	return working.Caution, "Lower than the model: a parallel path, leads not nulled, or a shorter route than entered."
}

// judgeInsulation judges a reading by the limit of the voltage that it was read at; surge
// says that a surge device is in the installation (Table 64, 643.3.3).
func judgeInsulation(r install.Record, surge bool) (working.Verdict, string) {
	reduced, _ := InsulationLimit(NominalV, false, true)
	low := r.TestV == reduced
	_, limit := InsulationLimit(NominalV, false, low)
	switch {
	case !r.OverRange && *r.Value < limit:
		says := text("Under ", limit, " MΩ: find the cause before anything is energised.")
		if surge && !low {
			says += text(" A surge device that is still connected reads like a fault at 500 V: disconnect it, or read at ",
				reduced, " V where it cannot be.")
		}
		return working.Fail, says
	case low && !surge:
		return working.Caution, text("At least ", limit, " MΩ, read at ", reduced, " V: only where equipment cannot be disconnected.")
	case r.OverRange:
		return working.Pass, "Above the instrument's range."
	case *r.Value < InvestigateMohm:
		return working.Caution, text("Passes ", limit, " MΩ, but under ", InvestigateMohm, " MΩ on a new circuit: look for the cause.")
	case low:
		return working.Pass, text("At least ", limit, " MΩ at ", reduced, " V, with the surge device connected.")
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
	if v > known.V()+rulebook.UnexpectedOhm {
		return working.Fail, text("Higher than the ", known.V(),
			" Ω that the design rests on: put this figure on the Supply sheet and see what still holds.")
	}
	if rulebook.Differs(v, known.V()) {
		return working.Caution, text("Lower than the ", known.V(),
			" Ω of the design: the design is on the safe side; the fault current may be higher.")
	}
	return working.Pass, "As the design has it."
}

// judgePFC judges the fault current at a board by the devices there, with what
// their manufacturers state for them and the device ahead, or for the board.
func judgePFC(v float64, job *install.Job, b *install.Board) (working.Verdict, string) {
	lacks := ""
	for _, k := range job.On(b) {
		breaks := max(k.Protection.IcnKA, k.Protection.CascadeKA)
		if working.AtMost(v, breaks) {
			continue
		}
		if b.Feed == "" { // a declared rating holds behind the fuse at the origin
			breaks = max(breaks, b.ConditionalKA)
		}
		if !working.AtMost(v, breaks) {
			return working.Fail, text("Above the ", breaks, " kA that the device of ", k.Name, " breaks.")
		}
		lacks = conditionalLacks(&job.Supply)
	}
	if lacks != "" {
		return working.Unknown, "More than a device breaks by itself. Not recorded: " + lacks + "."
	}
	return working.Pass, "Every device at this board breaks it."
}
