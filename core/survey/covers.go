package survey

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/words"
)

// Pieces of work of the price list that a job may do already by what it puts in.
const (
	boardWork = "work:board"
	bondWork  = "work:bonding"
	surgeWork = "work:surge"
	renewWork = "work:rewire-circuit"
)

// covers are, by piece of work, what of a job does it already and how that is called: its parts and hours are those of the job, and are
// neither bought nor priced a second time.
var covers = map[string]struct {
	by   words.Key
	does func(job *install.Job, r *install.Record) bool
}{
	boardWork: {words.Key("the new board"), func(job *install.Job, _ *install.Record) bool {
		for b := range job.EachBoard() {
			if b.New {
				return true
			}
		}
		return false
	}},
	bondWork: {words.Key("the bonds that the job makes"), func(job *install.Job, _ *install.Record) bool {
		return slices.ContainsFunc(job.Supply.Bonds, func(b install.Bond) bool { return b.New })
	}},
	surgeWork: {words.Key("the surge device that the job fits"), func(job *install.Job, _ *install.Record) bool {
		return slices.ContainsFunc(job.Surge.Devices, func(d install.SPD) bool { return !d.Kept })
	}},
	renewWork: {words.Key("the new circuit"), func(job *install.Job, r *install.Record) bool {
		k := job.CircuitByID(r.Circuit)
		return k != nil && k.State == install.NewCircuit
	}},
}

// covered is what of the job does the work of a finding already; empty where nothing does.
func covered(job *install.Job, work string, r *install.Record) string {
	if c, ok := covers[work]; ok && c.does(job, r) {
		return job.Words.Say(string(c.by))
	}
	return ""
}
