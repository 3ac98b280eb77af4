package materials

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/unit"
)

// Receive puts a delivery to what came of a job, and keeps it. The error is [install.Errors]: of a product that the list does not have, or of a
// delivery that is kept already.
func (t *TakeOff) Receive(job *install.Job, d install.Delivery) error {
	w, m, bad := job.Words, &job.Materials, install.Errors{}
	for _, o := range m.Deliveries {
		if o.ID == d.ID || d.Number != "" && o.Number == d.Number && o.Merchant == d.Merchant {
			bad = append(bad, install.FieldError{Field: "number", Value: d.Number,
				Accept: w.Say("a note that is not booked in yet: this one was, counted by %s", o.CountedBy)})
		}
	}
	for i, got := range d.Lines {
		l := t.listed(job, got.Product, "")
		if l == nil {
			bad = append(bad, install.FieldError{Field: fmt.Sprintf("lines[%d].product", i), Value: got.Product, Accept: w.Say("a product of the order list")})
			continue
		}
		if pieces, err := install.Pieces(got.Lengths, l.Unit); err == nil && len(pieces) > 0 {
			if d := total(pieces) - got.Counted; d > 0.01 || d < -0.01 {
				bad = append(bad, install.FieldError{Field: fmt.Sprintf("lines[%d].lengths", i), Value: got.Lengths,
					Accept: w.Say("pieces that are %s together, as they were counted", unit.With(got.Counted, l.Unit))})
			}
		}
	}
	if len(bad) > 0 {
		return bad
	}
	lines := map[string]install.Stock{}
	maps.Copy(lines, m.Lines)
	for _, got := range d.Lines {
		l := t.listed(job, got.Product, "")
		s, ok := lines[l.Key]
		if !ok {
			s = install.Stock{Ordered: l.Ordered, Delivered: l.Delivered, Returned: l.Returned, Lengths: l.Lengths, Due: l.Due, Note: l.Note}
		}
		s.Delivered = unit.Significant(s.Delivered+got.Counted, 9)
		if got.Lengths != "" {
			s.Lengths = added(s.Lengths, got.Lengths)
		}
		lines[l.Key] = s
	}
	m.Lines, m.Deliveries = lines, append(m.Deliveries, d)
	return nil
}

// Claimed is a delivery with what is claimed of it.
type Claimed struct {
	Delivery install.Delivery `json:"delivery"`
	Text     string           `json:"text"` // for the merchant; empty where it came as its note says
}

// Claims are the deliveries of a job, the newest first, each with what is claimed of it.
func (t *TakeOff) Claims(job *install.Job) []Claimed {
	out := []Claimed{}
	for i := len(job.Materials.Deliveries) - 1; i >= 0; i-- {
		d := &job.Materials.Deliveries[i]
		out = append(out, Claimed{*d, t.Claim(job, d)})
	}
	return out
}

// Order is what is still to be ordered of a job, for its merchant.
type Order struct {
	Format string      `json:"format"`
	Number string      `json:"number"`
	On     string      `json:"on"`
	Lines  []OrderLine `json:"lines"`
}

// OrderLine is a product of an order. Packs are the lengths that are wanted of what is bought by length; empty where one may do.
type OrderLine struct {
	Product  string    `json:"product"`
	Name     string    `json:"name"`
	Count    float64   `json:"count"`
	Unit     string    `json:"unit"`
	Lengths  []float64 `json:"lengths"`
	Merchant string    `json:"merchant"`
	LeadDays int       `json:"leadDays"`
	// Again: it was ordered before, and less came than its note said. Instead is what was taken in its place on somebody's word.
	Again   bool   `json:"again"`
	Instead string `json:"instead"`
}

// OrderOf is what of a list may be ordered and was not yet, in the lengths of the cut plans.
func OrderOf(t *TakeOff, job *install.Job, prices map[string]Item, on string) Order {
	out := Order{Format: OrderFormat, Number: job.Ref, On: on, Lines: []OrderLine{}}
	for i := range t.Lines {
		l := &t.Lines[i]
		n, again := l.open(job)
		if n <= 0 {
			continue
		}
		item, _ := itemOf(prices, l.Key)
		line := OrderLine{Product: l.Key, Name: l.Name, Count: n, Unit: l.Unit, Lengths: []float64{}, Merchant: item.Merchant, LeadDays: item.LeadDays,
			Again: again, Instead: l.Instead}
		if l.ordered() == 0 && l.Held == nil && l.ByLength {
			if plan := l.cutPlan(job, nil); plan.Lacks == "" && plan.Bought == n {
				for _, p := range plan.Buy {
					for range p.Count {
						line.Lengths = append(line.Lengths, p.Length)
					}
				}
			}
		}
		out.Lines = append(out.Lines, line)
	}
	return out
}

// open is how much of a line is still to be ordered: what may be, less what came and what is still on its way. What a note said and nobody
// counted is not on its way: what the job is short by it is ordered again, in whole packs.
func (l *Line) open(job *install.Job) (n float64, again bool) {
	said, counted := 0.0, 0.0
	for i := range job.Materials.Deliveries {
		for _, got := range job.Materials.Deliveries[i].Lines {
			if got.Product == l.Key {
				said, counted = said+got.Said, counted+got.Counted
			}
		}
	}
	if counted >= said {
		return l.rest(job), false
	}
	n = min(l.Short, l.Free-l.Taken) - max(0, l.ordered()-said)
	if n <= 0 {
		return 0, false
	}
	return l.packed(math.Ceil(unit.Significant(n, 9))), true
}

// rest is what of a line nobody has ordered yet, beside what came and what was taken out of the stock: of what is cut by its plan, which may
// take less than the list reckons with.
func (l *Line) rest(job *install.Job) float64 {
	got := max(l.ordered(), l.Delivered)
	n := unit.Significant(l.Free-got, 9)
	if n <= 0 {
		return n
	}
	if l.ByLength && len(l.packs) > 0 && l.Held == nil {
		if plan := l.cutPlan(job, nil); plan.Lacks == "" {
			for _, m := range l.noted() { // the plan cuts out of it
				got -= m
			}
			return unit.Significant(min(n, max(0, plan.Bought-max(0, got))), 9)
		}
	}
	if l.Taken == 0 {
		return n
	}
	if l.Short <= 0 {
		return 0
	}
	return l.packed(math.Ceil(unit.Significant(max(0, n-l.Taken), 9)))
}

// noted are the lengths of what came, as far as somebody noted them.
func (l *Line) noted() []float64 {
	out, err := install.Pieces(l.Lengths, l.Unit)
	if err != nil {
		return nil
	}
	return out
}

// packed is an amount in whole packs: the least length in which it comes in one, or the number of them that holds it.
func (l *Line) packed(n float64) float64 {
	if n == 0 {
		return 0
	}
	packs := slices.Sorted(slices.Values(l.packs))
	i := slices.IndexFunc(packs, func(pack float64) bool { return pack >= n })
	switch {
	case i >= 0:
		return packs[i]
	case len(packs) > 0:
		most := packs[len(packs)-1]
		return math.Ceil(n/most) * most
	case l.pack > 0:
		return math.Ceil(n/l.pack) * l.pack
	}
	return n
}

// Claim is what a delivery lacks of what its note says, in words for the merchant; empty where it came as it says.
func (t *TakeOff) Claim(job *install.Job, d *install.Delivery) string {
	w, out := job.Words, []string{}
	for _, got := range d.Lines {
		l := t.listed(job, got.Product, "")
		of, wanted := "", ""
		if l != nil {
			of, wanted = l.Unit, otherwise(job, d, &got, l.Unit)
		}
		switch {
		case got.Counted < got.Said:
			out = append(out, w.Say("%s: the note says %s, %s came. %s", got.Name, unit.With(got.Said, of), unit.With(got.Counted, of), got.Remark))
		case wanted != "":
			out = append(out, w.Say("%s: ordered in lengths of %s, %s came. %s", got.Name, wanted, got.Lengths, got.Remark))
		case got.Remark != "":
			out = append(out, got.Name+": "+got.Remark)
		}
	}
	if len(out) == 0 {
		return ""
	}
	return w.Say("Delivery note %s of %s for %s, counted by %s:", d.Number, d.On, job.Ref, d.CountedBy) + "\n" + strings.Join(out, "\n")
}

// otherwise are the lengths in which a line of a delivery was ordered from its merchant, where those that came are others; else empty.
func otherwise(job *install.Job, d *install.Delivery, got *install.DeliveryLine, of string) string {
	came, err := install.Pieces(got.Lengths, of)
	if err != nil || len(came) == 0 {
		return ""
	}
	for i := range job.Purchases.Orders {
		p := &job.Purchases.Orders[i]
		if p.Merchant != d.Merchant || !strings.HasPrefix(d.Number, p.Reference) {
			continue
		}
		for n := range p.Lines {
			l := &p.Lines[n]
			wanted, err := install.Pieces(l.Lengths, l.Unit)
			if l.Product != got.Product || err != nil || len(wanted) == 0 {
				continue
			}
			for _, v := range came {
				at := slices.IndexFunc(wanted, func(x float64) bool { return math.Abs(x-v) < 0.01 })
				if at < 0 {
					return l.Lengths + " " + l.Unit
				}
				wanted = slices.Delete(wanted, at, at+1)
			}
		}
	}
	return ""
}
