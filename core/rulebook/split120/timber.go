package split120

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
)

// joistsRow is a row of joists.
type joistsRow struct {
	Code string  `col:"code"`
	Cut  string  `col:"cut"`
	Size float64 `col:"size"`
	From float64 `col:"from"`
	To   float64 `col:"to"`
	Edge float64 `col:"edge"`
}

var joists = table.LoadOf[joistsRow](dataFiles, "joists")

// TimberLimits is of [rulebook.Timbered], by the building code of the country.
func (Practice) TimberLimits(job *install.Job, c *install.TimberCut) rulebook.TimberLimits {
	cut, code := "hole", codeOf(job)
	if c.Notch {
		cut = "notch"
	}
	row := joists.One(func(r *joistsRow) bool { return r.Code == string(code) && r.Cut == cut })
	return rulebook.TimberLimits{SizeMM: row.Size * c.DepthMM, FromMM: row.From * c.SpanMM, ToMM: row.To * c.SpanMM, Least: row.Edge,
		Source: under(joists.Table, code)}
}
