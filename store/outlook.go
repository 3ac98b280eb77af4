package store

import (
	"context"

	"github.com/jackc/pgx/v5"

	"arvelt/core/outdoor"
	"arvelt/core/plan"
	"arvelt/core/words"
)

// Outlook is what the company knows of days to come: who is away, and the weather.
func (s Scope) Outlook(ctx context.Context) (plan.Outlook, error) { return s.outlook(ctx, s.db) }

func (s Scope) outlook(ctx context.Context, db querier) (plan.Outlook, error) {
	rows, err := db.Query(ctx, `SELECT outlook FROM company WHERE id = $1`, s.CompanyID)
	if err != nil {
		return plan.Outlook{}, err
	}
	return pgx.CollectExactlyOneRow(rows, pgx.RowTo[plan.Outlook])
}

// SetOutlook keeps what the company knows of days to come. The error is [install.Errors] where something in it cannot be.
func (s Scope) SetOutlook(ctx context.Context, w *words.Catalogue, o plan.Outlook) error {
	people, err := s.present(ctx, s.db)
	if err != nil {
		return err
	}
	ids := make([]string, len(people))
	for i := range people {
		ids[i] = people[i].ID
	}
	if err := o.Validate(w, ids); err != nil {
		return err
	}
	if o.Away == nil {
		o.Away = []plan.Away{}
	}
	if o.Weather == nil {
		o.Weather = []outdoor.Forecast{}
	}
	_, err = s.db.Exec(ctx, `UPDATE company SET outlook = $2 WHERE id = $1`, s.CompanyID, o)
	return err
}
