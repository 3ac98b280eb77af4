package paper

import (
	"io"
	"time"

	"arvelt/core/proving"
	"arvelt/core/whole"
)

// InUse writes what is in use in a house on a day while the rest is worked on, for whoever lives or works there. It is void at the end of that
// day, and before it as soon as anything is switched.
func InUse(w io.Writer, v *whole.View, ctx Context, now time.Time) error {
	p := newPack(v, ctx)
	j := v.Job
	p.start(p.words.Say("In use on %s", p.date(now)), false)
	p.pair(p.words.Say("Site"), join(", ", j.Site.Address, j.Site.Town))
	p.pair(p.words.Say("Contractor"), join(", ", ctx.Company.Name, ctx.Company.Phone))
	p.pair(p.words.Say("Job"), j.Ref+" · "+j.Title)
	p.pair(p.words.Say("Printed"), p.at(now))
	p.pair(p.words.Say("Void"), p.words.Say("at the end of %s, and before that as soon as anything is switched on or off", p.date(now)))
	p.line(p.words.Say("Everything that is not listed as in use counts as live, whatever stands beside it. Nothing on this page is leave to open or to " +
		"cut anything: only a lock of one's own, and a reading that proves it dead, are."))
	for _, in := range []bool{true, false} {
		title, n := p.words.Say("Not in use: keep away, it counts as live"), 0
		if in {
			title = p.words.Say("In use")
		}
		p.heading(title)
		for _, u := range v.Tests.Use {
			if u.InUse == in {
				p.pair(u.Name, join("; ", u.Says, u.Where))
				n++
			}
		}
		if n == 0 {
			p.line(p.words.Say("Nothing."))
		}
	}
	p.ownerStops(v)
	p.heading(p.words.Say("If something is wrong"))
	p.line(p.words.Say("Do not touch a cable that hangs free, an open box or an open board. Switch nothing on that is locked or tagged. Call the contractor."))
	return p.Output(w)
}

// Cards writes in which order the devices of a house are opened and closed: planned, in an emergency, and on again, each with a box to tick.
func Cards(w io.Writer, v *whole.View, ctx Context, now time.Time) error {
	p := newPack(v, ctx)
	p.start(p.words.Say("Off and on cards"), false)
	p.pair(p.words.Say("Site"), join(", ", v.Job.Site.Address, v.Job.Site.Town))
	p.pair(p.words.Say("Job"), v.Job.Ref+" · "+v.Job.Title)
	p.pair(p.words.Say("Printed"), p.at(now))
	p.line(p.words.Say("A card is an order of hands and no proof: only a lock of one's own, and readings, make dead. What stays live stays live."))
	for _, card := range []struct {
		title, says string
		lines       []proving.CardLine
	}{
		{p.words.Say("Off, emergency"), p.words.Say("The main switch at once, then every source of its own that still feeds."), v.Tests.Cards.Emergency},
		{p.words.Say("Off, planned"), p.words.Say("Shed load first: each circuit, then what they share, the main switch last."), v.Tests.Cards.Off},
		{p.words.Say("On"), p.words.Say("One after the other, each with its permission; look and read before the next."), v.Tests.Cards.On},
	} {
		p.heading(card.title)
		p.line(card.says)
		for i, line := range card.lines {
			p.pair("[  ]  "+p.words.Say("%d. %s", i+1, line.Name), line.At)
		}
		if len(card.lines) == 0 {
			p.line(p.words.Say("Nothing."))
		}
	}
	return p.Output(w)
}

// ownerStops writes where whoever lives in the house stops.
func (p *pack) ownerStops(v *whole.View) {
	p.heading(p.words.Say("Where you stop"))
	for _, stop := range whole.OwnerStops(v) {
		p.pair(stop.Where, stop.Says)
	}
}
