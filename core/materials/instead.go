package materials

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

// substitutionRow is a row of substitution.
type substitutionRow struct {
	Product string `col:"product"`
	May     string `col:"may"`
	Why     string `col:"why"`
}

var substitutions = table.LoadOf[substitutionRow](dataFiles, "substitution")

// May is who decides whether something may be taken in the place of a product.
type May string

// Who decides.
const (
	MayLike    May = "like"    // one of the same kind and rating, on somebody's word
	MayDesign  May = "design"  // the rules, as it is put in its place
	MaySupply  May = "supply"  // the supply arrangement, where it is chosen
	MaySurge   May = "surge"   // the surge assessment, where it is chosen
	MayCircuit May = "circuit" // the circuit, where it is chosen
	MayBoard   May = "board"   // the board, where it is chosen
	MayNever   May = "never"
)

// instead marks what is noted in the place of a product. What the rules decide is not taken on somebody's word: it holds the list.
func (t *TakeOff) instead(job *install.Job) {
	w := job.Words
	for i := range t.Lines {
		l := &t.Lines[i]
		may, why, _ := Substitution(l.Key)
		l.May = may
		noted, ok := job.Materials.Instead[l.Key]
		switch {
		case !ok:
		case may == MayLike:
			l.Instead = noted.What
			l.Remark = strings.TrimSpace(w.Say("In its place: %s (%s).", noted.What, noted.Why) + " " + l.Remark)
		default:
			if why == "" {
				why = w.Say("The rules decide it: have it judged on the list.")
			} else {
				why = w.Say(why)
			}
			l.Trouble = w.Say("%s is noted in the place of %s and is not taken. %s", noted.What, l.Name, why)
			t.Troubles = append(t.Troubles, l.Trouble)
		}
	}
}

// places are where a product is chosen that is not chosen on the list.
var places = map[May]Gap{MaySupply: {Sheet: working.SupplySheet, Leaf: working.ChainLeaf}, MaySurge: {Sheet: working.SupplySheet, Leaf: working.SurgeLeaf},
	MayCircuit: {Sheet: working.CircuitsSheet},
	MayBoard:   {Sheet: working.BoardSheet}}

// Substitution says who decides whether something may be taken in the place of a product, why, and where it is chosen instead; at is nil where
// that is here.
func Substitution(product string) (may May, why string, at *Gap) {
	for key := range upwards(product) {
		r := substitutions.Find(func(row *substitutionRow) bool { return row.Product == key })
		if r < 0 {
			continue
		}
		row := substitutions.Row(r)
		if place, ok := places[May(row.May)]; ok {
			return May(row.May), row.Why, &place
		}
		return May(row.May), row.Why, nil
	}
	return MayLike, "", nil
}

// Swap is one change of a circuit by which it takes another product.
type Swap func(*install.Circuit)

// widest is how many sizes a cable may be larger than the one that is replaced: more fits no terminal.
const widest = 2

// Swaps are the changes by which a circuit would take another product of the family of one: another cable that is no smaller, or another
// device of its place.
func Swaps(product string, k *install.Circuit, t *install.Terms) []Swap {
	out := []Swap{}
	switch name, _, _ := strings.Cut(product, ":"); name {
	case "cable", "al-cable", "wire":
		for _, kind := range t.CableTypes {
			larger := 0
			for _, size := range t.Sizes[kind] {
				if size < k.Route.LineMM2 || kind == k.Route.CableType && size == k.Route.LineMM2 {
					continue
				}
				if larger++; larger > widest+1 {
					break
				}
				out = append(out, func(c *install.Circuit) { c.Route.CableType, c.Route.LineMM2 = kind, size })
			}
		}
	case "cpc":
		for _, size := range t.Sizes[k.Route.CableType] {
			if size > k.Route.CPCMM2 && len(out) < widest {
				out = append(out, func(c *install.Circuit) { c.Route.CPCMM2 = size })
			}
		}
	case "device":
		for _, kind := range t.RCDTypes {
			out = append(out, func(c *install.Circuit) { c.Protection.RCDType = kind })
		}
		for _, curve := range t.Curves {
			out = append(out, func(c *install.Circuit) { c.Protection.Curve = curve })
		}
		if i := slices.IndexFunc(breaking, func(kA float64) bool { return kA > k.Protection.IcnKA }); i >= 0 {
			out = append(out, func(c *install.Circuit) { c.Protection.IcnKA = breaking[i] })
		}
		for _, family := range t.Families {
			out = append(out, func(c *install.Circuit) { c.Protection.Family = family })
		}
		ratings := t.Ratings[k.Protection.Family]
		at := slices.Index(ratings, k.Protection.RatingA)
		for _, n := range []int{at - 1, at + 1} {
			if at >= 0 && n >= 0 && n < len(ratings) {
				out = append(out, func(c *install.Circuit) { c.Protection.RatingA = ratings[n] })
			}
		}
	}
	return out
}

// breaking are the breaking capacities in which devices of a dwelling are sold, kA.
var breaking = []float64{6, 10, 15, 22, 25}

// Product is one that a circuit takes.
type Product struct{ Key, Name, Unit string }

// ProductsOf are the products of a family that circuit i of a job takes.
func ProductsOf(p rulebook.Book, job *install.Job, i int, family string) []Product {
	c := counter{TakeOff: &TakeOff{}, job: job, w: job.Words, book: p, terms: p.Terms()}
	c.circuit(&job.Circuits[i])
	out := []Product{}
	for n := range c.asks {
		a := &c.asks[n]
		if name, _, _ := strings.Cut(a.product, ":"); name == family && !slices.ContainsFunc(out, func(x Product) bool { return x.Key == a.product }) {
			out = append(out, Product{a.product, a.name, a.unit})
		}
	}
	return out
}

// Each is the price of one unit of a product in a unit, by a company's list; false where it has none.
func Each(prices map[string]Item, product, in string) (float64, bool) {
	return each(prices, product, in)
}

// Listed reports whether a company's list names something as what may be taken in the place of a product.
func Listed(prices map[string]Item, product, instead string) bool {
	item, ok := itemOf(prices, product)
	return ok && slices.Contains(item.Instead, instead)
}
