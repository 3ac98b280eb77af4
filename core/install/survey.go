package install

import (
	"arvelt/core/words"
	"cmp"
	"slices"
	"strings"
)

// Room is one room of the survey walk with its points and the way a cable takes
// to it. Rooms stand in walking order by At.
type Room struct {
	ID      string      `json:"id" shape:"id"`
	Name    string      `json:"name" chars:"80" needed:"yes"`
	Kind    string      `json:"kind" chars:"40"`  // kitchen, bedroom …; empty when it is none of the known
	Floor   string      `json:"floor" chars:"40"` // as people say it; empty when not said
	At      float64     `json:"at" range:"-1000000000..1000000000"`
	Points  []RoomPoint `json:"points" most:"200"`
	From    string      `json:"from" chars:"40"` // id of the room that its cables come through; empty: from the board
	Legs    []Leg       `json:"legs" most:"40"`  // the way from there
	Wall    string      `json:"wall" chars:"80"` // construction, as the practice names it
	Under   string      `json:"under" chars:"80"`
	Ceiling string      `json:"ceiling" chars:"80"`
	// Answered holds what was answered no to, by question: it is asked no more.
	Answered map[string]string `json:"answered" most:"200" chars:"400"`
	// Walls are the unbroken wall lines of the room in walking order, where the
	// practice spaces its receptacles along them.
	Walls []WallLine `json:"walls" most:"40"`
	// Furniture is what stands against its walls, or will.
	Furniture []Furniture `json:"furniture" seal:"omitempty" most:"40"`
	// Cores are the holes that are cored through its walls and ceiling, Timber what is bored and notched of its joists and studs.
	Cores   []Core      `json:"cores" seal:"omitempty" most:"40"`
	Timber  []TimberCut `json:"timber" seal:"omitempty" most:"40"`
	Bath    BathRoom    `json:"bath" seal:"omitempty"`
	Skipped string      `json:"skipped" chars:"400"`  // why it was not seen; empty when it was
	Revisit string      `json:"revisit" shape:"date"` // date on which it is seen, 2006-01-02
	// ApartMM is the least distance in mm at which cables of extra-low voltage were run from those of power in the room, 0 while nobody
	// read it; Divided: a divider or a metal pipe is between them.
	ApartMM float64 `json:"apartMM" seal:"omitempty" range:"0..5000" unit:"mm" zero:"or 0 when not read"`
	Divided bool    `json:"divided" seal:"omitempty"`
	// Finish is that of the plates of its accessories; empty for that of the house.
	Finish Finish `json:"finish" seal:"omitempty" of:"finishes?"`
	Closed string `json:"closed" shape:"date"` // date on which its walls were closed; empty while they are open
	Note   string `json:"note" chars:"2000"`
}

// BathRoom is what the rules for a room with a bath or shower ask of it. A nil yes
// or no was not looked at.
type BathRoom struct {
	Fitted string `json:"fitted" of:"baths?"` // bath, tray, open shower, none; empty when not looked at
	// Bonded: supplementary bonding joins the metal parts within reach, of BondMM2.
	Bonded  *bool `json:"bonded"`
	BondMM2 Fact  `json:"bondMM2" range:"1..120" unit:"mm²"`
	// MainBondOhm is the highest resistance read between metal parts of the room and
	// the main earthing terminal, Ω.
	MainBondOhm Fact  `json:"mainBondOhm" range:"0..20000" unit:"Ω"`
	NoMetal     bool  `json:"noMetal"` // looked for: no metal of the building comes into the room
	Jets        *bool `json:"jets"`    // it is cleaned with water jets
}

// Furniture is something that stands against a wall, or will: what is behind it cannot be reached.
type Furniture struct {
	Name   string        `json:"name" chars:"80" needed:"yes"`
	Kind   FurnitureKind `json:"kind" of:"furnitureKinds"`
	Wall   string        `json:"wall" chars:"80" needed:"yes"`                                        // as its points name it
	FromMM float64       `json:"fromMM" range:"0..30000" unit:"mm"`                                   // along the wall, from its left end
	ToMM   float64       `json:"toMM" range:"0..30000" unit:"mm"`                                     // where it ends
	TopMM  float64       `json:"topMM" range:"0..4000" unit:"mm" zero:"or 0 where it is open behind"` // above the finished floor
}

// FurnitureKind is what it does to points behind or above it.
type FurnitureKind string

// The kinds of furniture.
const (
	Stands  FurnitureKind = "stands"  // hides what is behind it
	Worktop FurnitureKind = "worktop" // points above it keep a distance
)

// FurnitureKinds lists them.
var FurnitureKinds = []FurnitureKind{Stands, Worktop}

// Baths are what a room with a bath or shower has: a bath, a shower with a tray, or
// one without.
var Baths = []string{"bath", "tray", "open shower", "none"}

// WallLine is one unbroken line of wall or of counter, between two breaks.
type WallLine struct {
	LengthM float64 `json:"lengthM" range:"0.05..50" unit:"m"`
	Counter bool    `json:"counter"`                              // a counter, else the floor line of a wall
	Has     int     `json:"has" range:"0..40" unit:"receptacles"` // receptacles on it, those to come included
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
	ID        string  `json:"id" shape:"id"`
	Kind      string  `json:"kind" of:"points?"` // of the survey vocabulary; empty when the text was not understood
	Count     int     `json:"count" range:"1..200" unit:"pieces"`
	State     string  `json:"state" of:"pointStates"`
	Switching string  `json:"switching" of:"switching?"` // one-way, two-way, intermediate, bedside, sensor; empty when it is not said
	Dimmed    bool    `json:"dimmed"`
	HeightMM  float64 `json:"heightMM" range:"0..12000" unit:"mm" zero:"or 0 for the usual height"` // above the finished floor; 0 for the usual of its kind
	Wall      string  `json:"wall" chars:"80"`
	// OffsetMM is how far along its wall the middle of it is, from the left end as one faces the wall; 0 while nobody said.
	OffsetMM float64 `json:"offsetMM" seal:"omitempty" range:"0..30000" unit:"mm" zero:"or 0 when not said"`
	// DuctM is how long the air duct of a fan is, m; 0 while nobody measured it.
	DuctM float64 `json:"ductM" seal:"omitempty" range:"0.1..30" unit:"m" zero:"or 0 when not measured"`
	// Lamp is what each of its luminaires takes, where it takes lamps.
	Lamp Lamp `json:"lamp" seal:"omitempty"`
	// Built is how an appliance that is built in stands to its connection.
	Built    Fitted  `json:"built" seal:"omitempty"`
	FedFrom  string  `json:"fedFrom" chars:"80"`
	Box      string  `json:"box" chars:"80"`
	PowerW   float64 `json:"powerW" range:"0..50000" unit:"W" zero:"or 0 when not known"` // of the appliance, 0 when not known
	CurrentA float64 `json:"currentA" range:"0..200" unit:"A" zero:"or 0 when not known"`
	// BathMM is the horizontal distance in mm from the edge of a bath or tray, or from the
	// water outlet of a shower without a tray; 0 above it, nil when not measured. Inside:
	// within the tub itself. IP is the protection code by its mark.
	BathMM *float64 `json:"bathMM" seal:"omitempty" range:"0..20000" unit:"mm"`
	Inside bool     `json:"inside" seal:"omitempty"`
	IP     string   `json:"ip" seal:"omitempty" shape:"ip"`
	Note   string   `json:"note" chars:"400"`
	Typed  string   `json:"typed" chars:"400"` // what was typed and not understood, kept as it was
}

// Fitted is how an appliance that is built in stands to its connection. A nil yes or no was not looked at.
type Fitted struct {
	CordMM float64 `json:"cordMM" range:"100..6000" unit:"mm" zero:"or 0 when not known"`   // of its own cord, or the tail left for it
	AwayMM float64 `json:"awayMM" range:"50..6000" unit:"mm" zero:"or 0 when not measured"` // from its connection to where the cord leaves it, along the way of the cord
	// Reached: what switches it off is reached without moving it. Drawer: a drawer or a cupboard is under it, from which its underside is touched.
	Reached *bool `json:"reached"`
	Drawer  *bool `json:"drawer"`
}

// Leg is one stretch of the way to a room.
type Leg struct {
	Place   string  `json:"place" chars:"200"`
	LengthM float64 `json:"lengthM" range:"0.1..500" unit:"m"`
	Basis   Basis   `json:"basis"`
	Through string  `json:"through" chars:"80"` // what is crossed: wall, joists, ceiling void
}

// Found is the existing installation as it was found.
type Found struct {
	Board    FoundBoard     `json:"board"`
	Circuits []FoundCircuit `json:"circuits" most:"200"`
	Hazards  []Hazard       `json:"hazards" most:"200"`
	// Answered holds questions on the whole house that were answered no.
	Answered map[string]string `json:"answered" most:"200" chars:"400"`
}

// FoundBoard is what the survey sees of the board beyond its ways. A nil yes or
// no was not looked at.
type FoundBoard struct {
	Made         string `json:"made" chars:"200"` // year, or about
	Edition      string `json:"edition" chars:"200"`
	Combustible  *bool  `json:"combustible"`
	EscapeRoute  *bool  `json:"escapeRoute"`
	Above        string `json:"above" chars:"200"`                      // what stands above and around it, in words
	Residual     string `json:"residual" chars:"200"`                   // the residual-current devices, in words
	DoubleTapped string `json:"doubleTapped" chars:"200"`               // in words, which ways have more conductors in a terminal than it is made for
	OpenWays     *int   `json:"openWays" range:"0..60" unit:"openings"` // openings without a blank
	Arrester     string `json:"arrester" of:"arresters?"`               // none, in sight, hidden
	Note         string `json:"note" chars:"2000"`
	// Near is what above or around it is a danger to it, Covers what its residual-current
	// devices protect; both empty when not looked at.
	Near   Near   `json:"near" seal:"omitempty" of:"nears?"`
	Covers Covers `json:"covers" seal:"omitempty" of:"coverings?"`
	// The years in which the house was built and last rewired.
	Built   *int `json:"built" seal:"omitempty" range:"1800..2100" unit:"as a year"`
	Rewired *int `json:"rewired" seal:"omitempty" range:"1800..2100" unit:"as a year"`
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

// Insulation is how the insulation of an existing circuit looks where it is seen.
type Insulation string

// How it looks.
const (
	InsulationSound   Insulation = "sound"
	InsulationBrittle Insulation = "brittle"
	InsulationDamaged Insulation = "damaged" // cut, crushed or burnt
	InsulationGnawed  Insulation = "gnawed"
)

// Insulations lists them.
var Insulations = []Insulation{InsulationSound, InsulationBrittle, InsulationDamaged, InsulationGnawed}

// InTerminal is how many conductors are in the terminal of a device, by what that is made for.
type InTerminal string

// How many are in it.
const (
	OneConductor InTerminal = "one"
	AsListed     InTerminal = "listed"  // several, and the device is made for them
	TooMany      InTerminal = "crowded" // more than it is made for
)

// InTerminals lists them.
var InTerminals = []InTerminal{OneConductor, AsListed, TooMany}

// LeastTailM is what an existing cable needs to spare to reach its way on a new board without a joint, m: the height of a two-row board and the
// strip length.
const LeastTailM = 0.4

// Doubtful reports whether what was seen of a circuit puts its insulation in doubt, so that it is read.
func (k *FoundCircuit) Doubtful() bool {
	return k.Wiring.Aged() || k.Insulation != "" && k.Insulation != InsulationSound
}

// Doubted reports whether the insulation of a circuit of the job is in doubt by what was found of it.
func (f *Found) Doubted(circuit string) bool {
	return slices.ContainsFunc(f.Circuits, func(k FoundCircuit) bool { return circuit != "" && k.Circuit == circuit && k.Doubtful() })
}

// FoundCircuit is one existing circuit.
type FoundCircuit struct {
	Name    string `json:"name" chars:"80" needed:"yes"`
	Device  string `json:"device" chars:"80"`
	State   string `json:"state" of:"foundStates?"`      // live, dead, cut at one end, unidentified
	Proved  string `json:"proved" chars:"200"`           // how the state is known
	Colours string `json:"colours" of:"foundColours?"`   // old, new, mixed, not seen
	Method  string `json:"method" chars:"80"`            // how it runs, in words
	TailM   Fact   `json:"tailM" range:"0..20" unit:"m"` // conductor to spare at the board
	Note    string `json:"note" chars:"400"`
	Wiring  Wiring `json:"wiring" seal:"omitempty" of:"wirings?"` // empty when not seen
	Joint   bool   `json:"joint" seal:"omitempty"`                // a joint box is planned, as it does not reach
	// Circuit is which circuit of the job it is, by id; empty while that is not said.
	Circuit string `json:"circuit" seal:"omitempty" chars:"40"`
	// Insulation and Terminal are empty when not seen.
	Insulation Insulation `json:"insulation" seal:"omitempty" of:"insulations?"`
	Terminal   InTerminal `json:"terminal" seal:"omitempty" of:"inTerminals?"`
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
	Kind  string `json:"kind" of:"hazardKinds"` // suspected asbestos, live abandoned cable, structural member, hidden pipe, other
	Place string `json:"place" chars:"200" needed:"yes"`
	Room  string `json:"room" chars:"40"`                   // id of the room, where it is in one
	Floor string `json:"floor" seal:"omitempty" chars:"80"` // as people say it, where it is on one; without room and floor it may be anywhere
	Clear bool   `json:"clear"`
	How   string `json:"how" chars:"400"` // how it was cleared: sample result, moved, proved dead
	Note  string `json:"note" chars:"400"`
}

// The steps in which a finding is followed up.
const (
	Told     = "told"      // whoever must know was told, Person and how in the note
	MadeSafe = "made-safe" // nobody is at risk any more, though it is not mended
	Mended   = "mended"
	Noticed  = "notice"   // the notice of a dangerous condition was handed over, signed or witnessed
	Reported = "reported" // to the network operator, by whom and when
)

// FindingSteps lists them.
var FindingSteps = []string{Told, MadeSafe, Mended, Noticed, Reported}

// What is decided of a finding.
const (
	Accepted = "accepted"
	Declined = "declined"
	PutOff   = "later"
)

// Why points that were agreed change.
const (
	Wished    = "wished"    // the client wants it
	FoundOut  = "found"     // the work brought to light what nobody could see
	Corrected = "corrected" // the survey had it wrong
)

// VariationReasons lists them.
var VariationReasons = []string{Wished, FoundOut, Corrected}

// EvidenceKinds say how a finding is known, the surest first.
var EvidenceKinds = []string{"measured", "seen", "told", "suspected"}

// HazardKind is what a kind of hazard asks for, and whether work where it is stops until
// it is cleared; otherwise it is said with the work.
type HazardKind struct {
	Asks  words.Key
	Stops bool
	// Touched: it hurts whoever touches what it is in, at whatever stage: it stops second fix too, and each route through the place.
	Touched bool
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
	SuspectedAsbestos: {words.Key("Nothing touches it and nothing is fixed to it until a sample is clear."), true, true},
	AbandonedCable:    {words.Key("It is treated as live until proved dead, then taped and labelled at both ends."), true, false},
	StructuralMember:  {words.Key("No notch or hole outside the zones that the rule allows."), false, false},
	HiddenPipe:        {words.Key("No hole until its place is known on both sides."), true, false},
	UnsafeRoof:        {words.Key("No one steps on it; fixings go to walls and timber."), false, false},
	Vermin:            {words.Key("Look for gnawed sheaths; measure insulation before anything is reused."), false, false},
	OtherHazard:       {words.Key("Write what it asks for."), true, false},
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
	c.bounds(r, &t)
	ids := map[string]bool{}
	for i, p := range r.Points {
		f := c.item("points", i)
		if ids[p.ID] {
			c.say(f+"id", p.ID, c.w.Say("each point's id once in a room"))
		}
		ids[p.ID] = true
		if p.Kind == "" {
			c.needed(f+"typed", p.Typed, 400)
		}
	}
	ids = map[string]bool{}
	for i := range r.Cores {
		if ids[r.Cores[i].ID] {
			c.say(c.item("cores", i)+"id", r.Cores[i].ID, c.w.Say("each hole's id once in a room"))
		}
		ids[r.Cores[i].ID] = true
	}
	for i := range r.Timber {
		if x := &r.Timber[i]; x.SpanMM > 0 && x.FromMM > x.SpanMM/2 {
			c.say(c.item("timber", i)+"fromMM", x.FromMM, c.w.Say("at most half of the span: it is measured from the nearer support"))
		}
	}
	if r.From == r.ID {
		c.say("from", r.From, c.w.Say("another room that its cables come through, or nothing for the board"))
	}
	return c.result()
}

// Validate checks what was found. The error is [Errors].
func (x Found) Validate() error {
	c := &checker{in: "found."}
	c.bounds(x, &Terms{})
	if b := x.Board; b.Built != nil && b.Rewired != nil && *b.Rewired < *b.Built {
		c.say("board.rewired", *b.Rewired, c.w.Say("%d or later: the house was built then", *b.Built))
	}
	for i, k := range x.Circuits {
		if k.State == "dead" && strings.TrimSpace(k.Proved) == "" {
			c.say(c.item("circuits", i)+"proved", k.Proved,
				c.w.Say("how it was proved dead: without that it is “unidentified” and treated as live"))
		}
	}
	for i, h := range x.Hazards {
		if h.Clear && strings.TrimSpace(h.How) == "" {
			c.say(c.item("hazards", i)+"how", h.How, c.w.Say("how it was cleared: a sample result, what was moved, how it was proved"))
		}
	}
	return c.result()
}
