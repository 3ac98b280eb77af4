package split120

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	walk "arvelt/core/survey"
	"arvelt/core/words"
	"arvelt/core/working"
)

// id is the practice of the United States, as jobs name it.
const id = "split120"

// Practice is the split-phase practice of the United States; it has no state. That of Canada
// is [Canada].
type Practice struct{}

var _ rulebook.Practice = Practice{}

// Notice stands under everything computed here.
const Notice = "Figures are restated from the standards they name: verify against the edition that the local authority has " +
	"adopted. Local code, the utility's rules and the licensed signatory decide."

var terms = func() install.Terms {
	t := install.Terms{Locale: words.American, Fahrenheit: true,
		// A directory and labels say what stands there; who may say that it is right looks at the board anyway.
		Apprentice: []install.StepKind{install.MarkingStep, install.DiggingStep, install.DrillingStep, install.RunningStep,
			install.PicturingStep, install.LabellingStep},
		Earthing: []string{"grounded-neutral"}, Sizes: map[string][]float64{},
		Laid: rulebook.MethodTraits(methodTable.Table), Charging: useEV, Methods: map[string][]string{}, SizeNames: map[float64]string{},
		Categories: []string{"general", "small-appliance", "laundry", "range", "dryer", "appliance", "tankless", "heating",
			"heat-pump", "strips", "cooling", "evse"}, Families: []string{"breaker"}, Curves: []string{""},
		Ratings: map[string][]float64{"breaker": ratingsList()}, RCDTypes: []string{groundFault}, ResidualMA: classAMA,
		Options:      options,
		ButtonMonths: func(*install.Schools) float64 { return rule(protectionNotes, "G-TEST") }, PENOptions: []string{},
		Tests: TestIDs, Rules: localRules, Serves: map[string]string{},
		Pairs: []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"}, PairsOneHot: []string{"hot-N", "hot-G", "N-G"}, PairsOf: pairsOf,
		ListsBoxes: true, PlatesApart: true, LampCaps: []string{install.BuiltIn, "E26", "E12", "GU10", "GU24", "GU5.3", "G9"}, SharesNeutral: true,
		Feeder: useDistribution, Branch: useSurge,
		BoxDevices: []string{"plain", "gfci", "two-slot", "light", "switch", "alarm", "wired", "none"},
		Length:     install.Length{Name: "ft", M: footM}, Columns: 2, Editions: []string{"2023", "2020", "2017"},
		Bars:   []string{"conductor-load", "voltage-drop", "breaking"},
		Points: walk.KindIDs(), Switching: walk.Switchings, Findings: walk.FindingIDs(), Classes: surveyWords.ClassIDs(),
		SurveyReadings: surveyWords.ReadingIDs(), Enclosures: enclosures.IDs(), FeedWays: []string{metalConduit, plasticDuct, "sheathed cable",
			"armoured cable", "overhead"}, BoardKinds: []string{"panel", "subpanel", "building"},
		Asks: map[string][]string{"sheet:supply": {"intersystem", "earthSize", "earthTo", "bondKind", "bondsAround"},
			"sheet:chain": {"outside", "deviceA"}, "sheet:board": {"loads", "space", "place", "halves"},
			"sheet:loads": {"areaM2", "peak", "basementM2", "motors"}, "sheet:conductor": {"aluminium"},
			"sheet:device":  {"cascade", "shared"},
			"sheet:outdoor": {"rodListed"}, "sheet:standby": {"legs"}, "sheet:surge": {"letThrough", "inKA", "rod"},
			"sheet:survey": {"walls"}}}
	t.Surfaces, t.Soils = outdoorRules.Surfaces(), outdoorRules.SoilNames()
	t.BoardPlaces = boardPlaces()
	for r := range risers.Text {
		t.Risers = append(t.Risers, risers.Row(r).Grade)
	}
	for _, c := range outdoorRules.Covers {
		t.CoverPlaces = append(t.CoverPlaces, c.Place)
	}
	t.PartA, t.PartV = rulebook.PartA, rulebook.PartV
	t.DeadV, t.ServesMin, t.Ways = rulebook.DeadV, rulebook.ServesMin, map[string]install.WayTrait{}
	for r := range isolationWays.Text {
		if rulebook.Lawful(isolationWays.Table, r) {
			t.IsolationRoutes = append(t.IsolationRoutes, isolationWays.Row(r).Route)
			t.Ways[isolationWays.Row(r).Route] = rulebook.WayOf(isolationWays.Table, r)
			t.Ways[isolationWays.Row(r).Route] = rulebook.WayOf(isolationWays.Table, r)
		}
	}
	for r := range conductors.Text {
		t.ConductorSizes = append(t.ConductorSizes, conductors.Row(r).Size)
	}
	for r := range testerPatterns.Text {
		if id := testerPatterns.Row(r).Condition; !slices.Contains(lookAlikes, id) {
			t.Patterns = append(t.Patterns, id)
		}
	}
	t.Patterns = append(t.Patterns, open, closed)
	for id := range placeNames {
		t.Places = append(t.Places, id)
	}
	slices.Sort(t.Places)
	return t
}()

// lookAlikes are conditions that a tester shows as another one: nobody can answer
// with them.
var lookAlikes = []string{"neutral_ground_reversed", "bootleg_ground"}

func init() {
	readCables()
	readUses()
	readBonds()
}

// placeNames are the kinds of place that decide the protection of an outlet.
var placeNames = func() map[string]string {
	out := map[string]string{}
	own := map[string]string{"ev_240": "a charging outlet of 240 V", "range_240": "a range outlet of 240 V",
		"dryer_240": "a dryer outlet of 240 V", "crawl": "crawl space", "indoor_damp": "damp place indoors",
		"outdoor_hvac": "outdoor unit of heating or cooling", "accessory_at_grade": "accessory building at grade",
		"kitchen_counter": "kitchen counter", "kitchen_other": "kitchen, away from the counter",
		"basement_unfinished": "unfinished basement", "basement_finished": "finished basement", "sump": "sump pump",
		"hvac_service_rec": "service outlet of heating or cooling", "food_sink_area": "place with a sink where food is prepared"}
	name := func(id string) {
		if out[id] = own[id]; out[id] == "" {
			out[id] = strings.ReplaceAll(id, "_", " ")
		}
	}
	for r := range roomsMatrix.Text {
		name(roomsMatrix.Row(r).Room)
	}
	for r := range gfciPlaces.Text {
		switch id := gfciPlaces.Row(r).ID; id {
		case sinkColumn, tubColumn: // distances
		default:
			name(id)
		}
	}
	return out
}()

var categoryNames = map[string]string{"general": "Lighting, receptacles, small appliances, laundry",
	"small-appliance": "Small-appliance circuits", "laundry": "Laundry circuit", "range": "Ranges and ovens",
	"dryer": "Dryer", "appliance": "Fixed appliances", "tankless": "Tankless heaters, spas, pools",
	"heating": "Heating or cooling, the larger", "heat-pump": "Heat pump", "strips": "Strips of a heat pump",
	"cooling": "Cooling", "evse": "Charging"}

// ID is the name of the practice.
func (Practice) ID() string { return id }

// Terms returns the names that the practice accepts in a job.
func (Practice) Terms() install.Terms { return terms }

// Words returns what the practice calls the names of its terms.
func (Practice) Words() map[string]string { return practiceWords() }

var practiceWords = sync.OnceValue(func() map[string]string {
	out := map[string]string{id: "120/240 V split phase, United States",
		"grounded-neutral": "grounded neutral", "breaker": "circuit breaker", groundFault: "ground-fault, class A",
		"residual:" + groundFault: "ground-fault, class A", open: "open", closed: "closed",
		"box:plain": "outlet", "box:gfci": "ground-fault outlet", "box:two-slot": "two-slot outlet", "box:light": "light", "box:switch": "switch",
		"box:alarm": "alarm", "box:wired": "appliance, wired in", "box:none": "joint only",
		"bar:conductor-load": "Load, margin", "bar:voltage-drop": "Voltage drop, margin", "bar:breaking": "Fault current, margin"}
	for id, name := range categoryNames {
		out[id] = name
	}
	for id, k := range cables {
		out[id] = k.name
	}
	for r := range methodTable.Text {
		out[string(methodTable.Row(r).Method)] = methodTable.Row(r).Name
	}
	for _, u := range usesByID {
		out[string(u.id)] = u.name
	}
	for id, k := range bondKinds {
		out["bond:"+id] = k.name
	}
	for r := range boardTable.Text {
		out["board:"+boardTable.Row(r).Place] = boardTable.Row(r).Name
	}
	for id, name := range placeNames {
		if out["place:"+id] = name; out[id] == "" {
			out[id] = name
		}
	}
	for r := range testerPatterns.Text {
		out[testerPatterns.Row(r).Condition] = strings.ReplaceAll(testerPatterns.Row(r).Condition, "_", " ")
	}
	return out
})

// Opening starts a job under the model edition that is most widely adopted; the
// local authority may be at another.
func (Practice) Opening() rulebook.Opening {
	return rulebook.Opening{Edition: "2023", DeclaredV: splitV, Earthing: "grounded-neutral", Notice: Notice,
		Why: "Two hots of 120 V to neutral and 240 V between them; sizes in AWG and kcmil; the service up to the utility's " +
			"splice is built by the contractor."}
}

// Survey returns what the practice says of a walk.
func (Practice) Survey() *rulebook.Survey { return surveyWords }

// InspectionYears is not prescribed for dwellings in this practice; ten years
// is a usual advice.
func (Practice) InspectionYears(string) float64 { return 10 }

// Calcs lists the calculations that are built.
func (Practice) Calcs() []rulebook.Calc {
	return calcNames.Name(slices.Concat(conductorCalcs(), loadCalcs(), protectCalcs(), serviceCalcs(), []rulebook.Calc{
		rulebook.Define("neutral-bond", "Where neutral and ground are joined along the chain from meter to last panel", calcNeutralBond),
		rulebook.Define("separate-building", "The supply of a separate building: conductors, joint and electrode", calcSeparateBuilding),
	}))
}

var calcNames = rulebook.CalcNamesOf(dataFiles)

// Isolation lists the ways to make the work dead.
func (Practice) Isolation(job *install.Job, charge func(string) (float64, bool), today time.Time) []rulebook.IsolationRoute {
	return rulebook.Routes(isolationWays.Table, job, charge, today)
}

// SupplyNumber reads the utility's account or premises number. There is no
// common length or check digit: only its likeness to a meter number is told.
func (Practice) SupplyNumber(text, serial string) rulebook.Number {
	out := rulebook.Number{Verdict: working.Unknown, Steps: []working.Step{}, Source: "no common rule: each utility has its own form"}
	digits := 0
	for _, r := range text {
		if r >= '0' && r <= '9' {
			digits++
		}
	}
	plain := func(s string) string { return strings.ToUpper(strings.Join(strings.Fields(s), "")) }
	switch {
	case plain(text) == "":
		out.Summary = "Not recorded. It stands on the bill as account or premises number; the number on the meter is another."
	case plain(text) == plain(serial):
		out.Verdict, out.Summary = working.Fail, "This is the number on the meter. It changes with the meter; the account number stays."
	case digits < 6 || digits > 22:
		out.Verdict, out.Summary = working.Fail, fmt.Sprintf("%d digits; account numbers of utilities have 6 to 22.", digits)
	default:
		out.Number = strings.TrimSpace(text)
		out.Verdict, out.Summary = working.Caution,
			"It has the form of an account number. Utilities have no common check digit: compare it with the bill."
	}
	return out
}
