package iec230

import (
	"slices"

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

// remedies tries changes to the circuit, recomputes the whole job with each and
// keeps those with which the failed check no longer fails and no other check is
// worse than before.
func (p Practice) remedies(job *install.Job, before *rulebook.Report, failed *working.Check, price func(*install.Job) (float64, bool)) []working.Remedy {
	out := []working.Remedy{}
	was := map[string]working.Verdict{}
	for _, c := range before.Checks() {
		was[c.Circuit+"/"+c.ID] = c.Verdict
	}
	for i := range job.Circuits {
		if failed.Circuit != "" && job.Circuits[i].ID != failed.Circuit {
			continue
		}
		for _, try := range candidates(job, &job.Circuits[i], failed.ID) {
			changed := *job
			changed.Circuits = slices.Clone(job.Circuits)
			try.apply(&changed.Circuits[i])
			after := p.compute(&changed)
			var cured *working.Check
			worse := false
			checks := after.Checks()
			for n := range checks {
				c := &checks[n]
				if c.ID == failed.ID && c.Circuit == failed.Circuit {
					cured = c
				} else if old, there := was[c.Circuit+"/"+c.ID]; there && c.Verdict.Worse(old) {
					worse = true
				}
			}
			if worse || cured == nil || cured.Verdict == working.Fail || cured.Verdict == working.Unknown {
				continue
			}
			r := working.Remedy{Title: try.title, Effect: cured.Says, Sets: try.sets}
			if cured.Value != nil && cured.Limit != nil {
				r.Effect = f(*cured.Value) + " " + cured.Unit + ", limit " + f(*cured.Limit) + " " + cured.Unit
			}
			if price != nil {
				old, ok1 := price(job)
				now, ok2 := price(&changed)
				if extra := now - old; ok1 && ok2 {
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

// candidates lists what may cure a check, the least intrusive first.
func candidates(job *install.Job, k *install.Circuit, id string) []candidate {
	part := "circuits/" + k.ID
	set := func(field string, v any) working.Set { return working.Set{Part: part, Field: field, Value: v} }
	var out []candidate
	size := func(most int) {
		for _, s := range terms.Sizes[k.Route.CableType] {
			if s > k.Route.LineMM2 && most > 0 {
				most--
				out = append(out, candidate{f(s) + " mm² in place of " + f(k.Route.LineMM2) + " mm²", []working.Set{set("route.lineMM2", s)}, func(c *install.Circuit) { c.Route.LineMM2 = s }})
			}
		}
	}
	limit := func() {
		if k.Use != "ev" {
			return
		}
		for _, a := range []float64{28, 25, 20, 16, 13, 10} {
			if a < k.Point.DesignA() {
				out = append(out, candidate{"Limit charging to " + f(a) + " A", []working.Set{set("point.limitA", a)}, func(c *install.Circuit) { c.Point.LimitA = a }})
			}
		}
	}
	rating := func(up bool) {
		for _, a := range Ratings(k.Protection.Family) {
			if a >= k.Point.DesignA() && (up && a > k.Protection.RatingA || !up && a < k.Protection.RatingA) {
				out = append(out, candidate{"Device of " + f(a) + " A", []working.Set{set("protection.ratingA", a)}, func(c *install.Circuit) { c.Protection.RatingA = a }})
			}
		}
	}
	limitAndRating := func() {
		if k.Use != "ev" {
			return
		}
		for _, a := range []float64{25, 20, 16, 13, 10} {
			if a < k.Protection.RatingA {
				out = append(out, candidate{"Limit charging to " + f(a) + " A with a device of " + f(a) + " A", []working.Set{set("point.limitA", a), set("protection.ratingA", a)}, func(c *install.Circuit) { c.Point.LimitA, c.Protection.RatingA = a, a }})
			}
		}
	}
	switch id {
	case "design-current":
		rating(true)
		limit()
	case "capacity":
		rating(false)
		size(3)
		limitAndRating()
	case "voltage-drop":
		size(3)
		limit()
	case "loop", "withstand":
		for _, curve := range terms.Curves {
			if curve < k.Protection.Curve {
				out = append(out, candidate{"Curve " + curve + " in place of " + k.Protection.Curve, []working.Set{set("protection.curve", curve)}, func(c *install.Circuit) { c.Protection.Curve = curve }})
			}
		}
		size(3)
		rating(false)
		limitAndRating()
	case "breaking-capacity":
		for _, ka := range []float64{6, 10, 15, 25} {
			if ka > k.Protection.IcnKA {
				out = append(out, candidate{"Device that breaks " + f(ka) + " kA", []working.Set{set("protection.icnKA", ka)}, func(c *install.Circuit) { c.Protection.IcnKA = ka }})
			}
		}
	case "residual":
		idn := evRules.fixed("rcd_idn")
		for _, kind := range []string{"A", "F", "B"} {
			if kind != k.Protection.RCDType || k.Protection.IdnMA != idn {
				out = append(out, candidate{"Type " + kind + ", " + f(idn) + " mA", []working.Set{set("protection.rcdType", kind), set("protection.idnMA", idn)}, func(c *install.Circuit) { c.Protection.RCDType, c.Protection.IdnMA = kind, idn }})
			}
		}
	case "demand":
		if fuse := job.Supply.MainFuseA.V(); k.Use == "ev" && fuse >= leastChargeA && k.Point.ManagedA != fuse {
			out = append(out, candidate{"Load management that holds the house to " + f(fuse) + " A", []working.Set{set("point.managedA", fuse)}, func(c *install.Circuit) { c.Point.ManagedA = fuse }})
		}
		limit()
	case "pen":
		for r := range penOptions.text {
			if option := penOptions.str(r, "option"); option != k.PEN.Option {
				out = append(out, candidate{penOptions.str(r, "title"), []working.Set{set("pen.option", option)}, func(c *install.Circuit) { c.PEN.Option = option }})
			}
		}
	case "way":
		for i := range job.Board.Ways {
			if w := &job.Board.Ways[i]; w.Free() {
				no := w.No
				out = append(out, candidate{"Way " + f(float64(no)), []working.Set{set("protection.way", no)}, func(c *install.Circuit) { c.Protection.Way = no }})
				break
			}
		}
		out = append(out, candidate{"An enclosure of its own beside the board", []working.Set{set("protection.way", 0), set("protection.ownEnclosure", true)}, func(c *install.Circuit) { c.Protection.Way, c.Protection.OwnEnclosure = 0, true }})
	}
	return out
}
