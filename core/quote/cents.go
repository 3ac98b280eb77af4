package quote

import (
	"math"
	"slices"
)

// cents is an amount of money in hundredths, so that what is shared out is lost nowhere.
type cents int64

func centsOf(v float64) cents { return cents(math.Round(v * 100)) }

func (c cents) float() float64 { return float64(c) / 100 }

// percent is so many hundredths of an amount, to the nearest.
func (c cents) percent(pc float64) cents { return cents(math.Round(float64(c) * pc / 100)) }

// split shares an amount out by weights; the parts come to the whole of it. What rounding leaves goes to the largest remainders.
func split(amount cents, weights []float64) []cents {
	out, rest := make([]cents, len(weights)), make([]float64, len(weights))
	total := 0.0
	for _, w := range weights {
		total += w
	}
	if total == 0 {
		return out
	}
	left := amount
	for i, w := range weights {
		exact := float64(amount) * w / total
		out[i] = cents(math.Floor(exact))
		rest[i] = exact - math.Floor(exact)
		left -= out[i]
	}
	order := make([]int, len(weights))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case rest[a] > rest[b]:
			return -1
		case rest[a] < rest[b]:
			return 1
		}
		return 0
	})
	for i := 0; left > 0; i++ {
		out[order[i%len(order)]]++
		left--
	}
	return out
}

func ones(n int) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = 1
	}
	return out
}
