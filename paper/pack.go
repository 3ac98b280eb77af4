package paper

import (
	_ "embed"
	"fmt"
	"io"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/working"
)

//go:embed fonts/DejaVuSans.ttf
var regular []byte

//go:embed fonts/DejaVuSans-Bold.ttf
var bold []byte

// Context is what the pack says beside the job itself.
type Context struct {
	Company  string
	Currency string
	Photo    func(hash string) ([]byte, error) // nil where pictures are not at hand
	Location *time.Location                    // of the times printed
	Words    map[string]string
	Now      time.Time
}

// Sheet geometry in millimetres, A4 upright.
const (
	left, right, top, foot = 15.0, 195.0, 15.0, 262.0
	width                  = right - left
	blockTop               = 270.0
)

type pack struct {
	*fpdf.Fpdf
	v     *whole.View
	ctx   Context
	terms install.Terms
	sheet string
}

// Pack writes the handover pack as one PDF: summary, circuits with their
// working, test sheet, board labels to scale and the owner's page. It is no
// official certificate and says so on every sheet.
func Pack(w io.Writer, v *whole.View, ctx Context) error {
	p := newPack(v, ctx)
	p.summary()
	p.circuits()
	p.tests()
	p.labels()
	p.owner()
	return p.Output(w)
}

func newPack(v *whole.View, ctx Context) *pack {
	p := &pack{Fpdf: fpdf.New("P", "mm", "A4", ""), v: v, ctx: ctx, terms: whole.Practice(v.Job).Terms()}
	p.AddUTF8FontFromBytes("sans", "", regular)
	p.AddUTF8FontFromBytes("sans", "B", bold)
	p.SetMargins(left, top, 210-right)
	p.SetAutoPageBreak(true, 297-foot)
	p.SetTitle(v.Job.Ref+" "+v.Job.Title, true)
	p.SetCreator("Arvelt", true)
	p.AliasNbPages("{pages}")
	p.SetFooterFunc(p.titleBlock)
	return p
}

// title begins a sheet with its name.
func (p *pack) title(sheet string) {
	p.AddPage() // draws the title block of the page before, under its own name
	p.sheet = sheet
	p.SetTextColor(22, 33, 30)
	p.SetFont("sans", "B", 15)
	p.CellFormat(width, 8, sheet, "", 1, "L", false, 0, "")
}

// start begins a sheet of the pack, which says when it is not signed.
func (p *pack) start(sheet string) {
	p.title(sheet)
	if !p.v.Frozen {
		p.SetFont("sans", "B", 9)
		p.SetTextColor(163, 39, 28)
		p.CellFormat(width, 5, "Revision "+p.v.Revision+" is not signed: work in progress.", "", 1, "L", false, 0, "")
		p.SetTextColor(22, 33, 30)
	}
	p.Ln(2)
}

// titleBlock draws the same block in the same corner of every sheet.
func (p *pack) titleBlock() {
	j := p.v.Job
	drawn, checked := "", "not yet"
	for _, r := range j.Records {
		if r.Kind == install.Reading && drawn == "" {
			drawn = r.By
		}
	}
	if p.v.Frozen && len(j.Seals) > 0 {
		checked = j.Seals[len(j.Seals)-1].By
	}
	earthing := p.say(j.Supply.Earthing)
	if earthing == "" {
		earthing = "not yet known"
	}
	fuse := ""
	if j.Supply.MainFuseA.Known() {
		fuse = " · " + unit.Format(j.Supply.MainFuseA.V()) + " A"
	}
	p.SetDrawColor(22, 33, 30)
	p.SetLineWidth(0.25)
	x := left
	for _, c := range []struct {
		name, text string
		w          float64
	}{
		{"Job and site", j.Ref + " " + j.Site.Address, 46}, {"Practice and edition", p.word(j.Practice) + " · " + j.Edition, 48}, {"Supply", earthing + fuse, 24},
		{"Sheet", fmt.Sprintf("%d of {pages}", p.PageNo()), 14}, {"Rev.", p.v.Revision, 8}, {"Tested / signed", initials(drawn) + " / " + checked, 40},
	} {
		p.Rect(x, blockTop, c.w, 10, "D")
		p.SetXY(x+1, blockTop+1)
		p.SetFont("sans", "", 5.5)
		p.CellFormat(c.w-2, 3, c.name, "", 0, "L", false, 0, "")
		p.SetXY(x+1, blockTop+4.5)
		p.SetFont("sans", "", 7)
		p.CellFormat(c.w-2, 4, p.fit(c.text, c.w-3), "", 0, "L", false, 0, "")
		x += c.w
	}
	p.SetXY(left, blockTop+11)
	p.SetFont("sans", "", 5.5)
	p.MultiCell(width, 2.6, p.sheet+". Made by Arvelt for "+p.ctx.Company+". This is a working record and not an official certificate or form. "+p.v.Report.Notice, "", "L", false)
}

func initials(name string) string {
	out := ""
	for f := range strings.FieldsSeq(name) {
		out += string([]rune(f)[:1]) + "."
	}
	if out == "" {
		return "–"
	}
	return out
}

// fit shortens text to a width in mm at the current font. The number of pages
// is put in later and is short.
func (p *pack) fit(s string, w float64) string {
	if p.GetStringWidth(strings.ReplaceAll(s, "{pages}", "00")) <= w {
		return s
	}
	r := []rune(s)
	for len(r) > 0 && p.GetStringWidth(string(r)+"…") > w {
		r = r[:len(r)-1]
	}
	return string(r) + "…"
}

func (p *pack) heading(s string) {
	p.keep(16)
	p.Ln(2)
	p.SetFont("sans", "B", 10)
	p.CellFormat(width, 6, s, "B", 1, "L", false, 0, "")
	p.Ln(1)
}

// keep starts a new page unless h mm are left on this one.
func (p *pack) keep(h float64) {
	if p.GetY()+h > foot {
		p.AddPage()
	}
}

func (p *pack) pair(name, text string) {
	p.SetFont("sans", "", 8)
	p.keep(5)
	y := p.GetY()
	p.SetTextColor(74, 88, 83)
	p.MultiCell(52, 4.4, name, "", "L", false)
	after := p.GetY()
	p.SetXY(left+54, y)
	p.SetTextColor(22, 33, 30)
	p.MultiCell(width-54, 4.4, text, "", "L", false)
	p.SetY(max(after, p.GetY()))
}

func (p *pack) line(s string) {
	p.SetFont("sans", "", 8)
	p.MultiCell(width, 4.4, s, "", "L", false)
}

// mark draws a verdict by shape: disc, half disc, notched square, ring.
func (p *pack) mark(v working.Verdict, x, y float64) {
	const r = 1.5
	p.SetLineWidth(0.3)
	switch v {
	case working.Pass:
		p.SetFillColor(28, 107, 94)
		p.Circle(x, y, r, "F")
	case working.Caution:
		p.SetFillColor(138, 95, 0)
		p.SetDrawColor(138, 95, 0)
		p.Circle(x, y, r, "D")
		p.Arc(x, y, r, r, 0, 90, 270, "F")
	case working.Fail:
		p.SetFillColor(163, 39, 28)
		p.Polygon([]fpdf.PointType{{X: x - r, Y: y - r}, {X: x, Y: y - r}, {X: x, Y: y}, {X: x + r, Y: y}, {X: x + r, Y: y + r}, {X: x - r, Y: y + r}}, "F")
	default:
		p.SetDrawColor(22, 33, 30)
		p.Circle(x, y, r, "D")
	}
	p.SetDrawColor(22, 33, 30)
}

var verdictWords = map[working.Verdict]string{working.Pass: "pass", working.Caution: "caution", working.Fail: "fail", working.Unknown: "not yet known"}

func (p *pack) at(t time.Time) string { return t.In(p.ctx.Location).Format("2006-01-02 15:04") }

func (p *pack) word(id string) string {
	if w, ok := p.ctx.Words[id]; ok {
		return w
	}
	return id
}

// say is what the practice calls a thing that the pack has a common word for.
func (p *pack) say(common string) string { return rulebook.Say(p.ctx.Words, common) }

// length writes metres in the unit that the practice speaks of lengths in.
func (p *pack) length(m float64) string {
	return unit.With(p.terms.Length.Of(m), p.terms.Length.Unit())
}

// amount writes a figure; a conductor's size by its trade name where it has one.
func (p *pack) amount(v float64, unitName string) string {
	switch unitName {
	case "mm²":
		return p.terms.Size(v)
	case "m":
		return p.length(v)
	}
	return unit.With(v, unitName)
}

func (p *pack) summary() {
	j := p.v.Job
	p.start("Job summary")
	p.pair("Job", j.Ref+" · "+j.Title)
	p.pair("Customer", j.Site.Customer)
	p.pair("Site", strings.Trim(j.Site.Address+", "+j.Site.Town, ", "))
	p.pair("Practice and edition", p.word(j.Practice)+" · "+j.Edition)
	p.pair("Stage", string(p.v.State.Stage))
	p.heading("Supply")
	p.pair(p.say("Earthing arrangement"), p.say(j.Supply.Earthing))
	p.pair("Declared voltage", unit.With(j.Supply.DeclaredV, "V"))
	for _, f := range supplyFacts(&j.Supply) {
		text := "not yet known"
		if f.fact.Known() {
			text = p.amount(*f.fact.Value, f.unit) + basis(f.fact.Basis)
		}
		name := p.say(upper(f.name))
		if to, bond := strings.CutPrefix(f.name, mainBond); bond {
			name = p.say("Main bond to") + " " + to
		}
		p.pair(name, strings.TrimRight(text+" "+f.fact.Note, " "))
	}
	if j.Supply.NoExtraneous {
		p.pair("Main bonding", "looked for: nothing that needs it")
	}
	d := p.v.Report.Demand
	p.pair("Maximum demand", fmt.Sprintf("%s before, %s with the work, against %s", unit.With(d.BeforeA, "A"), unit.With(d.AfterA, "A"), unit.With(d.FuseA, "A")))
	p.heading("Work")
	for i := range j.Circuits {
		c := &j.Circuits[i]
		text := c.Point.Place + "; " + p.length(c.Route.LengthM()) + " of cable"
		cable := " " + p.word(c.Route.CableType)
		if p.terms.SizeNames != nil { // a trade size names its cable
			cable = ""
		}
		for k := range p.v.Report.Circuits {
			if r := &p.v.Report.Circuits[k]; r.ID == c.ID {
				text = strings.TrimPrefix(c.Point.Place+"; ", "; ") + r.Summary.Conductor + cable + ", " + p.length(c.Route.LengthM()) + "; device " + r.Summary.Device + p.placed(&c.Protection)
			}
		}
		p.pair(c.Name, text)
	}
	for _, r := range j.Current(install.Operator) {
		p.pair(p.say("Network operator"), fmt.Sprintf("%s, reference %s, %s, recorded by %s on %s", r.Path, r.Reference, r.Person, r.By, p.at(r.At)))
	}
	p.heading("Assumed, to be confirmed")
	if len(p.v.Ready.Assumed) == 0 {
		p.line("Nothing in this job rests on an assumed figure.")
	}
	for _, a := range p.v.Ready.Assumed {
		p.line("– " + a)
	}
	p.heading("Readiness and signature")
	for _, i := range p.v.Ready.Items {
		verdict, text := working.Pass, i.Title
		if !i.Ready {
			verdict, text = working.Unknown, i.Title+": "+i.Says+" (waits for "+i.Who+")"
		}
		p.keep(5)
		y := p.GetY()
		p.mark(verdict, left+2, y+2.2)
		p.SetX(left + 6)
		p.SetFont("sans", "", 8)
		p.MultiCell(width-6, 4.4, text, "", "L", false)
	}
	for _, s := range j.Seals {
		p.pair("Revision "+s.Revision, "signed by "+s.By+" ("+s.Role+") on "+p.at(s.At))
		p.pair("Seal", "SHA-256 "+s.Hash)
	}
	if outcome, why := handover.Verify(j); len(j.Seals) > 0 {
		p.pair("Check of the seal", string(outcome)+": "+why)
	}
}

func basis(b install.Basis) string {
	if b == "" {
		b = install.Assumed
	}
	return ", " + string(b)
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// placed says where the device of a circuit stands.
func (p *pack) placed(d *install.Protection) string {
	switch {
	case d.OwnEnclosure:
		return ", in its own enclosure"
	case d.Way > 0:
		return fmt.Sprintf(", %s %d", p.say("way"), d.Way)
	}
	return ""
}

func (p *pack) circuits() {
	p.start("Circuit schedule with working")
	p.heading("The installation")
	for i := range p.v.Report.Job {
		p.check(&p.v.Report.Job[i])
	}
	for i := range p.v.Report.Circuits {
		c := &p.v.Report.Circuits[i]
		s := c.Summary
		p.heading(c.Name)
		says := s.Says
		if says == "" {
			says = fmt.Sprintf("%s · %s · %s · %s design current · R1+R2 %s cold · Zs %s cold, %s hot, limit %s", s.Device, s.Conductor, unit.With(s.LengthM, "m"), unit.With(s.DesignA, "A"), unit.With(s.R1R2Cold, "Ω"), unit.With(s.ZsCold, "Ω"), unit.With(s.ZsHot, "Ω"), unit.With(s.ZsMax, "Ω"))
		}
		p.line(says)
		p.Ln(1)
		for k := range c.Checks {
			p.check(&c.Checks[k])
		}
		if i < len(p.v.Job.Circuits) {
			p.boxes(&p.v.Job.Circuits[i], c.Boxes)
		}
		for _, o := range c.Options {
			if o.Chosen {
				p.pair("Decided: "+o.Title, o.Reason+" "+o.Condition)
			}
		}
	}
}

// boxes lists the outlets of a string: what opens each, and what it wears.
func (p *pack) boxes(c *install.Circuit, boxes []rulebook.BoxReport) {
	for i := range boxes {
		if i >= len(c.Serves.Boxes) {
			return
		}
		text := boxes[i].Says
		if len(boxes[i].Labels) > 0 {
			text += " Wears: " + strings.Join(boxes[i].Labels, ", ") + "."
		}
		p.pair(c.Serves.Boxes[i].Name, text)
	}
}

func (p *pack) check(c *working.Check) {
	p.keep(14)
	y := p.GetY()
	p.mark(c.Verdict, left+2, y+2.4)
	p.SetX(left + 6)
	p.SetFont("sans", "B", 8.5)
	p.CellFormat(110, 5, c.Title+": "+verdictWords[c.Verdict], "", 0, "L", false, 0, "")
	if c.Value != nil && c.Limit != nil {
		p.SetFont("sans", "", 8)
		p.CellFormat(width-116, 5, unit.With(*c.Value, c.Unit)+map[string]string{"max": " ≤ ", "min": " ≥ "}[c.Sense]+unit.With(*c.Limit, c.Unit), "", 0, "R", false, 0, "")
	}
	p.Ln(5)
	p.SetFont("sans", "", 7.5)
	p.SetX(left + 6)
	p.MultiCell(width-6, 4, c.Says, "", "L", false)
	for _, s := range c.Steps {
		p.keep(4)
		p.SetX(left + 6)
		p.SetFont("sans", "", 6.5)
		p.SetTextColor(74, 88, 83)
		work := s.Formula
		if s.With != "" {
			work += ": " + s.With
		}
		p.CellFormat(30, 3.6, p.fit(s.Symbol, 29), "", 0, "L", false, 0, "")
		p.CellFormat(96, 3.6, p.fit(work, 95), "", 0, "L", false, 0, "")
		p.CellFormat(20, 3.6, unit.With(s.Value, s.Unit), "", 0, "R", false, 0, "")
		p.CellFormat(width-152, 3.6, p.fit(s.Source, width-154), "", 1, "R", false, 0, "")
		p.SetTextColor(22, 33, 30)
	}
	p.SetFont("sans", "", 6.5)
	for _, a := range []struct {
		name string
		list []string
	}{{"Assumed: ", c.Assumed}, {"Missing: ", c.Missing}} {
		if len(a.list) > 0 {
			p.SetX(left + 6)
			p.MultiCell(width-6, 3.6, a.name+strings.Join(a.list, "; "), "", "L", false)
		}
	}
	p.Ln(1.5)
}

func (p *pack) tests() {
	p.start("Test sheet")
	p.line("Each reading was typed by a person; the expected figure is computed from the model and was shown only after entry.")
	for _, r := range p.v.Job.Records {
		switch r.Kind {
		case install.Isolation:
			p.pair("Isolation "+p.at(r.At), r.By+": "+r.Source+"; lock and tag "+r.LockTag+"; tester "+r.Tester+" proved before and after; dead: "+strings.Join(r.PairsDead, ", ")+"; stays live: "+r.StillLive)
		case install.Energise:
			p.pair("Permission to energise", r.By+" ("+r.Role+") on "+p.at(r.At)+" "+r.Note)
		}
	}
	p.Ln(2)
	columns := []struct {
		name string
		w    float64
	}{{"", 6}, {"Test", 62}, {"Reading", 24}, {"Expected", 18}, {"Verdict", 22}, {"Instrument, by, when", 48}}
	header := func() {
		p.SetFont("sans", "B", 7.5)
		for _, c := range columns {
			p.CellFormat(c.w, 5, c.name, "B", 0, "L", false, 0, "")
		}
		p.Ln(5.5)
	}
	header()
	for _, r := range p.v.Tests.Rows {
		if p.GetY()+13 > foot {
			p.AddPage()
			header()
		}
		y := p.GetY()
		p.mark(r.Verdict, left+2, y+2)
		text := r.Title
		if r.Circuit != "" {
			text = r.Circuit + " · " + text
		}
		reading, expected, by := "not done", "", ""
		if r.Reading != nil {
			reading = readingText(r.Reading, r.Unit)
			by = strings.TrimPrefix(r.Reading.Instrument+", ", ", ") + r.Reading.By + ", " + p.at(r.Reading.At)
		}
		if r.Expected != nil {
			expected = unit.With(*r.Expected, r.Unit)
		}
		low := y
		x := left + columns[0].w
		p.SetFont("sans", "", 7)
		for i, s := range []string{text, reading, expected, verdictWords[r.Verdict], by} {
			p.SetXY(x, y)
			p.MultiCell(columns[i+1].w, 3.8, s, "", "L", false)
			low = max(low, p.GetY())
			x += columns[i+1].w
		}
		p.SetXY(left+6, low)
		p.SetFont("sans", "", 6)
		p.SetTextColor(74, 88, 83)
		said := r.Says
		for _, e := range r.Earlier {
			said += " Superseded: " + readingText(&e, r.Unit) + " by " + e.By + ", " + p.at(e.At) + "."
		}
		if said != "" {
			p.MultiCell(width-6, 3.2, said, "", "L", false)
		}
		p.SetTextColor(22, 33, 30)
		p.Ln(1.2)
	}
}
