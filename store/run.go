package store

import (
	"maps"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// Rerun does one thing to the runs of the job: all circuits that it changes are saved together, and one undo takes all of it back.
func (l *Loaded) Rerun(ch install.RunChange) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	p := whole.Practice(&l.Job)
	terms := p.Terms()
	if err := l.mayEdit(circuitParts + ch.Circuit); err != nil {
		return err
	}
	changed, err := l.Job.Rerun(ch, terms, survey.Placing(p.Survey()))
	if err != nil {
		return err
	}
	l.title = l.runTitle(ch)
	for _, id := range changed {
		part := circuitParts + id
		if err := l.Touch(part, l.Versions[part], "run of "+part); err != nil {
			return err
		}
	}
	l.Job.Tidy()
	if err := l.Job.Fits(); err != nil {
		return err
	}
	for _, id := range changed {
		if err := l.Job.CircuitByID(id).Validate(terms); err != nil {
			return err
		}
	}
	return nil
}

// applied changes the job and holds what was changed to the rest of it.
func (l *Loaded) applied(apply func(*Loaded) error) error {
	rooms := slices.Clone(l.Job.Rooms)
	agreed, beside := l.agreedScope(), 0
	if agreed {
		beside = l.beside()
	}
	if err := apply(l); err != nil {
		return err
	}
	if agreed && l.beside() > max(beside, 0) {
		return l.besideScope()
	}
	if err := l.toldApart(rooms); err != nil {
		return err
	}
	if err := l.letClosed(rooms); err != nil {
		return err
	}
	walked := func(part string) bool { return strings.HasPrefix(part, roomParts) }
	if l.agreedScope() && (slices.ContainsFunc(slices.Collect(maps.Keys(l.touched)), walked) || slices.ContainsFunc(l.removed, walked)) {
		if err := l.keepsScope(rooms); err != nil {
			return err
		}
	}
	return l.agrees()
}

// agrees holds the circuits and boards that were touched to the others, to the supply arrangement and to the walk.
func (l *Loaded) agrees() error {
	touched := func(part string) bool { _, ok := l.touched[part]; return ok }
	for part := range l.touched {
		if strings.HasPrefix(part, circuitParts) || strings.HasPrefix(part, boardParts) || slices.Contains(networkParts, part) {
			return l.Job.Agrees(whole.Practice(&l.Job).Terms(), touched)
		}
	}
	return nil
}

const (
	circuitParts = "circuits/"
	boardParts   = "boards/"
	roomParts    = "rooms/"
)

// networkParts are those beside the lists that circuits and boards hang on.
var networkParts = []string{"board", "chain", "surge"}

// runTitle says what is done to the runs, as the step is undone by it.
func (l *Loaded) runTitle(ch install.RunChange) string {
	w, k := l.Job.Words, l.Job.CircuitByID(ch.Circuit)
	name := ch.Box
	if b := k.Serves.BoxByID(ch.Box); b != nil {
		name = b.Called()
	} else if to := l.Job.CircuitByID(ch.To); to != nil {
		for i := range to.Serves.Boxes {
			if to.Serves.Boxes[i].ID == ch.Box {
				name = to.Serves.Boxes[i].Called()
			}
		}
	}
	switch ch.Do {
	case install.PlacePoint:
		return w.Say("Points put on %s", k.Name)
	case install.MoveBox:
		return w.Say("%s moved", name)
	case install.InsertJoint:
		return w.Say("Joint put into %s", k.Name)
	case install.TakeOff:
		return w.Say("%s: a point taken off its run", k.Name)
	case install.SetLeg:
		return w.Say("%s: length of a leg", k.Name)
	case install.DivideRoute:
		return w.Say("%s: route divided over its legs", k.Name)
	case install.SplitRun:
		return w.Say("%s split", k.Name)
	case install.BreakRing:
		return w.Say("%s: ring broken", k.Name)
	}
	return w.Say("%s: ring closed", k.Name)
}
