package design

import (
	"cmp"
	"slices"

	"arvelt/core/install"
)

// What nobody measured is assumed as it usually is in a dwelling, in metres of cable. Each stands as assumed until somebody does.
const (
	stepM  = 3.0 // between two points of one room, up and down included
	entryM = 2.0 // from where the way comes into a room to a point of it
	wayM   = 5.0 // of the way to a room of which nothing is known
)

// ways are the ways to the rooms of a job, as a tree from the board.
type ways struct {
	job   *install.Job
	below map[string][]*install.Room // by the room that they are reached through, "" for the board
	place map[string]int             // of a room on the walk
}

func waysOf(job *install.Job) *ways {
	t := &ways{job: job, below: map[string][]*install.Room{}, place: map[string]int{}}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		t.place[r.ID] = i
		from := r.From
		if job.RoomByID(from) == nil {
			from = ""
		}
		t.below[from] = append(t.below[from], r)
	}
	return t
}

// lengthM is the length of the way to a room from the one before, m.
func lengthM(r *install.Room) float64 {
	if len(r.Legs) == 0 {
		return wayM
	}
	m := 0.0
	for _, l := range r.Legs {
		m += l.LengthM
	}
	return m
}

// toBoard are the rooms on the way from a room to the board, itself first.
func (t *ways) toBoard(r *install.Room) []*install.Room {
	out := []*install.Room{}
	for r != nil && !slices.Contains(out, r) {
		out = append(out, r)
		r = t.job.RoomByID(r.From)
	}
	return out
}

// unknown reports whether nothing is known of the way to a room: then it is next to those that were walked before and after it.
func (t *ways) unknown(r *install.Room) bool { return len(r.Legs) == 0 && r.From == "" }

// between is the length of the way from one room to another, m; nil is the board.
func (t *ways) between(a, b *install.Room) float64 {
	if a != nil && b != nil && t.unknown(a) && t.unknown(b) {
		return wayM * float64(min(2, max(1, max(t.place[a.ID]-t.place[b.ID], t.place[b.ID]-t.place[a.ID]))))
	}
	up, down := t.toBoard(a), t.toBoard(b)
	for len(up) > 0 && len(down) > 0 && up[len(up)-1] == down[len(down)-1] {
		up, down = up[:len(up)-1], down[:len(down)-1]
	}
	m := 0.0
	for _, r := range slices.Concat(up, down) {
		m += lengthM(r)
	}
	return m
}

// legM is the length of the leg from one point to the next, m; a nil piece is the board.
func (t *ways) legM(a, b *piece) float64 {
	var from, to *install.Room
	entries := 0.0
	if a != nil {
		from, entries = a.room, entryM
	}
	if b != nil {
		to, entries = b.room, entries+entryM
	}
	if from == to && from != nil {
		return stepM
	}
	return t.between(from, to) + entries
}

// inOrder puts points into the order in which a cable comes to them with least of it: branch by branch of the ways, the one last that
// reaches farthest from the board, the points of a room as they were walked. On ways that part and never meet again no order is shorter.
func (t *ways) inOrder(pieces []piece) []piece {
	has := map[*install.Room]bool{}
	for _, p := range pieces {
		for _, r := range t.toBoard(p.room) {
			has[r] = true
		}
	}
	at := map[*install.Room]int{}
	var reach func(r *install.Room) float64
	reach = func(r *install.Room) float64 {
		far := 0.0
		for _, b := range t.below[r.ID] {
			if has[b] && b != r {
				far = max(far, reach(b))
			}
		}
		return lengthM(r) + far
	}
	var walk func(from string)
	walk = func(from string) {
		here := []*install.Room{}
		for _, r := range t.below[from] {
			if _, done := at[r]; has[r] && !done {
				here = append(here, r)
			}
		}
		slices.SortStableFunc(here, func(a, b *install.Room) int { return cmp.Compare(reach(a), reach(b)) })
		for _, r := range here {
			at[r] = len(at)
			walk(r.ID)
		}
	}
	walk("")
	for _, p := range pieces {
		if _, ok := at[p.room]; !ok { // its way comes back to itself
			at[p.room] = len(at)
		}
	}
	out := slices.Clone(pieces)
	slices.SortStableFunc(out, func(a, b piece) int { return at[a.room] - at[b.room] })
	return out
}
