package schedule

import (
	"math"
	"math/rand/v2"
	"slices"
)

// chances are those of a seed.
func chances(seed uint64) Chance { return rand.New(rand.NewPCG(seed, 0x5ca1ab1e)) }

// instance is a generated problem: how many arcs there are for each task (network complexity), what share of the resources a task uses (factor), and how
// scarce these are (strength: 0 as scarce as can be, 1 enough for everything at once). The measures are those of Kolisch, Sprecher and Drexl (Management
// Science 41, 1995).
type instance struct {
	tasks, resources             int
	complexity, factor, strength float64
	seed                         uint64
}

// instances are the 60 of the measure: three networks, four factors, five strengths down to 0.2.
func instances() (out []instance) {
	for _, nc := range []float64{1.5, 1.8, 2.1} {
		for _, rf := range []float64{0.25, 0.5, 0.75, 1} {
			for _, rs := range []float64{0.2, 0.35, 0.5, 0.7, 1} {
				out = append(out, instance{30, 4, nc, rf, rs, uint64(1000 + len(out))})
			}
		}
	}
	return out
}

// problem makes the problem of an instance.
func (in instance) problem() *Problem {
	rnd := rand.New(rand.NewPCG(in.seed, 0x1115))
	p := &Problem{Tasks: make([]Task, in.tasks), Resources: make([]Resource, in.resources)}
	sum := 0
	for i := range p.Tasks {
		p.Tasks[i].Dur = 1 + rnd.IntN(10)
		sum += p.Tasks[i].Dur
	}
	p.Slots = sum + 1
	// Every task but the first few has one before it, and arcs that others do not already say are added until there are enough.
	before := make([][]bool, in.tasks)
	for i := range before {
		before[i] = make([]bool, in.tasks)
	}
	arcs := 0
	join := func(a, b int) {
		if before[a][b] {
			return
		}
		p.Tasks[b].After = append(p.Tasks[b].After, a)
		arcs++
		for x := range in.tasks {
			if x != a && !before[x][a] {
				continue
			}
			before[x][b] = true
			for y := range in.tasks {
				before[x][y] = before[x][y] || before[b][y]
			}
		}
	}
	for b := 3; b < in.tasks; b++ {
		join(max(0, b-1-rnd.IntN(min(b, 9))), b)
	}
	for try := 0; arcs < int(in.complexity*float64(in.tasks)) && try < 4000; try++ {
		a := rnd.IntN(in.tasks - 1)
		join(a, min(in.tasks-1, a+1+rnd.IntN(10)))
	}
	for r := range p.Resources {
		for i := range p.Tasks {
			if rnd.Float64() < in.factor {
				p.Tasks[i].Uses = append(p.Tasks[i].Uses, Use{r, 1 + rnd.IntN(10)})
			}
		}
	}
	// From the least with which each can be done to the most that they ask for at once when nothing is scarce.
	least, most := make([]int, in.resources), make([]int, in.resources)
	end, at := make([]int, in.tasks), make([][]int, in.resources)
	for r := range at {
		at[r] = make([]int, p.Slots+1)
	}
	for i := range p.Tasks {
		t := &p.Tasks[i]
		from := 0
		for _, a := range t.After {
			from = max(from, end[a])
		}
		end[i] = from + t.Dur
		for _, u := range t.Uses {
			least[u.Resource] = max(least[u.Resource], u.Amount)
			for k := from; k < end[i]; k++ {
				at[u.Resource][k] += u.Amount
			}
		}
	}
	for r := range p.Resources {
		most[r] = max(least[r], slices.Max(at[r]))
		p.Resources[r].Cap = max(1, least[r]+int(math.Round(in.strength*float64(most[r]-least[r]))))
	}
	return p
}

// exact searches every active schedule, but for those that cannot end earlier and those that another of the same tasks dominates, depth first: tasks are
// begun one after the other at the first slot that is free for them and not before the last that was begun (Patterson, Talbot, Slowinski and Weglarz,
// EJOR 49, 1990; the rule of cut sets is that of Demeulemeester and Herroelen, Management Science 38, 1992). It stops after so many nodes.
type exact struct {
	*solver
	limit, nodes int64
	best         int
	start        []int
	seen         map[uint64][]cut
	kept         int
}

// cut is how far a set of tasks was begun: the last begin, and when each of those that ran then ends.
type cut struct {
	at   int
	runs map[int]int
}

// most cuts that are kept.
const mostCuts = 3_000_000

func newExact(p *Problem, upper int, limit int64) *exact {
	e := &exact{solver: newSolver(p), limit: limit, best: upper, start: make([]int, len(p.Tasks)), seen: map[uint64][]cut{}}
	for i := range e.start {
		e.start[i] = -1
	}
	return e
}

// solve reports the least end, and whether everything was searched.
func (e *exact) solve() (end int, whole bool) {
	for r := range e.Resources { // the profile is kept as counts, also of what there is one of
		e.busy[r], e.left[r] = nil, make([]int, e.Slots)
	}
	e.step(0, 0, 0)
	return e.best, e.nodes < e.limit
}

func (e *exact) fits(i, at int) bool {
	for _, u := range e.Tasks[i].Uses {
		for k := at; k < at+e.Tasks[i].Dur; k++ {
			if e.left[u.Resource][k]+u.Amount > e.Resources[u.Resource].Cap {
				return false
			}
		}
	}
	return true
}

func (e *exact) put(i, at, sign int) {
	for _, u := range e.Tasks[i].Uses {
		for k := at; k < at+e.Tasks[i].Dur; k++ {
			e.left[u.Resource][k] += sign * u.Amount
		}
	}
}

func (e *exact) step(set uint64, last, end int) {
	if e.nodes++; e.nodes >= e.limit {
		return
	}
	if set == 1<<len(e.Tasks)-1 {
		e.best = min(e.best, end)
		return
	}
	if e.bound(set, last) >= e.best || e.dominated(set, last) {
		return
	}
	type next struct{ i, at int }
	open := []next{}
	for i := range e.Tasks {
		if set>>i&1 == 1 {
			continue
		}
		at := last
		ready := true
		for _, a := range e.Tasks[i].After {
			if set>>a&1 == 0 {
				ready = false
				break
			}
			at = max(at, e.start[a]+e.Tasks[a].Dur)
		}
		if !ready {
			continue
		}
		for !e.fits(i, at) {
			at++
		}
		if at+e.tail[i] >= e.best {
			return // it would come too late now, and later no earlier
		}
		open = append(open, next{i, at})
	}
	slices.SortFunc(open, func(a, b next) int {
		if a.at != b.at {
			return a.at - b.at
		}
		return e.tail[b.i] - e.tail[a.i]
	})
	first := math.MaxInt
	for _, n := range open {
		first = min(first, n.at+e.Tasks[n.i].Dur)
	}
	for _, n := range open {
		if n.at >= first {
			break // another could end before it begins: that one comes first
		}
		e.start[n.i] = n.at
		e.put(n.i, n.at, 1)
		e.step(set|1<<n.i, n.at, max(end, n.at+e.Tasks[n.i].Dur))
		e.put(n.i, n.at, -1)
		e.start[n.i] = -1
		if e.nodes >= e.limit {
			return
		}
	}
}

// bound is the least end from where the last task was begun on: along what follows each, and by what is left to be done with each resource.
func (e *exact) bound(set uint64, last int) (least int) {
	from := make([]int, len(e.Tasks))
	work := make([]int, len(e.Resources))
	for _, i := range e.order() {
		if set>>i&1 == 1 {
			from[i] = e.start[i]
		} else {
			from[i] = last
			for _, a := range e.Tasks[i].After {
				from[i] = max(from[i], from[a]+e.Tasks[a].Dur)
			}
			least = max(least, from[i]+e.tail[i])
		}
		for _, u := range e.Tasks[i].Uses {
			work[u.Resource] += u.Amount * max(0, from[i]+e.Tasks[i].Dur-max(from[i], last))
		}
	}
	for r, w := range work {
		least = max(least, last+(w+e.Resources[r].Cap-1)/e.Resources[r].Cap)
	}
	return least
}

// order is by number: a task stands behind those before it.
func (e *exact) order() []int {
	out := make([]int, len(e.Tasks))
	for i := range out {
		out[i] = i
	}
	return out
}

func (e *exact) dominated(set uint64, last int) bool {
	runs := map[int]int{}
	for i := range e.Tasks {
		if set>>i&1 == 1 && e.start[i]+e.Tasks[i].Dur > last {
			runs[i] = e.start[i] + e.Tasks[i].Dur
		}
	}
	for _, c := range e.seen[set] {
		if c.at > last {
			continue
		}
		worse := true
		for i, end := range c.runs {
			if end > max(last, e.start[i]+e.Tasks[i].Dur) {
				worse = false
				break
			}
		}
		if worse {
			return true
		}
	}
	if e.kept < mostCuts {
		e.kept++
		e.seen[set] = append(e.seen[set], cut{last, runs})
	}
	return false
}
