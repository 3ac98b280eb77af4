package iec230

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
)

// Bars by hand: a new board with five devices on its main switch and two groups of four and three, each fed over one module more.
func TestBarsAreCutToTheDevices(t *testing.T) {
	board := func() *install.Job {
		j := &install.Job{}
		j.Board.New, j.Board.MainSwitchA = true, install.Fact{Value: new(80.0), Basis: install.Measured}
		j.Board.Groups = []install.Group{{ID: "g1", Name: "RCD 1", RatingA: 63}, {ID: "g2", Name: "RCD 2", RatingA: 63}}
		for i, g := range []string{"", "", "", "", "", "g1", "g1", "g1", "g1", "g2", "g2", "g2"} {
			j.Circuits = append(j.Circuits, install.Circuit{ID: text("c", i), State: install.NewCircuit, Protection: install.Protection{Group: g}})
		}
		return j
	}
	count := func(j *install.Job) map[string]float64 {
		out := map[string]float64{}
		for _, p := range (Practice{}).Bars(j, &j.Board) {
			out[p.Key] = p.Count
		}
		return out
	}
	j := board()
	assert.Equal(t, map[string]float64{"busbar:80:12": 1, "busbar-cap:80": 2, "busbar:63:12": 1, "busbar-cap:63": 4}, count(j),
		"5 + 4 modules of 63 A out of one length")
	j.Circuits[5].Protection.Poles, j.Circuits[9].Protection.Poles = 3, 3
	assert.InDelta(t, 2, count(j)["busbar:63:12"], 0, "7 + 6 do not come out of one")

	j = board()
	j.Board.New = false
	j.Circuits[5].State = install.KeptCircuit
	assert.Equal(t, map[string]float64{"busbar:63:12": 1, "busbar-cap:63": 2}, count(j), "on a board that stays the row that is new")

	j = board()
	j.Schools.Set("bars", install.Chose(barsLinks))
	got := count(j)
	assert.InDelta(t, 0.15*5, got["link:25"], 1e-9)
	assert.InDelta(t, 0.15*7, got["link:16"], 1e-9)
	assert.InDelta(t, 14, got["ferrule:16"], 0)
	j.Schools.Set("bars", install.Chose("board"))
	assert.Empty(t, count(j))

	j = board()
	j.Circuits = j.Circuits[:1]
	assert.Empty(t, count(j), "one device is fed by its own terminal")
	for i := range 60 {
		j.Circuits = append(j.Circuits, install.Circuit{ID: text("d", i), State: install.NewCircuit})
	}
	assert.Equal(t, map[string]float64{"busbar:80:57": 1, "busbar:80:12": 1, "busbar-cap:80": 4}, count(j), "62 modules are longer than what is sold")
}
