package iec230

import (
	"math"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	tables "arvelt/core/table"
)

var supplyParts = tables.LoadOf[rulebook.KitRow](dataFiles, "supply_parts")

// Kits lists what each enclosure of the supply arrangement takes that the job puts in, with a line and a neutral to feed it.
func (Practice) Kits(job *install.Job, _ *rulebook.ChainReport) []rulebook.Kit {
	out, rows := []rulebook.Kit{}, rulebook.KitRows(supplyParts)
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
	drawn := 0.0
	for i := range c.Route.Segments {
		if m := c.Route.Segments[i].Method; !terms.Laid[m].Fixed {
			drawn += c.Route.Segments[i].LengthM
		}
	}
	if drawn > 0 {
		sticks := math.Ceil(drawn/conduitStickM - 1e-9)
		out = append(out, rulebook.Part{Key: "conduit", Name: text("Conduit or trunking, lengths of ", conduitStickM, " m"),
			Count: sticks, Rule: text(drawn, " m of route; its size by the cores that it holds, shared with the circuits beside it")},
			rulebook.Part{Key: "conduit-fixing", Name: "Saddles and couplers for conduit or trunking", Count: sticks * 3,
				Rule: "two saddles and a coupler for each length"})
	}
	return out
}

// conduitStickM is the length in metres in which conduit and trunking are sold.
const conduitStickM = 3.0
