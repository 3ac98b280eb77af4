package rulebook

import (
	"fmt"
	"io/fs"
	"math"

	"arvelt/core/install"
	"arvelt/core/table"
)

// Options are what a practice leaves to the company, in the order in which it is asked.
type Options []install.Option

// OptionsOf reads options.csv, a row each, and option_choices.csv, a row for each way of
// doing with its reason. Where these have a column "code", only rows of that code are taken
// and those that name none.
func OptionsOf(files fs.FS, code string) Options {
	list, ways := table.Load(files, "options"), table.Load(files, "option_choices")
	of := func(t *table.Table, row int) bool {
		return !t.Has("code") || t.Str(row, "code") == "" || t.Str(row, "code") == code
	}
	out := Options{}
	for r := range list.Text {
		if !of(list, r) {
			continue
		}
		o := install.Option{ID: install.OptionID(list.Str(r, "option")), Title: list.Str(r, "title"), Help: list.Str(r, "help"),
			Choices: []install.OptionChoice{}, Where: install.OptionID(list.Str(r, "where")), Chosen: list.Str(r, "chosen")}
		number := func(col string) float64 {
			if v := list.Num(r, col); !math.IsNaN(v) {
				return v
			}
			return 0
		}
		o.Chars = int(number("chars"))
		for w := range ways.Text {
			if ways.Str(w, "option") == string(o.ID) && of(ways, w) {
				o.Choices = append(o.Choices,
					install.OptionChoice{ID: ways.Str(w, "choice"), Name: ways.Str(w, "name"), Why: ways.Str(w, "why"),
						Asks: optional(ways, w, "asks")})
			}
		}
		o.Default = install.Chose(list.Str(r, "usual"))
		if len(o.Choices) == 0 && o.Chars == 0 {
			o.Unit, o.Low, o.High, o.Default = list.Str(r, "unit"), number("low"), number("high"), install.Figure(number("usual"))
		}
		out = append(out, o)
	}
	return out
}

// optional is a cell of a column that a table need not have.
func optional(t *table.Table, row int, column string) string {
	if !t.Has(column) {
		return ""
	}
	return t.Str(row, column)
}

// Named is the option of an id. It panics where the practice declares none of it.
func (o Options) Named(id install.OptionID) *install.Option {
	for i := range o {
		if o[i].ID == id {
			return &o[i]
		}
	}
	panic(fmt.Sprintf("rulebook: no option %q", id))
}

// Schools are the options as they stand where nobody chose.
func (o Options) Schools() install.Schools {
	s := install.Schools{Options: map[install.OptionID]install.OptionValue{}, Local: []install.LocalRule{}}
	for i := range o {
		s.Options[o[i].ID] = o[i].Default
	}
	return s
}
