package paper

import (
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// report is what an inspection comes to: its outcome, every finding with its class, and what was looked at.
func (p *pack) report(o *survey.Outcome) {
	j := p.v.Job
	p.heading(p.words.Say("Outcome"))
	switch {
	case o.Satisfactory:
		p.bold(p.words.Say("Satisfactory for what was inspected and tested."))
	case len(o.Because) == 0:
		p.bold(p.words.Say("Not yet known: %d things are still to be inspected, tested or answered.", o.Open))
	default:
		p.bold(p.words.Say("Unsatisfactory: %s.", counted(len(o.Because), p.words.Say("finding"), p.words.Say("findings"))))
		for _, f := range o.Because {
			p.bullet(join("", f.Class, " · ", f.Title, when(", ", f.Where)))
		}
	}
	p.heading(p.words.Say("Findings"))
	rows := []row{}
	c := survey.CaseOf(j, whole.Practice(j).Survey(), func(string) (float64, float64, bool) { return 0, 0, false })
	for _, s := range c.Sections {
		for _, f := range s.Findings {
			done, seen := f.Safe, f.Seen
			if seen == f.Title { // of what is in no catalogue
				seen = ""
			}
			if f.Mended != "" {
				done = f.Mended
			}
			rows = append(rows, row{cells: []string{f.Class, join("", f.Title, when(": ", seen)), f.Where, f.Evidence, f.Risk, f.Mend,
				join("; ", done, f.Told)}})
		}
	}
	if len(rows) == 0 {
		p.line(p.words.Say("None."))
	} else {
		p.table([]column{{p.words.Say("Class"), 16}, {p.words.Say("Found"), 44}, {p.words.Say("Where"), 24}, {p.words.Say("Known by"), 20},
			{p.words.Say("Risk"), 40}, {p.words.Say("Remedial action"), 28}, {p.words.Say("Made safe, told"), 18}}, rows)
	}
	p.next()
	p.heading(p.words.Say("What was inspected and tested"))
	for i := range j.Circuits {
		k := &j.Circuits[i]
		p.bullet(join("", k.Name, when(", ", p.placed(k))))
	}
	if len(j.Circuits) == 0 {
		p.line(p.words.Say("No circuit is on this job."))
	}
}
