package install

import (
	"time"

	"arvelt/core/words"
)

// RecordKind is the kind of an append-only record.
type RecordKind string

// The kinds of record.
const (
	Tick      RecordKind = "tick"      // a task done or undone
	Isolation RecordKind = "isolation" // proved dead
	LooseEnd  RecordKind = "loose-end" // something left temporarily undone, or its clearing
	Reading   RecordKind = "reading"   // a test reading by a person
	Remark    RecordKind = "remark"    // why a reading is what it is, Subject names the reading
	Lock      RecordKind = "lock"      // a lock of one's own under somebody's isolation, which Subject names
	LockOff   RecordKind = "lock-off"  // a lock taken off, Subject names its isolation or lock
	LockTold  RecordKind = "lock-told" // the owner of a lock knows that another took it off, Subject names the lock-off
	Energise  RecordKind = "energise"  // permission to energise a part, for one closing by one person
	// SwitchedOn is that something was switched on without a permission: Subject names the device, empty where nobody knows which.
	SwitchedOn RecordKind = "switched-on"
	// Guarded is a short deliberate energising that finds which pair is the feed: Subject names the device that was closed, empty where nobody
	// knows which feeds the pair. It is one record, from the guard posted to proved dead again.
	Guarded RecordKind = "guarded"
	// RetestOrder is the supervisor's order to energise again for a test that failed, or to find its fault: Subject names the reading, Path is
	// one of Orders.
	RetestOrder RecordKind = "retest-order"
	// Release is the supervisor's word, in writing, that something which holds an act does not hold it now: Subject names it, Note is why,
	// Effects what it is given for.
	Release   RecordKind = "release"
	Operator  RecordKind = "operator"  // notification or application, recorded by hand
	Signature RecordKind = "signature" // a revision signed
	Reopen    RecordKind = "reopen"    // a new revision opened after a signature

	Observation   RecordKind = "observation"    // a finding on the existing installation
	SurveyReading RecordKind = "survey-reading" // a figure read on the survey
	Decision      RecordKind = "decision"       // what the client decided on a finding
	FindingStep   RecordKind = "finding-step"   // a finding followed up: somebody told, made safe, mended
	Scope         RecordKind = "scope"          // the points that were agreed
	Variation     RecordKind = "variation"      // a change of the agreed points, accepted
	Photo         RecordKind = "photo"          // a picture kept with a room, point or finding

	Withdrawal  RecordKind = "withdrawal"   // an isolation that proves nothing after all, Subject names it
	ProvedDead  RecordKind = "proved-dead"  // a further place proved dead under an isolation, which Subject names
	TesterProof RecordKind = "tester-proof" // the tester proved on a known source, or not, after it was read with
	Trace       RecordKind = "trace"        // what went dead when a device was opened, or a run parted at a box
	LookedAfter RecordKind = "aftercare"    // something looked after once the job was signed, Subject is one of AfterSubjects

	Offer       RecordKind = "offer"        // a price that was offered, as Priced lists it
	QuoteAnswer RecordKind = "quote-answer" // what the client made of an offer, which Subject names
	DayEnd      RecordKind = "day-end"      // somebody leaves the house for the day; Note says who takes over what hangs
	PointWork   RecordKind = "point-work"   // work done on points of a room, or undone: Steps of Points, of all that the job works on where it names none
	Loaded      RecordKind = "packed"       // something put into the van for the day, Subject names it, or taken out again
	Worked      RecordKind = "worked"       // hours that were worked on a step of the plan, which Subject names
	Timed       RecordKind = "clock"        // somebody starts on a step of the plan, which Subject names, or stops
)

// Kinds are all kinds of record.
var Kinds = []RecordKind{Tick, Isolation, Lock, LooseEnd, Reading, Remark, LockOff, Energise, Operator, Signature, Reopen,
	Observation, SurveyReading, Decision, FindingStep, Scope, Variation, Photo, Withdrawal, ProvedDead, TesterProof, Trace, LookedAfter, LockTold,
	SwitchedOn, Guarded, RetestOrder, Release, Offer, QuoteAnswer, Worked, Timed, Loaded, DayEnd, PointWork}

// KindNames are what records of each kind are called, each a message.
var KindNames = map[RecordKind]words.Key{Tick: words.Key("Step done"), Isolation: words.Key("Isolation"),
	Lock: words.Key("Lock"), LooseEnd: words.Key("Snag"), Reading: words.Key("Reading"), Remark: words.Key("Remark"),
	LockOff: words.Key("Lock taken off"), LockTold: words.Key("Told that the lock is off"), Energise: words.Key("Permission to energise"), Operator: words.Key("Word of the network operator"),
	Signature: words.Key("Signature"), Reopen: words.Key("New revision"), Observation: words.Key("Finding"),
	SurveyReading: words.Key("Reading of the survey"), Decision: words.Key("Decision of the client"),
	FindingStep: words.Key("Finding followed up"), Scope: words.Key("Agreed points"), Variation: words.Key("Variation"),
	Photo: words.Key("Photo"), Withdrawal: words.Key("Isolation withdrawn"),
	SwitchedOn: words.Key("Switched on without permission"), Guarded: words.Key("Guarded energising"), RetestOrder: words.Key("Order for a retest"),
	Release: words.Key("Release by the supervisor"),
	Offer:   words.Key("Quote"), QuoteAnswer: words.Key("Answer to the quote"), Worked: words.Key("Hours worked"),
	Timed: words.Key("Started or stopped"), Loaded: words.Key("Put into the van"),
	DayEnd: words.Key("Left the house"), PointWork: words.Key("Work on points"),
	ProvedDead: words.Key("Proved dead"), TesterProof: words.Key("Tester proved"), Trace: words.Key("Circuit traced"), LookedAfter: words.Key("Aftercare")}

// CutOffRelease is the subject of a [Release] of a line of the checklist before a planned outage.
func CutOffRelease(item string) string { return "cutoff:" + item }

// What a [RetestOrder] orders.
const (
	OrderRetest = "retest" // the same test again, as it stands
	OrderSearch = "search" // a guarded search for its fault
)

// Orders lists them.
var Orders = []string{OrderRetest, OrderSearch}

// AfterSubjects are what a [LookedAfter] record is about.
var AfterSubjects = []string{"button-test", "storm-check", "return-visit", "other"}

// AfterNames are what they are called, each a message.
var AfterNames = []words.Key{words.Key("Test buttons pressed"), words.Key("Looked at after a storm"), words.Key("Return visit"),
	words.Key("Something else looked after")}

// AfterSignature reports whether a signed revision takes records of the kind: what is looked
// after, and what makes the work on it safe. Everything else opens a new revision first.
func (k RecordKind) AfterSignature() bool {
	switch k {
	case LookedAfter, Photo, LooseEnd, Operator, Isolation, ProvedDead, TesterProof, Lock, Withdrawal, LockOff, LockTold, Energise, SwitchedOn,
		Guarded, Reopen, DayEnd:
		return true
	}
	return false
}

// Record is something that happened. Which fields are used depends on Kind;
// the others stay empty.
type Record struct {
	ID       string     `json:"id" chars:"400"`
	Kind     RecordKind `json:"kind"`
	At       time.Time  `json:"at"`                             // when it happened, by the server's clock as near as it is known
	By       string     `json:"by" chars:"400"`                 // name of the person
	PersonID string     `json:"personId,omitempty" chars:"400"` // who it is; names are not unique
	Role     string     `json:"role" chars:"400"`               // their role at the time
	// Under is what authorised them, in words; empty where nothing had to, or it was not kept yet.
	Under string `json:"under,omitempty" seal:"omitempty" chars:"400"`
	// Authorised: they held then what the record counts by, of kinds that are taken from everybody.
	Authorised bool   `json:"authorised,omitempty" seal:"omitempty"`
	Supersedes string `json:"supersedes" chars:"400"`
	Subject    string `json:"subject" chars:"400"` // task, test, loose end or circuit it is about
	Circuit    string `json:"circuit" chars:"400"`
	Done       bool   `json:"done"` // tick done, loose end cleared
	Note       string `json:"note" chars:"400"`

	// Reading. Box is the box of the circuit's run at which it was taken; empty where that was not said.
	Box        string   `json:"box,omitempty" seal:"omitempty" chars:"40"`
	Value      *float64 `json:"value"`
	Unit       string   `json:"unit" chars:"400"`
	OverRange  bool     `json:"overRange"`
	Passed     *bool    `json:"passed"`                       // for tests answered yes or no
	Answer     string   `json:"answer,omitempty" chars:"400"` // for tests answered by one of several patterns
	CouldNot   string   `json:"couldNot" chars:"400"`
	Instrument string   `json:"instrument" chars:"400"`
	Calibrated string   `json:"calibrated" shape:"date"` // calibrated to, 2006-01-02
	TempC      *float64 `json:"tempC" range:"-20..60" unit:"°C"`
	NoTrip     bool     `json:"noTrip,omitempty" seal:"omitempty"`        // a loop read with a test that does not trip the residual-current device
	TestV      float64  `json:"testV,omitempty" range:"0..5000" unit:"V"` // voltage that it was read at, V; 0 where there is no choice

	// Energise: what the person has seen, each one of the asks.
	Confirmed []string `json:"confirmed,omitempty" most:"200" chars:"400"`

	// Isolation.
	Source       string   `json:"source" chars:"400"`
	LockTag      string   `json:"lockTag" chars:"400"`
	Tester       string   `json:"tester" chars:"400"`
	ProvedBefore bool     `json:"provedBefore"`
	PairsDead    []string `json:"pairsDead" most:"200" chars:"400"`
	ProvedAfter  bool     `json:"provedAfter"`
	StillLive    string   `json:"stillLive" chars:"400"`
	OneHot       bool     `json:"oneHot,omitempty"` // of older ones: a circuit of one hot conductor by its own breaker
	// Opens are the devices that were opened and how each is kept so; older ones name none, and make nothing dead. Proofs are what
	// was read, place by place. Serves is the isolation or proof of the same tester whose closing proof is the one before this.
	Opens      []Opened   `json:"opens,omitempty" most:"60"`
	Proofs     []Proof    `json:"proofs,omitempty" most:"400"`
	TesterKind TesterKind `json:"testerKind,omitempty" of:"testerKinds?"`
	Serves     string     `json:"serves,omitempty" chars:"80"`

	// Lock taken off for somebody else: how they were reached, or tried; who walked the scope and found it clear.
	Reached string `json:"reached,omitempty" chars:"400"`
	Walked  string `json:"walked,omitempty" chars:"400"`
	// Energise: how many locks and tags whoever permits it counted where they hang.
	Counted *int `json:"counted,omitempty" range:"0..200" unit:"locks and tags"`
	// Energise: for what; which devices are closed, in their order, by id among those of the house; older ones say neither, and are of the
	// whole installation. Part are the places that this makes live and Model what stood there when it was given, both written by whoever
	// keeps the record. Until is when it ends by itself.
	Use    PermitUse `json:"use,omitempty" of:"permitUses?" seal:"omitempty"`
	Closes []string  `json:"closes,omitempty" seal:"omitempty" most:"60" chars:"100"`
	Part   []string  `json:"part,omitempty" seal:"omitempty" most:"1000" chars:"100"`
	Model  string    `json:"model,omitempty" seal:"omitempty" chars:"100"`
	Clear  []Cleared `json:"clear,omitempty" seal:"omitempty" most:"60"` // who was confirmed clear, as their device had not reported
	Until  time.Time `json:"until,omitzero" seal:"omitempty"`

	// Energise for a test: the places of the part where a cover stays off while it is tested, and how people are kept out of there.
	Bare    []string `json:"bare,omitempty" seal:"omitempty" most:"60" chars:"100"`
	Guarded Guarding `json:"guarding,omitempty" of:"guardings?" seal:"omitempty"`
	// Loose end: the conductor that was parted for a test, by its id among those of the installation; empty for anything else.
	Parted string `json:"parted,omitempty" seal:"omitempty" chars:"100"`
	// Loose end of a kind: where it is in the circuit's run (Box), in which room or place, and how it stands. Alive is whether its conductors are
	// live, nil where nobody proved them dead; Reach whether somebody who works or lives there can touch it, nil where nobody said. Shielded: it is
	// capped or covered so that nothing can be touched. Attended: somebody stands by. Due and Trigger are until when.
	Left     LeftKind    `json:"left,omitempty" seal:"omitempty" of:"leftKinds?"`
	Alive    *bool       `json:"alive,omitempty" seal:"omitempty"`
	Reach    *bool       `json:"reach,omitempty" seal:"omitempty"`
	Shielded bool        `json:"shielded,omitempty" seal:"omitempty"`
	Attended bool        `json:"attended,omitempty" seal:"omitempty"`
	Due      string      `json:"due,omitempty" seal:"omitempty" shape:"date"`
	Trigger  LeftTrigger `json:"trigger,omitempty" seal:"omitempty" of:"leftTriggers?"`
	// Of a temporary supply and a joint: the rating, what protects it, and what hangs on it.
	RatingA    *float64 `json:"ratingA,omitempty" seal:"omitempty" range:"0..400" unit:"A"`
	Protection string   `json:"protection,omitempty" seal:"omitempty" chars:"120"`
	Loads      string   `json:"loads,omitempty" seal:"omitempty" chars:"200"`
	// Of what others moved or covered: which trade of the plan, and once it is put right the hours that it took, beside the Cost of its parts.
	Trade  string   `json:"trade,omitempty" seal:"omitempty" chars:"40"`
	SpentH *float64 `json:"spentH,omitempty" seal:"omitempty" range:"0..200" unit:"h"`

	// Work on points of a room: which of it, and on which of its points.
	Steps  []PointStep `json:"steps,omitempty" seal:"omitempty" most:"12" chars:"20"`
	Points []string    `json:"points,omitempty" seal:"omitempty" most:"200" chars:"40"`

	// Of what parts a conductor of earth, bonding or neutral: the current that was clamped in it before, the voltage across the break as it was
	// parted, and that it was bridged first. CouldNot is why it was not clamped, of one that was parted by hand.
	ClampA  *float64 `json:"clampA,omitempty" seal:"omitempty" range:"0..2000" unit:"A"`
	AcrossV *float64 `json:"acrossV,omitempty" seal:"omitempty" range:"0..2000" unit:"V"`
	Bridged bool     `json:"bridged,omitempty" seal:"omitempty"`

	// Operator.
	Path      string `json:"path" chars:"400"` // notified, applied, agreed, refused
	Reference string `json:"reference" chars:"400"`
	Person    string `json:"person" chars:"400"`
	Called    string `json:"called,omitempty" chars:"400"` // when it was said, 2006-01-02T15:04 on the site's clock

	// Of a decision and a notice of a dangerous condition: it was signed by Person, or who saw it handed over.
	Signed  bool   `json:"signed,omitempty" seal:"omitempty"`
	Witness string `json:"witness,omitempty" seal:"omitempty" chars:"120"`

	// Observation: Subject is its kind in the catalogue of findings, Path its
	// severity class, Note what was seen.
	Room     string `json:"room,omitempty" chars:"400"` // id of the room it is about
	Place    string `json:"place,omitempty" chars:"400"`
	Evidence string `json:"evidence,omitempty" chars:"400"` // measured, seen, told, suspected
	Risk     string `json:"risk,omitempty" chars:"400"`     // in plain words, where the catalogue's do not fit
	Mend     string `json:"mend,omitempty" chars:"400"`     // what would mend it, where the catalogue's does not fit
	Work     string `json:"work,omitempty" chars:"400"`     // key of the company's price list
	// Answers is the check or the test that fails and that the finding is about, as [CheckKey] and [TestKey] write it.
	Answers string `json:"answers,omitempty" chars:"120"`

	// Trace: Circuit is the one whose device was opened, Subject the box of its run at which it was parted instead.
	Traced []Traced `json:"traced,omitempty" most:"200"`

	// Scope and variation: the rooms as agreed, and what the change brought.
	Rooms   []Room   `json:"rooms,omitempty" most:"80"`
	Effects []string `json:"effects,omitempty" most:"200" chars:"400"`
	Cost    *float64 `json:"cost,omitempty" range:"-1000000000..1000000000"`

	// Offer: the price as its paper says it, and until when it stands. Of its answer the options with what was decided of each, and the
	// signature as it was drawn on a screen, as the path of an SVG.
	Quoted *Quoted  `json:"quoted,omitempty" seal:"omitempty"`
	Priced []Priced `json:"priced,omitempty" seal:"omitempty" most:"100"`
	Valid  string   `json:"valid,omitempty" seal:"omitempty" shape:"date"`
	Drawn  string   `json:"drawn,omitempty" seal:"omitempty" chars:"20000"`

	// What was made without a connection came later than it happened. ReceivedAt is when the
	// server had it, zero where that is At; Device and Seq are the device that made it and its
	// own count, ClockOffS how many seconds its clock was ahead where that is over five minutes.
	ReceivedAt time.Time `json:"receivedAt,omitzero" seal:"omitempty"`
	Device     string    `json:"device,omitempty" seal:"omitempty" chars:"400"`
	Seq        int64     `json:"seq,omitempty" seal:"omitempty" range:"0..9007199254740991"`
	ClockOffS  float64   `json:"clockOffS,omitempty" seal:"omitempty" unit:"s" range:"-10000000000..10000000000"`

	// Photo: Reference is the SHA-256 of the picture, Subject the id of what it shows.
	Width  int `json:"width,omitempty" range:"0..100000" unit:"px"`
	Height int `json:"height,omitempty" range:"0..100000" unit:"px"`

	// Foreign: an import brought it. Who made it is a name and nobody of ours.
	Foreign bool `json:"-"`
}

// PermitUse is what a part is energised for.
type PermitUse string

// The uses.
const (
	ForTest    PermitUse = "test"    // energised to be tested, under somebody's eyes
	IntoUse    PermitUse = "service" // put into service
	RestoreUse PermitUse = "restore" // back as it was in service before, and not altered
)

// PermitUses lists them.
var PermitUses = []PermitUse{ForTest, IntoUse, RestoreUse}

// Guarding is how people are kept out of where something is tested live.
type Guarding string

// The ways to keep them out.
const (
	GuardPerson  Guarding = "person"  // somebody stands there
	GuardBarrier Guarding = "barrier" // barriers and a notice
	GuardRoom    Guarding = "room"    // the room is locked
)

// Guardings lists them.
var Guardings = []Guarding{GuardPerson, GuardBarrier, GuardRoom}

// GuardingNames are what they are called, each a message.
var GuardingNames = map[Guarding]words.Key{GuardPerson: words.Key("by somebody who stands there"), GuardBarrier: words.Key("by barriers and a notice"),
	GuardRoom: words.Key("by a locked door")}

// Keeping is how a device that was opened is kept open.
type Keeping string

// The ways to keep it open.
const (
	ByLock   Keeping = "lock"   // locked and tagged
	ByFuse   Keeping = "fuse"   // its fuse withdrawn and kept in the person's possession, the way blocked
	ByParted Keeping = "parted" // its conductors parted and capped, under a locked device ahead of it
)

// Keepings lists them.
var Keepings = []Keeping{ByLock, ByFuse, ByParted}

// TesterKind is what is read with.
type TesterKind string

// The kinds of tester. A sensor is a hint and never proof.
const (
	ContactTester TesterKind = "contact" // a two-pole voltage detector, or an instrument with a low impedance, made for it
	MeterTester   TesterKind = "meter"   // a multimeter, of a high impedance
	SensorTester  TesterKind = "sensor"  // without contact
)

// TesterKinds lists them.
var TesterKinds = []TesterKind{ContactTester, MeterTester, SensorTester}

// Cleared is somebody who was confirmed clear before something was energised, how and by whom.
type Cleared struct {
	Person string `json:"person" chars:"400" needed:"yes"`
	How    string `json:"how" chars:"400" needed:"yes"`
	By     string `json:"by" chars:"400" needed:"yes"`
}

// Opened is a device that was opened, by its id among those of the house, and how it is kept so.
type Opened struct {
	Device string  `json:"device" chars:"100" needed:"yes"`
	Kept   Keeping `json:"kept" of:"keepings"`
	// StartOff: its automatic start was disabled, of a source that starts by itself.
	StartOff bool `json:"startOff,omitempty" seal:"omitempty"`
}

// Proof is what was read at a place, by its id among those of the house.
type Proof struct {
	At     string `json:"at" chars:"100" needed:"yes"`
	Cables int    `json:"cables" range:"0..400" unit:"cables"` // that were counted there
	Read   []Pair `json:"read" most:"40"`
}

// Pair is what was read between two conductors of every cable there: the highest.
type Pair struct {
	Pair string   `json:"pair" chars:"20" needed:"yes"`
	V    *float64 `json:"v" range:"0..2000" unit:"V"` // as read; nothing is no reading
}

// Traced is what was tried while a circuit was off: alike points of a room, or a box of the run that was parted.
type Traced struct {
	Room  string `json:"room,omitempty" chars:"40"`
	Point string `json:"point,omitempty" chars:"40"`
	Box   string `json:"box,omitempty" chars:"40"`
	Dead  int    `json:"dead" range:"0..200" unit:"pieces"`
	Live  int    `json:"live" range:"0..200" unit:"pieces"` // what was not tried is neither
}

// Person is who acts on a job. ID is empty where only the name is known, as in records
// that older versions made; Role and Holds where they do not matter.
type Person struct {
	ID, Name, Role string
	Holds          Authorities // on the job that is acted on, when it is
}

// Who is the person that made the record.
func (r *Record) Who() Person { return Person{ID: r.PersonID, Name: r.By, Role: r.Role} }

// IsBy reports whether a person made the record: by who they are, and by their name only
// where the record does not say who.
func (r *Record) IsBy(p Person) bool {
	if r.Foreign {
		return false
	}
	if r.PersonID != "" {
		return r.PersonID == p.ID
	}
	return r.By == p.Name
}

// Replaces reports whether the record may take the place of an older one: it is of the
// same kind and about the same. What was cleared is opened again by a record of its kind.
func (r *Record) Replaces(old *Record) bool {
	return old.ID == r.Supersedes && old.Kind == r.Kind && old.Subject == r.Subject && (old.Circuit == r.Circuit || r.Left != "" && !r.Done)
}
