package install

import "arvelt/core/words"

// QuoteRule is how a company makes a price of what a job takes.
type QuoteRule struct {
	// MarkupPc is added to the net prices of parts, ContingencyPc to parts and labour; TaxPc is what the tax takes of TaxOn.
	MarkupPc      float64 `json:"markupPc" range:"0..200" unit:"%"`
	ContingencyPc float64 `json:"contingencyPc" range:"0..50" unit:"%"`
	TaxName       string  `json:"taxName" chars:"40"`
	TaxPc         float64 `json:"taxPc" range:"0..50" unit:"%"`
	TaxOn         TaxOn   `json:"taxOn" of:"taxOns?"` // empty for everything
	ValidDays     int     `json:"validDays" range:"0..365" unit:"days" zero:"or 0 for 30"`
	// Rest is what a quote of the company usually leaves to others.
	Rest []Rest `json:"rest" most:"40"`
	Pays string `json:"pays" chars:"400"` // when it is paid, in the company's words
}

// TaxOn is what a tax is reckoned on.
type TaxOn string

// What it is reckoned on.
const (
	TaxOnAll   TaxOn = "all"   // on the whole price, as a tax on value added is
	TaxOnParts TaxOn = "parts" // on the parts alone, as a tax on sales is where labour is free of it
	TaxOnNone  TaxOn = "none"  // the company adds none
)

// TaxOns lists them.
var TaxOns = []TaxOn{TaxOnAll, TaxOnParts, TaxOnNone}

// Days is for how many days a quote by the rule stands.
func (r *QuoteRule) Days() int {
	if r.ValidDays == 0 {
		return 30
	}
	return r.ValidDays
}

// Validate checks the rule. The error is [Errors].
func (r QuoteRule) Validate() error {
	c := &checker{in: "quote."}
	c.bounds(r, &Terms{})
	return c.result()
}

// Quote is what of the price of a job is its own: what its model and the company's list do not say.
type Quote struct {
	// Markup, Contingency and Tax replace the company's, in percent; nil for the company's.
	MarkupPc      *float64 `json:"markupPc" seal:"omitempty" range:"0..200" unit:"%"`
	ContingencyPc *float64 `json:"contingencyPc" seal:"omitempty" range:"0..50" unit:"%"`
	TaxPc         *float64 `json:"taxPc" seal:"omitempty" range:"0..50" unit:"%"`
	Extras        []Extra  `json:"extras" seal:"omitempty" most:"40"`
	Rest          []Rest   `json:"rest" seal:"omitempty" most:"40"`
	// Optional are the circuits that the client may decline.
	Optional []Optional `json:"optional" seal:"omitempty" most:"20"`
	Note     string     `json:"note" seal:"omitempty" chars:"2000"`
}

// Extra is something that is priced by itself.
type Extra struct {
	Kind ExtraKind `json:"kind" of:"extraKinds"`
	What string    `json:"what" chars:"120" needed:"yes"`
	// Cost is what the client is charged for it; nil while nobody knows, which leaves the whole price open.
	Cost *float64 `json:"cost" range:"0..1000000"`
}

// ExtraKind is what an [Extra] is of.
type ExtraKind string

// The kinds of extra.
const (
	OthersCharge ExtraKind = "charge"    // of the operator, an authority or a laboratory, passed on
	Plant        ExtraKind = "plant"     // hired
	Allowance    ExtraKind = "allowance" // a sum for what nobody can see yet, settled by what it comes to
	OthersWork   ExtraKind = "trade"     // of another trade that the company brings
)

// ExtraKinds lists them.
var ExtraKinds = []ExtraKind{OthersCharge, Plant, Allowance, OthersWork}

// Rest is something that is not in the price, and who does it.
type Rest struct {
	What string  `json:"what" chars:"200" needed:"yes"`
	Who  RestWho `json:"who" of:"restWhos"`
}

// RestWho is who does what is not in the price.
type RestWho string

// Who does it.
const (
	RestClient   RestWho = "client"
	RestTrade    RestWho = "trade"    // another trade, engaged by the client
	RestOperator RestWho = "operator" // the network operator
	RestNobody   RestWho = "nobody"   // it is left as it is
)

// RestWhos lists them, RestNames what they are called, each a message.
var (
	RestWhos  = []RestWho{RestClient, RestTrade, RestOperator, RestNobody}
	RestNames = map[RestWho]words.Key{RestClient: words.Key("by the client"), RestTrade: words.Key("by another trade, engaged by the client"),
		RestOperator: words.Key("by the network operator"), RestNobody: words.Key("left as it is")}
)

// Optional is a circuit that the client may decline.
type Optional struct {
	Circuit string `json:"circuit" chars:"40" needed:"yes"`
	Without string `json:"without" chars:"400" needed:"yes"` // what it means to do without it
}

// Validate checks the job's own of its price. The error is [Errors].
func (q Quote) Validate() error {
	c := &checker{in: "quote."}
	c.bounds(q, &Terms{})
	seen := map[string]bool{}
	for i, o := range q.Optional {
		if seen[o.Circuit] {
			c.say(c.item("optional", i)+"circuit", o.Circuit, c.w.Say("each circuit once"))
		}
		seen[o.Circuit] = true
	}
	return c.result()
}

// Under is the company's rule with what the job has of its own.
func (q *Quote) Under(r QuoteRule) QuoteRule {
	for _, own := range []struct {
		of *float64
		to *float64
	}{{q.MarkupPc, &r.MarkupPc}, {q.ContingencyPc, &r.ContingencyPc}, {q.TaxPc, &r.TaxPc}} {
		if own.of != nil {
			*own.to = *own.of
		}
	}
	return r
}

// Quoted is a price as it was offered: what its paper says.
type Quoted struct {
	Items []Priced `json:"items" most:"400"`
	Rooms []Priced `json:"rooms" most:"400"`
	// Options are what may be declined, or taken beside.
	Options     []Priced  `json:"options" most:"100"`
	Net         float64   `json:"net" range:"0..1000000000"`
	Contingency float64   `json:"contingency" range:"0..1000000000"`
	Tax         float64   `json:"tax" range:"0..1000000000"`
	Total       float64   `json:"total" range:"0..1000000000"`
	High        float64   `json:"high" range:"0..1000000000"`
	Includes    []string  `json:"includes" most:"400" chars:"4000"`
	Rest        []Rest    `json:"rest" most:"200"`
	Rule        QuoteRule `json:"rule"`
	Note        string    `json:"note" chars:"2000"`
}

// Priced is one line of a price, in the company's currency. Of an option the sum has contingency and tax in it; of any other it has not.
type Priced struct {
	ID     string  `json:"id" chars:"400"`
	Name   string  `json:"name" chars:"400"`
	Parts  float64 `json:"parts" range:"-1000000000..1000000000"`
	Labour float64 `json:"labour" range:"-1000000000..1000000000"`
	Board  float64 `json:"board" range:"-1000000000..1000000000"`
	Tests  float64 `json:"tests" range:"-1000000000..1000000000"`
	Others float64 `json:"others" range:"-1000000000..1000000000"`
	Sum    float64 `json:"sum" range:"-1000000000..1000000000"`
	High   float64 `json:"high" range:"-1000000000..1000000000"` // upper end where it is a range, else the sum
	Hours  float64 `json:"hours" range:"0..1000000"`             // person-hours on it, without shares
	// Without is what it means to decline an option, Taken what was decided of it.
	Without string `json:"without,omitempty" chars:"4000"`
	Taken   *bool  `json:"taken,omitempty"`
}

// LastOffer is the newest offer of a price and its answer; nil where there is none.
func (j *Job) LastOffer() (offer, answer *Record) {
	for i := range j.Records {
		switch r := &j.Records[i]; {
		case r.Kind == Offer:
			offer, answer = r, nil
		case r.Kind == QuoteAnswer && offer != nil && r.Subject == offer.ID:
			answer = r
		}
	}
	return offer, answer
}
