package materials

import (
	"fmt"
	"slices"
	"strings"

	"arvelt/core/goods"
	"arvelt/core/unit"
)

// CatalogueColumns are the columns of a company's list as it is written and read, in their order.
var CatalogueColumns = []string{"key", "name", "unit", "price", "up to", "hours", "packs", "lead days", "merchant", "instead"}

// CatalogueRow is an item as a row of [CatalogueColumns].
func CatalogueRow(p *Item) []any {
	packs := make([]string, len(p.Packs))
	for i, v := range p.Packs {
		packs[i] = exactly(v)
	}
	return []any{p.Key, p.Name, p.Unit, p.Price, p.High, p.Hours, strings.Join(packs, " | "), p.LeadDays, p.Merchant, strings.Join(p.Instead, " | ")}
}

// Import is what a file would make of a company's list. What the file does not name stays as it is.
type Import struct {
	Items   []Item         `json:"-"` // the list as it would be
	Added   []string       `json:"added"`
	Changed []ImportChange `json:"changed"`
	Same    int            `json:"same"`
	Kept    int            `json:"kept"` // lines of the list that the file does not name
	// Unread are the cells that cannot be read. While there are any, nothing of the file is taken.
	Unread goods.Errors `json:"unread"`
}

// ImportChange is a figure that would be another.
type ImportChange struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Column string `json:"column"`
	Was    string `json:"was"`
	Now    string `json:"now"`
}

// ReadCatalogue reads a price list of columns that go by the names of [CatalogueColumns], key and price at the least, beside the list as it is.
// A row of a key that the list has changes what the file has a column for. The error is [goods.Errors], of a file that is no such list.
func ReadCatalogue(t *goods.Table, now []Item) (*Import, error) {
	at := map[string]int{"key": t.Column("key", "product", "code"), "name": t.Column("name", "description"), "unit": t.Column("unit", "uom"),
		"price": t.Column("price", "net price"), "up to": t.Column("up to", "high"), "hours": t.Column("hours"), "packs": t.Column("packs", "pack"),
		"lead days": t.Column("lead days", "lead"), "merchant": t.Column("merchant"), "instead": t.Column("instead", "substitutes")}
	if at["key"] < 0 || at["price"] < 0 {
		return nil, goods.Errors{{Column: "columns", Value: strings.Join(t.Columns, ", "),
			Accept: "key and price, and of these what there is: " + strings.Join(CatalogueColumns, ", ")}}
	}
	out := Import{Items: slices.Clone(now), Added: []string{}, Changed: []ImportChange{}, Unread: goods.Errors{}}
	index, seen := map[string]int{}, map[string]int{}
	for i := range now {
		index[now[i].Key] = i
	}
	for i := range t.Rows {
		r := &t.Rows[i]
		id := r.Cell(at["key"])
		if line, twice := seen[id]; twice || id == "" {
			accept := "a key"
			if twice {
				accept = fmt.Sprintf("each key once: it stands in row %d", line)
			}
			out.Unread = append(out.Unread, goods.CellError{Row: r.Line, Column: "key", Value: id, Accept: accept})
			continue
		}
		seen[id] = r.Line
		item := Item{Key: id, Name: id, Unit: "pcs", Packs: []float64{}, Instead: []string{}}
		n, there := index[id]
		if there {
			item = now[n]
		}
		was := CatalogueRow(&item)
		out.read(r, at, &item)
		if !there {
			out.Added, out.Items = append(out.Added, item.Key+" · "+item.Name), append(out.Items, item)
			continue
		}
		same := true
		for c, v := range CatalogueRow(&item) {
			if v != was[c] {
				same = false
				out.Changed = append(out.Changed, ImportChange{Key: id, Name: item.Name, Column: CatalogueColumns[c], Was: fmt.Sprint(was[c]),
					Now: fmt.Sprint(v)})
			}
		}
		if same {
			out.Same++
		}
		out.Items[n] = item
	}
	for _, p := range now {
		if seen[p.Key] == 0 {
			out.Kept++
		}
	}
	return &out, nil
}

// read takes the cells of a row into an item, as far as the file has a column for them.
func (o *Import) read(r *goods.Row, at map[string]int, item *Item) {
	bad := func(column, accept string) {
		o.Unread = append(o.Unread, goods.CellError{Row: r.Line, Column: column, Value: r.Cell(at[column]), Accept: accept})
	}
	figure := func(column string, most float64, into *float64) {
		cell := r.Cell(at[column])
		if cell == "" {
			return
		}
		v, ok := goods.Number(cell)
		if !ok || v < 0 || v > most {
			bad(column, "a figure from 0 to "+unit.Format(most)+" as 12.5 or 12,5")
			return
		}
		*into = v
	}
	if s := r.Cell(at["name"]); s != "" {
		item.Name = s
	}
	if s := r.Cell(at["unit"]); s != "" {
		item.Unit = s
	}
	if r.Cell(at["price"]) == "" {
		bad("price", "a price: leave the row out where there is none")
	}
	figure("price", 1e6, &item.Price)
	figure("up to", 1e6, &item.High)
	figure("hours", 1000, &item.Hours)
	if at["packs"] >= 0 {
		item.Packs = []float64{}
		for field := range strings.SplitSeq(r.Cell(at["packs"]), "|") {
			if field = strings.TrimSpace(field); field == "" {
				continue
			}
			v, ok := goods.Number(field)
			if !ok || !(v > 0 && v <= 10000) {
				bad("packs", "packs above 0 in the unit of the row, as 50 | 100")
				break
			}
			item.Packs = append(item.Packs, v)
		}
	}
	if at["lead days"] >= 0 {
		days := 0.0
		figure("lead days", 365, &days)
		if item.LeadDays = int(days); float64(item.LeadDays) != days {
			bad("lead days", "whole days from 0 to 365")
		}
	}
	if at["merchant"] >= 0 {
		item.Merchant = r.Cell(at["merchant"])
	}
	if at["instead"] >= 0 {
		item.Instead = []string{}
		for field := range strings.SplitSeq(r.Cell(at["instead"]), "|") {
			if field = strings.TrimSpace(field); field != "" {
				item.Instead = append(item.Instead, field)
			}
		}
	}
}
