package plan

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
)

// heightCrew is how many people work at height takes: one works, one stands by on the ground.
const heightCrew = 2

// high reports whether a step is work at height by what the model says: it is on points of a room that are so high up.
func (p *Practice) high(job *install.Job, t *Task) bool {
	r := job.RoomByID(t.Room)
	if r == nil || p.Survey == nil || t.Kind != install.DrillingStep && t.Kind != install.ConnectingStep {
		return false
	}
	placing := survey.Placing(p.Survey)
	return slices.ContainsFunc(r.Points, func(pt install.RoomPoint) bool {
		// what is taken out is reached as well as what is put in
		return pt.Kind != "" && pt.State != install.Kept && rulebook.AtHeight(&job.Schools, placing(r, &pt).Height)
	})
}
