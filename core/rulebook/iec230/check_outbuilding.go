package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// otherBuilding judges how another building that the circuit feeds is earthed, and
// lists the two ways with their conditions and reasons.
func (c *circuit) otherBuilding() {
	k := c.On(c.k.ID)
	k.From(outEarth.Source)
	options := make([]rulebook.Option, 0, len(outEarth.Text))
	for r := range outEarth.Text {
		id := outEarth.Row(r).Option
		judged := c.judgeOut(id)
		o := rulebook.Option{ID: id, Title: outEarth.Row(r).Title, Condition: outEarth.Row(r).Condition,
			Reason: outEarth.Row(r).Reason, Verdict: judged.Verdict, Summary: judged.Summary, Chosen: c.k.Out.Choice == id}
		if o.Chosen {
			*k = *judged
		}
		options = append(options, o)
	}
	if c.k.Out.Choice == "" {
		k.AddMissing("a decision between exporting the earth and an electrode")
		k.Summary = "To be decided. " + c.advice()
	}
	c.out.Options, c.out.Decides = options, c.Asked().ID
}

// advice says which way is the more usual here, and why.
func (c *circuit) advice() string {
	metal := c.k.Out.Metalwork
	switch {
	case c.Job.Supply.Earthing == install.TT:
		return "The house has an electrode already: its earth is exported, or the building gets its own when it is far."
	case metal == nil:
		return "Look first whether metal services or structure enter that building."
	case *metal && c.Job.Supply.Earthing == install.TNCS:
		return "With metal that touches the ground and a combined conductor ahead, an electrode is the more usual: the bond " +
			"would have to be large, and a broken conductor would reach the metal."
	case *metal:
		return "With metal that touches the ground, either serves: a bond as large as the house's, or an electrode."
	}
	return "Without metal to bond, the exported earth is the simpler."
}

func (c *circuit) judgeOut(id string) *working.Check {
	k := c.Asked().Check(c.k.ID, "")
	k.From(outEarth.Source)
	out, supply := &c.k.Out, &c.Job.Supply
	if id == ownElectrode {
		idn := 0.0
		for _, f := range c.finals(c.k.ID, nil, 0) {
			switch own := f.Protection.IdnMA; {
			case f.Protection.RCDType != "":
				idn = max(idn, own)
			case c.feed.idn == 0 && c.k.Protection.RCDType == "":
				k.AddMissing("a residual-current device for " + f.Name)
			}
		}
		idn = max(idn, c.residualMA())
		e := c.Asked().Check(c.k.ID, "")
		electrodeCheck(c.Job, e, out.RaOhm, idn)
		e.From(outEarth.Source)
		e.Missing = append(k.Missing, e.Missing...)
		e.Close()
		if len(k.Missing) > 0 {
			e.Summary = "Waits for " + k.Missing[0] + "."
		} else if e.Verdict != working.Unknown && e.Verdict != working.Fail {
			e.Summary += " The cable's protective conductor and armour end insulated there, out of reach of the new earth."
		}
		return e
	}
	switch {
	case supply.Earthing == "":
		k.AddMissing("the earthing arrangement")
	case out.Metalwork == nil:
		k.AddMissing("whether metal services or structure enter that building")
	}
	k.AddMissing(c.cable.missing...)
	if len(k.Missing) > 0 {
		k.Summary = "Waits for " + k.Missing[0] + "."
		return k
	}
	if !*out.Metalwork {
		k.Decide(true)
		k.Summary = "Nothing there needs a main bond: the cable's protective conductor earths it, as the fault checks size it."
		return k
	}
	k.From(bondingPME.Source, bondingOther.Source)
	size := mainBondBy(c.Job, k)
	if len(k.Missing) > 0 {
		k.Summary = "Waits for " + k.Missing[0] + "."
		return k
	}
	need := k.Step("main bonding", "by table for "+string(supply.Earthing), c.Text(size, " mm²"),
		MainBonding(string(supply.Earthing), size), "mm²", bondingPME.Source.Ref)
	has := k.Step("in the cable", "protective conductor, as copper", "",
		c.cable.copperMM2(c.k.Route.CPC), "mm²", conductors.Source.Ref)
	if out.BondMM2.Known() {
		has = max(has, k.Step("beside it", "bond run with the cable", "", use(k, "bond to the other building", out.BondMM2), "mm²", ""))
	}
	k.Min(has, need)
	k.Summary = c.Text("The metal there needs a main bond of ", need, " mm²; there is ", has, " mm².")
	if k.Verdict == working.Fail {
		k.Summary += c.Text(" Run ", need, " mm² beside the cable, or give the building an electrode.")
	}
	return k
}
