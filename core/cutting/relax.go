package cutting

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/floats"
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
	filled  knapsack
	ways    []way // that gained at the prices of the last knapsacks
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
	gains      = 1e-7  // more than rounding errors
	close      = 0.001 // of what the relaxation is worth: a bound as near as that tells enough
	freshly    = 64    // iterations after which the inverse is worked out anew, so that no rounding error grows
)

// relax solves the relaxation from a bound that is known, as long as it may raise that to another that can be paid, does not prove the cost
// that was found, and goes on is answered by yes. It returns a bound that holds whatever the rounding errors of its prices, and the ways of its
// last basis.
func (p *Problem) relax(found, known int, goOn func() bool) (bound int, ways []way) {
	r := relaxed{Problem: p, bound: float64(known)}
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
	prices, costs, d, inverse := mat.NewVecDense(rows, nil), mat.NewVecDense(rows, nil), mat.NewVecDense(rows, nil), mat.NewDense(rows, rows, nil)
	for n := range iterations {
		if n%freshly == 0 && inverse.Inverse(r.matrix(rows)) != nil {
			break
		}
		for i := range r.basis {
			costs.SetVec(i, r.basis[i].cost)
		}
		prices.MulVec(inverse.T(), costs)
		x.MulVec(inverse, right)
		enter, ok := r.price(prices.RawVector().Data)
		// The relaxation costs at most what it is worth now: where nothing between the bound and that can be paid, it proves no more.
		worth := r.worth(x)
		if proved := p.payable(whole(r.bound)); !ok || proved >= found || proved >= p.payable(whole(worth)) || worth-r.bound < close*worth || !goOn() {
			break
		}
		d.MulVec(inverse, r.vector(&enter, rows))
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
		exchange(inverse, d, leave)
	}
	for i := range r.basis {
		if c := &r.basis[i]; c.row < 0 && x.AtVec(i) > tiny {
			c.way.times = x.AtVec(i)
			ways = append(ways, c.way)
		}
	}
	return whole(r.bound), ways
}

// exchange turns the inverse of a basis into that of the basis whose column at leave is the one that the inverse turns into d.
func exchange(inverse *mat.Dense, d *mat.VecDense, leave int) {
	pivot := inverse.RawRowView(leave)
	floats.Scale(1/d.AtVec(leave), pivot)
	for i := range d.Len() {
		if by := d.AtVec(i); i != leave && by != 0 {
			floats.AddScaled(inverse.RawRowView(i), -by, pivot)
		}
	}
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

// price finds a column that gains at the prices of the rows: the best of the slacks and of the ways that the last knapsacks gave, and where none
// of those gains, of those that the knapsacks give at these prices; these prove a bound as well. Not ok where nothing gains.
func (r *relaxed) price(prices []float64) (best column, ok bool) {
	gain := gains
	better := func(c column, by float64) {
		if by > gain {
			best, gain, ok = c, by, true
		}
	}
	for i := range r.lengths {
		better(column{row: i, sign: -1}, -prices[i]) // more than is asked for may be cut
	}
	for i := range r.limited {
		better(column{row: len(r.lengths) + i, sign: 1}, prices[len(r.lengths)+i])
	}
	for _, w := range r.ways {
		better(r.column(w), r.gain(w, prices))
	}
	if ok {
		return best, true
	}
	worth := r.fills(prices)
	r.prove(prices, worth)
	r.ways = r.ways[:0]
	for s, st := range r.Stocks {
		for i, l := range r.lengths { // the best way with this length in it
			if l > st.Length || prices[i] <= 0 {
				continue
			}
			w := way{stock: s, counts: worth.counts(st.Length-l, len(r.lengths))}
			if w.counts[i]++; w.counts[i] <= r.demand[i] && r.gain(w, prices) > gains {
				r.ways = append(r.ways, w)
			}
		}
		r.ways = append(r.ways, way{stock: s, counts: worth.counts(st.Length, len(r.lengths))})
	}
	for _, w := range r.ways {
		better(r.column(w), r.gain(w, prices))
	}
	return best, ok
}

// column is that of a way.
func (r *relaxed) column(w way) column {
	return column{way: w, cost: float64(r.Stocks[w.stock].Cost), row: -1}
}

// gain is what a way gains at the prices of the rows.
func (r *relaxed) gain(w way, prices []float64) float64 {
	out := -float64(r.Stocks[w.stock].Cost)
	for i, n := range w.counts {
		if n > 0 {
			out += float64(n) * prices[i]
		}
	}
	if at := slices.Index(r.limited, w.stock); at >= 0 {
		out += prices[len(r.lengths)+at]
	}
	return out
}

// prove raises the bound by what the prices of the rows prove.
func (r *relaxed) prove(prices []float64, worth *knapsack) {
	scale := 1.0
	for _, st := range r.Stocks {
		if st.Have == 0 && worth.value[st.Length] > 0 {
			scale = min(scale, float64(st.Cost)/worth.value[st.Length])
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
}

// knapsack is what each length is worth at most, filled with what is asked for at its prices.
type knapsack struct {
	value   []float64
	batches []batch
	took    [][]bool // by batch and length
}

// batch is several of one length, taken or not.
type batch struct{ item, n, steps int }

// counts is the fill of a length, of so many items.
func (k *knapsack) counts(length, items int) []int {
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
	k := &r.filled
	if k.value == nil {
		k.value = make([]float64, longest+1)
		for i, l := range r.lengths {
			for n, left := 1, r.demand[i]; left > 0; n *= 2 {
				n = min(n, left)
				left -= n
				k.batches = append(k.batches, batch{i, n, n * l})
				k.took = append(k.took, make([]bool, longest+1))
			}
		}
	}
	clear(k.value)
	for i, b := range k.batches {
		took := k.took[i]
		clear(took)
		if gain := prices[b.item] * float64(b.n); gain > 0 {
			for c := longest; c >= b.steps; c-- {
				if v := k.value[c-b.steps] + gain; v > k.value[c]+1e-12 {
					k.value[c], took[c] = v, true
				}
			}
		}
	}
	return k
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
