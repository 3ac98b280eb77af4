package rulebook

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// House is a job while its rules are judged, one after the other: the skeleton that every
// rulebook hangs what it knows of the job on. A check that a rule begins carries that rule.
type House struct {
	Job   *install.Job
	byID  map[string]*install.Circuit
	below map[string][]*install.Circuit
	asked *working.Rule
	pool  working.Pool
	lines strings.Builder // room for lines of working
}

// NewHouse begins a job.
func NewHouse(job *install.Job) *House {
	h := &House{Job: job, byID: make(map[string]*install.Circuit, len(job.Circuits)), below: map[string][]*install.Circuit{}}
	h.pool.Expect(len(job.Circuits))
	for i := range job.Circuits {
		k := &job.Circuits[i]
		h.byID[k.ID] = k
		if k.From != "" {
			h.below[k.From] = append(h.below[k.From], k)
		}
	}
	return h
}

// Circuit is the circuit with an id, nil where there is none.
func (h *House) Circuit(id string) *install.Circuit { return h.byID[id] }

// Below are the circuits that one feeds, in the job's order.
func (h *House) Below(id string) []*install.Circuit { return h.below[id] }

// Asked is the rule that is judged.
func (h *House) Asked() *working.Rule { return h.asked }

// On begins a check of that rule on a circuit, Of on something else that it names; of is
// empty for the job itself.
func (h *House) On(circuit string) *working.Check { return h.pool.Check(h.asked, circuit, "") }

// Of begins a check of the rule that is judged on something that is no circuit.
func (h *House) Of(of string) *working.Check { return h.pool.Check(h.asked, "", of) }

// Text joins parts to a line of working, as [unit.Text] does, in room that is shared: a house
// of forty circuits has thousands of lines.
func (h *House) Text(parts ...any) string {
	var room [192]byte
	line := unit.AppendText(room[:0], parts...)
	if h.lines.Cap()-h.lines.Len() < len(line) {
		h.lines.Reset() // what was handed out keeps the room it is in
		h.lines.Grow(max(4096, len(line)))
	}
	at := h.lines.Len()
	h.lines.Write(line)
	return h.lines.String()[at:]
}

// Judge judges the rules of a registry on something, those left out that are not wanted; nil
// wants all. It returns the checks that they made.
func Judge[T any](h *House, rules []Asked[T], on T, wanted func(*Asked[T]) bool) []working.Check {
	for i := range rules {
		rule := &rules[i]
		if (wanted == nil || wanted(rule)) && (rule.When == nil || rule.When(on)) {
			h.asked = &rule.Rule
			rule.Judge(on)
		}
	}
	return h.pool.Take()
}

// ReportOf begins the report of a circuit.
func ReportOf(k *install.Circuit) CircuitReport {
	return CircuitReport{ID: k.ID, Name: k.Name, Options: []Option{}, Boxes: []BoxReport{}}
}

// Conclude takes up the checks of a circuit: its verdict is the worst of them.
func (r *CircuitReport) Conclude(checks []working.Check) {
	r.Checks, r.Verdict = checks, working.Pass
	for i := range checks {
		r.Verdict = working.Worst(r.Verdict, checks[i].Verdict)
	}
}

// Unwired is the report of a circuit whose cable is not chosen, so that no rule can be asked.
func Unwired(k *install.Circuit, rule *working.Rule, missing string) CircuitReport {
	r, c := ReportOf(k), rule.Check(k.ID, "")
	c.AddMissing(missing)
	c.Summary = "The cable is not chosen yet."
	r.Checks, r.Verdict = []working.Check{*c}, working.Unknown
	return r
}

// AssumeRoute marks a check that rests on lengths nobody measured, said in the unit of the
// practice.
func AssumeRoute(c *working.Check, k *install.Circuit, in install.Length) {
	for i := range k.Route.Segments {
		if s := &k.Route.Segments[i]; s.Basis != install.Measured {
			c.Assumes(unit.Text("length of ", s.Place, ", ", in.Of(s.LengthM), " ", in.Unit()))
		}
	}
}
