package iec230

import (
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// recessed judges luminaires that sit in a ceiling: under a habitable room they
// keep its fire time, under insulation they are made for it.
func (c *circuit) recessed() {
	r := &c.k.Serves.Recessed
	k := c.On(c.k.ID)
	k.From(recessed.Source)
	fails := ""
	if r.Fire {
		switch {
		case r.Tested == nil:
			k.AddMissing("the manufacturer's statement that luminaire or hood was tested for the fire time of this kind of ceiling")
		case !*r.Tested:
			fails = "The ceiling keeps fire from the room above: " +
				recessed.One(func(it *recessedRow) bool {
					return it.Rule == "ceiling that is part of "+
						"fire separation"
				}).Value + "."
		}
	}
	if r.Covered {
		row := recessed.Find(func(it *recessedRow) bool { return it.Rule == "insulation cover" })
		switch {
		case r.Coverable == nil:
			k.AddMissing("whether the luminaires are marked for a cover of insulation")
		case !*r.Coverable:
			if fails != "" {
				fails += " "
			}
			fails += "Insulation lies over them: " + recessed.Row(row).Value + "; " + recessed.Row(row).Remark + "."
		}
	}
	if fails != "" {
		k.Missing = []string{} // it fails whatever the rest would say
	}
	k.Decide(fails == "")
	if len(k.Missing) > 0 {
		return
	}
	k.Summary = "Suited to this ceiling. Joints stay in an enclosure or a connector that needs no upkeep."
	if fails != "" {
		k.Summary = fails
	}
}

// joints judges those on the run (526.3, 526.5).
func (c *circuit) joints() {
	rulebook.Joints(c.On(c.k.ID), c.k, rulebook.JointTerms{Rated: true, SealedServes: true,
		Source: working.Source{Ref: "BS 7671 526.3, 526.5; BS 5733 for joints marked maintenance-free", Confidence: "high"}})
}
