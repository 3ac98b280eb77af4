package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
)

// pointsOf is what a step of a room sums up of the work on its points.
type pointsOf string

const (
	boxing      pointsOf = "boxing"  // they are marked, boxed and cabled: each for itself, or all at once by its tick
	closingStep pointsOf = "closing" // they bear their tags before a wall is closed over them
	fitting     pointsOf = "fitting" // they are connected, and every conductor was tugged before that is said of the room
)

// summed are the pieces of work that the tick of a step says of every point at once.
var summed = map[pointsOf][]install.PointStep{boxing: {install.PointMarked, install.PointBoxed, install.PointCabled},
	fitting: {install.PointFitted, install.PointPlated}}

// asked are the pieces without which a step is not ticked.
var asked = map[pointsOf]install.PointStep{closingStep: install.PointTagged, fitting: install.PointTugged}

// RoomWork is how far the points of a room are, each for itself.
type RoomWork struct {
	Room   string      `json:"room"`
	Points []PointWork `json:"points"`
	// First and Second say why nothing of that fix can be recorded now; empty where it can.
	First  string `json:"first"`
	Second string `json:"second"`
}

// PointWork is how far alike points are.
type PointWork struct {
	Point  string              `json:"point"`
	Says   string              `json:"says"` // how many of what, and where
	Tags   []string            `json:"tags"`
	Done   []install.PointStep `json:"done"`
	Steps  []install.PointStep `json:"steps"` // that it may have
	Care   string              `json:"care"`
	Failed string              `json:"failed"` // what came out as it was pulled at, and was not made good
	// Wires are what comes to which terminal, once its cable is in and until it is connected.
	Wires []Wires `json:"wires"`
}

// Wires are what comes to the terminals of points that are connected alike.
type Wires struct {
	Tags []string `json:"tags"`
	Says []string `json:"says"`
}

// progress is the newest record of each piece of work by room and point, and the newest tick of each step.
type progress struct {
	said  map[[2]string]map[install.PointStep]*install.Record
	ticks map[string]*install.Record
}

func progressOf(job *install.Job) progress {
	p := progress{map[[2]string]map[install.PointStep]*install.Record{}, map[string]*install.Record{}}
	for i := range job.Records {
		r := &job.Records[i]
		switch r.Kind {
		case install.Tick:
			p.ticks[r.Subject] = r
		case install.PointWork:
			steps := r.Steps
			if r.Passed != nil && !*r.Passed { // what came out is connected anew, and its plate is off
				steps = []install.PointStep{install.PointFitted, install.PointTugged, install.PointPlated}
			}
			for _, id := range r.Points {
				key := [2]string{r.Room, id}
				if p.said[key] == nil {
					p.said[key] = map[install.PointStep]*install.Record{}
				}
				for _, s := range steps {
					p.said[key][s] = r
				}
			}
		}
	}
	return p
}

// done reports whether a piece of work on a point is done: as was last said of it, or of all of its room.
func (p progress) done(room, point string, s install.PointStep) bool {
	said := p.said[[2]string{room, point}][s]
	for of, steps := range summed {
		if !slices.Contains(steps, s) {
			continue
		}
		step := room + "-boxes"
		if of == fitting {
			step = room + "-fit"
		}
		if tick := p.ticks[step]; tick != nil && tick.Done && (said == nil || tick.Moment().After(said.Moment())) {
			return true
		}
	}
	return said != nil && said.Done
}

// open are the points of a room that the job works on and of which a piece of work is not done.
func (p progress) open(job *install.Job, room string, steps ...install.PointStep) (out []*install.RoomPoint) {
	r := job.RoomByID(room)
	if r == nil {
		return nil
	}
	for i := range r.Points {
		pt := &r.Points[i]
		if pt.Worked() && slices.ContainsFunc(steps, func(s install.PointStep) bool { return !p.done(room, pt.ID, s) }) {
			out = append(out, pt)
		}
	}
	return out
}

// sums takes a step for done where every point of its room is, and opens one again of whose points a conductor came out.
func (p progress) sums(job *install.Job, t *Task) {
	steps := summed[t.points]
	if len(steps) == 0 {
		return
	}
	if t.Done {
		for key, said := range p.said {
			r := said[install.PointFitted]
			if t.points == fitting && key[0] == t.Room && r != nil && r.Passed != nil && !*r.Passed && r.Moment().After(t.touched) {
				t.Done, t.DoneBy, t.DoneAt, t.Note = false, "", nil, ""
				t.Again = job.Words.Say("A conductor came out as it was pulled at, on %s: make it good and tug every one again.", r.At.Format(time.DateOnly))
				return
			}
		}
		if open := p.open(job, t.Room, steps...); len(open) > 0 { // the tick said it of every point
			t.Done, t.DoneBy, t.DoneAt, t.Note = false, "", nil, ""
			t.Again = job.Words.Say("It was said since then that not all of it is done: %d points.", pieces(open))
		}
		return
	}
	// What nobody said of a point for itself is no step that was done so.
	if t.more || t.points != boxing || t.Again != "" || len(p.open(job, t.Room, steps...)) > 0 {
		return
	}
	var last *install.Record
	for key, said := range p.said {
		for _, s := range steps {
			if r := said[s]; key[0] == t.Room && r != nil && (last == nil || r.Moment().After(last.Moment())) {
				last = r
			}
		}
	}
	if last != nil && last.Moment().After(t.touched) {
		t.Done, t.DoneBy, t.DoneAt = true, last.By, &last.At
	}
}

// handled says when conductors were last handled in a step: as it was ticked, or as its points were connected, where that was said of each of them
// before; and whether only recessed luminaires hang, to be lit before they are pushed up.
func (p progress) handled(job *install.Job, t *Task) {
	t.worked = t.touched
	if t.points != fitting {
		return
	}
	var last install.Moment
	for key, said := range p.said {
		if r := said[install.PointFitted]; key[0] == t.Room && r != nil && r.Moment().After(last) {
			last = r.Moment()
		}
	}
	if apart := p.connected(t.Room, job.RoomByID(t.Room), t.touched); apart || last.After(t.worked) {
		t.worked = last
	}
	hanging := p.open(job, t.Room, install.PointPlated)
	t.hangs = !t.Done && rulebook.Hanging.In(&job.Schools) == rulebook.HangingLit && len(hanging) > 0 &&
		len(p.open(job, t.Room, install.PointFitted, install.PointTugged)) == 0 &&
		!slices.ContainsFunc(hanging, func(pt *install.RoomPoint) bool { return !survey.Recessed(pt.Kind) })
}

// connected reports whether it was said of each point of a room for itself, before the step was ticked, that it is connected.
func (p progress) connected(id string, r *install.Room, ticked install.Moment) bool {
	n := 0
	for i := range r.Points {
		pt := &r.Points[i]
		if !pt.Worked() {
			continue
		}
		said := p.said[[2]string{id, pt.ID}][install.PointFitted]
		if said == nil || !said.Done || said.Moment().After(ticked) {
			return false
		}
		n++
	}
	return n > 0
}

// lacks says what a step waits for of the points of its room.
func (p progress) lacks(job *install.Job, t *Task) string {
	step, ok := asked[t.points]
	if !ok {
		return ""
	}
	open := p.open(job, t.Room, step)
	if len(open) == 0 {
		return ""
	}
	n := pieces(open)
	if step == install.PointTagged {
		return job.Words.Say("Not tagged at both ends: %d points.", n)
	}
	return job.Words.Say("Not every conductor tugged: %d points.", n)
}

// pieces counts points.
func pieces(of []*install.RoomPoint) (n int) {
	for _, pt := range of {
		n += pt.Count
	}
	return n
}

// coverLast lets a wall be closed only after the cables of the circuits that have points there are in.
func coverLast(job *install.Job, tasks []Task) {
	there := map[string]bool{}
	for i := range tasks {
		there[tasks[i].ID] = true
	}
	for i := range tasks {
		if t := &tasks[i]; t.points == closingStep {
			for _, k := range circuitsIn(job, t.Room) {
				if cable := k + "-cable"; there[cable] {
					t.After = append(t.After, cable)
				}
			}
		}
	}
}

// Rooms are how far the points of each room are that the job works on.
func Rooms(job *install.Job, book rulebook.Book, tasks []Task) []RoomWork {
	p := book.Survey()
	out, worked, tags, at := []RoomWork{}, progressOf(job), map[[2]string][]string{}, map[[2]string][]placed{}
	for i := range job.Circuits {
		for n := range job.Circuits[i].Serves.Boxes {
			if b := &job.Circuits[i].Serves.Boxes[n]; b.Point != "" {
				key := [2]string{b.Room, b.Point}
				at[key] = append(at[key], placed{&job.Circuits[i], b})
				if b.Tag > 0 {
					tags[key] = append(tags[key], b.Label())
				}
			}
		}
	}
	held, placing := map[string]string{}, survey.Placing(p)
	for i := range tasks {
		if t := &tasks[i]; t.points != "" {
			held[t.ID] = t.HeldApart()
		}
	}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		if job.Trait().Report {
			break
		}
		room := RoomWork{Room: r.ID, Points: []PointWork{}, First: held[r.ID+"-boxes"], Second: held[r.ID+"-fit"]}
		for n := range r.Points {
			pt := &r.Points[n]
			if !pt.Worked() {
				continue
			}
			key := [2]string{r.ID, pt.ID}
			w := PointWork{Point: pt.ID, Says: pointSays(job, p, r, pt, placing), Tags: append([]string{}, tags[key]...), Done: []install.PointStep{},
				Wires: []Wires{}, Steps: stepsOf(job, pt, worked.closed(r))}
			if survey.Recessed(pt.Kind) {
				w.Care = job.Words.Say("Its springs close on fingers: hold both back. It is pushed up only isolated, and proved dead after it was lit.")
			}
			for _, s := range install.PointSteps {
				if worked.done(r.ID, pt.ID, s) {
					w.Done = append(w.Done, s)
				}
			}
			if built := survey.BuiltInSays(job.Words, pt, p); len(built) > 0 {
				w.Care = strings.TrimSpace(w.Care + " " + job.Words.Say("Before it is pushed in: %s.", strings.Join(built, "; ")))
			}
			if slices.Contains(w.Done, install.PointCabled) && !slices.Contains(w.Done, install.PointFitted) {
				w.Wires = wiresOf(job, book, at[key])
			}
			if f := worked.said[key][install.PointFitted]; f != nil && f.Passed != nil && !*f.Passed {
				w.Failed = f.At.Format(time.DateOnly)
				if f.Note != "" {
					w.Failed += ": " + f.Note
				}
			}
			room.Points = append(room.Points, w)
		}
		if len(room.Points) > 0 {
			out = append(out, room)
		}
	}
	return out
}

// stepsOf are the pieces of work that a point may have; closed is whether others have closed the walls over it since it was put.
func stepsOf(job *install.Job, pt *install.RoomPoint, closed bool) []install.PointStep {
	lit := survey.Recessed(pt.Kind) && rulebook.Hanging.In(&job.Schools) == rulebook.HangingLit
	return slices.DeleteFunc(slices.Clone(install.PointSteps), func(s install.PointStep) bool {
		return s.Of().Recessed && !lit || s == install.PointFound && !closed
	})
}

// closed reports whether the walls of a room were closed, or let be closed.
func (p progress) closed(r *install.Room) bool { return r.Closed != "" || p.letClose(r.ID) }

// letClose reports whether the walls of a room were let be closed.
func (p progress) letClose(room string) bool {
	tick := p.ticks[CloseStep(room)]
	return tick != nil && tick.Done
}

// placed is a place on the run of a circuit.
type placed struct {
	k *install.Circuit
	b *install.Box
}

// wiresOf are what comes to the terminals at places, those that are connected alike together.
func wiresOf(job *install.Job, book rulebook.Book, at []placed) []Wires {
	out := []Wires{}
	for _, x := range at {
		var says []string
		terminals := book.TerminalsAt(job, x.k, x.b)
		for i := range terminals {
			says = append(says, terminals[i].Says(job.Words))
		}
		if len(says) == 0 {
			continue
		}
		n := slices.IndexFunc(out, func(w Wires) bool { return slices.Equal(w.Says, says) })
		if n < 0 {
			out = append(out, Wires{Tags: []string{}, Says: says})
			n = len(out) - 1
		}
		out[n].Tags = append(out[n].Tags, x.b.Label())
	}
	return out
}

// lowered is a name as it stands inside a sentence: what is written in capitals stays so.
func lowered(name string) string {
	if len(name) < 2 || unicode.IsUpper(rune(name[1])) {
		return name
	}
	return strings.ToLower(name[:1]) + name[1:]
}

// pointSays is how many of what stand where: the height above the floor, and how far along which wall.
func pointSays(job *install.Job, p *rulebook.Survey, r *install.Room, pt *install.RoomPoint,
	placing func(*install.Room, *install.RoomPoint) install.Placing) string {
	parts := []string{fmt.Sprintf("%d × %s", pt.Count, lowered(survey.Name(p, pt.Kind)))}
	if h := placing(r, pt).Height; h > 0 {
		parts = append(parts, job.Words.Say("%s up", p.Mark(h)))
	}
	if pt.Wall != "" {
		parts = append(parts, pt.Wall)
	}
	if pt.OffsetMM > 0 {
		parts = append(parts, job.Words.Say("%s from the left", p.Mark(pt.OffsetMM)))
	}
	if l := &pt.Lamp; l.CutOutMM > 0 {
		parts = append(parts, job.Words.Say("cut-out %s", p.Mark(l.CutOutMM)))
	}
	if k := pt.Lamp.ColourK; k > 0 {
		parts = append(parts, unit.With(k, "K"))
	}
	if pt.Dimmed {
		parts = append(parts, job.Words.Say("dimmed"))
	}
	return strings.Join(parts, ", ")
}

// MayClose says why a room's walls are not to be noted as closed, nil where they are: they were let be closed, or what was covered by others is on
// record as that. The error is [install.Errors].
func MayClose(job *install.Job, r *install.Room) error {
	if !slices.ContainsFunc(r.Points, func(p install.RoomPoint) bool { return p.Worked() }) {
		return nil
	}
	if progressOf(job).letClose(r.ID) {
		return nil
	}
	for _, l := range proving.LooseEnds(job) {
		if l.Left == install.LeftCovered && l.Room == r.ID {
			return nil
		}
	}
	return install.Errors{{Field: "closed", Value: r.Closed,
		Accept: job.Words.Say("nothing before First fix lets the walls of %s be closed; where others closed "+
			"them all the same, note that first as a snag: moved or covered by others", r.Name)}}
}
