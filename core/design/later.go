package design

import (
	"fmt"
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
)

// LaterCircuit is the id of the circuit that stands for generation or storage that is planned.
const LaterCircuit = "later"

// Meet takes what is planned for after a job into it, to see what the job leaves for it: a charge point and the usual points of the room that a
// room becomes by [Follow], generation and storage as an infeed on its board. The job that is given stays as it is.
func Meet(job *install.Job, l install.Later, book rulebook.Book) (*install.Job, Followed) {
	w := job.Words
	own := *job
	own.Rooms, own.Circuits = slices.Clone(job.Rooms), slices.Clone(job.Circuits)
	if l.Kind == install.LaterSolar || l.Kind == install.LaterBattery {
		return infeed(&own, l, book)
	}
	room := own.RoomByID(l.Room)
	var open []string
	if room == nil {
		open = append(open, w.Say("Not recorded: the room that it is for."))
		own.Rooms = append(own.Rooms, install.Room{ID: "later", Name: w.Say("a place not yet said")})
		room = &own.Rooms[len(own.Rooms)-1]
	}
	become := *room
	become.Points = slices.Clone(room.Points)
	n := 0
	newID := func() string { n++; return fmt.Sprintf("later-%d", n) }
	if l.Kind == install.LaterCharger {
		become.Points = append(become.Points, install.RoomPoint{ID: newID(), Kind: survey.ChargePoint, Count: 1, State: install.New, PowerW: l.PowerW})
	} else {
		become.Kind = l.Becomes
		become.Points = append(become.Points, survey.Lacking(l.Becomes, room.Points, newID)...)
	}
	then, followed := Follow(&own, become, book)
	followed.Open = append(open, followed.Open...)
	return then, followed
}

// infeed adds a source on a board, with the ways that its device takes.
func infeed(own *install.Job, l install.Later, book rulebook.Book) (*install.Job, Followed) {
	w := own.Words
	for _, template := range book.Templates() {
		k := book.Defaults(template)
		if !k.Serves.Backfeed {
			continue
		}
		k.ID, k.Name, k.State, k.Protection.Way = LaterCircuit, w.Say(string(install.LaterNames[l.Kind])), install.NewCircuit, 0
		k.Serves.PowerW = l.PowerW
		if b := own.BoardByID(l.Board); b != nil {
			k.From = b.Feeder()
		}
		own.Circuits = append(own.Circuits, k)
		d := &designer{job: own, book: book, made: []made{{id: k.ID}}}
		d.place()
		return own, Followed{}
	}
	return own, Followed{Open: []string{w.Say("Not computed: the practice has no circuit for a source.")}}
}
