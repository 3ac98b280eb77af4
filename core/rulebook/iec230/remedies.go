package iec230

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// candidate is a change worth trying: what it is called and the fields it sets.
type candidate struct {
	title string
	sets  []working.Set
	apply func(*install.Circuit)
}

// remediesMost is how many remedies are offered; more is no help in choosing.
const remediesMost = 4

// mender finds what would make a failed check of a job pass.
type mender struct {
	*system
	before *rulebook.Report
	price  func(*install.Job) (float64, bool) // nil without a price list
	was    map[checkKey]working.Verdict       // nil until first needed
	cost   float64                            // of the job as it is
	costed bool
}

type checkKey struct{ circuit, id string }

func keyOf(c *working.Check) checkKey { return checkKey{c.Circuit, c.ID} }

// prepare computes once what every remedy is compared with.
func (m *mender) prepare() {
	if m.was != nil {
		return
	}
	m.was = map[checkKey]working.Verdict{}
	note := func(checks []working.Check) {
		for i := range checks {
			m.was[keyOf(&checks[i])] = checks[i].Verdict
		}
	}
	note(m.before.Job)
	for k := range m.before.Circuits {
		note(m.before.Circuits[k].Checks)
	}
	if m.price != nil {
		m.cost, m.costed = m.price(m.job)
	}
}

// remedies tries changes to circuits, computes the job with each and keeps those
// with which the failed check no longer fails and no other check is worse than
// before.
func (m *mender) remedies(failed *working.Check) []working.Remedy {
	out := []working.Remedy{}
	for _, i := range m.worthChanging(failed) {
		for _, try := range m.candidates(&m.job.Circuits[i], failed.ID) {
			m.prepare()
			changed := *m.job
			changed.Circuits = slices.Clone(m.job.Circuits)
			try.apply(&changed.Circuits[i])
			cured, worse := m.outcome(&changed, i, failed)
			if worse || cured == nil || cured.Verdict == working.Fail || cured.Verdict == working.Unknown {
				continue
			}
			r := working.Remedy{Title: try.title, Effect: cured.Says, Sets: try.sets}
			if len(m.job.Circuits) > 1 && m.job.Circuits[i].ID != failed.Circuit {
				r.Title = m.job.Circuits[i].Name + ": " + r.Title
			}
			if cured.Value != nil && cured.Limit != nil {
				r.Effect = text(*cured.Value, " ", cured.Unit, ", limit ", *cured.Limit, " ", cured.Unit)
			}
			if m.costed {
				if now, ok := m.price(&changed); ok {
					extra := now - m.cost
					r.Extra = &extra
				}
			}
			if out = append(out, r); len(out) == remediesMost {
				return out
			}
		}
	}
	return out
}

// arcFault offers arc-fault detection for circuit i, with what it costs.
func (m *mender) arcFault(i int) []working.Remedy {
	m.prepare()
	changed := *m.job
	changed.Circuits = slices.Clone(m.job.Circuits)
	changed.Circuits[i].Protection.ArcFault = true
	r := working.Remedy{Title: "Fit arc-fault detection", Effect: "opens on an arc in the wiring that no other device sees", Sets: []working.Set{{Part: "circuits/" + changed.Circuits[i].ID, Field: "protection.arcFault", Value: true}}}
	if now, ok := m.price(&changed); ok && m.costed {
		extra := now - m.cost
		r.Extra = &extra
	}
	return []working.Remedy{r}
}

// worthChanging lists the circuits by index whose change may cure a check: its
// own, those that feed it where it is far, the members of a shared device, any
// for a check of the whole job.
func (m *mender) worthChanging(failed *working.Check) (out []int) {
	far := failed.ID == "voltage-drop" || failed.ID == "loop"
	group, shared := strings.CutPrefix(failed.ID, "group-")
	for i := range m.job.Circuits {
		k := &m.job.Circuits[i]
		switch {
		case k.ID == failed.Circuit:
			out = slices.Insert(out, 0, i)
		case shared && k.Protection.Group == group, !shared && failed.Circuit == "",
			far && m.feeds(k, m.byID[failed.Circuit]):
			out = append(out, i)
		}
	}
	return out
}

// outcome computes a job in which circuit i was changed, as far as the change
// reaches, and says how the failed check now stands and whether another is worse.
func (m *mender) outcome(changed *install.Job, i int, failed *working.Check) (cured *working.Check, worse bool) {
	s, r := begin(changed)
	look := func(checks []working.Check) {
		for n := range checks {
			c := &checks[n]
			switch old, there := m.was[keyOf(c)]; {
			case c.ID == failed.ID && c.Circuit == failed.Circuit:
				cured = c
			case c.ID == "grouping": // says only that there would be a better spread
			case there && c.Verdict.Worse(old), !there && c.Verdict == working.Fail:
				worse = true
			}
		}
	}
	look(r.Job)
	for n := range changed.Circuits {
		if worse {
			return cured, worse
		}
		if k := &changed.Circuits[n]; n == i || k.Use == "ev" || s.root(k) == s.root(&changed.Circuits[i]) {
			look(s.report(k).Checks)
		}
	}
	return cured, worse
}

// candidates lists what may cure a check, the least intrusive first.
func (m *mender) candidates(k *install.Circuit, id string) []candidate {
	job, part := m.job, "circuits/"+k.ID
	set := func(field string, v any) working.Set { return working.Set{Part: part, Field: field, Value: v} }
	designA, _, _, _ := m.designA(k)
	var out []candidate
	sizes := func(most int) (up []float64) {
		for _, s := range terms.Sizes[k.Route.CableType] {
			if s > k.Route.LineMM2 && len(up) < most {
				up = append(up, s)
			}
		}
		return up
	}
	ratings := func(up bool, most int) (fit []float64) {
		for _, a := range Ratings(k.Protection.Family) {
			if a >= designA && len(fit) < most && (up && a > k.Protection.RatingA || !up && a < k.Protection.RatingA) {
				fit = append(fit, a)
			}
		}
		return fit
	}
	size := func() {
		for _, s := range sizes(3) {
			out = append(out, candidate{text(s, " mm² in place of ", k.Route.LineMM2, " mm²"), []working.Set{set("route.lineMM2", s)}, func(c *install.Circuit) { c.Route.LineMM2 = s }})
		}
	}
	rating := func(up bool) {
		for _, a := range ratings(up, 3) {
			out = append(out, candidate{text("Device of ", a, " A"), []working.Set{set("protection.ratingA", a)}, func(c *install.Circuit) { c.Protection.RatingA = a }})
		}
	}
	ratingAndSize := func() {
		for _, a := range ratings(true, 2) {
			for _, s := range sizes(2) {
				out = append(out, candidate{text("Device of ", a, " A and ", s, " mm²"), []working.Set{set("protection.ratingA", a), set("route.lineMM2", s)}, func(c *install.Circuit) { c.Protection.RatingA, c.Route.LineMM2 = a, s }})
			}
		}
	}
	limit := func() {
		if k.Use != "ev" {
			return
		}
		for _, a := range []float64{28, 25, 20, 16, 13, 10} {
			if a < k.Point.DesignA() {
				out = append(out, candidate{text("Limit charging to ", a, " A"), []working.Set{set("point.limitA", a)}, func(c *install.Circuit) { c.Point.LimitA = a }})
			}
		}
	}
	limitAndRating := func() {
		if k.Use != "ev" {
			return
		}
		for _, a := range []float64{25, 20, 16, 13, 10} {
			if a < k.Protection.RatingA {
				out = append(out, candidate{text("Limit charging to ", a, " A with a device of ", a, " A"), []working.Set{set("point.limitA", a), set("protection.ratingA", a)}, func(c *install.Circuit) { c.Point.LimitA, c.Protection.RatingA = a, a }})
			}
		}
	}
	own := func(kinds ...string) {
		idn := rcdRules.Fixed("additional_protection_idn_max")
		for _, kind := range kinds {
			if p := &k.Protection; p.Family == "mcb_rcbo" && (kind != p.RCDType || idn != p.IdnMA || p.Group != "") {
				title, sets := text("A device of its own, type ", kind, ", ", idn, " mA"), []working.Set{set("protection.rcdType", kind), set("protection.idnMA", idn)}
				if p.RCDType != "" {
					title = text("Type ", kind, ", ", idn, " mA")
				}
				if p.Group != "" {
					sets = append(sets, set("protection.group", ""))
				}
				out = append(out, candidate{title, sets, func(c *install.Circuit) { c.Protection.RCDType, c.Protection.IdnMA, c.Protection.Group = kind, idn, "" }})
			}
		}
	}
	if strings.HasPrefix(id, "group-") {
		own("A")
		return out
	}
	switch id {
	case "design-current":
		rating(true)
		ratingAndSize()
		limit()
	case "capacity":
		rating(false)
		size()
		limitAndRating()
	case "voltage-drop":
		size()
		limit()
	case "loop", "withstand":
		for _, curve := range terms.Curves {
			if k.Protection.Family == "mcb_rcbo" && curve < k.Protection.Curve {
				out = append(out, candidate{"Curve " + curve + " in place of " + k.Protection.Curve, []working.Set{set("protection.curve", curve)}, func(c *install.Circuit) { c.Protection.Curve = curve }})
			}
		}
		if a := k.Protection.RatingA; k.Protection.Family != "mcb_rcbo" && slices.Contains(terms.Ratings["mcb_rcbo"], a) {
			out = append(out, candidate{text("Circuit-breaker B", a, " in place of the fuse"), []working.Set{set("protection.family", "mcb_rcbo"), set("protection.curve", "B")}, func(c *install.Circuit) { c.Protection.Family, c.Protection.Curve = "mcb_rcbo", "B" }})
		}
		size()
		rating(false)
		limitAndRating()
	case "breaking-capacity":
		for _, ka := range []float64{6, 10, 15, 25} {
			if ka > k.Protection.IcnKA {
				out = append(out, candidate{text("Device that breaks ", ka, " kA"), []working.Set{set("protection.icnKA", ka)}, func(c *install.Circuit) { c.Protection.IcnKA = ka }})
			}
		}
	case "residual":
		own("A", "F", "B")
	case "area":
		ratingAndSize()
		rating(true)
	case "spurs":
		fused := slices.Clone(k.Serves.Spurs)
		for i := range fused {
			fused[i].Fused = fused[i].Fused || fused[i].Outlets > 1
		}
		out = append(out, candidate{"A fused connection unit on each spur that feeds several outlets", []working.Set{set("serves.spurs", fused)}, func(c *install.Circuit) { c.Serves.Spurs = fused }})
	case "demand":
		if fuse := job.Supply.MainFuseA.V(); k.Use == "ev" && fuse >= leastChargeA && k.Point.ManagedA != fuse {
			out = append(out, candidate{text("Load management that holds the house to ", fuse, " A"), []working.Set{set("point.managedA", fuse)}, func(c *install.Circuit) { c.Point.ManagedA = fuse }})
		}
		limit()
	case "pen":
		for r := range penOptions.Text {
			if option := penOptions.Str(r, "option"); option != k.PEN.Option {
				out = append(out, candidate{penOptions.Str(r, "title"), []working.Set{set("pen.option", option)}, func(c *install.Circuit) { c.PEN.Option = option }})
			}
		}
	case "way":
		for i := range job.Board.Ways {
			if w := &job.Board.Ways[i]; w.Free() && m.holder(w.No, k) == nil {
				no := w.No
				out = append(out, candidate{text("Way ", no), []working.Set{set("protection.way", no)}, func(c *install.Circuit) { c.Protection.Way = no }})
				break
			}
		}
		out = append(out, candidate{"An enclosure of its own beside the board", []working.Set{set("protection.way", 0), set("protection.ownEnclosure", true)}, func(c *install.Circuit) { c.Protection.Way, c.Protection.OwnEnclosure = 0, true }})
	}
	return out
}
