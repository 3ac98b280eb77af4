package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// BarsFed are the bars of a board that sources feed beside its supply.
type BarsFed struct {
	Board *install.Board
	// AheadA is the rating of the device through which the supply feeds them, A, 0 where nobody knows it; Ahead says which that is.
	AheadA float64
	Ahead  string
	// SourceA is what a source brings to them, A.
	SourceA func(*install.Circuit) float64
	// Share is what of their rated current all of it may come to with the sources at the far end of them; 1 wherever they are.
	Share float64
	Ref   string
}

// FedFromBothSides judges bars that are fed from both sides: no device ahead of a stretch of them sees all that flows in it.
func FedFromBothSides(k *working.Check, job *install.Job, f BarsFed) {
	w, called, rated := job.Words, f.Board.Called(job.Words), f.Board.RatingA
	if !rated.Known() {
		k.AddMissing(w.Say("the rated current of the bars of %s", called))
	}
	if f.AheadA == 0 {
		k.AddMissing(w.Say("the rating of %s", f.Ahead))
	}
	if !rated.Known() || f.AheadA == 0 {
		return
	}
	if rated.Basis == install.Assumed {
		k.Assumes(w.Say("the rated current of the bars of %s", called))
	}
	sum, with := f.AheadA, unit.With(f.AheadA, "A")
	for _, c := range job.On(f.Board) {
		if c.Serves.Backfeed {
			sum += f.SourceA(c)
			with += " + " + unit.With(unit.Significant(f.SourceA(c), 3), "A")
		}
	}
	k.Step("I", "device ahead + sources", with, sum, "A", f.Ref)
	k.Max(sum, rated.V()*f.Share)
	switch {
	case !working.AtMost(sum, rated.V()*f.Share):
		k.Summary = w.Say("Together they could drive more through the bars than these are rated for, and no device would open: a smaller device ahead, " +
			"a board of a higher rating, or a connection ahead of it.")
	case !working.AtMost(sum, rated.V()):
		k.Conclude(working.Caution)
		k.Summary = w.Say("Only with the source at the far end of the bars from the supply, where it stays: see that it is, and mark it so.")
	default:
		k.Summary = w.Say("The bars bear what both sides can bring.")
	}
}
