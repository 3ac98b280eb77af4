package whole

import (
	"encoding/json"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/table"
	"arvelt/core/working"
)

// watt is a third practice, invented and in a language of its own, that shows what one has
// to bring: six methods, and of the abilities the two that it has. Its uses, its methods of
// laying, its table and its rules are named its own way.
type watt struct{}

const (
	wattLampe   install.Use    = "lampe"
	wattLaden   install.Use    = "laden"
	wattErde    install.Method = "erdreich"
	wattSchiene install.Method = "schiene"
)

// wattReserve is what its practitioners differ in: whether a line keeps a part in reserve.
var wattReserve = install.Option{ID: "reserve", Title: "Reserve der Leitung", Help: "Anteil, der frei bleibt",
	Choices: []install.OptionChoice{{ID: "keine", Name: "keine", Why: "Tafel 2 enthält sie schon"},
		{ID: "viertel", Name: "ein Viertel", Why: "für spätere Punkte"}}, Default: install.Chose("keine")}

// leitung is a row of wattTabelle: what a line carries, by its section in mm².
type leitung struct {
	Querschnitt float64 `col:"querschnitt"`
	Ampere      float64 `col:"ampere"`
}

var wattTabelle = table.LoadOf[leitung](fstest.MapFS{"data/leitung.csv": {Data: []byte("# source: Wattbuch, Tafel 2\n# note: " +
	"confidence=medium; angenommen\nquerschnitt,ampere\n2,10\n4,16\n")}}, "leitung")

var (
	wattLast = working.Rule{ID: "last", Title: "Last der Leitung", Unit: "A", Scope: working.OfCircuit,
		Sheet: working.CircuitsSheet, Who: working.Designer, Holds: rulebook.HoldsDesign}
	wattHinweis = working.Rule{ID: "hinweis", Title: "Hinweis am Zähler", Scope: working.OfJob, Sheet: working.SupplySheet,
		Leaf: working.FoundLeaf, Who: working.Office, Holds: rulebook.HoldsSign}
)

func (watt) ID() string                { return "watt" }
func (watt) Opening() rulebook.Opening { return rulebook.Opening{Edition: "Ausgabe 3", DeclaredV: 240} }
func (watt) Rules() []*working.Rule    { return []*working.Rule{&wattLast, &wattHinweis} }
func (watt) Words() map[string]string {
	return map[string]string{"watt": "Wattbuch", "lampe": "Lampe", "laden": "Ladepunkt", "kabel": "Kabel", "erdreich": "im Erdreich"}
}

func (watt) Terms() install.Terms {
	return install.Terms{Editions: []string{"Ausgabe 3", "Ausgabe 2"}, Earthing: []string{"geerdet"},
		CableTypes: []string{"kabel"}, Sizes: map[string][]float64{"kabel": {2, 4}},
		Methods:  map[string][]string{"kabel": {"erdreich", "schiene"}},
		Families: []string{"schalter"}, Curves: []string{"-"}, Ratings: map[string][]float64{"schalter": {10, 16}},
		Uses: []string{"lampe", "laden"}, Asks: map[string][]string{"lampe": {"outlets"}},
		Options: []install.Option{wattReserve},
		Laid:    map[install.Method]install.MethodTrait{wattErde: {Ground: true}, wattSchiene: {Fixed: true}}, Charging: wattLaden}
}

func (watt) Judge(j *install.Job) rulebook.Report {
	note := wattHinweis.Check("", "")
	note.AddMissing("ob am Zähler ein Hinweis hängt")
	note.Close()
	r := rulebook.Report{Job: []working.Check{*note}, Circuits: []rulebook.CircuitReport{}}
	for i := range j.Circuits {
		k := &j.Circuits[i]
		c := wattLast.Check(k.ID, "")
		c.From(wattTabelle.Source)
		drawn := k.Point.CurrentA + float64(k.Serves.Outlets)/2
		row := wattTabelle.Find(func(l *leitung) bool { return l.Querschnitt == k.Route.LineMM2 })
		carries := wattTabelle.Row(row).Ampere
		if wattReserve.In(&j.Schools) == "viertel" {
			carries *= 0.75
		}
		c.Max(c.Step("I", "Punkte / 2", "", drawn, "A", "Regel 1"), carries)
		c.Summary = "Die Leitung trägt es nicht."
		c.Close()
		r.Circuits = append(r.Circuits, rulebook.CircuitReport{ID: k.ID, Name: k.Name, Checks: []working.Check{*c},
			Verdict: c.Verdict, Options: []rulebook.Option{}, Boxes: []rulebook.BoxReport{}})
	}
	r.Verdict = r.Worst()
	return r
}

// Its circuits can be designed (rulebook.Designs) and bought (rulebook.Buys).
func (watt) Templates() []string { return []string{"lampe", "laden"} }

func (watt) Defaults(template string) install.Circuit {
	return install.Circuit{Use: install.Use(template), Name: map[string]string{"lampe": "Lampe", "laden": "Ladepunkt"}[template],
		Route: install.Route{CableType: "kabel", LineMM2: 2,
			Segments: []install.Segment{{Place: "Balken", LengthM: 3, Basis: install.Assumed, Method: wattSchiene,
				AmbientC: 30, Grouped: 1},
				{Place: "Hof", LengthM: 7, Basis: install.Measured, Method: wattErde, AmbientC: 20, Grouped: 1}}},
		Protection: install.Protection{Family: "schalter", Curve: "-", RatingA: 10, IcnKA: 6, Poles: 1}}
}

func (watt) Cable(kind string, mm2 float64) (rulebook.Cable, bool) {
	return rulebook.Cable{Name: "Kabel", LineMM2: mm2, Clip: "Schellen", ClipHorMM: 500, ClipVertMM: 500}, kind == "kabel"
}

func (watt) Parts(*install.Job, *install.Circuit) []rulebook.Part {
	return []rulebook.Part{{Key: "schalter", Name: "Schalter", Count: 1, Rule: "einer"}}
}

// A practice that is registered is accepted, judged, bought for, planned and shown like the
// others, without a change in any package and without a word of another practice: the steps
// are those of docs/third-practice.md.
func TestAThirdPracticeIsCodeAndDataBehindOneInterface(t *testing.T) {
	Practices["watt"] = rulebook.Complete(watt{})
	t.Cleanup(func() { delete(Practices, "watt") })
	job := install.Job{Format: install.Format, Ref: "W-1", Title: "Haus am Deich", Kind: install.Rewire, Practice: "watt",
		Rules: install.Rules{Edition: "Ausgabe 3"}, Site: install.Site{Customer: "Osk", Address: "Balkenweg 1"}, Supply: install.Supply{DeclaredV: 240},
		Board: install.Board{Name: "A"}, Schools: install.Schools{}}
	for i, template := range Practice(&job).Templates() {
		c := Practice(&job).Defaults(template)
		c.ID = []string{"c1", "c2"}[i]
		job.Circuits = append(job.Circuits, c)
	}
	job.Circuits[0].Serves.Outlets, job.Circuits[1].Point.CurrentA = 24, 8
	job.Tidy()
	require.NoError(t, Accept(&job))

	v := Of(&job, nil, install.Person{Name: "somebody"}, time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC))
	require.Len(t, v.Report.Circuits, 2)
	assert.Equal(t, working.Fail, v.Report.Circuits[0].Checks[0].Verdict, "24 lamps draw 12 A of 10")
	assert.Equal(t, working.Pass, v.Report.Circuits[1].Checks[0].Verdict)
	assert.Equal(t, "medium", v.Report.Circuits[0].Checks[0].Sources[0].Confidence)
	holds := map[string]install.Stage{}
	for _, h := range v.State.Holds {
		holds[h.What] = h.Stage
	}
	assert.Equal(t, install.Design, holds["Lampe: Last der Leitung fails"], "by the first act of its rule")
	assert.Equal(t, install.Handover, holds["Hinweis am Zähler: ob am Zähler ein Hinweis hängt"])
	assert.Equal(t, working.Fail, v.State.Joints["circuits"])

	lines := map[string]float64{}
	for _, l := range v.Take.Lines {
		lines[l.Key] = l.Order
	}
	assert.Equal(t, 1.0, lines["charge-point"], "its own use charges a vehicle")
	assert.Equal(t, 14.0, lines["warning-tape"], "its own method lies in the ground")
	assert.Equal(t, 2.0, lines["schalter"])
	trench := false
	for _, task := range v.Tasks {
		trench = trench || task.ID == "c1-trench"
	}
	assert.True(t, trench, "what lies in the ground is dug for")
	_, err := json.Marshal(v)
	require.NoError(t, err)

	// What it has no ability for is answered all the same: a trial judges everything.
	trial := Practice(&job).Try(&job)
	checks := trial.Changed(0, func(k *install.Circuit) { k.Route.LineMM2 = 4 }, nil)
	assert.Equal(t, working.Pass, checks[1].Verdict, "12 A of 16")
	assert.InDelta(t, 2.0, job.Circuits[0].Route.LineMM2, 0, "a trial changes nothing")
	assert.Empty(t, Practice(&job).Calcs())
	assert.Equal(t, working.Unknown, Practice(&job).SupplyNumber("4711", "").Verdict)

	// Its option changes what its rule says, by the name of its choice; another's is refused.
	job.Schools.Set("reserve", install.Chose("viertel"))
	require.NoError(t, Accept(&job))
	assert.Equal(t, working.Fail, Practice(&job).Judge(&job).Circuits[1].Checks[0].Verdict, "8 A of 7.5")
	job.Schools.Set("reserve", install.Chose("hälfte"))
	assert.ErrorContains(t, Accept(&job), "keine, viertel")
	job.Schools.Set("reserve", install.OptionValue{})

	job.Circuits[0].Use = "ring" // a word of another practice
	assert.Error(t, Accept(&job))
	job.Practice = "unheard"
	assert.Error(t, Accept(&job))
	assert.Panics(t, func() { Practice(&job) }, "never by the rules of another")
}
