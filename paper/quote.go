package paper

import (
	"cmp"
	"fmt"
	"io"
	"strconv"
	"strings"

	"arvelt/core/install"
	"arvelt/core/whole"
)

// Quote writes the price of a job for the client: by piece or by room, what is in it and what is not, what may be declined and what that
// means, and where it is signed. An offer that stands, or was answered, is written as it was made.
func Quote(w io.Writer, v *whole.View, s *whole.QuoteSheet, rooms bool, ctx Context) error {
	p := newPack(v, ctx)
	j, now := v.Job, s.Quoted(v.Job)
	price := &now
	var offered *whole.Offered
	if len(s.Offers) > 0 {
		if o := &s.Offers[0]; o.State == whole.OfferOpen || o.Answer != nil {
			offered, price = o, o.Offer.Quoted
		}
	}
	p.title(p.words.Say("Quote"))
	p.Ln(2)
	p.pair(p.words.Say("Contractor"), join(", ", ctx.Company.Name, ctx.Company.Address, ctx.Company.Phone, ctx.Company.Licence))
	p.pair(p.words.Say("Client"), join(", ", j.Site.Customer, j.Site.Phone))
	p.pair(p.words.Say("Site"), join(", ", j.Site.Address, j.Site.Town))
	p.pair(p.words.Say("Job"), j.Ref+" · "+j.Title)
	switch {
	case offered != nil:
		p.pair(p.words.Say("Number"), offered.Offer.Reference)
		p.pair(p.words.Say("Stands until"), offered.Offer.Valid)
		p.pair(p.words.Say("How it stands"), offered.Says)
	case len(s.Price.Lacks) > 0:
		p.line(p.words.Say("Draft: not all of the price is known, and nothing is offered with it."))
	default:
		p.line(p.words.Say("Draft: it was not offered."))
	}
	p.heading(p.words.Say("What is done"))
	for _, x := range price.Includes {
		p.bullet(x)
	}
	p.pieces(price, rooms)
	p.options(price, offered)
	p.heading(p.words.Say("Not in the price"))
	for _, r := range price.Rest {
		p.bullet(r.What + ", " + p.words.Say(string(install.RestNames[r.Who])))
	}
	if len(price.Rest) == 0 {
		p.line(p.words.Say("Nothing that we know of."))
	}
	p.line(p.words.Say("What turns out different once the work is opened up is a variation: it is priced and accepted before it is done."))
	for _, text := range []string{price.Rule.Pays, price.Note} {
		if text = strings.TrimSpace(text); text != "" {
			p.line(text)
		}
	}
	if offered != nil {
		p.answer(offered)
	}
	return p.Output(w)
}

// pieces is the table of the price, with its sums.
func (p *pack) pieces(price *install.Quoted, rooms bool) {
	list, first := price.Items, p.words.Say("What for")
	if rooms {
		list, first = price.Rooms, p.words.Say("Room")
	}
	p.heading(p.words.Say("The price, in %s", p.ctx.Currency))
	lines := []row{}
	for _, r := range list {
		lines = append(lines, row{cells: []string{r.Name, orDash(r.Parts), orDash(r.Labour), orDash(r.Board), orDash(r.Tests), orDash(r.Others),
			p.upTo(r.Sum, r.High)}})
	}
	p.table([]column{{first, 50}, {p.words.Say("Parts"), 18}, {p.words.Say("Labour"), 18}, {p.words.Say("Board"), 18}, {p.words.Say("Tests"), 18},
		{p.words.Say("Others"), 18}, {p.words.Say("Sum"), 26}}, lines)
	p.line(p.words.Say("Board and Tests are the share of each in the board and in testing. Others: what others charge, plant and allowances."))
	p.pair(p.words.Say("Together"), money(price.Net))
	if price.Contingency != 0 {
		p.pair(p.words.Say("Contingency, %s %%", plain(price.Rule.ContingencyPc)), money(price.Contingency))
	}
	if price.Rule.TaxPc != 0 && price.Rule.TaxOn != install.TaxOnNone {
		p.pair(p.taxName(&price.Rule), money(price.Tax))
	}
	p.Ln(1)
	p.bold(p.words.Say("Price: %s %s", p.upTo(price.Total, price.High), p.ctx.Currency))
}

// upTo is an amount, or a range of it.
func (p *pack) upTo(low, high float64) string {
	if high > low {
		return p.words.Say("%s to %s", money(low), money(high))
	}
	return money(low)
}

// taxName is what the tax is called, with its rate and on what it is.
func (p *pack) taxName(rule *install.QuoteRule) string {
	name := cmp.Or(rule.TaxName, p.words.Say("Tax"))
	if rule.TaxOn == install.TaxOnParts {
		return p.words.Say("%s on parts, %s %%", name, plain(rule.TaxPc))
	}
	return name + ", " + plain(rule.TaxPc) + " %"
}

// options lists what may be taken or declined; of an offer that was answered, what became of each.
func (p *pack) options(price *install.Quoted, o *whole.Offered) {
	lines := price.Options
	if o != nil && o.Answer != nil && len(o.Answer.Priced) > 0 {
		lines = o.Answer.Priced
	}
	if len(lines) == 0 {
		return
	}
	p.heading(p.words.Say("Yours to take or to decline"))
	p.line(p.words.Say("Each adds this to the price, tax with it."))
	for i := range lines {
		l := &lines[i]
		p.keep(16)
		p.SetFont("sans", "B", 8)
		p.MultiCell(p.width(), 4.8, p.taken(l)+l.Name+": + "+p.upTo(l.Sum, l.High)+" "+p.ctx.Currency, "", "L", false)
		p.line(p.words.Say("Without it: ") + l.Without)
	}
}

// taken is the box before an option, ticked as it was decided.
func (p *pack) taken(l *install.Priced) string {
	switch {
	case l.Taken == nil:
		return "☐ "
	case *l.Taken:
		return "☑ "
	}
	return "☒ "
}

// answer is where an offer is signed, or how it was.
func (p *pack) answer(o *whole.Offered) {
	if o.Answer == nil {
		p.keep(60)
		p.heading(p.words.Say("Accepted"))
		p.line(p.words.Say("I accept the quote %s with the options that I have ticked. What I leave unticked I decline; what that means stands beside it.",
			o.Offer.Reference))
		p.toSign(p.words.Say("Name and date"))
		p.toSign(p.words.Say("Signature"))
		return
	}
	a := o.Answer
	p.keep(50)
	p.heading(p.words.Say("Answer"))
	p.pair(p.words.Say("How it stands"), o.Says)
	if a.Cost != nil {
		p.pair(p.words.Say("Agreed price"), money(*a.Cost)+" "+p.ctx.Currency)
	}
	if a.Drawn != "" {
		p.drawn(a.Drawn)
	} else if a.Signed {
		p.line(p.words.Say("Signed on paper."))
	}
}

// quoted lists in the pack what of the offer was declined, with what that means.
func (p *pack) quoted() {
	offer, answer := p.v.Job.LastOffer()
	if answer == nil || answer.Path != install.Accepted {
		return
	}
	p.heading(p.words.Say("Agreed with the quote"))
	p.line(p.words.Say("The quote %s was accepted by %s on %s, signed.", offer.Reference, answer.Person, p.date(answer.At)))
	for i := range answer.Priced {
		l := &answer.Priced[i]
		if *l.Taken {
			p.bullet(p.words.Say("Taken: %s.", l.Name))
		} else {
			p.bullet(p.words.Say("Declined: %s. Without it: %s", l.Name, l.Without))
		}
	}
}

// supplied lists what the client supplied, how it came and who answers for it if it fails.
func (p *pack) supplied() {
	w, j := p.words, p.v.Job
	lines := []string{}
	for i := range p.v.Take.Lines {
		l := &p.v.Take.Lines[i]
		for n := range l.Asks {
			a := &l.Asks[n]
			if a.Brought == nil || a.Brought.By != install.ByClient {
				continue
			}
			answers := w.Say("nobody has agreed who answers for it")
			switch j.Materials.Brought[a.Key].Warranty {
			case install.ByClient:
				answers = w.Say("the client answers for it if it fails")
			case install.ByUs:
				answers = w.Say("the contractor answers for it if it fails")
			}
			lines = append(lines, join("", l.Name, when(", ", a.For), ": ", a.Brought.Says, "; ", answers))
		}
	}
	if len(lines) == 0 {
		return
	}
	p.heading(w.Say("Supplied by the client"))
	for _, line := range lines {
		p.bullet(line)
	}
}

// Size of a signature on paper, mm; it is drawn on 1000 by 400.
const signedW, signedH = 70.0, 28.0

// drawn draws a signature as it was made on a screen.
func (p *pack) drawn(strokes string) {
	x0, y0 := margin, p.GetY()+2
	p.SetLineWidth(0.4)
	for stroke := range strings.SplitSeq(strokes, "M") {
		x, y := 0.0, 0.0
		for i, at := range strings.Split(stroke, "L") {
			var across, down float64
			if _, err := fmt.Sscan(at, &across, &down); err != nil {
				break // nothing before the first stroke
			}
			nx, ny := x0+across/1000*signedW, y0+down/400*signedH
			if i > 0 {
				p.Line(x, y, nx, ny)
			}
			x, y = nx, ny
		}
	}
	p.SetLineWidth(0.2)
	p.SetY(y0 + signedH + 2)
}

// orDash is an amount, a dash for none.
func orDash(v float64) string {
	if v == 0 {
		return "–"
	}
	return money(v)
}

// money is an amount with both its decimals.
func money(v float64) string { return strconv.FormatFloat(v, 'f', 2, 64) }
