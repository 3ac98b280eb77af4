package api_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/standin/merchant"
	"arvelt/store"
)

// shop is what a person sees of the merchant for a job.
func (c *client) shop(id string) (out api.MerchantSheet) {
	c.Helper()
	c.do("GET", "/api/jobs/"+id+"/merchant", nil).into(c.T, &out)
	return out
}

// orders sends an order of what is chosen, of all that is open where nothing is.
func (c *client) orders(id string, products ...string) install.Purchase {
	c.Helper()
	if products == nil {
		products = []string{}
	}
	a := c.do("POST", "/api/jobs/"+id+"/merchant/orders", put{"products": products})
	require.Equal(c, 200, a.status, a.text)
	all := c.read(id).View.Job.Purchases.Orders
	return all[len(all)-1]
}

// comes waits until an order is in a state, and returns the job then.
func (c *client) comes(id, order string, state install.OrderState) (v api.JobView) {
	c.Helper()
	require.Eventually(c, func() bool {
		v = c.read(id)
		return v.View.Job.Purchases.Order(order).State == state
	}, eventually, tick)
	return v
}

// delivered are the notes that came over the wire, once there are so many.
func (c *client) delivered(id string, n int) (notes []store.MerchantNote) {
	c.Helper()
	require.Eventually(c, func() bool { notes = c.shop(id).Notes; return len(notes) == n }, eventually, tick)
	return notes
}

// counts books a note in as it says.
func (c *client) counts(id string, n *materials.Note) answer {
	c.Helper()
	d := install.Delivery{ID: "d-" + n.Number, Number: n.Number, Merchant: n.Merchant, On: n.On, CountedBy: "Dot Farley"}
	for _, l := range n.Lines {
		d.Lines = append(d.Lines, install.DeliveryLine{Product: l.Product, Name: l.Name, Said: l.Said, Counted: l.Said, Lengths: l.Lengths, Remark: l.Remark})
	}
	return c.do("POST", "/api/jobs/"+id+"/deliveries", d)
}

// The whole way of an order: asked for, sent once, confirmed, delivered, counted against its note. An undo does not call it back, and nothing of it
// is ordered twice.
func TestAnOrderGoesOutAndItsNoteComesIn(t *testing.T) {
	w := serve(t)
	w.merchant.Settle = 10 * time.Millisecond
	dot, remy := w.as("dot"), w.as("remy")
	for practice, ref := range map[string]string{"iec230": "PW-2052", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			v := dot.job(ref)
			sheet := dot.shop(v.Id)
			require.True(t, sheet.Connected)
			require.NotEmpty(t, sheet.Open.Lines)
			chosen := []string{sheet.Open.Lines[0].Product}
			a := dot.do("POST", "/api/jobs/"+v.Id+"/merchant/enquiry", put{"products": []string{}})
			require.Equal(t, 200, a.status, a.text)
			var offer materials.Offer
			a.into(t, &offer)
			require.Len(t, offer.Lines, len(sheet.Open.Lines))
			assert.True(t, offer.Simulated)
			for i, l := range offer.Lines {
				assert.Equal(t, sheet.Open.Lines[i].Count, l.Stock, l.Product)
				require.Len(t, l.Promises, 1, l.Product)
			}
			assert.Empty(t, dot.read(v.Id).View.Job.Purchases.Orders, "nothing of an enquiry is kept")
			a = remy.do("POST", "/api/jobs/"+v.Id+"/merchant/orders", put{"products": chosen})
			assert.Equal(t, http.StatusForbidden, a.status, a.text)
			a = dot.do("POST", "/api/jobs/"+v.Id+"/merchant/orders", put{"products": []string{"ghost"}})
			assert.Equal(t, http.StatusUnprocessableEntity, a.status, a.text)

			received := w.merchant.Received()
			first := dot.orders(v.Id, chosen...)
			rest := dot.orders(v.Id)
			assert.Equal(t, []string{ref + "/1", ref + "/2"}, []string{first.Number, rest.Number})
			assert.Len(t, first.Lines, 1)
			assert.Len(t, rest.Lines, len(sheet.Open.Lines)-1)
			assert.Empty(t, dot.shop(v.Id).Open.Lines, "what is on its way is not open")
			a = dot.do("POST", "/api/jobs/"+v.Id+"/merchant/orders", put{"products": []string{}})
			assert.Contains(t, a.text, "nothing of the list is")
			dot.comes(v.Id, first.ID, install.OrderDelivered)
			v = dot.comes(v.Id, rest.ID, install.OrderDelivered)
			assert.Equal(t, received+2, w.merchant.Received())

			a = dot.do("POST", "/api/jobs/"+v.Id+"/undo", put{})
			assert.NotEqual(t, 200, a.status, "there is nothing of hers to undo")
			a = dot.part(v, install.PurchasesPart, install.Purchases{})
			assert.NotEqual(t, 200, a.status)
			assert.Len(t, dot.read(v.Id).View.Job.Purchases.Orders, 2)

			for _, n := range dot.delivered(v.Id, 2) {
				require.NotNil(t, n.Note, n.Unread)
				for _, l := range n.Note.Lines {
					assert.InDelta(t, l.Open, l.Said, 1e-6, l.Name)
					assert.Empty(t, l.Trouble)
				}
				a = dot.counts(v.Id, n.Note)
				require.Equal(t, 200, a.status, a.text)
				assert.NotEqual(t, 200, dot.counts(v.Id, n.Note).status, "once")
			}
			assert.Empty(t, dot.shop(v.Id).Notes)
			v = dot.read(v.Id)
			for _, l := range sheet.Open.Lines {
				got := lineOf(t, v, l.Product)
				assert.InDelta(t, l.Count, got.Delivered, 1e-6, l.Product)
				assert.InDelta(t, l.Count, got.Placed, 1e-6, l.Product)
				assert.Empty(t, got.Promised, l.Product)
			}
			paid := 0
			for _, u := range dot.quote(v.Id).Used.Parts {
				l := lineOf(t, v, u.Key)
				if u.Paid == nil || l.Price == nil {
					continue
				}
				paid++
				assert.InDelta(t, u.Used**u.Paid-u.Planned**l.Price/l.Order, u.More, 0.006, "%s costs what the merchant confirmed", u.Key)
			}
			assert.Greater(t, paid, 10)
		})
	}
}

// What the merchant does not have, cuts wrong or no longer sells is seen at the office: until when, for what, and before anybody counts it.
func TestWhatAMerchantCannotSendIsSeenBeforeAnybodyTravels(t *testing.T) {
	w := serve(t)
	w.merchant.Settle = 10 * time.Millisecond
	dot, tobias := w.as("dot"), w.as("tobias")
	for practice, x := range map[string]struct{ ref, product string }{"iec230": {"PW-2052", "cable:swa3-90:10"},
		"split120": {"PW-2054", "service-cable:al:4/0"}} {
		t.Run(practice, func(t *testing.T) {
			v := tobias.job(x.ref)
			plan := v.View.Job.Plan
			plan.StartDate = time.Now().AddDate(0, 0, 3).Format(time.DateOnly)
			require.Equal(t, 200, tobias.part(v, "plan", plan).status)
			w.merchant.SetMode(merchant.Gone)
			p := dot.orders(v.Id, x.product)
			v = dot.comes(v.Id, p.ID, install.OrderDelivered)
			l := lineOf(t, v, x.product)
			assert.InDelta(t, 0, l.Placed, 0)
			assert.Contains(t, l.Trouble, "no longer sells it")
			assert.Contains(t, v.View.Take.Troubles, l.Trouble)

			w.merchant.SetMode(merchant.Down)
			p = dot.orders(v.Id, x.product)
			assert.InDelta(t, p.Lines[0].Count, lineOf(t, dot.read(v.Id), x.product).Placed, 1e-6, "it counts whole until the merchant says")
			w.merchant.SetMode(merchant.Partial)
			v = dot.comes(v.Id, p.ID, install.OrderDelivered)
			l = lineOf(t, v, x.product)
			require.Len(t, l.Promised, 2)
			assert.Contains(t, l.Remark, l.Promised[1].On)
			assert.Contains(t, l.Remark, "The work begins on "+plan.StartDate)
			assert.Empty(t, l.Trouble)

			for _, n := range dot.delivered(v.Id, 2) {
				require.NotNil(t, n.Note, n.Unread)
				assert.Contains(t, n.Note.Lines[0].Trouble, "Do not travel", "seen before it is counted")
				require.Equal(t, 200, dot.counts(v.Id, n.Note).status)
			}
			v = dot.read(v.Id)
			l = lineOf(t, v, x.product)
			assert.Contains(t, l.Trouble, "must come in one piece", "two halves are no whole")
			steps := map[string]bool{}
			for _, s := range v.View.Take.Stops {
				steps[s.Step] = true
			}
			assert.True(t, steps[l.Asks[0].Steps[0]], "the step that needs it is closed")
			var goods struct{ Claims []materials.Claimed }
			dot.do("GET", "/api/jobs/"+v.Id+"/goods", nil).into(t, &goods)
			require.Len(t, goods.Claims, 2)
		})
	}
}

// Down, slow or talking nonsense: an order waits, says why, and is there once; one that is withdrawn by telephone may be ordered again.
func TestAnOrderIsNeitherLostNorSentTwice(t *testing.T) {
	w := serve(t)
	w.merchant.Settle = 10 * time.Millisecond
	dot := w.as("dot")
	v := dot.job("PW-2052")
	for _, mood := range []string{merchant.Down, merchant.Slow} {
		w.merchant.SetMode(mood)
		before := w.merchant.Received()
		p := dot.orders(v.Id, dot.shop(v.Id).Open.Lines[0].Product)
		require.Eventually(t, func() bool { return dot.shop(v.Id).Sent[0].Trouble != "" }, eventually, tick)
		assert.Equal(t, "waiting", dot.shop(v.Id).Sent[0].State)
		w.merchant.SetMode(merchant.Smooth)
		dot.comes(v.Id, p.ID, install.OrderDelivered)
		assert.Equal(t, before+1, w.merchant.Received(), mood)
	}
	w.merchant.SetMode(merchant.Refusing)
	product := dot.shop(v.Id).Open.Lines[0].Product
	p := dot.orders(v.Id, product)
	v = dot.comes(v.Id, p.ID, install.OrderRefused)
	assert.InDelta(t, 0, lineOf(t, v, product).Placed, 0)

	w.merchant.SetMode(merchant.Down)
	p = dot.orders(v.Id, product)
	path := "/api/jobs/" + v.Id + "/merchant/orders/" + p.ID + "/withdraw"
	assert.Equal(t, http.StatusUnprocessableEntity, dot.do("POST", path, put{"with": ""}).status)
	assert.Equal(t, http.StatusNotFound, dot.do("POST", "/api/jobs/"+v.Id+"/merchant/orders/none/withdraw", put{"with": "Ilse"}).status)
	a := dot.do("POST", path, put{"with": "Ilse at the counter"})
	require.Equal(t, 200, a.status, a.text)
	assert.NotEqual(t, 200, dot.do("POST", path, put{"with": "Ilse"}).status)
	v = dot.read(v.Id)
	assert.Contains(t, v.View.Job.Purchases.Order(p.ID).Message, "spoke to Ilse at the counter")
	assert.InDelta(t, 0, lineOf(t, v, product).Placed, 0)
	before := w.merchant.Received()
	w.merchant.SetMode(merchant.Smooth)
	p = dot.orders(v.Id, product)
	dot.comes(v.Id, p.ID, install.OrderDelivered)
	assert.Equal(t, before+1, w.merchant.Received(), "the one that was withdrawn is not sent after all")
}

// A merchant's answer that cannot be kept changes nothing, is said, and is no end of the order.
func TestAnAnswerThatCannotBeKeptIsSaid(t *testing.T) {
	var says atomic.Value
	says.Store("")
	other := httptest.NewServer(http.HandlerFunc(func(rw http.ResponseWriter, r *http.Request) {
		text := says.Load().(string)
		if strings.HasPrefix(text, "status ") {
			http.Error(rw, "no", 404)
			return
		}
		fmt.Fprint(rw, text)
	}))
	defer other.Close()
	w := serveOn(t, api.Options{MerchantURL: other.URL, DeskPace: 10 * time.Millisecond})
	dot := w.as("dot")
	v := dot.job("PW-2052")
	product := dot.shop(v.Id).Open.Lines[0].Product
	p := dot.orders(v.Id, product)
	said := func(text, trouble string) {
		t.Helper()
		says.Store(text)
		require.Eventually(t, func() bool { return strings.Contains(dot.shop(v.Id).Sent[0].Trouble, trouble) }, eventually, tick, trouble)
	}
	answer := `{"format":"arvelt-confirmation/1","reference":"X-1","merchant":"Other","state":"confirmed","lines":[%s],"notes":[]}`
	said("<html>", "is not understood")
	said(`{"format":"another/2"}`, "its format")
	said(fmt.Sprintf(answer, `{"product":"ghost"}`), "a product that was ordered")
	said(fmt.Sprintf(answer, `{"product":"`+product+`","sold":true,"promises":[{"count":99999,"on":"2026-12-03"}]}`), "no more than was ordered")
	assert.Equal(t, install.OrderWaiting, dot.read(v.Id).View.Job.Purchases.Order(p.ID).State)
	says.Store(fmt.Sprintf(answer, `{"product":"`+product+`","sold":true,"promises":[{"count":1,"on":"2026-12-03"}]}`))
	v = dot.comes(v.Id, p.ID, install.OrderConfirmed)
	assert.InDelta(t, 1, lineOf(t, v, product).Placed, 0)
	says.Store("status 404")
	v = dot.comes(v.Id, p.ID, install.OrderLost)
	assert.Contains(t, v.View.Job.Purchases.Order(p.ID).Message, "call, with its reference")
	assert.InDelta(t, 0, lineOf(t, v, product).Placed, 0)
}
