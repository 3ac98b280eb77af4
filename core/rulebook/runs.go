package rulebook

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/runs"
	"arvelt/core/working"
)

// StopReport is what there is at one box of a run. A nil figure is not known.
type StopReport struct {
	ID    string   `json:"id"`
	Label string   `json:"label"` // that its tags bear, empty where it was given no number
	OutM  *float64 `json:"outM"`  // of cable from the board, m
	R1    *float64 `json:"r1"`    // of the line from the board, Ω at 20 °C
	Rn    *float64 `json:"rn"`    // of the neutral
	R2    *float64 `json:"r2"`    // of the protective conductor
	R1R2  *float64 `json:"r1r2"`
	// ZsCold and ZsHot are the loop impedance to earth at 20 °C and as hot as a fault makes it, Ω; FaultA the least current that
	// flows to earth there.
	ZsCold *float64 `json:"zsCold"`
	ZsHot  *float64 `json:"zsHot"`
	FaultA *float64 `json:"faultA"`
	DropV  *float64 `json:"dropV"`
	DropPc *float64 `json:"dropPc"` // of the voltage of the circuit, from the origin on
	Worst  bool     `json:"worst"`  // the loop is highest here
	// By are what opens it, the nearest first; Protects the boxes that its own device opens, by id; Onward those
	// that are dead when the cable to it is cut: on a ring only its spurs.
	By       []string `json:"by"`
	Protects []string `json:"protects"`
	Onward   []string `json:"onward"`
	Astray   string   `json:"astray"` // what the walk says against it, empty for nothing
	// Steps are the working, where it was asked for.
	Steps []working.Step `json:"steps"`
}

// Worker writes the working of the figures of one stop, where it is wanted.
type Worker struct {
	h *House
	r *StopReport
}

// At begins the working of a stop.
func (h *House) At(r *StopReport) Worker { return Worker{h, r} }

// With is the line of figures of a step, empty where no working is wanted.
func (w Worker) With(parts ...any) string {
	if !w.h.Working {
		return ""
	}
	return w.h.Text(parts...)
}

// Step is a figure with its step.
func (w Worker) Step(symbol, formula, with string, v float64, unit, source string) *float64 {
	if w.h.Working {
		w.r.Steps = append(w.r.Steps, working.Step{Symbol: symbol, Formula: formula, With: with, Value: v, Unit: unit, Source: source})
	}
	return &v
}

// Figure is a figure that is known.
func Figure(v float64) *float64 { return &v }

// Stops begins the report of each box of a run. Of a circuit that the job leaves in part nobody knows how long its cable is, but where
// it was measured.
func (h *House) Stops(k *install.Circuit, run *runs.Run, by []string) []StopReport {
	lies := k.State == install.NewCircuit || !slices.ContainsFunc(k.Route.Segments, func(s install.Segment) bool { return s.Basis != install.Measured })
	out := make([]StopReport, len(run.Stops))
	for i := range run.Stops {
		s, b := &run.Stops[i], &k.Serves.Boxes[i]
		r := &out[i]
		*r = StopReport{ID: b.ID, Label: b.Label(), By: slices.Clone(by), Protects: []string{}, Onward: k.Serves.Cut(b.ID), Steps: []working.Step{},
			Worst: i == run.Worst, Astray: h.astray(b)}
		if s.Known && lies {
			r.OutM = Figure(s.OutM)
		}
	}
	return out
}

// astray says where the walk no longer has what a box is.
func (h *House) astray(b *install.Box) string {
	job := h.Job
	if h.placed == nil {
		h.placed = job.Placed()
	}
	switch p := job.PointOf(b); {
	case b.Point == "":
	case p == nil:
		return job.Words.Say("The walk no longer has this point: take it off the run, or put it back on the walk.")
	case p.State == install.Removed:
		return job.Words.Say("The walk says that this point is taken out.")
	case h.placed[[2]string{b.Room, b.Point}] > p.Count:
		return job.Words.Say("The walk has %d of these, and more stand on runs.", p.Count)
	}
	return ""
}

// LengthM is the length of a run for the figures of its circuit, m: of a ring all of it, else the cable to the farthest box; what the
// route adds up to where it does not say which stretch leads where.
func LengthM(k *install.Circuit, run *runs.Run) float64 {
	switch {
	case !run.Legged || run.Open() || run.Worst < 0:
		return k.Route.LengthM()
	case run.RingM > 0:
		return run.RingM
	}
	return run.Stops[run.Worst].OutM
}

// LegsMissing marks a check that needs a leg that nobody knows.
func LegsMissing(c *working.Check, k *install.Circuit, run *runs.Run) {
	if !run.Open() {
		return
	}
	for _, id := range run.Unknown {
		if b := k.Serves.BoxByID(id); b != nil {
			c.AddMissing("length of the leg to " + b.Called())
		} else {
			c.AddMissing("length of the way back to the board")
		}
	}
}

// Longest is the length of the longest spur of a circuit, 0 without one.
func Longest(spurs []install.Spur) float64 {
	m := 0.0
	for i := range spurs {
		m = max(m, spurs[i].LengthM)
	}
	return m
}

// Seen is how a conductor of so many ohms a metre is seen from the board to a stop, as the textbook writes it.
func Seen(s *runs.Stop, perM string, text func(...any) string) (formula, with string) {
	switch {
	case s.BackM > 0 && s.SpurM > 0:
		return perM + " × (a × b / (a + b) + spur)", text("a ", s.OutM-s.SpurM, " m, b ", s.BackM-s.SpurM, " m, spur ", s.SpurM, " m")
	case s.BackM > 0:
		return perM + " × a × b / (a + b)", text("a ", s.OutM, " m, b ", s.BackM, " m")
	}
	return perM + " × L", text("L ", s.OutM, " m")
}
