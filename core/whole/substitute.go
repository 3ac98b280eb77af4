package whole

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/working"
)

// Substitutes is what may be taken in the place of a product of the order list.
type Substitutes struct {
	Product string        `json:"product"`
	Name    string        `json:"name"`
	May     materials.May `json:"may"`
	Why     string        `json:"why"` // of what may not, or is chosen elsewhere
	// At is where it is chosen; nil where that is on the list.
	At      *materials.Gap `json:"at"`
	Options []Substitute   `json:"options"`

	circuits []int                      // that ask for it, by their place in the job
	was      map[string]working.Verdict // of the job's checks before
}

// Substitute is another product, as the rules judge it in the place of the first.
type Substitute struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Does bool   `json:"does"` // nothing fails with it that does not fail already
	// Fails is what would fail with it.
	Fails []string `json:"fails"`
	// Extra is what a unit of it costs beside the first, net; nil where the list has no price of one of them.
	Extra  *float64 `json:"extra"`
	Listed bool     `json:"listed"` // the company's list names it as one

	swap materials.Swap
}

// circuitsOf are the circuits that ask for a line, by their place in the job; false where something else asks for it too.
func circuitsOf(job *install.Job, l *materials.Line) (at []int, only bool) {
	for i := range l.Asks {
		n := slices.IndexFunc(job.Circuits, func(k install.Circuit) bool { return k.ID == l.Asks[i].By.Circuit })
		if n < 0 {
			return nil, false
		}
		if !slices.Contains(at, n) {
			at = append(at, n)
		}
	}
	return at, true
}

// SubstitutesOf judges what may be taken in the place of a product. The error is [install.Errors].
func SubstitutesOf(job *install.Job, list map[string]materials.Item, by install.Person, now time.Time, product string) (Substitutes, error) {
	w, view := job.Words, Of(job, list, by, now)
	n := slices.IndexFunc(view.Take.Lines, func(l materials.Line) bool { return l.Key == product })
	if n < 0 {
		return Substitutes{}, install.Errors{{Field: "product", Value: product, Accept: w.Say("a product of the order list")}}
	}
	line := &view.Take.Lines[n]
	out := Substitutes{Product: product, Name: line.Name, Options: []Substitute{}}
	out.May, out.Why, out.At = materials.Substitution(product)
	if out.Why != "" {
		out.Why = w.Say(out.Why)
	}
	if out.May != materials.MayDesign {
		return out, nil
	}
	circuits, only := circuitsOf(job, line)
	if !only {
		out.May, out.Why, out.At = materials.MaySupply, w.Say("It is not of circuits alone: it is chosen where it stands, and judged there."),
			&materials.Gap{Sheet: working.BoardSheet}
		return out, nil
	}
	out.circuits, out.was = circuits, verdictsOf(&view)
	book := Practice(job)
	terms, trial := book.Terms(), book.Try(job)
	family, _, _ := strings.Cut(product, ":")
	for _, swap := range materials.Swaps(product, &job.Circuits[circuits[0]], &terms) {
		s := Substitute{Fails: []string{}, swap: swap}
		for _, i := range circuits {
			own := materials.ProductsOf(book, job, i, family)
			fits, becomes := true, materials.Product{}
			trial.Changed(i, swap, func(changed *install.Job) {
				k := changed.CircuitByID(job.Circuits[i].ID)
				fits = k.Validate(terms) == nil
				for _, p := range materials.ProductsOf(book, changed, slices.IndexFunc(changed.Circuits,
					func(o install.Circuit) bool { return o.ID == k.ID }), family) {
					if !slices.Contains(own, p) {
						becomes = p
					}
				}
			})
			if !fits || becomes.Key == "" || s.Key != "" && s.Key != becomes.Key {
				s.Key = ""
				break
			}
			s.Key, s.Name = becomes.Key, becomes.Name
			s.Extra = extra(list, product, becomes, line.Unit)
			for _, x := range trial.Changed(i, swap, nil) {
				if why := worse(job, out.was, &x); why != "" && !slices.Contains(s.Fails, why) {
					s.Fails = append(s.Fails, why)
				}
			}
		}
		if s.Key == "" || slices.ContainsFunc(out.Options, func(o Substitute) bool { return o.Key == s.Key }) {
			continue
		}
		s.Does, s.Listed = len(s.Fails) == 0, materials.Listed(list, product, s.Key)
		out.Options = append(out.Options, s)
	}
	slices.SortStableFunc(out.Options, func(a, b Substitute) int {
		return cmp.Or(-compare(a.Does, b.Does), -compare(a.Listed, b.Listed), cmp.Compare(cost(&a), cost(&b)))
	})
	return out, nil
}

// verdictsOf are the verdicts of a job's checks.
func verdictsOf(v *View) map[string]working.Verdict {
	out := make(map[string]working.Verdict, len(v.Checks))
	for i := range v.Checks {
		out[checkOf(&v.Checks[i])] = v.Checks[i].Verdict
	}
	return out
}

// worse says what a check fails, or cannot tell, that it passed before; empty where it is no worse.
func worse(job *install.Job, was map[string]working.Verdict, c *working.Check) string {
	if c.Outside || c.Of().Hint || !c.Verdict.Worse(working.Caution) || !c.Verdict.Worse(was[checkOf(c)]) {
		return ""
	}
	return strings.TrimSpace(job.Whose(c.Circuit) + c.Title + ". " + c.Summary)
}

func extra(list map[string]materials.Item, product string, becomes materials.Product, unit string) *float64 {
	was, ok := materials.Each(list, product, unit)
	now, there := materials.Each(list, becomes.Key, unit)
	if !ok || !there {
		return nil
	}
	d := round2(now - was)
	return &d
}

func compare(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

// unknownCost puts what has no price behind what has one.
const unknownCost = 1e9

func cost(s *Substitute) float64 {
	if s.Extra == nil {
		return unknownCost
	}
	return *s.Extra
}

// Take puts a substitute that does in the place of its product, on every circuit that asks for it. It returns the circuits that it changed, by
// id. The error says what would fail.
func (s *Substitutes) Take(job *install.Job, list map[string]materials.Item, by install.Person, now time.Time, instead string) ([]string, error) {
	w := job.Words
	n := slices.IndexFunc(s.Options, func(o Substitute) bool { return o.Key == instead })
	switch {
	case s.May != materials.MayDesign:
		return nil, &proving.NotYetError{Why: s.Why}
	case n < 0:
		return nil, install.Errors{{Field: "instead", Value: instead, Accept: w.Say("one of the products that are judged in its place")}}
	case !s.Options[n].Does:
		return nil, &proving.NotYetError{Why: w.Say("%s is not taken in the place of %s: %s", s.Options[n].Name, s.Name, s.Options[n].Fails[0])}
	}
	ids := []string{}
	for _, i := range s.circuits {
		s.Options[n].swap(&job.Circuits[i])
		ids = append(ids, job.Circuits[i].ID)
	}
	after := Of(job, list, by, now)
	for i := range after.Checks {
		if why := worse(job, s.was, &after.Checks[i]); why != "" {
			return nil, &proving.NotYetError{Why: w.Say("%s is not taken in the place of %s: %s", s.Options[n].Name, s.Name, why)}
		}
	}
	return ids, nil
}
