package rulebook

import "arvelt/core/install"

// Barring is a practice whose devices stand beside each other on rails and are fed by what is cut to them.
type Barring interface {
	// Bars are the parts that feed the devices of a board which the job puts in, and those of a row of devices that is wholly new on a board
	// that stays.
	Bars(job *install.Job, b *install.Board) []Part
}

// Bars is of [Barring]; nothing without it, where breakers plug onto the bars of their panel.
func (b Book) Bars(job *install.Job, board *install.Board) []Part {
	if p, ok := b.Practice.(Barring); ok {
		return p.Bars(job, board)
	}
	return nil
}
