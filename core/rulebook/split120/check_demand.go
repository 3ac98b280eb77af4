package split120

import (
	"slices"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// loadList is the load of a dwelling sorted for the methods of Article 220, VA.
type loadList struct {
	small, laundry float64 // circuits
	ranges         []float64
	dryer          float64
	appliances     []appliance
	tankless       float64
	heat, cool     float64
	roomHeat       float64 // of heat, with a control in each room
	roomUnits      float64 // how many units that is
	pump, strips   float64
	interlocked    bool // no strip runs with the compressor
	motors         []motor
	evse           float64
	newClimate     bool
	byName         map[string]float64 // nameplate by category, for the picture
	assumed        []string
}

// listed is one load with what the methods ask of it.
type listed struct {
	category, name                  string
	va, volts, n                    float64
	motor, interlocked, roomControl bool
	isNew                           bool
}

func (l *loadList) add(x listed) {
	category, va, n := x.category, x.va, x.n
	group := "appliance"
	switch category {
	case catSmall:
		l.small += n
		return
	case catLaundry:
		l.laundry += n
		return
	case catRange:
		for range int(n) {
			l.ranges = append(l.ranges, va/1000)
		}
	case catDryer:
		l.dryer += va * n
	case catAppliance:
		for range int(n) {
			l.appliances = append(l.appliances, appliance{Name: x.name, VA: va, Volts: x.volts})
		}
	case catTankless:
		l.tankless += va * n
	case catHeating:
		l.heat, l.newClimate, group = l.heat+va*n, l.newClimate || x.isNew, "heat"
		if x.roomControl {
			l.roomHeat, l.roomUnits = l.roomHeat+va*n, l.roomUnits+n
		}
	case catHeatPump:
		l.pump, l.newClimate, group = l.pump+va*n, l.newClimate || x.isNew, ""
	case catStrips:
		l.interlocked = x.interlocked && (l.strips == 0 || l.interlocked)
		l.strips, l.newClimate = l.strips+va*n, l.newClimate || x.isNew
	case catCooling:
		l.cool, l.newClimate, group = l.cool+va*n, l.newClimate || x.isNew, "cool"
	case catEVSE:
		l.evse += va * n
	default: // general: lies within the floor area
		return
	}
	if x.motor || category == catCooling || category == catHeatPump {
		l.motors = append(l.motors, motor{Name: x.name, VA: va, Group: group, Volts: x.volts})
	}
	l.byName[category] += va * n
}

// heatTogether is what heats at once: resistance heat, and the pump with its strips or,
// where they are interlocked, the larger of the two.
func (l *loadList) heatTogether() float64 {
	if l.interlocked {
		return l.heat + max(l.pump, l.strips)
	}
	return l.heat + l.pump + l.strips
}

// coolTogether is what cools at once: a heat pump turned round counts too.
func (l *loadList) coolTogether() float64 { return l.cool + l.pump }

// standard is the list as the standard method takes it.
func (l loadList) standard(edition int, ft2 float64) standardIn {
	fixed := l.appliances
	if l.tankless > 0 {
		fixed = append(slices.Clone(fixed), appliance{Name: "tankless heater, spa, pool", VA: l.tankless, Volts: lineV})
	}
	return standardIn{Edition: edition, AreaFt2: ft2, Small: l.small, Laundry: l.laundry, Fixed: fixed, DryerVA: l.dryer,
		Ranges: l.ranges, HeatVA: l.heatTogether(), CoolVA: l.coolTogether(), Motors: l.motors, EvseVA: l.evse}
}

// loadsOf lists the load of a job, with its circuits or without.
func (s *system) loadsOf(withCircuits bool) loadList {
	l := loadList{byName: map[string]float64{}}
	for _, x := range s.Job.Loads.Items {
		volts := x.Volts
		if volts == 0 && x.Amps != nil {
			volts = lineV // the larger power
			l.assumed = append(l.assumed, "240 V of "+x.Name)
		}
		if volts == 0 && neutralCounts[x.Category] {
			volts = legV // the larger neutral
		}
		va := 0.0
		switch {
		case x.Watts != nil:
			va = *x.Watts
		case x.Amps != nil:
			va = *x.Amps * volts
		}
		l.add(listed{category: x.Category, name: x.Name, va: va, volts: volts, n: float64(max(x.Count, 1)), motor: x.Motor,
			interlocked: x.Interlocked, roomControl: x.RoomControl})
	}
	if withCircuits {
		for i := range s.Job.Circuits {
			k := &s.Job.Circuits[i]
			if k.State != install.NewCircuit {
				continue
			}
			u := rulesOf(k.Use)
			l.add(listed{category: u.demand, name: k.Name, va: demandVA(k), volts: voltsOf(k), n: 1, motor: k.Serves.Motor,
				interlocked: k.Serves.Interlocked, roomControl: k.Serves.RoomControl, isNew: true})
		}
	}
	l.small, l.laundry = max(l.small, leastSmall), max(l.laundry, leastLaundry)
	return l
}

// neutralCounts names the categories whose 120 V loads the neutral carries.
var neutralCounts = map[string]bool{"appliance": true}

// demandOf computes the service load of a list by a method, with the share of each
// category. The steps go to k, which may be nil.
func (s *system) demandOf(l loadList, method string, serviceA float64, newVA []float64, k *working.Check) (amps float64,
	shares map[string]float64, err error) {
	d := countedLoad{system: s, loadList: l, area: s.ft2(), shares: map[string]float64{}}
	var steps []working.Step
	switch method {
	case byStandard:
		amps, steps, err = d.standardly()
	case byOptional:
		amps, steps, err = d.optionally()
	case byCanada:
		amps, steps, err = d.canadian()
	case byRecord:
		amps, steps, err = d.recorded(serviceA, newVA)
	default:
		amps, steps, err = d.existing(serviceA)
	}
	if err != nil {
		return 0, nil, err
	}
	if k != nil {
		k.Steps = append(k.Steps, steps...)
	}
	return amps, d.shares, nil
}

// countedLoad is a house whose demand one method computes, and the share in amperes that each
// category has in it.
type countedLoad struct {
	*system
	loadList
	area   float64 // ft²
	shares map[string]float64
}

// fastened are the appliances with what a method counts among them.
func (d *countedLoad) fastened() []appliance {
	all := slices.Clone(d.appliances)
	for _, kw := range d.ranges {
		all = append(all, appliance{Name: "range", VA: kw * 1000})
	}
	if d.dryer > 0 {
		all = append(all, appliance{Name: "dryer", VA: d.dryer})
	}
	if d.tankless > 0 {
		all = append(all, appliance{Name: "tankless heater, spa, pool", VA: d.tankless})
	}
	return all
}

// general are the loads by category of which a method takes a share of the sum.
func (d *countedLoad) general() map[string]float64 {
	named := map[string]float64{catGeneral: baseVA(d.area, d.small, d.laundry)}
	for name, va := range d.byName {
		if !climate[name] && name != catEVSE {
			named[name] += va
		}
	}
	return named
}

// spread gives each category its part of what a method makes of the sum.
func (d *countedLoad) spread(sum, demand float64, in map[string]float64) {
	for name, va := range in {
		if sum > 0 {
			d.shares[name] += va * demand / sum / lineV
		}
	}
}

func (d *countedLoad) standardly() (float64, []working.Step, error) {
	out, steps, err := calcStandard(d.standard(d.edition, d.area))
	if err != nil {
		return 0, nil, err
	}
	for name, va := range map[string]float64{catGeneral: out.LightingNetVa,
		catAppliance: out.AppliancesVa + out.MotorAdderVa, catDryer: out.DryerVa, catRange: out.RangeVa,
		catHeating: out.HeatCoolVa, catEVSE: out.EvseVa} {
		d.shares[name] = va / lineV
	}
	return out.Amps, steps, nil
}

func (d *countedLoad) optionally() (float64, []working.Step, error) {
	h := hvac{CoolVA: d.cool, HeatPumpVA: d.pump, SupplementalVA: d.strips, Interlocked: d.interlocked, SpaceVA: d.heat, SpaceUnits: 1}
	if d.roomHeat == d.heat {
		h.SpaceUnits = d.roomUnits
	}
	out, steps, err := calcOptional(optionalIn{Edition: d.edition, AreaFt2: d.area, Small: d.small, Laundry: d.laundry,
		Appliances: d.fastened(), HVAC: h, EvseVA: d.evse})
	if err != nil {
		return 0, nil, err
	}
	named := d.general()
	named[catEVSE] = out.EvseVa
	d.spread(out.GeneralVa, out.GeneralDemandVa, named)
	d.shares[catHeating] = out.HvacVa / lineV
	return out.Amps, steps, nil
}

func (d *countedLoad) canadian() (float64, []working.Step, error) {
	out, steps, err := calcCanada(d.canada(&d.Job.Loads))
	if err != nil {
		return 0, nil, err
	}
	for name, w := range map[string]float64{catGeneral: out.BaseW, catHeating: out.HeatCoolW, catRange: out.RangeW,
		catAppliance: out.OtherW} {
		d.shares[name] = w / lineV
	}
	d.shares[catEVSE], d.shares[catTankless] = d.evse/lineV, d.tankless/lineV
	if least := out.LoadW - out.SumW; least > 0 {
		d.shares[catGeneral] += least / lineV // the least that a dwelling counts
	}
	return out.Amps, steps, nil
}

func (d *countedLoad) recorded(serviceA float64, newVA []float64) (float64, []working.Step, error) {
	out, steps, err := calcMeasured(measuredIn{Edition: d.edition, PeakKVA: d.Job.Loads.PeakKVA.V(),
		Season: season(&d.Job.Loads), New: newVA, ServiceA: serviceA, Valid: d.Job.Loads.PeakDays >= recordDays()})
	if err != nil {
		return 0, nil, err
	}
	d.shares[catGeneral] = out.AdjustedPeakVa / lineV
	for _, va := range newVA {
		d.shares[catEVSE] += va / lineV
	}
	return out.Amps, steps, nil
}

func (d *countedLoad) existing(serviceA float64) (float64, []working.Step, error) {
	out, steps, err := calcExisting(existingIn{Edition: d.edition, AreaFt2: d.area, Small: d.small, Laundry: d.laundry,
		Appliances: d.fastened(), HeatVA: d.heatTogether(), CoolVA: d.coolTogether(), EvseVA: d.evse, NewHVAC: d.newClimate,
		ServiceA: max(serviceA, 1)})
	if err != nil {
		return 0, nil, err
	}
	named, together := d.general(), max(d.heatTogether(), d.coolTogether())
	named[catEVSE] = evDemand(d.edition, d.evse)
	if d.newClimate {
		d.shares[catHeating] = together / lineV
	} else {
		named[catHeating] = together
	}
	d.spread(out.SumVa, out.DemandVa, named)
	return out.Amps, steps, nil
}

// canada is the list as the Canadian load takes it.
func (l *loadList) canada(loads *install.Loads) canadaIn {
	upper, below := loads.AreaM2.V(), loads.BasementM2.V()
	central := l.heatTogether() - l.roomHeat
	in := canadaIn{UpperM2: upper, BasementM2: below, HeatW: l.roomHeat, CentralW: central, CoolW: l.coolTogether(),
		EvseW: l.evse, TankW: l.tankless}
	for i, kw := range l.ranges {
		if i == 0 {
			in.RangeW = kw * 1000
		} else if kw >= 1.5 {
			in.Other = append(in.Other, kw*1000)
		}
	}
	rest := slices.Clone(l.appliances)
	if l.dryer > 0 {
		rest = append(rest, appliance{Name: "dryer", VA: l.dryer})
	}
	for _, a := range rest {
		if a.VA >= 1500 {
			in.Other = append(in.Other, a.VA)
		}
	}
	return in
}

// climate names the categories of which heating and cooling take the larger.
var climate = map[string]bool{"heating": true, "cooling": true, "heat-pump": true, "strips": true}

// yearDays are the days of a whole record of the peak (220.87).
const yearDays = 365.0

// recordDays are the least days of a shorter one, which is raised to the heaviest season.
func recordDays() float64 { return rule(optionalLoad, "M-30") }

// season raises a record that is shorter than a year, nil where none is due or known.
func season(l *install.Loads) *float64 {
	if l.PeakDays >= yearDays || l.SeasonFactor == 0 {
		return nil
	}
	return &l.SeasonFactor
}

// record notes what a record shorter than a year still owes, and says why it may not be
// used at all, "" where it may.
func (s *system) record(k *working.Check) (fault string) {
	l := &s.Job.Loads
	if l.PeakDays >= yearDays {
		return ""
	}
	k.From(clauseMeasuredLow.in(s.code))
	switch {
	case l.PeakDays < recordDays():
		return text(" The record has ", l.PeakDays, " days: ", recordDays(), " are needed, or a year's peak.")
	case l.Generation == nil:
		k.AddMissing("whether a source of the owner's or peak shaving ran behind the meter during the record")
	case *l.Generation:
		return " A source or peak shaving ran behind the meter: a record shorter than a year does not hold then (the edition of " +
			"2023 says so; the stricter reading is taken for the others too)."
	}
	if l.SeasonFactor == 0 {
		k.AddMissing("the factor that raises a record of less than a year to the heaviest season and to full occupancy")
	}
	return ""
}

// sharesOf are the shares of a demand as it was, and what the new circuits add to it.
// A demand factor that falls with the load lowers the shares of what was there: that
// is taken off what is added, so that both columns add up.
func sharesOf(had, has map[string]float64, added float64, full bool) []rulebook.Share {
	out := []rulebook.Share{}
	growth := 0.0
	for name := range has {
		growth += max(0, has[name]-had[name])
	}
	for _, name := range terms.Categories {
		share := rulebook.Share{Category: name, Name: categoryNames[name], Amps: had[name], Full: full}
		if share.Amps > 0 {
			out = append(out, share)
		}
		if more := has[name] - had[name]; more > 0 && growth > 0 && added > 0 {
			share.Amps, share.New = more*added/growth, true
			out = append(out, share)
		}
	}
	return out
}

var methodNames = map[string]string{"existing": "an existing dwelling with added load (220.83)",
	"optional": "the optional method (220.82)", "standard": "the standard method (220 Part III)",
	"measured": "the recorded peak (220.87)", "canada": "CEC 8-200, one dwelling"}

// methodAsks notes what a method of the load lacks; unusable says why its record cannot
// be used.
func (s *system) methodAsks(k *working.Check, method string, rating install.Fact) (unusable string) {
	switch method {
	case byCanada:
		k.From(under(canadaLoad, s.code))
		if !s.Job.Loads.BasementM2.Known() {
			k.AddMissing("the area of the basement, 0 where there is none")
		}
	case byRecord:
		k.From(clauseMeasured.in(s.code))
		unusable = s.record(k)
	default:
		k.From(standardLoad.Source, optionalLoad.Source)
	}
	if least := rule(optionalLoad, "O-USE"); method == byOptional && rating.Known() && rating.V() < least {
		k.AddMissing(text("another method: the optional one is for a service of at least ", least, " A"))
	}
	if s.edition == 0 && s.code == NEC {
		k.AddMissing("an edition that is in the tables")
	}
	if method == byRecord {
		if !s.Job.Loads.PeakKVA.Known() {
			k.AddMissing("the recorded peak of the dwelling")
		}
	} else {
		if !s.Job.Loads.AreaM2.Known() {
			k.AddMissing("the habitable floor area")
		} else if !s.Job.Loads.AreaM2.Confirmed() {
			k.Assumes("habitable floor area")
		}
	}
	return unusable
}

// demand judges the service load against the service, by the method of the job.
func (s *system) demand() {
	k, d := s.Of(""), &s.done.Demand
	rating := s.rating()
	*d = rulebook.Demand{Shares: []rulebook.Share{}, FuseA: rating.V()}
	method := loadMethod(s.Job)
	unusable := s.methodAsks(k, method, rating)
	if len(k.Missing) > 0 {
		return
	}
	for _, x := range s.Job.Loads.Items {
		if x.Basis == install.Assumed || x.Basis == "" {
			k.Assumes("load of " + x.Name)
		}
	}
	with := s.loadsOf(true)
	for _, a := range with.assumed {
		k.Assumes(a)
	}
	var newVA []float64
	other, ev, managed := 0.0, 0.0, 0.0
	for i := range s.Job.Circuits {
		c := &s.Job.Circuits[i]
		switch rulesOf(c.Use).demand {
		case catNone, catSmall, catLaundry:
			continue
		}
		if c.State != install.NewCircuit {
			continue // what stays is among the loads
		}
		newVA = append(newVA, demandVA(c))
		if c.Use == useEV {
			ev += evDemand(s.edition, demandVA(c))
			managed = max(managed, c.Point.ManagedA)
		}
	}
	before, had, err := s.demandOf(s.loadsOf(false), method, d.FuseA, nil, nil)
	after, has := before, had
	if err == nil {
		after, has, err = s.demandOf(with, method, d.FuseA, newVA, k)
	}
	if err != nil {
		k.AddMissing(err.Error())
		return
	}
	if managed > 0 && ev > 0 {
		l := with
		l.evse = max(l.evse-ev, 0)
		if method == byRecord {
			other = before
		} else if other, _, err = s.demandOf(l, method, d.FuseA, nil, nil); err != nil {
			other = before
		}
		if held := max(managed, other); held < after {
			has["evse"] -= after - held
			after = k.Step("held by management", "the house is held to the setting, the rest as it is",
				text("max(", managed, ", ", other, ")"), held, "A", clauseEMS.ref(s.code))
		}
	}
	d.BeforeA, d.AfterA, d.AddedA = before, after, after-before
	d.Shares = sharesOf(had, has, after-before, method == byRecord)
	if !rating.Known() {
		k.AddMissing("the rating of the service")
		return
	}
	if !rating.Confirmed() {
		k.Assumes("rating of the service")
	}
	k.Max(k.Step("rounded", "half an ampere and more goes up", "", roundedA(after), "A", clauseRounding.ref(s.code)), d.FuseA)
	k.Summary = text("By ", methodNames[method], ": ", after, " A of ", d.FuseA, " A.")
	if unusable != "" {
		k.Decide(false)
		k.Summary += unusable
	}
	if after < before-1e-9 {
		k.Summary += text(" It fell from ", before,
			" A with what was added: from the fourth fixed appliance on, all of them count with 75 % (220.53).")
	}
}
