package split120

import (
	"math"
	"slices"
	"strings"

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
	heat, cool     float64
	evse           float64
	newClimate     bool
	byName         map[string]float64 // nameplate by category, for the picture
}

func (l *loadList) add(category, name string, va float64, n float64, isNew bool) {
	switch category {
	case "small-appliance":
		l.small += n
		return
	case "laundry":
		l.laundry += n
		return
	case "range":
		for range int(n) {
			l.ranges = append(l.ranges, va/1000)
		}
	case "dryer":
		l.dryer += va * n
	case "appliance":
		for range int(n) {
			l.appliances = append(l.appliances, appliance{Name: name, VA: va})
		}
	case "heating":
		l.heat, l.newClimate = l.heat+va*n, l.newClimate || isNew
	case "cooling":
		l.cool, l.newClimate = l.cool+va*n, l.newClimate || isNew
	case "evse":
		l.evse += va * n
	default: // general: lies within the floor area
		return
	}
	l.byName[category] += va * n
}

// The least number of circuits that every dwelling counts (210.11(C), 220.52).
const (
	leastSmall   = 2
	leastLaundry = 1
)

// loadsOf lists the load of a job, with its circuits or without.
func (s *system) loadsOf(withCircuits bool) loadList {
	l := loadList{byName: map[string]float64{}}
	for _, x := range s.job.Loads.Items {
		va := 0.0
		switch {
		case x.Watts != nil:
			va = *x.Watts
		case x.Amps != nil:
			va = *x.Amps * lineV
		}
		l.add(x.Category, x.Name, va, float64(max(x.Count, 1)), false)
	}
	if withCircuits {
		for i := range s.job.Circuits {
			k := &s.job.Circuits[i]
			l.add(rulesOf(k.Use).demand, k.Name, demandVA(k), 1, true)
		}
	}
	l.small, l.laundry = max(l.small, leastSmall), max(l.laundry, leastLaundry)
	return l
}

// demandOf computes the service load of a list by a method, with the share of each
// category. The steps go to k, which may be nil.
func (s *system) demandOf(l loadList, method string, serviceA float64, newVA []float64, k *working.Check) (amps float64, shares map[string]float64, err error) {
	ft2 := s.job.Loads.AreaM2.V() / (footM * footM)
	base := baseVA(ft2, l.small, l.laundry)
	all := slices.Clone(l.appliances)
	for _, kw := range l.ranges {
		all = append(all, appliance{Name: "range", VA: kw * 1000})
	}
	if l.dryer > 0 {
		all = append(all, appliance{Name: "dryer", VA: l.dryer})
	}
	var out map[string]any
	var steps []working.Step
	shares = map[string]float64{}
	stepped := func(sum, demand float64, in map[string]float64) {
		for name, va := range in {
			if sum > 0 {
				shares[name] += va * demand / sum / lineV
			}
		}
	}
	named := map[string]float64{"general": base}
	for name, va := range l.byName {
		if name != "heating" && name != "cooling" && name != "evse" {
			named[name] += va
		}
	}
	switch method {
	case "standard":
		out, steps, err = calcStandard(standardIn{Edition: s.edition, AreaFt2: ft2, Small: l.small, Laundry: l.laundry, Fixed: l.appliances, DryerVA: l.dryer, Ranges: l.ranges, HeatVA: l.heat, CoolVA: l.cool, EvseVA: l.evse})
		if err == nil {
			for name, key := range map[string]string{"general": "lighting_net_va", "appliance": "appliances_va", "dryer": "dryer_va", "range": "range_va", "heating": "heat_cool_va", "evse": "evse_va"} {
				shares[name] = out[key].(float64) / lineV
			}
		}
	case "optional":
		h := hvac{CoolVA: l.cool, SpaceVA: l.heat, SpaceUnits: 1}
		out, steps, err = calcOptional(optionalIn{Edition: s.edition, AreaFt2: ft2, Small: l.small, Laundry: l.laundry, Appliances: all, HVAC: h, EvseVA: l.evse})
		if err == nil {
			named["evse"] = out["evse_va"].(float64)
			stepped(out["general_va"].(float64), out["general_demand_va"].(float64), named)
			shares["heating"] = out["hvac_va"].(float64) / lineV
		}
	case "canada":
		in := canadaIn{UpperM2: s.job.Loads.AreaM2.V(), HeatW: l.heat, CoolW: l.cool, EvseW: l.evse}
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
		if out, steps, err = calcCanada(in); err == nil {
			for name, key := range map[string]string{"general": "base_w", "heating": "heat_cool_w", "range": "range_w", "appliance": "other_w"} {
				shares[name] = out[key].(float64) / lineV
			}
			shares["evse"] = l.evse / lineV
			if least := out["load_w"].(float64) - out["sum_w"].(float64); least > 0 {
				shares["general"] += least / lineV // the least that a dwelling counts
			}
		}
	case "measured":
		out, steps, err = calcMeasured(measuredIn{Edition: s.edition, PeakKVA: s.job.Loads.PeakKVA.V(), New: newVA, ServiceA: serviceA, Valid: s.job.Loads.PeakDays >= 30})
		if err == nil {
			shares["general"] = out["adjusted_peak_va"].(float64) / lineV
			for _, va := range newVA {
				shares["evse"] += va / lineV
			}
		}
	default:
		out, steps, err = calcExisting(existingIn{Edition: s.edition, AreaFt2: ft2, Small: l.small, Laundry: l.laundry, Appliances: all, HeatVA: l.heat, CoolVA: l.cool, EvseVA: l.evse, NewHVAC: l.newClimate, ServiceA: max(serviceA, 1)})
		if err == nil {
			named["evse"] = evDemand(s.edition, l.evse)
			if l.newClimate {
				shares["heating"] = max(l.heat, l.cool) / lineV
			} else {
				named["heating"] = max(l.heat, l.cool)
			}
			stepped(out["sum_va"].(float64), out["demand_va"].(float64), named)
		}
	}
	if err != nil {
		return 0, nil, err
	}
	if k != nil {
		k.Steps = append(k.Steps, steps...)
	}
	return out["amps"].(float64), shares, nil
}

// serviceOf is the rating of the service: that of the first disconnect on the chain,
// else the one noted on the Supply sheet.
func (s *system) serviceOf() (rating install.Fact, at *install.Enclosure) {
	for _, e := range s.job.Chain.Order() {
		switch roleOf(e) {
		case "service_disconnect", "panel":
			if e.RatingA.Known() {
				return e.RatingA, e
			}
			return s.job.Supply.MainFuseA, e
		}
	}
	return s.job.Supply.MainFuseA, nil
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

var methodNames = map[string]string{"existing": "an existing dwelling with added load (220.83)", "optional": "the optional method (220.82)", "standard": "the standard method (220 Part III)", "measured": "the recorded peak (220.87)", "canada": "CEC 8-200, one dwelling"}

// demand judges the service load against the service, by the method of the job.
func (s *system) demand() (rulebook.Demand, working.Check) {
	k := working.New("demand", "", "Service load against the service", "A")
	rating, _ := s.serviceOf()
	d := rulebook.Demand{Shares: []rulebook.Share{}, FuseA: rating.V()}
	method := s.job.Schools.LoadMethod
	if method == "" {
		method = "existing"
	}
	if s.cec() && method != "measured" {
		method = "canada"
	}
	k.From(standardLoad.Source, optionalLoad.Source)
	if s.edition == 0 {
		k.Lacks("an edition that is in the tables")
	}
	if method == "measured" {
		if !s.job.Loads.PeakKVA.Known() {
			k.Lacks("the recorded peak of the dwelling")
		}
	} else {
		if !s.job.Loads.AreaM2.Known() {
			k.Lacks("the habitable floor area")
		} else if !s.job.Loads.AreaM2.Confirmed() {
			k.Assumes("habitable floor area")
		}
	}
	if len(k.Missing) > 0 {
		settle(k)
		return d, *k
	}
	for _, x := range s.job.Loads.Items {
		if x.Basis == install.Assumed || x.Basis == "" {
			k.Assumes("load of " + x.Name)
		}
	}
	var newVA []float64
	other, ev, managed := 0.0, 0.0, 0.0
	for i := range s.job.Circuits {
		c := &s.job.Circuits[i]
		switch rulesOf(c.Use).demand {
		case "none", "small-appliance", "laundry":
			continue
		}
		newVA = append(newVA, demandVA(c))
		if c.Use == "ev" {
			ev += evDemand(s.edition, demandVA(c))
			managed = max(managed, c.Point.ManagedA)
		}
	}
	before, had, err := s.demandOf(s.loadsOf(false), method, d.FuseA, nil, nil)
	after, has := before, had
	if err == nil {
		after, has, err = s.demandOf(s.loadsOf(true), method, d.FuseA, newVA, k)
	}
	if err != nil {
		k.Lacks(err.Error())
		settle(k)
		return d, *k
	}
	if managed > 0 && ev > 0 {
		l := s.loadsOf(true)
		l.evse -= ev
		l.evse = max(l.evse, 0)
		if method == "measured" {
			other = before
		} else if other, _, err = s.demandOf(l, method, d.FuseA, nil, nil); err != nil {
			other = before
		}
		if held := max(managed, other); held < after {
			has["evse"] -= after - held
			after = k.Step("held by management", "the house is held to the setting, the rest as it is", text("max(", managed, ", ", other, ")"), held, "A", "NEC 220.70, 750.30")
		}
	}
	d.BeforeA, d.AfterA, d.AddedA = before, after, after-before
	d.Shares = sharesOf(had, has, after-before, method == "measured")
	if !rating.Known() {
		k.Lacks("the rating of the service")
		settle(k)
		return d, *k
	}
	if !rating.Confirmed() {
		k.Assumes("rating of the service")
	}
	k.Max(k.Step("rounded", "half an ampere and more goes up", "", roundedA(after), "A", "NEC 220.5(B)"), d.FuseA)
	k.Says = text("By ", methodNames[method], ": ", after, " A of ", d.FuseA, " A.")
	if method == "measured" && s.job.Loads.PeakDays < 30 {
		k.Decide(false)
		k.Says += text(" The record has ", s.job.Loads.PeakDays, " days: 30 are needed, or a year's peak.")
	}
	if after < before-1e-9 {
		k.Says += text(" It fell from ", before, " A with what was added: from the fourth fixed appliance on, all of them count with 75 % (220.53).")
	}
	return d, *k
}

// sized judges the conductors that feed an enclosure against what it may draw.
func (s *system) sized(id, title string, e *install.Enclosure, rating install.Fact, whole bool) working.Check {
	k := working.New(id, "", title, "A")
	k.From(ampacities.Source, ref("NEC 310.12, 230.42, 215.2"))
	f := e.Feed
	switch {
	case !rating.Known():
		k.Lacks("the rating of " + e.Name)
	case f.Size == "" || f.Material == "":
		k.Lacks("material and size of the conductors to " + e.Name)
	case math.IsNaN(tabulated(f.Size, f.Material, 75)):
		k.Lacks(f.Size + " " + f.Material + " in the ampacity table")
	}
	if len(k.Missing) > 0 {
		settle(k)
		return *k
	}
	if !rating.Confirmed() {
		k.Assumes("rating of " + e.Name)
	}
	need, err := requiredA(rating.V(), whole)
	rule := "83 % of the rating, for the whole load of one dwelling"
	if err != nil || !whole {
		need, rule = rating.V(), "rating"
	}
	need = k.Step("needed", rule, text(rating.V(), " A"), need, "A", "NEC 310.12")
	carries := k.Step("carries", "75 °C column", trade(f.Size)+" "+f.Material, tabulated(f.Size, f.Material, 75), "A", ampacities.Source.Ref)
	if !whole {
		// the next standard rating above the ampacity may protect it (240.4(B))
		if next := NextRating(carries); working.AtMost(rating.V(), next) && carries < need {
			k.Max(rating.V(), next)
			k.Says = text(trade(f.Size), " ", materialWord(f.Material), " carries ", carries, " A; the next rating up, ", next, " A, protects it.")
			return *k
		}
	}
	k.Max(need, carries)
	size := smallest(f.Material, func(x string) bool { return working.AtMost(need, tabulated(x, f.Material, 75)) })
	k.Says = text(trade(f.Size), " ", materialWord(f.Material), " carries ", carries, " A; ", need, " A are needed: ", trade(size), " or larger.")
	if neutral := s.neutralSize(f.Material, rating.V(), whole); neutral != "" {
		k.Says += text(" Its neutral at least ", trade(neutral), ", marked white at both ends.")
	}
	if f.Material == "al" {
		k.Says += " Lugs marked AL at both ends."
	}
	return *k
}

// neutralSize is the smallest neutral of a service or whole-dwelling feeder: by the
// neutral load of the standard method and the area of the hots (220.61, 250.24(C)).
func (s *system) neutralSize(material string, ratingA float64, whole bool) string {
	if !whole || ratingA < 100 || ratingA > 400 || !s.job.Loads.AreaM2.Known() || s.edition == 0 {
		return ""
	}
	l := s.loadsOf(true)
	ft2 := s.job.Loads.AreaM2.V() / (footM * footM)
	out, _, err := calcStandard(standardIn{Edition: s.edition, AreaFt2: ft2, Small: l.small, Laundry: l.laundry, Fixed: l.appliances, DryerVA: l.dryer, Ranges: l.ranges})
	if err != nil {
		return ""
	}
	sized, _, err := calcService(serviceIn{RatingA: ratingA, Material: material, NeutralA: out["neutral_amps"].(float64)})
	if err != nil {
		return ""
	}
	return sized["neutral_min"].(string)
}

func materialWord(m string) string { return map[string]string{"cu": "copper", "al": "aluminum"}[m] }

// chainChecks judges the conductors along the chain: up to the first disconnect as
// service conductors, behind it as feeders with their grounding conductor.
func (s *system) chainChecks() []working.Check {
	out := []working.Check{}
	_, first := s.serviceOf()
	if first == nil {
		return out
	}
	rating, _ := s.serviceOf()
	behind := false
	carriesAll := map[string]bool{first.ID: true} // the feeder to the only panel behind it carries the whole dwelling
	for _, e := range s.job.Chain.Order() {
		switch {
		case e.ID == first.ID:
			behind = true
			out = append(out, s.sized("service-"+e.ID, "Service conductors to "+e.Name, e, rating, true))
		case !behind && e.Kind == "meter" && e.Feed.Size != "" && e.Feed.Way != "":
			out = append(out, s.sized("service-"+e.ID, "Service conductors to "+e.Name, e, rating, true))
		case behind && e.Owner == install.OwnerCustomer && e.Kind != "generator" && e.Feed.Size != "":
			whole := carriesAll[e.From] && (e.Kind == "panel" || e.Kind == "transfer")
			carriesAll[e.ID] = whole
			limit := e.RatingA
			if whole {
				limit = rating
			}
			out = append(out, s.sized("feeder-"+e.ID, "Feeder to "+e.Name, e, limit, whole), s.feederGround(e, limit))
		}
	}
	return out
}

// feederGround judges the equipment grounding conductor of a feeder (250.122).
func (s *system) feederGround(e *install.Enclosure, rating install.Fact) working.Check {
	k := working.New("feeder-ground-"+e.ID, "", s.named("Equipment ground to ", "Bonding conductor to ")+e.Name, "kcmil")
	k.From(groundSizes.Source)
	switch {
	case e.Feed.Way == "metal conduit" && e.Feed.EarthMM2 == "":
		k.Decide(true)
		k.Says = "The metal conduit is the grounding conductor (250.118): every fitting made up tight."
		return *k
	case !rating.Known():
		k.Lacks("the rating of " + e.Name)
	case e.Feed.EarthMM2 == "" || e.Feed.Material == "":
		k.Lacks("material and size of the grounding conductor to " + e.Name)
	}
	if len(k.Missing) > 0 {
		settle(k)
		return *k
	}
	need := GroundSize(e.Feed.Material, rating.V())
	k.Step("by table", "for the device ahead", text(rating.V(), " A: ", need), Cmil(need)/1000, "kcmil", groundSizes.Source.Ref)
	k.Min(Cmil(e.Feed.EarthMM2)/1000, Cmil(need)/1000)
	k.Says = text(trade(e.Feed.EarthMM2), " installed; ", trade(need), " ", materialWord(e.Feed.Material), " needed for ", rating.V(), " A.")
	return *k
}

// electrodeChecks judges the grounding electrode conductor, the bond of each metal
// pipe and the place for other systems (250.66, 250.104, 250.94).
func (s *system) electrodeChecks() []working.Check {
	out := []working.Check{}
	rating, first := s.serviceOf()
	supply := &s.job.Supply
	k := working.New("electrode-conductor", "", s.named("Grounding electrode conductor", "Grounding conductor"), "kcmil")
	k.From(electrodeSizes.Source, grounding.Source)
	size, material := "", ""
	if first != nil {
		size, material = first.Feed.Size, first.Feed.Material
	}
	if size == "" && rating.Known() {
		// by the size that the rating would have
		if sized, _, err := calcService(serviceIn{RatingA: rating.V(), Material: "cu", Whole: yesIf(rating.V() >= 100 && rating.V() <= 400)}); err == nil {
			size, material = sized["conductor"].(string), "cu"
			k.Assumes("service conductors of " + trade(size) + " copper")
		}
	}
	row := -1
	if size != "" && material != "" {
		row = byArea(electrodeSizes, material, Cmil(size)/1000)
	}
	water := len(supply.Bonds) > 0
	need := ""
	if row < 0 {
		k.Lacks("the size of the service conductors")
	} else {
		need = electrodeSizes.Str(row, "gec_cu")
		if !water {
			need = smaller(need, "6")
		}
	}
	switch {
	case !supply.EarthMM2.Known():
		k.Lacks("the size of the grounding electrode conductor")
	case sizeOf[supply.EarthMM2.V()] == "":
		k.Lacks("a trade size of the grounding electrode conductor")
	}
	if len(k.Missing) == 0 {
		if !supply.EarthMM2.Confirmed() {
			k.Assumes("grounding electrode conductor")
		}
		installed := sizeOf[supply.EarthMM2.V()]
		k.Step("by table", "for the service conductors", text(size, " ", material, ": ", need, " cu"), Cmil(need)/1000, "kcmil", electrodeSizes.Source.Ref)
		k.Min(Cmil(installed)/1000, Cmil(need)/1000)
		k.Says = text(trade(installed), " copper; ", trade(need), " needed to the ", map[bool]string{true: "water pipe", false: "rods"}[water], ". To rods alone 6 AWG is enough. It holds the potential; it is no path for a fault.")
	}
	settle(k)
	out = append(out, *k)
	for i, b := range supply.Bonds {
		c := working.New(text("bond-", i+1), "", "Bond of the "+b.Service, "kcmil")
		c.From(electrodeSizes.Source, ref("NEC 250.53(D), 250.104"))
		switch {
		case !b.MM2.Known() || sizeOf[b.MM2.V()] == "":
			c.Lacks("the size of the bond of the " + b.Service)
		case need == "":
			c.Lacks("the size of the service conductors")
		default:
			if !b.MM2.Confirmed() {
				c.Assumes("bond of the " + b.Service)
			}
			c.Min(Cmil(sizeOf[b.MM2.V()])/1000, Cmil(electrodeSizes.Str(row, "gec_cu"))/1000)
			c.Says = text(trade(sizeOf[b.MM2.V()]), " copper; ", trade(electrodeSizes.Str(row, "gec_cu")), " needed.")
			if b.Around == nil {
				c.Lacks("whether a jumper crosses the meter and what else interrupts the " + b.Service)
				c.Says = ""
			} else if !*b.Around {
				c.Decide(false)
				c.Says = "The " + b.Service + " is interrupted by a meter or filter: a jumper around it keeps the electrode when it is taken out."
			}
		}
		settle(c)
		out = append(out, *c)
	}
	ibt := working.New("intersystem", "", "Bonding place for telephone, antenna and data", "")
	ibt.From(grounding.Source)
	switch {
	case supply.Intersystem == nil:
		ibt.Verdict, ibt.Says = working.Caution, "Not looked for: outside at the service a place for at least three bonds (250.94)."
	default:
		ibt.Decide(*supply.Intersystem)
		ibt.Says = "At least three bonds outside at the service (250.94)."
		if !*supply.Intersystem {
			ibt.Verdict, ibt.Says = working.Caution, "There is none: it goes in with a new service (250.94)."
		}
	}
	return append(out, *ibt)
}

func yesIf(b bool) *bool { return &b }

// legs puts every load on its leg and proposes moves that even them out.
func (s *system) legs() (*rulebook.Legs, *working.Check) {
	type load struct {
		name, circuit string
		way           int
		amps          float64 // on one leg
	}
	r := &rulebook.Legs{Moves: []rulebook.Move{}}
	var singles []load
	put := func(leg int, amps float64) {
		if leg == 0 {
			r.A += amps
		} else {
			r.B += amps
		}
	}
	for _, w := range s.job.Board.Ways {
		if w.Label == "" && w.Device == "" {
			continue
		}
		if w.LoadA == 0 {
			r.Unknown++
			continue
		}
		if w.Poles >= 2 {
			put(0, w.LoadA)
			put(1, w.LoadA)
			continue
		}
		put(legOf(w.No), w.LoadA)
		singles = append(singles, load{name: w.Label, way: w.No, amps: w.LoadA})
	}
	placed := 0
	for i := range s.job.Circuits {
		k := &s.job.Circuits[i]
		if k.From != "" || k.Protection.Way == 0 {
			continue
		}
		amps, _, _, _, _ := circuitLoad(k)
		if k.Use == "distribution" && amps == 0 {
			amps, _, _, _ = (&circuit{system: s, k: k, rules: rulesOf(k.Use)}).fedLoad()
		}
		placed++
		if hotsOf(k) == 2 {
			put(0, amps)
			put(1, amps)
			continue
		}
		put(legOf(k.Protection.Way), amps)
		singles = append(singles, load{k.Name, k.ID, k.Protection.Way, amps})
	}
	r.AfterA, r.AfterB, r.NeutralA = r.A, r.B, math.Abs(r.A-r.B)
	if placed+len(singles) == 0 || r.A+r.B == 0 {
		return nil, nil
	}
	taken := spacesTaken(s.job, "")
	free := []int{}
	for _, w := range s.job.Board.Ways {
		if taken[w.No] == "" {
			free = append(free, w.No)
		}
	}
	slices.Sort(free)
	// one load at a time from the heavier leg, the one that leaves the smallest
	// difference, while that is smaller than before
	for len(r.Moves) < 4 {
		diff := r.AfterA - r.AfterB
		from := 0
		if diff < 0 {
			from = 1
		}
		best, bestLeft := -1, math.Abs(diff)
		target := slices.IndexFunc(free, func(n int) bool { return legOf(n) != from })
		if target < 0 {
			break
		}
		for i, l := range singles {
			if legOf(l.way) != from {
				continue
			}
			if left := math.Abs(math.Abs(diff) - 2*l.amps); left < bestLeft-1e-9 {
				best, bestLeft = i, left
			}
		}
		if best < 0 {
			break
		}
		l := &singles[best]
		r.Moves = append(r.Moves, rulebook.Move{Name: l.name, Circuit: l.circuit, From: l.way, To: free[target]})
		sign := l.amps
		if from == 1 {
			sign = -sign
		}
		r.AfterA, r.AfterB = r.AfterA-sign, r.AfterB+sign
		l.way, free[target] = free[target], l.way
	}
	k := working.New("legs", "", "Balance of the legs", "A")
	k.From(ref("NEC 220.61; trade practice"))
	k.Step("leg A", "sum of what is on it", "", r.A, "A", "")
	k.Step("leg B", "sum of what is on it", "", r.B, "A", "")
	k.Step("neutral", "difference", text("|", r.A, " − ", r.B, "|"), r.NeutralA, "A", "")
	share := k.Step("difference", "of the heavier leg", "", r.NeutralA/max(r.A, r.B)*100, "%", "")
	limit := ruleOf(s.job, k, "LEGS")
	k.Verdict = working.Pass
	k.Says = text("Leg A ", r.A, " A, leg B ", r.B, " A with everything on; the neutral carries the difference.")
	if share > limit && len(r.Moves) == 0 {
		k.Says += " No single load evens it out."
	}
	if share > limit && len(r.Moves) > 0 {
		k.Verdict = working.Caution
		moves := []string{}
		for _, m := range r.Moves {
			moves = append(moves, text(m.Name, " from ", m.From, " to ", m.To))
		}
		k.Says += text(" Evened out by moving ", strings.Join(moves, ", "), ": ", r.AfterA, " A and ", r.AfterB, " A.")
	} else {
		r.Moves, r.AfterA, r.AfterB = []rulebook.Move{}, r.A, r.B
	}
	if r.Unknown > 0 {
		k.Says += text(" ", r.Unknown, " spaces have no load noted: clamp them.")
	}
	return r, k
}

// spacing judges the receptacles along the walls and counters of each room that was
// drawn by its lengths (210.52).
func (s *system) spacing() []working.Check {
	out := []working.Check{}
	for i := range s.job.Rooms {
		room := &s.job.Rooms[i]
		if len(room.Walls) == 0 {
			continue
		}
		k := working.New("spacing-"+room.ID, "", "Receptacles along the walls of "+room.Name, "")
		k.From(receptacleRules.Source)
		need, has, short := 0.0, 0.0, []string{}
		for n, w := range room.Walls {
			in := spacingIn{Walls: []float64{feet(w.LengthM)}}
			key, what := "wall_receptacles", "wall"
			if w.Counter {
				in, key, what = spacingIn{Counters: in.Walls, Walls: []float64{}}, "counter_receptacles", "counter"
			}
			res, _, err := calcSpacing(in)
			if err != nil {
				k.Lacks(err.Error())
				continue
			}
			one := k.Step(text(what, " ", n+1), map[bool]string{true: "one for each 4 ft, from 12 in", false: "one for each 12 ft, from 2 ft"}[w.Counter], text(feet(w.LengthM), " ft"), res[key].(float64), "", "NEC 210.52")
			need, has = need+one, has+float64(w.Has)
			if float64(w.Has) < one {
				short = append(short, text(what, " ", n+1, " (", one-float64(w.Has), " more)"))
			}
		}
		k.Min(has, need)
		k.Says = text(has, " along the walls, ", need, " needed.")
		if len(short) > 0 {
			k.Decide(false)
			k.Says += " Short: " + strings.Join(short, ", ") + "."
		}
		settle(k)
		out = append(out, *k)
	}
	return out
}

// requiredCircuits counts the circuits that a dwelling must have (210.11(C)), where the
// job rewires it.
func (s *system) requiredCircuits() []working.Check {
	if s.job.Kind != install.Rewire || len(s.job.Circuits) == 0 {
		return nil
	}
	k := working.New("required-circuits", "", "Circuits that a dwelling must have", "")
	k.From(receptacleRules.Source)
	short := []string{}
	for _, x := range []struct{ use, rule, name string }{{"small-appliance", "C-SA", "small-appliance"}, {"laundry", "C-LA", "laundry"}, {"bathroom", "C-BA", "bathroom"}} {
		n := 0.0
		for i := range s.job.Circuits {
			if c := &s.job.Circuits[i]; c.Use == x.use && c.Protection.RatingA >= 20 {
				n++
			}
		}
		need := k.Step(x.name, "of 20 A, at least", text(n, " there"), rule(receptacleRules, x.rule), "", "NEC 210.11(C)")
		if n < need {
			short = append(short, text(need-n, " ", x.name))
		}
	}
	k.Decide(len(short) == 0)
	k.Says = "Two small-appliance circuits, laundry and bathroom are there."
	if len(short) > 0 {
		k.Says = "Still to come, of 20 A each: " + strings.Join(short, ", ") + "."
	}
	return []working.Check{*k}
}

// workingSpace judges the room in front of the panel (110.26, 240.24), once any of it
// was measured.
func (s *system) workingSpace() []working.Check {
	w := s.job.Board.Space
	if w == (install.WorkSpace{}) {
		return nil
	}
	k := working.New("working-space", "", "Working space in front of "+s.job.Board.Name, "in")
	k.From(clearances.Source)
	if !w.Measured() {
		k.Lacks("depth, width and height of the space, the panel's own width, its top, its highest handle, and whether its door opens by 90°")
		settle(k)
		return []working.Check{*k}
	}
	out, steps, err := calcSpace(spaceIn{DepthIn: w.DepthMM / inchMM, WidthIn: w.WidthMM / inchMM, EquipmentIn: w.BoardMM / inchMM, HeightIn: w.HeightMM / inchMM, TopIn: w.TopMM / inchMM, HandleIn: w.HandleMM / inchMM, Place: strings.ToLower(s.job.Board.Location), Door90: *w.Door90})
	if err != nil {
		k.Lacks(err.Error())
		settle(k)
		return []working.Check{*k}
	}
	k.Steps = steps
	k.Decide(out["ok"].(bool))
	k.Says = "36 in deep, 30 in or the panel wide, 78 in high, door by 90°, no handle above 79 in."
	if faults := out["faults"].([]any); len(faults) > 0 {
		names := make([]string, len(faults))
		for i, f := range faults {
			names[i] = f.(string)
		}
		k.Says = "Falls short in: " + strings.Join(names, ", ") + ". Needed: " + k.Says
	}
	return []working.Check{*k}
}

// ungrounded counts the outlets that were found without an equipment ground, with what
// may be done (406.4(D), 250.130(C)).
func (s *system) ungrounded() []working.Check {
	n, circuits := 0.0, 0.0
	for i := range s.job.Circuits {
		here := 0.0
		for _, b := range s.job.Circuits[i].Serves.Boxes {
			if b.Device != "none" && b.Ground != nil && !*b.Ground {
				here++
			}
		}
		if n += here; here > 0 {
			circuits++
		}
	}
	if n == 0 {
		return nil
	}
	k := working.New("ungrounded", "", "Outlets without an equipment ground", "")
	k.From(receptacleRules.Source)
	k.Step("outlets", "found without a ground in the box", "", n, "", "NEC 406.4(D)")
	k.Step("circuits", "that they are on", "", circuits, "", "")
	k.Verdict = working.Caution
	k.Says = text(n, " outlets on ", circuits, " circuits. In this order: a new cable with its ground, or a ground run back (250.130(C)); ground-fault protection with both labels; two-slot outlets kept. A plain three-slot outlet is none of these. Behind a ground-fault device people are safe; electronics still have no ground.")
	return []working.Check{*k}
}

// surge judges the need for surge protection and each device (230.67, Article 242).
func (s *system) surge() []working.Check {
	if s.job.Kind != install.SupplyUpgrade && s.job.Kind != install.Surge && len(s.job.Surge.Devices) == 0 {
		return nil
	}
	need := working.New("surge-need", "", "Surge protection of the service", "")
	need.From(spdRules.Source)
	at := false
	for _, d := range s.job.Surge.Devices {
		at = at || d.Place != "load" && d.Type != "3"
	}
	required := s.job.Kind == install.SupplyUpgrade && s.edition >= 2020
	switch {
	case required:
		need.Decide(at)
		need.Says = "A service that is new or replaced has a Type 1 or Type 2 device in or beside its equipment (230.67)."
	case at:
		need.Decide(true)
		need.Says = "Fitted; only a new or replaced service must have it (230.67)."
	default:
		need.Verdict, need.Says = working.Caution, "Not required here: it comes with a new or replaced service (230.67). Advised where electronics stay."
	}
	out := []working.Check{*need}
	for i := range s.job.Surge.Devices {
		out = append(out, s.surgeDevice(i))
	}
	return out
}

// leadAdvisedIn is the longest total lead in inches that is advised (row S-LEAD).
const leadAdvisedIn = 12.0

func (s *system) surgeDevice(i int) working.Check {
	d := &s.job.Surge.Devices[i]
	k := working.New(text("spd-", i+1), "", d.Name, "V")
	k.From(spdRules.Source)
	lead := (d.LineM + d.EarthM) * 1000 / inchMM
	res, steps, err := calcSPD(spdIn{LeadIn: lead, SurgeKA: 10, DeviceV: d.UpKV * 1000})
	if err != nil {
		k.Lacks(err.Error())
	}
	k.Steps = append(k.Steps, steps...)
	wrong, advice := []string{}, []string{}
	if d.UpKV == 0 {
		k.Lacks("what the device lets through (its maker's sheet)")
	}
	switch {
	case d.IsccrKA == 0:
		k.Lacks("the short-circuit rating of the device")
	case s.faultKA != nil && d.IsccrKA < *s.faultKA:
		wrong = append(wrong, text("it bears ", d.IsccrKA, " kA, ", *s.faultKA, " kA are available"))
	}
	if d.Place == "load" && d.Type == "1" {
		advice = append(advice, "a Type 1 belongs at the service")
	}
	if d.Place == "board" && !s.bondedAtPanel() {
		advice = append(advice, "neutral and ground are joined elsewhere: it needs a mode of its own to ground")
	}
	if lead > leadAdvisedIn {
		advice = append(advice, text("shorten its leads to ", leadAdvisedIn, " in in all: they add ", res["added_v_average_slope"], " V at 10 kA"))
	}
	if d.BackupA == 0 {
		advice = append(advice, "a breaker of its own by its instructions, or its lugs: never two conductors under one screw")
	}
	k.Decide(len(wrong) == 0)
	if len(k.Missing) == 0 {
		k.Says = text("Lets through ", res["total_let_through_v"], " V with its leads of ", lead, " in.")
		if len(wrong) > 0 {
			k.Says += " It fails: " + strings.Join(wrong, "; ") + "."
		}
		if len(advice) > 0 {
			k.Says += " " + strings.ToUpper(advice[0][:1]) + strings.Join(advice, "; ")[1:] + "."
			if k.Verdict == working.Pass {
				k.Verdict = working.Caution
			}
		}
		k.Says += " Its light is seen without opening anything."
	}
	settle(k)
	return *k
}

// bondedAtPanel reports whether the joint of neutral and ground is in the panel that
// the circuits start from.
func (s *system) bondedAtPanel() bool {
	for _, n := range s.chain.Nodes {
		if n.Joint == rulebook.JointMust {
			return s.job.Chain.Enclosure(n.ID).Kind == "panel"
		}
	}
	return len(s.chain.Nodes) == 0
}

// standby judges what a source of one's own carries (702.4(B)).
func (s *system) standby() []working.Check {
	b := &s.job.Standby
	if b.Source == "" {
		return nil
	}
	k := working.New("standby-load", "", "Load on the "+b.Source, "VA")
	k.From(transferRules.Source)
	sum, legA, legB, start, shed := 0.0, 0.0, 0.0, 0.0, 0.0
	for _, l := range b.Carries {
		if l.Shed && b.Automatic {
			shed += l.RunVA
			continue
		}
		sum += l.RunVA
		start = max(start, l.StartVA-l.RunVA)
		switch {
		case l.LegA && !l.LegB:
			legA += l.RunVA
		case l.LegB && !l.LegA:
			legB += l.RunVA
		default:
			legA, legB = legA+l.RunVA/2, legB+l.RunVA/2
		}
	}
	switch {
	case b.SourceVA == 0:
		k.Lacks("what the " + b.Source + " can carry")
	case len(b.Carries) == 0:
		k.Lacks("what the " + b.Source + " is to carry")
	}
	k.Step("running", "sum of what it carries at once", text(len(b.Carries), " loads"), sum, "VA", "NEC 702.4(B)")
	k.Step("leg A", "half of the source at most", text("≤ ", b.SourceVA/2), legA, "VA", "")
	k.Step("leg B", "half of the source at most", text("≤ ", b.SourceVA/2), legB, "VA", "")
	if start > 0 {
		k.Step("starting", "running + the largest start above its running load", text(sum, " + ", start), sum+start, "VA", "trade practice")
	}
	k.Max(sum, b.SourceVA)
	k.Says = text(sum, " VA of ", b.SourceVA, " VA.")
	switch {
	case len(k.Missing) > 0:
		k.Says = ""
	case k.Verdict == working.Fail && b.Automatic:
		k.Says += " It transfers by itself: it must carry everything on it, or manage the load (702.4(B)(2))."
	case k.Verdict == working.Fail:
		k.Verdict = working.Caution
		k.Says += " Switched by hand: the person at it chooses what runs. Hang a list beside it."
	case max(legA, legB) > b.SourceVA/2:
		k.Verdict = working.Caution
		k.Says += text(" One leg has ", max(legA, legB), " VA, more than half of the source: even them out.")
	case sum+start > b.SourceVA:
		k.Verdict = working.Caution
		k.Says += text(" While the largest motor starts it is ", sum+start, " VA: start it first, or soft.")
	}
	if shed > 0 {
		k.Says += text(" ", shed, " VA wait until there is room.")
	}
	settle(k)
	out := []working.Check{*k}
	if !slices.ContainsFunc(s.job.Chain.Enclosures, func(e install.Enclosure) bool { return e.Kind == "transfer" }) {
		t := working.New("standby-transfer", "", "Transfer of the "+b.Source, "")
		t.From(transferRules.Source)
		t.Decide(false)
		t.Says = "No transfer switch on the chain: without one the source would feed the utility's line and kill who works on it (702.5)."
		out = append(out, *t)
	}
	return out
}

// Needs lists what must be known of the supply before a design rests on it.
func (Practice) Needs(job *install.Job) []rulebook.Need {
	out := []rulebook.Need{}
	for _, n := range []struct {
		missing bool
		sheet   string
		what    string
	}{
		{!job.Supply.MainFuseA.Known(), "supply", "the rating of the service as found"},
		{!job.Supply.PFCkA.Known(), "supply", "available fault current, asked of the utility or assumed"},
		{job.Schools.LoadMethod != "measured" && !job.Loads.AreaM2.Known(), "survey", "the habitable floor area"},
		{!job.Supply.EarthMM2.Known(), "supply", "the grounding electrode conductor as found"},
		{len(job.Supply.Bonds) == 0 && !job.Supply.NoExtraneous, "supply", "metal water pipe and other metal services as found"},
	} {
		if n.missing {
			out = append(out, rulebook.Need{Sheet: n.sheet, What: n.what})
		}
	}
	return out
}

// Judge computes every check of the job, without what would mend them.
func (p Practice) Judge(job *install.Job) rulebook.Report {
	s := newSystem(p, job)
	demand, check := s.demand()
	r := rulebook.Report{Demand: demand, Notice: Notice, Job: []working.Check{check}, Circuits: make([]rulebook.CircuitReport, 0, len(job.Circuits)), Verdict: working.Pass}
	r.Job = append(r.Job, s.chainChecks()...)
	r.Job = append(r.Job, s.electrodeChecks()...)
	if legs, k := s.legs(); k != nil {
		r.Legs = legs
		r.Job = append(r.Job, *k)
	}
	r.Job = append(r.Job, s.spacing()...)
	r.Job = append(r.Job, s.requiredCircuits()...)
	r.Job = append(r.Job, s.workingSpace()...)
	r.Job = append(r.Job, s.ungrounded()...)
	r.Job = append(r.Job, s.surge()...)
	r.Job = append(r.Job, s.standby()...)
	for i := range job.Circuits {
		r.Circuits = append(r.Circuits, s.report(&job.Circuits[i]))
	}
	for i := range r.Job {
		r.Verdict = working.Worst(r.Verdict, r.Job[i].Verdict)
	}
	for i := range r.Circuits {
		r.Verdict = working.Worst(r.Verdict, r.Circuits[i].Verdict)
	}
	return r
}
