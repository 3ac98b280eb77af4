package plan

import (
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/proving"
)

// PowerDay is which circuits are kept on and which are switched off on a day, by the steps that are planned for it.
type PowerDay struct {
	Day   string `json:"day"`
	Whole bool   `json:"whole"` // the supply of the whole house goes off
	Steps int    `json:"steps"` // that need it off
	// Off and On are the circuits in use, by name with their rooms; At is where they are switched off and locked: the boundary.
	Off []PowerOf `json:"off"`
	On  []PowerOf `json:"on"`
	At  []string  `json:"at"`
}

// PowerOf is a circuit that is in use.
type PowerOf struct {
	Name  string `json:"name"`
	Where string `json:"where"`
}

// daysTold is for how many days what is on and off is told.
const daysTold = 14

// PowerDays says of each day to come on which a step is planned that needs something off what is kept on and what is not. use is what is in use now: it
// is a plan and no proof, and says nothing of what lies in a wall.
func PowerDays(job *install.Job, tasks []Task, use []proving.Used, house *isolate.House, now time.Time) []PowerDay {
	today, last := now.Format(time.DateOnly), now.AddDate(0, 0, daysTold).Format(time.DateOnly)
	places := map[string]map[string]bool{} // by day
	steps := map[string]int{}
	for i := range tasks {
		t := &tasks[i]
		day := t.On
		if t.Day && day == "" { // it is of the day of the outage
			day = job.Outage.Day
		}
		if t.Done || !t.Isolation || day < today || day > last {
			continue
		}
		if places[day] == nil {
			places[day] = map[string]bool{}
		}
		steps[day]++
		for _, p := range slices.Concat(t.Dead, t.reach) {
			places[day][p] = true
		}
	}
	out := []PowerDay{}
	for day, at := range places {
		d := PowerDay{Day: day, Steps: steps[day], Off: []PowerOf{}, On: []PowerOf{}, At: []string{}}
		off := offAt(job, at)
		for place := range at {
			if p, ok := house.Place(place); ok && !slices.Contains(d.At, p.Name) {
				d.At = append(d.At, p.Name)
			}
		}
		slices.Sort(d.At)
		d.Whole = job.Outage.Day == day || at[isolate.BoardPlace(&job.Board)]
		for i := range use {
			u := &use[i]
			if !u.InUse {
				continue
			}
			if d.Whole || off[u.Circuit] {
				d.Off = append(d.Off, PowerOf{u.Name, u.Where})
			} else {
				d.On = append(d.On, PowerOf{u.Name, u.Where})
			}
		}
		out = append(out, d)
	}
	slices.SortFunc(out, func(a, b PowerDay) int {
		if a.Day < b.Day {
			return -1
		}
		return 1
	})
	return out
}

// offAt are the circuits that are off where places are made dead, by id: those that are there, and those behind them.
func offAt(job *install.Job, places map[string]bool) map[string]bool {
	off := map[string]bool{}
	for i := range job.Circuits {
		k := &job.Circuits[i]
		off[k.ID] = places[isolate.CircuitPlace(k.ID)] || places[isolate.DevicePlace(k)]
		for n := range k.Serves.Boxes {
			r := k.Serves.Boxes[n].Room
			off[k.ID] = off[k.ID] || r != "" && (places[isolate.RoomPlace(r)] || places[isolate.FoundPlace(r)])
		}
	}
	for range len(job.Circuits) { // a feeder takes along what it feeds
		more := false
		for i := range job.Circuits {
			if k := &job.Circuits[i]; !off[k.ID] && off[k.From] {
				off[k.ID], more = true, true
			}
		}
		if !more {
			break
		}
	}
	return off
}
