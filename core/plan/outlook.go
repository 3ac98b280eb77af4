package plan

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// Outlook is what a company knows of days to come, whatever the job: who is away, and the weather.
type Outlook struct {
	Away    []Away             `json:"away"`
	Weather []outdoor.Forecast `json:"weather"`
}

// Away are days on which somebody does not work, or nobody does.
type Away struct {
	Person string `json:"person" chars:"40"` // id; empty: the company is closed
	From   string `json:"from"`
	To     string `json:"to"` // the last of them
	Why    string `json:"why"`
}

// mostAway and mostForecasts bound what a company keeps of days to come.
const (
	mostAway      = 500
	mostForecasts = 60
)

// Validate holds the days to being days, to people of the company and to weather that there is. The error is [install.Errors].
func (o *Outlook) Validate(w *words.Catalogue, people []string) error {
	out := install.Errors{}
	say := func(field, value, accept string) {
		out = append(out, install.FieldError{Field: field, Value: value, Accept: accept})
	}
	day := func(field, value string) bool {
		if _, err := time.Parse(time.DateOnly, value); err != nil {
			say(field, value, w.Say("a day, as 2026-05-31"))
			return false
		}
		return true
	}
	if len(o.Away) > mostAway || len(o.Weather) > mostForecasts {
		say("outlook", strconv.Itoa(len(o.Away)+len(o.Weather)), w.Say("at most 500 times away and 60 days of weather"))
		return out
	}
	for i, a := range o.Away {
		f := "away[" + strconv.Itoa(i) + "]."
		if a.Person != "" && !slices.Contains(people, a.Person) {
			say(f+"person", a.Person, w.Say("somebody of the company, or nothing where it is closed"))
		}
		from, to := day(f+"from", a.From), day(f+"to", a.To)
		if from && to && a.To < a.From {
			say(f+"to", a.To, w.Say("the first day or one behind it"))
		}
		if len(a.Why) > 120 || strings.ContainsFunc(a.Why, func(r rune) bool { return r < ' ' }) {
			say(f+"why", a.Why[:min(40, len(a.Why))], w.Say("at most 120 readable characters"))
		}
	}
	seen := map[string]bool{}
	for i, x := range o.Weather {
		f := "weather[" + strconv.Itoa(i) + "]."
		if day(f+"day", x.Day) && seen[x.Day] {
			say(f+"day", x.Day, w.Say("each day once"))
		}
		seen[x.Day] = true
		for _, v := range []struct {
			field  string
			v      *float64
			lo, hi float64
		}{{"rainMM", x.RainMM, 0, 500}, {"windKmH", x.WindKmH, 0, 300}, {"lowC", x.LowC, -60, 60}, {"highC", x.HighC, -60, 60}} {
			if v.v != nil && (math.IsNaN(*v.v) || *v.v < v.lo || *v.v > v.hi) {
				say(f+v.field, unit.Format(*v.v), unit.Format(v.lo)+" to "+unit.Format(v.hi))
			}
		}
		if x.HighC != nil && x.LowC != nil && *x.HighC < *x.LowC {
			say(f+"highC", unit.Format(*x.HighC), w.Say("the lowest of the day or more"))
		}
	}
	if len(out) > 0 {
		return out
	}
	return nil
}

// Off is why somebody does not work on a day; nil where they do. A closed company is everybody's.
func (o *Outlook) Off(person, day string) *Away {
	for i := range o.Away {
		if a := &o.Away[i]; (a.Person == "" || a.Person == person) && a.From <= day && day <= a.To {
			return a
		}
	}
	return nil
}

// Says is why somebody is away, in words.
func (a *Away) Says(w *words.Catalogue, name string) string {
	if a.Person == "" {
		return w.Say("the company is closed from %s to %s (%s)", a.From, a.To, cmp.Or(a.Why, "–"))
	}
	return w.Say("%s is away from %s to %s (%s)", name, a.From, a.To, cmp.Or(a.Why, "–"))
}

// WeatherOn is what in the weather of a day holds a step, empty where nothing does or nobody knows it.
func (o *Outlook) WeatherOn(w *words.Catalogue, work outdoor.Weathered, day string) string {
	at := slices.IndexFunc(o.Weather, func(f outdoor.Forecast) bool { return f.Day == day })
	if work == "" || at < 0 {
		return ""
	}
	f := &o.Weather[at]
	says := f.Against(w, work)
	if says != "" && f.By == "" {
		says += " " + w.Say("The forecast is made up.")
	}
	return says
}
