package survey

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/words"
)

// Apply takes lines as read into the rooms of a walk and returns the rooms that
// changed. A line with a room that is there already adds to it; a line without
// one goes to the room named into, or else to the one before. newID makes ids.
// The error is [install.Errors].
func Apply(w *words.Catalogue, rooms []install.Room, lines []Line, into string, newID func() string) ([]install.Room, error) {
	all := slices.Clone(rooms)
	var changed []string
	last := 0.0
	for i := range all {
		last = max(last, all[i].At)
	}
	current := -1
	if into != "" {
		if current = slices.IndexFunc(all, func(r install.Room) bool { return r.ID == into }); current < 0 {
			return nil, install.Errors{{Field: "room", Value: into, Accept: w.Say("a room of this job")}}
		}
	}
	for i := range lines {
		l := &lines[i]
		if l.Room != "" {
			current = slices.IndexFunc(all, func(r install.Room) bool { return same(r, l) })
			if current < 0 {
				last++
				all = append(all, install.Room{ID: newID(), Name: l.Room, Kind: l.Kind, Floor: l.Floor, At: last,
					Points: []install.RoomPoint{}, Legs: []install.Leg{}, Walls: []install.WallLine{}, Answered: map[string]string{}})
				current = len(all) - 1
			}
		}
		if l.Room == "" && len(l.Points) == 0 && l.Remark == "" {
			continue
		}
		if current < 0 {
			return nil, install.Errors{{Field: "text", Value: strings.TrimSpace(l.Text),
				Accept: w.Say("a room first, such as “hall: 2 double socket”")}}
		}
		r := &all[current]
		r.Points = slices.Clone(r.Points)
		for _, p := range l.Points {
			p.ID = newID()
			r.Points = append(r.Points, p)
		}
		if l.Remark != "" {
			r.Note = strings.TrimSpace(r.Note + "\n" + l.Remark)
		}
		if !slices.Contains(changed, r.ID) {
			changed = append(changed, r.ID)
		}
	}
	return slices.DeleteFunc(all, func(r install.Room) bool { return !slices.Contains(changed, r.ID) }), nil
}

func same(r install.Room, l *Line) bool {
	return strings.Join(fold(r.Name), " ") == strings.Join(fold(l.Room), " ") && (l.Floor == "" || r.Floor == "" || l.Floor == r.Floor)
}

// Twin is another room of a job with the name of one on its floor, nil without: two could not be told apart on a sheet or a label.
func Twin(rooms []install.Room, r *install.Room) *install.Room {
	name := strings.Join(fold(r.Name), " ")
	for i := range rooms {
		if o := &rooms[i]; o.ID != r.ID && o.Floor == r.Floor && strings.Join(fold(o.Name), " ") == name {
			return o
		}
	}
	return nil
}

// Rewrite reads a room's line anew: its points become those of the line. A point that reads as one that was there, or else the next of its
// kind, keeps its id, and with it its photos, and all that a line does not say.
func Rewrite(room install.Room, line *Line, newID func() string) install.Room {
	old := slices.Clone(room.Points)
	if line.Room != "" {
		room.Name, room.Kind = line.Room, line.Kind
		room.Floor = line.Floor
	}
	room.Points = slices.Clone(line.Points)
	if room.Points == nil {
		room.Points = []install.RoomPoint{}
	}
	take := func(p *install.RoomPoint, match func(install.RoomPoint) bool) {
		if i := slices.IndexFunc(old, match); p.ID == "" && i >= 0 {
			unsaid(p, &old[i])
			old = slices.Delete(old, i, i+1)
		}
	}
	for i := range room.Points {
		p := &room.Points[i]
		p.ID = ""
		take(p, func(o install.RoomPoint) bool {
			said := *p
			unsaid(&said, &o)
			return said == o
		})
	}
	for i := range room.Points {
		p := &room.Points[i]
		take(p, func(o install.RoomPoint) bool { return o.Kind == p.Kind && o.Kind != "" })
		if p.ID == "" {
			p.ID = newID()
		}
	}
	return room
}

// unsaid puts what a line does not say of a point from one to another.
func unsaid(to, from *install.RoomPoint) {
	to.ID, to.OffsetMM, to.DuctM, to.Lamp, to.Built = from.ID, from.OffsetMM, from.DuctM, from.Lamp, from.Built
	to.BathMM, to.Inside, to.IP = from.BathMM, from.Inside, from.IP
}
