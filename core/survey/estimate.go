package survey

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// longer is how much longer an estimated stretch is tried: a route walked in
// the head is easily a fifth short.
const longer = 1.2

// Held is what an estimate does to one check.
type Held struct {
	Check   string          `json:"check"`
	Title   string          `json:"title"`
	Now     working.Verdict `json:"now"`
	Longer  working.Verdict `json:"longer"` // with every estimated stretch a fifth longer
	Value   *float64        `json:"value"`
	LongerV *float64        `json:"longerValue"`
	Limit   *float64        `json:"limit"`
	Unit    string          `json:"unit"`
	HoldsM  *float64        `json:"holdsM"` // metres of estimate up to which the verdict holds; nil beyond four times
	Summary string          `json:"summary"`
}

// RouteEffect is the measured and estimated share of a circuit's route and what
// the estimate means for its checks.
type RouteEffect struct {
	Circuit    string  `json:"circuit"`
	Name       string  `json:"name"`
	MeasuredM  float64 `json:"measuredM"`
	EstimatedM float64 `json:"estimatedM"`
	Checks     []Held  `json:"checks"`
	Summary    string  `json:"summary"`
}

// Estimates tells for every circuit how far its checks rest on estimated
// stretches: each is recomputed with the estimate a fifth longer, and the
// length is sought at which its verdict would change.
func Estimates(job *install.Job, p rulebook.Book) []RouteEffect {
	w := job.Words
	out := []RouteEffect{}
	base := p.Judge(job)
	var trial rulebook.Trial
	for i := range job.Circuits {
		c := &job.Circuits[i]
		if c.State.Out() {
			continue
		}
		e := RouteEffect{Circuit: c.ID, Name: c.Name, Checks: []Held{}}
		for _, s := range c.Route.Segments {
			if s.Basis == install.Measured {
				e.MeasuredM += s.LengthM
			} else {
				e.EstimatedM += s.LengthM
			}
		}
		if e.EstimatedM == 0 {
			e.Summary = w.Say("Every stretch is measured.")
			out = append(out, e)
			continue
		}
		if trial == nil {
			trial = p.Try(job)
		}
		at := func(scale float64) (own []working.Check) {
			checks := trial.Changed(i, func(k *install.Circuit) {
				k.Route.Segments = slices.Clone(k.Route.Segments)
				for n := range k.Route.Segments {
					if s := &k.Route.Segments[n]; s.Basis != install.Measured {
						s.LengthM *= scale
					}
				}
			}, nil)
			for n := range checks {
				if checks[n].Circuit == c.ID {
					own = append(own, checks[n])
				}
			}
			return own
		}
		now, long := base.Circuit(c.ID).Checks, at(longer)
		turns := 0
		for k := range now {
			if k >= len(long) || now[k].Value == nil || long[k].Value == nil || *now[k].Value == *long[k].Value {
				continue // the estimate does not touch it
			}
			h := Held{Check: now[k].ID, Title: now[k].Title, Now: now[k].Verdict, Longer: long[k].Verdict,
				Value: now[k].Value, LongerV: long[k].Value, Limit: now[k].Limit, Unit: now[k].Unit}
			if now[k].Verdict != working.Fail {
				h.HoldsM = holds(e.EstimatedM, func(scale float64) bool {
					checks := at(scale)
					return k < len(checks) && checks[k].Verdict != working.Fail
				})
			}
			switch {
			case h.Now == working.Fail:
				h.Summary = w.Say("fails already")
			case h.HoldsM == nil:
				h.Summary = w.Say("holds even at four times the estimate")
			default:
				h.Summary = w.Say("holds up to %s m of the estimated %s m", unit.Format(unit.Significant(*h.HoldsM, 3)),
					unit.Format(e.EstimatedM))
			}
			if h.Longer == working.Fail && h.Now != working.Fail {
				turns++
			}
			e.Checks = append(e.Checks, h)
		}
		e.Summary = w.Say("No verdict turns with the estimate a fifth longer.")
		if turns > 0 {
			e.Summary = w.Say("Measure before ordering: %d of the checks fail with the estimate a fifth longer.", turns)
		}
		out = append(out, e)
	}
	return out
}

// holds seeks by halving the length of estimate at which ok turns false, from
// once to four times; nil when it holds at four times.
func holds(estimatedM float64, ok func(scale float64) bool) *float64 {
	low, high := 1.0, 4.0
	if ok(high) {
		return nil
	}
	for range 10 {
		mid := (low + high) / 2
		if ok(mid) {
			low = mid
		} else {
			high = mid
		}
	}
	m := estimatedM * low
	return &m
}
