package paper

import (
	"io"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/unit"
	"arvelt/core/whole"
	"arvelt/core/words"
)

// reasons are why agreed points changed, as it is printed.
var reasons = map[string]words.Key{install.Wished: words.Key("wished by the client"), install.FoundOut: words.Key("found during the work"),
	install.Corrected: words.Key("the survey corrected")}

// Variations writes the changes of the points that were agreed, each with what it brings and what it costs, for the client to sign.
func Variations(w io.Writer, v *whole.View, scope *survey.Scope, ctx Context) error {
	p := newPack(v, ctx)
	j := v.Job
	p.start(p.words.Say("Variations"), false)
	p.pair(p.words.Say("Contractor"), ctx.Company.Name)
	p.pair(p.words.Say("Client"), join(", ", j.Site.Customer, j.Site.Phone))
	p.pair(p.words.Say("Site"), join(", ", j.Site.Address, j.Site.Town))
	p.pair(p.words.Say("Job"), j.Ref+" · "+j.Title)
	if scope.Agreed == nil {
		p.line(p.words.Say("The points were not agreed yet: until they are, they are simply edited."))
		return p.Output(w)
	}
	p.line(p.words.Say("The points were agreed by %s on %s. Each change since is listed with what it brings; the work on it begins when it is accepted.",
		scope.Agreed.Person, p.date(scope.Agreed.At)))
	p.line(p.words.Say("Prices are in %s, without tax.", ctx.Currency))
	if len(scope.Variations) == 0 {
		p.line(p.words.Say("There is none."))
	}
	for i := range scope.Variations {
		r := &scope.Variations[i]
		p.keep(34 + 5*float64(len(r.Effects)))
		p.heading(p.words.Say("%d. %s", i+1, p.roomName(r.Room)+": "+r.Note))
		for _, e := range r.Effects {
			p.bullet(e)
		}
		if why := p.reason(r); why != "" {
			p.pair(p.words.Say("Why"), why)
		}
		p.pair(p.words.Say("Price, without tax"), p.priceOf(r))
		p.pair(p.words.Say("Accepted"), p.words.Say("%s, %s, written down by %s", r.Person, p.date(r.At), r.By))
		p.toSign(p.words.Say("Signature"))
	}
	if len(scope.Variations) > 0 {
		sum := unit.Format(scope.Cost) + " " + ctx.Currency
		if scope.Unpriced > 0 {
			sum = p.words.Say("%s, and %d without a price", sum, scope.Unpriced)
		}
		p.heading(p.words.Say("Together"))
		p.pair(p.words.Say("Price, without tax"), sum)
	}
	return p.Output(w)
}

// toSign is a line for a signature and its day.
func (p *pack) toSign(name string) {
	p.Ln(6)
	p.pair(name, "")
	y := p.GetY()
	p.Line(margin+54, y, margin+54+90, y)
	p.Ln(6)
}

// varied lists in the pack what was changed of the points that were agreed.
func (p *pack) varied() {
	scope := survey.ScopeOf(p.v.Job, whole.Practice(p.v.Job).Survey())
	if scope.Agreed == nil {
		return
	}
	p.heading(p.words.Say("Changed since the points were agreed"))
	p.line(p.words.Say("Agreed by %s on %s.", scope.Agreed.Person, p.date(scope.Agreed.At)))
	for i := range scope.Variations {
		r := &scope.Variations[i]
		p.bullet(p.words.Say("%s: %s. Accepted by %s on %s. Price: %s.", p.roomName(r.Room), join(", ", r.Note, p.reason(r)), r.Person, p.date(r.At), p.priceOf(r)))
	}
	if len(scope.Variations) == 0 {
		p.line(p.words.Say("Nothing."))
	}
}

func (p *pack) reason(r *install.Record) string {
	if key, ok := reasons[r.Path]; ok {
		return p.words.Say(string(key))
	}
	return ""
}

func (p *pack) priceOf(r *install.Record) string {
	if r.Cost == nil {
		return p.words.Say("not known when it was accepted")
	}
	return unit.Format(*r.Cost) + " " + p.ctx.Currency
}

func (p *pack) roomName(id string) string {
	if r := p.v.Job.RoomByID(id); r != nil {
		return r.Name
	}
	return p.words.Say("a room that is gone")
}

// later lists what is planned for after the job, and whether what the job leaves suits it.
func (p *pack) later() {
	reports := whole.LaterOf(p.v.Job, nil)
	if len(reports) == 0 {
		return
	}
	p.heading(p.words.Say("Planned for later"))
	for i, r := range reports {
		says := p.words.Say("as far as is known, what this job leaves suits it")
		if !r.Suits {
			says = p.words.Say("to be settled at its visit: ") + p.unsuited(&r)
		}
		l := &p.v.Job.Plan.Later[i]
		p.bullet(join("", r.Name, when(p.words.Say(", from "), l.From), when(p.words.Say(", visit "), l.Visit), ": ", says, when(". ", l.Note)))
	}
}

// unsuited is the first thing that stands against what is planned, or that is not known of it.
func (p *pack) unsuited(r *whole.LaterReport) string {
	for _, e := range r.Effects {
		if e.Kind == survey.Breaks || !e.Known {
			return e.Summary
		}
	}
	return ""
}
