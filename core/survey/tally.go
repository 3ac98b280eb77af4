package survey

import (
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Count is how many points of a kind there are.
type Count struct {
	Kind   string `json:"kind"`
	Name   string `json:"name"`
	Family string `json:"family"`
	States
}

// Group is a sum over a room, a floor or the house.
type Group struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Total  Count   `json:"total"`
	Counts []Count `json:"counts"`
}

// RoomView is a room as it is written and how far its cables go.
type RoomView struct {
	ID         string  `json:"id"`
	Name       string  `json:"name"`
	Total      Count   `json:"total"`
	Floor      string  `json:"floor"`
	Line       string  `json:"line"` // as shorthand
	MeasuredM  float64 `json:"measuredM"`
	EstimatedM float64 `json:"estimatedM"`
	RouteKnown bool    `json:"routeKnown"`
	Method     string  `json:"method"` // installation methods that its construction gives
	Unread     int     `json:"unread"`
}

// Question asks whether something that is usual is wanted. It is never added
// by itself.
type Question struct {
	ID     string `json:"id"`
	Room   string `json:"room"` // id; empty for the house
	Asks   string `json:"asks"`
	Add    string `json:"add"` // shorthand that would add it; empty where there is nothing to add
	Why    string `json:"why"`
	Source string `json:"source"`
	// Alike is what is asked without the room, where the same may be asked of others: they have the same Group, and one answer does for all.
	Alike string `json:"alike"`
	Group string `json:"group"`
}

// Walked is what the walk comes to.
type Walked struct {
	Rooms     []RoomView `json:"rooms"`
	Floors    []Group    `json:"floors"`
	House     Group      `json:"house"`
	Questions []Question `json:"questions"`
	Controls  []Control  `json:"controls"`
	// LowVoltage is the schedule of its points of extra-low voltage.
	LowVoltage LowVoltage `json:"lowVoltage"`
	Unread     int        `json:"unread"`
	Skipped    int        `json:"skipped"`
}

// States are how many points there are by what the job does with them.
type States struct {
	New     int `json:"new"`
	Kept    int `json:"kept"`
	Moved   int `json:"moved"`
	Removed int `json:"removed"`
}

// Left is how many there are when the job is done.
func (s States) Left() int { return s.New + s.Kept + s.Moved }

func (s *States) add(state string, n int) {
	switch state {
	case install.Kept:
		s.Kept += n
	case install.Moved:
		s.Moved += n
	case install.Removed:
		s.Removed += n
	default:
		s.New += n
	}
}

// group collects counts in the order of the kinds.
type group struct {
	Group
	by []States // by the place of the kind in [Kinds]
}

func newGroup(id, name string) *group {
	return &group{Group: Group{ID: id, Name: name}, by: make([]States, len(Kinds))}
}

// next empties the group for another room.
func (g *group) next(id, name string) {
	g.Group = Group{ID: id, Name: name}
	clear(g.by)
}

// of returns the count of a kind.
func (g *group) of(kind string) States { return g.by[kindPlace[kind]] }

func (g *group) add(place int, pt *install.RoomPoint) {
	g.by[place].add(pt.State, pt.Count)
	g.Total.add(pt.State, pt.Count)
}

func (g *group) done(p *rulebook.Survey) Group {
	n := 0
	for _, s := range g.by {
		if s != (States{}) {
			n++
		}
	}
	g.Counts = make([]Count, 0, n)
	for i, s := range g.by {
		if s != (States{}) {
			g.Counts = append(g.Counts, Count{Kinds[i].ID, Name(p, Kinds[i].ID), Kinds[i].Family, s})
		}
	}
	return g.Group
}

// Tally counts the walk by room, floor and house and asks what is missing.
func Tally(job *install.Job, p *rulebook.Survey) Walked {
	w := Walked{Rooms: make([]RoomView, 0, len(job.Rooms)), Floors: []Group{}, Questions: []Question{}, Controls: []Control{}}
	house, room := newGroup("", "House"), newGroup("", "")
	floors, order := map[string]*group{}, []string{}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		room.next(r.ID, r.Name)
		if floors[r.Floor] == nil {
			floors[r.Floor] = newGroup(r.Floor, r.Floor)
			order = append(order, r.Floor)
		}
		floor := floors[r.Floor]
		v := RoomView{Floor: r.Floor, Line: WriteRoom(r, p)}
		for k := range r.Points {
			pt := &r.Points[k]
			place, known := kindPlace[pt.Kind]
			if !known {
				v.Unread++
				continue
			}
			room.add(place, pt)
			floor.add(place, pt)
			house.add(place, pt)
		}
		v.ID, v.Name, v.Total = room.ID, room.Name, room.Total
		v.MeasuredM, v.EstimatedM, v.RouteKnown = job.RouteOf(r)
		v.Method = methodOf(r, p)
		w.Unread += v.Unread
		if r.Skipped != "" {
			w.Skipped++
		}
		w.Rooms = append(w.Rooms, v)
		w.Controls = append(w.Controls, ControlsOf(job, r, p)...)
		w.Questions = append(w.Questions, ask(job, r, room, p)...)
	}
	for _, f := range order {
		w.Floors = append(w.Floors, floors[f].done(p))
	}
	w.House, w.LowVoltage = house.done(p), LowVoltageOf(job, p)
	w.Questions = append(w.Questions, forgotten(job)...)
	return w
}

func methodOf(r *install.Room, p *rulebook.Survey) string {
	w := p.Words
	said := []string{}
	for _, at := range []struct{ where, name string }{{"wall", r.Wall}, {"under", r.Under}, {"ceiling", r.Ceiling}} {
		for _, f := range p.Fabric {
			if at.name != "" && f.Where == at.where && f.Name == at.name {
				said = append(said, w.Say("%s: method %s", at.where, f.Method))
			}
		}
	}
	return strings.Join(said, ", ")
}

// usual is a row of the table of what rooms usually have.
type usual struct {
	kinds []string
	count int
	asks  string
}

var usualByRoom = func() map[string][]usual {
	out := map[string][]usual{}
	for r := range typicalTable.Text {
		room := typicalTable.Row(r).Room
		out[room] = append(out[room], usual{strings.Split(typicalTable.Row(r).Kinds, "|"),
			int(typicalTable.Row(r).Count), typicalTable.Row(r).Asks})
	}
	return out
}()

// Lacking are new points for what a room of a kind usually has and these points do not.
func Lacking(room string, points []install.RoomPoint, newID func() string) []install.RoomPoint {
	out := []install.RoomPoint{}
	for _, u := range usualByRoom[room] {
		n := 0
		for i := range points {
			if p := &points[i]; p.State != install.Removed && slices.Contains(u.kinds, p.Kind) {
				n += p.Count
			}
		}
		if n < u.count {
			out = append(out, install.RoomPoint{ID: newID(), Kind: u.kinds[0], Count: u.count - n, State: install.New})
		}
	}
	return out
}

// lampless reports whether new switches were walked in a room where nothing is switched.
func lampless(r *install.Room) bool {
	switches := false
	for i := range r.Points {
		pt := &r.Points[i]
		kind := kindByID[pt.Kind]
		switch {
		case pt.State == install.Removed:
		case kind.Box == install.Switch:
			switches = switches || pt.State == install.New
		case kind.Loses == LosesLight || kind.Switched:
			return false
		}
	}
	return switches
}

// ask lists what a room of its kind usually has and this one lacks, and what
// was counted without what it needs to be known of it.
func ask(job *install.Job, r *install.Room, g *group, p *rulebook.Survey) []Question {
	w := job.Words
	var out []Question
	if r.Skipped != "" {
		return nil
	}
	put := func(q Question) {
		if _, no := r.Answered[q.ID]; !no {
			q.Room, q.Group = r.ID, q.ID+"/"+r.Kind+"/"+q.Alike
			out = append(out, q)
		}
	}
	have := func(kinds []string) int {
		n := 0
		for _, k := range kinds {
			n += g.of(k).Left()
		}
		return n
	}
	if lampless(r) {
		put(Question{ID: "lampless", Asks: w.Say("%s: a switch and nothing that it switches. What does it switch?", r.Name),
			Alike: w.Say("a switch and nothing that it switches. What does it switch?"), Add: "light",
			Why: w.Say("a light, a fan or a switched socket of the room; a light of another room is written there, as switched from two places")})
	}
	seen := map[string]bool{}
	for _, a := range p.Asks {
		if n := have(a.Kinds); a.Room == r.Kind && n < a.Count && !(a.Once && elsewhere(job, r, a.Kinds)) {
			id := "asked:" + a.Kinds[0]
			seen[a.Kinds[0]] = true
			said, alike := w.Say("%s: the practice asks for %s, and there is none", r.Name, a.Why), w.Say("the practice asks for %s, and there is none", a.Why)
			if n > 0 {
				said = w.Say("%s: the practice asks for %s, and %d of %d are there", r.Name, a.Why, n, a.Count)
				alike = w.Say("the practice asks for %s, and %d of %d are there", a.Why, n, a.Count)
			}
			put(Question{ID: id, Asks: said, Alike: alike,
				Add: fmt.Sprintf("%d %s", a.Count-n, shorthand(p, a.Kinds[0])), Why: a.Why, Source: a.Source})
		}
	}
	for _, usual := range usualByRoom[r.Kind] {
		kinds, count, what := usual.kinds, usual.count, usual.asks
		if p.Sockets != "" {
			what = strings.ReplaceAll(what, "sockets", p.Sockets)
		}
		if n := have(kinds); n < count && !seen[kinds[0]] {
			said, alike := w.Say("%s has nothing of the usual: %s", r.Name, what), w.Say("nothing of the usual: %s", what)
			if noun, ok := strings.CutPrefix(strings.Replace(what, "an ", "a ", 1), "a "); ok {
				said, alike = w.Say("%s has no %s", r.Name, noun), w.Say("no %s", noun)
			}
			if n > 0 {
				said, alike = w.Say("%s has %d of the usual %d: %s", r.Name, n, count, what), w.Say("%d of the usual %d: %s", n, count, what)
			}
			put(Question{ID: "usual:" + kinds[0], Asks: w.Say("%s. Is it wanted?", said), Alike: w.Say("%s. Is it wanted?", alike),
				Add: strings.TrimPrefix(fmt.Sprintf("%d %s", count-n, shorthand(p, kinds[0])), "1 "),
				Why: w.Say("usual for %s", withArticle(kindRoomName(r.Kind))), Source: typicalTable.Source.Ref})
		}
	}
	if len(r.Points) == 0 && len(usualByRoom[r.Kind]) == 0 {
		put(Question{ID: "empty", Asks: w.Say("%s: nothing was counted. Is there nothing?", r.Name),
			Why: w.Say("rooms are easily missed")})
	}
	askOfPoints(w, r, p, put)
	for i := range out {
		if out[i].ID == switchingQuestion {
			out[i].Group = switchingQuestion // of any kind of room
		}
	}
	return out
}

// askOfPoints asks for what is not known of the points of a room: what they draw, how its lights are switched, which lamps they take.
func askOfPoints(w *words.Catalogue, r *install.Room, p *rulebook.Survey, put func(Question)) {
	lights := 0
	for i := range r.Points {
		pt := &r.Points[i]
		k := kindByID[pt.Kind]
		if k.Family == "lighting" && k.Switched && pt.Switching == "" && (pt.State == install.New || pt.State == install.Moved) {
			lights += pt.Count
		}
		if k.Own && pt.PowerW == 0 && pt.CurrentA == 0 && pt.State != install.Removed {
			put(Question{ID: "power:" + pt.Kind, Asks: w.Say("%s: what does the %s draw?", r.Name, Name(p, pt.Kind)),
				Alike: w.Say("what does the %s draw?", Name(p, pt.Kind)),
				Why:   w.Say("its circuit and the demand need its power or current")})
		}
	}
	if lights > 0 {
		asks := w.Say("%s: how are the %d new lights switched?", r.Name, lights)
		if lights == 1 {
			asks = w.Say("%s: how is the new light switched?", r.Name)
		}
		put(Question{ID: switchingQuestion, Asks: asks, Alike: w.Say("how are the new lights switched?"),
			Why: w.Say("one way, two way, from three places, by the bed, dimmed or by a sensor decides the cores")})
	}
	if n := undimmed(r); n > 0 {
		put(Question{ID: "lamp-dims", Asks: w.Say("%s: do the %d luminaires on a dimmer dim, by what their maker states?", r.Name, n),
			Alike: w.Say("do the luminaires on a dimmer dim, by what their maker states?"),
			Why:   w.Say("one that is not made for it flickers, hums or fails early, and is found out after the ceiling is closed")})
	}
	if colours := coloursIn(r); len(colours) > 1 {
		put(Question{ID: "lamp-colours", Asks: w.Say("%s: lamps of %s in one room. Make them alike?", r.Name, strings.Join(colours, ", ")),
			Alike: w.Say("lamps of %s in one room. Make them alike?", strings.Join(colours, ", ")),
			Why:   w.Say("lamps of one room are seen side by side: different colours look like a mistake")})
	}
}

// coloursIn are the colour temperatures of the new lights of a room, the warmest first.
func coloursIn(r *install.Room) (out []string) {
	all := []float64{}
	for i := range r.Points {
		if l := &r.Points[i].Lamp; l.ColourK > 0 && r.Points[i].State != install.Removed && !slices.Contains(all, l.ColourK) {
			all = append(all, l.ColourK)
		}
	}
	slices.Sort(all)
	for _, k := range all {
		out = append(out, unit.With(k, "K"))
	}
	return out
}

// undimmed counts the luminaires with built-in light on a dimmer of which nobody said that they dim; lamps are bought for dimming.
func undimmed(r *install.Room) (n int) {
	for i := range r.Points {
		pt := &r.Points[i]
		if pt.Dimmed && pt.Lamp.Cap == install.BuiltIn && pt.State != install.Removed && !pt.Lamp.Dims {
			n += pt.Count
		}
	}
	return n
}

// switchingQuestion asks how lights are switched; [Control.Assumed] says of which nobody said it.
const switchingQuestion = "switching"

// elsewhere reports whether what is asked for once is not this room's to have: another room
// of its kind has it, or stands before it on the walk.
func elsewhere(job *install.Job, r *install.Room, kinds []string) bool {
	before := true
	for i := range job.Rooms {
		o := &job.Rooms[i]
		switch {
		case o.ID == r.ID:
			before = false
		case o.Kind != r.Kind || o.Skipped != "":
		case before:
			return true
		case slices.ContainsFunc(o.Points, func(p install.RoomPoint) bool {
			return p.State != install.Removed && slices.Contains(kinds, p.Kind)
		}):
			return true
		}
	}
	return false
}

// withArticle is a room with its article; outside takes none.
func withArticle(room string) string {
	switch {
	case room == "outside":
		return room
	case strings.ContainsAny(room[:1], "aeiou"):
		return "an " + room
	}
	return "a " + room
}

func kindRoomName(kind string) string {
	if r := roomTable.Find(func(row *roomRow) bool { return row.Kind == kind }); r >= 0 {
		return roomTable.Row(r).Name
	}
	return "room"
}

// forgotten asks for rooms that a walk often passes by.
func forgotten(job *install.Job) []Question {
	w := job.Words
	if len(job.Rooms) < 3 {
		return nil // the walk has hardly begun
	}
	var out []Question
	for row := range roomTable.Text {
		kind := roomTable.Row(row).Kind
		id := "room:" + kind
		if _, no := job.Found.Answered[id]; no || !roomTable.Row(row).Forgotten {
			continue
		}
		if !slices.ContainsFunc(job.Rooms, func(r install.Room) bool { return r.Kind == kind }) {
			out = append(out, Question{ID: id, Asks: w.Say("No %s on the survey. Is there one?", w.Say(roomTable.Row(row).Name)),
				Add: roomTable.Row(row).Name + ":", Why: w.Say("rooms like it are easily missed")})
		}
	}
	return out
}

// shorthand is the word to type for a kind of point: the practice's own name, where it
// has words of its own and the shorthand reads it as that kind, else the common word.
func shorthand(p *rulebook.Survey, kind string) string {
	name := p.Names[kind]
	if name == "" || p.Sockets == "" {
		return kindByID[kind].Word
	}
	if lines := Read("room: "+name, p, ""); len(lines) == 1 && len(lines[0].Points) == 1 &&
		lines[0].Points[0].Kind == kind && len(lines[0].Misread) == 0 {
		return name
	}
	return kindByID[kind].Word
}
