package iec230

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/working"
)

// What only a manufacturer's instructions has is asked for by name, and decides once it is
// entered: by hand on 14.5 m.
func TestArmourAluminiumAndSeparateConductors(t *testing.T) {
	ze := millHouse().Supply.ZeOhm.V()
	swa := func(change func(*install.Circuit)) *install.Job {
		j := wired("distribution")
		j.Circuits[0].Point.CurrentA = 30
		change(&j.Circuits[0])
		return j
	}
	lacks := func(j *install.Job, id, what string) {
		t.Helper()
		_, c := figureOf(t, j, "c1", id)
		assert.Equal(t, working.Unknown, c.Verdict, c.Summary)
		assert.Contains(t, strings.Join(c.Missing, "; "), what)
	}
	armour := swa(func(c *install.Circuit) { c.Route.CPC = "armour" })
	lacks(armour, "loop", "section of the armour")
	lacks(armour, "loop", "resistance of the armour")
	armour = swa(func(c *install.Circuit) {
		c.Route.CPC, c.Route.ArmourMM2, c.Route.ArmourMOhmM = "armour", num(46), num(3.7)
	})
	_, loop := figureOf(t, armour, "c1", "loop")
	assert.InDelta(t, ze+(1.83+3.7)*14.5/1000*1.2, *loop.Value, 1e-9, "Ze + (R1 + R2) × multiplier")
	_, section := figureOf(t, armour, "c1", "withstand")
	amps := 230 / (ze + (1.83+3.7)*14.5/1000)
	assert.Greater(t, 1100.0, amps, "more flows at the device than at the far end")
	assert.InDelta(t, 1100*math.Sqrt(0.1)/51, *section.Limit, 1e-9, "k of steel armour, 51, for 0.1 s of 1.1 kA")
	assert.InDelta(t, 10*115.0/51, stepOf(section, "by table"), 1e-9)
	flat := wired("ring")
	flat.Circuits[0].Route.CPC = "armour"
	lacks(flat, "loop", "has no armour")

	apart := swa(func(c *install.Circuit) { c.Route.CPC, c.Route.CPCMM2 = "separate", 16 })
	_, loop = figureOf(t, apart, "c1", "loop")
	assert.InDelta(t, ze+(1.83+1.15)*14.5/1000*1.2, *loop.Value, 1e-9)
	lacks(swa(func(c *install.Circuit) { c.Route.CPC, c.Route.CPCMM2 = "separate", 7 }), "loop", "7 mm²")

	al := swa(func(c *install.Circuit) { c.Route.Aluminium, c.Route.LineMM2 = true, 25 })
	lacks(al, "capacity", "rating of 25 mm² aluminium")
	lacks(al, "voltage-drop", "mV/A/m")
	al.Circuits[0].Route.MakerA, al.Circuits[0].Route.MakerMV = num(90), num(2.9)
	_, capacity := figureOf(t, al, "c1", "capacity")
	assert.Equal(t, working.Caution, capacity.Verdict, "the soil is assumed")
	_, copper := figureOf(t, swa(func(c *install.Circuit) { c.Route.LineMM2 = 25 }), "c1", "capacity")
	table := capacityTables["ccc_swa_70"]
	assert.InDelta(t, 90**copper.Limit/table.Num(table.Where("size_mm2", 25.0), "D_2c"), *capacity.Limit, 1e-9,
		"the same factors as copper")
	_, drop := figureOf(t, al, "c1", "voltage-drop")
	assert.InDelta(t, (2.9*30*14.5+1.75*30*2)/1000/230*100, *drop.Value, 1e-9)
	lacks(swa(func(c *install.Circuit) { c.Route.Aluminium, c.Route.LineMM2 = true, 10 }), "loop", "10 mm² (al)")
}

func stepOf(c working.Check, symbol string) float64 {
	for _, s := range c.Steps {
		if s.Symbol == symbol {
			return s.Value
		}
	}
	return math.NaN()
}

// A local rule takes the place of the table's figure, and is named among the
// sources.
func TestALocalRuleLiesOverTheTable(t *testing.T) {
	j := wired("lighting-6")
	j.Circuits[0].Serves.PowerW, j.Circuits[0].Route.Segments[0].LengthM = 1200, 40
	_, c := figureOf(t, j, "c1", "voltage-drop")
	require.Equal(t, working.Fail, c.Verdict)
	require.InDelta(t, 3, *c.Limit, 0)
	j.Schools.Local = []install.LocalRule{{Rule: "drop-lighting", Value: 6, Reason: "works rule 4"}}
	require.NoError(t, j.Schools.Validate(terms))
	_, c = figureOf(t, j, "c1", "voltage-drop")
	assert.InDelta(t, 6, *c.Limit, 0)
	assert.Equal(t, working.Pass, c.Verdict)
	assert.Contains(t, c.Sources, working.Source{Ref: "local rule: works rule 4", Confidence: "medium"})

	j.Schools.Local = []install.LocalRule{{Rule: "cmin", Value: 1, Reason: "national rule"}}
	_, c = figureOf(t, j, "c1", "loop")
	assert.InDelta(t, 230/30.0, *c.Limit, 1e-9)
	for _, wrong := range []install.LocalRule{{Rule: "cmin", Value: 2, Reason: "x"}, {Rule: "speed", Value: 1, Reason: "x"},
		{Rule: "cmin", Value: 1}} {
		assert.Error(t, install.Schools{Local: []install.LocalRule{wrong}}.Validate(terms))
	}
	for _, r := range terms.Rules {
		assert.True(t, r.Usual >= r.Low && r.Usual <= r.High && r.Ref != "", r.ID)
	}
}

// B16: the formula gives 2.731 Ω, the printed table 2.73: between the two it is
// said on which the verdict rests.
func TestTheVerdictSaysWhetherFormulaOrTableDecides(t *testing.T) {
	j, ze := wired("sockets-20"), millHouse().Supply.ZeOhm.V()
	j.Circuits[0].Protection.RatingA, j.Circuits[0].Protection.Curve = 16, "B"
	_, c := figureOf(t, j, "c1", "loop")
	j.Supply.ZeOhm = num(ze + 2.7305 - *c.Value)
	_, c = figureOf(t, j, "c1", "loop")
	require.InDelta(t, 2.7305, *c.Value, 1e-9)
	assert.Equal(t, working.Pass, c.Verdict)
	assert.Contains(t, c.Summary, "rests on the formula")
	j.Supply.ZeOhm = num(ze)
	_, c = figureOf(t, j, "c1", "loop")
	assert.NotContains(t, c.Summary, "rests")
	j.Circuits[0].Protection.Family = "bs88_2_gg"
	_, c = figureOf(t, j, "c1", "loop")
	assert.Contains(t, c.Summary, "by the fuse's table")
}

func TestAnotherBuildingExportsTheEarthOrHasItsOwn(t *testing.T) {
	yes, no := true, false
	j := wired("distribution", "sockets-20")
	j.Supply.Earthing, j.Supply.NeutralMM2 = "TN-C-S", num(25)
	house, far := &j.Circuits[0], &j.Circuits[1]
	far.From, house.Out.Building = house.ID, true
	check := func() working.Check { _, c := figureOf(t, j, house.ID, "other-building"); return c }
	assert.Equal(t, working.Unknown, check().Verdict, "not decided")
	assert.Contains(t, check().Summary, "Look first")
	house.Out.Choice = "export"
	assert.Contains(t, check().Missing, "whether metal services or structure enter that building")
	house.Out.Metalwork = &no
	assert.Equal(t, working.Pass, check().Verdict)
	house.Out.Metalwork = &yes
	assert.Equal(t, working.Pass, check().Verdict, "10 mm² in the cable meet the 10 mm² of Table 54.8")
	house.Route.LineMM2 = 6
	assert.Equal(t, working.Fail, check().Verdict)
	house.Out.BondMM2 = num(10)
	assert.Equal(t, working.Pass, check().Verdict, "a bond beside the cable")

	house.Out.Choice, house.Out.RaOhm = "electrode", num(120)
	assert.Equal(t, working.Pass, check().Verdict)
	ohm, loop := figureOf(t, j, far.ID, "loop")
	assert.Greater(t, ohm, 120.0, "what it feeds is judged through the electrode")
	assert.InDelta(t, 50/0.03, *loop.Limit, 1e-9)
	far.Protection.RCDType = ""
	assert.Contains(t, check().Missing[0], "a residual-current device for")
	_, residual := figureOf(t, j, far.ID, "residual")
	assert.Equal(t, working.Fail, residual.Verdict)
	far.Protection.RCDType, house.Out.RaOhm = "A", num(400)
	assert.Equal(t, working.Caution, check().Verdict, "above 200 Ω")
	r := reportOf(j)
	assert.Len(t, r.Circuits[0].Options, 2)
}

// Two devices, and all lighting with the sockets on one: the offered spread takes
// the lights apart and halves what goes dark.
func TestABetterSpreadIsOffered(t *testing.T) {
	j := wired("lighting-6", "lighting-6", "sockets-20", "sockets-20", "alarm")
	j.Board.Groups = []install.Group{{ID: "a", Name: "A", RCDType: "A", IdnMA: 30, RatingA: 63},
		{ID: "b", Name: "B", RCDType: "A", IdnMA: 30, RatingA: 63}}
	for i := range j.Circuits {
		p := &j.Circuits[i].Protection
		p.RCDType, p.IdnMA, p.Group = "", 0, "a"
	}
	_, c := figureOf(t, j, "", "grouping")
	require.Equal(t, working.Caution, c.Verdict)
	assert.Contains(t, c.Summary, "At most 5 of 5")
	require.Len(t, c.Remedies, 1)
	after := taken(t, j, c.Remedies[0])
	_, c = figureOf(t, after, "", "grouping")
	assert.Equal(t, working.Pass, c.Verdict)
	assert.InDelta(t, 3, stepOf(c, "most circuits"), 0)
	assert.LessOrEqual(t, Dark(after)[0], Dark(j)[0])
}

// No floor loses its light and its sockets together where the devices can be shared otherwise: a pair on one device is said, and the spread
// that is offered crosses the floors.
func TestLightAndSocketsOfAFloorAreCrossed(t *testing.T) {
	house := func(groups ...string) *install.Job {
		j := wired("lighting-6", "lighting-6", "sockets-20", "sockets-20")
		j.Rooms = []install.Room{{ID: "r0", Name: "Parlour", Floor: "ground"}, {ID: "r1", Name: "Office", Floor: "first"}}
		j.Board.Groups = []install.Group{{ID: "a", Name: "A", RCDType: "A", IdnMA: 30, RatingA: 63}, {ID: "b", Name: "B", RCDType: "A", IdnMA: 30, RatingA: 63}}
		for i := range j.Circuits {
			k := &j.Circuits[i]
			k.Protection.RCDType, k.Protection.IdnMA, k.Protection.Group = "", 0, groups[i]
			device := map[bool]install.BoxDevice{true: install.Luminaire, false: install.PlainOutlet}[i < 2]
			k.Serves.Boxes = []install.Box{{ID: "x", Name: "x", Room: fmt.Sprint("r", i%2), Device: device, Side: install.LineSide}}
		}
		return j
	}
	// Sockets up, lights up and lights down on one, sockets down alone on the other: the upper floor goes dark as a whole.
	_, c := figureOf(t, house("a", "a", "b", "a"), "", "grouping")
	require.Equal(t, working.Caution, c.Verdict)
	assert.Contains(t, c.Summary, "Light and sockets go together on floor first.")
	require.Len(t, c.Remedies, 1)
	after := taken(t, house("a", "a", "b", "a"), c.Remedies[0])
	_, c = figureOf(t, after, "", "grouping")
	assert.Equal(t, working.Pass, c.Verdict, c.Summary)
	_, c = figureOf(t, house("a", "b", "b", "a"), "", "grouping")
	assert.Equal(t, working.Pass, c.Verdict, "crossed as it is")
	_, c = figureOf(t, house("a", "b", "a", "b"), "", "grouping")
	assert.Contains(t, c.Summary, "floor ground, floor first", "two alike in number, and each of a floor")

	// Whatever the house hangs on, what is offered never takes more floors together than before.
	for n := range 16 {
		groups := []string{}
		for i := range 4 {
			groups = append(groups, string("ab"[n>>i&1]))
		}
		j := house(groups...)
		_, c := figureOf(t, j, "", "grouping")
		for _, r := range c.Remedies {
			_, after := figureOf(t, taken(t, j, r), "", "grouping")
			assert.NotContains(t, after.Summary, "go together", "%v", groups)
		}
		if strings.Contains(c.Summary, "go together") {
			assert.NotEmpty(t, c.Remedies, "%v", groups)
		}
	}
}

func TestRecessedLuminairesHoldTheFireAndBearTheCover(t *testing.T) {
	yes, no := true, false
	for _, c := range []struct {
		name    string
		recess  install.Recess
		verdict working.Verdict
		says    string
	}{
		{"under a roof", install.Recess{Fitted: true}, working.Pass, "Suited"},
		{"under a bedroom, not known", install.Recess{Fitted: true, Fire: true}, working.Unknown, "fire time"},
		{"under a bedroom, tested", install.Recess{Fitted: true, Fire: true, Tested: &yes}, working.Pass, "Suited"},
		{"under a bedroom, not tested", install.Recess{Fitted: true, Fire: true, Tested: &no}, working.Fail, "tested for same fire time"},
		{"covered, not marked", install.Recess{Fitted: true, Covered: true, Coverable: &no}, working.Fail, "Insulation lies over"},
		{"covered, not looked at", install.Recess{Fitted: true, Covered: true}, working.Unknown, "marked"},
		{"fails, whatever is not known", install.Recess{Fitted: true, Fire: true, Covered: true, Tested: &no}, working.Fail, "keeps fire"},
	} {
		j := wired("lighting-6")
		j.Circuits[0].Serves.Recessed = c.recess
		_, k := figureOf(t, j, "c1", "recessed")
		assert.Equal(t, c.verdict, k.Verdict, c.name)
		assert.Contains(t, k.Summary, c.says, c.name)
	}
}

func TestTwoCircuitsOnOneWayAreFound(t *testing.T) {
	j := wired("ring", "cooker-32")
	j.Board.Ways = append(j.Board.Ways, install.Way{No: 3})
	j.Circuits[1].Protection.Way = 1
	_, c := figureOf(t, j, "c1", "way")
	assert.Equal(t, working.Fail, c.Verdict)
	assert.Contains(t, c.Summary, "cooker-32 2")
	for _, c := range (Practice{}).Report(j, nil).Circuits[1].Checks {
		if c.ID == "way" {
			require.NotEmpty(t, c.Remedies)
			assert.Equal(t, "Way 2", c.Remedies[0].Title, "the next way that no other circuit has")
		}
	}
}
