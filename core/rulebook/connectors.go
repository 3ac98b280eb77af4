package rulebook

import (
	"cmp"
	"fmt"
	"slices"

	"arvelt/core/unit"
	"arvelt/core/words"
)

// AddPart adds a part to others: to the count of the one of its key, where it is among them.
func AddPart(to *[]Part, p Part) *Part {
	at := slices.IndexFunc(*to, func(o Part) bool { return o.Key == p.Key })
	if at < 0 {
		*to = append(*to, p)
		return &(*to)[len(*to)-1]
	}
	(*to)[at].Count += p.Count
	return &(*to)[at]
}

// Joint is so many conductors that are joined in a box.
type Joint struct {
	Conductors int
	MM2        float64 // of the largest of them
}

// ConnectorRow is a row of the connectors of a practice: how many conductors of at most a size one takes.
type ConnectorRow struct {
	School string  `col:"school"` // a way of the practice's option for connectors
	ID     string  `col:"id"`
	Name   string  `col:"name"`
	Ports  float64 `col:"ports"`
	ToMM2  float64 `col:"to_mm2"`
}

// Connectors are the connectors that joints take by the rows of a school, alike ones together in the order of the rows: for each joint the
// smallest with room for it. More conductors than the largest has ports for go into several, each joined to the next by a link that takes a
// port of both. Of a size that no row takes it is asked for by what it joins.
func Connectors(w *words.Catalogue, rows []ConnectorRow, school string, size func(mm2 float64) string, joints []Joint) []Part {
	rows = slices.DeleteFunc(slices.Clone(rows), func(r ConnectorRow) bool { return r.School != school })
	slices.SortStableFunc(rows, func(a, b ConnectorRow) int {
		return cmp.Or(cmp.Compare(a.ToMM2, b.ToMM2), cmp.Compare(a.Ports, b.Ports))
	})
	out := []Part{}
	add := func(key, name string) { AddPart(&out, Part{Key: key, Name: name, Count: 1}) }
	for _, j := range joints {
		var fit []ConnectorRow
		for _, r := range rows {
			if r.ToMM2 >= j.MM2-1e-9 && (len(fit) == 0 || r.ToMM2 == fit[0].ToMM2) {
				fit = append(fit, r)
			}
		}
		if len(fit) == 0 {
			add(fmt.Sprintf("connector:%d:%s", j.Conductors, unit.Format(j.MM2)),
				w.Say("Connector for %d conductors of %s, by its listing", j.Conductors, size(j.MM2)))
			continue
		}
		for left, most := j.Conductors, fit[len(fit)-1]; ; {
			n := slices.IndexFunc(fit, func(r ConnectorRow) bool { return int(r.Ports) >= left })
			if n < 0 {
				add("connector:"+most.ID, w.Say(most.Name))
				left -= int(most.Ports) - 2 // what goes into it, and a link that stays to be joined
				continue
			}
			add("connector:"+fit[n].ID, w.Say(fit[n].Name))
			break
		}
	}
	return out
}
