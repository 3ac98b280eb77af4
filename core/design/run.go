package design

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// run lays the run of a circuit: its points in order, each leg as long as the ways say, assumed.
func (d *designer) run(id string, pieces []piece) {
	terms, placing := d.book.Terms(), survey.Placing(d.book.Survey())
	segment := d.job.CircuitByID(id).Route.Segments[0]
	for i := 0; i < len(pieces); {
		n := 1
		for i+n < len(pieces) && pieces[i+n].room == pieces[i].room && pieces[i+n].point == pieces[i].point {
			n++
		}
		ch := install.RunChange{Do: install.PlacePoint, Circuit: id, Room: pieces[i].room.ID, Point: pieces[i].point.ID, Count: n}
		ch.After, ch.Before = d.job.CircuitByID(id).Serves.End()
		if _, err := d.job.Rerun(ch, terms, placing); err != nil {
			d.out.Left = append(d.out.Left, Left{Room: pieces[i].room.Name, Point: pieces[i].name, Count: n, Why: err.Error()})
			pieces = slices.Delete(slices.Clone(pieces), i, i+n)
			continue
		}
		i += n
	}
	k := d.job.CircuitByID(id)
	d.book.Fit(d.job, k)
	k.Route.Segments = []install.Segment{}
	for i, leg := range k.Legs() {
		s := segment
		s.To, s.Basis = leg.To, install.Assumed
		var from, to *piece
		if i > 0 {
			from = &pieces[i-1]
		}
		if i < len(pieces) {
			to = &pieces[i]
			s.Place = d.job.Words.Say("to %s", k.Serves.Boxes[i].Called())
		} else {
			s.Place = d.job.Words.Say("back to the board")
		}
		s.LengthM = d.ways.legM(from, to)
		k.Route.Segments = append(k.Route.Segments, s)
	}
}

const (
	mendRounds = 8 // remedies that are taken one after the other for a circuit
	splitMost  = 3 // times that circuits are parted in the hope that a part passes
)

// mend makes the circuits that are proposed pass: by the least of the remedies that the rules name, by the next larger circuit of the plan,
// and where neither cures by parting them.
func (d *designer) mend() {
	for range splitMost {
		d.remedy()
		parted := false
		r := d.book.Judge(d.job)
		for i := 0; i < len(d.made); i++ {
			if d.failsIn(&r, d.made[i].id) == 0 {
				continue
			}
			parted = !d.larger(i) && d.part(i) || parted
			r = d.book.Judge(d.job)
		}
		if !parted {
			return
		}
	}
}

// part gives half of the points of a circuit one of their own where that fails less, and reports whether it did.
func (d *designer) part(i int) bool {
	m, n := d.made[i], len(d.made[i].pieces)
	if n < 2 || len(d.job.Circuits) >= install.MaxCircuits {
		return false
	}
	was, circuits, all := d.fails(m.id), slices.Clone(d.job.Circuits), slices.Clone(d.made)
	d.rebuild(i, m.template, m.pieces[:n/2])
	d.circuit(m.cluster, m.template, m.pieces[n/2:])
	d.share()
	d.place()
	d.remedy()
	if d.fails(m.id)+d.fails(d.made[len(d.made)-1].id) < was {
		return true
	}
	d.job.Circuits, d.made = circuits, all
	return false
}

// larger rebuilds a circuit by the next larger of its plan for as long as that fails less, and reports whether it passes then.
func (d *designer) larger(i int) bool {
	m := d.made[i]
	templates := strings.Split(m.cluster.row.Templates, "|")
	for at := slices.Index(templates, m.template) + 1; at > 0 && at < len(templates); at++ {
		was, k := d.fails(m.id), *d.job.CircuitByID(m.id)
		d.rebuild(i, templates[at], m.pieces)
		d.remedy()
		switch now := d.fails(m.id); {
		case now == 0:
			return true
		case now >= was:
			*d.job.CircuitByID(m.id), d.made[i] = k, m
		}
	}
	return false
}

// rebuild makes a circuit anew under its id, of a template and points.
func (d *designer) rebuild(i int, template string, pieces []piece) {
	m := &d.made[i]
	k := d.job.CircuitByID(m.id)
	was := *k
	*k = d.build(m.id, m.cluster, template, pieces)
	k.Protection.Group = ""
	if k.Protection.RCDType != "" && was.Protection.Group != "" {
		k.Protection.Group, k.Protection.RCDType, k.Protection.IdnMA = was.Protection.Group, "", 0
	}
	k.Protection.Way = was.Protection.Way
	m.template, m.pieces = template, pieces
	d.run(m.id, pieces)
}

// fails is how many checks of a circuit fail as the job is now, failsIn how many do in a report of it.
func (d *designer) fails(id string) int {
	r := d.book.Judge(d.job)
	return d.failsIn(&r, id)
}

func (d *designer) failsIn(r *rulebook.Report, id string) (n int) {
	k, checks := d.job.CircuitByID(id), r.Circuit(id).Checks
	for i := range checks {
		if failing(k, &checks[i]) {
			n++
		}
	}
	return n
}

// failing reports whether a check of a circuit fails and is its own to mend: that the board has no way for it is said for all at once.
func failing(k *install.Circuit, c *working.Check) bool {
	return c.Verdict == working.Fail && !c.Outside && (k.Protection.Way > 0 || c.Sheet != working.BoardSheet)
}

// remedy takes for each circuit that is proposed the first remedy of what fails, as long as there is one that changes nothing else.
func (d *designer) remedy() {
	for range mendRounds {
		r := d.book.Report(d.job, nil)
		took := false
		for _, m := range d.made {
			if s := ownRemedy(r.Circuit(m.id).Checks, "circuits/"+m.id); s != nil && d.set(m.id, s) {
				took = true
			}
		}
		if !took {
			return
		}
	}
}

// placed are the fields by which a device finds its place: that is decided once, for all of them.
var placed = []string{"protection.way", "protection.ownEnclosure", "protection.group"}

// ownRemedy is the first remedy of what fails in checks that changes one part alone, nil without.
func ownRemedy(checks []working.Check, part string) []working.Set {
	for _, c := range checks {
		if c.Verdict != working.Fail || c.Outside {
			continue
		}
		for _, r := range c.Remedies {
			if len(r.Sets) > 0 && !slices.ContainsFunc(r.Sets, func(s working.Set) bool { return s.Part != part || slices.Contains(placed, s.Field) }) {
				return r.Sets
			}
		}
	}
	return nil
}

// set sets fields of a circuit as a sheet does, and reports whether it could.
func (d *designer) set(id string, sets []working.Set) bool {
	k := d.job.CircuitByID(id)
	raw, err := json.Marshal(k)
	var tree map[string]any
	if err != nil || json.Unmarshal(raw, &tree) != nil {
		return false
	}
	for _, s := range sets {
		at, path := tree, strings.Split(s.Field, ".")
		for _, name := range path[:len(path)-1] {
			below, ok := at[name].(map[string]any)
			if !ok {
				return false
			}
			at = below
		}
		at[path[len(path)-1]] = s.Value
	}
	raw, err = json.Marshal(tree)
	fresh := install.Circuit{}
	if err != nil || json.Unmarshal(raw, &fresh) != nil {
		return false
	}
	*k = fresh
	return true
}

// number numbers the points of the proposed circuits anew, in their order: circuits that were tried and dropped leave no gaps.
func (d *designer) number() {
	top := 0
	own := map[string]bool{}
	for _, m := range d.made {
		own[m.id] = true
	}
	for i := range d.job.Circuits {
		for n := range d.job.Circuits[i].Serves.Boxes {
			if !own[d.job.Circuits[i].ID] {
				top = max(top, d.job.Circuits[i].Serves.Boxes[n].Tag)
			}
		}
	}
	for _, m := range d.made {
		k := d.job.CircuitByID(m.id)
		ids := map[string]string{"": "", install.BackLeg: install.BackLeg}
		for n := range k.Serves.Boxes {
			b := &k.Serves.Boxes[n]
			top++
			fresh := fmt.Sprintf("p%d", top)
			ids[b.ID], b.ID, b.Tag, b.From = fresh, fresh, top, ids[b.From]
		}
		k.Serves.Back = ids[k.Serves.Back]
		for n := range k.Route.Segments {
			s := &k.Route.Segments[n]
			if s.To = ids[s.To]; n < len(k.Serves.Boxes) {
				s.Place = d.job.Words.Say("to %s", k.Serves.Boxes[n].Called())
			}
		}
	}
}
