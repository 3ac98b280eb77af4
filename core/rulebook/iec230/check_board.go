package iec230

import (
	"fmt"
	"strings"

	"arvelt/core/install"
	"arvelt/core/working"
)

// boardChecks judge the heat of the board: continuous loads against its rated
// diversity factor, and neighbours that warm each other (IEC 61439-3).
func (s *system) boardHeat() {
	for b := range s.Job.EachBoard() {
		s.heatOf(b)
	}
}

func (s *system) heatOf(b *install.Board) {
	here := s.Job.On(b)
	counted, loaded := 0, 0
	at := map[int]*install.Circuit{}
	for _, w := range b.Ways {
		if w.Label != "" || w.Device != "" || w.Circuit != "" {
			counted++
		}
	}
	for _, k := range here {
		if k.Protection.OwnEnclosure {
			continue
		}
		if k.Protection.Way > 0 {
			at[k.Protection.Way] = k
		}
		if !counts(b, k) {
			counted++
		}
		if rulesOf(k.Use).continuous {
			loaded++
		}
	}
	if loaded == 0 || counted < 2 {
		return
	}
	k := s.Of(b.ID)
	k.Title = "Continuous loads on " + b.Called(nil)
	k.From(boardRDF.Source)
	factor, source := DiversityFactor(counted), boardRDF.Source.Ref
	if b.MakerRDF > 0 {
		factor, source = b.MakerRDF, "the manufacturer's factor"
	}
	k.Step("RDF", "by outgoing circuits", f(float64(counted)), factor, "", source)
	over := []string{}
	for _, c := range here {
		if c.Protection.OwnEnclosure || !rulesOf(c.Use).continuous {
			continue
		}
		a, _, _, _ := s.designA(c)
		allowed := k.Step(c.Name, "RDF × In", s.Text(factor, " × ", c.Protection.RatingA, ", ", a, " A drawn"),
			factor*c.Protection.RatingA, "A", source)
		if !working.AtMost(a, allowed) {
			over = append(over, fmt.Sprintf("%s draws %s A of the %s A that its device bears in this board", c.Name, f(a), f(allowed)))
		}
	}
	hot := func(c *install.Circuit) bool {
		if c == nil || !rulesOf(c.Use).continuous {
			return false
		}
		a, _, _, _ := s.designA(c)
		return working.AtMost(highShare*c.Protection.RatingA, a)
	}
	for way, c := range at {
		if next := at[way+1]; hot(c) && hot(next) {
			over = append(over, fmt.Sprintf("%s and %s stand side by side near their ratings: put a blank or a lightly loaded way between",
				c.Name, next.Name))
		}
	}
	k.Decide(true)
	k.Summary = fmt.Sprintf("%d outgoing circuits, factor %s: every continuous load stays within it.", counted, f(factor))
	if len(over) > 0 {
		// A manufacturer's own factor or spacing rule goes before the table's.
		k.Warn()
		k.Summary = strings.Join(over, "; ") + ". The board's manufacturer may allow more; a larger device, a space beside it or " +
			"less load helps."
	}
}

// counts reports whether a way of the board already counts for the circuit.
func counts(b *install.Board, k *install.Circuit) bool {
	w := b.WayByNo(k.Protection.Way)
	return w != nil && k.Protection.Way > 0 && !w.Free()
}
