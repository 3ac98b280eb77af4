package materials

import (
	"cmp"
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"strings"

	"arvelt/core/goods"
	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
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
	// Trouble is what does not suffice if what came is what the note says; empty for nothing.
	Trouble string `json:"trouble"`
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
func ReadNote(raw []byte, t *TakeOff, job *install.Job) (*Note, error) {
	n, err := readNote(goods.Text(raw), t, job)
	if err != nil {
		return nil, err
	}
	for i := range n.Lines {
		n.Lines[i].judge(t, job)
	}
	return n, nil
}

// judge says whether what came suffices if it is what the note says, before anybody travels to count it.
func (n *NoteLine) judge(t *TakeOff, job *install.Job) {
	listed := t.find(n.Product, "")
	if listed == nil {
		n.Trouble = job.Words.Say("No longer on the list of this job: send it back, or keep it in stock.")
		return
	}
	n.Trouble = listed.ifCame(job.Words, n.Said, n.Lengths)
}

// ifCame says what does not suffice if an amount came beside what is there, in some lengths; empty for nothing.
func (l *Line) ifCame(w *words.Catalogue, came float64, lengths string) string {
	trial := *l
	trial.Trouble, trial.Need, trial.Asks = "", 0, []Ask{}
	for i := range l.Asks {
		if a := l.Asks[i]; !a.held { // what is held was not ordered
			a.Lacks = false
			trial.Asks = append(trial.Asks, a)
			if a.Brought == nil {
				trial.Need += a.Need
			}
		}
	}
	trial.stock(w, install.Stock{Ordered: l.Ordered, Delivered: l.Delivered + came, Returned: l.Returned,
		Lengths: added(l.Lengths, lengths)})
	return trial.Trouble
}

func readNote(text string, t *TakeOff, job *install.Job) (*Note, error) {
	if strings.HasPrefix(strings.TrimSpace(text), "{") {
		return readJSON(text, t, job)
	}
	table, err := goods.Read(text)
	if err != nil {
		return nil, err
	}
	out := Note{Number: table.Notes["number"], Merchant: table.Notes["merchant"], On: table.Notes["date"], Lines: []NoteLine{}}
	product, name, count := table.Column("product", "key", "code"), table.Column("name", "description", "item"), table.Column("count", "quantity",
		"qty", "delivered")
	in, lengths, remark := table.Column("unit", "uom"), table.Column("lengths", "pieces"), table.Column("remark", "note")
	if count < 0 || product < 0 && name < 0 {
		return nil, goods.Errors{{Column: "columns", Value: strings.Join(table.Columns, ", "),
			Accept: "product or name, and count; unit, lengths and remark where there are any"}}
	}
	bad := goods.Errors{}
	if !install.IsDate(out.On) {
		bad = append(bad, goods.CellError{Column: "date", Value: out.On, Accept: "a date as 2026-12-04, or nothing"})
	}
	for i := range table.Rows {
		r := &table.Rows[i]
		n, ok := goods.Number(r.Cell(count))
		if !ok || n < 0 || n > 100000 {
			bad = append(bad, goods.CellError{Row: r.Line, Column: table.Columns[count], Value: r.Cell(count),
				Accept: "a number from 0 to 100000 as 12.5 or 12,5"})
			continue
		}
		out.line(t, job, &bad, r.Line, r.Cell(product), r.Cell(name), r.Cell(in), r.Cell(lengths), r.Cell(remark), n)
	}
	return out.whole(bad)
}

func readJSON(text string, t *TakeOff, job *install.Job) (*Note, error) {
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
		out.line(t, job, &bad, i+1, l.Product, l.Name, l.Unit, joined(l.Lengths), l.Remark, l.Count)
	}
	return out.whole(bad)
}

// line reads one line of a note in the unit in which the list counts it.
func (n *Note) line(t *TakeOff, job *install.Job, bad *goods.Errors, row int, product, name, in, lengths, remark string, count float64) {
	l := t.listed(job, product, name)
	if l == nil {
		*bad = append(*bad, goods.CellError{Row: row, Column: "product", Value: strings.TrimSpace(product + " " + name),
			Accept: "a product of the order list of this job, by its key or its name"})
		return
	}
	to, from := unit.Metres(l.Unit), unit.Metres(cmp.Or(in, l.Unit))
	if in != "" && in != l.Unit && (to == 0 || from == 0) {
		*bad = append(*bad, goods.CellError{Row: row, Column: "unit", Value: in, Accept: l.Unit + ", in which the list counts it"})
		return
	}
	pieces, ok := goods.Lengths(lengths, cmp.Or(in, l.Unit))
	if !ok || len(pieces) > 0 && to == 0 {
		*bad = append(*bad, goods.CellError{Row: row, Column: "lengths", Value: lengths,
			Accept: "the lengths of the pieces of what is bought by length, as 30 + 12 or 2x25"})
		return
	}
	if from != to {
		whole := math.Abs(total(pieces)-count) < 1e-6 // the pieces are what the note counts: they stay so in the unit of the list
		for i := range pieces {
			pieces[i] = unit.Significant(pieces[i]*from/to, 4)
		}
		if count = unit.Significant(count*from/to, 4); whole {
			count = unit.Significant(total(pieces), 9)
		}
	}
	n.Lines = append(n.Lines, NoteLine{Row: row, Product: l.Key, Name: l.Name, Unit: l.Unit, Said: count, Lengths: joined(pieces), Remark: remark,
		Open: max(0, l.ordered()-l.Delivered)})
}

// exactly is a figure with all its digits: what is counted is held to the sum of its pieces.
func exactly(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func (n *Note) whole(bad goods.Errors) (*Note, error) {
	if len(bad) > 0 {
		return nil, bad
	}
	if len(n.Lines) == 0 {
		return nil, goods.Errors{{Column: "file", Value: "no lines", Accept: "a row for each product that came"}}
	}
	return n, nil
}

// listed is the line of a product by its key or its name: of the list, or of what was ordered of the merchant before the list changed.
func (t *TakeOff) listed(job *install.Job, product, name string) *Line {
	if l := t.find(product, name); l != nil {
		return l
	}
	for i := range job.Purchases.Orders {
		p := &job.Purchases.Orders[i]
		for n := range p.Lines {
			if l := &p.Lines[n]; l.Product == product {
				return unlisted(job, l, p.Comes(l))
			}
		}
	}
	return nil
}

// unlisted is the line of something that was ordered and that nothing of the job asks for any more.
func unlisted(job *install.Job, ordered *install.PurchaseLine, comes float64) *Line {
	s := job.Materials.Lines[ordered.Product]
	l := &Line{Key: ordered.Product, Name: ordered.Name, Unit: ordered.Unit, ByLength: unit.Metres(ordered.Unit) > 0, Placed: comes, Ordered: s.Ordered,
		Delivered: s.Delivered, Returned: s.Returned, Lengths: s.Lengths}
	for i := range job.Purchases.Left {
		if m := &job.Purchases.Left[i]; m.Product == l.Key {
			l.Left += m.Count
		}
	}
	return l
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
