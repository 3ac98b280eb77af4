package rulebook

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// Candidate is a change to one circuit worth trying: what it is called and the
// fields that it sets, once for the sheets and once for the model.
type Candidate struct {
	Title string
	Sets  []working.Set
	Apply func(*install.Circuit)
}

// SetsOf is a candidate that sets fields of circuit k.
func SetsOf(k *install.Circuit, title string, apply func(*install.Circuit), fields ...any) Candidate {
	c := Candidate{Title: title, Apply: apply}
	for i := 0; i+1 < len(fields); i += 2 {
		c.Sets = append(c.Sets, working.Set{Part: "circuits/" + k.ID, Field: fields[i].(string), Value: fields[i+1]})
	}
	return c
}

// mendsMost is how many remedies are offered; more is no help in choosing.
const mendsMost = 4

// Mend finds what would make the failed checks of a report pass: each candidate is
// applied to a copy of the job, which judge computes whole; it is offered when the
// check no longer fails and no other is worse than before. price, when not nil, gives
// the cost of a job's materials. Remedies go into the checks of r.
func Mend(job *install.Job, r *Report, judge func(*install.Job) Report, price func(*install.Job) (float64, bool), candidates func(k *install.Circuit, c *working.Check) []Candidate) {
	type key struct{ circuit, id string }
	was := map[key]working.Verdict{}
	for _, c := range r.Checks() {
		was[key{c.Circuit, c.ID}] = c.Verdict
	}
	cost, costed := 0.0, false
	if price != nil {
		cost, costed = price(job)
	}
	mend := func(c *working.Check) {
		for i := range job.Circuits {
			if c.Circuit != "" && c.Circuit != job.Circuits[i].ID {
				continue
			}
			for _, try := range candidates(&job.Circuits[i], c) {
				changed := *job
				changed.Circuits = slices.Clone(job.Circuits)
				changed.Circuits[i].Serves.Boxes = slices.Clone(job.Circuits[i].Serves.Boxes)
				try.Apply(&changed.Circuits[i])
				after := judge(&changed)
				var cured *working.Check
				worse := false
				for _, x := range after.Checks() {
					old, there := was[key{x.Circuit, x.ID}]
					switch {
					case x.ID == c.ID && x.Circuit == c.Circuit:
						cured = &x
					case there && x.Verdict.Worse(old), !there && x.Verdict == working.Fail:
						worse = true
					}
				}
				if worse || cured == nil || !c.Verdict.Worse(cured.Verdict) || cured.Verdict == working.Unknown {
					continue
				}
				remedy := working.Remedy{Title: try.Title, Effect: cured.Says, Sets: try.Sets}
				if c.Circuit == "" {
					remedy.Title = job.Circuits[i].Name + ": " + try.Title
				}
				if cured.Value != nil && cured.Limit != nil {
					remedy.Effect = unit.Text(*cured.Value, " ", cured.Unit, ", limit ", *cured.Limit, " ", cured.Unit)
				}
				if costed {
					if now, ok := price(&changed); ok {
						extra := now - cost
						remedy.Extra = &extra
					}
				}
				if c.Remedies = append(c.Remedies, remedy); len(c.Remedies) == mendsMost {
					return
				}
			}
		}
	}
	each := func(checks []working.Check) {
		for i := range checks {
			if v := checks[i].Verdict; v == working.Fail || v == working.Caution && checks[i].Sense == "max" && checks[i].Use != nil && *checks[i].Use > 1 {
				mend(&checks[i])
			}
		}
	}
	each(r.Job)
	for i := range r.Circuits {
		each(r.Circuits[i].Checks)
	}
}
