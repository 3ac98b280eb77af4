package whole

import (
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Difference is one check that a change would touch.
type Difference struct {
	Circuit string          `json:"circuit"` // its name; empty for a check of the whole job
	Check   string          `json:"check"`
	Was     working.Verdict `json:"was,omitempty"` // empty where the check is new
	Now     working.Verdict `json:"now,omitempty"` // empty where the check falls away
	WasSays string          `json:"wasSays"`
	NowSays string          `json:"nowSays"`
}

// Compare lists every check whose verdict or figure differs, the worst outcome
// first as the reports have them.
func Compare(before, after *rulebook.Report) []Difference {
	type key struct{ circuit, id string }
	names := map[string]string{}
	for _, r := range []*rulebook.Report{before, after} {
		for _, c := range r.Circuits {
			names[c.ID] = c.Name
		}
	}
	was := map[key]working.Check{}
	for _, c := range before.Checks() {
		was[key{c.Circuit, c.ID}] = c
	}
	out := []Difference{}
	for _, c := range after.Checks() {
		k := key{c.Circuit, c.ID}
		old, there := was[k]
		delete(was, k)
		if there && old.Verdict == c.Verdict && old.Summary == c.Summary {
			continue
		}
		out = append(out, Difference{names[c.Circuit], c.Title, old.Verdict, c.Verdict, old.Summary, c.Summary})
	}
	for _, c := range before.Checks() {
		if old, gone := was[key{c.Circuit, c.ID}]; gone {
			out = append(out, Difference{names[c.Circuit], c.Title, old.Verdict, "", old.Summary, ""})
		}
	}
	return out
}
