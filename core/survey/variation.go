package survey

import (
	"math"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Effect is one consequence of a variation. One that is not known says what is
// missing.
type Effect struct {
	Kind    string `json:"kind"` // material, hours, circuits, dates, walls, demand
	Summary string `json:"summary"`
	Known   bool   `json:"known"`
}

// Change is a variation before it is accepted.
type Change struct {
	Room    install.Room `json:"room"`    // as it would become
	Summary []string     `json:"summary"` // what changes, in words
	Effects []Effect     `json:"effects"`
	Cost    *float64     `json:"cost"` // material and labour; nil when a part is not known
	Hours   *float64     `json:"hours"`
	Misread []Misreading `json:"misread"`
}

// Costs is what the company's list says of a point: material and hours for one,
// and what an hour is charged at.
type Costs struct {
	Point func(kind string) (price, hours float64, ok bool)
	HourA float64 // charge for an hour, 0 when the list has none
	Open  func() (price, hours float64, ok bool)
}

// JobStatus is where the job is when a variation comes.
type JobStatus struct {
	Stage      install.Stage
	StartDate  string
	HoursLeft  float64 // person-hours of the tasks that are not done
	Crew       int
	DayHours   float64                 // of a working day of one person
	Works      func(time.Weekday) bool // whether it is a working day
	DemandA    float64
	FuseA      float64
	DemandKnow bool
	FreeWays   int // at the board
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
	c := Change{Room: room, Summary: []string{}, Effects: []Effect{}, Misread: line.Misread}
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

// Weigh adds the consequences of a change: material and hours by the company's
// list, the circuits and the demand it touches, dates and walls.
func (c *Change) Weigh(job *install.Job, before install.Room, p *rulebook.Survey, costs Costs, at JobStatus) {
	w := job.Words
	open := false // something that the price rests on is not known
	say := func(kind string, known bool, text string) {
		open = open || !known && kind != "dates" && kind != "demand"
		c.Effects = append(c.Effects, Effect{kind, text, known})
	}
	price, hours, places, unknown := 0.0, 0.0, 0, []string{}
	adds := map[string]int{}
	for _, k := range Kinds {
		d := delta(before, c.Room, k.ID)
		if d.New == 0 && d.Moved == 0 && d.Removed == 0 {
			continue
		}
		adds[k.ID] = d.New
		places += max(d.New, 0) + max(d.Moved, 0) + max(d.Removed, 0)
		m, h, ok := costs.Point(k.ID)
		if !ok {
			unknown = append(unknown, Name(p, k.ID))
			continue
		}
		price += m * float64(d.New)
		hours += h*float64(d.New) + h*float64(d.Moved) + h/2*float64(max(0, d.Removed))
	}
	if len(unknown) > 0 {
		say("material", false, w.Say("No price: the company's list has none of %s.", strings.Join(unknown, ", ")))
	} else {
		say("material", true, w.Say("Material for points %s net by the company's list; cable and making good come on top.", signed(price)))
	}
	moreOpen := 0.0
	if before.Closed != "" && places > 0 {
		say("walls", true, w.Say("The walls of %s were closed on %s: %d places are opened again and made good.", before.Name,
			before.Closed, places))
		if m, h, ok := costs.Open(); ok {
			price, moreOpen = price+m*float64(places), h*float64(places)
		} else {
			unknown = append(unknown, w.Say("opening a wall"))
		}
	} else if places > 0 {
		say("walls", true, w.Say("The walls of %s are open: nothing is reopened.", before.Name))
	}
	hours += moreOpen
	c.Hours = &hours
	say("hours", len(unknown) == 0, w.Say("%s person-hours.", signed(hours)))
	measured, estimated, known := job.RouteOf(job.RoomByID(before.ID))
	if n := positive(adds); n > 0 {
		if known {
			l := unit.Lengths{Inches: p.Inches}
			say("material", true, w.Say("Cable: the board is %s away (%s measured, %s estimated); a point that continues a "+
				"circuit of the room takes less.", l.M(measured+estimated), l.M(measured), l.M(estimated)))
		} else {
			say("material", false, w.Say("Not priced: cable, as the route from the board to %s is not measured "+
				"or estimated.", before.Name))
		}
	}
	c.circuits(job, before, p, at, say)
	if start, err := time.Parse(time.DateOnly, at.StartDate); err == nil {
		a, b := at.finish(start, at.HoursLeft), at.finish(start, at.HoursLeft+hours)
		if a.Equal(b) {
			say("dates", true, w.Say("The tasks as they stand still end on %s.", a.Format(time.DateOnly)))
		} else {
			say("dates", true, w.Say("The tasks as they stand end on %s instead of %s.", b.Format(time.DateOnly), a.Format(time.DateOnly)))
		}
	} else {
		say("dates", false, w.Say("No start date stands on the Plan sheet."))
	}
	if len(unknown) == 0 && costs.HourA > 0 && !open {
		cost := math.Round((price+hours*costs.HourA)*100) / 100
		c.Cost = &cost
	} else if len(unknown) == 0 && costs.HourA <= 0 {
		say("material", false, w.Say("No price of labour: the company's list has no hourly charge."))
	}
}

// circuits says what the change does to circuits: one that is named is loaded
// more, an appliance with a circuit of its own adds to the demand in full until
// that circuit is designed.
func (c *Change) circuits(job *install.Job, before install.Room, p *rulebook.Survey, at JobStatus, say func(string, bool, string)) {
	w := job.Words
	old := map[string]bool{}
	for _, pt := range before.Points {
		old[pt.ID] = true
	}
	added := 0.0
	for _, pt := range c.Room.Points {
		if old[pt.ID] || pt.State != install.New {
			continue
		}
		k := kindByID[pt.Kind]
		name := Name(p, pt.Kind)
		if k.Own {
			amps := pt.CurrentA
			if amps == 0 && pt.PowerW > 0 && job.Supply.DeclaredV > 0 {
				amps = pt.PowerW / job.Supply.DeclaredV
			}
			if amps == 0 {
				say("circuits", false, w.Say("Not recorded: what the %s draws. It takes a circuit of its own and a way "+
					"on the board.", name))
				continue
			}
			added += amps * float64(pt.Count)
			ways := w.Say("%d of its ways are free", at.FreeWays)
			if at.FreeWays < pt.Count {
				ways = w.Say("none of its ways is free: a larger or a second board comes with it")
			}
			say("circuits", false, w.Say("The %s takes a circuit of its own for %s A and a way on the board (%s). Its cable and "+
				"device are not designed yet: add it on the Circuits sheet.", name, unit.Format(amps), ways))
		} else if pt.FedFrom != "" {
			if k := job.CircuitByID(named(job, pt.FedFrom)); k != nil {
				say("circuits", true, w.Say("%d × %s on %s: its checks are those on the Circuits sheet.", pt.Count, name, k.Name))
			} else {
				say("circuits", false, w.Say("Not computed: %s is fed from “%s”, which is no circuit of this job.", name, pt.FedFrom))
			}
		} else if !k.ExtraLow {
			say("circuits", false, w.Say("Not recorded: the circuit that %d × %s is fed from.", pt.Count, name))
		}
	}
	if added > 0 {
		if at.DemandKnow {
			fits := "within"
			if at.DemandA+added > at.FuseA {
				fits = "above"
			}
			say("demand", true, w.Say("Demand goes from %s A to %s A, counted in full, %s the %s A of the supply.",
				unit.Format(at.DemandA), unit.Format(at.DemandA+added), fits, unit.Format(at.FuseA)))
		} else {
			say("demand", false, w.Say("Not recorded: the demand of the house, to which %s A are added.", unit.Format(added)))
		}
	}
}

func positive(m map[string]int) int {
	n := 0
	for _, v := range m {
		n += max(v, 0)
	}
	return n
}

func signed(v float64) string {
	if v < 0 {
		return "−" + unit.Format(-v)
	}
	return "+" + unit.Format(v)
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

// finish is the last working day of so many person-hours from a start on.
func (at *JobStatus) finish(start time.Time, hours float64) time.Time {
	days := int(math.Ceil(hours / (at.DayHours * float64(max(1, at.Crew)))))
	d := start
	for n := 0; ; d = d.AddDate(0, 0, 1) {
		if at.Works(d.Weekday()) {
			if n++; n >= days {
				return d
			}
		}
	}
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
	var last []install.Room // as the newest record of scope or variation left them
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
			last = slices.Clone(r.Rooms)
		case install.Variation:
			for _, room := range r.Rooms {
				if k := slices.IndexFunc(last, func(o install.Room) bool { return o.ID == room.ID }); k >= 0 {
					last[k] = room
				} else {
					last = append(last, room)
				}
			}
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
	s.Unagreed = len(differences(last, job.Rooms, p))
	return s
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
