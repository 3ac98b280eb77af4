package split120

import (
	"fmt"
	"math"
	"slices"

	"arvelt/core/rulebook"
	"arvelt/core/working"
)

type legsIn struct {
	L120    map[string]float64 `json:"loads_120" unit:"VA"`
	L240    map[string]float64 `json:"loads_240,omitempty" unit:"VA"`
	AsWired map[string]int     `json:"as_wired,omitempty" doc:"leg 1 or 2 of each 120 V load"`
}

const legsMost = 20

// calcLegs finds the best of all splits of the 120 V loads over the two legs.
type legsOut struct {
	ImbalanceVA float64  `json:"best_imbalance_va"`
	HeavyA      float64  `json:"best_heavy_leg_a"`
	LightA      float64  `json:"best_light_leg_a"`
	NeutralA    float64  `json:"best_neutral_a"`
	Wired1A     *float64 `json:"as_wired_leg1_a,omitempty"`
	Wired2A     *float64 `json:"as_wired_leg2_a,omitempty"`
	WiredN      *float64 `json:"as_wired_neutral_a,omitempty"`
}

func calcLegs(in legsIn) (legsOut, []working.Step, error) {
	var out legsOut
	if len(in.L120) == 0 || len(in.L120) > legsMost {
		return out, nil, fmt.Errorf("loads_120: %d loads are not accepted; give 1 to %d", len(in.L120), legsMost)
	}
	names := make([]string, 0, len(in.L120))
	for n := range in.L120 {
		names = append(names, n)
	}
	slices.Sort(names)
	total, both := 0.0, 0.0
	for _, n := range names {
		if err := rulebook.ZeroOrMore("loads_120."+n, in.L120[n], "VA"); err != nil {
			return out, nil, err
		}
		total += in.L120[n]
	}
	for n, v := range in.L240 {
		if err := rulebook.ZeroOrMore("loads_240."+n, v, "VA"); err != nil {
			return out, nil, err
		}
		both += v
	}
	best, bestSplit := math.Inf(1), 0
	for split := range 1 << (len(names) - 1) { // the last load stays on leg 1
		leg := 0.0
		for i, n := range names[:len(names)-1] {
			if split>>i&1 == 1 {
				leg += in.L120[n]
			}
		}
		if d := math.Abs(total - 2*leg); d < best-1e-9 {
			best, bestSplit = d, split
		}
	}
	w := &rulebook.Worked{}
	var second []string
	for i, n := range names {
		if bestSplit>>i&1 == 1 {
			second = append(second, n)
		}
	}
	w.Add("imbalance", "of the best split", "one leg: "+fmt.Sprint(second), best, "VA", "NEC 220.61; trade practice")
	amps := func(leg float64) float64 { return leg/legV + both/lineV }
	out = legsOut{ImbalanceVA: best, HeavyA: amps((total + best) / 2), LightA: amps((total - best) / 2),
		NeutralA: w.Add("neutral", "imbalance / 120 V", "", best/legV, "A", "")}
	if in.AsWired != nil {
		var leg [3]float64
		for _, n := range names {
			at, there := in.AsWired[n]
			if !there || at != 1 && at != 2 {
				return out, nil, fmt.Errorf("as_wired.%s: %d is not accepted; give leg 1 or 2 of every 120 V load", n, at)
			}
			leg[at] += in.L120[n]
		}
		one, two, neutral := amps(leg[1]), amps(leg[2]), math.Abs(leg[1]-leg[2])/legV
		out.Wired1A, out.Wired2A, out.WiredN = &one, &two, &neutral
	}
	return out, w.Steps, nil
}

type neutralIn struct {
	Leg1W float64 `json:"leg1_w" unit:"W" range:"above 0"`
	Leg2W float64 `json:"leg2_w" unit:"W" range:"above 0"`
}

// neutralOut is what open-neutral answers.
type neutralOut struct {
	Leg1V          float64 `json:"leg1_v"`
	Leg2V          float64 `json:"leg2_v"`
	OvervoltageLeg float64 `json:"overvoltage_leg"`
}

// calcOpenNeutral divides 240 V over two legs in series when their neutral is
// broken, each load a resistance at 120 V.
func calcOpenNeutral(in neutralIn) (out neutralOut, steps []working.Step, err error) {
	if err := rulebook.FirstError(rulebook.Positive("leg1_w", in.Leg1W, "W"), rulebook.Positive("leg2_w", in.Leg2W, "W")); err != nil {
		return out, nil, err
	}
	w := &rulebook.Worked{}
	one := w.Add("leg 1", "240 × P2 / (P1 + P2)", text(in.Leg1W, " W, ", in.Leg2W, " W"),
		lineV*in.Leg2W/(in.Leg1W+in.Leg2W), "V", "two resistances in series")
	over := 0
	switch {
	case one > legV:
		over = 1
	case one < legV:
		over = 2
	}
	return neutralOut{Leg1V: one, Leg2V: lineV - one, OvervoltageLeg: float64(over)}, w.Steps, nil
}
