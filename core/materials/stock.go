package materials

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// stock puts to each line what was ordered and delivered of it, and works out what that does not suffice for.
func (t *TakeOff) stock(job *install.Job) {
	w := job.Words
	for i := range t.Lines {
		l := &t.Lines[i]
		l.count(job.Materials.WastagePc)
		if says := l.unsold(w, job.Materials.WastagePc); says != "" {
			t.Gaps = append(t.Gaps, Gap{What: says, Sheet: working.MaterialsSheet})
		}
		l.stock(w, l.kept(job.Materials.Lines))
		l.coming(w, job.Plan.StartDate)
		if l.Gone != nil && l.Short > 0 && l.Order > l.ordered() && l.Trouble == "" {
			l.Trouble = w.Say("%s: %s Order it elsewhere, or take something in its place.", l.Name, l.Gone.Says)
		}
		if l.Trouble != "" {
			t.Troubles = append(t.Troubles, l.Trouble)
		}
		for n := range l.Asks {
			a := &l.Asks[n]
			switch b := a.Brought; {
			case a.Lacks:
				t.stop(a, w.Say("What came of %s does not suffice for it.", l.Name))
			case b != nil && b.Trouble:
				t.Troubles = append(t.Troubles, w.Say("%s, for %s: %s.", l.Name, a.For, b.Says))
				t.stop(a, w.Say("%s: %s.", l.Name, b.Says))
			}
		}
	}
}

// kept is what was ordered and delivered of a line. Older jobs kept it by what asks for it: that is put together.
func (l *Line) kept(lines map[string]install.Stock) install.Stock {
	s, ok := lines[l.Key]
	if ok || len(lines) == 0 {
		return s
	}
	old := map[string]bool{}
	add := func(key string) {
		o, there := lines[key]
		if !there || old[key] {
			return
		}
		old[key] = true
		s.Ordered, s.Delivered = s.Ordered+o.Ordered, s.Delivered+o.Delivered
		s.Lengths = added(s.Lengths, o.Lengths)
		s.Due = max(s.Due, o.Due)
		s.Note = strings.Trim(s.Note+"; "+o.Note, "; ")
	}
	for i := range l.Asks {
		for key := range upwards(l.Asks[i].Key) {
			add(key)
		}
	}
	add("walk:" + l.Key)
	add("board:" + l.Key)
	return s
}

// stock takes what was ordered and delivered. What is bought by length must also come in
// pieces that are long enough: two short ones that add up to a run are still short.
func (l *Line) stock(w *words.Catalogue, s install.Stock) {
	l.Returned = s.Returned
	l.Ordered, l.Delivered, l.Lengths, l.Note, l.Due = s.Ordered, s.Delivered, s.Lengths, s.Note, s.Due
	came, back := s.Delivered+l.Taken, s.Returned+l.Left
	l.Short = math.Max(0, l.Need-(came-back))
	defer l.others()
	say := func(v float64) string { return unit.With(unit.Significant(v, 4), l.Unit) }
	switch {
	case l.ordered() > 0 && s.Delivered > 0 && s.Delivered < l.ordered():
		l.Remark = w.Say("%s of the %s that were ordered came.", say(s.Delivered), say(l.ordered()))
	case l.ordered() > 0 && s.Delivered > l.ordered():
		l.Remark = w.Say("%s came, %s were ordered.", say(s.Delivered), say(l.ordered()))
	}
	pieces, err := install.Pieces(added(s.Lengths, l.taken), l.Unit)
	if s.Delivered > 0 && s.Lengths == "" {
		pieces = nil // of some of it nobody knows the pieces
	}
	if !l.ByLength || err != nil || len(pieces) == 0 {
		switch {
		case came <= 0 || l.Need == 0:
		case l.Short > 0:
			l.serve([]float64{came}, false)
			says := w.Say("%s of %s delivered.", say(came), say(l.Need))
			if l.ByLength {
				says = w.Say("the delivery of %s is %s shorter than the %s that are needed.", say(came), say(l.Short), say(l.Need))
			}
			l.troubled(w, says)
		case l.ByLength && l.mustFit():
			l.Short = l.Need // delivered in full, but nobody knows whether a piece is long enough
			l.Remark = w.Say("In which pieces? Measure them: until then nobody knows whether one is long enough.")
		}
		return
	}
	sum := total(pieces) - back
	l.Short = math.Max(0, l.Need-sum)
	cut, longest, _ := l.serve(pieces, true)
	switch {
	case l.Short > 1e-9:
		l.troubled(w, w.Say("the pieces are %s together, %s shorter than the %s that are needed.", say(sum), say(l.Short), say(l.Need)))
	case cut > 0:
		l.Short = l.lacking()
		l.troubled(w, w.Say("the longest piece left is %s, a run of %s must come in one piece: %s short.", say(longest), say(cut), say(cut-longest)))
	default:
		l.Short = 0
	}
}

// troubled says what is wrong with what came, and for what it does not suffice.
func (l *Line) troubled(w *words.Catalogue, says string) {
	if l.Delivered <= 0 { // what was taken out of the stock is a part of it: the rest is still to come
		for i := range l.Asks {
			l.Asks[i].Lacks = false
		}
		return
	}
	if l.Trouble != "" {
		return
	}
	l.Trouble = l.Name + ": " + says
	names := []string{}
	for i := range l.Asks {
		if a := &l.Asks[i]; a.Lacks && a.For != "" && !slices.Contains(names, a.For) {
			names = append(names, a.For)
		}
	}
	switch n := len(names); {
	case n > 5:
		l.Trouble += " " + w.Say("Do not travel for %s and %d more.", strings.Join(names[:5], ", "), n-5)
	case n > 0:
		l.Trouble += " " + w.Say("Do not travel for %s.", strings.Join(names, ", "))
	}
}

// mustFit reports whether some run of a line must come in one piece.
func (l *Line) mustFit() bool {
	return slices.ContainsFunc(l.Asks, func(a Ask) bool { return a.Brought == nil && len(a.pieces) > 0 })
}

// lacking is what those need who got nothing, or not enough.
func (l *Line) lacking() (need float64) {
	for i := range l.Asks {
		if l.Asks[i].Lacks {
			need += l.Asks[i].Need
		}
	}
	return need
}

// others adds to what is missing that which somebody else brings and has not.
func (l *Line) others() {
	for i := range l.Asks {
		if a := &l.Asks[i]; a.Brought != nil && !a.Brought.Ready {
			l.Short += a.Need
		}
	}
}

// total is the sum of some lengths.
func total(lengths []float64) (sum float64) {
	for _, v := range lengths {
		sum += v
	}
	return sum
}

// wanted is a length that one of the askers of a line needs in one piece.
type wanted struct {
	ask    int
	length float64
}

// serve gives what came to those who ask for it and marks those for whom it does not suffice: what must come in one piece first, the
// longest from the shortest piece that holds it, then what is cut as it goes, in the order of the list. It returns the first run that no
// piece holds, the longest piece that was left for it, and what is left of the pieces beside what is cut as it goes.
func (l *Line) serve(came []float64, measured bool) (cut, longest float64, left []float64) {
	left = slices.Clone(came)
	runs := []wanted{}
	for i := range l.Asks {
		a := &l.Asks[i]
		if a.Brought != nil {
			continue
		}
		for _, p := range a.pieces {
			if measured {
				runs = append(runs, wanted{i, p.Length})
			}
		}
	}
	slices.SortStableFunc(runs, func(a, b wanted) int { return cmp.Compare(b.length, a.length) })
	for _, r := range runs {
		best := -1
		for i, p := range left {
			if p+1e-9 >= r.length && (best < 0 || p < left[best]) {
				best = i
			}
		}
		if best < 0 {
			l.Asks[r.ask].Lacks = true
			if cut == 0 {
				cut, longest = r.length, slices.Max(left)
			}
			continue
		}
		left[best] -= r.length
	}
	rest := total(left)
	for i := range l.Asks {
		a := &l.Asks[i]
		if a.Brought != nil || measured && len(a.pieces) > 0 {
			continue
		}
		if a.Need > rest+1e-9 {
			a.Lacks = true
			continue
		}
		rest -= a.Need
	}
	return cut, longest, left
}

// stop closes the steps that take what is asked for.
func (t *TakeOff) stop(a *Ask, why string) {
	for _, step := range a.Steps {
		t.Stops = append(t.Stops, Stop{step, why})
	}
}
