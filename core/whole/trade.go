package whole

import (
	"slices"
	"time"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/proving"
)

// TradeSheet is what another trade is shown of a job: what is theirs, what we need of them and by when, what is ready for them, and what to be careful
// of. It holds nothing of how to get in, of alarms or of people's things.
type TradeSheet struct {
	Ref     string          `json:"ref"`
	Address string          `json:"address"`
	Town    string          `json:"town"`
	Trade   install.Trade   `json:"trade"`
	Stand   plan.TradeStand `json:"stand"`
	Rooms   []TradeRoom     `json:"rooms"`
	Dangers []string        `json:"dangers"` // people are at risk by now
	Hazards []string        `json:"hazards"` // not cleared, where they work
	Use     []proving.Used  `json:"use"`     // of every circuit whether it is in use: no leave to touch any
	Power   []plan.PowerDay `json:"power"`
	// Charges are what they moved or covered of ours, and what putting it right costs.
	Charges []plan.BackCharge `json:"charges"`
	At      time.Time         `json:"at"`
}

// TradeRoom is a room with how far our work in it is.
type TradeRoom struct {
	Name   string `json:"name"`
	Open   int    `json:"open"` // of our steps that it is about
	Next   string `json:"next"`
	Closed string `json:"closed"` // date on which its walls were closed
}

// TradeSheetOf is what the trade of an id is shown; false where the plan has none.
func TradeSheetOf(v *View, id string, now time.Time) (TradeSheet, bool) {
	j := v.Job
	t := j.Plan.TradeByID(id)
	n := slices.IndexFunc(v.Trades, func(s plan.TradeStand) bool { return s.ID == id })
	if t == nil || n < 0 {
		return TradeSheet{}, false
	}
	out := TradeSheet{Ref: j.Ref, Address: j.Site.Address, Town: j.Site.Town, Trade: *t, Stand: v.Trades[n], Rooms: []TradeRoom{},
		Dangers: []string{}, Hazards: []string{}, Use: v.Tests.Use, Power: v.Power, Charges: []plan.BackCharge{}, At: now}
	for i := range v.Charges {
		if v.Charges[i].Trade == id {
			out.Charges = append(out.Charges, v.Charges[i])
		}
	}
	if out.Trade.Rooms == nil {
		out.Trade.Rooms = []string{}
	}
	stage, _ := t.Waits.Ours()
	for i := range j.Rooms {
		r := &j.Rooms[i]
		if !t.In(r.ID) {
			continue
		}
		room := TradeRoom{Name: r.Name, Closed: r.Closed}
		for k := range v.Tasks {
			if x := &v.Tasks[k]; x.Room == r.ID && x.Stage == stage && !x.Done && x.Others == "" {
				if room.Open++; room.Next == "" {
					room.Next = x.Title
				}
			}
		}
		out.Rooms = append(out.Rooms, room)
		for _, h := range j.Found.HazardsAt(r) {
			if says := j.Words.Say(h.Kind) + ", " + h.Place; !slices.Contains(out.Hazards, says) {
				out.Hazards = append(out.Hazards, says)
			}
		}
	}
	if len(j.Rooms) == 0 {
		for _, h := range j.Found.HazardsAt(nil) {
			out.Hazards = append(out.Hazards, j.Words.Say(h.Kind)+", "+h.Place)
		}
	}
	for i := range v.Dangers {
		d := &v.Dangers[i]
		out.Dangers = append(out.Dangers, d.Title+". "+d.Seen)
	}
	return out, true
}
