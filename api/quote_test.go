package api_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/quote"
	"arvelt/core/whole"
	"arvelt/core/working"
)

func (c *client) quote(id string) (s whole.QuoteSheet) {
	c.Helper()
	c.do("GET", "/api/jobs/"+id+"/quote", nil).into(c.T, &s)
	return s
}

// priced is a house of a walk with all circuits that are proposed for it, of which every part of the price is known.
func (c *client) priced(ref, practice, like, walk, route string) api.JobView {
	c.Helper()
	v := c.taken(ref, practice, like, walk)
	outage := v.View.Job.Outage
	outage.Route = route
	require.Equal(c, 200, c.part(v, "outage", outage).status)
	require.Empty(c, c.quote(v.Id).Price.Lacks)
	return c.read(v.Id)
}

// optional makes a circuit, by what is in its name, one that the client may decline.
func (c *client) optional(v api.JobView, name string) *install.Circuit {
	c.Helper()
	i := slices.IndexFunc(v.View.Job.Circuits, func(k install.Circuit) bool { return strings.Contains(k.Name, name) })
	require.GreaterOrEqual(c, i, 0, name)
	q := v.View.Job.Quote
	q.Optional = append(q.Optional, install.Optional{Circuit: v.View.Job.Circuits[i].ID, Without: "Water is heated as before."})
	a := c.part(v, "quote", q)
	require.Equal(c, 200, a.status, a.text)
	return &v.View.Job.Circuits[i]
}

func (c *client) offers(id string) install.Record {
	c.Helper()
	a := c.do("POST", "/api/jobs/"+id+"/quote/offers", put{"tag": c.quote(id).Tag, "note": "as we spoke"})
	require.Equal(c, 200, a.status, a.text)
	return c.quote(id).Offers[0].Offer
}

func answers(offer install.Record, path string, taken ...string) put {
	if taken == nil {
		taken = []string{}
	}
	return put{"offer": offer.ID, "path": path, "person": "Oda Brill", "signed": false, "drawn": "M10 20L30 40L900 390", "witness": "", "note": "",
		"taken": taken}
}

func sumOf(rows []quote.Row) (sum float64) {
	for _, r := range rows {
		sum += r.Sum
	}
	return math.Round(sum*100) / 100
}

// A price is built up from parts, hours, the board, tests and the operator's charge, and offered whole; what the client takes and declines with
// a signature is what the job becomes, in both practices.
func TestAPriceIsOfferedAnsweredAndCarried(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct {
		ref, like, walk, route string
		charge                 float64
	}{
		"iec230":   {"PW-9560", "PW-2052", wholeWalk230, "operator-fuse", 95},
		"split120": {"PW-9561", "PW-2054", wholeWalk120, "utility-disconnect", 180},
	} {
		v := c.priced(x.ref, practice, x.like, x.walk, x.route)
		id := v.Id
		c.made(id, put{"kind": "observation", "subject": "label-missing", "path": c.class(v, "soon"), "evidence": "seen", "note": "no chart", "place": "hall"})
		v = c.read(id)
		labels := v.View.Job.Records[len(v.View.Job.Records)-1]
		c.made(id, put{"kind": "observation", "subject": "colours-mixed", "path": c.class(v, "soon"), "evidence": "seen", "note": "both", "place": "attic"})
		v = c.read(id)
		colours := v.View.Job.Records[len(v.View.Job.Records)-1]
		full := c.quote(id)
		heater := c.optional(v, "eater")
		s := c.quote(id)

		for by, rows := range map[string][]quote.Row{"piece": s.Price.Items, "room": s.Price.Rooms} {
			assert.InDelta(t, s.Price.Sum.Net, sumOf(rows), 0.001, by)
		}
		i := slices.IndexFunc(s.Price.Items, func(r quote.Row) bool { return r.Kind == quote.SupplyRow })
		assert.Equal(t, x.charge, s.Price.Items[i].Others, "the operator's charge is in the price")
		require.Len(t, s.Options, 2)
		assert.Less(t, s.Price.Sum.Total, full.Price.Sum.Total)
		assert.InDelta(t, full.Price.Sum.Total-s.Price.Sum.Total, *s.Options[0].Cost, 0.03, "an option is what the job costs more with it")
		assert.False(t, slices.ContainsFunc(s.Price.Items, func(r quote.Row) bool { return r.ID == heater.ID }), "and is not in the price")

		// Nothing holds before it is offered. Once it is, nothing is ordered and nothing begins until it is answered.
		require.Empty(t, holdsOf(v, working.QuoteSheet))
		offer := c.offers(id)
		v = c.read(id)
		assert.Equal(t, []string{"The quote " + x.ref + "-Q1 is with the client: it was not accepted yet."}, holdsOf(v, working.QuoteSheet))
		first := slices.IndexFunc(v.View.Tasks, func(task api.Task) bool { return task.Circuit != "" && task.Stage == install.FirstFix })
		c.held(id, ticks(v.View.Tasks[first].ID, true), 409, "is with the client")

		// What changes afterwards is another price: the old one is not accepted any more.
		site := v.View.Job.Quote
		site.Extras = []install.Extra{{Kind: install.Plant, What: "Tower scaffold", Cost: money(70)}}
		require.Equal(t, 200, c.part(v, "quote", site).status)
		a := c.do("POST", "/api/jobs/"+id+"/quote/answers", answers(offer, install.Accepted, labels.ID))
		assert.Equal(t, 409, a.status, a.text)
		assert.Contains(t, a.text, "has changed since it was offered")
		stale := c.do("POST", "/api/jobs/"+id+"/quote/offers", put{"tag": s.Tag, "note": ""})
		assert.Equal(t, 422, stale.status, "a price that nobody has seen is not offered")
		offer = c.offers(id)
		assert.Equal(t, x.ref+"-Q2", offer.Reference)

		for says, bad := range map[string]put{
			"an option of the offer": answers(offer, install.Accepted, "cellar"),
			"whole numbers":          with(answers(offer, install.Accepted), "drawn", "M1 1<script>"),
			"by a signature":         with(answers(offer, install.Accepted), "drawn", ""),
			"answer.note":            answers(offer, "maybe"),
		} {
			a := c.do("POST", "/api/jobs/"+id+"/quote/answers", bad)
			assert.Equal(t, 422, a.status, says)
		}
		remy := w.as("remy")
		assert.Equal(t, 403, remy.do("POST", "/api/jobs/"+id+"/quote/answers", answers(offer, install.Accepted)).status)

		// Taken: what was found. Declined: the heater.
		price := *s.Options[1].Cost
		points := pointsOf(v)
		a = c.do("POST", "/api/jobs/"+id+"/quote/answers", answers(offer, install.Accepted, labels.ID))
		require.Equal(t, 200, a.status, a.text)
		v = c.read(id)
		s = c.quote(id)
		assert.Equal(t, whole.OfferAccepted, s.Offers[0].State)
		assert.InDelta(t, *offer.Cost+price, s.Agreed.Offer, 0.001)
		assert.InDelta(t, s.Agreed.Offer, s.Agreed.Now, 0.05, "the job is what was agreed")
		assert.Nil(t, v.View.Job.CircuitByID(heater.ID), "what was declined is not done")
		assert.Less(t, pointsOf(v), points, "nor are its points")
		assert.False(t, slices.ContainsFunc(v.View.Take.Lines, func(l api.TakeLine) bool {
			return slices.ContainsFunc(l.Asks, func(a api.TakeAsk) bool { return a.By.Circuit == heater.ID })
		}), "nor is anything bought for it")
		assert.True(t, slices.ContainsFunc(v.View.Tasks, func(task api.Task) bool { return task.ID == "mend-"+labels.ID }), "what was taken is a step")
		assert.True(t, slices.ContainsFunc(v.View.Take.Lines, func(l api.TakeLine) bool { return l.Key == "work:label" }), "and on the list")
		assert.Empty(t, holdsOf(v, working.QuoteSheet))
		assert.Len(t, v.View.Job.Current(install.Scope), 1, "the points are agreed with it")
		for _, d := range v.View.Job.Current(install.Decision) {
			assert.Equal(t, [2]string{install.Accepted, "Oda Brill"}, [2]string{d.Path, d.Person})
			assert.Contains(t, []string{labels.ID, colours.ID}, d.Subject)
		}
		assert.Len(t, v.View.Job.Current(install.Decision), 2, "what one piece of work mends is decided with it")
		room := v.View.Job.Rooms[0]
		room.Points = slices.Clone(room.Points)
		room.Points[0].Count++
		assert.Equal(t, 409, c.part(v, "rooms/"+room.ID, room).status, "what changes now is a variation")
		a = c.do("POST", "/api/jobs/"+id+"/quote/answers", answers(offer, install.Declined))
		assert.Equal(t, 409, a.status, "it is answered once")

		for _, path := range []string{"/quote.pdf", "/quote.pdf?rooms=true", "/pack"} {
			text := strings.Join(strings.Fields(c.pdf("/api/jobs/"+id+path)), " ")
			assert.Contains(t, text, "Oda Brill", path)
			assert.Contains(t, text, heater.Name, path)
			assert.Contains(t, text, "Water is heated as before.", path+": with what it means")
		}
		text := strings.Join(strings.Fields(c.pdf("/api/jobs/"+id+"/quote.pdf")), " ")
		assert.Contains(t, text, fmt.Sprintf("%.2f", s.Agreed.Offer), "the paper is what was signed")
		assert.Contains(t, text, "Tower scaffold")
		assert.Contains(t, text, "Plastering and decorating over chases, by another trade")
		rows := c.do("GET", "/api/jobs/"+id+"/tables/quote", nil)
		assert.Equal(t, 200, rows.status)
		assert.Contains(t, rows.text, "total")
		book := c.do("GET", "/api/jobs/"+id+"/tables/quote?format=xlsx", nil)
		assert.True(t, strings.HasPrefix(book.text, "PK"), "a workbook")
	}
}

// A quote that is declined holds the work, and says why; it can be offered again.
func TestADeclinedQuoteHoldsTheWork(t *testing.T) {
	c := serve(t).as("dot")
	v := c.job("PW-2037")
	offer := c.offers(v.Id)
	a := c.do("POST", "/api/jobs/"+v.Id+"/quote/answers", with(answers(offer, install.Declined), "drawn", ""))
	assert.Equal(t, 422, a.status, "why")
	a = c.do("POST", "/api/jobs/"+v.Id+"/quote/answers", with(answers(offer, install.Declined), "note", "too dear"))
	require.Equal(t, 200, a.status, a.text)
	assert.Equal(t, []string{"The quote PW-2037-Q1 was declined by Oda Brill."}, holdsOf(c.job("PW-2037"), working.QuoteSheet))
	assert.Contains(t, c.quote(v.Id).Offers[0].Says, "too dear")
	assert.Equal(t, "PW-2037-Q2", c.offers(v.Id).Reference)
	assert.Equal(t, whole.OfferDeclined, c.quote(v.Id).Offers[1].State)
}

// Two findings that one piece of work mends are priced once, and not at all where the job brings that piece.
func TestWhatTheJobBringsIsNotPricedTwice(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.job("PW-2052")
	for _, kind := range []string{"combustible-board", "no-free-way"} {
		c.made(v.Id, put{"kind": "observation", "subject": kind, "path": c.class(v, "soon"), "evidence": "measured", "note": kind, "place": "hall"})
		rec := c.read(v.Id).View.Job.Records
		c.made(v.Id, put{"kind": "decision", "subject": rec[len(rec)-1].ID, "path": install.Accepted, "person": "Oda Brill"})
	}
	boards := func() (works, rows int) {
		v := c.read(v.Id)
		for _, l := range v.View.Take.Lines {
			if l.Key == "work:board" {
				works += len(l.Asks)
			}
		}
		for _, r := range c.quote(v.Id).Price.Items {
			if r.Kind == quote.FindingRow && r.Parts > 0 {
				rows++
			}
		}
		return works, rows
	}
	works, rows := boards()
	assert.Equal(t, [2]int{0, 0}, [2]int{works, rows}, "the job puts in a board: PW-2052 has one for the sail loft")
	for _, r := range c.quote(v.Id).Price.Items {
		assert.NotEqual(t, quote.FindingRow, r.Kind, "nor are its hours")
	}
	v = c.read(v.Id)
	for i := range v.View.Job.Boards {
		b := v.View.Job.Boards[i]
		b.New = false
		require.Equal(t, 200, c.part(c.read(v.Id), "boards/"+b.ID, b).status)
	}
	works, rows = boards()
	assert.Equal(t, [2]int{1, 1}, [2]int{works, rows}, "one board mends both")
	text := strings.Join(strings.Fields(c.pdf("/api/jobs/"+v.Id+"/case.pdf")), " ")
	assert.Contains(t, text, "one piece of work rectifies both")
}

// Hours and parts are noted beside what they were priced with: by step and by job.
func TestWhatAJobTookStandsBesideItsPrice(t *testing.T) {
	w := serve(t)
	c := w.as("jana")
	v := c.job("PW-2037")
	step := taskOf(t, v, v.View.Tasks[0].ID)
	before := c.quote(v.Id).Used
	c.made(v.Id, put{"kind": "worked", "subject": step.ID, "value": step.Hours * float64(step.Crew)})
	at := func() quote.UsedTask {
		used := c.quote(v.Id).Used
		return used.Tasks[slices.IndexFunc(used.Tasks, func(u quote.UsedTask) bool { return u.ID == step.ID })]
	}
	assert.False(t, at().Over)
	c.made(v.Id, put{"kind": "worked", "subject": step.ID, "value": 2})
	assert.True(t, at().Over, "over by more than a quarter is said")
	assert.InDelta(t, before.Worked+at().Worked, c.quote(v.Id).Used.Worked, 1e-9)
	c.held(v.Id, put{"kind": "worked", "subject": step.ID, "value": 0}, 422, "person-hours above 0")
	c.held(v.Id, put{"kind": "worked", "subject": "cellar", "value": 1}, 409, "not on this job's plan")

	line := v.View.Take.Lines[0]
	m := v.View.Job.Materials
	m.Lines = map[string]install.Stock{line.Key: {Ordered: line.Order, Delivered: line.Order, Lengths: fmt.Sprint(line.Order), Returned: 4}}
	a := c.part(c.job("PW-2037"), "materials", m)
	require.Equal(t, 200, a.status, a.text)
	m.Lines[line.Key] = install.Stock{Ordered: line.Order, Delivered: 1, Lengths: "1", Returned: 2}
	a = c.part(c.job("PW-2037"), "materials", m)
	assert.Equal(t, 422, a.status, "more than came goes nowhere back")
	parts := c.quote(v.Id).Used.Parts
	p := parts[slices.IndexFunc(parts, func(p quote.UsedPart) bool { return p.Key == line.Key })]
	assert.Equal(t, [3]float64{line.Order, 4, line.Order - 4}, [3]float64{p.Delivered, p.Returned, p.Used})
	assert.InDelta(t, -4**line.Price/line.Order, p.More, 0.006)
}

// A variation of what was agreed is charged as the quote was: with the company's mark-up on its parts.
func TestAVariationIsPricedByTheSameRule(t *testing.T) {
	c := serve(t).as("ines")
	v := c.taken("PW-9562", "iec230", "PW-2052", wholeWalk230)
	ask := func() (cost float64) {
		var seen api.VariationAnswer
		a := c.do("POST", "/api/jobs/"+v.Id+"/variations", put{"room": roomOf(v, "parlour").ID, "text": "light", "accept": false, "person": "",
			"reason": "", "note": ""})
		require.Equal(t, 200, a.status, a.text)
		a.into(t, &seen)
		for _, l := range seen.Change.Lines {
			cost += *l.Cost
		}
		return cost
	}
	withMarkup := ask()
	var k api.Company
	c.do("GET", "/api/company", nil).into(t, &k)
	assert.Equal(t, 18.0, k.Quote.MarkupPc)
	k.Quote.MarkupPc = 0
	a := c.do("PUT", "/api/company", k)
	require.Equal(t, 200, a.status, a.text)
	assert.InDelta(t, ask()*1.18, withMarkup, 0.05)
	k.Quote.MarkupPc = 900
	k.Version++
	a = c.do("PUT", "/api/company", k)
	assert.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "quote.markupPc")
}

// class is a severity class of the practice of a job that is as urgent as that.
func (c *client) class(v api.JobView, urgency string) string {
	c.Helper()
	for _, x := range whole.Practice(v.View.Job).Survey().Classes {
		if x.Urgency == urgency {
			return x.ID
		}
	}
	require.Fail(c, "no class", urgency)
	return ""
}

func money(v float64) *float64 { return &v }

func with(body put, key string, value any) put {
	body[key] = value
	return body
}

func pointsOf(v api.JobView) (n int) {
	for _, r := range v.View.Job.Rooms {
		for _, p := range r.Points {
			n += p.Count
		}
	}
	return n
}

func holdsOf(v api.JobView, sheet working.Sheet) []string {
	out := []string{}
	for _, h := range v.View.State.Holds {
		if h.Sheet == sheet {
			out = append(out, h.What)
		}
	}
	return out
}
