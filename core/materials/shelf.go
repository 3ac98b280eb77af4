package materials

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Kept is something that lies in the company's stock: some of a product, or one length of it.
type Kept struct {
	ID       string  `json:"id"`
	Product  string  `json:"product"`
	Name     string  `json:"name"`
	Unit     string  `json:"unit"`
	ByLength bool    `json:"byLength"`
	Count    float64 `json:"count"`
	Place    string  `json:"place"` // van or shelf
	From     string  `json:"from"`  // job that it is left over from; empty where it was put there
	By       string  `json:"by"`
	On       string  `json:"on"`
}

// OfStock is something of the company's stock that a job could take.
type OfStock struct {
	Kept Kept `json:"kept"`
	// Does: it serves somebody who asks for the product. Says is whom, or why it does not.
	Does bool   `json:"does"`
	Says string `json:"says"`
	// Take is how many of it the job is short of; all of a length.
	Take float64 `json:"take"`
	// Less is how much less is bought for the job where it is taken.
	Less float64 `json:"less"`
}

// mostOffered is how many of one product are offered at once, of those that serve and of those that do not: the rest is there when they are taken.
const mostOffered = 8

// FromStock is what of the company's stock could serve what a job is short of: what serves first, of lengths the shortest that does.
func FromStock(t *TakeOff, job *install.Job, stock []Kept) []OfStock {
	out, runs := []OfStock{}, map[string]wantedRuns{}
	for _, k := range stock {
		l := t.find(k.Product, "")
		if l == nil || l.Unit != k.Unit || l.Short <= 0 {
			continue
		}
		o := OfStock{Kept: k, Take: k.Count}
		if k.ByLength {
			r, ok := runs[k.Product]
			if !ok {
				r.steps, r.cuts = l.cutsOf(0, bought)
				runs[k.Product] = r
			}
			o.length(l, &r, job.Words)
		} else {
			o.Take, o.Does = min(k.Count, l.Short), true
			o.Says = job.Words.Say("%s of the %s that are short", unit.With(o.Take, l.Unit), unit.With(l.Short, l.Unit))
		}
		out = append(out, o)
	}
	slices.SortStableFunc(out, func(a, b OfStock) int {
		switch {
		case a.Does != b.Does:
			return map[bool]int{true: -1, false: 1}[a.Does]
		case a.Kept.Product != b.Kept.Product:
			return cmp.Compare(a.Kept.Product, b.Kept.Product)
		}
		return cmp.Compare(a.Kept.Count, b.Kept.Count)
	})
	type alike struct {
		product string
		does    bool
	}
	seen := map[alike]int{}
	out = slices.DeleteFunc(out, func(o OfStock) bool {
		seen[alike{o.Kept.Product, o.Does}]++
		return seen[alike{o.Kept.Product, o.Does}] > mostOffered
	})
	for i := range out {
		if o := &out[i]; o.Does {
			lengths := ""
			if o.Kept.ByLength {
				lengths = exactly(o.Take)
			}
			o.Less = t.find(o.Kept.Product, "").less(job, o.Take, lengths)
		}
	}
	return out
}

// wantedRuns are the lengths that are cut of a line, in steps, and what each is.
type wantedRuns struct {
	steps []int
	cuts  []Cut
}

// length judges one length by the runs that it is long enough for.
func (o *OfStock) length(l *Line, r *wantedRuns, w *words.Catalogue) {
	have := int(o.Kept.Count/step(l.Unit) + 1e-9)
	names, least := []string{}, 0
	for i, n := range r.steps {
		if least == 0 || n < least {
			least = n
		}
		if n <= have && !slices.Contains(names, r.cuts[i].For) {
			names = append(names, r.cuts[i].For)
		}
	}
	if len(names) == 0 {
		o.Says = w.Say("too short: the shortest run is %s", unit.With(float64(least)*step(l.Unit), l.Unit))
		return
	}
	if len(names) > mostNamed {
		names = append(names[:mostNamed], "…")
	}
	o.Does, o.Says = true, w.Say("long enough for %s", strings.Join(names, ", "))
}

// less is how much less of a line is to be ordered where some of it comes out of the stock.
func (l *Line) less(job *install.Job, count float64, lengths string) float64 {
	with := *l
	with.Taken, with.taken, with.Short = l.Taken+count, added(l.taken, lengths), max(0, l.Short-count)
	return max(0, unit.Significant(l.rest(job)-with.rest(job), 9))
}

// Surplus is what of a product came and is not needed, as it is reckoned; somebody counts it before it goes into the stock.
type Surplus struct {
	Product  string  `json:"product"`
	Name     string  `json:"name"`
	Unit     string  `json:"unit"`
	ByLength bool    `json:"byLength"`
	Count    float64 `json:"count"`
	Lengths  string  `json:"lengths"` // of what is left of each piece once the runs are cut
}

// leastKept is the shortest off-cut that is worth keeping, m: a tail at both ends of a short leg.
const leastKept = 1

// SurplusOf is what of each product a job will have left, as far as what came is known: what was ordered before the list changed among it.
func SurplusOf(t *TakeOff, job *install.Job) []Surplus {
	out := []Surplus{}
	add := func(l *Line) {
		came := l.Delivered + l.Taken
		over := unit.Significant(came-l.Returned-l.Left-l.Need, 9)
		if came <= 0 || over <= 0 {
			return
		}
		s := Surplus{Product: l.Key, Name: l.Name, Unit: l.Unit, ByLength: l.ByLength, Count: over}
		if l.ByLength {
			s.Lengths = joined(l.offcuts())
		}
		out = append(out, s)
	}
	seen := map[string]bool{}
	for i := range t.Lines {
		seen[t.Lines[i].Key] = true
		add(&t.Lines[i])
	}
	for i := range job.Purchases.Orders {
		for n := range job.Purchases.Orders[i].Lines {
			if l := &job.Purchases.Orders[i].Lines[n]; !seen[l.Product] {
				seen[l.Product] = true
				add(unlisted(job, l, 0))
			}
		}
	}
	return out
}

// offcuts are the lengths that are worth keeping of what came of a line once its runs are cut from it: what is cut as it goes comes off the shortest.
// There are none where some went back already, as nobody knows of which.
func (l *Line) offcuts() []float64 {
	pieces, err := install.Pieces(added(l.Lengths, l.taken), l.Unit)
	if err != nil || l.Left+l.Returned > 0 {
		return nil
	}
	trial := *l
	trial.Asks = slices.Clone(l.Asks)
	_, _, left := trial.serve(pieces, true)
	slices.Sort(left)
	goes := 0.0
	for i := range l.Asks {
		if a := &l.Asks[i]; a.Brought == nil && len(a.pieces) == 0 {
			goes += a.Need
		}
	}
	out := []float64{}
	for _, p := range left {
		off := min(p, goes)
		goes -= off
		if p -= off; p*unit.Metres(l.Unit) >= leastKept {
			out = append(out, unit.Significant(p, 4))
		}
	}
	return out
}

// Leave is what somebody counted that a job leaves to the stock.
type Leave struct {
	Product string  `json:"product"`
	Count   float64 `json:"count"`
	Lengths string  `json:"lengths"` // of what comes in pieces: each is kept by itself
	Place   string  `json:"place"`
}

// LeaveNow is what a job leaves to the stock, and what lies there then, each length by itself. The error is [install.Errors].
func (t *TakeOff) LeaveNow(job *install.Job, in Leave, on, by string) (install.Transfer, []Kept, error) {
	w, bad := job.Words, install.Errors{}
	l := t.listed(job, in.Product, "")
	if l == nil {
		return install.Transfer{}, nil, install.Errors{{Field: "product", Value: in.Product, Accept: w.Say("a product of the order list")}}
	}
	pieces := []float64{}
	there := unit.Significant(l.Delivered+l.Taken-l.Returned-l.Left, 9)
	if l.ByLength {
		var err error
		pieces, err = install.Pieces(in.Lengths, l.Unit)
		if err != nil || len(pieces) == 0 {
			bad = append(bad, install.FieldError{Field: "lengths", Value: in.Lengths,
				Accept: w.Say("piece lengths in %s joined by +, as 30 + 12 or 2x25", l.Unit)})
		}
		in.Count = unit.Significant(total(pieces), 9)
	}
	if len(bad) == 0 && (in.Count <= 0 || in.Count > there+1e-6) {
		bad = append(bad, install.FieldError{Field: "count", Value: exactly(in.Count),
			Accept: w.Say("more than 0, and no more than is there of it: %s", unit.With(max(0, there), l.Unit))})
	}
	if in.Place = strings.TrimSpace(in.Place); in.Place == "" || len(in.Place) > 120 {
		bad = append(bad, install.FieldError{Field: "place", Value: in.Place, Accept: w.Say("the van or shelf, in at most 120 characters")})
	}
	if len(bad) > 0 {
		return install.Transfer{}, nil, bad
	}
	m := install.Transfer{Product: l.Key, Name: l.Name, Count: in.Count, Unit: l.Unit, Lengths: joined(pieces), Place: in.Place, On: on, By: by}
	k := Kept{Product: l.Key, Name: l.Name, Unit: l.Unit, ByLength: l.ByLength, Count: in.Count, Place: in.Place, From: job.Ref, By: by, On: on}
	if !l.ByLength {
		return m, []Kept{k}, nil
	}
	kept := make([]Kept, len(pieces))
	for i, p := range pieces {
		kept[i] = k
		kept[i].Count = p
	}
	return m, kept, nil
}

// TakeNow is what a job takes of something that lies in the stock: a length whole, of the rest a number. The error is [install.Errors].
func (t *TakeOff) TakeNow(w *words.Catalogue, k *Kept, count float64, on, by string) (install.Transfer, error) {
	l := t.find(k.Product, "")
	switch {
	case l == nil || l.Unit != k.Unit:
		return install.Transfer{}, install.Errors{{Field: "item", Value: k.Product, Accept: w.Say("a product of the order list")}}
	case k.ByLength:
		count = k.Count
	case count <= 0 || count > k.Count:
		return install.Transfer{}, install.Errors{{Field: "count", Value: fmt.Sprint(count), Accept: w.Say("more than 0, and no more than is there of it: %s",
			unit.With(k.Count, k.Unit))}}
	}
	m := install.Transfer{Product: k.Product, Name: k.Name, Count: count, Unit: k.Unit, Place: k.Place, With: k.From, On: on, By: by}
	if k.ByLength {
		m.Lengths = exactly(count)
	}
	return m, nil
}
