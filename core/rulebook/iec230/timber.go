package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// TimberLimits is of [rulebook.Timbered]: those of [LimitsOfJoist].
func (Practice) TimberLimits(_ *install.Job, c *install.TimberCut) rulebook.TimberLimits {
	l := LimitsOfJoist(c.DepthMM, c.SpanMM)
	out := rulebook.TimberLimits{SizeMM: l.HoleDia, FromMM: l.HoleZone[0], ToMM: l.HoleZone[1], Least: l.CoverTop, Source: joists.Source}
	if c.Notch {
		out.SizeMM, out.FromMM, out.ToMM, out.Least = l.NotchDepth, l.NotchZone[0], l.NotchZone[1], 0
	}
	return out
}
