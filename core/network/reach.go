package network

import "slices"

// State is how a network stands: which poles are open. The zero value has all closed.
type State struct {
	// Open are devices with all poles open.
	Open []string
	// OpenPoles are poles that are open of devices that are not, by number from 0: a single-pole breaker in a line has its neutral
	// closed by having no such pole.
	OpenPoles map[string][]int
}

// With is the state with more devices open.
func (s State) With(open ...string) State {
	return State{Open: append(slices.Clone(s.Open), open...), OpenPoles: s.OpenPoles}
}

// opened says of each conductor whether the state opens it.
func (n *Net) opened(s State) []bool {
	all := make([]bool, len(n.devices))
	for _, id := range s.Open {
		if k, ok := n.deviceOf[id]; ok {
			all[k] = true
		}
	}
	out := make([]bool, len(n.conductor))
	for i := range n.conductor {
		c := &n.conductor[i]
		out[i] = c.cut || c.device >= 0 && (all[c.device] || slices.Contains(s.OpenPoles[n.devices[c.device]], c.pole))
	}
	return out
}

// Reach is what voltage reaches in a state: from which sources each terminal is live. Loads are no part of it: a terminal that is
// joined to a line through a load alone is not said to be dead by that. What it says is expected, and only readings make it so.
type Reach struct {
	n     *Net
	lines [][]uint64 // of each node the sources whose line reaches it, as bits
	any   []bool     // of each node whether an unknown feed reaches it
}

// Reach follows voltage from every source.
func (n *Net) Reach(s State) *Reach { return n.reach(n.opened(s), n.ways()) }

func (n *Net) reach(open []bool, ways [][]way) *Reach {
	words := (len(n.sources) + 63) / 64
	r := &Reach{n: n, lines: make([][]uint64, len(n.terminals)), any: make([]bool, len(n.terminals))}
	bits := make([]uint64, words*len(n.terminals))
	for k := range r.lines {
		r.lines[k] = bits[k*words : (k+1)*words]
	}
	follow := func(from []Node, reached func(Node) bool, mark func(Node)) {
		queue := []Node{}
		arrive := func(k Node) {
			if !reached(k) {
				mark(k)
				queue = append(queue, k)
			}
		}
		for _, k := range from {
			arrive(k)
		}
		for len(queue) > 0 {
			k := queue[len(queue)-1]
			queue = queue[:len(queue)-1]
			for _, w := range ways[k] {
				if !open[w.by] {
					arrive(w.to)
				}
			}
		}
	}
	for s := range n.sources {
		from := []Node{}
		for i := range n.conductor {
			if c := &n.conductor[i]; c.source == s && !open[i] {
				from = append(from, c.to)
			}
		}
		word, bit := s/64, uint64(1)<<(s%64)
		follow(from, func(k Node) bool { return r.lines[k][word]&bit != 0 }, func(k Node) { r.lines[k][word] |= bit })
	}
	follow(n.unknown, func(k Node) bool { return r.any[k] }, func(k Node) { r.any[k] = true })
	return r
}

// way is where voltage passes to from a node, and by which conductor.
type way struct {
	to Node
	by Element
}

// ways are those from each node, through whatever is no source.
func (n *Net) ways() [][]way {
	count := make([]int, len(n.terminals))
	each := func(do func(from, to Node, by Element)) {
		for i := range n.conductor {
			c := &n.conductor[i]
			if c.source >= 0 {
				continue
			}
			do(c.from, c.to, Element(i))
			if !c.oneWay {
				do(c.to, c.from, Element(i))
			}
		}
	}
	total := 0
	each(func(from, _ Node, _ Element) { count[from]++; total++ })
	room, out := make([]way, 0, total), make([][]way, len(n.terminals))
	for k, c := range count {
		out[k] = room[len(room) : len(room) : len(room)+c]
		room = room[:len(room)+c]
	}
	each(func(from, to Node, by Element) { out[from] = append(out[from], way{to, by}) })
	return out
}

// Live reports whether a terminal is live: from a source, or from nobody knows where.
func (r *Reach) Live(k Node) bool {
	return r.any[k] || slices.ContainsFunc(r.lines[k], func(w uint64) bool { return w != 0 })
}

// Gains reports whether a terminal is live from a source from which it is not in another state of the same network.
func (r *Reach) Gains(from *Reach, k Node) bool {
	for i, w := range r.lines[k] {
		if w&^from.lines[k][i] != 0 {
			return true
		}
	}
	return false
}

// From are the sources that a terminal is live from. One that is fed from nobody knows where counts as fed from every source.
func (r *Reach) From(k Node) []string {
	out := []string{}
	for s, id := range r.n.sources {
		if r.any[k] || r.lines[k][s/64]&(1<<(s%64)) != 0 {
			out = append(out, id)
		}
	}
	return out
}

// Protection is which device makes which terminals dead by itself in a state.
type Protection struct {
	opens map[string][]Node
	by    [][]string // of each node
}

// Protection opens each device in turn.
func (n *Net) Protection(s State) *Protection {
	out := &Protection{opens: map[string][]Node{}, by: make([][]string, len(n.terminals))}
	open, ways := n.opened(s), n.ways()
	before := n.reach(open, ways)
	for d, id := range n.devices {
		was := slices.Clone(open)
		for i := range n.conductor {
			open[i] = open[i] || n.conductor[i].device == d
		}
		after := n.reach(open, ways)
		open = was
		for k := range n.terminals {
			if before.Live(Node(k)) && !after.Live(Node(k)) {
				out.opens[id] = append(out.opens[id], Node(k))
				out.by[k] = append(out.by[k], id)
			}
		}
	}
	return out
}

// Opens are the terminals that a device makes dead: live with it closed and not with it open, in the order of the network.
func (p *Protection) Opens(device string) []Node { return p.opens[device] }

// By are the devices each of which makes a terminal dead, in the order of the network.
func (p *Protection) By(k Node) []string { return p.by[k] }
