package whole

import (
	"time"

	"arvelt/core/van"
)

// VanOf is what goes into the van for the steps of a job that are open.
func VanOf(v *View, held []van.Held, now time.Time) van.List {
	return van.Of(van.Model{Job: v.Job, Take: &v.Take, Tasks: v.Tasks, Held: held, Now: now})
}
