package install

import (
	"slices"
	"strconv"
)

// split gives a box and what hangs behind it a circuit of its own, which starts with the device and cable of the one that it leaves.
func (r *rerun) split() {
	b := r.box(r.k, r.ch.Box)
	if b == nil {
		return
	}
	if r.k.Serves.Back != "" && slices.Contains(r.k.Serves.Main(), b.ID) {
		r.say("box", b.Called(), r.w.Say("a box of a spur: break the ring first"))
		return
	}
	if b.ID == first(r.k) {
		r.say("box", b.Called(), r.w.Say("a box behind another: the whole run is behind this one"))
		return
	}
	if len(r.job.Circuits) >= MaxCircuits {
		r.say("circuit", len(r.job.Circuits)+1, r.w.Say("at most %d circuits", MaxCircuits))
		return
	}
	going := r.k.Serves.Behind(b.ID)
	for _, id := range going {
		if !r.leaves(r.k.Serves.BoxByID(id)) {
			return
		}
	}
	legged := r.k.Legged()
	if legged {
		name(r.k)
	}
	fresh := *r.k
	fresh.ID, fresh.Name, fresh.State, fresh.Seen = r.freshID(), r.w.Say("%s, second part", r.k.Name), NewCircuit, false
	fresh.Protection.Way = 0
	if fresh.Serves.Back != "" { // it was a spur
		fresh.Serves.Back, fresh.Use = "", r.t.Unring
	}
	goes := func(x Box) bool { return slices.Contains(going, x.ID) }
	fresh.Serves.Spurs, r.k.Serves.Spurs = []Spur{}, []Spur{}
	fresh.Serves.Boxes = slices.DeleteFunc(slices.Clone(r.k.Serves.Boxes), func(x Box) bool { return !goes(x) })
	fresh.Serves.Boxes[0].From, fresh.Serves.Boxes[0].Side = "", LineSide
	r.k.Serves.Boxes = slices.DeleteFunc(slices.Clone(r.k.Serves.Boxes), goes)
	fresh.Route.Segments = []Segment{}
	stays := []Segment{}
	for _, s := range r.k.Route.Segments {
		// How far the new circuit's first box is from the board is not yet known: as far as the old one's, assumed.
		if !legged || s.To == first(r.k) {
			home := s
			home.To, home.Basis = "", Assumed
			if legged {
				home.To = b.ID
			}
			fresh.Route.Segments = append(fresh.Route.Segments, home)
		}
		switch {
		case s.To == b.ID: // the cable that joined the two goes
		case slices.Contains(going, s.To):
			fresh.Route.Segments = append(fresh.Route.Segments, s)
		default:
			stays = append(stays, s)
		}
	}
	r.k.Route.Segments = stays
	r.k.halve(&fresh, len(going), len(going)+len(r.k.Serves.Boxes))
	unname(r.k)
	unname(&fresh)
	r.job.Circuits = append(r.job.Circuits, fresh)
	r.changed = append(r.changed, fresh.ID)
}

// halve shares what a circuit serves with one that was split off it, by their boxes.
func (k *Circuit) halve(fresh *Circuit, going, all int) {
	share := float64(going) / float64(all)
	fresh.Serves.AreaM2, k.Serves.AreaM2 = k.Serves.AreaM2*share, k.Serves.AreaM2*(1-share)
	fresh.Serves.PowerW, k.Serves.PowerW = k.Serves.PowerW*share, k.Serves.PowerW*(1-share)
	fresh.Serves.Outlets = 0
}

func (r *rerun) freshID() string {
	for n := len(r.job.Circuits) + 1; ; n++ {
		if id := "c" + strconv.Itoa(n); r.job.CircuitByID(id) == nil {
			return id
		}
	}
}

// breakRing leaves out the leg to a box, or the way back: what was behind it is fed the other way about.
func (r *rerun) breakRing() {
	s := &r.k.Serves
	main := s.Main()
	at := slices.Index(main, r.ch.Box)
	if r.ch.Box == BackLeg {
		at = len(main)
	}
	if len(main) == 0 || at < 0 || r.t.Unring == "" {
		r.say("box", r.ch.Box, r.w.Say("a box between the two ends of a ring, or the way back"))
		return
	}
	legged := r.k.Legged()
	if legged {
		name(r.k)
	}
	turned := main[at:]
	// What a leg led to it now leaves from: the way back leads to the last, each other to the one before it.
	leads := map[string]string{BackLeg: s.Back}
	for i := len(turned) - 1; i > 0; i-- {
		leads[turned[i]] = turned[i-1]
	}
	if len(turned) > 0 {
		leads[turned[0]] = ""
	} else {
		leads[BackLeg] = ""
	}
	segments := []Segment{}
	for _, x := range r.k.Route.Segments {
		to, changes := leads[x.To]
		if legged && changes && to == "" {
			continue // the leg that is left out
		}
		if legged && changes {
			x.To = to
		}
		segments = append(segments, x)
	}
	r.k.Route.Segments = segments
	for i, id := range turned {
		b := s.BoxByID(id)
		b.From, b.Side = "", LineSide
		if i < len(turned)-1 {
			b.From = turned[i+1]
		}
	}
	s.Back, r.k.Use = "", r.t.Unring
	s.inOrder()
}

// inOrder puts every box behind the one that feeds it.
func (s *Serves) inOrder() {
	out := []Box{}
	var follow func(from string)
	follow = func(from string) {
		for _, b := range s.Boxes {
			if b.From == from {
				out = append(out, b)
				follow(b.ID)
			}
		}
	}
	follow("")
	s.Boxes = out
}

// closeRing brings a radial back to the board from the box that is named, by a leg that nobody knows yet.
func (r *rerun) closeRing() {
	b := r.box(r.k, r.ch.Box)
	switch {
	case b == nil:
	case r.t.Ring == "":
		r.say("do", string(r.ch.Do), r.w.Say("a radial: this practice knows no rings"))
	case r.k.Serves.Back != "":
		r.say("box", b.Called(), r.w.Say("a radial: this is a ring"))
	default:
		legged := r.k.Legged()
		if legged {
			name(r.k)
		}
		r.k.Serves.Back, r.k.Use = b.ID, r.t.Ring
	}
}
