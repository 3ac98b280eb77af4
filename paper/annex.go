package paper

import (
	"strings"

	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// annex is every check with its working, for whoever wants to follow a figure.
func (p *pack) annex(works *outdoor.Report) {
	p.start(p.words.Say("Annex: checks with their working"), false)
	p.heading(p.words.Say("The installation"))
	for i := range p.v.Report.Job {
		p.check(&p.v.Report.Job[i])
	}
	for i := range p.v.Chain.Checks {
		p.check(&p.v.Chain.Checks[i])
	}
	outside := works.Checks()
	for i := range outside {
		p.check(&outside[i])
	}
	for i := range p.v.Report.Circuits {
		c := &p.v.Report.Circuits[i]
		s := c.Summary
		p.heading(c.Name)
		text := s.Text
		kept := p.v.Job.CircuitByID(c.ID)
		if kept != nil && kept.State == install.KeptCircuit {
			text = p.words.Say("The circuit was left as it was: of its design nothing is said here.")
			s.Cores = ""
		} else if text == "" && s.Device != "" {
			text = join(" · ", s.Device, s.Conductor, p.length(s.LengthM),
				p.words.Say("%s design current", unit.With(unit.Significant(s.DesignA, 3), "A")),
				p.words.Say("R1+R2 %s cold", unit.With(s.R1R2Cold, "Ω")),
				p.words.Say("Zs %s cold, %s hot, limit %s", unit.With(s.ZsCold, "Ω"), unit.With(s.ZsHot, "Ω"), unit.With(s.ZsMax, "Ω")))
		}
		if text != "" {
			p.line(text)
		}
		if s.Cores != "" {
			p.line(p.words.Say("Cores: %s.", s.Cores))
		}
		p.Ln(1)
		for k := range c.Checks {
			p.check(&c.Checks[k])
		}
		if i < len(p.v.Job.Circuits) {
			p.run(&p.v.Job.Circuits[i], c.Run)
			p.boxes(&p.v.Job.Circuits[i], c.Boxes)
		}
		for _, o := range c.Options {
			if o.Chosen {
				p.pair(p.words.Say("Decided: %s", o.Title), o.Reason+" "+o.Condition)
			}
		}
	}
}

// run lists the points of a circuit in the order of its cable: the leg to each, and what is reckoned there.
func (p *pack) run(c *install.Circuit, stops []rulebook.StopReport) {
	legs := c.Legs()
	for i := range stops {
		b, s := &c.Serves.Boxes[i], &stops[i]
		from := p.words.Say("from the board")
		if f := c.Serves.BoxByID(b.From); f != nil {
			from = p.words.Say("from %s", or(f.Label(), f.Name))
		}
		text := from + ", " + p.words.Say("leg not known")
		if legs[i].Known {
			text = from + ", " + p.length(legs[i].LengthM)
			if !legs[i].Measured {
				text += p.words.Say(" (not measured)")
			}
		}
		if s.R1R2 != nil {
			text += p.words.Say(", R1+R2 %s", unit.With(unit.Significant(*s.R1R2, 3), "Ω"))
		}
		if s.ZsHot != nil {
			text += p.words.Say(", Zs %s", unit.With(unit.Significant(*s.ZsHot, 3), "Ω"))
		}
		if s.DropPc != nil {
			text += p.words.Say(", drop %s", unit.With(unit.Significant(*s.DropPc, 3), "%"))
		}
		p.pair(b.Called(), text)
	}
	if n := len(stops); c.Serves.Back != "" && n > 0 && len(legs) > n && legs[n].Known {
		p.pair(p.words.Say("back to the board"), p.length(legs[n].LengthM))
	}
}

// boxes lists the outlets of a string: what opens each, and what it wears.
func (p *pack) boxes(c *install.Circuit, boxes []rulebook.BoxReport) {
	for i := range boxes {
		if i >= len(c.Serves.Boxes) {
			return
		}
		text := boxes[i].Summary
		if len(boxes[i].Labels) > 0 {
			text += p.words.Say(" Needs label: %s.", strings.Join(boxes[i].Labels, ", "))
		}
		p.pair(c.Serves.Boxes[i].Name, text)
	}
}

// check writes a check with its figures and its working; nothing of it is cut.
func (p *pack) check(c *working.Check) {
	if c.Outside { // nothing of the job rests on it
		return
	}
	p.keep(14)
	y := p.GetY()
	p.mark(c.Verdict, margin+2, y+2.4)
	p.SetLeftMargin(margin + 6)
	p.SetX(margin + 6)
	p.SetFont("sans", "B", 8.5)
	p.MultiCell(p.width()-6, 5, c.Title+": "+p.verdict(c.Verdict), "", "L", false)
	p.SetFont("sans", "", 7.5)
	if c.Value != nil && c.Limit != nil {
		bound := map[string]string{"max": p.words.Say("at most "), "min": p.words.Say("at least ")}[c.Sense]
		p.MultiCell(p.width()-6, 4, p.amount(*c.Value, c.Unit)+"; "+bound+p.amount(*c.Limit, c.Unit), "", "L", false)
	}
	p.MultiCell(p.width()-6, 4, c.Summary, "", "L", false)
	p.SetLeftMargin(margin)
	p.SetX(margin)
	for _, s := range c.Steps {
		work := s.Formula
		if s.With != "" {
			work += ": " + s.With
		}
		p.step(s.Symbol, work, p.amount(s.Value, s.Unit), s.Source)
	}
	p.SetFont("sans", "", 6.5)
	sources := []string{}
	for _, s := range c.Sources {
		sources = append(sources, s.Ref)
	}
	for _, a := range []struct {
		name string
		list []string
	}{{p.words.Say("Assumed: "), c.Assumed}, {p.words.Say("Missing: "), c.Missing}, {p.words.Say("By: "), sources}} {
		if len(a.list) > 0 {
			p.SetX(margin + 6)
			p.MultiCell(p.width()-6, 3.4, a.name+strings.Join(a.list, "; "), "", "L", false)
		}
	}
	p.Ln(1.5)
}

// step writes one step of a working in four columns that wrap together.
func (p *pack) step(cells ...string) {
	const lead = 3.4
	shares := []float64{30, 84, 22, 38}
	p.SetFont("sans", "", 6.5)
	scale := (p.width() - 6) / 174
	lines, most := make([][]string, len(cells)), 1
	for i, s := range cells {
		lines[i] = p.SplitText(s, shares[i]*scale-1)
		most = max(most, len(lines[i]))
	}
	p.keep(lead * float64(most))
	p.SetTextColor(74, 88, 83)
	y, x := p.GetY(), margin+6
	for i := range cells {
		for n, l := range lines[i] {
			p.SetXY(x, y+float64(n)*lead)
			p.CellFormat(shares[i]*scale, lead, l, "", 0, map[int]string{2: "R"}[i], false, 0, "")
		}
		x += shares[i] * scale
		if i == 2 {
			x += 2
		}
	}
	p.SetXY(margin, y+lead*float64(most))
	p.SetTextColor(22, 33, 30)
}
