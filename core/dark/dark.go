// Package dark says what goes dark in a house when a device opens: which rooms lose light, power, heating or alarms, which floors and
// rooms lose light and power together, and which circuits would better hang on another device.
//
// The house is one network: the supply, the main switch, the devices that circuits share, those of the circuits, the boards that they
// feed and the boxes of their runs. What a device opens is what is live with it closed and not with it open.
package dark

import (
	"cmp"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/network"
	"arvelt/core/survey"
)

// The devices by their ids: the main switch, one that circuits share, that of a circuit, and one in a box of a run.
const (
	mainID    = "main"
	sharedID  = "group:"
	circuitID = "circuit:"
	boxID     = "box:"
)

// RoomLoss is what a room loses.
type RoomLoss struct {
	Room  string        `json:"room"` // by id; empty for what stands in no room of the walk
	Name  string        `json:"name"`
	Floor string        `json:"floor"`
	Loses []survey.Loss `json:"loses"`
	// All of what it loses there is all that it has of it: the light goes out, not one lamp.
	All    []survey.Loss `json:"all"`
	Points []string      `json:"points"` // in words
}

// Device is a device and what goes dark when it opens.
type Device struct {
	ID    string     `json:"id"`
	Name  string     `json:"name"`
	Board string     `json:"board"` // it stands in, by the name of the board
	Rooms []RoomLoss `json:"rooms"`
	// Both are the rooms and floors that lose all their light and all their power together.
	Both []string `json:"both"`
	// Worst: of the devices of its board that are no main switch it takes most along.
	Worst bool `json:"worst"`
}

// Move is a circuit that would better hang on another device.
type Move struct {
	Circuit string `json:"circuit"` // by id
	Name    string `json:"name"`
	From    string `json:"from"` // devices by name
	To      string `json:"to"`
	Group   string `json:"group"` // that To is, by id
	Why     string `json:"why"`
}

// Report is what goes dark by each device of a house.
type Report struct {
	Devices []Device `json:"devices"`
	Moves   []Move   `json:"moves"` // the best first
	// Unplaced are circuits no point of which stands on their run: what they take along is told by their name alone.
	Unplaced []string `json:"unplaced"`
	// Abandoned are circuits that leave the installation and were not yet proved dead: opening any device says nothing of them.
	Abandoned []string `json:"abandoned"`
}

// lost is one thing that may go dark.
type lost struct {
	room, name string
	loses      survey.Loss
}

// house is a job as a network, with what hangs where.
type house struct {
	job     *install.Job
	net     *network.Net
	devices []Device
	at      map[network.Node]lost
	has     map[string]map[survey.Loss]int // of each room and floor, how many points of each loss
	names   map[string]install.Room
	mains   map[string]bool // which devices are main switches
}

// Of says what goes dark when the work is done.
func Of(all *install.Job) Report {
	out := Report{Devices: []Device{}, Moves: []Move{}, Unplaced: []string{}, Abandoned: []string{}}
	for _, k := range all.Leavers() {
		if all.LeavingOf(k).Parted == nil {
			out.Abandoned = append(out.Abandoned, k.Name)
		}
	}
	job := all.Standing()
	h := &house{job: job, net: &network.Net{}, at: map[network.Node]lost{}, has: map[string]map[survey.Loss]int{}, names: map[string]install.Room{},
		mains: map[string]bool{}}
	for _, r := range job.Rooms {
		h.names[r.ID] = r
	}
	h.supply()
	for i := range job.Circuits {
		if h.circuit(&job.Circuits[i]) {
			out.Unplaced = append(out.Unplaced, job.Circuits[i].Name)
		}
	}
	if len(job.Circuits) == 0 {
		return out
	}
	p := h.net.Protection(network.State{})
	opens := map[string][]lost{}
	for i := range h.devices {
		d := &h.devices[i]
		for _, k := range p.Opens(d.ID) {
			if l, ok := h.at[k]; ok {
				opens[d.ID] = append(opens[d.ID], l)
			}
		}
		d.Rooms = h.rooms(opens[d.ID])
		d.Both = h.both(opens[d.ID])
	}
	h.worst(opens)
	out.Devices = append(out.Devices, h.devices...)
	out.Moves = append(out.Moves, h.moves(opens)...)
	return out
}

const (
	barID   = "bar:"
	behind  = "behind:"
	supplyV = 1.0 // that there is voltage is all that is asked here
)

// supply puts in what feeds the boards: the supply that of the main one and of those that the supply arrangement feeds, a distribution
// circuit that of another.
func (h *house) supply() {
	n := h.net
	n.Source("supply", network.Drive{Line: n.Node("head", network.L1), Return: n.Node("head", network.N), V: supplyV, Behind: network.Ohm(0, 0)})
	for b := range h.job.EachBoard() {
		main, from, name := mainID, "head", h.job.Words.Say("main switch")
		if !b.Main() {
			main = mainID + ":" + b.ID
			name = h.job.Words.Say("main switch of %s", b.Called(h.job.Words))
		}
		if b.Feed != "" {
			from = behind + b.Feed
		}
		bar := barOf(b.Feeder())
		h.mains[main] = true
		n.Device(main, network.Pole{From: n.Node(from, network.L1), To: n.Node(bar, network.L1)})
		h.devices = append(h.devices, Device{ID: main, Name: name, Board: b.Name})
		for _, g := range b.Groups {
			n.Device(sharedID+g.ID, network.Pole{From: n.Node(bar, network.L1), To: n.Node(sharedID+g.ID, network.L1)})
			h.devices = append(h.devices, Device{ID: sharedID + g.ID, Name: g.Name, Board: b.Name})
		}
	}
}

// barOf is the bar of the board that something feeds.
func barOf(feeder string) string { return barID + feeder }

// circuit puts a circuit in and reports whether nothing of it stands on a run.
func (h *house) circuit(k *install.Circuit) bool {
	n := h.net
	bar, board := barOf(k.From), ""
	if b := h.job.BoardOf(k); b != nil {
		board = b.Name
	} else if up := h.job.FeederOf(k); up != nil { // a board that was not written down
		bar, board = behind+up.ID, h.job.Words.Say("board behind %s", up.Name)
	}
	if g := h.job.GroupOf(k); g != nil {
		bar = sharedID + g.ID
	}
	end := behind + k.ID
	lines := []network.Core{network.L1}
	if k.Protection.Shared.Is {
		lines = []network.Core{network.L1, network.L2}
	}
	for i, line := range lines {
		id, name := circuitID+k.ID, k.Name
		if i > 0 && k.Protection.Shared.Opens == install.OpensApart {
			id, name = id+"/second", h.job.Words.Say("%s, second line", k.Name)
		}
		n.Device(id, network.Pole{From: n.Node(bar, network.L1), To: n.Node(end, line)})
		if i == 0 || id != circuitID+k.ID {
			h.devices = append(h.devices, Device{ID: id, Name: name, Board: board})
		}
	}
	if len(k.Serves.Boxes) == 0 {
		h.at[n.Node(end, network.L1)] = lost{name: k.Name} // what of it where is not known
		return true
	}
	place := func(id string, side install.Side) string {
		switch b := k.Serves.BoxByID(id); {
		case b == nil:
			return end
		case b.Device == install.GroundFault && side != install.LineSide || b.Device == install.FusedUnit:
			return end + "/" + id + "/load"
		}
		return end + "/" + id
	}
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		own := end + "/" + b.ID
		face := own
		guards := b.Device == install.GroundFault || b.Device == install.FusedUnit
		if guards {
			face = own + "/load"
		}
		for _, line := range lines {
			n.Link(n.Node(place(b.From, b.Side), line), n.Node(own, line))
			if guards {
				n.Device(boxID+k.ID+"/"+b.ID, network.Pole{From: n.Node(own, line), To: n.Node(face, line), OneWay: b.Device == install.GroundFault})
			}
		}
		if guards {
			h.devices = append(h.devices, Device{ID: boxID + k.ID + "/" + b.ID, Name: k.Name + ": " + b.Called(), Board: board})
		}
		for _, line := range fedBy(b, lines) {
			if l := h.boxLoss(b); l.loses != "" {
				h.at[n.Node(face, line)] = l
				h.count(l)
			}
		}
	}
	return false
}

// fedBy are the lines that feed a box, of those that its circuit has: the first where nobody said otherwise.
func fedBy(b *install.Box, lines []network.Core) []network.Core {
	switch {
	case len(lines) > 1 && b.Line == install.SecondLine:
		return lines[1:]
	case b.Line == install.BothLines:
		return lines
	}
	return lines[:1]
}

// boxLoss is what goes dark at a box.
func (h *house) boxLoss(b *install.Box) lost {
	l := lost{name: b.Called(), room: b.Room}
	if p := h.job.PointOf(b); p != nil {
		kind, _ := survey.KindOf(p.Kind)
		l.loses = kind.Loses
		return l
	}
	l.loses = map[install.BoxDevice]survey.Loss{install.Luminaire: survey.LosesLight, install.Alarm: survey.LosesAlarms,
		install.PlainOutlet: survey.LosesPower, install.GroundFault: survey.LosesPower, install.TwoSlot: survey.LosesPower,
		install.FusedUnit: survey.LosesPower, install.WiredIn: survey.LosesPower}[b.Device]
	return l
}

func (h *house) count(l lost) {
	for _, of := range []string{"room:" + l.room, "floor:" + h.names[l.room].Floor} {
		if h.has[of] == nil {
			h.has[of] = map[survey.Loss]int{}
		}
		h.has[of][l.loses]++
	}
}

// rooms gathers what is lost by room, in walking order, what stands in no room last.
func (h *house) rooms(all []lost) []RoomLoss {
	out := []RoomLoss{}
	by := map[string][]lost{}
	for _, l := range all {
		by[l.room] = append(by[l.room], l)
	}
	ids := []string{}
	for _, r := range h.job.Rooms {
		ids = append(ids, r.ID)
	}
	for _, id := range append(ids, "") {
		if len(by[id]) == 0 {
			continue
		}
		r := RoomLoss{Room: id, Name: h.names[id].Name, Floor: h.names[id].Floor, Loses: []survey.Loss{}, All: []survey.Loss{}, Points: []string{}}
		if id == "" {
			r.Name = h.job.Words.Say("elsewhere")
		}
		n := map[survey.Loss]int{}
		for _, l := range by[id] {
			n[l.loses]++
			r.Points = append(r.Points, l.name)
		}
		for _, l := range survey.Losses {
			if n[l] > 0 {
				r.Loses = append(r.Loses, l)
				if id != "" && n[l] == h.has["room:"+id][l] {
					r.All = append(r.All, l)
				}
			}
		}
		out = append(out, r)
	}
	return out
}

// both are the rooms and floors that lose all of their light and of their power.
func (h *house) both(all []lost) []string {
	n := map[string]map[survey.Loss]int{}
	add := func(of string, l survey.Loss) {
		if n[of] == nil {
			n[of] = map[survey.Loss]int{}
		}
		n[of][l]++
	}
	for _, l := range all {
		if l.room != "" {
			add("room:"+l.room, l.loses)
			add("floor:"+h.names[l.room].Floor, l.loses)
		}
	}
	whole := func(of string, l survey.Loss) bool { return h.has[of][l] > 0 && n[of][l] == h.has[of][l] }
	together := func(of string) bool { return whole(of, survey.LosesLight) && whole(of, survey.LosesPower) }
	out, floors := []string{}, []string{}
	for _, r := range h.job.Rooms {
		if together("floor:"+r.Floor) && r.Floor != "" {
			if !slices.Contains(floors, r.Floor) {
				floors = append(floors, r.Floor)
				out = append(out, h.job.Words.Say("all of floor %s", r.Floor))
			}
		} else if together("room:" + r.ID) {
			out = append(out, r.Name)
		}
	}
	return out
}

// score is how bad it is that something goes dark: light and power together first, then how much.
func (h *house) score(all []lost) int {
	return 100*len(h.both(all)) + len(all)
}

// worst marks of each board the device that takes most along.
func (h *house) worst(opens map[string][]lost) {
	top := map[string]int{}
	for i := range h.devices {
		d := &h.devices[i]
		if h.mains[d.ID] || len(opens[d.ID]) == 0 {
			continue
		}
		at, ok := top[d.Board]
		if !ok || h.score(opens[d.ID]) > h.score(opens[h.devices[at].ID]) {
			top[d.Board] = i
		}
	}
	for _, i := range top {
		h.devices[i].Worst = true
	}
}

// moves are circuits that would better hang on another of the devices that circuits share: those by which fewer rooms and floors lose
// light and power together, the best first.
func (h *house) moves(opens map[string][]lost) []Move {
	type ranked struct {
		Move
		gain int
	}
	list := []ranked{}
	for i := range h.job.Circuits {
		k := &h.job.Circuits[i]
		from := h.job.GroupOf(k)
		if from == nil {
			continue
		}
		groups := h.job.BoardOf(k).Groups
		own := opens[circuitID+k.ID]
		rest := slices.DeleteFunc(slices.Clone(opens[sharedID+from.ID]), func(l lost) bool { return slices.Contains(own, l) })
		for g := range groups {
			to := &groups[g]
			if to.ID == from.ID {
				continue
			}
			before := append(h.both(opens[sharedID+from.ID]), h.both(opens[sharedID+to.ID])...)
			after := append(h.both(rest), h.both(slices.Concat(opens[sharedID+to.ID], own))...)
			if gain := len(before) - len(after); gain > 0 {
				spared := slices.DeleteFunc(slices.Clone(before), func(s string) bool { return slices.Contains(after, s) })
				list = append(list, ranked{Move{k.ID, k.Name, from.Name, to.Name, to.ID,
					h.job.Words.Say("%s: no longer without light and power at once.", strings.Join(slices.Compact(spared), ", "))}, gain})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b ranked) int { return cmp.Compare(b.gain, a.gain) })
	out := []Move{}
	for _, m := range list[:min(len(list), mostMoves)] {
		out = append(out, m.Move)
	}
	return out
}

const mostMoves = 5
