package iec230

import (
	"maps"
	"strings"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

var use = rulebook.UseFact

// maximumDemand computes the maximum demand before and after the job's circuits,
// and checks it against the main fuse. New circuits are diversified together with
// what stays of their kind; a charge point is not, and load management lowers it
// to what the limit leaves.
func (s *system) maximumDemand() {
	job := s.Job
	c := s.Of("")
	c.From(diversity.Source)
	d := rulebook.Demand{Shares: []rulebook.Share{}}
	had := s.demandBefore(c, &d)
	s.demandAdded(c, &d, had)
	s.demandManaged(c, &d)
	d.AfterA = c.Step("after", "before + new circuits", s.Text(d.BeforeA, " + ", d.AddedA), d.BeforeA+d.AddedA, "A", "")
	d.FuseA = use(c, "main fuse rating", job.Supply.MainFuseA)
	if d.FuseA > 0 {
		c.Max(d.AfterA, d.FuseA)
		c.Summary = s.Text(d.AfterA, " A of ", d.FuseA, " A with the new circuits; ", d.BeforeA, " A before.")
	}
	if c.Verdict == working.Unknown {
		c.Summary = "Not recorded: the existing load or the main fuse."
	}
	s.demand = d
}

// connectedLoads are the loads of the house by category, in amperes, and the categories of
// which one has a socket-outlet in its unit.
type connectedLoads struct {
	amps    map[string][]float64
	sockets map[string]bool
}

// demandBefore counts what the house has, after diversity.
func (s *system) demandBefore(c *working.Check, d *rulebook.Demand) connectedLoads {
	had := connectedLoads{map[string][]float64{}, map[string]bool{}}
	for _, l := range s.Job.Loads.Items {
		a := 0.0
		if l.Amps != nil {
			a = *l.Amps
		} else if l.Watts != nil {
			a = *l.Watts / NominalV
		}
		for range l.Count {
			had.amps[l.Category] = append(had.amps[l.Category], a)
		}
		had.sockets[l.Category] = had.sockets[l.Category] || l.SocketInUnit
		if l.Basis != install.Measured && l.Basis != install.Enquiry {
			c.Assumes("load: " + l.Name)
		}
	}
	if noDemand(s.Job) {
		c.AddMissing("the existing load (Survey sheet)")
	}
	for _, row := range demandRows {
		if len(had.amps[row.category]) == 0 {
			continue
		}
		a, rule, with, err := Diversified(row.category, had.amps[row.category], had.sockets[row.category])
		if err != nil {
			c.AddMissing(err.Error())
			continue
		}
		c.Step(row.name, rule, with, a, "A", diversity.Source.Ref)
		d.Shares = append(d.Shares, rulebook.Share{Category: row.category, Name: row.name, Amps: a})
		d.BeforeA += a
	}
	c.Step("before", "sum", "", d.BeforeA, "A", "")
	return had
}

// addShare counts a share that the new circuits have.
func addShare(d *rulebook.Demand, category, name string, a float64, full bool) {
	d.Shares = append(d.Shares, rulebook.Share{Category: category, Name: name, Amps: a, New: true, Full: full})
	d.AddedA += a
}

// demandAdded counts the new circuits: in full, or as what the diversity of their category
// makes of all its loads together, less what was counted before.
func (s *system) demandAdded(c *working.Check, d *rulebook.Demand, had connectedLoads) {
	job, sockets := s.Job, maps.Clone(had.sockets)
	fresh, names := map[string][]float64{}, map[string][]string{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		row := rulesOf(k.Use).demand
		a, _, _, assumed := connected(k)
		if row == uncounted || row == inFull && k.Point.ManagedA > 0 || k.State != install.NewCircuit { // what stays is among the loads
			continue
		}
		if assumed != "" {
			c.Assumes(assumed + ", " + k.Name)
		}
		if row == inFull {
			c.Step(k.Name, "in full, no diversity", "", a, "A", "722.311")
			addShare(d, fullCategory(k), k.Name, a, true)
			continue
		}
		fresh[row], names[row], sockets[row] = append(fresh[row], a), append(names[row], k.Name), sockets[row] || k.Serves.Socket
	}
	for _, row := range demandRows {
		if len(fresh[row.category]) == 0 {
			continue
		}
		was, _, _, _ := Diversified(row.category, had.amps[row.category], had.sockets[row.category])
		now, rule, with, _ := Diversified(row.category, append(had.amps[row.category], fresh[row.category]...), sockets[row.category])
		said := strings.Join(names[row.category], ", ")
		c.Step(row.name+", new", rule, s.Text(with, ", less ", was, " before: ", said), now-was, "A", diversity.Source.Ref)
		addShare(d, row.category, row.name, now-was, false)
	}
}

// demandManaged counts charge points under load management: what the rest leaves them.
func (s *system) demandManaged(c *working.Check, d *rulebook.Demand) {
	for i := range s.Job.Circuits {
		k := &s.Job.Circuits[i]
		if rulesOf(k.Use).demand != inFull || k.Point.ManagedA == 0 {
			continue
		}
		rest := d.BeforeA + d.AddedA
		a := c.Step(k.Name, "load management: min(point, limit − rest), 0 under 6 A",
			s.Text("min(", k.Point.DesignA(), ", ", k.Point.ManagedA, " − ", rest, ")"),
			ManagedCharge(k.Point.DesignA(), k.Point.ManagedA, rest), "A", evRules.Source.Ref)
		addShare(d, fullCategory(k), k.Name, a, false)
	}
}

// fullCategory is where the demand shows a load that has no diversity.
func fullCategory(k *install.Circuit) string {
	if k.Use == useEV {
		return "ev"
	}
	return "other_points"
}

// tails judges the tails against the main fuse.
func (s *system) tails() {
	c, supply := s.Of(""), &s.Job.Supply
	c.From(cccTails.Source)
	mm2, fuse := use(c, "size of the tails", supply.TailsMM2), use(c, "main fuse rating", supply.MainFuseA)
	if len(c.Missing) > 0 {
		return
	}
	r := cccTails.Find(func(it *cccTailsRow) bool { return same(it.SizeMM2, mm2) })
	if r < 0 {
		c.AddMissing("a tabulated size of tails (16, 25 or 35 mm²)")
		return
	}
	iz := c.Step("Iz", "tabulated, clipped direct", text(mm2, " mm²"), cccTails.Row(r).CccA, "A", cccTails.Source.Ref)
	c.Max(fuse, iz)
	c.Summary = text("The fuse of ", fuse, " A protects tails that carry ", iz, " A.")
}

// bonding judges the main bond of each service that comes in metal.
func (s *system) bonding() {
	if len(s.Job.Supply.Bonds) == 0 {
		s.Of("").AddMissing("which services come in metal and how they are bonded (Supply sheet)")
	}
	for _, bond := range s.Job.Supply.Bonds {
		s.bond(bond)
	}
}

// insulated notes that an IT system is kept and not calculated.
func (s *system) insulated() {
	c := s.Of("")
	c.From(working.Source{Ref: "BS 7671 411.6", Confidence: "medium"})
	c.AddMissing("the design of an IT system by who is competent for it: insulation monitoring, the first and the second fault")
	c.Summary = "IT is kept on record and not calculated here: what stands below for faults to earth is of other arrangements and " +
		"proves nothing."
}

// earthingLeast is the least copper section in mm² of an earthing or separate protective
// conductor by how it lies (Table 54.1, 543.1.1).
func earthingLeast(laid string) float64 {
	return earthingMin.One(func(it *earthingMinRow) bool { return it.Laid == laid }).CopperMM2
}

// noDemand reports whether nothing is known that draws current: no existing load, and no
// circuits of a rewire, which are the whole load themselves.
func noDemand(job *install.Job) bool {
	return len(job.Loads.Items) == 0 && (!job.Trait().Walk || len(job.Circuits) == 0)
}

// requiredEarth is the main earthing conductor in mm² that is required: by the table for
// the tails on TN, by the fault through the electrode on TT, and never less than how it
// lies asks for. c notes what is missing.
func requiredEarth(job *install.Job, c *working.Check) float64 {
	s := &job.Supply
	laid := s.EarthLaid
	if s.Earthing == install.TT {
		if laid == "" {
			c.AddMissing("how the main earthing conductor lies: in the air or buried, and how protected")
			return 0
		}
		ra := use(c, "electrode resistance", installationElectrode(job))
		if len(c.Missing) > 0 {
			return 0
		}
		k := kValues.One(func(row *kValuesRow) bool {
			return row.Material == "cu" && row.Use == "separate insulated 70 C thermoplastic up to 300 mm2"
		}).K
		fault := c.Step("I", "U0 / Ra", text(NominalV, " / ", ra), physics.FaultCurrent(NominalV, ra), "A", "")
		t := disconnection.One(func(it *disconnectionRow) bool {
			return it.System == "TT" &&
				it.U0Band == "120<U0<=230"
		}).DistributionS
		need := c.Step("by the fault", "√(I²t) / k, within the time on an electrode",
			text("√(", fault, "² × ", t, ") / ", k), physics.Adiabatic(fault*fault*t, k), "mm²", "543.1.3")
		return max(need, c.Step("by how it lies",
			earthingMin.One(func(it *earthingMinRow) bool { return it.Laid == laid }).Name, "",
			earthingLeast(laid), "mm²", earthingMin.Source.Ref))
	}
	line := use(c, "size of the tails", s.TailsMM2)
	if len(c.Missing) > 0 {
		return 0
	}
	need := c.Step("by table", "protective conductor for the tails", text(line, " mm²"), CPCTable(line), "mm²", cpcMin.Source.Ref)
	if s.Earthing == install.TNCS && s.NeutralMM2.Known() {
		need = max(need, c.Step("as the main bond", "by the operator's neutral", text(s.NeutralMM2.V(), " mm²"),
			MainBonding(string(s.Earthing), s.NeutralMM2.V()), "mm²", bondingPME.Source.Ref))
	}
	if laid != "" {
		need = max(need, c.Step("by how it lies",
			earthingMin.One(func(it *earthingMinRow) bool { return it.Laid == laid }).Name, "",
			earthingLeast(laid), "mm²", earthingMin.Source.Ref))
	}
	return need
}

// earthingConductor judges the main earthing conductor.
func (s *system) earthingConductor() {
	c, supply := s.Of(""), &s.Job.Supply
	c.From(cpcMin.Source, earthingMin.Source)
	installed := use(c, "size of the main earthing conductor", supply.EarthMM2)
	need := requiredEarth(s.Job, c)
	if len(c.Missing) == 0 {
		c.Min(installed, need)
		c.Summary = text(installed, " mm² installed, ", need, " mm² needed.")
		if supply.Earthing != install.TT {
			c.Summary = text(installed, " mm² installed, ", need, " mm² by the table; a smaller one needs the adiabatic calculation.")
		}
	}
}

// largestResidual is the largest rated residual current in mA among the devices of the
// job, 0 without one.
func largestResidual(job *install.Job) (most float64) {
	for i := range job.Circuits {
		if p := &job.Circuits[i].Protection; p.RCDType != "" {
			most = max(most, p.IdnMA)
		}
	}
	for b := range job.EachBoard() {
		for i := range b.Groups {
			most = max(most, b.Groups[i].IdnMA)
		}
	}
	return most
}

// bond judges one main bond.
func (s *system) bond(bond install.Bond) {
	b, earthing := s.Of(bond.Service), s.Job.Supply.Earthing
	b.Title += " to " + bond.Service
	b.From(bondingPME.Source, bondingOther.Source)
	installed := use(b, "size of the bond to "+bond.Service, bond.MM2)
	size := mainBondBy(s.Job, b)
	if len(b.Missing) == 0 {
		need := b.Step("main bonding", "by table for "+string(earthing), text(size, " mm²"),
			MainBonding(string(earthing), size), "mm²", bondingPME.Source.Ref)
		b.Min(installed, need)
		b.Summary = text(installed, " mm² installed, ", need, " mm² needed.")
	}
}

// mainBondBy is what the size of a main bond follows: the operator's neutral on
// TN-C-S, the main earthing conductor that is required elsewhere, in mm².
func mainBondBy(job *install.Job, b *working.Check) float64 {
	s := &job.Supply
	switch s.Earthing {
	case "":
		b.AddMissing("the earthing arrangement")
		return 0
	case install.TNCS:
		if !s.NeutralMM2.Known() {
			size := bondingPME.Row(0).SupplyNeutralCuEquivToMM2
			b.Assumes(text("operator's neutral of ", size, " mm² copper or smaller"))
			return size
		}
		if !s.NeutralMM2.Confirmed() {
			b.Assumes("operator's neutral")
		}
		return s.NeutralMM2.V()
	}
	return requiredEarth(job, b)
}

// electrodeCheck judges Ra × IΔn ≤ 50 V, with a caution above 200 Ω.
func electrodeCheck(job *install.Job, c *working.Check, ra install.Fact, idn float64) {
	c.Unit = "Ω"
	c.From(ttLimits.Source)
	r := use(c, "electrode resistance", ra)
	if idn == 0 {
		c.AddMissing("the residual-current device whose rating the electrode serves")
	}
	if len(c.Missing) > 0 {
		c.Summary = "Not recorded: " + c.Missing[0] + "."
		return
	}
	limit := c.Step("Ra max", "50 V / IΔn", text("50 / (", idn, " / 1000)"), TouchV*1000/idn, "Ω", ttLimits.Source.Ref)
	c.Step("touch voltage", "Ra × IΔn", text(r, " × ", idn, " / 1000"), r*idn/1000, "V", ttLimits.Source.Ref)
	c.Max(r, limit)
	c.Summary = text(r, " Ω with a ", idn, " mA device.")
	stable := ruleOf(job, c, "electrode-advised")
	if c.Verdict != working.Fail && !working.AtMost(r, stable) {
		c.Warn()
		c.Summary += text(" Above ", stable, " Ω it may not stay so as the ground dries or freezes: drive deeper or add a rod.")
	}
}
