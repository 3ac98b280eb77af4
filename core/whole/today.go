package whole

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/survey"
	"arvelt/core/van"
	"arvelt/core/working"
)

// TodayJob is a job as somebody needs it on the day: how to get in and whom to call, what hangs there, what is next, and what else is to be done.
type TodayJob struct {
	ID       string           `json:"id"`
	Ref      string           `json:"ref"`
	Title    string           `json:"title"`
	Practice string           `json:"practice"`
	Stage    install.Stage    `json:"stage"`
	Customer string           `json:"customer"`
	Phone    string           `json:"phone"`
	Address  string           `json:"address"`
	Town     string           `json:"town"`
	Access   string           `json:"access"`
	Hazards  string           `json:"hazards"`
	Dangers  []survey.Finding `json:"dangers"`
	Left     int              `json:"left"` // that is left as it is
	Locks    []install.Record `json:"locks"`
	// Next is the first step that can be done now and is nobody else's, nil where there is none; Place is where it is.
	Next   *plan.Task   `json:"next"`
	Place  string       `json:"place"`
	Groups []TodayGroup `json:"groups"`
	Words  []string     `json:"words"` // what whoever left the house in the last days wrote for whoever comes next, the newest first
	Take   []string     `json:"take"`  // what goes into the van and is not in it
	Frozen bool         `json:"frozen"`
}

// TodayGroup is what is still to be done at one place.
type TodayGroup struct {
	Place string      `json:"place"`
	Done  int         `json:"done"`
	Tasks []plan.Task `json:"tasks"` // that are not done, of somebody's own or nobody's
}

// TodayOf is what a view of a job, made for somebody, says of their day.
func TodayOf(v *View, held []van.Held, who string, now time.Time) TodayJob {
	j, day := v.Job, now.Format(time.DateOnly)
	out := TodayJob{Ref: j.Ref, Title: j.Title, Practice: j.Practice, Stage: v.State.Stage, Customer: j.Site.Customer, Phone: j.Site.Phone,
		Address: j.Site.Address, Town: j.Site.Town,
		Access: j.Site.Access, Hazards: j.Site.Hazards, Dangers: v.Dangers, Left: len(v.Loose), Locks: v.Tests.Locks,
		Groups: []TodayGroup{},
		Take:   []string{}, Words: wordsOf(j, now),
		Frozen: v.Frozen}
	mine := func(t *plan.Task) bool {
		return (t.Who == "" || t.Others == "" && slices.Contains(install.NamesIn(t.Who), who)) && t.On <= day
	}
	planned := slices.ContainsFunc(v.Tasks, func(t plan.Task) bool { return t.On == day && !t.Done && mine(&t) })
	at := map[string]int{}
	for i := range v.Tasks {
		t := &v.Tasks[i]
		place := placeOf(j, t)
		n, there := at[place]
		if !there {
			n, at[place] = len(out.Groups), len(out.Groups)
			out.Groups = append(out.Groups, TodayGroup{Place: place, Tasks: []plan.Task{}})
		}
		if t.Done {
			out.Groups[n].Done++
			continue
		}
		if !mine(t) {
			continue
		}
		out.Groups[n].Tasks = append(out.Groups[n].Tasks, *t)
		if t.Closed == "" && (out.Next == nil || planned && out.Next.On != day && t.On == day) {
			out.Next, out.Place = t, place
		}
	}
	out.Groups = slices.DeleteFunc(out.Groups, func(g TodayGroup) bool { return len(g.Tasks) == 0 })
	for _, x := range VanOf(v, held, now).Items {
		if x.Packed == nil {
			out.Take = append(out.Take, strings.TrimSpace(x.Count+" "+x.Name))
		}
	}
	return out
}

// lastDays is how long a word for whoever comes next is told.
const lastDays = 4 * 24 * time.Hour

// wordsOf is what was written by whoever left the house.
func wordsOf(j *install.Job, now time.Time) []string {
	out := []string{}
	for i := range slices.Backward(j.Records) {
		if r := &j.Records[i]; r.Kind == install.DayEnd && r.Note != "" && now.Sub(r.At) < lastDays {
			out = append(out, r.By+": "+r.Note)
		}
	}
	return out
}

// placeOf is where a step is done: its room, else its circuit, else the job.
func placeOf(j *install.Job, t *plan.Task) string {
	if r := j.RoomByID(t.Room); r != nil {
		return r.Name
	}
	if k := j.CircuitByID(t.Circuit); k != nil {
		return k.Name
	}
	return j.Words.Say("The job")
}

// Ahead is what a job asks for on a day to come, looked at the evening before.
type Ahead struct {
	ID      string      `json:"id"`
	Ref     string      `json:"ref"`
	Title   string      `json:"title"`
	Address string      `json:"address"`
	Town    string      `json:"town"`
	Access  string      `json:"access"`
	Steps   []AheadStep `json:"steps"` // those that can be done first, those that cannot behind them
	// Instead are steps that could be done in the place of those that cannot, by what is there.
	Instead []AheadStep `json:"instead"`
	Items   []van.Item  `json:"items"`  // what they ask for: not in the van yet, or not as it has to be
	Inside  int         `json:"inside"` // that are in it
}

// AheadStep is a step of a day to come.
type AheadStep struct {
	ID      string   `json:"id"`
	Title   string   `json:"title"`
	Who     []string `json:"who"`
	Hours   float64  `json:"hours"`
	Held    string   `json:"held"` // why it cannot be done as it stands now; empty where it can
	Height  bool     `json:"height"`
	StandBy string   `json:"standBy"`
	Off     bool     `json:"off"`     // the supply is off for it
	Weather string   `json:"weather"` // what of the day's weather holds it, and what makes it go all the same
}

// mostInstead is how many steps are proposed in the place of others.
const mostInstead = 3

// AheadOf is what a view of a job, made for somebody, says of a day to come on which steps of theirs are planned; of everybody's where nobody is named.
func AheadOf(v *View, held []van.Held, outlook *plan.Outlook, who string, day time.Time) Ahead {
	j, on := v.Job, day.Format(time.DateOnly)
	out := Ahead{Ref: j.Ref, Title: j.Title, Address: j.Site.Address, Town: j.Site.Town, Access: j.Site.Access, Steps: []AheadStep{}, Instead: []AheadStep{},
		Items: []van.Item{}}
	before := map[string]bool{} // what is done by then, if the plan holds
	for i := range v.Tasks {
		if t := &v.Tasks[i]; t.Done || t.On != "" && t.On <= on {
			before[t.ID] = true
		}
	}
	asked := map[string]bool{}
	for i := range v.Tasks {
		t := &v.Tasks[i]
		names := install.NamesIn(t.Who)
		if t.Done || t.Others != "" {
			continue
		}
		s := AheadStep{ID: t.ID, Title: t.Title, Who: names, Hours: t.Hours, Held: plan.HeldOn(t, before), Height: t.Height,
			StandBy: t.StandBy, Off: t.Isolation, Weather: outlook.WeatherOn(j.Words, t.Weather, on)}
		switch {
		case t.On == on && (who == "" || slices.Contains(names, who)):
			asked[t.ID] = true
			out.Steps = append(out.Steps, s)
		case s.Held == "" && s.Weather == "" && t.Closed == "" && t.On == "" && (len(names) == 0 || slices.Contains(names,
			who)) && len(out.Instead) < mostInstead:
			out.Instead = append(out.Instead, s)
		}
	}
	slices.SortStableFunc(out.Steps, func(a, b AheadStep) int { return cmp.Compare(min(len(a.Held), 1), min(len(b.Held), 1)) })
	if !slices.ContainsFunc(out.Steps, func(s AheadStep) bool { return s.Held != "" || s.Weather != "" }) {
		out.Instead = []AheadStep{}
	}
	for _, x := range VanOf(v, held, day).Items {
		if !slices.ContainsFunc(x.Tasks, func(id string) bool { return asked[id] }) {
			continue
		}
		if x.Packed != nil {
			out.Inside++
		}
		if x.Packed == nil || x.Verdict != working.Pass {
			out.Items = append(out.Items, x)
		}
	}
	return out
}
