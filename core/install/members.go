package install

import (
	"maps"
	"reflect"
	"slices"
	"strings"
	"time"
)

// The members that a record of each kind has, as somebody makes it. Who made it, when and with
// which device is added to each. A record is kept as [Record], which has the members of all.
type (
	// TickMembers are of a [Tick].
	TickMembers struct {
		Subject string `json:"subject" needed:"yes"` // the step of the plan
		Circuit string `json:"circuit"`
		Done    bool   `json:"done" needed:"yes"`
		Person  string `json:"person"` // who did it, of a step that others do
		Note    string `json:"note"`
	}
	// IsolationMembers are of an [Isolation].
	IsolationMembers struct {
		Source       string     `json:"source"`
		LockTag      string     `json:"lockTag"`
		Tester       string     `json:"tester"`
		ProvedBefore bool       `json:"provedBefore"`
		ProvedAfter  bool       `json:"provedAfter"`
		StillLive    string     `json:"stillLive"`
		Opens        []Opened   `json:"opens" needed:"yes"`
		Proofs       []Proof    `json:"proofs"`
		TesterKind   TesterKind `json:"testerKind"`
		Serves       string     `json:"serves"`
		Supersedes   string     `json:"supersedes"`
		Note         string     `json:"note"` // what was wrong with the one that it corrects
	}
	// ProvedDeadMembers are of a [ProvedDead].
	ProvedDeadMembers struct {
		Subject      string     `json:"subject" needed:"yes"` // the isolation
		Proofs       []Proof    `json:"proofs" needed:"yes"`
		Tester       string     `json:"tester"`
		TesterKind   TesterKind `json:"testerKind"`
		ProvedBefore bool       `json:"provedBefore"`
		Serves       string     `json:"serves"`
		ProvedAfter  bool       `json:"provedAfter"`
		Note         string     `json:"note"`
	}
	// TesterProofMembers are of a [TesterProof].
	TesterProofMembers struct {
		Tester string `json:"tester" needed:"yes"`
		Passed *bool  `json:"passed" needed:"yes"`
		Note   string `json:"note"`
	}
	// LooseEndMembers are of a [LooseEnd].
	LooseEndMembers struct {
		Subject    string   `json:"subject"` // the one that is cleared
		Done       bool     `json:"done"`
		Note       string   `json:"note"`
		Path       string   `json:"path"`   // what it may wait for
		Parted     string   `json:"parted"` // a conductor that was parted for a test
		Supersedes string   `json:"supersedes"`
		CouldNot   string   `json:"couldNot"` // why its current was not clamped
		ClampA     *float64 `json:"clampA"`
		AcrossV    *float64 `json:"acrossV"`
		Bridged    bool     `json:"bridged"`

		Left       LeftKind    `json:"left"`
		Circuit    string      `json:"circuit"`
		Box        string      `json:"box"`
		Room       string      `json:"room"`
		Place      string      `json:"place"`
		Person     string      `json:"person"` // who puts it right
		Alive      *bool       `json:"alive"`
		Reach      *bool       `json:"reach"`
		Shielded   bool        `json:"shielded"`
		Attended   bool        `json:"attended"`
		Due        string      `json:"due"`
		Trigger    LeftTrigger `json:"trigger"`
		RatingA    *float64    `json:"ratingA"`
		Protection string      `json:"protection"`
		Loads      string      `json:"loads"`
		Trade      string      `json:"trade"`  // of the plan, that moved or covered it
		SpentH     *float64    `json:"spentH"` // hours that it took to put right
		Cost       *float64    `json:"cost"`   // of the parts that it took
	}
	// ReadingMembers are of a [Reading].
	ReadingMembers struct {
		Subject    string   `json:"subject" needed:"yes"` // the test
		Circuit    string   `json:"circuit"`
		Box        string   `json:"box"`   // of the run at which it was read
		Place      string   `json:"place"` // where along the circuit it was read, in words
		Value      *float64 `json:"value"`
		Unit       string   `json:"unit"`
		OverRange  bool     `json:"overRange"`
		Passed     *bool    `json:"passed"`
		Answer     string   `json:"answer"`
		CouldNot   string   `json:"couldNot"`
		Instrument string   `json:"instrument"`
		Calibrated string   `json:"calibrated"`
		TempC      *float64 `json:"tempC"`
		TestV      float64  `json:"testV"`
		Supersedes string   `json:"supersedes"`
		Note       string   `json:"note"`
		NoTrip     bool     `json:"noTrip"`
		ClampA     *float64 `json:"clampA"` // of a reading that parts a conductor
		AcrossV    *float64 `json:"acrossV"`
		Bridged    bool     `json:"bridged"`
	}
	// LockOffMembers are of a [LockOff].
	LockOffMembers struct {
		Subject string `json:"subject" needed:"yes"`
		Reached string `json:"reached"`
		Walked  string `json:"walked"`
		Note    string `json:"note"`
	}
	// NoteMembers are of what is said of a record: [Remark], [Withdrawal].
	NoteMembers struct {
		Subject string `json:"subject" needed:"yes"`
		Note    string `json:"note"`
	}
	// RetestOrderMembers are of a [RetestOrder].
	RetestOrderMembers struct {
		Subject string `json:"subject" needed:"yes"` // the reading
		Path    string `json:"path" needed:"yes"`    // what is ordered
		Note    string `json:"note" needed:"yes"`
	}
	// ReleaseMembers are of a [Release].
	ReleaseMembers struct {
		Subject string `json:"subject" needed:"yes"`
		Note    string `json:"note" needed:"yes"`
	}
	// LockMembers are of a [Lock].
	LockMembers struct {
		Subject string `json:"subject" needed:"yes"`
		LockTag string `json:"lockTag" needed:"yes"`
		Note    string `json:"note"`
	}
	// EnergiseMembers are of an [Energise].
	EnergiseMembers struct {
		Use       PermitUse `json:"use"`
		Closes    []string  `json:"closes"`
		Person    string    `json:"person"` // who closes it, by name; empty for whoever permits
		Until     time.Time `json:"until"`
		Clear     []Cleared `json:"clear"`
		Confirmed []string  `json:"confirmed"`
		Bare      []string  `json:"bare"`     // places where a cover stays off
		Guarded   Guarding  `json:"guarding"` // how people are kept out
		Counted   *int      `json:"counted"`
		Note      string    `json:"note"`
	}
	// SwitchedOnMembers are of a [SwitchedOn].
	SwitchedOnMembers struct {
		Subject string `json:"subject"`
		Note    string `json:"note" needed:"yes"`
	}
	// GuardedMembers are of a [Guarded].
	GuardedMembers struct {
		Subject    string    `json:"subject"`
		Person     string    `json:"person" needed:"yes"` // who stands guard
		Confirmed  []string  `json:"confirmed" needed:"yes"`
		Place      string    `json:"place" needed:"yes"` // where it was read, and on which pair
		Value      *float64  `json:"value" needed:"yes"` // V
		Instrument string    `json:"instrument" needed:"yes"`
		Passed     *bool     `json:"passed" needed:"yes"` // the pair is the feed
		Clear      []Cleared `json:"clear"`
		Note       string    `json:"note"`
	}
	// OperatorMembers are of an [Operator].
	OperatorMembers struct {
		Circuit   string `json:"circuit"`
		Path      string `json:"path" needed:"yes"`
		Reference string `json:"reference"`
		Person    string `json:"person"`
		Called    string `json:"called"`
		Note      string `json:"note"`
	}
	// SignatureMembers are of a [Signature] and a [Reopen].
	SignatureMembers struct {
		Note string `json:"note"`
	}
	// ObservationMembers are of an [Observation].
	ObservationMembers struct {
		Subject    string `json:"subject" needed:"yes"` // its kind in the catalogue of findings
		Path       string `json:"path"`
		Circuit    string `json:"circuit"`
		Room       string `json:"room"`
		Place      string `json:"place"`
		Evidence   string `json:"evidence"`
		Risk       string `json:"risk"`
		Mend       string `json:"mend"`
		Work       string `json:"work"`
		Answers    string `json:"answers"`
		Note       string `json:"note"`
		Done       bool   `json:"done"` // taken back
		Supersedes string `json:"supersedes"`
	}
	// SurveyReadingMembers are of a [SurveyReading].
	SurveyReadingMembers struct {
		Subject    string   `json:"subject" needed:"yes"`
		Circuit    string   `json:"circuit"` // that it was read on; empty for a board or a point
		Value      *float64 `json:"value"`
		Unit       string   `json:"unit"`
		OverRange  bool     `json:"overRange"`
		Room       string   `json:"room"`
		Place      string   `json:"place"`
		Instrument string   `json:"instrument"`
		Calibrated string   `json:"calibrated"`
		Note       string   `json:"note"`
		Done       bool     `json:"done"`
		Supersedes string   `json:"supersedes"`
	}
	// DecisionMembers are of a [Decision] and a [FindingStep].
	DecisionMembers struct {
		Subject string `json:"subject" needed:"yes"`
		Circuit string `json:"circuit"`
		Path    string `json:"path" needed:"yes"`
		Person  string `json:"person"`
		Note    string `json:"note"`
		Signed  bool   `json:"signed"`  // by the person
		Witness string `json:"witness"` // who saw it, where it was not signed
		// Of a report to the operator.
		Called    string `json:"called"`
		Reference string `json:"reference"`
	}
	// ScopeMembers are of a [Scope]; its rooms are the job's own.
	ScopeMembers struct {
		Person string `json:"person"`
		Note   string `json:"note"`
	}
	// PhotoMembers are of a [Photo].
	PhotoMembers struct {
		Subject    string `json:"subject" needed:"yes"`
		Reference  string `json:"reference"`
		Width      int    `json:"width"`
		Height     int    `json:"height"`
		Note       string `json:"note"`
		Done       bool   `json:"done"` // taken away
		Supersedes string `json:"supersedes"`
	}
	// TraceMembers are of a [Trace].
	TraceMembers struct {
		Circuit    string   `json:"circuit" needed:"yes"`
		Subject    string   `json:"subject"` // box at which it was parted; empty for the device at the board
		Traced     []Traced `json:"traced" needed:"yes"`
		Instrument string   `json:"instrument"` // what told that it was dead
		Note       string   `json:"note"`
		Done       bool     `json:"done"` // taken back
	}
	// WorkedMembers are of [Worked].
	WorkedMembers struct {
		Subject    string   `json:"subject" needed:"yes"` // the step of the plan
		Value      *float64 `json:"value" needed:"yes"`   // person-hours
		Note       string   `json:"note"`
		Supersedes string   `json:"supersedes"`
	}
	// TimedMembers are of a [Timed].
	TimedMembers struct {
		Subject string `json:"subject" needed:"yes"` // the step of the plan
		Done    bool   `json:"done" needed:"yes"`    // stopped; else started
		Note    string `json:"note"`
	}
	// LoadedMembers are of [Loaded].
	LoadedMembers struct {
		Subject string `json:"subject" needed:"yes"` // the entry of the list for the van
		Done    bool   `json:"done" needed:"yes"`    // else it was taken out again
		Note    string `json:"note"`
	}
	// DayEndMembers are of a [DayEnd].
	DayEndMembers struct {
		Note string `json:"note"`
	}
	// PointWorkMembers are of a [PointWork].
	PointWorkMembers struct {
		Room   string      `json:"room" needed:"yes"`
		Steps  []PointStep `json:"steps" needed:"yes"`
		Points []string    `json:"points"` // none: all that the job works on
		Done   bool        `json:"done" needed:"yes"`
		Passed *bool       `json:"passed"` // false: a conductor came out as it was pulled at
		Note   string      `json:"note"`
	}
	// LookedAfterMembers are of a [LookedAfter].
	LookedAfterMembers struct {
		Subject string `json:"subject" needed:"yes"`
		Circuit string `json:"circuit"`
		Passed  *bool  `json:"passed"`
		Note    string `json:"note"`
	}
)

// members are the types of the members by kind. A [Variation] is made by the shorthand of its
// points, an [Offer] and its [QuoteAnswer] by the sheet of the quote, and by nothing else.
var members = map[RecordKind]reflect.Type{
	Tick: reflect.TypeFor[TickMembers](), Isolation: reflect.TypeFor[IsolationMembers](), LooseEnd: reflect.TypeFor[LooseEndMembers](),
	Reading: reflect.TypeFor[ReadingMembers](), Remark: reflect.TypeFor[NoteMembers](), LockOff: reflect.TypeFor[LockOffMembers](), LockTold: reflect.TypeFor[NoteMembers](), Lock: reflect.TypeFor[LockMembers](),
	Withdrawal: reflect.TypeFor[NoteMembers](), Energise: reflect.TypeFor[EnergiseMembers](),
	SwitchedOn: reflect.TypeFor[SwitchedOnMembers](), RetestOrder: reflect.TypeFor[RetestOrderMembers](), Release: reflect.TypeFor[ReleaseMembers](),
	Guarded:  reflect.TypeFor[GuardedMembers](),
	Operator: reflect.TypeFor[OperatorMembers](), Signature: reflect.TypeFor[SignatureMembers](),
	Reopen: reflect.TypeFor[SignatureMembers](), Observation: reflect.TypeFor[ObservationMembers](),
	SurveyReading: reflect.TypeFor[SurveyReadingMembers](), Decision: reflect.TypeFor[DecisionMembers](),
	FindingStep: reflect.TypeFor[DecisionMembers](), Scope: reflect.TypeFor[ScopeMembers](), Photo: reflect.TypeFor[PhotoMembers](),
	ProvedDead: reflect.TypeFor[ProvedDeadMembers](), TesterProof: reflect.TypeFor[TesterProofMembers](),
	Trace: reflect.TypeFor[TraceMembers](), LookedAfter: reflect.TypeFor[LookedAfterMembers](),
	Worked: reflect.TypeFor[WorkedMembers](), Timed: reflect.TypeFor[TimedMembers](), Loaded: reflect.TypeFor[LoadedMembers](),
	DayEnd:    reflect.TypeFor[DayEndMembers](),
	PointWork: reflect.TypeFor[PointWorkMembers](),
}

// Members are the names of the members that a record of a kind has, and of those without which
// there is none.
func Members(kind RecordKind) (has, needed []string) {
	t, ok := members[kind]
	if !ok {
		return nil, nil
	}
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		has = append(has, name)
		if f.Tag.Get("needed") != "" {
			needed = append(needed, name)
		}
	}
	return has, needed
}

// MembersOf checks which members, with their values as JSON, somebody gives to a record of a kind: those of the kind and no
// others, and none missing that it needs. The error is [Errors].
func MembersOf(kind RecordKind, given map[string]string) error {
	has, needed := Members(kind)
	if has == nil {
		kinds := []string{}
		for k := range maps.Keys(members) {
			kinds = append(kinds, string(k))
		}
		slices.Sort(kinds)
		return Errors{{Field: "kind", Value: string(kind), Accept: strings.Join(kinds, ", ")}}
	}
	out := Errors{}
	for _, name := range slices.Sorted(maps.Keys(given)) {
		if !slices.Contains(has, name) {
			out = append(out, FieldError{Field: string(kind) + "." + name, Value: given[name],
				Accept: "nothing: a record of this kind has " + strings.Join(has, ", ")})
		}
	}
	for _, name := range needed {
		if _, ok := given[name]; !ok {
			out = append(out, FieldError{Field: string(kind) + "." + name, Value: "missing", Accept: "what it is"})
		}
	}
	if len(out) > 0 {
		return out
	}
	return nil
}
