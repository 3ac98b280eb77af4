package install

import (
	"encoding/json"
	"slices"
)

// Serves is what a circuit feeds beside its point: how much, of what kind, and
// where its cables lie, as far as that decides its protection.
type Serves struct {
	AreaM2  float64 `json:"areaM2" range:"0..2000" unit:"m²"`                                         // floor area that a socket circuit serves
	Outlets int     `json:"outlets" range:"0..200" unit:"outlets"`                                    // socket-outlets, luminaires or alarms on it
	PowerW  float64 `json:"powerW" range:"0..50000" unit:"W" zero:"or 0 when it is known by current"` // of all that is connected to it; 0 where it is known by current
	Spread  bool    `json:"spread"`                                                                   // the load lies evenly along the run, not at its end
	Socket  bool    `json:"socket"`                                                                   // a cooker's control unit holds a socket-outlet
	// Kind is the kind of load that decides the type of its residual-current
	// device; empty takes what is usual for the use.
	Kind      string `json:"kind" of:"loadKinds?"`
	Place     string `json:"place" of:"places?"`               // kind of place served, as the practice names it, where no box says it
	LeakMA    Fact   `json:"leakMA" range:"0..1000" unit:"mA"` // standing protective-conductor current; estimated while not known
	Concealed bool   `json:"concealed"`                        // in a wall or under a floor, shallow, without earthed metal or guards
	Bath      bool   `json:"bath"`                             // serves or passes through a room with a bath or shower
	Backfeed  bool   `json:"backfeed"`                         // power can flow back through its device
	// LossOfMains is the certificate or listing of what stops the source on it when the supply is gone; empty while nobody noted it.
	LossOfMains string `json:"lossOfMains" seal:"omitempty" chars:"120"`
	Spurs       []Spur `json:"spurs" most:"60"` // of a ring
	// Boxes are the places that its run comes to, each behind the one that feeds it. Back is that from which the run of a ring
	// returns to the board, empty where it does not.
	Boxes    []Box  `json:"boxes" most:"60"`
	Back     string `json:"back" seal:"omitempty" chars:"40"`
	Recessed Recess `json:"recessed"` // of a lighting circuit
	// Plugged: what it feeds plugs into an outlet, else it is wired in; nil when not yet
	// known.
	Plugged     *bool `json:"plugged" seal:"omitempty"`
	ThreeWire   bool  `json:"threeWire,omitempty" seal:"omitempty"` // of one that is there: its neutral is its ground too
	Motor       bool  `json:"motor" seal:"omitempty"`               // what it feeds is a motor
	Interlocked bool  `json:"interlocked" seal:"omitempty"`         // never runs together with the compressor that it helps
	RoomControl bool  `json:"roomControl" seal:"omitempty"`         // heating with a control of its own in each room
}

// Recess is how luminaires sit in a ceiling.
type Recess struct {
	Fitted bool `json:"fitted"` // there are recessed luminaires on the circuit
	// Fire: the ceiling keeps a fire from the room above it. Tested: the manufacturer
	// states that the luminaire or its hood was tested for that time in that kind of
	// ceiling; nil when not yet known.
	Fire   bool  `json:"fire"`
	Tested *bool `json:"tested"`
	// Covered: insulation lies over them. Coverable: they are marked for it.
	Covered   bool  `json:"covered"`
	Coverable *bool `json:"coverable"`
}

// Spur is a branch off a ring.
type Spur struct {
	Place   string  `json:"place" chars:"200"`
	LengthM float64 `json:"lengthM" range:"0.1..100" unit:"m"`
	Outlets int     `json:"outlets" range:"1..20" unit:"outlets"` // single or twin socket-outlets, each counted once
	Fused   bool    `json:"fused"`                                // through a fused connection unit
}

// Box is one place on the run of a circuit: an accessory, a luminaire, what is wired in, or a joint.
type Box struct {
	ID    string `json:"id" shape:"id"`
	Name  string `json:"name" chars:"80" needed:"yes"` // where it is, in words
	Place string `json:"place" of:"places?"`           // kind of place that decides its protection, as the practice names it
	// Tag is its number on the job, which the tags of its cables bear; 0 where it was given none. Room and Point are the ids of
	// the room of the walk and of the points there that it is one of; empty where it is none of them.
	Tag   int    `json:"tag" seal:"omitempty" range:"0..9999"`
	Room  string `json:"room" seal:"omitempty" chars:"40"`
	Point string `json:"point" seal:"omitempty" chars:"40"`
	// Device is a plain outlet, one with ground-fault protection of its own (gfci), one
	// without a ground slot (two-slot), a luminaire, a switch, an alarm, a fused connection unit, what is wired in, or none, where
	// conductors are only joined.
	Device BoxDevice `json:"device" of:"boxDevices"`
	// From is the id of the box that feeds it, empty for the board; Side the terminals
	// of that box's device that its pair leaves from, and Feed those of its own device
	// that the pair arrives at: line or load, empty while nobody has read the marking.
	From string `json:"from" chars:"40"`
	Side Side   `json:"side" of:"sides?"`
	Feed Side   `json:"feed" of:"sides?"`

	// Line is which of two lines that share a neutral feeds it; empty while nobody said. Through: the neutral of what lies behind passes
	// through its terminals and is not joined beside them; nil when nobody looked.
	Line    Line  `json:"line" seal:"omitempty" of:"boxLines?"`
	Through *bool `json:"through" seal:"omitempty"`

	// Accessible: a joint can be reached to be inspected and tested; nil when nobody said.
	Accessible *bool `json:"accessible" seal:"omitempty"`
	// Takes is how many conductors of its circuit one of its terminals takes, as its manufacturer states; 0 while nobody read it.
	Takes int `json:"takes" seal:"omitempty" range:"1..4" unit:"conductors" zero:"or 0 while nobody read it"`
	// Sealed: a joint is marked as maintenance-free by its manufacturer; nil when nobody looked.
	Sealed *bool `json:"sealed" seal:"omitempty"`

	RatingA   float64  `json:"ratingA" range:"0..60" unit:"A" zero:"or 0 without an outlet"` // of the outlet, or of the joint
	Single    bool     `json:"single" seal:"omitempty"`                                      // one outlet on its yoke, not two
	Ground    *bool    `json:"ground"`                                                       // an equipment grounding conductor is in the box; nil when not yet looked for
	Shuttered bool     `json:"shuttered"`
	Weather   bool     `json:"weather"`  // weather resistant, with its cover
	Replaces  bool     `json:"replaces"` // it replaces an outlet that was there
	Split     bool     `json:"split"`    // the tab between its halves is removed
	HeightMM  float64  `json:"heightMM" range:"0..4000" unit:"mm"`
	SinkMM    *float64 `json:"sinkMM" range:"0..10000" unit:"mm" zero:"or nothing"`           // to the edge of the nearest sink, tub or shower; nil when there is none near
	VolumeML  float64  `json:"volumeML" range:"0..5000" unit:"ml" zero:"or 0 when not known"` // of the box by its mark, 0 when not known
	Cables    int      `json:"cables" range:"0..8" unit:"cables"`                             // that enter it
	Yokes     int      `json:"yokes" range:"0..4" unit:"devices side by side"`                // devices side by side in it, 0 counts as one
	Clamps    bool     `json:"clamps"`                                                        // with clamps inside
}

// BoxDevices are what a box holds.
var BoxDevices = []BoxDevice{PlainOutlet, GroundFault, TwoSlot, NoDevice, Luminaire, Switch, Alarm, FusedUnit, WiredIn}

// BoxByID returns the box or nil.
func (s *Serves) BoxByID(id string) *Box {
	for i := range s.Boxes { // a box is large: it is looked at where it lies
		if s.Boxes[i].ID == id {
			return &s.Boxes[i]
		}
	}
	return nil
}

// LongestSpurM is the length in metres of the longest spur, 0 without one.
func (s *Serves) LongestSpurM() float64 {
	longest := 0.0
	for i := range s.Spurs {
		longest = max(longest, s.Spurs[i].LengthM)
	}
	return longest
}

// Group is a residual-current device at the board that several circuits share.
type Group struct {
	ID      string  `json:"id" chars:"40" needed:"yes"`
	Name    string  `json:"name" chars:"60" needed:"yes"`
	RCDType string  `json:"rcdType" of:"rcdTypes"`
	IdnMA   float64 `json:"idnMA" range:"6..500" unit:"mA"`
	RatingA float64 `json:"ratingA" range:"16..125" unit:"A"`
	Delayed bool    `json:"delayed"` // selective, type S
	Trips   Trips   `json:"trips" seal:"omitempty" of:"trips?"`
}

// Trips is how often a residual-current device that is there opens by itself, as those who live with it say.
type Trips string

// How often it opens; empty where nobody was asked.
const (
	TripsNever Trips = "never"
	TripsOften Trips = "often" // now and then, or more
)

// TripsOf lists them.
var TripsOf = []Trips{TripsNever, TripsOften}

// GroupByID returns the group or nil.
func (b *Board) GroupByID(id string) *Group {
	if i := slices.IndexFunc(b.Groups, func(g Group) bool { return g.ID == id }); i >= 0 && id != "" {
		return &b.Groups[i]
	}
	return nil
}

// SurgePlan is what decides on surge protection, and the devices.
type SurgePlan struct {
	Environment string `json:"environment" of:"environments?"`                            // rural, suburban, urban
	Flashes     Fact   `json:"flashes" range:"0.01..100" unit:"flashes per km² and year"` // to ground per km² and year
	// Lines that bring the supply, in km back from the origin: low-voltage
	// overhead and cable, high-voltage overhead and cable.
	OverheadLV   float64 `json:"overheadLV" range:"0..100" unit:"km"`
	CableLV      float64 `json:"cableLV" range:"0..100" unit:"km"`
	OverheadHV   float64 `json:"overheadHV" range:"0..100" unit:"km"`
	CableHV      float64 `json:"cableHV" range:"0..100" unit:"km"`
	UnknownRest  bool    `json:"unknownRest"`                    // the rest up to 1 km counts as low-voltage overhead
	Rod          bool    `json:"rod"`                            // the building has an external lightning protection system
	Exposed      bool    `json:"exposed"`                        // its overhead line is open to direct strikes
	Consequence  string  `json:"consequence" of:"consequences?"` // life, loss, other; empty when not asked yet
	OwnerAccepts string  `json:"ownerAccepts" chars:"120"`       // who declared the loss tolerable and accepted it
	Devices      []SPD   `json:"devices" most:"200"`
}

// SPD is one surge protective device.
type SPD struct {
	Name     string   `json:"name" chars:"80" needed:"yes"`
	Place    SPDPlace `json:"place" of:"spdPlaces"` // origin, board, load
	Type     string   `json:"type" of:"spdTypes"`   // 1, 1+2, 2, 3
	UpKV     float64  `json:"upKV" range:"0..6" unit:"kV" zero:"or 0 when not known"`
	UcV      float64  `json:"ucV" range:"0..1000" unit:"V" zero:"or 0 when not known"`
	LineM    float64  `json:"lineM" range:"0..500" unit:"m"`     // lead on the line side
	EarthM   float64  `json:"earthM" range:"0..500" unit:"m"`    // lead on the earth side
	LineMM2  float64  `json:"lineMM2" range:"0..95" unit:"mm²"`  // section of the line lead
	EarthMM2 float64  `json:"earthMM2" range:"0..95" unit:"mm²"` // section of the earth lead
	// BackupA is the largest fuse ahead that its manufacturer allows without a backup of its own; 0 not yet known.
	BackupA   float64 `json:"backupA" range:"0..1000" unit:"A" zero:"or 0 when not known"`
	IsccrKA   float64 `json:"isccrKA" range:"0..200" unit:"kA" zero:"or 0 when not known"`                       // short-circuit rating by its manufacturer; 0 not yet known
	Scheme    string  `json:"scheme" of:"spdSchemes?"`                                                           // CT1, CT2
	BehindRCD bool    `json:"behindRCD"`                                                                         // a residual-current device stands ahead of it
	ToLoadM   float64 `json:"toLoadM" range:"0..500" unit:"m"`                                                   // wiring to the farthest equipment that it is to protect
	FromM     float64 `json:"fromM" range:"0..500" unit:"m"`                                                     // wiring from the device ahead of it
	Matched   bool    `json:"matched"`                                                                           // its manufacturer declares it coordinated with the device ahead
	InKA      float64 `json:"inKA" seal:"omitempty" range:"0..200" unit:"kA" zero:"or 0 when not known"`         // nominal discharge current by its manufacturer; 0 not yet known
	BranchA   float64 `json:"branchA" seal:"omitempty" range:"0..200" unit:"A" zero:"or 0 behind the main fuse"` // of the device of its own branch, A; 0 where it hangs behind the main fuse
	// NeutralEarth: it has a path between neutral and earth; nil when not yet known.
	NeutralEarth *bool `json:"neutralEarth" seal:"omitempty"`
	// Circuit is the id of the circuit of the job that is its branch, whose device stands ahead of it; empty where it has none of its own.
	Circuit string `json:"circuit" seal:"omitempty" chars:"40"`
	// Kept: it was there and stays; the job buys and fits none.
	Kept bool `json:"kept" seal:"omitempty"`
}

// Words of a surge assessment.
var (
	Environments = []string{"rural", "suburban", "urban"}
	Consequences = []string{"life", "loss", "other"}
	SPDPlaces    = []string{"origin", "board", "load"}
	SPDTypes     = []string{"1", "1+2", "2", "3"}
	SPDSchemes   = []string{"CT1", "CT2"}
)

// Validate checks the surge assessment. The error is [Errors].
func (s SurgePlan) Validate() error {
	c := &checker{in: "surge."}
	c.bounds(s, &Terms{})
	return c.result()
}

// Standby is a source of the customer's own that takes over when the supply fails,
// and what it carries.
type Standby struct {
	Source    string  `json:"source" chars:"80"`                                               // what it is; empty when there is none
	Automatic bool    `json:"automatic"`                                                       // it transfers by itself
	SourceVA  float64 `json:"sourceVA" range:"0..500000" unit:"VA" zero:"or 0 when not known"` // what it can carry, VA
	SenseS    float64 `json:"senseS" range:"0..3600" unit:"s"`                                 // the supply is away so long before it starts, s
	CrankS    float64 `json:"crankS" range:"0..3600" unit:"s"`
	WarmS     float64 `json:"warmS" range:"0..3600" unit:"s"`
	SwitchS   float64 `json:"switchS" range:"0..3600" unit:"s"`
	ReturnS   float64 `json:"returnS" range:"0..3600" unit:"s"` // the supply is back so long before it gives over, s
	CoolS     float64 `json:"coolS" range:"0..3600" unit:"s"`   // it runs on so long without load, s
	Carries   []Carry `json:"carries" most:"60"`
}

// Carry is one load on a standby source.
type Carry struct {
	Name    string  `json:"name" chars:"80" needed:"yes"`
	RunVA   float64 `json:"runVA" range:"0..100000" unit:"VA"`
	StartVA float64 `json:"startVA" range:"0..200000" unit:"VA" zero:"or 0 without a motor"` // while a motor starts, 0 when it has none
	Shed    bool    `json:"shed"`                                                            // load management holds it back until there is room
	LegA    bool    `json:"legA"`                                                            // on leg A; on both when LegB is set too
	LegB    bool    `json:"legB"`
}

// Validate checks the standby source. The error is [Errors].
func (s Standby) Validate() error {
	c := &checker{in: "standby."}
	c.bounds(s, &Terms{})
	return c.result()
}

// Out is how another building that a distribution circuit feeds is earthed.
type Out struct {
	Building bool   `json:"building"`                // it feeds another building
	Choice   string `json:"choice" of:"outChoices?"` // export, electrode; empty when not decided
	Reason   string `json:"reason" chars:"2000"`
	// Metalwork: metal services or structure enter that building from the ground;
	// nil when not yet looked for.
	Metalwork *bool `json:"metalwork"`
	BondMM2   Fact  `json:"bondMM2" range:"1..120" unit:"mm²"` // of a bonding conductor run beside the cable, copper
	RaOhm     Fact  `json:"raOhm" range:"0.1..20000" unit:"Ω"` // of that building's own electrode
}

// OutChoices are the ways to earth another building.
var OutChoices = []string{"export", "electrode"}

// CPCKinds are what may serve as a protective conductor beside a core of the
// cable, which is the empty word.
var CPCKinds = []string{"armour", "separate"}

// Bench holds the calculations of the bench that were put into the job.
type Bench struct {
	Kept []KeptCalc `json:"kept" most:"200"`
}

// KeptCalc is a calculation with its inputs. Its result is computed anew whenever it
// is shown, so that it never outlives a correction.
type KeptCalc struct {
	Calc  string         `json:"calc" chars:"60" needed:"yes"` // as the practice names it
	Note  string         `json:"note" chars:"400"`
	Input map[string]any `json:"input"`
}

// Validate checks what was kept. The error is [Errors].
func (b Bench) Validate() error {
	c := &checker{in: "bench."}
	c.bounds(b, &Terms{})
	for i, k := range b.Kept {
		if raw, err := json.Marshal(k.Input); err != nil || len(raw) > 8192 {
			c.say(c.item("kept", i)+"input", len(raw), c.w.Say("inputs of at most 8192 characters"))
		}
	}
	return c.result()
}

// LocalRule is a figure that a company, an authority or an operator sets in place
// of the standard's.
type LocalRule struct {
	Rule   string  `json:"rule" chars:"80"` // as the practice names it
	Value  float64 `json:"value" range:"-1000000000..1000000000"`
	Reason string  `json:"reason" chars:"200" needed:"yes"` // whose rule, and where it is written
}

// RuleTerm is a figure for which a practice accepts a local rule.
type RuleTerm struct {
	ID    string  `json:"id"`
	Name  string  `json:"name"`
	Unit  string  `json:"unit"`
	Usual float64 `json:"usual"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Ref   string  `json:"ref"` // where the usual figure stands
}
