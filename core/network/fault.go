package network

// The faults change a network in place: put one into a [Net.Clone].

// Cut opens a conductor: a broken core, a wire that nobody joined.
func (n *Net) Cut(e Element) { n.conductor[e].cut = true }

// Loosen puts more impedance in the way of a conductor: a loose joint.
func (n *Net) Loosen(e Element, more Ohms) { n.conductor[e].z = n.conductor[e].z.Plus(more) }

// Cross swaps where two conductors arrive: crossed cores, two rings crossed, a line and load swapped.
func (n *Net) Cross(a, b Element) {
	n.conductor[a].to, n.conductor[b].to = n.conductor[b].to, n.conductor[a].to
}

// Turn lands what was on the From terminals of a device's first pole of each conductor on its To terminals, and the other way about:
// LINE and LOAD swapped. Other poles, as those to the face of an outlet, stay where they are.
func (n *Net) Turn(id string) {
	k, ok := n.deviceOf[id]
	if !ok {
		return
	}
	swap := map[Node]Node{}
	for i := range n.conductor {
		c := &n.conductor[i]
		if _, done := swap[c.from]; c.device == k && !done {
			swap[c.from], swap[c.to] = c.to, c.from
		}
	}
	for i := range n.conductor {
		c := &n.conductor[i]
		if c.device == k {
			continue
		}
		if to, ok := swap[c.from]; ok {
			c.from = to
		}
		if to, ok := swap[c.to]; ok {
			c.to = to
		}
	}
}
