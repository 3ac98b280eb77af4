package split120

import (
	"fmt"
	"math"
	"slices"

	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

var (
	standardLoad = table.Load(dataFiles, "load_standard")
	optionalLoad = table.Load(dataFiles, "load_optional")
	rangeLoad    = table.LoadOf[rangeLoadRow](dataFiles, "load_range")
	canadaLoad   = table.Load(dataFiles, "canada_load")
)

// lineV is the voltage between the legs and legV of one leg, nominal.
const (
	lineV = 240.0
	legV  = 120.0
)

var editions = []int{2017, 2020, 2023}

func editionOK(e int) error {
	if !slices.Contains(editions, e) {
		return fmt.Errorf("edition: %d is not accepted; give one of %v", e, editions)
	}
	return nil
}

// roundedA is a current as 220.5(B) rounds it: half an ampere and more goes up.
func roundedA(amps float64) float64 { return math.Floor(amps + rule(standardLoad, "ROUND")) }

// serviceRating is the next standard rating, at least that of a one-family
// dwelling (NEC 230.79(C)).
func serviceRating(amps float64) float64 {
	return NextRating(max(roundedA(amps), rule(standardLoad, "MINSVC")))
}

// evDemand is what an EV unit counts with: its nameplate, from 2023 at least
// 7200 VA (NEC 220.57).
func evDemand(edition int, va float64) float64 {
	if va > 0 && edition >= 2023 {
		return max(va, rule(standardLoad, "EV"))
	}
	return va
}

// baseVA is the lighting, small-appliance and laundry load in VA.
func baseVA(ft2, small, laundry float64) float64 {
	return rule(standardLoad, "GL")*ft2 + rule(standardLoad, "SA")*small + rule(standardLoad, "LA")*laundry
}

func baseOK(edition int, ft2, small, laundry float64) error {
	return rulebook.FirstError(editionOK(edition), rulebook.Positive("area_ft2", ft2, "ft2"),
		rulebook.ZeroOrMore("small_appliance_circuits", small, ""), rulebook.ZeroOrMore("laundry_circuits", laundry, ""))
}

// RangeDemand is the demand of cooking appliances in kW by column C with its notes 1
// and 2, or by columns A and B where note 3 allows it and gives less (NEC Table
// 220.55).
func RangeDemand(kw []float64) (float64, error) {
	if len(kw) == 0 {
		return 0, nil
	}
	row := rangeLoad.Find(func(it *rangeLoadRow) bool { return same(it.Appliances, float64(len(kw))) })
	if row < 0 {
		return 0, fmt.Errorf("ranges_kw: %d ranges are not accepted; give up to %d", len(kw), len(rangeLoad.Text))
	}
	sum, over := 0.0, false
	for _, k := range kw {
		if err := rulebook.Between("ranges_kw", k, 0.1, 27, "kW"); err != nil {
			return 0, err
		}
		sum, over = sum+max(k, 12), over || k > 12
	}
	demand := rangeLoad.Row(row).ColCMaxDemandKw
	if over {
		// 5 % for each kW, or major fraction of one, above 12 kW
		demand *= 1 + 0.05*math.Floor(sum/float64(len(kw))-12+0.5)
	}
	if shared, ok := smallCooking(kw); ok {
		demand = min(demand, shared)
	}
	return demand, nil
}

// The bounds of columns A and B in kW (Table 220.55, note 3).
const (
	cookingLow  = 1.75
	columnB     = 3.5
	cookingHigh = 8.75
)

// smallCooking adds nameplates of more than 1.75 and at most 8.75 kW and takes the
// share of column A or B, each by its own number; ok is false where one lies outside.
func smallCooking(kw []float64) (demand float64, ok bool) {
	var sums, counts [2]float64
	for _, k := range kw {
		if k <= cookingLow || !working.AtMost(k, cookingHigh) {
			return 0, false
		}
		i := 0
		if working.AtMost(columnB, k) {
			i = 1
		}
		sums[i], counts[i] = sums[i]+k, counts[i]+1
	}
	for i, column := range []string{"col_a_under_3_5kw_pct", "col_b_3_5_to_8_75kw_pct"} {
		if counts[i] > 0 {
			demand += sums[i] * rangeLoad.Num(rangeLoad.Find(func(it *rangeLoadRow) bool { return same(it.Appliances, counts[i]) }),
				column) / 100
		}
	}
	return demand, true
}

type rangeIn struct {
	Ranges []float64 `json:"ranges_kw" unit:"kW"`
}

// rangeOut is what range-demand answers.
type rangeOut struct {
	DemandKw  float64 `json:"demand_kw"`
	NeutralKw float64 `json:"neutral_kw"`
	Amps      float64 `json:"amps"`
}

func calcRange(in rangeIn) (out rangeOut, steps []working.Step, err error) {
	kw, err := RangeDemand(in.Ranges)
	if err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	w.Add("demand", "column C, + 5 % for each kW above 12, or columns A and B where all are up to 8.75 kW",
		fmt.Sprint(in.Ranges), kw, "kW", rangeLoad.Source.Ref)
	neutral := w.Add("neutral", "70 % of it", "", kw*rule(standardLoad, "NR")/100, "kW", "NEC 220.61(B)(1)")
	return rangeOut{DemandKw: kw, NeutralKw: neutral,
		Amps: w.Add("amps", "P / U", text(kw, " kW / 240 V"), kw*1000/lineV, "A", "")}, w.Steps, nil
}

type appliance struct {
	Name  string  `json:"name,omitempty"`
	VA    float64 `json:"va" unit:"VA" range:"0 or more"`
	Volts float64 `json:"volts,omitempty" unit:"V"`
	HP    float64 `json:"hp,omitempty"`
}

type motor struct {
	Name  string  `json:"name,omitempty"`
	VA    float64 `json:"va" unit:"VA" range:"0 or more"`
	Group string  `json:"group,omitempty" doc:"cool, heat, appliance"`
	Volts float64 `json:"volts,omitempty" unit:"V"`
}

type standardIn struct {
	Edition int         `json:"edition"`
	AreaFt2 float64     `json:"area_ft2" unit:"ft2"`
	Small   float64     `json:"small_appliance_circuits"`
	Laundry float64     `json:"laundry_circuits"`
	Fixed   []appliance `json:"fixed_appliances,omitempty"`
	DryerVA float64     `json:"dryer_va,omitempty" unit:"VA" range:"0 or more"`
	Ranges  []float64   `json:"ranges_kw,omitempty" unit:"kW"`
	HeatVA  float64     `json:"heat_va,omitempty" unit:"VA" range:"0 or more"`
	CoolVA  float64     `json:"cool_va,omitempty" unit:"VA" range:"0 or more"`
	Motors  []motor     `json:"motors,omitempty"`
	EvseVA  float64     `json:"evse_va,omitempty" unit:"VA" range:"0 or more"`
	EV125   bool        `json:"ev_125,omitempty" doc:"counted at 125 % as continuous"`
}

// standardOut is what dwelling-standard answers.
type standardOut struct {
	LightingNetVa float64 `json:"lighting_net_va"`
	AppliancesVa  float64 `json:"appliances_va"`
	DryerVa       float64 `json:"dryer_va"`
	RangeVa       float64 `json:"range_va"`
	HeatCoolVa    float64 `json:"heat_cool_va"`
	MotorAdderVa  float64 `json:"motor_adder_va"`
	EvseVa        float64 `json:"evse_va"`
	TotalVa       float64 `json:"total_va"`
	Amps          float64 `json:"amps"`
	AmpsRounded   float64 `json:"amps_rounded"`
	NeutralVa     float64 `json:"neutral_va"`
	NeutralAmps   float64 `json:"neutral_amps"`
	ServiceRating float64 `json:"service_rating"`
}

// calcStandard is the standard method (NEC Article 220 Part III) with the neutral
// of 220.61.
func calcStandard(in standardIn) (out standardOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(baseOK(in.Edition, in.AreaFt2, in.Small, in.Laundry),
		rulebook.ZeroOrMore("dryer_va", in.DryerVA, "VA"), rulebook.ZeroOrMore("heat_va", in.HeatVA, "VA"),
		rulebook.ZeroOrMore("cool_va", in.CoolVA, "VA"), rulebook.ZeroOrMore("evse_va", in.EvseVA, "VA")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	source := standardLoad.Source.Ref
	gross := baseVA(in.AreaFt2, in.Small, in.Laundry)
	first, second := rule(standardLoad, "DF1"), 120000.0
	lighting := min(gross, first) + rule(standardLoad, "DF2")/100*max(0, min(gross, second)-first) +
		rule(standardLoad, "DF3")/100*max(0, gross-second)
	w.Add("lighting", "first 3000 VA, 35 % to 120000 VA, 25 % above", text(gross, " VA"), lighting, "VA", source)

	// Four or more fixed appliances count with 75 %; from 2020 only those of
	// 500 VA or 1/4 hp and above count toward four, the rest stays in full.
	counts := func(a appliance) bool { return in.Edition < 2020 || a.VA >= 500 || a.HP >= 0.25 }
	n := 0
	for _, a := range in.Fixed {
		if err := rulebook.ZeroOrMore("fixed_appliances.va", a.VA, "VA"); err != nil {
			return out, nil, err
		}
		if counts(a) {
			n++
		}
	}
	fixed, fixedNeutral := 0.0, 0.0
	for _, a := range in.Fixed {
		share := 1.0
		if n >= 4 && counts(a) {
			share = rule(standardLoad, "FX") / 100
		}
		fixed += a.VA * share
		if a.Volts == legV {
			fixedNeutral += a.VA * share
		}
	}
	w.Add("fixed appliances", "75 % of four or more, else in full", text(n, " count"), fixed, "VA", "NEC 220.53")
	if n == 4 {
		w.Steps[len(w.Steps)-1].With += ": the fourth brings the 75 %, so that adding it may lower the sum"
	}
	dryer := 0.0
	if in.DryerVA > 0 {
		dryer = w.Add("dryer", "nameplate, at least 5000 VA", "", max(in.DryerVA, rule(standardLoad, "DR")), "VA", "NEC 220.54")
	}
	kw, err := RangeDemand(in.Ranges)
	if err != nil {
		return out, nil, err
	}
	cooking := w.Add("ranges", "column C with its notes", fmt.Sprint(in.Ranges), kw*1000, "VA", rangeLoad.Source.Ref)
	climate := w.Add("heating or cooling", "the larger", text("max(", in.HeatVA, ", ", in.CoolVA, ")"),
		max(in.HeatVA, in.CoolVA), "VA", "NEC 220.51, 220.60")
	dropped := "cool"
	if in.CoolVA > in.HeatVA {
		dropped = "heat"
	}
	largest, largestNeutral := 0.0, 0.0
	for _, m := range in.Motors {
		if err := rulebook.FirstError(rulebook.ZeroOrMore("motors.va", m.VA, "VA"),
			rulebook.OneOf("motors.group", m.Group, "", "cool", "heat", "appliance")); err != nil {
			return out, nil, err
		}
		if m.Group == dropped {
			continue
		}
		largest = max(largest, m.VA)
		if m.Volts == legV {
			largestNeutral = max(largestNeutral, m.VA)
		}
	}
	share := rule(standardLoad, "LM") / 100
	adder := w.Add("largest motor", "25 % of it", text("0.25 × ", largest), share*largest, "VA", "NEC 220.50, 430.24")
	ev := evDemand(in.Edition, in.EvseVA)
	if in.EV125 {
		ev *= rule(standardLoad, "EVC") / 100
	}
	w.Add("EV units", "nameplate, from 2023 at least 7200 VA", "", ev, "VA", "NEC 220.57")
	total := w.Add("total", "sum", "", lighting+fixed+dryer+cooking+climate+adder+ev, "VA", "")
	amps := w.Add("amps", "S / U", text(total, " / ", lineV), total/lineV, "A", "")
	neutral := w.Add("neutral", "lighting, 120 V appliances, 70 % of dryer and ranges, 25 % of the largest 120 V motor", "",
		lighting+fixedNeutral+rule(standardLoad, "NR")/100*(dryer+cooking)+share*largestNeutral, "VA", "NEC 220.61")
	neutralA := neutral / lineV
	if neutralA > 200 {
		neutralA = 200 + rule(standardLoad, "N200")/100*(neutralA-200)
	}
	w.Add("neutral", "S / U, 70 % of what is above 200 A", "", neutralA, "A", "NEC 220.61(B)(2)")
	return standardOut{LightingNetVa: lighting, AppliancesVa: fixed, DryerVa: dryer, RangeVa: cooking, HeatCoolVa: climate,
		MotorAdderVa: adder, EvseVa: ev, TotalVa: total, Amps: amps, AmpsRounded: roundedA(amps), NeutralVa: neutral,
		NeutralAmps: neutralA, ServiceRating: serviceRating(amps)}, w.Steps, nil
}

type hvac struct {
	CoolVA         float64 `json:"cool_va,omitempty" unit:"VA" range:"0 or more"`
	HeatPumpVA     float64 `json:"heat_pump_va,omitempty" unit:"VA" range:"0 or more"`
	SupplementalVA float64 `json:"supplemental_va,omitempty" unit:"VA" range:"0 or more"`
	Interlocked    bool    `json:"interlocked,omitempty" doc:"compressor and supplemental heat never run together"`
	SpaceVA        float64 `json:"space_heat_va,omitempty" unit:"VA" range:"0 or more"`
	SpaceUnits     float64 `json:"space_heat_units,omitempty" doc:"separately controlled" range:"0 or more"`
	StorageVA      float64 `json:"storage_va,omitempty" unit:"VA" range:"0 or more"`
}

// options are the six of 220.82(C), by number.
func (h hvac) options() [6]float64 {
	pc := func(id string) float64 { return rule(optionalLoad, id) / 100 }
	o := [6]float64{pc("O-H1") * h.CoolVA}
	switch strips := pc("O-H3") * h.SupplementalVA; {
	case h.SupplementalVA == 0, h.Interlocked && h.HeatPumpVA > strips:
		o[1] = pc("O-H2") * h.HeatPumpVA
	case h.Interlocked:
		o[2] = strips
	default:
		o[2] = strips + h.HeatPumpVA
	}
	if h.SpaceUnits < 4 {
		o[3] = pc("O-H4") * h.SpaceVA
	} else {
		o[4] = pc("O-H5") * h.SpaceVA
	}
	o[5] = pc("O-H6") * h.StorageVA
	return o
}

type optionalIn struct {
	Edition    int         `json:"edition"`
	AreaFt2    float64     `json:"area_ft2" unit:"ft2"`
	Small      float64     `json:"small_appliance_circuits"`
	Laundry    float64     `json:"laundry_circuits"`
	Appliances []appliance `json:"appliances,omitempty"`
	HVAC       hvac        `json:"hvac,omitempty"`
	EvseVA     float64     `json:"evse_va,omitempty" unit:"VA" range:"0 or more"`
	EVMode     string      `json:"ev_mode,omitempty" doc:"general: in the 40 % sum; separate: in full after it"`
}

// stepped is a load whose first part counts in full and the rest with a share.
func stepped(va, first, restPc float64) float64 { return min(va, first) + restPc/100*max(0, va-first) }

func sumVA(appliances []appliance) (sum float64, err error) {
	for _, a := range appliances {
		if err = rulebook.ZeroOrMore("appliances.va", a.VA, "VA"); err != nil {
			return 0, err
		}
		sum += a.VA
	}
	return sum, nil
}

// optionalOut is what dwelling-optional answers.
type optionalOut struct {
	GeneralVa       float64 `json:"general_va"`
	GeneralDemandVa float64 `json:"general_demand_va"`
	HvacVa          float64 `json:"hvac_va"`
	HvacOption      string  `json:"hvac_option"`
	EvseVa          float64 `json:"evse_va"`
	TotalVa         float64 `json:"total_va"`
	Amps            float64 `json:"amps"`
	AmpsRounded     float64 `json:"amps_rounded"`
	ServiceRating   float64 `json:"service_rating"`
}

// calcOptional is the optional method for one dwelling (NEC 220.82).
func calcOptional(in optionalIn) (out optionalOut, steps []working.Step, err error) {
	mode := in.EVMode
	if mode == "" {
		mode = "general"
	}
	own, err := sumVA(in.Appliances)
	h := in.HVAC
	if err := rulebook.FirstError(baseOK(in.Edition, in.AreaFt2, in.Small, in.Laundry), err,
		rulebook.ZeroOrMore("evse_va", in.EvseVA, "VA"), rulebook.OneOf("ev_mode", mode, "general", "separate"),
		rulebook.ZeroOrMore("hvac.cool_va", h.CoolVA, "VA"), rulebook.ZeroOrMore("hvac.heat_pump_va", h.HeatPumpVA, "VA"),
		rulebook.ZeroOrMore("hvac.supplemental_va", h.SupplementalVA, "VA"),
		rulebook.ZeroOrMore("hvac.space_heat_va", h.SpaceVA, "VA"),
		rulebook.ZeroOrMore("hvac.space_heat_units", h.SpaceUnits, ""),
		rulebook.ZeroOrMore("hvac.storage_va", h.StorageVA, "VA")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	ev := evDemand(in.Edition, in.EvseVA)
	general := baseVA(in.AreaFt2, in.Small, in.Laundry) + own
	if mode == modeGeneral {
		general += ev
	}
	w.Add("general load", "3 VA/ft², 1500 VA a circuit, nameplates", "", general, "VA", optionalLoad.Source.Ref)
	demand := w.Add("demand", "first 10000 VA, 40 % of the rest", text(general, " VA"),
		stepped(general, rule(optionalLoad, "O-D1"), rule(optionalLoad, "O-D2")), "VA", "NEC 220.82(B)")
	options := h.options()
	best := 0
	for i, v := range options {
		if v > options[best] {
			best = i
		}
	}
	climate := w.Add("heating and cooling", text("largest of the six options: ", best+1), "", options[best], "VA", "NEC 220.82(C)")
	total := demand + climate
	if mode == modeSeparate {
		total += ev
	}
	w.Add("total", "sum", "", total, "VA", "")
	amps := w.Add("amps", "S / U", text(total, " / ", lineV), total/lineV, "A", "")
	return optionalOut{GeneralVa: general, GeneralDemandVa: demand, HvacVa: climate, HvacOption: text(best + 1), EvseVa: ev,
		TotalVa: total, Amps: amps, AmpsRounded: roundedA(amps), ServiceRating: serviceRating(amps)}, w.Steps, nil
}

type existingIn struct {
	Edition    int         `json:"edition"`
	AreaFt2    float64     `json:"area_ft2" unit:"ft2"`
	Small      float64     `json:"small_appliance_circuits"`
	Laundry    float64     `json:"laundry_circuits"`
	Appliances []appliance `json:"appliances,omitempty"`
	HeatVA     float64     `json:"heat_va,omitempty" unit:"VA"`
	CoolVA     float64     `json:"cool_va,omitempty" unit:"VA"`
	EvseVA     float64     `json:"evse_va,omitempty" unit:"VA"`
	NewHVAC    bool        `json:"new_hvac,omitempty" doc:"new heating or cooling equipment"`
	ServiceA   float64     `json:"service_a" unit:"A"`
}

// existingOut is what existing-220.83 answers.
type existingOut struct {
	Branch      string  `json:"branch"`
	SumVa       float64 `json:"sum_va"`
	DemandVa    float64 `json:"demand_va"`
	TotalVa     float64 `json:"total_va"`
	Amps        float64 `json:"amps"`
	AmpsRounded float64 `json:"amps_rounded"`
	Fits        bool    `json:"fits"`
	SpareA      float64 `json:"spare_a"`
}

// calcExisting is an existing dwelling with added load (NEC 220.83).
func calcExisting(in existingIn) (out existingOut, steps []working.Step, err error) {
	own, err := sumVA(in.Appliances)
	if err := rulebook.FirstError(baseOK(in.Edition, in.AreaFt2, in.Small, in.Laundry), err,
		rulebook.ZeroOrMore("heat_va", in.HeatVA, "VA"), rulebook.ZeroOrMore("cool_va", in.CoolVA, "VA"),
		rulebook.ZeroOrMore("evse_va", in.EvseVA, "VA"), rulebook.Positive("service_a", in.ServiceA, "A")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	sum := baseVA(in.AreaFt2, in.Small, in.Laundry) + own + evDemand(in.Edition, in.EvseVA)
	climate, branch := max(in.HeatVA, in.CoolVA), "B"
	if !in.NewHVAC {
		sum, climate, branch = sum+climate, 0, "A"
	}
	w.Add("load", "of all but new heating or cooling", "branch "+branch, sum, "VA", "NEC 220.83")
	demand := w.Add("demand", "first 8000 VA, 40 % of the rest", text(sum, " VA"),
		stepped(sum, rule(optionalLoad, "E-D1"), rule(optionalLoad, "E-D2")), "VA", optionalLoad.Source.Ref)
	total := w.Add("total", "+ the larger of heating and cooling, where new", text(climate, " VA"), demand+climate, "VA", "NEC 220.83(B)")
	amps := w.Add("amps", "S / U", text(total, " / ", lineV), total/lineV, "A", "")
	return existingOut{Branch: branch, SumVa: sum, DemandVa: demand, TotalVa: total, Amps: amps,
		AmpsRounded: roundedA(amps), Fits: working.AtMost(roundedA(amps), in.ServiceA), SpareA: in.ServiceA - amps}, w.Steps, nil
}

type measuredIn struct {
	Edition  int       `json:"edition,omitempty"`
	PeakKVA  float64   `json:"peak_kva" unit:"kVA" doc:"largest 15 min average of the record"`
	Season   *float64  `json:"season_factor,omitempty" doc:"for a record of 30 days"`
	New      []float64 `json:"new_loads_va" unit:"VA"`
	ServiceA float64   `json:"service_a" unit:"A"`
	Valid    bool      `json:"valid_record"`
	Reason   string    `json:"invalid_reason,omitempty"`
}

// measuredOut is what existing-220.87 answers.
type measuredOut struct {
	RecordUsable            bool    `json:"record_usable"`
	AdjustedPeakVa          float64 `json:"adjusted_peak_va"`
	TotalVa                 float64 `json:"total_va"`
	Amps                    float64 `json:"amps"`
	Fits                    bool    `json:"fits"`
	RoomVa                  float64 `json:"room_va"`
	MaxContinuousEvSettingA float64 `json:"max_continuous_ev_setting_a"`
}

// calcMeasured is an existing dwelling by its recorded peak (NEC 220.87). A record
// that may not be used fits nothing.
func calcMeasured(in measuredIn) (out measuredOut, steps []working.Step, err error) {
	season := rulebook.Or(in.Season, 1)
	if err := rulebook.FirstError(rulebook.Positive("peak_kva", in.PeakKVA, "kVA"),
		rulebook.Between("season_factor", season, 1, 10, ""), rulebook.Positive("service_a", in.ServiceA, "A")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	peak := w.Add("peak", "125 % of the record, by season",
		text(rule(optionalLoad, "M-125"), " × ", in.PeakKVA, " kVA × ", season),
		rule(optionalLoad, "M-125")*in.PeakKVA*1000*season, "VA", "NEC 220.87")
	total := peak
	for _, v := range in.New {
		if err := rulebook.ZeroOrMore("new_loads_va", v, "VA"); err != nil {
			return out, nil, err
		}
		total += v
	}
	w.Add("total", "+ the new loads in full", "", total, "VA", "NEC 220.87")
	amps := w.Add("amps", "S / U", text(total, " / ", lineV), total/lineV, "A", "")
	room := max(0, in.ServiceA*lineV-peak)
	return measuredOut{RecordUsable: in.Valid, AdjustedPeakVa: peak, TotalVa: total, Amps: amps,
		Fits: in.Valid && working.AtMost(amps, in.ServiceA), RoomVa: room,
		MaxContinuousEvSettingA: math.Floor(room/lineV + 1e-9)}, w.Steps, nil
}

type emsIn struct {
	Edition  int       `json:"edition"`
	OtherVA  float64   `json:"other_load_va" unit:"VA"`
	Evse     []float64 `json:"evse_va" unit:"VA"`
	LimitVA  float64   `json:"managed_limit_va" unit:"VA"`
	ServiceA float64   `json:"service_a" unit:"A"`
	MinA     float64   `json:"min_current_a" unit:"A" doc:"lowest charging current that the units accept"`
}

// emsOut is what ems-limit answers.
type emsOut struct {
	UnmanagedAmps       float64 `json:"unmanaged_amps"`
	UnmanagedFits       bool    `json:"unmanaged_fits"`
	ManagedAmps         float64 `json:"managed_amps"`
	ManagedFits         bool    `json:"managed_fits"`
	LargestLimitVa      float64 `json:"largest_limit_va"`
	PerUnitAmpsIfAllRun float64 `json:"per_unit_amps_if_all_run"`
	MinCurrentMet       bool    `json:"min_current_met"`
}

// calcEMS counts EV units under an energy management system once, at its limit
// (NEC 750.30, 625.42).
func calcEMS(in emsIn) (out emsOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(editionOK(in.Edition), rulebook.ZeroOrMore("other_load_va", in.OtherVA, "VA"),
		rulebook.Positive("managed_limit_va", in.LimitVA, "VA"), rulebook.Positive("service_a", in.ServiceA, "A"),
		rulebook.ZeroOrMore("min_current_a", in.MinA, "A")); err != nil {
		return out, nil, err
	}
	if len(in.Evse) == 0 {
		return out, nil, fmt.Errorf("evse_va: an empty list is not accepted; give the nameplate of each unit in VA")
	}
	w := &rulebook.Worked{}
	all := in.OtherVA
	for _, v := range in.Evse {
		if err := rulebook.Positive("evse_va", v, "VA"); err != nil {
			return out, nil, err
		}
		all += evDemand(in.Edition, v)
	}
	unmanaged := w.Add("unmanaged", "all together / U", text(all, " / ", lineV), all/lineV, "A", standardLoad.Source.Ref)
	managed := w.Add("managed", "the rest + the limit once / U", text("(", in.OtherVA, " + ", in.LimitVA, ") / ", lineV),
		(in.OtherVA+in.LimitVA)/lineV, "A", "NEC 750.30, 625.42(A)")
	most := w.Add("largest limit", "service − the rest", "", max(0, in.ServiceA*lineV-in.OtherVA), "VA", "")
	each := w.Add("each", "limit / U / units", text(in.LimitVA, " / ", lineV, " / ", len(in.Evse)),
		in.LimitVA/lineV/float64(len(in.Evse)), "A", "")
	return emsOut{UnmanagedAmps: unmanaged, UnmanagedFits: working.AtMost(unmanaged, in.ServiceA), ManagedAmps: managed,
		ManagedFits: working.AtMost(managed, in.ServiceA), LargestLimitVa: most, PerUnitAmpsIfAllRun: each,
		MinCurrentMet: working.AtMost(in.MinA, each)}, w.Steps, nil
}

type canadaIn struct {
	UpperM2    float64   `json:"ground_upper_m2" unit:"m2"`
	BasementM2 float64   `json:"basement_m2" unit:"m2" doc:"over 1.8 m high"`
	RangeW     float64   `json:"range_w" unit:"W"`
	HeatW      float64   `json:"heat_w" unit:"W" doc:"with a control in each room"`
	CentralW   float64   `json:"central_heat_w,omitempty" unit:"W" doc:"without one: in full"`
	CoolW      float64   `json:"cool_w" unit:"W"`
	EvseW      float64   `json:"evse_w" unit:"W"`
	Other      []float64 `json:"other_over_1500_w" unit:"W"`
	TankW      float64   `json:"tankless_or_spa_w,omitempty" unit:"W"`
}

// canadaOut is what canada-load answers.
type canadaOut struct {
	AreaM2    float64 `json:"area_m2"`
	BaseW     float64 `json:"base_w"`
	HeatCoolW float64 `json:"heat_cool_w"`
	RangeW    float64 `json:"range_w"`
	OtherW    float64 `json:"other_w"`
	SumW      float64 `json:"sum_w"`
	LoadW     float64 `json:"load_w"`
	Amps      float64 `json:"amps"`
}

// calcCanada is a single dwelling by the Canadian rule (CEC 8-200).
func calcCanada(in canadaIn) (out canadaOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(rulebook.Positive("ground_upper_m2", in.UpperM2, "m2"),
		rulebook.ZeroOrMore("basement_m2", in.BasementM2, "m2"), rulebook.ZeroOrMore("range_w", in.RangeW, "W"),
		rulebook.ZeroOrMore("heat_w", in.HeatW, "W"), rulebook.ZeroOrMore("central_heat_w", in.CentralW, "W"),
		rulebook.ZeroOrMore("cool_w", in.CoolW, "W"), rulebook.ZeroOrMore("evse_w", in.EvseW, "W"),
		rulebook.ZeroOrMore("tankless_or_spa_w", in.TankW, "W")); err != nil {
		return out, nil, err
	}
	at := func(id string) float64 { return rule(canadaLoad, id) }
	source := canadaLoad.Source.Ref
	w := &rulebook.Worked{}
	area := w.Add("area", "floors + 75 % of the basement", text(in.UpperM2, " + 0.75 × ", in.BasementM2),
		in.UpperM2+at("CA-AREA")/100*in.BasementM2, "m²", source)
	base := w.Add("basic", "5000 W for 90 m², 1000 W for each 90 m² more or part", "",
		at("CA-BASE")+at("CA-ADD")*math.Ceil(max(0, area-90)/90-1e-9), "W", source)
	climate := w.Add("heating or cooling", "the larger; heating with a control in each room beyond 10 kW with 75 %",
		text(in.HeatW, " W by room, ", in.CentralW, " W central"),
		max(stepped(in.HeatW, 10000, at("CA-HEAT"))+in.CentralW, in.CoolW), "W", source)
	cooking := 0.0
	if in.RangeW > 0 {
		cooking = w.Add("range", "6000 W + 40 % above 12 kW", "", at("CA-RANGE")+at("CA-RANGE2")/100*max(0, in.RangeW-12000), "W", source)
	}
	sum := 0.0
	for _, v := range in.Other {
		if err := rulebook.Between("other_over_1500_w", v, 1500, 1e6, "W"); err != nil {
			return out, nil, err
		}
		sum += v
	}
	other := at("CA-OTH") / 100 * sum
	if in.RangeW == 0 {
		other = stepped(sum, 6000, at("CA-OTH2"))
	}
	w.Add("other", "25 %; without a range the first 6000 W in full", text(sum, " W"), other, "W", source)
	total := w.Add("sum", "with EV units, tankless heaters and spas in full", "",
		base+climate+cooking+other+at("CA-EV")/100*in.EvseW+at("CA-TANK")/100*in.TankW, "W", source)
	least := at("CA-MIN1")
	if in.UpperM2 < 80 { // the basement does not count here
		least = at("CA-MIN2")
	}
	load := w.Add("load", "at least the minimum", text(least, " W"), max(total, least), "W", source)
	return canadaOut{AreaM2: area, BaseW: base, HeatCoolW: climate, RangeW: cooking, OtherW: other, SumW: total,
		LoadW: load, Amps: w.Add("amps", "P / U", text(load, " / ", lineV), load/lineV, "A", "")}, w.Steps, nil
}

// loads of which every split is tried

func loadCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("dwelling-standard", "load of a dwelling by the standard method", calcStandard),
		rulebook.Define("dwelling-optional", "load of a dwelling by the optional method", calcOptional),
		rulebook.Define("existing-220.83", "an existing dwelling with added load, calculated", calcExisting),
		rulebook.Define("existing-220.87", "an existing dwelling with added load, by its recorded peak", calcMeasured),
		rulebook.Define("range-demand", "demand of ranges", calcRange),
		rulebook.Define("ems-limit", "EV units under an energy management system", calcEMS),
		rulebook.Define("canada-load", "load of a single dwelling by the Canadian rule", calcCanada),
		rulebook.Define("leg-balance", "120 V loads over the two legs", calcLegs),
		rulebook.Define("open-neutral", "voltages when the service neutral is broken", calcOpenNeutral),
	}
}
