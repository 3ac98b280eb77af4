package install

import (
	"slices"

	"arvelt/core/words"
)

// The steps in which a circuit leaves the installation, behind its id: its ends are found, proved dead and taken off; then its cable is
// taken out, or capped and labelled where it stays.
const (
	partStep  = "-part"
	clearStep = "-clear"
)

// PartStep is the step in which the ends of a circuit that leaves are proved dead and taken off.
func (k *Circuit) PartStep() string { return k.ID + partStep }

// ClearStep is the step in which the cable of a circuit that leaves is taken out, or capped and labelled at both ends.
func (k *Circuit) ClearStep() string { return k.ID + clearStep }

// Leaving is how far a circuit has left the installation.
type Leaving struct {
	// Parted says that both ends were proved dead and taken off, Cleared that its cable is out, or capped and labelled where it stays; nil
	// while nobody did. Until it was parted it counts as live from every source.
	Parted  *Record `json:"parted"`
	Cleared *Record `json:"cleared"`
}

// LeavingOf is how far a circuit has left the installation, nil for one that is part of it when the work is done.
func (j *Job) LeavingOf(k *Circuit) *Leaving {
	if !k.State.Out() {
		return nil
	}
	return &Leaving{Parted: j.Ticked(k.PartStep()), Cleared: j.Ticked(k.ClearStep())}
}

// Ticked is the record by which a step was done, nil while it is open.
func (j *Job) Ticked(step string) *Record {
	for i := len(j.Records) - 1; i >= 0; i-- {
		if r := &j.Records[i]; r.Kind == Tick && r.Subject == step {
			if r.Done {
				return r
			}
			return nil
		}
	}
	return nil
}

// Standing is the job as it stands when its work is done: what rules are asked of, what is tested, bought and labelled. It has the circuits
// alone that are part of the installation then, their ways without what the others had on theirs, and each draws what the walk says of its
// points. Where nothing of that changes anything it is the job itself.
func (j *Job) Standing() *Job {
	leave, drawn := false, make([]*Drawn, len(j.Circuits))
	for i := range j.Circuits {
		k := &j.Circuits[i]
		leave, drawn[i] = leave || k.State.Out(), j.DrawnBy(k)
	}
	if !leave && !slices.ContainsFunc(drawn, func(d *Drawn) bool { return d != nil }) {
		return j
	}
	out := *j
	out.Circuits = make([]Circuit, 0, len(j.Circuits))
	for i := range j.Circuits {
		if j.Circuits[i].State.Out() {
			continue
		}
		out.Circuits = append(out.Circuits, j.Circuits[i])
		if d := drawn[i]; d != nil {
			k := &out.Circuits[len(out.Circuits)-1]
			k.Serves.PowerW, k.Point.CurrentA = d.PowerW, d.CurrentA
		}
	}
	if !leave {
		return &out
	}
	out.Boards = slices.Clone(j.Boards)
	for b := range out.EachBoard() {
		b.Ways = slices.Clone(b.Ways)
		for _, k := range j.on(b, true) {
			b.clear(k.Protection.Way)
			b.clear(k.Protection.Shared.SecondWay)
		}
	}
	return &out
}

// clear takes off a way what stands on it.
func (b *Board) clear(no int) {
	if w := b.WayByNo(no); w != nil {
		*w = Way{No: w.No, Halves: w.Halves}
	}
}

// Leavers are the circuits that are no part of the installation when the work is done.
func (j *Job) Leavers() []*Circuit {
	out := []*Circuit{}
	for i := range j.Circuits {
		if k := &j.Circuits[i]; k.State.Out() {
			out = append(out, k)
		}
	}
	return out
}

// Abandoned are the circuits that leave the installation and were not yet parted, as hazards to work where their points are: in each room
// of those, or anywhere where nobody knows their way.
func (j *Job) Abandoned(r *Room) (out []Hazard) {
	for _, k := range j.Leavers() {
		if j.LeavingOf(k).Parted != nil {
			continue
		}
		roomed := false
		for i := range k.Serves.Boxes {
			b := &k.Serves.Boxes[i]
			roomed = roomed || b.Room != ""
			if r != nil && b.Room == r.ID {
				out = append(out, Hazard{Kind: AbandonedCable, Place: k.Name, Room: r.ID})
				break
			}
		}
		if !roomed {
			out = append(out, Hazard{Kind: AbandonedCable, Place: k.Name})
		}
	}
	return out
}

// leaves holds what hangs on circuits that leave the installation to leaving too.
func (j *Job) leaves(say sayOf, told func(part, field string, value any, accept string), w *words.Catalogue) {
	for i := range j.Circuits {
		k := &j.Circuits[i]
		if up := j.FeederOf(k); up != nil && up.State.Out() && !k.State.Out() {
			accept := w.Say("what stays, or nothing for the main board: %s is taken out or left unconnected", up.Name)
			say(k, "from", k.From, accept)
			say(up, "state", up.State, w.Say("a circuit on which no other hangs: %s stays behind it", k.Name))
		}
		if k.State.Out() && j.Trait().Report {
			say(k, "state", k.State, w.Say("what a report does: it takes nothing out"))
		}
	}
	for i := range j.Boards {
		if b := &j.Boards[i]; b.Feed != "" {
			if k := j.CircuitByID(b.Feed); k != nil && k.State.Out() {
				told(b.Part(), "feed", b.Feed, w.Say("a circuit that stays: %s is taken out or left unconnected", k.Name))
				say(k, "state", k.State, w.Say("a circuit that feeds no board: %s stays behind it", b.Called(w)))
			}
		}
	}
}
