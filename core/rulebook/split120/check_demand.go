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
