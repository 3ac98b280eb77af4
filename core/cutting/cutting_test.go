package cutting

import (
	"fmt"
	"math/rand/v2"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// holds asserts that a plan cuts every cut once, none longer than its stock, and of what is there no more than there is.
func holds(t testing.TB, p Problem, got Plan, name string) {
	t.Helper()
	seen, used, cost := make([]int, len(p.Cuts)), make([]int, len(p.Stocks)), 0
	for _, b := range got.Bars {
		assert.NotEmpty(t, b.Cuts, name)
		for _, c := range b.Cuts {
			seen[c]++
		}
		require.LessOrEqual(t, p.sum(b.Cuts), p.Stocks[b.Stock].Length, name)
		used[b.Stock]++
		cost += p.Stocks[b.Stock].Cost
	}
	for c, n := range seen {
		assert.Equal(t, 1, n, "%s: cut %d", name, c)
	}
	for s, n := range used {
		if h := p.Stocks[s].Have; h > 0 {
			assert.LessOrEqual(t, n, h, name)
		}
	}
	assert.Equal(t, cost, got.Cost, name)
	assert.GreaterOrEqual(t, got.Cost, got.Bound, name)
}

// drums are stocks as merchants have them, in tenths of a metre.
var drums = [][]int{{500, 1000}, {250, 500, 1000}, {1000}, {250, 500}, {100, 250, 500, 1000}}

// house is the cuts of one product of a house that its seed draws, with off-cuts for some.
func house(seed uint64, n int) Problem {
	rnd := rand.New(rand.NewPCG(seed, 7))
	p := Problem{}
	for _, l := range drums[rnd.IntN(len(drums))] {
		p.Stocks = append(p.Stocks, Stock{Length: l, Cost: l})
	}
	longest := p.Stocks[len(p.Stocks)-1].Length
	for range rnd.IntN(4) {
		p.Stocks = append(p.Stocks, Stock{Length: 20 + rnd.IntN(200), Have: 1 + rnd.IntN(2)})
	}
	for range n {
		l := 15 + rnd.IntN(80)
		if rnd.IntN(4) == 0 {
			l = 80 + rnd.IntN(220)
		}
		p.Cuts = append(p.Cuts, min(l, longest))
	}
	return p
}

// On 200 houses no more is bought than the bound and the larger of a hundredth and one smallest pack; never more than by hand.
func TestWhatIsBoughtIsWithinTheBound(t *testing.T) {
	bought, bounds, byHand, least := 0, 0, 0, 0
	for seed := range uint64(200) {
		p := house(seed, 4+int(seed%57))
		name := fmt.Sprintf("seed %d, %d cuts", seed, len(p.Cuts))
		got, err := Solve(p, nil)
		require.NoError(t, err, name)
		holds(t, p, got, name)
		smallest := p.Stocks[0].Length
		assert.LessOrEqual(t, float64(got.Cost), float64(got.Bound)+max(float64(got.Bound)/100, float64(smallest)), name)
		hand, err := FirstFit(p)
		require.NoError(t, err)
		holds(t, p, hand, name+" by hand")
		assert.LessOrEqual(t, got.Cost, hand.Cost, name)
		bought, bounds, byHand = bought+got.Cost, bounds+got.Bound, byHand+hand.Cost
		if got.Exact {
			least++
		}
		fast, err := Quick(p)
		require.NoError(t, err)
		holds(t, p, fast, name+" at once")
		assert.GreaterOrEqual(t, fast.Cost, got.Bound, name)
		assert.LessOrEqual(t, fast.Cost, hand.Cost, name)
		again, err := Solve(p, nil)
		require.NoError(t, err)
		assert.Equal(t, got, again, "the same plan each time")
	}
	t.Logf("bought %.0f m, bound %.0f m, first fit %.0f m; %d of 200 proved least", float64(bought)/10, float64(bounds)/10, float64(byHand)/10, least)
	assert.Less(t, bought, byHand)
}

// naive tries every way to put the cuts onto stocks, one cut after the other.
func naive(p Problem) int {
	best := 1 << 60
	type open struct{ stock, left int }
	var bars []open
	used := make([]int, len(p.Stocks))
	var put func(at, cost int)
	put = func(at, cost int) {
		if cost >= best {
			return
		}
		if at == len(p.Cuts) {
			best = cost
			return
		}
		for i := range bars {
			if bars[i].left >= p.Cuts[at] {
				bars[i].left -= p.Cuts[at]
				put(at+1, cost)
				bars[i].left += p.Cuts[at]
			}
		}
		for s, st := range p.Stocks {
			if st.Length >= p.Cuts[at] && (st.Have == 0 || used[s] < st.Have) {
				used[s]++
				bars = append(bars, open{s, st.Length - p.Cuts[at]})
				put(at+1, cost+st.Cost)
				bars = bars[:len(bars)-1]
				used[s]--
			}
		}
	}
	put(0, 0)
	return best
}

// Up to eight cuts the plan costs what an exhaustive search finds; the bound of the relaxation never lies above that.
func TestFewCutsAreLeast(t *testing.T) {
	for seed := range uint64(120) {
		p := house(1000+seed, 1+int(seed%8))
		want := naive(p)
		got, err := Solve(p, nil)
		require.NoError(t, err)
		holds(t, p, got, fmt.Sprint(seed))
		assert.Equal(t, want, got.Cost, "seed %d", seed)
		assert.True(t, got.Exact)
		bound, _ := p.relax(1<<40, 0, always)
		assert.LessOrEqual(t, bound, want, "seed %d", seed)
	}
}

// A cut that no stock holds, and figures out of range, are refused by what they are.
func TestWhatCannotBeCutIsRefused(t *testing.T) {
	var e *TooLongError
	_, err := Solve(Problem{Cuts: []int{40, 90}, Stocks: []Stock{{Length: 80, Cost: 80}, {Length: 100, Have: 1}}}, nil)
	require.ErrorAs(t, err, &e, "an off-cut that one has is no answer for everything")
	assert.Equal(t, TooLongError{1, 90, 80}, *e)
	for _, p := range []Problem{{Cuts: []int{0}, Stocks: []Stock{{Length: 5, Cost: 5}}}, {Cuts: []int{1}, Stocks: []Stock{{Length: 0}}},
		{Cuts: []int{1}, Stocks: []Stock{{Length: mostSteps + 1, Cost: 1}}}, {Cuts: []int{1}, Stocks: []Stock{{Length: 5, Cost: -1}}}, {Cuts: []int{1}}} {
		_, err := Solve(p, nil)
		assert.Error(t, err)
		_, err = FirstFit(p)
		assert.Error(t, err)
	}
	got, err := Solve(Problem{Stocks: []Stock{{Length: 5, Cost: 5}}}, nil)
	require.NoError(t, err)
	assert.Empty(t, got.Bars)
}

// What is looked for can be stopped, and the best so far is a plan.
func TestTheBestSoFarIsAPlan(t *testing.T) {
	p := house(11, 60)
	shown := 0
	got, err := Solve(p, func(best *Plan) bool {
		shown++
		holds(t, p, *best, "so far")
		return shown < 3
	})
	require.NoError(t, err)
	holds(t, p, got, "stopped")
	whole, err := Solve(p, nil)
	require.NoError(t, err)
	assert.LessOrEqual(t, whole.Cost, got.Cost)
}

// wide is the cuts of one product of a house whose every length was measured: hardly two are alike, and what is sold differs little in price by
// its lengths, so that a bound is hard to prove.
func wide(seed uint64, n int) Problem {
	rnd := rand.New(rand.NewPCG(seed, 8))
	p := Problem{Stocks: []Stock{{Length: 150, Cost: 150}, {Length: 500, Cost: 500}, {Length: 1000, Cost: 1000}, {Length: 3050, Cost: 3050}}}
	for range n {
		p.Cuts = append(p.Cuts, 20+rnd.IntN(400))
	}
	for range rnd.IntN(6) {
		p.Stocks = append(p.Stocks, Stock{Length: 100 + rnd.IntN(400), Have: 1})
	}
	return p
}

// Of 250 lengths that differ, what is bought is within the same bound; the search is left while the bound is still looked for.
func TestManyLengthsThatDiffer(t *testing.T) {
	for seed := range uint64(3) {
		p, asked := wide(seed, 250), 0
		got, err := Solve(p, nil)
		require.NoError(t, err)
		holds(t, p, got, fmt.Sprint(seed))
		assert.LessOrEqual(t, float64(got.Cost), float64(got.Bound)+max(float64(got.Bound)/100, 150), "seed %d", seed)
		left, err := Solve(p, func(*Plan) bool { asked++; return asked < early+20 })
		require.NoError(t, err)
		holds(t, p, left, fmt.Sprint(seed))
		assert.Less(t, asked, early+30, "nothing goes on once it was told to stop")
		assert.LessOrEqual(t, left.Bound, got.Cost)
	}
}

// An off-cut that is there is used before anything is bought.
func TestOffCutsComeFirst(t *testing.T) {
	got, err := Solve(Problem{Cuts: []int{120, 60, 50}, Stocks: []Stock{{Length: 250, Cost: 250}, {Length: 125, Have: 1}, {Length: 110, Have: 1}}}, nil)
	require.NoError(t, err)
	assert.Zero(t, got.Cost)
	assert.Len(t, got.Bars, 2)
}

func BenchmarkSixtyRuns(b *testing.B) {
	p := house(3, 60)
	for b.Loop() {
		if _, err := Solve(p, nil); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkManyLengthsThatDiffer(b *testing.B) {
	for _, n := range []int{60, 120, 250} {
		b.Run(strconv.Itoa(n), func(b *testing.B) {
			p := wide(1, n)
			for b.Loop() {
				if _, err := Solve(p, nil); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
