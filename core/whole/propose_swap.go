package whole

import (
	"slices"

	"arvelt/core/schedule"
)

// fixedOn is how many slots of somebody are fixed for a day.
func (b *proposing) fixedOn(r int, day string, on [][]int) (sum int) {
	for _, o := range on[r] {
		if b.problem.Tasks[o].Pinned && b.dayOf(b.problem.Tasks[o].From) == day {
			sum += b.problem.Tasks[o].Dur
		}
	}
	return sum
}

// full reports whether as many sites as there are vehicles are worked on by others while a task would last from a slot on.
func (b *proposing) full(n, at int, x *schedule.Plan) bool {
	end, group := at+b.problem.Tasks[n].Dur, b.problem.Tasks[n].Group
	for k := at; k < end; k++ {
		on := map[int]bool{}
		for o := range b.steps {
			if t := &b.problem.Tasks[o]; len(x.Crew[o]) > 0 && x.Start[o] >= 0 && x.Start[o] <= k && k < x.Start[o]+t.Dur {
				on[t.Group] = true
			}
		}
		if !on[group] && len(on) >= b.problem.Sites {
			return true
		}
	}
	return false
}

// swap is a step that could change days with one whose day does not go: somebody fixed its day too, later; people of the one are those of the other;
// and each goes on the other's day, by what opens it, what comes before and behind it, and the weather. nil for none.
func (b *proposing) swap(n int, x *schedule.Plan, on [][]int) *Swap {
	task := &b.problem.Tasks[n]
	goes := func(k, slot int, with int) bool {
		day := b.dayOf(slot)
		w := b.jobs[b.steps[k].job].View.Job.Words
		if b.opens[k] > slot+b.perDay-1 || b.steps[k].task.Day || b.outlook.WeatherOn(w, b.steps[k].task.Weather, day) != "" {
			return false
		}
		for _, r := range x.Crew[k] {
			if b.problem.Resources[r].Out.Last(slot, slot+1) >= 0 {
				return false
			}
		}
		for _, a := range b.steps[k].task.After { // of what is fixed the order is in the step alone
			if o, ok := b.at[key(b.steps[k].job, b.jobs, a)]; ok && (o == with || b.dayOf(x.Start[o]+b.problem.Tasks[o].Dur-1) > day) {
				return false
			}
		}
		for o := range b.steps { // what waits for it is not before its new day
			if o == with || x.Start[o] < 0 || b.dayOf(x.Start[o]) >= day {
				continue
			}
			if b.steps[o].job == b.steps[k].job && slices.Contains(b.steps[o].task.After, b.steps[k].task.ID) {
				return false
			}
		}
		return true
	}
	for _, r := range x.Crew[n] {
		for _, o := range on[r] {
			other := &b.problem.Tasks[o]
			if o == n || !other.Pinned || other.From/b.perDay <= task.From/b.perDay || other.Dur > b.perDay || task.Dur > b.perDay {
				continue
			}
			here, there := task.From/b.perDay*b.perDay, other.From/b.perDay*b.perDay
			if b.fixedOn(r, b.dayOf(here), on)-task.Dur+other.Dur > b.perDay || b.fixedOn(r, b.dayOf(there), on)-other.Dur+task.Dur > b.perDay {
				continue
			}
			if !goes(n, there, o) || !goes(o, here, n) {
				continue
			}
			job := &b.jobs[b.steps[o].job]
			return &Swap{Job: job.ID, Ref: job.View.Job.Ref, Task: b.steps[o].task.ID, Title: b.steps[o].task.Title, Day: b.dayOf(other.From)}
		}
	}
	return nil
}
