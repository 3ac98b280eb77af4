package materials

import (
	"encoding/json"
	"fmt"
	"strings"

	"arvelt/core/goods"
	"arvelt/core/install"
	"arvelt/core/unit"
)

// Formats of what goes to a merchant and comes from one; docs/goods.md describes them.
const (
	OrderFormat    = "arvelt-order/1"
	DeliveryFormat = "arvelt-delivery/1"
)

// Note is a merchant's delivery note as it was read: what it says, beside what is on order.
type Note struct {
	Number   string     `json:"number"`
	Merchant string     `json:"merchant"`
	On       string     `json:"on"`
	Lines    []NoteLine `json:"lines"`
}

// NoteLine is a line of a note for a product of the list.
type NoteLine struct {
	Row     int     `json:"row"`
	Product string  `json:"product"`
	Name    string  `json:"name"`
	Unit    string  `json:"unit"`
	Said    float64 `json:"said"`
	Lengths string  `json:"lengths"`
	Remark  string  `json:"remark"`
	// Open is what was ordered of it and has not come yet.
	Open float64 `json:"open"`
}

// note is a note as it is sent in JSON.
type note struct {
	Format   string `json:"format"`
	Number   string `json:"number"`
	Merchant string `json:"merchant"`
	On       string `json:"on"`
	Lines    []struct {
		Product string    `json:"product"`
		Name    string    `json:"name"`
		Count   float64   `json:"count"`
		Unit    string    `json:"unit"`
		Lengths []float64 `json:"lengths"`
		Remark  string    `json:"remark"`
	} `json:"lines"`
}

// ReadNote reads a delivery note, as JSON or as a table, for the list of a job. Each line is found by its product or by its name. Nothing is
// read where a line cannot be: the error is [goods.Errors].
func ReadNote(raw []byte, t *TakeOff) (*Note, error) {
	text := goods.Text(raw)
	if strings.HasPrefix(strings.TrimSpace(text), "{") {
		return readJSON(text, t)
	}
	table, err := goods.Read(text)
	if err != nil {
		return nil, err
	}
	out := Note{Number: table.Notes["number"], Merchant: table.Notes["merchant"], On: table.Notes["date"], Lines: []NoteLine{}}
	product, name, count := table.Column("product", "key", "code"), table.Column("name", "description", "item"), table.Column("count", "quantity", "qty", "delivered")
	in, lengths, remark := table.Column("unit", "uom"), table.Column("lengths", "pieces"), table.Column("remark", "note")
	if count < 0 || product < 0 && name < 0 {
		return nil, goods.Errors{{Column: "columns", Value: strings.Join(table.Columns, ", "), Accept: "product or name, and count; unit, lengths and remark where there are any"}}
	}
	bad := goods.Errors{}
	if !install.IsDate(out.On) {
		bad = append(bad, goods.CellError{Column: "date", Value: out.On, Accept: "a date as 2026-12-04, or nothing"})
	}
	for i := range table.Rows {
		r := &table.Rows[i]
		n, ok := goods.Number(r.Cell(count))
		if !ok || n < 0 || n > 100000 {
			bad = append(bad, goods.CellError{Row: r.Line, Column: table.Columns[count], Value: r.Cell(count), Accept: "a number from 0 to 100000 as 12.5 or 12,5"})
			continue
		}
		out.line(t, &bad, r.Line, r.Cell(product), r.Cell(name), r.Cell(in), r.Cell(lengths), r.Cell(remark), n)
	}
	return out.whole(bad)
}

func readJSON(text string, t *TakeOff) (*Note, error) {
	dec := json.NewDecoder(strings.NewReader(text))
	dec.DisallowUnknownFields()
	var in note
	if err := dec.Decode(&in); err != nil {
		return nil, goods.Errors{{Column: "file", Value: err.Error(), Accept: "a note in the format " + DeliveryFormat}}
	}
	if in.Format != DeliveryFormat {
		return nil, goods.Errors{{Column: "format", Value: in.Format, Accept: DeliveryFormat}}
	}
	out, bad := Note{Number: in.Number, Merchant: in.Merchant, On: in.On, Lines: []NoteLine{}}, goods.Errors{}
	if !install.IsDate(out.On) {
		bad = append(bad, goods.CellError{Column: "on", Value: out.On, Accept: "a date as 2026-12-04, or nothing"})
	}
	for i, l := range in.Lines {
		if l.Count < 0 || l.Count > 100000 {
			bad = append(bad, goods.CellError{Row: i + 1, Column: "count", Value: fmt.Sprint(l.Count), Accept: "a number from 0 to 100000"})
			continue
		}
		lengths := make([]string, len(l.Lengths))
		for n, v := range l.Lengths {
			lengths[n] = unit.Format(v)
		}
		out.line(t, &bad, i+1, l.Product, l.Name, l.Unit, strings.Join(lengths, " + "), l.Remark, l.Count)
	}
	return out.whole(bad)
}

// line reads one line of a note in the unit in which the list counts it.
func (n *Note) line(t *TakeOff, bad *goods.Errors, row int, product, name, in, lengths, remark string, count float64) {
	l := t.find(product, name)
	if l == nil {
		*bad = append(*bad, goods.CellError{Row: row, Column: "product", Value: strings.TrimSpace(product + " " + name), Accept: "a product of the order list of this job, by its key or its name"})
		return
	}
	to, from := unit.Metres(l.Unit), unit.Metres(in)
	switch {
	case in == "" || in == l.Unit:
		from = to
	case to > 0 && from > 0:
		count = unit.Significant(count*from/to, 4)
	default:
		*bad = append(*bad, goods.CellError{Row: row, Column: "unit", Value: in, Accept: l.Unit + ", in which the list counts it"})
		return
	}
	pieces, ok := goods.Lengths(lengths, orUnit(in, l.Unit))
	if !ok || len(pieces) > 0 && !l.ByLength {
		*bad = append(*bad, goods.CellError{Row: row, Column: "lengths", Value: lengths, Accept: "the lengths of the pieces of what is bought by length, as 30 + 12 or 2x25"})
		return
	}
	texts := make([]string, len(pieces))
	for i, p := range pieces {
		if to > 0 && from > 0 && from != to {
			p = unit.Significant(p*from/to, 4)
		}
		texts[i] = unit.Format(p)
	}
	n.Lines = append(n.Lines, NoteLine{Row: row, Product: l.Key, Name: l.Name, Unit: l.Unit, Said: count, Lengths: strings.Join(texts, " + "), Remark: remark,
		Open: max(0, l.Ordered-l.Delivered)})
}

func orUnit(in, own string) string {
	if in == "" {
		return own
	}
	return in
}

func (n *Note) whole(bad goods.Errors) (*Note, error) {
	if len(bad) > 0 {
		return nil, bad
	}
	if len(n.Lines) == 0 {
		return nil, goods.Errors{{Column: "file", Value: "no lines", Accept: "a row for each product that came"}}
	}
	return n, nil
}

// find is the line of a product by its key, else by its name.
func (t *TakeOff) find(product, name string) *Line {
	for i := range t.Lines {
		if t.Lines[i].Key == product {
			return &t.Lines[i]
		}
	}
	if product != "" && name == "" {
		name = product
	}
	for i := range t.Lines {
		if name != "" && strings.EqualFold(t.Lines[i].Name, name) {
			return &t.Lines[i]
		}
	}
	return nil
}

// Receive puts a delivery to what came of a job, and keeps it. The error is [install.Errors]: of a product that the list does not have, or of a
// delivery that is kept already.
func (t *TakeOff) Receive(m *install.Materials, d install.Delivery) error {
	bad := install.Errors{}
	for _, o := range m.Deliveries {
		if o.ID == d.ID || d.Number != "" && o.Number == d.Number && o.Merchant == d.Merchant {
			bad = append(bad, install.FieldError{Field: "number", Value: d.Number, Accept: "a note that is not booked in yet: this one was, counted by " + o.CountedBy})
		}
	}
	for i, got := range d.Lines {
		l := t.find(got.Product, "")
		if l == nil {
			bad = append(bad, install.FieldError{Field: fmt.Sprintf("lines[%d].product", i), Value: got.Product, Accept: "a product of the order list"})
			continue
		}
		if pieces, err := install.Pieces(got.Lengths, l.Unit); err == nil && len(pieces) > 0 {
			sum := 0.0
			for _, p := range pieces {
				sum += p
			}
			if d := sum - got.Counted; d > 0.01 || d < -0.01 {
				bad = append(bad, install.FieldError{Field: fmt.Sprintf("lines[%d].lengths", i), Value: got.Lengths,
					Accept: "pieces that are " + unit.With(got.Counted, l.Unit) + " together, as they were counted"})
			}
		}
	}
	if len(bad) > 0 {
		return bad
	}
	lines := map[string]install.Stock{}
	for key, s := range m.Lines {
		lines[key] = s
	}
	for _, got := range d.Lines {
		l := t.find(got.Product, "")
		s, ok := lines[l.Key]
		if !ok {
			s = install.Stock{Ordered: l.Ordered, Delivered: l.Delivered, Lengths: l.Lengths, Due: l.Due, Note: l.Note}
		}
		s.Delivered = unit.Significant(s.Delivered+got.Counted, 9)
		if got.Lengths != "" {
			s.Lengths = strings.Trim(s.Lengths+" + "+got.Lengths, " +")
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
}

// OrderOf is what of a list may be ordered and was not yet, in the lengths of the cut plans.
func OrderOf(t *TakeOff, job *install.Job, prices map[string]Item, on string) Order {
	out := Order{Format: OrderFormat, Number: job.Ref, On: on, Lines: []OrderLine{}}
	for i := range t.Lines {
		l := &t.Lines[i]
		n := unit.Significant(l.Free-max(l.Ordered, l.Delivered), 9)
		if n <= 0 {
			continue
		}
		item, _ := itemOf(prices, l.Key)
		line := OrderLine{Product: l.Key, Name: l.Name, Count: n, Unit: l.Unit, Lengths: []float64{}, Merchant: item.Merchant, LeadDays: item.LeadDays}
		if l.Ordered == 0 && l.Held == nil && l.ByLength {
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

// Claim is what a delivery lacks of what its note says, in words for the merchant; empty where it came as it says.
func (t *TakeOff) Claim(job *install.Job, d *install.Delivery) string {
	w, out := job.Words, []string{}
	for _, got := range d.Lines {
		l := t.find(got.Product, "")
		of := ""
		if l != nil {
			of = l.Unit
		}
		switch {
		case got.Counted < got.Said:
			out = append(out, w.Say("%s: the note says %s, %s came. %s", got.Name, unit.With(got.Said, of), unit.With(got.Counted, of), got.Remark))
		case got.Remark != "":
			out = append(out, got.Name+": "+got.Remark)
		}
	}
	if len(out) == 0 {
		return ""
	}
	return w.Say("Delivery note %s of %s for %s, counted by %s:", d.Number, d.On, job.Ref, d.CountedBy) + "\n" + strings.Join(out, "\n")
}
