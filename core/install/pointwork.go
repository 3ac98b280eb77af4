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

	PointFound  PointStep = "found"  // others left it where it was put
	PointFitted PointStep = "fitted" // the accessory connected by the marking of its terminals
	PointTugged PointStep = "tugged" // every conductor pulled at once it was tightened
	PointLit    PointStep = "lit"    // a recessed luminaire seen lit while it hangs, before it is isolated again and pushed up
	PointPlated PointStep = "plated" // plate or cover on
)

// PointTrait is what a piece of work on a point is of.
type PointTrait struct {
	Step  PointStep
	Name  words.Key
	Stage Stage
	Open  bool // not every point has it: a stud wall has no chase
	// Free: it is said whatever holds the step of its room, as nothing is handled in it. Recessed: only a recessed luminaire has it.
	Free     bool
	Recessed bool
}

// PointTraits lists the pieces in their order.
var PointTraits = []PointTrait{
	{Step: PointMarked, Name: words.Key("Marked"), Stage: FirstFix, Free: true},
	{Step: PointChased, Name: words.Key("Chased"), Stage: FirstFix, Open: true},
	{Step: PointBoxed, Name: words.Key("Box in"), Stage: FirstFix},
	{Step: PointPiped, Name: words.Key("Conduit in"), Stage: FirstFix, Open: true},
	{Step: PointCabled, Name: words.Key("Cable in"), Stage: FirstFix},
	{Step: PointTagged, Name: words.Key("Both ends tagged"), Stage: FirstFix, Free: true},
	{Step: PointFound, Name: words.Key("Found where it was left"), Stage: SecondFix, Open: true, Free: true},
	{Step: PointFitted, Name: words.Key("Connected by its marking"), Stage: SecondFix},
	{Step: PointTugged, Name: words.Key("Every conductor tugged"), Stage: SecondFix},
	{Step: PointLit, Name: words.Key("Lit while it hangs"), Stage: SecondFix, Open: true, Free: true, Recessed: true},
	{Step: PointPlated, Name: words.Key("Plate on"), Stage: SecondFix},
}

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
