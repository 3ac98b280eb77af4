package plan

import (
	"slices"
	"time"

	"arvelt/core/words"
)

// fullDay is how many hours of steps fill a day of work, h; more is said.
const fullDay = 8

// WeekPerson is what somebody is planned for in a week.
type WeekPerson struct {
	ID   string    `json:"id"`
	Name string    `json:"name"`
	Role string    `json:"role"`
	Days []WeekDay `json:"days"` // one for each day of the week
	// Slipped is how many of their steps had a day before today and are not done.
	Slipped int `json:"slipped"`
	// Lapses are the authorisations of theirs that end within a month, or have ended and were not renewed.
	Lapses []Lapse `json:"lapses"`
}

// Lapse is an authorisation that ends.
type Lapse struct {
	Kind  string `json:"kind"` // as people call it
	Until string `json:"until"`
	Over  bool   `json:"over"` // it has ended
}

// Notice is how long before an authorisation ends that is said: time to renew it.
const Notice = 30 * 24 * time.Hour

// WeekDay is a day of somebody.
type WeekDay struct {
	Hours float64 `json:"hours"` // of what is not done
	Over  bool    `json:"over"`  // more than fits into a day
	Jobs  int     `json:"jobs"`  // on how many jobs
	Away  string  `json:"away"`  // why they do not work; empty where they do
}

// Week lays what is planned on jobs out by person and day. people are those of the company, planned the steps of each job, from the first of its
// seven days.
func Week(w *words.Catalogue, people []WeekPerson, planned [][]Planned, outlook *Outlook, from, today time.Time) (days []string, out []WeekPerson) {
	now := today.Format(time.DateOnly)
	for n := range 7 {
		days = append(days, from.AddDate(0, 0, n).Format(time.DateOnly))
	}
	for _, p := range people {
		p.Days = make([]WeekDay, len(days))
		for _, job := range planned {
			on := make([]bool, len(days))
			for i := range job {
				s := &job[i]
				if s.Done || !slices.Contains(s.Who, p.Name) || s.On == "" {
					continue
				}
				if s.On < now {
					p.Slipped++
				}
				if n := slices.Index(days, s.On); n >= 0 {
					p.Days[n].Hours += s.Hours
					on[n] = true
				}
			}
			for n := range on {
				if on[n] {
					p.Days[n].Jobs++
				}
			}
		}
		for n := range p.Days {
			p.Days[n].Over = p.Days[n].Hours > fullDay
			if off := outlook.Off(p.ID, days[n]); off != nil {
				p.Days[n].Away = off.Says(w, p.Name)
				p.Days[n].Over = p.Days[n].Hours > 0 // whatever is planned is too much
			}
		}
		out = append(out, p)
	}
	for _, job := range planned {
		for i := range job {
			if s := &job[i]; !s.Done && s.On >= now {
				s.Weather = outlook.WeatherOn(w, s.Outdoors, s.On)
			}
		}
	}
	return days, out
}
