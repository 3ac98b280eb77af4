package whole

import (
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/survey"
	"arvelt/core/van"
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
