package design

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
)

// The order of the points is as short as the best of all orders, over rooms whose ways part like branches: within 5 % for a run that ends at
// its last point, and for a ring.
func TestNoOrderOfPointsIsShorter(t *testing.T) {
	for seed := range uint64(200) {
		pick := rand.New(rand.NewPCG(seed, 11))
		j := &install.Job{}
		for n := range 3 + pick.IntN(5) {
			r := install.Room{ID: fmt.Sprintf("r%d", n), Legs: []install.Leg{{LengthM: 0.5 + 12*pick.Float64()}}}
			if n > 0 && pick.IntN(4) > 0 {
				r.From = fmt.Sprintf("r%d", pick.IntN(n))
			}
			j.Rooms = append(j.Rooms, r)
		}
		w := waysOf(j)
		pieces := []piece{}
		for range 2 + pick.IntN(6) {
			pieces = append(pieces, piece{room: &j.Rooms[pick.IntN(len(j.Rooms))], point: &install.RoomPoint{}})
		}
		length := func(order []piece, ring bool) float64 {
			m := w.legM(nil, &order[0])
			for i := 1; i < len(order); i++ {
				m += w.legM(&order[i-1], &order[i])
			}
			if ring {
				m += w.legM(&order[len(order)-1], nil)
			}
			return m
		}
		for _, ring := range []bool{false, true} {
			best := math.Inf(1)
			each(pieces, func(order []piece) { best = min(best, length(order, ring)) })
			assert.LessOrEqual(t, length(w.inOrder(pieces), ring), 1.05*best+1e-9, "seed %d, ring %v", seed, ring)
		}
	}
}

// each goes through every order of some points.
func each(list []piece, see func([]piece)) {
	var at func(n int)
	at = func(n int) {
		if n == len(list) {
			see(list)
			return
		}
		for i := n; i < len(list); i++ {
			list[n], list[i] = list[i], list[n]
			at(n + 1)
			list[n], list[i] = list[i], list[n]
		}
	}
	at(0)
}
