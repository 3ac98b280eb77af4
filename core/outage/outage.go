// Package outage plans the day on which the supply goes off: hour by hour from
// isolation to the last proved circuit, what must be ready before the cut, the
// point after which going back takes longer than going on, and, on the day, how
// fact stands to plan and what to drop first.
package outage

import (
	"cmp"
	"embed"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/unit"
)

//go:embed data/*.csv
var dataFiles embed.FS

var (
	stepTable    = table.LoadOf[stepRow](dataFiles, "steps")
	weatherTable = table.LoadOf[weatherRow](dataFiles, "weather")
)

// Step is one task of the day with its place in it. Hours are after the start.
type Step struct {
	ID      string     `json:"id"`
	Title   string     `json:"title"`
	From    float64    `json:"from"`
	To      float64    `json:"to"`
	Clock   string     `json:"clock"` // "08:00 – 08:30"
	Crew    int        `json:"crew"`
	Hours   float64    `json:"hours"`
	Dark    bool       `json:"dark"` // the house has no supply while it is done
	Drop    bool       `json:"drop"` // may wait for another day
	Caution string     `json:"caution"`
	Done    bool       `json:"done"`
	DoneAt  *time.Time `json:"doneAt"`
	LateH   *float64   `json:"lateH"` // how much later than planned it was done
	BackH   float64    `json:"backH"` // hours to undo everything up to its end
	OnH     float64    `json:"onH"`   // hours from its end to the supply's return

	kind string
}

// Cause is one thing that the date waits for.
type Cause struct {
	What    string `json:"what"`
	Date    string `json:"date"` // 2006-01-02; empty when not yet known
	Summary string `json:"summary"`
	Holds   bool   `json:"holds"` // the latest of all: the earliest day is its
}

// Running is how the day goes while it goes.
type Running struct {
	Now     string   `json:"now"`
	LateH   float64  `json:"lateH"` // behind the plan; negative when ahead
	Next    string   `json:"next"`
	BackOn  string   `json:"backOn"` // when the supply is back at this pace
	Summary string   `json:"summary"`
	Drop    []string `json:"drop"` // what to drop, first first
	Beyond  bool     `json:"beyond"`
	Started bool     `json:"started"`
}

// Plan is the plan of the outage.
type Plan struct {
	Steps    []Step  `json:"steps"`
	Day      string  `json:"day"`
	Start    string  `json:"start"`
	OffAt    string  `json:"offAt"`
	OnAt     string  `json:"onAt"`
	DarkH    float64 `json:"darkH"`
	EndAt    string  `json:"endAt"`
	NoReturn string  `json:"noReturn"` // id of the step after which one goes on
	Turn     string  `json:"turn"`     // the same in words
	Earliest string  `json:"earliest"`
	Why      string  `json:"why"`
	Causes   []Cause `json:"causes"`
	Checks   []Item  `json:"checks"`
	Ready    bool    `json:"ready"`
	// Off says since when the supply is off by the records, and what was not ready then; empty while it is on.
	Off     string   `json:"off"`
	Sunrise string   `json:"sunrise"`
	Sunset  string   `json:"sunset"`
	Sun     string   `json:"sun"`
	Late    bool     `json:"late"` // work is forecast past dark
	Weather []string `json:"weather"`
	Running *Running `json:"running"`
}

// Input is what the plan is made of.
type Input struct {
	Job    *install.Job
	Tasks  []plan.Task
	Take   materials.TakeOff
	Routes []rulebook.IsolationRoute
	Chain  *rulebook.ChainReport
	Terms  install.Terms // for the unit of lengths
	Now    time.Time
	// Off is the isolation in force that opened the intake, nil for none.
	Off *install.Record
}

const dayStartH = 8.0

// Of plans the outage. It is empty for a job in which nothing is isolated.
func Of(in Input) Plan {
	p := Plan{Steps: []Step{}, Causes: []Cause{}, Checks: []Item{}, Weather: []string{}}
	crew := max(1, in.Job.Outage.Crew)
	start := dayStartH
	if h, ok := install.ClockH(in.Job.Outage.Start); ok && in.Job.Outage.Start != "" {
		start = h
	}
	p.schedule(in, crew, start)
	p.joints(in)
	p.Day, p.Start = in.Job.Outage.Day, install.Clock(start)
	p.causes(in)
	p.light(in, start)
	p.checklist(in, crew)
	p.off(in)
	p.run(in, start)
	return p
}

// joints writes what the chain says goes in or comes out into the step at that
// enclosure, or into the strip-out.
func (p *Plan) joints(in Input) {
	w := in.Job.Words
	if in.Chain == nil {
		return
	}
	for _, j := range in.Chain.Jumpers {
		name := j.At
		if e := in.Job.Chain.Enclosure(j.At); e != nil {
			name = e.Name
		}
		for _, id := range []string{"outage-fit:" + j.At, "outage-strip", "outage-isolate"} {
			if i := slices.IndexFunc(p.Steps, func(s Step) bool { return s.ID == id }); i >= 0 {
				does := w.Say("Put in the %s at %s.", j.Name, name)
				if j.Action == rulebook.TakeOut {
					does = w.Say("Take out the %s at %s.", j.Name, name)
				}
				p.Steps[i].Caution += " " + does
				break
			}
		}
	}
}

// rowOf is the row of a task in the table of steps.
func rowOf(t *plan.Task) int {
	if r := stepTable.Find(func(row *stepRow) bool { return row.Step == t.Step }); r >= 0 {
		return r
	}
	return stepTable.Find(func(row *stepRow) bool { return row.Step == plan.StepOther })
}

// schedule places the tasks of the day: each as early as its forerunners and
// the crew allow, in the order of the plan.
func (p *Plan) schedule(in Input, crew int, start float64) {
	w := in.Job.Words
	ends := map[string]float64{}
	busy := make([]float64, crew) // when each person is free
	day := map[string]bool{}
	for _, t := range in.Tasks {
		day[t.ID] = t.Day
	}
	last := 0.0
	for _, t := range in.Tasks {
		if !day[t.ID] {
			continue
		}
		slices.Sort(busy)
		heads := min(max(1, t.Crew), crew)
		from := busy[heads-1]
		for _, first := range t.After {
			from = math.Max(from, ends[first])
		}
		gate := slices.Contains([]string{plan.StepIsolate, plan.StepDead, plan.StepEnergise, plan.StepLive}, t.Step)
		if gate { // everybody waits: nothing goes on beside it
			from = math.Max(from, last)
		}
		to := from + t.Hours
		ends[t.ID] = to
		last = math.Max(last, to)
		for i := range heads {
			busy[i] = to
		}
		if gate {
			for i := range busy {
				busy[i] = to
			}
		}
		r := rowOf(&t)
		p.Steps = append(p.Steps, Step{kind: t.Step, ID: t.ID, Title: t.Title, From: from, To: to,
			Clock: install.Clock(start+from) + " – " + install.Clock(start+to), Crew: heads, Hours: t.Hours,
			Drop: stepTable.Row(r).Drop, Caution: t.Caution, Done: t.Done, DoneAt: t.DoneAt,
			BackH: t.Hours * stepTable.Row(r).Back})
	}
	if len(p.Steps) == 0 {
		return
	}
	off, on := 0.0, 0.0
	for i := range p.Steps {
		switch p.Steps[i].kind {
		case plan.StepIsolate:
			off = p.Steps[i].From
		case plan.StepEnergise:
			on = p.Steps[i].To
		}
	}
	if on == 0 {
		on = last
	}
	slices.SortStableFunc(p.Steps, func(a, b Step) int { return cmp.Compare(a.From, b.From) })
	back := 0.0
	for i := range p.Steps {
		s := &p.Steps[i]
		s.Dark = s.From >= off && s.To <= on
		back += s.BackH
		s.BackH, s.OnH = back, math.Max(0, on-s.To)
		if s.Dark && s.BackH > s.OnH && p.NoReturn == "" && s.OnH > 0 {
			p.NoReturn = s.ID
			p.Turn = w.Say("After “%s” (%s) going back takes %s h, going on %s h: from there one goes on.", s.Title,
				install.Clock(start+s.To), unit.Format(round(s.BackH)), unit.Format(round(s.OnH)))
		}
	}
	for i := range p.Steps {
		p.Steps[i].BackH, p.Steps[i].OnH = quarter(p.Steps[i].BackH), quarter(p.Steps[i].OnH)
	}
	p.OffAt, p.OnAt, p.EndAt = install.Clock(start+off), install.Clock(start+on), install.Clock(start+last)
	p.DarkH = round(on - off)
}

func round(h float64) float64 { return math.Round(h*100) / 100 }

// quarter is to the quarter of an hour in which the plan counts.
func quarter(h float64) float64 { return math.Round(h*4) / 4 }

// causes finds the earliest day and what it waits for: the lawful isolation,
// every part that is short, the inspector.
func (p *Plan) causes(in Input) {
	w := in.Job.Words
	job := in.Job
	add := func(what, date, says string) {
		p.Causes = append(p.Causes, Cause{What: what, Date: date, Summary: says})
	}
	chosen := slices.IndexFunc(in.Routes, func(r rulebook.IsolationRoute) bool { return r.Chosen })
	switch {
	case chosen < 0:
		add("isolation", "", w.Say("no way to isolate is chosen"))
	case !in.Routes[chosen].Offered:
		add("isolation", "", in.Routes[chosen].Why)
	default:
		add("isolation", in.Routes[chosen].Earliest, in.Routes[chosen].Title+", "+in.Routes[chosen].LeadSays)
	}
	for _, l := range in.Take.Lines {
		if l.Short <= 0 {
			continue
		}
		short := w.Say("%s %s of %s still to come", unit.Format(l.Short), l.Unit, l.Name)
		add(l.Name, l.By(), short)
	}
	if n := job.Outage.Inspector.Needed; n != nil && *n {
		who := job.Outage.Inspector.Who
		if who == "" {
			who = w.Say("the inspector")
		}
		add("inspector", job.Outage.Inspector.On, w.Say("%s comes", who))
	}
	latest := in.Now.Format(time.DateOnly)
	unknown := []string{}
	at := -1
	for i, c := range p.Causes {
		if c.Date == "" {
			unknown = append(unknown, c.What)
		} else if c.Date > latest {
			latest, at = c.Date, i
		}
	}
	p.Earliest = latest
	if len(in.Take.Lines) == 0 {
		unknown = append(unknown, w.Say("the parts, as there is no take-off yet"))
	}
	p.Why = ""
	if len(unknown) == 0 {
		p.Why = w.Say("Nothing holds it: the parts are there and the isolation is possible at once.")
	}
	if at >= 0 {
		p.Causes[at].Holds = true
		p.Why = w.Say("Not before %s: %s.", latest, p.Causes[at].Summary)
	}
	if len(unknown) > 0 {
		more := ""
		if len(unknown) > 3 {
			more = " " + w.Say("and %d more", len(unknown)-3)
			unknown = unknown[:3]
		}
		known := w.Say("No date yet for %s.", strings.Join(unknown, ", ")+more)
		if at >= 0 {
			known = w.Say("%s No date yet for %s: it may be later.", p.Why, strings.Join(unknown, ", ")+more)
		}
		p.Why = known
	}
}

// light compares the day with the sun and the forecast with what the work bears.
func (p *Plan) light(in Input, start float64) {
	w := in.Job.Words
	o := &in.Job.Outage
	day, err := time.ParseInLocation(time.DateOnly, o.Day, in.Now.Location())
	if err == nil && o.Latitude != nil && o.Longitude != nil {
		there, clock := clockAt(w, *o.Longitude, day)
		if rise, set, ok := Sun(*o.Latitude, *o.Longitude, there); ok {
			p.Sunrise, p.Sunset = install.Clock(rise), install.Clock(set)
			on := 0.0
			for _, s := range p.Steps {
				on = math.Max(on, s.To)
			}
			switch end := start + on; {
			case end > set:
				p.Late = true
				p.Sun = w.Say("The work ends at %s, after sunset at %s: light for the intake, or an earlier start.",
					install.Clock(end), p.Sunset)
			case start < rise:
				p.Late = true
				p.Sun = w.Say("The work starts before sunrise at %s.", p.Sunrise)
			default:
				p.Sun = w.Say("Daylight from %s to %s covers the work.", p.Sunrise, p.Sunset)
			}
			p.Sun += clock
		} else {
			p.Late = true
			p.Sun = w.Say("The sun does not rise and set on this day at this place: plan the light.")
		}
	}
	forecast := o.Weather
	over := func(limit string, v *float64, above bool) {
		if v == nil {
			return
		}
		r := weatherTable.Find(func(row *weatherRow) bool { return row.Limit == limit })
		if bound := weatherTable.Row(r).Value; above && *v > bound || !above && *v < bound {
			p.Weather = append(p.Weather,
				fmt.Sprintf("%s: %s.", in.weather(*v, weatherTable.Row(r).Unit), w.Say(weatherTable.Row(r).Summary)))
		}
	}
	over("rain_mm", forecast.RainMM, true)
	over("wind_ms", forecast.WindMS, true)
	over("cold_c", forecast.TempC, false)
	over("hot_c", forecast.TempC, true)
}

// weather writes a value of the forecast as people under the practice read it.
func (in *Input) weather(v float64, kept string) string {
	if in.Terms.Fahrenheit {
		v, kept = unit.Customary(v, kept)
	}
	return unit.Format(unit.Significant(v, 3)) + " " + kept
}

// run compares fact with plan on the day.
func (p *Plan) run(in Input, start float64) {
	w := in.Job.Words
	if p.Day == "" || in.Now.Format(time.DateOnly) != p.Day || len(p.Steps) == 0 {
		return
	}
	now := float64(in.Now.Hour()) + float64(in.Now.Minute())/60
	r := &Running{Now: install.Clock(now), Drop: []string{}}
	planned, left := 0.0, 0.0
	for i := range p.Steps {
		s := &p.Steps[i]
		if s.Done {
			r.Started = true
			if s.DoneAt != nil {
				at := s.DoneAt.In(in.Now.Location())
				late := float64(at.Hour()) + float64(at.Minute())/60 - (start + s.To)
				late = round(late)
				s.LateH = &late
			}
			planned = math.Max(planned, s.To)
			continue
		}
		if r.Next == "" {
			r.Next = s.Title
		}
		left = math.Max(left, s.To)
	}
	switch {
	case r.Next == "":
		r.Summary, r.BackOn = w.Say("Everything of the day is done."), p.OnAt
		p.Running = r
		return
	case !r.Started && now < start:
		r.Summary, r.BackOn = w.Say("The day has not begun."), p.OnAt
		p.Running = r
		return
	}
	// The next step should have begun when the last done one was planned to end.
	r.LateH = round(math.Max(0, now-start-nextEnd(p.Steps)))
	if r.LateH == 0 {
		r.LateH = round(math.Min(0, now-(start+planned)))
	}
	on, _ := install.ClockH(strings.TrimSuffix(p.OnAt, install.NextDay))
	r.BackOn = install.Clock(on + math.Max(0, r.LateH))
	r.Summary = w.Say("On plan.")
	if r.LateH > 0 {
		r.Summary = w.Say("%s h behind: the supply is back at about %s instead of %s.", unit.Format(r.LateH), r.BackOn, p.OnAt)
		for _, s := range p.Steps {
			if !s.Done && s.Drop {
				r.Drop = append(r.Drop, w.Say("%s (saves %s h)", s.Title, unit.Format(round(s.Hours))))
			}
		}
	}
	for _, s := range p.Steps {
		if s.ID == p.NoReturn && s.Done {
			r.Beyond = true
		}
	}
	p.Running = r
}

// nextEnd is when the first step that is not done should have ended.
func nextEnd(steps []Step) float64 {
	for _, s := range steps {
		if !s.Done {
			return s.To
		}
	}
	return 0
}
