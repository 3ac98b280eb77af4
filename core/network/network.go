// Package network turns an installation into a graph of conductors and answers what is asked of it: what feeds a point and what
// protects it, the impedance between any two terminals, what is expected dead with devices open, and what a test would read with a
// fault put in.
//
// It knows no trade: nodes are terminals of one conductor, elements the conductors between them, devices the poles that open, sources
// what drives them. What is not known gives unknown, never 0 (G. Kirchhoff, Ann. Phys. 64, 1845, for the laws; the network is solved
// by its fundamental loops, of which an installation has few: one for each conductor of a ring, one for each parallel path).
package network

import (
	"maps"
	"slices"
)

// Core is which conductor of a cable or terminal of an accessory a node is of.
type Core uint8

// The conductors.
const (
	L1 Core = iota
	L2
	L3
	N
	E
)

// Cores are all of them.
var Cores = []Core{L1, L2, L3, N, E}

func (c Core) String() string { return [...]string{"L1", "L2", "L3", "N", "E"}[c] }

// Terminal is one conductor at one place. Places are named by whoever builds the network.
type Terminal struct {
	At   string
	Core Core
}

// Node is a terminal by its number in a network.
type Node int32

// Element is a conductor by its number in a network.
type Element int32

// Ohms is an impedance in Ω. The zero value is not known.
type Ohms struct {
	z     complex128
	known bool
}

// Ohm is a known impedance of r + jx Ω.
func Ohm(r, x float64) Ohms { return Ohms{complex(r, x), true} }

// Unknown is an impedance that nobody knows yet.
var Unknown Ohms

// Value is the impedance in Ω, and whether it is known.
func (o Ohms) Value() (complex128, bool) { return o.z, o.known }

// Plus is the impedance of both in series.
func (o Ohms) Plus(other Ohms) Ohms { return Ohms{o.z + other.z, o.known && other.known} }

type conductor struct {
	from, to Node
	z        Ohms
	emf      complex128 // V, driving from from to to
	source   int        // by its number, of what drives; else -1
	device   int        // by its number, of a pole; else -1
	pole     int
	oneWay   bool // it passes voltage on from from to to alone
	cut      bool // by a fault
}

// Pole is one pole of a device, closed between two terminals. A device that locks out when it is fed on the wrong side passes
// voltage OneWay.
type Pole struct {
	From, To Node
	OneWay   bool
}

// Drive is one winding, leg or inverter output of a source: V volts between Return and Line, behind an impedance.
type Drive struct {
	Line, Return Node
	V            complex128
	Behind       Ohms
}

// Net is a network. The zero value is empty and ready.
type Net struct {
	terminals []Terminal
	of        map[Terminal]Node
	conductor []conductor
	devices   []string
	poles     []int // of each device
	deviceOf  map[string]int
	sources   []string
	unknown   []Node // fed from nobody knows where
}

// Node is the node of a terminal, made where there is none of it yet.
func (n *Net) Node(at string, core Core) Node {
	t := Terminal{at, core}
	if k, ok := n.of[t]; ok {
		return k
	}
	if n.of == nil {
		n.of = map[Terminal]Node{}
	}
	k := Node(len(n.terminals))
	n.terminals = append(n.terminals, t)
	n.of[t] = k
	return k
}

// Has is the node of a terminal, and whether there is one.
func (n *Net) Has(at string, core Core) (Node, bool) {
	k, ok := n.of[Terminal{at, core}]
	return k, ok
}

// Terminal is what a node stands for.
func (n *Net) Terminal(k Node) Terminal { return n.terminals[k] }

func (n *Net) add(c conductor) Element {
	n.conductor = append(n.conductor, c)
	return Element(len(n.conductor) - 1)
}

// Conductor joins two terminals by an impedance. One of no impedance joins them as a [Net.Link] does.
func (n *Net) Conductor(from, to Node, z Ohms) Element {
	return n.add(conductor{from: from, to: to, z: z, source: -1, device: -1})
}

// Link joins two terminals without impedance: a bar, a splice, a bond made on the spot.
func (n *Net) Link(from, to Node) Element { return n.Conductor(from, to, Ohm(0, 0)) }

// Cable joins all cores that two places have by impedances of its own for each.
func (n *Net) Cable(from, to string, cores map[Core]Ohms) map[Core]Element {
	out := map[Core]Element{}
	for _, c := range Cores {
		if z, ok := cores[c]; ok {
			out[c] = n.Conductor(n.Node(from, c), n.Node(to, c), z)
		}
	}
	return out
}

// Device puts a device in, closed. A second one of the same name adds its poles to the first.
func (n *Net) Device(id string, poles ...Pole) {
	k, ok := n.deviceOf[id]
	if !ok {
		if n.deviceOf == nil {
			n.deviceOf = map[string]int{}
		}
		k = len(n.devices)
		n.devices, n.poles, n.deviceOf[id] = append(n.devices, id), append(n.poles, 0), k
	}
	for _, p := range poles {
		n.add(conductor{from: p.From, to: p.To, z: Ohm(0, 0), source: -1, device: k, pole: n.poles[k], oneWay: p.OneWay})
		n.poles[k]++
	}
}

// Source puts a source in.
func (n *Net) Source(id string, drives ...Drive) {
	k := len(n.sources)
	n.sources = append(n.sources, id)
	for _, d := range drives {
		n.add(conductor{from: d.Return, to: d.Line, z: d.Behind, emf: d.V, source: k, device: -1})
	}
}

// FedUnknown says that nobody knows what feeds a terminal: it counts as fed from every source.
func (n *Net) FedUnknown(k Node) { n.unknown = append(n.unknown, k) }

// Clone is a network of its own that is alike.
func (n *Net) Clone() *Net {
	return &Net{slices.Clone(n.terminals), maps.Clone(n.of), slices.Clone(n.conductor), slices.Clone(n.devices), slices.Clone(n.poles), maps.Clone(n.deviceOf),
		slices.Clone(n.sources), slices.Clone(n.unknown)}
}
