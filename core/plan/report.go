package plan

import (
	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/working"
)

// Unanswered is a check or a test of a report that fails and that no finding is about yet.
type Unanswered struct {
	Key     string        `json:"key"` // as a finding names it
	Title   string        `json:"title"`
	Circuit string        `json:"circuit"` // by name; empty where it is of none
	Says    string        `json:"says"`
	Sheet   working.Sheet `json:"sheet"`
}

// UnansweredOf lists them; none of a job that is no report.
func UnansweredOf(job *install.Job, checks []working.Check, tests []proving.Row) []Unanswered {
	out := []Unanswered{}
	if !job.Trait().Report {
		return out
	}
	answered := job.Answered()
	name := func(id string) string {
		if c := job.CircuitByID(id); c != nil {
			return c.Name
		}
		return ""
	}
	for i := range checks {
		c := &checks[i]
		if k := job.CircuitByID(c.Circuit); k != nil && !k.Seen || c.Of() != nil && c.Of().Hint {
			continue // nobody looked at it yet, or it only advises
		}
		if key := install.CheckKey(c.Circuit, c.ID); c.Verdict == working.Fail && !answered[key] {
			out = append(out, Unanswered{key, c.Title, name(c.Circuit), c.Summary, c.Sheet})
		}
	}
	for i := range tests {
		r := &tests[i]
		if r.Verdict == working.Fail && !r.Answered {
			out = append(out, Unanswered{install.TestKey(r.Circuit, r.ID), r.Title, name(r.Circuit), r.Summary, working.TestSheet})
		}
	}
	return out
}

// report holds what fails and no finding is about. Readings that fail are held with the tests.
func (s *standing) report() {
	for _, u := range s.Unanswered {
		if u.Sheet == working.TestSheet {
			continue
		}
		what := u.Title
		if u.Circuit != "" {
			what = u.Circuit + ": " + what
		}
		s.hold(install.Test, working.SurveySheet, working.Surveyor, s.Job.Words.Say("a finding of what fails: %s", what))
	}
}
