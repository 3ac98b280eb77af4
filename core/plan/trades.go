package plan

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
)

// tradeName is how a trade is called: what it is, and who does it.
func tradeName(job *install.Job, t *install.Trade) string {
	name := job.Words.Say(string(install.TradeNames[t.Kind]))
	if t.Who != "" {
		name += " (" + t.Who + ")"
	}
	return name
}

// roomsOf are the rooms of a trade in words; empty for the whole house.
func roomsOf(job *install.Job, t *install.Trade) string {
	names := []string{}
	for _, id := range t.Rooms {
		if r := job.RoomByID(id); r != nil {
			names = append(names, r.Name)
		}
	}
	return strings.Join(names, ", ")
}

// tradeSays is a stretch of work of others in words.
func tradeSays(job *install.Job, t *install.Trade) string {
	says := tradeName(job, t)
	for _, part := range []string{t.What, roomsOf(job, t)} {
		if part != "" {
			says += ", " + part
		}
	}
	return says
}

// gateFor is the work of others that a step waits for on a day and that is not done, or not dry; nil for none.
func gateFor(job *install.Job, t *Task, day string) *install.Trade {
	for i := range job.Plan.Trades {
		x := &job.Plan.Trades[i]
		if _, ours := x.Waits.Ours(); ours && (x.Done == "" || x.Free() > day) && ofTrade(x, t) {
			return x
		}
	}
	return nil
}

// ofTrade reports whether a step of ours is of those that the work of others waits for, or that wait for it. What belongs to the day of the outage has gates
// of its own.
func ofTrade(x *install.Trade, t *Task) bool {
	stage, _ := x.Waits.Ours()
	return t.Others == "" && !t.Day && t.Stage == stage && x.In(t.Room)
}

// PromisedFor is the day on which what a step waits for of others is done and dry, as they promised it or since it was; empty where nobody did.
func PromisedFor(job *install.Job, t *Task, today string) string {
	x := gateFor(job, t, today)
	switch {
	case x == nil || x.Done == "" && x.Promised == "":
		return ""
	case x.Done != "":
		return x.Free()
	}
	dry := *x
	dry.Done = x.Promised
	return dry.Free()
}

// waitsFor says what of others a step waits for.
func waitsFor(job *install.Job, x *install.Trade) string {
	w := job.Words
	switch says := tradeSays(job, x); {
	case x.Done != "":
		return w.Say("Waits until %s: %s is done since %s and dries for %d days.", x.Free(), says, x.Done, x.DryDays)
	case x.Promised != "":
		return w.Say("Waits for others: %s, promised for %s.", says, x.Promised)
	case x.Asked != "":
		return w.Say("Waits for others: %s, asked on %s and not promised.", says, x.Asked)
	default:
		return w.Say("Waits for others: %s, not asked yet.", says)
	}
}

// TradeStand is how it stands with the work of others.
type TradeStand struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Rooms string `json:"rooms"` // empty for the whole house
	Says  string `json:"says"`
	// Ready: theirs waits for ours, which is done, since when that is known.
	Ready string `json:"ready"`
	Done  bool   `json:"done"`
	// Late: what was promised or needed did not come in time, or is planned too late for it; Clash says how.
	Late  bool   `json:"late"`
	Clash string `json:"clash"`
	// Returns: theirs is done, and our steps that waited for it are open: somebody comes back for them.
	Returns bool `json:"returns"`
}

// TradesOf says how it stands with the work of others on a job.
func TradesOf(job *install.Job, tasks []Task, now time.Time) []TradeStand {
	out := []TradeStand{}
	w, today := job.Words, now.Format(time.DateOnly)
	for i := range job.Plan.Trades {
		x := &job.Plan.Trades[i]
		_, ours := x.Waits.Ours()
		s := TradeStand{ID: x.ID, Name: tradeName(job, x), Rooms: roomsOf(job, x), Done: x.Done != ""}
		var ready time.Time
		first, early, last := "", "", ""
		all, open := 0, 0
		for n := range tasks {
			t := &tasks[n]
			if !ofTrade(x, t) {
				continue
			}
			if all++; t.Done {
				if t.DoneAt != nil && t.DoneAt.After(ready) {
					ready = *t.DoneAt
				}
				continue
			}
			if open++; first == "" {
				first = t.Title
			}
			if t.On != "" {
				if last = max(last, t.On); early == "" || t.On < early {
					early = t.On
				}
			}
		}
		switch {
		case ours && s.Done:
			if s.Returns = open > 0; s.Returns {
				s.Says = w.Say("Done on %s (%s): %d of our steps are open for it.", x.Done, x.Known, open)
			} else {
				s.Says = w.Say("Done on %s (%s).", x.Done, x.Known)
			}
		case ours:
			s.Says = waitsFor(job, x)
			switch {
			case x.Promised != "" && x.Promised < today:
				s.Late, s.Clash = true, w.Say("That day has passed: ask again.")
			case x.Promised != "" && early != "" && early < x.Promised:
				s.Late, s.Clash = true, w.Say("Ours is planned for %s, before it.", early)
			}
		case s.Done:
			s.Says = w.Say("They began on %s (%s).", x.Done, x.Known)
		case all > 0 && open == 0:
			s.Ready = ready.Format(time.DateOnly)
			s.Says = w.Say("Ready for them since %s.", s.Ready)
		default:
			s.Says = w.Say("Not ready: %d of our steps are open, first “%s”.", open, first)
			switch {
			case x.By != "" && x.By < today:
				s.Late, s.Clash = true, w.Say("They needed it by %s.", x.By)
			case x.By != "" && last > x.By:
				s.Late, s.Clash = true, w.Say("Ours is planned until %s, they need it by %s.", last, x.By)
			}
		}
		out = append(out, s)
	}
	return out
}

// promised holds the days of steps that wait for others to what these promised.
func (d *dating) promised(t *Task, day string) bool {
	x, from := gateFor(d.job, t, day), PromisedFor(d.job, t, day)
	if from == "" || day >= from {
		return false
	}
	says := d.job.Words.Say("a day from %s on, for which it is promised: %s", from, tradeSays(d.job, x))
	if x.Done != "" || x.DryDays > 0 {
		says = d.job.Words.Say("a day from %s on, when it is dry: %s", from, tradeSays(d.job, x))
	}
	d.says(t.ID, day, says)
	return true
}

// tradesPlanned are what the week is told of others: for when they promised what ours waits for, and what of ours is open since they are done.
func tradesPlanned(job *install.Job, tasks []Task) (out []Planned) {
	w := job.Words
	for i := range job.Plan.Trades {
		x := &job.Plan.Trades[i]
		stage, ours := x.Waits.Ours()
		p := Planned{Task: "trade:" + x.ID, Title: tradeSays(job, x), Stage: stage, Who: []string{}, Crew: 1}
		switch {
		case !ours && x.Done == "" && x.By != "":
			p.On, p.Held = x.By, w.Say("They wait for us.")
		case ours && x.Done == "":
			p.On, p.Held = x.Promised, waitsFor(job, x)
		case ours:
			n := 0
			for k := range tasks {
				if t := &tasks[k]; !t.Done && t.On == "" && ofTrade(x, t) {
					n++
				}
			}
			if n == 0 {
				continue
			}
			p.Title = w.Say("Come back: %s is done since %s, %d steps have no day", tradeSays(job, x), x.Done, n)
		default:
			continue
		}
		out = append(out, p)
	}
	return out
}

// tradeSpoken errs where the plan says of others what cannot be. The error is of [install.Errors].
func tradeSpoken(job *install.Job, was []install.Trade, today time.Time) (out install.Errors) {
	w, seen := job.Words, map[string]bool{}
	for i := range job.Plan.Trades {
		x := &job.Plan.Trades[i]
		says := func(field, value, accept string) {
			out = append(out, install.FieldError{Field: fmt.Sprintf("plan.trades[%d].%s", i, field), Value: value, Accept: accept})
		}
		if seen[x.ID] {
			says("id", x.ID, w.Say("each id once"))
		}
		seen[x.ID] = true
		if n := slices.IndexFunc(was, func(o install.Trade) bool { return o.ID == x.ID }); n >= 0 && reflect.DeepEqual(was[n], *x) {
			continue
		}
		for _, id := range x.Rooms {
			if job.RoomByID(id) == nil {
				says("rooms", id, w.Say("rooms of the job, or none for the whole house"))
			}
		}
		switch {
		case x.Done != "" && strings.TrimSpace(x.Known) == "":
			says("known", x.Known, w.Say("by what it is known that it is done: who said so, or who has seen it"))
		case x.Done > today.Format(time.DateOnly):
			says("done", x.Done, w.Say("a day up to today: what is to come is promised"))
		}
		if x.Promised != "" && x.Asked != "" && x.Promised < x.Asked {
			says("promised", x.Promised, w.Say("a day from %s on, when they were asked", x.Asked))
		}
	}
	return out
}
