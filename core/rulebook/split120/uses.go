package split120

import (
	"math"
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
)

var (
	circuitUses = table.Load(dataFiles, "circuit_uses")
	cableTypes  = table.LoadOf[cableTypesRow](dataFiles, "cable_types")
	cableMakes  = table.LoadOf[cableMakesRow](dataFiles, "cable_makes")
	methodTable = table.LoadOf[methodRow](dataFiles, "methods")
)

// useRow is a row of circuit_uses.csv: how a circuit of a template starts, and the
// rules that follow its use whatever became of it.
type useRow struct {
	template, name string
	id             install.Use
	start          install.Circuit
	neutral        bool
	continuous     bool
	demand, place  string
	isString       bool
	wiring         wiring
	mca            bool // its nameplate gives the circuit ampacity and the largest device
}

// wiring is how what a use feeds is joined to its circuit: what holds for receptacles
// does not reach what is wired in.
type wiring int

const (
	plugsIn wiring = iota
	wiredIn
	eitherWay
)

// cableRow is a row of cable_types.csv.
type cableRow struct {
	id, name    string
	cores       int // 0: conductors drawn as needed
	materials   []string
	column      float64
	cap60       bool
	fill        string // insulation in the fill tables, empty for a cable
	conduit     string
	clipMM      float64
	clip, cover string
	methods     []string
	sizes       []string
	ground      map[string]string // of each size in the cable
}

var (
	templates  []string
	byTemplate = map[string]*useRow{}
	usesByID   = map[install.Use]*useRow{} // the first template of each use
	cables     = map[string]*cableRow{}
	sizeOf     = map[float64]string{} // by mm²
	areaOf     = map[string]float64{} // mm² by size
)

// The standing ground-fault protection of a circuit: a class A device, which trips
// from 4 to 6 mA (UL 943).
const (
	groundFault = "GFCI"
	classAMA    = 6.0
)

// AreaMM2 is the area in mm² by which the model keeps a size, 0 for one that the
// table does not have (NEC Chapter 9 Table 8).
func AreaMM2(size string) float64 { return areaOf[size] }

// SizeOf is the trade size of an area in mm², "" when it is none.
func SizeOf(mm2 float64) string { return sizeOf[mm2] }

// trade writes a size with its unit.
func trade(size string) string {
	if r := conductors.Find(func(it *conductorsRow) bool { return it.Size == size }); r >= 0 && conductors.Row(r).Cmil >= 250000 {
		return size + " kcmil"
	}
	return size + " AWG"
}

func readCables() {
	for r := range conductors.Text {
		size, mm2 := conductors.Row(r).Size, conductors.Row(r).AreaMM2
		sizeOf[mm2], areaOf[size] = size, mm2
		terms.SizeNames[mm2] = trade(size)
	}
	for r := range cableTypes.Text {
		k := &cableRow{id: cableTypes.Row(r).Type, name: cableTypes.Row(r).Name,
			cores: int(cableTypes.Row(r).Cores), materials: strings.Fields(cableTypes.Row(r).Material),
			column: cableTypes.Row(r).Column,
			cap60:  cableTypes.Row(r).Cap60 == "1", fill: cableTypes.Row(r).Fill,
			conduit: cableTypes.Row(r).Conduit, clipMM: cableTypes.Row(r).ClipIn * inchMM,
			clip: cableTypes.Row(r).Clip, cover: cableTypes.Row(r).Cover,
			methods: strings.Fields(cableTypes.Row(r).Methods), ground: map[string]string{}}
		family, _, _ := strings.Cut(k.id, "-")
		for m := range cableMakes.Text {
			if cableMakes.Row(m).Type == family {
				size := cableMakes.Row(m).Size
				k.sizes, k.ground[size] = append(k.sizes, size), cableMakes.Row(m).Ground
			}
		}
		if k.cores == 0 {
			k.sizes = slices.Clone(sizes)
		}
		cables[k.id] = k
		terms.CableTypes, terms.Methods[k.id] = append(terms.CableTypes, k.id), k.methods
		for _, s := range k.sizes {
			terms.Sizes[k.id] = append(terms.Sizes[k.id], areaOf[s])
		}
		slices.Sort(terms.Sizes[k.id])
	}
}

func readUses() {
	t := circuitUses
	for r := range t.Text {
		number := func(col string) float64 { return t.Num(r, col) }
		u := &useRow{template: t.Str(r, "template"), id: install.Use(t.Str(r, "use")), name: t.Str(r, "name"),
			neutral: number("neutral") == 1, continuous: number("continuous") == 1, demand: t.Str(r, "demand"),
			place: t.Str(r, "place"), isString: number("string") == 1, wiring: wiring(number("wired")), mca: number("mca") == 1}
		segment := install.Segment{Place: "from the panel", LengthM: 6, // nobody has said how it is known
			Method: install.Method(t.Str(r, "method")), AmbientC: 30, Grouped: 1}
		u.start = install.Circuit{Name: u.name, Use: install.Use(u.id),
			Serves: install.Serves{Outlets: int(number("outlets")), PowerW: number("power_w"), Place: u.place,
				Backfeed: u.id == useInfeed, Motor: number("motor") == 1, Spurs: []install.Spur{}, Boxes: []install.Box{}},
			Point: install.Point{CurrentA: number("current_a"), HeightMM: 45 * inchMM},
			Route: install.Route{CableType: t.Str(r, "cable"), LineMM2: areaOf[t.Str(r, "size")], SlackM: 2 * footM,
				BoardTailM: 4 * footM, PointTailM: footM, Aluminium: t.Str(r, "cable") == "ser", Segments: []install.Segment{segment}},
			Protection: install.Protection{Family: "breaker", RatingA: number("rating_a"), IcnKA: 10, Poles: int(number("poles"))},
			PEN:        install.PEN{Rods: 1}}
		if u.id == useEV {
			u.start.Point.Outdoor, u.start.Point.ServesOut = true, true
		}
		templates = append(templates, u.template)
		byTemplate[u.template] = u
		if usesByID[u.id] == nil {
			usesByID[u.id] = u
			terms.Uses = append(terms.Uses, string(u.id))
			terms.Asks[string(u.id)], terms.Serves[string(u.id)] = u.asks(), t.Str(r, "serves")
		}
	}
}

// rulesOf returns the rules of a circuit's use; those of a fixed appliance for one
// that is not known.
func rulesOf(use install.Use) *useRow {
	if u := usesByID[use]; u != nil {
		return u
	}
	return usesByID[useFixed]
}

// asks lists the fields of a circuit that a use asks for beside those of every
// circuit, for the sheets.
func (u *useRow) asks() []string {
	shared := []string{"place", "leakMA", "arcFault", "poles"}
	switch {
	case u.id == useSurge:
		return []string{"surge", "poles"}
	case u.id == useDistribution:
		return []string{"feedsBoard", "powerW", "currentA", "building", "poles"}
	case u.id == useInfeed:
		return []string{"currentA", "backfeed", "bothWays", "poles"}
	case u.isString:
		return append([]string{"outlets", "boxes"}, shared...)
	}
	out := append([]string{"powerW", "currentA", "motor"}, shared...)
	if u.wiring == eitherWay {
		out = append(out, "plugged")
	}
	switch u.id {
	case useLighting, useAlarms:
		out = append(out, "outlets")
	case useEV:
		out = append(out, "vehicle")
	case useHeating:
		out = append(out, "roomControl")
	case useRange, useOven, useDryer:
		out = append(out, "threeWire")
	case useStrips:
		out = append(out, "interlocked", "roomControl")
	}
	if u.mca {
		out = append(out, "maxDevice")
	}
	return out
}

// Templates lists the circuits that one may start with.
func (Practice) Templates() []string { return templates }

// Defaults is a circuit of a template as it starts: what is usual for it, to be
// walked, measured and calculated. The name of a use gives its first template.
func (Practice) Defaults(template string) install.Circuit {
	u := byTemplate[template]
	if u == nil {
		u = rulesOf(install.Use(template))
	}
	c := u.start
	c.Route.Segments = slices.Clone(c.Route.Segments)
	return c
}

// Cable returns a cable by type and conductor area. Overall diameters differ by
// manufacturer and are not in the tables; a cable that follows from its conductors has
// none.
func (Practice) Cable(id string, mm2 float64) (rulebook.Cable, bool) {
	k, size := cables[id], sizeOf[mm2]
	if k == nil || !slices.Contains(k.sizes, size) {
		return rulebook.Cable{}, false
	}
	c := rulebook.Cable{Name: trade(size) + " " + k.name, LineMM2: mm2, CPCMM2: areaOf[k.ground[size]], Clip: k.clip,
		ClipHorMM: k.clipMM, ClipVertMM: k.clipMM, Confidence: cableMakes.Source.Confidence}
	c.ClipID, _, _ = strings.Cut(k.id, "-")
	if k.conduit != "" { // the conduit is fixed, whatever the method of its conductors
		for _, m := range k.methods {
			if !terms.Laid[install.Method(m)].Ground {
				c.FixedBy = append(c.FixedBy, m)
			}
		}
	}
	if k.cores == 0 {
		c.Name = trade(size) + " " + k.name + ", each conductor"
	}
	c.R1, _ = ResistancePerM(k.materials[0], size)
	c.R2, _ = ResistancePerM(k.materials[0], k.ground[size])
	c.R1, c.R2 = c.R1*1000, c.R2*1000
	return c, true
}

// materialOf is what the conductors of a circuit are made of.
func materialOf(k *install.Circuit) string {
	row := cables[k.Route.CableType]
	if row != nil && len(row.materials) == 1 {
		return row.materials[0]
	}
	if k.Route.Aluminium {
		return "al"
	}
	return "cu"
}

// sharesNeutral: the two lines of a circuit share one neutral, so that its outlets are fed from leg to neutral.
func sharesNeutral(k *install.Circuit) bool { return k.Protection.Shared.Is }

// plugsAtLegV: the outlets of a circuit are fed from leg to neutral.
func plugsAtLegV(k *install.Circuit) bool { return hotsOf(k) == 1 || sharesNeutral(k) }

// voltsOf is the voltage of a circuit's load: between the legs with two poles, else
// of one leg to neutral.
func voltsOf(k *install.Circuit) float64 {
	if k.Protection.Poles >= 2 && !sharesNeutral(k) {
		return lineV
	}
	return legV
}

// hotsOf counts the hots of a circuit and neutralOf says whether it takes a
// neutral: every circuit of one pole does.
func hotsOf(k *install.Circuit) int { return min(max(k.Protection.Poles, 1), 2) }

func neutralOf(k *install.Circuit) bool {
	return plugsAtLegV(k) || rulesOf(k.Use).neutral
}

// pairsOf are the pairs of conductors of a circuit, nil for those of the installation: both hots with a neutral.
func pairsOf(k *install.Circuit) []string {
	switch {
	case hotsOf(k) == 1:
		return []string{"hot-N", "hot-G", "N-G"}
	case !neutralOf(k) && !sharesNeutral(k) && k.Use != useDistribution:
		return []string{"L1-L2", "L1-G", "L2-G"}
	}
	return nil
}

// coresOf is how many hots and neutrals run to a circuit.
func coresOf(k *install.Circuit) int {
	n := hotsOf(k)
	if neutralOf(k) {
		n++
	}
	return n
}

// carrying is how many current-carrying conductors a run brings: a neutral that
// carries the unbalance only is not counted (310.15(E)).
func carrying(k *install.Circuit) float64 { return 2 }

// leastRangeA is the least rating in amperes for a range of 8¾ kW or more (210.19(A)(3)).
const leastRangeA = 40.0

// ratingsList are the standard ratings up to that of a dwelling's largest branch or
// feeder.
func ratingsList() []float64 {
	out := []float64{}
	for r := range standardDevice.Text {
		if v := standardDevice.Row(r).RatingA; v <= 200 {
			out = append(out, v)
		}
	}
	return out
}

// circuitLoad is the current in amperes that a circuit is designed for, with the rule
// and its numbers; of it so much is continuous. assumed names what nobody stated.
func circuitLoad(k *install.Circuit) (amps, continuous float64, rule, with, assumed string) {
	u, volts := rulesOf(k.Use), loadV(k)
	switch {
	case u.isString:
		amps = 0.8 * k.Protection.RatingA
		return amps, 0, "80 % of the rating, the most that one cord-connected appliance may draw", text("0.8 × ", k.Protection.RatingA), ""
	case k.Use == useRange && k.Serves.PowerW > 0:
		kw, err := RangeDemand([]float64{k.Serves.PowerW / 1000})
		if err != nil {
			return 0, 0, "", "", ""
		}
		return kw * 1000 / volts, 0, "demand of one range / U", text(kw, " kW / ", volts), ""
	case k.Serves.PowerW > 0:
		amps, rule, with = k.Serves.PowerW/volts, "P / U", text(k.Serves.PowerW, " / ", volts)
	case k.Use == useLighting:
		amps, rule, with = lampVA*float64(k.Serves.Points())/volts, "outlets × 100 VA / U", text(k.Serves.Points(), " × 100 / ", volts)
		assumed = "100 VA for each lighting outlet"
	case k.Point.LimitA > 0 && k.Point.LimitA < k.Point.CurrentA:
		amps, rule, with = k.Point.LimitA, "current limit set in the point", text(k.Point.LimitA)
	default:
		amps, rule, with = k.Point.DesignA(), "nameplate current", text(k.Point.DesignA())
	}
	if sharesNeutral(k) && !u.isString {
		assumed = "its load lies evenly on both lines"
	}
	if u.continuous {
		continuous = amps
	}
	return amps, continuous, rule, with, assumed
}

// loadV is the voltage by which the load of a circuit becomes a current: of lines that share a neutral both together, its load lying
// evenly on them.
func loadV(k *install.Circuit) float64 {
	if sharesNeutral(k) {
		return lineV
	}
	return voltsOf(k)
}

// lampVA is what a lighting outlet counts with while its luminaire is not known.
const lampVA = 100.0

// demandVA is what a circuit adds to the load of the service, VA.
func demandVA(k *install.Circuit) float64 {
	switch {
	case k.Serves.PowerW > 0:
		return k.Serves.PowerW
	case k.Use == useEV:
		return k.Point.DesignA() * lineV
	}
	return k.Point.CurrentA * loadV(k)
}

// ampacityOf is what the conductors of a circuit carry in their worst stretch, by
// size: the stretch is named. multi says that the device may not be the next size up.
func ampacityOf(code Code, k *install.Circuit, size string, nextUp bool) (worst Ampacity, c Conditions, place string, err error) {
	row := cables[k.Route.CableType]
	c = Conditions{Material: materialOf(k), InsulationC: row.column, TerminalC: terminalC(code, k, size), NMB: row.cap60,
		School: string(code)}
	worst.A = math.Inf(1)
	for i := range k.Route.Segments {
		s := &k.Route.Segments[i]
		at := c
		at.AmbientC, at.CCC, at.Roof = s.AmbientC, carrying(k)*float64(max(s.Grouped, 1)),
			methodTable.Row(max(methodTable.Find(func(it *methodRow) bool { return it.Method == s.Method }), 0)).Roof == "1"
		a, err := at.Of(size, nextUp)
		if err != nil {
			return a, at, s.Place, err
		}
		if a.A < worst.A || a.A == worst.A && a.MaxOCPDA < worst.MaxOCPDA {
			worst, c, place = a, at, s.Place
		}
	}
	return worst, c, place, nil
}

// terminalC is the column of the terminals: 60 °C up to 100 A and 1 AWG unless they
// are marked for 75 °C, which all larger ones are (110.14(C)(1)).
func terminalC(code Code, k *install.Circuit, size string) float64 {
	if k.Route.Terminals90 || k.Protection.RatingA > 100 || larger(size, "1") == size && size != "1" {
		return rule(ampacityRules.Table, "TERM-OVER100")
	}
	if code == CEC {
		return rule(ampacityRules.Table, "CA-TERM")
	}
	return rule(ampacityRules.Table, "TERM-100")
}
