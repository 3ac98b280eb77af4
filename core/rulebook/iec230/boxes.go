package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
)

// boxesRow is a row of boxes.
type boxesRow struct {
	Usual   string  `col:"usual"`
	ID      string  `col:"id"`
	DepthMM float64 `col:"depth_mm"`
	MM2x1   float64 `col:"mm2_1_5"`
	MM2x2   float64 `col:"mm2_2_5"`
	MM2x4   float64 `col:"mm2_4"`
	MM2x6   float64 `col:"mm2_6"`
	MM2x10  float64 `col:"mm2_10"`
}

var boxes = tables.LoadOf[boxesRow](dataFiles, "boxes")

// holds is the most conductors of a size that go into a box; 0 above the sizes of the table.
func (r *boxesRow) holds(mm2 float64) float64 {
	for _, x := range [...]struct{ to, most float64 }{{1.5, r.MM2x1}, {2.5, r.MM2x2}, {4, r.MM2x4}, {6, r.MM2x6}, {10, r.MM2x10}} {
		if mm2 <= x.to {
			return x.most
		}
	}
	return 0
}

// usualBoxes are the boxes of what stands on a run, where the walk names none.
var usualBoxes = map[install.BoxDevice]string{install.PlainOutlet: "2g 35", install.FusedUnit: "1g 35", install.Switch: "1g 25"}

// BoxAt is of [rulebook.Boxing]: by how many conductors come in.
func (Practice) BoxAt(job *install.Job, k *install.Circuit, b *install.Box, usual string) rulebook.BoxChoice {
	w := job.Words
	if usual == "" {
		usual = usualBoxes[b.Device]
	}
	out := rulebook.BoxChoice{ID: usual, Name: usual}
	kind, mm2 := cableKinds[k.Route.CableType], k.Route.LineMM2
	if len(kind.cores) == 0 || mm2 == 0 || kind.armoured {
		return out // an armoured cable ends in a gland, not behind an accessory
	}
	cables := k.Serves.CablesAt(b)
	conductors := cables * len(kind.cores)
	first := true
	for r := range boxes.Text {
		row := boxes.Row(r)
		if row.Usual != usual {
			continue
		}
		out.ID, out.Name = row.ID, row.ID
		out.Deeper, out.Over = !first, row.holds(mm2) < float64(conductors)
		out.Why = w.Say("cables in it: %d; conductors of %s: %d", cables, text(mm2, " mm²"), conductors)
		if !out.Over {
			return out
		}
		first = false
	}
	return out
}
