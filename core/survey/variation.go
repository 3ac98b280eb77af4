package survey

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Effect is one consequence of a variation. One that is not known says what is missing.
type Effect struct {
	Kind    EffectKind `json:"kind"`
	Summary string     `json:"summary"`
	Known   bool       `json:"known"`
}

// EffectKind is what an effect is about.
type EffectKind string

// What effects are about. Only [Breaks] stops something that was in order.
const (
	Breaks   EffectKind = "breaks" // a check that fails with it, work or a reading that has to be done again
	Circuits EffectKind = "circuits"
	Material EffectKind = "material"
	Labour   EffectKind = "hours"
	Dates    EffectKind = "dates"
	Walls    EffectKind = "walls"
	Demand   EffectKind = "demand"
)

// Change is a variation before it is accepted.
type Change struct {
	Room     install.Room    `json:"room"`    // as it would become
	Summary  []string        `json:"summary"` // what changes, in words
	Circuits []CircuitChange `json:"circuits"`
	Lines    []LineChange    `json:"lines"` // of the order
	Effects  []Effect        `json:"effects"`
	Cost     *float64        `json:"cost"` // material, opening up and labour; nil when a part of it is not known
	// AtLeast is what the parts of the cost come to that are known.
	AtLeast float64      `json:"atLeast"`
	Hours   float64      `json:"hours"` // person-hours
	Misread []Misreading `json:"misread"`
}

// CircuitChange is what a variation does to one circuit.
type CircuitChange struct {
	ID        string   `json:"id"`
	Name      string   `json:"name"`
	New       bool     `json:"new"`
	Gone      bool     `json:"gone"`
	Gains     []string `json:"gains"` // points that come onto its run, by what they are called
	Loses     []string `json:"loses"`
	CableM    float64  `json:"cableM"` // more of it, m; legs that come with it are assumed
	Device    string   `json:"device"` // as it is then
	Conductor string   `json:"conductor"`
	Way       int      `json:"way"` // 0 where it finds none
}

// LineChange is what a variation does to one line of the order.
type LineChange struct {
	Key  string   `json:"key"` // of the price list
	Name string   `json:"name"`
	More float64  `json:"more"` // below 0 for less
	Unit string   `json:"unit"`
	Cost *float64 `json:"cost"` // nil where the list has no price of it
	// Bought is how much of what falls away was ordered already: it is no saving.
	Bought float64 `json:"bought"`
}

// Said is what a change brings, in sentences, for the record of who accepted it.
func (c *Change) Said(w *words.Catalogue) []string {
	out := []string{}
	for i := range c.Circuits {
		out = append(out, c.Circuits[i].Says(w))
	}
	for _, l := range c.Lines {
		if l.Cost != nil {
			out = append(out, w.Say("%s %s %s: %s", unit.Signed(l.More), l.Unit, l.Name, unit.Format(*l.Cost)))
		} else {
			out = append(out, w.Say("%s %s %s: not priced", unit.Signed(l.More), l.Unit, l.Name))
		}
	}
	for _, e := range c.Effects {
		out = append(out, e.Summary)
	}
	return out
}

// Says tells what becomes of the circuit in one sentence.
func (c *CircuitChange) Says(w *words.Catalogue) string {
	switch {
	case c.Gone:
		return w.Say("%s falls away.", c.Name)
	case c.New:
		way := w.Say("no way free")
		if c.Way > 0 {
			way = w.Say("way %d", c.Way)
		}
		return w.Say("New circuit %s: %s, %s, %s.", c.Name, c.Device, c.Conductor, way)
	case len(c.Loses) == 0:
		return w.Say("%s gains %s.", c.Name, strings.Join(c.Gains, ", "))
	case len(c.Gains) == 0:
		return w.Say("%s loses %s.", c.Name, strings.Join(c.Loses, ", "))
	}
	return w.Say("%s gains %s and loses %s.", c.Name, strings.Join(c.Gains, ", "), strings.Join(c.Loses, ", "))
}

// changes say what becomes of points that are there.
var changes = map[string]words.Key{install.Removed: words.Key("drops %d × %s"), install.Moved: words.Key("moves %d × %s"),
	install.Kept: words.Key("keeps %d × %s")}

// Vary works out what a line of shorthand would change in a room: new points
// are added; one marked - is dropped when it was still to be fitted and removed
// when it is there; one marked > is moved; one marked = stays after all. The
// error is [install.Errors].
func Vary(room install.Room, text string, p *rulebook.Survey, newID func() string) (Change, error) {
	w := p.Words
	line := Read(strings.ReplaceAll(text, "\n", ", "), p, room.Floor)[0]
	c := Change{Room: room, Summary: []string{}, Circuits: []CircuitChange{}, Lines: []LineChange{}, Effects: []Effect{}, Misread: line.Misread}
	c.Room.Points = slices.Clone(room.Points)
	bad := func(accept string) error {
		return install.Errors{{Field: "text", Value: text, Accept: accept}}
	}
	if len(line.Points) == 0 {
		return c, bad(w.Say("points in shorthand, such as “2 double socket, - light, > tv”"))
	}
	for _, pt := range line.Points {
		if pt.Kind == "" {
			return c, bad(w.Say("shorthand that is understood; “%s” is not", pt.Typed))
		}
		name := Name(p, pt.Kind)
		if pt.State == install.New {
			pt.ID = newID()
			c.Room.Points = append(c.Room.Points, pt)
			c.Summary = append(c.Summary, w.Say("adds %d × %s", pt.Count, name))
			continue
		}
		left := pt.Count
		for i := 0; i < len(c.Room.Points) && left > 0; i++ {
			o := &c.Room.Points[i]
			if o.Kind != pt.Kind || o.State == install.Removed && pt.State != install.Kept {
				continue
			}
			n := min(left, o.Count)
			changed := *o
			changed.Count = n
			switch pt.State {
			case install.Removed:
				if o.State == install.New {
					changed.Count = 0 // never fitted: it only goes from the list
				}
				changed.State = install.Removed
			case install.Moved:
				if o.State == install.Kept {
					changed.State = install.Moved
				}
				if pt.HeightMM > 0 {
					changed.HeightMM = pt.HeightMM
				}
				if pt.Wall != "" {
					changed.Wall = pt.Wall
				}
				if pt.Note != "" {
					changed.Note = pt.Note
				}
			case install.Kept:
				if o.State != install.Removed && o.State != install.Moved {
					continue
				}
				changed.State = install.Kept
			}
			left -= n
			if o.Count -= n; o.Count == 0 {
				if changed.Count == 0 {
					c.Room.Points = slices.Delete(c.Room.Points, i, i+1)
					i--
					continue
				}
				*o = changed
				continue
			}
			if changed.Count > 0 {
				changed.ID = newID()
				c.Room.Points = slices.Insert(c.Room.Points, i+1, changed)
				i++
			}
		}
		if left > 0 {
			return c, bad(w.Say("a %s that is in %s: %d of %d are not there to be changed", name, room.Name, left, pt.Count))
		}
		c.Summary = append(c.Summary, w.Say(string(changes[pt.State]), pt.Count, name))
	}
	return c, nil
}

// Deltas is how two states of a room differ, kind by kind of point; those alike are left out.
func Deltas(a, b install.Room) []Count {
	out := []Count{}
	for _, k := range Kinds {
		if d := delta(a, b, k.ID); d.States != (States{}) {
			out = append(out, d)
		}
	}
	return out
}

// delta is how a kind's points of a room differ.
func delta(a, b install.Room, kind string) Count {
	count := func(r install.Room) (c Count) {
		for i := range r.Points {
			if r.Points[i].Kind == kind {
				c.add(r.Points[i].State, r.Points[i].Count)
			}
		}
		return c
	}
	x, y := count(a), count(b)
	return Count{Kind: kind, States: States{New: y.New - x.New, Kept: y.Kept - x.Kept, Moved: y.Moved - x.Moved,
		Removed: y.Removed - x.Removed}}
}

// Difference is how a kind's points of a room differ from the agreed scope.
type Difference struct {
	Room string `json:"room"`
	Name string `json:"name"`
	Was  Count  `json:"was"`
	Is   Count  `json:"is"`
}

// Scope is the agreed scope beside what stands now.
type Scope struct {
	Agreed      *install.Record  `json:"agreed"` // the first, without its rooms
	Variations  []install.Record `json:"variations"`
	Differences []Difference     `json:"differences"`
	Cost        float64          `json:"cost"`     // of the variations that have one
	Unpriced    int              `json:"unpriced"` // variations without one
	Unagreed    int              `json:"unagreed"` // differences that no variation accounts for
}

// ScopeOf compares the walk with the scope that was first agreed.
func ScopeOf(job *install.Job, p *rulebook.Survey) Scope {
	s := Scope{Variations: []install.Record{}, Differences: []Difference{}}
	var agreed []install.Room
	for i := range job.Records {
		r := job.Records[i]
		switch r.Kind {
		case install.Scope:
			if s.Agreed == nil {
				agreed = r.Rooms
				bare := r
				bare.Rooms = nil
				s.Agreed = &bare
			}
		case install.Variation:
			if r.Cost != nil {
				s.Cost += *r.Cost
			} else {
				s.Unpriced++
			}
			r.Rooms = nil
			s.Variations = append(s.Variations, r)
		}
	}
	if s.Agreed == nil {
		return s
	}
	s.Differences = differences(agreed, job.Rooms, p)
	s.Unagreed = len(Past(job, p))
	return s
}

// Past is how the walk differs from the points that were agreed and from what variations made of them: nothing where they were never agreed.
func Past(job *install.Job, p *rulebook.Survey) []Difference {
	var last []install.Room // as the newest record of scope or variation left them
	agreed := false
	for i := range job.Records {
		r := &job.Records[i]
		switch r.Kind {
		case install.Scope:
			last, agreed = slices.Clone(r.Rooms), true
		case install.Variation:
			for _, room := range r.Rooms {
				if k := slices.IndexFunc(last, func(o install.Room) bool { return o.ID == room.ID }); k >= 0 {
					last[k] = room
				} else {
					last = append(last, room)
				}
			}
		}
	}
	if !agreed {
		return nil
	}
	return differences(last, job.Rooms, p)
}

// Grown is when a variation that was accepted last added or moved points, by room; rooms without one are left out.
func Grown(job *install.Job) map[string]install.Moment {
	out, last := map[string]install.Moment{}, map[string]install.Room{}
	for i := range job.Records {
		r := &job.Records[i]
		if r.Kind != install.Scope && r.Kind != install.Variation {
			continue
		}
		for _, now := range r.Rooms {
			if r.Kind == install.Variation && slices.ContainsFunc(Deltas(last[now.ID], now), func(d Count) bool { return d.New > 0 || d.Moved > 0 }) {
				out[now.ID] = r.Moment()
			}
			last[now.ID] = now
		}
	}
	return out
}

func differences(was, is []install.Room, p *rulebook.Survey) []Difference {
	out := []Difference{}
	names := map[string]string{}
	ids := []string{}
	byID := func(list []install.Room, id string) install.Room {
		for i := range list {
			if list[i].ID == id {
				return list[i]
			}
		}
		return install.Room{}
	}
	for _, list := range [][]install.Room{was, is} {
		for _, r := range list {
			if names[r.ID] == "" {
				ids = append(ids, r.ID)
			}
			names[r.ID] = r.Name
		}
	}
	for _, id := range ids {
		a, b := byID(was, id), byID(is, id)
		for _, k := range Kinds {
			if d := delta(a, b, k.ID); d.New != 0 || d.Kept != 0 || d.Moved != 0 || d.Removed != 0 {
				out = append(out, Difference{Room: names[id], Name: Name(p, k.ID), Was: delta(install.Room{}, a, k.ID),
					Is: delta(install.Room{}, b, k.ID)})
			}
		}
	}
	return out
}
