package survey

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Outcome is what a report of an inspection comes to.
type Outcome struct {
	// Satisfactory: all is inspected and tested, and no finding is open under which people are, or may be, at risk, or of which it could
	// not be told.
	Satisfactory bool `json:"satisfactory"`
	// Open is how much of it is still to be inspected, tested or answered.
	Open int `json:"open"`
	// Because are the findings that make it unsatisfactory.
	Because []Finding `json:"because"`
}

// OutcomeOf is the outcome of the report of a job of which so much is open, nil of one that is no report. Whether to call it so is the
// inspector's to sign.
func OutcomeOf(job *install.Job, p *rulebook.Survey, open int) *Outcome {
	if !job.Trait().Report {
		return nil
	}
	o := Outcome{Open: open, Because: []Finding{}}
	by := map[string][]Finding{}
	for _, r := range job.Current(install.Observation) {
		if r.Done {
			continue
		}
		if f, _ := noted(job, p, &r); f.Mended == "" {
			by[f.Urgency] = append(by[f.Urgency], f)
		}
	}
	for _, urgency := range unsatisfying {
		o.Because = append(o.Because, by[urgency]...)
	}
	o.Satisfactory = len(o.Because) == 0 && open == 0
	return &o
}

// unsatisfying are the urgencies of a finding with which an installation is not satisfactory, the gravest first.
var unsatisfying = []string{"now", "soon", "look"}
