package install

import (
	"arvelt/core/words"
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Room is one room of the survey walk with its points and the way a cable takes
// to it. Rooms stand in walking order by At.
type Room struct {
	ID      string      `json:"id"`
	Name    string      `json:"name"`
	Kind    string      `json:"kind"`  // kitchen, bedroom …; empty when it is none of the known
	Floor   string      `json:"floor"` // as people say it; empty when not said
	At      float64     `json:"at"`
	Points  []RoomPoint `json:"points"`
	From    string      `json:"from"` // id of the room that its cables come through; empty: from the board
	Legs    []Leg       `json:"legs"` // the way from there
	Wall    string      `json:"wall"` // construction, as the practice names it
	Under   string      `json:"under"`
	Ceiling string      `json:"ceiling"`
	// Answered holds what was answered no to, by question: it is asked no more.
	Answered map[string]string `json:"answered"`
	// Walls are the unbroken wall lines of the room in walking order, where the
	// practice spaces its receptacles along them.
	Walls   []WallLine `json:"walls"`
	Bath    BathRoom   `json:"bath" seal:"omitempty"`
	Skipped string     `json:"skipped"` // why it was not seen; empty when it was
	Revisit string     `json:"revisit"` // date on which it is seen, 2006-01-02
	Closed  string     `json:"closed"`  // date on which its walls were closed; empty while they are open
	Note    string     `json:"note"`
}

// BathRoom is what the rules for a room with a bath or shower ask of it. A nil yes
// or no was not looked at.
type BathRoom struct {
	Fitted string `json:"fitted"` // bath, tray, open shower, none; empty when not looked at
	// Bonded: supplementary bonding joins the metal parts within reach, of BondMM2.
	Bonded  *bool `json:"bonded"`
	BondMM2 Fact  `json:"bondMM2"`
	// MainBondOhm is the highest resistance read between metal parts of the room and
	// the main earthing terminal, Ω.
	MainBondOhm Fact  `json:"mainBondOhm"`
	NoMetal     bool  `json:"noMetal"` // looked for: no metal of the building comes into the room
	Jets        *bool `json:"jets"`    // it is cleaned with water jets
}

// Baths are what a room with a bath or shower has: a bath, a shower with a tray, or
// one without.
var Baths = []string{"bath", "tray", "open shower", "none"}

// WallLine is one unbroken line of wall or of counter, between two breaks.
type WallLine struct {
	LengthM float64 `json:"lengthM"`
	Counter bool    `json:"counter"` // a counter, else the floor line of a wall
	Has     int     `json:"has"`     // receptacles on it, those to come included
}

// The states of a point: what the job does with it.
const (
	New     = "new"
	Kept    = "kept"
	Moved   = "moved"
	Removed = "removed"
)

// PointStates lists them.
var PointStates = []string{New, Kept, Moved, Removed}

// RoomPoint is one or several alike points of a room.
type RoomPoint struct {
	ID        string  `json:"id"`
	Kind      string  `json:"kind"` // of the survey vocabulary; empty when the text was not understood
	Count     int     `json:"count"`
	State     string  `json:"state"`
	Switching string  `json:"switching"` // one-way, two-way, intermediate, bedside, sensor; empty when it is not said
	Dimmed    bool    `json:"dimmed"`
	HeightMM  float64 `json:"heightMM"` // above the finished floor; 0 for the usual of its kind
	Wall      string  `json:"wall"`
	FedFrom   string  `json:"fedFrom"`
	Box       string  `json:"box"`
	PowerW    float64 `json:"powerW"` // of the appliance, 0 when not known
	CurrentA  float64 `json:"currentA"`
	// BathMM is the horizontal distance in mm from the edge of a bath or tray, or from the
	// water outlet of a shower without a tray; 0 above it, nil when not measured. Inside:
	// within the tub itself. IP is the protection code by its mark.
	BathMM *float64 `json:"bathMM" seal:"omitempty"`
	Inside bool     `json:"inside" seal:"omitempty"`
	IP     string   `json:"ip" seal:"omitempty"`
	Note   string   `json:"note"`
	Typed  string   `json:"typed"` // what was typed and not understood, kept as it was
}

// Leg is one stretch of the way to a room.
type Leg struct {
	Place   string  `json:"place"`
	LengthM float64 `json:"lengthM"`
	Basis   Basis   `json:"basis"`
	Through string  `json:"through"` // what is crossed: wall, joists, ceiling void
}

// Found is the existing installation as it was found.
type Found struct {
	Board    FoundBoard     `json:"board"`
	Circuits []FoundCircuit `json:"circuits"`
	Hazards  []Hazard       `json:"hazards"`
	// Answered holds questions on the whole house that were answered no.
	Answered map[string]string `json:"answered"`
}

// FoundBoard is what the survey sees of the board beyond its ways. A nil yes or
// no was not looked at.
type FoundBoard struct {
	Made         string `json:"made"` // year, or about
	Edition      string `json:"edition"`
	Combustible  *bool  `json:"combustible"`
	EscapeRoute  *bool  `json:"escapeRoute"`
	Above        string `json:"above"`        // what stands above and around it, in words
	Residual     string `json:"residual"`     // the residual-current devices, in words
	DoubleTapped string `json:"doubleTapped"` // ways with two conductors under one screw; "none" when there are none
	OpenWays     *int   `json:"openWays"`     // openings without a blank
	Arrester     string `json:"arrester"`     // none, in sight, hidden
	Note         string `json:"note"`
	// Near is what above or around it is a danger to it, Covers what its residual-current
	// devices protect; both empty when not looked at.
	Near   Near   `json:"near" seal:"omitempty"`
	Covers Covers `json:"covers" seal:"omitempty"`
	// The years in which the house was built and last rewired.
	Built   *int `json:"built" seal:"omitempty"`
	Rewired *int `json:"rewired" seal:"omitempty"`
}

// Near is what is above or around a board.
type Near string

// What may be above or around a board.
const (
	NearNothing Near = "nothing"
	NearWater   Near = "water"
	NearGas     Near = "gas"
	NearGoods   Near = "goods" // kept in front of it or against it
)

// Nears lists them.
var Nears = []Near{NearNothing, NearWater, NearGas, NearGoods}

// Covers is what the residual-current protection that was found covers.
type Covers string

// What residual-current protection may cover.
const (
	CoversNone Covers = "none"
	CoversSome Covers = "some"
	CoversAll  Covers = "all"
	CoversFire Covers = "fire" // all, but above 30 mA: no protection of people
)

// Coverings lists them.
var Coverings = []Covers{CoversNone, CoversSome, CoversAll, CoversFire}

// Wiring is the kind of cable of a circuit that was found.
type Wiring string

// The kinds of wiring that are found in houses.
const (
	WiringSheathed  Wiring = "sheathed"
	WiringConduit   Wiring = "conduit"
	WiringArmoured  Wiring = "armoured"
	WiringAluminium Wiring = "aluminium"
	WiringRubber    Wiring = "rubber"
	WiringFabric    Wiring = "fabric"
	WiringLead      Wiring = "lead"
	WiringOpen      Wiring = "open" // single cores on insulators
)

// Wirings lists them.
var Wirings = []Wiring{WiringSheathed, WiringConduit, WiringArmoured, WiringAluminium, WiringRubber, WiringFabric, WiringLead, WiringOpen}

// Aged reports whether the insulation of such wiring is near its end wherever it is found.
func (w Wiring) Aged() bool {
	return w == WiringRubber || w == WiringFabric || w == WiringLead || w == WiringOpen
}

// FoundCircuit is one existing circuit.
type FoundCircuit struct {
	Name    string `json:"name"`
	Device  string `json:"device"`
	State   string `json:"state"`   // live, dead, cut at one end, unidentified
	Proved  string `json:"proved"`  // how the state is known
	Colours string `json:"colours"` // old, new, mixed, not seen
	Method  string `json:"method"`  // how it runs, in words
	TailM   Fact   `json:"tailM"`   // conductor to spare at the board
	Note    string `json:"note"`
	Wiring  Wiring `json:"wiring" seal:"omitempty"` // empty when not seen
}

// FoundStates are the states of an existing circuit.
var FoundStates = []string{"live", "dead", CutAtOneEnd, Unidentified}

// States of a circuit that was found, of which its other end is not known.
const (
	CutAtOneEnd  = "cut at one end"
	Unidentified = "unidentified"
)

// Hazard is something on the way that may hurt or stops the work.
type Hazard struct {
	Kind  string `json:"kind"` // suspected asbestos, live abandoned cable, structural member, hidden pipe, other
	Place string `json:"place"`
	Room  string `json:"room"`                   // id of the room, where it is in one
	Floor string `json:"floor" seal:"omitempty"` // as people say it, where it is on one; without room and floor it may be anywhere
	Clear bool   `json:"clear"`
	How   string `json:"how"` // how it was cleared: sample result, moved, proved dead
	Note  string `json:"note"`
}

// The steps in which a finding is followed up.
const (
	Told     = "told"      // whoever must know was told, Person and how in the note
	MadeSafe = "made-safe" // nobody is at risk any more, though it is not mended
	Mended   = "mended"
)

// FindingSteps lists them.
var FindingSteps = []string{Told, MadeSafe, Mended}

// EvidenceKinds say how a finding is known, the surest first.
var EvidenceKinds = []string{"measured", "seen", "told", "suspected"}

// HazardKind is what a kind of hazard asks for, and whether work where it is stops until
// it is cleared; otherwise it is said with the work.
type HazardKind struct {
	Asks  words.Key
	Stops bool
}

// The kinds of hazard.
const (
	SuspectedAsbestos = "suspected asbestos"
	AbandonedCable    = "live abandoned cable"
	StructuralMember  = "structural member"
	HiddenPipe        = "hidden pipe"
	UnsafeRoof        = "fragile or unsafe roof"
	Vermin            = "vermin"
	OtherHazard       = "other"
)

// HazardKinds are the kinds of hazard.
var HazardKinds = map[string]HazardKind{
	SuspectedAsbestos: {words.Key("Nothing touches it and nothing is fixed to it until a sample is clear."), true},
	AbandonedCable:    {words.Key("It is treated as live until proved dead, then taped and labelled at both ends."), true},
	StructuralMember:  {words.Key("No notch or hole outside the zones that the rule allows."), false},
	HiddenPipe:        {words.Key("No hole until its place is known on both sides."), true},
	UnsafeRoof:        {words.Key("No one steps on it; fixings go to walls and timber."), false},
	Vermin:            {words.Key("Look for gnawed sheaths; measure insulation before anything is reused."), false},
	OtherHazard:       {words.Key("Write what it asks for."), true},
}

// HazardsAt lists the hazards that are not cleared and that work in a room may meet: in
// it, on its floor, or where nobody has said where they are. A nil room is work that may
// pass anywhere, which meets only what may be anywhere.
func (f *Found) HazardsAt(r *Room) []Hazard {
	var out []Hazard
	for _, h := range f.Hazards {
		anywhere := h.Room == "" && h.Floor == ""
		if !h.Clear && (anywhere || r != nil && (h.Room == r.ID || h.Room == "" &&
			strings.EqualFold(strings.TrimSpace(h.Floor), strings.TrimSpace(r.Floor)))) {
			out = append(out, h)
		}
	}
	return out
}

// Total is how many of a state the points are; every state when it is empty.
func (r *Room) Total(state string) int {
	n := 0
	for i := range r.Points {
		if p := &r.Points[i]; state == "" || p.State == state {
			n += p.Count
		}
	}
	return n
}

// RoomByID returns the room or nil.
func (j *Job) RoomByID(id string) *Room {
	for i := range j.Rooms {
		if j.Rooms[i].ID == id {
			return &j.Rooms[i]
		}
	}
	return nil
}

// SortRooms puts the rooms in walking order.
func (j *Job) SortRooms() {
	slices.SortStableFunc(j.Rooms, func(a, b Room) int {
		return cmp.Or(cmp.Compare(a.At, b.At), strings.Compare(a.ID, b.ID))
	})
}

// RouteOf returns the metres of cable from the board to a room, the measured
// and the estimated kept apart, through the rooms it comes by. ok is false when
// a stretch of the way is not known at all. A ring of rooms ends where it
// would repeat.
func (j *Job) RouteOf(room *Room) (measuredM, estimatedM float64, ok bool) {
	seen := map[string]bool{}
	ok = true
	for room != nil && !seen[room.ID] {
		seen[room.ID] = true
		ok = ok && len(room.Legs) > 0
		for _, l := range room.Legs {
			if l.Basis == Measured {
				measuredM += l.LengthM
			} else {
				estimatedM += l.LengthM
			}
		}
		if room.From == "" {
			return measuredM, estimatedM, ok
		}
		room = j.RoomByID(room.From)
	}
	return measuredM, estimatedM, false
}

// IPCode reads a protection code such as IPX4, IP44 or IP24D and gives the figure for
// water; ok is false for anything else.
func IPCode(code string) (water int, ok bool) {
	s := strings.ToUpper(strings.TrimSpace(code))
	s, there := strings.CutPrefix(s, "IP")
	if !there || len(s) < 2 || len(s) > 4 || s[0] != 'X' && (s[0] < '0' || s[0] > '6') || s[1] < '0' || s[1] > '9' {
		return 0, false
	}
	for _, letter := range s[2:] {
		if letter < 'A' || letter > 'Z' {
			return 0, false
		}
	}
	return int(s[1] - '0'), true
}

// ident checks an id that stands in a part's name.
func (c *checker) ident(field, id string) {
	c.needed(field, id, 40)
	if strings.ContainsAny(id, "/.?# ") {
		c.say(field, id, c.w.Say("letters, digits and dashes"))
	}
}

// Validate checks one room. The error is [Errors].
func (r Room) Validate(t Terms) error {
	c := &checker{in: "rooms/" + r.ID + ".", w: words.In(t.Locale)}
	c.ident("id", r.ID)
	c.needed("name", r.Name, 80)
	c.text("kind", r.Kind, 40)
	c.text("floor", r.Floor, 40)
	if math.IsNaN(r.At) || math.Abs(r.At) > 1e9 {
		c.say("at", r.At, c.w.Say("a place in the survey, a number"))
	}
	if len(r.Points) > few {
		c.say("points", len(r.Points), c.w.Say("at most %d lines of points", few))
	}
	ids := map[string]bool{}
	for i, p := range r.Points {
		f := fmt.Sprintf("points[%d].", i)
		c.ident(f+"id", p.ID)
		if ids[p.ID] {
			c.say(f+"id", p.ID, c.w.Say("each point's id once in a room"))
		}
		ids[p.ID] = true
		if p.Kind == "" {
			c.needed(f+"typed", p.Typed, 400)
		} else {
			c.oneOf(f+"kind", p.Kind, t.Points)
		}
		c.between(f+"count", float64(p.Count), 1, 200, "pieces")
		c.oneOf(f+"state", p.State, PointStates)
		c.oneOf(f+"switching", p.Switching, append([]string{""}, t.Switching...))
		c.between(f+"heightMM", p.HeightMM, 0, 12000, c.w.Say("mm, or 0 for the usual height"))
		c.between(f+"powerW", p.PowerW, 0, 50000, c.w.Say("W, or 0 when not known"))
		c.between(f+"currentA", p.CurrentA, 0, 200, c.w.Say("A, or 0 when not known"))
		if p.BathMM != nil {
			c.between(f+"bathMM", *p.BathMM, 0, 20000, "mm")
		}
		if _, ok := IPCode(p.IP); p.IP != "" && !ok {
			c.say(f+"ip", p.IP, c.w.Say("a code as IPX4 or IP44, or nothing"))
		}
		for name, v := range map[string]string{"wall": p.Wall, "fedFrom": p.FedFrom, "box": p.Box} {
			c.text(f+name, v, 80)
		}
		c.text(f+"note", p.Note, 400)
		c.text(f+"typed", p.Typed, 400)
	}
	if r.From == r.ID {
		c.say("from", r.From, c.w.Say("another room that its cables come through, or nothing for the board"))
	}
	c.oneOf("bath.fitted", r.Bath.Fitted, append([]string{""}, Baths...))
	c.fact("bath.bondMM2", r.Bath.BondMM2, 1, 120, "mm²")
	c.fact("bath.mainBondOhm", r.Bath.MainBondOhm, 0, 20000, "Ω")
	if len(r.Walls) > 40 {
		c.say("walls", len(r.Walls), c.w.Say("at most 40 wall lines"))
	}
	for i, w := range r.Walls {
		f := c.item("walls", i)
		c.between(f+"lengthM", w.LengthM, 0.05, 50, "m")
		c.between(f+"has", float64(w.Has), 0, 40, "receptacles")
	}
	if len(r.Legs) > 40 {
		c.say("legs", len(r.Legs), c.w.Say("at most 40 stretches"))
	}
	for i, l := range r.Legs {
		f := fmt.Sprintf("legs[%d].", i)
		c.text(f+"place", l.Place, 200)
		c.between(f+"lengthM", l.LengthM, 0.1, 500, "m")
		c.basis(f+"basis", l.Basis)
		c.text(f+"through", l.Through, 80)
	}
	for _, v := range []string{r.Wall, r.Under, r.Ceiling} {
		c.text("wall", v, 80)
	}
	if len(r.Answered) > few {
		c.say("answered", len(r.Answered), c.w.Say("at most %d answers", few))
	}
	for k, v := range r.Answered {
		c.text("answered."+k, k+v, 400)
	}
	c.text("skipped", r.Skipped, 400)
	c.date("revisit", r.Revisit)
	c.date("closed", r.Closed)
	c.text("note", r.Note, 2000)
	return c.result()
}

// Validate checks what was found. The error is [Errors].
func (x Found) Validate() error {
	c := &checker{in: "found."}
	b := x.Board
	for name, v := range map[string]string{"made": b.Made, "edition": b.Edition, "above": b.Above, "residual": b.Residual,
		"doubleTapped": b.DoubleTapped} {
		c.text("board."+name, v, 200)
	}
	c.text("board.note", b.Note, 2000)
	choice(c, "board.near", b.Near, Nears)
	choice(c, "board.covers", b.Covers, Coverings)
	for name, year := range map[string]*int{"built": b.Built, "rewired": b.Rewired} {
		if year != nil {
			c.between("board."+name, float64(*year), 1800, 2100, c.w.Say(", as a year"))
		}
	}
	if b.Built != nil && b.Rewired != nil && *b.Rewired < *b.Built {
		c.say("board.rewired", *b.Rewired, c.w.Say("%d or later: the house was built then", *b.Built))
	}
	c.oneOf("board.arrester", b.Arrester, []string{"", "none", "in sight", "hidden"})
	if b.OpenWays != nil {
		c.between("board.openWays", float64(*b.OpenWays), 0, 60, "openings")
	}
	if len(x.Circuits) > few || len(x.Hazards) > few {
		c.say("circuits", max(len(x.Circuits), len(x.Hazards)), c.w.Say("at most %d lines", few))
	}
	for i, k := range x.Circuits {
		f := fmt.Sprintf("circuits[%d].", i)
		c.needed(f+"name", k.Name, 80)
		c.text(f+"device", k.Device, 80)
		c.oneOf(f+"state", k.State, append([]string{""}, FoundStates...))
		c.oneOf(f+"colours", k.Colours, []string{"", "old", "new", "mixed"})
		c.text(f+"proved", k.Proved, 200)
		if (k.State == "dead") && strings.TrimSpace(k.Proved) == "" {
			c.say(f+"proved", k.Proved, c.w.Say("how it was proved dead: without that it is “unidentified” and treated as live"))
		}
		c.text(f+"method", k.Method, 80)
		choice(c, f+"wiring", k.Wiring, Wirings)
		c.fact(f+"tailM", k.TailM, 0, 20, "m")
		c.text(f+"note", k.Note, 400)
	}
	for k, v := range x.Answered {
		c.text("answered."+k, k+v, 400)
	}
	kinds := []string{}
	for k := range HazardKinds {
		kinds = append(kinds, k)
	}
	slices.Sort(kinds)
	for i, h := range x.Hazards {
		f := fmt.Sprintf("hazards[%d].", i)
		c.oneOf(f+"kind", h.Kind, kinds)
		c.needed(f+"place", h.Place, 200)
		c.text(f+"room", h.Room, 40)
		c.text(f+"floor", h.Floor, 80)
		c.text(f+"note", h.Note, 400)
		c.text(f+"how", h.How, 400)
		if h.Clear && strings.TrimSpace(h.How) == "" {
			c.say(f+"how", h.How, c.w.Say("how it was cleared: a sample result, what was moved, how it was proved"))
		}
	}
	return c.result()
}
