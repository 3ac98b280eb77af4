package whole

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/quote"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/working"
)

// QuoteOption is something of a quote that the client takes or declines.
type QuoteOption struct {
	ID   string `json:"id"` // of the circuit, or of the finding
	Name string `json:"name"`
	// Cost is what it adds to the price, contingency and tax with it; High the upper end of a range. Nil where it is not known.
	Cost *float64 `json:"cost"`
	High *float64 `json:"high"`
	// Without is what it means to do without it. Finding: it is something that was found; Danger: people are at risk as it stands.
	Without string `json:"without"`
	Urgency string `json:"urgency"` // of a finding
	Finding bool   `json:"finding"`
	Danger  bool   `json:"danger"`
	// Why is why it is not offered for a price; empty where it is.
	Why string `json:"why"`

	also []string // other findings that the same piece of work mends
}

// OfferState is how an offer stands.
type OfferState string

// How it may stand.
const (
	OfferOpen     OfferState = "open"     // with the client
	OfferExpired  OfferState = "expired"  // nobody answered in time
	OfferMoved    OfferState = "moved"    // the job is no longer what was offered
	OfferAccepted OfferState = "accepted" // by a signature
	OfferDeclined OfferState = "declined"
	OfferReplaced OfferState = "replaced" // by a newer one
)

// Offered is an offer with how it stands.
type Offered struct {
	Offer  install.Record  `json:"offer"`
	Answer *install.Record `json:"answer"`
	State  OfferState      `json:"state"`
	Says   string          `json:"says"`
}

// Agreed is what was agreed as a price, beside what the job comes to now.
type Agreed struct {
	Offer      float64 `json:"offer"`      // of the offer that was accepted, with the options that were taken
	Variations float64 `json:"variations"` // since, that have a price, without tax
	Unpriced   int     `json:"unpriced"`   // variations without one
	Now        float64 `json:"now"`        // of the job as it stands
	// Over is what it comes to beyond the offer and the variations, tax with them; below 0 for less.
	Over float64 `json:"over"`
}

// QuoteSheet is the price of a job, what of it may be declined, what was offered and what was agreed.
type QuoteSheet struct {
	Price   quote.Price   `json:"price"` // without its options
	Options []QuoteOption `json:"options"`
	Offers  []Offered     `json:"offers"` // newest first
	Agreed  *Agreed       `json:"agreed"`
	Used    quote.Used    `json:"used"`
	// Fails is what of the design fails: what mends it is not in the price.
	Fails []materials.Gap `json:"fails"`
	Valid string          `json:"valid"` // until when an offer of today stands
	// Tag is what would be offered now, as one text: another is another offer.
	Tag string `json:"tag"`

	covered []string // findings that nobody has decided on and that the job mends by what it puts in
}

// Decides are the findings that the answer to an option decides, by the ids of their records: none of a circuit, with an empty id those that
// the job mends whatever is taken.
func (s *QuoteSheet) Decides(option string) []string {
	if option == "" {
		return s.covered
	}
	i := slices.IndexFunc(s.Options, func(o QuoteOption) bool { return o.ID == option && o.Finding })
	if i < 0 {
		return nil
	}
	return append([]string{option}, s.Options[i].also...)
}

// QuoteOf makes the price of a job by the company's list and rule.
func QuoteOf(job *install.Job, list map[string]materials.Item, rule install.QuoteRule, by install.Person, now time.Time) QuoteSheet {
	optional := []install.Optional{}
	for _, o := range job.Quote.Optional {
		if k := job.CircuitByID(o.Circuit); k != nil {
			optional = append(optional, o)
		}
	}
	without := func(keep string) *install.Job {
		out := job
		for _, o := range optional {
			if o.Circuit != keep {
				out = Without(out, o.Circuit)
			}
		}
		return out
	}
	base := without("")
	view := Of(base, list, by, now)
	s := QuoteSheet{Price: priceOf(&view, list, rule, now), Options: []QuoteOption{}, Offers: []Offered{},
		Valid: now.AddDate(0, 0, rule.Days()).Format(time.DateOnly)}
	for _, o := range optional {
		k := job.CircuitByID(o.Circuit)
		x := QuoteOption{ID: o.Circuit, Name: k.Name, Without: o.Without, Why: declines(job, o.Circuit)}
		with := Of(without(o.Circuit), list, by, now)
		price := priceOf(&with, list, rule, now)
		if len(price.Lacks) <= len(s.Price.Lacks) {
			cost := round2(price.Sum.Total - s.Price.Sum.Total)
			x.Cost = &cost
		}
		s.Options = append(s.Options, x)
	}
	s.findings(job, list)
	s.Tag = s.tag(job)
	s.offers(job, now)
	full := view
	if base != job {
		full = Of(job, list, by, now)
	}
	s.Fails = failing(&full)
	s.agree(job, list, rule, &full, now)
	s.Used = quote.UsedOf(job, &full.Take, full.Tasks)
	return s
}

// failing are the checks that fail of what the job is about.
func failing(v *View) []materials.Gap {
	out := []materials.Gap{}
	for i := range v.Checks {
		if c := &v.Checks[i]; c.Verdict == working.Fail && !c.Outside {
			out = append(out, materials.Gap{What: v.Job.Whose(c.Circuit) + c.Title + ". " + c.Summary, Sheet: c.Sheet, Leaf: c.Leaf, Circuit: c.Circuit})
		}
	}
	return out
}

func round2(v float64) float64 { return math.Round(v*100) / 100 }

// priceOf is the price of a job as it is looked at.
func priceOf(v *View, list map[string]materials.Item, rule install.QuoteRule, now time.Time) quote.Price {
	return quote.Of(quote.Model{Job: v.Job, Survey: Practice(v.Job).Survey(), Take: &v.Take, Tasks: v.Tasks, Prices: list, Rule: rule,
		Charges: chargesOf(v, list, now)})
}

// ChargeKey is the key of the company's list for what the operator charges for a way to isolate.
func ChargeKey(route string) string { return "charge:" + route }

// chargesOf is what the operator charges for the way in which the supply is made dead.
func chargesOf(v *View, list map[string]materials.Item, now time.Time) []quote.Charge {
	if !v.Job.Trait().Intake || len(v.Tasks) == 0 {
		return nil
	}
	routes := Practice(v.Job).Isolation(v.Job, func(route string) (float64, bool) {
		item, ok := list[ChargeKey(route)]
		return item.Price, ok
	}, now)
	i := slices.IndexFunc(routes, func(r rulebook.IsolationRoute) bool { return r.Chosen })
	switch {
	case i < 0:
		return []quote.Charge{{Title: v.Job.Words.Say("how the supply is made dead is not chosen yet")}}
	case routes[i].Visits == 0:
		return nil
	}
	return []quote.Charge{{Title: routes[i].Title, Cost: routes[i].Charge}}
}

// declines says why a circuit cannot be declined, empty where it can: it is there already, or something rests on it.
func declines(job *install.Job, id string) string {
	k := job.CircuitByID(id)
	if k.State != install.NewCircuit {
		return job.Words.Say("%s is there already: only what the job makes can be declined.", k.Name)
	}
	for i := range job.Circuits {
		if c := &job.Circuits[i]; c.From == id {
			return job.Words.Say("%s hangs on it.", c.Name)
		}
	}
	part, _ := install.PartNamed("circuits/" + id)
	return part.Stays(job)
}

// Without is a job without a circuit that it would make, and without the points of the walk that are on it alone. The job itself is left as it is.
func Without(job *install.Job, id string) *install.Job {
	out := *job
	k := job.CircuitByID(id)
	if k == nil || k.State != install.NewCircuit {
		return &out
	}
	out.Circuits = slices.DeleteFunc(slices.Clone(job.Circuits), func(c install.Circuit) bool { return c.ID == id })
	free := func(b *install.Board) {
		b.Ways = slices.Clone(b.Ways)
		for i := range b.Ways {
			if w := &b.Ways[i]; w.Circuit == id {
				*w = install.Way{No: w.No, Halves: w.Halves}
			}
		}
	}
	free(&out.Board)
	out.Boards = slices.Clone(job.Boards)
	for i := range out.Boards {
		free(&out.Boards[i])
	}
	out.Rooms = slices.Clone(job.Rooms)
	for i := range k.Serves.Boxes {
		box := &k.Serves.Boxes[i]
		room := out.RoomByID(box.Room)
		if room == nil || box.Point == "" {
			continue
		}
		room.Points = slices.Clone(room.Points)
		at := slices.IndexFunc(room.Points, func(p install.RoomPoint) bool { return p.ID == box.Point && p.State == install.New })
		if at < 0 {
			continue
		}
		if room.Points[at].Count--; room.Points[at].Count <= 0 {
			room.Points = slices.Delete(room.Points, at, at+1)
		}
	}
	return &out
}

// findings adds those that nobody has decided on and that somebody is paid for.
func (s *QuoteSheet) findings(job *install.Job, list map[string]materials.Item) {
	shares := map[string][]string{}
	defer func() {
		for i := range s.Options {
			s.Options[i].also = shares[s.Options[i].ID]
		}
	}()
	for _, section := range CaseOf(job, list).Case.Sections {
		for i := range section.Findings {
			f := &section.Findings[i]
			if f.Operator || f.Mended != "" || f.Decision != "" {
				continue
			}
			if f.Covered != "" {
				s.covered = append(s.covered, f.ID)
				continue
			}
			if f.SharesID != "" {
				shares[f.SharesID] = append(shares[f.SharesID], f.ID)
				continue
			}
			x := QuoteOption{ID: f.ID, Name: f.Title, Without: f.Risk, Urgency: f.Urgency, Finding: true, Danger: f.Danger}
			if f.Where != "" {
				x.Name += ", " + f.Where
			}
			if f.Price != nil {
				low, high := s.Price.Gross(f.Price.Low), s.Price.Gross(f.Price.High)
				x.Cost, x.High = &low, &high
			}
			s.Options = append(s.Options, x)
		}
	}
}

// Quoted is what would be offered now, as an offer keeps it.
func (s *QuoteSheet) Quoted(job *install.Job) install.Quoted {
	options := []install.Priced{}
	for _, o := range s.Options {
		if o.Cost == nil || o.Why != "" {
			continue
		}
		line := install.Priced{ID: o.ID, Name: o.Name, Sum: *o.Cost, High: *o.Cost, Without: o.Without}
		if o.High != nil {
			line.High = *o.High
		}
		options = append(options, line)
	}
	return s.Price.Quoted(job.Quote.Note, options)
}

func (s *QuoteSheet) tag(job *install.Job) string {
	raw, err := json.Marshal(s.Quoted(job))
	if err != nil {
		panic(fmt.Sprintf("a quote that cannot be written: %v", err))
	}
	sum := sha256.Sum256(raw)
	return hex.EncodeToString(sum[:8])
}

// offers lists what was offered with how it stands.
func (s *QuoteSheet) offers(job *install.Job, now time.Time) {
	w, today := job.Words, now.Format(time.DateOnly)
	for i := range job.Records {
		r := &job.Records[i]
		switch r.Kind {
		case install.Offer:
			for n := range s.Offers {
				if o := &s.Offers[n]; o.Answer == nil {
					o.State, o.Says = OfferReplaced, w.Say("replaced by a newer one")
				}
			}
			s.Offers = append(s.Offers, Offered{Offer: *r, State: OfferOpen, Says: w.Say("with the client, until %s", r.Valid)})
		case install.QuoteAnswer:
			for n := range s.Offers {
				if o := &s.Offers[n]; o.Offer.ID == r.Subject {
					o.Answer = r
					o.State, o.Says = OfferAccepted, w.Say("accepted by %s on %s", r.Person, r.At.Format(time.DateOnly))
					if r.Path == install.Declined {
						o.State, o.Says = OfferDeclined, w.Say("declined by %s on %s: %s", r.Person, r.At.Format(time.DateOnly), r.Note)
					}
				}
			}
		}
	}
	slices.Reverse(s.Offers)
	if len(s.Offers) == 0 || s.Offers[0].State != OfferOpen {
		return
	}
	switch o := &s.Offers[0]; {
	case o.Offer.Valid < today:
		o.State, o.Says = OfferExpired, w.Say("it stood until %s, and nobody answered: offer it again", o.Offer.Valid)
	case o.Offer.Model != s.Tag:
		o.State, o.Says = OfferMoved, w.Say("the job or the price list has changed since it was offered: offer it again")
	}
}

// agree puts what was agreed beside what the job comes to now.
func (s *QuoteSheet) agree(job *install.Job, list map[string]materials.Item, rule install.QuoteRule, view *View, now time.Time) {
	i := slices.IndexFunc(s.Offers, func(o Offered) bool { return o.State == OfferAccepted })
	if i < 0 {
		return
	}
	a := &Agreed{Now: priceOf(view, list, rule, now).Sum.Total}
	if cost := s.Offers[i].Answer.Cost; cost != nil {
		a.Offer = *cost
	}
	for r := range job.Records {
		if v := &job.Records[r]; v.Kind == install.Variation && v.At.After(s.Offers[i].Answer.At) {
			if v.Cost != nil {
				a.Variations = round2(a.Variations + *v.Cost)
			} else {
				a.Unpriced++
			}
		}
	}
	a.Over = round2(a.Now - a.Offer - s.Price.Gross(a.Variations))
	s.Agreed = a
}

// OfferNow is the record of an offer of what a sheet comes to. The error says what keeps it from being offered.
func (s *QuoteSheet) OfferNow(job *install.Job, note string) (install.Record, error) {
	w, n := job.Words, 1
	for i := range job.Records {
		if job.Records[i].Kind == install.Offer {
			n++
		}
	}
	switch {
	case len(s.Price.Lacks) > 0:
		return install.Record{}, &proving.NotYetError{Why: w.Say("Not all of the price is known, so that nothing is offered: %s", s.Price.Lacks[0].What)}
	case s.Price.Sum.Total <= 0:
		return install.Record{}, &proving.NotYetError{Why: w.Say("There is nothing to offer: the price is 0.")}
	}
	for _, o := range s.Options {
		if !o.Finding && (o.Cost == nil || o.Why != "") {
			return install.Record{}, &proving.NotYetError{Why: w.Say("%s is offered as an option and cannot be: %s", o.Name, o.Why)}
		}
	}
	quoted := s.Quoted(job)
	total := quoted.Total
	return install.Record{Kind: install.Offer, Reference: job.Ref + "-Q" + unit.Text("", n), Valid: s.Valid, Note: note, Cost: &total, Model: s.Tag,
		Quoted: &quoted}, nil
}

// Answer is what a client makes of an offer.
type Answer struct {
	Offer   string   `json:"offer"`
	Path    string   `json:"path"` // accepted or declined
	Person  string   `json:"person"`
	Signed  bool     `json:"signed"`  // on paper, or as drawn
	Drawn   string   `json:"drawn"`   // the signature on a screen; empty where it is on paper
	Witness string   `json:"witness"` // who saw it, where it was declined without a signature
	Note    string   `json:"note"`    // why it was declined, or what was said
	Taken   []string `json:"taken"`   // options that are taken, by id; the others are declined
}

// AnswerNow is the record of an answer to the offer that is with the client, and the options that it declines. The error says what keeps it
// from being taken.
func (s *QuoteSheet) AnswerNow(job *install.Job, a Answer) (r install.Record, declined []install.Priced, err error) {
	w := job.Words
	i := slices.IndexFunc(s.Offers, func(o Offered) bool { return o.Offer.ID == a.Offer })
	switch {
	case i < 0:
		return r, nil, install.Errors{{Field: "answer.offer", Value: a.Offer, Accept: w.Say("an offer of the job")}}
	case s.Offers[i].State == OfferAccepted || s.Offers[i].State == OfferDeclined || s.Offers[i].State == OfferReplaced:
		return r, nil, &proving.NotYetError{Why: w.Say("%s is answered by nobody any more: %s.", s.Offers[i].Offer.Reference, s.Offers[i].Says)}
	case s.Offers[i].State != OfferOpen && a.Path == install.Accepted:
		return r, nil, &proving.NotYetError{Why: w.Say("%s cannot be accepted: %s.", s.Offers[i].Offer.Reference, s.Offers[i].Says)}
	}
	offer := &s.Offers[i].Offer
	r = install.Record{Kind: install.QuoteAnswer, Subject: offer.ID, Path: a.Path, Person: a.Person, Signed: a.Signed || a.Drawn != "", Drawn: a.Drawn,
		Witness: a.Witness, Note: a.Note, Reference: offer.Reference}
	if a.Path != install.Accepted {
		return r, nil, nil
	}
	known, total := map[string]bool{}, offer.Quoted.Total
	for _, line := range offer.Quoted.Options {
		taken := slices.Contains(a.Taken, line.ID)
		known[line.ID], line.Taken = true, &taken
		r.Priced = append(r.Priced, line)
		if taken {
			total += line.Sum
		} else {
			declined = append(declined, line)
		}
	}
	for _, id := range a.Taken {
		if !known[id] {
			return r, nil, install.Errors{{Field: "answer.taken", Value: id, Accept: w.Say("an option of the offer")}}
		}
	}
	total = round2(total)
	r.Cost = &total
	return r, declined, nil
}

// quoteHold says why the work does not begin while a price is with the client or was declined; empty where nothing was offered, or it was accepted.
func quoteHold(job *install.Job) string {
	offer, answer := job.LastOffer()
	switch {
	case offer == nil, answer != nil && answer.Path == install.Accepted:
		return ""
	case answer != nil:
		return job.Words.Say("The quote %s was declined by %s.", offer.Reference, answer.Person)
	}
	return job.Words.Say("The quote %s is with the client: it was not accepted yet.", offer.Reference)
}
