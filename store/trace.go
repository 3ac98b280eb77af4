package store

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// traced lets the run of a circuit follow what was traced: points that stay and went dead with it alone come onto its run, their legs not
// known, and where partings tell its order whole its boxes stand in it.
func (l *Loaded) traced(r *install.Record) error {
	p := whole.Practice(&l.Job)
	terms, placing := p.Terms(), survey.Placing(p.Survey())
	t := survey.TracingOf(&l.Job, p.Survey())
	i := slices.IndexFunc(t.Circuits, func(c survey.TracedCircuit) bool { return c.ID == r.Circuit })
	if i < 0 || r.Done {
		return nil
	}
	did := false
	run := func(ch install.RunChange) bool {
		ch.Circuit = r.Circuit
		_, err := l.Job.Rerun(ch, terms, placing)
		did = did || err == nil
		return err == nil
	}
	if r.Subject == "" {
		for _, pt := range t.Points {
			at := slices.IndexFunc(pt.On, func(on survey.TracedOn) bool { return on.Circuit == r.Circuit })
			entry := l.Job.PointOf(&install.Box{Room: pt.Room, Point: pt.Point})
			if at < 0 || pt.Clash || entry.State != install.Kept {
				continue
			}
			k := l.Job.CircuitByID(r.Circuit)
			there := 0
			for n := range k.Serves.Boxes {
				if b := &k.Serves.Boxes[n]; b.Room == pt.Room && b.Point == pt.Point {
					there++
				}
			}
			if more := min(pt.On[at].Dead-there, pt.Count-l.Job.Placed()[[2]string{pt.Room, pt.Point}]); more > 0 {
				ch := install.RunChange{Do: install.PlacePoint, Room: pt.Room, Point: pt.Point, Count: more}
				ch.After, ch.Before = k.Serves.End()
				run(ch)
			}
		}
	}
	if order, ok := t.Circuits[i].Known(); ok {
		for n, id := range order {
			k := l.Job.CircuitByID(r.Circuit)
			after, before := "", ""
			if n > 0 {
				after = order[n-1]
			}
			for b := range k.Serves.Boxes {
				if x := &k.Serves.Boxes[b]; x.From == after && x.ID != id {
					before = x.ID
				}
			}
			if k.Serves.BoxByID(id).From != after {
				run(install.RunChange{Do: install.MoveBox, Box: id, After: after, Before: before})
			}
		}
	}
	if !did {
		return nil
	}
	part := circuitParts + r.Circuit
	l.title = l.Job.Words.Say("%s as it was traced", l.Job.CircuitByID(r.Circuit).Name)
	l.touched[part] = "traced " + part
	l.Job.Tidy()
	if err := l.Job.CircuitByID(r.Circuit).Validate(terms); err != nil {
		return err
	}
	return l.Job.Fits()
}
