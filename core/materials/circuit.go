package materials

import (
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/unit"
	"arvelt/core/words"
)

// of is the ask of a circuit for a product, in the step of its own that takes it.
func (c *counter) of(k *install.Circuit, product, name string, need float64, rule string) *Ask {
	a := Ask{By: Asker{Circuit: k.ID}, For: called(k), product: product, name: name, Need: need, Rule: rule}
	if f := family(product); f != nil && f.Step != "" && k.State == install.NewCircuit {
		switch f.Step {
		case "point", "boxes", "fit": // a room has several steps for its points, a circuit one
			a.Steps = c.pointSteps(k)
		default:
			a.Steps = []string{k.ID + "-" + f.Step}
		}
	}
	return c.ask(k.ID, a)
}

// pointSteps are the steps in which the points of a circuit are fitted, worked out once for all that it takes.
func (c *counter) pointSteps(k *install.Circuit) []string {
	if c.fitted != k {
		c.fitted, c.fits = k, c.job.PointSteps(k)
	}
	return c.fits
}

// circuit counts what a circuit takes: its cable, what holds it, what its ends and points ask for. Of one that stays only what is
// exchanged, of one that leaves what its ends are closed with.
func (c *counter) circuit(k *install.Circuit) {
	w := c.w
	if k.State.Out() {
		c.of(k, "labels", w.Say("Label set"), 1, w.Say("both ends of what stays in the wall: not connected"))
		c.of(k, "caps", w.Say("Terminal covers for conductors that end"), 1, w.Say("for both ends of what stays in the wall")).unit = "sets"
		return
	}
	if k.State != install.NewCircuit {
		c.extended(k)
		c.plates(k)
		c.parts(k, func(x *rulebook.Part) bool {
			return k.State == install.AlteredCircuit && x.Device || k.State == install.KeptCircuit && x.Replaced
		})
		return
	}
	if c.terms.IsBranch(k) {
		c.parts(k, func(x *rulebook.Part) bool { return x.Device }) // it has leads, not a cable
		c.of(k, "labels", w.Say("Label set"), 1, w.Say("both ends of the cable and the way; printed from the handover sheet"))
		return
	}
	cable, ok := c.book.Cable(k.Route.CableType, k.Route.LineMM2)
	if !ok {
		c.gap(Gap{What: w.Say("%s: its cable is not chosen yet.", called(k)), Sheet: circuitsSheet, Circuit: k.ID})
		return
	}
	if slices.ContainsFunc(k.Route.Segments, func(s install.Segment) bool { return s.Basis == "" }) {
		c.gap(Gap{What: w.Say("%s: its route is that of the template. Say how long its stretches are and how that is known; until then its cable is not counted.",
			called(k)), Sheet: circuitsSheet, Circuit: k.ID})
		if legs := unmeasured(w, k); legs != "" {
			c.short(k, legs)
		}
	} else {
		c.cable(k, &cable)
	}
	c.stands(k)
	c.fixings(k, &cable)
	c.parts(k, func(*rulebook.Part) bool { return true })
	c.ends(k, cable.Gland != "")
}

// extended counts the cable of the legs by which an existing circuit is extended. Of what it was made nobody may have said; then its cable is a
// gap, and so is a leg that nobody knows.
func (c *counter) extended(k *install.Circuit) {
	legs := c.job.Extensions(k)
	if len(legs) == 0 {
		return
	}
	w, in := c.w, c.terms.Length
	cable, ok := c.book.Cable(k.Route.CableType, k.Route.LineMM2)
	if !ok {
		c.gap(Gap{What: w.Say("%s: its cable is not chosen yet.", called(k)), Sheet: circuitsSheet, Circuit: k.ID})
		return
	}
	at, m := c.endsOf(k), 0.0
	pieces, open := []Piece{}, []string{}
	for _, l := range legs {
		if !l.Known {
			open = append(open, at(l.To))
			continue
		}
		m += l.LengthM
		pieces = append(pieces, Piece{unit.Significant(in.Of(l.LengthM), 9), at(l.From), at(l.To), !l.Measured})
	}
	if len(open) > 0 {
		c.short(k, strings.Join(open, ", "))
	}
	if m == 0 {
		return
	}
	product, name := c.cableOf(k, &cable)
	a := c.of(k, product, name, unit.Significant(in.Of(m), 9), w.Say("the legs to what it is extended by"))
	a.unit, a.cut, a.byLength, a.pieces, a.Steps = in.Unit(), true, true, pieces, []string{k.ID + "-cable"}
	a.Assumed = slices.ContainsFunc(pieces, func(p Piece) bool { return p.Assumed })
}

// cableOf is the cable of a circuit as a product.
func (c *counter) cableOf(k *install.Circuit, cable *rulebook.Cable) (product, name string) {
	product, name = key("cable", k.Route.CableType, k.Route.LineMM2), cable.Name
	if k.Route.Aluminium {
		return "al-" + product, c.w.Say("%s, aluminium", name)
	}
	return product, name
}

// short says that the cable of a circuit is short by legs that nobody knows.
func (c *counter) short(k *install.Circuit, legs string) {
	c.gap(Gap{What: c.w.Say("%s: the cable is short by the legs to %s, whose length nobody knows yet.", called(k), legs), Sheet: circuitsSheet,
		Circuit: k.ID})
}

// endsOf says where a leg of a circuit begins or ends: at a thing on its run, else at its board.
func (c *counter) endsOf(k *install.Circuit) func(box string) string {
	board := c.w.Say("the board")
	if b := c.job.BoardOf(k); b != nil {
		board = b.Called(c.w)
	}
	return func(box string) string {
		if b := k.Serves.BoxByID(box); b != nil {
			return b.Called()
		}
		return board
	}
}

// fused is a fused connection unit of a run. Two of a circuit are one product.
func (c *counter) fused(k *install.Circuit, at, rule string) {
	a := c.of(k, "fused-spur", c.w.Say("Fused connection unit"), 1, rule)
	a.For += ", " + at
}

// cable counts the cable of a circuit with its spurs, and the protective conductor beside it.
func (c *counter) cable(k *install.Circuit, cable *rulebook.Cable) {
	w, in, length := c.w, c.terms.Length, k.Route.LengthM()
	product, name := c.cableOf(k, cable)
	pieces, legs := c.piecesOf(k)
	rule := w.Say("route %v %v with slack %v, tails %v + %v; %s", in.Of(length), in.Unit(), in.Of(k.Route.SlackM), in.Of(k.Route.BoardTailM),
		in.Of(k.Route.PointTailM), c.comes(k))
	a := c.of(k, product, name, unit.Significant(in.Of(length), 9), rule)
	a.unit, a.cut, a.byLength, a.pieces, a.legs = in.Unit(), true, true, pieces, legs
	for i := range k.Route.Segments {
		a.Assumed = a.Assumed || k.Route.Segments[i].Basis != install.Measured
	}
	if legs := unmeasured(w, k); legs != "" {
		a.Assumed = true
		c.short(k, legs)
	}
	assumed := a.Assumed
	if k.Route.CPC == install.SeparateCPC {
		cpc := c.of(k, key("cpc", k.Route.CPCMM2), w.Say("Single core %s for the protective conductor", c.terms.Size(k.Route.CPCMM2)),
			unit.Significant(in.Of(length), 9), w.Say("beside the cable, as the protective conductor"))
		cpc.unit, cpc.cut, cpc.byLength, cpc.pieces, cpc.legs, cpc.Assumed = in.Unit(), true, true, pieces, legs, assumed
	}
	spurs, cuts := 0.0, []Piece{}
	for _, s := range spursOf(k) {
		spurs += s.LengthM
		cuts = append(cuts, Piece{unit.Significant(in.Of(s.LengthM), 9), w.Say("the ring"), s.Place, assumed})
		if s.Fused {
			c.fused(k, s.Place, w.Say("one for the fused spur"))
		}
	}
	if spurs > 0 {
		s := c.of(k, product, name, unit.Significant(in.Of(spurs), 9), w.Say("the spurs off the ring, in as many pieces"))
		s.Key = k.ID + "-spurs:" + product
		s.unit, s.cut, s.byLength, s.pieces, s.Assumed = in.Unit(), true, true, cuts, assumed
	}
}

// piecesOf are the lengths of a circuit that each come in one piece, in the unit of the practice: each leg of a run whose legs are known, all
// of one that goes to a single point. Of a run that is cut at every outlet, one does not know where, there are none, but so many legs.
func (c *counter) piecesOf(k *install.Circuit) (pieces []Piece, legs int) {
	in, at := &c.terms.Length, c.endsOf(k)
	if !cutAsItGoes(k) {
		p := Piece{Length: unit.Significant(in.Of(k.Route.LengthM()), 9), From: at(""), To: k.Point.Place}
		if len(k.Serves.Boxes) == 1 {
			p.To = k.Serves.Boxes[0].Called()
		}
		for i := range k.Route.Segments {
			p.Assumed = p.Assumed || k.Route.Segments[i].Basis != install.Measured
		}
		return []Piece{p}, 0
	}
	if !k.Legged() {
		legs = max(k.Serves.Points(), len(k.Serves.Boxes))
		if c.terms.IsRing(k) {
			legs++
		}
		return nil, legs
	}
	for _, l := range k.Legs() {
		if l.Known {
			pieces = append(pieces, Piece{unit.Significant(in.Of(l.LengthM+l.TailsM), 9), at(l.From), at(l.To), !l.Measured})
		}
	}
	return pieces, 0
}

// parts are what a practice asks for of a circuit, as far as it is wanted.
func (c *counter) parts(k *install.Circuit, wanted func(*rulebook.Part) bool) {
	for _, x := range c.book.Parts(c.job, k) {
		if !wanted(&x) {
			continue
		}
		a := c.of(k, x.Key, x.Name, x.Count, x.Rule)
		a.unit, a.cut, a.check = x.Unit, x.Cut, x.Check
		if x.Like > 0 {
			pieces, legs := c.piecesOf(k)
			a.byLength, a.legs = true, x.Like*legs
			for range x.Like {
				a.pieces = append(a.pieces, pieces...)
			}
		}
		if a.unit == "" {
			a.unit = "pcs"
		}
		if k.State == install.KeptCircuit {
			a.Steps = []string{k.ID + "-replace"}
		} else if x.Device {
			a.Steps = []string{k.ID + "-board"}
		}
	}
}

// fixings are what holds a cable on its way and warns of it: glands, clips and tape.
func (c *counter) fixings(k *install.Circuit, cable *rulebook.Cable) {
	w, in := c.w, c.terms.Length
	if cable.Gland != "" {
		c.of(k, key("gland", cable.Gland), w.Say("Gland kit %s", cable.Gland), 2,
			w.Say("one at each end of an armoured cable; size by the nominal diameter, confirm with the manufacturer's"))
	}
	clips, buried := 0.0, 0.0
	for i := range k.Route.Segments {
		s := &k.Route.Segments[i]
		switch spacing := cable.ClipHorMM; {
		case c.terms.Laid[s.Method].Ground:
			buried += s.LengthM
		case c.terms.Laid[s.Method].Fixed || slices.Contains(cable.FixedBy, string(s.Method)):
			if s.Vertical {
				spacing = cable.ClipVertMM
			}
			if spacing > 0 {
				clips += math.Ceil(unit.Significant(s.LengthM*1000/spacing, 9)) + 1
			}
		}
	}
	if clips > 0 {
		c.of(k, key("clip", kindOf(cable), cable.ClipID), cable.Clip, clips,
			w.Say("at most %s apart along and %s up, one more at each end, packs of ten", spacingIn(in, cable.ClipHorMM), spacingIn(in, cable.ClipVertMM)))
	}
	if buried > 0 {
		a := c.of(k, "warning-tape", w.Say("Warning tape"), unit.Significant(in.Of(buried), 9), w.Say("over all that is buried, above the cable"))
		a.unit = in.Unit()
	}
}

// ends are what a circuit asks for where it begins and where it feeds something.
func (c *counter) ends(k *install.Circuit, gland bool) {
	w := c.w
	if k.Protection.OwnEnclosure {
		c.of(k, "enclosure", w.Say("Enclosure with main switch, beside the board"), 1,
			w.Say("one for the device; tails and a joint block to its rating are the fitter's choice"))
	}
	if charges(k, &c.terms) {
		product, point := "charge-point", w.Say("Charge point")
		if k.Point.Manufacturer != "" {
			product, point = key(product, k.Point.Manufacturer), point+", "+k.Point.Manufacturer
		}
		c.of(k, product, point, 1, w.Say("one"))
		if k.Point.ManagedA > 0 {
			c.of(k, "load-management", w.Say("Load management with current sensor"), 1, w.Say("holds the house to %s A", unit.Format(k.Point.ManagedA)))
		}
	} else if k.Point.Manufacturer != "" {
		c.of(k, key("appliance", k.Point.Manufacturer), k.Point.Manufacturer, 1, w.Say("what the circuit feeds"))
	}
	if k.Serves.Recessed.Fitted && k.Serves.Recessed.Fire && (k.Serves.Recessed.Tested == nil || !*k.Serves.Recessed.Tested) {
		c.of(k, "fire-hood", w.Say("Fire hood over a recessed luminaire"), float64(max(1, k.Serves.Points())),
			w.Say("one for each that is not itself tested for the ceiling"))
	}
	if !gland && !k.Protection.OwnEnclosure {
		c.of(k, "entry", w.Say("Grommet or gland for the entry to the board"), 1, w.Say("one for each cable that enters it"))
	}
	c.of(k, "labels", w.Say("Label set"), 1, w.Say("both ends of the cable and the way; printed from the handover sheet"))
}

// charges reports whether a circuit charges a vehicle.
func charges(k *install.Circuit, terms *install.Terms) bool {
	return terms.Charging != "" && k.Use == terms.Charging
}

// cutAsItGoes reports whether the cable of a circuit is cut at every outlet, so that no one
// piece need be as long as the whole run.
func cutAsItGoes(k *install.Circuit) bool { return k.Serves.Points() > 1 || len(k.Serves.Boxes) > 1 }

// spursOf are the spurs whose cable is no part of the route: on a run of boxes it is.
func spursOf(k *install.Circuit) []install.Spur {
	if len(k.Serves.Boxes) > 0 {
		return nil
	}
	return k.Serves.Spurs
}

func (c *counter) comes(k *install.Circuit) string {
	if cutAsItGoes(k) {
		return c.w.Say("cut at each outlet")
	}
	return c.w.Say("in one piece")
}

// spacingIn is a distance between fixings in the small unit that goes with a length.
func spacingIn(l install.Length, mm float64) string {
	if l.Unit() == "m" {
		return unit.With(mm, "mm")
	}
	return unit.With(l.Of(mm/1000), l.Unit())
}

func kindOf(c *rulebook.Cable) string {
	if c.Armoured {
		return "armoured"
	}
	return "flat"
}

// unmeasured names the legs of a run that nobody knows, so that their cable is on no list; empty for none.
func unmeasured(w *words.Catalogue, k *install.Circuit) string {
	names := []string{}
	if !k.Legged() {
		return ""
	}
	for _, l := range k.Legs() {
		if b := k.Serves.BoxByID(l.To); !l.Known && b != nil {
			names = append(names, b.Called())
		} else if !l.Known {
			names = append(names, w.Say("the way back to the board"))
		}
	}
	return strings.Join(names, ", ")
}
