package split120

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	walk "arvelt/core/survey"
	"arvelt/core/working"
)

// Practice is the split-phase practice; it has no state.
type Practice struct{}

var _ rulebook.Practice = Practice{}

// Notice stands under everything computed here.
const Notice = "Figures are restated from the standards they name: verify against the edition that the local authority has adopted. Local code, the utility's rules and the licensed signatory decide."

// notBuilt is what a check lacks until the rulebook is whole.
const notBuilt = "the load calculation of this practice, which Arvelt does not have yet"

var terms = func() install.Terms {
	t := install.Terms{Earthing: []string{"grounded-neutral"}, CableTypes: []string{}, Sizes: map[string][]float64{}, Methods: map[string][]string{},
		Categories: []string{"general", "small-appliance", "laundry", "range", "dryer", "appliance", "heating", "cooling", "evse"}, Families: []string{}, Curves: []string{}, Ratings: map[string][]float64{}, RCDTypes: []string{}, PENOptions: []string{}, Premises: []string{},
		Points: walk.KindIDs(), Switching: walk.Switchings, Findings: walk.FindingIDs(), Classes: surveyWords.ClassIDs(), SurveyReadings: surveyWords.ReadingIDs(), Enclosures: enclosures.IDs()}
	t.Surfaces, t.Soils = outdoorRules.Surfaces(), outdoorRules.SoilNames()
	for r := range isolationWays.Text {
		t.IsolationRoutes = append(t.IsolationRoutes, isolationWays.Str(r, "route"))
	}
	for r := range conductors.Text {
		t.ConductorSizes = append(t.ConductorSizes, conductors.Str(r, "size"))
	}
	return t
}()

// ID is the name of the practice.
func (Practice) ID() string { return "split120" }

// Terms returns the names that the practice accepts in a job.
func (Practice) Terms() install.Terms { return terms }

// Words returns what the practice calls the names of its terms.
func (Practice) Words() map[string]string {
	return map[string]string{"split120": "120/240 V split phase, North American family", "grounded-neutral": "grounded neutral", "general": "General lighting and receptacles", "small-appliance": "Small-appliance circuits", "laundry": "Laundry circuit", "range": "Range", "dryer": "Dryer", "appliance": "Fixed appliance", "heating": "Heating", "cooling": "Cooling", "evse": "EV supply equipment"}
}

// Opening starts a job under the model edition that is most widely adopted; the
// local authority may be at another.
func (Practice) Opening() rulebook.Opening {
	return rulebook.Opening{Edition: "2023", DeclaredV: splitV, Notice: Notice,
		Why: "Two hots of 120 V to neutral and 240 V between them; sizes in AWG and kcmil; the service up to the utility's splice is built by the contractor."}
}

// Survey returns what the practice says of a walk.
func (Practice) Survey() *rulebook.Survey { return surveyWords }

// Templates is empty: circuits of this practice cannot be designed yet.
func (Practice) Templates() []string { return nil }

// Fresh is an empty circuit: circuits of this practice are not designed yet.
func (Practice) Fresh(string) install.Circuit { return install.Circuit{Name: "New circuit"} }

// InspectionYears is not prescribed for dwellings in this practice; ten years
// is a usual advice.
func (Practice) InspectionYears(string) float64 { return 10 }

// Calcs lists the calculations that are built.
func (Practice) Calcs() []rulebook.Calc {
	return slices.Concat(conductorCalcs(), loadCalcs(), protectCalcs(), serviceCalcs(), []rulebook.Calc{
		rulebook.Define("neutral-bond", "Where neutral and ground are joined along the chain from meter to last panel", []string{"main_bond_at", "nodes", "findings", "ground_path_current_a", "neutral_remaining_a"}, calcNeutralBond),
		rulebook.Define("separate-building", "The supply of a separate building: conductors, joint and electrode", []string{"accept", "neutral_bonded_at_building", "electrode_required"}, calcSeparateBuilding),
	})
}

// Cable finds nothing: cables of this practice are not built yet.
func (Practice) Cable(string, float64) (rulebook.Cable, bool) { return rulebook.Cable{}, false }

// Tests lists none yet.
func (Practice) Tests(*install.Job, *rulebook.Report) []rulebook.Test { return nil }

// Report says of everything that waits for the rulebook what is missing.
func (p Practice) Report(job *install.Job, _ func(*install.Job) (float64, bool)) rulebook.Report {
	return p.Judge(job)
}

// Judge is Report: there is nothing to mend yet.
func (Practice) Judge(job *install.Job) rulebook.Report {
	c := working.New("demand", "", "Service load against the service rating", "A")
	c.Lacks(notBuilt)
	c.Says = "Not yet known: " + notBuilt + "."
	r := rulebook.Report{Demand: rulebook.Demand{Shares: []rulebook.Share{}, FuseA: job.Supply.MainFuseA.V()}, Notice: Notice, Job: []working.Check{*c}, Circuits: []rulebook.CircuitReport{}, Verdict: working.Unknown}
	return r
}

// Isolation lists the ways to make the work dead.
func (Practice) Isolation(job *install.Job, charge func(string) (float64, bool), today time.Time) []rulebook.IsolationRoute {
	return rulebook.Routes(isolationWays, job, charge, today)
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
		out.Says = "Not yet known. It stands on the bill as account or premises number; the number on the meter is another."
	case plain(text) == plain(serial):
		out.Verdict, out.Says = working.Fail, "This is the number on the meter. It changes with the meter; the account number stays."
	case digits < 6 || digits > 22:
		out.Verdict, out.Says = working.Fail, fmt.Sprintf("%d digits; account numbers of utilities have 6 to 22.", digits)
	default:
		out.Number = strings.TrimSpace(text)
		out.Verdict, out.Says = working.Caution, "It has the form of an account number. Utilities have no common check digit: compare it with the bill."
	}
	return out
}
