package paper

import (
	"io"
	"time"

	"arvelt/core/survey"
	"arvelt/core/whole"
)

// Notice writes the notice of a dangerous condition that is handed to whoever decides it: what was found, what it means, what was done and what
// must not be used until it is put right. It is handed over whether or not the work is taken.
func Notice(w io.Writer, v *whole.View, f *survey.Finding, ctx Context, now time.Time) error {
	p := newPack(v, ctx)
	j := v.Job
	p.title(p.words.Say("Notice of a dangerous condition"))
	p.Ln(2)
	p.pair(p.words.Say("Site"), join(", ", j.Site.Address, j.Site.Town))
	p.pair(p.words.Say("For"), j.Site.Customer)
	p.pair(p.words.Say("Contractor"), join(", ", ctx.Company.Name, ctx.Company.Phone, ctx.Company.Licence))
	p.pair(p.words.Say("Job"), j.Ref+" · "+j.Title)
	p.pair(p.words.Say("Printed"), p.at(now))
	p.heading(f.Title)
	for _, row := range [][2]string{{p.words.Say("Where"), join(", ", f.Where, p.circuitName(f.Circuit))}, {p.words.Say("What was seen"), f.Seen},
		{p.words.Say("What it means"), f.Risk}, {p.words.Say("How it is known"), join(", ", f.Evidence, f.By, f.At) + suffix(f.Softened)},
		{p.words.Say("Class"), f.Class}, {p.words.Say("Remedial action"), f.Mend}} {
		if row[1] != "" {
			p.pair(row[0], row[1])
		}
	}
	safe := f.Safe
	if safe == "" {
		safe = p.words.Say("It is not made safe.")
	}
	p.pair(p.words.Say("Made safe"), safe)
	p.pictures(f.Photos)
	p.heading(p.words.Say("What you are asked to do"))
	p.line(p.words.Say("Use nothing of what is named here and switch none of it on until it is put right, and keep people away from it. We do not put " +
		"it into service as it is. Whoever lives or works there is told by you."))
	if f.Operator {
		told := f.Reported
		if told == "" {
			told = p.words.Say("not yet")
		}
		p.line(p.words.Say("It is at the equipment of the network operator: touch and open nothing of it. Reported to them: %s.", told))
	}
	p.heading(p.words.Say("Handed over"))
	if f.Notice != "" {
		p.pair(p.words.Say("On record"), f.Notice)
	} else {
		p.line(p.words.Say("To sign says that this was received. It agrees to no work, and declines none."))
		p.toSign(p.words.Say("Received by"))
		p.line(p.words.Say("Where it is not signed: who saw it handed over."))
		p.toSign(p.words.Say("Witness"))
	}
	return p.Output(w)
}
