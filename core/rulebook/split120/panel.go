package split120

import (
	"cmp"

	"arvelt/core/install"
)

// spacesOf are the spaces that a device takes.
func spacesOf(way, poles int) []int { return terms.WaysOf(way, poles) }

// taken is what is on a space or on a half of one: a circuit of the job by its id, or what was there.
type taken struct {
	name, circuit string
	half          install.Half
}

// space is a space of a panel, which its feeder names.
type space struct {
	feeder string
	no     int
}

// takenBy says what is on a space, or on a half of one, beside a circuit; empty for nothing.
func (s *system) takenBy(at space, half install.Half, but string) string {
	if s.taken == nil {
		s.taken = spaces(s.Job)
	}
	return takenBy(s.taken[at], half, but)
}

func spaces(job *install.Job) map[space][]taken {
	out := map[space][]taken{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		for _, p := range terms.PlacesOf(k) {
			at := space{p.Feeder, p.Way}
			out[at] = append(out[at], taken{k.Name, k.ID, p.Half})
		}
	}
	for b := range job.EachBoard() {
		for _, w := range b.Ways {
			if w.Label == "" && w.Device == "" {
				continue
			}
			for _, n := range spacesOf(w.No, max(w.Poles, 1)) {
				at := space{b.Feeder(), n}
				out[at] = append(out[at], taken{cmp.Or(w.Label, w.Device), "", install.WholeWay})
			}
		}
	}
	return out
}

// takenBy is the first on a space, or on a half of one, that is not the circuit but; empty where there is none.
func takenBy(on []taken, half install.Half, but string) string {
	for _, t := range on {
		if (t.circuit == "" || t.circuit != but) && (half == install.WholeWay || t.half == install.WholeWay || t.half == half) {
			return t.name
		}
	}
	return ""
}
