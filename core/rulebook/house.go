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
	reads Facet // what of a circuit the rule that is judged reads
	reach working.Reach
	pool  working.Pool
	lines strings.Builder // room for lines of working
	// Working: the steps of each figure along a run are wanted with it.
	Working bool

	placed map[[2]string]int // how many of each of the walk's points stand on runs, once it is asked
}

// NewHouse begins a job.
func NewHouse(job *install.Job) *House {
	h := &House{Job: job, reach: reachOf(job), byID: make(map[string]*install.Circuit, len(job.Circuits)), below: map[string][]*install.Circuit{}}
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
func (h *House) On(circuit string) *working.Check {
	c := h.pool.Check(h.asked, circuit, "")
	c.Outside = h.outside() || h.untouched(circuit)
	if k := h.byID[circuit]; k != nil && !c.Outside && k.State != install.NewCircuit && !k.Seen && h.reads&ReadsRoute != 0 {
		c.AddMissing("whether its cable is as recorded: look at it and say so")
	}
	return c
}

// Of begins a check of the rule that is judged on something that is no circuit.
func (h *House) Of(of string) *working.Check {
	c := h.pool.Check(h.asked, "", of)
	c.Outside = h.outside()
	return c
}

// reachOf is how far a job reaches.
func reachOf(job *install.Job) working.Reach {
	switch t := job.Trait(); {
	case t.Walk:
		return working.ToDwelling
	case t.Origin:
		return working.ToOrigin
	}
	return working.ToObject
}

// outside reports whether the rule that is judged lies beyond what the job is about. A report holds no work: what fails in it is answered
// by a finding.
func (h *House) outside() bool {
	return h.Job.Trait().Report || h.asked.Reach > max(h.reach, working.ToCircuit) || h.asked.Load && !h.Job.Trait().Load
}

// touches is what a job touches of a circuit by what it does to it.
var touches = map[install.CircuitState]Facet{install.NewCircuit: Everything, install.AlteredCircuit: ReadsDevice | ReadsPlace}

// untouched reports whether the job leaves alone what the rule that is judged reads of a circuit. A rule of what is replaced is asked
// wherever something is.
func (h *House) untouched(circuit string) bool {
	k := h.byID[circuit]
	if k == nil || h.asked.Reach == working.ToObject {
		return false
	}
	reads := h.reads
	if reads == 0 {
		reads = Everything
	}
	return touches[k.State]&reads == 0
}

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
			h.asked, h.reads = &rule.Rule, rule.Reads
			rule.Judge(on)
		}
	}
	return h.pool.Take()
}

// ReportOf begins the report of a circuit.
func ReportOf(k *install.Circuit) CircuitReport {
	return CircuitReport{ID: k.ID, Name: k.Name, Options: []Option{}, Boxes: []BoxReport{}, Run: []StopReport{}}
}

// Conclude takes up the checks of a circuit: its verdict is the worst of them.
func (r *CircuitReport) Conclude(checks []working.Check) {
	r.Checks, r.Verdict = checks, working.Pass
	for i := range checks {
		if !checks[i].Outside {
			r.Verdict = working.Worst(r.Verdict, checks[i].Verdict)
		}
	}
}

// Leave takes out of the report of a circuit what nobody knows of one that the job leaves in part: how long its cable is and what that
// would read, and, until somebody looked, what cable and device it has.
func (r *CircuitReport) Leave(k *install.Circuit) {
	s := &r.Summary
	if k.State != install.NewCircuit {
		s.LengthM, s.MaxLengthM, s.MaxLoopM, s.Governs = 0, 0, 0, ""
		s.R1R2Cold, s.ZsCold, s.ZsHot = 0, 0, 0
	}
	if (k.State == install.KeptCircuit || k.State == install.InspectedCircuit) && !k.Seen {
		s.Device, s.Conductor, s.Cores, s.Text = "", "", "", ""
	}
}

// Unwired is the report of a circuit whose cable is not chosen, so that no rule can be asked.
func Unwired(k *install.Circuit, rule *working.Rule, missing string) CircuitReport {
	r, c := ReportOf(k), rule.Check(k.ID, "")
	c.AddMissing(missing)
	c.Summary = "The cable is not chosen yet."
	c.Outside = k.State == install.KeptCircuit || k.State == install.InspectedCircuit
	r.Conclude([]working.Check{*c})
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

// UseFact takes a figure of a fact into a check: one that is not known is missing there, one that nobody confirmed is assumed. It is 0
// where it is not known.
func UseFact(c *working.Check, name string, fact install.Fact) float64 {
	if !fact.Known() {
		c.AddMissing(name)
	} else if !fact.Confirmed() {
		c.Assumes(name)
	}
	return fact.V()
}
