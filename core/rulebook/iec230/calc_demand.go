package iec230

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// nullable is a number or null, where absent means something else than null.
// A pointer to it is nil when the key is absent or null was refused; see
// UnmarshalJSON of readings.
type nullable struct {
	v    float64
	null bool
}

// UnmarshalJSON keeps null apart from absent: encoding/json would make both a
// nil pointer.
func (r *readings) UnmarshalJSON(b []byte) error {
	var raw map[string]json.RawMessage
	if err := json.Unmarshal(b, &raw); err != nil {
		return err
	}
	*r = readings{}
	into := map[string]**nullable{"x1_0": &r.X1a, "x1_180": &r.X1b, "x5_0": &r.X5a, "x5_180": &r.X5b}
	for key, value := range raw {
		if key == "x0_5_tripped" {
			if err := json.Unmarshal(value, &r.HalfTripped); err != nil {
				return fmt.Errorf("readings.x0_5_tripped: give true or false")
			}
			continue
		}
		field, ok := into[key]
		if !ok {
			return fmt.Errorf("readings.%s is not known: x0_5_tripped, x1_0, x1_180, x5_0, x5_180", key)
		}
		n := &nullable{null: string(value) == "null"}
		if !n.null {
			if err := json.Unmarshal(value, &n.v); err != nil || n.v < 0 {
				return fmt.Errorf("readings.%s: %s is not accepted; give milliseconds from 0, or null when it did not trip", key, value)
			}
		}
		*field = n
	}
	return nil
}

// demandLoad is one load of a category, in watts at 230 V or in amperes.
type demandLoad struct {
	W      *float64 `json:"w" unit:"W"`
	A      *float64 `json:"a" unit:"A"`
	Socket bool     `json:"socket_in_unit,omitempty"`
}

func (l demandLoad) amps() float64 {
	if l.A != nil {
		return *l.A
	}
	return *l.W / NominalV
}

// demandRows names the row of the diversity table for each category of load,
// in the order in which they are shown.
var demandRows = []struct{ category, row, name string }{
	{"lighting", "lighting", "Lighting"},
	{"heating_misc", "heating_and_power_misc", "Heating and fixed power"},
	{"cooker", "cooker", "Cooking"},
	{"water_instant", "water_heater_instant", "Instant water heating"},
	{"water_thermostatic", "water_heater_thermostatic", "Stored water heating"},
	{"floor_warming", "floor_warming", "Floor warming"},
	{"storage_heating", "storage_heating", "Storage heating"},
	{"socket_circuits", "standard_socket_circuits", "Socket circuits"},
	{"other_points", "other_sockets_and_stationary", "Other points"},
	{"heat_pump", "heat_pump", "Heat pump"},
	{"ev", "ev_charging", "Vehicle charging"},
}

func categories() []string {
	out := make([]string, len(demandRows))
	for i, d := range demandRows {
		out[i] = d.category
	}
	return out
}

// Diversified returns the demand in amperes of loads of one category after the
// household allowance, and the rule in words with its numbers.
func Diversified(category string, amps []float64, socketInUnit bool) (demand float64, rule, with string, err error) {
	i := slices.IndexFunc(demandRows, func(d struct{ category, row, name string }) bool { return d.category == category })
	if i < 0 {
		return 0, "", "", fmt.Errorf("load category %q is not known: %s", category, strings.Join(categories(), ", "))
	}
	r := diversity.Find(func(it *diversityRow) bool { return it.Item == demandRows[i].row })
	p1, p2, p3 := diversity.Row(r).P1, diversity.Row(r).P2, diversity.Row(r).P3
	sorted := slices.Clone(amps)
	slices.SortFunc(sorted, func(a, b float64) int {
		if a > b {
			return -1
		}
		return 1
	})
	total := 0.0
	for _, a := range sorted {
		total += a
	}
	over := func(base float64) float64 { return max(0, total-base) }
	switch diversity.Row(r).Rule {
	case pctTotal:
		return total * p1 / 100, text(p1, " % of the total"), text(p1, " % × ", total), nil
	case firstPlusPct:
		return min(total, p1) + over(p1)*p2/100, text(p1, " A + ", p2, " % of the rest"),
			text(min(total, p1), " + ", p2, " % × ", over(p1)), nil
	case categoryCooker:
		demand, with = min(total, p1)+over(p1)*p2/100, text(min(total, p1), " + ", p2, " % × ", over(p1))
		if socketInUnit {
			demand, with = demand+p3, text(with, " + ", p3)
		}
		return demand, text(p1, " A + ", p2, " % of the rest, + ", p3, " A with a socket"), with, nil
	case largestPlusPct:
		largest := 0.0
		if len(sorted) > 0 {
			largest = sorted[0]
		}
		return largest*p1/100 + (total-largest)*p2/100, text("largest + ", p2, " % of the others"),
			text(largest, " + ", p2, " % × ", total-largest), nil
	case largestNPlusPct:
		for k, a := range sorted {
			if float64(k) < p1 {
				demand += a * p2 / 100
			} else {
				demand += a * p3 / 100
			}
		}
		return demand, text(p1, " largest in full + ", p3, " % of the others"), text("of ", total), nil
	default:
		return total, "in full", f(total), nil
	}
}

type maxDemandIn struct {
	SupplyA float64                 `json:"supply_a" unit:"A" range:"above 0"`
	Managed *float64                `json:"managed_limit_a" unit:"A"`
	Loads   map[string][]demandLoad `json:"loads" doc:"by category: lighting, cooker, socket_circuits, heat_pump, ev and so on"`
}

// leastChargeA is the least current that a charge point can offer a vehicle
// (IEC 61851-1 control pilot); under it, it offers none.
const leastChargeA = 6.0

// ManagedCharge returns what load management leaves for charging in amperes.
func ManagedCharge(pointA, limitA, restA float64) float64 {
	left := min(pointA, limitA-restA)
	if left < leastChargeA {
		return 0
	}
	return left
}

type maxDemandOut struct {
	Shares   map[string]float64 `json:"per_category_a"`
	Total    float64            `json:"total_a"`
	Within   bool               `json:"within_supply"`
	Charging *float64           `json:"ev_available_a,omitempty"`
}

func maxDemand(in maxDemandIn) (maxDemandOut, []working.Step, error) {
	w := &rulebook.Worked{}
	if err := rulebook.Positive("supply_a", in.SupplyA, "A"); err != nil {
		return maxDemandOut{}, nil, err
	}
	for category := range in.Loads {
		if !slices.Contains(categories(), category) {
			return maxDemandOut{}, nil, fmt.Errorf("loads.%s is not known: %s", category, strings.Join(categories(), ", "))
		}
	}
	out := maxDemandOut{Shares: map[string]float64{}}
	total := 0.0
	for _, d := range demandRows {
		loads, there := in.Loads[d.category]
		if !there {
			continue
		}
		amps, socket := []float64{}, false
		for _, l := range loads {
			if (l.W == nil) == (l.A == nil) {
				return out, nil, fmt.Errorf("loads.%s: give each load either w in watts or a in amperes", d.category)
			}
			if a := l.amps(); !(a >= 0) {
				return out, nil, fmt.Errorf("loads.%s: %g A is not accepted; give 0 or more", d.category, a)
			}
			amps, socket = append(amps, l.amps()), socket || l.Socket
		}
		a, rule, with, err := Diversified(d.category, amps, socket)
		if err != nil {
			return out, nil, err
		}
		if d.category == categoryEV && in.Managed != nil {
			a = ManagedCharge(a, *in.Managed, total)
			available := a
			out.Charging = &available
			w.Add("charging available", "min(point, limit − rest), 0 under 6 A",
				fmt.Sprintf("limit %s − rest %s", f(*in.Managed), f(total)), a, "A", evRules.Source.Ref)
		} else {
			out.Shares[d.category] = w.Add(d.name, rule, with, a, "A", diversity.Source.Ref)
		}
		total += a
	}
	out.Total, out.Within = w.Add("total", "sum", "", total, "A", ""),
		working.AtMost(total, in.SupplyA)
	return out, w.Steps, nil
}

type evPenIn struct {
	System   string  `json:"system" doc:"TN-C-S, TN-S, TT"`
	Location string  `json:"location" doc:"indoor or outdoor"`
	Serves   bool    `json:"serves_vehicle_outdoors,omitempty"`
	CurrentA float64 `json:"current_a" unit:"A" range:"above 0"`
	Phases   *int    `json:"phases" doc:"1 when absent"`
	RCDType  string  `json:"rcd_type"`
	Idn      float64 `json:"rcd_idn_ma" unit:"mA"`
	DC       bool    `json:"dc_detection_6ma"`
	Shared   bool    `json:"shared_circuit,omitempty"`
	Option   *string `json:"pen_option" doc:"tt_rod, voltage_monitor, touch_voltage_device, met_electrode, or null"`
	Opens    *bool   `json:"opens_pe_and_all_live"`
	Log      []struct {
		U      float64 `json:"u_v" unit:"V"`
		Opened bool    `json:"opened"`
		T      float64 `json:"t_s" unit:"s"`
	} `json:"monitor_log,omitempty"`
	Ra         *float64 `json:"ra_ohm" unit:"ohm" range:"above 0"`
	DemandA    *float64 `json:"demand_a" unit:"A" doc:"maximum demand, for an electrode at the main earthing terminal" range:"above 0"`
	Separation *float64 `json:"separation_m" unit:"m"`
}

// ResidualFaults returns the codes of what is wrong with the residual
// protection of a charge point: rcd_idn, rcd_type, dc_detection (722.531.3).
func ResidualFaults(rcdType string, idn float64, dcDetection bool) []string {
	var out []string
	if idn > evRCDIdn.V() || idn <= 0 {
		out = append(out, "rcd_idn")
	}
	if rcdType != typeA && rcdType != typeF && rcdType != typeB {
		out = append(out, "rcd_type")
	}
	if (rcdType == typeA || rcdType == typeF) && !dcDetection {
		out = append(out, "dc_detection")
	}
	return out
}

// evPenOut is what ev-pen answers.
type evPenOut struct {
	PowerKw    float64  `json:"power_kw"`
	Reasons    []string `json:"reasons"`
	Acceptable bool     `json:"acceptable"`
}

func evPen(in evPenIn) (out evPenOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	phases := rulebook.Or(in.Phases, 1)
	if err := rulebook.FirstError(phasesOK(phases), rulebook.Positive("current_a", in.CurrentA, "A")); err != nil {
		return out, nil, err
	}
	if !slices.Contains([]string{"TN-C-S", "TN-S", "TT"}, in.System) {
		return out, nil, fmt.Errorf("system: %q is not accepted; give TN-C-S, TN-S or TT", in.System)
	}
	if in.Location != placeIndoor && in.Location != placeOutdoor {
		return out, nil, fmt.Errorf("location: %q is not accepted; give indoor or outdoor", in.Location)
	}
	reasons := ResidualFaults(in.RCDType, in.Idn, in.DC)
	w.Add("IΔn", "at most 30 mA; type A or F with 6 mA direct-current detection, or type B",
		fmt.Sprintf("type %s, detection %t", in.RCDType, in.DC), in.Idn, "mA", "722.531.3")
	if in.Shared {
		reasons = append(reasons, "shared_circuit")
	}
	option := rulebook.Or(in.Option, "")
	if install.Earthing(in.System) == install.TNCS && (in.Location == placeOutdoor || in.Serves) {
		low, high, longest := evVoltageWindowLow.V(), evVoltageWindowHigh.V(), evOpenTimeMax.V()
		switch install.BrokenPEN(option) {
		case "":
			reasons = append(reasons, "pen_protection")
		case penMonitor:
			add := func(code string) {
				if !slices.Contains(reasons, code) {
					reasons = append(reasons, code)
				}
			}
			for _, l := range in.Log {
				outside := l.U < low || l.U > high
				if outside && (!l.Opened || !working.AtMost(l.T, longest)) {
					add("pen_monitor_no_trip")
				}
				if !outside && l.Opened {
					add("pen_monitor_false_trip")
				}
				w.Add("monitor", fmt.Sprintf("%s to %s V stays closed, else opens within %s s", f(low), f(high),
					f(longest)), fmt.Sprintf("%s V, opened %t", f(l.U), l.Opened), l.T, "s", evRules.Source.Ref)
			}
			if !rulebook.Or(in.Opens, false) {
				add("pen_monitor_poles")
			}
		case penTouch:
			if !rulebook.Or(in.Opens, false) {
				reasons = append(reasons, "pen_monitor_poles")
			}
		case penRod:
			if in.Ra == nil {
				return out, nil, fmt.Errorf("ra_ohm is missing: a separate electrode is judged by its resistance in ohm")
			}
			w.Add("touch voltage", "Ra × IΔn", text(*in.Ra, " × ", in.Idn, " / 1000"), *in.Ra*in.Idn/1000, "V", ttLimits.Source.Ref)
			if !working.AtMost(*in.Ra*in.Idn/1000, TouchV) {
				reasons = append(reasons, "ra_high")
			}
			if !working.AtMost(*in.Ra, stableRa) {
				reasons = append(reasons, "ra_unstable")
			}
			if in.Separation != nil && *in.Separation < evSimultaneousContactM.V() {
				reasons = append(reasons, "simultaneous_contact")
			}
		case penElectrode:
			if in.Ra == nil || in.DemandA == nil {
				return out, nil, fmt.Errorf("ra_ohm and demand_a are missing: an electrode at the main earthing terminal is " +
					"judged by its resistance in ohm at the demand in A")
			}
			if err := rulebook.FirstError(rulebook.Positive("ra_ohm", *in.Ra, "ohm"),
				rulebook.Positive("demand_a", *in.DemandA, "A")); err != nil {
				return out, nil, err
			}
			limit := w.Add("Ra max", "Ut × U0 / (I × (Cmax × U0 − Ut))",
				text(touchLimitV, " × ", NominalV, " / (", *in.DemandA, " × (", cmax*NominalV, " − ", touchLimitV, "))"),
				METElectrodeMax(*in.DemandA), "Ω", "voltage shared by load and electrode")
			if !working.AtMost(*in.Ra, limit) {
				reasons = append(reasons, "ra_high")
			}
		default:
			return out, nil, fmt.Errorf("pen_option: %q is not known; give tt_rod, voltage_monitor, touch_voltage_device, "+
				"met_electrode or null", option)
		}
	}
	acceptable := true
	for _, code := range reasons {
		acceptable = acceptable && (code == codeUnstable || code == codeFalseTrip)
	}
	kw := w.Add("power", "U0 × I × phases / 1000", fmt.Sprintf("%s × %s × %d / 1000", f(NominalV), f(in.CurrentA), phases),
		NominalV*in.CurrentA*float64(phases)/1000, "kW", "")
	return evPenOut{PowerKw: kw, Reasons: rulebook.Sorted(reasons), Acceptable: acceptable}, w.Steps, nil
}

func demandCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("max-demand", "maximum demand of a dwelling with diversity", maxDemand),
		rulebook.Define("ev-pen", "a charge point's residual protection and broken neutral-earth protection", evPen),
	}
}
