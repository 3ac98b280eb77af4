package plan

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// coreSteps are the steps of the holes of a room, each pilot before its core: the pilot shows where it comes out before anything larger is cut.
func coreSteps(job *install.Job, by *Practice, r *install.Room, list map[string]materials.Item, after string) (out []Task) {
	if by.Survey == nil {
		return nil
	}
	w := job.Words
	for i := range r.Cores {
		c := &r.Cores[i]
		cut := survey.CoreOf(job, r, c, by.Survey)
		id := CoreStep(r.ID, c.ID)
		high := rulebook.AtHeight(&job.Schools, max(c.UpMM, c.OutUpMM))
		pilot := Task{ID: id + "-pilot", Kind: install.DrillingStep, Stage: install.FirstFix, Crew: 1, Norm: "locate", Hours: hours(list, "locate"), Room: r.ID,
			Photo: true, After: []string{after}, Height: high, Skills: []install.Authority{install.Machines},
			Title:   w.Say("%s: pilot of the %s; picture where it comes out", r.Name, cut.Says),
			Caution: w.Say("Nobody stands where it comes out. A pilot that comes out elsewhere than was measured is no place to core.")}
		pilot.holdOn(job, &cut)
		core := Task{ID: id, Kind: install.DrillingStep, Stage: install.FirstFix, Crew: 1, Norm: "core", Hours: hours(list, "core"), Room: r.ID,
			After: []string{pilot.ID}, Height: high, Skills: []install.Authority{install.Machines},
			Title: w.Say("%s: %s; sleeve and seal", r.Name, cut.Says),
			Caution: w.Say("Eye, ear and dust protection; both hands on the drill, and a stance that holds when the bit jams. " +
				"What stops fire in the wall is made good round the sleeve.")}
		out = append(out, pilot, core)
	}
	return out
}

// CoreStep is the step that cores a hole.
func CoreStep(room, core string) string { return room + "-core-" + core }

// holdOn holds a step to how a hole stands.
func (t *Task) holdOn(job *install.Job, cut *survey.HoleStand) {
	if cut.Verdict == working.Pass {
		return
	}
	t.stopped = job.Words.Say("Its place does not hold: %s.", strings.Join(cut.Remarks, "; "))
	if cut.Verdict == working.Unknown {
		t.stopped = job.Words.Say("Not noted yet: %s.", strings.Join(cut.Remarks, "; "))
	}
	t.stoppedAt = &At{Sheet: working.SurveySheet, Leaf: working.WalkLeaf}
}

// timberHeld holds the boring of a room to what its timber takes.
func timberHeld(job *install.Job, book *rulebook.Book, r *install.Room, t *Task) {
	if book == nil {
		return
	}
	for i := range r.Timber {
		if cut := survey.TimberOf(job, *book, &r.Timber[i]); cut.Verdict != working.Pass {
			cut.Remarks = append([]string{cut.Says}, cut.Remarks...)
			t.holdOn(job, &cut)
			return
		}
	}
}

// throughCores lets a cable be run only after the hole that it goes through.
func throughCores(job *install.Job, tasks []Task) {
	for i := range job.Rooms {
		r := &job.Rooms[i]
		for n := range r.Cores {
			at := slices.IndexFunc(tasks, func(t Task) bool { return r.Cores[n].Circuit != "" && t.ID == r.Cores[n].Circuit+"-cable" })
			if at >= 0 {
				tasks[at].After = append(tasks[at].After, CoreStep(r.ID, r.Cores[n].ID))
			}
		}
	}
}
