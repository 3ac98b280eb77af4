package store

import (
	"cmp"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// Walk takes shorthand into the walk. With replace the line is a room's anew,
// against the version that was read; otherwise it adds to the rooms it names.
func (l *Loaded) Walk(text, room string, replace bool, base int) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	words := whole.Practice(&l.Job).Survey()
	floor := ""
	if n := len(l.Job.Rooms); n > 0 {
		floor = l.Job.Rooms[n-1].Floor
	}
	// A line that waited for a connection names the room before it as the browser
	// knew it: only a room written anew lends its own floor.
	if r := l.Job.RoomByID(room); r != nil && replace {
		floor = r.Floor
	}
	lines := survey.Read(text, words, floor)
	if replace {
		now := l.Job.RoomByID(room)
		if now == nil {
			return fmt.Errorf("room %q: %w", room, ErrNotFound)
		}
		if len(lines) != 1 {
			return install.Errors{{Field: "text", Value: text, Accept: "one line for the room"}}
		}
		return l.putRooms("rewrote", base, survey.Rewrite(*now, &lines[0], uuid.NewString))
	}
	rooms, err := survey.Apply(l.Job.Words, l.Job.Rooms, lines, room, uuid.NewString)
	if err != nil {
		return err
	}
	return l.putRooms("walked", -1, rooms...)
}

// putRooms puts rooms into the walk against a version, or their newest when
// base is negative.
func (l *Loaded) putRooms(what string, base int, rooms ...install.Room) error {
	terms := whole.Practice(&l.Job).Terms()
	for _, r := range rooms {
		part := roomParts + r.ID
		p, err := l.part(part)
		if err != nil {
			return err
		}
		at := base
		if at < 0 {
			at = l.Versions[part]
		}
		if err := r.Validate(terms); err != nil {
			return err
		}
		if err := l.Touch(part, at, what+" "+r.Name); err != nil {
			return err
		}
		*p.Added(&l.Job).(*install.Room) = r
	}
	l.Job.SortRooms()
	l.Job.Tidy()
	return l.Job.Fits()
}

// Vary works out a variation of a room and, when it is accepted, takes it into the walk and its circuits, together, and keeps who accepted
// it with what it brings.
func (l *Loaded) Vary(v Variation) (survey.Change, error) {
	room, w := l.Job.RoomByID(v.Room), l.Job.Words
	if room == nil {
		return survey.Change{}, fmt.Errorf("room %q: %w", v.Room, ErrNotFound)
	}
	reason := cmp.Or(v.Reason, install.Wished)
	if !slices.Contains(install.VariationReasons, reason) {
		return survey.Change{}, install.Errors{{Field: "reason", Value: reason, Accept: strings.Join(install.VariationReasons, ", ")}}
	}
	change, then, err := whole.VariationOf(&l.Job, l.Prices, l.Rule, l.Acts(), l.Now, *room, v.Text, uuid.NewString)
	if err != nil || !v.Accept {
		return change, err
	}
	if l.Job.Frozen() {
		return change, frozenError(&l.Job)
	}
	r := install.Record{Kind: install.Variation, Subject: v.Room, Room: v.Room, Person: v.Person, Path: reason,
		Note: strings.Join(change.Summary, ", "), Place: v.Text, Cost: change.Cost, Rooms: []install.Room{change.Room}}
	if v.Note != "" {
		r.Note += " — " + v.Note
	}
	r.Effects = change.Said(w)
	if err := l.NewRecord(r); err != nil {
		return change, err
	}
	l.title = w.Say("Variation of %s", room.Name)
	return change, l.follow(then, change.Room)
}

// follow takes the circuits of a job that followed a change of a room, and the room, into the job. Whoever may agree a variation may have
// the circuits follow it: the program decides what they become.
func (l *Loaded) follow(then *install.Job, room install.Room) error {
	terms := whole.Practice(&l.Job).Terms()
	parts := []string{}
	for i := range then.Circuits {
		k := &then.Circuits[i]
		if old := l.Job.CircuitByID(k.ID); old == nil || !reflect.DeepEqual(old, k) {
			parts = append(parts, circuitParts+k.ID)
		}
	}
	for i := range l.Job.Circuits {
		if part := circuitParts + l.Job.Circuits[i].ID; then.CircuitByID(l.Job.Circuits[i].ID) == nil {
			l.removed = append(l.removed, part)
		}
	}
	if len(then.Board.Groups) != len(l.Job.Board.Groups) {
		parts = append(parts, then.Board.Part())
	}
	l.Job.Circuits, l.Job.Board.Groups = then.Circuits, then.Board.Groups
	for _, part := range parts {
		l.touched[part] = "variation of " + room.Name
	}
	l.Job.Tidy()
	for _, part := range parts {
		if k := l.Job.CircuitByID(strings.TrimPrefix(part, circuitParts)); k != nil {
			if err := k.Validate(terms); err != nil {
				return err
			}
		}
	}
	return l.putRooms("varied", -1, room)
}

// Variation is a change of the agreed points that a client asks for: a line of shorthand for a room.
type Variation struct {
	Room   string `json:"room"`
	Text   string `json:"text"`
	Reason string `json:"reason"` // one of [install.VariationReasons]; empty for what the client wants
	Accept bool   `json:"accept"`
	Person string `json:"person"` // who accepted
	Note   string `json:"note"`
}

// keepsScope refuses a change of the points that were agreed that is no variation: whoever pays for them agrees to it first. rooms are as
// they were before.
func (l *Loaded) keepsScope(rooms []install.Room) error {
	now, p := l.Job.Rooms, whole.Practice(&l.Job).Survey()
	l.Job.Rooms = rooms
	was := survey.Past(&l.Job, p)
	l.Job.Rooms = now
	w := l.Job.Words
	for _, d := range survey.Past(&l.Job, p) {
		if !slices.Contains(was, d) {
			agreed := survey.ScopeOf(&l.Job, p).Agreed
			return &NothingError{w.Say("The points were agreed by %s on %s: a change of them is a variation, which is priced and accepted first "+
				"(Survey sheet, Scope). It would change %s: %s.", agreed.Person, agreed.At.Format(time.DateOnly), d.Room, d.Name)}
		}
	}
	return nil
}

// letClosed refuses that the walls of a room were closed before they were let be. rooms are as they were before.
func (l *Loaded) letClosed(rooms []install.Room) error {
	for i := range l.Job.Rooms {
		r := &l.Job.Rooms[i]
		was := slices.IndexFunc(rooms, func(o install.Room) bool { return o.ID == r.ID })
		if r.Closed == "" || was >= 0 && rooms[was].Closed != "" {
			continue
		}
		if err := plan.MayClose(&l.Job, r); err != nil {
			return err
		}
	}
	return nil
}

// beside is of [survey.Beside].
func (l *Loaded) beside() int {
	p := whole.Practice(&l.Job)
	terms := p.Terms()
	return survey.Beside(&l.Job, &terms, p.Survey())
}

// besideScope says that what a circuit is to feed was never agreed.
func (l *Loaded) besideScope() error {
	w, names := l.Job.Words, []string{}
	for part := range l.touched {
		if k := l.Job.CircuitByID(strings.TrimPrefix(part, circuitParts)); k != nil {
			names = append(names, k.Name)
		}
	}
	slices.Sort(names)
	agreed := survey.ScopeOf(&l.Job, whole.Practice(&l.Job).Survey()).Agreed
	return &NothingError{w.Say("The points were agreed by %s on %s, and %s would feed what no point of the walk is. Add it to the walk as a variation, "+
		"which is priced and accepted first (Survey sheet, Scope), then to its circuit.", agreed.Person, agreed.At.Format(time.DateOnly),
		strings.Join(names, ", "))}
}

// agreedScope reports whether the points of the job were agreed.
func (l *Loaded) agreedScope() bool { return len(l.Job.Current(install.Scope)) > 0 }

// NoteVisit notes the reference of the job that was made for a change that is planned for later.
func (l *Loaded) NoteVisit(later, ref string) error {
	list := slices.Clone(l.Job.Plan.Later)
	at := slices.IndexFunc(list, func(x install.Later) bool { return x.ID == later })
	if at < 0 || l.Job.Frozen() {
		return nil // it was taken off the plan meanwhile, or the job is signed: the visit is made all the same
	}
	list[at].Visit = ref
	l.Job.Plan.Later = list
	return l.Touch("plan", l.Versions["plan"], "visit "+ref)
}

// toldApart refuses a room that was touched and has the name of another on its floor, unless it had it before. rooms are as they were.
func (l *Loaded) toldApart(rooms []install.Room) error {
	for part := range l.touched {
		r := l.Job.RoomByID(strings.TrimPrefix(part, roomParts))
		if !strings.HasPrefix(part, roomParts) || r == nil {
			continue
		}
		twin := survey.Twin(l.Job.Rooms, r)
		was := slices.IndexFunc(rooms, func(o install.Room) bool { return o.ID == r.ID })
		if twin != nil && (was < 0 || rooms[was].Name != r.Name || rooms[was].Floor != r.Floor) {
			return install.Errors{{Field: part + ".name", Value: r.Name,
				Accept: l.Job.Words.Say("a name that no other room of the floor has, such as %s", r.Name+" 2")}}
		}
	}
	return nil
}
