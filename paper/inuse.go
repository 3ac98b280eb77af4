package paper

import (
	"io"
	"time"

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
	p.heading(p.words.Say("If something is wrong"))
	p.line(p.words.Say("Do not touch a cable that hangs free, an open box or an open board. Switch nothing on that is locked or tagged. Call the contractor."))
	return p.Output(w)
}
