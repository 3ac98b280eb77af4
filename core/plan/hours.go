package plan

import (
	"cmp"
	"math"
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/rulebook"
)

// StepClock runs on a step: somebody started on it and has not stopped.
type StepClock struct {
	By     string    `json:"by"`
	Person string    `json:"person"` // their id
	Since  time.Time `json:"since"`
	// Lost: it has run longer than anybody works: it was never stopped, and its hours do not count until somebody notes them.
	Lost bool `json:"lost"`
}

// longestSpan is how long somebody works on a step without a stop; what ran longer was forgotten.
const longestSpan = 14 * time.Hour

// Overrun is how far above what is planned the hours of a step may be before that is said.
const Overrun = 1.25

// noted are the person-hours that were noted on each step, and the clocks that run or were lost.
type noted struct {
	worked map[string]float64
	clocks map[string][]StepClock
}

// of takes to a step what was noted on it.
func (n *noted) of(t *Task) {
	t.Worked, t.Clocks = unitHours(n.worked[t.ID]), listed(n.clocks[t.ID])
	t.Over = t.Others == "" && t.Hours > 0 && t.Worked > Overrun*t.Hours*float64(t.Crew)
}

// unitHours is a sum of hours to the hundredth, which is less than a minute.
func unitHours(h float64) float64 { return math.Round(h*100) / 100 }

// hoursNoted gathers the hours that people noted and those between start and stop. One clock runs for each person: a start elsewhere, the tick of the
// step or leaving the house stops it as well as a stop does.
func hoursNoted(job *install.Job, now time.Time) noted {
	n := noted{worked: map[string]float64{}, clocks: map[string][]StepClock{}}
	type running struct {
		step string
		StepClock
	}
	acts := []*install.Record{}
	for i := range job.Records {
		r := &job.Records[i]
		if r.Kind == install.Timed || r.Kind == install.DayEnd || r.Kind == install.Tick && r.Done {
			acts = append(acts, r)
		}
	}
	current := job.Current(install.Worked)
	for i := range current {
		if r := &current[i]; r.Value != nil {
			n.worked[r.Subject] += *r.Value
		}
	}
	if len(acts) == 0 {
		return n
	}
	// What waited for a connection comes late, and happened before.
	slices.SortStableFunc(acts, func(a, b *install.Record) int { return a.At.Compare(b.At) })
	on := map[string]*running{}
	end := func(who string, at time.Time) {
		c := on[who]
		if c == nil {
			return
		}
		delete(on, who)
		if c.Lost = at.Sub(c.Since) > longestSpan; !c.Lost {
			n.worked[c.step] += at.Sub(c.Since).Hours()
			return
		}
		if !slices.ContainsFunc(current, func(r install.Record) bool {
			return r.Subject == c.step && r.IsBy(install.Person{ID: who, Name: c.By}) && r.At.After(c.Since)
		}) {
			n.clocks[c.step] = append(n.clocks[c.step], c.StepClock)
		}
	}
	for _, r := range acts {
		who := r.PersonID
		switch {
		case r.Kind == install.Timed && !r.Done:
			if c := on[who]; c != nil && c.step == r.Subject {
				continue // started twice
			}
			end(who, r.At)
			on[who] = &running{r.Subject, StepClock{By: r.By, Person: who, Since: r.At}}
		case r.Kind == install.DayEnd, on[who] != nil && on[who].step == r.Subject:
			end(who, r.At)
		}
	}
	for who, c := range on {
		if now.Sub(c.Since) > longestSpan {
			end(who, now)
			continue
		}
		n.clocks[c.step] = append(n.clocks[c.step], c.StepClock)
	}
	for _, list := range n.clocks {
		slices.SortFunc(list, func(a, b StepClock) int { return cmp.Or(a.Since.Compare(b.Since), cmp.Compare(a.By, b.By)) })
	}
	return n
}

// Pace is how the work goes beside the hours of the plan, and when it is done if it goes on like that.
type Pace struct {
	Steps   int     `json:"steps"`   // that are done and have hours noted
	Planned float64 `json:"planned"` // person-hours of these
	Worked  float64 `json:"worked"`
	// Factor is how many hours the work takes for each that is planned: 1 until enough is noted.
	Factor float64 `json:"factor"`
	Enough bool    `json:"enough"`
	// Left are the person-hours of what is open, by that factor and less what was worked on it; People how many do it, and Ends the day on which they are
	// through; empty where nothing is left.
	Left   float64 `json:"left"`
	People int     `json:"people"`
	Ends   string  `json:"ends"`
	// Slips: every step that is open has a day, and the last of them is before that.
	Slips bool     `json:"slips"`
	Over  []string `json:"over"` // the steps, by id, that took more than a quarter above their hours
}

// enoughSteps is from how many steps on hours that were noted say something.
const enoughSteps = 3

// PaceOf says how the work on a job goes. people are those who are named on its plan, one where nobody is.
func PaceOf(job *install.Job, tasks []Task, now time.Time) Pace {
	p := Pace{Factor: 1, Over: []string{}}
	people, last, dated := map[string]bool{}, "", true
	left, begun := 0.0, 0.0
	for i := range tasks {
		t := &tasks[i]
		if t.Others != "" {
			continue
		}
		h := t.Hours * float64(t.Crew)
		if t.Over {
			p.Over = append(p.Over, t.ID)
		}
		switch {
		case !t.Done:
			left, begun = left+h, begun+min(t.Worked, h)
			for _, name := range install.NamesIn(t.Who) {
				people[name] = true
			}
			last, dated = max(last, t.On), dated && t.On != ""
		case t.Worked > 0:
			p.Steps, p.Planned, p.Worked = p.Steps+1, p.Planned+h, p.Worked+t.Worked
		}
	}
	if p.Enough = p.Steps >= enoughSteps && p.Planned > 0; p.Enough {
		p.Factor = unitHours(p.Worked / p.Planned)
	}
	p.Planned, p.Worked, p.People = unitHours(p.Planned), unitHours(p.Worked), max(1, len(people))
	if p.Left = unitHours(max(0, left*p.Factor-begun)); p.Left == 0 {
		return p
	}
	from := now
	if start, err := time.Parse(time.DateOnly, job.Plan.StartDate); err == nil && start.After(now) {
		from = start
	}
	p.Ends = Ends(job, from, p.Left, p.People).Format(time.DateOnly)
	p.Slips = dated && p.Ends > last
	return p
}

// Ends is the last working day of so many person-hours of some people, from a day on.
func Ends(job *install.Job, from time.Time, hours float64, people int) time.Time {
	days := max(1, int(math.Ceil(hours/(rulebook.WorkDay.FigureIn(&job.Schools)*float64(people)))))
	for d, n := from, 0; ; d = d.AddDate(0, 0, 1) {
		if rulebook.Works(&job.Schools, d.Weekday()) {
			if n++; n >= days {
				return d
			}
		}
	}
}

// Logged is what the steps that are done took by a norm, in person-hours.
type Logged struct {
	Norm    string  `json:"norm"`
	Each    float64 `json:"each"` // hours of the norm as it stood
	Steps   int     `json:"steps"`
	Planned float64 `json:"planned"`
	Worked  float64 `json:"worked"`
}

// LoggedOf gathers by norm what was noted on steps that are done. A step whose hours somebody replaced says nothing of its norm.
func LoggedOf(job *install.Job, tasks []Task, list map[string]materials.Item) []Logged {
	out := []Logged{}
	for i := range tasks {
		t := &tasks[i]
		if !t.Done || t.Worked == 0 || t.Norm == "" || t.Hours == 0 || job.Plan.Tasks[t.ID].Hours > 0 {
			continue
		}
		n := slices.IndexFunc(out, func(l Logged) bool { return l.Norm == t.Norm })
		if n < 0 {
			n, out = len(out), append(out, Logged{Norm: t.Norm, Each: hours(list, t.Norm)})
		}
		l := &out[n]
		l.Steps, l.Planned, l.Worked = l.Steps+1, unitHours(l.Planned+t.Hours*float64(t.Crew)), unitHours(l.Worked+t.Worked)
	}
	return out
}
