package plan

import (
	"strings"
	"time"

	"arvelt/core/install"
)

// Baton is a step that others do and that is not done: who holds it, what they must find ready, and how long it has been theirs.
type Baton struct {
	Task   string `json:"task"`
	Title  string `json:"title"`
	Holder string `json:"holder"` // what they are: pulling crew, metering crew
	// Contact is who of them it is and how they are reached, as it stands on the plan; empty while nobody is named.
	Contact string `json:"contact"`
	Finds   string `json:"finds"` // what they must find ready
	// Waits is the step before that is not done; empty where it is theirs now, since Since, for Days.
	Waits string `json:"waits"`
	Since string `json:"since"`
	Days  int    `json:"days"`
	On    string `json:"on"` // the day for which it is promised
	// Alert says why nobody holds it, or that it is late; empty for nothing.
	Alert string `json:"alert"`
}

// soonDays is how long before the work starts a first step of others is asked for.
const soonDays = 14

// heldDays is how many days a step may be others' without a day before that is said.
const heldDays = 3

// BatonsOf are the steps of others that are not done, in the order of the plan.
func BatonsOf(job *install.Job, tasks []Task, now time.Time) []Baton {
	w, today, out, at := job.Words, now.Format(time.DateOnly), []Baton{}, map[string]*Task{}
	for i := range tasks {
		at[tasks[i].ID] = &tasks[i]
	}
	soon := job.Plan.StartDate != "" && job.Plan.StartDate <= now.AddDate(0, 0, soonDays).Format(time.DateOnly)
	for i := range tasks {
		t := &tasks[i]
		if t.Others == "" || t.Done {
			continue
		}
		b := Baton{Task: t.ID, Title: t.Title, Holder: t.Others, Contact: strings.TrimSpace(job.Plan.Tasks[t.ID].Who), Finds: t.Finds, On: t.On}
		var since time.Time
		for _, id := range t.After {
			first := at[id]
			switch {
			case first == nil:
			case !first.Done && b.Waits == "":
				b.Waits = first.Title
			case first.Done && first.DoneAt != nil && first.DoneAt.After(since):
				since = *first.DoneAt
			}
		}
		if b.Waits == "" && t.gate != "" {
			b.Waits = t.Closed
		}
		if b.Waits == "" && !since.IsZero() {
			b.Since, b.Days = since.Format(time.DateOnly), int(now.Sub(since).Hours()/24)
		}
		switch {
		case b.On != "" && b.On < today:
			b.Alert = w.Say("It was promised for %s: that day has passed. Ask again.", b.On)
		case b.Waits != "":
		case b.Contact == "" && b.On == "" && (b.Since != "" || soon):
			b.Alert = w.Say("Nobody holds it: all before it is done, nobody is named and no day is promised.")
		case b.On == "" && b.Days > heldDays:
			b.Alert = w.Say("Theirs for %d days, and no day is promised.", b.Days)
		}
		out = append(out, b)
	}
	return out
}

// batonsPlanned are what the week is told of steps that nobody holds, or that are late.
func batonsPlanned(job *install.Job, batons []Baton) (out []Planned) {
	for _, b := range batons {
		if b.Alert != "" && b.On == "" { // with a day it stands on the week by itself
			out = append(out, Planned{Task: "baton:" + b.Task, Title: job.Words.Say("%s (%s)", b.Title, b.Holder), Stage: install.Handover,
				Who: []string{}, Crew: 1, Held: b.Alert})
		}
	}
	return out
}
