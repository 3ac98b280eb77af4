package rulebook

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Rod is a rod as the practice usually drives it; a second one stands SpacingM away,
// twice its length, where each hardly disturbs the other.
type Rod struct {
	LengthM    float64 `json:"lengthM"`
	DiameterMM float64 `json:"diameterMM"`
	SpacingM   float64 `json:"spacingM"`
	LeastMM    float64 `json:"leastMM"` // diameter of the thinnest that is driven
}

// OutdoorRules is what a practice asks of work outside.
type OutdoorRules struct {
	// Words say what is composed of the rules, in the words of the practice.
	Words  *words.Catalogue `json:"-"`
	Covers []Cover          `json:"covers"` // over a duct
	Direct []Cover          `json:"direct"` // over cable laid without one; empty where it is the same
	// Clearances are the least heights of an overhead run by what lies under it, with where
	// they stand.
	Clearances      []Cover `json:"clearances"`
	ClearanceSource string  `json:"clearanceSource"`
	RibbonLow       float64 `json:"ribbonLow"`  // least height of the ribbon above the duct, mm
	RibbonHigh      float64 `json:"ribbonHigh"` // most
	BendSumDeg      float64 `json:"bendSumDeg"` // between two pull points
	StickM          float64 `json:"stickM"`     // length of a duct as delivered
	// Radii are the least radii of a bend by the bore of the duct, the smallest first; RadiusSource says where they stand.
	Radii        []Radius `json:"radii"`
	RadiusSource string   `json:"-"`
	// Risers are the grades of what a duct leaves the ground in; empty where the practice has none.
	Risers     []Riser `json:"risers"`
	Electrode  string  `json:"electrode"` // what the rule accepts, in one sentence
	Rod        Rod     `json:"rod"`       // the usual rod
	Soils      []Soil  `json:"soils"`
	Source     string  `json:"source"`
	Confidence string  `json:"confidence"`
	Inches     bool    `json:"inches"`
	// OverheadParts is the bill of an overhead service beside what its length decides.
	OverheadParts []Part `json:"-"`
	// ExpansionPerK is the expansion of a duct of plastic for each kelvin; a straight
	// stretch above ground whose length changes by ExpansionMM over ExpansionK takes a
	// fitting. 0 where the practice has no such rule.
	ExpansionPerK float64 `json:"-"`
	ExpansionMM   float64 `json:"-"`
	ExpansionK    float64 `json:"-"`
}

// Cover is the least cover at a place.
type Cover struct {
	Place  string  `json:"place"`
	MM     float64 `json:"mm"`
	Barred bool    `json:"barred"` // nothing is laid so there
}

// Radius is the least radius of a bend in a duct of a bore, to its centre line.
type Radius struct {
	BoreMM float64 `json:"boreMM"`
	MM     float64 `json:"mm"`
}

// Riser is a grade of conduit, and whether it may stand where it can be struck.
type Riser struct {
	Grade   string `json:"grade"`
	Exposed bool   `json:"exposed"`
	Source  string `json:"source"`
}

// RadiusOf is the least radius of a bend in a duct of a bore, by the next larger bore of the table.
func (o *OutdoorRules) RadiusOf(boreMM float64) float64 {
	for _, r := range o.Radii {
		if working.AtMost(boreMM, r.BoreMM) {
			return r.MM
		}
	}
	if n := len(o.Radii); n > 0 {
		return o.Radii[n-1].MM
	}
	return 0
}

// Soil is a kind of ground with its resistivity.
type Soil struct {
	Name    string  `json:"name"`
	LowOhmM float64 `json:"low"`
	HighOhm float64 `json:"high"`
	Typical float64 `json:"typical"`
}

// ElectrodeReport is the earth electrodes as the practice judges them.
type ElectrodeReport struct {
	ExpectedOhm *float64        `json:"expectedOhm"` // from soil and rods; nil when the soil is not known
	LowOhm      *float64        `json:"lowOhm"`      // over the range of the soil
	HighOhm     *float64        `json:"highOhm"`
	Steps       []working.Step  `json:"steps"`
	Checks      []working.Check `json:"checks"`
	Missed      []string        `json:"missed"` // what to do when the reading misses
}

// ResistivityOf is the resistivity of the ground: measured or typed, or the
// typical one of its kind with its range.
func (o *OutdoorRules) ResistivityOf(e *install.Electrodes) (rho, low, high float64, ok bool) {
	if e.SoilOhmM.Known() {
		v := e.SoilOhmM.V()
		return v, v, v, true
	}
	for _, s := range o.Soils {
		if s.Name == e.Soil {
			return s.Typical, s.LowOhmM, s.HighOhm, true
		}
	}
	return 0, 0, 0, false
}

// At is what is asked for at a place: height over it, or cover over a duct or over cable
// laid without one; ok is false for a place that is not there.
func (o *OutdoorRules) At(place string, overhead, duct bool) (c Cover, ok bool) {
	list := o.Covers
	switch {
	case overhead:
		list = o.Clearances
	case !duct && len(o.Direct) > 0:
		list = o.Direct
	}
	i := slices.IndexFunc(list, func(c Cover) bool { return c.Place == place })
	if i < 0 {
		return Cover{}, false
	}
	return list[i], true
}

// AboveGround is a stretch of a trench run that leaves the ground, such as a riser on a
// wall: no cover and no ribbon are asked of it.
const AboveGround = "above ground"

// Surfaces lists the places with a cover or a height of their own, and above ground.
func (o *OutdoorRules) Surfaces() []string {
	out := []string{AboveGround}
	for _, c := range slices.Concat(o.Covers, o.Clearances) {
		if !slices.Contains(out, c.Place) {
			out = append(out, c.Place)
		}
	}
	return out
}

// SoilNames lists the kinds of ground.
func (o *OutdoorRules) SoilNames() []string {
	out := []string{}
	for _, s := range o.Soils {
		out = append(out, s.Name)
	}
	return out
}

// Judge adds the expected resistance and the check of the reading: limit is what
// the rule accepts, why says so. group gives the resistance of n alike rods at a
// spacing in soil of rho.
func (r *ElectrodeReport) Judge(rules *OutdoorRules, e *install.Electrodes, limit float64, why string,
	source working.Source, group func(rho float64, rods []install.PlacedRod) float64) {
	w := rules.Words
	c := ElectrodeRule.Check("", "")
	c.From(source)
	if rho, low, high, ok := rules.ResistivityOf(e); ok && len(e.Rods) > 0 {
		v, a, b := group(rho, e.Rods), group(low, e.Rods), group(high, e.Rods)
		r.ExpectedOhm, r.LowOhm, r.HighOhm = &v, &a, &b
		r.Steps = append(r.Steps, working.Step{Symbol: "expected", Formula: w.Say("rods in parallel in this soil"), With: "",
			Value: v, Unit: "Ω", Source: source.Ref})
		if v > limit {
			for n := 1; n <= 3; n++ {
				more := append([]install.PlacedRod{}, e.Rods...)
				last := more[len(more)-1]
				if last.SpacingM == 0 {
					last.SpacingM = 2 * last.LengthM
				}
				for range n {
					more = append(more, last)
				}
				if ra := group(rho, more); ra <= limit || n == 3 {
					r.Missed = append(r.Missed, sayRods(w, n, ra))
					break
				}
			}
			deep := append([]install.PlacedRod{}, e.Rods...)
			for i := range deep {
				deep[i].LengthM *= 2
			}
			r.Missed = append(r.Missed, w.Say("the same rods driven to twice the depth: about %s", ohms(group(rho, deep))))
		}
	}
	if !e.Measured.Known() {
		c.AddMissing(w.Say("the measured resistance of the electrode"))
		c.Summary = w.Say("Not measured: it is never taken from soil and length. %s", why)
		r.Checks = append(r.Checks, *c)
		return
	}
	if !e.Measured.Confirmed() {
		c.Assumes(w.Say("electrode resistance"))
	}
	c.Max(e.Measured.V(), limit)
	c.Summary = why
	switch e.Moisture {
	case install.Wet:
		if c.Verdict == working.Pass {
			c.Warn()
		}
		c.Summary += w.Say(" It was read in wet ground: it will be higher when that is dry or frozen, so read it again then.")
	case install.Damp, install.Dry:
	default:
		c.Summary += w.Say(" How moist the ground was is not recorded.")
	}
	r.Checks = append(r.Checks, *c)
}

// Joined judges the conductor along several rods: unbroken, or in pieces that are each a bonding jumper.
func (r *ElectrodeReport) Joined(w *words.Catalogue, e *install.Electrodes, source working.Source) {
	if len(e.Rods) < 2 {
		return
	}
	c := RodJoinRule.Check("", "")
	c.From(source)
	switch e.Continuous {
	case nil:
		c.AddMissing(w.Say("whether the conductor is unbroken from rod to rod"))
		c.Summary = w.Say("Not recorded: %s.", c.Missing[0])
	default:
		c.Decide(true)
		c.Summary = w.Say("One piece from rod to rod.")
		if !*e.Continuous {
			c.Warn()
			c.Summary = w.Say("In pieces: each is of the full size and clamped to both of its rods, or joined so that only a saw parts it; who inspects " +
				"may ask for one piece.")
		}
	}
	r.Checks = append(r.Checks, *c)
}

func ohms(v float64) string { return unit.With(unit.Significant(v, 3), "Ω") }

func sayRods(w *words.Catalogue, n int, v float64) string {
	if n == 1 {
		return w.Say("one rod more, as far from the last: about %s", ohms(v))
	}
	return w.Say("%s rods more, as far from each other: about %s", unit.Format(float64(n)), ohms(v))
}
