package network

import (
	"math/cmplx"
	"slices"
)

// Load is a current that is drawn from one terminal and given back to another, in A as a phasor against the sources.
type Load struct {
	From, To Node
	A        complex128
}

// Flow is what flows in a solved network under its sources and under loads.
type Flow struct {
	s       *Solved
	down    []complex128   // of each vertex, in the conductor from the one above it
	round   [][]complex128 // of each block, by loop
	unknown []bool         // of each block: it carries, and something of it is not known
}

// Under is what flows under the sources and loads. A load whose two terminals nothing joins draws nothing.
func (s *Solved) Under(loads ...Load) *Flow {
	f := &Flow{s: s, down: make([]complex128, len(s.up)), round: make([][]complex128, len(s.blocks)), unknown: make([]bool, len(s.blocks))}
	for _, l := range loads {
		from, to := s.vertex[l.From], s.vertex[l.To]
		if s.up[from].tree == s.up[to].tree {
			f.down[from] += l.A
			f.down[to] -= l.A
		}
	}
	// What is drawn below a vertex comes down to it: the last drawn first.
	for _, v := range slices.Backward(s.order) {
		if p := s.up[v].parent; p >= 0 {
			f.down[p] += f.down[v]
		} else {
			f.down[v] = 0
		}
	}
	for k, b := range s.blocks {
		volts := make([]complex128, len(b.loops))
		carries := b.driven
		for i, at := range b.loops {
			l := &s.loops[at]
			volts[i] = l.emf
			for v := l.lower; v != l.upper; v = s.up[v].parent {
				volts[i] += s.up[v].emf - s.up[v].z*f.down[v]
				carries = carries || f.down[v] != 0
			}
		}
		f.unknown[k] = carries && !b.known
		if carries && b.known {
			f.round[k] = s.currents(b, volts)
		} else {
			f.round[k] = make([]complex128, len(b.loops))
		}
	}
	return f
}

// in is the current down to a vertex from the one above, and whether it is known.
func (f *Flow) in(v int32) (a complex128, known bool) {
	a = f.down[v]
	for _, k := range f.s.up[v].loops {
		l := &f.s.loops[k]
		if f.unknown[l.block] {
			return 0, false
		}
		a += f.round[l.block][l.at]
	}
	return a, true
}

// Current is what flows through a conductor, in A from its first terminal to its second, and whether it is known. Through a mere joint
// it is not told.
func (f *Flow) Current(e Element) (a complex128, known bool) {
	c := &f.s.n.conductor[e]
	if !f.s.closed[e] {
		return 0, true
	}
	from, to := f.s.vertex[c.from], f.s.vertex[c.to]
	if from == to {
		return 0, false
	}
	for _, v := range []int32{from, to} {
		if r := &f.s.up[v]; r.parent >= 0 && r.edge == e {
			a, known = f.in(v)
			if v == from {
				a = -a
			}
			return a, known
		}
	}
	for k := range f.s.loops {
		if l := &f.s.loops[k]; l.edge == e {
			return f.round[l.block][l.at] * complex(float64(l.downward), 0), !f.unknown[l.block]
		}
	}
	return 0, false
}

// Volts is the voltage of one terminal against another, as a phasor in V, and whether it is known; it is not where nothing joins them.
func (f *Flow) Volts(of, against Node) (v complex128, known bool) {
	s := f.s
	a, b := s.vertex[of], s.vertex[against]
	if s.up[a].tree != s.up[b].tree {
		return 0, false
	}
	known = true
	step := func(at int32) complex128 { // from the vertex above
		r := &s.up[at]
		i, sure := f.in(at)
		known = known && sure && (r.known || i == 0)
		return r.emf - r.z*i
	}
	for a != b {
		if s.up[a].depth >= s.up[b].depth {
			v += step(a)
			a = s.up[a].parent
		} else {
			v -= step(b)
			b = s.up[b].parent
		}
	}
	if !known {
		return 0, false
	}
	return v, true
}

// Fault is the current in A between two terminals joined by a fault of no impedance, and whether it is known: the voltage that is
// there before, by the impedance behind it (Thévenin).
func (s *Solved) Fault(a, b Node) (amperes float64, known bool) {
	z := s.Between(a, b)
	if z.open {
		return 0, true
	}
	v, ok := s.Under().Volts(a, b)
	if !ok || !z.known || z.z == 0 {
		return 0, false
	}
	return cmplx.Abs(v / z.z), true
}
