package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// backfeed judges each breaker that power can flow back through, that of an infeed and of
// every feeder on the way to it: it must be suitable for it, which one marked LINE and
// LOAD is not (NEC 705.30(D); 408.36(D) for how it is held).
func (c *circuit) backfeed() {
	back := c.k.Serves.Backfeed
	for i := range c.Job.Circuits {
		o := &c.Job.Circuits[i]
		back = back || o.Serves.Backfeed && onTheWay(c.Job, c.k.ID, o)
	}
	if !back {
		return
	}
	k := c.On(c.k.ID)
	c.out.FeedsBack = true
	k.From(clauseBackfeed.in(c.code))
	switch p := c.k.Protection.BothWays; {
	case p == nil:
		k.AddMissing("whether the breaker is suitable for backfeed: its manufacturer says so, and it is not marked LINE and LOAD")
	case !*p:
		k.Decide(false)
		k.Summary = "Power can flow back through it and it is made for one direction only: it may fail when it is to open."
	default:
		k.Decide(true)
		k.Summary = "Its manufacturer states that it is suitable for backfeed. A breaker that is plugged on is held down by a fastener."
	}
}

// Shares of the rating of a bus that the device ahead and the sources may come to with the source at its far end: NEC 705.12(B)(3)(2), and of a
// dwelling CEC 64-112(4).
const (
	busShareNEC = 1.2
	busShareCEC = 1.25
)

// sourceShare is what of its own current a source is counted with (NEC 705.28(A): it flows for hours).
const sourceShare = 1.25

// brings reports whether a circuit brings power from a source to the bars of its board.
func (c *circuit) brings() bool { return c.k.Serves.Backfeed && c.Job.BoardOf(c.k) != nil }

// bothSides judges the bus that a source feeds beside the service.
func (c *circuit) bothSides() {
	b := c.Job.BoardOf(c.k)
	f := rulebook.BarsFed{Board: b, Ahead: "the main breaker", Share: busShareNEC, Ref: clauseBothSides.in(c.code).Ref,
		SourceA: func(k *install.Circuit) float64 {
			switch {
			case k.Point.CurrentA > 0:
				return sourceShare * k.Point.CurrentA
			case k.Serves.PowerW > 0:
				return sourceShare * k.Serves.PowerW / voltsOf(k)
			}
			return k.Protection.RatingA
		}}
	if c.code == CEC {
		f.Share = busShareCEC
	}
	if b.MainSwitchA.Known() {
		f.AheadA = b.MainSwitchA.V()
	}
	if feed := c.Job.FeederOf(c.k); feed != nil {
		f.AheadA, f.Ahead = feed.Protection.RatingA, "the breaker of "+feed.Name
	}
	k := c.On(c.k.ID)
	k.From(clauseBothSides.in(c.code))
	rulebook.FedFromBothSides(k, c.Job, f)
}

// onTheWay reports whether the circuit of an id feeds another, directly or through more.
func onTheWay(job *install.Job, id string, other *install.Circuit) bool {
	for range job.Circuits {
		if other == nil || other.From == "" {
			return false
		}
		if other.From == id {
			return true
		}
		other = job.CircuitByID(other.From)
	}
	return false
}
