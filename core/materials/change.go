package materials

import (
	"maps"
	"math"
	"slices"

	"arvelt/core/survey"
)

// Change lists what another design of a job does to its order, product by product: the lines that differ, with what the company's list says
// of the difference. What was ordered already and falls away is no saving.
func Change(before, after *TakeOff, prices map[string]Item) []survey.LineChange {
	was, now := products(before), products(after)
	keys := maps.Clone(was)
	maps.Copy(keys, now)
	out := []survey.LineChange{}
	for _, key := range slices.Sorted(maps.Keys(keys)) {
		a, b := was[key], now[key]
		c := survey.LineChange{Key: key, Name: keys[key].name, Unit: keys[key].unit, More: round(b.order - a.order)}
		if c.More == 0 {
			continue
		}
		if c.More < 0 {
			c.Bought = round(max(0, min(a.bought, a.order)-b.order))
		}
		if one, ok := each(prices, key, c.Unit); ok {
			cost := round((c.More + c.Bought) * one)
			c.Cost = &cost
		}
		out = append(out, c)
	}
	return out
}

// product is all of one product in a take-off.
type product struct {
	name, unit    string
	order, bought float64
}

func products(t *TakeOff) map[string]product {
	out := map[string]product{}
	for i := range t.Lines {
		l := &t.Lines[i]
		p := out[l.Key]
		p.name, p.unit = l.Name, l.Unit
		p.order += l.Order
		p.bought += max(l.ordered(), l.Delivered)
		out[l.Key] = p
	}
	return out
}

// round takes off what adding of lengths and prices leaves behind the third place.
func round(v float64) float64 { return math.Round(v*1000) / 1000 }
