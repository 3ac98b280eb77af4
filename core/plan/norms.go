package plan

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"arvelt/core/materials"
	"arvelt/core/words"
)

// norms are hours for one crew, by feel of the trade: a start that the
// company's price and hours list replaces.
var norms = map[string]float64{
	"mark": 0.5, "locate": 0.25, "core": 0.75, "trench-per-m": 0.35, "cable-per-m": 0.05, "rod": 1, "photo": 0.25,
	"close": 0.25, "point": 1.5, "board": 1.25, "pen": 1, "torque": 0.25, "label": 0.5, "test": 0.5, "owner": 0.5, "room-point": 0.75,
	"finding": 0.5, "outage-isolate": 0.5, "outage-strip": 1, "outage-fit": 1, "outage-dead-tests": 0.75, "outage-energise": 0.5, "outage-live-tests": 0.75,
}

// Norm is how many hours a piece of work takes by the company's list, or by feel of the trade where that has none.
func Norm(list map[string]materials.Item, key string) float64 { return hours(list, key) }

// Hours returns the norm from the company's list where it has one.
func hours(list map[string]materials.Item, key string) float64 {
	if item, ok := list["hours:"+key]; ok && item.Hours > 0 {
		return item.Hours
	}
	return norms[key]
}

// NormKeys lists the keys under which a company may keep its own hours.
func NormKeys() []string {
	out := []string{}
	for k := range norms {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// normNames is what the norms are called, each a message.
var normNames = map[string]words.Key{
	"mark": words.Key("Mark a route, find a circuit's conductors"), "locate": words.Key("Find the cables and pipes of a room"),
	"core": words.Key("Drill, sleeve and seal"), "trench-per-m": words.Key("Trench"), "cable-per-m": words.Key("Run and fix cable"),
	"rod": words.Key("Drive an electrode"), "photo": words.Key("Photograph what is covered"), "close": words.Key("Close the walls of a room"),
	"point": words.Key("Mount and terminate an appliance"), "board": words.Key("Fit and terminate at the board"),
	"pen":    words.Key("Fit the device for a broken neutral-earth"),
	"torque": words.Key("Tighten and note"), "label": words.Key("Label"), "test": words.Key("Test"), "owner": words.Key("Show the owner"),
	roomNorm: words.Key("Points of a room, first and second fix"), "finding": words.Key("Mend a finding"),
	"outage-isolate": words.Key("Outage: isolate"), "outage-strip": words.Key("Outage: strip out"), "outage-fit": words.Key("Outage: fit an enclosure"),
	"outage-dead-tests": words.Key("Outage: dead tests"), "outage-energise": words.Key("Outage: energise"),
	"outage-live-tests": words.Key("Outage: live tests"),
}

// NormRow is a norm beside what steps by it really took on the company's jobs.
type NormRow struct {
	Norm    string  `json:"norm"`
	Name    string  `json:"name"`
	Steps   int     `json:"steps"` // with hours noted
	Jobs    int     `json:"jobs"`
	Planned float64 `json:"planned"`
	Worked  float64 `json:"worked"`
	Factor  float64 `json:"factor"` // hours for each that is planned
	Over    bool    `json:"over"`   // by more than a quarter
	// Lines are those of the price list by which it would come out as it was worked; none while too little is noted, or where it comes out already.
	Lines []NormLine `json:"lines"`
}

// NormLine is a line of the company's list with the hours that it has and those that are proposed, for one of its unit.
type NormLine struct {
	Key      string  `json:"key"`
	Name     string  `json:"name"`
	Hours    float64 `json:"hours"`
	Proposed float64 `json:"proposed"`
}

// The bounds of a factor that is proposed: beyond them somebody noted something else than the work.
const leastFactor, mostFactor = 0.4, 2.5

// Norms puts what was noted on jobs beside the norms, the one that is furthest out first.
func Norms(w *words.Catalogue, list map[string]materials.Item, jobs [][]Logged) []NormRow {
	at := map[string]*NormRow{}
	for _, job := range jobs {
		for _, l := range job {
			r := at[l.Norm]
			if r == nil {
				r = &NormRow{Norm: l.Norm, Name: w.Say(string(normNames[l.Norm])), Lines: []NormLine{}}
				at[l.Norm] = r
			}
			planned := l.Planned
			if l.Each > 0 { // the norm may have changed since
				planned *= hours(list, l.Norm) / l.Each
			}
			r.Steps, r.Jobs, r.Planned, r.Worked = r.Steps+l.Steps, r.Jobs+1, unitHours(r.Planned+planned), unitHours(r.Worked+l.Worked)
		}
	}
	out := []NormRow{}
	for _, r := range at {
		if r.Planned <= 0 {
			continue
		}
		r.Factor = unitHours(r.Worked / r.Planned)
		r.Over = r.Factor > Overrun
		if r.Steps >= enoughSteps && r.Factor >= leastFactor && r.Factor <= mostFactor {
			r.propose(list)
		}
		out = append(out, *r)
	}
	off := func(r *NormRow) float64 { return max(r.Factor, 1/max(r.Factor, 0.01)) }
	slices.SortFunc(out, func(a, b NormRow) int {
		return cmp.Or(cmp.Compare(off(&b), off(&a)), cmp.Compare(a.Norm, b.Norm))
	})
	return out
}

// propose says which lines of the list come out as it was worked.
func (r *NormRow) propose(list map[string]materials.Item) {
	line := func(key, name string, h float64) {
		if to := unitHours(h * r.Factor); to != unitHours(h) && to > 0 {
			r.Lines = append(r.Lines, NormLine{key, name, unitHours(h), to})
		}
	}
	if r.Norm == roomNorm {
		for _, key := range slices.Sorted(maps.Keys(list)) {
			if x := list[key]; strings.HasPrefix(key, "point:") && x.Hours > 0 {
				line(key, x.Name, x.Hours)
			}
		}
	}
	line("hours:"+r.Norm, r.Name, hours(list, r.Norm))
}
