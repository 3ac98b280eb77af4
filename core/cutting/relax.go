package cutting

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
)

// way is a way to cut a stock length: how many of each distinct length, and how often the relaxation takes it.
type way struct {
	stock  int
	counts []int
	times  float64
}

// relaxed is the linear relaxation over the distinct lengths of a problem: the basis of the simplex method, one way to cut (or the slack of
// a row) a row.
type relaxed struct {
	*Problem

	lengths []int // distinct, the longest first
	demand  []int
	limited []int // stocks of which there are only so many
	basis   []column
	bound   float64
}

// column is a column of the relaxation: a way to cut with its cost, or the slack of a row.
type column struct {
	way  way
	cost float64
	row  int     // of a slack; -1 of a way
	sign float64 // of a slack
}

const (
	tiny       = 1e-9
	iterations = 3000
)

// relax solves the relaxation, as far as its bound does not prove a cost that was found before. It returns a bound that holds whatever the
// rounding errors of its prices, and the ways of its last basis.
func (p *Problem) relax(found int) (bound int, ways []way) {
	r := relaxed{Problem: p}
	lengths, cuts := p.distinct()
	r.lengths = lengths
	for _, of := range cuts {
		r.demand = append(r.demand, len(of))
	}
	longest := -1
	for i, s := range p.Stocks {
		if s.Have > 0 {
			r.limited = append(r.limited, i)
		} else if longest < 0 || s.Length > p.Stocks[longest].Length {
			longest = i
		}
	}
	rows := len(r.lengths) + len(r.limited)
	for i, l := range r.lengths {
		w := way{stock: longest, counts: make([]int, len(r.lengths))}
		w.counts[i] = min(p.Stocks[longest].Length/l, r.demand[i])
		r.basis = append(r.basis, column{way: w, cost: float64(p.Stocks[longest].Cost), row: -1})
	}
	for i := range r.limited {
		r.basis = append(r.basis, column{row: len(r.lengths) + i, sign: 1})
	}
	right := mat.NewVecDense(rows, nil)
	for i, d := range r.demand {
		right.SetVec(i, float64(d))
	}
	for i, s := range r.limited {
		right.SetVec(len(r.lengths)+i, float64(p.Stocks[s].Have))
	}
	x := mat.NewVecDense(rows, nil)
	for range iterations {
		var lu mat.LU
		lu.Factorize(r.matrix(rows))
		prices, costs := mat.NewVecDense(rows, nil), mat.NewVecDense(rows, nil)
		for i := range r.basis {
			costs.SetVec(i, r.basis[i].cost)
		}
		if lu.SolveVecTo(prices, true, costs) != nil || lu.SolveVecTo(x, false, right) != nil {
			break
		}
		enter, ok := r.price(prices.RawVector().Data)
		if !ok || r.bound >= r.worth(x)-tiny || p.payable(whole(r.bound)) >= found {
			break
		}
		d := mat.NewVecDense(rows, nil)
		if lu.SolveVecTo(d, false, r.vector(&enter, rows)) != nil {
			break
		}
		leave, least := -1, math.Inf(1)
		for i := range rows {
			if d.AtVec(i) > tiny {
				if q := max(x.AtVec(i), 0) / d.AtVec(i); q < least-tiny {
					leave, least = i, q
				}
			}
		}
		if leave < 0 {
			break
		}
		r.basis[leave] = enter
	}
	for i := range r.basis {
		if c := &r.basis[i]; c.row < 0 && x.AtVec(i) > tiny {
			c.way.times = x.AtVec(i)
			ways = append(ways, c.way)
		}
	}
	return whole(r.bound), ways
}

// whole is a bound in whole steps.
func whole(bound float64) int { return int(math.Ceil(bound - 1e-6)) }

// worth is the cost of the relaxation as it stands.
func (r *relaxed) worth(x *mat.VecDense) (sum float64) {
	for i := range r.basis {
		sum += r.basis[i].cost * x.AtVec(i)
	}
	return sum
}

func (r *relaxed) matrix(rows int) *mat.Dense {
	m := mat.NewDense(rows, rows, nil)
	for i := range r.basis {
		m.SetCol(i, r.vector(&r.basis[i], rows).RawVector().Data)
	}
	return m
}

// vector is a column by the rows.
func (r *relaxed) vector(c *column, rows int) *mat.VecDense {
	v := mat.NewVecDense(rows, nil)
	if c.row >= 0 {
		v.SetVec(c.row, c.sign)
		return v
	}
	for i, n := range c.way.counts {
		v.SetVec(i, float64(n))
	}
	if at := slices.Index(r.limited, c.way.stock); at >= 0 {
		v.SetVec(len(r.lengths)+at, 1)
	}
	return v
}

// price finds the column that gains the most at the prices of the rows, and raises the bound by what those prices prove; not ok where none
// gains.
func (r *relaxed) price(prices []float64) (best column, ok bool) {
	gain := 1e-7
	for i := range r.lengths {
		if -prices[i] > gain { // more than is asked for may be cut
			best, gain, ok = column{row: i, sign: -1}, -prices[i], true
		}
	}
	for i := range r.limited {
		if w := prices[len(r.lengths)+i]; w > gain {
			best, gain, ok = column{row: len(r.lengths) + i, sign: 1}, w, true
		}
	}
	worth := r.fills(prices)
	scale := 1.0
	for s, st := range r.Stocks {
		if st.Have == 0 && worth.value[st.Length] > 0 {
			scale = min(scale, float64(st.Cost)/worth.value[st.Length])
		}
		extra := 0.0
		if at := slices.Index(r.limited, s); at >= 0 {
			extra = prices[len(r.lengths)+at]
		}
		if g := worth.value[st.Length] - float64(st.Cost) + extra; g > gain {
			gain, ok = g, true
			best = column{way: way{stock: s, counts: worth.counts(st.Length)}, cost: float64(st.Cost), row: -1}
		}
	}
	proved := 0.0
	for i, d := range r.demand {
		proved += scale * max(prices[i], 0) * float64(d)
	}
	for _, s := range r.limited {
		st := r.Stocks[s]
		proved -= float64(st.Have) * max(0, scale*worth.value[st.Length]-float64(st.Cost))
	}
	r.bound = max(r.bound, proved)
	return best, ok
}

// knapsack is what each length is worth at most, filled with what is asked for at its prices.
type knapsack struct {
	value   []float64
	batches []batch
	took    [][]bool // by batch and length
}

// batch is several of one length, taken or not.
type batch struct{ item, n, steps int }

// counts is the fill of a length.
func (k *knapsack) counts(length int) []int {
	items := 0
	for _, b := range k.batches {
		items = max(items, b.item+1)
	}
	out := make([]int, items)
	for i := len(k.batches) - 1; i >= 0; i-- {
		if b := k.batches[i]; k.took[i][length] {
			out[b.item] += b.n
			length -= b.steps
		}
	}
	return out
}

// fills works out the knapsacks of all lengths at once, no length more often than it is asked for: in batches of powers of two.
func (r *relaxed) fills(prices []float64) *knapsack {
	longest := 0
	for _, s := range r.Stocks {
		longest = max(longest, s.Length)
	}
	k := knapsack{value: make([]float64, longest+1)}
	for i, l := range r.lengths {
		for n, left := 1, r.demand[i]; left > 0; n *= 2 {
			n = min(n, left)
			left -= n
			b := batch{i, n, n * l}
			took := make([]bool, longest+1)
			if gain := prices[i] * float64(n); gain > 0 {
				for c := longest; c >= b.steps; c-- {
					if v := k.value[c-b.steps] + gain; v > k.value[c]+1e-12 {
						k.value[c], took[c] = v, true
					}
				}
			}
			k.batches, k.took = append(k.batches, b), append(k.took, took)
		}
	}
	return &k
}

// round takes the ways of the relaxation as often as they go whole, the largest part first and then by chance, and fills in what is left.
func (p *Problem) round(ways []way, rnd *dice) []Bar {
	_, left := p.distinct()
	have, bars := p.haves(), []Bar{}
	slices.SortStableFunc(ways, func(a, b way) int { return cmp.Compare(b.times, a.times) })
	use := func(w *way) {
		if have[w.stock] == 0 {
			return
		}
		for i, n := range w.counts {
			if len(left[i]) < n {
				return
			}
		}
		b := Bar{Stock: w.stock, Cuts: []int{}}
		for i, n := range w.counts {
			b.Cuts, left[i] = append(b.Cuts, left[i][:n]...), left[i][n:]
		}
		if len(b.Cuts) == 0 {
			return
		}
		if have[w.stock] > 0 {
			have[w.stock]--
		}
		bars = append(bars, b)
	}
	for i := range ways {
		for range int(ways[i].times + 1e-6) {
			use(&ways[i])
		}
	}
	for i := range ways {
		if part := ways[i].times - math.Floor(ways[i].times+1e-6); part > 0.5 || part > 0.2 && float64(rnd.below(1000))/1000 < part {
			use(&ways[i])
		}
	}
	rest := slices.Concat(left...)
	if len(rest) <= ExactCuts {
		return append(bars, p.exact(rest, have).Bars...)
	}
	return append(bars, p.fill(rest, have)...)
}

// distinct are the lengths of a problem, the longest first, each once, and the cuts of each.
func (p *Problem) distinct() (lengths []int, cuts [][]int) {
	for _, c := range p.byLength() {
		if n := len(lengths); n == 0 || lengths[n-1] != p.Cuts[c] {
			lengths, cuts = append(lengths, p.Cuts[c]), append(cuts, nil)
		}
		cuts[len(cuts)-1] = append(cuts[len(cuts)-1], c)
	}
	return lengths, cuts
}
