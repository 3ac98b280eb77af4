package schedule

import "slices"

// Chance is where a search takes its chances from: of one that is seeded alike the same plan comes.
type Chance interface {
	IntN(n int) int
	Float64() float64
}

// Options are how far a search goes.
type Options struct {
	Schedules int         // how many are made at most; 0 for [UsualSchedules]
	Stop      func() bool // asked now and then whether it is enough; nil for never
	Chance    Chance      // nil for none: the rules alone
	// Before is the list of a schedule that stood before something was changed, by [List]: the search begins with it. nil for none.
	Before []int
	// Told is told now and then what part is done, 0 to 1; nil for nobody.
	Told func(part float64)
}

// UsualSchedules is how many schedules a search makes at most.
const UsualSchedules = 5000

// people is how many lists live at once.
const people = 40

// one is a list with its schedule.
type one struct {
	list []int
	plan Plan
}

// Solve puts the tasks into time. The same problem, chances and number of schedules give the same plan, where nothing stops it.
func Solve(p *Problem, o Options) Plan {
	s := newSolver(p)
	if o.Schedules == 0 {
		o.Schedules = UsualSchedules
	}
	var rev *solver
	if s.plain {
		rev = newSolver(reversed(p, s.succ))
	}
	g := search{solver: s, rev: rev, Options: o}
	return g.run()
}

// List is the order of the tasks of a plan, for [Options.Before].
func List(x *Plan) []int {
	out := make([]int, len(x.Start))
	for i := range out {
		out[i] = i
	}
	late := func(i int) int {
		if x.Start[i] < 0 {
			return 1 << 30
		}
		return x.Start[i]
	}
	slices.SortStableFunc(out, func(a, b int) int { return late(a) - late(b) })
	return out
}

// reversed is a problem with its time turned round.
func reversed(p *Problem, succ [][]int) *Problem {
	out := &Problem{Slots: p.Slots, Resources: p.Resources, Tasks: slices.Clone(p.Tasks)}
	for i := range out.Tasks {
		out.Tasks[i].After = succ[i]
	}
	return out
}

type search struct {
	*solver
	Options
	rev   *solver
	made  int
	back  Plan
	alive []one
	best  one
}

func (g *search) run() Plan {
	for _, list := range g.begin() {
		g.live(list)
	}
	for g.Chance != nil && !g.enough() {
		g.live(g.child())
	}
	if g.Told != nil {
		g.Told(1)
	}
	return g.best.plan
}

// enough reports whether the search has gone far enough: no schedule ends before what cannot be shorter does, either.
func (g *search) enough() bool {
	if len(g.Tasks) == 0 || g.made >= g.Schedules {
		return true
	}
	if g.made%64 < 3 {
		if g.Told != nil {
			g.Told(float64(g.made) / float64(g.Schedules))
		}
		if g.Stop != nil && g.Stop() {
			return true
		}
	}
	return g.plain && int(g.best.plan.Cost) == slices.Max(g.tail)
}

// begin are the lists of the priority rules, and random ones that lean to the first of them.
func (g *search) begin() [][]int {
	work := make([]float64, len(g.Tasks)) // of a task and all that follows it at once
	for i := range g.Tasks {
		work[i] = float64(g.Tasks[i].Dur)
		for _, n := range g.succ[i] {
			work[i] += float64(g.Tasks[n].Dur)
		}
	}
	tail := func(i int) float64 { return -float64(g.tail[i]) }
	out := [][]int{}
	if len(g.Before) == len(g.Tasks) {
		place := make([]float64, len(g.Tasks))
		for k, i := range g.Before {
			place[i] = float64(k)
		}
		out = append(out, g.sorted(func(i int) float64 { return place[i] }))
	}
	out = append(out, g.sorted(func(i int) float64 { return -float64(g.tail[i] - g.Tasks[i].Dur) }), // latest finish first
		g.sorted(tail), // latest start
		g.sorted(func(i int) float64 { return -float64(len(g.succ[i])) }),
		g.sorted(func(i int) float64 { return -work[i] }),
		g.sorted(func(i int) float64 { return float64(g.Tasks[i].From*1000 - g.tail[i]) }))
	if len(g.Weights) > 0 { // one group after the other
		out = append(out, g.sorted(func(i int) float64 { return float64(g.Tasks[i].Group*100000 - g.tail[i]) }))
	}
	noise := make([]float64, len(g.Tasks))
	span := float64(slices.Max(append([]int{1}, g.tail...)))
	for g.Chance != nil && len(out) < people {
		for i := range noise {
			noise[i] = (g.Chance.Float64() - 0.5) * span * 0.6
		}
		out = append(out, g.sorted(func(i int) float64 { return tail(i) + noise[i] }))
	}
	return out
}

// live makes the schedule of a list and keeps it among the best.
func (g *search) live(list []int) {
	x := one{list: list}
	g.decode(list, &x.plan)
	g.made++
	if g.plain {
		g.justify(&x)
	}
	if g.best.list == nil || x.plan.Cost < g.best.plan.Cost {
		g.best = one{slices.Clone(x.list), Plan{slices.Clone(x.plan.Start), cloned(x.plan.Crew), x.plan.Cost}}
	}
	at, _ := slices.BinarySearchFunc(g.alive, x.plan.Cost, func(a one, c float64) int {
		if a.plan.Cost <= c {
			return -1
		}
		return 1
	})
	if g.alive = slices.Insert(g.alive, at, x); len(g.alive) > people {
		g.alive = g.alive[:people]
	}
}

func cloned(crew [][]int) [][]int {
	out := make([][]int, len(crew))
	for i := range crew {
		out[i] = slices.Clone(crew[i])
	}
	return out
}

// justify moves all tasks to the right as far as the end allows, and then to the left: the end comes no later, and often before.
func (g *search) justify(x *one) {
	ends := func(i int) int { return x.plan.Start[i] + g.Tasks[i].Dur }
	list := slices.Clone(x.list)
	slices.SortStableFunc(list, func(a, b int) int { return ends(b) - ends(a) })
	g.rev.decode(list, &g.back)
	slices.SortStableFunc(list, func(a, b int) int { // from the left: what ends last of the turned plan begins first
		return g.back.Start[b] + g.Tasks[b].Dur - g.back.Start[a] - g.Tasks[a].Dur
	})
	var left Plan
	g.decode(list, &left)
	g.made += 2
	if left.Cost <= x.plan.Cost {
		x.list, x.plan = list, left
	}
}

// child crosses two lists that live: it takes a stretch of one and the rest in the order of the other; and now and then two tasks beside each other change.
func (g *search) child() []int {
	pick := func() []int { // the better of two
		return g.alive[min(g.Chance.IntN(len(g.alive)), g.Chance.IntN(len(g.alive)))].list
	}
	a, b := pick(), pick()
	n := len(a)
	from := g.Chance.IntN(n)
	to := from + 1 + g.Chance.IntN(n-from)
	out, taken := make([]int, 0, n), make([]bool, n)
	add := func(i int) {
		if !taken[i] {
			taken[i] = true
			out = append(out, i)
		}
	}
	for _, i := range a[:from] {
		add(i)
	}
	for k, want := 0, to; k < n && len(out) < want; k++ {
		add(b[k])
	}
	for _, i := range a {
		add(i)
	}
	for k := 0; k+1 < n; k++ {
		if g.Chance.Float64() < 0.05 && !slices.Contains(g.Tasks[out[k+1]].After, out[k]) {
			out[k], out[k+1] = out[k+1], out[k]
		}
	}
	return out
}
