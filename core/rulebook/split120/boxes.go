package split120

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/unit"
)

// boxSizesRow is a row of box_sizes.
type boxSizesRow struct {
	Usual    string  `col:"usual"`
	ID       string  `col:"id"`
	Name     string  `col:"name"`
	In3      float64 `col:"volume_in3"`
	CanadaML float64 `col:"ca_volume_ml"`
}

var boxSizes = table.LoadOf[boxSizesRow](dataFiles, "box_sizes")

// ml is the volume of a box in a code, ml; NaN where its table does not have it.
func (r *boxSizesRow) ml(code Code) float64 {
	if code == CEC {
		return r.CanadaML
	}
	return r.In3 * in3ML
}

// volume is one in the unit of a code.
func volume(code Code, ml float64) string {
	if code == CEC {
		return unit.With(math.Round(ml), "ml")
	}
	return unit.With(unit.Significant(ml/in3ML, 4), "in³")
}

// BoxAt is of [rulebook.Boxing]: by the fill of 314.16(B), and the volume that was read on it where that is more.
func (Practice) BoxAt(job *install.Job, k *install.Circuit, b *install.Box, usual string) rulebook.BoxChoice {
	w, code := job.Words, codeOf(job)
	if usual == "" || b.Yokes > 1 {
		usual = usualBox(b)
	}
	out := rulebook.BoxChoice{ID: usual, Name: usual}
	c := &circuit{system: &system{House: &rulebook.House{Job: job}, code: code, edition: editionOf(job)}, k: k, row: cables[k.Route.CableType],
		size: sizeOf[k.Route.LineMM2]}
	if c.row == nil || c.size == "" {
		return out
	}
	in, cables, conductors := c.inBox(b)
	filled, _, err := calcBox(in)
	if err != nil {
		return out
	}
	need := filled.in3() * in3ML
	out.Why = w.Say("cables in it: %d; conductors of %s: %s, with their grounds and devices %s", cables, trade(c.size), unit.Format(conductors),
		volume(code, need))
	need, first := max(need, b.VolumeML), true
	for r := range boxSizes.Text {
		row := boxSizes.Row(r)
		ml := row.ml(code)
		if row.Usual != usual || math.IsNaN(ml) {
			continue
		}
		out.ID, out.Name = usual+":"+row.ID, w.Say(row.Name)+", "+volume(code, ml)
		out.Deeper, out.Over = !first, ml < need-volumeSlackML
		if !out.Over {
			return out
		}
		first = false
	}
	return out
}

// volumeSlackML is less than any two volumes of the tables differ by, ml.
const volumeSlackML = 0.5

// usualBox is the box that a thing on a run takes where the walk names none.
func usualBox(b *install.Box) string {
	switch yokes := max(b.Yokes, 1); {
	case b.Device == install.NoDevice:
		return "4 in square"
	case b.Device == install.Luminaire || b.Device == install.Alarm:
		return "ceiling box"
	case b.Weather && yokes > 1:
		return "weatherproof two gang"
	case b.Weather:
		return "weatherproof"
	default:
		return [...]string{"single gang", "two gang", "three gang", "four gang"}[min(yokes, 4)-1]
	}
}
