package iec230

import (
	"cmp"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/working"
)

// grouping scores how the circuits are spread over the shared devices by what
// one trip darkens, and offers a better spread over the same devices when there is
// one (314.1).
func (s *system) grouping() {
	_, by := s.sharers()
	for b := range s.Job.EachBoard() {
		s.groupingOf(b, by)
	}
}

func (s *system) groupingOf(b *install.Board, by map[string][]*install.Circuit) {
	groups := b.Groups
	now := make([][]*install.Circuit, len(groups))
	all := []*install.Circuit{}
	for i := range groups {
		now[i] = by["group:"+groups[i].ID]
		all = append(all, now[i]...)
	}
	if len(groups) < 2 || len(all) < 2 {
		return
	}
	k := s.Of(b.ID)
	if !b.Main() {
		k.Title += " of " + b.Name
	}
	k.From(working.Source{Ref: "314.1", Confidence: "high"}, rcdByLoad.Source)
	served := s.served()
	before := s.darkOf(now, served)
	k.Step("most circuits", "on one of the shared devices", s.Text(len(all), " circuits on ", len(groups), " devices"),
		float64(before.most), "", "314.1")
	k.Decide(true)
	k.Summary = s.Text("At most ", before.most, " of ", len(all), " circuits are lost when one trips")
	if before.allLights {
		k.Summary += ", all lighting among them"
	}
	k.Summary += "."
	if len(before.together) > 0 {
		k.Warn()
		k.Summary += " Light and sockets go together on " + strings.Join(before.together, ", ") + "."
	}
	better := s.spread(groups, all, served)
	if better == nil {
		return
	}
	after := s.darkOf(better, served)
	if !after.less(before) {
		return
	}
	k.Warn()
	said, sets := []string{}, []working.Set{}
	for i, circuits := range better {
		names := []string{}
		for _, c := range circuits {
			names = append(names, c.Name)
			if c.Protection.Group != groups[i].ID {
				sets = append(sets, working.Set{Part: "circuits/" + c.ID, Field: "protection.group", Value: groups[i].ID})
			}
		}
		said = append(said, groups[i].Name+": "+strings.Join(names, ", "))
	}
	effect := s.Text("at most ", after.most, " of ", len(all), " circuits")
	if before.allLights && !after.allLights {
		effect += ", never all lighting"
	}
	if len(after.together) < len(before.together) {
		effect += ", light and sockets never together on " + strings.Join(before.together, ", ")
		if len(after.together) > 0 {
			effect += " but " + strings.Join(after.together, ", ")
		}
	}
	k.Summary += " Spread otherwise over the same devices it would be " + effect + "."
	k.Remedies = []working.Remedy{{Title: "Spread: " + strings.Join(said, "; "), Effect: effect, Sets: sets}}
}

// darkness is what the worst trip of a grouping takes away.
type darkness struct {
	together  []string // floors and rooms that lose all their light and sockets, by name
	allLights bool
	most      int
}

func (d darkness) less(than darkness) bool {
	if len(d.together) != len(than.together) {
		return len(d.together) < len(than.together)
	}
	if d.allLights != than.allLights {
		return than.allLights
	}
	return d.most < than.most
}

func (s *system) darkOf(groups [][]*install.Circuit, served served) (d darkness) {
	d.together = s.lostTogether(groups, served)
	lights, apart := 0, 0
	for _, circuits := range groups {
		d.most = max(d.most, len(circuits))
		if slices.ContainsFunc(circuits, isLighting) {
			apart++
		}
		for _, c := range circuits {
			if isLighting(c) {
				lights++
			}
		}
	}
	d.allLights = lights > 1 && apart == 1
	return d
}

// served are the floors and rooms in which points of each circuit stand, as its run has them.
type served map[*install.Circuit]map[place]bool

func (s *system) served() served {
	floors := map[string]string{}
	for i := range s.Job.Rooms {
		floors[s.Job.Rooms[i].ID] = s.Job.Rooms[i].Floor
	}
	out := served{}
	for i := range s.Job.Circuits {
		k := &s.Job.Circuits[i]
		out[k] = map[place]bool{}
		for n := range k.Serves.Boxes {
			room := k.Serves.Boxes[n].Room
			if floor, ok := floors[room]; ok {
				out[k][place{room: room, floor: floor}], out[k][place{floor: floor}] = true, true
			}
		}
	}
	return out
}

// place is a room of the walk, or a floor where the room is empty.
type place struct{ room, floor string }

// meets counts the places in which a circuit of light would hang on one device with one of sockets there, or the other way about.
func (at served) meets(k *install.Circuit, with []*install.Circuit) (n int) {
	for _, other := range with {
		if isLighting(k) == isLighting(other) || !isLighting(k) && !hasSockets(k) || !isLighting(other) && !hasSockets(other) {
			continue
		}
		for p := range at[other] {
			if at[k][p] {
				n++
			}
		}
	}
	return n
}

// lostTogether are the floors, and the rooms of other floors, that lose all of their light and of their sockets when one device of a
// grouping opens.
func (s *system) lostTogether(groups [][]*install.Circuit, served served) (names []string) {
	device := map[*install.Circuit]int{}
	for g, circuits := range groups {
		for _, c := range circuits {
			device[c] = g + 1 // 0 stands for one of its own
		}
	}
	type hung struct{ light, sockets map[int]bool }
	at := map[place]hung{}
	for i := range s.Job.Circuits {
		k := &s.Job.Circuits[i]
		for p := range served[k] {
			if at[p].light == nil {
				at[p] = hung{map[int]bool{}, map[int]bool{}}
			}
			if isLighting(k) {
				at[p].light[device[k]] = true
			} else if hasSockets(k) {
				at[p].sockets[device[k]] = true
			}
		}
	}
	lost := func(p place) bool {
		h := at[p]
		if len(h.light) != 1 || len(h.sockets) != 1 {
			return false
		}
		for g := range h.light {
			return g > 0 && h.sockets[g]
		}
		return false
	}
	told := map[string]bool{}
	for _, r := range s.Job.Rooms {
		switch {
		case lost(place{floor: r.Floor}):
			if !told[r.Floor] {
				told[r.Floor], names = true, append(names, "floor "+r.Floor)
			}
		case lost(place{room: r.ID, floor: r.Floor}):
			names = append(names, r.Name)
		}
	}
	return names
}

func isLighting(c *install.Circuit) bool { return c.Use == useLighting }

// spread deals circuits out over the shared devices: lighting first, then by
// falling leakage, each to the device with the fewest of its kind, then of any,
// that suits its load and bears its leakage; nil when one finds no place.
func (s *system) spread(groups []install.Group, all []*install.Circuit, served served) [][]*install.Circuit {
	type load struct {
		c  *install.Circuit
		ma float64
	}
	loads := make([]load, len(all))
	var quiet working.Check
	for i, c := range all {
		loads[i] = load{c, s.leakOf(&quiet, c)}
	}
	slices.SortStableFunc(loads, func(a, b load) int {
		if la, lb := isLighting(a.c), isLighting(b.c); la != lb {
			if la {
				return -1
			}
			return 1
		}
		return cmp.Or(cmp.Compare(b.ma, a.ma), strings.Compare(a.c.ID, b.c.ID))
	})
	out, ma, lights := make([][]*install.Circuit, len(groups)), make([]float64, len(groups)), make([]int, len(groups))
	share := ruleOf(s.Job, &quiet, "leakage-share")
	for _, l := range loads {
		best, least := -1, [3]int{}
		kind := (&circuit{system: s, k: l.c, rules: rulesOf(l.c.Use)}).loadKind()
		for g := range groups {
			suits := rcdByLoad.Str(rcdByLoad.Find(func(it *rcdByLoadRow) bool { return it.Load == kind }), groups[g].RCDType)
			if suits == residualBarred || !working.AtMost(ma[g]+l.ma, share*groups[g].IdnMA) {
				continue
			}
			// Not with what lights or powers the same rooms, then with the fewest of its kind, then of any.
			rank := [3]int{served.meets(l.c, out[g]), 0, len(out[g])}
			if isLighting(l.c) {
				rank[1] = lights[g]
			}
			if best < 0 || slices.Compare(rank[:], least[:]) < 0 {
				best, least = g, rank
			}
		}
		if best < 0 {
			return nil
		}
		out[best], ma[best] = append(out[best], l.c), ma[best]+l.ma
		if isLighting(l.c) {
			lights[best]++
		}
	}
	return out
}
