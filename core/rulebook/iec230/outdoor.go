package iec230

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/physics"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
	"arvelt/core/words"
	"arvelt/core/working"
)

var (
	outdoorFigures = load("outdoor")
	soils          = tables.LoadOf[soilsRow](dataFiles, "soil_resistivity")
)

func outdoorOf(tables string) *rulebook.OutdoorRules {
	o := &rulebook.OutdoorRules{Words: words.In(words.British), Direct: []rulebook.Cover{}, RibbonLow: outdoorRibbonLow.V(),
		RibbonHigh: outdoorRibbonHigh.V(), BendSumDeg: outdoorBendSumDeg.V(),
		StickM:    outdoorStickM.V(),
		Electrode: "TT: resistance × trip current at most 50 V, and under 200 Ω so that it stays so. TN: none is needed for protection.",
		Source:    burialDepth.Source.Ref, Confidence: burialDepth.Source.Confidence}
	// Heights of overhead wiring between buildings: the guide's of the trade.
	for _, x := range []struct{ place, row string }{{"out of reach of vehicles", "clearance_walk_mm"},
		{"reached by vehicles", "clearance_drive_mm"}, {"road crossing", "clearance_road_mm"}} {
		o.Clearances = append(o.Clearances, rulebook.Cover{Place: x.place, MM: outdoorFigures.Fixed(x.row)})
	}
	for _, bore := range []float64{20, 25, 32, 38, 50, 63, 100, 150, 200} {
		o.Radii = append(o.Radii, rulebook.Radius{BoreMM: bore, MM: outdoorBendBores.V() * bore})
	}
	o.RadiusSource, o.Risers = outdoorFigures.Source.Ref, []rulebook.Riser{}
	rod := outdoorRodM.V()
	o.Rod = rulebook.Rod{LengthM: rod, DiameterMM: outdoorRodMM.V(), SpacingM: 2 * rod, LeastMM: outdoorRodLeastMM.V()}
	o.ClearanceSource = outdoorFigures.Source.Ref
	for r := range burialDepth.Text {
		if burialDepth.Row(r).School == coverPractice {
			cover := rulebook.Cover{Place: burialDepth.Row(r).Place, MM: burialDepth.Row(r).DepthMM}
			if own := burialDepth.Find(func(it *burialDepthRow) bool { return it.School == tables && it.Place == "any" }); own >= 0 {
				cover.MM = burialDepth.Row(own).DepthMM
			}
			o.Covers = append(o.Covers, cover)
		}
	}
	for r := range soils.Text {
		o.Soils = append(o.Soils, rulebook.Soil{Name: soils.Row(r).Soil, LowOhmM: soils.Row(r).Low,
			HighOhm: soils.Row(r).High, Typical: soils.Row(r).Typical})
	}
	return o
}

var outdoorRules = func() map[string]*rulebook.OutdoorRules {
	out := map[string]*rulebook.OutdoorRules{}
	for _, tables := range nationalTables() {
		out[tables] = outdoorOf(tables)
	}
	return out
}()

// Outdoor returns what the practice asks of work outside, by the national tables of the job.
func (Practice) Outdoor(job *install.Job) *rulebook.OutdoorRules {
	o := outdoorRules[tablesOf(job)]
	if o == nil {
		o = outdoorRules[usualTables]
	}
	local, laid := rulebook.Laid(job, nil, "cover-garden")
	if !laid {
		return o
	}
	own := *o
	own.Source += "; local rule for the cover of a buried cable"
	own.Covers = slices.Clone(o.Covers)
	for i := range own.Covers {
		own.Covers[i].MM = max(own.Covers[i].MM, local)
	}
	return &own
}

// rodsOhm is the resistance of rods in line (BS 7430): the first rod's with the
// group factor of their number and least spacing; alone by the rod formula.
func rodsOhm(rho float64, rods []install.PlacedRod) float64 {
	single := physics.Rod(rho, rods[0].LengthM, rods[0].DiameterMM/1000)
	n := len(rods)
	if n == 1 {
		return single
	}
	spacing := rods[0].LengthM
	for i, r := range rods[1:] {
		if s := max(r.SpacingM, 0.1); i == 0 || s < spacing {
			spacing = s
		}
	}
	row := rodLambda.Find(func(it *rodLambdaRow) bool { return same(it.N, float64(n)) })
	if row < 0 {
		row = len(rodLambda.Text) - 1 // more rods than the table: its last factor, a little too good
	}
	ohm, _ := physics.Rods(single, rho, spacing, rodLambda.Row(row).LambdaPublished, n)
	return ohm
}

// Electrodes judges the earth electrodes: needed on TT, and by a standby source.
func (Practice) Electrodes(job *install.Job) rulebook.ElectrodeReport {
	r := rulebook.ElectrodeReport{Steps: []working.Step{}, Checks: []working.Check{}, Missed: []string{}}
	e := &job.Outdoor.Electrodes
	if job.Supply.Earthing != install.TT && len(e.Rods) == 0 && !e.Measured.Known() {
		return r
	}
	if job.Supply.Earthing == install.TT && !e.Measured.Known() {
		read := *e
		read.Measured = tested(job, "electrode")
		e = &read
	}
	idn := rcdAdditionalProtectionIdnMax.V()
	limit := min(TouchV*1000/idn, ruleOf(job, nil, "electrode-advised"))
	rules := Practice{}.Outdoor(job)
	r.Judge(rules, e, limit, text("Accepted up to ", limit,
		" Ω: above that it may not stay so as the ground dries or freezes, though a ", idn, " mA device would still work."),
		ttLimits.Source, rodsOhm)
	for i := range e.Rods {
		n := text(i + 1)
		c := rodThicknessRule.Check("", n)
		c.Title = "Thickness of rod " + n
		c.From(working.Source{Ref: "BS 7671 Table 54.1, rod of copper-clad steel", Confidence: "medium"})
		c.Min(e.Rods[i].DiameterMM, rules.Rod.LeastMM)
		c.Summary = text("A driven rod of copper-clad steel is at least ", rules.Rod.LeastMM, " mm thick; galvanized or stainless ones 16 mm.")
		r.Checks = append(r.Checks, *c)
	}
	r.Joined(words.In(words.British), e, working.Source{Ref: "542.3.2", Confidence: "medium"})
	return r
}
