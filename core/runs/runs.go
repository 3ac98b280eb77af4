// Package runs follows the run of a circuit through the network of its conductors: how much cable lies between the board and each of its
// boxes, what of it a current sees, and which box is the worst.
//
// All conductors of a run lie in one cable, so that each of them has the impedance of a metre times the same number of metres. The network
// is solved once with one ohm for a metre; R1, R2, loop and drop are that, times the conductor's own.
package runs

import (
	"arvelt/core/install"
	"arvelt/core/network"
)

// Stop is one box of a run.
type Stop struct {
	ID string
	// SeenM are the metres of one conductor that a current sees from the board to the box: the way there, and of a ring both ways in
	// parallel (a × b / (a + b)). Known is not set where a leg that has a part in it is not known.
	SeenM float64
	Known bool
	// OutM is the cable from the board to the box by the way out, BackM by the way back of a ring; 0 where there is none.
	OutM, BackM float64
	// SpurM is the part of OutM that is protected by nothing in parallel: behind a ring, or all of it.
	SpurM float64
	// SpreadM are metres that a current sees when each point of the run draws the same part of it.
	SpreadM float64
}

// Run is the run of a circuit as it is solved.
type Run struct {
	Stops []Stop
	// Worst is the box from which the most is seen, -1 where there is none or a leg is not known.
	Worst int
	// Unknown are the boxes the leg to which is not known, by id; the way back as [install.BackLeg].
	Unknown []string
	// RingM is the cable of a ring from the board round to it, 0 of a run that does not come back or is not known.
	RingM float64
	// Legged: the route says which stretch leads to which box.
	Legged bool
}

// Open reports whether a leg is not known, so that nothing of the whole run can be reckoned.
func (r *Run) Open() bool { return r.Legged && len(r.Unknown) > 0 }

const board = "board"

// Of follows the run of a circuit.
func Of(k *install.Circuit) *Run {
	r := &Run{Worst: -1, Legged: k.Legged(), Stops: make([]Stop, len(k.Serves.Boxes))}
	if len(k.Serves.Boxes) == 0 {
		return r
	}
	legs := k.Legs()
	n := &network.Net{}
	at := func(id string) network.Node {
		if id == "" || id == install.BackLeg {
			return n.Node(board, network.L1)
		}
		return n.Node(id, network.L1)
	}
	n.Source(board, network.Drive{Line: at(""), Return: n.Node(board, network.N), V: 1, Behind: network.Ohm(0, 0)})
	for i := range legs {
		z := network.Unknown
		if legs[i].Known {
			z = network.Ohm(legs[i].LengthM+legs[i].TailsM, 0)
		} else {
			r.Unknown = append(r.Unknown, legs[i].To)
		}
		n.Conductor(at(legs[i].From), at(legs[i].To), z)
	}
	solved := n.Solve(network.State{})
	points := k.Serves.Points()
	loads := make([]network.Load, 0, points)
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		r.Stops[i] = Stop{ID: b.ID}
		r.Stops[i].SeenM, r.Stops[i].Known = solved.Between(at(""), at(b.ID)).Ohms()
		if b.Device.Draws() {
			loads = append(loads, network.Load{From: at(b.ID), To: n.Node(board, network.N), A: complex(1/float64(points), 0)})
		}
	}
	r.spread(solved.Under(loads...), at)
	r.lengths(k, legs)
	r.worst()
	return r
}

// spread works out what is seen where the load is spread: the drop in volts at one ohm a metre and one ampere in all.
func (r *Run) spread(f *network.Flow, at func(string) network.Node) {
	for i := range r.Stops {
		s := &r.Stops[i]
		if v, ok := f.Volts(at(""), at(s.ID)); ok && s.Known {
			s.SpreadM = real(v)
		}
	}
}

// lengths follows the legs themselves, out and back.
func (r *Run) lengths(k *install.Circuit, legs []install.RunLeg) {
	out := map[string]float64{}
	for i := range r.Stops {
		l := &legs[i]
		out[l.To] = out[l.From] + l.LengthM + l.TailsM
		r.Stops[i].OutM, r.Stops[i].SpurM = out[l.To], out[l.To]
	}
	main := k.Serves.Main()
	if len(main) == 0 {
		return
	}
	total := out[k.Serves.Back] + legs[len(legs)-1].LengthM
	if len(r.Unknown) == 0 {
		r.RingM = total
	}
	joins := map[string]float64{} // of each box, how far out on the ring it hangs
	for _, id := range main {
		joins[id] = out[id]
	}
	for i := range r.Stops {
		s := &r.Stops[i]
		if _, on := joins[s.ID]; !on {
			joins[s.ID] = joins[legs[i].From]
		}
		s.SpurM = s.OutM - joins[s.ID]
		s.BackM = total - joins[s.ID] + s.SpurM
	}
}

func (r *Run) worst() {
	if len(r.Unknown) > 0 {
		return
	}
	for i := range r.Stops {
		if r.Worst < 0 || r.Stops[i].SeenM > r.Stops[r.Worst].SeenM+1e-9 {
			r.Worst = i
		}
	}
}
