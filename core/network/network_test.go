package network

import (
	"fmt"
	"math"
	"math/cmplx"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// near holds that two are the same to a millionth.
func near(t *testing.T, want, got float64, about ...any) {
	t.Helper()
	assert.InDelta(t, want, got, 1e-9+1e-6*math.Abs(want), about...)
}

func ohms(t *testing.T, f Found) float64 {
	t.Helper()
	v, known := f.Ohms()
	require.True(t, known)
	return v
}

// per metre, in Ω: a flat cable of 2.5 with 1.5 mm².
const (
	line25 = 0.00741
	cpc15  = 0.0121
)

func flat(metres float64) map[Core]Ohms {
	return map[Core]Ohms{L1: Ohm(line25*metres, 0), N: Ohm(line25*metres, 0), E: Ohm(cpc15*metres, 0)}
}

// ring is a ring of legs, with its two ends at the board as "a" and "b" and its points p1, p2 … between them.
func ring(legs ...float64) *Net {
	n := &Net{}
	at := "a"
	for i, metres := range legs {
		to := fmt.Sprintf("p%d", i+1)
		if i == len(legs)-1 {
			to = "b"
		}
		n.Cable(at, to, flat(metres))
		at = to
	}
	return n
}

func sum(legs []float64) (total float64) {
	for _, l := range legs {
		total += l
	}
	return total
}

// A radial's R1+R2 is line and protective conductor of all its legs, read at the board with the two joined at the point.
func TestTheRadialOfTheTextbook(t *testing.T) {
	n := &Net{}
	n.Cable("board", "p1", flat(12))
	n.Cable("p1", "p2", flat(5.5))
	n.Cable("p1", "spur", flat(3))
	for point, metres := range map[string]float64{"p1": 12, "p2": 17.5, "spur": 15} {
		joined := n.Clone()
		joined.Link(joined.Node(point, L1), joined.Node(point, E))
		s := joined.Solve(State{})
		near(t, metres*(line25+cpc15), ohms(t, s.Between(joined.Node("board", L1), joined.Node("board", E))), point)
	}
	s := n.Solve(State{})
	assert.True(t, s.Between(n.Node("board", L1), n.Node("board", E)).Open(), "nothing joins them before")
}

// The three steps of a ring's continuity test as the guides have them: end to end; a quarter of line and neutral at every socket with
// the ends cross-connected, and of line and protective conductor; more by a spur's own length at its end.
func TestTheRingOfTheTextbook(t *testing.T) {
	legs := []float64{9, 14, 3, 22, 11}
	round := sum(legs)
	n := ring(legs...)
	s := n.Solve(State{})
	near(t, round*line25, ohms(t, s.Between(n.Node("a", L1), n.Node("b", L1))))
	near(t, round*cpc15, ohms(t, s.Between(n.Node("a", E), n.Node("b", E))))

	n.Cable("p2", "spur", flat(6))
	for _, with := range []struct {
		core Core
		r    float64
	}{{N, line25}, {E, cpc15}} {
		crossed := n.Clone()
		crossed.Link(crossed.Node("a", L1), crossed.Node("b", with.core))
		crossed.Link(crossed.Node("b", L1), crossed.Node("a", with.core))
		s := crossed.Solve(State{})
		quarter := round * (line25 + with.r) / 4
		for i := range len(legs) - 1 {
			at := fmt.Sprintf("p%d", i+1)
			got := ohms(t, s.Between(crossed.Node(at, L1), crossed.Node(at, with.core)))
			if with.core == N {
				near(t, quarter, got, at)
			} else {
				// With conductors of two sizes the reading rises a little away from the board (the guides say so too).
				assert.LessOrEqual(t, got, quarter*1.0000001, at)
			}
		}
		at := ohms(t, s.Between(crossed.Node("p2", L1), crossed.Node("p2", with.core)))
		near(t, at+6*(line25+with.r), ohms(t, s.Between(crossed.Node("spur", L1), crossed.Node("spur", with.core))))
	}
	// R1+R2 at the middle of a ring closed at its device is a quarter of end to end.
	even := ring(20, 20)
	even.Link(even.Node("a", L1), even.Node("b", L1))
	even.Link(even.Node("a", E), even.Node("b", E))
	even.Link(even.Node("p1", L1), even.Node("p1", E))
	near(t, 40*(line25+cpc15)/4, ohms(t, even.Solve(State{}).Between(even.Node("a", L1), even.Node("a", E))))
}

// resistor is one of a random network.
type resistor struct {
	a, b int
	z    complex128
}

// nodal is the impedance between two nodes by the node-voltage method, worked out another way than the network is: it answers false
// where nothing joins them.
func nodal(nodes int, rs []resistor, a, b int) (complex128, bool) {
	joined := map[int]bool{a: true}
	for range rs {
		for _, r := range rs {
			if joined[r.a] || joined[r.b] {
				joined[r.a], joined[r.b] = true, true
			}
		}
	}
	if !joined[b] {
		return 0, false
	}
	index := map[int]int{}
	for k := range nodes {
		if joined[k] && k != b {
			index[k] = len(index)
		}
	}
	size := len(index)
	m := make([][]complex128, size)
	for i := range m {
		m[i] = make([]complex128, size+1)
	}
	for _, r := range rs {
		if !joined[r.a] || r.a == r.b {
			continue
		}
		i, okA := index[r.a]
		j, okB := index[r.b]
		if okA {
			m[i][i] += 1 / r.z
		}
		if okB {
			m[j][j] += 1 / r.z
		}
		if okA && okB {
			m[i][j] -= 1 / r.z
			m[j][i] -= 1 / r.z
		}
	}
	m[index[a]][size] = 1
	for c := range size {
		best := c
		for r := c; r < size; r++ {
			if cmplx.Abs(m[r][c]) > cmplx.Abs(m[best][c]) {
				best = r
			}
		}
		m[c], m[best] = m[best], m[c]
		for r := range size {
			if r != c {
				f := m[r][c] / m[c][c]
				for k := c; k <= size; k++ {
					m[r][k] -= f * m[c][k]
				}
			}
		}
	}
	return m[index[a]][size] / m[index[a]][index[a]], true
}

func TestTheNodeMethodOfTheTestAgreesWithItself(t *testing.T) {
	z, ok := nodal(3, []resistor{{0, 1, 2}, {1, 2, 3}, {0, 2, 5}}, 0, 2)
	require.True(t, ok)
	near(t, 2.5, real(z))
}

// random is a network of so many nodes and resistors, and the same as a list.
func random(r *rand.Rand, nodes, count int) (*Net, []resistor) {
	n := &Net{}
	for k := range nodes {
		n.Node(fmt.Sprint(k), L1)
	}
	rs := []resistor{}
	for range count {
		a, b := r.IntN(nodes), r.IntN(nodes)
		z := complex(0.001+r.Float64(), r.Float64()/3)
		rs = append(rs, resistor{a, b, z})
		n.Conductor(Node(a), Node(b), Ohm(real(z), imag(z)))
	}
	return n, rs
}

// Of random networks every impedance is what the node-voltage method gives, the same either way round, and unknown where a conductor
// that has a part in it is not known.
func TestRandomNetworksByASecondMethod(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 7))
		nodes := 2 + r.IntN(14)
		n, rs := random(r, nodes, r.IntN(2*nodes+3))
		s := n.Solve(State{})
		for range 6 {
			a, b := r.IntN(nodes), r.IntN(nodes)
			if a == b {
				continue
			}
			want, joined := nodal(nodes, rs, a, b)
			got := s.Between(Node(a), Node(b))
			require.Equal(t, !joined, got.Open(), "seed %d", seed)
			if !joined {
				continue
			}
			z, known := got.Value()
			require.True(t, known, "seed %d", seed)
			require.InDelta(t, 0, cmplx.Abs(z-want), 1e-7*(1+cmplx.Abs(want)), "seed %d", seed)
			back, _ := s.Between(Node(b), Node(a)).Value()
			require.InDelta(t, 0, cmplx.Abs(z-back), 1e-9*(1+cmplx.Abs(z)), "reciprocity, seed %d", seed)
			if len(rs) == 0 {
				continue
			}
			// One conductor forgotten: unknown where it matters, the same where it does not.
			k := r.IntN(len(rs))
			lost := n.Clone()
			lost.conductor[k].z = Unknown
			moved := slices.Clone(rs)
			moved[k].z *= 1.7
			other, _ := nodal(nodes, moved, a, b)
			matters := cmplx.Abs(other-want) > 1e-9*(1+cmplx.Abs(want))
			_, still := lost.Solve(State{}).Between(Node(a), Node(b)).Value()
			if matters {
				require.False(t, still, "seed %d", seed)
			} else if still {
				v, _ := lost.Solve(State{}).Between(Node(a), Node(b)).Value()
				require.InDelta(t, 0, cmplx.Abs(v-want), 1e-7*(1+cmplx.Abs(want)), "seed %d", seed)
			}
		}
	}
}

// At every node of random networks under random loads what comes in goes out, and round every loop the voltages close.
func TestKirchhoff(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 11))
		nodes := 3 + r.IntN(12)
		n, rs := random(r, nodes, nodes+r.IntN(nodes))
		n.Source("grid", Drive{Line: Node(0), Return: Node(1), V: 230, Behind: Ohm(0.1, 0.05)})
		if seed%2 == 0 {
			n.Source("set", Drive{Line: Node(2), Return: Node(1), V: complex(200, 40), Behind: Ohm(0.4, 0.1)})
		}
		s := n.Solve(State{})
		drawn := make([]complex128, nodes)
		loads := []Load{}
		for range 3 {
			l := Load{Node(r.IntN(nodes)), Node(r.IntN(nodes)), complex(r.Float64()*10, r.Float64())}
			if l.From == l.To || s.Between(l.From, l.To).Open() {
				continue
			}
			loads = append(loads, l)
			drawn[l.From] += l.A
			drawn[l.To] -= l.A
		}
		f := s.Under(loads...)
		left := make([]complex128, nodes)
		for e := range n.conductor {
			c := &n.conductor[e]
			if c.from == c.to {
				continue
			}
			a, known := f.Current(Element(e))
			require.True(t, known)
			left[c.from] += a
			left[c.to] -= a
			v, known := f.Volts(c.to, c.from)
			require.True(t, known)
			require.InDelta(t, 0, cmplx.Abs(v-(c.emf-c.z.z*a)), 1e-6, "seed %d: the voltage along conductor %d of %d", seed, e, len(rs))
		}
		for k := range left {
			require.InDelta(t, 0, cmplx.Abs(left[k]+drawn[k]), 1e-6, "seed %d: node %d", seed, k)
		}
	}
}

// More paths never make a loop of resistances longer, and none brings it below what its line alone has (Rayleigh's monotonicity).
func TestParallelEarthPathsShortenAndNeverBelowTheLine(t *testing.T) {
	for seed := range uint64(100) {
		r := rand.New(rand.NewPCG(seed, 3))
		n := house(3, 5, r)
		point := "c2p4"
		before := ohms(t, n.Solve(State{}).Between(n.Node(point, L1), n.Node(point, E)))
		for i := range 4 {
			a, b := fmt.Sprintf("c%dp%d", 1+r.IntN(3), 1+r.IntN(5)), fmt.Sprintf("c%dp%d", 1+r.IntN(3), 1+r.IntN(5))
			if a == b {
				continue
			}
			n.Conductor(n.Node(a, E), n.Node(b, E), Ohm(0.01+r.Float64(), 0))
			now := ohms(t, n.Solve(State{}).Between(n.Node(point, L1), n.Node(point, E)))
			require.LessOrEqual(t, now, before+1e-12, "seed %d, path %d", seed, i)
			before = now
		}
		floor := ohms(t, n.Solve(State{}).Between(n.Node(point, L1), n.Node("bar", L1)))
		require.GreaterOrEqual(t, before, floor, "seed %d", seed)
	}
}

// house is so many circuits of so many points each behind a breaker, every third of them a ring, on a supply of 230 V.
func house(circuits, points int, r *rand.Rand) *Net {
	n := &Net{}
	n.Source("grid", Drive{Line: n.Node("head", L1), Return: n.Node("head", N), V: 230, Behind: Ohm(0.12, 0.03)})
	n.Link(n.Node("head", N), n.Node("head", E))
	n.Cable("head", "main", map[Core]Ohms{L1: Ohm(0.004, 0), N: Ohm(0.004, 0), E: Ohm(0.006, 0)})
	n.Device("main switch", Pole{From: n.Node("main", L1), To: n.Node("bar", L1)}, Pole{From: n.Node("main", N), To: n.Node("bar", N)})
	n.Link(n.Node("main", E), n.Node("bar", E))
	for c := range circuits {
		id := fmt.Sprintf("c%d", c+1)
		n.Device(id, Pole{From: n.Node("bar", L1), To: n.Node(id, L1)})
		n.Link(n.Node("bar", N), n.Node(id, N))
		n.Link(n.Node("bar", E), n.Node(id, E))
		at := id
		for p := range points {
			to := fmt.Sprintf("%sp%d", id, p+1)
			n.Cable(at, to, flat(1+20*r.Float64()))
			at = to
		}
		if c%3 == 0 {
			n.Cable(at, id, flat(1+20*r.Float64()))
		}
	}
	return n
}

// Opening a device never makes anything live; what a breaker opens are the lines of its own circuit, and the main switch opens all.
func TestOpeningNeverGivesPower(t *testing.T) {
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 5))
		n := house(4, 4, r)
		n.Source("battery", Drive{Line: n.Node("c2p3", L1), Return: n.Node("c2p3", N), V: 230, Behind: Ohm(0.5, 0)})
		open := State{}
		before := n.Reach(open)
		for range 5 {
			open = open.With(n.devices[r.IntN(len(n.devices))])
			after := n.Reach(open)
			for k := range n.terminals {
				if after.Live(Node(k)) {
					require.True(t, before.Live(Node(k)))
				}
			}
			before = after
		}
	}
	n := house(4, 4, rand.New(rand.NewPCG(1, 1)))
	for _, k := range n.Protection(State{}).Opens("c3") {
		at := n.Terminal(k)
		assert.Equal(t, L1, at.Core)
		assert.Contains(t, at.At, "c3")
	}
	assert.Len(t, n.Protection(State{}).Opens("c3"), 5)
	p := n.Node("c4p2", L1)
	assert.Equal(t, []string{"main switch", "c4"}, n.Protection(State{}).By(p))
	assert.False(t, n.Reach(State{}.With("main switch")).Live(p))
	assert.Equal(t, []string{"grid"}, n.Reach(State{}).From(p))
	assert.False(t, n.Reach(State{}).Live(n.Node("c4p2", N)), "a neutral is no line")

	// A battery keeps its circuit live, and behind the main switch all the others.
	n.Source("battery", Drive{Line: n.Node("c2p3", L1), Return: n.Node("c2p3", N), V: 230, Behind: Ohm(0.5, 0)})
	after := n.Reach(State{}.With("main switch"))
	assert.Equal(t, []string{"battery"}, after.From(p))
	assert.Empty(t, n.Protection(State{}).By(n.Node("c2p3", L1)), "no device by itself makes it dead")
	// What nobody knows the feed of counts as fed from everything.
	n.FedUnknown(n.Node("c1p1", L1))
	all := n.Reach(State{}.With("main switch", "c1", "c2"))
	assert.Equal(t, []string{"grid", "battery"}, all.From(n.Node("c1p4", L1)))
	assert.False(t, all.Live(n.Node("c3p1", L1)))
}

// A fault changes what it can reach and nothing else.
func TestAFaultChangesOnlyWhatItReaches(t *testing.T) {
	n := house(6, 5, rand.New(rand.NewPCG(9, 9)))
	zs := func(n *Net) map[string]Found {
		s, out := n.Solve(State{}), map[string]Found{}
		for c := 1; c <= 6; c++ {
			for p := 1; p <= 5; p++ {
				at := fmt.Sprintf("c%dp%d", c, p)
				out[at] = s.Between(n.Node(at, L1), n.Node(at, E))
			}
		}
		return out
	}
	whole := zs(n)
	of := func(from, to string, core Core) Element {
		for e, c := range n.conductor {
			if n.Terminal(c.from) == (Terminal{from, core}) && n.Terminal(c.to) == (Terminal{to, core}) {
				return Element(e)
			}
		}
		t.Fatal(from, to)
		return 0
	}
	cut := n.Clone()
	cut.Cut(of("c2p2", "c2p3", E)) // a radial
	for at, is := range zs(cut) {
		lost := slices.Contains([]string{"c2p3", "c2p4", "c2p5"}, at)
		assert.Equal(t, lost, is.Open(), at)
		if !lost {
			assert.Equal(t, whole[at], is, at)
		}
	}
	loose := n.Clone()
	loose.Loosen(of("c4p1", "c4p2", L1), Ohm(0.5, 0)) // a ring: the other way round bears it
	for at, is := range zs(loose) {
		if at[:2] == "c4" {
			assert.Greater(t, ohms(t, is), ohms(t, whole[at]), at)
			assert.Less(t, ohms(t, is), ohms(t, whole[at])+0.5, at)
		} else {
			assert.Equal(t, whole[at], is, at)
		}
	}
	swapped := n.Clone()
	swapped.Cross(of("c5p3", "c5p4", L1), of("c5p3", "c5p4", N))
	reach := swapped.Reach(State{})
	assert.True(t, reach.Live(swapped.Node("c5p4", N)), "line and neutral are crossed from there on")
	assert.False(t, reach.Live(swapped.Node("c5p5", L1)))
	assert.True(t, reach.Live(swapped.Node("c5p3", L1)))
}

// Two lines that share a neutral: its current is their difference on two legs and their sum on one; with it open the two loads stand in
// series across both legs.
func TestASharedNeutral(t *testing.T) {
	build := func(second complex128, neutral bool) (*Net, Element) {
		n := &Net{}
		n.Source("grid", Drive{Line: n.Node("board", L1), Return: n.Node("board", N), V: 120, Behind: Ohm(0.01, 0)},
			Drive{Line: n.Node("board", L2), Return: n.Node("board", N), V: second, Behind: Ohm(0.01, 0)})
		cores := n.Cable("board", "box", map[Core]Ohms{L1: Ohm(0.2, 0), L2: Ohm(0.2, 0), N: Ohm(0.2, 0)})
		n.Conductor(n.Node("box", L1), n.Node("box", N), Ohm(12, 0)) // 10 A and 2 A at 120 V
		n.Conductor(n.Node("box", L2), n.Node("box", N), Ohm(60, 0))
		if !neutral {
			n.Cut(cores[N])
		}
		return n, cores[N]
	}
	carries := func(second complex128) float64 {
		n, neutral := build(second, true)
		a, known := n.Solve(State{}).Under().Current(neutral)
		require.True(t, known)
		return cmplx.Abs(a)
	}
	assert.InDelta(t, 8, carries(-120), 0.5)
	assert.InDelta(t, 12, carries(120), 0.5)
	n, _ := build(-120, false)
	f := n.Solve(State{}).Under()
	across := func(c Core) float64 {
		v, known := f.Volts(n.Node("box", c), n.Node("box", N))
		require.True(t, known)
		return cmplx.Abs(v)
	}
	assert.InDelta(t, 240*12/72.42, across(L1), 0.1)
	assert.InDelta(t, 240*60/72.42, across(L2), 0.1, "the smaller load has nearly all of it")
}

// Drop, fault current and loop of a radial are what the sums of its impedances say.
func TestDropAndFaultOfARadial(t *testing.T) {
	n := &Net{}
	n.Source("grid", Drive{Line: n.Node("board", L1), Return: n.Node("board", N), V: 230, Behind: Ohm(0.2, 0.1)})
	n.Link(n.Node("board", N), n.Node("board", E))
	n.Cable("board", "p1", map[Core]Ohms{L1: Ohm(0.1, 0.01), N: Ohm(0.1, 0.01), E: Ohm(0.15, 0.01)})
	n.Cable("p1", "p2", map[Core]Ohms{L1: Ohm(0.3, 0), N: Ohm(0.3, 0), E: Unknown})
	s := n.Solve(State{})
	f := s.Under(Load{n.Node("p2", L1), n.Node("p2", N), 10}, Load{n.Node("p1", L1), n.Node("p1", N), 5})
	v, known := f.Volts(n.Node("p2", L1), n.Node("p2", N))
	require.True(t, known)
	want := 230 - 15*complex(0.4, 0.12) - 10*0.6
	near(t, cmplx.Abs(want), cmplx.Abs(v))
	amperes, known := s.Fault(n.Node("p1", L1), n.Node("p1", E))
	require.True(t, known)
	near(t, 230/cmplx.Abs(complex(0.45, 0.12)), amperes)
	_, known = s.Fault(n.Node("p2", L1), n.Node("p2", E))
	assert.False(t, known, "its protective conductor is not known")
	_, known = s.Fault(n.Node("p2", L1), n.Node("p2", N))
	assert.True(t, known, "it has no part in that")
	_, known = f.Volts(n.Node("p2", E), n.Node("board", E))
	assert.True(t, known, "it carries nothing, so nothing is lost on it")
	open := n.Clone()
	open.Device("switch", Pole{From: open.Node("p2", L1), To: open.Node("lamp", L1)})
	assert.True(t, open.Solve(State{Open: []string{"switch"}}).Between(open.Node("board", L1), open.Node("lamp", L1)).Open())
	amperes, known = open.Solve(State{Open: []string{"switch"}}).Fault(open.Node("lamp", L1), open.Node("p1", N))
	assert.True(t, known)
	assert.Zero(t, amperes)
}

// A device that locks out on its wrong side passes nothing back, and one turned round takes what hangs on it along.
func TestADeviceThatLocksOut(t *testing.T) {
	n := &Net{}
	n.Source("grid", Drive{Line: n.Node("board", L1), Return: n.Node("board", N), V: 120, Behind: Ohm(0.1, 0)})
	n.Cable("board", "line", map[Core]Ohms{L1: Ohm(0.1, 0)})
	n.Device("outlet", Pole{From: n.Node("line", L1), To: n.Node("load", L1), OneWay: true},
		Pole{From: n.Node("line", L1), To: n.Node("face", L1), OneWay: true})
	n.Cable("load", "next", map[Core]Ohms{L1: Ohm(0.1, 0)})
	next, face := n.Node("next", L1), n.Node("face", L1)
	assert.Equal(t, []string{"outlet"}, n.Protection(State{}).By(next))
	near(t, 0.2, ohms(t, n.Solve(State{}).Between(n.Node("board", L1), next)))
	wrong := n.Clone()
	wrong.Turn("outlet")
	reach := wrong.Reach(State{})
	assert.True(t, reach.Live(n.Node("load", L1)), "its feed lies there")
	assert.False(t, reach.Live(face))
	assert.False(t, reach.Live(next))
	assert.True(t, wrong.Solve(State{}).Between(n.Node("board", L1), face).Open())
}

func BenchmarkHouse(b *testing.B) {
	n := house(60, 7, rand.New(rand.NewPCG(1, 2)))
	for b.Loop() {
		s := n.Solve(State{})
		f := s.Under()
		for c := 1; c <= 60; c++ {
			for p := 1; p <= 7; p++ {
				l, _ := n.Has(points[c-1][p-1], L1)
				e, _ := n.Has(points[c-1][p-1], E)
				m, _ := n.Has(points[c-1][p-1], N)
				s.Between(l, e)
				s.Between(l, m)
				f.Volts(l, m)
			}
		}
		n.Protection(State{})
	}
}

var points = func() (out [60][7]string) {
	for c := range out {
		for p := range out[c] {
			out[c][p] = fmt.Sprintf("c%dp%d", c+1, p+1)
		}
	}
	return out
}()
