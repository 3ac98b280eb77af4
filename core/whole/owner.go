package whole

import "arvelt/core/install"

// Stop is a place at which whoever lives in the house stops, and why.
type Stop struct{ Where, Says string }

// OwnerStops are where whoever lives in the house stops: what only a skilled person opens, what is the operator's, and what of ours hangs or lies
// there now. It is computed of what the job has and of what was left; what is not listed is no leave.
func OwnerStops(v *View) []Stop {
	w, j := v.Job.Words, v.Job
	out := []Stop{}
	add := func(where, stop string) { out = append(out, Stop{where, stop}) }
	for b := range j.EachBoard() {
		add(b.Called(w), w.Say("Stop at its door: operate a switch that is in use, press a test button. Its cover takes a tool and is ours to open. "+
			"What opens again after it was switched on once stays off."))
	}
	for i := range j.Chain.Enclosures {
		e := &j.Chain.Enclosures[i]
		switch {
		case e.Owner == install.OwnerOperator || e.Owner == install.OwnerMeter || e.Sealed == install.SealWhole:
			add(e.Name, w.Say("Stop before it: it is the network operator's or sealed. Nobody but them opens it."))
		case !e.New:
			add(e.Name, w.Say("Stop at its cover: its terminals stay live with the main switch off."))
		}
	}
	for i := range v.Tests.Locks {
		l := &v.Tests.Locks[i]
		add(w.Say("Lock of %s, %s", l.By, l.LockTag), w.Say("Stop: somebody works behind it. Only who hung it takes it off."))
	}
	for i := range v.Left {
		if l := &v.Left[i]; !l.Record.Done {
			add(l.Says, w.Say("Stop: %s", l.Care))
		}
	}
	add(w.Say("Boxes, accessories and luminaires"), w.Say("Stop at what takes a tool: a cover, a plate, a terminal. Lamps are changed switched off and cold."))
	return out
}
