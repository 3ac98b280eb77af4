package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/runs"
	"arvelt/core/working"
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
	step := func(symbol, formula, with string, v float64, unit, source string) *float64 {
		r.Steps = append(r.Steps, working.Step{Symbol: symbol, Formula: formula, With: with, Value: v, Unit: unit, Source: source})
		return &v
	}
	table := under(conductors.Table, c.code).Ref
	hot := c.ohmPerM(c.material, c.size)
	r.R1 = step("hot", "R of the table × L", text(hot*kft, " Ω/kft × ", feet(s.SeenM), " ft"), hot*s.SeenM, "Ω", table)
	if neutralOf(c.k) {
		r.Rn = r.R1
	}
	if size, material := c.groundOf(); size != "" {
		ground := c.ohmPerM(material, size)
		r.R2 = step("ground", "R of the table × L", text(ground*kft, " Ω/kft × ", feet(s.SeenM), " ft"), ground*s.SeenM, "Ω", table)
		r.R1R2 = step("hot + ground", "at 75 °C", "", *r.R1+*r.R2, "Ω", "")
	}
	if c.faultKA != nil && r.R1R2 != nil && c.k.From == "" {
		supply := lineV / (*c.faultKA * 1000)
		r.ZsHot = step("loop", "supply + hot + ground", text(supply, " + ", *r.R1R2), supply+*r.R1R2, "Ω", "")
		r.FaultA = step("fault current", "120 V / loop", text(legV, " / ", *r.ZsHot), legV / *r.ZsHot, "A", clauseUpsize.ref(c.code))
	}
	if c.loadA > 0 {
		volts := voltsOf(c.k)
		v := step("drop from the panel", "2 × K × I × L / cmil", text("2 × ", resistivityK(c.material), " × ", c.loadA, " × ", feet(s.SeenM), " / ",
			Cmil(c.size)), dropV(c.material, c.size, c.loadA, feet(s.SeenM), 1), "V", under(voltageLimits.Table, c.code).Ref)
		r.DropV = v
		r.DropPc = step("of the voltage", "drop / U, and what feeds it", text(*v, " / ", volts, ", + ", c.dropAhead, " %"), *v/volts*100+c.dropAhead, "%", "")
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
