package materials

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// points counts what the walk asks for, room by room: accessories by kind, boxes by size, switches with their cables, what a fan or a hood
// takes beside it. What a designed circuit brings by itself is not counted twice.
func (c *counter) points() {
	p := c.book.Survey()
	stood, listed := c.stood()
	for i := range c.job.Rooms {
		x := roomCount{counter: c, r: &c.job.Rooms[i], p: p, boxes: map[string]*boxCount{}, stood: stood}
		x.count(listed)
	}
	if n := survey.Unfed(c.job, p); n > 0 {
		c.gap(Gap{What: c.w.Say("Points of the walk on no circuit yet: %d. The cables, devices and tests that they take are not counted.", n),
			Sheet: circuitsSheet})
	}
	in := c.terms.Length
	for _, l := range survey.LowVoltageOf(c.job, p).Cables {
		c.ask("walk", Ask{product: key("cable", l.ID), name: l.Name, Need: unit.Significant(in.Of(l.LengthM), 3), unit: in.Unit(), cut: true,
			byLength: true, legs: l.Runs, Assumed: true,
			Rule: c.w.Say("%d home runs by the routes of the walk, what was not measured assumed", l.Runs)})
	}
}

// stood are the boxes on runs that points of the walk are, and of how many of each point the outlets are listed with their circuits instead.
func (c *counter) stood() (stood map[[2]string][]survey.Stood, listed map[[2]string]int) {
	stood, listed = survey.StandsOf(c.job), map[[2]string]int{}
	if !c.terms.ListsBoxes {
		return stood, listed
	}
	for at := range stood {
		stood[at] = slices.DeleteFunc(stood[at], func(s survey.Stood) bool {
			own := s.Circuit.State == install.NewCircuit && s.Box.Device.Outlet()
			if own {
				listed[at]++
			}
			return own
		})
	}
	return stood, listed
}

// roomCount counts one room.
type roomCount struct {
	*counter

	r     *install.Room
	p     *rulebook.Survey
	stood map[[2]string][]survey.Stood
	order []string // of boxes
	boxes map[string]*boxCount
}

// boxCount is how many boxes of a kind a room takes.
type boxCount struct {
	name, why string
	n         float64
	assumed   bool
}

// legs are cables of controls: how many, and how long they are together, m.
type legs struct {
	n int
	m float64
}

func (l *legs) add(c *survey.ControlLeg) { l.n, l.m = l.n+c.Count, l.m+c.LengthM*float64(c.Count) }

// threeCore is the cable that goes between the switches of a light, and to a fan that runs on.
const threeCore = words.Key("Cable, three cores and earth: between switches, to fans that run on")

// ask is that of the room, in its step of the plan.
func (x *roomCount) ask(a Ask, step string) *Ask {
	a.By, a.For, a.Steps = Asker{Room: x.r.ID}, x.r.Name, []string{x.r.ID + step}
	return x.counter.ask(x.r.ID, a)
}

func (x *roomCount) count(listed map[[2]string]int) {
	w := x.w
	for i := range x.r.Points {
		pt := x.r.Points[i]
		pt.Count -= listed[[2]string{x.r.ID, pt.ID}]
		if pt.Kind == "" || pt.Count <= 0 || pt.State == install.Kept || pt.State == install.Removed {
			continue
		}
		if pt.State == install.New && !(pt.Kind == survey.ChargePoint && x.charging()) {
			plate := survey.PlateOf(pt.Kind)
			seen := plate != "" && (!x.terms.PlatesApart || plate == survey.OwnPlate)
			x.seen(Ask{product: key("point", pt.Kind), name: capital(survey.Name(x.p, pt.Kind)), Need: float64(pt.Count),
				Rule: w.Say("new points counted on the survey")}, seen)
			x.plate(plate, pt.Count)
			x.kit(&pt)
			x.lamps(&pt)
		}
		x.boxesOf(&pt)
	}
	var two, three legs
	for _, ctl := range survey.ControlsOf(x.job, x.r, x.p) {
		for _, leg := range ctl.Legs {
			if leg.Cores > 2 {
				three.add(&leg)
			} else {
				two.add(&leg)
			}
		}
		for _, part := range ctl.Parts {
			x.seen(Ask{product: key("switch", part.ID), name: part.ID.Name(w), Need: float64(part.Count), Assumed: ctl.Assumed,
				Rule: w.Say("by how the lights of the walk are switched; one-way where nobody said")}, !x.terms.PlatesApart && part.ID != survey.SensorSwitch)
			if box := x.p.Box["switch"]; box != "" && part.ID != survey.SensorSwitch {
				x.box(rulebook.BoxChoice{ID: box, Name: box}, part.Count, false)
			}
			x.plate(part.ID.Plate(), part.Count)
		}
	}
	for _, id := range x.order {
		b := x.boxes[id]
		rule := w.Say("one for each new or moved point, usual box where none is noted")
		if b.why != "" {
			rule = w.Say("by what enters it: %s", b.why)
		}
		x.ask(Ask{product: key("box", id), name: w.Say("Box %s", b.name), Need: b.n, Assumed: b.assumed, Rule: rule}, "-boxes")
	}
	x.run("switch-drop", w.Say("Cable to switches, two cores and earth"), two)
	x.run("strapper", w.Say(string(threeCore)), three)
}

// seen asks for something that has the finish of the room where it is seen. White is what is sold without a word.
func (x *roomCount) seen(a Ask, plated bool) {
	a.slot = a.product
	if f := x.job.FinishIn(x.r.ID); plated && f != install.White {
		a.product, a.name = key("finish", string(f), a.product), x.w.Say("%s, %s", a.name, f.Name(x.w))
		if f.Metal() && x.terms.EarthTails {
			x.ask(Ask{product: "earth-tail", name: x.w.Say("Earth tail from the box to a metal plate"), Need: a.Need,
				Rule: x.w.Say("one for each plate of metal: it is earthed, on whatever circuit it stands")}, "-fit")
		}
	}
	x.ask(a, "-fit")
}

// plate asks for the plates over so many things, where a practice buys them apart.
func (x *roomCount) plate(opening survey.Opening, n int) {
	if a, ok := plateOf(x.counter, x.r.ID, opening); ok {
		a.Need = float64(n)
		x.ask(a, "-fit")
	}
}

// plateOf is the plate over an opening in a room, where a practice buys plates apart; not ok where none is bought.
func plateOf(c *counter, room string, opening survey.Opening) (a Ask, ok bool) {
	if !c.terms.PlatesApart || opening == "" || opening == survey.OwnPlate {
		return a, false
	}
	w := c.w
	a = Ask{product: key("plate", string(opening)), name: w.Say("Wall plate, %s", opening.Name(w)), Rule: w.Say("one over each box, by what stands in it")}
	a.slot = a.product
	if f := c.job.FinishIn(room); f != install.White {
		a.product, a.name = key("finish", string(f), a.product), w.Say("%s, %s", a.name, f.Name(w))
	}
	return a, true
}

// kit asks for what new points bring with them.
func (x *roomCount) kit(pt *install.RoomPoint) {
	w, in := x.w, x.terms.Length
	for _, part := range x.p.Kits[pt.Kind] {
		a := Ask{product: part.Key, name: w.Say(part.Name), Need: part.Count * float64(pt.Count), Rule: w.Say(part.Rule)}
		step := "-fit"
		if part.First {
			step = "-boxes"
		}
		if part.Length {
			m := part.Count
			a.Assumed = !part.Duct || pt.DuctM == 0
			if part.Duct && pt.DuctM > 0 {
				m = pt.DuctM
			}
			a.Need, a.unit, a.cut = unit.Significant(in.Of(m*float64(pt.Count)), 3), in.Unit(), true
			if !part.Duct {
				a.byLength, a.legs = true, pt.Count
			}
		}
		if part.Plate {
			x.seen(a, !x.terms.PlatesApart)
			continue
		}
		x.ask(a, step)
	}
}

// lamps asks for the lamps of new luminaires: which one is told by all that is known of it.
func (x *roomCount) lamps(pt *install.RoomPoint) {
	w, l := x.w, &pt.Lamp
	n := l.Bought(pt.Count)
	if n == 0 {
		return
	}
	if l.ColourK == 0 || l.PowerW == 0 {
		x.gap(Gap{What: w.Say("%s: the colour temperature or the power of the lamps %s is not said yet.", x.r.Name, l.Cap), Sheet: working.SurveySheet,
			Leaf: working.WalkLeaf})
		return
	}
	a := Ask{product: key("lamp", l.Cap, l.ColourK, l.PowerW), name: w.Say("Lamp %s, %s, %s", l.Cap, unit.With(l.ColourK, "K"), unit.With(l.PowerW, "W")),
		Need: float64(n), Rule: w.Say("as many as the luminaires take")}
	if pt.Dimmed {
		a.product, a.name = a.product+":dim", w.Say("%s, for dimming", a.name)
	}
	x.ask(a, "-fit")
}

// boxesOf counts the boxes of alike points.
func (x *roomCount) boxesOf(pt *install.RoomPoint) {
	for _, b := range survey.BoxesOf(x.job, x.book, pt, x.stood[[2]string{x.r.ID, pt.ID}]) {
		if b.At.Box != nil {
			x.over(b.At, &b.BoxChoice)
		}
		x.box(b.BoxChoice, b.Count, b.At.Box == nil)
	}
}

// over says that no box holds what enters it.
func (c *counter) over(at survey.Stood, choice *rulebook.BoxChoice) {
	if choice.Over {
		c.gap(Gap{What: c.w.Say("%s: no box of the table holds what enters it: %s. Join some of it in a box of its own.", at.Box.Called(), choice.Why),
			Sheet: circuitsSheet, Circuit: at.Circuit.ID})
	}
}

func (x *roomCount) box(choice rulebook.BoxChoice, n int, assumed bool) {
	b := x.boxes[choice.ID]
	if b == nil {
		b = &boxCount{name: choice.Name}
		x.order, x.boxes[choice.ID] = append(x.order, choice.ID), b
	}
	b.n, b.assumed = b.n+float64(n), b.assumed || assumed
	if choice.Deeper && b.why == "" {
		b.why = choice.Why
	}
}

// run asks for cable to or between switches.
func (x *roomCount) run(id, name string, l legs) {
	if l.n == 0 {
		return
	}
	in := x.terms.Length
	x.ask(Ask{product: key("cable", id), name: name, Need: unit.Significant(in.Of(l.m), 3), unit: in.Unit(),
		cut: true, byLength: true, legs: l.n, Assumed: true,
		Rule: x.w.Say("%d legs of its switches, their usual lengths until they are measured, of the size of their circuit", l.n)}, "-boxes")
}
