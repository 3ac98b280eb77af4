package plan

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/proving"
	"arvelt/core/words"
)

// Team are the people of a company as a plan knows them.
type Team struct {
	// On are they with what they hold on a job on a day.
	On func(day time.Time) []install.Person
	// Kept are the skills that the company keeps record of: somebody has, or had, each.
	Kept install.Authorities
	// Outlook is what the company knows of days to come.
	Outlook Outlook
}

// asks reports whether something is asked of a crew that takes it: a skill is once the company keeps record of it.
func (t *Team) asks(needs install.Authority) bool {
	return !slices.Contains(install.Skills, needs) || t.Kept.Has(needs)
}

// Asked is what one of the crew of a step has to hold, each.
func (t *Team) Asked(step *Task) []install.Authority {
	out := []install.Authority{}
	if step.Isolation {
		out = append(out, install.Isolating)
	}
	for _, one := range step.Skills {
		if t.asks(one) {
			out = append(out, one)
		}
	}
	return out
}

// Assigned holds who is named on steps of the plan, where that is not as it was: people of the team by name, as many of them as the step takes, one
// of them such as the practice lets say that it is done, and one with each skill that it takes. Who does a step of another trade is that trade's to
// say. What is said of these others is held to what can be. before is the plan as it was. The error is [install.Errors].
func Assigned(job *install.Job, terms *install.Terms, tasks []Task, before *install.Plan, team Team, today time.Time) error {
	was := before.Tasks
	out := append(dated(job, tasks, was), tradeSpoken(job, before.Trades, today)...)
	known := team.On(today)
	for i := range tasks {
		t := &tasks[i]
		edit := job.Plan.Tasks[t.ID] // as it is to be
		if edit == was[t.ID] || t.Others != "" {
			continue
		}
		a := assigning{w: job.Words, t: t, edit: edit, terms: terms, team: team, on: today}
		if day, err := time.Parse(time.DateOnly, edit.Day); err == nil && day.After(today) {
			a.on = day
		}
		if t.Height && edit.Crew == 1 {
			a.says("crew", "1", a.w.Say("2 people or more: it is work at height, one works and one stands by"))
		}
		a.named(known)
		a.standsBy(known)
		a.away()
		out = append(out, a.out...)
	}
	if len(out) > 0 {
		return out
	}
	return nil
}

// assigning is the judging of who is named on one step.
type assigning struct {
	w      *words.Catalogue
	t      *Task
	edit   install.TaskEdit
	terms  *install.Terms
	team   Team
	on     time.Time // the day on which it is done, today where it has none
	people []install.Person
	out    install.Errors
}

func (a *assigning) says(field, value, accept string) {
	a.out = append(a.out, install.FieldError{Field: "plan.tasks[" + a.t.ID + "]." + field, Value: value, Accept: accept})
}

// named judges the crew of the step.
func (a *assigning) named(known []install.Person) {
	if strings.TrimSpace(a.edit.Who) == "" {
		return
	}
	w, t := a.w, a.t
	unknown := ""
	for _, name := range install.NamesIn(a.edit.Who) {
		n := called(known, name)
		switch {
		case n < 0:
			unknown = name
		case called(a.people, name) < 0:
			a.people = append(a.people, known[n])
		}
	}
	wrong := ""
	switch {
	case unknown != "":
		wrong = w.Say("people of the company by name, with a comma between them: %s", namesOf(known))
	case len(a.people) < t.Crew:
		wrong = w.Say("%d people, as the step takes: with a comma between them", t.Crew)
	case !slices.Contains(a.terms.Apprentice, t.Kind) && !slices.ContainsFunc(a.people,
		func(p install.Person) bool { return p.Role != install.RoleApprentice && p.Role != install.RoleOffice }):
		wrong = w.Say("somebody with them who may say that it is done: no apprentice and not the office")
	default:
		wrong = a.unskilled()
	}
	if wrong != "" {
		a.says("who", a.edit.Who, wrong)
	}
}

// away refuses a day on which somebody of the crew is away, or the company is closed.
func (a *assigning) away() {
	day := a.edit.Day
	if day == "" || a.t.Done {
		return
	}
	if off := a.team.Outlook.Off("", day); off != nil {
		a.says("day", day, a.w.Say("another day: %s", off.Says(a.w, "")))
		return
	}
	for i := range a.people {
		if off := a.team.Outlook.Off(a.people[i].ID, day); off != nil {
			a.says("day", day, a.w.Say("another day, or somebody else: %s", off.Says(a.w, a.people[i].Name)))
			return
		}
	}
}

// called is which of some people has a name, -1 for none.
func called(people []install.Person, name string) int {
	return slices.IndexFunc(people, func(p install.Person) bool { return p.Name == name })
}

func namesOf(people []install.Person) string {
	names := make([]string, len(people))
	for i := range people {
		names[i] = people[i].Name
	}
	return strings.Join(names, ", ")
}

// able are those of the team who hold something on the day of the step.
func (a *assigning) able(needs install.Authority) []install.Person {
	return slices.DeleteFunc(a.team.On(a.on), func(p install.Person) bool { return !p.Holds.Has(needs) })
}

// unskilled says what the crew cannot do of what the step takes; empty for nothing.
func (a *assigning) unskilled() string {
	w, day := a.w, a.on.Format(time.DateOnly)
	for _, one := range a.team.Asked(a.t) {
		may := a.able(one)
		if slices.ContainsFunc(may, func(p install.Person) bool { return called(a.people, p.Name) >= 0 }) {
			continue
		}
		held := cmp.Or(namesOf(may), w.Say("nobody is"))
		if one == install.Isolating {
			return w.Say("somebody with them who is authorised to isolate on %s: %s", day, held)
		}
		return w.Say("somebody with them who is recorded on %s for “%s”: %s", day, w.Say(string(install.AuthorityNames[one])), held)
	}
	return ""
}

// standsBy judges who stands by where the step is work at height.
func (a *assigning) standsBy(known []install.Person) {
	by := strings.TrimSpace(a.edit.StandBy)
	if by == "" {
		return
	}
	w := a.w
	others := slices.DeleteFunc(a.able(install.Climbing), func(p install.Person) bool {
		return p.Name == by || len(a.people) > 0 && called(a.people, p.Name) < 0
	})
	switch {
	case called(known, by) < 0:
		a.says("standBy", by, w.Say("one of the people of the company: %s", namesOf(known)))
	case len(a.people) > 0 && called(a.people, by) < 0:
		a.says("standBy", by, w.Say("one of those who do the step: %s", namesOf(a.people)))
	case a.team.asks(install.Climbing) && len(others) == 0:
		a.says("standBy", by, w.Say("somebody else: whoever stands by does not climb, and nobody else of them is recorded for work at height"))
	}
}

// mostHours is how many hours somebody can be planned for on one day.
const mostHours = 24

// dating is the judging of the days of steps.
type dating struct {
	job *install.Job
	was map[string]install.TaskEdit
	out install.Errors
}

func (d *dating) says(id, day, accept string) {
	d.out = append(d.out, install.FieldError{Field: "plan.tasks[" + id + "].day", Value: day, Accept: accept})
}

// changed reports whether the day of a step is not as it was.
func (d *dating) changed(id string) bool { return d.job.Plan.Tasks[id].Day != d.was[id].Day }

// dated holds the days of steps, where they are not as they were, to when the work starts, to each other, to what others promised, and to how long a
// day is.
func dated(job *install.Job, tasks []Task, was map[string]install.TaskEdit) install.Errors {
	w, d, at := job.Words, dating{job: job, was: was, out: install.Errors{}}, map[string]*Task{}
	for i := range tasks {
		at[tasks[i].ID] = &tasks[i]
	}
	hours := map[[2]string]float64{}
	for i := range tasks {
		t := &tasks[i]
		day := job.Plan.Tasks[t.ID].Day
		if day == "" {
			continue
		}
		if start := job.Plan.StartDate; d.changed(t.ID) && start != "" && day < start {
			d.says(t.ID, day, w.Say("a day from %s on, when the work starts", start))
			continue
		}
		if d.changed(t.ID) && !t.Done && d.promised(t, day) {
			continue
		}
		for _, id := range t.After {
			first := at[id]
			if first == nil || first.Done {
				continue
			}
			if before := job.Plan.Tasks[id].Day; before > day && (d.changed(t.ID) || d.changed(id)) {
				d.says(t.ID, day, w.Say("a day from %s on: first comes %s", before, first.Title))
				break
			}
		}
		if t.Done {
			continue
		}
		for _, name := range install.NamesIn(job.Plan.Tasks[t.ID].Who) {
			hours[[2]string{name, day}] += t.Hours
			if sum := hours[[2]string{name, day}]; sum > mostHours && (d.changed(t.ID) || job.Plan.Tasks[t.ID] != was[t.ID]) {
				d.says(t.ID, day, w.Say("a day with hours left for %s: %s hours are planned then", name, strconv.FormatFloat(sum, 'f', -1, 64)))
			}
		}
	}
	return d.out
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
	// Outdoors is what of the weather holds it, Weather what of it does on its day; the second is told as it is read.
	Outdoors outdoor.Weathered `json:"outdoors"`
	Weather  string            `json:"weather"`
	Held     string            `json:"held"` // why it cannot be done now
}

// PlannedOf lists the steps that have a day or somebody who does them, in the order of the plan. What is done stays for its day.
func PlannedOf(job *install.Job, tasks []Task, batons []Baton) []Planned {
	out := []Planned{}
	for i := range tasks {
		t := &tasks[i]
		edit := job.Plan.Tasks[t.ID]
		who := install.NamesIn(edit.Who)
		if edit.Day == "" && (len(who) == 0 || t.Done) {
			continue
		}
		out = append(out, Planned{Task: t.ID, Title: t.Title, Stage: t.Stage, Who: who, On: edit.Day, Hours: t.Hours, Crew: t.Crew, Done: t.Done,
			Held: gateOf(t), Outdoors: t.Weather})
	}
	return append(append(append(out, tradesPlanned(job, tasks)...), batonsPlanned(job, batons)...), visitsOf(job)...)
}

// visitsOf lists what was left as it is and is put right by somebody, or by a day: it brings the return visit.
func visitsOf(job *install.Job) (out []Planned) {
	for _, l := range proving.LooseEnds(job) {
		if l.Left == "" || l.Due == "" && l.Person == "" && job.Plan.Came(l.Trigger, l.Room) == "" {
			continue
		}
		who := []string{}
		if l.Person != "" {
			who = append(who, l.Person)
		}
		p := Planned{Task: install.LeftKey(l.ID), Title: proving.Says(job, &l), Stage: install.SecondFix, Who: who, On: l.Due, Crew: 1,
			Held: job.Words.Say(string(install.LeftTriggerNames[l.Trigger]))}
		if came := job.Plan.Came(l.Trigger, l.Room); came != "" {
			p.Held = ""
			p.Title = job.Words.Say("Come back: %s. What it waited for is done since %s.", p.Title, came)
		}
		out = append(out, p)
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

// HeldOn is what holds a step on a day to come though all that comes before it is done by then: what is short, what is not agreed or not as it has to be.
// Empty where nothing does.
func HeldOn(t *Task, before map[string]bool) string {
	if slices.ContainsFunc(t.After, func(id string) bool { return !before[id] }) || t.stays {
		return gateOf(t)
	}
	return ""
}
