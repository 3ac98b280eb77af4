// Package whole computes everything of a job at once, from its model: the one
// call behind every sheet, the command line and the paper.
package whole

import (
	"strconv"
	"time"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
)

// Practices are the practices that are built.
var Practices = map[string]rulebook.Practice{"iec230": iec230.Practice{}}

// View is a job with all that is computed of it, for one person at one time.
type View struct {
	Job      *install.Job       `json:"job"`
	Report   rulebook.Report    `json:"-"` // the Circuits sheet, served by itself
	Take     materials.TakeOff  `json:"take"`
	Tasks    []plan.Task        `json:"tasks"`
	Tests    proving.Sheet      `json:"tests"`
	State    plan.State         `json:"state"`
	Ready    handover.Readiness `json:"ready"`
	Loose    []install.Record   `json:"loose"`
	Revision string             `json:"revision"`
	Frozen   bool               `json:"frozen"`
}

// Practice returns the practice of a job; the 230 V one when it is unknown,
// as nothing else is built.
func Practice(job *install.Job) rulebook.Practice {
	if p, ok := Practices[job.Practice]; ok {
		return p
	}
	return iec230.Practice{}
}

// Accept checks a job that comes from outside: its practice is built, and every
// field is within the bounds and terms of it. The error is [install.Errors].
func Accept(job *install.Job) error {
	if _, ok := Practices[job.Practice]; !ok {
		return install.Errors{{Field: "practice", Value: job.Practice, Accept: "iec230, the practice that is built"}}
	}
	return job.Validate(Practice(job).Terms())
}

// Of computes the view.
func Of(job *install.Job, list map[string]materials.Item, by string, now time.Time) View {
	p := Practice(job)
	v := View{Job: job, Loose: proving.LooseEnds(job), Revision: job.Revision(), Frozen: job.Frozen()}
	v.Report = p.Report(job, materials.Price(p, list))
	v.Take = materials.Of(job, p, list)
	v.Tasks = plan.Tasks(job, list, by, now)
	v.Tests = proving.TestSheet(job, p.Tests(job, &v.Report), by, now)
	v.State = plan.StateOf(plan.Input{Job: job, Report: &v.Report, Tests: v.Tests, Tasks: v.Tasks, Take: v.Take})
	v.Ready = handover.Ready(v.State, &v.Report)
	return v
}

// Allow reports why a record may not be added to the job now.
func Allow(job *install.Job, r install.Record, list map[string]materials.Item, now time.Time) error {
	p := Practice(job)
	if err := r.Validate(p.Terms()); err != nil {
		return err
	}
	report := p.Report(job, nil)
	need := func(id string) (bool, string, bool) {
		for _, t := range plan.Tasks(job, list, r.By, now) {
			if t.ID == id {
				return t.Isolation, t.Closed, true
			}
		}
		return false, "", false
	}
	if err := proving.Allow(job, r, p.Tests(job, &report), need, now); err != nil {
		return err
	}
	if r.Kind == install.Signature {
		if v := Of(job, list, r.By, now); !v.Ready.Ready {
			for _, i := range v.Ready.Items {
				if !i.Ready {
					return &proving.NotYetError{Why: "Not ready to sign: " + i.Says + " (and " + plural(v.Ready.Missing-1) + ")."}
				}
			}
		}
	}
	return nil
}

func plural(n int) string {
	switch n {
	case 0:
		return "nothing else"
	case 1:
		return "1 thing more"
	}
	return strconv.Itoa(n) + " things more"
}
