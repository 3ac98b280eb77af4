package paper

import (
	_ "embed"
	"fmt"
	"strings"

	"arvelt/core/unit"
	"arvelt/core/whole"
)

// LabelPitchMM is the width of one module on a rail (DIN 43880): 17.5 mm, plus
// half a millimetre of play.
const LabelPitchMM = 18.0

// labels prints the board's strip at the pitch of its rail, to be cut out.
func (p *pack) labels() {
	if p.terms.Columns == 2 {
		p.directory()
		p.notices()
		return
	}
	p.start("Board labels, to scale")
	p.line("Print at 100 %, not fitted to the page. The rule below is 100 mm long: measure it before cutting.")
	p.Ln(4)
	y := p.GetY()
	p.Line(left, y, left+100, y)
	for i := range 11 {
		p.Line(left+float64(i)*10, y-2, left+float64(i)*10, y)
	}
	p.SetXY(left, y+1)
	p.SetFont("sans", "", 6)
	p.CellFormat(100, 3, "100 mm", "", 1, "R", false, 0, "")
	p.Ln(5)
	const high = 26.0
	x, y := left, p.GetY()
	for _, w := range p.v.Job.Board.Ways {
		if x+LabelPitchMM > right {
			x, y = left, y+high+5
			if y+high > foot {
				p.AddPage()
				y = p.GetY()
			}
		}
		label, device := w.Label, w.Device
		for i := range p.v.Job.Circuits {
			if c := &p.v.Job.Circuits[i]; c.Protection.Way == w.No {
				label, device = c.Name, c.Protection.Curve+unit.Format(c.Protection.RatingA)
			}
		}
		if label == "" && device == "" {
			label = "spare"
		}
		p.Rect(x, y, LabelPitchMM, high, "D")
		p.SetXY(x+0.5, y+1)
		p.SetFont("sans", "B", 9)
		p.CellFormat(LabelPitchMM-1, 4.5, fmt.Sprint(w.No), "", 0, "C", false, 0, "")
		p.SetXY(x+0.5, y+6)
		p.SetFont("sans", "", 6)
		lines := p.SplitText(label, LabelPitchMM-2)
		for i, l := range lines[:min(5, len(lines))] {
			p.SetXY(x+0.5, y+6+float64(i)*2.7)
			p.CellFormat(LabelPitchMM-1, 2.7, p.fit(l, LabelPitchMM-1.5), "", 0, "C", false, 0, "")
		}
		p.SetXY(x+0.5, y+high-5)
		p.SetFont("sans", "B", 6.5)
		p.CellFormat(LabelPitchMM-1, 4, p.fit(device, LabelPitchMM-1.5), "", 0, "C", false, 0, "")
		x += LabelPitchMM
	}
	p.SetXY(left, y+high+8)
	p.notices()
}

// directory prints what is on each space of a board of two columns, odd numbers left
// and even ones right, and the stickers of its outlets.
func (p *pack) directory() {
	p.start("Panel directory and stickers")
	spaces := map[int]string{}
	most := 0
	for _, w := range p.v.Job.Board.Ways {
		most = max(most, w.No)
		if w.Label != "" || w.Device != "" {
			for _, n := range p.terms.WaysOf(w.No, max(w.Poles, 1)) {
				spaces[n] = strings.TrimSpace(w.Label + "  " + w.Device)
			}
		}
	}
	for i := range p.v.Job.Circuits {
		c := &p.v.Job.Circuits[i]
		if c.From != "" || c.Protection.Way == 0 {
			continue
		}
		for _, n := range p.terms.WaysOf(c.Protection.Way, max(c.Protection.Poles, 1)) {
			spaces[n] = c.Name + "  " + unit.With(c.Protection.RatingA, "A")
		}
	}
	const high, half = 7.0, 88.0
	cell := func(x, y float64, n int) {
		text := spaces[n]
		if text == "" {
			text = "spare"
		}
		p.Rect(x, y, half, high, "D")
		p.SetXY(x+1, y+1)
		p.SetFont("sans", "B", 9)
		p.CellFormat(10, 5, fmt.Sprint(n), "", 0, "C", false, 0, "")
		p.SetFont("sans", "", 8.5)
		p.CellFormat(half-12, 5, p.fit(text, half-13), "", 0, "L", false, 0, "")
	}
	for n := 1; n <= most; n += 2 {
		p.keep(high + 1)
		y := p.GetY()
		cell(left, y, n)
		if n+1 <= most {
			cell(left+half+4, y, n+1)
		}
		p.SetXY(left, y+high)
	}
	p.Ln(5)
	stickers := []string{}
	for i := range p.v.Report.Circuits {
		for _, b := range p.v.Report.Circuits[i].Boxes {
			stickers = append(stickers, b.Labels...)
		}
	}
	if len(stickers) == 0 {
		return
	}
	p.heading("Stickers of the outlets, to be cut out")
	const w, h = 56.0, 9.0
	for i, s := range stickers {
		if i%3 == 0 {
			p.keep(h + 3)
		}
		x, y := left+float64(i%3)*(w+4), p.GetY()
		p.Rect(x, y, w, h, "D")
		p.SetXY(x, y+2)
		p.SetFont("sans", "B", 9)
		p.CellFormat(w, 5, s, "", 0, "C", false, 0, "")
		p.SetXY(left, y)
		if i%3 == 2 || i == len(stickers)-1 {
			p.SetXY(left, y+h+3)
		}
	}
}

func (p *pack) notices() {
	p.heading("Notices")
	notice := func(title, text string) {
		p.keep(24)
		y := p.GetY()
		p.Rect(left, y, 90, 20, "D")
		p.SetXY(left+2, y+2)
		p.SetFont("sans", "B", 8)
		p.MultiCell(86, 4, title, "", "L", false)
		p.SetX(left + 2)
		p.SetFont("sans", "", 7)
		p.MultiCell(86, 3.6, text, "", "L", false)
		p.SetY(y + 23)
	}
	notice(p.say("Residual-current device"), fmt.Sprintf(p.say("Press the button marked T every %s. It should switch off at once; switch it on again. If it does not switch off, call an electrician."), months(p.buttonMonths())))
	if len(p.v.Job.Circuits) > 0 {
		notice(p.say("Main switch and charge point"), p.say("Isolate both before any work. The incoming terminals of the main switch stay live."))
	}
}

// buttonMonths is how often the owner presses the button: by the practice where it
// says so, else as the job decided.
func (p *pack) buttonMonths() float64 {
	if p.terms.ButtonMonths > 0 {
		return p.terms.ButtonMonths
	}
	return p.v.Job.Schools.RCDMonths
}

func months(n float64) string {
	if n == 1 {
		return "month"
	}
	return unit.Format(n) + " months"
}

func (p *pack) owner() {
	j := p.v.Job
	p.start("For the owner")
	p.line(fmt.Sprintf("%s, this page is yours: keep it by the board.", j.Site.Customer))
	p.heading("What was done")
	for i := range j.Circuits {
		c := &j.Circuits[i]
		from := fmt.Sprintf("%s %d of %s", p.say("way"), c.Protection.Way, j.Board.Name)
		if c.Protection.OwnEnclosure {
			from = "its own enclosure beside " + j.Board.Name
		}
		at := ""
		if c.Point.Place != "" {
			at = " at " + c.Point.Place
		}
		draws := c.Point.DesignA()
		if draws == 0 {
			draws = c.Protection.RatingA
		}
		p.line(fmt.Sprintf("%s%s, on its own circuit from %s. It may draw %s.", c.Name, at, from, unit.With(draws, "A")))
		if c.Point.ManagedA > 0 {
			p.line(fmt.Sprintf("It slows down by itself so that the house stays within %s.", unit.With(c.Point.ManagedA, "A")))
		}
	}
	p.heading("What to press and when")
	p.line(fmt.Sprintf(p.say("Every %s: press the test button (T) of each residual-current device. It should switch off at once. Switch it on again. If it does not switch off, stop using that circuit and call us."), months(p.buttonMonths())))
	p.Ln(2)
	from := p.ctx.Now
	if n := len(j.Seals); n > 0 {
		from = j.Seals[n-1].At
	}
	p.line("Write the date of each test here:")
	next := from.In(p.ctx.Location)
	for range 6 {
		next = next.AddDate(0, int(p.buttonMonths()), 0)
		p.pair("due "+next.Format("January 2006"), "done on  ______________    by  ______________")
	}
	p.heading("If it switches off by itself")
	p.line("Unplug the vehicle, switch the device on once. If it stays on, try the vehicle again; if it switches off again, leave it off and call. Never tape, wedge or bypass it.")
	p.heading("In danger")
	p.line(p.say("Switch off at the main switch. Do not touch a damaged cable or a wet charge point. The meter, the fuse before it and the cable from the street belong to the network operator: call them when those are hot, damaged or smell."))
	p.heading("Next inspection")
	years := unit.Format(whole.Practice(j).InspectionYears(j.Site.Premises)) + " years, or when those who live there change, whichever local law asks"
	p.line("The whole installation is to be inspected after " + years + ", sooner if the inspector advised it.")
}
