// Package install is the installation model: what a job is made of.
//
// A job is one value, [Job], entered once on the survey walk. Everything else
// (demand, checks, take-off, tasks, expected readings, readiness, paper) is
// computed from it and never stored beside it. It has two halves:
//
//   - parts, facts and decisions that people edit (site, supply, board, loads,
//     each circuit, materials, plan); a later edit replaces an earlier one;
//   - records, things that happened (isolations, readings, ticks, signatures);
//     they are only ever added, and corrected by one that supersedes.
//
// The package knows no rulebook: it holds what is true of any installation.
package install

import (
	"crypto/ed25519"
	"slices"
	"strings"
	"time"

	"arvelt/core/words"
)

// Format names the version of the open job file.
const Format = "arvelt-job/1"

// Kind is the kind of job.
type Kind string

// The kinds of job.
const (
	Rewire        Kind = "rewire"
	SupplyUpgrade Kind = "supply-upgrade"
	Surge         Kind = "surge-protection"
	EVCharger     Kind = "ev-charger"
	BoardChange   Kind = "board-change" // another board or other devices for circuits that stay
	Addition      Kind = "addition"     // a circuit added, or one altered
	Repair        Kind = "repair"       // something repaired, or replaced by its like
	Inspection    Kind = "inspection"   // what is there looked at and tested, and a report of it: no work
)

// JobKinds lists them.
var JobKinds = []Kind{Rewire, SupplyUpgrade, Surge, EVCharger, BoardChange, Addition, Repair, Inspection}

// KindTrait is what a kind of job is about, and so what its survey has to find out.
type KindTrait struct {
	Walk    bool `json:"walk"`    // the rooms and their points
	Service bool `json:"service"` // the supply arrangement is made anew
	Board   bool `json:"board"`   // the ways of the board
	Load    bool `json:"load"`    // what is drawn: the job adds to it
	Origin  bool `json:"origin"`  // it rests on the supply and its earthing and bonding, which have to be adequate
	Extent  bool `json:"extent"`  // less than the installation: how far it goes, and what was not looked at, is agreed and printed
	Intake  bool `json:"intake"`  // the board or what feeds it is worked on: the supply goes off ahead of it, by a lawful way
	Report  bool `json:"report"`  // what fails is answered by a finding, and nothing is put in, ordered or mended
	// Circuit is what it does to a circuit, where nobody says otherwise.
	Circuit CircuitState `json:"circuit" of:"circuitStates?"`
}

// KindTraits are those of each kind.
var KindTraits = map[Kind]KindTrait{
	Rewire:        {Walk: true, Board: true, Load: true, Origin: true, Intake: true},
	SupplyUpgrade: {Service: true, Board: true, Load: true, Origin: true, Intake: true},
	Surge:         {Board: true, Origin: true, Extent: true},
	EVCharger:     {Board: true, Load: true, Origin: true},
	BoardChange:   {Board: true, Origin: true, Extent: true, Intake: true, Circuit: AlteredCircuit},
	Addition:      {Board: true, Load: true, Origin: true, Extent: true},
	Repair:        {Extent: true, Circuit: KeptCircuit},
	Inspection:    {Origin: true, Extent: true, Report: true, Circuit: InspectedCircuit},
}

// Trait is what the kind of the job is about.
func (j *Job) Trait() KindTrait { return KindTraits[j.Kind] }

// Stage is where a job stands. Everywhere in this order and these words.
type Stage string

// The stages of a job, in order.
const (
	Survey    Stage = "survey"
	Design    Stage = "design"
	Order     Stage = "order"
	FirstFix  Stage = "first fix"
	SecondFix Stage = "second fix"
	Test      Stage = "test"
	Handover  Stage = "handover"
	Aftercare Stage = "aftercare"
)

// Stages lists them in order.
var Stages = []Stage{Survey, Design, Order, FirstFix, SecondFix, Test, Handover, Aftercare}

// Basis says where a figure came from. The empty basis is treated as assumed.
type Basis string

// How a figure came to be known.
const (
	Measured Basis = "measured"
	Enquiry  Basis = "enquiry"
	Assumed  Basis = "assumed"
)

// Fact is a figure with its basis. A nil Value is not yet known.
type Fact struct {
	Value *float64 `json:"value"`
	Basis Basis    `json:"basis"`
	Note  string   `json:"note" chars:"400"`
}

// Known reports whether there is a value.
func (f Fact) Known() bool { return f.Value != nil }

// Confirmed reports whether the value was measured or given by enquiry.
func (f Fact) Confirmed() bool { return f.Value != nil && (f.Basis == Measured || f.Basis == Enquiry) }

// V returns the value, 0 when unknown.
func (f Fact) V() float64 {
	if f.Value == nil {
		return 0
	}
	return *f.Value
}

// Job is one job whole, as computed from and as written to the job file.
type Job struct {
	Format   string `json:"format"`
	Ref      string `json:"ref"`
	Title    string `json:"title"`
	Kind     Kind   `json:"kind"`
	Practice string `json:"practice"`
	// SealedPractice is the practice by its name of before, where it was carried over.
	SealedPractice string `json:"-"`
	// Words say what is composed of the job; nil for British English.
	Words *words.Catalogue `json:"-"`
	Rules
	Site      Site      `json:"site"`
	Supply    Supply    `json:"supply"`
	Board     Board     `json:"board"`                   // the main one
	Boards    []Board   `json:"boards" seal:"omitempty"` // the further ones
	Loads     Loads     `json:"loads"`
	Circuits  []Circuit `json:"circuits"`
	Rooms     []Room    `json:"rooms"`
	Found     Found     `json:"found"`
	Chain     Chain     `json:"chain"`
	Outage    Outage    `json:"outage"`
	Outdoor   Outdoor   `json:"outdoor"`
	Surge     SurgePlan `json:"surge"`
	Standby   Standby   `json:"standby"`
	Bench     Bench     `json:"bench"`
	Materials Materials `json:"materials"`
	Plan      Plan      `json:"plan"`
	Quote     Quote     `json:"quote" seal:"omitempty"`
	Purchases Purchases `json:"purchases" seal:"omitempty"`
	Schools   Schools   `json:"schools"`
	Records   []Record  `json:"records"`
	Seals     []Seal    `json:"seals"`

	// Imported is set where the job came in as a file; nothing of the job itself.
	Imported *Imported `json:"-"`
	// SealedBy is the public key (Ed25519) by which the company that has the job is known; nil where it has none.
	SealedBy ed25519.PublicKey `json:"-"`
}

// Site is where the work is and for whom.
type Site struct {
	Customer string `json:"customer" chars:"120" needed:"yes"`
	Phone    string `json:"phone" chars:"60"`
	Email    string `json:"email" chars:"120"`
	Address  string `json:"address" chars:"240" needed:"yes"`
	Town     string `json:"town" chars:"120"`
	Premises string `json:"premises" of:"premises?"` // one of [Premises]; empty when not asked
	Access   string `json:"access" chars:"2000"`
	Hazards  string `json:"hazards" chars:"2000"`
	// Extent is what the work and its papers cover, Limits what was not looked into and why,
	// Others what is left to other trades or to the owner.
	Extent string `json:"extent" seal:"omitempty" chars:"2000"`
	Limits string `json:"limits" seal:"omitempty" chars:"2000"`
	Others string `json:"others" seal:"omitempty" chars:"2000"`
}

// Premises are the kinds of premises that rules tell apart: one household or
// several, and those in whom many people or people in care live.
var Premises = []string{"owner-occupied", "rented", "several-households", "student", "care", "higher-risk"}

// Supply is the incoming supply as found.
type Supply struct {
	Earthing Earthing `json:"earthing" of:"earthing?"` // TN-S, TN-C-S, TT; empty when not yet seen
	// EarthingBy says how the arrangement is known: only the operator knows whether
	// its network combines neutral and earth somewhere.
	EarthingBy   Basis   `json:"earthingBy" seal:"omitempty"`
	DeclaredV    float64 `json:"declaredV" range:"100..400" unit:"V"`
	ZeOhm        Fact    `json:"zeOhm" range:"0.01..2000" unit:"Ω"` // external loop impedance; on TT without the installation's electrode
	PFCkA        Fact    `json:"pfcKA" range:"0.01..50" unit:"kA"`  // prospective fault current at the origin, kA
	MainFuseA    Fact    `json:"mainFuseA" range:"5..200" unit:"A"`
	MainFuseType string  `json:"mainFuseType" chars:"60"`
	TailsMM2     Fact    `json:"tailsMM2" range:"4..120" unit:"mm²"`
	TailsM       Fact    `json:"tailsM" range:"0.1..30" unit:"m"`
	EarthMM2     Fact    `json:"earthMM2" range:"1..120" unit:"mm²"` // main earthing conductor
	// EarthTo is the electrode that the earthing conductor runs to and EarthLaid how it
	// lies, as the practice names them; empty while nobody has looked.
	EarthTo      string `json:"earthTo" seal:"omitempty" of:"earthTo?"`
	EarthLaid    string `json:"earthLaid" seal:"omitempty" of:"earthLaid?"`
	NeutralMM2   Fact   `json:"neutralMM2" range:"4..300" unit:"mm²"` // operator's neutral, for bonding on TN-C-S
	ElectrodeOhm Fact   `json:"electrodeOhm" range:"0.1..20000" unit:"Ω"`
	Bonds        []Bond `json:"bonds" most:"20"`
	NoExtraneous bool   `json:"noExtraneous"` // looked for, and nothing needs main bonding
	// Intersystem: there is a place where telephone, antenna and the like are bonded to
	// the same earth; nil when not yet looked for.
	Intersystem *bool  `json:"intersystem"`
	Operator    string `json:"operator" chars:"120"`
	Number      string `json:"number" chars:"60"`      // the unique number of the supply, not the meter's
	MeterSerial string `json:"meterSerial" chars:"60"` // changes with the meter
	Registered  string `json:"registered" chars:"240"` // address that the operator holds for the number
	Condition   string `json:"condition" chars:"2000"`
	// Meter is what was noted as the meter was put back or exchanged; MeterSerial stays that of the one that was found.
	Meter MeterSet `json:"meter" seal:"omitempty"`
}

// MeterSet is what is noted as a meter is set: its reading as it came out and as it went in, its seal, and its serial where it is another.
type MeterSet struct {
	On      string `json:"on" shape:"date"`
	Serial  string `json:"serial" chars:"60"` // empty where the same one was put back
	Out     string `json:"out" chars:"40"`    // reading of the one that came out, as on its face
	Reading string `json:"reading" chars:"40"`
	Seal    string `json:"seal" chars:"40"`
}

// Noted reports whether all is noted that must be.
func (m *MeterSet) Noted() bool {
	return m.On != "" && strings.TrimSpace(m.Reading) != "" && strings.TrimSpace(m.Seal) != ""
}

// Bond is one main bonding conductor to an extraneous-conductive-part.
type Bond struct {
	Service string `json:"service" chars:"60" needed:"yes"`
	// Kind is what is bonded, as the practice names it, where that decides the rule;
	// empty while nobody has looked.
	Kind string `json:"kind" seal:"omitempty" of:"bondKinds?"`
	MM2  Fact   `json:"mm2" range:"1..120" unit:"mm²"`
	// CircuitA is the rating of the circuit that may make a pipe live, A; 0 when not
	// known.
	CircuitA float64 `json:"circuitA" seal:"omitempty" range:"0..400" unit:"A" zero:"or 0 when not known"`
	// Around: a jumper crosses what interrupts the pipe, such as a meter or a filter;
	// nil when not yet looked at.
	Around *bool `json:"around"`
	// New: the job makes it; LengthM is how long its conductor is then.
	New     bool `json:"new" seal:"omitempty"`
	LengthM Fact `json:"lengthM" seal:"omitempty" range:"0.1..200" unit:"m"`
}

// WorkSpace is the room in front of a board. A 0 is not yet measured.
type WorkSpace struct {
	DepthMM  float64 `json:"depthMM" range:"0..10000" unit:"mm" zero:"or 0 when not measured"`
	WidthMM  float64 `json:"widthMM" range:"0..10000" unit:"mm" zero:"or 0 when not measured"`
	HeightMM float64 `json:"heightMM" range:"0..10000" unit:"mm" zero:"or 0 when not measured"`
	BoardMM  float64 `json:"boardMM" range:"0..10000" unit:"mm" zero:"or 0 when not measured"`  // width of the board itself
	TopMM    float64 `json:"topMM" range:"0..10000" unit:"mm" zero:"or 0 when not measured"`    // of the board above the floor
	HandleMM float64 `json:"handleMM" range:"0..10000" unit:"mm" zero:"or 0 when not measured"` // of the highest device above the floor
	Door90   *bool   `json:"door90"`                                                            // its door opens by 90°
}

// Measured reports whether every figure is there.
func (w WorkSpace) Measured() bool {
	return min(w.DepthMM, w.WidthMM, w.HeightMM, w.BoardMM, w.TopMM, w.HandleMM) > 0 && w.Door90 != nil
}

// Way is one position on the board. A way with neither device nor circuit is
// free; Blank says whether its opening is closed.
type Way struct {
	No      int    `json:"no" range:"1..60"`
	Label   string `json:"label" chars:"60"`
	Device  string `json:"device" chars:"60"`
	Circuit string `json:"circuit" chars:"40"` // id of the circuit of this job that takes it
	Blank   bool   `json:"blank"`
	// Halves: by the manufacturer's list it takes two half-size devices.
	Halves bool `json:"halves" seal:"omitempty"`
	// Poles of the device on it; one with two also takes the way that the practice
	// puts its second pole on. 0 counts as one.
	Poles int `json:"poles" range:"0..4" unit:"poles"`
	// LoadA is the current of what is there at its peak, measured or calculated, in
	// amperes; 0 when not known.
	LoadA float64 `json:"loadA" range:"0..400" unit:"A" zero:"or 0 when not known"`
}

// Free reports whether nothing occupies the way.
func (w Way) Free() bool { return w.Label == "" && w.Device == "" && w.Circuit == "" }

// Load is one item of the existing load, in amperes or watts.
type Load struct {
	Name         string   `json:"name" chars:"80" needed:"yes"`
	Category     string   `json:"category" of:"categories"`
	Watts        *float64 `json:"watts" range:"1..50000" unit:"W"`
	Amps         *float64 `json:"amps" range:"0.01..200" unit:"A"`
	Count        int      `json:"count" range:"1..100" unit:"pieces"`
	SocketInUnit bool     `json:"socketInUnit"`
	Volts        float64  `json:"volts" seal:"omitempty" range:"0..400" unit:"V" zero:"or 0 when not known"` // at which it works, 0 when not known
	Motor        bool     `json:"motor" seal:"omitempty"`                                                    // what draws it is a motor
	// Interlocked: it never runs together with the compressor that it helps.
	Interlocked bool `json:"interlocked" seal:"omitempty"`
	// RoomControl: heating with a control of its own in each room.
	RoomControl bool  `json:"roomControl" seal:"omitempty"`
	Basis       Basis `json:"basis"`
}

// Loads is the existing load: as an inventory, by the floor area where a practice
// takes lighting and receptacles by it, and as its recorded peak.
type Loads struct {
	Items  []Load `json:"items" most:"200"`
	AreaM2 Fact   `json:"areaM2" range:"1..5000" unit:"m²"` // of all habitable floors
	// PeakKVA is the largest 15 minute average of a record of PeakDays days, kVA.
	PeakKVA  Fact    `json:"peakKVA" range:"0.1..500" unit:"kVA"`
	PeakDays float64 `json:"peakDays" range:"0..1000" unit:"days"`
	// BasementM2 is the part that lies in a basement, where the practice counts it apart.
	BasementM2 Fact `json:"basementM2" seal:"omitempty" range:"0..5000" unit:"m²"`
	// SeasonFactor raises the peak of a short record to that of the heaviest season, 0
	// when nobody has worked it out. Generation: a source of the owner's or peak shaving
	// ran behind the meter while it was recorded; nil when not asked.
	SeasonFactor float64 `json:"seasonFactor" seal:"omitempty" range:"1..10" zero:"or 0 when not worked out"`
	Generation   *bool   `json:"generation" seal:"omitempty"`
}

// Circuit is one circuit of the job: a final circuit, or a distribution circuit to
// another board.
type Circuit struct {
	ID   string `json:"id" shape:"id"`
	Name string `json:"name" chars:"80" needed:"yes"`
	Use  Use    `json:"use" of:"uses"` // as the practice names it: ring, lighting, ev …
	// From is the id of the distribution circuit that feeds its board, or of a board that the supply arrangement feeds; empty at the
	// main board.
	From string `json:"from" chars:"40"`
	// State is what the job does to it; empty where it makes it.
	State CircuitState `json:"state" seal:"omitempty" of:"circuitStates?"`
	// Seen: somebody looked at what it leaves, cable and device, and they are as recorded here; of one that the job makes nothing.
	Seen       bool       `json:"seen" seal:"omitempty"`
	Serves     Serves     `json:"serves"`
	Point      Point      `json:"point"`
	Route      Route      `json:"route"`
	Protection Protection `json:"protection"`
	PEN        PEN        `json:"pen"`
	Out        Out        `json:"out"`
}

// Point is what the circuit feeds.
type Point struct {
	Place        string  `json:"place" chars:"200"`
	Outdoor      bool    `json:"outdoor"`
	ServesOut    bool    `json:"servesOutdoors"` // vehicle stands outdoors though the point is indoors
	CurrentA     float64 `json:"currentA" range:"0..125" unit:"A"`
	LimitA       float64 `json:"limitA" range:"6..100" unit:"A" zero:"or 0 for none"`                          // charging current set lower in the point, 0 when not
	MaxDeviceA   float64 `json:"maxDeviceA" range:"5..400" unit:"A" zero:"or 0 when the nameplate names none"` // largest device that the nameplate allows ahead of it, 0 when it names none
	ManagedA     float64 `json:"managedA" range:"6..200" unit:"A" zero:"or 0 for none"`                        // load management: limit of the whole supply, 0 when none
	DCDetection  *bool   `json:"dcDetection"`                                                                  // 6 mA direct-current detection in the point; nil when not yet known
	HeightMM     float64 `json:"heightMM" range:"0..3000" unit:"mm"`                                           // of the socket or lead outlet above ground
	Manufacturer string  `json:"manufacturer" chars:"120"`                                                     // invented brands only in the demo
}

// DesignA returns the design current in amperes: the set limit where there is one.
func (p Point) DesignA() float64 {
	if p.LimitA > 0 && p.LimitA < p.CurrentA {
		return p.LimitA
	}
	return p.CurrentA
}

// Route is the cable and the way it takes.
type Route struct {
	CableType   string    `json:"cableType" of:"cables"`
	LineMM2     float64   `json:"lineMM2" range:"0..1000" unit:"mm²"`
	Terminals90 bool      `json:"terminals90"` // manufacturers confirm terminals for the hotter column of the practice
	Segments    []Segment `json:"segments" most:"60"`
	SlackM      float64   `json:"slackM" range:"0..20" unit:"m"`     // spare loop left on the route
	BoardTailM  float64   `json:"boardTailM" range:"0..10" unit:"m"` // inside and below the board
	PointTailM  float64   `json:"pointTailM" range:"0..10" unit:"m"`
	Aluminium   bool      `json:"aluminium"` // conductors of aluminium; else copper
	// Marks are those of other services where the route lies in the ground, or an electrode of the circuit does.
	Marks Marks `json:"marks" seal:"omitempty"`
	// CPC is the protective conductor: a core of the cable (empty), its armour, or a
	// separate copper conductor beside it of CPCMM2.
	CPC    CPC     `json:"cpc" of:"cpcKinds?"`
	CPCMM2 float64 `json:"cpcMM2" range:"0..120" unit:"mm²" zero:"or 0 without a separate conductor"`
	// CPCGuarded: a separate protective conductor is protected against damage; nil when
	// not yet known.
	CPCGuarded *bool `json:"cpcGuarded" seal:"omitempty"`
	// What only the manufacturer of the cable knows: the armour's section in mm² and
	// resistance at 20 °C in mΩ/m, and for aluminium the tabulated rating in A for
	// the method and the drop in mV/A/m.
	ArmourMM2   Fact `json:"armourMM2" range:"1..500" unit:"mm²"`
	ArmourMOhmM Fact `json:"armourMOhmM" range:"0.01..100" unit:"mΩ/m"`
	MakerA      Fact `json:"makerA" range:"1..500" unit:"A"`
	MakerMV     Fact `json:"makerMV" range:"0.05..100" unit:"mV/A/m"`
}

// LengthM returns metres of cable electrically: segments, slack and both tails.
func (r Route) LengthM() float64 {
	l := r.SlackM + r.BoardTailM + r.PointTailM
	for _, s := range r.Segments {
		l += s.LengthM
	}
	return l
}

// Segment is one stretch of the route under one set of conditions.
type Segment struct {
	Place   string  `json:"place" chars:"200"`
	LengthM float64 `json:"lengthM" range:"0.1..500" unit:"m"`
	Basis   Basis   `json:"basis"`
	// To is the box that the stretch leads to, or [BackLeg]; empty on the way to the first.
	To           string  `json:"to" seal:"omitempty" chars:"40"`
	Method       Method  `json:"method" chars:"80"` // installation method as the practice names it
	AmbientC     float64 `json:"ambientC" range:"5..60" unit:"°C"`
	Grouped      int     `json:"grouped" range:"1..20" unit:"circuits"` // circuits together, this one included; 1 is alone
	InsulationMM float64 `json:"insulationMM" range:"0..20000" unit:"mm"`
	Vertical     bool    `json:"vertical"`
	DepthMM      float64 `json:"depthMM" range:"0..2000" unit:"mm"`                              // of cover, buried segments
	SoilKmW      float64 `json:"soilKmW" range:"0.5..3" unit:"K·m/W" zero:"or 0 when not known"` // soil thermal resistivity, buried segments, 0 when not known
	Duct         *bool   `json:"duct" seal:"omitempty"`                                          // buried in a duct, else directly; nil when not yet known
	Surface      string  `json:"surface" seal:"omitempty" of:"coverPlaces?"`                     // what lies above a buried segment, as the practice asks for cover by it
}

// Protection is the device at the board.
type Protection struct {
	Family  string  `json:"family" of:"families"` // mcb_rcbo
	Curve   string  `json:"curve" of:"curves"`
	RatingA float64 `json:"ratingA" range:"0..2000" unit:"A"`
	IcnKA   float64 `json:"icnKA" range:"1..50" unit:"kA"`
	RCDType string  `json:"rcdType" of:"rcdTypes?"` // AC, A, F, B; empty when none
	IdnMA   float64 `json:"idnMA" range:"0..500" unit:"mA"`
	Way     int     `json:"way" range:"0..60"` // 0 when not placed
	// Half is that of the way on which a half-size device stands; empty for a device of full size.
	Half Half `json:"half" seal:"omitempty" of:"halves?"`
	// OwnEnclosure: the device stands in an enclosure of its own beside the
	// board, fed from the tails; it then takes no way.
	OwnEnclosure bool `json:"ownEnclosure"`
	Poles        int  `json:"poles" range:"1..4" unit:"poles"`
	// Group is the residual-current device that it shares; empty with one of its
	// own or none.
	Group    string `json:"group" chars:"40"`
	Delayed  bool   `json:"delayed"`  // its residual-current device is selective, type S
	ArcFault bool   `json:"arcFault"` // with arc-fault detection
	// Trips is how often the residual-current device opens by itself.
	Trips Trips `json:"trips" seal:"omitempty" of:"trips?"`
	// BothWays: the manufacturer states that it works with power from either side; nil
	// when not yet known.
	BothWays *bool `json:"bothWays"`
	// CascadeKA is what the manufacturer states it breaks together with the device
	// ahead of it, kA; 0 when no statement is at hand.
	CascadeKA float64 `json:"cascadeKA" range:"0..100" unit:"kA" zero:"or 0 without the manufacturer's statement"`
	// LetThroughA2S is the energy that it lets through at the fault current of the
	// circuit, A²s, from its manufacturer's instructions.
	LetThroughA2S Fact `json:"letThroughA2S" range:"1..10000000" unit:"A²s"`
	// Shared: its two lines share one neutral.
	Shared SharedNeutral `json:"shared" seal:"omitempty"`
	// EnergyClass is the energy limiting class marked on a breaker, 1 to 3; 0 when it
	// was not read.
	EnergyClass int `json:"energyClass" seal:"omitempty" range:"0..3" zero:"the class in the square mark, or 0 when not read"`
}

// PEN is the decision on what protects against a broken combined
// neutral-earth conductor outdoors on TN-C-S.
type PEN struct {
	Option      BrokenPEN `json:"option" of:"penOptions?"` // empty when not decided
	Reason      string    `json:"reason" chars:"2000"`
	OpensAll    *bool     `json:"opensAll"` // manufacturer states that it opens line, neutral and protective conductor
	RaOhm       Fact      `json:"raOhm" range:"0.1..20000" unit:"Ω"`
	SeparationM Fact      `json:"separationM" range:"0..200" unit:"m"`
	RodLengthM  float64   `json:"rodLengthM" range:"0..10" unit:"m"`
	Rods        int       `json:"rods" range:"0..10" unit:"rods"`
	SoilOhmM    Fact      `json:"soilOhmM" range:"1..20000" unit:"Ωm"`
}

// Plan is what people decided over the generated tasks.
type Plan struct {
	StartDate string              `json:"startDate" shape:"date"` // 2006-01-02, empty when not set
	Tasks     map[string]TaskEdit `json:"tasks" most:"5000"`
	// Later is what is to come after the job: what it leaves is held against it now.
	Later []Later `json:"later" most:"20" seal:"omitempty"`
	// Trades is the work of others in the house: what waits for them, and what they wait for.
	Trades []Trade `json:"trades" most:"60" seal:"omitempty"`
}

// Later is a change that is planned for after the job.
type Later struct {
	ID      string    `json:"id" shape:"id"`
	Kind    LaterKind `json:"kind" of:"laterKinds"`
	Room    string    `json:"room" chars:"40"`    // where it will be, or the room that changes
	Becomes string    `json:"becomes" chars:"40"` // kind of room that it becomes
	Board   string    `json:"board" chars:"40"`   // that it will hang on; empty for the main one
	PowerW  float64   `json:"powerW" range:"0..50000" unit:"W" zero:"or 0 when not known"`
	From    string    `json:"from" shape:"date"` // when it may come, empty when nobody said
	Note    string    `json:"note" chars:"400"`
	Visit   string    `json:"visit" chars:"60"` // reference of the job that was made for it
}

// LaterKind is what may come later.
type LaterKind string

// What may come.
const (
	LaterCharger LaterKind = "charger"
	LaterSolar   LaterKind = "solar"
	LaterBattery LaterKind = "battery"
	LaterRoom    LaterKind = "room" // a room becomes one of another kind
)

// LaterKinds lists them, LaterNames what they are called, each a message.
var (
	LaterKinds = []LaterKind{LaterCharger, LaterSolar, LaterBattery, LaterRoom}
	LaterNames = map[LaterKind]words.Key{LaterCharger: words.Key("Charge point"), LaterSolar: words.Key("Solar generation"),
		LaterBattery: words.Key("Battery storage"), LaterRoom: words.Key("A room becomes another")}
)

// TaskEdit overrides a generated task.
type TaskEdit struct {
	Crew  int     `json:"crew" range:"0..10" unit:"people"`
	Hours float64 `json:"hours" range:"0..200" unit:"h"`
	Who   string  `json:"who" chars:"120"`
	// Day is when it is done, empty while that is not planned.
	Day string `json:"day" seal:"omitempty" shape:"date"`
	// AtHeight is whether it is work at height where the model says otherwise, or nothing; StandBy is who of the crew stands by on the ground.
	AtHeight HeightMark `json:"atHeight" seal:"omitempty" of:"heightMarks?"`
	StandBy  string     `json:"standBy" seal:"omitempty" chars:"120"`
}

// HeightMark is what somebody said of a step: that it is work at height, or is none.
type HeightMark string

// What is said of it. The zero value is what follows from the model.
const (
	IsAtHeight  HeightMark = "yes"
	NotAtHeight HeightMark = "no"
)

// HeightMarks lists them.
var HeightMarks = []HeightMark{IsAtHeight, NotAtHeight}

// NamesIn are the people that are named for a step, with a comma between them.
func NamesIn(who string) []string {
	out := []string{}
	for name := range strings.SplitSeq(who, ",") {
		if name = strings.TrimSpace(name); name != "" {
			out = append(out, name)
		}
	}
	return out
}

// Seal is the mark of a signed revision: the hash of the canonical job and of
// the seal before it, so that a change of either shows.
type Seal struct {
	Revision string    `json:"revision"`
	By       string    `json:"by"`
	Role     string    `json:"role"`
	At       time.Time `json:"at"`
	Prev     string    `json:"prev"`
	Hash     string    `json:"hash"`
	// Company, Key and Signed are of the company that sealed it: its name, its public key (Ed25519, base64) and its
	// signature over all the rest of the seal and the id of the signature record. Empty in seals of before.
	Company string `json:"company,omitempty"`
	Key     string `json:"key,omitempty"`
	Signed  string `json:"signed,omitempty"`
}

// Imported is what an import brought: its people are names and not ours, and what they isolated isolates nothing here.
type Imported struct {
	By      string    `json:"by"` // who imported it
	At      time.Time `json:"at"`
	Records int       `json:"records"` // so many of the first records came with the file
	// PicturesMissing is how many pictures those records show that did not come with it.
	PicturesMissing int `json:"picturesMissing"`
}

// CircuitByID returns the circuit or nil.
func (j *Job) CircuitByID(id string) *Circuit {
	for i := range j.Circuits {
		if j.Circuits[i].ID == id {
			return &j.Circuits[i]
		}
	}
	return nil
}

// RecordByID returns the record or nil.
func (j *Job) RecordByID(id string) *Record {
	for i := range j.Records {
		if j.Records[i].ID == id {
			return &j.Records[i]
		}
	}
	return nil
}

// Current returns the records of a kind that nothing supersedes, in order. Only one of
// its own kind and subject takes the place of a record.
func (j *Job) Current(kind RecordKind) []Record {
	gone := map[string]*Record{}
	for i := range j.Records {
		if r := &j.Records[i]; r.Kind == kind && r.Supersedes != "" {
			gone[r.Supersedes] = r
		}
	}
	out := []Record{}
	for i := range j.Records {
		r := &j.Records[i]
		if by := gone[r.ID]; r.Kind == kind && (by == nil || !by.Replaces(r)) {
			out = append(out, *r)
		}
	}
	return out
}

// Frozen reports whether the newest of signatures and reopenings is a
// signature: a signed revision takes no edits until a new one is opened.
func (j *Job) Frozen() bool {
	for i := len(j.Records) - 1; i >= 0; i-- {
		switch j.Records[i].Kind {
		case Signature:
			return true
		case Reopen:
			return false
		}
	}
	return false
}

// Signed returns the records up to the newest signature, which are those that it covers, and
// those that came after it.
func (j *Job) Signed() (covered, after []Record) {
	for i := range slices.Backward(j.Records) {
		if j.Records[i].Kind == Signature {
			return j.Records[:i+1], j.Records[i+1:]
		}
	}
	return nil, j.Records
}

// Whose says in front of a check or a test whose it is, where the job has several circuits.
func (j *Job) Whose(circuit string) string {
	if k := j.CircuitByID(circuit); k != nil && len(j.Circuits) > 1 {
		return k.Name + ": "
	}
	return ""
}

// Withdrawn reports whether an isolation was taken back.
func (j *Job) Withdrawn(isolation string) bool {
	return slices.ContainsFunc(j.Records, func(r Record) bool { return r.Kind == Withdrawal && r.Subject == isolation })
}

// Revision returns the letter of the revision in work: A until one is
// reopened, then B, and so on.
func (j *Job) Revision() string {
	n := 0
	for i := range j.Records {
		if j.Records[i].Kind == Reopen {
			n++
		}
	}
	return RevisionName(n)
}

// RevisionName is the letter of a revision by its number from 0.
func RevisionName(n int) string {
	s := ""
	for ; n >= 26; n = n/26 - 1 {
		s = string(rune('A'+n%26)) + s
	}
	return string(rune('A'+n)) + s
}
