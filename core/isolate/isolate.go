// Package isolate says what is opened to make a place of an installation dead, what stays live and from which source.
//
// The supply arrangement, the boards, their devices, the circuits and every source of the customer's own are one network. A place is
// expected dead when no source finds a way to any of its terminals through what is closed. It is never more than expected: only readings
// make dead.
package isolate

import (
	"cmp"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/network"
)

// The devices that stand once on a job; the others are written with the id of what they are of behind a colon.
const (
	Intake  = "intake"      // the supply, by one of the lawful ways
	Standby = "own:standby" // the standby source, by its own isolator and with its automatic start disabled

	// Main is the main switch of the main board, OwnSource stands before the id of the circuit of a source of the customer's own.
	Main      = "main"
	OwnSource = "own:"

	shared    = "group:"
	circuit   = "circuit:"
	enclosure = "enclosure:"
	second    = "/second"

	operators = "supply" // the source that is the operator's
)

// Kind is what a device is, as far as isolating it asks.
type Kind string

// The kinds.
const (
	IntakeKind  Kind = "intake"
	SwitchKind  Kind = "switch"  // a main switch, or a disconnecting means of the supply arrangement
	SharedKind  Kind = "shared"  // a device that several circuits share
	CircuitKind Kind = "circuit" // the device of a circuit
	SourceKind  Kind = "source"  // the isolator at a source of the customer's own
)

// Device is something that can be opened, locked and proved.
type Device struct {
	ID    string `json:"id"`
	Kind  Kind   `json:"kind"`
	Name  string `json:"name"`
	At    string `json:"at"`    // the board or enclosure in which it stands, by name
	Poles string `json:"poles"` // that it opens, in words
	// Automatic: what it isolates starts by itself, which is disabled as a step of its own.
	Automatic bool `json:"automatic"`
	// Note is what is known of it that whoever opens it has to know, empty for nothing.
	Note string `json:"note"`
}

// Place is somewhere that people work, with the pairs of conductors there.
type Place struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Pairs []string `json:"pairs"` // each of which is read
	// Cables is how many the model has there; 0 where it does not say.
	Cables int `json:"cables"`
	// StaysLive names what of it no device of the installation makes dead.
	StaysLive string `json:"staysLive"`

	at []network.Node
}

// Places are written with the id of what they are of behind a colon.
const (
	boardPlace     = "board:"     // by what feeds its circuits
	circuitPlace   = "circuit:"   // wherever conductors of the circuit are
	devicePlace    = "device:"    // the own enclosure of a circuit's device
	roomPlace      = "room:"      // the accessories of a room, on the circuits that stand there
	foundPlace     = "found:"     // every cable that is found in a room, whosever it is
	enclosurePlace = "enclosure:" // of the supply arrangement
	// Origin is the supply as it comes in.
	Origin = "origin"
)

// BoardPlace is the inside of a board.
func BoardPlace(b *install.Board) string { return boardPlace + b.Feeder() }

// DevicePlace is where the device of a circuit is fitted: its board, or an enclosure of its own.
func DevicePlace(k *install.Circuit) string {
	if k.Protection.OwnEnclosure {
		return devicePlace + k.ID
	}
	return boardPlace + k.From
}

// DevicesOf are the devices by which a circuit is opened, by id: two where its lines open apart.
func DevicesOf(k *install.Circuit) []string {
	if apart(k) {
		return []string{circuit + k.ID, circuit + k.ID + second}
	}
	return []string{circuit + k.ID}
}

// apart reports whether the lines of a circuit that share a neutral open apart, each by a device of its own.
func apart(k *install.Circuit) bool {
	return k.Protection.Shared.Is && k.Protection.Shared.Opens != install.OpensTogether
}

// CircuitPlace is wherever conductors of a circuit are but at its board.
func CircuitPlace(id string) string { return circuitPlace + id }

// RoomPlace is the accessories of a room, FoundPlace every cable that is found there, EnclosurePlace one of the supply arrangement.
func RoomPlace(id string) string      { return roomPlace + id }
func FoundPlace(id string) string     { return foundPlace + id }
func EnclosurePlace(id string) string { return enclosurePlace + id }

// Found reports whether a place is every cable that is found in a room, which the room's accessories are part of.
func Found(place string) bool { return strings.HasPrefix(place, foundPlace) }

// House is a job as what can be opened and where people work.
type House struct {
	Devices []Device
	Places  []Place

	job       *install.Job
	terms     *install.Terms
	net       *network.Net
	names     map[string]string // of sources
	neutral   bool              // it counts as live: it is not reliably earthed
	place     map[string]int
	incoming  map[string]string // by what feeds its circuits, the node at the incoming terminals of a board
	mainBoard string            // node that feeds the main board
	boardIn   string            // enclosure of the supply arrangement that the main board is, by id; empty where none is
}

// Of is the house of a job as it stands now: with what the job takes out, until that was parted.
func Of(job *install.Job, terms *install.Terms) *House {
	h := &House{job: job, terms: terms, net: &network.Net{}, names: map[string]string{}, place: map[string]int{}, incoming: map[string]string{},
		Devices: []Device{}, Places: []Place{}, mainBoard: "head"}
	h.neutral = !h.twoLegs() && job.Supply.Earthing != install.TNS && job.Supply.Earthing != install.TNCS
	h.supply()
	h.boards()
	for i := range job.Circuits {
		h.circuit(&job.Circuits[i])
	}
	h.rooms()
	h.atSupply()
	return h
}

// twoLegs reports whether the supply has two legs, whose circuits may have one of them.
func (h *House) twoLegs() bool { return h.terms.PairsOneHot != nil }

// lines are the conductors that a source drives and that a device of all poles opens.
func (h *House) lines() []network.Core {
	switch {
	case h.twoLegs():
		return []network.Core{network.L1, network.L2}
	case h.neutral:
		return []network.Core{network.L1, network.N}
	}
	return []network.Core{network.L1}
}

// source puts a source in at a place. That there is voltage is all that is asked: a neutral that is not reliably earthed counts as live from it.
func (h *House) source(id, name, at string) {
	h.names[id] = name
	drives := []network.Drive{}
	for _, c := range h.lines() {
		drives = append(drives, network.Drive{Line: h.net.Node(at, c), Return: h.net.Node("earth", network.E), V: 1, Behind: network.Ohm(0, 0)})
	}
	h.net.Source(id, drives...)
}

// device puts a device in that opens the poles given.
func (h *House) device(d Device, from, to string, poles []network.Core) {
	for _, c := range poles {
		h.net.Device(d.ID, network.Pole{From: h.net.Node(from, c), To: h.net.Node(to, c)})
	}
	h.Devices = append(h.Devices, d)
}

// join joins conductors of two places.
func (h *House) join(from, to string, cores []network.Core) {
	for _, c := range cores {
		h.net.Link(h.net.Node(from, c), h.net.Node(to, c))
	}
}

func (h *House) link(from, to string) { h.join(from, to, h.lines()) }

func (h *House) addPlace(p Place, at ...string) {
	if _, there := h.place[p.ID]; there {
		return
	}
	for _, name := range at {
		for _, c := range h.lines() {
			p.at = append(p.at, h.net.Node(name, c))
		}
	}
	h.place[p.ID] = len(h.Places)
	h.Places = append(h.Places, p)
}

// supply puts in the operator's supply, the enclosures of the supply arrangement and a standby source.
func (h *House) supply() {
	w, job := h.job.Words, h.job
	h.source(operators, w.Say("the supply"), "network")
	h.device(Device{ID: Intake, Kind: IntakeKind, Name: w.Say("Supply, at the intake"), At: "", Poles: w.Say("all poles"),
		Note: w.Say("Only by the lawful way that was chosen, on its day.")}, "network", "head", h.lines())
	changeover := ""
	h.mainBoard = h.trunk()
	for _, e := range job.Chain.Order() {
		in, out, from := "in/"+e.ID, "out/"+e.ID, "head"
		if e.From != "" {
			from = "out/" + e.From
		}
		h.link(from, in)
		if e.ID == h.boardIn {
			continue // its main switch is that of the board
		}
		fitted := !e.New || job.Ticked(e.FitStep()) != nil // until then it disconnects nothing
		if e.Disconnect != nil && *e.Disconnect && fitted {
			h.device(Device{ID: enclosure + e.ID, Kind: SwitchKind, Name: e.Name, At: e.Name, Poles: w.Say("all poles")}, in, out, h.lines())
		} else {
			h.link(in, out)
		}
		if e.SwitchesN != nil {
			changeover = cmp.Or(changeover, out)
		}
	}
	if job.Standby.Source == "" {
		return
	}
	at := "standby"
	h.source("standby", job.Standby.Source, at)
	d := Device{ID: Standby, Kind: SourceKind, Name: w.Say("Isolator of the %s", job.Standby.Source), At: job.Standby.Source, Poles: w.Say("all poles")}
	if job.Standby.Automatic {
		d.Automatic, d.Note = true, w.Say("It starts by itself: disable its automatic start first.")
	}
	// Where nobody wrote down at which enclosure it comes in, it may come in at the main board.
	h.device(d, at, cmp.Or(changeover, h.mainBoard), h.lines())
}

// atSupply are the places of the supply arrangement, which come after those where most of the work is.
func (h *House) atSupply() {
	w := h.job.Words
	for _, e := range h.job.Chain.Order() {
		h.addPlace(Place{ID: EnclosurePlace(e.ID), Name: e.Name, Pairs: h.terms.Pairs}, "in/"+e.ID, "out/"+e.ID)
	}
	h.addPlace(Place{ID: Origin, Name: w.Say("The intake"), Pairs: h.terms.Pairs,
		StaysLive: w.Say("the operator's side of the intake")}, "head")
}

// trunk is what feeds the main board: the enclosure that the board is, or the first board of the arrangement, or else the last enclosure that
// everything hangs on for certain. Where the arrangement branches before that, nobody wrote down on which branch the main board is.
func (h *House) trunk() string {
	if e := h.job.Board.Enclosure; e != "" && h.job.Chain.Enclosure(e) != nil {
		h.boardIn = e
		return "in/" + e
	}
	at, from := "head", ""
	for {
		behind := []string{}
		for i := range h.job.Chain.Enclosures {
			if e := &h.job.Chain.Enclosures[i]; e.From == from && e.ID != from && !h.further(e.ID) {
				behind = append(behind, e.ID)
			}
		}
		if len(behind) != 1 || strings.HasSuffix(at, "/"+behind[0]) {
			return at
		}
		from = behind[0]
		if slices.Contains(h.terms.BoardKinds, h.job.Chain.Enclosure(from).Kind) {
			h.boardIn = from
			return "in/" + from
		}
		at = "out/" + from
	}
}

// further reports whether an enclosure is a further board of the job.
func (h *House) further(id string) bool {
	return slices.ContainsFunc(h.job.Boards, func(b install.Board) bool { return b.Enclosure == id })
}

func barOf(feeder string) string { return "bar/" + feeder }
func endOf(id string) string     { return "behind/" + id }

// boards puts in the boards with their main switches and the devices that circuits share.
func (h *House) boards() {
	w := h.job.Words
	for b := range h.job.EachBoard() {
		id, name := Main, w.Say("Main switch")
		if !b.Main() {
			id, name = Main+":"+b.ID, w.Say("Main switch of %s", b.Called(w))
		}
		from := h.mainBoard
		switch {
		case b.Feed != "":
			from = endOf(b.Feed)
		case b.Enclosure != "" && !b.Main():
			from = "out/" + b.Enclosure
		}
		bar, at := barOf(b.Feeder()), b.Called(w)
		h.incoming[b.Feeder()] = from
		h.device(Device{ID: id, Kind: SwitchKind, Name: name, At: at, Poles: w.Say("all poles")}, from, bar, h.lines())
		if b.Main() && h.boardIn != "" {
			h.link(bar, "out/"+h.boardIn)
		}
		nodes := []string{bar}
		for i := range b.Groups {
			g := &b.Groups[i]
			h.device(Device{ID: shared + g.ID, Kind: SharedKind, Name: g.Name, At: at, Poles: w.Say("all poles")}, bar, shared+g.ID, h.lines())
			nodes = append(nodes, shared+g.ID)
		}
		for i := range h.job.Circuits {
			if k := &h.job.Circuits[i]; k.From == b.Feeder() && !h.gone(k) && !k.Protection.OwnEnclosure {
				nodes = append(nodes, endOf(k.ID)) // its conductors end in the board
			}
		}
		h.addPlace(Place{ID: BoardPlace(b), Name: at, Pairs: h.terms.Pairs,
			StaysLive: w.Say("its incoming terminals, until what is ahead of it is open")}, nodes...)
	}
}

// gone reports whether a circuit was parted at both ends.
func (h *House) gone(k *install.Circuit) bool {
	l := h.job.LeavingOf(k)
	return l != nil && l.Parted != nil
}

// circuit puts a circuit in behind its device.
func (h *House) circuit(k *install.Circuit) {
	if h.gone(k) {
		return
	}
	w := h.job.Words
	from, at := barOf(k.From), w.Say("the board")
	b := h.job.BoardOf(k)
	switch {
	case b != nil:
		at = b.Called(w)
	case h.job.FeederOf(k) != nil: // a board that was not written down
		at = w.Say("board behind %s", h.job.FeederOf(k).Name)
		h.link(endOf(k.From), from)
		h.addPlace(Place{ID: boardPlace + k.From, Name: at, Pairs: h.terms.Pairs}, from)
	}
	if k.Protection.OwnEnclosure {
		from, at = h.mainBoard, w.Say("its own enclosure")
		if b != nil && !b.Main() && b.Feed != "" {
			from = endOf(b.Feed)
		}
		h.addPlace(Place{ID: devicePlace + k.ID, Name: w.Say("%s: the enclosure of its device", k.Name), Pairs: h.terms.Pairs}, from, endOf(k.ID))
	} else if g := h.job.GroupOf(k); g != nil {
		from = shared + g.ID
	}
	h.breaker(k, from, at)
	if k.Serves.Backfeed {
		id := OwnSource + k.ID
		h.source(id, w.Say("the source on %s", k.Name), "source/"+k.ID)
		h.device(Device{ID: id, Kind: SourceKind, Name: w.Say("Isolator at the source on %s", k.Name), At: k.Name, Poles: w.Say("all poles"),
			Note: w.Say("Its own side stays live: generation in daylight, a battery, what is stored in it. Wait as its manufacturer says.")},
			"source/"+k.ID, endOf(k.ID), h.lines())
	}
	h.addPlace(Place{ID: CircuitPlace(k.ID), Name: k.Name, Pairs: h.pairs(k)}, endOf(k.ID))
}

// pairs are the pairs of conductors of a circuit.
func (h *House) pairs(k *install.Circuit) []string {
	if h.terms.PairsOf != nil {
		if of := h.terms.PairsOf(k); of != nil {
			return of
		}
	}
	return h.terms.Pairs
}

// breaker puts in the device of a circuit; where two lines that share a neutral open apart, one for each.
func (h *House) breaker(k *install.Circuit, from, at string) {
	w := h.job.Words
	d := Device{ID: circuit + k.ID, Kind: CircuitKind, Name: k.Name, At: at}
	all := h.lines()
	switch {
	case k.State.Out() && k.Protection.Way == 0 && !k.Protection.OwnEnclosure:
		h.link(from, endOf(k.ID)) // nobody knows its device
	case apart(k):
		d.Note = w.Say("Two lines share its neutral: open and lock both.")
		d.Poles = w.Say("one line")
		h.device(Device{ID: d.ID, Kind: d.Kind, Name: w.Say("%s, first line", k.Name), At: at, Poles: d.Poles, Note: d.Note}, from, endOf(k.ID), all[:1])
		d.ID, d.Name = d.ID+second, w.Say("%s, second line", k.Name)
		h.device(d, from, endOf(k.ID), all[1:])
	case h.twoLegs():
		d.Poles = w.Say("its hot conductor alone")
		if k.Protection.Poles > 1 {
			d.Poles = w.Say("both hot conductors")
		}
		h.device(d, from, endOf(k.ID), all)
	case k.Protection.Poles > 1:
		d.Poles = w.Say("line and neutral")
		h.device(d, from, endOf(k.ID), all)
	default:
		d.Poles = w.Say("the line alone")
		if h.neutral {
			d.Note = w.Say("It leaves the neutral connected, which is not reliably earthed here: it isolates nothing by itself.")
		}
		h.device(d, from, endOf(k.ID), all[:1])
		h.join(from, endOf(k.ID), all[1:])
	}
}

// rooms are the places of the walk: the accessories of a room on the circuits that stand there, and every cable that is found there.
func (h *House) rooms() {
	w := h.job.Words
	everywhere := []string{}
	for b := range h.job.EachBoard() {
		everywhere = append(everywhere, barOf(b.Feeder()))
		for i := range b.Groups {
			everywhere = append(everywhere, shared+b.Groups[i].ID)
		}
	}
	for i := range h.job.Circuits {
		if !h.gone(&h.job.Circuits[i]) {
			everywhere = append(everywhere, endOf(h.job.Circuits[i].ID))
		}
	}
	for i := range h.job.Rooms {
		r := &h.job.Rooms[i]
		at, cables, pairs := []string{}, 0, []string{}
		for n := range h.job.Circuits {
			k := &h.job.Circuits[n]
			if h.gone(k) {
				continue
			}
			if c := cablesIn(k, r.ID); c > 0 {
				at, cables = append(at, endOf(k.ID)), cables+c
				for _, pair := range h.pairs(k) {
					if !slices.Contains(pairs, pair) {
						pairs = append(pairs, pair)
					}
				}
			}
		}
		if len(at) == 0 {
			at, cables, pairs = everywhere, 0, h.terms.Pairs
		}
		h.addPlace(Place{ID: RoomPlace(r.ID), Name: r.Name, Pairs: pairs, Cables: cables}, at...)
		h.addPlace(Place{ID: FoundPlace(r.ID), Name: w.Say("%s, every cable found there", r.Name), Pairs: h.terms.Pairs}, everywhere...)
	}
}

// cablesIn counts the cables of a circuit that enter boxes of a room.
func cablesIn(k *install.Circuit, room string) int {
	n := 0
	in := func(id string) bool {
		b := k.Serves.BoxByID(id)
		return b != nil && b.Room == room && b.Point != ""
	}
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if in(b.ID) {
			n++ // the one that feeds it
		}
		if in(b.From) {
			n++ // the one that leaves from the box before
		}
	}
	if in(k.Serves.Back) {
		n++
	}
	return n
}
