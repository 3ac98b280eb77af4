package rulebook

import (
	"arvelt/core/install"
	"arvelt/core/working"
)

// TimberLimits are how large a hole or a notch in solid timber may be, and where, mm.
type TimberLimits struct {
	SizeMM       float64
	FromMM, ToMM float64 // from the nearer support
	Least        float64 // of a notch or a hole, the timber that stays between a hole and each edge; 0 where it is not told
	Source       working.Source
}

// Timbered is a practice that knows what may be cut out of joists and studs.
type Timbered interface {
	// TimberLimits are those of a hole or a notch in solid timber of the depth and span of c, mm.
	TimberLimits(job *install.Job, c *install.TimberCut) TimberLimits
}

// TimberLimits is of [Timbered]; without it nothing is known.
func (b Book) TimberLimits(job *install.Job, c *install.TimberCut) (TimberLimits, bool) {
	p, ok := b.Practice.(Timbered)
	if !ok {
		return TimberLimits{}, false
	}
	return p.TimberLimits(job, c), true
}
