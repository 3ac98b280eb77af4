package whole

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// tiny is a third practice, the smallest that docs/third-practice.md speaks of:
// one kind of circuit, one calculation, one check.
type tiny struct{}

func (tiny) ID() string { return "tiny" }

func (tiny) Terms() install.Terms {
	return install.Terms{Editions: []string{"1"}, Earthing: []string{"TT"}, CableTypes: []string{"rope"}, Sizes: map[string][]float64{"rope": {2, 4}}, Methods: map[string][]string{"rope": {"hung"}},
		Families: []string{"switch"}, Curves: []string{"-"}, Ratings: map[string][]float64{"switch": {10}}, Uses: []string{"light"}, Asks: map[string][]string{"light": {"outlets"}}}
}

func (tiny) Words() map[string]string                             { return map[string]string{"tiny": "Tiny practice"} }
func (tiny) Needs(*install.Job) []rulebook.Need                   { return nil }
func (tiny) Work(*install.Job, *rulebook.Report) []rulebook.Work  { return nil }
func (tiny) Parts(*install.Job, *install.Circuit) []rulebook.Part { return nil }
func (tiny) Templates() []string                                  { return []string{"light"} }
func (tiny) InspectionYears(string) float64                       { return 5 }
func (tiny) Opening() rulebook.Opening                            { return rulebook.Opening{Edition: "1", DeclaredV: 24} }
func (tiny) Survey() *rulebook.Survey                             { return &rulebook.Survey{} }
func (tiny) Outdoor(*install.Job) *rulebook.OutdoorRules          { return &rulebook.OutdoorRules{} }
func (tiny) Electrodes(*install.Job) rulebook.ElectrodeReport     { return rulebook.ElectrodeReport{} }
func (tiny) Chain(*install.Job) rulebook.ChainReport              { return rulebook.ChainReport{} }
func (tiny) SupplyNumber(string, string) rulebook.Number          { return rulebook.Number{} }
func (tiny) Cable(string, float64) (rulebook.Cable, bool)         { return rulebook.Cable{}, false }
func (tiny) Tests(*install.Job, *rulebook.Report) []rulebook.Test { return nil }
func (tiny) Try(*install.Job) rulebook.Trial                      { return nil }
func (p tiny) Report(j *install.Job, _ rulebook.Price) rulebook.Report {
	return p.Judge(j)
}
func (tiny) Isolation(*install.Job, func(string) (float64, bool), time.Time) []rulebook.IsolationRoute {
	return nil
}

func (tiny) Fresh(template string) install.Circuit {
	return install.Circuit{Use: install.Use(template), Name: "Light", Route: install.Route{CableType: "rope", LineMM2: 2, Segments: []install.Segment{{Place: "beam", LengthM: 3, Basis: install.Assumed, Method: "hung", AmbientC: 30, Grouped: 1}}},
		Protection: install.Protection{Family: "switch", Curve: "-", RatingA: 10, IcnKA: 6, Poles: 1}}
}

type doubleIn struct {
	Lamps float64 `json:"lamps"`
}

func (tiny) Calcs() []rulebook.Calc {
	return []rulebook.Calc{rulebook.Define("load", "half an ampere a lamp", []string{"amps"}, func(in doubleIn) (map[string]any, []working.Step, error) {
		w := &rulebook.Worked{}
		return map[string]any{"amps": w.Add("I", "lamps / 2", "", in.Lamps/2, "A", "rule 1")}, w.Steps, rulebook.ZeroOrMore("lamps", in.Lamps, "")
	})}
}

// loadRule is its only one.
var loadRule = working.Rule{ID: "load", Title: "Load on the switch", Unit: "A", Scope: working.OfCircuit, Sheet: working.CircuitsSheet, Who: working.Designer, Holds: rulebook.HoldsDesign}

func (tiny) Rules() []*working.Rule { return []*working.Rule{&loadRule} }

func (tiny) Judge(j *install.Job) rulebook.Report {
	r := rulebook.Report{Job: []working.Check{}, Circuits: []rulebook.CircuitReport{}, Verdict: working.Pass}
	for i := range j.Circuits {
		k := &j.Circuits[i]
		c := loadRule.Check(k.ID, "")
		c.From(working.Source{Ref: "rule 1", Confidence: "high"})
		c.Max(c.Step("I", "outlets / 2", "", float64(k.Serves.Outlets)/2, "A", "rule 1"), k.Protection.RatingA)
		r.Circuits = append(r.Circuits, rulebook.CircuitReport{ID: k.ID, Name: k.Name, Checks: []working.Check{*c}, Verdict: c.Verdict, Options: []rulebook.Option{}})
		r.Verdict = working.Worst(r.Verdict, c.Verdict)
	}
	return r
}

// A practice that is registered is accepted, judged and shown like the others; the
// steps are those of docs/third-practice.md.
func TestAThirdPracticeIsCodeAndDataBehindOneInterface(t *testing.T) {
	Practices["tiny"] = tiny{}
	t.Cleanup(func() { delete(Practices, "tiny") })
	job := install.Job{Format: install.Format, Ref: "T-1", Title: "Lamp", Kind: install.Rewire, Practice: "tiny", Edition: "1", Site: install.Site{Customer: "Osk", Address: "1 Beam Lane"}, Supply: install.Supply{DeclaredV: 240},
		Board: install.Board{Name: "A"}, Schools: install.DefaultSchools()}
	light := Practice(&job).Fresh("light")
	light.ID, light.Serves.Outlets = "c1", 24
	job.Circuits = []install.Circuit{light}
	job.Tidy()
	require.NoError(t, Accept(&job))

	v := Of(&job, nil, install.Person{Name: "somebody"}, time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC))
	require.Len(t, v.Report.Circuits, 1)
	assert.Equal(t, working.Fail, v.Report.Circuits[0].Checks[0].Verdict, "24 lamps draw 12 A")
	_, err := json.Marshal(v)
	require.NoError(t, err)

	out, steps, err := Practice(&job).Calcs()[0].Run([]byte(`{"lamps":5}`))
	require.NoError(t, err)
	assert.InDelta(t, 2.5, out["amps"], 0)
	assert.Equal(t, "rule 1", steps[0].Source)

	job.Circuits[0].Use = "ring" // a word of another practice
	assert.Error(t, Accept(&job))
	job.Practice = "unheard"
	assert.Error(t, Accept(&job))
}
