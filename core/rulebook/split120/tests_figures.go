package split120

import (
	"math"
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// bandV judges a voltage against the service ranges (ANSI C84.1), and a leg to neutral against the other one.
func bandV(job *install.Job, kind, leg string) func(install.Record) (working.Verdict, string) {
	return func(r install.Record) (working.Verdict, string) {
		v := *r.Value
		found, err := rangeOf(kind, v)
		if err != nil {
			return working.Unknown, err.Error()
		}
		if other := otherLeg(job, leg); kind == pairLN && apart(v, other) {
			return working.Fail, text("One leg ", math.Max(v, other), " V, the other ", math.Min(v, other),
				" V: an open or loose neutral. Open the main at once.")
		}
		switch found {
		case rangeA:
			return working.Pass, "Within 5 % of nominal."
		case rangeB:
			return working.Caution, "Outside 5 %, within the wider range: tell the utility."
		}
		return working.Fail, "Out of range: leave it off and call the utility."
	}
}

func rangeOf(kind string, v float64) (voltageRange, error) {
	out, _, err := calcVoltage(voltageIn{Readings: []voltageReading{{Kind: kind, V: v}}})
	if err != nil {
		return "", err
	}
	return out.Readings[0].Range, nil
}

// apart reports whether one leg is high and the other low by more than either could be alone: the neutral between them has moved.
func apart(v, other float64) bool {
	return other > 0 && math.Abs(v-other) > 0.05*legV && (v-legV)*(other-legV) < 0
}

// openNeutral reports whether a leg to neutral says that the neutral may be open: the legs are apart, or it is out of every range.
func openNeutral(job *install.Job, leg string) func(install.Record) bool {
	return func(r install.Record) bool {
		if r.Value == nil {
			return false
		}
		found, err := rangeOf(pairLN, *r.Value)
		return apart(*r.Value, otherLeg(job, leg)) || err == nil && found == outOfRange
	}
}

// otherLeg is the newest reading of the other leg to neutral since the supply was last
// energised for a test, 0 without one.
func otherLeg(job *install.Job, other string) float64 {
	for i := len(job.Records) - 1; i >= 0 && (job.Records[i].Kind != install.Energise || job.Records[i].Use == install.IntoUse); i-- {
		if r := &job.Records[i]; r.Kind == install.Reading && r.Subject == other && r.Value != nil {
			return *r.Value
		}
	}
	return 0
}

// volts are the voltages at a panel, of the main one under the empty id: before anything is loaded, then both legs to neutral with one of them
// loaded, as a loose neutral shows only under load: what it drops, the other leg gains.
func (l *testList) volts(of, at, where, loaded string) {
	an, bn := "volts-an"+of, "volts-bn"+of
	l.onLive(rulebook.Test{ID: "volts-ll" + of, Title: "Between the legs" + at, Unit: "V", Stops: true, SinceOn: true, Where: where,
		Judge: bandV(l.job, "ll", "")})
	l.onLive(rulebook.Test{ID: an, Title: "Leg A to neutral" + at, Unit: "V", Stops: true, SinceOn: true, Where: where,
		Suspects: openNeutral(l.job, bn), Judge: bandV(l.job, "ln", bn)})
	l.onLive(rulebook.Test{ID: bn, Title: "Leg B to neutral" + at, Unit: "V", Stops: true, SinceOn: true, Where: where + " Compare it with leg A.",
		Suspects: openNeutral(l.job, an), Judge: bandV(l.job, "ln", an)})
	if l.job.Kind != install.SupplyUpgrade && !slices.ContainsFunc(l.job.Circuits, func(k install.Circuit) bool { return k.Use != useSurge }) {
		return // a surge device alone loads nothing
	}
	with := loaded + ", with about 10 A of 120 V load on leg A alone and nothing sensitive plugged in."
	l.onLive(rulebook.Test{ID: "load-an" + of, Title: "Leg A to neutral under load" + at, Unit: "V", Stops: true, SinceOn: true, Loaded: true,
		After: []string{an, bn},
		Where: with, Judge: bandV(l.job, "ln", "")})
	rises := func(r install.Record) (by, limit float64, known bool) {
		idle := otherLeg(l.job, bn)
		if r.Value == nil || idle == 0 {
			return 0, 0, false
		}
		return *r.Value - idle, ruleOf(l.job, nil, "NG-VOLTS"), true
	}
	l.onLive(rulebook.Test{ID: "load-bn" + of, Title: "Leg B to neutral, leg A loaded" + at, Unit: "V", Stops: true, SinceOn: true, Loaded: true,
		After: []string{an, bn},
		Where: with, Suspects: func(r install.Record) bool { by, limit, known := rises(r); return known && by > limit },
		Judge: func(r install.Record) (working.Verdict, string) {
			by, limit, known := rises(r)
			switch {
			case !known:
				return working.Unknown, "Read leg B without load first: the two are compared."
			case by > limit:
				return working.Fail, text("Leg B rose by ", by, " V as leg A was loaded, more than ", limit,
					" V: the neutral is loose or open. Open the main at once.")
			}
			return bandV(l.job, "ln", "")(r)
		}})
}

// coldFactor takes the resistance of copper at 75 °C to 20 °C as [ResistancePerM] does; aluminium differs by half a percent.
const coldFactor = 1 + 0.00323*(20-75)

// ground is the equipment ground in ohms at every box that has one, against the resistance of its length; where that is not known, against the
// figure of the company.
func (l *testList) ground(k *install.Circuit, report *rulebook.Report, title, where string) {
	expected := map[string]float64{}
	most := 0.0
	for _, s := range report.Circuit(k.ID).Run {
		if s.R2 != nil && k.State != install.KeptCircuit {
			expected[s.ID] = *s.R2 * coldFactor
			most = max(most, expected[s.ID])
		}
	}
	at := func(r *install.Record) float64 {
		if v, ok := expected[r.Box]; ok {
			return v
		}
		return most
	}
	t := rulebook.Test{ID: "ground-continuity", Circuit: k.ID, Title: title, Unit: "Ω", Where: where + " Leads nulled.",
		Explain: func(r install.Record) bool {
			want := at(&r)
			return want > 0 && *r.Value > want && rulebook.Differs(*r.Value, want)
		},
		Judge: func(r install.Record) (working.Verdict, string) {
			want, limit := at(&r), ruleOf(l.job, nil, "GROUND-OHM")
			switch {
			case want == 0 && working.AtMost(*r.Value, limit):
				return working.Pass, text("At most ", limit, " Ω; its length is not known, so nothing closer is expected.")
			case want == 0:
				return working.Caution, text("Above ", limit, " Ω: allow for its length, or look for a poor splice.")
			case *r.Value > want && rulebook.Differs(*r.Value, want):
				return working.Caution, text("Higher than the wire of that length has, ", want, " Ω: a poor splice, or a longer way.")
			case rulebook.Differs(*r.Value, want):
				return working.Pass, text("Lower than the wire alone has, ", want, " Ω: metal beside it helps. It proves the wire only where that is apart.")
			}
			return working.Pass, text("As the wire of that length has, ", want, " Ω.")
		}}
	if most > 0 {
		t.Expected = &most
	}
	for i := range k.Serves.Boxes {
		if b := &k.Serves.Boxes[i]; touched(k, b) && (b.Ground == nil || *b.Ground) {
			t.Points = append(t.Points, rulebook.TestPoint{ID: b.ID, Name: b.Called()})
		}
	}
	if len(t.Points) < 2 {
		t.Points = nil
	}
	l.onDead(t)
}

// insulationOption is whether the insulation of new circuits is read; a continuity tester between conductors is asked for in any case.
var insulationOption = options.Named("insulation")

const insulationRead = "megohm"

// The voltages that insulation is read at: that of the test, and a lower one where equipment cannot be disconnected (IEC 60364-6 Table 6.1; no
// article of the split-phase codes asks for the reading).
const (
	insulationV    = 500.0
	insulationLowV = 250.0
)

// insulation reads the insulation of a circuit, where the company does.
func (l *testList) insulation(k *install.Circuit) {
	surge := len(l.job.Surge.Devices) > 0
	add := func(id, title, where string) {
		l.onDead(rulebook.Test{ID: id, Circuit: k.ID, Title: title, Unit: "MΩ", Pierced: true, TestV: []float64{insulationV, insulationLowV},
			Where: where + " The conductors are off a ground-fault or arc-fault breaker, which the test voltage would damage.",
			Parting: func(r *install.Record) []rulebook.Parting {
				if r.TestV != insulationV || !surge {
					return nil
				}
				return []rulebook.Parting{{ID: rulebook.PartedSurge, Name: "Surge devices"}}
			},
			Explain: func(r install.Record) bool { return r.TestV == insulationLowV && !surge },
			Judge: func(r install.Record) (working.Verdict, string) {
				limit := ruleOf(l.job, nil, "INSUL-MIN")
				switch {
				case !r.OverRange && *r.Value < limit:
					return working.Fail, text("Under ", limit, " MΩ: find the cause before anything is energized.")
				case r.TestV == insulationLowV && !surge:
					return working.Caution, text("At least ", limit, " MΩ, read at ", insulationLowV, " V: only where equipment cannot be disconnected.")
				case r.OverRange:
					return working.Pass, "Above the instrument's range."
				}
				return working.Pass, text("At least ", limit, " MΩ.")
			}})
	}
	if neutralOf(k) {
		add("insulation-hn", "Insulation resistance, hot to neutral", "At the panel, lamps, plugs and electronics out.")
	}
	add("insulation-hg", "Insulation resistance, hot and neutral together to ground", "At the panel, its neutral off the bar.")
}
