package install

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"arvelt/core/words"
)

// RunChange is one thing that is done to the run of a circuit.
type RunChange struct {
	Do      RunStep `json:"do" of:"runSteps"`
	Circuit string  `json:"circuit" chars:"40" needed:"yes"`
	Box     string  `json:"box,omitempty" chars:"40"` // that it is done to; of a leg the one that it leads to, or the way back
	To      string  `json:"to,omitempty" chars:"40"`  // circuit that a box moves to; empty where it stays on its own
	// After is the box behind which something comes, empty at the board; Before that ahead of which, the way back of a ring, or
	// empty at the end of a branch.
	After  string `json:"after,omitempty" chars:"40"`
	Before string `json:"before,omitempty" chars:"40"`
	// Room and Point name points of the walk, of which Count are placed.
	Room    string  `json:"room,omitempty" chars:"40"`
	Point   string  `json:"point,omitempty" chars:"40"`
	Count   int     `json:"count,omitempty" range:"0..60" unit:"points"`
	LengthM float64 `json:"lengthM,omitempty" range:"0..500" unit:"m"` // of a leg
	Basis   Basis   `json:"basis,omitempty"`
	Name    string  `json:"name,omitempty" chars:"80"` // of a joint: where it is
	RatingA float64 `json:"ratingA,omitempty" range:"0..60" unit:"A"`
	// Accessible: a joint can be reached; nil when nobody said.
	Accessible *bool `json:"accessible,omitempty"`
}

// Placing is what a point of the walk becomes on a run.
type Placing struct {
	Name   string // what it is called in a list: “Double socket-outlet”
	Device BoxDevice
	Height float64 // as the walk says, else the usual, mm
	Place  string  // kind of place of its room, as the practice names it; empty where the room does not say
}

// Rerun does one thing to the runs of a job and returns the circuits that it changed, by id. placing says what a point of a room
// becomes. Cable is conserved: a leg that is parted keeps its length, each half assumed, and two that are joined have theirs together;
// a leg that nobody knows stays so. The error is [Errors].
func (j *Job) Rerun(ch RunChange, t Terms, placing func(*Room, *RoomPoint) Placing) ([]string, error) {
	w := words.In(t.Locale)
	c := &checker{in: "run.", w: w}
	c.bounds(ch, &t)
	if err := c.result(); err != nil {
		return nil, err
	}
	k := j.CircuitByID(ch.Circuit)
	if k == nil {
		return nil, Errors{{Field: "run.circuit", Value: ch.Circuit, Accept: w.Say("a circuit of the job")}}
	}
	// What is changed is changed in lists of its own: whoever holds the job as it was holds it unchanged.
	for i := range j.Circuits {
		x := &j.Circuits[i]
		x.Serves.Boxes, x.Route.Segments = slices.Clone(x.Serves.Boxes), slices.Clone(x.Route.Segments)
	}
	r := &rerun{job: j, k: k, ch: ch, t: &t, checker: c, changed: []string{k.ID}}
	r.number(k)
	if len(k.Route.Segments) == 0 {
		return nil, Errors{{Field: "run.circuit", Value: ch.Circuit, Accept: w.Say("a circuit with a route: at least one segment of it")}}
	}
	spare := k.Route.Segments[len(k.Route.Segments)-1]
	spare.To, spare.Basis = "", Assumed
	switch ch.Do {
	case PlacePoint:
		r.place(placing)
	case MoveBox:
		r.move()
	case InsertJoint:
		r.joint()
	case TakeOff:
		if b := r.box(k, ch.Box); b != nil && r.leaves(b) {
			r.takeOff(k, b.ID)
		}
	case SetLeg:
		r.leg()
	case DivideRoute:
		divide(k)
	case SplitRun:
		r.split()
	case BreakRing:
		r.breakRing()
	case CloseRing:
		r.closeRing()
	}
	if err := c.result(); err != nil {
		return nil, err
	}
	// A route has a stretch: where none of what was known is left, the last that there was, assumed.
	for _, id := range r.changed {
		if k := j.CircuitByID(id); len(k.Route.Segments) == 0 {
			k.Route.Segments = append(k.Route.Segments, spare)
		}
	}
	return r.changed, nil
}

type rerun struct {
	*checker
	job     *Job
	k       *Circuit
	ch      RunChange
	t       *Terms
	changed []string
	whole   bool // the route was entered for all that is being put on it
}

// number gives the boxes of a circuit the numbers of their tags.
func (r *rerun) number(k *Circuit) {
	for i := range k.Serves.Boxes {
		if b := &k.Serves.Boxes[i]; b.Tag == 0 {
			b.Tag = r.next()
		}
	}
}

// next is the number of the next tag: above every one that the job has.
func (r *rerun) next() int {
	top := 0
	for i := range r.job.Circuits {
		for n := range r.job.Circuits[i].Serves.Boxes {
			top = max(top, r.job.Circuits[i].Serves.Boxes[n].Tag)
		}
	}
	return top + 1
}

// box is the box of an id, nil and said where the circuit has none.
func (r *rerun) box(k *Circuit, id string) *Box {
	b := k.Serves.BoxByID(id)
	if b == nil {
		names := []string{}
		for i := range k.Serves.Boxes {
			names = append(names, k.Serves.Boxes[i].ID)
		}
		r.say("box", id, r.w.Say("a box of %s: %s", k.Name, strings.Join(names, ", ")))
	}
	return b
}

// leaves reports whether a box may leave its circuit: nothing was read of it there.
func (r *rerun) leaves(b *Box) bool {
	for i := range r.job.Records {
		if x := &r.job.Records[i]; x.Circuit == r.k.ID && strings.HasSuffix(x.Subject, ":"+b.ID) {
			r.say("box", b.Called(), r.w.Say("a box of which nothing was recorded: of this one there is a record by %s", x.By))
			return false
		}
	}
	return true
}

// made reports whether the run may get what it has not yet: the job does not leave the circuit as it is.
func (r *rerun) made(k *Circuit) bool {
	if k.State == KeptCircuit || k.State.Out() {
		r.say("circuit", k.Name, r.w.Say("a circuit that the job makes or alters: this one is left as it is"))
		return false
	}
	return true
}

func (r *rerun) place(placing func(*Room, *RoomPoint) Placing) {
	room := r.job.RoomByID(r.ch.Room)
	p := r.job.PointOf(&Box{Room: r.ch.Room, Point: r.ch.Point})
	if p == nil {
		r.say("point", r.ch.Point, r.w.Say("a point of a room of the walk"))
		return
	}
	free := p.Count - r.job.Placed()[[2]string{room.ID, p.ID}]
	count := r.ch.Count
	if count == 0 {
		count = free
	}
	switch {
	case p.State == Removed && r.k.State != RemovedCircuit:
		r.say("point", p.ID, r.w.Say("a point that stays: the walk says that this one is taken out"))
	case p.State != Removed && r.k.State == RemovedCircuit:
		r.say("point", p.ID, r.w.Say("a point that is taken out, as %s is", r.k.Name))
	case count > free || free == 0:
		r.say("count", count, r.w.Say("at most %d: the others stand on a run", free))
	case p.State != Kept && p.State != Removed && !r.made(r.k):
	default:
		what := placing(room, p)
		if what.Device == FusedUnit && r.t.BoxDevices != nil && !slices.Contains(r.t.BoxDevices, string(FusedUnit)) {
			what.Device = WiredIn // where there is no such thing the appliance is wired in
		}
		if what.Device == "" {
			r.say("point", what.Name, r.w.Say("a point of the mains: this one is extra-low voltage, or not understood"))
			return
		}
		at := spot{r.ch.After, r.ch.Before}
		if !r.spot(r.k, at) {
			return
		}
		r.whole = len(r.k.Serves.Boxes) == 0
		for range count {
			b := Box{Name: room.Name + ", " + what.Name, Place: what.Place, Room: room.ID, Point: p.ID, Device: what.Device, HeightMM: what.Height}
			if b.Device.Outlet() {
				b.RatingA = min(r.k.Protection.RatingA, ratingOfOutlets)
			}
			at.after = r.put(r.k, at, b)
			if r.whole && r.k.Serves.Back == at.after {
				at.before = BackLeg
			}
		}
	}
}

// ratingOfOutlets is the rating in A at most of an outlet that is put on a run before somebody says another.
const ratingOfOutlets = 20

// spot is a place on a run: behind a box, or at the board, and ahead of one, on the way back, or at the end of a branch.
type spot struct{ after, before string }

// spot reports whether there is such a place.
func (r *rerun) spot(k *Circuit, at spot) bool {
	s := &k.Serves
	if at.after != "" && s.BoxByID(at.after) == nil {
		r.say("after", at.after, r.w.Say("a box of %s, or nothing for the board", k.Name))
		return false
	}
	ok := at.before == "" || at.before == BackLeg && s.Back != "" && s.Back == at.after
	if b := s.BoxByID(at.before); b != nil {
		ok = b.From == at.after
	}
	if !ok {
		r.say("before", at.before, r.w.Say("what the box before it feeds, or nothing for the end"))
	}
	return ok
}

// put puts a box into a run and returns its id.
func (r *rerun) put(k *Circuit, at spot, b Box) string {
	s := &k.Serves
	if b.Tag == 0 {
		b.Tag = r.next()
	}
	if b.ID == "" || s.BoxByID(b.ID) != nil {
		b.ID = "p" + strconv.Itoa(b.Tag)
	}
	for n := 2; s.BoxByID(b.ID) != nil; n++ {
		b.ID = fmt.Sprintf("p%d-%d", b.Tag, n)
	}
	b.From, b.Side = at.after, ""
	if from := s.BoxByID(at.after); from == nil || from.Device != GroundFault {
		b.Side = LineSide
	}
	legged := k.Legged() && !r.whole
	switch {
	case at.before == BackLeg:
		s.Boxes, s.Back = append(s.Boxes, b), b.ID
	case at.before != "":
		i := slices.IndexFunc(s.Boxes, func(x Box) bool { return x.ID == at.before })
		s.Boxes[i].From, s.Boxes[i].Side = b.ID, LineSide
		if b.Device == GroundFault {
			s.Boxes[i].Side = ""
		}
		s.Boxes = slices.Insert(s.Boxes, i, b)
	default:
		s.Boxes = append(s.Boxes, b)
		if r.t.IsRing(k) && len(s.Boxes) == 1 {
			s.Back = b.ID // a ring of one box already comes back; its legs are not yet known
		}
	}
	if legged && at.before != "" {
		part(k, at.before, b.ID)
	} else if legged && len(s.Boxes) == 2 && s.Back == "" {
		name(k) // the route led to the one box
	}
	return b.ID
}

// first is the box that the stretches lead to which name none.
func first(k *Circuit) string {
	if len(k.Serves.Boxes) == 0 {
		return ""
	}
	return k.Serves.Boxes[0].ID
}

// name writes on every stretch which box it leads to.
func name(k *Circuit) {
	for i := range k.Route.Segments {
		if s := &k.Route.Segments[i]; s.To == "" {
			s.To = first(k)
		}
	}
}

// part parts the leg to a box, or the way back, in two halves that are assumed: the first leads to a box that was put into it.
func part(k *Circuit, leg, to string) {
	segments := []Segment{}
	for _, s := range k.Route.Segments {
		if s.To != leg && (s.To != "" || first(k) != to && first(k) != leg) {
			segments = append(segments, s)
			continue
		}
		a, b := s, s
		a.To, b.To = to, leg
		a.LengthM, b.LengthM = halves(s.LengthM)
		a.Basis, b.Basis = Assumed, Assumed
		if b.LengthM > 0 {
			segments = append(segments, a)
		} else {
			b.LengthM = a.LengthM // too short to be parted
		}
		segments = append(segments, b)
	}
	k.Route.Segments = segments
}

// leastSegmentM is the shortest stretch that a route may have, m.
const leastSegmentM = 0.1

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

func halves(m float64) (a, b float64) {
	if m < 2*leastSegmentM {
		return m, 0
	}
	return m / 2, m - m/2
}

func (r *rerun) joint() {
	at := spot{r.ch.After, r.ch.Before}
	if !r.spot(r.k, at) || !r.made(r.k) {
		return
	}
	if at.before == "" {
		r.say("before", at.before, r.w.Say("the box ahead of which the cable is joined: a joint at the end of a run feeds nothing"))
		return
	}
	name := r.ch.Name
	if name == "" {
		name = r.w.Say("joint")
	}
	r.put(r.k, at, Box{Name: name, Device: NoDevice, RatingA: r.ch.RatingA, Accessible: r.ch.Accessible})
}

// takeOff takes a box off a run and returns it. What it fed hangs on what fed it, by the cable that it had.
func (r *rerun) takeOff(k *Circuit, id string) Box {
	s := &k.Serves
	if k.Legged() {
		name(k)
	}
	main := s.Main()
	i := slices.IndexFunc(s.Boxes, func(x Box) bool { return x.ID == id })
	gone := s.Boxes[i]
	s.Boxes = slices.Delete(s.Boxes, i, i+1)
	heirs := []string{}
	for n := range s.Boxes {
		if b := &s.Boxes[n]; b.From == id {
			b.From, b.Side = gone.From, gone.Side
			heirs = append(heirs, b.ID)
		}
	}
	// Of a ring the cable goes on along it, not into a spur.
	slices.SortStableFunc(heirs, func(a, b string) int { return b2i(slices.Contains(main, b)) - b2i(slices.Contains(main, a)) })
	if s.Back == id {
		s.Back = gone.From
		if gone.From == "" && len(heirs) > 0 {
			s.Back = heirs[0]
		}
		if s.Back != "" {
			heirs = slices.Insert(heirs, 0, BackLeg)
		}
	}
	// The cable that came to it goes on to the first of what it fed.
	segments := []Segment{}
	for _, x := range k.Route.Segments {
		if x.To == id {
			if len(heirs) == 0 {
				continue
			}
			x.To = heirs[0]
		}
		if x.To == BackLeg && s.Back == "" {
			x.To = first(k)
		}
		segments = append(segments, x)
	}
	k.Route.Segments = segments
	unname(k)
	return gone
}

// unname takes the names off the stretches of a run that has one box or none.
func unname(k *Circuit) {
	if len(k.Serves.Boxes) > 1 || k.Serves.Back != "" {
		return
	}
	for i := range k.Route.Segments {
		k.Route.Segments[i].To = ""
	}
}

func (r *rerun) move() {
	b := r.box(r.k, r.ch.Box)
	if b == nil {
		return
	}
	to := r.k
	if r.ch.To != "" && r.ch.To != r.k.ID {
		if to = r.job.CircuitByID(r.ch.To); to == nil {
			r.say("to", r.ch.To, r.w.Say("a circuit of the job"))
			return
		}
		if p := r.job.PointOf(b); !r.leaves(b) || (p == nil || p.State != Kept) && !r.made(to) {
			return
		}
		r.number(to)
		r.changed = append(r.changed, to.ID)
	}
	at := spot{r.ch.After, r.ch.Before}
	if at.after == b.ID || at.before == b.ID {
		r.say("after", at.after, r.w.Say("another box than the one that moves"))
		return
	}
	if x := r.k.Serves.BoxByID(at.before); to == r.k && x != nil && x.From == b.ID && at.after == b.From {
		return // where it is
	}
	gone := r.takeOff(r.k, b.ID)
	if r.spot(to, at) {
		gone.Feed = ""
		r.put(to, at, gone)
	}
}

// leg says how long a leg is. On a run whose legs are not yet told apart the route is divided first.
func (r *rerun) leg() {
	if r.ch.LengthM < leastSegmentM {
		r.say("lengthM", r.ch.LengthM, r.w.Say("%s m or more", fmt.Sprint(leastSegmentM)))
		return
	}
	if r.ch.Box != BackLeg && r.box(r.k, r.ch.Box) == nil {
		return
	}
	if r.ch.Box == BackLeg && r.k.Serves.Back == "" {
		r.say("box", r.ch.Box, r.w.Say("a box: only a ring has a way back"))
		return
	}
	if !r.k.Legged() {
		divide(r.k)
	}
	name(r.k)
	r.resize()
	unname(r.k)
}

// resize gives the stretches of the leg the length that was said, each its share of it; one stretch where a share would be shorter than
// a stretch may be.
func (r *rerun) resize() {
	basis := r.ch.Basis
	if basis == "" {
		basis = Measured
	}
	was, least := 0.0, math.Inf(1)
	for _, s := range r.k.Route.Segments {
		if s.To == r.ch.Box {
			was, least = was+s.LengthM, min(least, s.LengthM)
		}
	}
	if was == 0 {
		r.k.Route.Segments = append(r.k.Route.Segments, r.laidAsBefore(r.ch.Box, r.ch.LengthM, basis))
		return
	}
	one, kept := r.ch.LengthM*least/was < leastSegmentM, false
	out := []Segment{}
	for _, s := range r.k.Route.Segments {
		if s.To == r.ch.Box {
			if one && kept {
				continue // the first of them is the leg
			}
			s.LengthM, s.Basis, kept = r.ch.LengthM*s.LengthM/was, basis, true
			if one {
				s.LengthM = r.ch.LengthM
			}
		}
		out = append(out, s)
	}
	r.k.Route.Segments = out
}

// laidAsBefore is a stretch to a box that is laid as the one that comes to what feeds it, else as the last of the route.
func (r *rerun) laidAsBefore(to string, m float64, basis Basis) Segment {
	segments := r.k.Route.Segments
	s := segments[len(segments)-1] // a route has one
	from := r.k.Serves.Back
	if b := r.k.Serves.BoxByID(to); b != nil {
		from = b.From
	}
	for i := range segments {
		if segments[i].To == from && from != "" {
			s = segments[i]
		}
	}
	s.To, s.LengthM, s.Basis = to, m, basis
	if b := r.k.Serves.BoxByID(to); b != nil {
		s.Place = r.w.Say("to %s", b.Called())
	} else {
		s.Place = r.w.Say("back to the board")
	}
	return s
}

// divide divides the route over the legs of the run, each as long as the others and assumed, in the order in which the stretches lie.
func divide(k *Circuit) {
	legs := k.Legs()
	total := 0.0
	for i := range k.Route.Segments {
		total += k.Route.Segments[i].LengthM
	}
	n := len(legs)
	if n < 2 || total/float64(n) < leastSegmentM {
		return
	}
	share := total / float64(n)
	out, at, room := []Segment{}, 0, share
	for _, s := range k.Route.Segments {
		for s.LengthM > 1e-9 {
			piece := s
			piece.LengthM = min(s.LengthM, room)
			if at == n-1 {
				piece.LengthM = s.LengthM
			}
			if len(out) > 0 && piece.LengthM < leastSegmentM { // a crumb goes with the stretch before it
				out[len(out)-1].LengthM += piece.LengthM
			} else {
				piece.To, piece.Basis = legs[at].To, Assumed
				out = append(out, piece)
			}
			s.LengthM -= piece.LengthM
			if room -= piece.LengthM; room <= 1e-9 && at < n-1 {
				at, room = at+1, share
			}
		}
	}
	k.Route.Segments = out
}
