package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// use notes a fact in a check: missing when unknown, assumed when nobody
// confirmed it. It returns the value.
func use(c *working.Check, name string, fact install.Fact) float64 {
	if !fact.Known() {
		c.Lacks(name)
	} else if !fact.Confirmed() {
		c.Assumes(name)
	}
	return fact.V()
}

// demandOf computes the maximum demand before and after the job's circuits,
// and checks it against the main fuse. The charge point is undiversified; load
// management lowers it to what the limit leaves.
func demandOf(job *install.Job) (rulebook.Demand, working.Check) {
	c := working.New("demand", "", "Maximum demand against the main fuse", "A")
	c.From(diversity.source)
	d := rulebook.Demand{Shares: []rulebook.Share{}}
	amps, sockets := map[string][]float64{}, map[string]bool{}
	for _, l := range job.Loads.Items {
		a := 0.0
		if l.Amps != nil {
			a = *l.Amps
		} else if l.Watts != nil {
			a = *l.Watts / NominalV
		}
		for range l.Count {
			amps[l.Category] = append(amps[l.Category], a)
		}
		sockets[l.Category] = sockets[l.Category] || l.SocketInUnit
		if l.Basis != install.Measured && l.Basis != install.Enquiry {
			c.Assumes("load: " + l.Name)
		}
	}
	if len(job.Loads.Items) == 0 {
		c.Lacks("the existing load (Survey sheet)")
	}
	for _, row := range demandRows {
		if len(amps[row.category]) == 0 {
			continue
		}
		a, rule, with, err := Diversified(row.category, amps[row.category], sockets[row.category])
		if err != nil {
			c.Lacks(err.Error())
			continue
		}
		c.Step(row.name, rule, with, a, "A", diversity.source.Ref)
		d.Shares = append(d.Shares, rulebook.Share{Category: row.category, Name: row.name, Amps: a})
		d.BeforeA += a
	}
	c.Step("before", "sum", "", d.BeforeA, "A", "")
	for i := range job.Circuits {
		k := &job.Circuits[i]
		a := k.Point.DesignA()
		if k.Point.ManagedA > 0 {
			a = ManagedCharge(a, k.Point.ManagedA, d.BeforeA+d.AddedA)
			c.Step(k.Name, "load management: min(point, limit − rest), 0 under 6 A", "min("+f(k.Point.DesignA())+", "+f(k.Point.ManagedA)+" − "+f(d.BeforeA+d.AddedA)+")", a, "A", evRules.source.Ref)
		} else {
			c.Step(k.Name, "in full, no diversity", "", a, "A", "722.311")
		}
		category := "other_points"
		if k.Use == "ev" {
			category = "ev"
		}
		d.Shares = append(d.Shares, rulebook.Share{Category: category, Name: k.Name, Amps: a, New: true})
		d.AddedA += a
	}
	d.AfterA = c.Step("after", "before + new circuits", f(d.BeforeA)+" + "+f(d.AddedA), d.BeforeA+d.AddedA, "A", "")
	d.FuseA = use(c, "main fuse rating", job.Supply.MainFuseA)
	if d.FuseA > 0 {
		c.Max(d.AfterA, d.FuseA)
		c.Says = f(d.AfterA) + " A of " + f(d.FuseA) + " A with the new circuits; " + f(d.BeforeA) + " A before."
	}
	if c.Verdict == working.Unknown {
		c.Says = "Not yet known: the existing load or the main fuse is missing."
	}
	return d, *c
}

// supplyChecks judge the tails, the main earthing conductor, the main bonding
// and, on TT, the electrode.
func supplyChecks(job *install.Job) []working.Check {
	s := &job.Supply
	out := make([]working.Check, 0, 6)

	tails := working.New("tails", "", "Tails against the main fuse", "A")
	tails.From(cccTails.source)
	mm2, fuse := use(tails, "size of the tails", s.TailsMM2), use(tails, "main fuse rating", s.MainFuseA)
	if len(tails.Missing) == 0 {
		if r := cccTails.where("size_mm2", mm2); r >= 0 {
			iz := tails.Step("Iz", "tabulated, clipped direct", f(mm2)+" mm²", cccTails.num(r, "ccc_a"), "A", cccTails.source.Ref)
			tails.Max(fuse, iz)
			tails.Says = "The fuse of " + f(fuse) + " A protects tails that carry " + f(iz) + " A."
		} else {
			tails.Lacks("a tabulated size of tails (16, 25 or 35 mm²)")
		}
	}
	out = append(out, *tails)

	earth := working.New("earthing-conductor", "", "Main earthing conductor", "mm²")
	earth.From(cpcMin.source, earthingMin.source)
	installed, line := use(earth, "size of the main earthing conductor", s.EarthMM2), use(earth, "size of the tails", s.TailsMM2)
	if len(earth.Missing) == 0 {
		need := earth.Step("by table", "protective conductor for the tails", f(line)+" mm²", CPCTable(line), "mm²", cpcMin.source.Ref)
		earth.Min(installed, need)
		earth.Says = f(installed) + " mm² installed, " + f(need) + " mm² by the table; a smaller one needs the adiabatic calculation."
	}
	out = append(out, *earth)

	if !s.NoExtraneous {
		if len(s.Bonds) == 0 {
			b := working.New("bonding", "", "Main bonding", "mm²")
			b.Lacks("which services come in metal and how they are bonded (Supply sheet)")
			out = append(out, *b)
		}
		for _, bond := range s.Bonds {
			out = append(out, bondCheck(s, bond))
		}
	}

	if s.Earthing == "TT" {
		out = append(out, *electrodeCheck("electrode", "", "Earth electrode of the installation", s.ElectrodeOhm, rcdRules.fixed("additional_protection_idn_max")))
	}
	for i := range out {
		if len(out[i].Missing) > 0 {
			out[i].Verdict, out[i].Says = working.Unknown, "Not yet known: "+out[i].Missing[0]+" is missing."
		}
	}
	return out
}

func bondCheck(s *install.Supply, bond install.Bond) working.Check {
	b := working.New("bonding-"+bond.Service, "", "Main bonding to "+bond.Service, "mm²")
	b.From(bondingPME.source, bondingOther.source)
	installed := use(b, "size of the bond to "+bond.Service, bond.MM2)
	size := 0.0
	switch s.Earthing {
	case "":
		b.Lacks("the earthing arrangement")
	case "TN-C-S":
		size = s.NeutralMM2.V()
		if !s.NeutralMM2.Known() {
			size = bondingPME.num(0, "supply_neutral_cu_equiv_to_mm2")
			b.Assumes("operator's neutral of " + f(size) + " mm² copper or smaller")
		} else if !s.NeutralMM2.Confirmed() {
			b.Assumes("operator's neutral")
		}
	default:
		size = use(b, "size of the main earthing conductor", s.EarthMM2)
	}
	if len(b.Missing) == 0 {
		need := b.Step("main bonding", "by table for "+s.Earthing, f(size)+" mm²", MainBonding(s.Earthing, size), "mm²", bondingPME.source.Ref)
		b.Min(installed, need)
		b.Says = f(installed) + " mm² installed, " + f(need) + " mm² needed."
	}
	return *b
}

// electrodeCheck judges Ra × IΔn ≤ 50 V, with a caution above 200 Ω.
func electrodeCheck(id, circuit, title string, ra install.Fact, idn float64) *working.Check {
	c := working.New(id, circuit, title, "Ω")
	c.From(ttLimits.source)
	r := use(c, "electrode resistance", ra)
	if len(c.Missing) > 0 {
		c.Says = "Not yet known: the electrode's resistance is missing."
		return c
	}
	limit := c.Step("Ra max", "50 V / IΔn", "50 / ("+f(idn)+" / 1000)", TouchV*1000/idn, "Ω", ttLimits.source.Ref)
	c.Step("touch voltage", "Ra × IΔn", f(r)+" × "+f(idn)+" / 1000", r*idn/1000, "V", ttLimits.source.Ref)
	c.Max(r, limit)
	c.Says = f(r) + " Ω with a " + f(idn) + " mA device."
	if c.Verdict != working.Fail && !working.AtMost(r, stableRa) {
		c.Verdict = working.Caution
		c.Says += " Above " + f(stableRa) + " Ω it may not stay so as the ground dries or freezes: drive deeper or add a rod."
	}
	return c
}
