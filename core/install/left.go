package install

import "arvelt/core/words"

// LeftKind is what somebody leaves as it is for the time being. The zero value is of anything that has no kind.
type LeftKind string

// The kinds of what is left.
const (
	LeftLoop         LeftKind = "loop"         // a cable in use, coiled and not cut
	LeftTail         LeftKind = "tail"         // a cable end that something will be connected to
	LeftBlindEnd     LeftKind = "blind-end"    // a cable end that goes nowhere
	LeftDormant      LeftKind = "dormant"      // a point that is fitted and not connected, for later
	LeftSupport      LeftKind = "support"      // cable or equipment fixed for now
	LeftDisconnected LeftKind = "disconnected" // taken off the supply for now
	LeftCover        LeftKind = "cover"        // a cover or plate that is off
	LeftSupply       LeftKind = "supply"       // a temporary supply
	LeftJoint        LeftKind = "joint"        // a joint that is still to be closed or made accessible
	LeftCovered      LeftKind = "covered"      // moved or covered by others
)

// LeftKinds lists them.
var LeftKinds = []LeftKind{LeftBlindEnd, LeftCover, LeftTail, LeftLoop, LeftDisconnected, LeftSupply, LeftJoint, LeftSupport, LeftDormant, LeftCovered}

// LeftWait is what has to wait for it.
type LeftWait string

// What waits.
const (
	WaitsEnergise LeftWait = "energise" // its circuit is not energised
	WaitsService  LeftWait = "service"  // its circuit is tested, and not put into service
	WaitsHandover LeftWait = "handover" // the job is not handed over
	WaitsVisit    LeftWait = "visit"    // it may stay beyond the handover, on the pack, with who comes back for it and when
)

// LeftProof is what shows that it was put right.
type LeftProof string

// The proofs.
const (
	ProofReading LeftProof = "reading" // a test of its circuit that was read since and passes
	ProofPicture LeftProof = "picture" // a picture of it, taken since
)

// LeftTrait is what follows from a kind.
type LeftTrait struct {
	Name  words.Key
	Waits LeftWait
	Proof LeftProof
	Ends  bool // ends of conductors that may be touched where they are in reach
	Open  bool // live parts behind it may be touched where nobody stands by
	Rated bool // its rating is asked for
	Fed   bool // what protects it and what hangs on it are asked for
	// Others: others did it, who are charged for putting it right.
	Others bool
	// Care is what to be careful of until then.
	Care words.Key
}

// LeftTraits are what follows from each kind.
var LeftTraits = map[LeftKind]LeftTrait{
	LeftLoop: {Name: words.Key("Loop of cable, whole and not cut"), Waits: WaitsHandover, Proof: ProofReading,
		Care: words.Key("It may be live: nobody cuts, moves or plasters over it. It is cut later, isolated and proved dead.")},
	LeftTail: {Name: words.Key("Cable tail, to be connected"), Waits: WaitsEnergise, Proof: ProofReading, Ends: true,
		Care: words.Key("Cap each conductor, label the end, and keep it out of reach until it is connected.")},
	LeftBlindEnd: {Name: words.Key("Blind end of a cable"), Waits: WaitsEnergise, Proof: ProofReading, Ends: true,
		Care: words.Key("Cap each conductor in an enclosure, label the end, and keep it out of reach of whoever works there.")},
	LeftDormant: {Name: words.Key("Point in place, not connected"), Waits: WaitsVisit, Proof: ProofReading,
		Care: words.Key("Marked as not in use at both ends. It is tested before it is ever connected.")},
	LeftSupport: {Name: words.Key("Fixed for now"), Waits: WaitsVisit, Proof: ProofPicture,
		Care: words.Key("Cables on an escape route stay held in a fire: what is fixed for now is not.")},
	LeftDisconnected: {Name: words.Key("Disconnected for now"), Waits: WaitsHandover, Proof: ProofReading, Ends: true,
		Care: words.Key("Say at the device why it is off. Prove it dead and test it before it is connected again.")},
	LeftCover: {Name: words.Key("Cover or plate off"), Waits: WaitsService, Proof: ProofReading, Open: true,
		Care: words.Key("Nobody leaves it live and open: fit a temporary plate, or switch off and lock.")},
	LeftSupply: {Name: words.Key("Temporary supply"), Waits: WaitsHandover, Proof: ProofPicture, Rated: true, Fed: true,
		Care: words.Key("With overcurrent and residual-current protection of its own, out of the wet and off the floor.")},
	LeftJoint: {Name: words.Key("Joint not finished"), Waits: WaitsService, Proof: ProofPicture, Open: true, Rated: true,
		Care: words.Key("Closed so that it takes a tool, labelled, and accessible unless its maker says that it needs no maintenance.")},
	LeftCovered: {Name: words.Key("Moved or covered by others"), Waits: WaitsHandover, Proof: ProofPicture, Others: true,
		Care: words.Key("Find it before anything is drilled or cut there.")},
}

// LeftTrigger is what it waits for, where that is no date.
type LeftTrigger string

// What it may wait for.
const (
	AfterPlaster  LeftTrigger = "plaster"
	AfterBoarding LeftTrigger = "boarding"
	AfterPaint    LeftTrigger = "paint"
	AfterRoof     LeftTrigger = "roof"
	AfterOthers   LeftTrigger = "others" // another trade, named beside it
	AfterSupply   LeftTrigger = "supply" // the supply is there
	AfterClient   LeftTrigger = "client" // the client decides or brings something
)

// LeftTriggers lists them.
var LeftTriggers = []LeftTrigger{AfterPlaster, AfterBoarding, AfterPaint, AfterRoof, AfterOthers, AfterSupply, AfterClient}

// LeftTriggerNames are what they are called, each a message.
var LeftTriggerNames = map[LeftTrigger]words.Key{AfterPlaster: words.Key("after plastering"), AfterBoarding: words.Key("after boarding"),
	AfterPaint: words.Key("after painting"), AfterRoof: words.Key("after the roof is closed"), AfterOthers: words.Key("after another trade"),
	AfterSupply: words.Key("once the supply is on"), AfterClient: words.Key("once the client has decided")}

// NotDead reports whether conductors there count as live: nobody has proved them dead.
func (r *Record) NotDead() bool { return r.Alive == nil || *r.Alive }

// Endangers reports whether people are at risk by what was left, as it was noted: an end in reach that is not covered and not proved dead, or
// something open and not proved dead that nobody stands by.
func (r *Record) Endangers() bool {
	t := LeftTraits[r.Left]
	switch {
	case r.Done || r.Shielded || !r.NotDead():
		return false
	case t.Ends:
		return r.Reach == nil || *r.Reach
	}
	return t.Open && !r.Attended
}

// LeftKey names what was left, for the finding that says how people are at risk by it; id is that of its first record.
func LeftKey(id string) string { return "left " + id }

// FirstOf is the id of the first record in the place of which others were put.
func (j *Job) FirstOf(id string) string {
	for range j.Records {
		r := j.RecordByID(id)
		if r == nil || r.Supersedes == "" {
			break
		}
		id = r.Supersedes
	}
	return id
}
