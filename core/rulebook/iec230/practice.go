package iec230

import (
	"slices"
	"strings"
	"sync"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/words"
	"arvelt/core/working"
)

// Practice is the 230 V practice; it has no state.
type Practice struct{}

var _ rulebook.Practice = Practice{}

// Notice stands under everything computed here.
const Notice = "Figures are restated from the standards they name: verify against the edition in force. Local code, the network " +
	"operator's rules and the licensed signatory decide."

// feedWays are in or as what the conductors of a supply arrangement run.
var feedWays = []string{"tails", "single cores in trunking", "sheathed cable", "armoured cable"}

// ID is the name of the practice.
func (Practice) ID() string { return "iec230" }

// Calcs lists the calculations that are built.
func (Practice) Calcs() []rulebook.Calc {
	return calcNames.Name(slices.Concat(cableCalcs(), ringCalcs(), faultCalcs(), demandCalcs(), boardCalcs(), surgeCalcs(), fabricCalcs()))
}

var calcNames = rulebook.CalcNamesOf(dataFiles)

// cableType is a row of cable_types.csv.
type cableType struct {
	id, name, capacity, capacity70 string
	armoured                       bool
	methods                        map[string]string // method to column
	order                          []string
	cores                          []string           // colours as made: of three cores the second and third are as the school has them
	core                           map[coreAt]float64 // adiabatic factors of its cores
}

// singles reports whether the cores are drawn one by one, each a cable of its own.
func (k *cableType) singles() bool { return len(k.cores) == 3 && k.cores[2] == coreGreenYellow }

var (
	cableKinds  = map[string]cableType{}
	cableOrder  []string
	knownCables = map[string]map[float64]rulebook.Cable{}
	terms       install.Terms
)

func init() {
	// A label at the board names what was tested: whoever is qualified puts it on.
	terms = install.Terms{
		Apprentice: []install.StepKind{install.MarkingStep, install.DiggingStep, install.DrillingStep, install.RunningStep, install.PicturingStep},
		Earthing:   []string{string(install.TNS), string(install.TNCS), string(install.TT), string(install.IT)},
		Sizes:      map[string][]float64{}, Methods: map[string][]string{}, Asks: map[string][]string{},
		Ferrules: true, EarthTails: true, LampCaps: []string{install.BuiltIn, "B22d", "B15d", "E27", "E14", "GU10", "GU5.3", "G9", "GX53"},
		Feeder: useDistribution, Branch: useSurge, Ring: useRing, Unring: useSockets, BoxDevices: []string{"plain", "light", "switch", "alarm", "fused", "wired", "none"}, Serves: map[string]string{}, Categories: categories(), Laid: rulebook.MethodTraits(methodNames.Table),
		PEN: map[install.BrokenPEN]install.PENTrait{}, Charging: useEV,
		Editions: editions(), OldEditions: true, Families: circuitFamilies, Curves: deviceCurves(),
		Ratings: map[string][]float64{}, RCDTypes: []string{"AC", "A", "F", "B"}, Tests: TestIDs,
		Classes: surveyWords.ClassIDs(), SurveyReadings: surveyWords.ReadingIDs(), Enclosures: enclosures.IDs(), FeedWays: feedWays, BoardKinds: []string{"board", "second-board", "outbuilding"},
		Points: survey.KindIDs(), Switching: survey.Switchings, Findings: survey.FindingIDs()}
	readUses()
	for _, u := range templates {
		if id := byTemplate[u].id; !slices.Contains(terms.Uses, string(id)) {
			terms.Uses = append(terms.Uses, string(id))
			terms.Asks[string(id)], terms.Serves[string(id)] = usesByID[id].asks(), usesByID[id].serves
		}
	}
	terms.Rules = localRules
	terms.Curved, terms.ResidualMA = "mcb_rcbo", rcdAdditionalProtectionIdnMax.V()
	terms.Pairs, terms.Columns, terms.Bars = []string{"L-N", "L-PE", "N-PE"}, 1, []string{"capacity", "voltage-drop", "loop"}
	terms.Asks["sheet:supply"] = []string{"zeOhm", "tailsMM2", "tailsM", "neutralMM2", "electrodeOhm", "earthingBy", "earthLaid"}
	for r := range earthingMin.Text {
		terms.EarthLaid = append(terms.EarthLaid, earthingMin.Row(r).Laid)
	}
	terms.Asks["sheet:chain"] = []string{"deviceA"}
	terms.Asks["sheet:board"] = []string{"groups", "makerRDF", "conditionalKA"}
	terms.Asks["sheet:conductor"] = []string{"aluminium", "manufacturer", "soil", "cpcGuarded"}
	terms.Asks["sheet:device"] = []string{"cascade", "delayed", "energyClass"}
	terms.Asks["sheet:loads"] = []string{"socketInUnit"}
	terms.Asks["sheet:survey"] = []string{"bath", "premises"}
	terms.Locale = words.British
	terms.Options, terms.ButtonMonths = options, buttonMonths.FigureIn
	terms.Asks["sheet:surge"] = []string{"need", "consequence", "scheme", "conductors", "branchA", "neutralEarth"}
	for r := range rcdByLoad.Text {
		terms.LoadKinds = append(terms.LoadKinds, rcdByLoad.Row(r).Load)
	}
	terms.Surfaces, terms.Soils = outdoorRules[usualTables].Surfaces(), outdoorRules[usualTables].SoilNames()
	terms.PartA, terms.PartV = rulebook.PartA, rulebook.PartV
	terms.DeadV, terms.ServesMin, terms.Ways = rulebook.DeadV, rulebook.ServesMin, map[string]install.WayTrait{}
	for r := range isolationWays.Text {
		if rulebook.Lawful(isolationWays.Table, r) {
			terms.IsolationRoutes = append(terms.IsolationRoutes, isolationWays.Row(r).Route)
			terms.Ways[isolationWays.Row(r).Route] = rulebook.WayOf(isolationWays.Table, r)
		}
	}
	for r := range conductors.Text {
		if mm2 := conductors.Str(r, "size_mm2"); !slices.Contains(terms.ConductorSizes, mm2) {
			terms.ConductorSizes = append(terms.ConductorSizes, mm2)
		}
	}
	for r := range cableTypes.Text {
		k := cableType{id: cableTypes.Row(r).Type, name: cableTypes.Row(r).Name,
			capacity: cableTypes.Row(r).Capacity, capacity70: cableTypes.Row(r).Capacity70,
			armoured: cableTypes.Row(r).Armoured == "1", methods: map[string]string{},
			core:  coreFactors(strings.TrimSuffix(cableTypes.Row(r).KUse, " up to 300 mm2")),
			order: strings.Fields(cableTypes.Row(r).Methods), cores: strings.Fields(cableTypes.Row(r).Cores)}
		for i, column := range strings.Fields(cableTypes.Row(r).Columns) {
			k.methods[k.order[i]] = column
		}
		cableKinds[k.id], cableOrder = k, append(cableOrder, k.id)
		terms.CableTypes, terms.Methods[k.id] = append(terms.CableTypes, k.id), k.order
	}
	for r := range cableMakes.Text {
		id, line := cableMakes.Row(r).Type, cableMakes.Row(r).LineMM2
		c := rulebook.Cable{Name: text(line, " mm² ", cableKinds[id].name), LineMM2: line,
			CPCMM2: cableMakes.Row(r).CpcMM2, ODmm: cableMakes.Row(r).OdMM,
			Armoured: cableKinds[id].armoured, Gland: cableMakes.Row(r).Gland, Confidence: cableMakes.Source.Confidence}
		c.R1, _ = ResistancePerM("cu", line)
		c.R2, _ = ResistancePerM("cu", c.CPCMM2)
		c.ClipHorMM, c.ClipVertMM, _ = ClipSpacing(c.Armoured, c.ODmm)
		c.Clip, c.ClipID = text("Clips for ", c.ODmm, " mm cable"), text(c.ODmm)
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
	for r := range penOptions.Text {
		id := penOptions.Row(r).Option
		terms.PENOptions = append(terms.PENOptions, id)
		terms.PEN[install.BrokenPEN(id)] = install.PENTrait{Electrode: penOptions.Row(r).Electrode,
			Device: penOptions.Row(r).Device}
	}
}

// circuitFamilies are the devices that protect a circuit; the others of the
// ratings table stand at the origin or in a plug.
var circuitFamilies = []string{"mcb_rcbo", "bs88_2_gg", "bs88_3", "bs1361", "bs3036"}

var familyNames = map[string]string{"mcb_rcbo": "circuit-breaker", "bs88_2_gg": "fuse, BS 88-2 gG",
	"bs88_3": "fuse, BS 88-3", "bs1361": "fuse, BS 1361", "bs3036": "rewirable fuse, BS 3036"}

func deviceCurves() []string {
	var out []string
	for r := range deviceTrip.Text {
		out = append(out, deviceTrip.Row(r).Curve)
	}
	return out
}

// Words returns what the practice calls the names that it accepts in a job:
// cable types, methods, load categories and options, by name.
func (Practice) Words() map[string]string { return practiceWords() }

var practiceWords = sync.OnceValue(func() map[string]string {
	out := map[string]string{Practice{}.ID(): "230 V, IEC family", "bar:capacity": "Load, margin",
		"bar:voltage-drop": "Voltage drop, margin", "bar:loop": "Zs, margin",
		"box:plain": "socket-outlet", "box:light": "luminaire", "box:switch": "switch", "box:alarm": "alarm", "box:fused": "fused connection unit",
		"box:wired": "appliance, wired in", "box:none": "joint"}
	for id, k := range cableKinds {
		out[id] = k.name
	}
	for r := range methodNames.Text {
		out[methodNames.Row(r).Method] = methodNames.Row(r).Name
	}
	for r := range earthingMin.Text {
		out["laid:"+earthingMin.Row(r).Laid] = earthingMin.Row(r).Name
	}
	for r := range premisesTable.Text {
		out["premises:"+premisesTable.Row(r).Premises] = premisesTable.Row(r).Name
	}
	for _, d := range demandRows {
		out[d.category] = d.name
	}
	for _, id := range terms.Uses {
		out[id] = usesByID[install.Use(id)].name
	}
	for id, name := range familyNames {
		out[id] = name
	}
	for r := range penOptions.Text {
		out[penOptions.Row(r).Option] = penOptions.Row(r).Title
	}
	return out
})

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
	c.Route.Segments, c.Serves.Spurs, c.Serves.Boxes = slices.Clone(c.Route.Segments), []install.Spur{}, []install.Box{}
	return c
}

// Needs lists what must be known of the supply before a design rests on it.
func (Practice) Needs(job *install.Job) []rulebook.Need {
	s := &job.Supply
	out := []rulebook.Need{}
	for _, n := range []struct {
		missing bool
		what    string
	}{
		{s.Earthing == "", "the earthing arrangement"},
		{!s.MainFuseA.Known(), "the main fuse rating"},
		{!s.ZeOhm.Known(), "external loop impedance, measured, asked or assumed"},
		{!s.PFCkA.Known(), "prospective fault current, measured, asked or assumed"},
		{!s.TailsMM2.Known(), "the size of the tails"},
		{len(s.Bonds) == 0 && !s.NoExtraneous, "main bonding as found"},
	} {
		if n.missing {
			out = append(out, rulebook.Need{Sheet: working.SupplySheet, What: n.what})
		}
	}
	return out
}

// InspectionYears is the longest time in years to the next periodic
// inspection; premises not yet known count as let, which is the shorter.
func (Practice) InspectionYears(premises string) float64 {
	row := "rented dwelling"
	if r := premisesTable.Find(func(it *premisesRow) bool { return it.Premises == premises }); r >= 0 {
		row = premisesTable.Row(r).Interval
	}
	return inspections.One(func(it *inspectionsRow) bool { return it.Premises == row }).Years
}

// Terms returns the names that the practice accepts in a job.
func (Practice) Terms() install.Terms { return terms }

// Cable returns a cable by type and line size.
func (Practice) Cable(id string, line float64) (rulebook.Cable, bool) {
	c, ok := knownCables[id][line]
	return c, ok
}

// Judge computes every check of the job, without what would mend them.
func (Practice) Judge(job *install.Job) rulebook.Report {
	_, r := compute(job)
	return r
}

// compute is the report without remedies.
func compute(job *install.Job) (*system, rulebook.Report) {
	s, r := begin(job)
	for i := range job.Circuits {
		r.Circuits = append(r.Circuits, s.report(&job.Circuits[i]))
	}
	s.done = &r
	r.Job = append(r.Job, rulebook.Judge(s.House, houseRules, s, nil)...)
	r.Verdict = r.Worst()
	return s, r
}

// begin computes what belongs to the whole job and needs no circuit judged before.
func begin(job *install.Job) (*system, rulebook.Report) {
	s := newSystem(job)
	r := rulebook.Report{Notice: Notice, Legs: []rulebook.Legs{}, Job: rulebook.Judge(s.House, jobRules, s, nil),
		Circuits: make([]rulebook.CircuitReport, 0, len(job.Circuits))}
	r.Demand = s.demand
	return s, r
}
