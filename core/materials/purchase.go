package materials

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// ConfirmationFormat is that of what a merchant says of an order or an enquiry; docs/goods.md describes it.
const ConfirmationFormat = "arvelt-confirmation/1"

// Confirmation is what a merchant says of an order or an enquiry.
type Confirmation struct {
	Format    string             `json:"format"`
	ID        string             `json:"id"`
	Reference string             `json:"reference"`
	Merchant  string             `json:"merchant"`
	Simulated bool               `json:"simulated"`
	State     install.OrderState `json:"state"`
	Message   string             `json:"message"`
	Lines     []Confirmed        `json:"lines"`
	Notes     []json.RawMessage  `json:"notes"`
}

// Confirmed is what a merchant says of one product of an order.
type Confirmed struct {
	Product  string            `json:"product"`
	Sold     bool              `json:"sold"`
	Gone     bool              `json:"gone"`
	Instead  []string          `json:"instead"`
	Price    float64           `json:"price"` // of one unit of the order, 0 for none
	Stock    float64           `json:"stock"`
	Promises []install.Promise `json:"promises"`
	Pieces   []float64         `json:"pieces"`
}

// Bounds of what a merchant answers: what is more is no answer of a merchant.
const (
	mostSaid  = 300 // characters of one text
	mostNotes = 20
)

// Check errs with what of a merchant's answer cannot be kept.
func (c *Confirmation) Check() error {
	for name, text := range map[string]string{"reference": c.Reference, "merchant": c.Merchant, "message": c.Message} {
		if utf8.RuneCountInString(text) > mostSaid || !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
			return fmt.Errorf("its %s is no readable text of at most %d characters", name, mostSaid)
		}
	}
	switch {
	case c.Format != ConfirmationFormat:
		return fmt.Errorf("its format is %.40q, and %s is understood", c.Format, ConfirmationFormat)
	case c.State != install.OrderReceived && !c.State.Answered() && c.State != install.OrderRefused:
		return fmt.Errorf("its state is %.40q, and received, confirmed, delivered or refused is understood", string(c.State))
	case len(c.Notes) > mostNotes:
		return fmt.Errorf("it has %d delivery notes, and at most %d are taken", len(c.Notes), mostNotes)
	case strings.TrimSpace(c.Reference) == "" && c.State != install.OrderRefused:
		return errors.New("it has no reference")
	}
	return nil
}

// Confirm puts what a merchant said to an order, which stays as it is where that cannot be kept. The error is [install.Errors].
func (c *Confirmation) Confirm(w *words.Catalogue, p *install.Purchase) error {
	lines := slices.Clone(p.Lines)
	for _, said := range c.Lines {
		i := slices.IndexFunc(lines, func(l install.PurchaseLine) bool { return l.Product == said.Product })
		if i < 0 {
			return install.Errors{{Field: "lines", Value: said.Product, Accept: w.Say("a product that was ordered")}}
		}
		l := &lines[i]
		l.Sold, l.Gone, l.Instead, l.Promises, l.Price, l.Pieces = said.Sold, said.Gone, said.Instead, said.Promises, nil, joined(said.Pieces)
		if said.Price > 0 {
			l.Price = &said.Price
		}
	}
	next := *p
	next.State, next.Merchant, next.Reference, next.Message = c.State, c.Merchant, c.Reference, c.Message
	next.Simulated, next.Lines = c.Simulated, lines
	if err := (install.Purchases{Orders: []install.Purchase{next}}).Validate(); err != nil {
		return err
	}
	*p = next
	return nil
}

// Purchase is the order of what is chosen of a job's open lines, all of them where nothing is chosen. The error is [install.Errors]: of a product
// that is not open, or where nothing is.
func (o *Order) Purchase(w *words.Catalogue, job *install.Job, id, by string, chosen []string) (install.Purchase, error) {
	p := install.Purchase{ID: id, Number: fmt.Sprintf("%s/%d", job.Ref, len(job.Purchases.Orders)+1), On: o.On, By: by, State: install.OrderWaiting,
		Lines: []install.PurchaseLine{}}
	bad := install.Errors{}
	for i, product := range chosen {
		if !slices.ContainsFunc(o.Lines, func(l OrderLine) bool { return l.Product == product }) {
			bad = append(bad, install.FieldError{Field: fmt.Sprintf("products[%d]", i), Value: product,
				Accept: w.Say("a product that is still to be ordered and that nothing holds")})
		}
	}
	for i := range o.Lines {
		l := &o.Lines[i]
		if len(chosen) > 0 && !slices.Contains(chosen, l.Product) {
			continue
		}
		p.Lines = append(p.Lines, install.PurchaseLine{Product: l.Product, Name: l.Name, Count: l.Count, Unit: l.Unit, Lengths: joined(l.Lengths)})
	}
	if len(bad) == 0 && len(p.Lines) == 0 {
		bad = append(bad, install.FieldError{Field: "products", Value: "", Accept: w.Say("something that is still to be ordered: nothing of the list is")})
	}
	if len(bad) > 0 {
		return p, bad
	}
	return p, nil
}

// Sent is an order as it goes to the merchant.
type Sent struct {
	Format string      `json:"format"`
	ID     string      `json:"id"`
	Number string      `json:"number"`
	On     string      `json:"on"`
	Lines  []OrderLine `json:"lines"`
}

// SentOf is what of an order goes to the merchant.
func SentOf(p *install.Purchase) Sent {
	out := Sent{Format: OrderFormat, ID: p.ID, Number: p.Number, On: p.On, Lines: []OrderLine{}}
	for i := range p.Lines {
		l := &p.Lines[i]
		pieces, err := install.Pieces(l.Lengths, l.Unit)
		if err != nil || pieces == nil {
			pieces = []float64{}
		}
		out.Lines = append(out.Lines, OrderLine{Product: l.Product, Name: l.Name, Count: l.Count, Unit: l.Unit, Lengths: pieces})
	}
	return out
}

// added are lengths as they are written with more of them.
func added(lengths, more string) string { return strings.Trim(lengths+" + "+more, " +") }

// joined are lengths as they are written.
func joined(lengths []float64) string {
	out := make([]string, len(lengths))
	for i, v := range lengths {
		out[i] = exactly(v)
	}
	return strings.Join(out, " + ")
}

// Gone is what a merchant no longer sends of what was ordered.
type Gone struct {
	Merchant string `json:"merchant"`
	// Instead are the products that it would send, by key.
	Instead []string `json:"instead"`
	Says    string   `json:"says"`
}

// bought puts to each line what of it was ordered over the wire, until when that is promised, what the merchant no longer sends, and what came out
// of the company's stock and went into it.
func (t *TakeOff) bought(job *install.Job) {
	p := &job.Purchases
	if len(p.Orders)+len(p.Taken)+len(p.Left) == 0 {
		return
	}
	at := make(map[string]*Line, len(t.Lines))
	for i := range t.Lines {
		at[t.Lines[i].Key] = &t.Lines[i]
	}
	for i := range p.Taken {
		if l := at[p.Taken[i].Product]; l != nil {
			l.Taken = unit.Significant(l.Taken+p.Taken[i].Count, 9)
			l.taken = added(l.taken, p.Taken[i].Lengths)
		}
	}
	for i := range p.Left {
		if l := at[p.Left[i].Product]; l != nil {
			l.Left = unit.Significant(l.Left+p.Left[i].Count, 9)
		}
	}
	t.wire(job, at)
}

// wire puts to each line what of it was ordered over the wire, until when that is promised, and what the merchant no longer sends.
func (t *TakeOff) wire(job *install.Job, at map[string]*Line) {
	promised, paid := map[*Line][]install.Promise{}, map[*Line][2]float64{} // of what is paid: how much, for how much
	for i := range job.Purchases.Orders {
		p := &job.Purchases.Orders[i]
		for n := range p.Lines {
			said := &p.Lines[n]
			l := at[said.Product]
			if l == nil {
				continue
			}
			comes := p.Comes(said)
			l.Placed = unit.Significant(l.Placed+comes, 9)
			if !p.State.Answered() {
				continue
			}
			promised[l] = append(promised[l], said.Promises...)
			if said.Price != nil {
				paid[l] = [2]float64{paid[l][0] + comes, paid[l][1] + comes**said.Price}
			}
			if l.pieces = added(l.pieces, said.Pieces); len(said.Promises) > 1 { // in which of them the pieces come nobody has said
				l.pieces = ""
			}
			if l.Gone = nil; comes < said.Count-1e-9 {
				l.Gone = gone(job.Words, p, said, comes)
			}
		}
	}
	for l, sum := range paid {
		if sum[0] > 0 {
			each := unit.Significant(sum[1]/sum[0], 9)
			l.Paid = &each
		}
	}
	for l, promises := range promised {
		slices.SortStableFunc(promises, func(a, b install.Promise) int { return cmp.Compare(a.On, b.On) })
		come := -job.Materials.Lines[l.Key].Delivered
		for _, x := range promises {
			// What came so far came of the first promises.
			if come += x.Count; come > 1e-9 {
				l.Promised = append(l.Promised, install.Promise{Count: unit.Significant(min(come, x.Count), 9), On: x.On})
			}
		}
	}
}

// gone says what of an order does not come.
func gone(w *words.Catalogue, p *install.Purchase, l *install.PurchaseLine, comes float64) *Gone {
	g := &Gone{Merchant: p.Merchant, Instead: l.Instead}
	switch {
	case l.Gone:
		g.Says = w.Say("%s no longer sells it.", p.Merchant)
	case !l.Sold:
		g.Says = w.Say("%s does not deal in it.", p.Merchant)
	default:
		g.Says = w.Say("%s sends %s of the %s that were ordered.", p.Merchant, unit.With(comes, l.Unit), unit.With(l.Count, l.Unit))
	}
	return g
}

// ordered is all that was ordered of a line, by telephone and over the wire.
func (l *Line) ordered() float64 { return unit.Significant(l.Ordered+l.Placed, 9) }

// By is until when all of a line is promised that is still to come: as somebody noted it, else as the merchant confirmed it; empty while nobody
// has said.
func (l *Line) By() string {
	if l.Due != "" || len(l.Promised) == 0 {
		return l.Due
	}
	return l.Promised[len(l.Promised)-1].On
}

// coming says what is on its way of a line and when it comes, measured by the day on which the work begins.
func (l *Line) coming(w *words.Catalogue, begins string) {
	if l.Short <= 0 {
		return
	}
	said := []string{}
	for _, x := range l.Promised {
		said = append(said, w.Say("%s on %s", unit.With(x.Count, l.Unit), x.On))
	}
	if len(said) == 0 {
		return
	}
	if l.pieces != "" && l.Delivered == 0 && l.Trouble == "" {
		if says := l.ifCame(w, l.Placed, l.pieces); says != "" {
			l.Trouble = w.Say("As the merchant confirmed it: %s", says)
		}
	}
	says := w.Say("Promised: %s.", strings.Join(said, ", "))
	if by := l.By(); begins != "" && by > begins {
		says += " " + w.Say("The work begins on %s: until it is there nobody travels for %s.", begins, l.waits())
	}
	l.Remark = strings.TrimSpace(l.Remark + " " + says)
}

// mostNamed is how many of those that wait for a product are named.
const mostNamed = 5

// waits are those who ask for a line, in words.
func (l *Line) waits() string {
	names := []string{}
	for i := range l.Asks {
		if a := &l.Asks[i]; a.Brought == nil && a.For != "" && !slices.Contains(names, a.For) {
			names = append(names, a.For)
		}
	}
	if len(names) == 0 {
		return l.Name
	}
	if len(names) > mostNamed {
		names = append(names[:mostNamed], "…")
	}
	return strings.Join(names, ", ")
}

// Offer is what a merchant says of an enquiry, beside what the company's list says.
type Offer struct {
	Merchant  string    `json:"merchant"`
	Simulated bool      `json:"simulated"`
	Lines     []Offered `json:"lines"`
	// Total is what comes would cost at the merchant's prices, Ours at the company's list; nil where a price is missing.
	Total *float64 `json:"total"`
	Ours  *float64 `json:"ours"`
}

// Offered is what a merchant says of one product of an enquiry.
type Offered struct {
	Product  string            `json:"product"`
	Name     string            `json:"name"`
	Count    float64           `json:"count"`
	Unit     string            `json:"unit"`
	Sold     bool              `json:"sold"`
	Gone     bool              `json:"gone"`
	Instead  []string          `json:"instead"` // names, keys where the company's list has none
	Price    *float64          `json:"price"`
	Ours     *float64          `json:"ours"` // the company's price of one unit; nil for none
	Stock    float64           `json:"stock"`
	Promises []install.Promise `json:"promises"`
	// Late: not all of it is there when the work begins. Cut: it comes in shorter pieces than are wanted.
	Late bool `json:"late"`
	Cut  bool `json:"cut"`
}

// Offer reads what a merchant says of an enquiry; begins is the day on which the work begins, empty while there is none.
func (c *Confirmation) Offer(w *words.Catalogue, p *install.Purchase, prices map[string]Item, begins string) (Offer, error) {
	out := Offer{Merchant: c.Merchant, Simulated: c.Simulated, Lines: []Offered{}}
	if c.Format != ConfirmationFormat || utf8.RuneCountInString(c.Merchant) > mostSaid {
		return out, fmt.Errorf("its format is %.40q, and %s is understood", c.Format, ConfirmationFormat)
	}
	said := *p
	said.ID = "enquiry" // it has none of its own
	if err := c.Confirm(w, &said); err != nil {
		return out, err
	}
	said.State = install.OrderConfirmed
	total, ours, known, listed := 0.0, 0.0, true, true
	for i := range said.Lines {
		l := &said.Lines[i]
		x := Offered{Product: l.Product, Name: l.Name, Count: l.Count, Unit: l.Unit, Sold: l.Sold, Gone: l.Gone, Instead: []string{}, Price: l.Price,
			Promises: l.Promises}
		for _, key := range l.Instead {
			item, _ := itemOf(prices, key)
			x.Instead = append(x.Instead, cmp.Or(item.Name, key))
		}
		n := slices.IndexFunc(c.Lines, func(o Confirmed) bool { return o.Product == l.Product })
		if n >= 0 {
			x.Stock = c.Lines[n].Stock
			x.Cut = shorter(c.Lines[n].Pieces, l)
		}
		comes := said.Comes(l)
		x.Late = begins != "" && slices.ContainsFunc(l.Promises, func(p install.Promise) bool { return p.On > begins })
		if one, ok := each(prices, l.Product, l.Unit); ok {
			x.Ours = &one
			ours += one * comes
		} else {
			listed = false
		}
		if l.Price != nil {
			total += *l.Price * comes
		} else if comes > 0 {
			known = false
		}
		if x.Promises == nil {
			x.Promises = []install.Promise{}
		}
		out.Lines = append(out.Lines, x)
	}
	if known {
		out.Total = &total
	}
	if listed {
		out.Ours = &ours
	}
	return out, nil
}

// shorter reports whether what comes is in shorter pieces than are wanted: the longest that is wanted, or all of it in one.
func shorter(pieces []float64, l *install.PurchaseLine) bool {
	if len(pieces) == 0 {
		return false
	}
	most := l.Count
	if wanted, err := install.Pieces(l.Lengths, l.Unit); err == nil && len(wanted) > 0 {
		most = slices.Max(wanted)
	}
	return slices.Max(pieces) < most-0.01
}
