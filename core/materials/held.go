package materials

import (
	"strconv"

	"arvelt/core/install"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Hold marks the lines of circuits that a check keeps from being ordered: parts of what is to be changed are bought twice.
func (t *TakeOff) Hold(w *words.Catalogue, checks []working.Check) {
	first := map[string]*working.Check{}
	for i := range checks {
		if c := &checks[i]; c.Circuit != "" && first[c.Circuit] == nil && c.Stops(working.ToOrder) {
			first[c.Circuit] = c
		}
	}
	for i := range t.Lines {
		l := &t.Lines[i]
		if c := first[l.Circuit]; c != nil {
			l.Held = &Held{w.Say("Not ordered while “%s” fails. %s", c.Title, c.Summary), c.Sheet, c.Leaf, c.Circuit}
		}
	}
}

// Ordered refuses that more is ordered of a line that is held than was. What was ordered stays on record, and what came is never refused. The error
// is [install.Errors].
func (t *TakeOff) Ordered(was, now map[string]install.Stock) error {
	out := install.Errors{}
	for i := range t.Lines {
		l := &t.Lines[i]
		if l.Held == nil || now[l.Key].Ordered <= was[l.Key].Ordered {
			continue
		}
		out = append(out, install.FieldError{Field: "materials.lines[" + l.Key + "].ordered", Value: strconv.FormatFloat(now[l.Key].Ordered, 'f', -1, 64),
			Accept: strconv.FormatFloat(was[l.Key].Ordered, 'f', -1, 64) + ". " + l.Held.Why})
	}
	if len(out) > 0 {
		return out
	}
	return nil
}
