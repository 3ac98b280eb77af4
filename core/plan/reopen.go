package plan

import (
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/working"
)

// Reopen opens the step again that a reading is about which fails: of the room where it was read, else the first of its circuit in which conductors
// are handled. Once that is done again the reading is older than the work, and is taken anew.
func Reopen(job *install.Job, tasks []Task, rows []proving.Row) {
	for i := range rows {
		r := &rows[i]
		if r.Verdict != working.Fail || r.Reading == nil || r.Answered || r.Circuit == "" {
			continue
		}
		t := about(job, tasks, r)
		if t == nil || !t.Done {
			continue
		}
		title := r.Title
		if at := r.At(); at != "" {
			title = job.Words.Say("%s at %s", title, at)
		}
		t.Again = job.Words.Say("%s failed on %s: find the cause and put it right.", title, r.Reading.At.Format(time.DateOnly))
		t.Done, t.DoneBy, t.DoneAt, t.Note, t.Closed = false, "", nil, "", t.held
	}
}

// about is the step that a reading of a circuit is about, nil for none.
func about(job *install.Job, tasks []Task, r *proving.Row) *Task {
	room := ""
	if k := job.CircuitByID(r.Circuit); k != nil && r.Reading.Box != "" {
		if b := k.Serves.BoxByID(r.Reading.Box); b != nil {
			room = b.Room
		}
	}
	var first *Task
	for i := range tasks {
		t := &tasks[i]
		of := t.Circuit == r.Circuit || slices.Contains(t.circuits, r.Circuit)
		switch {
		case !t.alters || !of:
		case room != "" && t.Room == room:
			return t
		case first == nil && t.Circuit == r.Circuit:
			first = t
		}
	}
	return first
}
