package rulebook

import (
	"io/fs"
	"strings"

	"arvelt/core/table"
)

// CalcNames is how a practice speaks of its named calculations: the question that each
// answers, and what a key is called and in which unit it is. Nobody guesses from the
// spelling of a key.
type CalcNames struct {
	titles map[string]string
	keys   map[string]KeyName
}

// KeyName is a key of a calculation for whoever reads it.
type KeyName struct {
	Label string `json:"label"`
	Unit  string `json:"unit"` // empty where it has none
}

// CalcNamesOf reads calcs.csv and calc_keys.csv.
func CalcNamesOf(files fs.FS) *CalcNames {
	n := &CalcNames{titles: map[string]string{}, keys: map[string]KeyName{}}
	calcs := table.Load(files, "calcs")
	for r := range calcs.Text {
		n.titles[calcs.Str(r, "calc")] = calcs.Str(r, "title")
	}
	keys := table.Load(files, "calc_keys")
	for r := range keys.Text {
		n.keys[keys.Str(r, "key")] = KeyName{keys.Str(r, "label"), strings.TrimSuffix(keys.Str(r, "unit"), noUnit)}
	}
	return n
}

// noUnit stands in the table for a key without a unit.
const noUnit = "-"

// Name gives calculations their titles and their inputs labels and units.
func (n *CalcNames) Name(calcs []Calc) []Calc {
	for i := range calcs {
		c := &calcs[i]
		c.Title, c.names = n.titles[c.Name], n
		for k := range c.In {
			f := &c.In[k]
			name := n.keys[f.Key[strings.LastIndexByte(f.Key, '.')+1:]]
			f.Label, f.Unit = name.Label, name.Unit
		}
	}
	return calcs
}

// KeysOf are the names of every key in the values of a result, nested ones too.
func (c *Calc) KeysOf(values map[string]any) map[string]KeyName {
	out := map[string]KeyName{}
	if c.names != nil {
		c.names.collect(values, out)
	}
	return out
}

func (n *CalcNames) collect(v any, into map[string]KeyName) {
	switch x := v.(type) {
	case map[string]any:
		for key, inner := range x {
			if name, ok := n.keys[key]; ok {
				into[key] = name
			}
			n.collect(inner, into)
		}
	case []any:
		for _, inner := range x {
			n.collect(inner, into)
		}
	}
}
