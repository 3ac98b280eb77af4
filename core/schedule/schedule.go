// Package schedule puts tasks into time: each after those that come before it, with what it uses and the people it takes, as early as the whole allows.
//
// It is a resource-constrained project scheduling problem (Brucker et al., European Journal of Operational Research 112, 1999). Schedules are made one task
// after another in the order of a list (serial generation, Kolisch, EJOR 90, 1996); lists come from priority rules and are crossed with each other (Hartmann,
// Naval Research Logistics 45, 1998), and where time is uniform each schedule is justified to the right and to the left (Valls, Ballestín and Quintanilla,
// EJOR 165, 2005). It is our own as the tasks of a crew are not those of a textbook: who does one is chosen among people by what they can, hours have gaps,
// and every start has to say why it is not earlier.
package schedule

import (
	"cmp"
	"math/bits"
	"slices"
)

// Problem is what is to be put into time. Time is counted in slots from 0.
type Problem struct {
	Slots     int // how far it may reach
	Resources []Resource
	Tasks     []Task
	// Weights are those of the groups of tasks, each of which ends with the last of its tasks; without any the end of all is what counts.
	Weights []float64
	// Sites is on how many groups people work at once at most: each site takes a vehicle. 0 for no limit.
	Sites int
}

// Resource is something that tasks use: a person, a room, an instrument.
type Resource struct {
	Cap int
	// Out are the slots in which none of it is there; nil for none.
	Out Slots
}

// Task is a piece of work that is not interrupted.
type Task struct {
	Dur   int   // slots, 0 or more
	After []int // tasks that end before it begins
	From  int   // the first slot in which it may begin
	Uses  []Use
	Crew  []Need
	// Not are the slots in which it cannot be worked on; nil for none.
	Not Slots
	// Pinned: it begins in From, whatever else is there.
	Pinned bool
	Group  int // of those that have weights
}

// Use is how much of a resource a task uses.
type Use struct{ Resource, Amount int }

// Need is how many of some resources of which each is one a task takes: one of two who may isolate.
type Need struct {
	Of []int
	N  int
}

// Slots is a set of slots.
type Slots []uint64

// NewSlots is an empty set that holds so many slots.
func NewSlots(n int) Slots { return make(Slots, (n+63)/64+1) }

// Add puts the slots from one up to before another into the set.
func (s Slots) Add(from, to int) {
	for from < to {
		w, b := from/64, from%64
		n := min(64-b, to-from)
		s[w] |= (^uint64(0) >> (64 - n)) << b
		from += n
	}
}

// Last is the last slot of the set from one up to before another, -1 where it holds none of these.
func (s Slots) Last(from, to int) int {
	if len(s) == 0 {
		return -1
	}
	for to > from {
		w := (to - 1) / 64
		low := max(from, w*64)
		n := to - low
		if m := s[w] >> (low % 64) & (^uint64(0) >> (64 - n)); m != 0 {
			return low + 63 - bits.LeadingZeros64(m)
		}
		to = low
	}
	return -1
}

// Plan is a schedule.
type Plan struct {
	Start []int   // of each task; -1 where there is no room for it up to the last slot
	Crew  [][]int // who does it
	Cost  float64 // the weighted ends of the groups, or the end of all
}

// End is the slot behind the last task.
func (p *Problem) End(x *Plan) (end int) {
	for i, s := range x.Start {
		if s >= 0 {
			end = max(end, s+p.Tasks[i].Dur)
		}
	}
	return end
}

// solver holds what one run works with, so that schedules are made without allocating.
type solver struct {
	*Problem
	succ  [][]int
	left  [][]int // by resource what is used in each slot
	busy  []Slots // by resource of which there is one
	waits []int
	tail  []int // from the begin of each task to the end along what follows it, and its length
	ends  []float64
	plain bool
	// on counts by group and slot the tasks that people work on, sites by slot the groups of which there are any.
	on    []uint16
	sites []int
}

func newSolver(p *Problem) *solver {
	s := &solver{Problem: p, succ: make([][]int, len(p.Tasks)), left: make([][]int, len(p.Resources)), busy: make([]Slots, len(p.Resources)),
		waits: make([]int, len(p.Tasks)), tail: make([]int, len(p.Tasks)), ends: make([]float64, len(p.Weights)), plain: len(p.Weights) == 0}
	if p.Sites > 0 {
		s.plain, s.on, s.sites = false, make([]uint16, max(1, len(p.Weights))*p.Slots), make([]int, p.Slots)
	}
	for i := range p.Tasks {
		t := &p.Tasks[i]
		for _, a := range t.After {
			s.succ[a] = append(s.succ[a], i)
		}
		s.plain = s.plain && len(t.Crew) == 0 && t.From == 0 && t.Not == nil && !t.Pinned
	}
	for r := range p.Resources {
		if p.Resources[r].Cap == 1 {
			s.busy[r] = NewSlots(p.Slots)
		} else {
			s.left[r] = make([]int, p.Slots)
		}
		s.plain = s.plain && p.Resources[r].Out == nil
	}
	order := s.topological()
	for k := len(order) - 1; k >= 0; k-- {
		i := order[k]
		for _, n := range s.succ[i] {
			s.tail[i] = max(s.tail[i], s.tail[n])
		}
		s.tail[i] += p.Tasks[i].Dur
	}
	return s
}

// topological is an order in which each task stands behind those before it.
func (s *solver) topological() []int {
	out := make([]int, 0, len(s.Tasks))
	for i := range s.Tasks {
		if s.waits[i] = len(s.Tasks[i].After); s.waits[i] == 0 {
			out = append(out, i)
		}
	}
	for k := 0; k < len(out); k++ {
		for _, n := range s.succ[out[k]] {
			if s.waits[n]--; s.waits[n] == 0 {
				out = append(out, n)
			}
		}
	}
	return out
}

// reset empties what is used.
func (s *solver) reset() {
	clear(s.on)
	clear(s.sites)
	for r := range s.Resources {
		if s.busy[r] != nil {
			clear(s.busy[r])
		} else {
			clear(s.left[r])
		}
	}
}

// decode makes the schedule of a list in which each task stands behind those before it, into x.
func (s *solver) decode(list []int, x *Plan) {
	s.reset()
	if x.Start == nil {
		x.Start, x.Crew = make([]int, len(s.Tasks)), make([][]int, len(s.Tasks))
	}
	for i := range s.Tasks { // what is pinned is there first
		if s.Tasks[i].Pinned {
			x.Crew[i] = s.crew(i, s.Tasks[i].From, x.Crew[i][:0])
			s.take(i, s.Tasks[i].From, x)
		}
	}
	for _, i := range list {
		t := &s.Tasks[i]
		if t.Pinned {
			continue
		}
		at, placed := t.From, true
		for _, a := range t.After {
			if x.Start[a] < 0 {
				placed = false
			}
			at = max(at, x.Start[a]+s.Tasks[a].Dur)
		}
		if !placed {
			x.Start[i] = -1
			continue
		}
		if at = s.first(i, at, x); at < 0 {
			x.Start[i] = -1
			continue
		}
		s.take(i, at, x)
	}
	x.Cost = s.cost(x)
}

// first is the first slot from one on in which a task finds all that it takes, -1 for none. Who does it stands in x then.
func (s *solver) first(i, at int, x *Plan) int {
	for at+s.Tasks[i].Dur <= s.Slots {
		if next := s.blocked(i, at); next > at {
			at = next
			continue
		}
		if len(s.Tasks[i].Crew) == 0 {
			return at
		}
		if x.Crew[i] = s.crew(i, at, x.Crew[i][:0]); len(x.Crew[i]) > 0 {
			return at
		}
		at++
	}
	return -1
}

// blocked is the first slot behind what keeps a task from beginning in one, or that slot where nothing but its crew may.
func (s *solver) blocked(i, at int) int {
	t := &s.Tasks[i]
	end := at + t.Dur
	if last := t.Not.Last(at, end); last >= 0 {
		return last + 1
	}
	if len(t.Crew) > 0 && s.Sites > 0 {
		on := s.on[t.Group*s.Slots:]
		for k := end - 1; k >= at; k-- {
			if on[k] == 0 && s.sites[k] >= s.Sites {
				return k + 1
			}
		}
	}
	for _, u := range t.Uses {
		r := &s.Resources[u.Resource]
		if last := r.Out.Last(at, end); last >= 0 {
			return last + 1
		}
		if s.busy[u.Resource] != nil {
			if last := s.busy[u.Resource].Last(at, end); last >= 0 && u.Amount > 0 {
				return last + 1
			}
			continue
		}
		used := s.left[u.Resource]
		for k := end - 1; k >= at; k-- {
			if used[k]+u.Amount > r.Cap {
				return k + 1
			}
		}
	}
	return at
}

// crew are people for a task that are free while it lasts, none where there are not enough.
func (s *solver) crew(i, at int, into []int) []int {
	t := &s.Tasks[i]
	end := at + t.Dur
	for _, need := range t.Crew {
		n := 0
		add := func(busy bool) {
			for _, r := range need.Of {
				if n < need.N && !slices.Contains(into, r) && (busy || s.busy[r].Last(at, end) < 0 && s.Resources[r].Out.Last(at, end) < 0) {
					into, n = append(into, r), n+1
				}
			}
		}
		add(false)
		if t.Pinned { // it is then, whoever has something else to do
			add(true)
		}
		if n < need.N {
			return into[:0]
		}
	}
	return into
}

// take puts a task at a slot.
func (s *solver) take(i, at int, x *Plan) {
	t := &s.Tasks[i]
	end := min(at+t.Dur, s.Slots)
	x.Start[i] = at
	for _, u := range t.Uses {
		if s.busy[u.Resource] != nil {
			s.busy[u.Resource].Add(at, end)
			continue
		}
		for k := at; k < end; k++ {
			s.left[u.Resource][k] += u.Amount
		}
	}
	for _, r := range x.Crew[i] {
		s.busy[r].Add(at, end)
	}
	if len(x.Crew[i]) > 0 && s.Sites > 0 {
		on := s.on[t.Group*s.Slots:]
		for k := at; k < end; k++ {
			if on[k]++; on[k] == 1 {
				s.sites[k]++
			}
		}
	}
}

// cost is what a schedule costs: what finds no room costs more than the whole.
func (s *solver) cost(x *Plan) float64 {
	if len(s.Weights) == 0 {
		end, none := s.End(x), 0
		for _, at := range x.Start {
			if at < 0 {
				none++
			}
		}
		return float64(end + none*s.Slots)
	}
	clear(s.ends)
	c := 0.0
	for i, at := range x.Start {
		if at < 0 {
			c += float64(s.Slots)
			continue
		}
		end := float64(at + s.Tasks[i].Dur)
		c += early * end / float64(len(s.Tasks))
		g := s.Tasks[i].Group
		s.ends[g] = max(s.ends[g], end)
	}
	for g, end := range s.ends {
		c += s.Weights[g] * end
	}
	return c
}

// early is how much the middle end of all tasks counts beside the ends of the groups: nobody waits for nothing.
const early = 0.1

// sorted is a list in the order of keys, each task behind those before it.
func (s *solver) sorted(key func(i int) float64) []int {
	out, open := make([]int, 0, len(s.Tasks)), []int{}
	for i := range s.Tasks {
		if s.waits[i] = len(s.Tasks[i].After); s.waits[i] == 0 {
			open = append(open, i)
		}
	}
	for len(open) > 0 {
		best := 0
		for k := range open {
			if c := cmp.Compare(key(open[k]), key(open[best])); c < 0 || c == 0 && open[k] < open[best] {
				best = k
			}
		}
		i := open[best]
		open = slices.Delete(open, best, best+1)
		out = append(out, i)
		for _, n := range s.succ[i] {
			if s.waits[n]--; s.waits[n] == 0 {
				open = append(open, n)
			}
		}
	}
	return out
}
