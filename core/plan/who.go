package plan

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/proving"
)

// Assigned holds who is named on steps of the plan, where that is not as it was: people of the team by name, as many of them as the step takes, and
// one of them such as the practice lets say that it is done. Who does a step of another trade is that trade's to say. The error is [install.Errors].
func Assigned(job *install.Job, terms *install.Terms, tasks []Task, was map[string]install.TaskEdit, teamOn func(day time.Time) []install.Person,
	today time.Time) error {
	w, out := job.Words, dated(job, tasks, was)
	team := teamOn(today)
	known := make([]string, len(team))
	for i := range team {
		known[i] = team[i].Name
	}
	for i := range tasks {
		t := &tasks[i]
		edit := job.Plan.Tasks[t.ID] // as it is to be
		if edit == was[t.ID] || strings.TrimSpace(edit.Who) == "" || t.Others != "" {
			continue
		}
		says := func(accept string) {
			out = append(out, install.FieldError{Field: "plan.tasks[" + t.ID + "].who", Value: edit.Who, Accept: accept})
		}
		people := []install.Person{}
		unknown := ""
		for _, name := range install.NamesIn(edit.Who) {
			n := slices.Index(known, name)
			switch {
			case n < 0:
				unknown = name
			case !slices.ContainsFunc(people, func(p install.Person) bool { return p.ID == team[n].ID }):
				people = append(people, team[n])
			}
		}
		switch {
		case unknown != "":
			says(w.Say("people of the company by name, with a comma between them: %s", strings.Join(known, ", ")))
		case len(people) < t.Crew:
			says(w.Say("%d people, as the step takes: with a comma between them", t.Crew))
		case !slices.Contains(terms.Apprentice, t.Kind) && !slices.ContainsFunc(people,
			func(p install.Person) bool { return p.Role != install.RoleApprentice && p.Role != install.RoleOffice }):
			says(w.Say("somebody with them who may say that it is done: no apprentice and not the office"))
		case t.Isolation:
			on := today
			if day, err := time.Parse(time.DateOnly, edit.Day); err == nil && day.After(today) {
				on = day
			}
			may := slices.DeleteFunc(teamOn(on), func(p install.Person) bool { return !p.Holds.Has(install.Isolating) })
			if !slices.ContainsFunc(may, func(p install.Person) bool {
				return slices.ContainsFunc(people, func(o install.Person) bool { return o.ID == p.ID })
			}) {
				held := make([]string, len(may))
				for n := range may {
					held[n] = may[n].Name
				}
				says(w.Say("somebody with them who is authorised to isolate on %s: %s", on.Format(time.DateOnly), cmp.Or(strings.Join(held, ", "),
					w.Say("nobody is"))))
			}
		}
	}
	if len(out) > 0 {
		return out
	}
	return nil
}

// mostHours is how many hours somebody can be planned for on one day.
const mostHours = 24

// dated holds the days of steps, where they are not as they were, to when the work starts, to each other, and to how long a day is.
func dated(job *install.Job, tasks []Task, was map[string]install.TaskEdit) install.Errors {
	w, out, at := job.Words, install.Errors{}, map[string]*Task{}
	for i := range tasks {
		at[tasks[i].ID] = &tasks[i]
	}
	changed := func(id string) bool { return job.Plan.Tasks[id].Day != was[id].Day }
	says := func(id, day, accept string) {
		out = append(out, install.FieldError{Field: "plan.tasks[" + id + "].day", Value: day, Accept: accept})
	}
	hours := map[[2]string]float64{}
	for i := range tasks {
		t := &tasks[i]
		day := job.Plan.Tasks[t.ID].Day
		if day == "" {
			continue
		}
		if start := job.Plan.StartDate; changed(t.ID) && start != "" && day < start {
			says(t.ID, day, w.Say("a day from %s on, when the work starts", start))
			continue
		}
		for _, id := range t.After {
			first := at[id]
			if first == nil || first.Done {
				continue
			}
			if before := job.Plan.Tasks[id].Day; before > day && (changed(t.ID) || changed(id)) {
				says(t.ID, day, w.Say("a day from %s on: first comes %s", before, first.Title))
				break
			}
		}
		if t.Done {
			continue
		}
		for _, name := range install.NamesIn(job.Plan.Tasks[t.ID].Who) {
			hours[[2]string{name, day}] += t.Hours
			if sum := hours[[2]string{name, day}]; sum > mostHours && (changed(t.ID) || job.Plan.Tasks[t.ID] != was[t.ID]) {
				says(t.ID, day, w.Say("a day with hours left for %s: %s hours are planned then", name, strconv.FormatFloat(sum, 'f', -1, 64)))
			}
		}
	}
	return out
}

// Planned is a step that has a day, or somebody who does it.
type Planned struct {
	Task  string        `json:"task"`
	Title string        `json:"title"`
	Stage install.Stage `json:"stage"`
	Who   []string      `json:"who"`
	On    string        `json:"on"` // empty while it has no day
	Hours float64       `json:"hours"`
	Crew  int           `json:"crew"`
	Done  bool          `json:"done"`
	Held  string        `json:"held"` // why it cannot be done now
}

// PlannedOf lists the steps that have a day or somebody who does them, in the order of the plan. What is done stays for its day.
func PlannedOf(job *install.Job, tasks []Task) []Planned {
	out := []Planned{}
	for i := range tasks {
		t := &tasks[i]
		edit := job.Plan.Tasks[t.ID]
		who := install.NamesIn(edit.Who)
		if edit.Day == "" && (len(who) == 0 || t.Done) {
			continue
		}
		out = append(out, Planned{Task: t.ID, Title: t.Title, Stage: t.Stage, Who: who, On: edit.Day, Hours: t.Hours, Crew: t.Crew, Done: t.Done,
			Held: gateOf(t)})
	}
	return append(out, visitsOf(job)...)
}

// visitsOf lists what was left as it is and is put right by somebody, or by a day: it brings the return visit.
func visitsOf(job *install.Job) (out []Planned) {
	for _, l := range proving.LooseEnds(job) {
		if l.Left == "" || l.Due == "" && l.Person == "" {
			continue
		}
		who := []string{}
		if l.Person != "" {
			who = append(who, l.Person)
		}
		out = append(out, Planned{Task: install.LeftKey(l.ID), Title: proving.Says(job, &l), Who: who, On: l.Due, Crew: 1,
			Held: job.Words.Say(string(install.LeftTriggerNames[l.Trigger]))})
	}
	return out
}

// gateOf is what closes a step to everybody, empty where that is a matter of who looks: an isolation of one's own is made on the day.
func gateOf(t *Task) string {
	if t.Done || t.Closed == t.held {
		return ""
	}
	return t.Closed
}
