package split120

import (
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// legs puts every load on its leg and proposes moves that even them out.
func (s *system) legs() (*rulebook.Legs, *working.Check) {
	type load struct {
		name, circuit string
		way           int
		amps          float64 // on one leg
	}
	r := &rulebook.Legs{Moves: []rulebook.Move{}}
	var singles []load
	put := func(leg int, amps float64) {
		if leg == 0 {
			r.A += amps
		} else {
			r.B += amps
		}
	}
	for _, w := range s.job.Board.Ways {
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
		singles = append(singles, load{name: w.Label, way: w.No, amps: w.LoadA})
	}
	placed := 0
	for i := range s.job.Circuits {
		k := &s.job.Circuits[i]
		if k.From != "" || k.Protection.Way == 0 {
			continue
		}
		amps, _, _, _, _ := circuitLoad(k)
		if k.Use == "distribution" && amps == 0 {
			amps, _, _, _ = (&circuit{system: s, k: k, rules: rulesOf(k.Use)}).fedLoad()
		}
		placed++
		if hotsOf(k) == 2 {
			put(0, amps)
			put(1, amps)
			continue
		}
		put(legOf(k.Protection.Way), amps)
		singles = append(singles, load{k.Name, k.ID, k.Protection.Way, amps})
	}
	r.AfterA, r.AfterB, r.NeutralA = r.A, r.B, math.Abs(r.A-r.B)
	if placed+len(singles) == 0 || r.A+r.B == 0 {
		return nil, nil
	}
	taken := spacesTaken(s.job, "")
	free := []int{}
	for _, w := range s.job.Board.Ways {
		if taken[w.No] == "" {
			free = append(free, w.No)
		}
	}
	slices.Sort(free)
	// one load at a time from the heavier leg, the one that leaves the smallest
	// difference, while that is smaller than before
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
	k := working.New("legs", "", "Balance of the legs", "A")
	k.From(ref("NEC 220.61; trade practice"))
	k.Step("leg A", "sum of what is on it", "", r.A, "A", "")
	k.Step("leg B", "sum of what is on it", "", r.B, "A", "")
	k.Step("neutral", "difference", text("|", r.A, " − ", r.B, "|"), r.NeutralA, "A", "")
	share := k.Step("difference", "of the heavier leg", "", r.NeutralA/max(r.A, r.B)*100, "%", "")
	limit := ruleOf(s.job, k, "LEGS")
	k.Verdict = working.Pass
	k.Says = text("Leg A ", r.A, " A, leg B ", r.B, " A with everything on; the neutral carries the difference.")
	if share > limit && len(r.Moves) == 0 {
		k.Says += " No single load evens it out."
	}
	if share > limit && len(r.Moves) > 0 {
		k.Verdict = working.Caution
		moves := []string{}
		for _, m := range r.Moves {
			moves = append(moves, text(m.Name, " from ", m.From, " to ", m.To))
		}
		k.Says += text(" Evened out by moving ", strings.Join(moves, ", "), ": ", r.AfterA, " A and ", r.AfterB, " A.")
	} else {
		r.Moves, r.AfterA, r.AfterB = []rulebook.Move{}, r.A, r.B
	}
	if r.Unknown > 0 {
		k.Says += text(" ", r.Unknown, " spaces have no load noted: clamp them.")
	}
	return r, k
}

// spacing judges the receptacles along the walls and counters of each room that was
// drawn by its lengths (210.52).
func (s *system) spacing() []working.Check {
	out := []working.Check{}
	for i := range s.job.Rooms {
		room := &s.job.Rooms[i]
		if len(room.Walls) == 0 {
			continue
		}
		k := working.New("spacing-"+room.ID, "", "Receptacles along the walls of "+room.Name, "")
		k.From(receptacleRules.Source)
		need, has, short := 0.0, 0.0, []string{}
		for n, w := range room.Walls {
			in := spacingIn{Walls: []float64{feet(w.LengthM)}}
			key, what := "wall_receptacles", "wall"
			if w.Counter {
				in, key, what = spacingIn{Counters: in.Walls, Walls: []float64{}}, "counter_receptacles", "counter"
			}
			res, _, err := calcSpacing(in)
			if err != nil {
				k.Lacks(err.Error())
				continue
			}
			one := k.Step(text(what, " ", n+1), map[bool]string{true: "one for each 4 ft, from 12 in", false: "one for each 12 ft, from 2 ft"}[w.Counter], text(feet(w.LengthM), " ft"), res[key].(float64), "", "NEC 210.52")
			need, has = need+one, has+float64(w.Has)
			if float64(w.Has) < one {
				short = append(short, text(what, " ", n+1, " (", one-float64(w.Has), " more)"))
			}
		}
		k.Min(has, need)
		k.Says = text(has, " along the walls, ", need, " needed.")
		if len(short) > 0 {
			k.Decide(false)
			k.Says += " Short: " + strings.Join(short, ", ") + "."
		}
		settle(k)
		out = append(out, *k)
	}
	return out
}

// requiredCircuits counts the circuits that a dwelling must have (210.11(C)), where the
// job rewires it.
func (s *system) requiredCircuits() []working.Check {
	if s.job.Kind != install.Rewire || len(s.job.Circuits) == 0 {
		return nil
	}
	k := working.New("required-circuits", "", "Circuits that a dwelling must have", "")
	k.From(receptacleRules.Source)
	short := []string{}
	for _, x := range []struct{ use, rule, name string }{{"small-appliance", "C-SA", "small-appliance"}, {"laundry", "C-LA", "laundry"}, {"bathroom", "C-BA", "bathroom"}} {
		n := 0.0
		for i := range s.job.Circuits {
			if c := &s.job.Circuits[i]; c.Use == x.use && c.Protection.RatingA >= 20 {
				n++
			}
		}
		need := k.Step(x.name, "of 20 A, at least", text(n, " there"), rule(receptacleRules, x.rule), "", "NEC 210.11(C)")
		if n < need {
			short = append(short, text(need-n, " ", x.name))
		}
	}
	k.Decide(len(short) == 0)
	k.Says = "Two small-appliance circuits, laundry and bathroom are there."
	if len(short) > 0 {
		k.Says = "Still to come, of 20 A each: " + strings.Join(short, ", ") + "."
	}
	return []working.Check{*k}
}

// workingSpace judges the room in front of the panel (110.26, 240.24), once any of it
// was measured.
func (s *system) workingSpace() []working.Check {
	w := s.job.Board.Space
	if w == (install.WorkSpace{}) {
		return nil
	}
	k := working.New("working-space", "", "Working space in front of "+s.job.Board.Name, "in")
	k.From(clearances.Source)
	if !w.Measured() {
		k.Lacks("depth, width and height of the space, the panel's own width, its top, its highest handle, and whether its door opens by 90°")
		settle(k)
		return []working.Check{*k}
	}
	out, steps, err := calcSpace(spaceIn{DepthIn: w.DepthMM / inchMM, WidthIn: w.WidthMM / inchMM, EquipmentIn: w.BoardMM / inchMM, HeightIn: w.HeightMM / inchMM, TopIn: w.TopMM / inchMM, HandleIn: w.HandleMM / inchMM, Place: strings.ToLower(s.job.Board.Location), Door90: *w.Door90})
	if err != nil {
		k.Lacks(err.Error())
		settle(k)
		return []working.Check{*k}
	}
	k.Steps = steps
	k.Decide(out["ok"].(bool))
	k.Says = "36 in deep, 30 in or the panel wide, 78 in high, door by 90°, no handle above 79 in."
	if faults := out["faults"].([]any); len(faults) > 0 {
		names := make([]string, len(faults))
		for i, f := range faults {
			names[i] = f.(string)
		}
		k.Says = "Falls short in: " + strings.Join(names, ", ") + ". Needed: " + k.Says
	}
	return []working.Check{*k}
}

// ungrounded counts the outlets that were found without an equipment ground, with what
// may be done (406.4(D), 250.130(C)).
func (s *system) ungrounded() []working.Check {
	n, circuits := 0.0, 0.0
	for i := range s.job.Circuits {
		here := 0.0
		for _, b := range s.job.Circuits[i].Serves.Boxes {
			if b.Device != "none" && b.Ground != nil && !*b.Ground {
				here++
			}
		}
		if n += here; here > 0 {
			circuits++
		}
	}
	if n == 0 {
		return nil
	}
	k := working.New("ungrounded", "", "Outlets without an equipment ground", "")
	k.From(receptacleRules.Source)
	k.Step("outlets", "found without a ground in the box", "", n, "", "NEC 406.4(D)")
	k.Step("circuits", "that they are on", "", circuits, "", "")
	k.Verdict = working.Caution
	k.Says = text(n, " outlets on ", circuits, " circuits. In this order: a new cable with its ground, or a ground run back (250.130(C)); ground-fault protection with both labels; two-slot outlets kept. A plain three-slot outlet is none of these. Behind a ground-fault device people are safe; electronics still have no ground.")
	return []working.Check{*k}
}
