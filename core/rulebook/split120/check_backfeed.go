package split120

import "arvelt/core/install"

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
