package working

import "slices"

// RuleID names a rule of a practice, the same in every edition and on every job.
type RuleID string

// Scope is what a rule looks at: there is one check for each of them.
type Scope string

// What rules look at.
const (
	OfJob       Scope = "job"
	OfCircuit   Scope = "circuit"
	OfPoint     Scope = "point"
	OfDevice    Scope = "device"
	OfBoard     Scope = "board"
	OfEnclosure Scope = "enclosure"
	OfBond      Scope = "bond"
	OfElectrode Scope = "electrode"
	OfRun       Scope = "outdoor run"
	OfRoom      Scope = "room"
	OfSource    Scope = "source"
)

// Sheet is a sheet of a job, as it stands in its address.
type Sheet string

// The sheets of a job.
const (
	SurveySheet    Sheet = "survey"
	SupplySheet    Sheet = "supply"
	CircuitsSheet  Sheet = "circuits"
	BoardSheet     Sheet = "board"
	MaterialsSheet Sheet = "materials"
	QuoteSheet     Sheet = "quote"
	PlanSheet      Sheet = "plan"
	FirstFixSheet  Sheet = "first-fix"
	SecondFixSheet Sheet = "second-fix"
	TestSheet      Sheet = "test"
	HandoverSheet  Sheet = "handover"
)

// Sheets lists them in the order of the work.
var Sheets = []Sheet{SurveySheet, SupplySheet, CircuitsSheet, BoardSheet, MaterialsSheet, QuoteSheet, PlanSheet, FirstFixSheet,
	SecondFixSheet, TestSheet, HandoverSheet}

// Leaf is a part of a sheet that shows checks of its own; empty for the sheet itself.
type Leaf string

// The leaves of the Supply and the Survey sheet that show checks.
const (
	DemandLeaf  Leaf = "demand"
	ChainLeaf   Leaf = "chain"
	SurgeLeaf   Leaf = "surge"
	StandbyLeaf Leaf = "standby"
	OutdoorLeaf Leaf = "outdoor"
	FoundLeaf   Leaf = "found"
	WalkLeaf    Leaf = "walk"
	CaseLeaf    Leaf = "case"
	OutageLeaf  Leaf = "outage"
	// ExistingLeaf is of what was found on the survey, hazards among it.
	ExistingLeaf Leaf = "existing"
	// SettingOutLeaf and ScopeLeaf are of the points of the walk.
	SettingOutLeaf Leaf = "setting-out"
	ScopeLeaf      Leaf = "scope"
)

// Who mends what a rule finds.
type Who string

// Who mends.
const (
	Designer   Who = "designer"
	Surveyor   Who = "surveyor"
	Crew       Who = "electrician"
	Supervisor Who = "supervisor"
	Office     Who = "office"
	Merchant   Who = "merchant"
	Operator   Who = "network operator"
	Client     Who = "client"
)

// Act is something that a verdict may hold until it is mended.
type Act string

// The acts that verdicts hold. Switching off and locking a danger is none of them, nor is
// recording what happened.
const (
	ToOrder    Act = "order"
	ToCutOff   Act = "planned cut-off"
	ToDig      Act = "dig"
	ToPull     Act = "pull the cable"
	ToFill     Act = "fill the trench"
	ToClose    Act = "close the wall"
	ToEnergise Act = "energise for test"
	ToService  Act = "put into service"
	ToSign     Act = "sign"
)

// Acts lists them in the order of the work.
var Acts = []Act{ToOrder, ToCutOff, ToDig, ToPull, ToFill, ToClose, ToEnergise, ToService, ToSign}

// Reach is how far a job reaches into an installation, and so which rules hold it: what lies beyond is said for information.
type Reach uint8

// How far.
const (
	ToObject   Reach = iota // to what is repaired or replaced
	ToCircuit               // to the circuits that are made or altered
	ToOrigin                // to what those rest on: supply, earthing, bonding
	ToDwelling              // to all of the dwelling
)

// Rule is one question that a practice asks of an installation. It says where what it finds
// is mended, by whom, and which acts wait for that; nothing else keeps a list of rules.
type Rule struct {
	ID    RuleID `json:"id"`
	Title string `json:"title"`
	Unit  string `json:"unit"` // of value and limit
	Scope Scope  `json:"scope"`
	Sheet Sheet  `json:"sheet"`
	Leaf  Leaf   `json:"leaf"`
	Who   Who    `json:"who"`
	Holds []Act  `json:"holds"`
	// KnownBy are the acts of those by which it must be known, as nobody can look afterwards.
	KnownBy []Act `json:"knownBy"`
	// Reach is how far a job must reach for the rule to hold it; Load: and it must add to what is drawn.
	Reach Reach `json:"-"`
	Load  bool  `json:"-"`
	// Hint: it says only what would be better still, and is never worse than before.
	Hint bool `json:"-"`
}

// Check begins the check of the rule on one of what it looks at: circuit is the id of the
// circuit, empty where it is of none; of tells apart what is no circuit (an enclosure, a
// bond by number), empty where there is one.
func (r *Rule) Check(circuit, of string) *Check {
	c := begun(r, circuit, of, make([]Step, 0, 4), make([]Source, 0, 2))
	return &c
}

// Stops reports whether a verdict of the rule holds an act: a fail all that the rule holds,
// something missing only what puts the installation into service, what is signed and what
// nobody could look at afterwards.
func (r *Rule) Stops(v Verdict, a Act) bool {
	return slices.Contains(r.Holds, a) && (v == Fail || v == Unknown && (a == ToService || a == ToSign || slices.Contains(r.KnownBy, a)))
}

func (r *Rule) checkID(of string) string {
	if of == "" {
		return string(r.ID)
	}
	return string(r.ID) + "-" + of
}
