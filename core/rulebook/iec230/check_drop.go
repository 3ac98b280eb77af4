package iec230

import (
	"math"
	"strings"

	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// voltageDrop judges the drop from the origin to the point (Appendix 4, 6.4) and
// notes the length at which the limit would be met, the rest as it is.
func (c *circuit) voltageDrop() {
	k := c.On(c.k.ID)
	source := working.Source{Ref: dropSource(c.drop), Confidence: c.table.Source.Confidence}
	k.From(vdLimits.Source, source)
	c.routeAssumptions(k)
	c.feed.notes(k)
	mv, x, err := millivolts(c.k)
	if err != nil {
		k.AddMissing(err.Error())
	}
	if c.k.Route.Aluminium && c.k.Route.MakerMV.Known() && !c.k.Route.MakerMV.Confirmed() {
		k.Assumes("voltage drop of the aluminium cable")
	}
	if len(k.Missing) > 0 {
		c.longestUnknown = true
		return
	}
	c.there.drop = dropAlong{known: true, mv: mv, x: x, source: source.Ref}
	rulebook.LegsMissing(k, c.k, c.run)
	if len(k.Missing) > 0 {
		c.longestUnknown = true
	}
	own := c.ownDrop(k, mv, x, source.Ref)
	volts := own
	if len(c.feed.via) > 0 {
		volts += k.Step("ahead of it", "drop of "+strings.Join(c.feed.via, ", "), "at what they feed after diversity",
			c.feed.volts, "V", source.Ref)
	}
	if s := &c.Job.Supply; s.TailsM.Known() && s.TailsMM2.Known() {
		if tail, tx, err := MillivoltsPerAmpereMetre("ccc_single_core_70", s.TailsMM2.V(), 1, "C"); err == nil {
			volts += k.Step("tails", "mV/A/m × Ib × L / 1000", c.Text(tail, " × ", c.designs, " × ", s.TailsM.V(), " / 1000"),
				physics.Drop(tail, tx, 1, c.designs, s.TailsM.V()), "V", dropTables[singleTable].Source.Ref)
		}
	}
	c.there.drop.ahead = volts - own
	if len(k.Missing) > 0 {
		return
	}
	limit := c.rule(k, c.rules.drop)
	pc := k.Step("drop", "V / U0", c.Text(volts, " / ", NominalV), volts/NominalV*100, "%", "")
	k.Max(pc, limit)
	longest := math.Inf(1)
	if own > 0 {
		longest = max(0, (limit/100*NominalV-(volts-own))*c.length/own)
		k.Step("longest", "length at the limit, the rest as it is", "", longest, "m", "")
	}
	k.Summary = c.Text(volts, " V is ", pc, " %, limit ", limit, " %.")
	if c.k.Use == useDistribution {
		k.Summary += " The final circuits after it have what is left."
	}
	c.longestByDrop = longest
}

// ownDrop is the drop of the circuit in its own run, V.
func (c *circuit) ownDrop(k *working.Check, mv, x float64, source string) float64 {
	ib := c.designs
	if c.run.Legged && c.run.Worst >= 0 {
		worst, volts := 0, -1.0
		for i := range c.run.Stops {
			if v := c.dropTo(&c.run.Stops[i]); v > volts {
				worst, volts = i, v
			}
		}
		formula, with := c.dropText(&c.run.Stops[worst], c.Text)
		return k.Step("at "+c.k.Serves.Boxes[worst].Called(), formula, with, volts, "V", source)
	}
	k.Step("L", "segments + slack + tails", c.Text(len(c.k.Route.Segments), " segments, ", c.k.Route.SlackM, " + ",
		c.k.Route.BoardTailM, " + ", c.k.Route.PointTailM, " m"), c.length, "m", "")
	switch points := c.k.Serves.Points(); {
	case c.k.Use == useRing:
		own := k.Step("circuit", "mV/A/m / 4 × 26 A × L / 1000",
			c.Text(mv, " / 4 × ", ringDropA, " × ", c.length, " / 1000"), RingDropV(mv, c.length), "V", source)
		if spur := rulebook.Longest(c.branches); spur > 0 {
			own += k.Step("longest spur", "mV/A/m × 13 A × L / 1000", c.Text(mv, " × ", plugA, " × ", spur, " / 1000"),
				physics.Drop(mv, x, 1, plugA, spur), "V", source)
		}
		return own
	case c.k.Serves.Spread && points > 1:
		n := float64(points)
		return k.Step("circuit", "mV/A/m × Ib × L / 1000 × (n + 1) / 2n, the load spread over n points",
			c.Text(mv, " × ", ib, " × ", c.length, " / 1000 × ", (n+1)/(2*n)),
			physics.Drop(mv, x, 1, ib, c.length)*(n+1)/(2*n), "V", source)
	}
	return k.Step("circuit", "mV/A/m × Ib × L / 1000", c.Text(mv, " × ", ib, " × ", c.length, " / 1000"),
		physics.Drop(mv, x, 1, ib, c.length), "V", source)
}

// plugA is the current in amperes of the fuse in a plug, for the end of a spur.
const plugA = 13.0
