package iec230

import (
	"fmt"

	"arvelt/core/rulebook"
	"arvelt/core/working"
)

type spdIn struct {
	Up     float64 `json:"up_kv" unit:"kV" range:"above 0"`
	LineM  float64 `json:"lead_line_m" unit:"m" range:"0 or more"`
	EarthM float64 `json:"lead_earth_m" unit:"m" range:"0 or more"`
	Uw     float64 `json:"uw_kv" unit:"kV" doc:"impulse withstand of what is protected" range:"above 0"`
	ToLoad float64 `json:"distance_to_load_m" unit:"m" doc:"of wiring" range:"0 or more"`
}

// LeadVerdict says how the total lead length of a surge device in metres stands:
// advised, allowed_max or too_long (534.4.8).
func LeadVerdict(metres float64) string {
	switch {
	case working.AtMost(metres, spdLeadTotalAdvised.V()):
		return "advised"
	case working.AtMost(metres, spdLeadTotalMax.V()):
		return "allowed_max"
	}
	return "too_long"
}

// LetThrough is the voltage in kV that a device of up kV leaves with leads of so
// many metres in all: about 1 kV a metre at 1 kA/µs.
func LetThrough(up, metres float64) float64 { return up + spdLeadRise.V()*metres }

// spdOut is what spd-let-through answers.
type spdOut struct {
	LeadTotalM   float64 `json:"lead_total_m"`
	UEffectiveKv float64 `json:"u_effective_kv"`
	LeadVerdict  string  `json:"lead_verdict"`
	OkUw         bool    `json:"ok_uw"`
	Ok80pc       bool    `json:"ok_80pc"`
	ExtraSpd     bool    `json:"extra_spd"`
}

func spdLetThrough(in spdIn) (out spdOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	if err := rulebook.FirstError(rulebook.Positive("up_kv", in.Up, "kV"), rulebook.Positive("uw_kv", in.Uw, "kV"),
		rulebook.ZeroOrMore("lead_line_m", in.LineM, "m"), rulebook.ZeroOrMore("lead_earth_m", in.EarthM, "m"),
		rulebook.ZeroOrMore("distance_to_load_m", in.ToLoad, "m")); err != nil {
		return out, nil, err
	}
	total := w.Add("leads", "line side + earth side", text(in.LineM, " + ", in.EarthM), in.LineM+in.EarthM, "m", spdRules.Source.Ref)
	u := w.Add("U effective", "Up + 1 kV/m × leads", text(in.Up, " + ", spdLeadRise.V(), " × ", total),
		LetThrough(in.Up, total), "kV", spdRules.Source.Ref)
	share := w.Add("80 % of Uw", "0.8 × Uw", text("0.8 × ", in.Uw), spdShare*in.Uw, "kV", overvoltage.Source.Ref)
	return spdOut{LeadTotalM: total, UEffectiveKv: u, LeadVerdict: LeadVerdict(total), OkUw: working.AtMost(u, in.Uw),
		Ok80pc: working.AtMost(u, share), ExtraSpd: !working.AtMost(in.ToLoad, spdProtectiveDistance.V())}, w.Steps, nil
}

// spdShare is the share of the impulse withstand that is the advised ceiling.
const spdShare = 0.8

type crlIn struct {
	Environment string   `json:"environment" doc:"rural, suburban or urban"`
	NG          *float64 `json:"ng" doc:"flashes per km2 and year, or null"`
	Days        *float64 `json:"thunderstorm_days" doc:"a year, where there is no map"`
	Lengths     struct {
		LPAL    float64 `json:"lpal,omitempty" unit:"km" doc:"low-voltage overhead"`
		LPCL    float64 `json:"lpcl,omitempty" unit:"km" doc:"low-voltage cable"`
		LPAH    float64 `json:"lpah,omitempty" unit:"km" doc:"high-voltage overhead"`
		LPCH    float64 `json:"lpch,omitempty" unit:"km" doc:"high-voltage cable"`
		Unknown bool    `json:"unknown_rest,omitempty" doc:"the rest up to 1 km counts as low-voltage overhead"`
	} `json:"lengths_km"`
	Factor *float64 `json:"factor_f" doc:"national factor of 1 to 3 on fenv, 1 when absent"`
}

// CRLThreshold is the calculated risk level under which surge protection is
// required (443.5).
var CRLThreshold = spdRisk.Fixed("threshold")

// LineLength weighs the lines to the origin in km, low voltage before high and
// overhead before cable, none beyond 1 km in all (443.5).
func LineLength(lpal, lpcl, lpah, lpch float64) float64 {
	left := riskLengthCapKm.V()
	total := 0.0
	for _, l := range []struct {
		km     float64
		weight string
	}{{lpal, "weight_lpal_lv_overhead"}, {lpcl, "weight_lpcl_lv_cable"}, {lpah, "weight_lpah_hv_overhead"},
		{lpch, "weight_lpch_hv_cable"}} {
		km := min(l.km, left)
		left -= km
		total += km * spdRisk.Fixed(l.weight)
	}
	return total
}

// crlOut is what spd-crl answers.
type crlOut struct {
	Fenv        float64 `json:"fenv"`
	Ng          float64 `json:"ng"`
	LpKm        float64 `json:"lp_km"`
	Crl         float64 `json:"crl"`
	SpdRequired bool    `json:"spd_required"`
}

func spdCRL(in crlIn) (out crlOut, steps []working.Step, err error) {
	w := &rulebook.Worked{}
	row := map[string]string{"rural": "fenv_rural_suburban", "suburban": "fenv_rural_suburban", "urban": "fenv_urban"}[in.Environment]
	if row == "" {
		return out, nil, fmt.Errorf("environment: %q is not accepted; give rural, suburban or urban", in.Environment)
	}
	factor, l := rulebook.Or(in.Factor, 1), in.Lengths
	if err := rulebook.FirstError(rulebook.Positive("factor_f", factor, "1"),
		rulebook.ZeroOrMore("lengths_km.lpal", l.LPAL, "km"), rulebook.ZeroOrMore("lengths_km.lpcl", l.LPCL, "km"),
		rulebook.ZeroOrMore("lengths_km.lpah", l.LPAH, "km"), rulebook.ZeroOrMore("lengths_km.lpch", l.LPCH, "km")); err != nil {
		return out, nil, err
	}
	var ng float64
	switch {
	case in.NG != nil:
		ng = *in.NG
	case in.Days != nil:
		ng = w.Add("NG", "0.1 × thunderstorm days", text(riskNgPerThunderstormDay.V(), " × ", *in.Days),
			riskNgPerThunderstormDay.V()**in.Days, "/km²/a", spdRisk.Source.Ref)
	default:
		return out, nil, fmt.Errorf("ng is missing: give flashes per km² and year, or thunderstorm_days")
	}
	if err := rulebook.Positive("ng", ng, "flashes per km² and year"); err != nil {
		return out, nil, err
	}
	if rest := riskLengthCapKm.V() - l.LPAL - l.LPCL - l.LPAH - l.LPCH; l.Unknown && rest > 0 {
		l.LPAL += w.Add("unknown rest", "counted as low-voltage overhead", "", rest, "km", spdRisk.Source.Ref)
	}
	lp := w.Add("LP", "2 LPAL + LPCL + 0.4 LPAH + 0.2 LPCH, at most 1 km",
		fmt.Sprintf("%s, %s, %s, %s km", f(l.LPAL), f(l.LPCL), f(l.LPAH), f(l.LPCH)),
		LineLength(l.LPAL, l.LPCL, l.LPAH, l.LPCH), "km", spdRisk.Source.Ref)
	if !(lp > 0) {
		return out, nil, fmt.Errorf("lengths_km: no line is given; give the length of at least one kind, or unknown_rest true")
	}
	fenv := w.Add("fenv", in.Environment+" × F", text(spdRisk.Fixed(row), " × ", factor),
		spdRisk.Fixed(row)*factor, "", spdRisk.Source.Ref)
	crl := w.Add("CRL", "fenv / (LP × NG)", text(fenv, " / (", lp, " × ", ng, ")"), fenv/(lp*ng), "", spdRisk.Source.Ref)
	return crlOut{Fenv: fenv, Ng: ng, LpKm: lp, Crl: crl, SpdRequired: crl < CRLThreshold}, w.Steps, nil
}

func surgeCalcs() []rulebook.Calc {
	return []rulebook.Calc{
		rulebook.Define("spd-let-through", "what a surge device leaves with its leads", spdLetThrough),
		rulebook.Define("spd-crl", "calculated risk level: whether surge protection is required", spdCRL),
	}
}
