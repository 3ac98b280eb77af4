package whole

import (
	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
)

// allowOnFinding holds what is said of a finding to what it is: a danger is not taken back or graded down but by who may clear what holds the
// work, and what is at the operator's equipment is reported, never declined.
func allowOnFinding(job *install.Job, p rulebook.Book, who install.Person, r install.Record) error {
	w, id := job.Words, r.Subject
	if r.Kind == install.Observation {
		id = r.Supersedes
	}
	f, ok := survey.FindingBy(job, p.Survey(), id)
	if !ok {
		return nil
	}
	switch r.Kind {
	case install.Observation:
		if !f.Grave() {
			return nil
		}
		if r.Done {
			return &proving.NotYetError{Why: w.Say("A danger is not taken back: say that it is rectified, or correct what it is.")}
		}
		if (r.Path != f.Class || r.Subject != f.Kind) && !who.Holds.Has(install.Releasing) {
			return &proving.RoleError{Who: who, Kind: r.Kind,
				Why: w.Say("Whoever is authorised to clear what holds the work says that it is no danger after all.")}
		}
	case install.Decision:
		if f.Operator && r.Path != install.Accepted {
			return &proving.NotYetError{Why: w.Say("It is at the operator's equipment: it is reported to them, and not for anybody " +
				"here to decline or put off.")}
		}
	case install.FindingStep:
		switch {
		case r.Path == install.Reported && !f.Operator:
			return &proving.NotYetError{Why: w.Say("It is not at the operator's equipment: there is nothing of it to report to them.")}
		case r.Path == install.Mended && f.Operator && f.Reported == "":
			return &proving.NotYetError{Why: w.Say("It was not reported to the operator yet, and nobody else rectifies it.")}
		}
	}
	return nil
}
