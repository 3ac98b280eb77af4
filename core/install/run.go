package install

import (
	"fmt"
	"slices"

	"arvelt/core/words"
)

// BackLeg is where the stretches of a ring lead that come back to the board. No box has it as its id.
const BackLeg = "board"

// RunLeg is the cable that comes to one box of a run, or back to the board.
type RunLeg struct {
	From, To string  // boxes by id; From is empty at the board, To is [BackLeg] on the way back
	LengthM  float64 // of its stretches; nothing where Known is not set
	TailsM   float64 // slack and tails, which the first leg of a run carries
	Known    bool
	Measured bool // every stretch of it was
}

// Legs are the legs of the run in the order of its boxes, the way back last. Of a run of several boxes whose route does not yet say
// which stretch leads where no leg is known.
func (k *Circuit) Legs() []RunLeg {
	boxes := k.Serves.Boxes
	legs := make([]RunLeg, 0, len(boxes)+1)
	for i := range boxes {
		legs = append(legs, RunLeg{From: boxes[i].From, To: boxes[i].ID})
	}
	if k.Serves.Back != "" {
		legs = append(legs, RunLeg{From: k.Serves.Back, To: BackLeg})
	}
	if len(boxes) == 0 {
		return legs
	}
	legs[0].TailsM = k.Route.SlackM + k.Route.BoardTailM + k.Route.PointTailM
	if !k.Legged() {
		return legs
	}
	for i := range k.Route.Segments {
		s := &k.Route.Segments[i]
		at := 0
		if s.To != "" {
			at = slices.IndexFunc(legs, func(l RunLeg) bool { return l.To == s.To })
		}
		if at < 0 {
			continue // refused by Validate
		}
		l := &legs[at]
		l.Measured = (l.Measured || !l.Known) && s.Basis == Measured
		l.LengthM, l.Known = l.LengthM+s.LengthM, true
	}
	return legs
}

// Legged reports whether the route says which stretch leads to which box; of one box it does by itself.
func (k *Circuit) Legged() bool {
	n := len(k.Serves.Boxes)
	return n == 1 && k.Serves.Back == "" || n > 0 && slices.ContainsFunc(k.Route.Segments, func(s Segment) bool { return s.To != "" })
}

// End is the place at the end of a run: on the way back of a ring, else behind its last box, for [RunChange.After] and Before.
func (s *Serves) End() (after, before string) {
	switch n := len(s.Boxes); {
	case s.Back != "":
		return s.Back, BackLeg
	case n > 0:
		return s.Boxes[n-1].ID, ""
	}
	return "", ""
}

// Behind are the ids of a box and of all that hangs behind it.
func (s *Serves) Behind(id string) []string {
	out := []string{id}
	for i := range s.Boxes { // each stands behind the one that feeds it
		if slices.Contains(out, s.Boxes[i].From) {
			out = append(out, s.Boxes[i].ID)
		}
	}
	return out
}

// Cut are the boxes that hang on the cable to a box alone: all behind it, or of a box of a ring what branches off there.
func (s *Serves) Cut(id string) []string {
	main := s.Main()
	out := []string{}
	for _, x := range s.Behind(id)[1:] {
		if !slices.Contains(main, id) || s.branchOf(x, main) == id {
			out = append(out, x)
		}
	}
	return out
}

// branchOf is the box of a ring that another branches off at, itself where it is one.
func (s *Serves) branchOf(id string, main []string) string {
	for b := s.BoxByID(id); b != nil; b = s.BoxByID(b.From) {
		if slices.Contains(main, b.ID) {
			if b.ID == id {
				return "" // on the ring, not off it
			}
			return b.ID
		}
	}
	return ""
}

// Main are the ids of the boxes of a ring between its way out and its way back, in order; nothing of a run that does not come back.
func (s *Serves) Main() (out []string) {
	for b := s.BoxByID(s.Back); b != nil && len(out) <= len(s.Boxes); b = s.BoxByID(b.From) {
		out = append(out, b.ID)
	}
	slices.Reverse(out)
	return out
}

// Points is how many socket-outlets, luminaires, alarms and what is wired in are on the circuit: counted on its run, else as entered.
func (s *Serves) Points() int {
	if len(s.Boxes) == 0 {
		return s.Outlets
	}
	n := 0
	for i := range s.Boxes {
		if s.Boxes[i].Device.Draws() {
			n++
		}
	}
	return n
}

// Branches are the spurs of a ring: those of its run, else as entered.
func (k *Circuit) Branches() []Spur {
	s := &k.Serves
	main := s.Main()
	if len(main) == 0 {
		return s.Spurs
	}
	legs := k.Legs()
	out := []Spur{}
	for i := range s.Boxes {
		b := &s.Boxes[i]
		if slices.Contains(main, b.ID) || b.From != "" && !slices.Contains(main, b.From) {
			continue
		}
		spur := Spur{Place: b.Name, Fused: b.Device == FusedUnit}
		for _, id := range s.Behind(b.ID) {
			at := slices.IndexFunc(legs, func(l RunLeg) bool { return l.To == id })
			spur.LengthM += legs[at].LengthM
			if d := s.BoxByID(id).Device; d.Draws() && (d != FusedUnit || id != b.ID) {
				spur.Outlets++
			}
		}
		out = append(out, spur)
	}
	return out
}

// Label is what the tags of a box's cables bear, empty where it was given no number.
func (b *Box) Label() string {
	if b.Tag == 0 {
		return ""
	}
	return fmt.Sprintf("P%03d", b.Tag)
}

// Called is a box in words: its tag and where it is.
func (b *Box) Called() string {
	if b.Tag == 0 {
		return b.Name
	}
	return b.Label() + " " + b.Name
}

// run holds a run to being one: every box once and behind the one that feeds it, every stretch on the way to one of them, and a ring
// that comes back.
func (c *checker) run(k *Circuit, t *Terms) {
	seen := map[string]bool{}
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		f := c.item("serves.boxes", i)
		if b.From != "" && !seen[b.From] {
			c.say(f+"from", b.From, c.w.Say("a box before it, or nothing for the board"))
		}
		if t.BoxDevices != nil {
			c.oneOf(f+"device", string(b.Device), t.BoxDevices)
		}
		if seen[b.ID] || b.ID == BackLeg {
			c.say(f+"id", b.ID, c.w.Say("each box's id once"))
		}
		if b.Point != "" && b.Room == "" {
			c.say(f+"room", b.Room, c.w.Say("the room of the walk that the point is in"))
		}
		seen[b.ID] = true
	}
	back := k.Serves.Back
	switch {
	case back != "" && !seen[back]:
		c.say("serves.back", back, c.w.Say("a box of the run, from which it returns to the board"))
	case back != "" && !t.IsRing(k):
		c.say("serves.back", back, c.w.Say("nothing: only a ring returns to the board"))
	case back == "" && t.IsRing(k) && len(k.Serves.Boxes) > 0:
		c.say("serves.back", back, c.w.Say("the box from which the ring returns to the board"))
	}
	for i := range k.Route.Segments {
		if to := k.Route.Segments[i].To; to != "" && !seen[to] && (to != BackLeg || back == "") {
			c.say(c.item("route.segments", i)+"to", to, c.w.Say("a box of the run that it leads to"))
		}
	}
}

// Agrees holds the circuits of a job to each other and to the walk, the parts alone that about names; all of them when it is nil. The
// error is [Errors].
func (j *Job) Agrees(t Terms, about func(part string) bool) error {
	c := &checker{w: words.In(t.Locale)}
	say := func(k *Circuit, field string, value any, accept string) {
		if part := "circuits/" + k.ID; about == nil || about(part) {
			c.in = part + "."
			c.say(field, value, accept)
		}
	}
	// Of two that do not go together the one is told that is looked at; of a file the later one.
	clash := func(k, other *Circuit, field string, value any, accept func(other string) string) {
		say(k, field, value, accept(other.Name))
		if about != nil && k != other {
			say(other, field, value, accept(k.Name))
		}
	}
	tags := map[int]*Circuit{}
	placed := map[[2]string][]*Circuit{}
	for i := range j.Circuits {
		k := &j.Circuits[i]
		j.fedBy(k, say, c.w)
		for n := range k.Serves.Boxes {
			b := &k.Serves.Boxes[n]
			f := c.item("serves.boxes", n)
			if b.Tag != 0 {
				if other := tags[b.Tag]; other != nil {
					clash(k, other, f+"tag", b.Label(), func(name string) string { return c.w.Say("a number that no other point has: %s has it", name) })
				}
				tags[b.Tag] = k
			}
			j.pointOf(k, b, f, placed, say, c.w)
		}
	}
	told := func(part, field string, value any, accept string) {
		if about == nil || about(part) {
			c.in = part + "."
			c.say(field, value, accept)
		}
	}
	j.slots(&t, clash, c.w)
	j.boards(&t, told, c.w)
	j.leaves(say, told, c.w)
	j.once(&t, told, c.w)
	return c.result()
}

type sayOf func(k *Circuit, field string, value any, accept string)

// fedBy holds what feeds a circuit to being another, which it does not feed itself.
func (j *Job) fedBy(k *Circuit, say sayOf, w *words.Catalogue) {
	seen := map[string]bool{}
	for at := k; at != nil && at.From != ""; at = j.CircuitByID(at.From) {
		if seen[at.ID] || at.From == k.ID {
			say(k, "from", k.From, w.Say("a circuit that it does not feed itself"))
			return
		}
		seen[at.ID] = true
	}
	if b := j.BoardByID(k.From); k.From != "" && j.CircuitByID(k.From) == nil && (b == nil || b.Feed != "") {
		say(k, "from", k.From, w.Say("a distribution circuit of the job, a board that the supply arrangement feeds, or empty for the main board"))
	}
}

// pointOf holds a box to the points of the walk: no more of them stand on runs than there are, and none that is taken out.
func (j *Job) pointOf(k *Circuit, b *Box, field string, placed map[[2]string][]*Circuit, say sayOf, w *words.Catalogue) {
	if b.Point == "" {
		return
	}
	p := j.PointOf(b)
	if p == nil {
		return // said with the run: the walk may change without it
	}
	key := [2]string{b.Room, b.Point}
	if !strays(k, p) {
		placed[key] = append(placed[key], k)
	}
	if len(placed[key]) > p.Count {
		for _, x := range slices.Compact(slices.Clone(placed[key])) {
			say(x, field+"point", b.Called(), w.Say("a point that stands on no other run: of these the walk has %d", p.Count))
		}
	}
	switch {
	case strays(k, p):
		say(k, field+"point", b.Called(), w.Say("a point that is taken out with the circuit: move this one to a circuit that stays first"))
	case k.State == RemovedCircuit: // goes with it
	case p.State == Removed:
		say(k, field+"point", b.Called(), w.Say("a point that stays: the walk says that this one is taken out"))
	case (k.State == KeptCircuit || k.State == DormantCircuit) && (p.State == New || p.State == Moved):
		say(k, field+"point", b.Called(), w.Say("a point that is there: %s is left as it is, and the walk says that this one is new", k.Name))
	}
}

// PointOf is the entry of the walk that a box is one of, nil where there is none.
func (j *Job) PointOf(b *Box) *RoomPoint {
	r := j.RoomByID(b.Room)
	if r == nil || b.Point == "" {
		return nil
	}
	if i := slices.IndexFunc(r.Points, func(p RoomPoint) bool { return p.ID == b.Point }); i >= 0 {
		return &r.Points[i]
	}
	return nil
}

// Extensions are the legs by which an existing circuit is extended: those to new and moved points of the walk on its run.
func (j *Job) Extensions(k *Circuit) (out []RunLeg) {
	if k.State != AlteredCircuit {
		return nil
	}
	legs := k.Legs()
	for i := range k.Serves.Boxes {
		if p := j.PointOf(&k.Serves.Boxes[i]); p != nil && (p.State == New || p.State == Moved) {
			out = append(out, legs[i])
		}
	}
	return out
}

// PointSteps are the steps of the plan in which the points of a new circuit are fitted, by id: those of the rooms of the walk where every one
// of them is a point that the job fits there, else one of its own.
func (j *Job) PointSteps(k *Circuit) []string {
	out := []string{}
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if b.Device == NoDevice {
			continue
		}
		if p := j.PointOf(b); p == nil || p.State == Kept || p.Kind == "" {
			return []string{k.ID + "-point"}
		}
		if step := b.Room + "-fit"; !slices.Contains(out, step) {
			out = append(out, step)
		}
	}
	if len(out) == 0 {
		return []string{k.ID + "-point"}
	}
	return out
}

// strays reports whether a point stays though it stands on the run of a circuit that is taken out: it needs another.
func strays(k *Circuit, p *RoomPoint) bool {
	return k.State == RemovedCircuit && p != nil && p.State != Removed
}

// Placed counts by room and point how many of the points of the walk stand on runs, those left out that stay and whose circuit does not.
func (j *Job) Placed() map[[2]string]int {
	out := map[[2]string]int{}
	for i := range j.Circuits {
		k := &j.Circuits[i]
		for n := range k.Serves.Boxes {
			if b := &k.Serves.Boxes[n]; b.Point != "" && (k.State != RemovedCircuit || !strays(k, j.PointOf(b))) {
				out[[2]string{b.Room, b.Point}]++
			}
		}
	}
	return out
}

// CablesAt counts the cables that enter a box: as somebody entered it, else the one that feeds it, those to the boxes that it feeds, and
// that by which a ring goes back from it.
func (s *Serves) CablesAt(b *Box) int {
	if b.Cables > 0 {
		return b.Cables
	}
	n := 1
	if s.Back != "" && s.Back == b.ID {
		n++
	}
	for i := range s.Boxes {
		if s.Boxes[i].From == b.ID {
			n++
		}
	}
	return n
}
