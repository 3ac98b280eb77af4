package install

import "arvelt/core/words"

// PointStep is a piece of the work on a point of the walk.
type PointStep string

// The pieces of first and of second fix.
const (
	PointMarked PointStep = "marked"
	PointChased PointStep = "chased"
	PointBoxed  PointStep = "boxed"
	PointPiped  PointStep = "piped"
	PointCabled PointStep = "cabled"
	PointTagged PointStep = "tagged" // both ends of each of its cables bear its tag

	PointFitted PointStep = "fitted" // the accessory connected by the marking of its terminals
	PointTugged PointStep = "tugged" // every conductor pulled at once it was tightened
	PointPlated PointStep = "plated" // plate or cover on
)

// PointTrait is what a piece of work on a point is of.
type PointTrait struct {
	Step  PointStep
	Name  words.Key
	Stage Stage
	Open  bool // not every point has it: a stud wall has no chase
}

// PointTraits lists the pieces in their order.
var PointTraits = []PointTrait{{PointMarked, words.Key("Marked"), FirstFix, false}, {PointChased, words.Key("Chased"), FirstFix, true},
	{PointBoxed, words.Key("Box in"), FirstFix, false}, {PointPiped, words.Key("Conduit in"), FirstFix, true}, {PointCabled, words.Key("Cable in"),
		FirstFix, false},
	{PointTagged, words.Key("Both ends tagged"), FirstFix, false}, {PointFitted, words.Key("Connected by its marking"), SecondFix, false},
	{PointTugged, words.Key("Every conductor tugged"), SecondFix, false}, {PointPlated, words.Key("Plate on"), SecondFix, false}}

// PointSteps lists their ids.
var PointSteps = func() (out []PointStep) {
	for _, t := range PointTraits {
		out = append(out, t.Step)
	}
	return out
}()

// Of is what a piece of work on a point is of.
func (s PointStep) Of() PointTrait {
	for _, t := range PointTraits {
		if t.Step == s {
			return t
		}
	}
	return PointTrait{}
}

// Worked reports whether the job works on a point: it makes or moves it.
func (p *RoomPoint) Worked() bool { return p.Kind != "" && p.State != Kept && p.State != Removed }
