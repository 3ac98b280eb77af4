package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/working"
)

// LocalFigure is a figure of a practice's rules: the one that a local rule of the job
// sets, which k then names among its sources, else the usual one. k may be nil. It
// panics for a rule that the practice does not have.
func LocalFigure(rules []install.RuleTerm, job *install.Job, k *working.Check, id string) float64 {
	if v, ok := Laid(job, k, id); ok {
		return v
	}
	for i := range rules {
		if rules[i].ID == id {
			return rules[i].Usual
		}
	}
	panic("no rule " + id)
}

// Laid is the local rule that is laid over a figure on this job, with its reason among the
// sources of k, which may be nil; ok is false where there is none.
func Laid(job *install.Job, k *working.Check, id string) (v float64, ok bool) {
	for i := range job.Schools.Local {
		if l := &job.Schools.Local[i]; l.Rule == id {
			if k != nil {
				k.From(working.Source{Ref: "local rule: " + l.Reason, Confidence: "medium"})
			}
			return l.Value, true
		}
	}
	return 0, false
}
