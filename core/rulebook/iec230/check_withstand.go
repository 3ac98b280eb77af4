package iec230

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Times in seconds that the withstand check takes for a device that acts at
// once: the upper end of a breaker's instantaneous region, and a general
// residual-current device at five times its rating.
const (
	instantS  = 0.1
	residualS = 0.04
)

// withstand judges the sections by the adiabatic rule, for a fault at the far end, where
// the current is least and may last, and at the device, where a breaker lets most
// through (434.5.2, 543.1.3).
func (c *circuit) withstand() {
	sum := &c.out.Summary
	k := c.On(c.k.ID)
	k.From(kValues.Source)
	c.routeAssumptions(k)
	if sum.ZsCold == 0 {
		k.AddMissing("loop impedance")
		return
	}
	if !c.separateEarth() {
		use(k, "external loop impedance Ze", c.Job.Supply.ZeOhm)
	}
	factor := c.cable.k
	if given := c.k.Protection.LetThroughA2S; given.Known() {
		if !given.Confirmed() {
			k.Assumes("let-through energy of the device")
		}
		i2t := k.Step("I²t", "let through by the device, its manufacturer's figure", "", given.V(), "A²s", "434.5.2")
		c.judgeSection(k, k.Step("S min", "√(I²t) / k", c.Text("√", i2t, " / ", factor), physics.Adiabatic(i2t, factor),
			"mm²", "543.1.3"), "by its manufacturer's figure")
		return
	}
	far, lacks := c.farEnergy(k, *sum)
	near, place := 0.0, "at the point"
	if c.k.Protection.Family == breaker {
		n, missing := c.nearEnergy(k)
		near, lacks = n, append(lacks, missing...)
	}
	worst := far
	if near > far {
		worst, place = near, "at its device"
	}
	s := k.Step("S min", "√(I²t) / k", c.Text("√", worst, " / ", factor), physics.Adiabatic(worst, factor), "mm²", "543.1.3")
	if len(lacks) > 0 && !working.AtMost(s, c.cable.CPCMM2) {
		k.AddMissing(lacks...)
		return
	}
	c.judgeSection(k, s, place)
	if c.byGuide(k, max(near, far)) {
		return
	}
	// A short from line to neutral is ended by the breaker alone.
	if line := physics.Adiabatic(near, c.cable.kLine); !working.AtMost(line, c.cable.LineMM2) && k.Verdict != working.Unknown {
		k.Step("S line", "√(I²t) / k of line and neutral", "", line, "mm²", "434.5.2")
		k.Decide(false)
		k.Summary = c.Text("Line and neutral have ", c.cable.LineMM2, " mm² and need ", line, " mm² for a fault at the device.")
	}
}

// byGuide turns a failure by the limit of the energy limiting class into a caution where
// the guide of the trade, which rounds, accepts the conductor: the manufacturer's figure, which
// is smaller than the class's limit, settles it.
func (c *circuit) byGuide(k *working.Check, worst float64) bool {
	ka, ok := c.faultAtBoard()
	p := &c.k.Protection
	limit, guide, known := ClassThree(p.Curve, p.RatingA, ka)
	thinner := min(c.cable.CPCMM2, c.cable.LineMM2)
	need := physics.Adiabatic(worst, min(c.cable.k, c.cable.kLine))
	if !ok || !known || limit != worst || !working.AtMost(guide, thinner) || working.AtMost(need, thinner) ||
		p.Family != breaker || k.Verdict == working.Unknown {
		return false
	}
	k.Warn()
	k.Summary = c.Text("By the limit of class 3, ", limit, " A²s at up to ", ka, " kA, ", need,
		" mm² are needed; the usual guide accepts ", thinner, " mm² there. The manufacturer's let-through figure settles it.")
	return true
}

// farEnergy is the energy in A²s of a fault to earth at the far end; lacks names what
// would tell it better.
func (c *circuit) farEnergy(k *working.Check, sum rulebook.Summary) (a2s float64, lacks []string) {
	i := k.Step("I", "U0 / Zs cold, at the point", c.Text(NominalV, " / ", sum.ZsCold), physics.FaultCurrent(NominalV, sum.ZsCold), "A", "")
	if p := &c.k.Protection; p.Family != breaker {
		// A fuse's time at a current is known only at the two times of the table:
		// the shorter where the current reaches it, else the longer.
		t := 5.0
		if _, ia, err := deviceZsMax(p, 0.4, CminDefault); err == nil && i >= ia {
			t = 0.4
		}
		k.Step("t", "the fuse melts within it at that current", c.Text("I = ", i, " A"), t, "s", fuseZs.Source.Ref)
		return i * i * t, nil
	}
	return c.energyAt(k, i, "at the point")
}

// nearEnergy is the energy in A²s of a fault just behind the device, by the prospective
// current at its board.
func (c *circuit) nearEnergy(k *working.Check) (a2s float64, lacks []string) {
	ka, ok := c.faultAtBoard()
	if !ok {
		return 0, []string{"prospective fault current at its board"}
	}
	i := k.Step("I near", "prospective fault current at its board", "", ka*1000, "A", testParameters.Source.Ref)
	return c.energyAt(k, i, "at its device")
}

// energyAt is the energy in A²s of a fault of so many amperes behind a breaker: what it
// lets through where it opens at once, else what flows until a residual-current device
// or the time allowed ends it.
func (c *circuit) energyAt(k *working.Check, amps float64, where string) (a2s float64, lacks []string) {
	p := &c.k.Protection
	t := c.disconnectionS()
	m, _ := FaultMultiple(p.Curve, min(t, 0.4))
	_, idn, delayed := c.residualDevice()
	switch {
	case amps >= m*p.RatingA:
		return c.breakerEnergy(k, amps, where)
	case idn > 0 && !delayed && amps >= 5*idn/1000:
		t = k.Step("t, "+where, "residual-current device acts", "I ≥ 5 × IΔn", residualS, "s", rcdTrip.Source.Ref)
	default:
		k.Step("t, "+where, "disconnection time allowed", "", t, "s", disconnection.Source.Ref)
	}
	return amps * amps * t, nil
}

// breakerEnergy is what a breaker that opens at once lets through at a current in
// amperes: a tenth of a second of it at most, and no more than its energy limiting class
// allows.
func (c *circuit) breakerEnergy(k *working.Check, amps float64, where string) (a2s float64, lacks []string) {
	p := &c.k.Protection
	most := k.Step("I²t, "+where, "I² × 0.1 s, in which a breaker has opened", c.Text(amps, "² × ", instantS),
		amps*amps*instantS, "A²s", deviceTrip.Source.Ref)
	class, _, ok := ClassThree(p.Curve, p.RatingA, amps/1000)
	manufacturer := []string{c.Text("the let-through energy of the device at ", amps, " A, from its manufacturer's instructions")}
	switch {
	case !ok || p.EnergyClass != 0 && p.EnergyClass < 3:
		return most, manufacturer
	case class >= most:
		return most, nil
	}
	if p.EnergyClass == 0 && !working.AtMost(physics.Adiabatic(most, c.cable.k), c.cable.CPCMM2) {
		k.Assumes("energy limiting class 3, the figure in the square mark of the device")
	}
	k.From(letThrough.Source)
	return k.Step("I²t, class 3, "+where, "most that the class lets through", deviceName(p), class, "A²s", letThrough.Source.Ref), nil
}

// faultAtBoard is the prospective fault current in kA at the board of a circuit's device.
func (c *circuit) faultAtBoard() (ka float64, ok bool) {
	f := c.pfc
	if !f.Known() || len(c.feed.missing) > 0 {
		return 0, false
	}
	if ka = f.V(); len(c.feed.via) > 0 && ka > 0 {
		ka = physics.FaultCurrent(NominalV, NominalV/(ka*1000)+c.feed.ln) / 1000
	}
	return ka, true
}

// judgeSection judges the protective conductor against the section needed by
// calculation, and says what the table would have.
func (c *circuit) judgeSection(k *working.Check, s float64, where string) {
	byTable := CPCTable(c.cable.LineMM2)
	if c.k.Route.CPC == "" {
		k.Step("by table", "same material as the line conductor", c.Text(c.cable.LineMM2, " mm²"), byTable, "mm²", cpcMin.Source.Ref)
	} else {
		byTable = k.Step("by table", "section for the line × k of the line / k of the protective conductor",
			c.Text(byTable, " × ", c.cable.kLine, " / ", c.cable.k), byTable*c.cable.kLine/c.cable.k, "mm²", cpcMin.Source.Ref)
	}
	k.Min(c.cable.CPCMM2, s)
	k.Summary = c.Text("The protective conductor has ", c.cable.CPCMM2, " mm² and needs ", s, " mm² by calculation for a fault ", where)
	if byTable > c.cable.CPCMM2 {
		k.Summary += c.Text("; the table, which spares the calculation, has ", byTable, " mm².")
	} else {
		k.Summary += c.Text(", ", byTable, " mm² by the table.")
	}
}

// breaking judges the device's breaking capacity against the prospective
// fault current (434.5.1).
func (c *circuit) breaking() {
	k := c.On(c.k.ID)
	k.From(testParameters.Source)
	ka := use(k, "prospective fault current", c.pfc)
	c.feed.notes(k)
	if len(k.Missing) > 0 {
		return
	}
	k.Step("PFC", "highest of line to neutral and line to earth, at the main board", "", ka, "kA", testParameters.Source.Ref)
	if there, ok := c.faultAtBoard(); ok && len(c.feed.via) > 0 && ka > 0 {
		ka = k.Step("PFC at its board", "U0 / (U0 / PFC + line and neutral of the way)",
			c.Text(NominalV, " / (", NominalV/(ka*1000), " + ", c.feed.ln, ") / 1000"), there, "kA", "")
	}
	breaks, together := c.k.Protection.IcnKA, ""
	if own := breaks; ka > own && c.k.Protection.CascadeKA > own {
		breaks, together = c.k.Protection.CascadeKA, " together with the device ahead of it, by its manufacturer's statement"
		k.Step("cascade", "manufacturer's statement for the pair", "", breaks, "kA", "434.5.1")
	}
	if b := c.Job.BoardOf(c.k); b != nil && b.Feed == "" && ka > breaks && b.ConditionalKA > 0 && c.conditional(k, ka, b.ConditionalKA) {
		return
	}
	k.Max(ka, breaks)
	k.Summary = c.Text(ka, " kA may flow; the device breaks ", breaks, " kA", together, ".")
	if k.Verdict == working.Fail {
		k.Summary += " A manufacturer's statement for it with the device ahead of it may allow more."
	}
}

// conditionalFuseA is the largest fuse at the origin behind which a consumer unit's
// conditional rating holds (IEC 61439-3 as nationally amended).
const conditionalFuseA = 100.0

// conditional judges a breaking capacity by the conditional rating of the consumer unit;
// false where the fault current is beyond it, so that the device itself is judged.
func (c *circuit) conditional(k *working.Check, ka, declared float64) bool {
	s := &c.Job.Supply
	if !working.AtMost(ka, declared) {
		return false
	}
	k.From(working.Source{Ref: "BS EN 61439-3 (conditional short-circuit rating of a consumer unit); 434.5.1", Confidence: "medium"})
	k.Step("conditional", "declared by the board's manufacturer", "", declared, "kA", "434.5.1")
	if lacks := conditionalLacks(s); lacks != "" {
		k.AddMissing(lacks)
		return true
	}
	k.Max(ka, declared)
	k.Summary = c.Text(ka, " kA may flow; the board is declared for ", declared, " kA behind the fuse (", s.MainFuseType,
		"). Its devices are those of the board's manufacturer.")
	return true
}

// conditionalLacks is what the conditional rating of a board still rests on, "" where the
// fuse ahead is one for which it holds.
func conditionalLacks(s *install.Supply) string {
	switch {
	case !s.MainFuseA.Known():
		return "the main fuse, on which the board's conditional rating rests"
	case !working.AtMost(s.MainFuseA.V(), conditionalFuseA):
		return text("the manufacturer's statement for a fuse of ", s.MainFuseA.V(),
			" A: the conditional rating of the board holds up to ", conditionalFuseA, " A")
	case strings.TrimSpace(s.MainFuseType) == "":
		return "the kind of the main fuse (Supply sheet), which the board's manufacturer names with the conditional rating"
	}
	return ""
}
