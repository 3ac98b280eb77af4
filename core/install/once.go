package install

import (
	"slices"

	"arvelt/core/words"
)

// What is entered once and shown wherever it matters: the appliance with its point of the walk, the branch of a surge device with its
// circuit, the electrodes with the works outdoors.

// Drawn is what the points of a circuit draw by the walk. One of the two is 0: power is given with its sum, current of a single point.
type Drawn struct {
	PowerW   float64 `json:"powerW"`
	CurrentA float64 `json:"currentA"`
}

// DrawnBy is what the walk says that the points of a circuit draw, nil where it says nothing of one of them: then what was entered with
// the circuit stands. A current that was entered with it, as of a charge point, is surer than a power, and stays.
func (j *Job) DrawnBy(k *Circuit) *Drawn {
	out, n := Drawn{}, 0
	for i := range k.Serves.Boxes {
		b := &k.Serves.Boxes[i]
		if !b.Device.Draws() {
			continue
		}
		p := j.PointOf(b)
		if p == nil || p.PowerW <= 0 && p.CurrentA <= 0 {
			return nil
		}
		out.PowerW += p.PowerW
		if p.PowerW <= 0 {
			out.CurrentA += p.CurrentA
		}
		n++
	}
	switch {
	case n == 0, out.PowerW > 0 && out.CurrentA > 0, out.CurrentA > 0 && n > 1: // some by power and some by current: no sum of the two is known
		return nil
	case out.PowerW > 0 && k.Point.CurrentA > 0:
		return nil
	}
	return &out
}

// BranchOf is the circuit that is the branch of a surge device, nil where it has none of its own.
func (j *Job) BranchOf(d *SPD) *Circuit {
	if d.Circuit == "" {
		return nil
	}
	return j.CircuitByID(d.Circuit)
}

// AheadA is the rating in A of the device of a surge device's own branch, 0 where it has none or nobody knows.
func (j *Job) AheadA(d *SPD) float64 {
	if k := j.BranchOf(d); k != nil {
		return k.Protection.RatingA
	}
	return d.BranchA
}

// ElectrodeOhm is the resistance of the installation's electrodes: as entered with them, or with the supply where nothing is entered of
// them. The higher of the two counts where an older job has both.
func (j *Job) ElectrodeOhm() Fact {
	if with := j.Outdoor.Electrodes.Measured; with.V() >= j.Supply.ElectrodeOhm.V() && with.Known() {
		return with
	}
	return j.Supply.ElectrodeOhm
}

// once holds what is entered in one place to not being entered in another.
func (j *Job) once(t *Terms, told func(part, field string, value any, accept string), w *words.Catalogue) {
	branches := map[string]int{}
	for i := range j.Surge.Devices {
		d := &j.Surge.Devices[i]
		f := (&checker{}).item("devices", i)
		if d.Circuit == "" {
			continue
		}
		switch k := j.BranchOf(d); {
		case k == nil || !t.IsBranch(k) || k.State.Out():
			told("surge", f+"circuit", d.Circuit, w.Say("a circuit of the job that is the branch of a surge device, or nothing"))
			if k != nil {
				told("circuits/"+k.ID, "use", k.Use, w.Say("%s that stays: it is the branch of %s", t.Branch, d.Name))
			}
		case d.BranchA > 0:
			told("surge", f+"branchA", d.BranchA, w.Say("0: the rating is that of %s", k.Name))
		}
		if first, twice := branches[d.Circuit]; twice {
			told("surge", f+"circuit", d.Circuit, w.Say("a branch that no other device has: %s has it", j.Surge.Devices[first].Name))
		}
		branches[d.Circuit] = i
	}
}

// branchStays says why the branch of a surge device cannot be taken off the job, empty where it is none.
func (j *Job) branchStays(id string) string {
	if i := slices.IndexFunc(j.Surge.Devices, func(d SPD) bool { return d.Circuit == id }); i >= 0 {
		return j.Words.Say("%s stays: it is the branch of %s. Say so of no device first.", j.CircuitByID(id).Name, j.Surge.Devices[i].Name)
	}
	return ""
}
