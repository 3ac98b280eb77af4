package iec230

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// standby judges what a source of one's own carries, and that a changeover keeps it off the
// operator's network (551.2, 551.6).
func (s *system) standby() []working.Check {
	b := &s.job.Standby
	if b.Source == "" {
		return nil
	}
	load := rulebook.StandbyLoad(b, false, working.Source{Ref: "BS 7671 551.2", Confidence: "medium"})
	if len(load.Missing) > 0 {
		load.Verdict = working.Unknown
		load.Says = "Not yet known: " + load.Missing[0] + "."
	}
	out := []working.Check{*load}
	if !slices.ContainsFunc(s.job.Chain.Enclosures, func(e install.Enclosure) bool { return e.Kind == "changeover" }) {
		t := working.New("standby-transfer", "", "Changeover to the "+b.Source, "")
		t.From(working.Source{Ref: "BS 7671 551.6", Confidence: "high"})
		t.Decide(false)
		t.Says = "No changeover switch on the chain: without one the source would feed the operator's line and kill who works on it."
		out = append(out, *t)
	}
	return out
}
