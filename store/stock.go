package store

import (
	"context"
	"errors"
	"fmt"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"arvelt/core/install"
	"arvelt/core/materials"
)

const stockColumns = `id::text, product, name, unit, by_length, count, place, from_ref, by_name, to_char(at, 'YYYY-MM-DD')`

// mostStock is how much of the stock is listed at once.
const mostStock = 2000

// Stock lists what lies in the vans and on the shelves of the company.
func (s Scope) Stock(ctx context.Context) ([]materials.Kept, error) {
	rows, err := s.db.Query(ctx, `SELECT `+stockColumns+` FROM stock_item WHERE company_id = $1 AND count > 0 ORDER BY name, count, id LIMIT $2`,
		s.CompanyID, mostStock)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[materials.Kept])
}

// LeaveStock puts what somebody counted of a job's parts into the company's stock. The error is [install.Errors].
func (s Scope) LeaveStock(ctx context.Context, who Person, id, key string, in materials.Leave) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		take := l.View().Take
		moved, kept, err := take.LeaveNow(&l.Job, in, l.Now.Format(time.DateOnly), who.Name)
		if err != nil {
			return err
		}
		l.title = l.Job.Words.Say("%s into the stock", moved.Name)
		if err := l.buys("left to the stock "+moved.Product, func(all *install.Purchases) { all.Left = append(all.Left, moved) }); err != nil {
			return err
		}
		batch := &pgx.Batch{}
		for i := range kept {
			s.keepStock(batch, &kept[i])
		}
		if err := l.tx.SendBatch(ctx, batch).Close(); err != nil {
			return err
		}
		return s.notify(ctx, l.tx, "stock", "", 0)
	})
}

func (s Scope) keepStock(batch *pgx.Batch, k *materials.Kept) {
	batch.Queue(`INSERT INTO stock_item (company_id, product, name, unit, by_length, count, place, from_ref, by_name, at) VALUES ($1, $2, $3, $4, $5, $6, $7,
		$8, $9, $10)`, s.CompanyID, k.Product, k.Name, k.Unit, k.ByLength, k.Count, k.Place, k.From, k.By, s.Now())
}

// TakeStock takes something of the company's stock for a job: for nobody else any more. The error is [ErrNotFound] or [install.Errors].
func (s Scope) TakeStock(ctx context.Context, who Person, id, key, item string, count float64) (*Loaded, error) {
	return s.Change(ctx, who, id, key, func(l *Loaded) error {
		k, err := s.stockItem(ctx, l.tx, item)
		if err != nil {
			return err
		}
		take := l.View().Take
		moved, err := take.TakeNow(l.Job.Words, &k, count, l.Now.Format(time.DateOnly), who.Name)
		if err != nil {
			return err
		}
		l.title = l.Job.Words.Say("%s out of the stock", moved.Name)
		if err := l.buys("took from the stock "+moved.Product, func(all *install.Purchases) { all.Taken = append(all.Taken, moved) }); err != nil {
			return err
		}
		_, err = l.tx.Exec(ctx, `UPDATE stock_item SET count = greatest(0, count - $2) WHERE id = $1`, item, moved.Count)
		return errors.Join(err, s.notify(ctx, l.tx, "stock", "", 0))
	})
}

// stockItem is something of the stock, held until the transaction ends.
func (s Scope) stockItem(ctx context.Context, on querier, item string) (k materials.Kept, err error) {
	if _, err := uuid.Parse(item); err != nil {
		return k, ErrNotFound
	}
	return one[materials.Kept](ctx, on, `SELECT `+stockColumns+` FROM stock_item WHERE id = $1 AND company_id = $2 AND count > 0 FOR UPDATE`, item, s.CompanyID)
}

// SetStock puts right how much lies there of something and where: 0 for what is used up or thrown away.
func (s Scope) SetStock(ctx context.Context, who Person, key, item string, count float64, place string) error {
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		if done, _, err := s.claim(ctx, tx, who, key, "stock "+item); err != nil || done {
			return err
		}
		k, err := s.stockItem(ctx, tx, item)
		if err != nil {
			return err
		}
		if err := stockFits(count, place); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, `UPDATE stock_item SET count = $2, place = $3 WHERE id = $1`, item, count, place); err != nil {
			return err
		}
		return s.stocked(ctx, tx, who, &k, count, place)
	})
}

// AddStock puts something into the stock that is of no job.
func (s Scope) AddStock(ctx context.Context, who Person, key string, k materials.Kept) error {
	bad := install.Errors{}
	for _, x := range []struct {
		field, text string
		most        int
	}{{"product", k.Product, 120}, {"name", k.Name, 200}, {"unit", k.Unit, 20}} {
		if n := utf8.RuneCountInString(x.text); n == 0 || n > x.most || !utf8.ValidString(x.text) {
			bad = append(bad, install.FieldError{Field: x.field, Value: x.text, Accept: fmt.Sprintf("readable text of 1 to %d characters", x.most)})
		}
	}
	if k.Count == 0 {
		bad = append(bad, install.FieldError{Field: "count", Value: "0", Accept: "more than 0"})
	}
	if len(bad) > 0 {
		return bad
	}
	if err := stockFits(k.Count, k.Place); err != nil {
		return err
	}
	k.By, k.From = who.Name, ""
	return pgx.BeginFunc(ctx, s.db, func(tx pgx.Tx) error {
		if done, _, err := s.claim(ctx, tx, who, key, "stock"); err != nil || done {
			return err
		}
		batch := &pgx.Batch{}
		s.keepStock(batch, &k)
		if err := tx.SendBatch(ctx, batch).Close(); err != nil {
			return err
		}
		return s.stocked(ctx, tx, who, &k, k.Count, k.Place)
	})
}

// stocked notes what somebody changed of the stock, and tells the browsers.
func (s Scope) stocked(ctx context.Context, tx pgx.Tx, who Person, k *materials.Kept, count float64, place string) error {
	return errors.Join(s.happened(ctx, tx, who, StockChanged, fmt.Sprintf("%s: %g %s, %s", k.Name, count, k.Unit, place)),
		s.notify(ctx, tx, "stock", "", 0))
}

func stockFits(count float64, place string) error {
	if !(count >= 0 && count <= 100000) {
		return install.Errors{{Field: "count", Value: fmt.Sprint(count), Accept: "a number from 0 to 100000"}}
	}
	if n := utf8.RuneCountInString(place); n == 0 || n > 120 || !utf8.ValidString(place) {
		return install.Errors{{Field: "place", Value: place, Accept: "the van or shelf, in at most 120 characters"}}
	}
	return nil
}
