package iec230

import (
	"math"
	"strings"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/runs"
	"arvelt/core/working"
)

// circuit is one circuit under computation, with what several checks need.
type circuit struct {
	*system
	k        *install.Circuit
	rules    *useRow
	kind     cableType
	cable    wiring
	table    *table // capacity table in use
	drop     string // name of it, for the drop
	tempC    float64
	run      *runs.Run
	length   float64 // of the run, for its figures
	branches []install.Spur
	there    atStop // what the figures at each box are made of
	feed     *feed
	designs  float64 // design current, A
	out      *rulebook.CircuitReport
	// The length in metres at which the drop would meet its limit, and whether drop or loop
	// lacks something, so that no such length is known.
	longestByDrop  float64
	longestUnknown bool
}

// routeAssumptions marks a check that rests on lengths nobody measured.
func (c *circuit) routeAssumptions(k *working.Check) { rulebook.AssumeRoute(k, c.k, terms.Length) }

// separateEarth reports whether the circuit's protective conductor goes to an
// electrode: its own, or the installation's on TT.
func (c *circuit) separateEarth() bool {
	return c.Job.Supply.Earthing == install.TT || c.feed.electrode != nil || c.penApplies() && c.k.PEN.Option == penRod
}

func (c *circuit) penApplies() bool {
	return c.k.Use == useEV && c.Job.Supply.Earthing == install.TNCS && outdoors(c.k)
}

// outdoors reports whether a charge point, or the vehicle at it, stands outdoors.
func outdoors(k *install.Circuit) bool { return k.Point.Outdoor || k.Point.ServesOut }

func (s *system) report(k *install.Circuit) rulebook.CircuitReport {
	cable, ok := wiringOf(k)
	if !ok {
		return rulebook.Unwired(k, &cableRule, "a known cable type and size")
	}
	r := rulebook.ReportOf(k)
	c := &circuit{system: s, k: k, rules: rulesOf(k.Use), kind: cableKinds[k.Route.CableType],
		cable: cable, run: runs.Of(k), branches: k.Branches(), feed: s.feedOf(k.From), out: &r}
	c.length = rulebook.LengthM(k, c.run)
	c.drop, c.tempC = dropTable(k)
	c.table = capacityTables[c.drop]
	checks := rulebook.Judge(s.House, circuitRules, c, rulebook.WantedOf[*circuit](terms.IsBranch(k)))
	c.summary()
	r.Run = c.stops()
	r.Conclude(checks)
	r.Leave(k)
	return r
}

// summary completes the row of the circuit with what is not of a check.
func (c *circuit) summary() {
	sum := &c.out.Summary
	sum.LengthM, sum.DesignA = c.length, c.designs
	if c.run.Open() {
		sum.LengthM = 0
	}
	sum.Device = deviceName(&c.k.Protection)
	if c.k.Protection.RCDType != "" {
		sum.Device += c.Text(" · ", c.k.Protection.RCDType, " ", c.k.Protection.IdnMA, " mA")
		_, sum.RCDLimit, _ = RCDLimits("general", 1)
	}
	sum.Conductor = c.Text(c.cable.LineMM2, "/", c.cable.CPCMM2, " mm²")
	sum.MaxLengthM, sum.Governs = c.longestByDrop, "drop"
	if sum.MaxLoopM < c.longestByDrop {
		sum.MaxLengthM, sum.Governs = sum.MaxLoopM, "loop"
	}
	if c.longestUnknown || math.IsInf(sum.MaxLengthM, 0) {
		sum.MaxLengthM, sum.Governs = 0, ""
	}
	if math.IsInf(sum.MaxLoopM, 0) {
		sum.MaxLoopM = 0
	}
	sum.Cores = c.cores()
}

// deviceName is a device in short: B32, or the fuse with its rating.
func deviceName(p *install.Protection) string {
	if p.Family == breaker {
		return text(p.Curve, p.RatingA)
	}
	return text(familyNames[p.Family], " ", p.RatingA, " A")
}

// designCurrent judges Ib ≤ In (433.1.1).
func (c *circuit) designCurrent() {
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "433.1.1", Confidence: "high"})
	amps, rule, with, assumed := c.designA(c.k)
	if assumed != "" {
		k.Assumes(assumed)
	}
	source := circuitUses.Source.Ref
	if c.k.Use == useEV {
		source = evRules.Source.Ref
	}
	c.designs = k.Step("Ib", rule, with, amps, "A", source)
	in := k.Step("In", "device rating", deviceName(&c.k.Protection), c.k.Protection.RatingA, "A", "")
	if c.designs == 0 {
		if c.k.Use == useSurge {
			k.Decide(true)
			k.Summary = "It carries no load: the device is chosen by the surge device's manufacturer."
			return
		}
		k.AddMissing("what it feeds: power, current, or circuits")
		return
	}
	k.Max(c.designs, in)
	k.Summary = c.Text(c.designs, " A drawn through a device of ", in, " A.")
}

// capacity judges In ≤ Iz in the worst segment (433.1.1, Appendix 4).
func (c *circuit) capacity() {
	k := c.On(c.k.ID)
	k.From(c.table.Source, ambientAir.Source, groupingAir.Source)
	in := c.k.Protection.RatingA
	if standardRing(c.k) {
		in = k.Step("each leg", "at least 20 A in each leg of a ring of 30 or 32 A", "", ringLegA, "A", "433.1.204")
	}
	row := c.table.Where("size_mm2", c.cable.LineMM2)
	worst, worstPlace := math.Inf(1), ""
	if c.kind.capacity != c.drop {
		k.Step("conductor held to", "terminals for 70 °C unless the manufacturers allow more", c.table.Source.Ref, 70, "°C", "512.1.5")
	}
	for i := range c.k.Route.Segments {
		s := &c.k.Route.Segments[i]
		column, ok := c.kind.methods[string(s.Method)]
		if !ok || row < 0 || math.IsNaN(c.table.Num(row, column)) {
			k.AddMissing("a tabulated capacity for method " + string(s.Method) + " in " + c.kind.name)
			continue
		}
		tabulated, source := c.table.Num(row, column), c.table.Source.Ref
		if c.k.Route.Aluminium {
			tabulated, source = use(k, c.Text("rating of ", c.cable.LineMM2, " mm² aluminium by method ", s.Method,
				" (the cable manufacturer's instructions)"), c.k.Route.MakerA), "the cable manufacturer's instructions"
			if tabulated == 0 {
				return
			}
		}
		ground := terms.Laid[s.Method].Ground
		soil, unsure := "in_ducts", false
		if s.SoilKmW > 0 {
			soil, unsure = soilColumn(s)
		}
		cond := conditions{School: ambientTables(c.Job), Table: c.drop, Column: column, AmbientC: s.AmbientC,
			Ground: ground, InsulationMM: s.InsulationMM, SoilKmW: s.SoilKmW, SoilColumn: soil, ApplyCc: ground,
			Family: c.k.Protection.Family}
		if standardRing(c.k) {
			cond.Family = "mcb_rcbo" // the ring's own rule takes a rewirable fuse as it is
		}
		if s.Grouped > 1 {
			cond.Grouping = &grouping{Arrangement: "bunched", N: s.Grouped}
			if ground {
				cond.Grouping = &grouping{Arrangement: "direct", Spacing: "touching", N: s.Grouped}
			}
		}
		x, err := correctionFactors(cond)
		if err != nil {
			k.AddMissing(s.Place + ": " + err.Error())
			continue
		}
		iz := k.Step("Iz, "+s.Place, "It × Ca × Cg × Ci × Cs × Cf × Cc",
			c.Text(tabulated, " × ", x.ca, " × ", x.cg, " × ", x.ci, " × ", x.cs, " × ", x.cf, " × ", x.cc),
			tabulated*x.product(), "A", source)
		if ground {
			k.From(ambientGround.Source, soilThermal.Source)
			if s.SoilKmW == 0 {
				k.Assumes("soil thermal resistivity 2.5 K·m/W at " + s.Place)
			} else if unsure {
				k.Assumes("the smaller factor of soil, in a duct or directly, at " + s.Place)
			}
		}
		if iz < worst {
			worst, worstPlace = iz, s.Place
		}
	}
	if !math.IsInf(worst, 1) {
		k.Max(in, worst)
		k.Summary = c.Text("Carries ", worst, " A where it carries least (", worstPlace, "); the device lets ", in, " A through.")
		if standardRing(c.k) {
			k.Summary = c.Text("Each leg carries ", worst, " A where it carries least (", worstPlace, ") and needs ", in, " A.")
		}
	}
}

// soilColumn is the column of the soil factors for a buried stretch: that of a duct or of
// laying directly, and while nobody knows, the smaller factor. unsure says that nobody
// knows and that the two differ.
func soilColumn(s *install.Segment) (column string, unsure bool) {
	if s.Duct != nil {
		if *s.Duct {
			return "in_ducts", false
		}
		return "direct", false
	}
	duct, errD := SoilFactor(s.SoilKmW, "in_ducts")
	direct, errE := SoilFactor(s.SoilKmW, "direct")
	unsure = errD == nil && errE == nil && duct != direct
	if unsure && direct < duct {
		return "direct", true
	}
	return "in_ducts", unsure
}

// standardRing reports whether a circuit is a ring on the device that its own rule is
// made for.
func standardRing(k *install.Circuit) bool {
	return k.Use == useRing && RingDevice(k.Protection.RatingA)
}

// RingDevice reports whether a device in amperes is one of a ring final circuit
// (433.1.204).
func RingDevice(ratingA float64) bool { return ratingA == 30 || ratingA == 32 }

// ringLeastMM2 is the smallest copper conductor of a ring in mm² (433.1.204); 1.5 only in
// two-core mineral-insulated cable, which is not among the cables here.
const ringLeastMM2 = 2.5

// ring holds a ring to the device and the conductor that its rule is made for.
func (c *circuit) ring() {
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "433.1.204", Confidence: "high"})
	in := k.Step("In", "30 or 32 A", deviceName(&c.k.Protection), c.k.Protection.RatingA, "A", "433.1.204")
	k.Min(c.cable.LineMM2, ringLeastMM2)
	k.Summary = c.Text(c.cable.LineMM2, " mm² on ", in, " A.")
	if c.cable.metal != install.Copper {
		k.Decide(false)
		k.Summary = "A ring is of copper."
	}
	if !RingDevice(in) {
		k.Decide(false)
		k.Summary = c.Text("A device of ", in,
			" A: a ring has 30 or 32 A; on any other its cable has to carry the whole of the device's rating as a radial does.")
	} else if k.Verdict == working.Fail && c.cable.metal == install.Copper {
		k.Summary += c.Text(" A ring has at least ", ringLeastMM2, " mm².")
	}
}

// separateConductor judges the least size of a protective conductor that runs apart from
// its cable (543.1.1).
func (c *circuit) separateConductor() {
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "543.1.1", Confidence: "high"})
	guarded, bare := earthingLeast("in-air-guarded"), earthingLeast("in-air")
	have := c.k.Route.CPCMM2
	least, says := bare, " mm² where nothing protects it against damage."
	switch known := c.k.Route.CPCGuarded; {
	case known != nil && *known:
		least, says = guarded, " mm² where it is protected against damage."
	case known == nil && working.AtMost(guarded, have) && !working.AtMost(bare, have):
		k.AddMissing(c.Text("whether the separate protective conductor of ", have, " mm² is protected against damage"))
		return
	}
	k.Min(have, least)
	k.Summary = c.Text(have, " mm²; at least ", least, says)
}

// cores says which core of the cable is what, and how it is marked at both ends where its
// colour says something else (BS 7671 514.3, Table 51).
func (c *circuit) cores() string {
	if len(c.kind.cores) != 3 {
		return ""
	}
	line, neutral, earth := coreNames(c.Job, c.kind)
	says := "line " + line + " · neutral " + neutral + " · "
	if !c.kind.armoured {
		return says + "protective " + earth
	}
	switch c.k.Route.CPC {
	case install.ArmourCPC:
		return says + "protective by the armour; " + earth + ", in parallel with it, or left unused and sealed"
	case install.SeparateCPC:
		return says + "protective by the conductor beside it; " + earth + ", in parallel with it, or left unused and sealed"
	}
	return says + "protective " + earth + " at both ends"
}

// coreNames are the cores of a cable of three as they are marked at both ends: the line, the neutral and the protective one.
func coreNames(job *install.Job, kind cableType) (line, neutral, earth string) {
	line, neutral, earth = kind.cores[0], kind.cores[1], kind.cores[2]
	switch {
	case kind.armoured:
		if swaCores.In(&job.Schools) == schoolB {
			neutral, earth = earth, neutral
		}
		neutral, earth = neutral+", sleeved blue at both ends", earth+", sleeved green-yellow"
	case earth == coreBare:
		earth = "bare, sleeved green-yellow"
	}
	return line, neutral, earth
}

// loop judges the earth fault loop: the breaker's limit on TN, the residual
// device's on an electrode (411.4.4, 411.5.3), with the figures of the summary.
func (c *circuit) loop() {
	sum := &c.out.Summary
	k := c.On(c.k.ID)
	defer func() { c.longestUnknown = c.longestUnknown || len(k.Missing) > 0 }()
	k.From(conductors.Source, deviceTrip.Source, disconnection.Source)
	k.AddMissing(c.cable.missing...)
	for _, a := range c.cable.assumed {
		k.Assumes(a)
	}
	run := c.loopOfRun()
	sum.R1R2Cold, sum.MaxLoopM = run.cold, math.Inf(1)
	if c.run.Open() {
		sum.R1R2Cold = 0 // what is known of its legs is not all of them
	}
	c.feed.notes(k)
	if c.separateEarth() {
		c.loopByElectrode(k, run)
	} else {
		c.loopByMetal(k, run)
	}
}

// loopRun is what the circuit's own conductors add to a loop.
type loopRun struct {
	cold          float64 // Ω at 20 °C
	hot           float64 // multiplier at the temperature of a fault
	perM          float64 // Ω of one metre more, hot
	formula, with string
}

func (c *circuit) loopOfRun() loopRun {
	r := loopRun{hot: HotMultiplier(c.tempC), formula: "(r1 + r2) × L / 1000",
		with: c.Text("(", c.cable.R1, " + ", c.cable.R2, ") × ", c.length, " / 1000")}
	run := physics.LoopResistance(c.cable.R1, c.cable.R2, c.length, 1)
	r.cold, r.perM = run, run/max(c.length, 1e-9)*r.hot
	ring := c.k.Use == useRing
	if ring {
		r.perM /= 4
	}
	if c.run.Legged && c.run.Worst >= 0 {
		worst := &c.run.Stops[c.run.Worst]
		r.cold = physics.LoopResistance(c.cable.R1, c.cable.R2, worst.SeenM, 1)
		r.formula, r.with = rulebook.Seen(worst, "(r1 + r2) / 1000", c.Text)
		r.with = c.Text("(", c.cable.R1, " + ", c.cable.R2, ") / 1000, ", r.with, ", at ", c.k.Serves.Boxes[c.run.Worst].Called())
		return r
	}
	if ring {
		r.cold = RingFar(run, 0)
		r.formula, r.with = r.formula+" / 4", r.with+" / 4"
		if spur := rulebook.Longest(c.branches); spur > 0 {
			r.cold += physics.LoopResistance(c.cable.R1, c.cable.R2, spur, 1)
			r.formula, r.with = r.formula+" + the longest spur", c.Text(r.with, " + ", spur, " m")
		}
	}
	return r
}

// longestLoop notes the length at which the loop would meet its limit, the rest as it is.
func (c *circuit) longestLoop(k *working.Check, r loopRun, limit, hot float64) {
	if r.perM > 0 {
		sum := &c.out.Summary
		sum.MaxLoopM = max(0, c.length+(limit-hot)/r.perM)
		k.Step("longest", "length at the limit, the rest as it is", "", sum.MaxLoopM, "m", "")
	}
}

// loopByElectrode judges a loop that goes through the ground: the residual-current device
// disconnects, before the touch voltage is over 50 V (411.5.3).
func (c *circuit) loopByElectrode(k *working.Check, run loopRun) {
	sum := &c.out.Summary
	ra, name := c.ownElectrode()
	c.routeAssumptions(k)
	k.From(ttLimits.Source)
	r := use(k, name, ra)
	if c.k.Use == useSurge {
		k.Decide(true)
		k.Summary = "It carries no load and stands by the scheme of the surge device, which a residual-current device would upset."
		return
	}
	idn := c.residualMA()
	if idn <= 0 {
		k.AddMissing("a residual-current device")
		return
	}
	limit := k.Step("Zs max", "50 V / IΔn", c.Text("50 / (", idn, " / 1000)"), TouchV*1000/idn, "Ω", ttLimits.Source.Ref)
	if len(k.Missing) == 0 {
		c.there.loop = loopAhead{true, r + c.feed.cold, r + c.feed.hot, run.hot, 1}
	}
	rulebook.LegsMissing(k, c.k, c.run)
	k.Step("R1+R2 cold", run.formula, run.with, run.cold, "Ω", conductors.Source.Ref)
	sum.ZsCold, sum.ZsMax = r+c.feed.cold+run.cold, limit
	sum.ZsHot = k.Step("Zs hot", "Ra + R1+R2 × multiplier", c.Text(r, " + ", c.feed.hot, " + ", run.cold, " × ", run.hot),
		r+c.feed.hot+run.cold*run.hot, "Ω", "")
	if len(k.Missing) == 0 {
		k.Max(sum.ZsHot, limit)
		c.longestLoop(k, run, limit, sum.ZsHot)
		k.Summary = c.Text(sum.ZsHot, " Ω through the electrode; the ", idn, " mA device disconnects up to ", limit, " Ω.")
	} else {
		sum.ZsCold, sum.ZsHot = 0, 0
	}
}

// loopByMetal judges a loop of metal all the way: the overcurrent device disconnects in time
// (411.4.4), or a residual-current device where that one does not.
func (c *circuit) loopByMetal(k *working.Check, run loopRun) {
	sum := &c.out.Summary
	c.routeAssumptions(k)
	ze := use(k, "external loop impedance Ze", c.Job.Supply.ZeOhm)
	if c.Job.Supply.Earthing == install.IT {
		k.AddMissing("the design of an IT system by who is competent for it (411.6)")
		return
	}
	if c.Job.Supply.Earthing == "" {
		k.AddMissing("the earthing arrangement")
	}
	timeS := c.disconnectionS()
	cmin := c.rule(k, "cmin")
	limit, ia, err := deviceZsMax(&c.k.Protection, timeS, cmin)
	if err != nil {
		k.AddMissing(err.Error())
		return
	}
	k.Step("R1+R2 cold", run.formula, run.with, run.cold, "Ω", conductors.Source.Ref)
	if len(c.feed.via) > 0 {
		k.Step("ahead of it", "R1+R2 of "+strings.Join(c.feed.via, ", ")+", hot", c.Text(c.feed.cold, " Ω cold"),
			c.feed.hot, "Ω", conductors.Source.Ref)
	}
	sum.ZsMax = k.Step("Zs max", c.Text("U0 × Cmin / Ia, within ", timeS, " s"), c.Text(NominalV, " × ", cmin, " / ", ia),
		limit, "Ω", "411.4.4")
	if len(k.Missing) > 0 {
		return
	}
	c.there.loop = loopAhead{true, ze + c.feed.cold, ze + c.feed.hot, run.hot, cmin}
	if rulebook.LegsMissing(k, c.k, c.run); len(k.Missing) > 0 {
		return
	}
	sum.ZsCold = k.Step("Zs cold", "Ze + R1+R2 at 20 °C", c.Text(ze+c.feed.cold, " + ", run.cold), ze+c.feed.cold+run.cold, "Ω", "")
	sum.ZsHot = k.Step("Zs hot", c.Text("Ze + R1+R2 × multiplier at ", c.tempC, " °C"),
		c.Text(ze+c.feed.hot, " + ", run.cold, " × ", run.hot), ze+c.feed.hot+run.cold*run.hot, "Ω", multipliers.Source.Ref)
	k.Max(sum.ZsHot, limit)
	c.longestLoop(k, run, limit, sum.ZsHot)
	k.Summary = c.Text(sum.ZsHot, " Ω hot, ", sum.ZsCold, " Ω cold; limit ", limit, " Ω by the formula.")
	if c.residualOpens(k, sum, limit) {
		return
	}
	if c.k.Protection.Family != breaker {
		k.Summary = c.Text(sum.ZsHot, " Ω hot, ", sum.ZsCold, " Ω cold; limit ", limit, " Ω by the fuse's table.")
	} else if cmin == CminDefault {
		// The printed tables round to two places: it is said where that decides.
		printed := k.Step("printed", "the table, rounded to two places", "", math.Round(limit*100)/100, "Ω", "Table 41.3")
		if working.AtMost(sum.ZsHot, limit) != working.AtMost(sum.ZsHot, printed) {
			k.Summary += c.Text(" The printed table, rounded to ", printed, " Ω, would say otherwise: the verdict rests on the formula.")
		}
	}
}

// ownElectrode is the electrode through which a fault of the circuit returns, with its
// name.
func (c *circuit) ownElectrode() (ra install.Fact, name string) {
	switch {
	case c.penApplies() && c.k.PEN.Option == penRod:
		return c.k.PEN.RaOhm, "electrode resistance of the point"
	case c.feed.electrode != nil:
		return *c.feed.electrode, "electrode resistance of the other building"
	}
	return c.system.electrode, "electrode resistance of the installation"
}

// installationElectrode is the resistance that the design of a TT installation rests on:
// the higher of what is entered with the electrodes and what was read on the test sheet.
// They are of the same electrode.
func installationElectrode(job *install.Job) install.Fact {
	out := job.ElectrodeOhm()
	if read := tested(job, "electrode"); read.Known() && (!out.Known() || read.V() > out.V()) {
		out = read
	}
	return out
}

// faultLevel is the prospective fault current at the origin that the design rests on: the higher of what is entered and what was read on the test
// sheet, which settles what was only assumed.
func faultLevel(job *install.Job) install.Fact {
	out := job.Supply.PFCkA
	read := tested(job, "pfc")
	if !read.Known() || out.Confirmed() && working.AtMost(read.V(), out.V()) {
		return out
	}
	if out.Known() && out.V() > read.V() {
		read.Value = out.Value
	}
	return read
}

// tested is the highest reading of a test of the installation, as a measured figure.
func tested(job *install.Job, test string) install.Fact {
	if v, ok := rulebook.ReadingsOf(job).Highest(test, ""); ok {
		return install.Fact{Value: &v, Basis: install.Measured}
	}
	return install.Fact{}
}

// residualOpens says whether a residual-current device disconnects where the overcurrent
// device does not in time (411.4.204): a caution, as it sees no short circuit.
func (c *circuit) residualOpens(k *working.Check, sum *rulebook.Summary, limit float64) bool {
	idn := c.residualMA()
	if k.Verdict != working.Fail || idn <= 0 {
		return false
	}
	by := TouchV * 1000 / idn
	if !working.AtMost(sum.ZsHot, by) {
		return false
	}
	sum.ZsResidual = k.Step("Zs max with the residual-current device", "50 V / IΔn", c.Text("50 / (", idn, " / 1000)"), by,
		"Ω", "411.4.204")
	k.Warn()
	k.Summary = c.Text(sum.ZsHot, " Ω hot is over the ", limit, " Ω at which the overcurrent device opens in time; the ", idn,
		" mA device does up to ", by, " Ω. It does not see a short from line to neutral: see that the overcurrent device clears that one.")
	return true
}

// disconnectionS is the time in seconds within which the circuit must open:
// up to 63 A for points that a cable plugs into, up to 32 A for fixed ones.
func (c *circuit) disconnectionS() float64 {
	system, up := "TN", 32.0
	if c.separateEarth() {
		system = "TT"
	}
	if c.rules.plug || hasSockets(c.k) {
		up = 63
	}
	r := disconnection.Find(func(it *disconnectionRow) bool { return it.System == system && it.U0Band == "120<U0<=230" })
	if c.k.Use != useDistribution && c.k.Protection.RatingA <= up {
		return disconnection.Row(r).FinalS
	}
	return disconnection.Row(r).DistributionS
}

func (c *circuit) buried() bool {
	for i := range c.k.Route.Segments {
		if terms.Laid[c.k.Route.Segments[i].Method].Ground {
			return true
		}
	}
	return false
}

// cover looks at the depth of buried segments. No depth is a rule of the
// standard: it is practice, so too little is a caution, not a failure.
func (c *circuit) cover() {
	k := c.On(c.k.ID)
	k.From(burialDepth.Source)
	k.Sources[len(k.Sources)-1].Confidence = burialDepth.Source.Confidence
	least, place := math.Inf(1), ""
	for i := range c.k.Route.Segments {
		s := &c.k.Route.Segments[i]
		if !terms.Laid[s.Method].Ground {
			continue
		}
		if s.DepthMM == 0 {
			k.AddMissing("depth of " + s.Place)
		} else if s.DepthMM < least {
			least, place = s.DepthMM, s.Place
		}
	}
	if len(k.Missing) > 0 {
		return
	}
	want := k.Step("practice", "garden, low disturbance", "", c.rule(k, "cover-garden"), "mm", burialDepth.Source.Ref)
	k.Min(least, want)
	drive := burialDepth.One(func(it *burialDepthRow) bool {
		return it.School == "uk_practice" &&
			it.Place == "drive or road"
	}).DepthMM
	k.Summary = c.Text(least, " mm at ", place, "; ", want, " mm is the practice in a garden and ", max(want, drive),
		" mm under a drive, with a warning tape above.")
	if _, laid := rulebook.Laid(c.Job, nil, "cover-garden"); k.Verdict == working.Fail && !laid {
		k.Warn() // a practice; a local rule binds
	}
}

// way says whether the circuit has a place on the board.
func (c *circuit) way() {
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "the board as found (Board sheet)", Confidence: "high"})
	if c.k.Protection.OwnEnclosure {
		k.Decide(true)
		k.Summary = "In an enclosure of its own, fed from the tails: only the operator, or an isolator ahead, makes them dead."
		return
	}
	b := c.Job.BoardOf(c.k)
	if b == nil || len(b.Ways) == 0 {
		k.AddMissing("the ways of the board (Board sheet)")
		return
	}
	free := c.freeWays(b)
	k.Step("free ways", "counted on the Board sheet", "", float64(free), "", "")
	for i := range b.Ways {
		if w := &b.Ways[i]; w.No == c.k.Protection.Way && w.No != 0 {
			k.Summary = c.Text("Way ", w.No, " is for this circuit.")
			taken := !w.Free() && w.Circuit != c.k.ID
			if taken {
				k.Summary = c.Text("Way ", w.No, " is taken by ", w.Label, ".")
			} else if other := c.holder(w.No, c.k); other != nil {
				taken, k.Summary = true, c.Text("Way ", w.No, " is for ", other.Name, " too: one of them moves.")
			}
			k.Decide(!taken)
			return
		}
	}
	if free == 0 {
		k.Decide(false)
		k.Summary = "No free way: an enclosure of its own beside the board, or a larger board."
		return
	}
	k.AddMissing(c.Text("which of ", free, " free ways it takes"))
}

// holder is the circuit of the job beside k that stands on a way of its board, nil when there is none.
func (s *system) holder(way int, k *install.Circuit) *install.Circuit {
	for _, other := range s.onWay[onBoardWay{k.From, way}] {
		if other.ID != k.ID {
			return other
		}
	}
	return nil
}

// freeWays counts the ways of a board that neither the board as found nor a circuit of the job takes.
func (s *system) freeWays(b *install.Board) int {
	at := b.Feeder()
	n, counted := s.free[at]
	if !counted {
		for i := range b.Ways {
			if w := &b.Ways[i]; w.Free() && len(s.onWay[onBoardWay{at, w.No}]) == 0 {
				n++
			}
		}
		s.free[at] = n
	}
	return n
}
