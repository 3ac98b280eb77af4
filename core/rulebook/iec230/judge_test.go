package iec230

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// testsOf returns the tests of a job by name.
func testsOf(j *install.Job) (order []string, byID map[string]rulebook.Test) {
	r := reportOf(j)
	byID = map[string]rulebook.Test{}
	for _, x := range (Practice{}).Tests(j, &r) {
		order = append(order, x.ID)
		byID[x.ID] = x
	}
	return order, byID
}

// What a reading is worth, test by test: at the limit, beyond it, and far from
// what the model expects.
func TestReadingsAreJudged(t *testing.T) {
	over := install.Record{OverRange: true}
	is := func(v float64) install.Record { return install.Record{Value: &v} }
	yes, no := true, false
	_, tests := testsOf(millHouse())
	expected := *tests["r1r2"].Expected
	cold := *tests["zs"].Expected
	for _, row := range []struct {
		test string
		r    install.Record
		want working.Verdict
	}{
		{"continuity-earth", is(0.05), working.Pass},
		{"continuity-earth", is(0.06), working.Caution},
		{"r1r2", is(expected), working.Pass},
		{"r1r2", is(expected * 2), working.Caution},
		{"r1r2", is(expected / 10), working.Caution},
		{"insulation-ln", is(0.99), working.Fail},
		{"insulation-ln", is(1), working.Caution},
		{"insulation-le", is(200), working.Pass},
		{"insulation-ne", over, working.Pass},
		{"polarity-dead", install.Record{Passed: &yes}, working.Pass},
		{"polarity-dead", install.Record{Passed: &no}, working.Fail},
		{"polarity-live", install.Record{}, working.Unknown},
		{"ze", is(0.25), working.Pass},
		{"ze", is(0.31), working.Fail},
		{"ze", is(0.1), working.Caution},
		{"pfc", is(6), working.Pass},
		{"pfc", is(6.1), working.Fail},
		{"zs", is(cold), working.Pass},
		{"zs", is(1.0), working.Caution},  // within the limit, not what the model expects
		{"zs", is(1.2), working.Fail},     // above 80 % of 1.366 Ω, read cold
		{"rcd-x1", is(300), working.Pass}, // at the limit
		{"rcd-x1", is(301), working.Fail},
		{"rcd-x1", over, working.Fail},
		{"voltage", is(230), working.Pass},
		{"voltage", is(216.1), working.Fail}, // under the declared window
		{"voltage", is(254), working.Fail},
		{"voltage-ne", is(0.4), working.Pass},
		{"voltage-ne", is(12), working.Caution},
		{"voltage-ne", is(51), working.Fail},
		{"rdc-6", is(10000), working.Pass},
		{"rdc-6", is(10001), working.Fail},
		{"ev-functional", install.Record{Passed: &no}, working.Fail},
	} {
		x, there := tests[row.test]
		require.True(t, there, row.test)
		got, says := x.Judge(row.r)
		assert.Equal(t, row.want, got, "%s: %s", row.test, says)
		assert.NotEmpty(t, says)
	}
}

// From which readings an open neutral or combined conductor is suspected: far outside the window, or with the neutral away from earth.
func TestAnOpenNeutralIsSuspected(t *testing.T) {
	_, tests := testsOf(millHouse())
	for _, row := range []struct {
		test string
		v    float64
		want bool
	}{{"voltage", 230, false}, {"voltage", 214, false}, {"voltage", 195, true}, {"voltage", 254, true}, {"voltage", 0, true},
		{"voltage-ne", 12, false}, {"voltage-ne", 51, true}} {
		assert.Equal(t, row.want, tests[row.test].Suspects(install.Record{Value: &row.v}), "%s %g", row.test, row.v)
	}
}

// A loop read through a residual-current device without tripping it: what was measured of Ze and R1+R2 is judged in its place, as far as the
// device may have added, and only where both were measured.
func TestALoopReadWithoutTrippingIsCalculated(t *testing.T) {
	reads := func(ze, r1r2 float64) []install.Record {
		return []install.Record{{Kind: install.Reading, ID: "a", Subject: "ze", Value: &ze}, {Kind: install.Reading, ID: "b", Subject: "r1r2",
			Circuit: "c1", Value: &r1r2}}
	}
	_, designed := testsOf(millHouse())
	r1r2 := *designed["r1r2"].Expected
	for name, row := range map[string]struct {
		records []install.Record
		adds    float64 // to Ze + R1+R2
		noTrip  bool
		want    working.Verdict
		says    string
	}{
		"as the parts":                   {reads(0.25, r1r2), 0.01, true, working.Pass, "Calculated: Ze and R1+R2"},
		"the device added":               {reads(0.25, r1r2), 0.4, true, working.Pass, "Calculated: Ze and R1+R2"},
		"more than a device adds":        {reads(0.25, r1r2), 0.6, true, working.Caution, "a loose joint or another point"},
		"by a test that trips":           {reads(0.25, r1r2), 0.4, false, working.Caution, "a loose joint or another point"},
		"external loop not measured":     {reads(0.25, r1r2)[1:], 0.4, true, working.Caution, "a loose joint or another point"},
		"continuity not measured":        {reads(0.25, r1r2)[:1], 0.4, true, working.Caution, "a loose joint or another point"},
		"lower than its parts":           {reads(0.25, r1r2), -0.2, true, working.Caution, "lower than Ze and R1+R2"},
		"over the limit as it was read":  {reads(0.25, 0.6), 0.4, true, working.Pass, "Calculated: Ze and R1+R2"},
		"over the limit also calculated": {reads(0.25, 0.9), 0.3, true, working.Fail, "Calculated: Ze and R1+R2"},
	} {
		t.Run(name, func(t *testing.T) {
			j := millHouse()
			j.Records = row.records
			_, tests := testsOf(j)
			v := row.adds
			for _, r := range reads(0.25, r1r2) {
				if i := slices.IndexFunc(row.records, func(x install.Record) bool { return x.Subject == r.Subject }); i >= 0 {
					r = row.records[i]
				}
				v += *r.Value
			}
			x := tests["zs"]
			r := install.Record{Value: &v, NoTrip: row.noTrip}
			got, says := x.Judge(r)
			assert.Equal(t, row.want, got, says)
			assert.Contains(t, says, row.says)
			_, calculated := x.Calculated(r)
			assert.Equal(t, strings.HasPrefix(row.says, "Calculated"), calculated)
			assert.False(t, calculated && x.Explain(r), "it explains itself")
		})
	}
}

// Electrodes together are never higher than the lowest of them alone.
func TestElectrodesTogetherAreLowerThanAlone(t *testing.T) {
	j := millHouse()
	j.Supply.Earthing, j.Outdoor.Electrodes.Rods = "TT", []install.PlacedRod{{Place: "quay"}, {Place: "weir"}}
	quay, weir := 180.0, 95.0
	j.Records = []install.Record{{Kind: install.Reading, ID: "a", Subject: "electrode-alone", Box: "rod-1", Value: &quay},
		{Kind: install.Reading, ID: "b", Subject: "electrode-alone", Box: "rod-2", Value: &weir}}
	_, tests := testsOf(j)
	require.Len(t, tests["electrode-alone"].Points, 2)
	together := func(v float64) working.Verdict {
		got, _ := tests["electrode"].Judge(install.Record{Value: &v})
		return got
	}
	assert.Equal(t, working.Pass, together(70))
	assert.Equal(t, working.Fail, together(110))
}

func TestALoopReadByTheOtherSchoolIsCorrectedToItsWorkingTemperature(t *testing.T) {
	j := millHouse()
	v, cool := 1.2, 10.0
	_, tests := testsOf(j)
	got, _ := tests["zs"].Judge(install.Record{Value: &v})
	assert.Equal(t, working.Fail, got, "80 % rejects it")
	j.Schools.Set("zsReading", install.Chose("corrected"))
	_, tests = testsOf(j)
	got, says := tests["zs"].Judge(install.Record{Value: &v, TempC: &cool})
	assert.NotEqual(t, working.Pass, got, says)
	low := 0.45
	got, says = tests["zs"].Judge(install.Record{Value: &low, TempC: &cool})
	assert.NotEqual(t, working.Fail, got, says)
	assert.Contains(t, says, "corrected to 70 °C")
}

// The sequence: everything dead before anything live, each test once, and what
// a job does not have is not asked for.
func TestTheSequenceFitsTheJob(t *testing.T) {
	order, tests := testsOf(millHouse())
	live := false
	for _, id := range order {
		assert.False(t, live && !tests[id].Live, "%s is dead and comes after a live test", id)
		live = live || tests[id].Live
		assert.Contains(t, TestIDs, id)
		assert.NotEmpty(t, tests[id].Where, id)
		assert.NotEmpty(t, tests[id].Caution, id)
		assert.True(t, tests[id].YesNo || tests[id].Unit != "", id)
	}
	for name, row := range map[string]struct {
		change func(*install.Job)
		test   string
		asked  bool
	}{
		"no bonds":                {func(j *install.Job) { j.Supply.Bonds = nil }, "continuity-bond", false},
		"bonds":                   {func(*install.Job) {}, "continuity-bond", true},
		"no residual current":     {func(j *install.Job) { j.Circuits[0].Protection.RCDType = "" }, "rcd-x1", false},
		"one residual test":       {func(*install.Job) {}, "rcd-x5", false},
		"the other school":        {func(j *install.Job) { j.Schools.Set("rcdTests", install.Chose("three_test")) }, "rcd-x5", true},
		"a fixed load":            {func(j *install.Job) { j.Circuits[0].Use = "fixed" }, "ev-functional", false},
		"no electrode":            {func(*install.Job) {}, "electrode", false},
		"an electrode at the end": {func(j *install.Job) { j.Circuits[0].PEN.Option = "tt_rod" }, "electrode", true},
		"TT":                      {func(j *install.Job) { j.Supply.Earthing = "TT" }, "electrode", true},
		"one electrode":           {func(j *install.Job) { j.Supply.Earthing = "TT" }, "electrode-alone", false},
		"several electrodes": {func(j *install.Job) {
			j.Supply.Earthing, j.Outdoor.Electrodes.Rods = "TT", []install.PlacedRod{{Place: "quay"}, {Place: "weir"}}
		}, "electrode-alone", true},
		"half, three tests":      {func(j *install.Job) { j.Schools.Set("rcdTests", install.Chose("three_test")) }, "rcd-half", true},
		"half, one test":         {func(*install.Job) {}, "rcd-half", false},
		"type B, A2":             {func(j *install.Job) { j.Circuits[0].Protection.RCDType = "B" }, "rcd-dc", false},
		"type B, A1":             {func(j *install.Job) { j.Circuits[0].Protection.RCDType, j.Edition = "B", "2018+A1:2020" }, "rcd-dc", true},
		"type A, A1":             {func(j *install.Job) { j.Edition = "2018+A1:2020" }, "rcd-dc", false},
		"no 6 mA detection":      {func(j *install.Job) { j.Circuits[0].Point.DCDetection = nil }, "rdc-6", false},
		"no device to break PEN": {func(j *install.Job) { j.Circuits[0].PEN.Option = "tt_rod" }, "ev-pen", false},
	} {
		j := millHouse()
		row.change(j)
		_, tests := testsOf(j)
		_, asked := tests[row.test]
		assert.Equal(t, row.asked, asked, name)
	}
}

// Properties that hold whatever the figures are.
func TestWhatCanOnlyGetWorse(t *testing.T) {
	value := func(change func(*install.Job), id string) float64 {
		j := millHouse()
		change(j)
		c := checkOf(t, j, id)
		require.NotNil(t, c.Use, id)
		return *c.Use
	}
	for name, row := range map[string]struct {
		check string
		steps []func(*install.Job)
	}{
		"a hotter place carries less": {"capacity", []func(*install.Job){
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].AmbientC = 25 },
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].AmbientC = 40 },
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].AmbientC = 50 }}},
		"more circuits together carry less": {"capacity", []func(*install.Job){
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].Grouped = 1 },
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].Grouped = 3 },
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].Grouped = 6 }}},
		"a thinner cable drops more": {"voltage-drop", []func(*install.Job){
			func(j *install.Job) { j.Circuits[0].Route.LineMM2 = 16 },
			func(j *install.Job) { j.Circuits[0].Route.LineMM2 = 6 },
			func(j *install.Job) { j.Circuits[0].Route.LineMM2 = 2.5 }}},
		"a higher Ze leaves less": {"loop", []func(*install.Job){
			func(j *install.Job) { j.Supply.ZeOhm = num(0.1) },
			func(j *install.Job) { j.Supply.ZeOhm = num(0.35) },
			func(j *install.Job) { j.Supply.ZeOhm = num(0.8) }}},
		"a stronger supply asks more of the device": {"breaking-capacity", []func(*install.Job){
			func(j *install.Job) { j.Supply.PFCkA = num(1) },
			func(j *install.Job) { j.Supply.PFCkA = num(3) },
			func(j *install.Job) { j.Supply.PFCkA = num(9) }}},
		"more load takes more of the fuse": {"demand", []func(*install.Job){
			func(j *install.Job) { j.Loads.Items = j.Loads.Items[:1] },
			func(*install.Job) {},
			func(j *install.Job) { j.Circuits = append(j.Circuits, j.Circuits[0]) }}},
	} {
		last := -1.0
		for _, change := range row.steps {
			use := value(change, row.check)
			assert.Greater(t, use, last-1e-12, name)
			last = use
		}
	}
}

// No remedy that is offered makes its check fail or another one worse, for every
// failure that can be provoked on this job.
func TestEveryRemedyMendsWhatItIsOfferedFor(t *testing.T) {
	offered := 0
	for name, change := range map[string]func(*install.Job){
		"a long way":      func(j *install.Job) { j.Circuits[0].Route.Segments[0].LengthM = 70 },
		"a thin cable":    func(j *install.Job) { j.Circuits[0].Route.LineMM2 = 2.5 },
		"a bunch":         func(j *install.Job) { j.Circuits[0].Route.Segments[0].Grouped = 6 },
		"curve D":         func(j *install.Job) { j.Circuits[0].Protection.Curve = "D" },
		"a small device":  func(j *install.Job) { j.Circuits[0].Protection.RatingA = 16 },
		"a strong supply": func(j *install.Job) { j.Supply.PFCkA = num(8) },
		"type AC":         func(j *install.Job) { j.Circuits[0].Protection.RCDType = "AC" },
		"a way taken":     func(j *install.Job) { j.Circuits[0].Protection.Way = 1 },
		"a small fuse":    func(j *install.Job) { j.Supply.MainFuseA = num(80) },
	} {
		j := millHouse()
		change(j)
		before := Practice{}.Report(j, nil)
		for _, c := range before.Checks() {
			for _, r := range c.Remedies {
				offered++
				after := reportOf(taken(t, j, r))
				for _, now := range after.Checks() {
					if now.ID == c.ID && now.Circuit == c.Circuit {
						assert.NotEqual(t, working.Fail, now.Verdict, "%s: %s", name, r.Title)
					}
					for _, was := range before.Checks() {
						if was.ID == now.ID && was.Circuit == now.Circuit {
							assert.False(t, now.Verdict.Worse(was.Verdict), "%s: %s makes %s worse", name, r.Title, now.ID)
						}
					}
				}
			}
		}
	}
	assert.Greater(t, offered, 12)
}
