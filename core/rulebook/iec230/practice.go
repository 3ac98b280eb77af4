package iec230

import (
	"slices"
	"strings"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Practice is the 230 V practice; it has no state.
type Practice struct{}

var _ rulebook.Practice = Practice{}

// Notice stands under everything computed here.
const Notice = "Figures are restated from the standards they name: verify against the edition in force. Local code, the network operator's rules and the licensed signatory decide."

// ID is the name of the practice.
func (Practice) ID() string { return "iec230" }

// Calcs lists the calculations that are built.
func (Practice) Calcs() []rulebook.Calc {
	return slices.Concat(cableCalcs(), faultCalcs(), demandCalcs())
}

// cableType is a row of cable_types.csv.
type cableType struct {
	id, name, capacity, capacity70 string
	armoured                       bool
	methods                        map[string]string // method to column
	order                          []string
}

var (
	cableKinds  = map[string]cableType{}
	cableOrder  []string
	knownCables = map[string]map[float64]rulebook.Cable{}
	terms       install.Terms
)

func init() {
	terms = install.Terms{Earthing: []string{"TN-S", "TN-C-S", "TT"}, Sizes: map[string][]float64{}, Methods: map[string][]string{}, Categories: categories(),
		Families: []string{"mcb_rcbo"}, Curves: deviceCurves(), Ratings: map[string][]float64{}, RCDTypes: []string{"AC", "A", "F", "B"}, Tests: TestIDs}
	for r := range cableTypes.text {
		k := cableType{id: cableTypes.str(r, "type"), name: cableTypes.str(r, "name"), capacity: cableTypes.str(r, "capacity"), capacity70: cableTypes.str(r, "capacity_70"),
			armoured: cableTypes.str(r, "armoured") == "1", methods: map[string]string{}, order: strings.Fields(cableTypes.str(r, "methods"))}
		for i, column := range strings.Fields(cableTypes.str(r, "columns")) {
			k.methods[k.order[i]] = column
		}
		cableKinds[k.id], cableOrder = k, append(cableOrder, k.id)
		terms.CableTypes, terms.Methods[k.id] = append(terms.CableTypes, k.id), k.order
	}
	for r := range cableMakes.text {
		id, line := cableMakes.str(r, "type"), cableMakes.num(r, "line_mm2")
		c := rulebook.Cable{Name: f(line) + " mm² " + cableKinds[id].name, LineMM2: line, CPCMM2: cableMakes.num(r, "cpc_mm2"), ODmm: cableMakes.num(r, "od_mm"),
			Armoured: cableKinds[id].armoured, Gland: cableMakes.str(r, "gland"), Confidence: cableMakes.source.Confidence}
		c.R1, _ = ResistancePerM("cu", line)
		c.R2, _ = ResistancePerM("cu", c.CPCMM2)
		c.ClipHorMM, c.ClipVertMM, _ = ClipSpacing(c.Armoured, c.ODmm)
		c.BendMM = BendFactor(c.Armoured, c.ODmm) * c.ODmm
		if knownCables[id] == nil {
			knownCables[id] = map[float64]rulebook.Cable{}
		}
		knownCables[id][line] = c
		terms.Sizes[id] = append(terms.Sizes[id], line)
	}
	for _, family := range families() {
		terms.Ratings[family] = Ratings(family)
	}
	for r := range penOptions.text {
		terms.PENOptions = append(terms.PENOptions, penOptions.str(r, "option"))
	}
}

func deviceCurves() []string {
	var out []string
	for r := range deviceTrip.text {
		out = append(out, deviceTrip.str(r, "curve"))
	}
	return out
}

// Words returns what the practice calls the names that it accepts in a job:
// cable types, methods, load categories and options, by name.
func (Practice) Words() map[string]string {
	out := map[string]string{Practice{}.ID(): "230 V, IEC family"}
	for id, k := range cableKinds {
		out[id] = k.name
	}
	for r := range methodNames.text {
		out[methodNames.str(r, "method")] = methodNames.str(r, "name")
	}
	for _, d := range demandRows {
		out[d.category] = d.name
	}
	for r := range penOptions.text {
		out[penOptions.str(r, "option")] = penOptions.str(r, "title")
	}
	return out
}

// Fresh is a charge point on armoured cable, or a fixed load on flat cable: the
// usual start, to be walked and measured.
func (Practice) Fresh(use string) install.Circuit {
	c := install.Circuit{Name: "New circuit", Use: "fixed", Point: install.Point{CurrentA: 16, HeightMM: 1000},
		Route:      install.Route{CableType: "flat-te-70", LineMM2: 2.5, SlackM: 1, BoardTailM: 1, PointTailM: 0.5, Segments: []install.Segment{{Place: "from the board", LengthM: 5, Basis: install.Assumed, Method: "C", AmbientC: 30, Grouped: 1}}},
		Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 16, IcnKA: 6, RCDType: "A", IdnMA: evRules.fixed("rcd_idn"), Poles: 1},
		PEN:        install.PEN{Rods: 1}}
	if use == "ev" {
		c.Name, c.Use = "Charge point", "ev"
		c.Point.CurrentA, c.Point.Outdoor, c.Point.ServesOut = 32, true, true
		c.Route.CableType, c.Route.LineMM2 = "swa3-90", 6
		c.Protection.RatingA, c.Protection.Poles = 32, 2
	}
	return c
}

// InspectionYears is the longest time in years to the next periodic
// inspection; premises not yet known count as let, which is the shorter.
func (Practice) InspectionYears(premises string) float64 {
	row := "rented dwelling"
	if premises == "owner-occupied" {
		row = "owner-occupied dwelling"
	}
	return inspections.num(inspections.where("premises", row), "years")
}

// Terms returns the names that the practice accepts in a job.
func (Practice) Terms() install.Terms { return terms }

// Cable returns a cable by type and line size.
func (Practice) Cable(id string, line float64) (rulebook.Cable, bool) {
	c, ok := knownCables[id][line]
	return c, ok
}

// Report computes every check of the job.
func (p Practice) Report(job *install.Job, price func(*install.Job) (float64, bool)) rulebook.Report {
	r := p.compute(job)
	for i := range r.Job {
		if r.Job[i].Verdict == working.Fail {
			r.Job[i].Remedies = p.remedies(job, &r, &r.Job[i], price)
		}
	}
	for k := range r.Circuits {
		for i := range r.Circuits[k].Checks {
			if c := &r.Circuits[k].Checks[i]; c.Verdict == working.Fail {
				c.Remedies = p.remedies(job, &r, c, price)
			}
		}
	}
	return r
}

// compute is the report without remedies.
func (p Practice) compute(job *install.Job) rulebook.Report {
	demand, demandCheck := demandOf(job)
	r := rulebook.Report{Demand: demand, Notice: Notice, Circuits: make([]rulebook.CircuitReport, 0, len(job.Circuits))}
	r.Job = append(append(make([]working.Check, 0, 8), demandCheck), supplyChecks(job)...)
	worst := working.Pass
	for i := range r.Job {
		worst = working.Worst(worst, r.Job[i].Verdict)
	}
	for i := range job.Circuits {
		c := circuitReport(job, &job.Circuits[i], demand)
		worst = working.Worst(worst, c.Verdict)
		r.Circuits = append(r.Circuits, c)
	}
	r.Verdict = worst
	return r
}
