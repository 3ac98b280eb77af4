package iec230

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/working"
)

// residualDevice is the residual-current device that protects the circuit: its
// own, or the one of its group. kind is its type, empty with none.
func (c *circuit) residualDevice() (kind string, idn float64, delayed bool) {
	p := &c.k.Protection
	if g := c.Job.GroupOf(c.k); g != nil {
		return g.RCDType, g.IdnMA, g.Delayed
	}
	if p.RCDType == "" {
		return "", 0, false
	}
	return p.RCDType, p.IdnMA, p.Delayed
}

// residualMA is the rated residual current in mA of the device that opens the circuit
// on an earth fault: its own, its group's or the one ahead of it; 0 without one.
func (c *circuit) residualMA() float64 {
	if kind, idn, _ := c.residualDevice(); kind != "" {
		return idn
	}
	return c.feed.idn
}

// additional lists why the circuit needs a residual-current device of 30 mA or
// less (411.3.3, 411.3.4, 701.411.3.3, 522.6.202, 722.531.3).
func (c *circuit) additional() []string {
	var why []string
	s := &c.k.Serves
	if hasSockets(c.k) { // by the rating of the outlet, which is 13 A, not of its device
		why = append(why, c.Text("it feeds socket-outlets of up to ", rcdSocketsRatingWithRCDMax.V(), " A (411.3.3)"))
	}
	if c.rules.luminaires {
		why = append(why, "it feeds luminaires in a dwelling (411.3.4)")
	}
	if c.k.Use == useEV {
		why = append(why, "it feeds a charge point (722.531.3)")
	}
	if s.Bath || c.k.Use == useShower {
		why = append(why, "it serves or passes a room with a bath or shower (701.411.3.3)")
	}
	if s.Concealed && !c.kind.armoured {
		why = append(why, c.Text("its cables are hidden under ", rcdConcealedCableDepthWithoutRCD.V(),
			" mm deep without earthed metal or guards (522.6.202)"))
	}
	return why
}

// loadKind is the kind of load that decides the type of the device.
func (c *circuit) loadKind() string {
	if c.k.Serves.Kind != "" {
		return c.k.Serves.Kind
	}
	if dc := c.k.Point.DCDetection; c.k.Use == useEV && dc != nil && *dc {
		return "EV point with 6 mA d.c. detection (IEC 62955 or built in)"
	}
	return c.rules.load
}

// residual judges whether a residual-current device is needed, and its type and
// rating (411.3.3, 531.3.3, 722.531.3).
func (c *circuit) residual() {
	k := c.On(c.k.ID)
	if c.k.Use == useEV {
		c.residualOfPoint(k)
		return
	}
	k.From(rcdRules.Source, rcdByLoad.Source)
	kind, idn, delayed := c.residualDevice()
	why := c.additional()
	if c.k.Protection.Group != "" && c.Job.GroupOf(c.k) == nil {
		k.AddMissing("the residual-current group that it names (Board sheet)")
		return
	}
	most := rcdAdditionalProtectionIdnMax.V()
	tt := c.separateEarth() && c.feed.idn == 0 && c.k.Use != useSurge // that stands by its own scheme
	switch {
	case kind == "" && len(why) > 0 && c.feed.idn > 0 && c.feed.idn <= most && !c.feed.delayed:
		k.Decide(true)
		k.Summary = c.Text("Needed: ", strings.Join(why, "; "), ". The ", c.feed.idn,
			" mA device ahead of it serves; when it trips, everything after it is lost.")
		return
	case kind == "" && len(why) > 0:
		k.Decide(false)
		k.Summary = "Needed, and there is none: " + strings.Join(why, "; ") + "."
		return
	case kind == "" && tt:
		k.Decide(false)
		k.Summary = "Needed, and there is none: on an electrode only a residual-current device disconnects in time (411.5)."
		return
	case kind == "":
		k.Decide(true)
		k.Summary = "None, and none is needed"
		if c.k.Use == useAlarm {
			k.Summary += ": schools differ on alarms, as a trip silences their mains supply"
		}
		k.Summary += "."
		return
	}
	load := c.loadKind()
	row := rcdByLoad.Find(func(it *rcdByLoadRow) bool { return it.Load == load })
	k.Step("IΔn", c.Text("at most ", most, " mA where additional protection is needed"), "", idn, "mA", rcdRules.Source.Ref)
	suits := rcdByLoad.Str(row, kind)
	k.Decide(suits != residualBarred && (len(why) == 0 || working.AtMost(idn, most) && !delayed))
	k.Summary = c.Text("Type ", kind, ", ", idn, " mA, for ", load)
	switch {
	case suits == residualBarred:
		k.Summary += ": this type does not see the currents that it makes (" + reasonOf(rcdByLoad.Row(row).Remark) + ")."
	case len(why) > 0 && !working.AtMost(idn, most):
		k.Summary += c.Text(": ", most, " mA or less is needed, as ", strings.Join(why, "; "), ".")
	case len(why) > 0 && delayed:
		k.Summary += ": a delayed device is no additional protection (415.1.1), and it is needed, as " + strings.Join(why, "; ") + "."
	case suits == residualConditional:
		if k.Verdict == working.Pass {
			k.Warn()
		}
		k.Summary += ": " + rcdByLoad.Row(row).Remark + "."
	case len(why) > 0:
		k.Summary += ". Needed, as " + strings.Join(why, "; ") + "."
	default:
		k.Summary += ". Not required here."
	}
	c.residualBehind(k, kind)
}

// residualBehind judges the device by every circuit that it stands ahead of: one that is
// blinded by what any of them draws or sends back protects none of them (531.3.3).
func (c *circuit) residualBehind(k *working.Check, kind string) {
	for i := range c.Job.Circuits {
		o := &c.Job.Circuits[i]
		if !c.feeds(c.k, o) {
			continue
		}
		other := circuit{system: c.system, k: o, rules: rulesOf(o.Use)}
		row := rcdByLoad.Find(func(it *rcdByLoadRow) bool { return it.Load == other.loadKind() })
		if row < 0 {
			continue
		}
		switch rcdByLoad.Str(row, kind) {
		case residualBarred:
			k.Decide(false)
			k.Summary += " It stands ahead of " + o.Name + ", for which type " + kind + " does not serve: " +
				reasonOf(rcdByLoad.Row(row).Remark) + "."
		case residualConditional:
			if k.Verdict == working.Pass {
				k.Warn()
			}
			k.Summary += " It stands ahead of " + o.Name + ": " + rcdByLoad.Row(row).Remark + "."
		}
	}
}

func reasonOf(remark string) string {
	if remark == "" {
		return "direct current blinds it"
	}
	return remark
}

// residualOfPoint judges the device of a charge point.
func (c *circuit) residualOfPoint(k *working.Check) {
	p := &c.k.Protection
	k.From(evRules.Source, rcdByLoad.Source)
	dc := c.k.Point.DCDetection
	if dc == nil && p.RCDType != typeB {
		k.AddMissing("whether the charge point detects 6 mA of direct current (manufacturer's instructions)")
	}
	faults := ResidualFaults(p.RCDType, p.IdnMA, dc != nil && *dc)
	k.Step("IΔn", "at most 30 mA, for the point alone, opening all live conductors", "", p.IdnMA, "mA", "722.531.3.1")
	said := []string{}
	if p.Group != "" {
		faults = append(faults, "shared")
		said = append(said, "a charge point has a residual-current device for itself alone")
	}
	for _, code := range faults {
		switch code {
		case askedIdn:
			said = append(said, "the rated residual current must be 30 mA or less")
		case askedType:
			said = append(said, "type "+p.RCDType+" is not allowed: direct current blinds it")
		case askedDC:
			said = append(said, "type "+p.RCDType+" needs 6 mA direct-current detection in the point, or use type B")
		}
	}
	if p.Poles < evPoles {
		faults = append(faults, "poles")
		said = append(said, "it must open line and neutral: a device of one pole leaves the neutral closed")
	}
	if p.Delayed {
		faults = append(faults, "delayed")
		said = append(said, "a delayed device is no additional protection (415.1.1)")
	}
	k.Decide(len(faults) == 0)
	switch {
	case len(k.Missing) > 0:
	case len(faults) > 0:
		k.Summary = "Not suitable: " + strings.Join(said, "; ") + "."
	default:
		k.Summary = c.Text("Type ", p.RCDType, ", ", p.IdnMA, " mA suits this point.")
		if p.RCDType == typeB {
			k.Summary += " Type B bears smooth direct current by itself."
		} else {
			k.Summary += " The point detects 6 mA of direct current."
		}
	}
}

// evPoles is the least number of poles of the device of a charge point: all live
// conductors (722.531.3.1).
const evPoles = 2

// leakage judges the standing leakage of a circuit on a device of its own
// against 30 % of its rating (531.3.2), where it has one.
func (c *circuit) leakage() {
	p := &c.k.Protection
	if p.RCDType == "" || p.IdnMA <= 0 {
		return
	}
	k := c.On(c.k.ID)
	k.From(rcdRules.Source, rcdLeakage.Source)
	ma := c.leakOf(k, c.k)
	share := c.rule(k, "leakage-share")
	limit := k.Step("limit", "share × IΔn", c.Text(share, " × ", p.IdnMA), share*p.IdnMA, "mA", "531.3.2")
	k.Max(ma, limit)
	settle(k, ma, limit)
	k.Summary = c.Text(ma, " mA flows all the time; ", limit, " mA leaves room for a fault to be told from it.")
}

// settle lets an estimate of leakage pass without a reading where even twice as
// much would stay within the limit: field values vary by about that.
func settle(k *working.Check, ma, limit float64) {
	if k.Verdict == working.Caution && working.AtMost(2*ma, limit) {
		k.Bears()
	}
}

// selectivity judges a residual-current device behind another one (536.4): the one
// ahead is delayed and rated three times as high.
func (c *circuit) selectivity() {
	kind, idn, _ := c.residualDevice()
	if kind == "" || c.feed.idn == 0 {
		return
	}
	k := c.On(c.k.ID)
	k.From(rcdRules.Source)
	least := rcdSelectivityIdnRatioMin.V()
	k.Step("ratio", c.Text("IΔn ahead / IΔn, at least ", least), c.Text(c.feed.idn, " / ", idn), c.feed.idn/idn, "", rcdRules.Source.Ref)
	k.Decide(true)
	k.Summary = c.Text("The device ahead is delayed and rated ", c.feed.idn/idn, " times as high: only the one that is meant to opens.")
	if !c.feed.delayed || !working.AtMost(least*idn, c.feed.idn) {
		k.Warn()
		k.Summary = c.Text("The ", c.feed.idn,
			" mA device ahead may open with or before this one: it should be delayed (type S) and rated at least ", least*idn, " mA.")
	}
}

// arcFault judges arc-fault detection of a socket circuit by the premises and the
// edition (421.1.7).
func (c *circuit) arcFault() {
	k := c.On(c.k.ID)
	k.From(working.Source{Ref: "BS 7671 421.1.7", Confidence: "medium"})
	edition, premises := editionOf(c.Job), premisesTable.Find(func(it *premisesRow) bool { return it.Premises == c.Job.Site.Premises })
	fitted := c.k.Protection.ArcFault
	switch {
	case fitted:
		k.Decide(true)
		k.Summary = "Fitted."
	case edition >= 0 && editionTable.Row(edition).ArcRequired == 0:
		k.Decide(true)
		k.Summary = "Recommended, not required by the edition of " + c.Job.Edition + "."
	case premises < 0:
		k.AddMissing("the kind of premises (Survey sheet): in higher-risk residential buildings, houses of several households, " +
			"care homes and student rooms it is required")
	case premisesTable.Row(premises).ArcFault:
		k.Decide(false)
		k.Summary = "Required in premises of this kind: " + premisesTable.Row(premises).Name + "."
	default:
		k.Decide(true)
		k.Summary = "Recommended, not required in a dwelling for one household. Worth most where wiring is old, hidden in timber or chewed."
	}
}

// area judges the floor that a socket circuit serves against its standard circuit
// (Appendix 15), where one applies.
func (c *circuit) area() {
	limit := areaLimit(c.k.Use, c.k.Protection.RatingA)
	if limit == 0 {
		return
	}
	k := c.On(c.k.ID)
	k.From(circuitUses.Source)
	if c.k.Serves.AreaM2 == 0 {
		k.AddMissing("the floor area that its socket-outlets serve")
		return
	}
	k.Max(c.k.Serves.AreaM2, limit)
	k.Summary = c.Text(c.k.Serves.AreaM2, " m² served; the standard circuit serves ", limit, " m².")
	if k.Verdict == working.Fail {
		// The appendix informs; what binds is that no part is likely to be overloaded for long.
		k.Warn()
		k.Summary += " The appendix only informs: show that no part of it is likely to carry too much for long, or divide it."
	}
}

// spurs judges the spurs of a ring: an unfused one feeds one outlet, and there are
// no more of them than outlets on the ring (Appendix 15).
func (c *circuit) spurs() {
	k := c.On(c.k.ID)
	k.From(circuitUses.Source)
	if c.k.Use != useRing {
		k.Decide(true)
		k.Summary = "A radial circuit has branches, not spurs: each counts with its length on the route."
		return
	}
	unfused, said := 0, []string{}
	for _, s := range c.branches {
		if !s.Fused {
			unfused++
			if s.Outlets > 1 {
				said = append(said, fmt.Sprintf("the spur to %s feeds %d outlets and needs a fused connection unit", s.Place, s.Outlets))
			}
		}
	}
	k.Step("unfused spurs", "no more than outlets on the ring", c.Text(float64(c.onRing()), " on the ring"),
		float64(unfused), "", "Appendix 15")
	if on := c.onRing(); unfused > on {
		said = append(said, fmt.Sprintf("%d unfused spurs, and %d outlets on the ring itself", unfused, on))
	}
	k.Decide(len(said) == 0)
	k.Summary = "Each unfused spur feeds one single or twin outlet."
	if len(said) > 0 {
		k.Summary = sentence(said)
	}
}

// onRing is how many outlets are on the ring itself, its spurs left out.
func (c *circuit) onRing() int {
	main := c.k.Serves.Main()
	if len(main) == 0 {
		return c.k.Serves.Points()
	}
	n := 0
	for _, id := range main {
		if c.k.Serves.BoxByID(id).Device != install.NoDevice {
			n++
		}
	}
	return n
}

// sharers lists the circuits by the residual-current device of their board that they hang on: a group's id, or the circuit's own id.
func (s *system) sharers() (order []string, by map[string][]*install.Circuit) {
	by = map[string][]*install.Circuit{}
	for i := range s.Job.Circuits {
		k := &s.Job.Circuits[i]
		device := ""
		if s.Job.GroupOf(k) != nil {
			device = "group:" + k.Protection.Group
		} else if k.Protection.RCDType != "" {
			device = k.ID
		}
		if device == "" {
			continue
		}
		if by[device] == nil {
			order = append(order, device)
		}
		by[device] = append(by[device], k)
	}
	return order, by
}

// groups judges each shared residual-current device: leakage together, the
// rating against what it carries, and what one trip darkens (314.1, 531.3.2).
func (s *system) groups() {
	_, by := s.sharers()
	for b := range s.Job.EachBoard() {
		if len(b.Groups) > 0 {
			s.groupsOf(b, by)
		}
	}
}

// groupsOf judges those of a board.
func (s *system) groupsOf(b *install.Board, by map[string][]*install.Circuit) {
	lighting, here := 0, s.Job.On(b)
	for _, k := range here {
		if k.Use == useLighting {
			lighting++
		}
	}
	for i := range b.Groups {
		g := &b.Groups[i]
		circuits := by["group:"+g.ID]
		if len(circuits) == 0 {
			continue
		}
		k := s.Of(g.ID)
		k.Title += " " + g.Name
		k.From(rcdRules.Source, rcdLeakage.Source)
		total, names, leaks := 0.0, []string{}, []Leak{}
		lights, rated := 0, 0.0
		for _, c := range circuits {
			ma := s.leakOf(k, c)
			total, names, leaks = total+ma, append(names, c.Name), append(leaks, Leak{c.Name, ma})
			if c.Use == useLighting {
				lights++
			}
			rated += c.Protection.RatingA
		}
		share := s.rule(k, "leakage-share")
		limit := k.Step("limit", "share × IΔn", s.Text(share, " × ", g.IdnMA), share*g.IdnMA, "mA", "531.3.2")
		sum := k.Step("together", "sum", "", total, "mA", "")
		k.Max(sum, limit)
		settle(k, sum, limit)
		k.Summary = fmt.Sprintf("%s mA stand of %s mA. Lost when it trips: %d of %d circuits, %s.", f(sum), f(limit),
			len(circuits), len(here), strings.Join(names, ", "))
		if k.Verdict == working.Fail {
			groups, alone := FirstFit(leaks, limit)
			k.Summary += fmt.Sprintf(" %d devices would bear it", len(groups)+len(alone))
			if len(groups) > 1 {
				said := []string{}
				for _, g := range groups {
					in := []string{}
					for _, l := range g {
						in = append(in, l.Name)
					}
					said = append(said, strings.Join(in, " + "))
				}
				k.Summary += ": " + strings.Join(said, "; ")
			}
			k.Summary += "."
		}
		if k.Verdict == working.Pass && lighting > 1 && lights == lighting {
			k.Warn()
			k.Summary += " All lighting of this board hangs on it: spread it over two devices, or give each circuit its own."
		}
		carries, _ := s.carried(circuits)
		k.Step("load", "what it feeds, after diversity, against its rating",
			s.Text(carries, " A of ", g.RatingA, " A; devices after it ", rated, " A"), carries, "A", "536.4.3.2")
		fuse := s.Job.Supply.MainFuseA.V()
		if most := math.Min(rated, orBig(fuse)); !working.AtMost(most, g.RatingA) {
			if k.Verdict == working.Pass {
				k.Warn()
			}
			k.Summary += s.Text(" Rated ", g.RatingA, " A with ", most,
				" A of devices around it: not protected against overload by them; schools differ on relying on diversity.")
		}
	}
}

func orBig(v float64) float64 {
	if v == 0 {
		return math.Inf(1)
	}
	return v
}

// Dark is how many circuits go dark when each residual-current device of the job
// opens, the most first: what a grouping is scored by.
func Dark(job *install.Job) []int {
	order, by := newSystem(job).sharers()
	out := make([]int, 0, len(order))
	for _, d := range order {
		out = append(out, len(by[d]))
	}
	slices.SortFunc(out, func(a, b int) int { return b - a })
	return out
}
