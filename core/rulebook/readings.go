package rulebook

import (
	"math"

	"arvelt/core/install"
)

// Readings holds the readings of a job by what they are of, so that a sheet of many
// tests looks through the records once.
type Readings map[ReadingOf][]*install.Record

// ReadingOf is a test of a circuit, or of the whole installation where the circuit is
// empty.
type ReadingOf struct{ Test, Circuit string }

// ReadingsOf lists the readings of a job, the newest of each test first.
func ReadingsOf(job *install.Job) Readings {
	out := Readings{}
	for i := len(job.Records) - 1; i >= 0; i-- {
		if r := &job.Records[i]; r.Kind == install.Reading {
			key := ReadingOf{r.Subject, r.Circuit}
			out[key] = append(out[key], r)
		}
	}
	return out
}

// Newest is the newest reading of a test, nil without one.
func (x Readings) Newest(test, circuit string) *install.Record {
	if all := x[ReadingOf{test, circuit}]; len(all) > 0 {
		return all[0]
	}
	return nil
}

// Highest is the highest figure of a test that nothing corrects, and whether there is
// one.
func (x Readings) Highest(test, circuit string) (v float64, ok bool) {
	return x.most(test, circuit, func(a, b float64) bool { return a > b })
}

// Lowest is the lowest figure.
func (x Readings) Lowest(test, circuit string) (v float64, ok bool) {
	return x.most(test, circuit, func(a, b float64) bool { return a < b })
}

func (x Readings) most(test, circuit string, more func(a, b float64) bool) (v float64, ok bool) {
	all := x[ReadingOf{test, circuit}]
	corrected := Corrected(all)
	for _, r := range all {
		if !corrected[r.ID] && r.Value != nil && (!ok || more(*r.Value, v)) {
			v, ok = *r.Value, true
		}
	}
	return v, ok
}

// Corrected are the ids of readings whose place another one takes.
func Corrected(all []*install.Record) map[string]bool {
	out := map[string]bool{}
	for _, r := range all {
		if r.Supersedes != "" {
			out[r.Supersedes] = true
		}
	}
	return out
}

// Unexpected is the share, and UnexpectedOhm the least difference in ohms, beyond which a low-resistance reading is not what the model expects:
// the scatter of instruments and of route lengths lies well within.
const (
	Unexpected    = 0.3
	UnexpectedOhm = 0.05
)

// Differs reports whether a low resistance is not what the model expects, Ω.
func Differs(got, expected float64) bool {
	return math.Abs(got-expected) > math.Max(UnexpectedOhm, Unexpected*expected)
}
