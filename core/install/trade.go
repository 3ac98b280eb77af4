package install

import (
	"slices"
	"time"

	"arvelt/core/words"
)

// Trade is a stretch of work of somebody else in the house, and how ours waits for it or it for ours.
type Trade struct {
	ID    string    `json:"id" shape:"id"`
	Kind  TradeKind `json:"kind" of:"tradeKinds"`
	What  string    `json:"what" chars:"200"`            // what of it they do
	Who   string    `json:"who" chars:"120"`             // firm or person
	Phone string    `json:"phone" chars:"60"`            // under which they are reached
	Rooms []string  `json:"rooms" most:"200" chars:"40"` // by id; none is the whole house
	Waits TradeWait `json:"waits" of:"tradeWaits"`
	// Asked is when they were asked, Promised for when they promised it, Done since when it is done; each empty while it is not so. Known is by what
	// that is known.
	Asked    string `json:"asked" shape:"date"`
	Promised string `json:"promised" shape:"date"`
	Done     string `json:"done" shape:"date"`
	Known    string `json:"known" chars:"200"`
	// By is when they need what they wait for, empty where nobody said; Needs is what each has to find ready of the other.
	By string `json:"by" shape:"date"`
	// DryDays is how many days theirs dries or sets before ours goes on.
	DryDays int    `json:"dryDays" seal:"omitempty" range:"0..90" unit:"days"`
	Needs   string `json:"needs" chars:"400"`
}

// TradeKind is a trade.
type TradeKind string

// The trades that work beside electricians in a house.
const (
	Plasterer  TradeKind = "plasterer"
	Boarder    TradeKind = "boarder"
	Painter    TradeKind = "painter"
	Joiner     TradeKind = "joiner"
	Roofer     TradeKind = "roofer"
	Plumber    TradeKind = "plumber"
	Heating    TradeKind = "heating"
	Tiler      TradeKind = "tiler"
	Floors     TradeKind = "floors"
	Cladding   TradeKind = "cladding"
	Landscaper TradeKind = "landscaper"
	Groundwork TradeKind = "groundwork"
	Scaffolder TradeKind = "scaffolder"
	Telecoms   TradeKind = "telecoms"
	Inspector  TradeKind = "inspector"
	OtherTrade TradeKind = "other"
)

// TradeKinds lists them, TradeNames what they are called, each a message.
var (
	TradeKinds = []TradeKind{Plasterer, Boarder, Painter, Joiner, Roofer, Plumber, Heating, Tiler, Floors, Cladding, Landscaper, Groundwork, Scaffolder,
		Telecoms, Inspector, OtherTrade}
	TradeNames = map[TradeKind]words.Key{Plasterer: words.Key("Plasterer"), Boarder: words.Key("Dry-liner"), Painter: words.Key("Painter"),
		Joiner: words.Key("Joiner"), Roofer: words.Key("Roofer"), Plumber: words.Key("Plumber"), Heating: words.Key("Heating engineer"),
		Tiler: words.Key("Tiler"), Floors: words.Key("Floor layer"), Cladding: words.Key("Cladding fitter"), Landscaper: words.Key("Landscaper"),
		Groundwork: words.Key("Groundworker"), Scaffolder: words.Key("Scaffolder"), Telecoms: words.Key("Telecoms fitter"),
		Inspector: words.Key("Inspector"), OtherTrade: words.Key("Another trade")}
)

// TradeWait is who waits for whom.
type TradeWait string

// Who waits.
const (
	FirstWaits     TradeWait = "first"       // our first fix waits for them
	SecondWaits    TradeWait = "second"      // our second fix does
	TheyWait       TradeWait = "they-first"  // they wait until our first fix is done
	TheyWaitLonger TradeWait = "they-second" // they wait until our second fix is done
)

// TradeWaits lists them, TradeWaitNames what they are called, each a message.
var (
	TradeWaits     = []TradeWait{FirstWaits, SecondWaits, TheyWait, TheyWaitLonger}
	TradeWaitNames = map[TradeWait]words.Key{FirstWaits: words.Key("Our first fix waits for them"), SecondWaits: words.Key("Our second fix waits for them"),
		TheyWait: words.Key("They wait for our first fix"), TheyWaitLonger: words.Key("They wait for our second fix")}
)

// Ours is the stage of our work that it is about, and whether it is ours that waits.
func (w TradeWait) Ours() (stage Stage, waits bool) {
	switch w {
	case FirstWaits:
		return FirstFix, true
	case SecondWaits:
		return SecondFix, true
	case TheyWait:
		return FirstFix, false
	}
	return SecondFix, false
}

// In reports whether a trade works in a room; with none, whether it works in the whole house.
func (t *Trade) In(room string) bool {
	return len(t.Rooms) == 0 || room != "" && slices.Contains(t.Rooms, room)
}

// Free is the day from which ours goes on once theirs is done and dry; empty while it is not done.
func (t *Trade) Free() string {
	day, err := time.Parse(time.DateOnly, t.Done)
	if err != nil {
		return ""
	}
	return day.AddDate(0, 0, t.DryDays).Format(time.DateOnly)
}

// TradeByID is a trade of the plan; nil for none.
func (p *Plan) TradeByID(id string) *Trade {
	for i := range p.Trades {
		if p.Trades[i].ID == id {
			return &p.Trades[i]
		}
	}
	return nil
}

// triggersOf is which trade brings what was left and waits for work of others.
var triggersOf = map[LeftTrigger][]TradeKind{AfterPlaster: {Plasterer}, AfterBoarding: {Boarder}, AfterPaint: {Painter}, AfterRoof: {Roofer}}

// Came reports since when the work of others is done that something that was left in a room waits for; empty while it is not.
func (p *Plan) Came(t LeftTrigger, room string) string {
	done := ""
	for i := range p.Trades {
		x := &p.Trades[i]
		if !slices.Contains(triggersOf[t], x.Kind) || !x.In(room) {
			continue
		}
		if x.Done == "" {
			return ""
		}
		done = max(done, x.Done)
	}
	return done
}
