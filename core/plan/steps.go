package plan

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/words"
	"arvelt/core/working"
)

// own is a step that only the practice asks for.
func own(job *install.Job, w *rulebook.Work) Task {
	var dead []string
	switch {
	case !w.Isolation:
	case w.At != "":
		dead = []string{isolate.EnclosurePlace(w.At)}
	case w.Circuit != "":
		dead = []string{isolate.CircuitPlace(w.Circuit)}
	default:
		dead = []string{isolate.BoardPlace(&job.Board)}
	}
	t := Task{Dead: dead, ID: w.ID, Circuit: w.Circuit, Stage: w.Stage, Title: w.Title, Who: w.Who, Others: w.Who, Caution: w.Caution,
		Hours: w.Hours, Crew: 1, After: w.After, Isolation: w.Isolation, alters: w.Isolation, Day: w.Day || w.At != "",
		stopped: w.Closed, Photo: w.Photo, Kind: kindOf(w.Isolation, w.Photo)}
	if w.Closed != "" {
		t.stoppedAt = &At{Sheet: working.CircuitsSheet, Circuit: w.Circuit}
	}
	if e := job.Chain.Enclosure(w.At); e != nil && e.Shut() {
		t.stopped = job.Words.Say("%s is sealed, or not ours to open: first the operator's disconnection, their unsealing or their word in writing, "+
			"with its reference and date.", e.Name)
		t.stoppedAt = &At{Sheet: working.SupplySheet, Leaf: working.ChainLeaf}
	}
	if w.Meter && !job.Supply.Meter.Noted() {
		t.lacks, t.stoppedAt = meterLacks(job.Words), &At{Sheet: working.SupplySheet}
	}
	return t
}

// meterLacks says what is noted before a meter counts as set.
func meterLacks(w *words.Catalogue) string {
	return w.Say("The Supply sheet does not say yet when the meter was set, its reading and its seal: note them there.")
}

// kindOf is the kind of a step that is known by what it does.
func kindOf(opens, photo bool) install.StepKind {
	switch {
	case opens:
		return install.ConnectingStep
	case photo:
		return install.PicturingStep
	}
	return ""
}

// runTasks are the steps of an outdoor run, each after the one before, with who
// does it. On a change of the service its day energises and sets the meter, once.
func runTasks(job *install.Job, r *install.Run, service bool) []Task {
	var out []Task
	w := job.Words
	after := []string{}
	for _, s := range outdoor.Steps(w, r, nil) {
		if service && s.Service { // the day of the outage has it
			continue
		}
		t := Task{ID: s.ID, Stage: s.Stage, Title: r.Name + ": " + s.Title + " (" + s.Who + ")", Crew: 1, Hours: s.Hours,
			After: after, Caution: w.Say("Must be found ready: %s.", s.Finds), act: s.Act, Outdoor: r.ID, lacks: s.Lacks,
			stoppedAt: &At{Sheet: working.SupplySheet, Leaf: working.OutdoorLeaf}}
		if s.Act == working.ToDig {
			t.Caution += w.Say(" Dig by hand near other services.")
		}
		t.Crew += b2i(s.Act == working.ToPull)
		t.Photo, t.Height, t.Weather = s.Photo, s.High, s.Weather
		if s.Meter && !job.Supply.Meter.Noted() {
			t.lacks, t.stoppedAt = meterLacks(w), &At{Sheet: working.SupplySheet}
		}
		if !s.Ours {
			t.Others, t.Finds = s.Who, s.Finds
		}
		switch {
		case s.Act == working.ToDig:
			t.Kind, t.Skills = install.DiggingStep, []install.Authority{install.Trenching}
		case s.Act != "":
			t.Kind = install.RunningStep
		default:
			t.Kind = kindOf(false, s.Photo)
		}
		out, after = append(out, t), []string{s.ID}
	}
	return out
}

// mends is the step in which a finding that was accepted is mended.
func mends(job *install.Job, f *survey.Work, list map[string]materials.Item) Task {
	t := Task{ID: f.Step, Finding: f.Title, Shared: f.Shares, Circuit: f.Circuit, Kind: kindOf(f.Dead, false), Stage: install.SecondFix, Crew: 1, Isolation: f.Dead,
		alters: f.Dead,
		Title:  strings.Join(slices.DeleteFunc([]string{f.Title, f.Where, f.Mend}, func(s string) bool { return s == "" }), ": "),
		Hours:  max(norms["finding"], list[f.Key].Hours)}
	switch {
	case !f.Dead:
	case f.Circuit != "":
		t.Dead = []string{isolate.CircuitPlace(f.Circuit)}
	case f.Room != "":
		t.Dead = []string{isolate.FoundPlace(f.Room)}
	default:
		t.Dead = []string{isolate.BoardPlace(&job.Board)}
	}
	return t
}
