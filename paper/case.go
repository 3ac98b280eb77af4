package paper

import (
	"bytes"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/whole"
)

// Case writes the case for the work as a client reads it: what was found, its
// risk in plain words, on which evidence, what would mend it and for how much.
func Case(w io.Writer, v *whole.View, c *survey.Case, ctx Context) error {
	p := newPack(v, ctx)
	p.title(p.words.Say("What we found, and what we advise"))
	p.Ln(2)
	j := v.Job
	p.line(p.words.Say("For %s, %s. Surveyed by %s. Each finding says how it is known; what is only told or suspected is shown "+
		"as something to look into.", j.Site.Customer, strings.Trim(j.Site.Address+", "+j.Site.Town, ", "), ctx.Company.Name))
	if c.Count == 0 {
		p.Ln(4)
		p.line(p.words.Say("Nothing was found that calls for work."))
	}
	for _, s := range c.Sections {
		p.Ln(3)
		if len(s.Findings) > 0 {
			p.room(22 + space(&s.Findings[0])) // a heading is not left behind by what it is over
		}
		p.heading(s.Title)
		p.line(s.Summary)
		for i := range s.Findings {
			p.finding(&s.Findings[i])
		}
	}
	if c.Price != nil {
		p.Ln(3)
		p.heading(p.words.Say("Together"))
		p.line(p.words.Say("What has a price and was not declined: %s, without tax. Prices are ranges until the work is "+
			"agreed in detail.", p.priceRange(c.Price)))
	}
	if c.Unpriced > 0 {
		p.line(p.words.Say("Some findings have no price yet: they are priced when they have been looked into."))
	}
	for i := range j.Rooms {
		if r := &j.Rooms[i]; r.Skipped != "" {
			p.line(join("", p.words.Say("Not seen: "), r.Name, " (", r.Skipped, ")", when(p.words.Say(", to be seen on "), r.Revisit),
				p.words.Say(". Nothing is said of it here.")))
		}
	}
	p.Ln(3)
	p.line(p.words.Say("You decide what is done. What you decline or put off stands in the handover record with your reason, and " +
		"nothing here replaces the duty to report danger at the network operator's equipment."))
	return p.Output(w)
}

func (p *pack) priceRange(r *survey.Price) string {
	if r.High > r.Low {
		return p.words.Say("%s to %s %s", unit.Format(r.Low), unit.Format(r.High), p.ctx.Currency)
	}
	return unit.Format(r.Low) + " " + p.ctx.Currency
}

func (p *pack) finding(f *survey.Finding) {
	p.room(space(f))
	p.Ln(2)
	p.SetFont("sans", "B", 10)
	where := ""
	if f.Where != "" {
		where = " · " + f.Where
	}
	p.MultiCell(p.width(), 5, f.Title+where, "", "L", false)
	line := func(name, text string) {
		if text == "" {
			return
		}
		p.SetFont("sans", "B", 8.5)
		p.CellFormat(34, 4.6, name, "", 0, "L", false, 0, "")
		p.SetFont("sans", "", 8.5)
		p.MultiCell(p.width()-34, 4.6, text, "", "L", false)
	}
	line(p.words.Say("What was seen"), f.Seen)
	line(p.words.Say("What it means"), f.Risk)
	line(p.words.Say("How it is known"), strings.Trim(f.Evidence+", "+f.By+", "+f.At, ", ")+suffix(f.Softened))
	line(p.words.Say("Remedial action"), f.Mend)
	price := p.words.Say("to be priced")
	if f.Price != nil {
		price = p.priceRange(f.Price)
	}
	if f.Covered != "" {
		price = p.words.Say("in the price of %s", f.Covered)
	}
	if f.Shares != "" {
		price = p.words.Say("in the price of “%s”: one piece of work rectifies both", f.Shares)
	}
	line(p.words.Say("Price"), price)
	if f.Decision != "" {
		line(p.words.Say("Your decision"), join(". ", f.Decision+" ("+f.Decided+")", when(p.words.Say("Your reason: "), f.Reason)))
	}
	line(p.words.Say("Who was told"), f.Told)
	line(p.words.Say("Made safe"), f.Safe)
	line(p.words.Say("Rectified"), f.Mended)
	p.pictures(f.Photos)
}

// space is about how much a finding takes, in millimetres.
func space(f *survey.Finding) float64 {
	if len(f.Photos) > 0 {
		return 36 + 48
	}
	return 36
}

// room turns the page when less than so many millimetres are left.
func (p *pack) room(mm float64) {
	if p.GetY() > p.foot()-mm {
		p.AddPage()
	}
}

func suffix(s string) string {
	if s == "" {
		return ""
	}
	return ". " + s
}

// pictures draws up to three in a row, 56 mm wide.
func (p *pack) pictures(hashes []string) {
	if p.ctx.Photo == nil || len(hashes) == 0 {
		return
	}
	if len(hashes) > 3 {
		hashes = hashes[:3]
	}
	p.Ln(1)
	p.room(48)
	y, tallest := p.GetY(), 0.0
	for i, hash := range hashes {
		jpeg, err := p.ctx.Photo(hash)
		if err != nil {
			continue // a file that came without its pictures still has its findings
		}
		info := p.RegisterImageOptionsReader(hash, fpdf.ImageOptions{ImageType: "JPG"}, bytes.NewReader(jpeg))
		if info == nil || info.Width() == 0 {
			continue
		}
		w := 56.0
		h := w * info.Height() / info.Width()
		if h > 44 {
			w, h = 44*info.Width()/info.Height(), 44
		}
		p.ImageOptions(hash, margin+float64(i)*60, y, w, h, false, fpdf.ImageOptions{ImageType: "JPG"}, 0, "")
		tallest = max(tallest, h)
	}
	p.SetY(y + tallest + 2)
}
