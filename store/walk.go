package store

import (
	"fmt"

	"strings"

	"github.com/google/uuid"

	"arvelt/core/install"
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
		part := "rooms/" + r.ID
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

// Vary works out a variation of a room and, when it is accepted, takes it into
// the walk and keeps who accepted it with its consequences.
func (l *Loaded) Vary(v Variation) (survey.Change, error) {
	room := l.Job.RoomByID(v.Room)
	if room == nil {
		return survey.Change{}, fmt.Errorf("room %q: %w", v.Room, ErrNotFound)
	}
	p := whole.Practice(&l.Job)
	before := *room
	change, err := survey.Vary(before, v.Text, p.Survey(), uuid.NewString)
	if err != nil {
		return change, err
	}
	view := whole.Of(&l.Job, l.Prices, l.Acts(), l.Now)
	change.Weigh(&l.Job, before, p.Survey(), whole.Costs(l.Prices), whole.JobStatus(&view))
	if !v.Accept {
		return change, nil
	}
	if l.Job.Frozen() {
		return change, frozenError(&l.Job)
	}
	r := install.Record{Kind: install.Variation, Subject: v.Room, Room: v.Room, Person: v.Person,
		Note: strings.Join(change.Summary, ", "), Place: v.Text, Cost: change.Cost, Rooms: []install.Room{change.Room}}
	if v.Note != "" {
		r.Note += " — " + v.Note
	}
	for _, e := range change.Effects {
		r.Effects = append(r.Effects, e.Summary)
	}
	if err := l.NewRecord(r); err != nil {
		return change, err
	}
	return change, l.putRooms("varied", -1, change.Room)
}

// Variation is a change that a client asks for: a line of shorthand for a room.
type Variation struct {
	Room   string `json:"room"`
	Text   string `json:"text"`
	Accept bool   `json:"accept"`
	Person string `json:"person"` // who accepted
	Note   string `json:"note"`
}
