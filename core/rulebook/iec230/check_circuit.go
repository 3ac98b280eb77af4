package iec230

import (
	"math"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// circuit is one circuit under computation, with what several checks need.
type circuit struct {
	job    *install.Job
	k      *install.Circuit
	kind   cableType
	cable  rulebook.Cable
	table  *table // capacity table in use
	drop   string // name of it, for the drop
	tempC  float64
	length float64
	demand rulebook.Demand
}

func (c *circuit) check(id, title, unit string) *working.Check {
	return working.New(id, c.k.ID, title, unit)
}

// routeAssumptions marks a check that rests on lengths nobody measured.
func (c *circuit) routeAssumptions(k *working.Check) {
	for i := range c.k.Route.Segments {
		if s := &c.k.Route.Segments[i]; s.Basis != install.Measured {
			k.Assumes("length of " + s.Place + ", " + f(s.LengthM) + " m")
		}
	}
}

// separateEarth reports whether the circuit's protective conductor goes to an
// electrode: its own, or the installation's on TT.
func (c *circuit) separateEarth() bool {
	return c.job.Supply.Earthing == "TT" || c.penApplies() && c.k.PEN.Option == "tt_rod"
}

func (c *circuit) penApplies() bool {
	return c.k.Use == "ev" && c.job.Supply.Earthing == "TN-C-S" && (c.k.Point.Outdoor || c.k.Point.ServesOut)
}

func circuitReport(job *install.Job, k *install.Circuit, demand rulebook.Demand) rulebook.CircuitReport {
	r := rulebook.CircuitReport{ID: k.ID, Name: k.Name, Checks: make([]working.Check, 0, 12), Options: []rulebook.Option{}}
	cable, ok := knownCables[k.Route.CableType][k.Route.LineMM2]
	if !ok {
		c := working.New("cable", k.ID, "Cable", "")
		c.Lacks("a known cable type and size")
		c.Says = "Not yet known: the cable is not chosen."
		r.Checks, r.Verdict = append(r.Checks, *c), working.Unknown
		return r
	}
	c := &circuit{job: job, k: k, kind: cableKinds[k.Route.CableType], cable: cable, length: k.Route.LengthM(), demand: demand}
	c.drop = c.kind.capacity
	if !k.Route.Terminals90 {
		c.drop = c.kind.capacity70
	}
	c.table, c.tempC = capacityTables[c.drop], insulationC(c.drop)

	loop, sum := c.loop()
	sum.LengthM, sum.DesignA = c.length, k.Point.DesignA()
	sum.Device = k.Protection.Curve + f(k.Protection.RatingA)
	if k.Protection.RCDType != "" {
		sum.Device += " · " + k.Protection.RCDType + " " + f(k.Protection.IdnMA) + " mA"
		_, sum.RCDLimit, _ = RCDLimits("general", 1)
	}
	sum.Conductor = f(cable.LineMM2) + "/" + f(cable.CPCMM2) + " mm²"
	r.Summary = sum

	r.Checks = append(r.Checks, *c.designCurrent(), *c.capacity(), *c.voltageDrop(), *loop, *c.withstand(sum), *c.breaking())
	if c.buried() {
		r.Checks = append(r.Checks, *c.cover())
	}
	r.Checks = append(r.Checks, *c.residual())
	if k.Use == "ev" {
		pen, options := c.pen()
		r.Options = options
		operator, rule := c.operator()
		r.Operator = rule
		r.Checks = append(r.Checks, *pen, *operator)
	}
	r.Checks = append(r.Checks, *c.way())
	r.Verdict = working.Pass
	for i := range r.Checks {
		k := &r.Checks[i]
		if len(k.Missing) > 0 {
			k.Verdict = working.Unknown
			if k.Says == "" {
				k.Says = "Not yet known: " + strings.Join(k.Missing, ", ") + " missing."
			}
		}
		r.Verdict = working.Worst(r.Verdict, k.Verdict)
	}
	return r
}

// designCurrent judges Ib ≤ In (433.1.1).
func (c *circuit) designCurrent() *working.Check {
	k := c.check("design-current", "Design current against the device", "A")
	k.From(working.Source{Ref: "433.1.1", Confidence: "high"})
	p := &c.k.Point
	ib := k.Step("Ib", "rated current of the point, continuous", "", p.DesignA(), "A", evRules.source.Ref)
	if p.LimitA > 0 && p.LimitA < p.CurrentA {
		k.Steps[0].Formula = "current limit set in the point"
	}
	in := k.Step("In", "device rating", c.k.Protection.Curve+f(c.k.Protection.RatingA), c.k.Protection.RatingA, "A", "")
	k.Max(ib, in)
	k.Says = f(ib) + " A drawn through a device of " + f(in) + " A."
	return k
}

// capacity judges In ≤ Iz in the worst segment (433.1.1, Appendix 4).
func (c *circuit) capacity() *working.Check {
	k := c.check("capacity", "Current-carrying capacity of the cable", "A")
	k.From(c.table.source, ambientAir.source, groupingAir.source)
	in := c.k.Protection.RatingA
	row := c.table.where("size_mm2", c.cable.LineMM2)
	worst, worstPlace := math.Inf(1), ""
	if c.kind.capacity != c.drop {
		k.Step("conductor held to", "terminals for 70 °C unless the makers allow more", c.table.source.Ref, 70, "°C", "512.1.5")
	}
	for i := range c.k.Route.Segments {
		s := &c.k.Route.Segments[i]
		column, ok := c.kind.methods[s.Method]
		if !ok || row < 0 || math.IsNaN(c.table.num(row, column)) {
			k.Lacks("a tabulated capacity for method " + s.Method + " in " + c.kind.name)
			continue
		}
		ground := s.Method == "D"
		cond := conditions{School: "bs7671", Table: c.drop, Column: column, AmbientC: s.AmbientC, Ground: ground, InsulationMM: s.InsulationMM, SoilKmW: s.SoilKmW, SoilColumn: "in_ducts", ApplyCc: ground, Family: c.k.Protection.Family}
		if s.Grouped > 1 {
			cond.Grouping = &grouping{Arrangement: "bunched", N: s.Grouped}
			if ground {
				cond.Grouping = &grouping{Arrangement: "direct", Spacing: "touching", N: s.Grouped}
			}
		}
		x, err := correctionFactors(cond)
		if err != nil {
			k.Lacks(err.Error())
			continue
		}
		tabulated := c.table.num(row, column)
		iz := k.Step("Iz, "+s.Place, "It × Ca × Cg × Ci × Cs × Cc", f(tabulated)+" × "+f(x.ca)+" × "+f(x.cg)+" × "+f(x.ci)+" × "+f(x.cs)+" × "+f(x.cc), tabulated*x.product(), "A", c.table.source.Ref)
		if ground {
			k.From(ambientGround.source, soilThermal.source)
			if s.SoilKmW == 0 {
				k.Assumes("soil thermal resistivity 2.5 K·m/W at " + s.Place)
			}
		}
		if iz < worst {
			worst, worstPlace = iz, s.Place
		}
	}
	if !math.IsInf(worst, 1) {
		k.Max(in, worst)
		k.Says = "Carries " + f(worst) + " A where it carries least (" + worstPlace + "); the device lets " + f(in) + " A through."
	}
	return k
}

// voltageDrop judges the drop from the origin to the point (Appendix 4, 6.4).
func (c *circuit) voltageDrop() *working.Check {
	k := c.check("voltage-drop", "Voltage drop", "%")
	source := c.table.source // a flat cable's table holds its drop too
	if t := dropTables[c.drop]; t != nil {
		source = t.source
	}
	k.From(vdLimits.source, source)
	c.routeAssumptions(k)
	ib := c.k.Point.DesignA()
	mv, x, err := MillivoltsPerAmpereMetre(c.drop, c.cable.LineMM2, 1, "")
	if err != nil {
		k.Lacks(err.Error())
		return k
	}
	k.Step("L", "segments + slack + tails", strconv.Itoa(len(c.k.Route.Segments))+" segments, "+f(c.k.Route.SlackM)+" + "+f(c.k.Route.BoardTailM)+" + "+f(c.k.Route.PointTailM)+" m", c.length, "m", "")
	volts := k.Step("circuit", "mV/A/m × Ib × L / 1000", f(mv)+" × "+f(ib)+" × "+f(c.length)+" / 1000", physics.Drop(mv, x, 1, ib, c.length), "V", source.Ref)
	if s := &c.job.Supply; s.TailsM.Known() && s.TailsMM2.Known() {
		if tail, tx, err := MillivoltsPerAmpereMetre("ccc_single_core_70", s.TailsMM2.V(), 1, "C"); err == nil {
			volts += k.Step("tails", "mV/A/m × Ib × L / 1000", f(tail)+" × "+f(ib)+" × "+f(s.TailsM.V())+" / 1000", physics.Drop(tail, tx, 1, ib, s.TailsM.V()), "V", dropTables["ccc_single_core_70"].source.Ref)
		}
	}
	limit := vdLimits.num(vdLimits.where("school", "bs7671", "supply", "public_lv"), "other_pc")
	pc := k.Step("drop", "V / U0", f(volts)+" / "+f(NominalV), volts/NominalV*100, "%", "")
	k.Max(pc, limit)
	k.Says = f(volts) + " V is " + f(pc) + " %, limit " + f(limit) + " %."
	return k
}

// loop judges the earth fault loop: the breaker's limit on TN, the residual
// device's on an electrode (411.4.4, 411.5.3). It also returns the figures.
func (c *circuit) loop() (*working.Check, rulebook.Summary) {
	var sum rulebook.Summary
	k := c.check("loop", "Earth fault loop impedance", "Ω")
	k.From(conductors.source, deviceTrip.source, disconnection.source)
	m := HotMultiplier(c.tempC)
	cold := physics.LoopResistance(c.cable.R1, c.cable.R2, c.length, 1)
	sum.R1R2Cold = cold
	if c.separateEarth() {
		ra, name := c.job.Supply.ElectrodeOhm, "electrode resistance of the installation"
		if c.job.Supply.Earthing != "TT" {
			ra, name = c.k.PEN.RaOhm, "electrode resistance of the point"
		}
		c.routeAssumptions(k)
		k.From(ttLimits.source)
		r := use(k, name, ra)
		if c.k.Protection.RCDType == "" || c.k.Protection.IdnMA <= 0 {
			k.Lacks("a residual-current device")
			return k, sum
		}
		limit := k.Step("Zs max", "50 V / IΔn", "50 / ("+f(c.k.Protection.IdnMA)+" / 1000)", TouchV*1000/c.k.Protection.IdnMA, "Ω", ttLimits.source.Ref)
		k.Step("R1+R2 cold", "(r1 + r2) × L / 1000", "("+f(c.cable.R1)+" + "+f(c.cable.R2)+") × "+f(c.length)+" / 1000", cold, "Ω", conductors.source.Ref)
		sum.ZsCold, sum.ZsMax = r+cold, limit
		sum.ZsHot = k.Step("Zs hot", "Ra + R1+R2 × multiplier", f(r)+" + "+f(cold)+" × "+f(m), r+cold*m, "Ω", "")
		if len(k.Missing) == 0 {
			k.Max(sum.ZsHot, limit)
			k.Says = f(sum.ZsHot) + " Ω through the electrode; the " + f(c.k.Protection.IdnMA) + " mA device disconnects up to " + f(limit) + " Ω."
		} else {
			sum.ZsCold, sum.ZsHot = 0, 0
		}
		return k, sum
	}
	c.routeAssumptions(k)
	ze := use(k, "external loop impedance Ze", c.job.Supply.ZeOhm)
	if c.job.Supply.Earthing == "" {
		k.Lacks("the earthing arrangement")
	}
	timeS := c.disconnectionS()
	limit, ia, err := ZsMax(c.k.Protection.Curve, c.k.Protection.RatingA, timeS, CminDefault)
	if err != nil {
		k.Lacks(err.Error())
		return k, sum
	}
	k.Step("R1+R2 cold", "(r1 + r2) × L / 1000", "("+f(c.cable.R1)+" + "+f(c.cable.R2)+") × "+f(c.length)+" / 1000", cold, "Ω", conductors.source.Ref)
	sum.ZsMax = k.Step("Zs max", "U0 × Cmin / Ia, within "+f(timeS)+" s", f(NominalV)+" × "+f(CminDefault)+" / "+f(ia), limit, "Ω", "411.4.4")
	if len(k.Missing) > 0 {
		return k, sum
	}
	sum.ZsCold = k.Step("Zs cold", "Ze + R1+R2 at 20 °C", f(ze)+" + "+f(cold), ze+cold, "Ω", "")
	sum.ZsHot = k.Step("Zs hot", "Ze + R1+R2 × multiplier at "+f(c.tempC)+" °C", f(ze)+" + "+f(cold)+" × "+f(m), ze+cold*m, "Ω", multipliers.source.Ref)
	k.Max(sum.ZsHot, limit)
	k.Says = f(sum.ZsHot) + " Ω hot, " + f(sum.ZsCold) + " Ω cold; limit " + f(limit) + " Ω."
	return k, sum
}

// disconnectionS is the time in seconds within which the circuit must open:
// up to 63 A for points that a cable plugs into, up to 32 A for fixed ones.
func (c *circuit) disconnectionS() float64 {
	system, up := "TN", 32.0
	if c.separateEarth() {
		system = "TT"
	}
	if c.k.Use == "ev" {
		up = 63
	}
	r := disconnection.where("system", system, "u0_band", "120<U0<=230")
	if c.k.Protection.RatingA <= up {
		return disconnection.num(r, "final_s")
	}
	return disconnection.num(r, "distribution_s")
}

// Times in seconds that the withstand check takes for a device that acts at
// once: the upper end of a breaker's instantaneous region, and a general
// residual-current device at five times its rating.
const (
	instantS  = 0.1
	residualS = 0.04
)

// withstand judges the protective conductor's section by the adiabatic rule
// for a fault at the far end (543.1.3).
func (c *circuit) withstand(sum rulebook.Summary) *working.Check {
	k := c.check("withstand", "Fault withstand of the protective conductor", "mm²")
	k.From(kValues.source)
	c.routeAssumptions(k)
	if sum.ZsCold == 0 {
		k.Lacks("loop impedance")
		return k
	}
	if !c.separateEarth() {
		use(k, "external loop impedance Ze", c.job.Supply.ZeOhm)
	}
	row := kValues.where("material", "cu", "use", cableTypes.str(cableTypes.where("type", c.kind.id), "k_use"))
	if c.tempC == 70 {
		row = kValues.where("material", "cu", "use", "cable core or bunched 70 C thermoplastic up to 300 mm2")
	}
	factor := kValues.num(row, "k")
	i := k.Step("I", "U0 / Zs cold", f(NominalV)+" / "+f(sum.ZsCold), physics.FaultCurrent(NominalV, sum.ZsCold), "A", "")
	t := c.disconnectionS()
	m, _ := FaultMultiple(c.k.Protection.Curve, t)
	switch {
	case i >= m*c.k.Protection.RatingA:
		t = k.Step("t", "breaker acts at once", "I ≥ "+f(m)+" × In", instantS, "s", deviceTrip.source.Ref)
	case c.k.Protection.RCDType != "" && i >= 5*c.k.Protection.IdnMA/1000:
		t = k.Step("t", "residual-current device acts", "I ≥ 5 × IΔn", residualS, "s", rcdTrip.source.Ref)
	default:
		k.Step("t", "disconnection time allowed", "", t, "s", disconnection.source.Ref)
	}
	s := k.Step("S min", "√(I²t) / k", "√("+f(i)+"² × "+f(t)+") / "+f(factor), physics.Adiabatic(i*i*t, factor), "mm²", "543.1.3")
	k.Min(c.cable.CPCMM2, s)
	k.Says = "The protective conductor has " + f(c.cable.CPCMM2) + " mm² and needs " + f(s) + " mm² for a fault at the point. Near the board the breaker limits the energy: see its maker's let-through figure."
	return k
}

// breaking judges the device's breaking capacity against the prospective
// fault current (434.5.1).
func (c *circuit) breaking() *working.Check {
	k := c.check("breaking-capacity", "Breaking capacity", "kA")
	k.From(testParameters.source)
	ka := use(k, "prospective fault current", c.job.Supply.PFCkA)
	if len(k.Missing) == 0 {
		k.Step("PFC", "highest of line to neutral and line to earth, at the board", "", ka, "kA", testParameters.source.Ref)
		k.Max(ka, c.k.Protection.IcnKA)
		k.Says = f(ka) + " kA may flow; the device breaks " + f(c.k.Protection.IcnKA) + " kA."
	}
	return k
}

func (c *circuit) buried() bool {
	for i := range c.k.Route.Segments {
		if c.k.Route.Segments[i].Method == "D" {
			return true
		}
	}
	return false
}

// cover looks at the depth of buried segments. No depth is a rule of the
// standard: it is practice, so too little is a caution, not a failure.
func (c *circuit) cover() *working.Check {
	k := c.check("cover", "Cover of the buried cable", "mm")
	k.From(burialDepth.source)
	k.Sources[len(k.Sources)-1].Confidence = burialDepth.source.Confidence
	least, place := math.Inf(1), ""
	for i := range c.k.Route.Segments {
		s := &c.k.Route.Segments[i]
		if s.Method != "D" {
			continue
		}
		if s.DepthMM == 0 {
			k.Lacks("depth of " + s.Place)
		} else if s.DepthMM < least {
			least, place = s.DepthMM, s.Place
		}
	}
	if len(k.Missing) > 0 {
		return k
	}
	want := k.Step("practice", "garden, low disturbance", "", burialDepth.num(burialDepth.where("place", "garden, low disturbance"), "depth_mm"), "mm", burialDepth.source.Ref)
	k.Min(least, want)
	k.Says = f(least) + " mm at " + place + "; " + f(want) + " mm is the practice in a garden and 600 mm under a drive, with a warning tape above."
	if k.Verdict == working.Fail {
		k.Verdict = working.Caution
	}
	return k
}

// residual judges the residual-current device's type and rating (722.531.3,
// 411.3.4).
func (c *circuit) residual() *working.Check {
	k := c.check("residual", "Residual-current device", "mA")
	p := &c.k.Protection
	k.From(evRules.source, rcdByLoad.source)
	if c.k.Use != "ev" {
		k.Decide(p.RCDType == "" || p.IdnMA <= rcdRules.fixed("additional_protection_idn_max"))
		k.Says = "Type " + p.RCDType + ", " + f(p.IdnMA) + " mA."
		return k
	}
	dc := c.k.Point.DCDetection
	if dc == nil && p.RCDType != "B" {
		k.Lacks("whether the charge point detects 6 mA of direct current (maker's sheet)")
	}
	faults := ResidualFaults(p.RCDType, p.IdnMA, dc != nil && *dc)
	k.Step("IΔn", "at most 30 mA, for the point alone, opening all live conductors", "", p.IdnMA, "mA", "722.531.3.1")
	said := []string{}
	for _, code := range faults {
		switch code {
		case "rcd_idn":
			said = append(said, "the rated residual current must be 30 mA or less")
		case "rcd_type":
			said = append(said, "type "+p.RCDType+" is not allowed: direct current blinds it")
		case "dc_detection":
			said = append(said, "type "+p.RCDType+" needs 6 mA direct-current detection in the point, or use type B")
		}
	}
	k.Decide(len(faults) == 0)
	switch {
	case len(k.Missing) > 0:
	case len(faults) > 0:
		k.Says = "Not suitable: " + strings.Join(said, "; ") + "."
	default:
		k.Says = "Type " + p.RCDType + ", " + f(p.IdnMA) + " mA suits this point."
		if p.RCDType == "B" {
			k.Says += " Type B bears smooth direct current by itself."
		} else {
			k.Says += " The point detects 6 mA of direct current."
		}
	}
	return k
}

// way says whether the circuit has a place on the board.
func (c *circuit) way() *working.Check {
	k := c.check("way", "A way on the board", "")
	k.From(working.Source{Ref: "the board as found (Board sheet)", Confidence: "high"})
	if c.k.Protection.OwnEnclosure {
		k.Decide(true)
		k.Says = "In an enclosure of its own, fed from the tails: only the operator, or an isolator ahead, makes them dead."
		return k
	}
	if len(c.job.Board.Ways) == 0 {
		k.Lacks("the ways of the board (Board sheet)")
		return k
	}
	free := 0
	for i := range c.job.Board.Ways {
		if c.job.Board.Ways[i].Free() {
			free++
		}
	}
	k.Step("free ways", "counted on the Board sheet", "", float64(free), "", "")
	for _, w := range c.job.Board.Ways {
		if w.No == c.k.Protection.Way && w.No != 0 {
			taken := !w.Free() && w.Circuit != c.k.ID
			k.Decide(!taken)
			k.Says = "Way " + strconv.Itoa(w.No) + " is for this circuit."
			if taken {
				k.Says = "Way " + strconv.Itoa(w.No) + " is taken by " + w.Label + "."
			}
			return k
		}
	}
	if free == 0 {
		k.Decide(false)
		k.Says = "No free way: an enclosure of its own beside the board, or a larger board."
		return k
	}
	k.Lacks("which of " + strconv.Itoa(free) + " free ways it takes")
	return k
}
