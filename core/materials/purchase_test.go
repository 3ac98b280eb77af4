package materials

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// purchased is a job with one order over the wire of its cable and glands, as the merchant answered it.
func purchased(t *testing.T, said ...Confirmed) *install.Job {
	t.Helper()
	j := job(12, 6)
	to := of(j, nil)
	order := OrderOf(&to, j, nil, "2026-12-01")
	p, err := order.Purchase(nil, j, "o1", "Dot", []string{"cable:swa3-90:6", "gland:20"})
	require.NoError(t, err)
	require.Len(t, p.Lines, 2)
	c := Confirmation{Format: ConfirmationFormat, ID: "o1", Reference: "S-1", Merchant: "Quay", State: install.OrderConfirmed, Lines: said}
	require.NoError(t, c.Check())
	require.NoError(t, c.Confirm(nil, &p))
	j.Purchases.Orders = []install.Purchase{p}
	return j
}

// What is with the merchant is not ordered again; what the merchant does not send is, and says so until it is.
func TestWhatTheMerchantSendsIsNotOrderedTwice(t *testing.T) {
	j := job(12, 6)
	to := of(j, nil)
	cable := line(t, to, "cable:swa3-90:6").Order
	j = purchased(t, Confirmed{Product: "cable:swa3-90:6", Sold: true, Price: 3.4, Promises: []install.Promise{{Count: cable - 10, On: "2026-12-03"},
		{Count: 10, On: "2026-12-09"}}}, Confirmed{Product: "gland:20", Sold: true, Gone: true, Instead: []string{"gland:20S"}})
	to = of(j, nil)
	l, gland := line(t, to, "cable:swa3-90:6"), line(t, to, "gland:20")
	assert.Equal(t, [2]float64{cable, 0}, [2]float64{l.Placed, gland.Placed})
	assert.Equal(t, "2026-12-09", l.By())
	require.NotNil(t, l.Paid)
	assert.InDelta(t, 3.4, *l.Paid, 1e-9)
	assert.Nil(t, gland.Paid, "nothing of it comes")
	assert.Nil(t, l.Gone)
	require.NotNil(t, gland.Gone)
	assert.Equal(t, []string{"gland:20S"}, gland.Gone.Instead)
	assert.Contains(t, gland.Trouble, "Quay no longer sells it.")
	open := map[string]float64{}
	for _, o := range OrderOf(&to, j, nil, "2026-12-02").Lines {
		open[o.Product] = o.Count
	}
	assert.NotContains(t, open, "cable:swa3-90:6")
	assert.InDelta(t, gland.Order, open["gland:20"], 0, "it may be ordered elsewhere")
	assert.NotContains(t, l.Remark, "nobody travels")
	j.Plan.StartDate = "2026-12-07"
	to = of(j, nil)
	assert.Contains(t, line(t, to, "cable:swa3-90:6").Remark, "The work begins on 2026-12-07")
	// What came is of the first promise: the rest is still promised.
	j.Materials.Lines["cable:swa3-90:6"] = install.Stock{Delivered: cable - 10}
	to = of(j, nil)
	assert.Equal(t, []install.Promise{{Count: 10, On: "2026-12-09"}}, line(t, to, "cable:swa3-90:6").Promised)
	// An order that is off is as if it had not been sent.
	j.Purchases.Orders[0].State = install.OrderWithdrawn
	to = of(j, nil)
	assert.InDelta(t, 0, line(t, to, "cable:swa3-90:6").Placed, 0)
	assert.Nil(t, line(t, to, "gland:20").Gone)
	// One that nobody has answered counts whole.
	j.Purchases.Orders[0].State = install.OrderReceived
	to = of(j, nil)
	assert.InDelta(t, gland.Order, line(t, to, "gland:20").Placed, 0)
}

// An order that is read back is the one that was sent; what nobody asked for, or more than was ordered, is no answer to it.
func TestWhatCannotBeAnAnswerIsNotKept(t *testing.T) {
	j := purchased(t)
	p := j.Purchases.Orders[0]
	sent := SentOf(&p)
	assert.Equal(t, OrderFormat, sent.Format)
	assert.Equal(t, p.Lines[0].Count, sent.Lines[0].Count)
	good := Confirmation{Format: ConfirmationFormat, Reference: "S-1", Merchant: "Quay", State: install.OrderConfirmed}
	for what, spoil := range map[string]func(*Confirmation){
		"format":     func(c *Confirmation) { c.Format = "another/1" },
		"state":      func(c *Confirmation) { c.State = "perhaps" },
		"withdrawn":  func(c *Confirmation) { c.State = install.OrderWithdrawn },
		"reference":  func(c *Confirmation) { c.Reference = " " },
		"text":       func(c *Confirmation) { c.Message = "a\x00b" },
		"long":       func(c *Confirmation) { c.Merchant = string(make([]rune, 301)) },
		"many notes": func(c *Confirmation) { c.Notes = make([]json.RawMessage, 21) },
	} {
		c := good
		spoil(&c)
		assert.Error(t, c.Check(), what)
	}
	for what, lines := range map[string][]Confirmed{
		"not ordered":        {{Product: "ghost"}},
		"more than ordered":  {{Product: "gland:20", Promises: []install.Promise{{Count: 1e4, On: "2026-12-03"}}}},
		"no day":             {{Product: "gland:20", Promises: []install.Promise{{Count: 1, On: "soon"}}}},
		"a price of a house": {{Product: "gland:20", Price: 1e9}},
	} {
		c, next := good, p
		c.Lines = lines
		require.Error(t, c.Confirm(nil, &next), what)
		assert.Equal(t, p, next, "nothing of it is kept")
	}
	to := of(j, nil)
	order := OrderOf(&to, j, nil, "2026-12-01")
	_, err := order.Purchase(nil, j, "o2", "Dot", []string{"ghost"})
	assert.ErrorContains(t, err, "ghost")
	order.Lines = nil
	_, err = order.Purchase(nil, j, "o2", "Dot", nil)
	assert.ErrorContains(t, err, "still to be ordered")
}

// Whether a delivery suffices is said as its note is read, before anybody travels to count it; lengths that were not ordered so are claimed.
func TestANoteIsJudgedBeforeItIsCounted(t *testing.T) {
	to := of(job(12, 6), nil)
	whole := line(t, to, "cable:swa3-90:6").Order
	j := purchased(t, Confirmed{Product: "cable:swa3-90:6", Sold: true, Promises: []install.Promise{{Count: whole, On: "2026-12-03"}}})
	to = of(j, nil)
	read := func(lengths ...float64) NoteLine {
		raw, err := json.Marshal(map[string]any{"format": DeliveryFormat, "number": "S-1-1", "merchant": "Quay", "on": "2026-12-03", "lines": []any{
			map[string]any{"product": "cable:swa3-90:6", "name": "", "count": whole, "unit": "m", "lengths": lengths, "remark": ""}}})
		require.NoError(t, err)
		n, err := ReadNote(raw, &to, j)
		require.NoError(t, err)
		return n.Lines[0]
	}
	assert.Empty(t, read(whole).Trouble)
	assert.Contains(t, read(whole-whole/3, whole/3).Trouble+read(whole/3, whole/3, whole/3).Trouble, "must come in one piece")
	assert.Empty(t, line(t, to, "cable:swa3-90:6").Trouble, "nothing came yet")
	j.Purchases.Orders[0].Lines[0].Lengths = joined([]float64{whole})
	d := install.Delivery{ID: "d1", Number: "S-1-1", Merchant: "Quay", On: "2026-12-03", CountedBy: "Dot", Lines: []install.DeliveryLine{
		{Product: "cable:swa3-90:6", Name: "armoured", Said: whole, Counted: whole, Lengths: "10 + " + exactly(whole-10)}}}
	assert.Contains(t, to.Claim(j, &d), "ordered in lengths of "+exactly(whole))
	d.Lines[0].Lengths = exactly(whole)
	assert.Empty(t, to.Claim(j, &d))
	// What left the list after it was ordered is counted all the same.
	j.Purchases.Orders[0].Lines[1].Product = "gland:25"
	n, err := ReadNote([]byte("product,count\ngland:25,2\n"), &to, j)
	require.NoError(t, err)
	assert.Contains(t, n.Lines[0].Trouble, "No longer on the list")
	require.NoError(t, to.Receive(j, install.Delivery{ID: "d2", CountedBy: "Dot", Lines: []install.DeliveryLine{{Product: "gland:25", Said: 2, Counted: 2}}}))
	assert.InDelta(t, 2, j.Materials.Lines["gland:25"].Delivered, 0)
	to = of(j, nil)
	assert.Contains(t, SurplusOf(&to, j), Surplus{Product: "gland:25", Name: "Gland kit 20", Unit: "pcs", Count: 2}, "it may go into the stock")
	m, _, err := to.LeaveNow(j, Leave{Product: "gland:25", Count: 2, Place: "Van"}, "2026-12-04", "Dot")
	require.NoError(t, err)
	j.Purchases.Left = append(j.Purchases.Left, m)
	assert.NotContains(t, fmt.Sprint(SurplusOf(&to, j)), "gland:25")
}

// What is cut is ordered by its plan, also where the list reckons with more at once; what is under way or came is not ordered again, whether its
// lengths were noted or not.
func TestWhatIsCutIsOrderedByItsPlan(t *testing.T) {
	job := &install.Job{}
	found := 0
	for seed := range uint64(400) {
		rnd := rand.New(rand.NewPCG(seed, 3))
		l := Line{Key: "cable:x", Unit: "m", ByLength: true, packs: []float64{25, 50, 100}}
		for range 20 + rnd.IntN(40) {
			m := 1.5 + float64(rnd.IntN(220))/10
			l.Asks = append(l.Asks, Ask{Need: m, cut: true, byLength: true, pieces: []Piece{{Length: m}}})
		}
		l.count(0)
		plan := l.cutPlan(job, nil)
		assert.LessOrEqual(t, plan.Bought, l.Order, "seed %d", seed)
		if plan.Bought == l.Order {
			continue
		}
		found++
		assert.InDelta(t, plan.Bought, l.rest(job), 0, "seed %d", seed)
		l.Ordered = plan.Bought
		assert.Zero(t, l.rest(job), "seed %d, ordered", seed)
		l.Delivered = plan.Bought
		assert.Zero(t, l.rest(job), "seed %d, it came and nobody noted its lengths", seed)
		for _, p := range plan.Buy {
			l.Lengths = added(l.Lengths, fmt.Sprintf("%d x %v", p.Count, p.Length))
		}
		assert.Zero(t, l.rest(job), "seed %d, it came in its lengths", seed)
	}
	assert.Positive(t, found, "the quick plan is not always the best")
}
