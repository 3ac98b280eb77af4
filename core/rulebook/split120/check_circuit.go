package split120

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/runs"
	"arvelt/core/working"
)

// system is a job under computation, with what its circuits share.
type system struct {
	*rulebook.House
	code    Code
	edition int
	chain   rulebook.ChainReport
	faultKA *float64 // at the panel that the circuits start from
	at      string   // name of that panel
	read    rulebook.Readings
	done    rulebook.Report   // what was judged before it
	fed     []fed             // conductors along the chain
	taken   map[space][]taken // what is on each space, nil until looked at
}

func newSystem(p Practice, job *install.Job) *system {
	s := &system{House: rulebook.NewHouse(job), code: codeOf(job), chain: p.Chain(job), read: rulebook.ReadingsOf(job),
		at: "the panel", faultKA: job.Supply.PFCkA.Value, edition: editionOf(job)}
	for i := range s.chain.Nodes {
		e := job.Chain.Enclosure(s.chain.Nodes[i].ID)
		if e.Kind == kindPanel {
			s.at, s.faultKA = e.Name, s.chain.Nodes[i].FaultKA
			break
		}
	}
	return s
}

// editionOf is the year of the job's edition in the tables, 0 for one that is not in them.
func editionOf(job *install.Job) int {
	year := job.Edition
	if codeOf(job) == CEC {
		year = besideOf(year)
	}
	for _, e := range editions {
		if year == text(e) {
			return e
		}
	}
	return 0
}

// named is the name of a thing in the words of the code: the first by the NEC, the
// second by the CEC (row CA-WORD of the grounding rules).
func (s *system) named(nec, cec string) string {
	if s.code == CEC {
		return cec
	}
	return nec
}

// circuit is one circuit under computation.
type circuit struct {
	*system
	k          *install.Circuit
	rules      *useRow
	row        *cableRow
	size       string
	material   string
	loadA      float64
	continuous float64
	neededA    float64 // with 125 % of what is continuous
	longestM   float64 // within the drop that is recommended, 0 when not known
	run        *runs.Run
	lengthM    float64 // of its run, for its figures
	dropAhead  float64 // % in what feeds it
	out        *rulebook.CircuitReport
	// What the places of its outlets ask for: boxes of a string, or needs where there is
	// none; neither while nobody can tell.
	boxes []rulebook.BoxReport
	needs *placeNeeds
}

// routeAssumptions marks a check that rests on lengths nobody measured.
func (c *circuit) routeAssumptions(k *working.Check) { rulebook.AssumeRoute(k, c.k, terms.Length) }

func feet(m float64) float64 { return m / footM }

func (s *system) report(k *install.Circuit) rulebook.CircuitReport {
	r := rulebook.ReportOf(k)
	c := &circuit{system: s, k: k, rules: rulesOf(k.Use), row: cables[k.Route.CableType],
		size: sizeOf[k.Route.LineMM2], run: runs.Of(k)}
	c.lengthM = rulebook.LengthM(k, c.run)
	if c.row == nil || !slices.Contains(c.row.sizes, c.size) || math.IsNaN(tabulated(c.size, materialOf(k), 75)) {
		return rulebook.Unwired(k, &cableRule, "a cable, and a size in which it is made of "+materialWord(materialOf(k)))
	}
	c.material, c.out = materialOf(k), &r
	checks := rulebook.Judge(s.House, circuitRules, c, rulebook.WantedOf[*circuit](terms.IsBranch(k)))
	if c.boxes != nil {
		r.Boxes = c.boxes
	}
	r.Summary = rulebook.Summary{Device: deviceName(&k.Protection), Conductor: c.conductorName(), DesignA: c.loadA,
		LengthM: c.lengthM, MaxLengthM: c.longestM, Governs: "drop"}
	if c.longestM == 0 {
		r.Summary.Governs = ""
	}
	if c.run.Open() {
		r.Summary.LengthM = 0
	}
	r.Summary.Text = text(r.Summary.Device, " · ", r.Summary.Conductor, " · ", feet(c.lengthM), " ft · ", c.loadA, " A load")
	r.Run = c.stops()
	r.Conclude(checks)
	r.Leave(k)
	return r
}

// deviceName is a device in short: 2P 30, with its protection.
func deviceName(p *install.Protection) string {
	name := text(p.RatingA, " A")
	if p.Poles >= 2 {
		name = text("2P ", p.RatingA, " A")
	}
	switch {
	case p.RCDType != "" && p.ArcFault:
		name += " · dual function"
	case p.RCDType != "":
		name += " · GFCI"
	case p.ArcFault:
		name += " · AFCI"
	}
	return name
}

// conductorName is what runs to the circuit, such as 12/2 NM-B.
func (c *circuit) conductorName() string {
	family, _, _ := strings.Cut(strings.ToUpper(c.k.Route.CableType), "-")
	if c.row.cores == 0 {
		return text(coresOf(c.k), " × ", trade(c.size), " in ", map[string]string{"emt": "EMT", "pvc40": "PVC"}[c.row.conduit])
	}
	name := text(c.size, "/", c.row.cores, " ", map[string]string{"NM": "NM-B", "UF": "UF-B"}[family])
	if family != familyNM && family != familyUF {
		name = text(c.size, "/", c.row.cores, " ", family)
	}
	if c.material == aluminum {
		name += " aluminum"
	}
	return name
}

// designCurrent judges the load, with 125 % of what is continuous, against the device
// (210.20(A), 215.3).
func (c *circuit) designCurrent() {
	k := c.On(c.k.ID)
	k.From(clauseLoad.in(c.code), under(circuitUses, c.code))
	amps, continuous, by, with, assumed := circuitLoad(c.k)
	if c.k.Use == useDistribution && amps == 0 {
		amps, continuous, by, with = c.fedLoad()
	}
	if assumed != "" {
		k.Assumes(assumed)
	}
	c.loadA, c.continuous = amps, continuous
	in := c.k.Protection.RatingA
	if c.k.Use == useSurge {
		k.Decide(true)
		k.Summary = "It carries no load: the breaker is the one that the surge device's instructions name."
		return
	}
	if amps == 0 {
		k.AddMissing("what it feeds: power, current, or circuits")
		return
	}
	k.Step("load", by, with, amps, "A", under(circuitUses, c.code).Ref)
	factor := ruleOf(c.Job, nil, "CONT-125")
	if c.code == CEC && !localRule(c.Job, "CONT-125") {
		factor = 1 / rule(ampacityRules.Table, "CA-CONT") // so far of its rating may a device be loaded
	}
	if c.rules.mca {
		factor = 1 // the nameplate's circuit ampacity holds the 125 % already
	}
	c.neededA = k.Step("needed", "continuous × 1.25 + the rest", text(continuous, " × ", factor, " + ", amps-continuous),
		continuous*factor+amps-continuous, "A", clauseLoad.ref(c.code))
	k.Max(c.neededA, in)
	k.Summary = text(c.neededA, " A needed of a device of ", in, " A.")
	if most := c.k.Point.MaxDeviceA; most > 0 && in > most {
		k.Decide(false)
		k.Summary = text("The nameplate allows a device of at most ", most, " A; this one has ", in, " A.")
	}
	switch from := ratingFrom(in); {
	case c.code == NEC && from > float64(c.edition) && c.edition > 0:
		k.From(clauseRatings.in(c.code))
		k.Decide(false)
		k.Summary = text("A device of ", in, " A is standard from the edition of ", from, " on; this job is under that of ", c.edition, ".")
	case c.code == CEC && from > float64(editions[0]): // of the other code alone
		k.From(clauseRatings.in(c.code))
		k.Decide(false)
		k.Summary = text("A branch circuit has a device of at least ", smallestBranchA, " A; this one has ", in, " A.")
	}
	if kw := c.k.Serves.PowerW / 1000; c.k.Use == useRange && c.code == NEC && kw >= cookingHigh && in < leastRangeA {
		k.From(clauseRangeBranch.in(c.code))
		k.Decide(false)
		k.Summary = text("A range of ", kw, " kW has a circuit of at least ", leastRangeA, " A; this device has ", in, " A.")
	}
}

// smallestBranchA is the smallest device of a branch circuit in Canada, A.
const smallestBranchA = 15.0

// fedLoad is the load of the circuits behind a feeder, in full: of its heavier leg where every one of them has its space, else as if it
// lay evenly on both.
func (c *circuit) fedLoad() (amps, continuous float64, rule, with string) {
	names := []string{}
	if a, b, _ := c.legsBelow(c.k); max(a.amps, b.amps) > 0 {
		if b.amps > a.amps {
			a = b
		}
		for _, k := range c.Below(c.k.ID) {
			names = append(names, k.Name)
		}
		return a.amps, a.continuous, "heavier leg of the panel behind it", strings.Join(names, ", ")
	}
	for i := range c.Job.Circuits {
		k := &c.Job.Circuits[i]
		if k.From != c.k.ID || k.ID == c.k.ID {
			continue
		}
		a, cont, _, _, _ := circuitLoad(k)
		share := loadV(k) / lineV
		amps, continuous, names = amps+a*share, continuous+cont*share, append(names, k.Name)
	}
	return amps, continuous, "sum of the circuits behind it at 240 V", strings.Join(names, ", ")
}

// capacity judges the device against what may protect the conductor in its worst
// stretch (240.4, 310.15, 110.14(C)). A motor-compressor is protected by the
// nameplate's device: there the nameplate's circuit ampacity is what counts.
func (c *circuit) capacity() {
	k := c.On(c.k.ID)
	k.From(under(ampacities.Table, c.code), under(ambients.Table, c.code), clauseDevice.in(c.code))
	nextUp := !c.rules.isString
	a, cond, place, err := ampacityOf(c.code, c.k, c.size, nextUp)
	if err != nil {
		k.AddMissing(err.Error())
		return
	}
	k.Step("derated", "tabulated × ambient × bundling, "+place,
		text(tabulated(c.size, c.material, cond.InsulationC), " × ", a.Ambient, " × ", a.Adjust), a.DeratedA, "A",
		under(ampacities.Table, c.code).Ref)
	terminals := k.Step("terminals", "column of the terminals", text(cond.TerminalC, " °C"), a.CapA, "A", clauseDevice.ref(c.code))
	if cond.NMB && c.code == CEC {
		row := ampacityRules.Find(func(it *ampacityRulesRow) bool { return it.ID == "CA-NMD90" })
		k.From(working.Source{Ref: ampacityRules.Row(row).Source, Confidence: ampacityRules.Row(row).Confidence})
	}
	if cond.NMB && cond.TerminalC > 60 && c.code == NEC {
		k.Step("cable", "held to its 60 °C column", c.row.name, a.CapA, "A", "NEC 334.80, 340.80")
	}
	if c.rules.mca {
		need := k.Step("circuit ampacity", "of the nameplate", "", c.loadA, "A", clauseMotorUnit.ref(c.code))
		if need == 0 {
			k.AddMissing("the minimum circuit ampacity of the nameplate")
			return
		}
		k.Max(need, a.A)
		k.Summary = text("The nameplate asks for ", need, " A; the conductor carries ", a.A,
			" A. Its breaker protects the unit, not the conductor.")
		return
	}
	rule := "standard rating at or under the ampacity"
	if nextUp {
		rule = "next standard rating, no higher than a small conductor's limit"
	}
	most := k.Step("may be protected by", rule, text("min(", a.DeratedA, ", ", terminals, ")"), a.MaxOCPDA, "A", clauseDevice.ref(c.code))
	k.Max(c.k.Protection.RatingA, most)
	k.Summary = text("A device of ", c.k.Protection.RatingA, " A; ", trade(c.size), " may be protected by ", most, " A in ", place, ".")
}

// loadOnConductor judges the load against the ampacity: 125 % of what is continuous
// by the terminals' column, the load itself by the derated conductor (210.19(A)(1)).
func (c *circuit) loadOnConductor() {
	k := c.On(c.k.ID)
	k.From(under(ampacities.Table, c.code), clauseConductorLoad.in(c.code))
	if c.k.Use == useSurge {
		k.Decide(true)
		k.Summary = "No load flows in it."
		return
	}
	if c.loadA == 0 {
		k.AddMissing("what it feeds: power, current, or circuits")
		return
	}
	a, _, place, err := ampacityOf(c.code, c.k, c.size, true)
	if err != nil {
		k.AddMissing(err.Error())
		return
	}
	k.Step("by terminals", "125 % of the continuous + the rest ≤ their column", text(c.neededA, " ≤ ", a.CapA), a.CapA, "A",
		clauseConductorLoad.ref(c.code))
	k.Step("derated", "the load ≤ the derated conductor, "+place, text(c.loadA, " ≤ ", a.DeratedA), a.DeratedA, "A",
		clauseConductorLoad.ref(c.code))
	if c.loadA/a.DeratedA > c.neededA/a.CapA {
		k.Max(c.loadA, a.DeratedA)
	} else {
		k.Max(c.neededA, a.CapA)
	}
	k.Summary = text(c.neededA, " A with 125 % of what runs for hours; the conductor has ", min(a.A, a.CapA), " A.")
}

// dropPercent is the drop of a circuit in its own run, % of its voltage.
func (c *circuit) dropPercent(k *working.Check) float64 {
	volts := voltsOf(c.k)
	length := feet(c.lengthM)
	v := k.Step("drop", "2 × K × I × L / cmil", text("2 × ", resistivityK(c.material), " × ", c.loadA, " × ", length, " / ",
		Cmil(c.size)), dropV(c.material, c.size, c.loadA, length, 1), "V", under(voltageLimits.Table, c.code).Ref)
	return k.Step("of the voltage", "drop / U", text(v, " / ", volts), v/volts*100, "%", "")
}

// dropRule is the figure that the drop of a circuit in its own run is compared with.
func (c *circuit) dropRule() string {
	if c.k.Use == useDistribution {
		return "VD-FD"
	}
	return "VD-BR"
}

// voltageDrop compares the drop with what is recommended, or with a local limit; it
// notes the longest run within it.
func (c *circuit) voltageDrop() {
	k := c.On(c.k.ID)
	limit := ruleOf(c.Job, k, c.dropRule())
	k.From(under(voltageLimits.Table, c.code))
	c.routeAssumptions(k)
	if c.k.Use == useSurge {
		k.Decide(true)
		k.Summary = "No load flows in it."
		return
	}
	if c.loadA == 0 {
		k.AddMissing("what it feeds: power, current, or circuits")
		return
	}
	if rulebook.LegsMissing(k, c.k, c.run); len(k.Missing) > 0 {
		return
	}
	own := c.dropPercent(k)
	total, all := own, limit
	seen := map[string]bool{c.k.ID: true}
	for from := c.Circuit(c.k.From); from != nil && !seen[from.ID]; from = c.Circuit(from.From) {
		seen[from.ID] = true
		f := &circuit{system: c.system, k: from, rules: rulesOf(from.Use),
			row: cables[from.Route.CableType], size: sizeOf[from.Route.LineMM2], material: materialOf(from),
			lengthM: from.Route.LengthM()}
		if f.row == nil || f.size == "" {
			k.AddMissing("the conductor of " + from.Name)
			return
		}
		f.loadA, _, _, _, _ = circuitLoad(from)
		if f.loadA == 0 {
			f.loadA, _, _, _ = f.fedLoad()
		}
		total = k.Step("with "+from.Name, "drops added", "", total+f.dropPercent(k), "%", "")
		all = ruleOf(c.Job, k, "VD-TOT")
	}
	c.dropAhead = total - own
	value, most := own, limit
	if total > own && total/all > own/limit {
		value, most = total, all
	}
	k.Max(value, most)
	k.Summary = text(value, " % at the far end; ", most, " % is recommended.")
	if k.Verdict == working.Fail && c.code == CEC {
		k.Summary = text(value, " % at the far end; at most ", most, " %.")
	} else if k.Verdict == working.Fail && !localRule(c.Job, c.dropRule()) && !localRule(c.Job, "VD-TOT") {
		// a recommendation, not a rule (210.19 informational note)
		k.Warn()
		k.Summary += " It is a recommendation: lamps and motors notice, the code does not forbid it."
	}
	if own == 0 {
		return
	}
	c.longestM = c.lengthM * most / value
}

// ground judges the equipment grounding conductor by the device, raised with a larger
// circuit conductor.
func (c *circuit) ground() {
	k := c.On(c.k.ID)
	k.Title = c.named("Equipment grounding conductor", "Bonding conductor")
	k.From(under(groundSizes, c.code))
	rating := c.k.Protection.RatingA
	if c.k.Route.CPC == install.ArmourCPC {
		metal := c.row.conduit == conduitEMT
		k.From(clauseMetalGround.in(c.code))
		k.Decide(metal)
		k.Summary = "The metal conduit is the grounding conductor: every coupling and connector made up tight."
		if !metal {
			k.Summary = "Only a metal conduit can be the grounding conductor: draw one with the circuit."
		}
		return
	}
	installed := c.row.ground[c.size]
	material := c.material
	if c.k.Route.CPC == install.SeparateCPC || c.row.cores == 0 {
		installed, material = sizeOf[c.k.Route.CPCMM2], "cu"
		if installed == "" {
			k.AddMissing("the size of the grounding conductor drawn with it")
			return
		}
	}
	base := groundSize(c.code, material, rating)
	if base == "" {
		k.AddMissing("a grounding conductor in the table for " + text(rating, " A"))
		return
	}
	needed := smallest(c.material, func(s string) bool {
		a, _, _, err := ampacityOf(c.code, c.k, s, !c.rules.isString)
		return err == nil && (c.rules.mca || working.AtMost(rating, a.MaxOCPDA))
	})
	ratio := 1.0
	if needed != "" {
		ratio = max(1, Cmil(c.size)/Cmil(needed))
	}
	k.Step("by table", "for the device", text(rating, " A: ", trade(base)), AreaMM2(base), "mm²", under(groundSizes, c.code).Ref)
	ratio = k.Step("raised by", "installed / needed conductor", text(c.size, " / ", needed), ratio, "", clauseUpsize.ref(c.code))
	needArea := Cmil(base) * ratio
	size := smallest(material, func(s string) bool { return Cmil(s) >= needArea*(1-0.001) })
	if size == "" || larger(size, c.size) == size {
		size = c.size
	}
	k.Min(AreaMM2(installed), AreaMM2(size))
	k.Summary = text(trade(installed), " installed; ", trade(size), " needed for a device of ", rating, " A")
	if ratio > 1.001 {
		k.Summary += ", raised with the larger conductor"
	}
	k.Summary += "."
	if k.Verdict == working.Fail && larger(installed, base) == installed {
		c.byFaultCurrent(k, installed, material)
	}
}

// The edition from which a qualified person may size a grounding conductor by the fault
// current that it lets flow, and how many times its rating opens a breaker at once.
const (
	faultPathFrom = 2020
	opensAtOnce   = 10.0
)

// byFaultCurrent looks whether a grounding conductor that has the table's size but was
// not raised lets enough current flow all the same: then what is owed is a qualified
// person's word (250.122(B) exception), or in Canada a reading of the rule.
func (c *circuit) byFaultCurrent(k *working.Check, installed, material string) {
	if c.code == NEC && c.edition < faultPathFrom || c.faultKA == nil || c.run.Open() {
		return
	}
	ohm := lineV/(*c.faultKA*1000) + c.lengthM*(c.ohmPerM(c.material, c.size)+c.ohmPerM(material, installed))
	amps := k.Step("fault current", "120 V / (supply + hot + ground, at 75 °C)", text("120 / ", ohm), legV/ohm, "A",
		clauseUpsize.ref(c.code))
	if need := opensAtOnce * c.k.Protection.RatingA; working.AtMost(need, amps) {
		s := clauseUpsize.in(c.code)
		s.Confidence = "low"
		k.From(s)
		c.routeAssumptions(k)
		k.Warn()
		k.Summary += text(" It has the size by the table, and ", amps,
			" A flow to a fault at the far end, more than ten times the rating: a qualified person may accept it by that "+
				"calculation, which is kept.")
	}
}

// conductorsOf judges whether the cable has a conductor for every hot and neutral.
func (c *circuit) conductorsOf() {
	k := c.On(c.k.ID)
	k.From(clauseConductors.in(c.code))
	n := float64(coresOf(c.k))
	if c.row.cores == 0 {
		k.Decide(true)
		k.Summary = text(n, " conductors and the ground are drawn.")
		return
	}
	k.Max(n, float64(c.row.cores))
	k.Summary = text(n, " needed")
	if neutralOf(c.k) {
		k.Summary += ", the neutral among them"
	}
	k.Summary += text("; the cable has ", c.row.cores, ".")
	if sharesNeutral(c.k) {
		k.Summary += " Two lines share the neutral."
	}
	if hotsOf(c.k) == 2 && !neutralOf(c.k) {
		k.Summary += " The white one is a hot here: mark it at both ends."
	}
}

// breaking judges the interrupting rating against the available fault current (110.9).
func (c *circuit) breaking() {
	k := c.On(c.k.ID)
	k.From(clauseBreaking.in(c.code))
	if c.faultKA == nil {
		k.AddMissing("the available fault current: ask the utility, and note it on the Supply sheet")
		return
	}
	if p := &c.Job.Supply.PFCkA; !p.Confirmed() {
		k.Assumes("available fault current at the service")
	}
	fault := k.Step("available", "at "+c.at, "", *c.faultKA, "kA", "")
	k.Max(fault, max(c.k.Protection.IcnKA, c.k.Protection.CascadeKA))
	k.Summary = text(fault, " kA available at ", c.at, "; the device interrupts ", c.k.Protection.IcnKA, " kA.")
	if c.k.Protection.CascadeKA > c.k.Protection.IcnKA {
		k.Summary += text(" With the main ahead its manufacturer states ", c.k.Protection.CascadeKA,
			" kA: the series rating is marked on the panel.")
	}
}

// leakage judges the standing leakage on a ground-fault device against the planning
// budget and its trip band.
func (c *circuit) leakage() {
	k := c.On(c.k.ID)
	k.From(under(protectionNotes, c.code))
	if !c.k.Serves.LeakMA.Confirmed() {
		k.Assumes("standing leakage")
	}
	ma := k.Step("leakage", "as entered", "", c.k.Serves.LeakMA.V(), "mA", "")
	budget := k.Step("budget", "half of the lowest trip current", "4 / 2", rule(protectionNotes, "G-LEAK"), "mA",
		under(protectionNotes, c.code).Ref)
	k.Max(ma, budget)
	k.Summary = text(ma, " mA standing; plan with ", budget, " mA, as it may trip from 4 mA.")
	if k.Verdict == working.Fail && ma < 4 {
		k.Warn()
	}
}

// conduitFill finds the conduit that the conductors need.
func (c *circuit) conduitFill() {
	k := c.On(c.k.ID)
	f, err := c.conduit()
	if err != nil {
		k.AddMissing(err.Error())
		return
	}
	k.From(clauseFill.in(c.code))
	k.Step("area", "sum of the conductors", c.conductorName(), f.areaIn2, "in²", clauseFill.ref(c.code))
	k.Max(k.Step("fill", "area / inside area", "", f.percent, "%", clauseFill.ref(c.code)), f.limit)
	k.Summary = text("Trade size ", f.size, " is filled to ", f.percent, " % of the ", f.limit,
		" % for so many conductors. Sweep and pull decide too: count the bends.")
}

// fill is a conduit with what it holds.
type fill struct {
	size                    string // trade size
	percent, limit, areaIn2 float64
}

// conduit is the smallest trade size for the circuit, by the calculation of the bench.
func (c *circuit) conduit() (fill, error) {
	ground := sizeOf[c.k.Route.CPCMM2]
	in := conduitIn{Type: c.row.conduit, Conductors: []wires{{c.row.fill, c.size, float64(coresOf(c.k))}}}
	if ground != "" && c.k.Route.CPC != install.ArmourCPC {
		in.Conductors = append(in.Conductors, wires{c.row.fill, ground, 1})
	}
	out, _, err := calcConduit(in)
	if err != nil {
		return fill{}, err
	}
	if out.Size == nil {
		return fill{}, fmt.Errorf("a conduit of the table that holds %s", c.conductorName())
	}
	return fill{*out.Size, *out.Fill, out.Limit, out.AreaIn2}, nil
}

// cover judges the cover of what lies in the ground, by what lies above it.
func (c *circuit) cover() {
	var worst *working.Check
	for i := range c.k.Route.Segments {
		s := &c.k.Route.Segments[i]
		if !terms.Laid[s.Method].Ground || c.row.cover == "" {
			continue
		}
		if worst == nil {
			worst = c.On(c.k.ID)
			worst.From(under(covers.Table, c.code))
		}
		column := c.row.cover
		if p := &c.k.Protection; p.RCDType != "" && p.RatingA <= 20 && hotsOf(c.k) == 1 && column == directColumn {
			column = "gfci20_in"
		}
		row := covers.Find(func(it *coversRow) bool { return it.Location == coverOf[s.Surface] })
		switch {
		case row < 0:
			worst.AddMissing("what lies above " + s.Place + ": garden, drive, building …")
			continue
		case s.DepthMM == 0:
			worst.AddMissing("the depth of " + s.Place)
			continue
		case math.IsNaN(covers.Num(row, column)):
			worst.Missing = []string{}
			worst.Decide(false)
			worst.Summary = "In " + s.Place + " the cable lies directly under a building: there it lies in a raceway."
			return
		}
		need := worst.Step(s.Place, "over the cable or duct, "+s.Surface, text(s.DepthMM/inchMM, " in there"),
			covers.Num(row, column), "in", under(covers.Table, c.code).Ref)
		if have := s.DepthMM / inchMM; worst.Limit == nil || have-need < *worst.Value-*worst.Limit {
			worst.Min(have, need)
			worst.Summary = text(have, " in in ", s.Place, "; ", need, " in needed.")
		}
	}
	if worst != nil && len(worst.Missing) > 0 {
		worst.Summary = ""
	}
}

// vehicle holds a charge point to what belongs to it: its load for hours, a
// disconnect above 60 A, and who is told.
func (c *circuit) vehicle() {
	k := c.On(c.k.ID)
	k.From(clauseEV.in(c.code))
	k.Decide(true)
	amps := c.k.Point.DesignA()
	k.Step("charging current", "nameplate, or the setting that only a qualified person changes", "", amps, "A", clauseEV.ref(c.code))
	k.Summary = text("Its own circuit, ", amps, " A for hours.")
	if amps > 60 {
		k.Summary += " Above 60 A: a disconnect within easy reach that can be locked open."
	}
	if c.k.Point.LimitA > 0 && c.k.Point.LimitA < c.k.Point.CurrentA {
		k.Summary += text(" Set to ", c.k.Point.LimitA, " A: behind a cover or a lock, and marked on it.")
	}
}

// space judges the place in the panel: free, with the second pole below it.
func (c *circuit) space() {
	p := &c.k.Protection
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "panel's own diagram", Confidence: "high"})
	if p.OwnEnclosure {
		k.Decide(true)
		k.Summary = "It stands in an enclosure of its own: fed by tap or lugs to its own rule."
		return
	}
	b := c.Job.BoardOf(c.k)
	if p.Way == 0 || b == nil {
		k.AddMissing("a space in the panel")
		return
	}
	for _, n := range spacesOf(p.Way, p.Poles) {
		who, way := c.takenBy(space{c.k.From, n}, p.Half, c.k.ID), b.WayByNo(n)
		switch {
		case who != "":
			k.Summary = text("Space ", n, " is taken by ", who, ".")
		case way == nil:
			k.Summary = text("Space ", n, " is not there.")
		case p.Half != install.WholeWay && !way.Halves:
			k.Summary = text("Space ", n, " does not take half-size breakers by the panel's own list.")
		default:
			continue
		}
		k.Decide(false)
		return
	}
	k.Decide(true)
	k.Summary = text("Space ", p.Way, ", leg ", legName(p.Way), ".")
	if p.Half != install.WholeWay {
		k.Summary = text("Space ", p.Way, string(p.Half), ", half-size, leg ", legName(p.Way), ".")
	}
	if p.Poles >= 2 {
		k.Summary = text("Spaces ", p.Way, " and ", p.Way+2, ", one on each leg.")
	}
}

// legOf is the leg of a space, 0 for A and 1 for B: rows alternate.
func legOf(way int) int { return (way - 1) / 2 % 2 }

func legName(way int) string { return []string{"A", "B"}[legOf(way)] }
