package design

import (
	"cmp"
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Followed is what the circuits of a job did after the points of a room changed, as far as it is not seen from the circuits themselves.
type Followed struct {
	// Open is what could not be followed, each a sentence: what it costs is not known.
	Open []string
	// Drawless are appliances with a circuit of their own of which nobody said what they draw, by name.
	Drawless []string
}

// follower is a change of the points of one room on its way through the circuits.
type follower struct {
	*designer
	was, room *install.Room
	out       Followed
}

// Follow takes the points of a room as they become into a job and lets its circuits follow: what is dropped or taken out comes off its run,
// what is moved keeps its circuit with legs that are assumed again, and what is new goes onto the run of such points that passes with it
// for the least cable, or else onto a circuit of its own. Nothing else changes; the job that is given stays as it is.
func Follow(job *install.Job, room install.Room, book rulebook.Book) (*install.Job, Followed) {
	own := *job
	own.Rooms, own.Circuits = slices.Clone(job.Rooms), slices.Clone(job.Circuits)
	own.Board.Groups = slices.Clone(job.Board.Groups)
	f := &follower{designer: &designer{job: &own, book: book, plan: book.PlanOf(job)}, was: job.RoomByID(room.ID)}
	f.room = own.RoomByID(room.ID)
	*f.room = room
	f.ways = waysOf(&own)
	f.repoint()
	f.takeOff()
	f.moved()
	f.added()
	return f.job, f.out
}

// boxes calls each for every box on a run that is a point of the room.
func (f *follower) boxes(each func(k *install.Circuit, b *install.Box)) {
	for i := range f.job.Circuits {
		k := &f.job.Circuits[i]
		for n := range k.Serves.Boxes {
			if b := &k.Serves.Boxes[n]; b.Room == f.room.ID && b.Point != "" {
				each(k, b)
			}
		}
	}
}

// over is how many more boxes stand on runs for a point than it allows; below nothing where some stand on none.
func (f *follower) over(point string) int {
	n := 0
	f.boxes(func(k *install.Circuit, b *install.Box) {
		if b.Point == point && k.State != install.RemovedCircuit {
			n++
		}
	})
	p := f.job.PointOf(&install.Box{Room: f.room.ID, Point: point})
	if p == nil || p.State == install.Removed {
		return n
	}
	return n - p.Count
}

// fresh reports whether an entry of the room was not there before.
func (f *follower) fresh(id string) bool {
	return !slices.ContainsFunc(f.was.Points, func(p install.RoomPoint) bool { return p.ID == id })
}

// repoint gives the boxes of an entry that was parted to its new part: a point that moves is the same box on the same run.
func (f *follower) repoint() {
	for i := range f.room.Points {
		to := &f.room.Points[i]
		for _, old := range f.was.Points {
			if !f.fresh(to.ID) || to.State == install.Removed || old.Kind != to.Kind {
				continue
			}
			for f.over(old.ID) > 0 && f.over(to.ID) < 0 {
				f.last(old.ID, func(k *install.Circuit, b *install.Box) {
					k.Serves.Boxes = slices.Clone(k.Serves.Boxes)
					k.Serves.BoxByID(b.ID).Point = to.ID
				})
			}
		}
	}
}

// last does something to the last box of a point on the runs that stay.
func (f *follower) last(point string, do func(k *install.Circuit, b *install.Box)) {
	var circuit *install.Circuit
	var box *install.Box
	f.boxes(func(k *install.Circuit, b *install.Box) {
		if b.Point == point && k.State != install.RemovedCircuit {
			circuit, box = k, b
		}
	})
	do(circuit, box)
}

// takeOff takes the boxes of what is dropped or taken out off their runs. A circuit that the job would make for them alone goes with them.
func (f *follower) takeOff() {
	terms, placing := f.book.Terms(), survey.Placing(f.book.Survey())
	for _, old := range f.was.Points {
		for range f.over(old.ID) {
			stuck := false
			f.last(old.ID, func(k *install.Circuit, b *install.Box) {
				id, name := k.ID, b.Called()
				if _, err := f.job.Rerun(install.RunChange{Do: install.TakeOff, Circuit: id, Box: b.ID}, terms, placing); err != nil {
					f.open(f.job.Words.Say("%s stays on the run of %s, as something was recorded of it there.", name, k.Name))
					stuck = true
					return
				}
				f.emptied(id)
			})
			if stuck {
				break
			}
		}
	}
}

// emptied takes a circuit that has no point left out of the job, where the job would have made it and nothing was done or read of it.
func (f *follower) emptied(id string) {
	k := f.job.CircuitByID(id)
	if len(k.Serves.Boxes) > 0 {
		return
	}
	part, _ := install.PartNamed("circuits/" + id)
	bound := k.State != install.NewCircuit || part.Stays(f.job) != "" ||
		slices.ContainsFunc(f.job.Circuits, func(o install.Circuit) bool { return o.From == id })
	if bound {
		f.open(f.job.Words.Say("%s has no point left: say on the Circuits sheet whether it is taken out.", k.Name))
		return
	}
	f.job.Circuits = slices.DeleteFunc(f.job.Circuits, func(o install.Circuit) bool { return o.ID == id })
}

func (f *follower) open(says string) {
	if !slices.Contains(f.out.Open, says) {
		f.out.Open = append(f.out.Open, says)
	}
}

// moved takes the marks of measured off the legs of what stands elsewhere than before, and the new height onto its box.
func (f *follower) moved() {
	placing := survey.Placing(f.book.Survey())
	touched := map[string]map[string]bool{}
	f.boxes(func(k *install.Circuit, b *install.Box) {
		p := f.job.PointOf(b)
		if p == nil || slices.ContainsFunc(f.was.Points, func(o install.RoomPoint) bool {
			return o.ID == p.ID && o.State == p.State && o.HeightMM == p.HeightMM && o.Wall == p.Wall
		}) {
			return
		}
		if touched[k.ID] == nil {
			touched[k.ID] = map[string]bool{}
		}
		touched[k.ID][b.ID] = true
	})
	for id, boxes := range touched {
		k := f.job.CircuitByID(id)
		k.Serves.Boxes, k.Route.Segments = slices.Clone(k.Serves.Boxes), slices.Clone(k.Route.Segments)
		if k.State == install.KeptCircuit {
			k.State = install.AlteredCircuit
		}
		near := map[string]bool{}
		for i := range k.Serves.Boxes {
			b := &k.Serves.Boxes[i]
			if boxes[b.ID] {
				b.HeightMM = placing(f.room, f.job.PointOf(b)).Height
				near[""] = near[""] || !k.Legged()
			}
			near[b.ID] = boxes[b.ID] || boxes[b.From]
		}
		near[install.BackLeg] = boxes[k.Serves.Back]
		for i := range k.Route.Segments {
			if s := &k.Route.Segments[i]; near[s.To] && s.Basis == install.Measured {
				s.Basis = install.Assumed
			}
		}
	}
}

// added puts what is new onto runs, and what finds none onto circuits that are proposed for it.
func (f *follower) added() {
	w := f.job.Words
	rest := map[[2]string]bool{}
	for _, u := range survey.UnplacedOf(f.job, f.book.Survey(), false) {
		p := f.job.PointOf(&install.Box{Room: u.Room, Point: u.Point})
		if u.Room != f.room.ID || !f.fresh(u.Point) {
			continue
		}
		kind, row := f.rowOf(f.room, p)
		if p.State == install.New && kind.Own && p.PowerW == 0 && p.CurrentA == 0 {
			f.out.Drawless = append(f.out.Drawless, u.Name)
		}
		switch {
		case u.Circuit != "":
			if !f.host(f.job.CircuitByID(u.Circuit), u, true) {
				f.open(w.Say("%d × %s does not go on %s as it is.", u.Count, u.Name, f.job.CircuitByID(u.Circuit).Name))
			}
		case u.FedFrom != "":
			f.open(w.Say("Not computed: %s is fed from “%s”, which is no circuit of this job.", u.Name, u.FedFrom))
		case p.State != install.New:
			f.open(w.Say("Not recorded: the circuit that %d × %s is fed from.", u.Count, u.Name))
		case row < 0:
			f.open(w.Say("No circuit of the practice is for %s.", u.Name))
		case f.hosted(u, row):
		case f.waits(row, rest, u):
			f.open(w.Say("Not priced: cable and device, as such points of the walk are on no circuit yet. Propose the circuits first."))
		default:
			rest[[2]string{u.Room, u.Point}] = true
		}
	}
	if len(rest) == 0 {
		return
	}
	proposal, job := propose(f.job, f.book, rest)
	f.job = job
	for _, l := range proposal.Left {
		f.open(w.Say("%s: %s", l.Point, l.Why))
	}
}

// waits reports whether other points that go by a row stand on no circuit: then what they get is not decided yet.
func (f *follower) waits(row int, rest map[[2]string]bool, one survey.Unplaced) bool {
	if rulebook.Per(f.plan.Rows[row].Per) == rulebook.PerPoint {
		return false
	}
	for _, u := range survey.UnplacedOf(f.job, f.book.Survey(), false) {
		key := [2]string{u.Room, u.Point}
		p, room := f.job.PointOf(&install.Box{Room: u.Room, Point: u.Point}), f.job.RoomByID(u.Room)
		own := key == [2]string{one.Room, one.Point} || room.ID == f.room.ID && f.fresh(p.ID)
		if _, at := f.rowOf(room, p); at == row && p.State == install.New && !rest[key] && !own {
			return true
		}
	}
	return false
}

// hosted puts points onto a run that passes with them, the one for the least cable: of those that serve such points alone as the plan parts
// them, else of those that serve points of the kind and of the room already, as somebody parted the house another way.
func (f *follower) hosted(u survey.Unplaced, row int) bool {
	r := &f.plan.Rows[row]
	if rulebook.Per(r.Per) == rulebook.PerPoint {
		return false
	}
	point := f.job.PointOf(&install.Box{Room: u.Room, Point: u.Point})
	key, _, _ := f.key(r, f.room, point)
	kind, _ := survey.KindOf(point.Kind)
	alike := func(b install.Box) bool { return b.Point == "" || f.keyOf(&b) == key }
	family := func(b install.Box) bool { return b.Point == "" || f.familyOf(&b) == kind.Family }
	here := func(b install.Box) bool { return b.Room == f.room.ID && b.Point != "" }
	return f.among(u, r, func(k *install.Circuit) bool { return every(k.Serves.Boxes, alike) }) ||
		f.among(u, r, func(k *install.Circuit) bool {
			return every(k.Serves.Boxes, family) && slices.ContainsFunc(k.Serves.Boxes, here)
		})
}

func every(boxes []install.Box, is func(install.Box) bool) bool {
	return !slices.ContainsFunc(boxes, func(b install.Box) bool { return !is(b) })
}

// among puts points onto the first run that passes with them of those that fit, the least cable first.
func (f *follower) among(u survey.Unplaced, r *rulebook.CircuitPlan, fits func(*install.Circuit) bool) bool {
	type spot struct {
		id string
		m  float64
	}
	hosts := []spot{}
	for i := range f.job.Circuits {
		k := &f.job.Circuits[i]
		if k.State == install.KeptCircuit || k.State.Out() || len(k.Serves.Boxes) == 0 || r.Most > 0 && k.Serves.Points()+u.Count > int(r.Most) || !fits(k) {
			continue
		}
		if _, _, m := f.spot(k); m >= 0 {
			hosts = append(hosts, spot{k.ID, m})
		}
	}
	slices.SortStableFunc(hosts, func(a, b spot) int { return cmp.Compare(a.m, b.m) })
	return slices.ContainsFunc(hosts, func(h spot) bool { return f.host(f.job.CircuitByID(h.id), u, false) })
}

func (f *follower) familyOf(b *install.Box) string {
	p := f.job.PointOf(b)
	if p == nil {
		return ""
	}
	kind, _ := survey.KindOf(p.Kind)
	return kind.Family
}

// keyOf is what a box that is a point of the walk shares with those that go with it.
func (f *follower) keyOf(b *install.Box) string {
	p, room := f.job.PointOf(b), f.job.RoomByID(b.Room)
	if p == nil || room == nil {
		return ""
	}
	_, at := f.rowOf(room, p)
	if at < 0 {
		return ""
	}
	key, _, _ := f.key(&f.plan.Rows[at], room, p)
	return key
}

// spot is where on a run a point of the room comes for the least cable, m more of it; negative without a place that is known.
func (f *follower) spot(k *install.Circuit) (after, before string, m float64) {
	s := &k.Serves
	m = -1
	here := &piece{room: f.room}
	at := func(id string) *piece {
		if b := s.BoxByID(id); b != nil && f.job.RoomByID(b.Room) != nil {
			return &piece{room: f.job.RoomByID(b.Room)}
		}
		return nil
	}
	try := func(a, b string, more float64) {
		if m < 0 || more < m {
			after, before, m = a, b, more
		}
	}
	for i := range s.Boxes {
		b := &s.Boxes[i]
		to := at(b.ID)
		if to == nil {
			continue
		}
		if from := at(b.From); from != nil || b.From == "" { // on the way to it
			try(b.From, b.ID, f.ways.legM(from, here)+f.ways.legM(here, to)-f.ways.legM(from, to))
		}
		switch {
		case s.Back == b.ID:
			try(b.ID, install.BackLeg, f.ways.legM(to, here)+f.ways.legM(here, nil)-f.ways.legM(to, nil))
		case !slices.ContainsFunc(s.Boxes, func(o install.Box) bool { return o.From == b.ID }):
			try(b.ID, "", f.ways.legM(to, here))
		}
	}
	return after, before, m
}

// host puts points onto a run, their legs assumed by the ways, and reports whether the circuit passes with them as it did without; by order
// it stays there whatever fails.
func (f *follower) host(k *install.Circuit, u survey.Unplaced, order bool) bool {
	circuits, id := slices.Clone(f.job.Circuits), k.ID
	failed := f.judged(id)
	if k.State == install.KeptCircuit && order {
		k.State = install.AlteredCircuit
	}
	after, before, m := f.spot(k)
	if m < 0 {
		after, before = k.Serves.End()
	}
	had := map[string]bool{}
	for _, b := range k.Serves.Boxes {
		had[b.ID] = true
	}
	terms := f.book.Terms()
	do := func(ch install.RunChange) bool {
		ch.Circuit = id
		if _, err := f.job.Rerun(ch, terms, survey.Placing(f.book.Survey())); err != nil {
			f.job.Circuits = circuits
			return false
		}
		return true
	}
	if !do(install.RunChange{Do: install.PlacePoint, Room: u.Room, Point: u.Point, Count: u.Count, After: after, Before: before}) {
		return false
	}
	f.refit(f.job.CircuitByID(id), had)
	for _, leg := range f.legs(f.job.CircuitByID(id), had, before) {
		if !do(leg) {
			return false
		}
	}
	k = f.job.CircuitByID(id)
	k.Serves.Spread = k.Serves.Spread || len(k.Serves.Boxes) > 1
	k.Serves.Bath = k.Serves.Bath || f.room.Kind == "bathroom"
	if order {
		return true
	}
	for check := range f.judged(id) {
		if !failed[check] {
			f.job.Circuits = circuits
			return false
		}
	}
	return true
}

// refit chooses what stands at the new boxes alone: what was chosen for the others stays.
func (f *follower) refit(k *install.Circuit, had map[string]bool) {
	was := slices.Clone(k.Serves.Boxes)
	f.book.Fit(f.job, k)
	for i := range k.Serves.Boxes {
		if had[k.Serves.Boxes[i].ID] {
			k.Serves.Boxes[i] = was[i]
		}
	}
}

// legs are the lengths of the legs that came with new boxes, as the ways say.
func (f *follower) legs(k *install.Circuit, had map[string]bool, before string) []install.RunChange {
	out := []install.RunChange{}
	at := func(id string) *piece {
		if b := k.Serves.BoxByID(id); b != nil && f.job.RoomByID(b.Room) != nil {
			return &piece{room: f.job.RoomByID(b.Room)}
		}
		return nil
	}
	end := ""
	for _, b := range k.Serves.Boxes {
		if !had[b.ID] {
			out = append(out, install.RunChange{Do: install.SetLeg, Box: b.ID, LengthM: f.ways.legM(at(b.From), at(b.ID)), Basis: install.Assumed})
			end = b.ID
		}
	}
	if before != "" {
		out = append(out, install.RunChange{Do: install.SetLeg, Box: before, LengthM: f.ways.legM(at(end), at(before)), Basis: install.Assumed})
	}
	return out
}

// judged are the checks that a circuit fails.
func (f *follower) judged(id string) map[string]bool {
	out := map[string]bool{}
	k := f.job.CircuitByID(id)
	r := f.book.Judge(f.job)
	for _, c := range r.Circuit(id).Checks {
		if failing(k, &c) {
			out[c.ID+c.Object] = true
		}
	}
	for _, c := range r.Job {
		if c.Verdict == working.Fail && !c.Outside {
			out["job:"+c.ID+c.Object] = true
		}
	}
	return out
}
