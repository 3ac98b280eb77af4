package plan

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
)

// The steps of the day on which the supply goes off, as the table of its hours names them.
const (
	StepIsolate, StepStrip, StepFit, StepJoint = "isolate", "strip", "fit", "joint"
	StepDead, StepEnergise, StepLive           = "dead-tests", "energise", "live-tests"
	StepLabel, StepCircuit, StepOther          = "label", "circuit", "other"
)

const outagePrefix = "outage-"

// energiseTask is the step of the day of the outage in which the supply is put on.
const energiseTask = outagePrefix + StepEnergise

// withOutage frames the work at the board by the steps of the day on which the supply
// goes off: isolate, strip out, each enclosure that the chain gets with what the practice
// asks for in it, the circuits at the board, then dead tests, what others do before the
// supply is back, energising and live tests. A job has them when it changes the supply or
// has a day for it; without, the practice's own steps stand behind the others.
func withOutage(job *install.Job, by *Practice, tasks []Task, list map[string]materials.Item) []Task {
	if job.Kind != install.SupplyUpgrade && job.Outage.Day == "" || job.Kind == install.SupplyUpgrade && len(job.Chain.Enclosures) == 0 {
		for i := range by.Own {
			tasks = append(tasks, own(job, &by.Own[i]))
		}
		return tasks
	}
	o := outageDay{job: job, by: by, list: list}
	o.shut()
	o.mount()
	o.circuits(tasks)
	o.steps()
	return o.inOrder()
}

// outageDay puts together the day on which the supply is off: what is done before it, what
// on it and in which order, and what comes after.
type outageDay struct {
	job  *install.Job
	by   *Practice
	list map[string]materials.Item

	before, day, under, others []Task
	// last is the step behind which work may begin; fitted are those that the dead tests follow.
	last   string
	fitted []string
}

func (o *outageDay) step(kind, of, title, caution string, after ...string) Task {
	reach := []string{isolate.BoardPlace(&o.job.Board)}
	for i := range o.job.Chain.Enclosures {
		if e := &o.job.Chain.Enclosures[i]; e.New {
			reach = append(reach, isolate.EnclosurePlace(e.ID))
		}
	}
	return Task{ID: outagePrefix + kind + of, reach: reach, Kind: install.ConnectingStep, Stage: install.SecondFix, Title: title, Crew: 1,
		Norm: outagePrefix + kind, Hours: hours(o.list, outagePrefix+kind), After: after, Isolation: true, Caution: caution,
		StaysLive: o.job.Words.Say(string(incomingLive)), Step: kind, Day: true}
}

// shut isolates, and strips out what goes.
func (o *outageDay) shut() {
	w := o.job.Words
	first := o.step(StepIsolate, "", w.Say("Isolate by the agreed way, lock, tag and prove dead"),
		w.Say("Planned work sheds load first: ways, then residual devices, then the main switch. "+
			"Prove the tester, prove dead, prove the tester again."))
	o.day, o.last = []Task{first}, first.ID
	if o.job.Kind == install.SupplyUpgrade {
		strip := o.step(StepStrip, "", w.Say("Strip out what goes; save useful lengths"),
			w.Say("Every conductor is proved dead before it is cut. Suspected asbestos is not disturbed."), o.last)
		strip.alters, strip.Dead = true, []string{isolate.BoardPlace(&o.job.Board)}
		o.day, o.last = append(o.day, strip), strip.ID
	}
	o.fitted = []string{o.last}
}

// mount fits the new enclosures from the intake on, each with the joints made in it.
func (o *outageDay) mount() {
	w := o.job.Words
	for _, e := range o.job.Chain.Order() {
		after := o.last
		if e.New {
			title := w.Say("Fit and terminate: ")
			if slices.ContainsFunc(o.by.Own, func(w rulebook.Work) bool { return w.At == e.ID }) {
				title = w.Say("Mount and bring the conductors in: ") // its terminating is a step of its own
			}
			fit := o.step(StepFit, ":"+e.ID, title+e.Name,
				w.Say("Line side by its marking; torque by the manufacturer's instruction, once, with the tool."), o.last)
			fit.alters, fit.Dead = true, []string{isolate.EnclosurePlace(e.ID)}
			fit.Skills = []install.Authority{install.Terminating}
			o.day, o.fitted, after = append(o.day, fit), append(o.fitted, fit.ID), fit.ID
		}
		for i := range o.by.Own {
			if w := &o.by.Own[i]; w.At == e.ID {
				t := own(o.job, w)
				t.After, t.Step, t.Skills = append(slices.Clone(t.After), after), StepJoint, []install.Authority{install.Terminating}
				o.day, o.fitted, after = append(o.day, t), append(o.fitted, t.ID), t.ID
			}
		}
	}
}

// circuits puts the tasks of the circuits before the day or under it, behind what stands
// ahead of them at the board.
func (o *outageDay) circuits(tasks []Task) {
	chain := slices.Clone(o.fitted)
	for _, t := range tasks {
		switch {
		case t.Stage != install.SecondFix:
			o.before = append(o.before, t)
		case t.Day:
			if len(t.After) == 0 || t.Isolation {
				t.After = append(slices.Clone(t.After), chain...)
			}
			o.under, o.fitted = append(o.under, t), append(o.fitted, t.ID)
		default:
			o.before, o.fitted = append(o.before, t), append(o.fitted, t.ID)
		}
	}
}

// steps puts the practice's own steps where they belong.
func (o *outageDay) steps() {
	for i := range o.by.Own {
		w := &o.by.Own[i]
		t := own(o.job, w)
		switch {
		case w.At != "":
		case w.Day, w.Stage == install.Handover:
			o.others = append(o.others, t)
		case w.Stage == install.SecondFix && w.Isolation: // a bond, made while the supply is off
			t.Day, t.After = true, append(slices.Clone(t.After), o.last)
			o.under, o.fitted = append(o.under, t), append(o.fitted, t.ID)
		default:
			o.before = append(o.before, t)
			if w.Stage == install.SecondFix {
				o.fitted = append(o.fitted, t.ID)
			}
		}
	}
}

// inOrder ends the day: dead tests of all that was touched, what must come before the supply
// is on again, energising, live tests, and what follows.
func (o *outageDay) inOrder() []Task {
	w := o.job.Words
	dead := o.step(StepDead, "", w.Say("Dead tests of everything that was touched"), w.Say("With loads disconnected."), o.fitted...)
	dead.Skills = []install.Authority{install.Testing}
	on := o.step(StepEnergise, "", w.Say("Energise step by step: incoming, main switch, residual devices, each way"),
		w.Say("Covers on, everybody told; each step proved before the next."), dead.ID)
	on.Isolation = false
	live := o.step(StepLive, "", w.Say("Live tests: polarity, loop impedance, devices"),
		w.Say("Live: two-handed probes, covers on where they can be."), on.ID)
	live.Isolation, live.Skills = false, []install.Authority{install.Testing}
	out := append(append(append(o.before, o.day...), o.under...), dead)
	behind := func(t Task, step Task) Task {
		if len(t.After) == 0 {
			t.After = []string{step.ID}
		}
		return t
	}
	for _, t := range o.others {
		if t.Day { // inspection, release, reconnection: before the supply is on
			on.After = append(on.After, t.ID)
			out = append(out, behind(t, dead))
		}
	}
	out = append(out, on, live)
	for _, t := range o.others {
		if !t.Day {
			out = append(out, behind(t, live))
		}
	}
	return out
}
