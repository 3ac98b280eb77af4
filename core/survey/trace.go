package survey

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/words"
)

// Tracing is what tracing the circuits that are there came to, and what is still open.
type Tracing struct {
	Circuits []TracedCircuit `json:"circuits"`
	Points   []TracedPoint   `json:"points"`
	Open     int             `json:"open"` // points of which nobody knows what feeds them
	Next     string          `json:"next"` // what would tell most; empty when nothing is open
}

// TracedCircuit is a circuit that is there.
type TracedCircuit struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Traced bool   `json:"traced"` // its device was opened and looked what goes dead
	By     string `json:"by"`
	At     string `json:"at"` // 2006-01-02
	Dead   int    `json:"dead"`
	// Order is the order of its run as far as partings and cables tell: boxes of one step are in an order that nobody knows. None while the
	// run was parted nowhere.
	Order []OrderStep `json:"order"`
	// Clash says why the partings do not go together; empty where they do.
	Clash string `json:"clash"`
	// Tells is where parting the run next would tell most, in words; empty where its order is known.
	Tells string `json:"tells"`
}

// OrderStep are boxes that follow those of the step before; more than one where their order is not known.
type OrderStep struct {
	Boxes []string `json:"boxes"` // by id
	Names []string `json:"names"`
}

// TracedPoint are alike points of a room that are there.
type TracedPoint struct {
	Room     string     `json:"room"`
	RoomName string     `json:"roomName"`
	Point    string     `json:"point"`
	Name     string     `json:"name"`
	Count    int        `json:"count"`
	On       []TracedOn `json:"on"`
	Open     int        `json:"open"`
	Says     string     `json:"says"`  // what is wrong or open; empty when all are known
	Clash    bool       `json:"clash"` // it was dead with more devices than there are of it
}

// TracedOn is how many of them went dead with a circuit.
type TracedOn struct {
	Circuit string `json:"circuit"`
	Name    string `json:"name"`
	Dead    int    `json:"dead"`
}

// Traces are the newest trace of each circuit and of each box, those left out that were taken back.
func Traces(job *install.Job) map[[2]string]*install.Record {
	out := map[[2]string]*install.Record{}
	for i := range job.Records {
		r := &job.Records[i]
		if r.Kind != install.Trace {
			continue
		}
		if key := [2]string{r.Circuit, r.Subject}; r.Done {
			delete(out, key)
		} else {
			out[key] = r
		}
	}
	return out
}

// TracingOf says what the traces of a job come to. What went dead with one device is on its circuit; with more devices than there are of it,
// nothing is known of it; and what nobody tried stays unknown.
func TracingOf(job *install.Job, p *rulebook.Survey) Tracing {
	w := job.Words
	t := Tracing{Circuits: []TracedCircuit{}, Points: []TracedPoint{}}
	traces := Traces(job)
	untried := []string{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		if k.State == install.NewCircuit {
			continue
		}
		c := TracedCircuit{ID: k.ID, Name: k.Name, Order: []OrderStep{}}
		if r := traces[[2]string{k.ID, ""}]; r != nil {
			c.Traced, c.By, c.At = true, r.By, r.At.Format("2006-01-02")
			for _, x := range r.Traced {
				c.Dead += x.Dead
			}
		} else {
			untried = append(untried, k.Name)
		}
		c.order(w, k, traces)
		t.Circuits = append(t.Circuits, c)
	}
	for i := range job.Rooms {
		r := &job.Rooms[i]
		for n := range r.Points {
			if pt := &r.Points[n]; pt.State != install.New && kindByID[pt.Kind].Box != "" && len(t.Circuits) > 0 {
				t.Points = append(t.Points, tracedPoint(job, p, r, pt, traces, untried))
				t.Open += t.Points[len(t.Points)-1].Open
			}
		}
	}
	switch {
	case t.Open == 0:
	case len(untried) > 0:
		t.Next = w.Say("Switch off %s and look what is dead: %d points are not found yet.", untried[0], t.Open)
	default:
		t.Next = w.Say("Every circuit was traced and %d points are not found: look for a source or a board that is not recorded. "+
			"They count as live.", t.Open)
	}
	return t
}

func tracedPoint(job *install.Job, p *rulebook.Survey, r *install.Room, pt *install.RoomPoint, traces map[[2]string]*install.Record,
	untried []string) TracedPoint {
	w := job.Words
	out := TracedPoint{Room: r.ID, RoomName: r.Name, Point: pt.ID, Name: Name(p, pt.Kind), Count: pt.Count, On: []TracedOn{}}
	found := 0
	for i := range job.Circuits {
		k := &job.Circuits[i]
		rec := traces[[2]string{k.ID, ""}]
		if rec == nil {
			continue
		}
		for _, x := range rec.Traced {
			if x.Room == r.ID && x.Point == pt.ID && x.Dead > 0 {
				out.On, found = append(out.On, TracedOn{k.ID, k.Name, x.Dead}), found+x.Dead
			}
		}
	}
	names := []string{}
	for _, on := range out.On {
		names = append(names, on.Name)
	}
	switch {
	case found > pt.Count:
		out.Clash, out.Open = true, pt.Count
		out.Says = w.Say("Dead with %s, more than there are: two were off at once, or they share a neutral or a supply. It counts as live: trace each again alone.",
			strings.Join(names, w.Say(" and with ")))
	case found < pt.Count:
		out.Open = pt.Count - found
		if len(untried) > 0 {
			out.Says = w.Say("%d not found yet; not tried: %s.", out.Open, strings.Join(untried, ", "))
		} else {
			out.Says = w.Say("%d stayed live, or were not tried, with every circuit off.", out.Open)
		}
	}
	return out
}

// order infers in which order the boxes of a run come from where it was parted and what went dead behind: a box is behind the last parting
// that made it dead. A box with one cable is an end.
func (c *TracedCircuit) order(w *words.Catalogue, k *install.Circuit, traces map[[2]string]*install.Record) {
	behind := map[string][]string{} // by the box that was parted
	for i := range k.Serves.Boxes {
		id := k.Serves.Boxes[i].ID
		if r := traces[[2]string{k.ID, id}]; r != nil {
			dead := []string{}
			for _, x := range r.Traced {
				if x.Dead > 0 && x.Box != id && k.Serves.BoxByID(x.Box) != nil {
					dead = append(dead, x.Box)
				}
			}
			behind[id] = dead
		}
	}
	if len(behind) == 0 || k.Serves.Back != "" {
		return
	}
	name := func(id string) string { return k.Serves.BoxByID(id).Called() }
	for a, da := range behind {
		for b, db := range behind {
			both := slices.ContainsFunc(da, func(x string) bool { return slices.Contains(db, x) })
			switch {
			case a >= b:
			case slices.Contains(da, b) && slices.Contains(db, a):
				c.Clash = w.Say("%s went dead behind %s and the other way round: one of the two was not parted alone.", name(a), name(b))
			case both && !slices.Contains(da, b) && !slices.Contains(db, a):
				c.Clash = w.Say("The same boxes went dead behind %s and behind %s, and neither behind the other: the run is a ring, or one was not parted alone.", name(a), name(b))
			}
		}
	}
	if c.Clash != "" {
		return
	}
	c.steps(w, k, behind)
}

// steps puts the boxes of a run in order: a box is as deep as the partings that made it dead, and a box that was parted comes after all others
// of its depth, as what is behind it is deeper. On a run that branches only the depth tells.
func (c *TracedCircuit) steps(w *words.Catalogue, k *install.Circuit, behind map[string][]string) {
	depth, deepest, heads := map[string]int{}, 0, map[int]int{}
	for _, dead := range behind {
		for _, id := range dead {
			depth[id]++
			deepest = max(deepest, depth[id])
		}
	}
	for id, dead := range behind {
		if len(dead) > 0 {
			heads[depth[id]]++
		}
	}
	branches := slices.ContainsFunc(k.Serves.Boxes, func(b install.Box) bool { return b.Cables > 2 })
	for _, n := range heads {
		branches = branches || n > 1
	}
	for d := 0; d <= deepest; d++ {
		step, last, parted := []string{}, []string{}, ""
		for i := range k.Serves.Boxes {
			b := &k.Serves.Boxes[i]
			dead, opened := behind[b.ID]
			switch {
			case depth[b.ID] != d:
			case len(dead) > 0 && !branches:
				parted = b.ID
			case (b.Cables == 1 || opened && len(dead) == 0) && !branches:
				last = append(last, b.ID) // nothing goes on from it
			default:
				step = append(step, b.ID)
			}
		}
		if parted != "" && len(last) > 0 {
			c.Order, c.Clash = []OrderStep{}, w.Say("%s ends the run by its cables or what was dead behind it, and the run goes on behind %s: count its cables again.",
				k.Serves.BoxByID(last[0]).Called(), k.Serves.BoxByID(parted).Called())
			return
		}
		for _, part := range [][]string{step, last} {
			if len(part) > 0 {
				c.Order = append(c.Order, stepOf(k, part))
			}
		}
		if parted != "" {
			c.Order = append(c.Order, stepOf(k, []string{parted}))
		}
	}
	most := 1
	for _, s := range c.Order {
		if len(s.Boxes) > most {
			most = len(s.Boxes)
			c.Tells = w.Say("The order of %s is not known. Part the run at %s and look what goes dead behind it.", strings.Join(s.Names, ", "), s.Names[len(s.Names)/2])
		}
	}
}

func stepOf(k *install.Circuit, boxes []string) OrderStep {
	s := OrderStep{Boxes: boxes, Names: []string{}}
	for _, id := range boxes {
		s.Names = append(s.Names, k.Serves.BoxByID(id).Called())
	}
	return s
}

// Known is the order of the run where partings and cables tell it whole, box by box; ok is false where it is open or they clash.
func (c *TracedCircuit) Known() (order []string, ok bool) {
	for _, s := range c.Order {
		if len(s.Boxes) != 1 {
			return nil, false
		}
		order = append(order, s.Boxes[0])
	}
	return order, c.Clash == "" && len(order) > 1
}
