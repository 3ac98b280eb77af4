package paper

import (
	"io"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/van"
	"arvelt/core/whole"
)

// Day writes the sheet of a day of a job for whoever works there: the steps that are planned with their cautions, what goes into the van, what is on and
// off, and how it stands with the other trades. day is 2006-01-02.
func Day(w io.Writer, v *whole.View, held []van.Held, ctx Context, day, now time.Time) error {
	p := newPack(v, ctx)
	j, on := v.Job, day.Format(time.DateOnly)
	p.start(p.words.Say("Day sheet, %s", p.date(day)), false)
	p.pair(p.words.Say("Site"), join(", ", j.Site.Customer, j.Site.Address, j.Site.Town, j.Site.Phone))
	p.pair(p.words.Say("Access"), j.Site.Access)
	p.pair(p.words.Say("Contractor"), join(", ", ctx.Company.Name, ctx.Company.Phone))
	p.pair(p.words.Say("Job"), j.Ref+" · "+j.Title)
	p.pair(p.words.Say("Printed"), p.at(now))
	if j.Site.Hazards != "" {
		p.bold(j.Site.Hazards)
	}
	for i := range v.Dangers {
		p.bold(p.words.Say("Danger now: %s", v.Dangers[i].Title+". "+v.Dangers[i].Seen))
	}
	p.daySteps(v, on)
	p.dayPower(v, on)
	p.dayTrades(v)
	p.dayVan(v, held, day)
	p.line(p.words.Say("A paper is no proof: whoever opens an enclosure isolates, locks and proves dead first."))
	return p.Output(w)
}

// daySteps are the steps of the day, each with its crew and its caution.
func (p *pack) daySteps(v *whole.View, on string) {
	p.heading(p.words.Say("Steps"))
	n := 0
	for i := range v.Tasks {
		t := &v.Tasks[i]
		if t.On != on {
			continue
		}
		box := "[  ]  "
		if t.Done {
			box = "[x]  "
		}
		p.pair(box+p.words.Say("%g h", t.Hours), t.Title)
		says := []string{strings.Join(install.NamesIn(t.Who), ", ")}
		if t.Height {
			if says = append(says, p.words.Say("work at height, nobody stands by yet")); t.StandBy != "" {
				says[len(says)-1] = p.words.Say("work at height, %s stands by", t.StandBy)
			}
		}
		if t.Isolation {
			says = append(says, p.words.Say("isolated, locked, proved dead"))
		}
		says = append(says, t.Caution, t.StaysLive)
		p.line(join(" · ", says...))
		n++
	}
	if n == 0 {
		p.line(p.words.Say("No step is planned for this day."))
	}
}

// dayPower is what is on and off on the day.
func (p *pack) dayPower(v *whole.View, on string) {
	i := slices.IndexFunc(v.Power, func(d plan.PowerDay) bool { return d.Day == on })
	if i < 0 {
		return
	}
	d := &v.Power[i]
	named := func(list []plan.PowerOf) string {
		out := []string{}
		for _, c := range list {
			out = append(out, join(", ", c.Name, c.Where))
		}
		return strings.Join(out, "; ")
	}
	p.heading(p.words.Say("On and off"))
	if d.Whole {
		p.bold(p.words.Say("The whole house is off."))
	}
	p.pair(p.words.Say("Off"), named(d.Off))
	p.pair(p.words.Say("Kept on"), named(d.On))
	p.pair(p.words.Say("Locked at"), strings.Join(d.At, "; "))
}

// dayTrades is how it stands with the other trades.
func (p *pack) dayTrades(v *whole.View) {
	if len(v.Trades) == 0 {
		return
	}
	p.heading(p.words.Say("Other trades"))
	for i := range v.Trades {
		p.pair(v.Trades[i].Name, join(" ", v.Trades[i].Says, v.Trades[i].Clash))
	}
}

// dayVan is what the steps of the day ask for and is not in the van.
func (p *pack) dayVan(v *whole.View, held []van.Held, day time.Time) {
	p.heading(p.words.Say("Into the van"))
	n := 0
	for _, x := range whole.AheadOf(v, held, &plan.Outlook{}, "", day).Items {
		p.pair("[  ]  "+x.Name, join(", ", x.Count, x.Says))
		n++
	}
	if n == 0 {
		p.line(p.words.Say("Nothing."))
	}
}
