package install

import (
	"arvelt/core/words"
	"fmt"
	"slices"
	"strings"
)

// Validate checks one circuit's bounds and names. A route with no segments is
// refused: a cable goes somewhere. The error is [Errors].
func (k Circuit) Validate(t Terms) error {
	c := &checker{in: "circuits/" + k.ID + ".", w: words.In(t.Locale)}
	c.needed("id", k.ID, 40)
	if strings.ContainsAny(k.ID, "/.?# ") {
		c.say("id", k.ID, c.w.Say("letters, digits and dashes"))
	}
	c.needed("name", k.Name, 80)
	c.oneOf("use", string(k.Use), t.Uses)
	c.text("from", k.From, 40)
	if k.From == k.ID {
		c.say("from", k.From, c.w.Say("another circuit, or empty for the main board"))
	}
	k.Serves.validate(c, t)
	p := k.Point
	c.text("point.place", p.Place, 200)
	c.text("point.manufacturer", p.Manufacturer, 120)
	c.between("point.currentA", p.CurrentA, 0, 125, "A")
	if p.LimitA != 0 {
		c.between("point.limitA", p.LimitA, 6, 100, c.w.Say("A, or 0 for none"))
	}
	if p.ManagedA != 0 {
		c.between("point.managedA", p.ManagedA, 6, 200, c.w.Say("A, or 0 for none"))
	}
	if p.MaxDeviceA != 0 {
		c.between("point.maxDeviceA", p.MaxDeviceA, 5, 400, c.w.Say("A, or 0 when the nameplate names none"))
	}
	c.between("point.heightMM", p.HeightMM, 0, 3000, "mm")
	r := k.Route
	c.oneOf("route.cableType", r.CableType, t.CableTypes)
	if sizes := t.Sizes[r.CableType]; sizes != nil && !slices.Contains(sizes, r.LineMM2) {
		names := make([]string, len(sizes))
		for i, mm2 := range sizes {
			names[i] = t.Size(mm2)
		}
		c.say("route.lineMM2", r.LineMM2, c.w.Say("a size made in this cable: %s", strings.Join(names, ", ")))
	}
	if len(r.Segments) == 0 {
		c.say("route.segments", c.w.Say("no segments"), c.w.Say("at least one segment of the route"))
	}
	if len(r.Segments) > 60 {
		c.say("route.segments", len(r.Segments), c.w.Say("at most 60 segments"))
	}
	for i := range r.Segments {
		r.Segments[i].validate(c, fmt.Sprintf("route.segments[%d].", i), r.CableType, t)
	}
	c.between("route.slackM", r.SlackM, 0, 20, "m")
	c.between("route.boardTailM", r.BoardTailM, 0, 10, "m")
	c.between("route.pointTailM", r.PointTailM, 0, 10, "m")
	c.oneOf("route.cpc", string(r.CPC), append([]string{""}, CPCKinds...))
	c.between("route.cpcMM2", r.CPCMM2, 0, 120, c.w.Say("mm², or 0 without a separate conductor"))
	c.fact("route.armourMM2", r.ArmourMM2, 1, 500, "mm²")
	c.fact("route.armourMOhmM", r.ArmourMOhmM, 0.01, 100, "mΩ/m")
	c.fact("route.makerA", r.MakerA, 1, 500, "A")
	c.fact("route.makerMV", r.MakerMV, 0.05, 100, "mV/A/m")
	c.oneOf("out.choice", k.Out.Choice, append([]string{""}, OutChoices...))
	c.text("out.reason", k.Out.Reason, 2000)
	c.fact("out.bondMM2", k.Out.BondMM2, 1, 120, "mm²")
	c.fact("out.raOhm", k.Out.RaOhm, 0.1, 20000, "Ω")
	d := k.Protection
	c.oneOf("protection.family", d.Family, t.Families)
	c.oneOf("protection.curve", d.Curve, t.Curves)
	if rs := t.Ratings[d.Family]; rs != nil && !slices.Contains(rs, d.RatingA) {
		c.say("protection.ratingA", d.RatingA, c.w.Say("a rating made: %s A", strings.Trim(fmt.Sprint(rs), "[]")))
	}
	c.between("protection.icnKA", d.IcnKA, 1, 50, "kA")
	c.oneOf("protection.rcdType", d.RCDType, append([]string{""}, t.RCDTypes...))
	if d.RCDType != "" {
		c.between("protection.idnMA", d.IdnMA, 6, 500, "mA")
	}
	c.between("protection.way", float64(d.Way), 0, 60, "")
	if d.OwnEnclosure && d.Way != 0 {
		c.say("protection.way", d.Way, c.w.Say("0, as the device stands in an enclosure of its own"))
	}
	c.between("protection.poles", float64(d.Poles), 1, 4, "poles")
	c.text("protection.group", d.Group, 40)
	if d.Group != "" && d.RCDType != "" {
		c.say("protection.rcdType", d.RCDType, c.w.Say("none, as the circuit shares the residual-current device %s", d.Group))
	}
	c.fact("protection.letThroughA2S", d.LetThroughA2S, 1, 1e7, "A²s")
	c.between("protection.energyClass", float64(d.EnergyClass), 0, 3, c.w.Say(", the class in the square mark, or 0 when not read"))
	c.between("protection.cascadeKA", d.CascadeKA, 0, 100, c.w.Say("kA, or 0 without the manufacturer's statement"))
	c.oneOf("pen.option", string(k.PEN.Option), append([]string{""}, t.PENOptions...))
	c.text("pen.reason", k.PEN.Reason, 2000)
	c.fact("pen.raOhm", k.PEN.RaOhm, 0.1, 20000, "Ω")
	c.fact("pen.separationM", k.PEN.SeparationM, 0, 200, "m")
	c.fact("pen.soilOhmM", k.PEN.SoilOhmM, 1, 20000, "Ωm")
	c.between("pen.rodLengthM", k.PEN.RodLengthM, 0, 10, "m")
	c.between("pen.rods", float64(k.PEN.Rods), 0, 10, "rods")
	return c.result()
}

func (s *Segment) validate(c *checker, f, cable string, t Terms) {
	c.text(f+"place", s.Place, 200)
	c.between(f+"lengthM", s.LengthM, 0.1, 500, "m")
	c.basis(f+"basis", s.Basis)
	if m := t.Methods[cable]; m != nil {
		c.oneOf(f+"method", string(s.Method), m)
	}
	c.between(f+"ambientC", s.AmbientC, 5, 60, "°C")
	c.between(f+"grouped", float64(s.Grouped), 1, 20, "circuits")
	c.between(f+"insulationMM", s.InsulationMM, 0, 20000, "mm")
	c.between(f+"depthMM", s.DepthMM, 0, 2000, "mm")
	if s.SoilKmW != 0 {
		c.between(f+"soilKmW", s.SoilKmW, 0.5, 3, c.w.Say("K·m/W, or 0 when not known"))
	}
	c.oneOf(f+"surface", s.Surface, append([]string{""}, t.CoverPlaces...))
}
