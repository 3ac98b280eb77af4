package iec230

import (
	"arvelt/core/install"
	"arvelt/core/working"
)

// useRow is a row of circuit_uses.csv: how a circuit of a template starts, and the
// rules that follow its use whatever became of it.
type useRow struct {
	template, name   string
	id               install.Use
	start            install.Circuit
	areaM2           float64 // most that the standard circuit serves, 0 without a limit
	demand, drop     string
	plug, continuous bool
	load             string
	leakMA           float64
	leakPer          string
	isSockets        bool
	luminaires       bool
	serves           string // what stands at its end
}

var (
	templates   []string // in the order in which they are offered
	byTemplate  = map[string]*useRow{}
	usesByID    = map[install.Use]*useRow{}   // the first template of each use
	socketAreas = map[socketCircuit]float64{} // by use and rating
)

func readUses() {
	t := circuitUses
	for r := range t.Text {
		number := func(col string) float64 {
			v := t.Num(r, col)
			if v != v {
				return 0
			}
			return v
		}
		u := &useRow{template: t.Str(r, "template"), id: install.Use(t.Str(r, "use")), name: t.Str(r, "name"),
			areaM2: number("area_m2"), demand: t.Str(r, "demand"), drop: t.Str(r, "drop"),
			plug: number("plug") == 1, continuous: number("continuous") == 1, load: t.Str(r, "load"),
			leakMA: number("leak_ma"), leakPer: t.Str(r, "leak_per"), luminaires: number("luminaires") == 1, serves: t.Str(r, "serves")}
		u.isSockets = u.demand == categorySockets
		method := t.Str(r, "method")
		ambient := 30.0
		segment := install.Segment{Place: "from the board", LengthM: 5, // nobody has said how it is known
			Method: install.Method(method), AmbientC: ambient, Grouped: 1}
		if terms.Laid[install.Method(method)].Ground {
			segment.AmbientC, segment.DepthMM = 20, 600
		}
		u.start = install.Circuit{Name: u.name, Use: install.Use(u.id),
			Serves: install.Serves{Outlets: int(number("outlets")), PowerW: number("power_w"),
				Backfeed: u.id == useInfeed, Spurs: []install.Spur{}, Boxes: []install.Box{}},
			Point: install.Point{CurrentA: number("current_a"), HeightMM: 1000},
			Route: install.Route{CableType: t.Str(r, "cable"), LineMM2: t.Num(r, "line_mm2"), SlackM: 1, BoardTailM: 1,
				PointTailM: 0.5, Segments: []install.Segment{segment}},
			Protection: install.Protection{Family: "mcb_rcbo", Curve: t.Str(r, "curve"), RatingA: t.Num(r, "rating_a"),
				IcnKA: 6, RCDType: "A", IdnMA: rcdAdditionalProtectionIdnMax.V(), Poles: int(number("poles"))},
			PEN: install.PEN{Rods: 1}}
		switch u.id {
		case useEV:
			u.start.Point.Outdoor, u.start.Point.ServesOut = true, true
		case useDistribution, "surge":
			u.start.Protection.RCDType, u.start.Protection.IdnMA = "", 0
		}
		templates = append(templates, u.template)
		byTemplate[u.template] = u
		if usesByID[u.id] == nil {
			usesByID[u.id] = u
		}
		if u.areaM2 > 0 {
			socketAreas[socketCircuit{string(u.id), u.start.Protection.RatingA}] = u.areaM2
		}
	}
}

type socketCircuit struct {
	use     string
	ratingA float64
}

// areaLimit is the floor area in m² that the standard socket circuit of a use and
// rating serves, 0 when there is none.
func areaLimit(use install.Use, ratingA float64) float64 {
	if use == useRing {
		return usesByID[useRing].areaM2
	}
	return socketAreas[socketCircuit{string(use), ratingA}]
}

// rulesOf returns the rules of a circuit's use; those of a fixed load for one that
// is not known.
func rulesOf(use install.Use) *useRow {
	if u := usesByID[use]; u != nil {
		return u
	}
	return usesByID[useFixed]
}

// asks lists the fields of a circuit that a use asks for beside those of every
// circuit, for the sheets.
func (u *useRow) asks() []string {
	shared := []string{"kind", "concealed", "bath", "backfeed", "leakMA"}
	switch {
	case u.id == useSurge:
		return []string{"surge"}
	case u.id == useDistribution:
		return []string{"feedsBoard", "powerW", "currentA", "building"}
	case u.isSockets:
		out := append([]string{"areaM2", "outlets", "arcFault"}, shared...)
		if u.id == useRing {
			out = append(out, "spurs")
		}
		return out
	}
	out := append([]string{"outlets", "powerW", "currentA", "spread"}, shared...)
	switch u.id {
	case useLighting:
		out = append(out, "recessed")
	case useCooker:
		out = append(out, "socket")
	case useEV:
		out = append(out, "vehicle", "dcDetection")
	}
	return out
}

// lampW is the power in watts that a lighting point counts with while what hangs
// there is not known (assumed current demand of points).
const lampW = 100.0

// connected is the current in amperes of all that is connected to a circuit, with
// the rule and its numbers.
func connected(k *install.Circuit) (amps float64, rule, with string, assumed string) {
	switch u := rulesOf(k.Use); {
	case u.isSockets:
		return k.Protection.RatingA, "what is plugged in draws up to the device", "", ""
	case k.Serves.PowerW > 0:
		return k.Serves.PowerW / NominalV, "P / U0", text(k.Serves.PowerW, " / ", NominalV), ""
	case k.Use == useLighting:
		watts := lampW * float64(k.Serves.Points())
		return watts / NominalV, "points × 100 W / U0", text(k.Serves.Points(), " × 100 / ", NominalV), "100 W for each lighting point"
	case k.Point.LimitA > 0 && k.Point.LimitA < k.Point.CurrentA:
		return k.Point.LimitA, "current limit set in the point", "", ""
	default:
		return k.Point.DesignA(), "rated current of the point, continuous", "", ""
	}
}

// designOf is the current in amperes for which a final circuit is designed: a
// cooker's with its allowance, every other as it is connected.
func designOf(k *install.Circuit) (amps float64, rule, with, assumed string) {
	amps, rule, with, assumed = connected(k)
	if k.Use == useCooker {
		if a, r, w, err := Diversified("cooker", []float64{amps}, k.Serves.Socket); err == nil {
			return a, r, w, assumed
		}
	}
	return amps, rule, with, assumed
}

// LeakEstimate is the standing leakage in mA to plan with while it was not
// measured: what is connected, and 0.5 mA for 100 m of cable.
func LeakEstimate(k *install.Circuit) (ma float64, with string) {
	u := rulesOf(k.Use)
	of, unit := 1.0, "circuit"
	switch u.leakPer {
	case leakPerOutlet:
		of, unit = float64(k.Serves.Points()), "outlets"
	case leakPerKW:
		amps, _, _, _ := connected(k)
		of, unit = amps*NominalV/1000, "kW"
	}
	wiring := rcdLeakage.One(func(it *rcdLeakageRow) bool { return it.Appliance == "fixed wiring, per 100 m of cable" }).TypicalMA
	return u.leakMA*of + wiring*k.Route.LengthM()/100,
		text(of, " ", unit, " × ", u.leakMA, " + ", k.Route.LengthM(), " m × ", wiring, " / 100")
}

// leakOf is the standing leakage of a circuit: as it was read with a clamp, else as entered, else estimated and marked so.
func (s *system) leakOf(c *working.Check, k *install.Circuit) float64 {
	if ma, by, ok := s.clamped(clampAlternating, k.ID); ok {
		return c.Step("leakage, "+k.Name, "read by "+by, "", ma, "mA", "")
	}
	if k.Serves.LeakMA.Known() {
		if !k.Serves.LeakMA.Confirmed() {
			c.Assumes("standing leakage of " + k.Name)
		}
		return c.Step("leakage, "+k.Name, "as entered", "", k.Serves.LeakMA.V(), "mA", "")
	}
	ma, with := LeakEstimate(k)
	c.Assumes("standing leakage of " + k.Name)
	return c.Step("leakage, "+k.Name, "usual for what is connected, + 0.5 mA for 100 m", with, ma, "mA", rcdLeakage.Source.Ref)
}

// hasSockets reports whether a circuit feeds socket-outlets, all of which are of 13 A:
// those of its use, and the one in a cooker's control unit.
func hasSockets(k *install.Circuit) bool {
	return rulesOf(k.Use).isSockets || k.Serves.Socket
}
