package materials

import (
	"math"
	"slices"
	"strings"

	"arvelt/core/table"
)

// consumableRow is a row of consumables.
type consumableRow struct {
	Product string  `col:"product"`
	Name    string  `col:"name"`
	For     string  `col:"for"`
	Each    float64 `col:"each"`
	Rule    string  `col:"rule"`
}

var consumables = table.LoadOf[consumableRow](dataFiles, "consumables")

// consumables counts what tools use up in the work that the list is for. Less than one is on the van.
func (c *counter) consumables() {
	for r := range consumables.Text {
		row := consumables.Row(r)
		families, n := strings.Split(row.For, "|"), 0.0
		for i := range c.asks {
			if f, _, _ := strings.Cut(c.asks[i].product, ":"); slices.Contains(families, f) && c.asks[i].unit == "pcs" {
				n += c.asks[i].Need
			}
		}
		if n = math.Floor(n / row.Each); n > 0 {
			c.ask("tools", Ask{product: row.Product, name: c.w.Say(row.Name), Need: n, Assumed: true, Rule: c.w.Say(row.Rule)})
		}
	}
}
