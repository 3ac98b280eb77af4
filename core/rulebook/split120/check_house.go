package split120

import (
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/unit"
)

// legs puts every load of each panel on its leg and proposes moves that even them out.
func (s *system) legs() {
	s.done.Legs = []rulebook.Legs{}
	for b := range s.Job.EachBoard() {
		s.legsOf(b)
	}
}

func (s *system) legsOf(panel *install.Board) {
	r := &rulebook.Legs{Board: panel.ID, Moves: []rulebook.Move{}}
	singles, any := s.onLegs(panel, r)
	r.AfterA, r.AfterB, r.NeutralA = r.A, r.B, math.Abs(r.A-r.B)
	if !any || r.A+r.B == 0 {
		return
	}
	s.evenOut(panel, r, singles)
	k := s.Of(panel.ID)
	if !panel.Main() {
		k.Title += " of " + panel.Name
	}
	k.From(clauseBalance.in(s.code))
	k.Step("leg A", "sum of what is on it", "", r.A, "A", "")
	k.Step("leg B", "sum of what is on it", "", r.B, "A", "")
	k.Step("neutral", "difference", text("|", r.A, " − ", r.B, "|"), r.NeutralA, "A", "")
	share := k.Step("difference", "of the heavier leg", "", r.NeutralA/max(r.A, r.B)*100, "%", "")
	limit := ruleOf(s.Job, k, "LEGS")
	k.Decide(true)
	k.Summary = text("Leg A ", r.A, " A, leg B ", r.B, " A with everything on; the neutral carries the difference.")
	if share > limit && len(r.Moves) == 0 {
		k.Summary += " No single load evens it out."
	}
	if share > limit && len(r.Moves) > 0 {
		k.Warn()
		moves := []string{}
		for _, m := range r.Moves {
			moves = append(moves, text(m.Name, " from ", m.From, " to ", m.To))
		}
		k.Summary += text(" Evened out by moving ", strings.Join(moves, ", "), ": ", r.AfterA, " A and ", r.AfterB, " A.")
	} else {
		r.Moves, r.AfterA, r.AfterB = []rulebook.Move{}, r.A, r.B
	}
	if r.Unknown > 0 {
		k.Summary += text(" ", r.Unknown, " spaces have no load noted: clamp them.")
	}
	s.done.Legs = append(s.done.Legs, *r)
}

// legLoad is what one way takes from one leg.
type legLoad struct {
	name, circuit string
	way           int
	amps          float64
}

// onLegs sums what the ways and the circuits take from each leg. It returns those of one leg,
// which could change places, and whether there is anything at all.
func (s *system) onLegs(b *install.Board, r *rulebook.Legs) (singles []legLoad, any bool) {
	put := func(leg int, amps float64) {
		if leg == 0 {
			r.A += amps
		} else {
			r.B += amps
		}
	}
	for _, w := range b.Ways {
		if w.Label == "" && w.Device == "" {
			continue
		}
		if w.LoadA == 0 {
			r.Unknown++
			continue
		}
		if w.Poles >= 2 {
			put(0, w.LoadA)
			put(1, w.LoadA)
			continue
		}
		put(legOf(w.No), w.LoadA)
		singles = append(singles, legLoad{name: w.Label, way: w.No, amps: w.LoadA})
	}
	any = len(singles) > 0
	for _, k := range s.Job.On(b) {
		if k.Protection.Way == 0 {
			continue
		}
		any = true
		amps, _, _, _, _ := circuitLoad(k)
		if k.Use == useDistribution && amps == 0 {
			if onA, onB, _ := s.legsBelow(k); onA.amps+onB.amps > 0 {
				put(0, onA.amps)
				put(1, onB.amps)
				continue
			}
			amps, _, _, _ = (&circuit{system: s, k: k, rules: rulesOf(k.Use)}).fedLoad()
		}
		if sharesNeutral(k) {
			put(legOf(k.Protection.Way), amps)
			put(legOf(terms.SecondWay(k)), amps)
			continue
		}
		if hotsOf(k) == 2 {
			put(0, amps)
			put(1, amps)
			continue
		}
		put(legOf(k.Protection.Way), amps)
		singles = append(singles, legLoad{k.Name, k.ID, k.Protection.Way, amps})
	}
	return singles, any
}

// legSum is what hangs on a leg, and the part of it that runs for three hours or more.
type legSum struct{ amps, continuous float64 }

// legsBelow are the legs of the panel behind a feeder: the leg A of the feeder's own panel first, as the space of its breaker says. ok is
// false, and both are nothing, where the panel was not written down or a circuit on it has no space yet.
func (s *system) legsBelow(feeder *install.Circuit) (onA, onB legSum, ok bool) {
	return s.legsBehind(feeder, 0)
}

func (s *system) legsBehind(feeder *install.Circuit, depth int) (onA, onB legSum, ok bool) {
	b := s.Job.BoardFedBy(feeder.ID)
	if b == nil || depth > len(s.Job.Circuits) || feeder.Protection.Poles < 2 {
		return legSum{}, legSum{}, false
	}
	put := func(leg int, x legSum) {
		if leg == 0 {
			onA = legSum{onA.amps + x.amps, onA.continuous + x.continuous}
		} else {
			onB = legSum{onB.amps + x.amps, onB.continuous + x.continuous}
		}
	}
	for _, k := range s.Job.On(b) {
		amps, cont, _, _, _ := circuitLoad(k)
		switch {
		case k.Protection.Way == 0:
			return legSum{}, legSum{}, false
		case k.Use == useDistribution && amps == 0:
			a, b, _ := s.legsBehind(k, depth+1)
			put(0, a)
			put(1, b)
		case sharesNeutral(k):
			put(legOf(k.Protection.Way), legSum{amps, cont})
			put(legOf(terms.SecondWay(k)), legSum{amps, cont})
		case hotsOf(k) == 2:
			put(0, legSum{amps, cont})
			put(1, legSum{amps, cont})
		default:
			put(legOf(k.Protection.Way), legSum{amps, cont})
		}
	}
	for _, w := range b.Ways {
		if w.Free() || w.LoadA == 0 {
			continue
		}
		for _, n := range spacesOf(w.No, max(w.Poles, 1)) {
			put(legOf(n), legSum{amps: w.LoadA})
		}
	}
	return onA, onB, true
}

// evenOut proposes up to four moves: one load at a time from the heavier leg, the one that
// leaves the smallest difference, while that is smaller than before.
func (s *system) evenOut(panel *install.Board, r *rulebook.Legs, singles []legLoad) {
	free := []int{}
	for _, w := range panel.Ways {
		if s.takenBy(space{panel.Feeder(), w.No}, install.WholeWay, "") == "" {
			free = append(free, w.No)
		}
	}
	slices.Sort(free)
	for len(r.Moves) < 4 {
		diff := r.AfterA - r.AfterB
		from := 0
		if diff < 0 {
			from = 1
		}
		best, bestLeft := -1, math.Abs(diff)
		target := slices.IndexFunc(free, func(n int) bool { return legOf(n) != from })
		if target < 0 {
			break
		}
		for i, l := range singles {
			if legOf(l.way) != from {
				continue
			}
			if left := math.Abs(math.Abs(diff) - 2*l.amps); left < bestLeft-1e-9 {
				best, bestLeft = i, left
			}
		}
		if best < 0 {
			break
		}
		l := &singles[best]
		r.Moves = append(r.Moves, rulebook.Move{Name: l.name, Circuit: l.circuit, From: l.way, To: free[target]})
		sign := l.amps
		if from == 1 {
			sign = -sign
		}
		r.AfterA, r.AfterB = r.AfterA-sign, r.AfterB+sign
		l.way, free[target] = free[target], l.way
	}
}

// spacing judges the receptacles along the walls and counters of each room that was
// drawn by its lengths (210.52).
func (s *system) spacing() {
	for i := range s.Job.Rooms {
		room := &s.Job.Rooms[i]
		if len(room.Walls) == 0 {
			continue
		}
		k := s.Of(room.ID)
		k.Title = "Receptacles along the walls of " + room.Name
		k.From(under(receptacleRules, s.code), clauseSpacing.in(s.code))
		need, has, short := 0.0, 0.0, []string{}
		for n, w := range room.Walls {
			in, what := spacingIn{Walls: []float64{feet(w.LengthM)}, School: string(s.code)}, "wall"
			if w.Counter {
				in, what = spacingIn{Counters: in.Walls, Walls: []float64{}, School: string(s.code)}, "counter"
			}
			res, _, err := calcSpacing(in)
			if err != nil {
				k.AddMissing(err.Error())
				continue
			}
			_, wall, _, counter := reaches(s.code)
			one := k.Step(text(what, " ", n+1), text("one for each ",
				2*map[bool]float64{true: counter, false: wall}[w.Counter], " ft or part"), text(feet(w.LengthM), " ft"),
				res.WallReceptacles+res.CounterReceptacles, "", clauseSpacing.ref(s.code))
			need, has = need+one, has+float64(w.Has)
			if float64(w.Has) < one {
				short = append(short, text(what, " ", n+1, " (", one-float64(w.Has), " more)"))
			}
		}
		k.Min(has, need)
		k.Summary = text(has, " along the walls, ", need, " needed.")
		if len(short) > 0 {
			k.Decide(false)
			k.Summary += " Short: " + strings.Join(short, ", ") + "."
		}
	}
}

// requiredUse is a kind of circuit that a dwelling must have.
type requiredUse struct {
	use, name string
	need      float64
	leastA    float64
}

// requiredUses lists the circuits that a dwelling must have. Whether it has a garage
// with power decides on one of them: missing names that where nobody knows.
func (s *system) requiredUses() (out []requiredUse, missing string) {
	at := func(id string) float64 { return rule(receptacleRules, id) }
	if s.code == CEC {
		return []requiredUse{{"small-appliance", "kitchen counter", at("CA-KITCHEN"), 15}, {"laundry", "laundry", at("CA-LAUNDRY"), 15}}, ""
	}
	out = []requiredUse{{"small-appliance", "small-appliance", at("C-SA"), 20}, {"laundry", "laundry", at("C-LA"), 20},
		{"bathroom", "bathroom", at("C-BA"), 20}}
	garage := slices.ContainsFunc(s.Job.Rooms, func(r install.Room) bool { return r.Kind == "garage" })
	switch {
	case garage:
		out = append(out, requiredUse{"garage", "garage", at("C-GA"), 20})
	case len(s.Job.Rooms) == 0 && !slices.ContainsFunc(s.Job.Circuits, func(k install.Circuit) bool { return k.Use == useGarage }):
		missing = "whether there is a garage with power (the rooms of the survey)"
	}
	return out, missing
}

// requiredCircuits counts the circuits that a dwelling must have, where the job rewires
// it.
func (s *system) requiredCircuits() {
	k := s.Of("")
	k.From(under(receptacleRules, s.code))
	short, there := []string{}, []string{}
	uses, missing := s.requiredUses()
	for _, x := range uses {
		n := 0.0
		for i := range s.Job.Circuits {
			c := &s.Job.Circuits[i]
			if c.Use != install.Use(x.use) || c.Protection.RatingA < x.leastA {
				continue
			}
			n++
			if s.code == CEC && hotsOf(c) == 2 && neutralOf(c) {
				n++ // a three-wire circuit brings two
			}
		}
		need := k.Step(x.name, text("of ", x.leastA, " A, at least"), text(n, " there"), x.need, "", under(receptacleRules, s.code).Ref)
		there = append(there, x.name)
		if n < need {
			short = append(short, text(need-n, " ", x.name, " of ", x.leastA, " A"))
		}
	}
	if missing != "" && len(short) == 0 {
		k.AddMissing(missing)
	}
	k.Decide(len(short) == 0)
	k.Summary = "There are circuits for: " + strings.Join(there, ", ") + "."
	if len(short) > 0 {
		k.Summary = "Still to come: " + strings.Join(short, ", ") + "."
	}
	if len(k.Missing) > 0 {
		k.Summary = ""
	}
}

// boardTable is board_places.csv: where a board hangs, and whether it may.
var boardTable = table.LoadOf[boardRow](dataFiles, "board_places")

func boardPlaces() (out []string) {
	for r := range boardTable.Text {
		out = append(out, boardTable.Row(r).Place)
	}
	return out
}

// workingSpace judges the room in front of the panel, once any of it was measured, and
// the place where it hangs.
func (s *system) workingSpace() {
	for b := range s.Job.EachBoard() {
		if b.Space != (install.WorkSpace{}) {
			s.spaceBefore(b)
		}
	}
}

func (s *system) spaceBefore(b *install.Board) {
	w := b.Space
	k := s.Of(b.ID)
	k.Title = "Working space in front of " + b.Name
	k.From(under(clearances.Table, s.code))
	if !w.Measured() {
		k.AddMissing("depth, width and height of the space, the panel's own width, its top, its highest handle, and whether its " +
			"door opens by 90°")
	}
	if b.Place == "" {
		k.AddMissing("the kind of place that the panel hangs in")
	}
	if len(k.Missing) > 0 {
		return
	}
	in := spaceIn{DepthIn: w.DepthMM / inchMM, WidthIn: w.WidthMM / inchMM, EquipmentIn: w.BoardMM / inchMM,
		HeightIn: w.HeightMM / inchMM, TopIn: w.TopMM / inchMM, HandleIn: w.HandleMM / inchMM, Place: b.Place,
		Door90: *w.Door90, School: string(s.code)}
	if b.Main() {
		in.ExistingA = s.existingPanelA()
	}
	out, steps, err := calcSpace(in)
	if err != nil {
		k.AddMissing(err.Error())
		return
	}
	k.Steps = steps
	k.Decide(out.Ok)
	need := spaceNeeds(s.code)
	wide := "as wide as the panel"
	if need.widthIn > 0 {
		wide = text(need.widthIn, " in or the panel wide")
	}
	k.Summary = text(unit.Significant(need.depthIn, 3), " in deep, ", wide, ", ", unit.Significant(need.heightIn, 3),
		" in high, door by 90°, no handle above ", unit.Significant(need.handleIn, 3), " in.")
	if len(out.Faults) > 0 {
		k.Summary = "Falls short in: " + strings.Join(out.Faults, ", ") + ". Needed: " + k.Summary
	}
}

// existingPanelA is the rating of the panel that the circuits start from where it stays as
// it was found, 0 where it is new or not known.
func (s *system) existingPanelA() float64 {
	for i := range s.Job.Chain.Enclosures {
		if e := &s.Job.Chain.Enclosures[i]; e.Kind == kindPanel {
			if e.New {
				return 0
			}
			return e.RatingA.V()
		}
	}
	return 0
}

// ungrounded counts the outlets that were found without an equipment ground, with what
// may be done (406.4(D), 250.130(C)).
func (s *system) ungrounded() {
	n, circuits := 0.0, 0.0
	for i := range s.Job.Circuits {
		here := 0.0
		for _, b := range s.Job.Circuits[i].Serves.Boxes {
			if b.Device.Outlet() && b.Ground != nil && !*b.Ground {
				here++
			}
		}
		if n += here; here > 0 {
			circuits++
		}
	}
	if n == 0 {
		return
	}
	k := s.Of("")
	k.From(under(receptacleRules, s.code), clauseUngrounded.in(s.code))
	k.Step("outlets", "found without a ground in the box", "", n, "", clauseUngrounded.ref(s.code))
	k.Step("circuits", "that they are on", "", circuits, "", "")
	k.Warn()
	k.Summary = text(n, map[bool]string{true: " outlet on ", false: " outlets on "}[n == 1], circuits,
		map[bool]string{true: " circuit.", false: " circuits."}[circuits == 1],
		" In this order: a new cable with its ground, or a ground run back; ground-fault protection with both labels; two-slot "+
			"outlets kept. A plain three-slot outlet is none of these. Behind a ground-fault device people are safe; electronics "+
			"still have no ground.")
}
