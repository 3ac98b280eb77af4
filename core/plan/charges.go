package plan

import (
	"math"
	"time"

	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/proving"
)

// HourKey is the entry of the company's list that has the price of an hour of work.
const HourKey = "hour"

// BackCharge is what others moved or covered, and what putting it right costs them.
type BackCharge struct {
	Trade string    `json:"trade"` // id of the plan; empty while nobody knows who did it
	Name  string    `json:"name"`
	Says  string    `json:"says"`
	Seen  time.Time `json:"seen"`
	By    string    `json:"by"` // who saw it
	// Pictures are as many as show it.
	Pictures int `json:"pictures"`
	// Right is how it was put right and when; empty while it is not.
	Right string   `json:"right"`
	Hours *float64 `json:"hours"` // nil while nobody said
	Parts *float64 `json:"parts"`
	// Amount is hours by the company's price of one, and parts; nil while one of them is not known.
	Amount *float64 `json:"amount"`
}

// BackChargesOf are what others moved or covered on a job, the oldest first: open ones, and those that were put right with what that took.
func BackChargesOf(job *install.Job, list map[string]materials.Item) []BackCharge {
	out := []BackCharge{}
	add := func(r *install.Record) *BackCharge {
		x := BackCharge{Trade: r.Trade, Says: proving.Says(job, r), Seen: r.At, By: r.By}
		if t := job.Plan.TradeByID(r.Trade); t != nil {
			x.Name = tradeName(job, t)
		}
		first := job.FirstOf(r.ID)
		for _, p := range job.Current(install.Photo) {
			if job.FirstOf(p.Subject) == first {
				x.Pictures++
			}
		}
		if r := job.RecordByID(first); r != nil {
			x.Seen, x.By = r.At, r.By
		}
		out = append(out, x)
		return &out[len(out)-1]
	}
	cleared := proving.ClearedEnds(job)
	for i := len(cleared) - 1; i >= 0; i-- {
		c := &cleared[i]
		r := job.RecordByID(c.Subject)
		if r == nil || !install.LeftTraits[r.Left].Others {
			continue
		}
		x := add(r)
		x.Right = c.At.Format(time.DateOnly) + ": " + c.Note
		x.Hours, x.Parts = c.SpentH, c.Cost
		hour, priced := list[HourKey]
		if c.SpentH == nil || *c.SpentH > 0 && !priced {
			continue
		}
		sum := *c.SpentH * hour.Price
		if c.Cost != nil {
			sum += *c.Cost
		}
		sum = math.Round(sum*100) / 100
		x.Amount = &sum
	}
	for _, r := range proving.LooseEnds(job) {
		if install.LeftTraits[r.Left].Others {
			add(&r)
		}
	}
	return out
}
