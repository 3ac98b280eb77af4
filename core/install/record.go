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
	LockOff   RecordKind = "lock-off"  // the lock of an isolation taken off, Subject names the isolation
	Energise  RecordKind = "energise"  // permission to energise
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

	Withdrawal  RecordKind = "withdrawal" // an isolation that proves nothing after all, Subject names it
	LookedAfter RecordKind = "aftercare"  // something looked after once the job was signed, Subject is one of AfterSubjects
)

// Kinds are all kinds of record.
var Kinds = []RecordKind{Tick, Isolation, LooseEnd, Reading, Remark, LockOff, Energise, Operator, Signature, Reopen,
	Observation, SurveyReading, Decision, FindingStep, Scope, Variation, Photo, Withdrawal, LookedAfter}

// AfterSubjects are what a [LookedAfter] record is about.
var AfterSubjects = []string{"button-test", "storm-check", "return-visit", "other"}

// AfterNames are what they are called, each a message.
var AfterNames = []words.Key{words.Key("Test buttons pressed"), words.Key("Looked at after a storm"), words.Key("Return visit"),
	words.Key("Something else looked after")}

// AfterSignature reports whether a signed revision takes records of the kind: what is looked
// after, and what makes the work on it safe. Everything else opens a new revision first.
func (k RecordKind) AfterSignature() bool {
	switch k {
	case LookedAfter, Photo, LooseEnd, Operator, Isolation, Withdrawal, LockOff, Energise, Reopen:
		return true
	}
	return false
}

// Record is something that happened. Which fields are used depends on Kind;
// the others stay empty.
type Record struct {
	ID         string     `json:"id"`
	Kind       RecordKind `json:"kind"`
	At         time.Time  `json:"at"`                 // when it happened, by the server's clock as near as it is known
	By         string     `json:"by"`                 // name of the person
	PersonID   string     `json:"personId,omitempty"` // who it is; names are not unique
	Role       string     `json:"role"`               // their role at the time
	Supersedes string     `json:"supersedes"`
	Subject    string     `json:"subject"` // task, test, loose end or circuit it is about
	Circuit    string     `json:"circuit"`
	Done       bool       `json:"done"` // tick done, loose end cleared
	Note       string     `json:"note"`

	// Reading.
	Value      *float64 `json:"value"`
	Unit       string   `json:"unit"`
	OverRange  bool     `json:"overRange"`
	Passed     *bool    `json:"passed"`           // for tests answered yes or no
	Answer     string   `json:"answer,omitempty"` // for tests answered by one of several patterns
	CouldNot   string   `json:"couldNot"`
	Instrument string   `json:"instrument"`
	Calibrated string   `json:"calibrated"` // calibrated to, 2006-01-02
	TempC      *float64 `json:"tempC"`
	TestV      float64  `json:"testV,omitempty"` // voltage that it was read at, V; 0 where there is no choice

	// Energise: what the person has seen, each one of the asks.
	Confirmed []string `json:"confirmed,omitempty"`

	// Isolation.
	Source       string   `json:"source"`
	LockTag      string   `json:"lockTag"`
	Tester       string   `json:"tester"`
	ProvedBefore bool     `json:"provedBefore"`
	PairsDead    []string `json:"pairsDead"`
	ProvedAfter  bool     `json:"provedAfter"`
	StillLive    string   `json:"stillLive"`
	OneHot       bool     `json:"oneHot,omitempty"` // a circuit of one hot conductor by its own breaker; the board stays live

	// Operator.
	Path      string `json:"path"` // notified, applied, agreed, refused
	Reference string `json:"reference"`
	Person    string `json:"person"`
	Called    string `json:"called,omitempty"` // when it was said, 2006-01-02T15:04 on the site's clock

	// Observation: Subject is its kind in the catalogue of findings, Path its
	// severity class, Note what was seen.
	Room     string `json:"room,omitempty"` // id of the room it is about
	Place    string `json:"place,omitempty"`
	Evidence string `json:"evidence,omitempty"` // measured, seen, told, suspected
	Risk     string `json:"risk,omitempty"`     // in plain words, where the catalogue's do not fit
	Mend     string `json:"mend,omitempty"`     // what would mend it, where the catalogue's does not fit
	Work     string `json:"work,omitempty"`     // key of the company's price list

	// Scope and variation: the rooms as agreed, and what the change brought.
	Rooms   []Room   `json:"rooms,omitempty"`
	Effects []string `json:"effects,omitempty"`
	Cost    *float64 `json:"cost,omitempty"`

	// What was made without a connection came later than it happened. ReceivedAt is when the
	// server had it, zero where that is At; Device and Seq are the device that made it and its
	// own count, ClockOffS how many seconds its clock was ahead where that is over five minutes.
	ReceivedAt time.Time `json:"receivedAt,omitzero" seal:"omitempty"`
	Device     string    `json:"device,omitempty" seal:"omitempty"`
	Seq        int64     `json:"seq,omitempty" seal:"omitempty"`
	ClockOffS  float64   `json:"clockOffS,omitempty" seal:"omitempty"`

	// Photo: Reference is the SHA-256 of the picture, Subject the id of what it shows.
	Width  int `json:"width,omitempty"`
	Height int `json:"height,omitempty"`
}

// Person is who acts on a job. ID is empty where only the name is known, as in records
// that older versions made; Role where it does not matter.
type Person struct{ ID, Name, Role string }

// Who is the person that made the record.
func (r *Record) Who() Person { return Person{r.PersonID, r.By, r.Role} }

// IsBy reports whether a person made the record: by who they are, and by their name only
// where the record does not say who.
func (r *Record) IsBy(p Person) bool {
	if r.PersonID != "" {
		return r.PersonID == p.ID
	}
	return r.By == p.Name
}

// Replaces reports whether the record may take the place of an older one: it is of the
// same kind and about the same. What was cleared is opened again by a record of its kind.
func (r *Record) Replaces(old *Record) bool {
	return old.ID == r.Supersedes && old.Kind == r.Kind && old.Subject == r.Subject && old.Circuit == r.Circuit
}
