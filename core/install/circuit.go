package install

import (
	"encoding/json"
	"slices"
)

// Serves is what a circuit feeds beside its point: how much, of what kind, and
// where its cables lie, as far as that decides its protection.
type Serves struct {
	AreaM2  float64 `json:"areaM2"`  // floor area that a socket circuit serves
	Outlets int     `json:"outlets"` // socket-outlets, luminaires or alarms on it
	PowerW  float64 `json:"powerW"`  // of all that is connected to it; 0 where it is known by current
	Spread  bool    `json:"spread"`  // the load lies evenly along the run, not at its end
	Socket  bool    `json:"socket"`  // a cooker's control unit holds a socket-outlet
	// Kind is the kind of load that decides the type of its residual-current
	// device; empty takes what is usual for the use.
	Kind      string `json:"kind"`
	Place     string `json:"place"`     // kind of place served, as the practice names it, where no box says it
	LeakMA    Fact   `json:"leakMA"`    // standing protective-conductor current; estimated while not known
	Concealed bool   `json:"concealed"` // in a wall or under a floor, shallow, without earthed metal or guards
	Bath      bool   `json:"bath"`      // serves or passes through a room with a bath or shower
	Backfeed  bool   `json:"backfeed"`  // power can flow back through its device
	Spurs     []Spur `json:"spurs"`     // of a ring
	Boxes     []Box  `json:"boxes"`     // of a string, in order from the board
	Recessed  Recess `json:"recessed"`  // of a lighting circuit
	// Plugged: what it feeds plugs into an outlet, else it is wired in; nil when not yet
	// known.
	Plugged     *bool `json:"plugged" seal:"omitempty"`
	Motor       bool  `json:"motor" seal:"omitempty"`       // what it feeds is a motor
	Interlocked bool  `json:"interlocked" seal:"omitempty"` // never runs together with the compressor that it helps
	RoomControl bool  `json:"roomControl" seal:"omitempty"` // heating with a control of its own in each room
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
	Place   string  `json:"place"`
	LengthM float64 `json:"lengthM"`
	Outlets int     `json:"outlets"` // single or twin socket-outlets, each counted once
	Fused   bool    `json:"fused"`   // through a fused connection unit
}

// Box is one box of a string of outlets with the device in it.
type Box struct {
	ID    string `json:"id"`
	Name  string `json:"name"`  // where it is, in words
	Place string `json:"place"` // kind of place that decides its protection, as the practice names it
	// Device is a plain outlet, one with ground-fault protection of its own (gfci), one
	// without a ground slot (two-slot), or none, where conductors are only joined.
	Device BoxDevice `json:"device"`
	// From is the id of the box that feeds it, empty for the board; Side the terminals
	// of that box's device that its pair leaves from, and Feed those of its own device
	// that the pair arrives at: line or load, empty while nobody has read the marking.
	From string `json:"from"`
	Side Side   `json:"side"`
	Feed Side   `json:"feed"`

	RatingA   float64  `json:"ratingA"`                 // of the outlet
	Single    bool     `json:"single" seal:"omitempty"` // one outlet on its yoke, not two
	Ground    *bool    `json:"ground"`                  // an equipment grounding conductor is in the box; nil when not yet looked for
	Shuttered bool     `json:"shuttered"`
	Weather   bool     `json:"weather"`  // weather resistant, with its cover
	Replaces  bool     `json:"replaces"` // it replaces an outlet that was there
	Split     bool     `json:"split"`    // the tab between its halves is removed
	HeightMM  float64  `json:"heightMM"`
	SinkMM    *float64 `json:"sinkMM"`   // to the edge of the nearest sink, tub or shower; nil when there is none near
	VolumeML  float64  `json:"volumeML"` // of the box by its mark, 0 when not known
	Cables    int      `json:"cables"`   // that enter it
	Yokes     int      `json:"yokes"`    // devices side by side in it, 0 counts as one
	Clamps    bool     `json:"clamps"`   // with clamps inside
}

// BoxDevices are what a box holds.
var BoxDevices = []string{"plain", "gfci", "two-slot", "none"}

// BoxByID returns the box or nil.
func (s *Serves) BoxByID(id string) *Box {
	if i := slices.IndexFunc(s.Boxes, func(b Box) bool { return b.ID == id }); i >= 0 {
		return &s.Boxes[i]
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
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	RCDType string  `json:"rcdType"`
	IdnMA   float64 `json:"idnMA"`
	RatingA float64 `json:"ratingA"`
	Delayed bool    `json:"delayed"` // selective, type S
}

// GroupByID returns the group or nil.
func (b *Board) GroupByID(id string) *Group {
	if i := slices.IndexFunc(b.Groups, func(g Group) bool { return g.ID == id }); i >= 0 && id != "" {
		return &b.Groups[i]
	}
	return nil
}

// SurgePlan is what decides on surge protection, and the devices.
type SurgePlan struct {
	Environment string `json:"environment"` // rural, suburban, urban
	Flashes     Fact   `json:"flashes"`     // to ground per km² and year
	// Lines that bring the supply, in km back from the origin: low-voltage
	// overhead and cable, high-voltage overhead and cable.
	OverheadLV   float64 `json:"overheadLV"`
	CableLV      float64 `json:"cableLV"`
	OverheadHV   float64 `json:"overheadHV"`
	CableHV      float64 `json:"cableHV"`
	UnknownRest  bool    `json:"unknownRest"`  // the rest up to 1 km counts as low-voltage overhead
	Rod          bool    `json:"rod"`          // the building has an external lightning protection system
	Exposed      bool    `json:"exposed"`      // its overhead line is open to direct strikes
	Consequence  string  `json:"consequence"`  // life, loss, other; empty when not asked yet
	OwnerAccepts string  `json:"ownerAccepts"` // who declared the loss tolerable and accepted it
	Devices      []SPD   `json:"devices"`
}

// SPD is one surge protective device.
type SPD struct {
	Name     string   `json:"name"`
	Place    SPDPlace `json:"place"` // origin, board, load
	Type     string   `json:"type"`  // 1, 1+2, 2, 3
	UpKV     float64  `json:"upKV"`
	UcV      float64  `json:"ucV"`
	LineM    float64  `json:"lineM"`    // lead on the line side
	EarthM   float64  `json:"earthM"`   // lead on the earth side
	LineMM2  float64  `json:"lineMM2"`  // section of the line lead
	EarthMM2 float64  `json:"earthMM2"` // section of the earth lead
	// BackupA is the largest fuse ahead that its manufacturer allows without a backup of its own; 0 not yet known.
	BackupA   float64 `json:"backupA"`
	IsccrKA   float64 `json:"isccrKA"`                  // short-circuit rating by its manufacturer; 0 not yet known
	Scheme    string  `json:"scheme"`                   // CT1, CT2
	BehindRCD bool    `json:"behindRCD"`                // a residual-current device stands ahead of it
	ToLoadM   float64 `json:"toLoadM"`                  // wiring to the farthest equipment that it is to protect
	FromM     float64 `json:"fromM"`                    // wiring from the device ahead of it
	Matched   bool    `json:"matched"`                  // its manufacturer declares it coordinated with the device ahead
	InKA      float64 `json:"inKA" seal:"omitempty"`    // nominal discharge current by its manufacturer; 0 not yet known
	BranchA   float64 `json:"branchA" seal:"omitempty"` // of the device of its own branch, A; 0 where it hangs behind the main fuse
	// NeutralEarth: it has a path between neutral and earth; nil when not yet known.
	NeutralEarth *bool `json:"neutralEarth" seal:"omitempty"`
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
	c.oneOf("environment", s.Environment, append([]string{""}, Environments...))
	c.fact("flashes", s.Flashes, 0.01, 100, c.w.Say("flashes per km² and year"))
	for _, l := range []struct {
		key string
		km  float64
	}{{"overheadLV", s.OverheadLV}, {"cableLV", s.CableLV}, {"overheadHV", s.OverheadHV}, {"cableHV", s.CableHV}} {
		c.between(l.key, l.km, 0, 100, "km")
	}
	c.oneOf("consequence", s.Consequence, append([]string{""}, Consequences...))
	c.text("ownerAccepts", s.OwnerAccepts, 120)
	if len(s.Devices) > few {
		c.say("devices", len(s.Devices), c.w.Say("at most 200 devices"))
	}
	for i, d := range s.Devices {
		f := c.item("devices", i)
		c.needed(f+"name", d.Name, 80)
		c.oneOf(f+"place", string(d.Place), SPDPlaces)
		c.oneOf(f+"type", d.Type, SPDTypes)
		c.oneOf(f+"scheme", d.Scheme, append([]string{""}, SPDSchemes...))
		c.between(f+"upKV", d.UpKV, 0, 6, c.w.Say("kV, or 0 when not known"))
		c.between(f+"ucV", d.UcV, 0, 1000, c.w.Say("V, or 0 when not known"))
		for _, l := range []struct {
			key string
			m   float64
		}{{"lineM", d.LineM}, {"earthM", d.EarthM}, {"toLoadM", d.ToLoadM}, {"fromM", d.FromM}} {
			c.between(f+l.key, l.m, 0, 500, "m")
		}
		c.between(f+"lineMM2", d.LineMM2, 0, 95, "mm²")
		c.between(f+"earthMM2", d.EarthMM2, 0, 95, "mm²")
		c.between(f+"backupA", d.BackupA, 0, 1000, c.w.Say("A, or 0 when not known"))
		c.between(f+"isccrKA", d.IsccrKA, 0, 200, c.w.Say("kA, or 0 when not known"))
		c.between(f+"inKA", d.InKA, 0, 200, c.w.Say("kA, or 0 when not known"))
		c.between(f+"branchA", d.BranchA, 0, 200, c.w.Say("A, or 0 behind the main fuse"))
	}
	return c.result()
}

func (s Serves) validate(c *checker, t Terms) {
	c.between("serves.areaM2", s.AreaM2, 0, 2000, "m²")
	c.between("serves.outlets", float64(s.Outlets), 0, 200, "outlets")
	c.between("serves.powerW", s.PowerW, 0, 50000, c.w.Say("W, or 0 when it is known by current"))
	c.oneOf("serves.kind", s.Kind, append([]string{""}, t.LoadKinds...))
	c.oneOf("serves.place", s.Place, append([]string{""}, t.Places...))
	c.fact("serves.leakMA", s.LeakMA, 0, 1000, "mA")
	if len(s.Spurs) > 60 {
		c.say("serves.spurs", len(s.Spurs), c.w.Say("at most 60 spurs"))
	}
	s.validateBoxes(c, t)
	for i, x := range s.Spurs {
		f := c.item("serves.spurs", i)
		c.text(f+"place", x.Place, 200)
		c.between(f+"lengthM", x.LengthM, 0.1, 100, "m")
		c.between(f+"outlets", float64(x.Outlets), 1, 20, "outlets")
	}
}

// validateBoxes checks the boxes of a string: each once, fed from one before it.
func (s Serves) validateBoxes(c *checker, t Terms) {
	if len(s.Boxes) > 60 {
		c.say("serves.boxes", len(s.Boxes), c.w.Say("at most 60 boxes"))
	}
	seen := map[string]bool{}
	for i, b := range s.Boxes {
		f := c.item("serves.boxes", i)
		c.ident(f+"id", b.ID)
		if b.From != "" && !seen[b.From] {
			c.say(f+"from", b.From, c.w.Say("a box before it, or nothing for the board"))
		}
		if seen[b.ID] {
			c.say(f+"id", b.ID, c.w.Say("each box's id once"))
		}
		seen[b.ID] = true
		c.needed(f+"name", b.Name, 80)
		c.oneOf(f+"place", b.Place, append([]string{""}, t.Places...))
		c.oneOf(f+"device", string(b.Device), BoxDevices)
		c.oneOf(f+"side", string(b.Side), []string{"", "line", "load"})
		c.oneOf(f+"feed", string(b.Feed), []string{"", "line", "load"})
		c.between(f+"ratingA", b.RatingA, 0, 60, c.w.Say("A, or 0 without an outlet"))
		c.between(f+"heightMM", b.HeightMM, 0, 4000, "mm")
		if b.SinkMM != nil {
			c.between(f+"sinkMM", *b.SinkMM, 0, 10000, c.w.Say("mm, or nothing"))
		}
		c.between(f+"volumeML", b.VolumeML, 0, 5000, c.w.Say("ml, or 0 when not known"))
		c.between(f+"cables", float64(b.Cables), 0, 8, "cables")
		c.between(f+"yokes", float64(b.Yokes), 0, 4, c.w.Say("devices side by side"))
	}
}

// Standby is a source of the customer's own that takes over when the supply fails,
// and what it carries.
type Standby struct {
	Source    string  `json:"source"`    // what it is; empty when there is none
	Automatic bool    `json:"automatic"` // it transfers by itself
	SourceVA  float64 `json:"sourceVA"`  // what it can carry, VA
	SenseS    float64 `json:"senseS"`    // the supply is away so long before it starts, s
	CrankS    float64 `json:"crankS"`
	WarmS     float64 `json:"warmS"`
	SwitchS   float64 `json:"switchS"`
	ReturnS   float64 `json:"returnS"` // the supply is back so long before it gives over, s
	CoolS     float64 `json:"coolS"`   // it runs on so long without load, s
	Carries   []Carry `json:"carries"`
}

// Carry is one load on a standby source.
type Carry struct {
	Name    string  `json:"name"`
	RunVA   float64 `json:"runVA"`
	StartVA float64 `json:"startVA"` // while a motor starts, 0 when it has none
	Shed    bool    `json:"shed"`    // load management holds it back until there is room
	LegA    bool    `json:"legA"`    // on leg A; on both when LegB is set too
	LegB    bool    `json:"legB"`
}

// Validate checks the standby source. The error is [Errors].
func (s Standby) Validate() error {
	c := &checker{in: "standby."}
	c.text("source", s.Source, 80)
	c.between("sourceVA", s.SourceVA, 0, 500000, c.w.Say("VA, or 0 when not known"))
	for _, x := range []struct {
		key string
		s   float64
	}{{"senseS", s.SenseS}, {"crankS", s.CrankS}, {"warmS", s.WarmS}, {"switchS", s.SwitchS}, {"returnS", s.ReturnS}, {"coolS", s.CoolS}} {
		c.between(x.key, x.s, 0, 3600, "s")
	}
	if len(s.Carries) > 60 {
		c.say("carries", len(s.Carries), c.w.Say("at most 60 loads"))
	}
	for i, l := range s.Carries {
		f := c.item("carries", i)
		c.needed(f+"name", l.Name, 80)
		c.between(f+"runVA", l.RunVA, 0, 100000, "VA")
		c.between(f+"startVA", l.StartVA, 0, 200000, c.w.Say("VA, or 0 without a motor"))
	}
	return c.result()
}

// Out is how another building that a distribution circuit feeds is earthed.
type Out struct {
	Building bool   `json:"building"` // it feeds another building
	Choice   string `json:"choice"`   // export, electrode; empty when not decided
	Reason   string `json:"reason"`
	// Metalwork: metal services or structure enter that building from the ground;
	// nil when not yet looked for.
	Metalwork *bool `json:"metalwork"`
	BondMM2   Fact  `json:"bondMM2"` // of a bonding conductor run beside the cable, copper
	RaOhm     Fact  `json:"raOhm"`   // of that building's own electrode
}

// OutChoices are the ways to earth another building.
var OutChoices = []string{"export", "electrode"}

// CPCKinds are what may serve as a protective conductor beside a core of the
// cable, which is the empty word.
var CPCKinds = []string{"armour", "separate"}

// Bench holds the calculations of the bench that were put into the job.
type Bench struct {
	Kept []KeptCalc `json:"kept"`
}

// KeptCalc is a calculation with its inputs. Its result is computed anew whenever it
// is shown, so that it never outlives a correction.
type KeptCalc struct {
	Calc  string         `json:"calc"` // as the practice names it
	Note  string         `json:"note"`
	Input map[string]any `json:"input"`
}

// Validate checks what was kept. The error is [Errors].
func (b Bench) Validate() error {
	c := &checker{in: "bench."}
	if len(b.Kept) > few {
		c.say("kept", len(b.Kept), c.w.Say("at most 200 calculations"))
	}
	for i, k := range b.Kept {
		f := c.item("kept", i)
		c.needed(f+"calc", k.Calc, 60)
		c.text(f+"note", k.Note, 400)
		if raw, err := json.Marshal(k.Input); err != nil || len(raw) > 8192 {
			c.say(f+"input", len(raw), c.w.Say("inputs of at most 8192 characters"))
		}
	}
	return c.result()
}

// LocalRule is a figure that a company, an authority or an operator sets in place
// of the standard's.
type LocalRule struct {
	Rule   string  `json:"rule"` // as the practice names it
	Value  float64 `json:"value"`
	Reason string  `json:"reason"` // whose rule, and where it is written
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
