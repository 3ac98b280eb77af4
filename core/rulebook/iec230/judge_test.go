package iec230

import (
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
		{"ev-functional", install.Record{Passed: &no}, working.Fail},
	} {
		x, there := tests[row.test]
		require.True(t, there, row.test)
		got, says := x.Judge(row.r)
		assert.Equal(t, row.want, got, "%s: %s", row.test, says)
		assert.NotEmpty(t, says)
	}
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
		"no device to break PEN":  {func(j *install.Job) { j.Circuits[0].PEN.Option = "tt_rod" }, "ev-pen", false},
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
