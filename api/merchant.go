package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/store"
)

// buyer carries orders to the merchant, asks how they stand, and brings delivery notes back. An order is sent under its own id until the merchant has
// it, and asked about until all of it was delivered.
type buyer struct {
	*wire
	store *store.Store
}

// round takes one order that is due and moves it on.
func (b *buyer) round(ctx context.Context) (worked bool, err error) {
	d, err := b.store.TakeDueOrder(ctx)
	if d == nil || err != nil {
		return false, err
	}
	var said materials.Confirmation
	var status int
	if d.State == "waiting" {
		status, err = b.call(ctx, http.MethodPost, "/orders", d.Sent, &said)
	} else {
		status, err = b.call(ctx, http.MethodGet, "/orders/"+url.PathEscape(d.ID), nil, &said)
	}
	switch {
	case err != nil:
		return true, b.store.Later(ctx, &d.Sending, err.Error(), b.pause(d.Tries))
	case status == http.StatusNotFound && d.State != "waiting":
		return true, b.store.LostOrder(ctx, d)
	case status >= http.StatusMultipleChoices:
		return true, b.store.Later(ctx, &d.Sending, fmt.Sprintf("the merchant answered %d", status), b.pause(d.Tries))
	}
	if err := said.Check(); err != nil {
		return true, b.bad(ctx, d, err.Error())
	}
	pause := b.poll
	if string(said.State) == d.State {
		pause = b.pause(d.Tries)
	}
	err = b.store.Said(ctx, d, &said, pause)
	if err != nil && ctx.Err() == nil && problemOf(err).Status < http.StatusInternalServerError {
		return true, b.bad(ctx, d, err.Error())
	}
	return true, err
}

func (b *buyer) bad(ctx context.Context, d *store.DueOrder, why string) error {
	return b.wire.bad(ctx, b.store, &d.Sending, why, "Call the merchant")
}

// Merchant answers what may be ordered, how the orders stand, and the delivery notes that came.
func (s *Server) Merchant(c *gin.Context, id Id) {
	l := s.load(c, id)
	if l == nil {
		return
	}
	_, scope := s.who(c)
	sent, err := scope.OrdersOnTheirWay(c, id)
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, MerchantSheet{Connected: s.buyer.url != "", Open: l.OpenOrder(), Sent: sent, Notes: l.Notes(sent)})
}

// AskMerchant asks the merchant for price, stock and day of what is still to be ordered; nothing is kept.
func (s *Server) AskMerchant(c *gin.Context, id Id) {
	var in ChosenProducts
	if err := decode(c, &in); err != nil {
		fail(c, err)
		return
	}
	l := s.load(c, id)
	if l == nil {
		return
	}
	if s.buyer.url == "" {
		fail(c, errNoMerchant)
		return
	}
	order := l.OpenOrder()
	p, err := order.Purchase(l.Job.Words, &l.Job, "", l.Who.Name, in.Products)
	if err != nil {
		fail(c, err)
		return
	}
	body, err := json.Marshal(materials.SentOf(&p))
	if err != nil {
		fail(c, err)
		return
	}
	var said materials.Confirmation
	status, err := s.buyer.call(c, http.MethodPost, "/enquiries", body, &said)
	if err == nil && status >= http.StatusMultipleChoices {
		err = fmt.Errorf("the merchant answered %d", status)
	}
	var offer materials.Offer
	if err == nil {
		offer, err = said.Offer(l.Job.Words, &p, l.Prices, l.Job.Plan.StartDate)
	}
	if err != nil {
		why := err.Error()
		problem(c, Problem{Status: http.StatusBadGateway, Title: "The merchant gives no answer that can be used. Ask again, or call.", Detail: &why})
		return
	}
	reply(c, offer)
}

// errNoMerchant says that orders go nowhere over the wire.
var errNoMerchant = &proving.NotYetError{Why: "No merchant is connected: send the order as a file, or call."}

// Order sends an order to the merchant.
func (s *Server) Order(c *gin.Context, id Id, params OrderParams) {
	var in ChosenProducts
	s.moves(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) (*store.Loaded, error) {
		if s.buyer.url == "" {
			return nil, errNoMerchant
		}
		return scope.Purchase(ctx, who, id, params.IdempotencyKey, in.Products)
	})
}

// WithdrawOrder notes that an order was withdrawn by telephone.
func (s *Server) WithdrawOrder(c *gin.Context, id Id, order string, params WithdrawOrderParams) {
	var in SpokeTo
	s.moves(c, &in, func(ctx context.Context, scope store.Scope, who store.Person) (*store.Loaded, error) {
		return scope.WithdrawOrder(ctx, who, id, params.IdempotencyKey, order, in.With)
	})
}
