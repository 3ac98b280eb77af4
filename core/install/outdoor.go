package install

import (
	"arvelt/core/words"
	"strings"
)

// Outdoor is the work outside: trenches and overhead runs, and the earth
// electrodes.
type Outdoor struct {
	Runs       []Run      `json:"runs" most:"20"`
	Electrodes Electrodes `json:"electrodes"`
}

// The kinds of outdoor run.
const (
	Trench   = "trench"
	Overhead = "overhead"
)

// Run is one trench or overhead run, in stretches from its start.
type Run struct {
	ID      string  `json:"id" shape:"id"`
	Name    string  `json:"name" chars:"80" needed:"yes"`
	Kind    string  `json:"kind" of:"runKinds"`
	DuctMM  float64 `json:"ductMM" range:"0..200" unit:"mm" zero:"or 0 without a duct"`                    // bore; 0 for cable laid direct or in the air
	Grade   string  `json:"grade" chars:"120"`                                                             // what is printed on the duct where it leaves the ground
	CoverMM float64 `json:"coverMM" range:"0..3000" unit:"mm" zero:"or 0 when the operator asks for none"` // that the operator asks for; 0 when it asks for none
	// Riser is the grade of what the run leaves the ground in, as the practice names it; RadiusMM the bend radius that the operator
	// asks for, 0 when it asks for none.
	Riser     string        `json:"riser" seal:"omitempty" of:"risers?"`
	RadiusMM  float64       `json:"radiusMM" seal:"omitempty" range:"0..3000" unit:"mm" zero:"or 0 when the operator asks for none"`
	Stretches []RunStretch  `json:"stretches" most:"60"`
	Found     []Obstruction `json:"found" most:"40"`
	Located   string        `json:"located" chars:"120"`    // reference of the request to locate other services
	LocatedTo string        `json:"locatedTo" shape:"date"` // until when its marks hold
	DugBy     string        `json:"dugBy" chars:"120"`
	Liable    string        `json:"liable" chars:"120"` // who answers for what the digger strikes
	String    *bool         `json:"string"`             // draw string in, tied at both ends
	Capped    *bool         `json:"capped"`
	Note      string        `json:"note" chars:"2000"`
}

// Marks are what is on record of other services where the ground is broken: the request to locate them, until when
// its marks hold, who digs and who answers for what the digger strikes.
type Marks struct {
	Located   string `json:"located" chars:"120"`
	LocatedTo string `json:"locatedTo" shape:"date"`
	DugBy     string `json:"dugBy" chars:"120"`
	Liable    string `json:"liable" chars:"120"`
}

// Marks are those of a run.
func (r *Run) Marks() Marks { return Marks{r.Located, r.LocatedTo, r.DugBy, r.Liable} }

// RunStretch is one stretch of a run.
type RunStretch struct {
	Place    string  `json:"place" chars:"120"`
	LengthM  float64 `json:"lengthM" range:"0.1..500" unit:"m"`
	Basis    Basis   `json:"basis"`
	Surface  string  `json:"surface" of:"surfaces?"`                // location by which the practice asks for cover
	CoverMM  float64 `json:"coverMM" range:"0..12000" unit:"mm"`    // planned, top of duct or cable to finished ground; or height above ground overhead
	DugMM    Fact    `json:"dugMM" range:"0..12000" unit:"mm"`      // as dug
	BendDeg  float64 `json:"bendDeg" range:"0..180" unit:"degrees"` // at its end
	RadiusMM float64 `json:"radiusMM" range:"0..3000" unit:"mm"`
	RibbonMM float64 `json:"ribbonMM" range:"0..2000" unit:"mm above the duct" zero:"or 0 for none"` // of the warning ribbon above the duct; 0 for none
}

// Obstruction is what was found on the day and what was done about it.
type Obstruction struct {
	AtM     float64 `json:"atM" range:"0..2000" unit:"m from the start"` // from the start
	What    string  `json:"what" chars:"120" needed:"yes"`
	LengthM float64 `json:"lengthM" range:"0.05..100" unit:"m along the run" zero:"or 0 when not known"` // along the run
	WidthM  float64 `json:"widthM" range:"0..100" unit:"m to the free side" zero:"or 0 when not known"`  // across it, to the side that is free
	TopMM   float64 `json:"topMM" range:"0..5000" unit:"mm below ground" zero:"or 0 when not known"`     // below ground
	// BottomMM is how deep it reaches below ground; 0 when not known.
	BottomMM float64 `json:"bottomMM" seal:"omitempty" range:"0..8000" unit:"mm below ground" zero:"or 0 when not known"`
	Option   string  `json:"option" of:"obstructionOptions?"` // around, under, over, break out; empty when not decided
	By       string  `json:"by" chars:"120"`
}

// ObstructionOptions are the ways past an obstruction.
var ObstructionOptions = []string{"around", "under", "over", "break out"}

// Electrodes are the earth electrodes and the ground they stand in.
type Electrodes struct {
	Soil       string      `json:"soil" of:"soils?"` // of the table; empty when not looked at
	SoilOhmM   Fact        `json:"soilOhmM" range:"1..20000" unit:"Ωm"`
	Rods       []PlacedRod `json:"rods" most:"12"`
	Measured   Fact        `json:"measured" range:"0.1..20000" unit:"Ω"` // of all together, Ω
	Method     string      `json:"method" chars:"80"`                    // fall of potential, clamp, loop
	Moisture   Moisture    `json:"moisture" of:"moistures?"`             // of the ground as it was read
	Continuous *bool       `json:"continuous"`
	Ruling     string      `json:"ruling" chars:"400"` // local ruling: who said what and when
	Marks      Marks       `json:"marks" seal:"omitempty"`
}

// PlacedRod is one rod.
type PlacedRod struct {
	Place      string  `json:"place" chars:"120"`
	LengthM    float64 `json:"lengthM" range:"0.3..12" unit:"m"`
	DiameterMM float64 `json:"diameterMM" range:"6..60" unit:"mm"`
	SpacingM   float64 `json:"spacingM" range:"0..60" unit:"m"`                                                                        // to the rod before it, 0 for the first
	TopMM      float64 `json:"topMM" range:"0..3000" unit:"mm below finished ground"`                                                  // below finished ground
	Mode       RodMode `json:"mode" of:"rodModes"`                                                                                     // vertical, slant, flat
	Rock       bool    `json:"rock"`                                                                                                   // rock was met: the reason for slant or flat
	AngleDeg   float64 `json:"angleDeg" seal:"omitempty" range:"0..90" unit:"degrees from the vertical" zero:"or 0 when not measured"` // of a slanted rod from the vertical, 0 when not measured
	Listed     *bool   `json:"listed" seal:"omitempty"`                                                                                // marked as a listed rod; nil when not looked at
}

// LengthM is the length of a run, the measured and estimated parts together.
func (r *Run) LengthM() float64 {
	l := 0.0
	for i := range r.Stretches {
		l += r.Stretches[i].LengthM
	}
	return l
}

// Run returns the run with the id, nil when there is none.
func (o *Outdoor) Run(id string) *Run {
	for i := range o.Runs {
		if o.Runs[i].ID == id {
			return &o.Runs[i]
		}
	}
	return nil
}

// Validate checks the outdoor works. The error is [Errors].
func (o Outdoor) Validate(t Terms) error {
	c := &checker{in: "outdoor.", w: words.In(t.Locale)}
	c.bounds(o, &t)
	ids := map[string]bool{}
	for i, r := range o.Runs {
		if ids[r.ID] {
			c.say(c.item("runs", i)+"id", r.ID, c.w.Say("each run's id once"))
		}
		ids[r.ID] = true
	}
	e := o.Electrodes
	if e.Measured.Basis == Measured && e.Measured.Known() && strings.TrimSpace(e.Method) == "" {
		c.say("electrodes.method", e.Method, c.w.Say("the method by which it was measured: fall of potential, clamp or loop"))
	}
	for i, r := range e.Rods {
		if r.Mode != "vertical" && !r.Rock {
			c.say(c.item("electrodes.rods", i)+"rock", r.Rock, c.w.Say("yes: a rod goes slant or flat only where rock was met"))
		}
	}
	return c.result()
}
