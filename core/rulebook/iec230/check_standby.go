package iec230

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// standby judges what a source of one's own carries (551.2).
func (s *system) standby() {
	rulebook.StandbyLoad(s.Job.Words, s.Of(""), &s.Job.Standby, false, working.Source{Ref: "BS 7671 551.2", Confidence: "medium"})
}

// transfer judges that a changeover keeps the source off the operator's network (551.6).
func (s *system) transfer() {
	if !slices.ContainsFunc(s.Job.Chain.Enclosures, func(e install.Enclosure) bool { return e.Kind == kindChangeover }) {
		t := s.Of("")
		t.Title = "Changeover to the " + s.Job.Standby.Source
		t.From(working.Source{Ref: "BS 7671 551.6", Confidence: "high"})
		t.Decide(false)
		t.Summary = "No changeover switch on the chain: without one the source would feed the operator's line and kill who works on it."
	}
}
