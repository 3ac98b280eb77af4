package survey

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Outcome is what a report of an inspection comes to.
type Outcome struct {
	// Satisfactory: no finding is open under which people are, or may be, at risk, and none that could not be told.
	Satisfactory bool `json:"satisfactory"`
	// Because are the findings that make it unsatisfactory.
	Because []Finding `json:"because"`
}

// OutcomeOf is the outcome of the report of a job, nil of one that is no report. Whether to call it so is the inspector's to sign.
func OutcomeOf(job *install.Job, p *rulebook.Survey) *Outcome {
	if !job.Trait().Report {
		return nil
	}
	o := Outcome{Because: []Finding{}}
	by := map[string][]Finding{}
	for _, r := range job.Current(install.Observation) {
		if r.Done {
			continue
		}
		f := findingOf(&r, p)
		if f.follow(job, firstOf(job, r.ID)); f.Mended == "" {
			by[f.Urgency] = append(by[f.Urgency], f)
		}
	}
	for _, urgency := range unsatisfying {
		o.Because = append(o.Because, by[urgency]...)
	}
	o.Satisfactory = len(o.Because) == 0
	return &o
}

// unsatisfying are the urgencies of a finding with which an installation is not satisfactory, the gravest first.
var unsatisfying = []string{"now", "soon", "look"}
