package install

import (
	"arvelt/core/words"
	"fmt"
	"strings"
)

// Outdoor is the work outside: trenches and overhead runs, and the earth
// electrodes.
type Outdoor struct {
	Runs       []Run      `json:"runs"`
	Electrodes Electrodes `json:"electrodes"`
}

// The kinds of outdoor run.
const (
	Trench   = "trench"
	Overhead = "overhead"
)

// Run is one trench or overhead run, in stretches from its start.
type Run struct {
	ID        string        `json:"id"`
	Name      string        `json:"name"`
	Kind      string        `json:"kind"`
	DuctMM    float64       `json:"ductMM"`  // bore; 0 for cable laid direct or in the air
	Grade     string        `json:"grade"`   // of the duct where it leaves the ground, by its print
	CoverMM   float64       `json:"coverMM"` // that the operator asks for; 0 when it asks for none
	Stretches []RunStretch  `json:"stretches"`
	Found     []Obstruction `json:"found"`
	Located   string        `json:"located"`   // reference of the request to locate other services
	LocatedTo string        `json:"locatedTo"` // until when its marks hold
	DugBy     string        `json:"dugBy"`
	Liable    string        `json:"liable"` // who answers for what the digger strikes
	String    *bool         `json:"string"` // draw string in, tied at both ends
	Capped    *bool         `json:"capped"`
	Note      string        `json:"note"`
}

// RunStretch is one stretch of a run.
type RunStretch struct {
	Place    string  `json:"place"`
	LengthM  float64 `json:"lengthM"`
	Basis    Basis   `json:"basis"`
	Surface  string  `json:"surface"` // location by which the practice asks for cover
	CoverMM  float64 `json:"coverMM"` // planned, top of duct or cable to finished ground; or height above ground overhead
	DugMM    Fact    `json:"dugMM"`   // as dug
	BendDeg  float64 `json:"bendDeg"` // at its end
	RadiusMM float64 `json:"radiusMM"`
	RibbonMM float64 `json:"ribbonMM"` // of the warning ribbon above the duct; 0 for none
}

// Obstruction is what was found on the day and what was done about it.
type Obstruction struct {
	AtM     float64 `json:"atM"` // from the start
	What    string  `json:"what"`
	LengthM float64 `json:"lengthM"` // along the run
	WidthM  float64 `json:"widthM"`  // across it, to the side that is free
	TopMM   float64 `json:"topMM"`   // below ground
	// BottomMM is how deep it reaches below ground; 0 when not known.
	BottomMM float64 `json:"bottomMM" seal:"omitempty"`
	Option   string  `json:"option"` // around, under, over, break out; empty when not decided
	By       string  `json:"by"`
}

// ObstructionOptions are the ways past an obstruction.
var ObstructionOptions = []string{"around", "under", "over", "break out"}

// Electrodes are the earth electrodes and the ground they stand in.
type Electrodes struct {
	Soil       string      `json:"soil"` // of the table; empty when not looked at
	SoilOhmM   Fact        `json:"soilOhmM"`
	Rods       []PlacedRod `json:"rods"`
	Measured   Fact        `json:"measured"` // of all together, Ω
	Method     string      `json:"method"`   // fall of potential, clamp, loop
	Moisture   string      `json:"moisture"` // wet, damp, dry
	Continuous *bool       `json:"continuous"`
	Ruling     string      `json:"ruling"` // local ruling: who said what and when
}

// PlacedRod is one rod.
type PlacedRod struct {
	Place      string  `json:"place"`
	LengthM    float64 `json:"lengthM"`
	DiameterMM float64 `json:"diameterMM"`
	SpacingM   float64 `json:"spacingM"`                  // to the rod before it, 0 for the first
	TopMM      float64 `json:"topMM"`                     // below finished ground
	Mode       RodMode `json:"mode"`                      // vertical, slant, flat
	Rock       bool    `json:"rock"`                      // rock was met: the reason for slant or flat
	AngleDeg   float64 `json:"angleDeg" seal:"omitempty"` // of a slanted rod from the vertical, 0 when not measured
	Listed     *bool   `json:"listed" seal:"omitempty"`   // marked as a listed rod; nil when not looked at
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
	if len(o.Runs) > 20 {
		c.say("runs", len(o.Runs), c.w.Say("at most 20 runs"))
	}
	ids := map[string]bool{}
	for i, r := range o.Runs {
		f := fmt.Sprintf("runs[%d].", i)
		c.ident(f+"id", r.ID)
		if ids[r.ID] {
			c.say(f+"id", r.ID, c.w.Say("each run's id once"))
		}
		ids[r.ID] = true
		c.needed(f+"name", r.Name, 80)
		c.oneOf(f+"kind", r.Kind, []string{Trench, Overhead})
		c.between(f+"ductMM", r.DuctMM, 0, 200, c.w.Say("mm, or 0 without a duct"))
		c.between(f+"coverMM", r.CoverMM, 0, 3000, c.w.Say("mm, or 0 when the operator asks for none"))
		for name, v := range map[string]string{"grade": r.Grade, "located": r.Located, "dugBy": r.DugBy, "liable": r.Liable} {
			c.text(f+name, v, 120)
		}
		c.date(f+"locatedTo", r.LocatedTo)
		c.text(f+"note", r.Note, 2000)
		if len(r.Stretches) > 60 || len(r.Found) > 40 {
			c.say(f+"stretches", max(len(r.Stretches), len(r.Found)), c.w.Say("at most 60 stretches and 40 obstructions"))
		}
		for k, s := range r.Stretches {
			g := fmt.Sprintf("%sstretches[%d].", f, k)
			c.text(g+"place", s.Place, 120)
			c.between(g+"lengthM", s.LengthM, 0.1, 500, "m")
			c.basis(g+"basis", s.Basis)
			if s.Surface != "" && t.Surfaces != nil {
				c.oneOf(g+"surface", s.Surface, t.Surfaces)
			}
			c.between(g+"coverMM", s.CoverMM, 0, 12000, "mm")
			c.fact(g+"dugMM", s.DugMM, 0, 12000, "mm")
			c.between(g+"bendDeg", s.BendDeg, 0, 180, "degrees")
			c.between(g+"radiusMM", s.RadiusMM, 0, 3000, "mm")
			c.between(g+"ribbonMM", s.RibbonMM, 0, 2000, c.w.Say("mm above the duct, or 0 for none"))
		}
		for k, x := range r.Found {
			g := fmt.Sprintf("%sfound[%d].", f, k)
			c.needed(g+"what", x.What, 120)
			c.between(g+"atM", x.AtM, 0, 2000, c.w.Say("m from the start"))
			c.between(g+"lengthM", x.LengthM, 0.05, 100, c.w.Say("m along the run"))
			c.between(g+"widthM", x.WidthM, 0, 100, c.w.Say("m to the free side"))
			c.between(g+"topMM", x.TopMM, 0, 5000, c.w.Say("mm below ground"))
			c.between(g+"bottomMM", x.BottomMM, 0, 8000, c.w.Say("mm below ground, or 0 when not known"))
			c.oneOf(g+"option", x.Option, append([]string{""}, ObstructionOptions...))
			c.text(g+"by", x.By, 120)
		}
	}
	e := o.Electrodes
	if e.Soil != "" && t.Soils != nil {
		c.oneOf("electrodes.soil", e.Soil, t.Soils)
	}
	c.fact("electrodes.soilOhmM", e.SoilOhmM, 1, 20000, "Ωm")
	c.fact("electrodes.measured", e.Measured, 0.1, 20000, "Ω")
	if e.Measured.Basis == Measured && e.Measured.Known() && strings.TrimSpace(e.Method) == "" {
		c.say("electrodes.method", e.Method, c.w.Say("the method by which it was measured: fall of potential, clamp or loop"))
	}
	c.text("electrodes.method", e.Method, 80)
	c.text("electrodes.moisture", e.Moisture, 40)
	c.text("electrodes.ruling", e.Ruling, 400)
	if len(e.Rods) > 12 {
		c.say("electrodes.rods", len(e.Rods), c.w.Say("at most 12 rods"))
	}
	for i, r := range e.Rods {
		f := fmt.Sprintf("electrodes.rods[%d].", i)
		c.text(f+"place", r.Place, 120)
		c.between(f+"lengthM", r.LengthM, 0.3, 12, "m")
		c.between(f+"diameterMM", r.DiameterMM, 6, 60, "mm")
		c.between(f+"spacingM", r.SpacingM, 0, 60, "m")
		c.between(f+"topMM", r.TopMM, 0, 3000, c.w.Say("mm below finished ground"))
		c.oneOf(f+"mode", string(r.Mode), []string{"vertical", "slant", "flat"})
		c.between(f+"angleDeg", r.AngleDeg, 0, 90, c.w.Say("degrees from the vertical, or 0 when not measured"))
		if r.Mode != "vertical" && !r.Rock {
			c.say(f+"rock", r.Rock, c.w.Say("yes: a rod goes slant or flat only where rock was met"))
		}
	}
	return c.result()
}
