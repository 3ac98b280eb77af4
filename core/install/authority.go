package install

import (
	"slices"
	"strings"

	"arvelt/core/words"
)

// Authority is an act that takes a competence. A role carries none: a person has an authority by an
// authorisation that somebody granted them, of which [Person.Holds] is what holds now, on this job.
type Authority string

// The authorities.
const (
	Isolating  Authority = "isolate"  // isolates, locks and proves dead, and says so in their own name
	Testing    Authority = "test"     // takes readings that count
	Energising Authority = "energise" // permits that it is energised
	Releasing  Authority = "release"  // clears what holds: snags before power, readings that differ, what was made safe
	Signing    Authority = "sign"     // signs a revision for the company
)

// The skills: what somebody is good at, and was trained for where the law asks. They open no record; a step that takes one is planned for somebody
// who has it.
const (
	Climbing    Authority = "height"    // works at height
	Trenching   Authority = "trench"    // digs trenches
	Terminating Authority = "terminate" // lands the heavy conductors of the supply and of feeders
	Machines    Authority = "machine"   // core drill, driving hammer
)

// Skills lists the skills.
var Skills = []Authority{Climbing, Trenching, Terminating, Machines}

// AuthorityList are all of them, in the order of the work, and the skills behind them.
var AuthorityList = append([]Authority{Isolating, Testing, Energising, Releasing, Signing}, Skills...)

// AuthorityNames are what they are called, each a message.
var AuthorityNames = map[Authority]words.Key{
	Isolating:  words.Key("Isolate and prove dead"),
	Testing:    words.Key("Take test readings"),
	Energising: words.Key("Permit to energise"),
	Releasing:  words.Key("Clear what holds the work"),
	Signing:    words.Key("Sign the revision"),

	Climbing:    words.Key("Work at height"),
	Trenching:   words.Key("Dig trenches"),
	Terminating: words.Key("Terminate heavy conductors"),
	Machines:    words.Key("Core drill and driving hammer"),
}

// Authorities are a set of them; the zero value is none.
type Authorities uint16

// AuthoritiesOf is a set of some.
func AuthoritiesOf(list ...Authority) Authorities {
	var out Authorities
	for _, a := range list {
		if i := slices.Index(AuthorityList, a); i >= 0 {
			out |= 1 << i
		}
	}
	return out
}

// EveryAuthority is the whole set.
var EveryAuthority = AuthoritiesOf(AuthorityList...)

// Has reports whether the set holds an authority. Each set holds the empty one, which is asked where none is needed.
func (a Authorities) Has(one Authority) bool { return one == "" || a&AuthoritiesOf(one) != 0 }

// List are the authorities of the set in their order, never nil.
func (a Authorities) List() []Authority {
	out := []Authority{}
	for _, one := range AuthorityList {
		if a.Has(one) {
			out = append(out, one)
		}
	}
	return out
}

// Corrects is whose records a person may put another in the place of.
type Corrects string

// Whose they are.
const (
	CorrectsOwn    Corrects = "own"    // only what one made oneself
	CorrectsAny    Corrects = "any"    // anybody's
	CorrectsSenior Corrects = "senior" // anybody's, but an apprentice and the office only their own
	CorrectsNone   Corrects = ""       // it takes the place of none
)

// RecordRule says who may add records of a kind, and whose they may correct.
type RecordRule struct {
	Roles    []string  // that may add one; nil for every role
	Needs    Authority // beside the role; empty for none
	Marks    Authority // with which the record counts; without it is taken, and opens nothing
	Corrects Corrects
	Server   bool // made by the server alone, out of what somebody asked of it
}

var (
	onSite  = []string{RoleSupervisor, RoleElectrician, RoleApprentice}
	surveys = []string{RoleOwner, RoleSupervisor, RoleElectrician, RoleApprentice}
	agrees  = []string{RoleOwner, RoleSupervisor, RoleElectrician, RoleOffice}
)

// RecordRules are the rules of every kind. The acts that take an authority take no role: an owner
// who is authorised isolates, and an electrician who is not does not.
var RecordRules = map[RecordKind]RecordRule{
	Tick:          {Roles: onSite},
	Isolation:     {Marks: Isolating, Corrects: CorrectsOwn}, // whoever switches off records it; it opens work for whoever is authorised
	ProvedDead:    {Needs: Isolating},
	TesterProof:   {Needs: Isolating},
	Lock:          {},
	LooseEnd:      {Roles: onSite, Corrects: CorrectsAny}, // of one that was cleared; who opens it again is decided with it
	Reading:       {Needs: Testing, Corrects: CorrectsAny},
	Remark:        {Needs: Releasing},
	LockTold:      {},
	LockOff:       {}, // one's own; another's as its procedure says
	Energise:      {Needs: Energising},
	SwitchedOn:    {}, // whoever saw it says so
	Guarded:       {Needs: Energising},
	RetestOrder:   {Roles: []string{RoleSupervisor}, Needs: Releasing},
	Release:       {Roles: []string{RoleSupervisor}, Needs: Releasing},
	Operator:      {Roles: agrees},
	Signature:     {Needs: Signing, Server: true},
	Reopen:        {Roles: []string{RoleOwner, RoleSupervisor}},
	Observation:   {Roles: surveys, Corrects: CorrectsSenior},
	SurveyReading: {Roles: onSite, Corrects: CorrectsSenior},
	Decision:      {Roles: agrees, Corrects: CorrectsAny},
	FindingStep:   {},
	Scope:         {Roles: agrees},
	Variation:     {Roles: agrees, Server: true},
	Photo:         {Corrects: CorrectsSenior},
	Withdrawal:    {}, // one's own; another's by who is authorised to clear what holds
	Trace:         {Roles: onSite},
	LookedAfter:   {},
	Offer:         {Roles: agrees, Server: true},
	QuoteAnswer:   {Roles: agrees, Server: true},
	Worked:        {Corrects: CorrectsOwn},
	Timed:         {Roles: surveys},
	Loaded:        {},
	DayEnd:        {Roles: onSite},
	PointWork:     {Roles: onSite},
}

// Role reports whether a role is of those that the rule takes.
func (r RecordRule) Role(role string) bool {
	return slices.Contains(Roles, role) && (r.Roles == nil || slices.Contains(r.Roles, role))
}

// MayAdd reports whether a person may add a record of a kind.
func (p Person) MayAdd(kind RecordKind) bool {
	rule, ok := RecordRules[kind]
	return ok && rule.Role(p.Role) && p.Holds.Has(rule.Needs)
}

// MayCorrect reports whether a person may put a record in the place of another.
func (p Person) MayCorrect(old *Record) bool {
	switch RecordRules[old.Kind].Corrects {
	case CorrectsAny:
		return true
	case CorrectsOwn:
		return old.IsBy(p)
	case CorrectsSenior:
		return old.IsBy(p) || p.Role != RoleApprentice && p.Role != RoleOffice
	}
	return false
}

// Kinds are the kinds of record that a person may add, or have the server make.
func (p Person) Kinds() []RecordKind {
	out := []RecordKind{}
	for _, k := range Kinds {
		if p.MayAdd(k) {
			out = append(out, k)
		}
	}
	return out
}

// May says in words who may add a record by the rule.
func (r RecordRule) May(w *words.Catalogue) string {
	switch {
	case r.Needs != "":
		return w.Say("whoever is authorised for it: %s", strings.ToLower(w.Say(string(AuthorityNames[r.Needs]))))
	case r.Roles == nil:
		return w.Say("everybody")
	}
	said := make([]string, len(r.Roles))
	for i, role := range r.Roles {
		said[i] = w.Say(role)
	}
	return strings.Join(said, ", ")
}

// StepKind is what a step of the plan is of, where it matters who may say that it is done.
type StepKind string

// The kinds of step. The zero value is of any other.
const (
	MarkingStep    StepKind = "marking"    // setting out
	DiggingStep    StepKind = "digging"    // breaking the ground and filling it
	DrillingStep   StepKind = "drilling"   // holes, chases, boxes
	RunningStep    StepKind = "running"    // cable and conduit run and fixed, not connected
	PicturingStep  StepKind = "picturing"  // a picture of it
	LabellingStep  StepKind = "labelling"  // labels and marking
	ConnectingStep StepKind = "connecting" // joints, terminals, electrodes, enclosures
	ClosingStep    StepKind = "closing"    // letting a wall be closed over what is in it
	ShowingStep    StepKind = "showing"    // handing over to the owner
)

// MayHold reports whether somebody of a role can be given an authority: an apprentice learns to
// test and has skills, and decides nothing.
func MayHold(role string, a Authority) bool {
	return slices.Contains(AuthorityList, a) && (role != RoleApprentice || a == Testing || slices.Contains(Skills, a))
}
