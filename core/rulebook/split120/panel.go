package split120

import (
	"cmp"

	"arvelt/core/install"
)

// spacesOf are the spaces that a device takes.
func spacesOf(way, poles int) []int { return terms.WaysOf(way, poles) }

// taken is what is on a space: a circuit of the job by its id, or what was there.
type taken struct{ name, circuit string }

// takenBy says what is on a space beside one circuit, empty for nothing.
func (s *system) takenBy(space int, but string) string {
	if s.taken == nil {
		s.taken = spaces(s.Job)
	}
	for _, t := range s.taken[space] {
		if t.circuit == "" || t.circuit != but {
			return t.name
		}
	}
	return ""
}

func spaces(job *install.Job) map[int][]taken {
	out := map[int][]taken{}
	for i := range job.Circuits {
		if k := &job.Circuits[i]; k.From == "" && k.Protection.Way > 0 {
			for _, n := range spacesOf(k.Protection.Way, max(k.Protection.Poles, 1)) {
				out[n] = append(out[n], taken{k.Name, k.ID})
			}
		}
	}
	for _, w := range job.Board.Ways {
		if w.Label == "" && w.Device == "" {
			continue
		}
		for _, n := range spacesOf(w.No, max(w.Poles, 1)) {
			out[n] = append(out[n], taken{cmp.Or(w.Label, w.Device), ""})
		}
	}
	return out
}

// spacesTaken says what is on each space, but for one circuit.
func spacesTaken(job *install.Job, but string) map[int]string {
	out := map[int]string{}
	for n, on := range spaces(job) {
		if name := takenBy(on, but); name != "" {
			out[n] = name
		}
	}
	return out
}

// takenBy is the first on a space that is not the circuit but, empty where there is none.
func takenBy(on []taken, but string) string {
	for _, t := range on {
		if t.circuit == "" || t.circuit != but {
			return t.name
		}
	}
	return ""
}
