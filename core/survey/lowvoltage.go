package survey

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/words"
	"arvelt/core/working"
)

// elvCableRow is a row of elv_cables.
type elvCableRow struct {
	Kind  string `col:"kind"`
	Cable string `col:"cable"`
}

var elvCables = table.LoadOf[elvCableRow](dataFiles, "elv_cables")

// elvNames are the cables of extra-low voltage, in the order in which they are listed.
var elvNames = []struct {
	ID   string
	Name words.Key
}{
	{"data", words.Key("Four-pair data cable")}, {"coax", words.Key("Coaxial cable")}, {"speaker", words.Key("Speaker cable")},
	{"bell", words.Key("Bell cable")}, {"entry", words.Key("Door entry cable")},
}

// What nobody measured of a home run, m: from where the way comes into a room to the point, and what is left at both ends.
const (
	elvEntryM = 2.0
	elvTailsM = 3.0
	elvWayM   = 8.0 // of a way of which nothing is known
)

// LowVoltage is the schedule of the extra-low-voltage points of a walk.
type LowVoltage struct {
	Rooms  []LowVoltageRoom  `json:"rooms"`
	Cables []LowVoltageCable `json:"cables"`
	// ApartMM is the least distance of their cables from those of power without a divider, mm, with where that stands.
	ApartMM float64 `json:"apartMM"`
	Source  string  `json:"source"`
}

// LowVoltageRoom is a room of the schedule: its points, each with a home run, and how far from power its cables were run.
type LowVoltageRoom struct {
	Room    string            `json:"room"` // by id
	Name    string            `json:"name"`
	Floor   string            `json:"floor"`
	Points  []LowVoltagePoint `json:"points"`
	HomeM   float64           `json:"homeM"`   // of one home run, m
	Assumed bool              `json:"assumed"` // part of it, or all, was not measured
	Verdict working.Verdict   `json:"verdict"` // of the distance from power; unknown while nobody read it
	Says    string            `json:"says"`
}

// LowVoltagePoint are alike points of a room.
type LowVoltagePoint struct {
	Name  string `json:"name"`
	Count int    `json:"count"`
	Cable string `json:"cable"`
	Box   string `json:"box"`
}

// LowVoltageCable is what is needed of a cable.
type LowVoltageCable struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Runs    int     `json:"runs"`
	LengthM float64 `json:"lengthM"`
}

// LowVoltageOf is the schedule of the points of extra-low voltage that a job puts in or moves.
func LowVoltageOf(job *install.Job, p *rulebook.Survey) LowVoltage {
	w := job.Words
	out := LowVoltage{Rooms: []LowVoltageRoom{}, Cables: []LowVoltageCable{}, ApartMM: p.ApartMM, Source: p.ApartSource}
	runs, metres := map[string]int{}, map[string]float64{}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		row := LowVoltageRoom{Room: r.ID, Name: r.Name, Floor: r.Floor, Points: []LowVoltagePoint{}}
		for n := range r.Points {
			pt := &r.Points[n]
			at := elvCables.Find(func(c *elvCableRow) bool { return c.Kind == pt.Kind })
			if at < 0 || pt.State != install.New && pt.State != install.Moved {
				continue
			}
			cable, box := elvCables.Row(at).Cable, pt.Box
			if box == "" {
				box = p.Box[pt.Kind]
			}
			row.Points = append(row.Points, LowVoltagePoint{Name(p, pt.Kind), pt.Count, elvName(w, cable), box})
			if row.HomeM == 0 {
				row.HomeM, row.Assumed = homeRun(job, r)
			}
			runs[cable] += pt.Count
			metres[cable] += row.HomeM * float64(pt.Count)
		}
		if len(row.Points) > 0 {
			row.Verdict, row.Says = apart(w, r, p)
			out.Rooms = append(out.Rooms, row)
		}
	}
	for _, c := range elvNames {
		if runs[c.ID] > 0 {
			out.Cables = append(out.Cables, LowVoltageCable{c.ID, w.Say(string(c.Name)), runs[c.ID], metres[c.ID]})
		}
	}
	return out
}

// homeRun is the length of a cable from a point of a room back to the board, m, and whether part of it is assumed.
func homeRun(job *install.Job, r *install.Room) (m float64, assumed bool) {
	measured, estimated, known := job.RouteOf(r)
	if !known {
		estimated += elvWayM
	}
	return measured + estimated + elvEntryM + elvTailsM, !known || estimated > 0
}

// apart judges how far from power the cables of a room were run.
func apart(w *words.Catalogue, r *install.Room, p *rulebook.Survey) (working.Verdict, string) {
	switch {
	case r.Divided:
		return working.Pass, w.Say("a divider is between them")
	case r.ApartMM == 0:
		return working.Unknown, w.Say("how far cables of extra-low voltage run from power: at least %s, or a divider between them", p.Apart())
	case r.ApartMM < p.ApartMM:
		return working.Fail, w.Say("cables of extra-low voltage run closer to power than %s: move them apart, or put a divider between them", p.Apart())
	}
	return working.Pass, w.Say("far enough from power")
}

func elvName(w *words.Catalogue, id string) string {
	for _, c := range elvNames {
		if c.ID == id {
			return w.Say(string(c.Name))
		}
	}
	return id
}

// Held are the rooms of a schedule whose distance from power is not known or too small.
func (l *LowVoltage) Held() []LowVoltageRoom {
	return slices.DeleteFunc(slices.Clone(l.Rooms), func(r LowVoltageRoom) bool { return r.Verdict == working.Pass })
}
