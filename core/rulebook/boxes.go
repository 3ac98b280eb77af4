package rulebook

import "arvelt/core/install"

// Boxing is a practice that chooses the box of an accessory by what enters it.
type Boxing interface {
	// BoxAt is the box for what stands at b of the run of a circuit: the smallest that holds what enters it, of those in which the
	// usual box of its accessory is sold and not smaller than that. A usual box that is sold in one size is answered as it is; an
	// empty one is what the practice usually takes for what stands there, with no box at all where it takes none.
	BoxAt(job *install.Job, k *install.Circuit, b *install.Box, usual string) BoxChoice
}

// BoxChoice is a box with why it is that.
type BoxChoice struct {
	ID   string // the product is told by it
	Name string // as it is asked for at the counter
	Why  string // what enters it and how much of it that takes
	// Deeper: it is larger than the usual one. Over: even this, the largest, does not hold what enters it.
	Deeper, Over bool
}

// BoxAt is of [Boxing]; the usual box without it.
func (b Book) BoxAt(job *install.Job, k *install.Circuit, at *install.Box, usual string) BoxChoice {
	if p, ok := b.Practice.(Boxing); ok {
		return p.BoxAt(job, k, at, usual)
	}
	return BoxChoice{ID: usual, Name: usual}
}
