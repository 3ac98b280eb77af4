package survey

import (
	"slices"

	"arvelt/core/install"
)

// WaysPlan is the rooms of a job and the ways of cables between them, laid out to be drawn: not to scale.
type WaysPlan struct {
	Rooms   []PlacedRoom `json:"rooms"`
	Columns int          `json:"columns"` // the board stands in the first
	Rows    int          `json:"rows"`
}

// PlacedRoom is a room on the plan of ways.
type PlacedRoom struct {
	Room    string  `json:"room"`
	Name    string  `json:"name"`
	Floor   string  `json:"floor"`
	Column  int     `json:"column"` // how many rooms it is away from the board
	Row     int     `json:"row"`
	From    string  `json:"from"`    // room that its cables come through, empty for the board
	LengthM float64 `json:"lengthM"` // of the way from there, 0 where nobody noted it
	Assumed bool    `json:"assumed"` // a stretch of it is not measured
	Points  int     `json:"points"`  // that stay or come
}

// WaysPlanOf lays the rooms out: each behind the room that its cables come through, the board first, in the order of the walk.
func WaysPlanOf(job *install.Job) WaysPlan {
	plan := WaysPlan{Rooms: []PlacedRoom{}, Columns: 1, Rows: 1}
	below := map[string][]*install.Room{}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		from := r.From
		if job.RoomByID(from) == nil || circles(job, r) {
			from = ""
		}
		below[from] = append(below[from], r)
	}
	row := 0
	var lay func(from string, column int)
	lay = func(from string, column int) {
		for i, r := range below[from] {
			if i > 0 {
				row++
			}
			p := PlacedRoom{Room: r.ID, Name: r.Name, Floor: r.Floor, Column: column, Row: row, From: from}
			for _, l := range r.Legs {
				p.LengthM += l.LengthM
				p.Assumed = p.Assumed || l.Basis != install.Measured
			}
			for _, pt := range r.Points {
				if pt.State != install.Removed {
					p.Points += pt.Count
				}
			}
			plan.Rooms = append(plan.Rooms, p)
			plan.Columns, plan.Rows = max(plan.Columns, column+1), max(plan.Rows, row+1)
			lay(r.ID, column+1)
		}
	}
	lay("", 1)
	return plan
}

// circles reports whether the way of a room comes back to itself.
func circles(job *install.Job, r *install.Room) bool {
	seen := []string{}
	for r != nil {
		if slices.Contains(seen, r.ID) {
			return true
		}
		seen = append(seen, r.ID)
		r = job.RoomByID(r.From)
	}
	return false
}
