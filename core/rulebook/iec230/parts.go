package iec230

import (
	"arvelt/core/install"
	"arvelt/core/rulebook"
)

// Work lists nothing: every step of this practice follows from circuits, rooms and
// the chain.
func (Practice) Work(*install.Job, *rulebook.Report) []rulebook.Work { return nil }

// Parts lists the device of a circuit and, for a charge point outdoors on TN-C-S,
// what was decided against a broken neutral-earth.
func (Practice) Parts(job *install.Job, c *install.Circuit) []rulebook.Part {
	d := &c.Protection
	name, key := text("Breaker ", d.Curve, d.RatingA, ", ", d.IcnKA, " kA"), "device:mcb"
	switch {
	case d.Family != "mcb_rcbo":
		name, key = text(familyNames[d.Family], " ", d.RatingA, " A"), "device:fuse"
	case d.ArcFault && d.RCDType != "":
		name, key = text("Arc-fault and combined device ", d.Curve, d.RatingA, ", type ", d.RCDType, " ", d.IdnMA, " mA, ", d.IcnKA, " kA"), "device:afdd:"+d.RCDType
	case d.ArcFault:
		name, key = text("Arc-fault device ", d.Curve, d.RatingA, ", ", d.IcnKA, " kA"), "device:afdd"
	case d.RCDType != "":
		name, key = text("Combined device ", d.Curve, d.RatingA, ", type ", d.RCDType, " ", d.IdnMA, " mA, ", d.IcnKA, " kA"), "device:rcbo:"+d.RCDType
	}
	out := []rulebook.Part{{Key: key, Name: name, Count: 1, Rule: "one for the circuit"}}
	if c.Use != "ev" || job.Supply.Earthing != "TN-C-S" || !c.Point.Outdoor {
		return out
	}
	switch c.PEN.Option {
	case "tt_rod", "met_electrode":
		out = append(out, rulebook.Part{Key: "earth-rod", Name: "Earth rod with clamp and inspection pit", Count: float64(max(1, c.PEN.Rods)), Rule: "as decided for the broken neutral-earth"})
	case "voltage_monitor", "touch_voltage_device":
		out = append(out, rulebook.Part{Key: "pen-device", Name: "Enclosure with the broken neutral-earth device", Count: 1, Rule: "one, unless the charge point has it built in: then note it"})
	}
	return out
}
