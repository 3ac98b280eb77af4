package api

import (
	"cmp"
	"maps"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/van"
	"arvelt/core/whole"
	catalogue "arvelt/core/words"
	"arvelt/core/working"
)

// Terms answers the names that a practice accepts and what they are called.
func (s *Server) Terms(c *gin.Context, params TermsParams) {
	practice := given(params.Practice)
	if params.Job != nil {
		_, scope := s.who(c)
		var err error
		if practice, err = scope.Practice(c, params.Job.String()); err != nil {
			fail(c, err)
			return
		}
	}
	p, err := practiceOf(practice)
	if err != nil {
		fail(c, err)
		return
	}
	t, words := p.Terms(), p.Words()
	named := func(ids []string) []Named { return namedUnder(words, "", ids) }
	out := Terms{Id: p.ID(), Locale: string(t.Locale), Practice: words[p.ID()], Rules: append([]install.RuleTerm{}, t.Rules...),
		Options: append([]install.Option{}, t.Options...), Why: p.Opening().Why,
		Survey: surveyTerms(p), Earthing: named(t.Earthing), Curves: t.Curves, Places: []Named{}, Patterns: named(t.Patterns),
		Asks: map[string][]string{}, Sizes: []Named{},
		Editions: append([]string{}, t.Editions...), Length: t.Length.Unit(), Columns: t.Columns, Bars: []Named{},
		Families: []NamedRatings{}, LoadKinds: t.LoadKinds, Uses: []NamedUse{}, ResidualMA: t.ResidualMA,
		PenOptions: named(t.PENOptions), Categories: named(t.Categories), Cables: []NamedSizes{}, Methods: []Named{},
		Defaults: []Circuit{}, Together: install.Together, Notice: p.Opening().Notice}
	for _, id := range whole.PracticeIDs {
		out.Practices = append(out.Practices, Named{Id: id, Name: whole.Practices[id].Words()[id]})
	}
	out.RcdTypes = namedUnder(words, "residual:", t.RCDTypes)
	out.BondKinds, out.EarthTo = namedUnder(words, "bond:", t.BondKinds), namedUnder(words, "bond:", t.EarthTo)
	out.EarthLaid, out.BoardPlaces = namedUnder(words, "laid:", t.EarthLaid), namedUnder(words, "board:", t.BoardPlaces)
	out.Premises, out.Places = namedUnder(words, "premises:", install.Premises), namedUnder(words, "place:", t.Places)
	out.Bars, out.Held = namedUnder(words, "bar:", t.Bars), heldActs(p)
	out.BoxDevices, out.Rings = namedUnder(words, "box:", t.BoxDevices), t.Ring != ""
	out.CoverPlaces = append([]string{}, t.CoverPlaces...)
	for _, sheet := range sheetAsks {
		out.Asks[sheet] = append([]string{}, t.Asks["sheet:"+sheet]...)
	}
	for _, mm2 := range slices.Sorted(maps.Keys(t.SizeNames)) {
		out.Sizes = append(out.Sizes, Named{Id: exactly(mm2), Name: t.SizeNames[mm2]})
	}
	for _, id := range t.Uses {
		out.Uses = append(out.Uses, NamedUse{Id: id, Name: words[id], Asks: append([]string{}, t.Asks[id]...)})
	}
	for _, id := range t.Families {
		out.Families = append(out.Families, NamedRatings{Id: id, Name: words[id], Ratings: t.Ratings[id], Curves: curvesOf(t, id)})
	}
	for _, template := range p.Templates() {
		out.Defaults = append(out.Defaults, p.Defaults(template))
	}
	if out.LoadKinds == nil {
		out.LoadKinds = []string{}
	}
	out.cables(&t, words)
	spoken := catalogue.In(t.Locale)
	for _, k := range install.Kinds {
		out.Records = append(out.Records, Named{Id: string(k), Name: spoken.Say(string(install.KindNames[k]))})
	}
	for _, k := range install.PartKinds {
		out.Parts = append(out.Parts, PartKind{Name: k.Name, List: k.List, Title: spoken.Say(string(k.Title)), Sheet: string(k.Sheet),
			By: append([]string{}, k.By...), Stale: []string{}})
		for _, read := range k.Stale {
			out.Parts[len(out.Parts)-1].Stale = append(out.Parts[len(out.Parts)-1].Stale, string(read))
		}
	}
	for _, k := range install.LeftKinds {
		l := install.LeftTraits[k]
		out.Left = append(out.Left, LeftTerm{Id: k, Name: spoken.Say(string(l.Name)), Care: spoken.Say(string(l.Care)), Ends: l.Ends, Open: l.Open,
			Rated: l.Rated, Fed: l.Fed, Others: l.Others, Picture: l.Proof == install.ProofPicture})
	}
	for _, k := range install.TradeKinds {
		out.Trades = append(out.Trades, Named{Id: string(k), Name: spoken.Say(string(install.TradeNames[k]))})
	}
	for _, k := range install.TradeWaits {
		out.TradeWaits = append(out.TradeWaits, Named{Id: string(k), Name: spoken.Say(string(install.TradeWaitNames[k]))})
	}
	for _, k := range install.LeftTriggers {
		out.Triggers = append(out.Triggers, Named{Id: string(k), Name: spoken.Say(string(install.LeftTriggerNames[k]))})
	}
	for _, s := range install.PointTraits {
		out.PointSteps = append(out.PointSteps, PointTerm{Id: s.Step, Name: spoken.Say(string(s.Name)), Stage: s.Stage, Open: s.Open, Free: s.Free})
	}
	out.Kit = van.Kinds(spoken)
	for i, id := range install.AfterSubjects {
		out.Aftercare = append(out.Aftercare, Named{Id: id, Name: spoken.Say(string(install.AfterNames[i]))})
	}
	reply(c, out)
}

// exactly is a section as the interface sends it back.
func exactly(mm2 float64) string { return strconv.FormatFloat(mm2, 'f', -1, 64) }

// namedUnder names ids by their words, which some practices keep under a prefix.
func namedUnder(words map[string]string, prefix string, ids []string) []Named {
	out := make([]Named, len(ids))
	for i, id := range ids {
		out[i] = Named{Id: id, Name: cmp.Or(words[prefix+id], id)}
	}
	return out
}

// heldActs says which acts each rule holds while it fails or is not known.
func heldActs(p rulebook.Book) []HeldActs {
	out := []HeldActs{}
	for _, r := range whole.Rules(p) {
		acts := func(v working.Verdict) []string {
			list := []string{}
			for _, a := range r.Holds {
				if r.Stops(v, a) {
					list = append(list, string(a))
				}
			}
			return list
		}
		out = append(out, HeldActs{Rule: string(r.ID), Fails: acts(working.Fail), Unknown: acts(working.Unknown)})
	}
	return out
}

// cables lists the cables with their sizes and the methods that any of them is laid by.
func (out *Terms) cables(t *install.Terms, words map[string]string) {
	seen := map[string]bool{}
	for _, cable := range t.CableTypes {
		sizes := []Named{}
		for _, mm2 := range t.Sizes[cable] {
			name := exactly(mm2)
			if trade, ok := t.SizeNames[mm2]; ok {
				name = trade
			}
			sizes = append(sizes, Named{Id: exactly(mm2), Name: name})
		}
		out.Cables = append(out.Cables, NamedSizes{Id: cable, Name: words[cable], Sizes: sizes, Methods: t.Methods[cable]})
		for _, m := range t.Methods[cable] {
			if !seen[m] {
				seen[m] = true
				out.Methods = append(out.Methods, Named{Id: m, Name: words[m]})
			}
		}
	}
}

// sheetAsks are the sheets and tables whose fields depend on the practice.
var sheetAsks = []string{"supply", "board", "loads", "conductor", "device", "surge", "survey", "chain", "outdoor", "standby"}

// curvesOf lists the tripping curves of a family of devices; a fuse has none.
func curvesOf(t install.Terms, family string) []string {
	if t.Curved == "" || t.Curved == family {
		return append([]string{}, t.Curves...)
	}
	return []string{}
}
