package iec230

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
	"arvelt/core/unit"
)

var supplyParts = tables.LoadOf[rulebook.KitRow](dataFiles, "supply_parts")

// Kits lists what each enclosure of the supply arrangement takes that the job puts in, with a line and a neutral to feed it.
func (Practice) Kits(job *install.Job, _ *rulebook.ChainReport) []rulebook.Kit {
	out, rows := []rulebook.Kit{}, supplyParts.Rows()
	for _, e := range job.Chain.Order() {
		if e.New {
			k := rulebook.KitOf{E: e, Length: terms.Length, Ways: job.WaysIn(e.ID, terms.BoardKinds), Live: 2,
				Size: func(mm2 string) string { return mm2 + " mm²" }}
			out = append(out, k.Kit(job.Words, rows))
		}
	}
	return out
}

// Work lists nothing: every step of this practice follows from circuits, rooms and
// the chain.
func (Practice) Work(*install.Job, *rulebook.Report) []rulebook.Work { return nil }

// Parts lists the device of a circuit and, for a charge point outdoors on TN-C-S,
// what was decided against a broken neutral-earth.
func (Practice) Parts(job *install.Job, c *install.Circuit) []rulebook.Part {
	d := &c.Protection
	name, key := text("Breaker ", d.Curve, d.RatingA, ", ", d.IcnKA, " kA"), text("device:mcb:", d.Curve, d.RatingA, ":", d.IcnKA)
	switch {
	case d.Family != breaker:
		name, key = text(familyNames[d.Family], " ", d.RatingA, " A"), text("device:fuse:", d.Family, ":", d.RatingA)
	case d.ArcFault && d.RCDType != "":
		name, key = text("Arc-fault and combined device ", d.Curve, d.RatingA, ", type ", d.RCDType, " ", d.IdnMA, " mA, ",
			d.IcnKA, " kA"), text("device:afdd:", d.RCDType, ":", d.Curve, d.RatingA, ":", d.IdnMA, ":", d.IcnKA)
	case d.ArcFault:
		name, key = text("Arc-fault device ", d.Curve, d.RatingA, ", ", d.IcnKA, " kA"), text("device:afdd::", d.Curve, d.RatingA, ":", d.IcnKA)
	case d.RCDType != "":
		name, key = text("Combined device ", d.Curve, d.RatingA, ", type ", d.RCDType, " ", d.IdnMA, " mA, ", d.IcnKA,
			" kA"), text("device:rcbo:", d.RCDType, ":", d.Curve, d.RatingA, ":", d.IdnMA, ":", d.IcnKA)
	}
	out := []rulebook.Part{{Key: key, Name: name, Count: 1, Rule: "one for the circuit", Device: true}}
	if kind := cableKinds[c.Route.CableType]; kind.singles() {
		out = append(out, singles(c)...)
	}
	out = append(out, connectorParts(job, c)...)
	out = append(out, fireClips(c)...)
	if c.Use != useEV || job.Supply.Earthing != install.TNCS || !c.Point.Outdoor {
		return out
	}
	switch c.PEN.Option {
	case penRod, penElectrode:
		out = append(out, rulebook.Part{Key: "earth-rod", Name: "Earth rod with clamp and inspection pit",
			Count: float64(max(1, c.PEN.Rods)), Rule: "as decided for the broken neutral-earth"})
	case penMonitor, penTouch:
		out = append(out, rulebook.Part{Key: "pen-device", Name: "Enclosure with the broken neutral-earth device", Count: 1,
			Rule: "one, unless the charge point has it built in: then note it"})
	}
	return out
}

// fireClipM is how far apart along a horizontal run are the fixings that hold in a fire, m: plastic clips and trunking let go, and cables that hang
// down entangle whoever comes in (BS 7671 521.10.202 asks for it and names no distance; practice of the trade).
const fireClipM = 0.6

// falls are the methods by which a cable hangs from something that a fire takes away: on a surface, in trunking on it, above a ceiling. In a wall it lies.
var falls = map[install.Method]bool{"C": true, "B": true, "100": true, "101": true}

// fireClips are the fixings of steel by which a cable that is no armoured one stays up in a fire: along what runs level, as what stands upright is held by its
// own way.
func fireClips(c *install.Circuit) []rulebook.Part {
	if cableKinds[c.Route.CableType].armoured {
		return nil
	}
	m := 0.0
	for i := range c.Route.Segments {
		s := &c.Route.Segments[i]
		if falls[s.Method] && !s.Vertical {
			m += s.LengthM
		}
	}
	if m == 0 {
		return nil
	}
	return []rulebook.Part{{Key: "fire-clip", Name: "Steel clip, holds a cable in a fire", Count: math.Ceil(unit.Significant(m/fireClipM, 9)),
		Rule: text("one each ", fireClipM, " m of what runs level: plastic lets go in a fire")}}
}

// singles lists what a run of single cores takes beside its line conductor: neutral,
// protective conductor, and what they are drawn into.
func singles(c *install.Circuit) (out []rulebook.Part) {
	length := c.Route.LengthM()
	size := text(c.Route.LineMM2)
	out = append(out, rulebook.Part{Key: "core-neutral:" + size, Name: size + " mm² single core, blue, for the neutral",
		Count: length, Unit: "m", Cut: true, Like: 1, Rule: "as long as the line conductor"})
	if cable, ok := (Practice{}).Cable(c.Route.CableType, c.Route.LineMM2); ok && c.Route.CPC == "" {
		cpc := text(cable.CPCMM2)
		out = append(out, rulebook.Part{Key: "core-earth:" + cpc,
			Name: cpc + " mm² single core, green-yellow, for the protective conductor", Count: length, Unit: "m", Cut: true, Like: 1,
			Rule: "as long as the line conductor"})
	}
	if d := drawnIn(c); d.lengthM > 0 {
		out = append(out, d.parts()...)
	}
	return out
}

// drawn is the conduit that the single cores of a circuit are drawn into.
type drawn struct {
	lengthM float64
	bends   int
	row     *conduitsRow // nil where none of the table holds the cores
	fillPc  float64
}

// conduitsRow is a row of conduits.
type conduitsRow struct {
	BoreMM   float64 `col:"bore_mm"`
	InsideMM float64 `col:"inside_mm"`
	SaddleM  float64 `col:"saddle_m"`
}

var conduits = tables.LoadOf[conduitsRow](dataFiles, "conduits")

// mostFillPc is how much of the section of a conduit its cores may fill, % (practice of the trade).
const mostFillPc = 40.0

// drawnIn is the conduit of a circuit of single cores: of all stretches that are not buried or fixed by themselves, with a bend at each
// change between two of them, of the smallest bore that holds its line, neutral and protective conductor.
func drawnIn(c *install.Circuit) (d drawn) {
	stretches := 0
	for i := range c.Route.Segments {
		if m := c.Route.Segments[i].Method; !terms.Laid[m].Fixed {
			d.lengthM += c.Route.Segments[i].LengthM
			stretches++
		}
	}
	d.bends = max(0, stretches-1)
	area := func(mm2 float64) float64 {
		cable, _ := Practice{}.Cable(c.Route.CableType, mm2)
		return math.Pi / 4 * cable.ODmm * cable.ODmm
	}
	own, _ := Practice{}.Cable(c.Route.CableType, c.Route.LineMM2)
	cpc := own.CPCMM2
	if c.Route.CPC != "" {
		cpc = c.Route.CPCMM2
	}
	all := 2*area(c.Route.LineMM2) + area(cpc)
	for r := range conduits.Text {
		row := conduits.Row(r)
		if d.fillPc = 100 * all / (math.Pi / 4 * row.InsideMM * row.InsideMM); all > 0 && d.fillPc <= mostFillPc {
			d.row = row
			return d
		}
	}
	return d
}

// parts lists the conduit with what belongs to it.
func (d *drawn) parts() []rulebook.Part {
	sticks := math.Ceil(d.lengthM/conduitStickM - 1e-9)
	bore, id, rule := "", "", text(d.lengthM, " m of route; its size by the cores that it holds, shared with the circuits beside it")
	spacing := 1.0
	if d.row != nil {
		bore, id, spacing = text(", ", d.row.BoreMM, " mm"), text(":", d.row.BoreMM), d.row.SaddleM
		rule = text(d.lengthM, " m of route; its cores fill ", math.Round(d.fillPc), " % of at most ", mostFillPc,
			" %; larger where circuits share it")
	}
	out := []rulebook.Part{
		{Key: "conduit" + id, Name: text("Conduit", bore, ", lengths of ", conduitStickM, " m"), Count: sticks, Rule: rule},
		{Key: "conduit-fixing:coupler" + id, Name: text("Conduit couplers and adapters", bore), Count: max(sticks-1, 0) + 2,
			Rule: "one between two lengths, and one at each end"},
		{Key: "conduit-fixing" + id, Name: text("Saddles for conduit", bore), Count: math.Ceil(d.lengthM/spacing-1e-9) + 1,
			Rule: text("at most ", spacing, " m apart, and one more")},
	}
	if d.bends > 0 {
		out = append(out, rulebook.Part{Key: "conduit-bend" + id, Name: text("Conduit bends", bore), Count: float64(d.bends),
			Rule: "one at each change between two stretches of the route"})
	}
	if boxes := (d.bends - 1) / bendsBetweenBoxes; d.bends > bendsBetweenBoxes {
		out = append(out, rulebook.Part{Key: "conduit-box" + id, Name: text("Conduit inspection boxes", bore), Count: float64(boxes),
			Rule: text("so that cores are drawn round at most ", bendsBetweenBoxes, " bends")})
	}
	return out
}

// bendsBetweenBoxes is round how many bends of 90° cores are drawn before they are drawn in anew (practice of the trade; BS 7671 guidance says two).
const bendsBetweenBoxes = 2

// conduitStickM is the length in metres in which conduit and trunking are sold.
const conduitStickM = 3.0
