package install

import (
	"arvelt/core/words"
	"fmt"
	"math"
	"strings"
)

// Chain is the supply from the operator's cable to the last board: a tree of
// enclosures, each fed from another.
type Chain struct {
	Enclosures []Enclosure `json:"enclosures"`
}

// The owners of an enclosure.
const (
	OwnerOperator = string(words.Key("network operator"))
	OwnerMeter    = string(words.Key("meter operator"))
	OwnerCustomer = string(words.Key("customer"))
)

// Enclosure is one box of the chain with the conductor that feeds it. A nil yes
// or no was not looked at.
type Enclosure struct {
	ID    string `json:"id"`
	Kind  string `json:"kind"` // as the practice names it
	Name  string `json:"name"`
	From  string `json:"from"` // id of the enclosure that feeds it; empty at the operator's end
	Owner string `json:"owner"`
	// MayOpen is who may open it where that was settled in writing; empty for
	// what follows from owner and practice.
	MayOpen      string    `json:"mayOpen"`
	Sealed       SealState `json:"sealed"` // yes, no, missing, broken; empty when not looked at
	SealNo       string    `json:"sealNo"`
	LineAt       string    `json:"lineAt"` // where its marking says the line side is: top, bottom, left, right
	RatingA      Fact      `json:"ratingA"`
	Joined       *bool     `json:"joined"`       // neutral and earth are joined in it, as found
	Disconnect   *bool     `json:"disconnect"`   // holds a means of disconnection of the whole supply behind it
	SwitchesN    *bool     `json:"switchesN"`    // a changeover that switches the neutral too
	Electrode    *bool     `json:"electrode"`    // has an earth electrode of its own
	IslandedOnly *bool     `json:"islandedOnly"` // its joint is made only while it runs islanded
	TorqueNm     Fact      `json:"torqueNm"`     // of its main terminals, from the manufacturer's instruction
	TorqueSheet  string    `json:"torqueSheet"`  // which instruction says so
	Feed         Conductor `json:"feed"`
	Condition    string    `json:"condition"`
	New          bool      `json:"new"`                      // the job puts it in
	Outside      *bool     `json:"outside" seal:"omitempty"` // stands outdoors, in reach of anybody
}

// Conductor is what feeds an enclosure from the one before.
type Conductor struct {
	Material Metal  `json:"material"` // cu, al
	Size     string `json:"size"`     // mm² or the trade size of the practice
	EarthMM2 string `json:"earthSize"`
	Wires    int    `json:"wires"` // conductors counted with the earthing conductor, 0 when not known
	// DeviceA is the rating of the device that protects it, where that is not the means
	// of disconnection of the enclosure before.
	DeviceA Fact   `json:"deviceA" seal:"omitempty"`
	LengthM Fact   `json:"lengthM"`
	Way     string `json:"way"` // metal conduit, plastic duct, sheathed cable, overhead
}

// Seals are the states of an enclosure's seal.
var Seals = []string{"", "yes", "no", "missing", "broken"}

// Enclosure returns the enclosure of an id or nil.
func (c *Chain) Enclosure(id string) *Enclosure {
	for i := range c.Enclosures {
		if c.Enclosures[i].ID == id {
			return &c.Enclosures[i]
		}
	}
	return nil
}

// Order lists the enclosures from the operator's end on, each after the one
// that feeds it. Those that hang on nothing or in a ring are left out.
func (c *Chain) Order() []*Enclosure {
	var out []*Enclosure
	done := map[string]bool{}
	var walk func(from string)
	walk = func(from string) {
		for i := range c.Enclosures {
			if e := &c.Enclosures[i]; e.From == from && !done[e.ID] {
				done[e.ID] = true
				out = append(out, e)
				walk(e.ID)
			}
		}
	}
	walk("")
	return out
}

// Validate checks the chain: every enclosure once, each fed from one that is
// there, none in a ring. The error is [Errors].
func (c Chain) Validate(t Terms) error {
	k := &checker{in: "chain.", w: words.In(t.Locale)}
	if len(c.Enclosures) > 40 {
		k.say("enclosures", len(c.Enclosures), k.w.Say("at most 40 enclosures"))
	}
	ids := map[string]bool{}
	for i, e := range c.Enclosures {
		f := fmt.Sprintf("enclosures[%d].", i)
		k.ident(f+"id", e.ID)
		if ids[e.ID] {
			k.say(f+"id", e.ID, k.w.Say("each enclosure's id once"))
		}
		ids[e.ID] = true
		k.oneOf(f+"kind", e.Kind, t.Enclosures)
		k.needed(f+"name", e.Name, 80)
		k.oneOf(f+"owner", e.Owner, []string{"", OwnerOperator, OwnerMeter, OwnerCustomer})
		if e.New && (e.Owner == OwnerOperator || e.Owner == OwnerMeter) {
			k.say(f+"new", true, k.w.Say("no: what is the %s's is put in by them; their visit stands on the day of the outage", e.Owner))
		}
		k.text(f+"mayOpen", e.MayOpen, 120)
		k.oneOf(f+"sealed", string(e.Sealed), Seals)
		k.text(f+"sealNo", e.SealNo, 40)
		k.oneOf(f+"lineAt", e.LineAt, []string{"", "top", "bottom", "left", "right"})
		k.fact(f+"ratingA", e.RatingA, 1, 1200, "A")
		k.fact(f+"torqueNm", e.TorqueNm, 0.1, 200, "N·m")
		if e.TorqueNm.Value != nil && strings.TrimSpace(e.TorqueSheet) == "" {
			k.say(f+"torqueSheet", e.TorqueSheet, k.w.Say("the manufacturer's instruction that the torque stands in"))
		}
		k.text(f+"torqueSheet", e.TorqueSheet, 120)
		k.text(f+"condition", e.Condition, 400)
		k.oneOf(f+"feed.material", string(e.Feed.Material), []string{"", "cu", "al"})
		for name, size := range map[string]string{"size": e.Feed.Size, "earthSize": e.Feed.EarthMM2} {
			if size != "" && t.ConductorSizes != nil {
				k.oneOf(f+"feed."+name, size, t.ConductorSizes)
			}
		}
		k.between(f+"feed.wires", float64(e.Feed.Wires), 0, 6, "conductors")
		k.fact(f+"feed.lengthM", e.Feed.LengthM, 0.1, 2000, "m")
		k.fact(f+"feed.deviceA", e.Feed.DeviceA, 5, 1200, "A")
		k.text(f+"feed.way", e.Feed.Way, 80)
	}
	for i, e := range c.Enclosures {
		if e.From != "" && !ids[e.From] {
			k.say(fmt.Sprintf("enclosures[%d].from", i), e.From,
				k.w.Say("an enclosure of the supply arrangement, or nothing at the operator's end"))
		}
	}
	if reached := len(c.Order()); len(k.errs) == 0 && reached != len(c.Enclosures) {
		k.say("enclosures", k.w.Say("%d of %d are reached from the operator's end", reached, len(c.Enclosures)),
			k.w.Say("a supply arrangement without a ring"))
	}
	return k.result()
}

// Outage is what was decided of making the work dead and of the day it happens.
type Outage struct {
	Route      string     `json:"route"` // lawful way to isolate, as the practice names it
	Authorised Authorised `json:"authorised"`
	// LeadDays and Charge replace the company's usual figures of the route, when
	// the operator has said them.
	LeadDays    *int        `json:"leadDays"`
	Charge      *float64    `json:"charge"`
	AskedOn     string      `json:"askedOn"`
	BookedOn    string      `json:"bookedOn"`
	Day         string      `json:"day"`   // on which the supply goes off, 2006-01-02
	Start       string      `json:"start"` // 15:04
	Crew        int         `json:"crew"`
	Latitude    *float64    `json:"latitude"` // degrees, north positive
	Longitude   *float64    `json:"longitude"`
	Inspector   Booking     `json:"inspector"`
	Temporary   []Temporary `json:"temporary"`
	NoTemporary bool        `json:"noTemporary"` // asked: nothing in the house needs a temporary supply
	LightReady  *bool       `json:"lightReady"`
	Weather     Weather     `json:"weather"`
}

// Authorised is the person whom the operator has authorised by name.
type Authorised struct {
	Name   string `json:"name"`
	Number string `json:"number"`
	Until  string `json:"until"`
}

// Booking is whether somebody must come, who and when.
type Booking struct {
	Needed *bool  `json:"needed"`
	Who    string `json:"who"`
	On     string `json:"on"`
}

// Temporary is one thing that cannot be without supply.
type Temporary struct {
	What  string `json:"what"`
	How   string `json:"how"`
	Ready bool   `json:"ready"`
}

// Weather is a forecast for the day of the outage.
type Weather struct {
	RainMM *float64 `json:"rainMM"`
	WindMS *float64 `json:"windMS"`
	TempC  *float64 `json:"tempC"`
	Source string   `json:"source"` // who said so; the simulated forecast says that it is one
}

// Validate checks the outage. The error is [Errors].
func (o Outage) Validate(t Terms) error {
	c := &checker{in: "outage.", w: words.In(t.Locale)}
	c.oneOf("route", o.Route, append([]string{""}, t.IsolationRoutes...))
	c.text("authorised.name", o.Authorised.Name, 120)
	c.text("authorised.number", o.Authorised.Number, 60)
	for name, d := range map[string]string{"authorised.until": o.Authorised.Until, "askedOn": o.AskedOn,
		"bookedOn": o.BookedOn, "day": o.Day, "inspector.on": o.Inspector.On} {
		c.date(name, d)
	}
	if o.LeadDays != nil {
		c.between("leadDays", float64(*o.LeadDays), 0, 365, "days")
	}
	if o.Charge != nil {
		c.between("charge", *o.Charge, 0, 100000, "")
	}
	if o.Start != "" {
		if _, ok := ClockH(o.Start); !ok {
			c.say("start", o.Start, c.w.Say("a time as 08:00"))
		}
	}
	c.between("crew", float64(o.Crew), 0, 10, "people")
	if o.Latitude != nil {
		c.between("latitude", *o.Latitude, -90, 90, c.w.Say("degrees, north positive"))
	}
	if o.Longitude != nil {
		c.between("longitude", *o.Longitude, -180, 180, c.w.Say("degrees, east positive"))
	}
	c.text("inspector.who", o.Inspector.Who, 120)
	if len(o.Temporary) > 40 {
		c.say("temporary", len(o.Temporary), c.w.Say("at most 40 things"))
	}
	for i, x := range o.Temporary {
		f := fmt.Sprintf("temporary[%d].", i)
		c.needed(f+"what", x.What, 120)
		c.text(f+"how", x.How, 200)
	}
	for name, v := range map[string]*float64{"rainMM": o.Weather.RainMM, "windMS": o.Weather.WindMS, "tempC": o.Weather.TempC} {
		low, high := 0.0, 500.0
		if name == "tempC" {
			low, high = -50, 60
		}
		if v != nil {
			c.between("weather."+name, *v, low, high, "")
		}
	}
	c.text("weather.source", o.Weather.Source, 120)
	return c.result()
}

// ClockH reads a time of day as 08:30 and returns hours after midnight.
func ClockH(s string) (h float64, ok bool) {
	var hh, mm int
	if n, err := fmt.Sscanf(s, "%d:%d", &hh, &mm); n != 2 || err != nil || hh < 0 || hh > 23 || mm < 0 || mm > 59 {
		return 0, false
	}
	return float64(hh) + float64(mm)/60, true
}

// NextDay stands behind a time of the day after.
const NextDay = " next day"

// Clock writes hours after midnight as 08:30; a time of the next day says so.
func Clock(h float64) string {
	m := int(math.Round(h * 60))
	s := fmt.Sprintf("%02d:%02d", m/60%24, m%60)
	if m >= 24*60 {
		s += NextDay
	}
	return s
}
