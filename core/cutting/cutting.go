// Package cutting plans how lengths are cut out of drums, coils, sticks and off-cuts: which are bought, and what is cut from each, so that as
// little as can be is bought and nothing is joined.
//
// Lengths are whole steps of the smallest length that is marked out, so that sums are exact. A plan comes with a bound: no plan whatever
// buys less. Up to [ExactCuts] cuts are solved exactly; above that the bound is that of the linear relaxation over all ways to cut a stock
// length (Gilmore and Gomory, A linear programming approach to the cutting-stock problem, Operations Research 9, 1961), made safe against
// rounding by scaling its prices until no way to cut is worth more than it costs (Farley, A note on bounding a class of linear programming
// problems, including cutting stock problems, Operations Research 38, 1990).
package cutting

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// ExactCuts is up to how many cuts of a product the least is found for certain.
const ExactCuts = 12

// Stock is a length that is to be had.
type Stock struct {
	Length int // in steps
	Cost   int // what taking one costs: its length where it is bought, less where it is there already
	Have   int // how many there are; 0 for as many as wanted
}

// Problem is what is to be cut, and from what.
type Problem struct {
	Cuts   []int // lengths, in steps
	Stocks []Stock
}

// Bar is one length of stock with what is cut from it.
type Bar struct {
	Stock int   // of the problem, by index
	Cuts  []int // of the problem, by index, the longest first
}

// Plan is a way to cut.
type Plan struct {
	Bars []Bar
	Cost int
	// Bound: no plan costs less.
	Bound int
	Exact bool // the plan costs the least for certain
}

// TooLongError is that of a cut that no stock holds.
type TooLongError struct{ Cut, Length, Longest int }

func (e *TooLongError) Error() string {
	return fmt.Sprintf("cut %d of %d steps is longer than every stock: the longest has %d", e.Cut, e.Length, e.Longest)
}

// Solve plans the cuts. While it looks for a better plan or a better bound it shows the best plan so far to seen again and again, which stops it
// by answering no; seen may be nil. The same
// problem gives the same plan. The error is a [*TooLongError], or says which figure of the problem is out of range.
func Solve(p Problem, seen func(best *Plan) (goOn bool)) (Plan, error) {
	if err := p.Check(); err != nil {
		return Plan{}, err
	}
	if len(p.Cuts) <= ExactCuts {
		all := make([]int, len(p.Cuts))
		for i := range all {
			all[i] = i
		}
		best := p.exact(all, p.haves())
		best.Bound, best.Exact = best.Cost, true
		return best, nil
	}
	s := p.begin()
	s.take(s.finish(p.fill(p.byLength(), p.haves())))
	goOn := func() bool {
		s.best.Bound = s.bound
		return seen == nil || seen(&s.best)
	}
	s.improveTo(early, goOn)
	if s.best.Cost > s.bound && goOn() {
		bound, ways := p.relax(s.best.Cost, s.bound, goOn)
		s.bound = max(s.bound, p.payable(bound))
		s.take(s.finish(p.round(ways, &s.rnd)))
	}
	s.improveTo(rounds, goOn)
	return s.end(), nil
}

// Quick is a plan at once, for a list that is counted again with every edit: by [Solve] as far as it looks before it proves anything, and of
// many cuts by hand with the cheapest length for each bar. Its bound is that of the lengths alone. The errors are those of [Solve].
func Quick(p Problem) (Plan, error) {
	if err := p.Check(); err != nil {
		return Plan{}, err
	}
	s := p.begin()
	if len(p.Cuts) <= manyCuts {
		s.take(s.finish(p.fill(p.byLength(), p.haves())))
		s.improveTo(glances, always)
	}
	return s.end(), nil
}

func always() bool { return true }

// manyCuts is above how many cuts [Quick] plans as by hand, glances how often it improves a plan of fewer.
const manyCuts, glances = 100, 40

// lengthOnly is a bound at sight: what is cut comes out of something.
func (p *Problem) lengthOnly() int {
	sum := 0
	for _, c := range p.Cuts {
		sum += c
	}
	least := math.Inf(1) // cost of one step at the least
	for _, s := range p.Stocks {
		if s.Have > 0 {
			sum -= s.Have * s.Length
		} else {
			least = min(least, float64(s.Cost)/float64(s.Length))
		}
	}
	return int(math.Ceil(float64(max(sum, 0))*least - 1e-6))
}

// payable is the least that can be paid from a bound on: every price is a multiple of what all of them are multiples of.
func (p *Problem) payable(bound int) int {
	all := 0
	for _, s := range p.Stocks {
		for a := s.Cost; a > 0; {
			all, a = a, all%a
		}
	}
	if all == 0 {
		return bound
	}
	return (bound + all - 1) / all * all
}

// fewCuts is up to how many cuts are put together anew exactly while a plan is improved.
const fewCuts = 9

// rounds is how often a plan is taken apart and put together anew, early how often of that before a better bound is looked for, which takes
// longer.
const rounds, early = 800, 400

// FirstFit is what is done by hand: the longest cut first, each from the first length that holds it, then the next drum. It is there to be
// compared with.
func FirstFit(p Problem) (Plan, error) {
	if err := p.Check(); err != nil {
		return Plan{}, err
	}
	return p.byHand(), nil
}

// byHand is [FirstFit] of a problem that was checked.
func (p *Problem) byHand() Plan {
	order := p.byLength()
	longest := 0
	for i, s := range p.Stocks {
		if s.Have == 0 && (p.Stocks[longest].Have > 0 || s.Length > p.Stocks[longest].Length) {
			longest = i
		}
	}
	out := Plan{Bars: []Bar{}}
	left := []int{}
	for _, c := range order {
		at := slices.IndexFunc(left, func(l int) bool { return l >= p.Cuts[c] })
		if at < 0 {
			at = len(left)
			out.Bars = append(out.Bars, Bar{Stock: longest, Cuts: []int{}})
			left = append(left, p.Stocks[longest].Length)
			out.Cost += p.Stocks[longest].Cost
		}
		out.Bars[at].Cuts = append(out.Bars[at].Cuts, c)
		left[at] -= p.Cuts[c]
	}
	return out
}

const mostSteps = 100_000

// Check reports what of a problem cannot be: a cut that no stock holds of which there are as many as wanted ([TooLongError]), or a figure out of
// range.
func (p *Problem) Check() error {
	longest := 0
	for i, s := range p.Stocks {
		if s.Length <= 0 || s.Length > mostSteps || s.Cost < 0 || s.Have < 0 {
			return fmt.Errorf("stock %d: length %d, cost %d, have %d: a length of 1 to %d steps, the others not below 0", i, s.Length, s.Cost, s.Have,
				mostSteps)
		}
		if s.Have == 0 {
			longest = max(longest, s.Length)
		}
	}
	for i, c := range p.Cuts {
		if c <= 0 {
			return fmt.Errorf("cut %d has %d steps: at least 1", i, c)
		}
		if c > longest {
			return &TooLongError{i, c, longest}
		}
	}
	return nil
}

func (p *Problem) byLength() []int {
	order := make([]int, len(p.Cuts))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(p.Cuts[b], p.Cuts[a]) })
	return order
}

// haves is how many are left of each stock; -1 for as many as wanted.
func (p *Problem) haves() []int {
	out := make([]int, len(p.Stocks))
	for i, s := range p.Stocks {
		if out[i] = s.Have; s.Have == 0 {
			out[i] = -1
		}
	}
	return out
}

// cheapest is the stock of least cost that holds a length, of those that are left; -1 for none.
func (p *Problem) cheapest(length int, have []int) int {
	best := -1
	for i, s := range p.Stocks {
		if s.Length >= length && have[i] != 0 && (best < 0 || s.Cost < p.Stocks[best].Cost || s.Cost == p.Stocks[best].Cost &&
			s.Length < p.Stocks[best].Length) {
			best = i
		}
	}
	return best
}

// exact is the plan of least cost for at most [ExactCuts] cuts, by all their subsets. There is one: each cut fits a stock of which there are as
// many as wanted.
func (p *Problem) exact(cuts []int, have []int) Plan {
	full := 1<<len(cuts) - 1
	sums := make([]int, full+1)
	for m := 1; m <= full; m++ {
		low := m & -m
		sums[m] = sums[m^low] + p.Cuts[cuts[bit(low)]]
	}
	// What is left in numbers comes first, one length at a time; then what is to be had without limit.
	type step struct{ sub, stock int }
	cost := make([]int, full+1)
	for m := 1; m <= full; m++ {
		cost[m] = math.MaxInt / 2
	}
	stages := [][]step{}
	for i, s := range p.Stocks {
		for range min(max(have[i], 0), len(cuts)) {
			next, took := slices.Clone(cost), make([]step, full+1)
			for m := 0; m <= full; m++ {
				if cost[m] >= math.MaxInt/2 {
					continue
				}
				rest := full ^ m
				for sub := rest; sub > 0; sub = (sub - 1) & rest {
					if sums[sub] <= s.Length && cost[m]+s.Cost < next[m|sub] {
						next[m|sub], took[m|sub] = cost[m]+s.Cost, step{sub, i}
					}
				}
			}
			cost = next
			stages = append(stages, took)
		}
	}
	unlimited := make([]int, len(have))
	for i, h := range have {
		if h < 0 {
			unlimited[i] = -1
		}
	}
	pack := make([]int, full+1)
	for m := 1; m <= full; m++ {
		pack[m] = p.cheapest(sums[m], unlimited)
	}
	bought, took := make([]int, full+1), make([]step, full+1)
	for m := 1; m <= full; m++ { // the cut of the lowest bit stands in the length that is added last
		low := m & -m
		rest := m ^ low
		bought[m] = math.MaxInt / 2
		for sub := rest; ; sub = (sub - 1) & rest {
			if s := pack[sub|low]; s >= 0 && bought[rest^sub]+p.Stocks[s].Cost < bought[m] {
				bought[m], took[m] = bought[rest^sub]+p.Stocks[s].Cost, step{sub | low, s}
			}
			if sub == 0 {
				break
			}
		}
	}
	there := 0 // what is cut out of what there is
	for m := range bought {
		if cost[m]+bought[full^m] < cost[there]+bought[full^there] {
			there = m
		}
	}
	out := Plan{Bars: []Bar{}, Cost: cost[there] + bought[full^there]}
	bar := func(s step) {
		b := Bar{Stock: s.stock, Cuts: []int{}}
		for m := s.sub; m > 0; m &= m - 1 {
			b.Cuts = append(b.Cuts, cuts[bit(m&-m)])
		}
		slices.SortStableFunc(b.Cuts, func(x, y int) int { return cmp.Compare(p.Cuts[y], p.Cuts[x]) })
		out.Bars = append(out.Bars, b)
	}
	for m := full ^ there; m > 0; m ^= took[m].sub {
		bar(took[m])
	}
	for i, m := len(stages)-1, there; i >= 0 && m > 0; i-- {
		if s := stages[i][m]; s.sub > 0 {
			bar(s)
			m ^= s.sub
		}
	}
	return out
}

func bit(m int) int {
	n := 0
	for m > 1 {
		m, n = m>>1, n+1
	}
	return n
}

// search holds the best plan while it is improved.
type search struct {
	*Problem

	rnd   dice
	best  Plan
	bound int
	tried int
}

// begin is a search from the plan by hand, with the bound at sight.
func (p *Problem) begin() *search {
	s := &search{Problem: p, rnd: dice(len(p.Cuts)), bound: p.payable(p.lengthOnly())}
	s.best = s.finish(p.byHand().Bars)
	return s
}

// end is the best plan with what was proved of it.
func (s *search) end() Plan {
	s.best.Bound, s.best.Exact = s.bound, s.best.Cost == s.bound
	return s.best
}

func (s *search) take(p Plan) {
	if p.Cost < s.best.Cost {
		s.best = p
	}
}

// improveTo improves the best plan until it is proved, was tried so often, or nobody wants it to go on.
func (s *search) improveTo(most int, goOn func() bool) {
	for ; s.best.Cost > s.bound && s.tried < most && goOn(); s.tried++ {
		s.improve()
	}
}

// finish takes for each bar the cheapest stock that holds it and sums the cost.
func (s *search) finish(bars []Bar) Plan {
	have := s.haves()
	out := Plan{Bars: []Bar{}}
	slices.SortStableFunc(bars, func(a, b Bar) int { return cmp.Compare(s.sum(b.Cuts), s.sum(a.Cuts)) })
	for _, b := range bars {
		b.Stock = s.cheapest(s.sum(b.Cuts), have)
		if have[b.Stock] > 0 {
			have[b.Stock]--
		}
		out.Cost += s.Stocks[b.Stock].Cost
		out.Bars = append(out.Bars, b)
	}
	return out
}

func (p *Problem) sum(cuts []int) (n int) {
	for _, c := range cuts {
		n += p.Cuts[c]
	}
	return n
}

// improve takes some bars of the best plan apart and puts their cuts together anew, exactly where they are few.
func (s *search) improve() {
	n := 2 + s.rnd.below(3)
	if n > len(s.best.Bars) {
		n = len(s.best.Bars)
	}
	order, likely := make([]int, len(s.best.Bars)), make([]int, len(s.best.Bars))
	for i := range likely { // those with the most left over are the likelier to gain
		order[i] = i
		likely[i] = s.spare(i) + s.rnd.below(50)
	}
	slices.SortStableFunc(s.rnd.shuffle(order), func(a, b int) int { return cmp.Compare(likely[b], likely[a]) })
	chosen := order[:n]
	cuts, was := []int{}, 0
	have := s.haves()
	for i, b := range s.best.Bars {
		if slices.Contains(chosen, i) {
			cuts, was = append(cuts, b.Cuts...), was+s.Stocks[b.Stock].Cost
		} else if have[b.Stock] > 0 {
			have[b.Stock]--
		}
	}
	var bars []Bar
	if len(cuts) <= fewCuts {
		bars = s.exact(cuts, have).Bars
	} else {
		bars = s.fill(s.rnd.shuffle(cuts), have)
	}
	cost := 0
	for _, b := range bars {
		cost += s.Stocks[b.Stock].Cost
	}
	if cost > was {
		return
	}
	out := Plan{Bars: bars, Cost: s.best.Cost - was + cost}
	for i, b := range s.best.Bars {
		if !slices.Contains(chosen, i) {
			out.Bars = append(out.Bars, b)
		}
	}
	s.best = out
}

func (s *search) spare(bar int) int {
	b := s.best.Bars[bar]
	return s.Stocks[b.Stock].Length - s.sum(b.Cuts)
}

// fill packs cuts length by length: of each stock the fill of the greatest length, and of those the one that costs the least for what it holds.
func (p *Problem) fill(left []int, have []int) []Bar {
	have = slices.Clone(have)
	bars := []Bar{}
	for len(left) > 0 {
		longest := 0
		for i, s := range p.Stocks {
			if have[i] != 0 {
				longest = max(longest, s.Length)
			}
		}
		// reach[c] is the cut by which a sum of c steps was reached first, from: the sum before it.
		reach := make([]int, longest+1)
		for i := range reach {
			reach[i] = -1
		}
		reach[0] = math.MaxInt
		for n, c := range left {
			for l := longest - p.Cuts[c]; l >= 0; l-- {
				if reach[l] >= 0 && reach[l] != n && reach[l+p.Cuts[c]] < 0 {
					reach[l+p.Cuts[c]] = n
				}
			}
		}
		best, held, price := -1, 0, math.Inf(1)
		for i, s := range p.Stocks {
			if have[i] == 0 {
				continue
			}
			sum := s.Length
			for reach[sum] < 0 {
				sum--
			}
			if sum == 0 {
				continue
			}
			if each := float64(s.Cost) / float64(sum); each < price {
				best, held, price = i, sum, each
			}
		}
		if have[best] > 0 {
			have[best]--
		}
		b, taken := Bar{Stock: best, Cuts: []int{}}, map[int]bool{}
		for sum := held; sum > 0; {
			n := reach[sum]
			b.Cuts, taken[n] = append(b.Cuts, left[n]), true
			sum -= p.Cuts[left[n]]
		}
		slices.SortStableFunc(b.Cuts, func(x, y int) int { return cmp.Compare(p.Cuts[y], p.Cuts[x]) })
		bars = append(bars, b)
		rest := left[:0:0]
		for n, c := range left {
			if !taken[n] {
				rest = append(rest, c)
			}
		}
		left = rest
	}
	return bars
}
