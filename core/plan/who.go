package plan

import (
	"slices"
	"strings"

	"arvelt/core/install"
)

// Assigned holds who is named on steps of the plan, where that is not as it was: people of the team by name, as many of them as the step takes, and
// one of them such as the practice lets say that it is done. Who does a step of another trade is that trade's to say. The error is [install.Errors].
func Assigned(job *install.Job, terms *install.Terms, tasks []Task, was map[string]install.TaskEdit, team []install.Person) error {
	w, out := job.Words, install.Errors{}
	known := make([]string, len(team))
	for i := range team {
		known[i] = team[i].Name
	}
	for i := range tasks {
		t := &tasks[i]
		edit := job.Plan.Tasks[t.ID]
		if edit == was[t.ID] || strings.TrimSpace(edit.Who) == "" || t.Others != "" {
			continue
		}
		says := func(accept string) {
			out = append(out, install.FieldError{Field: "plan.tasks[" + t.ID + "].who", Value: edit.Who, Accept: accept})
		}
		people := []install.Person{}
		unknown := ""
		for name := range strings.SplitSeq(edit.Who, ",") {
			name = strings.TrimSpace(name)
			n := slices.Index(known, name)
			switch {
			case name == "":
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
		}
	}
	if len(out) > 0 {
		return out
	}
	return nil
}
