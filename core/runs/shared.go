package runs

import (
	"math/cmplx"

	"arvelt/core/network"
)

// SharedNeutral is what flows in a circuit whose two lines share one neutral.
type SharedNeutral struct {
	NeutralA float64 // that the neutral carries
	// OpenA and OpenB are the volts across the load of each line while the neutral is open at the board.
	OpenA, OpenB float64
}

// OfShared solves such a circuit: ohms of each conductor from the board to its two loads, of so many amperes at so many volts from leg to
// neutral; oneLeg where both lines come from the same leg.
func OfShared(ohms, legV, ampsA, ampsB float64, oneLeg bool) SharedNeutral {
	second := complex(-legV, 0)
	if oneLeg {
		second = complex(legV, 0)
	}
	solve := func(open bool) (*network.Net, network.Element, *network.Flow) {
		n := &network.Net{}
		head := func(c network.Core) network.Node { return n.Node(board, c) }
		n.Source(board, network.Drive{Line: head(network.L1), Return: head(network.N), V: complex(legV, 0), Behind: network.Ohm(0, 0)},
			network.Drive{Line: head(network.L2), Return: head(network.N), V: second, Behind: network.Ohm(0, 0)})
		z := network.Ohm(ohms, 0)
		cores := n.Cable(board, "loads", map[network.Core]network.Ohms{network.L1: z, network.L2: z, network.N: z})
		n.Conductor(n.Node("loads", network.L1), n.Node("loads", network.N), network.Ohm(legV/ampsA, 0))
		n.Conductor(n.Node("loads", network.L2), n.Node("loads", network.N), network.Ohm(legV/ampsB, 0))
		if open {
			n.Cut(cores[network.N])
		}
		return n, cores[network.N], n.Solve(network.State{}).Under()
	}
	_, neutral, whole := solve(false)
	a, _ := whole.Current(neutral)
	n, _, open := solve(true)
	across := func(c network.Core) float64 {
		v, _ := open.Volts(n.Node("loads", c), n.Node("loads", network.N))
		return cmplx.Abs(v)
	}
	return SharedNeutral{NeutralA: cmplx.Abs(a), OpenA: across(network.L1), OpenB: across(network.L2)}
}
