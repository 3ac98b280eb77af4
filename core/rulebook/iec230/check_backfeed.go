package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// backfeed judges each overcurrent and residual device that power can flow back through:
// that of an infeed and of every circuit on the way to it.
func (c *circuit) backfeed() {
	back := c.k.Serves.Backfeed
	for i := range c.Job.Circuits {
		o := &c.Job.Circuits[i]
		back = back || o.Serves.Backfeed && c.feeds(c.k, o)
	}
	if !back {
		return
	}
	k := c.On(c.k.ID)
	c.out.FeedsBack = true
	k.From(working.Source{Ref: "530.3.201, 551.7", Confidence: "medium"}, rcdRules.Source)
	switch p := c.k.Protection.BothWays; {
	case p == nil:
		k.AddMissing("the manufacturer's statement that the device works with power from either side")
	case !*p:
		k.Decide(false)
		k.Summary = "Power can flow back through it and the device is made for one direction only: it may fail when it is to open."
	default:
		k.Decide(true)
		k.Summary = "Its manufacturer states that it works with power from either side."
	}
}

// brings reports whether a circuit brings power from a source to the bars of its board.
func (c *circuit) brings() bool { return c.k.Serves.Backfeed && c.Job.BoardOf(c.k) != nil }

// bothSides judges the bars that a source feeds beside the supply (551.7.2: the rated current of an assembly is at least that of the device ahead
// and of the sources together).
func (c *circuit) bothSides() {
	b := c.Job.BoardOf(c.k)
	f := rulebook.BarsFed{Board: b, Ahead: "the main fuse", Share: 1, Ref: "551.7.2", SourceA: func(k *install.Circuit) float64 {
		switch {
		case k.Point.CurrentA > 0:
			return k.Point.CurrentA
		case k.Serves.PowerW > 0:
			return k.Serves.PowerW / NominalV
		}
		return k.Protection.RatingA
	}}
	if main := c.Job.Supply.MainFuseA; main.Known() {
		f.AheadA = main.V()
	}
	if feed := c.Job.FeederOf(c.k); feed != nil {
		f.AheadA, f.Ahead = feed.Protection.RatingA, "the device of "+feed.Name
	}
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "551.7.2", Confidence: "medium"})
	rulebook.FedFromBothSides(k, c.Job, f)
}
