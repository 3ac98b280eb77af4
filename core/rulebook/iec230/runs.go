package iec230

import (
	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/runs"
)

// atStop is what the figures at each box of a run are made of beside its own cable.
type atStop struct {
	drop dropAlong
	loop loopAhead
}

// dropAlong is the drop of a metre of the run and what dropped ahead of it.
type dropAlong struct {
	known  bool
	mv, x  float64 // mV/A/m
	ahead  float64 // V, from the origin to the board
	source string
}

// loopAhead is the loop ahead of the run, Ω, with the multiplier of its own conductors at the temperature of a fault.
type loopAhead struct {
	known          bool
	cold, hot, mul float64
	cmin           float64
}

// dropTo is the drop in V from the board to a stop by the load that its circuit is designed for: of a ring the one that stands for it
// at the point that is looked at, with what one plug draws along a spur; else all of the design current, spread where it is.
func (c *circuit) dropTo(s *runs.Stop) float64 {
	d := &c.there.drop
	switch {
	case c.k.Use == useRing && s.BackM > 0:
		return physics.Drop(d.mv, d.x, 1, ringDropA, s.SeenM-s.SpurM) + physics.Drop(d.mv, d.x, 1, plugA, s.SpurM)
	case c.k.Serves.Spread:
		return physics.Drop(d.mv, d.x, 1, c.designs, s.SpreadM)
	}
	return physics.Drop(d.mv, d.x, 1, c.designs, s.SeenM)
}

// dropText says how that is reckoned.
func (c *circuit) dropText(s *runs.Stop, text func(...any) string) (formula, with string) {
	mv := c.there.drop.mv
	switch {
	case c.k.Use == useRing && s.BackM > 0 && s.SpurM > 0:
		return "mV/A/m × (26 A × a × b / (a + b) + 13 A × spur) / 1000",
			text(mv, " × (", ringDropA, " × ", s.SeenM-s.SpurM, " + ", plugA, " × ", s.SpurM, ") / 1000")
	case c.k.Use == useRing && s.BackM > 0:
		return "mV/A/m × 26 A × a × b / (a + b) / 1000", text(mv, " × ", ringDropA, " × ", s.SeenM, " / 1000")
	case c.k.Serves.Spread:
		return "mV/A/m × the current of each leg × its length / 1000, the load spread over the points",
			text(mv, " × ", c.designs, " × ", s.SpreadM, " / 1000")
	}
	return "mV/A/m × Ib × L / 1000", text(mv, " × ", c.designs, " × ", s.SeenM, " / 1000")
}

// opensIt is what opens the circuit, the nearest first.
func (c *circuit) opensIt() []string {
	out := []string{deviceName(&c.k.Protection)}
	if kind, idn, _ := c.residualDevice(); kind != "" {
		name := c.Text("residual-current device, type ", kind, ", ", idn, " mA")
		if g := c.Job.GroupOf(c.k); g != nil {
			name += ", " + g.Name
		}
		out = append(out, name)
	}
	for i := len(c.feed.via) - 1; i >= 0; i-- {
		out = append(out, "the device of "+c.feed.via[i])
	}
	if c.Job.Supply.MainFuseA.Known() {
		out = append(out, c.Text("main fuse, ", c.Job.Supply.MainFuseA.V(), " A"))
	}
	return out
}

// stops are the figures at each box of the run.
func (c *circuit) stops() []rulebook.StopReport {
	out := c.Stops(c.k, c.run, c.opensIt())
	for i := range out {
		r, s := &out[i], &c.run.Stops[i]
		if c.k.Serves.Boxes[i].Device == install.FusedUnit {
			r.Protects = r.Onward
		}
		if r.OutM == nil {
			continue
		}
		w := c.At(r)
		if len(c.cable.missing) == 0 {
			formula, with := rulebook.Seen(s, "r1 / 1000", w.With)
			r.R1 = w.Step("R1", formula, w.With(c.cable.R1, " / 1000, ", with), c.cable.R1*s.SeenM/1000, "Ω", conductors.Source.Ref)
			r.Rn = r.R1
			r.R2 = w.Step("R2", "as R1, by the protective conductor", w.With(c.cable.R2, " / 1000"), c.cable.R2*s.SeenM/1000, "Ω", conductors.Source.Ref)
			r.R1R2 = w.Step("R1+R2", "at 20 °C", "", *r.R1+*r.R2, "Ω", "")
		}
		if l := &c.there.loop; l.known && r.R1R2 != nil {
			r.ZsCold = w.Step("Zs cold", "what is ahead + R1+R2", w.With(l.cold, " + ", *r.R1R2), l.cold+*r.R1R2, "Ω", "")
			r.ZsHot = w.Step("Zs hot", "what is ahead + R1+R2 × multiplier", w.With(l.hot, " + ", *r.R1R2, " × ", l.mul), l.hot+*r.R1R2*l.mul, "Ω",
				multipliers.Source.Ref)
			r.FaultA = w.Step("fault current", "U0 × Cmin / Zs hot", w.With(NominalV, " × ", l.cmin, " / ", *r.ZsHot), NominalV*l.cmin / *r.ZsHot, "A", "411.4.4")
		}
		if d := &c.there.drop; d.known && c.designs > 0 {
			formula, with := c.dropText(s, w.With)
			own := w.Step("drop from the board", formula, with, c.dropTo(s), "V", d.source)
			r.DropV = w.Step("drop from the origin", "with what drops ahead of it", w.With(*own, " + ", d.ahead), *own+d.ahead, "V", "")
			r.DropPc = w.Step("drop", "V / U0", w.With(*r.DropV, " / ", NominalV), *r.DropV/NominalV*100, "%", "")
		}
	}
	return out
}

// StopsOf are the figures at each box of the run of a circuit with their working.
func (Practice) StopsOf(job *install.Job, circuit string) []rulebook.StopReport {
	k := job.CircuitByID(circuit)
	if k == nil {
		return nil
	}
	s := newSystem(job)
	s.Working = true
	return s.report(k).Run
}
