package store

import (
	"slices"

	"arvelt/core/design"
	"arvelt/core/install"
	"arvelt/core/whole"
)

// TakeProposal takes circuits of the proposal for the points of the walk, by id: all of them are saved together with the shared devices that
// they bring, and one undo takes all of it back. tag is that of the proposal that was seen; another is refused.
func (l *Loaded) TakeProposal(tag string, chosen []string) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	if err := l.mayEdit(circuitParts + "new"); err != nil {
		return err
	}
	w, book := l.Job.Words, whole.Practice(&l.Job)
	taken, proposal := design.Take(&l.Job, book, chosen)
	ids := []string{}
	for _, c := range proposal.Circuits {
		ids = append(ids, c.ID)
	}
	switch i := slices.IndexFunc(chosen, func(id string) bool { return !slices.Contains(ids, id) }); {
	case tag != proposal.Tag:
		return install.Errors{{Field: "proposal.tag", Value: tag, Accept: w.Say("the proposal as it is now: something has changed, look at it again")}}
	case len(chosen) == 0:
		return install.Errors{{Field: "proposal.circuits", Accept: w.Say("at least one circuit of the proposal")}}
	case i >= 0:
		return install.Errors{{Field: "proposal.circuits", Value: chosen[i], Accept: w.Say("a circuit of the proposal")}}
	}
	parts := []string{}
	for i := range taken.Circuits {
		if k := &taken.Circuits[i]; l.Job.CircuitByID(k.ID) == nil {
			parts = append(parts, circuitParts+k.ID)
		}
	}
	if len(taken.Board.Groups) != len(l.Job.Board.Groups) {
		parts = append(parts, taken.Board.Part())
	}
	l.Job.Circuits, l.Job.Board.Groups = taken.Circuits, taken.Board.Groups
	l.title = w.Say("%d circuits of the proposal taken", len(chosen))
	for _, part := range parts {
		if err := l.Touch(part, l.Versions[part], "proposal of "+part); err != nil {
			return err
		}
	}
	l.Job.Tidy()
	if err := l.Job.Fits(); err != nil {
		return err
	}
	for _, part := range parts {
		if named, ok := install.PartNamed(part); ok {
			if err := named.Check(&l.Job, book.Terms()); err != nil {
				return err
			}
		}
	}
	return nil
}
