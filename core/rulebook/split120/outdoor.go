package split120

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/unit"
	"arvelt/core/words"
	"arvelt/core/working"
)

var (
	ductRadii     = table.LoadOf[ductRadiusRow](dataFiles, "duct_radius")
	risers        = table.LoadOf[riserRow](dataFiles, "risers")
	covers        = table.LoadOf[coversRow](dataFiles, "cover_300_5")
	underground   = table.Load(dataFiles, "underground_rules")
	grounding     = table.LoadOf[groundingRow](dataFiles, "grounding_rules")
	soils         = table.LoadOf[soilsRow](dataFiles, "soils")
	overheadParts = table.LoadOf[overheadPartsRow](dataFiles, "overhead_parts")
)

const (
	// summerK is the change of a duct's temperature between winter and sun, 100 °F: a
	// setting of the trade where no local figure is known.
	summerK = 55.6
	inchMM  = 25.4
	footM   = 0.3048
)

// rule is the value of a row of a table of rules by its id.
func rule(t *table.Table, id string) float64 { return t.Num(t.Where("id", id), "value") }

var coverNames = map[string]string{"other_locations": "other locations", "below_2in_concrete": "below 2 in of concrete",
	"under_building": "under a building, in raceway", "below_4in_slab_no_vehicles": "below a 4 in slab without vehicles",
	"street_road_driveway_parking": "street, road or parking", "one_two_family_driveway": "driveway of a dwelling"}

// coverOf is the location of the table by its name.
var coverOf = func() map[string]string {
	out := map[string]string{}
	for id, name := range coverNames {
		out[name] = id
	}
	return out
}()

// Places over which conductors hang.
const (
	overWalk  = "ground that only walkers reach"
	overDrive = "driveway of a dwelling"
	overRoad  = "street, road or parking"
	overRoof  = "roof"
	overSlope = "roof that rises 4 in 12 or more"
	overEdge  = "edge of a roof, at most 6 ft of it"
)

func outdoorOf(code Code) *rulebook.OutdoorRules {
	locale := words.American
	if code == CEC {
		locale = words.Canadian
	}
	o := &rulebook.OutdoorRules{Words: words.In(locale), Inches: true, RibbonLow: rule(underground, "UG-RIBBON") * inchMM,
		RibbonHigh: 18 * inchMM,
		BendSumDeg: rule(underground, "UG-BENDS"), StickM: rule(underground, "UG-STICK") * footM,
		ExpansionPerK: rule(underground, "PVC-EXP") * 1.8, ExpansionMM: rule(underground, "PVC-EXPMIN") * inchMM, ExpansionK: summerK,
		Electrode: "Two rods at least 6 ft apart, or one rod with a reading of at most 25 Ω.",
		Source:    under(covers.Table, code).Ref, Confidence: under(covers.Table, code).Confidence}
	rod := rule(grounding.Table, "ROD-LEN") * footM
	o.Rod = rulebook.Rod{LengthM: rod, DiameterMM: rule(grounding.Table, "ROD-DIA") * inchMM, SpacingM: 2 * rod, LeastMM: thinnestRod(true) * inchMM}
	high := func(place, nec, cec string) {
		mm := rule(clearances.Table, nec) * 12 * inchMM
		if code == CEC {
			mm = rule(clearances.Table, cec) * 1000
		}
		o.Clearances = append(o.Clearances, rulebook.Cover{Place: place, MM: mm})
	}
	high(overWalk, "CL-PED", "CA-PED")
	high(overDrive, "CL-DRV", "CA-DRV")
	high(overRoad, "CL-ROAD", "CA-ROAD")
	if code == NEC {
		high(overRoof, "CL-ROOF", "")
		high(overSlope, "CL-ROOFSLOPE", "")
		o.Clearances = append(o.Clearances, rulebook.Cover{Place: overEdge, MM: rule(clearances.Table, "CL-OVERHANG") * inchMM})
	}
	o.ClearanceSource = under(clearances.Table, code).Ref
	if code == CEC {
		o.Electrode = "Two rods of 3 m at least 3 m apart."
		rod := rule(grounding.Table, "CA-ROD")
		o.Rod = rulebook.Rod{LengthM: rod, DiameterMM: rule(grounding.Table, "CA-ROD-DIA"), SpacingM: 2 * rod, LeastMM: rule(grounding.Table, "CA-ROD-DIA")}
	}
	for r := range ductRadii.Text {
		o.Radii = append(o.Radii, rulebook.Radius{BoreMM: ductRadii.Row(r).BoreIn * inchMM, MM: ductRadii.Row(r).RadiusIn * inchMM})
	}
	o.RadiusSource = under(ductRadii.Table, code).Ref
	for r := range risers.Text {
		o.Risers = append(o.Risers, rulebook.Riser{Grade: risers.Row(r).Grade, Exposed: risers.Row(r).Exposed, Source: under(risers.Table, code).Ref})
	}
	for r := range overheadParts.Text {
		o.OverheadParts = append(o.OverheadParts, rulebook.Part{Key: overheadParts.Row(r).Key, Name: overheadParts.Row(r).Name,
			Count: overheadParts.Row(r).Count, Unit: overheadParts.Row(r).Unit, Rule: overheadParts.Row(r).Rule})
	}
	for r := range covers.Text {
		place := coverNames[covers.Row(r).Location]
		o.Covers = append(o.Covers, rulebook.Cover{Place: place, MM: covers.Row(r).PvcIn * inchMM})
		direct := rulebook.Cover{Place: place, MM: covers.Row(r).DirectIn * inchMM}
		if math.IsNaN(direct.MM) {
			direct = rulebook.Cover{Place: place, Barred: true}
		}
		o.Direct = append(o.Direct, direct)
	}
	for r := range soils.Text {
		o.Soils = append(o.Soils, rulebook.Soil{Name: soils.Row(r).Soil, LowOhmM: soils.Row(r).Low,
			HighOhm: soils.Row(r).High, Typical: soils.Row(r).Typical})
	}
	return o
}

var outdoorRules, outdoorCanada = outdoorOf(NEC), outdoorOf(CEC)

// Outdoor returns what the practice asks of work outside on a job. Covers are those of
// nonmetallic raceway and of what is laid without one.
func (Practice) Outdoor(job *install.Job) *rulebook.OutdoorRules {
	if codeOf(job) == CEC {
		return outdoorCanada
	}
	return outdoorRules
}

// RodOhm is the resistance of one rod, ρ/(2πL)·(ln(4L/a) − 1), a the radius
// (IEEE 142; row RHO-FORM of the grounding rules).
func RodOhm(rho, length, diameter float64) float64 {
	return rho / (2 * math.Pi * length) * (math.Log(4*length/(diameter/2)) - 1)
}

// mutualOhm is the resistance that two rods of equal length have in common at a
// distance (row RHO-FORM2), with l twice the length.
func mutualOhm(rho, length, spacing float64) float64 {
	l, s := 2*length, spacing
	return rho / (2 * math.Pi * length) * (math.Log((l+math.Sqrt(l*l+s*s))/s) - math.Sqrt(1+(s/l)*(s/l)) + s/l)
}

// rodsOhm is the resistance of rods in line: each rod's own and what it shares
// with every other, averaged (equal currents).
func rodsOhm(rho float64, rods []install.PlacedRod) float64 {
	n := len(rods)
	at := make([]float64, n)
	for i := 1; i < n; i++ {
		at[i] = at[i-1] + max(rods[i].SpacingM, 0.1)
	}
	sum := 0.0
	for i, r := range rods {
		sum += RodOhm(rho, r.LengthM, r.DiameterMM/1000)
		for k := range rods {
			if k != i {
				sum += mutualOhm(rho, r.LengthM, math.Abs(at[i]-at[k]))
			}
		}
	}
	return sum / float64(n*n)
}

// Electrodes judges the rods: each long and thick enough, two of them far enough
// apart, or one proved by a reading (NEC 250.53).
func (Practice) Electrodes(job *install.Job) rulebook.ElectrodeReport {
	r := rulebook.ElectrodeReport{Steps: []working.Step{}, Checks: []working.Check{}, Missed: []string{}}
	e := &job.Outdoor.Electrodes
	if len(e.Rods) == 0 && !e.Measured.Known() {
		if job.Kind == install.SupplyUpgrade && job.Supply.EarthTo == rodsKind {
			c := rodsMissingRule.Check("", "")
			c.From(under(grounding.Table, codeOf(job)))
			c.AddMissing("the rods that the electrode conductor runs to: where each stands, its length and its distance")
			c.Summary = "Not recorded: " + c.Missing[0] + "."
			r.Checks = append(r.Checks, *c)
		}
		return r
	}
	code := codeOf(job)
	source := under(grounding.Table, code)
	limit := ruleOf(job, nil, "ROD-2")
	least, apart, says := rule(grounding.Table, "ROD-LEN")*footM, rule(grounding.Table, "ROD-SPACE"),
		"At least 6 ft; twice the length of a rod works better. With two rods no reading is asked for."
	length := "8 ft in contact with soil."
	canada := code == CEC
	if canada {
		least, apart = rule(grounding.Table, "CA-ROD"), rule(grounding.Table, "CA-ROD")/footM
		says, length = "At least 3 m, and at least two rods.", "3 m in contact with soil."
	}
	for i, rod := range e.Rods {
		n := unit.Format(float64(i + 1))
		c := rodLengthRule.Check("", n)
		c.Title = "Length of rod " + n
		c.From(source)
		c.Min(unit.Significant(rod.LengthM/footM, 3), unit.Significant(least/footM, 3))
		c.Summary = length
		r.Checks = append(r.Checks, *c, rodThickness(code, n, &rod))
		if rod.Mode != install.Vertical {
			r.Checks = append(r.Checks, rodLie(code, n, &rod))
		}
	}
	r.Joined(outdoorRules.Words, e, under(grounding.Table, code))
	if len(e.Rods) >= 2 {
		c := rodSpacingRule.Check("", "")
		c.From(source)
		closest := math.Inf(1)
		for _, rod := range e.Rods[1:] {
			closest = math.Min(closest, rod.SpacingM)
		}
		c.Min(unit.Significant(closest/footM, 3), unit.Significant(apart, 3))
		c.Summary = says
		r.Checks = append(r.Checks, *c)
		if rho, low, high, ok := outdoorRules.ResistivityOf(e); ok {
			v, a, b := rodsOhm(rho, e.Rods), rodsOhm(low, e.Rods), rodsOhm(high, e.Rods)
			r.ExpectedOhm, r.LowOhm, r.HighOhm = &v, &a, &b
		}
		return r
	}
	if canada && len(e.Rods) == 1 {
		c := rulebook.ElectrodeRule.Check("", "")
		c.Title, c.Unit = "Ground electrode", ""
		c.From(source)
		c.Decide(false)
		c.Summary = "One rod: two are needed, at least 3 m apart; a reading does not stand in for the second."
		r.Checks = append(r.Checks, *c)
		return r
	}
	if e.Ruling != "" && !e.Measured.Known() {
		c := rulebook.ElectrodeRule.Check("", "")
		c.Warn()
		c.Summary = "One rod without a reading, by local ruling: " + e.Ruling
		r.Checks = append(r.Checks, *c)
		return r
	}
	r.Judge(outdoorRules, e, limit, "One rod is enough only with a reading of at most 25 Ω; otherwise a second rod goes in, at "+
		"least 6 ft away, and then no reading is asked for.", source, rodsOhm)
	return r
}

// rodThickness judges the diameter of a rod: a listed one may be thinner.
func rodThickness(code Code, n string, rod *install.PlacedRod) working.Check {
	c := rodThicknessRule.Check("", n)
	c.Title = "Thickness of rod " + n
	c.From(under(grounding.Table, code))
	have := unit.Significant(rod.DiameterMM/inchMM, 3)
	usual := thinnestRod(false)
	if code == CEC {
		usual = unit.Significant(rule(grounding.Table, "CA-ROD-DIA")/inchMM, 3)
	}
	listed := rod.Listed != nil && *rod.Listed && code == NEC
	switch {
	case working.AtMost(usual, have) || code == CEC || have < listedRodIn:
		c.Min(have, usual)
		c.Summary = text(usual, " in thick, or a listed rod of at least ", listedRodIn, " in.")
		if code == CEC {
			c.Summary = text(usual, " in thick.")
		}
	case rod.Listed == nil:
		c.AddMissing(text("whether rod ", n, " of ", have, " in is marked as listed: only then may it be under ", usual, " in"))
		c.Close()
	default:
		c.Min(have, thinnestRod(listed))
		c.Summary = text("Under ", usual, " in a rod is marked as listed.")
	}
	return *c
}

// rodLie judges a rod that met rock: slanted no farther than the rule allows, or flat in
// a trench that is deep enough.
func rodLie(code Code, n string, rod *install.PlacedRod) working.Check {
	c := rodLieRule.Check("", n)
	c.Title = "Where rod " + n + " met rock"
	c.From(under(grounding.Table, code))
	if rod.Mode == install.Flat {
		c.Min(unit.Significant(rod.TopMM/inchMM, 3), rule(grounding.Table, "ROD-FLAT"))
		c.Summary = text("Flat, it lies at least ", rule(grounding.Table, "ROD-FLAT"), " in deep.")
		return *c
	}
	c.Unit = "°"
	if rod.AngleDeg == 0 {
		c.AddMissing("the angle of rod " + n + " from the vertical")
		c.Close()
		return *c
	}
	c.Max(rod.AngleDeg, rule(grounding.Table, "ROD-ANGLE"))
	c.Summary = text("Slanted, at most ", rule(grounding.Table, "ROD-ANGLE"), "° from the vertical; otherwise flat in a trench.")
	return *c
}
