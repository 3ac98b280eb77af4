package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/runs"
)

// stops are the figures at each box of the run: resistances at 75 °C, as the table of conductors has them (Chapter 9 Table 8), which is
// how hot a fault and a full load make them.
func (c *circuit) stops() []rulebook.StopReport {
	by := []string{deviceName(&c.k.Protection)}
	seen := map[string]bool{c.k.ID: true}
	for up := c.Circuit(c.k.From); up != nil && !seen[up.ID]; up = c.Circuit(up.From) {
		seen[up.ID] = true
		by = append(by, "the breaker of "+up.Name)
	}
	out := c.Stops(c.k, c.run, by)
	names := map[string]string{}
	for i := range c.k.Serves.Boxes {
		names[c.k.Serves.Boxes[i].ID] = c.k.Serves.Boxes[i].Called()
	}
	for i := range out {
		r := &out[i]
		if i < len(c.boxes) {
			for _, id := range c.boxes[i].Protected {
				if n := names[id]; n != "" && id != r.ID {
					r.By = append([]string{"the ground-fault outlet at " + n}, r.By...)
				} else if id == r.ID {
					r.By = append([]string{"its own ground-fault device"}, r.By...)
				}
			}
			for _, id := range c.boxes[i].Darkens {
				if id != r.ID {
					r.Protects = append(r.Protects, id)
				}
			}
		}
		if r.OutM != nil {
			c.figures(r, &c.run.Stops[i])
		}
	}
	return out
}

func (c *circuit) figures(r *rulebook.StopReport, s *runs.Stop) {
	w := c.At(r)
	table := under(conductors.Table, c.code).Ref
	hot := c.ohmPerM(c.material, c.size)
	r.R1 = w.Step("hot", "R of the table × L", w.With(hot*kft, " Ω/kft × ", feet(s.SeenM), " ft"), hot*s.SeenM, "Ω", table)
	if neutralOf(c.k) {
		r.Rn = r.R1
	}
	if size, material := c.groundOf(); size != "" {
		ground := c.ohmPerM(material, size)
		r.R2 = w.Step("ground", "R of the table × L", w.With(ground*kft, " Ω/kft × ", feet(s.SeenM), " ft"), ground*s.SeenM, "Ω", table)
		r.R1R2 = w.Step("hot + ground", "at 75 °C", "", *r.R1+*r.R2, "Ω", "")
	}
	if c.faultKA != nil && r.R1R2 != nil && c.k.From == "" {
		supply := lineV / (*c.faultKA * 1000)
		r.ZsHot = w.Step("loop", "supply + hot + ground", w.With(supply, " + ", *r.R1R2), supply+*r.R1R2, "Ω", "")
		r.FaultA = w.Step("fault current", "120 V / loop", w.With(legV, " / ", *r.ZsHot), legV / *r.ZsHot, "A", clauseUpsize.ref(c.code))
	}
	if c.loadA > 0 {
		volts := voltsOf(c.k)
		v := w.Step("drop from the panel", "2 × K × I × L / cmil", w.With("2 × ", resistivityK(c.material), " × ", c.loadA, " × ", feet(s.SeenM), " / ",
			Cmil(c.size)), dropV(c.material, c.size, c.loadA, feet(s.SeenM), 1), "V", under(voltageLimits.Table, c.code).Ref)
		r.DropV = v
		r.DropPc = w.Step("of the voltage", "drop / U, and what feeds it", w.With(*v, " / ", volts, ", + ", c.dropAhead, " %"), *v/volts*100+c.dropAhead, "%", "")
	}
}

// ohmPerM is the resistance of a metre of a conductor at 75 °C, Ω.
func (c *circuit) ohmPerM(material, size string) float64 {
	return conductors.Num(conductors.Find(func(it *conductorsRow) bool { return it.Size == size }), "r_dc_"+material+"_ohm_kft") / kft
}

// groundOf is the size and material of the equipment grounding conductor; none where metal conduit is it, or where it is not chosen.
func (c *circuit) groundOf() (size, material string) {
	switch {
	case c.k.Route.CPC == install.ArmourCPC:
		return "", ""
	case c.k.Route.CPC == install.SeparateCPC || c.row.cores == 0:
		return sizeOf[c.k.Route.CPCMM2], "cu"
	}
	return c.row.ground[c.size], c.material
}

// StopsOf are the figures at each box of the run of a circuit with their working.
func (p Practice) StopsOf(job *install.Job, circuit string) []rulebook.StopReport {
	k := job.CircuitByID(circuit)
	if k == nil {
		return nil
	}
	s := newSystem(p, job)
	s.Working = true
	return s.report(k).Run
}
