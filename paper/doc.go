package paper

import (
	_ "embed"
	"io"
	"strings"
	"time"
	"unicode"

	"codeberg.org/go-pdf/fpdf"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/words"
	"arvelt/core/working"
)

//go:embed fonts/DejaVuSans.ttf
var regular []byte

//go:embed fonts/DejaVuSans-Bold.ttf
var bold []byte

// Company is who hands the paper over.
type Company struct {
	Name    string
	Address string
	Phone   string
	Licence string
}

// Context is what the paper says beside the job itself.
type Context struct {
	Company  Company
	Currency string
	Photo    func(hash string) ([]byte, error) // nil where pictures are not at hand
	Location *time.Location                    // of the times printed
	Words    map[string]string
	Now      time.Time
}

// The margins of a sheet in millimetres: left, right and top alike, and below what the
// title block takes.
const (
	margin = 15.0
	below  = 35.0
)

// pack is a document in work. Every text goes through [safe], so that nothing that
// somebody typed can keep it from being printed.
type pack struct {
	*fpdf.Fpdf
	v     *whole.View // its job as it stands when the work is done
	gone  []leaver    // the circuits that leave it
	ctx   Context
	terms install.Terms
	words *words.Catalogue
	sheet string
	wide  bool // the page in work lies on its side
}

// newPack begins a document: on Letter where the practice counts in feet, else on A4.
func newPack(v *whole.View, ctx Context) *pack {
	terms := whole.Practice(v.Job).Terms()
	size := "A4"
	if terms.Length.Unit() == "ft" {
		size = "Letter"
	}
	p := &pack{Fpdf: fpdf.New("P", "mm", size, ""), v: v, ctx: ctx, terms: terms, words: v.Job.Words}
	p.stand()
	p.AddUTF8FontFromBytes("sans", "", regular)
	p.AddUTF8FontFromBytes("sans", "B", bold)
	p.SetMargins(margin, margin, margin)
	p.SetAutoPageBreak(true, below)
	p.SetTitle(safe(v.Job.Ref+" "+v.Job.Title), true)
	p.SetCreator("Arvelt", true)
	p.AliasNbPages(allPages)
	p.SetFooterFunc(p.titleBlock)
	return p
}

// safe is a text as the fonts can print it: a character beyond the first plane of Unicode,
// which the font format cannot hold, as an open square, and no control characters.
func safe(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\n':
			return r
		case r == '\t':
			return ' '
		case unicode.IsControl(r), r >= 0xFE00 && r <= 0xFE0F, r == 0x200D, r >= 0x202A && r <= 0x202E, r >= 0x2066 && r <= 0x2069:
			return -1 // joiners, variation marks and marks of direction have no shape of their own
		case r > 0xFFFF, r == unicode.ReplacementChar:
			return '□'
		}
		return r
	}, strings.ToValidUTF8(s, "□"))
}

// CellFormat writes a cell of safe text.
func (p *pack) CellFormat(w, h float64, txt, border string, ln int, align string, fill bool, link int, linkStr string) {
	p.Fpdf.CellFormat(w, h, safe(txt), border, ln, align, fill, link, linkStr)
}

// MultiCell writes safe text over as many lines as it takes.
func (p *pack) MultiCell(w, h float64, txt, border, align string, fill bool) {
	p.Fpdf.MultiCell(w, h, safe(txt), border, align, fill)
}

// GetStringWidth measures safe text.
func (p *pack) GetStringWidth(s string) float64 { return p.Fpdf.GetStringWidth(safe(s)) }

// SplitText breaks safe text into lines.
func (p *pack) SplitText(s string, w float64) []string { return p.Fpdf.SplitText(safe(s), w) }

// width is what can be printed on across the page, foot where the title block's room begins.
func (p *pack) width() float64 {
	w, _ := p.GetPageSize()
	return w - 2*margin
}

func (p *pack) foot() float64 {
	_, h := p.GetPageSize()
	return h - below
}

// Output writes the document.
func (p *pack) Output(w io.Writer) error { return p.Fpdf.Output(w) }

// title begins a sheet with its name.
func (p *pack) title(sheet string) { p.begin(sheet, false) }

// begin begins a sheet, upright or on its side.
func (p *pack) begin(sheet string, wide bool) {
	p.wide = wide
	p.AddPage() // draws the title block of the page before, under its own name
	p.sheet = sheet
	p.SetTextColor(22, 33, 30)
	p.SetFont("sans", "B", 15)
	p.CellFormat(p.width(), 8, sheet, "", 1, "L", false, 0, "")
}

// start begins a sheet of the pack, which says when it is not signed.
func (p *pack) start(sheet string, wide bool) {
	p.begin(sheet, wide)
	if !p.v.Frozen {
		p.SetFont("sans", "B", 9)
		p.SetTextColor(163, 39, 28)
		p.CellFormat(p.width(), 5, p.words.Say("Revision %s is not signed: work in progress.", p.v.Revision), "", 1, "L", false, 0, "")
		p.SetTextColor(22, 33, 30)
	}
	p.Ln(2)
}

// titleBlock draws the same block in the same corner of every sheet.
func (p *pack) titleBlock() {
	j := p.v.Job
	drawn, checked := "", p.words.Say("not yet")
	for _, r := range j.Records {
		if r.Kind == install.Reading && drawn == "" {
			drawn = r.By
		}
	}
	if p.v.Frozen && len(j.Seals) > 0 {
		checked = j.Seals[len(j.Seals)-1].By
	}
	earthing := p.word(string(j.Supply.Earthing))
	if earthing == "" {
		earthing = p.words.Say("not recorded")
	}
	fuse := ""
	if a := p.v.Report.Demand.FuseA; a > 0 { // with the work, where that changes the supply
		fuse = " · " + unit.With(a, "A")
	} else if j.Supply.MainFuseA.Known() {
		fuse = " · " + unit.With(j.Supply.MainFuseA.V(), "A")
	}
	p.SetDrawColor(22, 33, 30)
	p.SetLineWidth(0.25)
	block := p.foot() + 8
	x, share := margin, p.width()/180
	for _, c := range []struct {
		name, text string
		w          float64
	}{
		{p.words.Say("Job and site"), j.Ref + " " + j.Site.Address, 43},
		{p.words.Say("Practice and edition"), p.word(j.Practice) + " · " + j.Edition, 48}, {"Supply", earthing + fuse, 24},
		{"Sheet", strings.ReplaceAll(p.words.Say("%d of {pages}", p.PageNo()), " ", "\u00a0"), 17}, {"Rev.", p.v.Revision, 8},
		{"Tested / signed", initials(drawn) + " / " + checked, 40},
	} {
		w := c.w * share
		p.Rect(x, block, w, 11, "D")
		p.SetXY(x+1, block+1)
		p.SetFont("sans", "", 5.5)
		p.CellFormat(w-2, 2.6, c.name, "", 0, "L", false, 0, "")
		p.small(x+1, block+4, w-2, c.text)
		x += w
	}
	p.SetXY(margin, block+11.6)
	p.SetFont("sans", "", 5.5)
	p.MultiCell(p.width(), 2.5, p.words.Say("%s. Made by Arvelt for %s. This is a working record and not an official certificate "+
		"or form. %s", p.sheet, p.ctx.Company.Name, p.v.Report.Notice), "", "L", false)
}

// allPages stands for the count of pages until that is known.
const allPages = "{pages}"

// small writes text into a box of the title block in up to two lines, in the largest type
// that it fits in.
func (p *pack) small(x, y, w float64, text string) {
	// The count of pages is written last; it is taken for two figures wide.
	text, counts := strings.CutSuffix(text, allPages)
	if counts {
		text += "00"
	}
	lines := []string{}
	size := 7.0
	for ; size > 3.5; size -= 0.5 {
		p.SetFont("sans", "", size)
		if lines = p.SplitText(text, w); len(lines) <= 2 {
			break
		}
	}
	for i, l := range lines {
		p.SetXY(x, y+float64(i)*3)
		if counts && i == len(lines)-1 {
			l = strings.TrimSuffix(l, "00") + allPages
		}
		p.CellFormat(w, 3, l, "", 0, "L", false, 0, "")
	}
}

// AddPage begins a page that lies as the sheet does.
func (p *pack) AddPage() {
	how := "P"
	if p.wide {
		how = "L"
	}
	w, h := p.GetPageSize()
	p.AddPageFormat(how, fpdf.SizeType{Wd: min(w, h), Ht: max(w, h)})
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

func (p *pack) heading(s string) {
	p.keep(16)
	p.Ln(2)
	p.SetFont("sans", "B", 10)
	p.CellFormat(p.width(), 6, s, "B", 1, "L", false, 0, "")
	p.Ln(1)
}

// keep starts a new page unless h mm are left on this one.
func (p *pack) keep(h float64) {
	if p.GetY()+h > p.foot() {
		p.AddPage()
	}
}

// pair writes a name with its text beside it, the two kept together.
func (p *pack) pair(name, text string) {
	const lead = 4.4
	p.SetFont("sans", "", 8)
	w := p.width() - 54
	lines := max(len(p.SplitText(name, 52)), min(len(p.SplitText(text, w)), 8))
	p.keep(lead * float64(lines))
	y, page := p.GetY(), p.PageNo()
	p.SetTextColor(74, 88, 83)
	p.MultiCell(52, lead, name, "", "L", false)
	after := p.GetY()
	p.SetXY(margin+54, y)
	p.SetTextColor(22, 33, 30)
	p.SetLeftMargin(margin + 54)
	p.MultiCell(w, lead, text, "", "L", false)
	p.SetLeftMargin(margin)
	if p.PageNo() == page {
		p.SetXY(margin, max(after, p.GetY()))
	}
	p.SetX(margin)
}

func (p *pack) line(s string) {
	p.SetFont("sans", "", 8)
	p.MultiCell(p.width(), 4.4, s, "", "L", false)
}

// bold writes a line that stands out.
func (p *pack) bold(s string) {
	p.SetFont("sans", "B", 10)
	p.MultiCell(p.width(), 5.4, s, "", "L", false)
}

// bullet writes one line of a list.
func (p *pack) bullet(s string) {
	p.SetFont("sans", "", 8)
	p.keep(4.4 * float64(min(4, len(p.SplitText(s, p.width()-4)))))
	p.CellFormat(4, 4.4, "–", "", 0, "L", false, 0, "")
	p.SetLeftMargin(margin + 4)
	p.MultiCell(p.width()-4, 4.4, s, "", "L", false)
	p.SetLeftMargin(margin)
	p.SetX(margin)
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
		p.Polygon([]fpdf.PointType{{X: x - r, Y: y - r}, {X: x, Y: y - r}, {X: x, Y: y}, {X: x + r, Y: y},
			{X: x + r, Y: y + r}, {X: x - r, Y: y + r}}, "F")
	default:
		p.SetDrawColor(22, 33, 30)
		p.Circle(x, y, r, "D")
	}
	p.SetDrawColor(22, 33, 30)
}

var verdictWords = map[working.Verdict]words.Key{working.Pass: words.Key("pass"), working.Caution: words.Key("caution"),
	working.Fail: words.Key("fail"), working.Unknown: words.Key("not recorded")}

func (p *pack) verdict(v working.Verdict) string { return p.words.Say(string(verdictWords[v])) }

// column is one column of a table: its head and its width, as a share of all.
type column struct {
	name  string
	share float64
}

// row is one row of a table. Verdict is drawn before it where it is not empty; a heading
// goes over all columns.
type row struct {
	heading string
	verdict working.Verdict
	cells   []string
}

// table writes rows under a head that is repeated on every page. Cells wrap, nothing is
// cut, and a row stays together.
func (p *pack) table(columns []column, rows []row) {
	const size, lead, pad = 6.6, 3.2, 0.8
	marked := false
	for _, r := range rows {
		marked = marked || r.verdict != ""
	}
	indent := 0.0
	if marked {
		indent = 5
	}
	sum := 0.0
	for _, c := range columns {
		sum += c.share
	}
	widths := make([]float64, len(columns))
	for i, c := range columns {
		widths[i] = (p.width() - indent) * c.share / sum
	}
	write := func(cells []string, style string) {
		p.SetFont("sans", style, size)
		lines, most := make([][]string, len(cells)), 1
		for i, s := range cells {
			lines[i] = p.SplitText(s, widths[i]-1.2)
			most = max(most, len(lines[i]))
		}
		y, x := p.GetY(), margin+indent
		for i := range cells {
			for n, l := range lines[i] {
				p.SetXY(x, y+pad+float64(n)*lead)
				p.CellFormat(widths[i], lead, l, "", 0, "L", false, 0, "")
			}
			x += widths[i]
		}
		p.SetXY(margin, y+2*pad+float64(most)*lead)
		p.SetLineWidth(0.1)
		p.SetDrawColor(150, 158, 154)
		p.Line(margin, p.GetY(), margin+p.width(), p.GetY())
		p.SetDrawColor(22, 33, 30)
	}
	heads := make([]string, len(columns))
	for i, c := range columns {
		heads[i] = c.name
	}
	write(heads, "B")
	for _, r := range rows {
		p.SetFont("sans", "", size)
		most := 1
		for i, s := range r.cells {
			most = max(most, len(p.SplitText(s, widths[i]-1.2)))
		}
		if h := 2*pad + float64(most)*lead; p.GetY()+h > p.foot() {
			p.AddPage()
			write(heads, "B")
		}
		if r.heading != "" {
			p.SetFont("sans", "B", size+0.6)
			p.CellFormat(p.width(), 5, r.heading, "", 1, "L", false, 0, "")
			continue
		}
		if r.verdict != "" {
			p.mark(r.verdict, margin+2, p.GetY()+pad+lead/2)
		}
		write(r.cells, "")
	}
}

func (p *pack) at(t time.Time) string { return t.In(p.ctx.Location).Format("2006-01-02 15:04") }

func (p *pack) date(t time.Time) string { return t.In(p.ctx.Location).Format(time.DateOnly) }

func (p *pack) word(id string) string {
	if w, ok := p.ctx.Words[id]; ok {
		return w
	}
	return id
}

// length writes metres in the unit that the practice speaks of lengths in.
func (p *pack) length(m float64) string {
	return unit.With(unit.Significant(p.terms.Length.Of(m), 3), p.terms.Length.Unit())
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

// known is a figure with how it came to be known, or that it is not.
func (p *pack) known(f install.Fact, unitName string) string {
	if !f.Known() {
		return p.words.Say("not recorded")
	}
	return join(": ", p.amount(f.V(), unitName)+basis(f.Basis), f.Note)
}

func basis(b install.Basis) string {
	if b == "" {
		b = install.Assumed
	}
	return ", " + string(b)
}

func upper(s string) string {
	if s == "" {
		return ""
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
