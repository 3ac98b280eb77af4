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
	Enclosures []Enclosure `json:"enclosures" most:"40"`
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
	ID    string `json:"id" shape:"id"`
	Kind  string `json:"kind" of:"enclosures"` // as the practice names it
	Name  string `json:"name" chars:"80" needed:"yes"`
	From  string `json:"from" chars:"40"` // id of the enclosure that feeds it; empty at the operator's end
	Owner string `json:"owner" of:"owners?"`
	// MayOpen is who may open it where that was settled in writing; empty for
	// what follows from owner and practice.
	MayOpen      string    `json:"mayOpen" chars:"120"`
	Sealed       SealState `json:"sealed" of:"seals?"` // yes, no, missing, broken; empty when not looked at
	SealNo       string    `json:"sealNo" chars:"40"`
	LineAt       string    `json:"lineAt" of:"lineSides?"`                  // where its marking says the line side is: top, bottom, left, right
	Enters       string    `json:"enters" seal:"omitempty" of:"lineSides?"` // the side at which the conductors from the operator enter it
	RatingA      Fact      `json:"ratingA" range:"1..1200" unit:"A"`
	Joined       *bool     `json:"joined"`                               // neutral and earth are joined in it, as found
	Disconnect   *bool     `json:"disconnect"`                           // holds a means of disconnection of the whole supply behind it
	SwitchesN    *bool     `json:"switchesN"`                            // a changeover that switches the neutral too
	Electrode    *bool     `json:"electrode"`                            // has an earth electrode of its own
	IslandedOnly *bool     `json:"islandedOnly"`                         // its joint is made only while it runs islanded
	TorqueNm     Fact      `json:"torqueNm" range:"0.1..200" unit:"N·m"` // of its main terminals, from the manufacturer's instruction
	TorqueSheet  string    `json:"torqueSheet" chars:"120"`              // which instruction says so
	Feed         Conductor `json:"feed"`
	Condition    string    `json:"condition" chars:"400"`
	New          bool      `json:"new"` // the job puts it in
	// Mounted is what one that the job puts in is fixed to; empty while nobody has looked.
	Mounted Mounting `json:"mounted" seal:"omitempty" of:"mountings?"`
	Outside *bool    `json:"outside" seal:"omitempty"` // stands outdoors, in reach of anybody
	// Unsealed is by what the seal may be broken, of one that is sealed.
	Unsealed Unsealing `json:"unsealed" seal:"omitempty"`
}

// Mounting is what an enclosure is fixed to.
type Mounting string

// What enclosures are fixed to.
const (
	OnMasonry       Mounting = "masonry"
	OnTimber        Mounting = "timber"
	OnStud          Mounting = "stud"
	OnMetalCladding Mounting = "metal cladding"
	OnOtherCladding Mounting = "other cladding"
)

// Mountings lists them.
var Mountings = []Mounting{OnMasonry, OnTimber, OnStud, OnMetalCladding, OnOtherCladding}

// Unsealing is what lets somebody open a sealed enclosure: the operator's disconnection, their unsealing, or their word in writing.
type Unsealing struct {
	By        string `json:"by" chars:"120"`
	Reference string `json:"reference" chars:"120"`
	On        string `json:"on" shape:"date"`
}

// Given reports whether it was given.
func (u *Unsealing) Given() bool {
	return strings.TrimSpace(u.By) != "" && strings.TrimSpace(u.Reference) != "" && u.On != ""
}

// Shut reports whether nobody of ours opens the enclosure: it is sealed, or another's, and nothing in writing lets them.
func (e *Enclosure) Shut() bool {
	return !e.New && (e.Sealed == SealWhole || e.Owner == OwnerOperator || e.Owner == OwnerMeter) && !e.Unsealed.Given()
}

// FitStep is the step of the plan in which an enclosure that the job puts in is fitted.
func (e *Enclosure) FitStep() string { return "outage-fit:" + e.ID }

// Conductor is what feeds an enclosure from the one before.
type Conductor struct {
	Material Metal  `json:"material" of:"metals?"`     // cu, al
	Size     string `json:"size" of:"conductorSizes?"` // mm² or the trade size of the practice
	EarthMM2 string `json:"earthSize" of:"conductorSizes?"`
	Wires    int    `json:"wires" range:"0..6" unit:"conductors"` // conductors counted with the earthing conductor, 0 when not known
	// DeviceA is the rating of the device that protects it, where that is not the means
	// of disconnection of the enclosure before.
	DeviceA Fact   `json:"deviceA" seal:"omitempty" range:"5..1200" unit:"A"`
	LengthM Fact   `json:"lengthM" range:"0.1..2000" unit:"m"`
	Way     string `json:"way" chars:"80" of:"feedWays?"` // in or as what they run, as the practice names it
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

// Named returns the enclosure of a name or nil.
func (c *Chain) Named(name string) *Enclosure {
	for i := range c.Enclosures {
		if c.Enclosures[i].Name == name {
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
	k.bounds(c, &t)
	ids := map[string]bool{}
	for i, e := range c.Enclosures {
		f := fmt.Sprintf("enclosures[%d].", i)
		if ids[e.ID] {
			k.say(f+"id", e.ID, k.w.Say("each enclosure's id once"))
		}
		ids[e.ID] = true
		if e.New && (e.Owner == OwnerOperator || e.Owner == OwnerMeter) {
			k.say(f+"new", true, k.w.Say("no: what is the %s's is put in by them; their visit stands on the day of the outage", e.Owner))
		}
		if e.TorqueNm.Value != nil && strings.TrimSpace(e.TorqueSheet) == "" {
			k.say(f+"torqueSheet", e.TorqueSheet, k.w.Say("the manufacturer's instruction that the torque stands in"))
		}
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
	Route      string     `json:"route" of:"isolationRoutes?"` // lawful way to isolate, as the practice names it
	Authorised Authorised `json:"authorised"`
	// LeadDays and Charge replace the company's usual figures of the route, when
	// the operator has said them.
	LeadDays    *int        `json:"leadDays" range:"0..365" unit:"days"`
	Charge      *float64    `json:"charge" range:"0..100000"`
	AskedOn     string      `json:"askedOn" shape:"date"`
	BookedOn    string      `json:"bookedOn" shape:"date"`
	BookedFor   string      `json:"bookedFor" seal:"omitempty" of:"isolationRoutes?"` // the way that the visit was booked for
	Day         string      `json:"day" shape:"date"`                                 // on which the supply goes off, 2006-01-02
	Start       string      `json:"start" shape:"clock"`                              // 15:04
	Crew        int         `json:"crew" range:"0..10" unit:"people"`
	Latitude    *float64    `json:"latitude" range:"-90..90" unit:"degrees, north positive"` // degrees, north positive
	Longitude   *float64    `json:"longitude" range:"-180..180" unit:"degrees, east positive"`
	Inspector   Booking     `json:"inspector"`
	Temporary   []Temporary `json:"temporary" most:"40"`
	NoTemporary bool        `json:"noTemporary"` // asked: nothing in the house needs a temporary supply
	LightReady  *bool       `json:"lightReady"`
	// DarkReady: there is light to work by after dark, where the work is forecast past it; NoTails: looked at, no existing cable comes onto
	// the board.
	DarkReady *bool `json:"darkReady" seal:"omitempty"`
	// OnSite is of jobs of before the order list covered the supply and the trench: what of that somebody had seen. It stays so that what was
	// signed with it still verifies, and decides nothing.
	OnSite  []string `json:"onSite" seal:"omitempty" most:"100" chars:"100"`
	NoTails bool     `json:"noTails" seal:"omitempty"`
	Weather Weather  `json:"weather"`
}

// Authorised is the person whom the operator has authorised by name.
type Authorised struct {
	Name   string `json:"name" chars:"120"`
	Number string `json:"number" chars:"60"`
	Until  string `json:"until" shape:"date"`
}

// Booking is whether somebody must come, who and when.
type Booking struct {
	Needed *bool  `json:"needed"`
	Who    string `json:"who" chars:"120"`
	On     string `json:"on" shape:"date"`
}

// Temporary is one thing that cannot be without supply.
type Temporary struct {
	What  string `json:"what" chars:"120" needed:"yes"`
	How   string `json:"how" chars:"200"`
	Ready bool   `json:"ready"`
}

// Weather is a forecast for the day of the outage.
type Weather struct {
	RainMM *float64 `json:"rainMM" range:"0..500" unit:"mm"`
	WindMS *float64 `json:"windMS" range:"0..500" unit:"m/s"`
	TempC  *float64 `json:"tempC" range:"-50..60" unit:"°C"`
	Source string   `json:"source" chars:"120"` // who said so; the simulated forecast says that it is one
}

// Booked keeps with the day that is booked the way that it was booked for. was is the outage before an edit.
func (o *Outage) Booked(was *Outage) {
	switch {
	case o.BookedOn == "":
		o.BookedFor = ""
	case o.BookedOn != was.BookedOn:
		o.BookedFor = o.Route
	case o.BookedFor == "" && was.BookedFor != "":
		o.BookedFor = was.BookedFor
	case o.BookedFor == "":
		o.BookedFor = was.Route
	}
}

// Validate checks the outage. The error is [Errors].
func (o Outage) Validate(t Terms) error {
	c := &checker{in: "outage.", w: words.In(t.Locale)}
	c.bounds(o, &t)
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
