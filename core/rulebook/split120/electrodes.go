package split120

import (
	"slices"

	"arvelt/core/table"
	"arvelt/core/working"
)

// bondKind is a row of bond_kinds.csv: what a bond goes to, and the rule that follows.
type bondKind struct {
	id, name  string
	electrode bool
	cap       string // largest copper size that it asks for, "" without a limit
	jumper    string // must, never, or "" where nothing interrupts it
	byCircuit bool   // sized by the circuit that may make it live
}

// rodsKind is the electrode that the Outdoor works hold; nobody bonds it by a bond.
const rodsKind = "rods"

// waterPipe is the kind of a water pipe that is an electrode.
const waterPipe = "water-pipe"

var (
	bondTable = table.LoadOf[bondRow](dataFiles, "bond_kinds")
	bondKinds = map[string]*bondKind{}
	bondOrder []string
)

func readBonds() {
	for r := range bondTable.Text {
		k := &bondKind{id: bondTable.Row(r).Kind, name: bondTable.Row(r).Name,
			electrode: bondTable.Row(r).Electrode == "1", cap: bondTable.Row(r).Cap,
			jumper: bondTable.Row(r).Jumper, byCircuit: bondTable.Row(r).By == "circuit"}
		bondKinds[k.id], bondOrder = k, append(bondOrder, k.id)
		if k.id != rodsKind {
			terms.BondKinds = append(terms.BondKinds, k.id)
		}
		if k.electrode {
			terms.EarthTo = append(terms.EarthTo, k.id)
		}
	}
}

// serviceArea is the area in kcmil of the service conductors, those of several service
// disconnects together, and their material; 0 while a size is not known. k notes a size
// that is only taken from the rating.
func (s *system) serviceArea(k *working.Check) (kcmil float64, material, with string) {
	rating := s.rating()
	for _, e := range s.disconnects() {
		if e.Feed.Size == "" || e.Feed.Material == "" {
			kcmil = 0
			break
		}
		if kcmil += Cmil(e.Feed.Size) / 1000; material == "" {
			material = string(e.Feed.Material)
		} else if material != string(e.Feed.Material) {
			material = "cu" // the stricter column
		}
		if with != "" {
			with += " and "
		}
		with += e.Feed.Size + " " + string(e.Feed.Material)
	}
	if kcmil > 0 || !rating.Known() {
		return kcmil, material, with
	}
	// by the size that the rating would have
	sized, _, err := calcService(serviceIn{RatingA: rating.V(), Material: "cu", Whole: yesIf(wholeRange(rating.V()))})
	if err != nil {
		return 0, "", ""
	}
	size := sized.Conductor
	k.Assumes("service conductors of " + trade(size) + " copper")
	return Cmil(size) / 1000, "cu", size + " cu"
}

// electrodeNeed is the copper conductor by the area of the service conductors, for an
// electrode or pipe without a limit of its own; "" while that is not known.
func (s *system) electrodeNeed(k *working.Check) string {
	if s.code == CEC {
		return text(rule(grounding.Table, "CA-GEC"))
	}
	kcmil, material, with := s.serviceArea(k)
	if kcmil == 0 {
		return ""
	}
	row := byArea(electrodeSizes.Table, material, kcmil)
	need := electrodeSizes.Row(row).GecCu
	k.Step("by table", "for the service conductors", text(with, ": ", need, " cu"), AreaMM2(need), "mm²", electrodeSizes.Source.Ref)
	return need
}

// capped is the size that a kind asks for out of that by the table.
func (s *system) capped(need string, kind *bondKind) string {
	if s.code == CEC || kind.cap == "" {
		return need
	}
	return smaller(need, kind.cap)
}

// bonds judges each bond.
func (s *system) bonds() {
	for i := range s.Job.Supply.Bonds {
		s.bond(i)
	}
}

// electrodeConductor judges the conductor to the electrode by what it runs to.
func (s *system) electrodeConductor() {
	supply := &s.Job.Supply
	k := s.Of("")
	k.Title = s.named("Grounding electrode conductor", "Grounding conductor")
	k.From(under(electrodeSizes.Table, s.code), under(grounding.Table, s.code))
	need := s.electrodeNeed(k)
	if need == "" {
		k.AddMissing("the size of the service conductors")
	}
	installed := sizeOf[supply.EarthMM2.V()]
	switch {
	case !supply.EarthMM2.Known():
		k.AddMissing("the size of the grounding electrode conductor")
	case installed == "":
		k.AddMissing("a trade size of the grounding electrode conductor")
	}
	if len(k.Missing) > 0 {
		return
	}
	if !supply.EarthMM2.Confirmed() {
		k.Assumes("grounding electrode conductor")
	}
	to := bondKinds[supply.EarthTo]
	least := need
	switch {
	case to != nil:
		least = s.capped(need, to)
	case Cmil(installed) < Cmil(need) && s.code == NEC:
		// Enough for some electrodes: which one decides.
		least = s.capped(need, bondKinds[rodsKind])
		if Cmil(installed) >= Cmil(least) {
			k.AddMissing("which electrode it runs to")
			k.Summary = text(trade(installed), " copper is enough for rods, not for every electrode: say which it runs to.")
			return
		}
	}
	k.Min(AreaMM2(installed), AreaMM2(least))
	where := "whatever it runs to"
	if to != nil {
		where = "to: " + lower(to.name)
	}
	k.Summary = text(trade(installed), " copper; ", trade(least), " needed, ", where,
		". It holds the potential; it is no path for a fault.")
}

// bond judges one bond by its kind.
func (s *system) bond(i int) {
	b := &s.Job.Supply.Bonds[i]
	c := s.Of(text(i + 1))
	c.Title = "Bond of the " + b.Service
	kind := bondKinds[b.Kind]
	if kind == nil {
		c.From(under(bondTable.Table, s.code))
		c.AddMissing("what the " + b.Service + " is: a pipe in the earth, gas, a frame …")
		return
	}
	where := clauseElectrode
	switch {
	case kind.byCircuit:
		where = clausePiping
	case !kind.electrode:
		where = clauseInterior
	}
	c.From(under(bondTable.Table, s.code), where.in(s.code))
	need := ""
	switch {
	case s.code == CEC:
		need = s.electrodeNeed(c)
	case kind.byCircuit && b.CircuitA == 0:
		c.AddMissing("the rating of the circuit that may make the " + b.Service + " live")
	case kind.byCircuit:
		need = GroundSize("cu", b.CircuitA)
		c.Step("by table", "for the circuit that may make it live", text(b.CircuitA, " A: ", need), AreaMM2(need), "mm²",
			groundSizes.Source.Ref)
	default:
		if need = s.electrodeNeed(c); need == "" {
			c.AddMissing("the size of the service conductors")
		} else {
			need = s.capped(need, kind)
		}
	}
	installed := sizeOf[b.MM2.V()]
	switch {
	case !b.MM2.Known() || installed == "":
		c.AddMissing("the size of the bond of the " + b.Service)
	case !b.MM2.Confirmed():
		c.Assumes("bond of the " + b.Service)
	}
	if b.Around == nil && kind.jumper != "" {
		c.AddMissing(map[string]string{"must": "whether a jumper crosses the meter and what else interrupts the " + b.Service,
			"never": "whether a jumper crosses the gas utility's meter at the " + b.Service + ": none may"}[kind.jumper])
	}
	if len(c.Missing) > 0 {
		return
	}
	c.Min(AreaMM2(installed), AreaMM2(need))
	c.Summary = text(trade(installed), " copper; ", trade(need), " needed.")
	switch {
	case kind.jumper == jumperMust && !*b.Around:
		c.Decide(false)
		c.Summary += " The " + b.Service + " is interrupted by a meter or filter: a jumper around it keeps the electrode when that " +
			"is taken out."
	case kind.jumper == jumperNever && *b.Around:
		c.Decide(false)
		c.Summary += " A jumper crosses the gas utility's meter or insulating joint: it comes out. Gas is bonded on the customer's " +
			"side only and is never an electrode."
	case kind.jumper == jumperNever:
		c.Summary += " On the customer's side only; it is never an electrode."
	}
}

// noted counts the electrodes of the job: water pipes, and others.
func (s *system) noted() (others, water int) {
	others = len(s.Job.Outdoor.Electrodes.Rods)
	for _, b := range s.Job.Supply.Bonds {
		switch kind := bondKinds[b.Kind]; {
		case kind == nil || !kind.electrode:
		case kind.id == waterPipe:
			water++
		default:
			others++
		}
	}
	return others, water
}

// electrodeThere asks for an electrode where the service is the job's.
func (s *system) electrodeThere() {
	if others, water := s.noted(); others+water > 0 {
		return
	}
	k := s.Of("")
	k.From(under(grounding.Table, s.code), under(bondTable.Table, s.code))
	k.AddMissing("a grounding electrode: rods (Outdoor works), or a bond to one (Supply)")
	k.Summary = "No electrode is recorded. A gas pipe is none."
}

// supplemental asks for another electrode beside a water pipe.
func (s *system) supplemental() {
	others, water := s.noted()
	if water == 0 {
		return
	}
	k := s.Of("")
	k.From(clauseElectrode.in(s.code), under(grounding.Table, s.code))
	row := grounding.Find(func(it *groundingRow) bool { return it.ID == "WATER-SUP" })
	k.Step("electrodes", grounding.Row(row).Rule, "", float64(others), "", grounding.Row(row).Source)
	k.Decide(others > 0)
	k.Summary = "A water pipe may be replaced by plastic: rods, a plate, a ring, a concrete-encased electrode or a frame in the " +
		"earth stands beside it."
	if others == 0 {
		k.Summary = "None is noted. " + k.Summary
	}
}

// intersystem judges the place for the bonds of other systems.
func (s *system) intersystem() {
	k := s.Of("")
	k.From(clauseIntersystem.in(s.code))
	places := rule(grounding.Table, "IBT")
	switch have := s.Job.Supply.Intersystem; {
	case have == nil:
		k.Warn()
		k.Summary = text("Not looked for: outside at the service a place for at least ", places, " bonds.")
	case *have:
		k.Decide(true)
		k.Summary = text("At least ", places, " bonds outside at the service.")
	default:
		k.Warn()
		k.Summary = "There is none: it goes in with a new service."
	}
}

// outdoorDisconnect judges the emergency disconnect of a dwelling whose service is new or
// replaced, from the edition that asks for it.
func (s *system) outdoorDisconnect() {
	k := s.Of("")
	k.From(clauseOutdoorOff.in(s.code))
	row := clearances.Find(func(it *clearancesRow) bool { return it.ID == "EMD" })
	from := clearances.Row(row).Value
	switch {
	case s.edition == 0:
		k.AddMissing("an edition that is in the tables")
		return
	case float64(s.edition) < from:
		k.Decide(true)
		k.Summary = text("Not asked for by the edition of ", s.edition, "; from ", from, " on it is.")
		return
	}
	outside, unseen := []string{}, []string{}
	for i := range s.Job.Chain.Enclosures {
		e := &s.Job.Chain.Enclosures[i]
		role := roleOf(e)
		if role != roleService && role != roleNotService && !(role == kindPanel && slices.Contains(s.disconnects(), e)) {
			continue
		}
		switch {
		case e.Outside == nil:
			unseen = append(unseen, e.Name)
		case *e.Outside:
			outside = append(outside, e.Name)
		}
	}
	k.Step("outdoors", clearances.Row(row).Rule, text("edition ", s.edition), float64(len(outside)), "", clearances.Row(row).Source)
	switch {
	case len(outside) > 0:
		k.Decide(true)
		k.Summary = outside[0] + " stands outdoors within reach. " + clearances.Row(row).Remark + "."
	case len(unseen) > 0:
		k.AddMissing("whether " + unseen[0] + " stands outdoors, within reach of anybody")
	default:
		k.Decide(false)
		k.Summary = "No disconnect stands outdoors within reach: a dwelling whose service is new or replaced has one, marked."
	}
}

func yesIf(b bool) *bool { return &b }

// wholeRange reports whether a rating lies where a conductor for the whole load of a
// dwelling may be taken by less than the rating.
func wholeRange(ratingA float64) bool {
	return ratingA >= wholeLowA && ratingA <= wholeHighA
}

// The ratings in amperes of a dwelling for which 83 % holds (310.12).
const (
	wholeLowA  = 100.0
	wholeHighA = 400.0
)

func lower(s string) string {
	r := []rune(s)
	if len(r) > 1 && r[0] >= 'A' && r[0] <= 'Z' && !(r[1] >= 'A' && r[1] <= 'Z') {
		r[0] += 'a' - 'A'
	}
	return string(r)
}
