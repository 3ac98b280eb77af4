package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// trial judges changes of one circuit at a time on a job of its own (rulebook.Trial).
type trial struct {
	s      *system
	job    *install.Job
	base   rulebook.Report // of the job as it is
	points []int           // the charge points, whose checks follow the demand
	byRoot map[string][]int
}

// Try begins trials.
func (Practice) Try(job *install.Job) rulebook.Trial { return newTrial(job) }

func newTrial(job *install.Job) *trial {
	own := *job
	own.Circuits = append([]install.Circuit{}, job.Circuits...)
	s, r := compute(&own)
	t := &trial{s: s, job: &own, base: r, byRoot: map[string][]int{}}
	t.s.done = &t.base
	for i := range own.Circuits {
		k := &own.Circuits[i]
		if k.Use == useEV {
			t.points = append(t.points, i)
		}
		root := s.root(k).ID
		t.byRoot[root] = append(t.byRoot[root], i)
	}
	return t
}

// Changed changes circuit i, judges what that reaches and puts it back.
func (t *trial) Changed(i int, change func(*install.Circuit), look func(*install.Job)) []working.Check {
	s, k := t.s, &t.job.Circuits[i]
	was, demand, needed := *k, s.demand, s.surgeNeeded
	change(k)
	is := *k
	s.moved(&was, &is)
	defer func() {
		*k = was
		s.moved(&is, &was)
		s.demand, s.surgeNeeded = demand, needed
	}()
	if look != nil {
		look(t.job)
		return nil
	}
	touched := rulebook.Touched(&was, &is)
	out := s.judgeReading(jobRules, touched)
	reached := []int{i}
	switch {
	case touched&rulebook.ReadsLoad != 0: // what feeds it carries more or less
		reached = append(append(reached, t.points...), t.byRoot[s.root(k).ID]...)
	case len(s.Below(k.ID)) > 0:
		reached = append(reached, t.byRoot[s.root(k).ID]...)
	}
	kept := map[int]rulebook.CircuitReport{}
	for _, n := range reached {
		if _, had := kept[n]; had {
			continue
		}
		kept[n], t.base.Circuits[n] = t.base.Circuits[n], s.report(&t.job.Circuits[n])
		out = append(out, t.base.Circuits[n].Checks...)
	}
	if s.inBath(k) {
		out = append(out, rulebook.Judge(s.House, houseRules, s, nil)...)
	}
	for n, r := range kept {
		t.base.Circuits[n] = r
	}
	return out
}

// moved forgets what was worked out of a circuit that changed.
func (s *system) moved(was, is *install.Circuit) {
	if len(s.Below(is.ID)) > 0 || is.From != "" {
		s.ahead = map[string]*feed{"": {}}
	}
	if was.Protection.Way != is.Protection.Way || was.Protection.OwnEnclosure != is.Protection.OwnEnclosure {
		s.stand()
	}
}

// judgeReading judges the rules of the whole job that read what was touched.
func (s *system) judgeReading(rules []rulebook.Asked[*system], touched rulebook.Facet) []working.Check {
	return rulebook.Judge(s.House, rules, s, func(rule *rulebook.Asked[*system]) bool { return rule.Reads&touched != 0 && !rule.Hint })
}

// mends are the changes that may cure each rule.
var mends map[working.RuleID]rulebook.Mends

// Report computes every check of the job, and what would mend those that fail.
func (Practice) Report(job *install.Job, price rulebook.Price) rulebook.Report {
	_, r := compute(job)
	t := rulebook.Later(func() rulebook.Trial { return newTrial(job) })
	rulebook.Mend(job, &r, t, price, mends)
	if price != nil {
		for k := range r.Circuits {
			for i := range r.Circuits[k].Checks {
				if c := &r.Circuits[k].Checks[i]; c.Rule == arcFaultID && c.Verdict != working.Fail &&
					!job.Circuits[k].Protection.ArcFault {
					c.Remedies = []working.Remedy{withArcFault(job, k, t, price)}
				}
			}
		}
	}
	return r
}

// withArcFault offers arc-fault detection for circuit i where it is only recommended, with
// what it costs.
func withArcFault(job *install.Job, i int, t rulebook.Trial, price rulebook.Price) working.Remedy {
	fit := func(k *install.Circuit) { k.Protection.ArcFault = true }
	r := working.Remedy{Title: "Fit arc-fault detection", Effect: "opens on an arc in the wiring that no other device sees",
		Sets: rulebook.SetsOf(&job.Circuits[i], "", fit, "protection.arcFault", true).Sets}
	before, lacked := price(job, i)
	t.Changed(i, fit, func(changed *install.Job) {
		if now, lacks := price(changed, i); len(lacked) == 0 && len(lacks) == 0 {
			extra := now - before
			r.Extra = &extra
		}
	})
	return r
}

// mending is one circuit with what its candidates are made of.
type mending struct {
	*rulebook.Mending
	k *install.Circuit
}

func on(m *rulebook.Mending) *mending { return &mending{m, m.Circuit} }

// sizes are the next larger cables.
func (m *mending) sizes(most int) (up []float64) {
	for _, s := range terms.Sizes[m.k.Route.CableType] {
		if s > m.k.Route.LineMM2 && len(up) < most {
			up = append(up, s)
		}
	}
	return up
}

// ratings are other ratings of its device that bear its design current, the next first.
func (m *mending) ratings(up bool, most int) (fit []float64) {
	need := m.designA()
	for _, a := range Ratings(m.k.Protection.Family) {
		if a >= need && len(fit) < most && (up && a > m.k.Protection.RatingA || !up && a < m.k.Protection.RatingA) {
			fit = append(fit, a)
		}
	}
	return fit
}

// designA is the design current of the circuit as it stands.
func (m *mending) designA() float64 {
	if m.k.Use == useDistribution { // what it feeds decides
		a, _, _, _ := newSystem(m.Job).designA(m.k)
		return a
	}
	a, _, _, _ := designOf(m.k)
	return a
}

func (m *mending) largerCable() {
	for _, s := range m.sizes(3) {
		m.Set(text(s, " mm² in place of ", m.k.Route.LineMM2, " mm²"),
			func(c *install.Circuit) { c.Route.LineMM2 = s }, "route.lineMM2", s)
	}
}

func (m *mending) otherRating(up bool) {
	for _, a := range m.ratings(up, 3) {
		m.Set(text("Device of ", a, " A"), func(c *install.Circuit) { c.Protection.RatingA = a }, "protection.ratingA", a)
	}
}

func (m *mending) ratingAndCable() {
	for _, a := range m.ratings(true, 2) {
		for _, s := range m.sizes(2) {
			m.Set(text("Device of ", a, " A and ", s, " mm²"),
				func(c *install.Circuit) { c.Protection.RatingA, c.Route.LineMM2 = a, s }, "protection.ratingA", a, "route.lineMM2", s)
		}
	}
}

func (m *mending) limit() {
	if m.k.Use != useEV {
		return
	}
	for _, a := range []float64{28, 25, 20, 16, 13, 10} {
		if a < m.k.Point.DesignA() {
			m.Set(text("Limit charging to ", a, " A"), func(c *install.Circuit) { c.Point.LimitA = a }, "point.limitA", a)
		}
	}
}

func (m *mending) limitAndRating() {
	if m.k.Use != useEV {
		return
	}
	for _, a := range []float64{25, 20, 16, 13, 10} {
		if a < m.k.Protection.RatingA {
			m.Set(text("Limit charging to ", a, " A with a device of ", a, " A"),
				func(c *install.Circuit) { c.Point.LimitA, c.Protection.RatingA = a, a }, "point.limitA", a, "protection.ratingA", a)
		}
	}
}

// ownResidual gives it a residual-current device of its own of one of some types.
func (m *mending) ownResidual(kinds ...string) {
	p, idn := &m.k.Protection, rcdAdditionalProtectionIdnMax.V()
	for _, kind := range kinds {
		if p.Family != breaker || kind == p.RCDType && idn == p.IdnMA && p.Group == "" {
			continue
		}
		title, sets := text("A device of its own, type ", kind, ", ", idn, " mA"),
			[]any{"protection.rcdType", kind, "protection.idnMA", idn}
		if p.RCDType != "" {
			title = text("Type ", kind, ", ", idn, " mA")
		}
		if p.Group != "" {
			sets = append(sets, "protection.group", "")
		}
		m.Set(title, func(c *install.Circuit) { c.Protection.RCDType, c.Protection.IdnMA, c.Protection.Group = kind, idn, "" }, sets...)
	}
}

func mendDesignCurrent(r *rulebook.Mending) {
	m := on(r)
	m.otherRating(true)
	m.ratingAndCable()
	m.limit()
}

func mendCapacity(r *rulebook.Mending) {
	m := on(r)
	m.otherRating(false)
	m.largerCable()
	m.limitAndRating()
}

func mendDrop(r *rulebook.Mending) {
	m := on(r)
	m.largerCable()
	m.limit()
}

// mendFault is for what a fault must do: open the device in time, and leave the cable whole.
func mendFault(r *rulebook.Mending) {
	m := on(r)
	p := &m.k.Protection
	for _, curve := range terms.Curves {
		if p.Family == breaker && curve < p.Curve {
			m.Set("Curve "+curve+" in place of "+p.Curve, func(c *install.Circuit) { c.Protection.Curve = curve },
				"protection.curve", curve)
		}
	}
	if p.Family != breaker && hasRating(breaker, p.RatingA) {
		m.Set(text("Circuit-breaker ", usualCurve, p.RatingA, " in place of the fuse"),
			func(c *install.Circuit) { c.Protection.Family, c.Protection.Curve = breaker, usualCurve }, "protection.family",
			breaker, "protection.curve", usualCurve)
	}
	m.largerCable()
	m.otherRating(false)
	m.limitAndRating()
}

func mendBreaking(m *rulebook.Mending) {
	for _, ka := range []float64{6, 10, 15, 25} {
		if ka > m.Circuit.Protection.IcnKA {
			m.Set(text("Device that breaks ", ka, " kA"), func(c *install.Circuit) { c.Protection.IcnKA = ka }, "protection.icnKA", ka)
		}
	}
}

func mendResidual(m *rulebook.Mending) { on(m).ownResidual(typeA, typeF, typeB) }

// mendGroup takes a circuit off the shared device whose check fails.
func mendGroup(m *rulebook.Mending) {
	if m.Circuit.Protection.Group == m.Check.Object {
		on(m).ownResidual(typeA)
	}
}

func mendArea(r *rulebook.Mending) {
	m := on(r)
	m.ratingAndCable()
	m.otherRating(true)
}

func mendSpurs(m *rulebook.Mending) {
	fused := append([]install.Spur{}, m.Circuit.Serves.Spurs...)
	for i := range fused {
		fused[i].Fused = fused[i].Fused || fused[i].Outlets > 1
	}
	m.Set("A fused connection unit on each spur that feeds several outlets",
		func(c *install.Circuit) { c.Serves.Spurs = fused }, "serves.spurs", fused)
}

func mendDemand(r *rulebook.Mending) {
	m := on(r)
	if fuse := m.Job.Supply.MainFuseA.V(); m.k.Use == useEV && fuse >= leastChargeA && m.k.Point.ManagedA != fuse {
		m.Set(text("Load management that holds the house to ", fuse, " A"),
			func(c *install.Circuit) { c.Point.ManagedA = fuse }, "point.managedA", fuse)
	}
	m.limit()
}

func mendPEN(m *rulebook.Mending) {
	for r := range penOptions.Text {
		if option := install.BrokenPEN(penOptions.Row(r).Option); option != m.Circuit.PEN.Option {
			m.Set(penOptions.Row(r).Title, func(c *install.Circuit) { c.PEN.Option = install.BrokenPEN(option) }, "pen.option", option)
		}
	}
}

func mendWay(m *rulebook.Mending) {
	s := newSystem(m.Job)
	if b := m.Job.BoardOf(m.Circuit); b != nil {
		for i := range b.Ways {
			if w := &b.Ways[i]; w.Free() && s.holder(w.No, m.Circuit) == nil {
				no := w.No
				m.Set(text("Way ", no), func(c *install.Circuit) { c.Protection.Way = no }, "protection.way", no)
				break
			}
		}
	}
	m.Set("An enclosure of its own beside the board",
		func(c *install.Circuit) { c.Protection.Way, c.Protection.OwnEnclosure = 0, true }, "protection.way", 0,
		"protection.ownEnclosure", true)
}
