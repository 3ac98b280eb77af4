package paper

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/whole"
)

// LabelPitchMM is the width of one module on a rail (DIN 43880): 17.5 mm, plus
// half a millimetre of play.
const LabelPitchMM = 18.0

// label is one piece of the strip: as many modules as its device takes.
type label struct{ head, text, device string }

// strip are the labels of a board from its main switch on: what circuits share, what guards the whole board, and each way.
func (p *pack) strip(b *install.Board) (out []label) {
	j := p.v.Job
	main := label{head: "MAIN", text: p.words.Say("Main switch"),
		device: strings.TrimPrefix(p.known(b.MainSwitchA, "A"), p.words.Say("not recorded"))}
	if i := strings.IndexByte(main.device, ','); i > 0 {
		main.device = main.device[:i]
	}
	out = append(out, main)
	for _, d := range j.Surge.Devices {
		if d.Place != "load" && b.Main() {
			out = append(out, label{head: "SPD", text: p.words.Say("Surge device %s", d.Name), device: p.words.Say("Type %s", d.Type)})
		}
	}
	for _, g := range b.Groups {
		out = append(out, label{head: "RCD", text: g.Name, device: p.words.Say("%s %s mA", g.RCDType, unit.Format(g.IdnMA))})
	}
	here := j.On(b)
	for _, w := range b.Ways {
		l := label{head: fmt.Sprint(w.No), text: w.Label, device: w.Device}
		for _, c := range here {
			if c.Protection.Way == w.No && !c.Protection.OwnEnclosure {
				l.text, l.device = c.Name, c.Protection.Curve+unit.Format(c.Protection.RatingA)
			}
		}
		switch {
		case l.text == "" && l.device == "" && w.Blank:
			l.text = "blank"
		case l.text == "" && l.device == "":
			l.text = p.words.Say("open: to be blanked")
		case l.text == "":
			l.text = p.words.Say("not labelled")
		}
		out = append(out, l)
	}
	return out
}

// labels prints the strip of each board at the pitch of its rail, to be cut out.
func (p *pack) labels() {
	if p.terms.Columns == 2 {
		p.directories()
		p.notices()
		return
	}
	p.start(p.words.Say("Board labels, to scale"), false)
	p.line(p.words.Say("Print at 100 %, not fitted to the page. The rule below is 100 mm long: measure it before cutting."))
	p.Ln(4)
	y := p.GetY()
	p.Line(margin, y, margin+100, y)
	for i := range 11 {
		p.Line(margin+float64(i)*10, y-2, margin+float64(i)*10, y)
	}
	p.SetXY(margin, y+1)
	p.SetFont("sans", "", 6)
	p.CellFormat(100, 3, "100 mm", "", 1, "R", false, 0, "")
	p.Ln(5)
	for b := range p.v.Job.EachBoard() {
		p.stripOf(b)
	}
	p.notices()
}

// stripOf draws the strip of a board.
func (p *pack) stripOf(b *install.Board) {
	const high = 30.0
	p.keep(high + 12)
	p.heading(boardNames(b))
	x, y := margin, p.GetY()
	for _, l := range p.strip(b) {
		if x+LabelPitchMM > margin+p.width() {
			x, y = margin, y+high+5
			if y+high > p.foot() {
				p.AddPage()
				y = p.GetY()
			}
		}
		p.Rect(x, y, LabelPitchMM, high, "D")
		p.SetXY(x+0.5, y+1)
		p.SetFont("sans", "B", 9)
		p.CellFormat(LabelPitchMM-1, 4.5, l.head, "", 0, "C", false, 0, "")
		p.into(x+0.5, y+6, LabelPitchMM-1, high-12, l.text, "")
		p.into(x+0.5, y+high-5.5, LabelPitchMM-1, 5, l.device, "B")
		x += LabelPitchMM
	}
	p.SetXY(margin, y+high+8)
}

// into writes text centred into a box, in the largest type from 8 pt down that holds all
// of it.
func (p *pack) into(x, y, w, h float64, text, style string) {
	lines, lead := []string{}, 0.0
	for size := 8.0; size >= 3.5; size -= 0.5 {
		p.SetFont("sans", style, size)
		lines, lead = p.SplitText(text, w), size*0.42
		if float64(len(lines))*lead <= h {
			break
		}
	}
	for i, l := range lines {
		p.SetXY(x, y+float64(i)*lead)
		p.CellFormat(w, lead, l, "", 0, "C", false, 0, "")
	}
}

// directories prints what is on each space of each board, and the stickers of the outlets.
func (p *pack) directories() {
	p.start(p.words.Say("Panel directory and stickers"), false)
	for b := range p.v.Job.EachBoard() {
		p.directory(b)
	}
	p.stickers()
}

// directory prints what is on each space of a board of two columns, odd numbers left and even ones right.
func (p *pack) directory(b *install.Board) {
	j := p.v.Job
	p.SetFont("sans", "B", 10)
	p.MultiCell(p.width(), 5, join(" · ", b.Name, b.Location, j.Site.Address, j.Site.Town, p.date(p.dated())), "", "L", false)
	p.Ln(2)
	spaces := map[int]string{}
	most := 0
	for _, w := range b.Ways {
		most = max(most, w.No)
		if !w.Free() {
			for _, n := range p.terms.WaysOf(w.No, max(w.Poles, 1)) {
				spaces[n] = join("  ", or(w.Label, p.words.Say("not labelled")), w.Device)
			}
		}
	}
	halves := map[int][]string{}
	for _, c := range j.On(b) {
		for _, at := range p.terms.PlacesOf(c) {
			says := join("  ", c.Name, c.Point.Place, unit.With(c.Protection.RatingA, "A"),
				map[bool]string{true: p.words.Say("shared neutral: open both handles")}[c.Protection.Shared.Is])
			if at.Half != install.WholeWay {
				says = string(at.Half) + ": " + says
			}
			halves[at.Way] = append(halves[at.Way], says)
		}
	}
	for n, on := range halves {
		slices.Sort(on)
		spaces[n] = strings.Join(on, " / ")
	}
	for _, w := range b.Ways {
		if spaces[w.No] == "" {
			spaces[w.No] = map[bool]string{true: "blank", false: p.words.Say("open: to be blanked")}[w.Blank]
		}
	}
	const high = 9.0
	half := (p.width() - 4) / 2
	cell := func(x, y float64, n int) {
		p.Rect(x, y, half, high, "D")
		p.SetXY(x+1, y+2)
		p.SetFont("sans", "B", 9)
		p.CellFormat(10, 5, fmt.Sprint(n), "", 0, "C", false, 0, "")
		p.into(x+11, y+1, half-12, high-2, or(spaces[n], p.words.Say("no space")), "")
	}
	for n := 1; n <= most; n += 2 {
		p.keep(high + 1)
		y := p.GetY()
		cell(margin, y, n)
		if n+1 <= most {
			cell(margin+half+4, y, n+1)
		}
		p.SetXY(margin, y+high)
	}
	p.Ln(5)
}

// stickers are those of the outlets.
func (p *pack) stickers() {
	j := p.v.Job
	type sticker struct{ says, where string }
	stickers := []sticker{}
	for i := range p.v.Report.Circuits {
		r := &p.v.Report.Circuits[i]
		c := j.CircuitByID(r.ID)
		for _, b := range r.Boxes {
			box := c.Serves.BoxByID(b.ID)
			for _, l := range b.Labels {
				if box != nil {
					stickers = append(stickers, sticker{l, c.Name + ": " + box.Name})
				}
			}
		}
	}
	if len(stickers) == 0 {
		return
	}
	p.heading(p.words.Say("Stickers of the outlets, to be cut out; below each, the outlet it goes on"))
	const w, h = 56.0, 9.0
	for i, s := range stickers {
		if i%3 == 0 {
			p.keep(h + 9)
		}
		x, y := margin+float64(i%3)*(w+4), p.GetY()
		p.Rect(x, y, w, h, "D")
		p.into(x, y+2, w, 5, s.says, "B")
		p.into(x, y+h+0.5, w, 5, s.where, "")
		p.SetXY(margin, y)
		if i%3 == 2 || i == len(stickers)-1 {
			p.SetXY(margin, y+h+8)
		}
	}
}

// dated is when the papers are of: the signature, or now.
func (p *pack) dated() time.Time {
	if n := len(p.v.Job.Seals); n > 0 {
		return p.v.Job.Seals[n-1].At
	}
	return p.ctx.Now
}

// residuals counts the residual-current devices of the job.
func (p *pack) residuals() int {
	n := 0
	for b := range p.v.Job.EachBoard() {
		n += len(b.Groups)
	}
	for i := range p.v.Job.Circuits {
		c := &p.v.Job.Circuits[i]
		if c.Protection.RCDType != "" && c.Protection.Group == "" {
			n++
		}
		for b := range c.Serves.Boxes {
			if c.Serves.Boxes[b].Device == "gfci" {
				n++
			}
		}
	}
	return n
}

// serves reports whether a circuit of the job is of a use.
func (p *pack) serves(use string) bool {
	for i := range p.v.Job.Circuits {
		if p.v.Job.Circuits[i].Use == install.Use(use) {
			return true
		}
	}
	return false
}

// notices are those that this installation needs, each with where it goes.
func (p *pack) notices() {
	j := p.v.Job
	p.heading(p.words.Say("Notices, each with its place"))
	place := or(join(", ", j.Board.Name, j.Board.Location), p.words.Say("the board"))
	notice := func(where, title, text string) {
		p.keep(28)
		y := p.GetY()
		p.SetFont("sans", "", 7)
		p.CellFormat(p.width(), 4, p.words.Say("At %s:", where), "", 1, "L", false, 0, "")
		p.Rect(margin, y+4.5, 100, 20, "D")
		p.into(margin+2, y+6, 96, 5, title, "B")
		p.into(margin+2, y+11.5, 96, 12, text, "")
		p.SetXY(margin, y+27)
	}
	notice(place, p.words.Say("Main switch"), p.words.Say("Switch off here before any work. The incoming terminals of the main "+
		"switch stay live."))
	if n := p.residuals(); n > 0 {
		notice(place, counted(n, p.words.Say("Residual-current device"), p.words.Say("Residual-current devices")),
			p.words.Say("Press the button marked T every %s. It should switch off at once; switch it on again. If it does not "+
				"switch off, call an electrician.", p.months(p.buttonMonths())))
	}
	if p.serves("ev") {
		notice(p.words.Say("%s and the charge point", place), p.words.Say("Charge point"),
			p.words.Say("Isolate it at its own device before any work on it."))
	}
	if j.Standby.Source != "" || p.serves("infeed") {
		notice(p.words.Say("%s, %s and each point of isolation", place, p.words.Say("the meter")), p.words.Say("Two sources of supply"),
			p.words.Say("Isolate both before any work: %s can feed this installation when the network is off.", or(j.Standby.Source,
				p.words.Say("a source of power"))))
	}
	for _, d := range j.Surge.Devices {
		where := place
		if d.Place == "load" {
			where = p.words.Say("the device")
		}
		notice(where, p.words.Say("Surge device %s", d.Name),
			p.words.Say("Its indicator shows when it is spent: have it exchanged then. Disconnect it before an insulation test."))
	}
	p.endLabels(notice)
	for _, k := range j.Found.Circuits {
		if k.Colours == "old" || k.Colours == "mixed" {
			notice(place, p.words.Say("Wires of two colour codes"),
				p.words.Say("Old and new core colours meet in this installation: identify each conductor before it is touched."))
			break
		}
	}
}

// buttonMonths is how often the owner presses the button.
func (p *pack) buttonMonths() float64 {
	if p.terms.ButtonMonths == nil {
		return 1
	}
	return p.terms.ButtonMonths(&p.v.Job.Schools)
}

func (p *pack) months(n float64) string {
	if n == 1 {
		return p.words.Say("month")
	}
	return p.words.Say("%s months", unit.Format(n))
}

// owner is the page that stays with who lives there.
func (p *pack) owner() {
	j := p.v.Job
	p.start(p.words.Say("For the owner"), false)
	p.line(join(", ", j.Site.Customer, p.words.Say("this page is yours: keep it by %s", or(j.Board.Name, p.words.Say("the board")))) + ".")
	p.heading(p.words.Say("What was done"))
	for i := range j.Circuits {
		p.bullet(p.ofCircuit(&j.Circuits[i]))
	}
	for _, says := range p.left() {
		p.bullet(says)
	}
	for i := range j.Chain.Enclosures {
		if e := &j.Chain.Enclosures[i]; e.New {
			p.bullet(p.words.Say("New: %s.", e.Name))
		}
	}
	if own := p.standby(); own != "" {
		p.bullet(p.words.Say("Standby source: %s.", own))
	}
	for _, d := range j.Surge.Devices {
		p.bullet(p.words.Say("Surge device %s: look at its indicator now and then.", d.Name))
	}
	call := p.words.Say("call an electrician")
	if p.ctx.Company.Phone != "" {
		call = p.words.Say("call %s, %s", p.ctx.Company.Name, p.ctx.Company.Phone)
	}
	if p.residuals() > 0 {
		p.heading(p.words.Say("What to press and when"))
		p.line(p.words.Say("Every %s: press the test button (T) of each residual-current device. It should switch off at once. "+
			"Switch it on again. If it does not switch off, stop using that circuit and call.", p.months(p.buttonMonths())) + " " +
			upper(call) + ".")
		p.Ln(2)
		p.line(p.words.Say("Write the date of each test here:"))
		next := p.dated().In(p.ctx.Location)
		for range 6 {
			next = next.AddDate(0, int(p.buttonMonths()), 0)
			p.pair(p.words.Say("due %s", next.Format("2006-01")), p.words.Say("done on  ______________    by  ______________"))
		}
	}
	p.ownerStops(p.v)
	p.heading(p.words.Say("If something switches off by itself"))
	text := p.words.Say("Unplug or switch off what is on that circuit, then switch the device on once. If it stays on, connect "+
		"one thing after another; if it switches off again, leave it off and %s. Never tape, wedge or bypass it.", call)
	if p.serves("ev") {
		text += p.words.Say(" At the charge point: unplug the vehicle first.")
	}
	p.line(text)
	p.heading(p.words.Say("In danger"))
	p.line(p.words.Say("Switch off at the main switch. Do not touch a damaged cable or anything electrical that is wet. The " +
		"meter, the fuse before it and the cable from the street belong to the network operator: call them when those are hot, " +
		"damaged or smell."))
	if j.Supply.Operator != "" {
		p.line(upper(p.words.Say("the network operator")) + ": " + j.Supply.Operator + ".")
	}
	p.next()
}

// next says when the installation is to be inspected again.
func (p *pack) next() {
	j := p.v.Job
	p.heading(p.words.Say("Next inspection"))
	years := whole.Practice(j).InspectionYears(j.Site.Premises)
	if years == 0 {
		p.line(p.words.Say("The whole installation is to be inspected when local law asks for it, or when those who live there change."))
		return
	}
	due := p.dated().In(p.ctx.Location).AddDate(0, int(years*12), 0)
	p.line(p.words.Say("The whole installation is to be inspected by %s (%s years on), or when those who live there change, "+
		"whichever local law asks; sooner if the inspector advised it.", due.Format(time.DateOnly), unit.Format(years)))
}

// ofCircuit says a circuit to who lives with it.
func (p *pack) ofCircuit(c *install.Circuit) string {
	text := c.Name
	if what := p.terms.Serves[string(c.Use)]; what != "" {
		text += ": " + what
	}
	text += when(", ", c.Point.Place) + when(", ", p.placed(c))
	if amps := p.v.Report.Circuit(c.ID).Summary.DesignA; amps > 0 && c.Serves.Points() <= 1 {
		text += p.words.Say(", draws up to %s", unit.With(unit.Significant(amps, 3), "A"))
	} else {
		text += p.words.Say(", protected at %s", unit.With(c.Protection.RatingA, "A"))
	}
	if c.Point.ManagedA > 0 {
		text += p.words.Say("; it slows down by itself so that the house stays within %s", unit.With(c.Point.ManagedA, "A"))
	}
	return text + "."
}
