package materials

import (
	"strconv"

	"arvelt/core/install"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Hold marks the lines of circuits that a check keeps from being ordered, as parts of what is to be changed are bought twice, and what of
// each line may be ordered all the same. waste is that of the job, in percent.
func (t *TakeOff) Hold(w *words.Catalogue, waste float64, checks []working.Check) {
	first := map[string]*working.Check{}
	for i := range checks {
		if c := &checks[i]; c.Circuit != "" && first[c.Circuit] == nil && c.Stops(working.ToOrder) {
			first[c.Circuit] = c
		}
	}
	for i := range t.Lines {
		l := &t.Lines[i]
		for n := range l.Asks {
			c := first[l.Asks[n].By.Circuit]
			if l.Asks[n].held = c != nil; c != nil && l.Held == nil && l.Asks[n].Brought == nil {
				l.Held = &Held{w.Say("Not ordered while “%s” fails. %s", c.Title, c.Summary), c.Sheet, c.Leaf, c.Circuit}
			}
		}
		if l.Held != nil {
			_, l.Free = l.of(waste, func(a *Ask) bool { return a.Brought == nil && first[a.By.Circuit] == nil })
		}
	}
}

// Ordered refuses that more is ordered of a line than is free of what holds it, or more than before. What was ordered stays on record, and what
// came is never refused. The error is [install.Errors].
func (t *TakeOff) Ordered(w *words.Catalogue, was, now map[string]install.Stock) error {
	out := install.Errors{}
	for i := range t.Lines {
		l := &t.Lines[i]
		most := max(l.Free-l.Placed, was[l.Key].Ordered)
		if l.Held == nil || now[l.Key].Ordered <= most {
			continue
		}
		out = append(out, install.FieldError{Field: "materials.lines[" + l.Key + "].ordered", Value: strconv.FormatFloat(now[l.Key].Ordered, 'f', -1, 64),
			Accept: w.Say("at most %s. %s", strconv.FormatFloat(most, 'f', -1, 64), l.Held.Why)})
	}
	if len(out) > 0 {
		return out
	}
	return nil
}
