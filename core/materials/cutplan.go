package materials

import (
	"cmp"
	"errors"
	"math"
	"slices"

	"arvelt/core/cutting"
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// CutPlan says what of one product is bought in which lengths and what is cut from each, in the order in which it is pulled.
type CutPlan struct {
	Product string `json:"product"`
	Name    string `json:"name"`
	Unit    string `json:"unit"`
	Buy     []Pack `json:"buy"`
	Bars    []Bar  `json:"bars"`
	// Bought is what is bought, Bound what no plan undercuts, Hand what is bought where the longest is cut first from the largest drum.
	Bought float64 `json:"bought"`
	Bound  float64 `json:"bound"`
	Hand   float64 `json:"hand"`
	Exact  bool    `json:"exact"` // proved: nothing less can be bought
	// Measure are the lengths that nobody measured and on which the most hangs.
	Measure []Measure `json:"measure"`
	// Lacks is why there is no plan; empty where there is.
	Lacks string `json:"lacks"`
}

// Pack is how many of a length are bought.
type Pack struct {
	Length float64 `json:"length"`
	Count  int     `json:"count"`
}

// Bar is one drum, coil or piece that is there with what is cut from it.
type Bar struct {
	Length float64 `json:"length"`
	Bought bool    `json:"bought"` // else it is on site
	Cuts   []Cut   `json:"cuts"`
	Left   float64 `json:"left"`
}

// Cut is one length: where it lies on its drum, and what its ends are tagged with.
type Cut struct {
	For     string  `json:"for"`
	From    string  `json:"from"`
	To      string  `json:"to"`
	Length  float64 `json:"length"`
	Start   float64 `json:"start"` // mark on the drum at which it begins, and at which it ends
	End     float64 `json:"end"`
	Assumed bool    `json:"assumed"`
	Share   bool    `json:"share"` // an equal part of a run whose legs nobody knows
}

// Measure is a length that nobody measured, and what is bought where it is a tenth shorter or longer than was taken; Longer is nil where no length
// that is sold holds it then.
type Measure struct {
	For     string   `json:"for"`
	From    string   `json:"from"`
	To      string   `json:"to"`
	Length  float64  `json:"length"`
	Shorter float64  `json:"shorter"`
	Longer  *float64 `json:"longer"`
}

// unsure is by how much of itself a length may be wrong that nobody measured: what an estimate of a route by eye is usually off by.
const unsure = 0.1

// step is the smallest length that is marked out, in a unit: a tenth of a metre, or a quarter of a foot.
func step(in string) float64 {
	if unit.Metres(in) == 1 {
		return 0.1
	}
	return 0.25
}

// cutsOf are the lengths that are cut of a line with the waste of the job, in steps, and what each is.
func (l *Line) cutsOf(waste float64, wanted func(*Ask) bool) (steps []int, cuts []Cut) {
	of := step(l.Unit)
	add := func(a *Ask, p Piece, share bool) {
		n := int(math.Ceil(unit.Significant(p.Length*(1+waste/100)/of, 9)))
		if n <= 0 {
			return
		}
		steps = append(steps, n)
		cuts = append(cuts, Cut{For: a.For, From: p.From, To: p.To, Length: unit.Significant(float64(n)*of, 9), Assumed: p.Assumed || share, Share: share})
	}
	for i := range l.Asks {
		a := &l.Asks[i]
		if !wanted(a) {
			continue
		}
		for _, p := range a.pieces {
			add(a, p, false)
		}
		if len(a.pieces) == 0 {
			n := max(a.legs, 1)
			for range n {
				add(a, Piece{Length: a.Need / float64(n)}, true)
			}
		}
	}
	return steps, cuts
}

// stocksOf are the lengths in which a product is sold, in steps, each for what it holds.
func stocksOf(packs []float64, in string) []cutting.Stock {
	out := []cutting.Stock{}
	for _, p := range packs {
		if n := int(p/step(in) + 1e-9); n > 0 {
			out = append(out, cutting.Stock{Length: n, Cost: n})
		}
	}
	return out
}

// inPacks is what is bought of a line that is cut, in the lengths in which it is sold, for those of its askers that are wanted: by a plan at
// once that is good enough to reckon with. What comes out of the cut plan, by which it is ordered, may be less. ok is false where it is sold by the unit of length, or
// where no length that is sold holds one of the cuts.
func (l *Line) inPacks(waste float64, wanted func(*Ask) bool) (order float64, ok bool) {
	if !l.ByLength || len(l.packs) == 0 {
		return 0, false
	}
	steps, _ := l.cutsOf(waste, wanted)
	plan, err := cutting.Quick(cutting.Problem{Cuts: steps, Stocks: stocksOf(l.packs, l.Unit)})
	return unit.Significant(float64(plan.Cost)*step(l.Unit), 9), err == nil
}

// unsold says of which run no length that is sold is long enough; empty where each is.
func (l *Line) unsold(w *words.Catalogue, waste float64) string {
	if !l.ByLength || len(l.packs) == 0 {
		return ""
	}
	steps, cuts := l.cutsOf(waste, bought)
	p := cutting.Problem{Cuts: steps, Stocks: stocksOf(l.packs, l.Unit)}
	if err := p.Check(); err != nil {
		return l.Name + ": " + tooLong(w, err, cuts, step(l.Unit), l.Unit)
	}
	return ""
}

// CutPlans are the plans of all that is cut of a list. While it looks for better ones it asks goOn again and again, which stops it by answering
// no: at is the one that it looks at, soFar are all of them as they are then. goOn may be nil.
func CutPlans(t *TakeOff, job *install.Job, goOn func(at int, soFar func() []CutPlan) bool) []CutPlan {
	lines := t.toCut()
	out := make([]CutPlan, 0, len(lines))
	var quick []CutPlan // of all, worked out once somebody wants to see them
	for at, l := range lines {
		out = append(out, l.cutPlan(job, func(best func() CutPlan) bool {
			return goOn == nil || goOn(at, func() []CutPlan {
				if quick == nil {
					for _, l := range lines {
						quick = append(quick, l.cutPlan(job, func(func() CutPlan) bool { return false }))
					}
				}
				return slices.Concat(out, []CutPlan{best()}, quick[at+1:])
			})
		}))
	}
	return out
}

func (t *TakeOff) toCut() (out []*Line) {
	for i := range t.Lines {
		if l := &t.Lines[i]; l.ByLength && l.Need > 0 {
			out = append(out, l)
		}
	}
	return out
}

// cutPlan is that of a line; goOn is of [CutPlans] and may be nil.
func (l *Line) cutPlan(job *install.Job, goOn func(best func() CutPlan) bool) CutPlan {
	w, of := job.Words, step(l.Unit)
	out := CutPlan{Product: l.Key, Name: l.Name, Unit: l.Unit, Buy: []Pack{}, Bars: []Bar{}, Measure: []Measure{}}
	p := cutting.Problem{Stocks: stocksOf(l.packs, l.Unit)}
	if len(p.Stocks) == 0 {
		out.Lacks = w.Say("The company’s list does not say in which lengths it is sold: enter them there.")
		return out
	}
	var cuts []Cut
	p.Cuts, cuts = l.cutsOf(job.Materials.WastagePc, bought)
	there, err := install.Pieces(added(l.Lengths, l.taken), l.Unit)
	if err != nil {
		there = nil
	}
	for _, m := range there {
		if n := int(m/of + 1e-9); n > 0 {
			p.Stocks = append(p.Stocks, cutting.Stock{Length: n, Have: 1})
		}
	}
	if hand, err := cutting.FirstFit(p); err == nil {
		out.Hand = float64(hand.Cost) * of
	}
	plan, err := cutting.Solve(p, func(best *cutting.Plan) bool {
		return goOn == nil || goOn(func() CutPlan {
			shown := out
			shown.show(best, &p, cuts, of)
			return shown
		})
	})
	if err != nil {
		out.Lacks = tooLong(w, err, cuts, of, l.Unit)
		return out
	}
	out.show(&plan, &p, cuts, of)
	out.measure(&p, cuts, of)
	return out
}

// show takes a plan over, with what is proved of it.
func (c *CutPlan) show(plan *cutting.Plan, p *cutting.Problem, cuts []Cut, of float64) {
	c.Bought, c.Bound, c.Exact = float64(plan.Cost)*of, float64(plan.Bound)*of, plan.Exact
	c.Buy, c.Bars = []Pack{}, []Bar{}
	for _, b := range plan.Bars {
		c.add(p, b, cuts, of)
	}
	slices.SortStableFunc(c.Bars, func(a, b Bar) int { return cmp.Compare(b.Length, a.Length) })
}

func tooLong(w *words.Catalogue, err error, cuts []Cut, of float64, in string) string {
	var e *cutting.TooLongError
	if !errors.As(err, &e) {
		return err.Error()
	}
	c := cuts[e.Cut]
	return w.Say("%s, %s to %s: %s in one piece, and the longest that is sold is %s. Enter a longer one, or plan a joint box.", c.For, c.From, c.To,
		unit.With(c.Length, in), unit.With(float64(e.Longest)*of, in))
}

// add puts a bar into the plan, its cuts one behind the other from the start of the drum.
func (c *CutPlan) add(p *cutting.Problem, b cutting.Bar, cuts []Cut, of float64) {
	s := p.Stocks[b.Stock]
	bar := Bar{Length: unit.Significant(float64(s.Length)*of, 9), Bought: s.Have == 0, Cuts: []Cut{}}
	at := 0
	for _, n := range b.Cuts {
		cut := cuts[n]
		cut.Start = unit.Significant(float64(at)*of, 9)
		at += p.Cuts[n]
		cut.End = unit.Significant(float64(at)*of, 9)
		bar.Cuts = append(bar.Cuts, cut)
	}
	bar.Left = unit.Significant(float64(s.Length-at)*of, 9)
	c.Bars = append(c.Bars, bar)
	if !bar.Bought {
		return
	}
	at = slices.IndexFunc(c.Buy, func(x Pack) bool { return x.Length == bar.Length })
	if at < 0 {
		at, c.Buy = len(c.Buy), append(c.Buy, Pack{Length: bar.Length})
	}
	c.Buy[at].Count++
}

// mostMeasured is of how many lengths it is said what measuring them decides.
const mostMeasured = 3

// measure works out for the longest lengths that nobody measured what is bought if they are a tenth shorter, or longer.
func (c *CutPlan) measure(p *cutting.Problem, cuts []Cut, of float64) {
	unsureOf := []int{}
	for i := range cuts {
		if cuts[i].Assumed && !cuts[i].Share {
			unsureOf = append(unsureOf, i)
		}
	}
	slices.SortStableFunc(unsureOf, func(a, b int) int { return cmp.Compare(p.Cuts[b], p.Cuts[a]) })
	for _, i := range unsureOf[:min(len(unsureOf), mostMeasured)] {
		try := func(by float64) *float64 {
			q := *p
			q.Cuts = slices.Clone(p.Cuts)
			q.Cuts[i] = max(1, int(math.Ceil(float64(q.Cuts[i])*by)))
			plan, err := cutting.Quick(q)
			if err != nil {
				return nil
			}
			bought := float64(plan.Cost) * of
			return &bought
		}
		c.Measure = append(c.Measure, Measure{For: cuts[i].For, From: cuts[i].From, To: cuts[i].To, Length: cuts[i].Length, Shorter: *try(1 - unsure),
			Longer: try(1 + unsure)})
	}
}

// packsIn are the packs of a product in a unit of length: a list in metres serves a job in feet.
func packsIn(item *Item, in string) []float64 {
	to, from := unit.Metres(in), unit.Metres(item.Unit)
	if to == 0 || from == 0 || to == from {
		return item.Packs
	}
	out := make([]float64, len(item.Packs))
	for i, p := range item.Packs {
		out[i] = math.Floor(p * from / to)
	}
	return out
}
