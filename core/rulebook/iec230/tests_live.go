package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// farOutPc is how far below nominal, in percent, and farFromEarthV how far from earth, in volts, the supply says that its neutral or combined
// conductor may be open. No rule names them: the declared windows end at 10 %; 50 V is the conventional limit of touch voltage (411.3.2.5), and
// 10 V more than the load of a dwelling leaves on its neutral.
const (
	farOutPc         = 15.0
	farFromEarthV    = 50.0
	neutralMentionsV = 10.0
)

// voltage adds what the supply shows as it is put on, before anything is loaded: outside its window, or with the neutral away from earth, the
// neutral or combined conductor ahead may be open, of which one half of the street's loads lifts the other.
func (l *testList) voltage() {
	low, high, err := VoltageWindow(tablesOf(l.job))
	if err != nil {
		low, high, _ = VoltageWindow("iec60364")
	}
	open := func(r install.Record) bool {
		return r.Value != nil && (*r.Value > high || *r.Value < NominalV*(1-farOutPc/100))
	}
	l.addLive(rulebook.Test{ID: "voltage", Title: "Supply voltage, line to neutral", Unit: "V", Stops: true, SinceOn: true, Suspects: open,
		Where: "At the main switch, before any circuit is closed.", Judge: func(r install.Record) (working.Verdict, string) {
			switch {
			case open(r):
				return working.Fail, text("Far outside ", low, " to ", high, " V: an open neutral or combined conductor is suspected.")
			case *r.Value < low:
				return working.Fail, text("Under ", low, " V: leave it off and tell the network operator.")
			}
			return working.Pass, text("Within ", low, " to ", high, " V.")
		}})
	away := func(r install.Record) bool { return r.Value != nil && *r.Value > farFromEarthV }
	l.addLive(rulebook.Test{ID: "voltage-ne", Title: "Neutral to earth at the origin", Unit: "V", Stops: true, SinceOn: true, Suspects: away,
		Where: "At the main switch, to the main earthing terminal.", Judge: func(r install.Record) (working.Verdict, string) {
			switch {
			case away(r):
				return working.Fail, text("Above ", farFromEarthV, " V: an open neutral or combined conductor is suspected, or a line on the earth.")
			case *r.Value > neutralMentionsV:
				return working.Caution, text("Above ", neutralMentionsV, " V: more than load leaves on a neutral. Tell the network operator.")
			}
			return working.Pass, "Near nothing, as it should be."
		}})
}

// electrodes adds the electrodes of a TT installation: each alone where there are several, and all together, by which the devices are judged.
func (l *testList) electrodes() {
	job := l.job
	rods, idn := job.Outdoor.Electrodes.Rods, l.residualMA(newSystem(job), "")
	if len(rods) < 2 {
		l.electrode("electrode", "", "Resistance of the installation's electrode", idn)
		return
	}
	alone := rulebook.Test{ID: "electrode-alone", Title: "Each electrode alone, the highest", Unit: "Ω", Parting: electrodeOff(""),
		Where: "Three-pole, each disconnected from the installation and from the others, under isolation: write every one.",
		Judge: func(r install.Record) (working.Verdict, string) {
			return working.Pass, "Recorded. The devices are judged by all of them together."
		}}
	for i := range rods {
		alone.Points = append(alone.Points, rulebook.TestPoint{ID: text("rod-", i+1), Name: text("electrode ", i+1, ", ", rods[i].Place)})
	}
	l.addDead(alone)
	l.addDead(rulebook.Test{ID: "electrode", Title: "Resistance of the electrodes together", Unit: "Ω", Parting: electrodeOff(""),
		Where: "All joined together and disconnected from the installation; move the middle probe by a tenth both ways.",
		Judge: func(r install.Record) (working.Verdict, string) {
			if lowest, ok := l.read.Lowest("electrode-alone", ""); ok && *r.Value > lowest+rulebook.UnexpectedOhm {
				return working.Fail, text("Higher than the lowest of them alone, ", lowest, " Ω: one is not joined, or a reading is wrong.")
			}
			return judgeElectrode(*r.Value, idn, ruleOf(job, nil, "electrode-advised"))
		}})
}

// residual adds the tests of a residual-current device: of one that circuits share once,
// named after the first of them, of the circuit's own with the circuit.
func (l *testList) residual(c *circuit) {
	kind, idn, delayed := c.residualDevice()
	if kind == "" {
		return
	}
	of, circuit, name, where := "", c.k.ID, "Residual-current device",
		"At the point, loads disconnected; both half-cycles, write the longer time."
	if g := l.job.GroupOf(c.k); g != nil {
		if l.timed[g.ID] {
			return
		}
		l.timed[g.ID] = true
		of, circuit, name, where = ":"+g.ID, "", "Residual-current device "+g.Name,
			"Once, at a point of one of its circuits, loads of all of them disconnected; both half-cycles, write the longer time."
	}
	if rcdTests.In(&l.job.Schools) == threeTests {
		l.addLive(rulebook.Test{ID: "rcd-half" + of, Circuit: circuit, Title: name + " at half its rating: it does not trip", YesNo: true,
			Where: "Both half-cycles, as long as the instrument applies it, loads disconnected.", Judge: rulebook.YesNo})
	}
	l.addLive(rulebook.Test{ID: "rcd-x1" + of, Circuit: circuit, Title: name + " at its rating, the slower half-cycle",
		Unit: "ms", Where: where, Judge: judgeRCD(1, delayed)})
	if fiveTimes(l.job) && idn <= rcdAdditionalProtectionIdnMax.V() {
		l.addLive(rulebook.Test{ID: "rcd-x5" + of, Circuit: circuit, Title: name + " at five times, the slower half-cycle",
			Unit: "ms", Where: where, Judge: judgeRCD(5, delayed)})
	}
	if kind == "B" && fiveTimes(l.job) { // the edition that leaves five times out leaves this out too: a.c. at the rating, whatever the type
		l.addLive(rulebook.Test{ID: "rcd-dc" + of, Circuit: circuit, Title: name + " at twice its rating of smooth direct current, the slower polarity",
			Unit: "ms", Where: where, Judge: judgeTrip("type_b_dc", 2)})
	}
	l.addLive(rulebook.Test{ID: "rcd-button" + of, Circuit: circuit, Title: name + ": its own button", YesNo: true,
		Where: "At the board, after the timed tests.", Judge: rulebook.YesNo})
}

// loopExpected is the loop impedance in Ω that the circuit should read cold: the model's,
// with what was measured of it in its place; 0 while it is not known.
func (l *testList) loopExpected(c *circuit, sum rulebook.Summary) float64 {
	if sum.ZsCold == 0 {
		return 0
	}
	expected := sum.ZsCold
	if r1r2, ok := l.read.Highest("r1r2", c.k.ID); ok && sum.R1R2Cold > 0 {
		expected += r1r2 - sum.R1R2Cold
	}
	if ze, ok := l.read.Highest("ze", ""); ok && l.job.Supply.ZeOhm.Known() && !c.separateEarth() {
		expected += ze - l.job.Supply.ZeOhm.V()
	}
	return expected
}

// impossible says why no loop can read so low: whatever parallel paths its protective
// conductor has, its line conductor is in it. The external line is left out, as only the
// operator knows its share.
func (l *testList) impossible(c *circuit, v float64) string {
	r1r2, ok := l.read.Highest("r1r2", c.k.ID)
	cable, known := Practice{}.Cable(c.k.Route.CableType, c.k.Route.LineMM2)
	if !ok || !known || cable.R1 <= 0 || cable.R2 <= 0 {
		return ""
	}
	line := r1r2 * cable.R1 / (cable.R1 + cable.R2)
	if v+rulebook.UnexpectedOhm >= line {
		return ""
	}
	return text("Zs of ", v, " Ω is impossible: the line conductor alone is ", line, " Ω of the R1+R2 of ", r1r2,
		" Ω that was read. One of the two is wrong: null the leads and read again.")
}

// calculated is the loop impedance in Ω that takes the place of one read with a test that does not trip the residual-current device: what was
// measured of the external loop and of R1+R2, once continuity is proved by that. The device's own coils add to such a reading, as far as the
// job's figure for that; ok is false beyond it, where it is a loose joint or another point, and while either is not measured.
func (l *testList) calculated(c *circuit, r *install.Record) (v float64, ok bool) {
	ze, measured := l.read.Highest("ze", "")
	r1r2, proved := l.read.Highest("r1r2", c.k.ID)
	if !r.NoTrip || r.Value == nil || !measured || !proved || c.separateEarth() || c.k.From != "" {
		return 0, false
	}
	v = ze + r1r2
	return v, *r.Value > v && working.AtMost(*r.Value, v+ruleOf(l.job, nil, "no-trip-adds"))
}

// judgeLoop judges a loop impedance by what was read, or by what is calculated in its place.
func (l *testList) judgeLoop(c *circuit, r install.Record, sum rulebook.Summary, expected, tempC float64) (working.Verdict, string) {
	v, ok := l.calculated(c, &r)
	if !ok {
		return judgeZs(r, l.job, sum, expected, c.separateEarth(), tempC)
	}
	read := *r.Value
	r.Value = &v
	verdict, says := judgeZs(r, l.job, sum, 0, c.separateEarth(), tempC)
	return verdict, text(says, " Calculated: Ze and R1+R2 as measured give ", v, " Ω; the ", read,
		" Ω were read through the residual-current device, which adds to a test that does not trip it.")
}

func judgeZs(r install.Record, job *install.Job, sum rulebook.Summary, expected float64, electrode bool,
	tempC float64) (working.Verdict, string) {
	v := *r.Value
	if sum.ZsMax == 0 {
		return working.Unknown, "There is no limit yet: the design is not complete."
	}
	limit, how := sum.ZsMax, ""
	switch {
	case electrode:
		how = text("limit ", limit, " Ω with the residual-current device")
	case zsReading.In(&job.Schools) == readingCorrected && r.TempC != nil && v >= job.Supply.ZeOhm.V():
		v = ZsAtOperating(job.Supply.ZeOhm.V(), v, *r.TempC, HotMultiplier(tempC))
		how = text(v, " Ω corrected to ", tempC, " °C against ", limit, " Ω")
	default:
		limit *= siteShare
		how = text("against ", limit, " Ω, 80 % of the limit, as it was read cold")
	}
	if by := sum.ZsResidual; !working.AtMost(v, limit) && by > 0 && working.AtMost(v, by) {
		return working.Caution, text("Over what the overcurrent device opens in time (", how,
			"); the residual-current device does up to ", by, " Ω.")
	}
	if !working.AtMost(v, limit) {
		return working.Fail, "Too high: " + how + "."
	}
	switch {
	case expected <= 0 || !rulebook.Differs(*r.Value, expected):
	case *r.Value < expected:
		return working.Caution, text("Within the limit (", how, "), but lower than Ze and R1+R2 give, ", expected,
			" Ω: a parallel path, another point or leads not nulled. It proves nothing of the protective conductor: that rests "+
				"on the R1+R2 that was read dead.")
	default:
		return working.Caution, text("Within the limit (", how, "), but higher than Ze and R1+R2 give, ", expected,
			" Ω: a loose joint or another point.")
	}
	return working.Pass, "Within the limit: " + how + "."
}

// fiveTimes reports whether devices are also tested at five times their rating: by the
// choice of the company, or by an edition that asks for it. An edition that the table
// does not know asks for it.
func fiveTimes(job *install.Job) bool {
	row := editionOf(job)
	return rcdTests.In(&job.Schools) == threeTests || row < 0 || editionTable.Row(row).FiveTimes
}

// judgeRCD judges the longer trip time at a multiple of the rating: a delayed device has
// a least time too, without which it does not wait for the one behind it.
func judgeRCD(multiple float64, delayed bool) func(install.Record) (working.Verdict, string) {
	if delayed {
		return judgeTrip("s_type", multiple)
	}
	return judgeTrip("general", multiple)
}

// judgeTrip judges a trip time by the row of the limits of a kind of device.
func judgeTrip(kind string, multiple float64) func(install.Record) (working.Verdict, string) {
	return func(r install.Record) (working.Verdict, string) {
		low, limit, _ := RCDLimits(kind, multiple)
		switch {
		case r.OverRange:
			return working.Fail, "It did not trip."
		case !working.AtMost(*r.Value, limit):
			return working.Fail, text("Slower than ", limit, " ms.")
		case low > 0 && !working.AtMost(low, *r.Value):
			return working.Fail, text("Faster than ", low, " ms: it does not wait as a delayed device does.")
		case low > 0:
			return working.Pass, text("Between ", low, " and ", limit, " ms, as a delayed device.")
		}
		return working.Pass, text("Within ", limit, " ms.")
	}
}
