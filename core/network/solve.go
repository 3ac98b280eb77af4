package network

import (
	"math/cmplx"

	"gonum.org/v1/gonum/mat"
)

// Solved is a network in one state, solved for whatever is asked of it.
//
// Terminals that are joined without impedance are one vertex. A spanning tree is drawn through the vertices depth first, so that each
// conductor beside it closes one loop between a vertex and one above it. Loops that share a conductor form a block, which is solved by
// itself (Kirchhoff's laws, by loop currents): a house has some hundred blocks of one loop, and none of its matrices is larger than the
// loops of one ring.
type Solved struct {
	n      *Net
	vertex []int32 // of each node
	up     []rise  // of each vertex
	order  []int32 // the vertices as they were drawn, each behind the one above it
	loops  []loop
	blocks []*block
	closed []bool // of each conductor
}

// rise is the conductor from a vertex to the one above it.
type rise struct {
	parent  int32 // -1 at the top of a tree
	edge    Element
	z, emf  complex128 // the driving voltage downwards
	known   bool
	depth   int32
	tree    int32   // which tree it is of
	loops   []int32 // that it is in
	unfound bool    // nothing was drawn there yet
}

type loop struct {
	edge     Element
	z, emf   complex128 // of the conductor beside the tree, driving from the lower end to the upper
	lower    int32
	upper    int32
	known    bool
	block    int32
	at       int32 // its place in the block
	downward int   // 1 where the conductor runs from the lower end to the upper, else -1
}

type block struct {
	loops  []int32
	known  bool
	driven bool // a source is in it
	lu     *mat.LU
	one    complex128 // the impedance of its only loop
}

// Solve solves a network in a state.
func (n *Net) Solve(s State) *Solved {
	open := n.opened(s)
	// A device that locks out is closed only where it is fed on its right side.
	var fed *Reach
	for i := range n.conductor {
		if n.conductor[i].oneWay && !open[i] {
			if fed == nil {
				fed = n.Reach(State{})
			}
			open[i] = !fed.Live(n.conductor[i].from)
		}
	}
	out := &Solved{n: n, closed: make([]bool, len(open))}
	for i := range open {
		out.closed[i] = !open[i]
	}
	out.join()
	out.draw()
	out.gather()
	return out
}

// none reports whether a conductor is a mere joint.
func (c *conductor) none() bool { return c.source < 0 && c.z.known && c.z.z == 0 }

// join makes one vertex of what is joined without impedance.
func (s *Solved) join() {
	joined := newSets(len(s.n.terminals))
	for i := range s.n.conductor {
		if c := &s.n.conductor[i]; s.closed[i] && c.none() {
			joined.join(int32(c.from), int32(c.to))
		}
	}
	// The first of a set has the lowest number, and is numbered before the others.
	s.vertex = make([]int32, len(joined))
	count := int32(0)
	for k := range joined {
		if first := joined.first(int32(k)); first == int32(k) {
			s.vertex[k] = count
			count++
		} else {
			s.vertex[k] = s.vertex[first]
		}
	}
	s.up = make([]rise, count)
	for v := range s.up {
		s.up[v] = rise{parent: -1, unfound: true}
	}
}

// draw draws the trees depth first.
func (s *Solved) draw() {
	type end struct {
		to   int32
		edge Element
	}
	next := make([][]end, len(s.up))
	for i := range s.n.conductor {
		c := &s.n.conductor[i]
		if a, b := s.vertex[c.from], s.vertex[c.to]; s.closed[i] && !c.none() && a != b {
			next[a] = append(next[a], end{b, Element(i)})
			next[b] = append(next[b], end{a, Element(i)})
		}
	}
	at := make([]int, len(s.up)) // how far the ends of each vertex were gone through
	for top := range s.up {
		if !s.up[top].unfound {
			continue
		}
		s.up[top] = rise{parent: -1, tree: int32(top)}
		s.order = append(s.order, int32(top))
		path := []int32{int32(top)}
		for len(path) > 0 {
			v := path[len(path)-1]
			if at[v] == len(next[v]) {
				path = path[:len(path)-1]
				continue
			}
			e := next[v][at[v]]
			at[v]++
			c := &s.n.conductor[e.edge]
			u := &s.up[e.to]
			switch {
			case u.unfound:
				*u = rise{parent: v, edge: e.edge, z: c.z.z, emf: c.emf, known: c.z.known, depth: s.up[v].depth + 1, tree: int32(top)}
				s.order = append(s.order, e.to)
				if s.vertex[c.from] != v {
					u.emf = -c.emf
				}
				path = append(path, e.to)
			case u.depth < s.up[v].depth && e.edge != s.up[v].edge: // back to one above: a loop
				l := loop{edge: e.edge, z: c.z.z, emf: c.emf, lower: v, upper: e.to, known: c.z.known, downward: 1}
				if s.vertex[c.from] != v {
					l.emf, l.downward = -c.emf, -1
				}
				s.loops = append(s.loops, l)
			}
		}
	}
}

// sets are sets of numbers that are joined two by two, each by the number that leads to its lowest.
type sets []int32

func newSets(n int) sets {
	s := make(sets, n)
	for k := range s {
		s[k] = int32(k)
	}
	return s
}

// first is the lowest number of the set that a number is in.
func (s sets) first(k int32) int32 {
	for s[k] != k {
		s[k] = s[s[k]]
		k = s[k]
	}
	return k
}

func (s sets) join(a, b int32) {
	a, b = s.first(a), s.first(b)
	s[max(a, b)] = min(a, b)
}

// gather marks which loops a conductor of the tree is in, and gathers loops that share one into blocks.
func (s *Solved) gather() {
	together := newSets(len(s.loops))
	for k := range s.loops {
		for v := s.loops[k].lower; v != s.loops[k].upper; v = s.up[v].parent {
			r := &s.up[v]
			if len(r.loops) > 0 {
				together.join(r.loops[0], int32(k))
			}
			r.loops = append(r.loops, int32(k))
		}
	}
	for k := range s.loops {
		l := &s.loops[k]
		if first := together.first(int32(k)); first == int32(k) {
			l.block = int32(len(s.blocks))
			s.blocks = append(s.blocks, &block{known: true})
		} else {
			l.block = s.loops[first].block
		}
		b := s.blocks[l.block]
		l.at = int32(len(b.loops))
		b.loops = append(b.loops, int32(k))
		b.known = b.known && l.known
		b.driven = b.driven || l.emf != 0
		for v := l.lower; v != l.upper; v = s.up[v].parent {
			b.known = b.known && s.up[v].known
			b.driven = b.driven || s.up[v].emf != 0
		}
	}
}

// currents are the currents of a block's loops under driving voltages. The block is known.
func (s *Solved) currents(b *block, volts []complex128) []complex128 {
	m := len(b.loops)
	if m == 1 {
		if b.one == 0 {
			l := &s.loops[b.loops[0]]
			b.one = l.z
			for v := l.lower; v != l.upper; v = s.up[v].parent {
				b.one += s.up[v].z
			}
		}
		return []complex128{volts[0] / b.one}
	}
	if b.lu == nil {
		// A complex system of m is a real one of 2 m: [R −X; X R].
		a := mat.NewDense(2*m, 2*m, nil)
		add := func(i, j int, z complex128) {
			a.Set(i, j, a.At(i, j)+real(z))
			a.Set(m+i, m+j, a.At(m+i, m+j)+real(z))
			a.Set(m+i, j, a.At(m+i, j)+imag(z))
			a.Set(i, m+j, a.At(i, m+j)-imag(z))
		}
		for i, k := range b.loops {
			l := &s.loops[k]
			add(i, i, l.z)
			for v := l.lower; v != l.upper; v = s.up[v].parent {
				for _, other := range s.up[v].loops {
					add(i, int(s.loops[other].at), s.up[v].z)
				}
			}
		}
		b.lu = &mat.LU{}
		b.lu.Factorize(a)
	}
	right := mat.NewVecDense(2*m, nil)
	for i, v := range volts {
		right.SetVec(i, real(v))
		right.SetVec(m+i, imag(v))
	}
	var x mat.VecDense
	_ = b.lu.SolveVecTo(&x, false, right) // an ill-conditioned block is told by its figures, which its tests hold
	out := make([]complex128, m)
	for i := range out {
		out[i] = complex(x.AtVec(i), x.AtVec(m+i))
	}
	return out
}

// Found is what there is between two terminals.
type Found struct {
	z     complex128
	known bool
	open  bool
}

// Value is the impedance in Ω and whether it is known; it is not where nothing joins the two, or where something that is not known
// has a part in it.
func (f Found) Value() (complex128, bool) { return f.z, f.known }

// Ohms is the magnitude in Ω and whether it is known.
func (f Found) Ohms() (float64, bool) { return cmplx.Abs(f.z), f.known }

// Open reports whether nothing joins the two.
func (f Found) Open() bool { return f.open }

// Between is the impedance between two terminals, of all that joins them, sources by what stands behind them.
func (s *Solved) Between(a, b Node) Found {
	va, vb := s.vertex[a], s.vertex[b]
	if va == vb {
		return Found{known: true}
	}
	if s.up[va].tree != s.up[vb].tree {
		return Found{open: true}
	}
	// One ampere goes up from a to where the two ways meet and down to b.
	type part struct {
		v    int32
		down complex128
	}
	path := []part{}
	for va != vb {
		if s.up[va].depth >= s.up[vb].depth {
			path = append(path, part{va, -1})
			va = s.up[va].parent
		} else {
			path = append(path, part{vb, 1})
			vb = s.up[vb].parent
		}
	}
	out := Found{known: true}
	volts := map[int32][]complex128{} // by block
	for _, p := range path {
		r := &s.up[p.v]
		out.z += r.z
		if len(r.loops) == 0 {
			out.known = out.known && r.known
			continue
		}
		for _, k := range r.loops {
			l := &s.loops[k]
			if volts[l.block] == nil {
				volts[l.block] = make([]complex128, len(s.blocks[l.block].loops))
			}
			volts[l.block][l.at] -= r.z * p.down
		}
	}
	for k, v := range volts {
		if !s.blocks[k].known {
			return Found{}
		}
		volts[k] = s.currents(s.blocks[k], v)
	}
	if !out.known {
		return Found{}
	}
	for _, p := range path {
		for _, k := range s.up[p.v].loops {
			l := &s.loops[k]
			out.z += s.up[p.v].z * p.down * volts[l.block][l.at]
		}
	}
	return out
}
