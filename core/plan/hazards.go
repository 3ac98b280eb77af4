package plan

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/words"
	"arvelt/core/working"
)

// warned tells the first step of first fix of the circuits that leave and are not yet parted where nobody knows which way they take.
func warned(w *words.Catalogue, hazards []install.Hazard, tasks []Task) []Task {
	names := []string{}
	for _, h := range hazards {
		names = append(names, h.Place)
	}
	first := func(of func(*Task) bool) int {
		return slices.IndexFunc(tasks, func(t Task) bool { return t.Stage == install.FirstFix && of(&t) })
	}
	i := first(func(t *Task) bool { return t.Room != "" && t.Kind == install.DrillingStep }) // where the wall is entered
	if i < 0 {
		i = first(func(*Task) bool { return true })
	}
	if i >= 0 && len(names) > 0 {
		tasks[i].Caution = strings.TrimSpace(tasks[i].Caution + " " +
			w.Say("Not yet proved dead, and nobody knows where its cable runs: %s. It may be live wherever it lies.", strings.Join(names, ", ")))
	}
	return tasks
}

// meets tells the tasks of a place of the hazards there: first fix stops at one that must
// be cleared and is warned of the others.
func meets(w *words.Catalogue, hazards []install.Hazard, tasks []Task) []Task {
	for i := range tasks {
		t := &tasks[i]
		for _, h := range hazards {
			if kind := install.HazardKinds[h.Kind]; t.Stage == install.FirstFix || t.Stage == install.SecondFix && kind.Touched {
				t.meet(w, &h, kind)
			}
		}
	}
	return tasks
}

// meet tells a step of a hazard, and stops it where the hazard does.
func (t *Task) meet(w *words.Catalogue, h *install.Hazard, kind install.HazardKind) {
	says := w.Say("Hazard not cleared: %s, %s. %s", h.Kind, h.Place, w.Say(string(kind.Asks)))
	if h.Kind == install.OtherHazard && h.Note != "" {
		says = w.Say("Hazard not cleared: %s. %s", h.Place, h.Note)
	}
	if kind.Stops && t.stopped == "" {
		t.stopped, t.stoppedAt = says, &At{Sheet: working.SurveySheet, Leaf: working.ExistingLeaf}
	} else {
		t.Caution = strings.TrimSpace(t.Caution + " " + says)
	}
}

// passes stops what is marked, drilled and run of a circuit where its way leads through a room with a hazard that nobody may touch.
func passes(w *words.Catalogue, job *install.Job, k *install.Circuit, tasks []Task) []Task {
	if len(job.Found.Hazards) == 0 {
		return tasks
	}
	seen := map[string]bool{}
	for n := range k.Serves.Boxes {
		for r := job.RoomByID(k.Serves.Boxes[n].Room); r != nil && !seen[r.ID]; r = job.RoomByID(r.From) {
			seen[r.ID] = true
			for _, h := range job.Found.HazardsAt(r) {
				kind := install.HazardKinds[h.Kind]
				if !kind.Touched || h.Room == "" && h.Floor == "" {
					continue // what may be anywhere is told of all
				}
				for i := range tasks {
					if t := &tasks[i]; t.Kind == install.DrillingStep || t.Kind == install.RunningStep || t.Kind == install.MarkingStep {
						t.meet(w, &h, kind)
					}
				}
			}
		}
	}
	return tasks
}
