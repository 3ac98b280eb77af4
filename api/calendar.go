package api

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/gin-gonic/gin"

	"arvelt/core/plan"
	"arvelt/store"
)

// calendarPath shows a calendar by the secret of its link; it is logged without it.
const (
	calendarStart = "/calendar/"
	calendarPath  = calendarStart + ":link"
)

// calendar answers the days of a person or of a job as a calendar (RFC 5545), by a link: whatever shows calendars fetches it without signing in. An event
// is a job on a day. It has no way in, no telephone of the client and nothing of alarms: calendars are kept by others.
func (s *Server) calendar(c *gin.Context) {
	link, scope, err := s.store.Shown(c, strings.TrimSuffix(c.Param("link"), ".ics"), store.PersonDays, store.JobDays)
	name := ""
	if err == nil && link.Kind == store.PersonDays {
		var p store.Person
		p, err = scope.Colleague(c, link.Subject)
		name = p.Name
	}
	var jobs []store.PlannedJob
	if err == nil {
		jobs, err = scope.Planned(c)
	}
	if errors.Is(err, store.ErrNotFound) {
		c.String(http.StatusNotFound, "%s\n", errNoLink.Error())
		return
	}
	if err != nil {
		fail(c, err)
		return
	}
	cal := ics.NewCalendar()
	cal.SetProductId("-//Arvelt//Days of work//EN")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName(link.Called)
	cal.SetXWRCalName(link.Called)
	cal.SetRefreshInterval("PT1H")
	for i := range jobs {
		if j := &jobs[i]; link.Kind == store.PersonDays || j.ID == link.JobID {
			jobDays(cal, j, name, s.store.Now())
		}
	}
	c.Header("Cache-Control", "private, no-store")
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", []byte(cal.Serialize(ics.WithNewLineWindows)))
}

// jobDays puts the days of a job into a calendar: those of a person, or all where none is named.
func jobDays(cal *ics.Calendar, j *store.PlannedJob, name string, now time.Time) {
	days, steps := []string{}, map[string][]plan.Planned{}
	for _, p := range j.Planned {
		if p.On == "" || name != "" && !slices.Contains(p.Who, name) {
			continue
		}
		if len(steps[p.On]) == 0 {
			days = append(days, p.On)
		}
		steps[p.On] = append(steps[p.On], p)
	}
	for _, on := range days {
		day, err := time.Parse(time.DateOnly, on)
		if err != nil {
			continue
		}
		lines, hours, open := []string{}, 0.0, 0
		for _, p := range steps[on] {
			line := "• " + p.Title
			if len(p.Who) > 0 {
				line += " (" + strings.Join(p.Who, ", ") + ")"
			}
			if p.Done {
				line += " ✓"
			} else {
				open, hours = open+1, hours+p.Hours
			}
			lines = append(lines, line)
		}
		e := cal.AddEvent(j.ID + "-" + on + "@arvelt")
		e.SetDtStampTime(now)
		e.SetAllDayStartAt(day)
		e.SetAllDayEndAt(day.AddDate(0, 0, 1))
		summary := j.Ref + " " + j.Title
		if open > 0 && hours > 0 {
			summary += fmt.Sprintf(" · %g h", hours)
		}
		e.SetSummary(summary)
		e.SetLocation(strings.Trim(j.Address+", "+j.Town, ", "))
		e.SetDescription(strings.Join(lines, "\n"))
	}
}
