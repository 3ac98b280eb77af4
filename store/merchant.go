package store

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
	"arvelt/core/whole"
)

// OrderOnItsWay is how an order over the wire goes: how often it was tried, and what came of it.
type OrderOnItsWay struct {
	ID      string    `json:"id"`
	State   string    `json:"state"`
	Tries   int       `json:"tries"`
	Trouble string    `json:"trouble"` // why the last try failed
	At      time.Time `json:"at"`
	// Answer is what the merchant said last, nil for nothing.
	Answer *materials.Confirmation `json:"-"`
}

// OpenOrder is what of the job is still to be ordered.
func (l *Loaded) OpenOrder() materials.Order {
	view := l.View()
	return materials.OrderOf(&view.Take, view.Job, l.Prices, l.Now.Format(time.DateOnly))
}

// Purchase puts an order of what is chosen of a job's open lines on its way to the merchant. An undo does not call it back.
func (s Scope) Purchase(ctx context.Context, who Person, id, key string, chosen []string) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		order := l.OpenOrder()
		p, err := order.Purchase(l.Job.Words, &l.Job, uuid.NewString(), who.Name, chosen)
		if err != nil {
			return err
		}
		if err := l.buys("ordered "+p.Number, func(all *install.Purchases) { all.Orders = append(all.Orders, p) }); err != nil {
			return err
		}
		l.title = l.Job.Words.Say("Order %s sent", p.Number)
		_, err = l.tx.Exec(ctx, `INSERT INTO merchant_order (id, company_id, job_id, person_id, sent, created_at, next_try) VALUES ($1, $2, $3, $4, $5,
			$6, $6)`, p.ID, s.CompanyID, id, who.ID, materials.SentOf(&p), s.Now())
		return err
	})
}

// buys changes what a job has ordered, taken and left, for whoever may.
func (l *Loaded) buys(what string, change func(*install.Purchases)) error {
	if err := l.mayEdit(install.PurchasesPart); err != nil {
		return err
	}
	return l.bought(what, change)
}

// bought changes it, whoever it was that ordered: what the merchant answers is kept though that person has left since.
func (l *Loaded) bought(what string, change func(*install.Purchases)) error {
	if l.Job.Frozen() {
		return frozenError(&l.Job)
	}
	l.touched[install.PurchasesPart] = what
	l.Job.Purchases.Orders = slices.Clone(l.Job.Purchases.Orders)
	change(&l.Job.Purchases)
	l.Job.Tidy()
	l.undoing = true // what has gone to the merchant is there
	return l.Job.Purchases.Validate()
}

// WithdrawOrder takes an order back that somebody withdrew by telephone. The error is [install.Errors] or [proving.NotYetError].
func (s Scope) WithdrawOrder(ctx context.Context, who Person, id, key, order, with string) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		w := l.Job.Words
		p := l.Job.Purchases.Order(order)
		switch {
		case p == nil:
			return ErrNotFound
		case with == "" || len(with) > 120:
			return install.Errors{{Field: "with", Value: with, Accept: w.Say("whom you spoke to, in at most 120 characters")}}
		case p.State.Off() || p.State == install.OrderDelivered:
			return &proving.NotYetError{Why: w.Say("There is nothing left of this order to withdraw.")}
		}
		l.title = w.Say("Order %s withdrawn", p.Number)
		err := l.buys("withdrew "+p.Number, func(all *install.Purchases) {
			p := all.Order(order)
			p.State, p.Message = install.OrderWithdrawn, w.Say("Withdrawn by %s, spoke to %s.", who.Name, with)
		})
		if err != nil {
			return err
		}
		_, err = l.tx.Exec(ctx, `UPDATE merchant_order SET state = 'withdrawn', trouble = '' WHERE id = $1`, order)
		return err
	})
}

// OrdersOnTheirWay are the orders of a job as they go, the newest first.
func (s Scope) OrdersOnTheirWay(ctx context.Context, id string) ([]OrderOnItsWay, error) {
	if _, err := uuid.Parse(id); err != nil {
		return nil, ErrNotFound
	}
	rows, err := s.db.Query(ctx, `SELECT id::text, state, tries, trouble, created_at, answer FROM merchant_order WHERE job_id = $1 AND company_id = $2
		ORDER BY created_at DESC, id LIMIT 200`, id, s.CompanyID)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[OrderOnItsWay])
}

// DueOrder is an order that the merchant is to be sent or asked about.
type DueOrder struct {
	Sending
	Sent   json.RawMessage
	Answer *materials.Confirmation
}

var orders = &outbox{table: "merchant_order", company: "company_of_due_order", open: "'waiting', 'received', 'confirmed'", event: "merchant",
	columns: "sent, answer"}

// TakeDueOrder takes the next order whose try is due, for this instance alone; nil when there is none.
func (s *Store) TakeDueOrder(ctx context.Context) (*DueOrder, error) {
	return takeDue(ctx, s, orders, func(d *DueOrder) *Sending { return &d.Sending })
}

// Said keeps what the merchant said of an order: on the job where the order moved, in the name of whoever sent it.
func (s *Store) Said(ctx context.Context, d *DueOrder, c *materials.Confirmation, pause time.Duration) error {
	keep := func(tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `UPDATE merchant_order SET state = $2, answer = $3, trouble = '', next_try = $4 WHERE id = $1 AND state <> 'withdrawn'`,
			d.ID, c.State, c, s.Now().Add(pause))
		return err
	}
	if string(c.State) == d.State {
		return s.moved(ctx, &d.Sending, keep)
	}
	who, err := s.PersonByID(ctx, d.PersonID)
	if err != nil {
		return err
	}
	_, err = s.For(d.CompanyID).Change(ctx, who, d.JobID, "merchant-"+d.ID+"-"+string(c.State), func(l *Loaded) error {
		if err := keep(l.tx); err != nil {
			return err
		}
		p := l.Job.Purchases.Order(d.ID)
		if l.Job.Frozen() || p == nil || p.State == install.OrderWithdrawn {
			return nil // the order itself tells it; a signed revision is not touched
		}
		next := *p
		if err := c.Confirm(l.Job.Words, &next); err != nil {
			return err
		}
		l.title = l.Job.Words.Say("Answer to order %s", p.Number)
		return l.bought("answer to "+p.Number, func(all *install.Purchases) { *all.Order(d.ID) = next })
	})
	return err
}

// LostOrder marks an order that the merchant says it never had, though it had answered before: a person must call.
func (s *Store) LostOrder(ctx context.Context, d *DueOrder) error {
	c := materials.Confirmation{Format: materials.ConfirmationFormat, ID: d.ID, State: install.OrderLost, Lines: []materials.Confirmed{}}
	if d.Answer != nil {
		c.Reference, c.Merchant, c.Simulated = d.Answer.Reference, d.Answer.Merchant, d.Answer.Simulated
	}
	c.Message = "The merchant knows nothing of the order any more: call, with its reference."
	return s.Said(ctx, d, &c, 0)
}

// Notes are the delivery notes of a job that came over the wire and that nobody has booked in.
func (l *Loaded) Notes(sent []OrderOnItsWay) []MerchantNote {
	out := []MerchantNote{}
	view := whole.View{}
	for i := range sent {
		if sent[i].Answer == nil {
			continue
		}
		for _, raw := range sent[i].Answer.Notes {
			if view.Job == nil {
				view = l.View()
			}
			note, err := materials.ReadNote(raw, &view.Take, &l.Job)
			if err != nil {
				out = append(out, MerchantNote{Order: sent[i].ID, Unread: err.Error()})
				continue
			}
			if !l.Job.Materials.Booked(note.Merchant, note.Number) {
				out = append(out, MerchantNote{Order: sent[i].ID, Note: note})
			}
		}
	}
	return out
}

// MerchantNote is a delivery note that came over the wire: read, or why it cannot be.
type MerchantNote struct {
	Order  string          `json:"order"`
	Note   *materials.Note `json:"note"`
	Unread string          `json:"unread"`
}
