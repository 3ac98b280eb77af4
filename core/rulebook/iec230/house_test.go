package iec230

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// wired is a house of circuits of templates on a sound supply, each 12 m long.
func wired(templates ...string) *install.Job {
	j := millHouse()
	j.Kind, j.Loads.Items, j.Circuits = install.Rewire, nil, nil
	j.Surge.Consequence, j.Surge.OwnerAccepts = "other", "the owner"
	for i, t := range templates {
		c := Practice{}.Defaults(t)
		c.ID, c.Name = fmt.Sprintf("c%d", i+1), fmt.Sprintf("%s %d", t, i+1)
		c.Route.Segments[0].LengthM, c.Route.Segments[0].Basis = 12, install.Measured
		c.Protection.Way = i + 1
		c.Serves.AreaM2 = 20
		j.Circuits = append(j.Circuits, c)
		for len(j.Board.Ways) <= i {
			j.Board.Ways = append(j.Board.Ways, install.Way{})
		}
		j.Board.Ways[i] = install.Way{No: i + 1}
	}
	return j
}

func reportOf(j *install.Job) rulebook.Report {
	_, r := compute(j)
	return r
}

// figureOf returns a check's value, and the check.
func figureOf(t testing.TB, j *install.Job, circuit, id string) (float64, working.Check) {
	t.Helper()
	r := reportOf(j)
	for _, c := range r.Checks() {
		if c.Circuit == circuit && c.ID == id {
			if c.Value == nil {
				return math.NaN(), c
			}
			return *c.Value, c
		}
	}
	t.Fatalf("no check %s of %s", id, circuit)
	return 0, working.Check{}
}

func TestEveryTemplateIsValidAndComputes(t *testing.T) {
	for _, template := range (Practice{}).Templates() {
		j := wired(template)
		require.NoError(t, j.Circuits[0].Validate(Practice{}.Terms()), template)
		r := reportOf(j)
		for _, c := range r.Circuits[0].Checks {
			assert.NotEqual(t, working.Fail, c.Verdict, "%s: %s: %s", template, c.ID, c.Summary)
			assert.NotEmpty(t, c.Summary+c.Title, template)
		}
	}
}

// The rules of each use, by hand on 12 m (14.5 m with slack and tails).
func TestTheRulesOfEachUse(t *testing.T) {
	no := false
	for _, c := range []struct {
		name, template string
		change         func(*install.Job)
		check          string
		value          float64 // NaN when none
		verdict        working.Verdict
	}{
		{"a ring's legs carry 27 A and need 20", "ring", nil, "capacity", 20, working.Pass},
		{"a ring in insulation all round carries 13.5", "ring",
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].Method = "103" }, "capacity", 20, working.Fail},
		{"a ring drops 18/4 × 26 × 14.5 mV, and the tails 1.75 × 32 × 2", "ring", nil, "voltage-drop",
			(4.5*26*14.5 + 1.75*32*2) / 1000 / 230 * 100, working.Pass},
		{"a spur of 5 m adds 18 × 13 × 5 mV", "ring", func(j *install.Job) {
			j.Circuits[0].Serves.Spurs = []install.Spur{{Place: "x", LengthM: 5, Outlets: 1}}
		}, "voltage-drop", (4.5*26*14.5 + 18*13*5 + 1.75*32*2) / 1000 / 230 * 100, working.Pass},
		{"a ring's far point is a quarter of the loop", "ring", nil, "loop", 0.25 + (7.41+12.1)*14.5/4000*1.2, working.Pass},
		{"101 m² is too much for one ring", "ring", func(j *install.Job) { j.Circuits[0].Serves.AreaM2 = 101 }, "area", 101,
			working.Caution},
		{"a 20 A radial serves 50 m²", "sockets-20", func(j *install.Job) { j.Circuits[0].Serves.AreaM2 = 51 }, "area", 51,
			working.Caution},
		{"a 32 A radial serves 75 m²", "sockets-32", func(j *install.Job) { j.Circuits[0].Serves.AreaM2 = 75 }, "area", 75, working.Pass},
		{"an unfused spur feeds one outlet", "ring", func(j *install.Job) {
			j.Circuits[0].Serves.Spurs = []install.Spur{{Place: "hall", LengthM: 3, Outlets: 2}}
		}, "spurs", math.NaN(), working.Fail},
		{"a fused one feeds more", "ring", func(j *install.Job) {
			j.Circuits[0].Serves.Spurs = []install.Spur{{Place: "hall", LengthM: 3, Outlets: 3, Fused: true}}
		}, "spurs", math.NaN(), working.Pass},
		{"lights not yet known count 100 W a point", "lighting-6", nil, "design-current", 10 * 100 / 230.0, working.Caution},
		{"lights may lose 3 %", "lighting-6", func(j *install.Job) {
			j.Circuits[0].Serves.PowerW, j.Circuits[0].Route.Segments[0].LengthM = 1200, 50
		}, "voltage-drop", (44*1200/230.0*52.5 + 1.75*1200/230.0*2) / 1000 / 230 * 100, working.Fail},
		{"a load spread over four points drops 5/8", "lighting-6", func(j *install.Job) {
			j.Circuits[0].Serves = install.Serves{PowerW: 920, Outlets: 4, Spread: true}
		}, "voltage-drop", (44*4*14.5*5/8 + 1.75*4*2) / 1000 / 230 * 100, working.Pass},
		{"a cooker of 10 kW: 10 + 0.3 × 33.48", "cooker-32", nil, "design-current", 10 + 0.3*(10000/230.0-10), working.Pass},
		{"a socket in its control unit adds 5", "cooker-32", func(j *install.Job) { j.Circuits[0].Serves.Socket = true },
			"design-current", 15 + 0.3*(10000/230.0-10), working.Pass},
		{"a shower is not diversified inside its circuit", "shower-40", nil, "design-current", 9000 / 230.0, working.Pass},
		{"sockets need additional protection", "sockets-20", func(j *install.Job) { j.Circuits[0].Protection.RCDType = "" },
			"residual", math.NaN(), working.Fail},
		{"luminaires too", "lighting-6", func(j *install.Job) { j.Circuits[0].Protection.RCDType = "" }, "residual",
			math.NaN(), working.Fail},
		{"a cooker does not", "cooker-32", func(j *install.Job) { j.Circuits[0].Protection.RCDType = "" }, "residual",
			math.NaN(), working.Pass},
		{"unless its cable is hidden", "cooker-32", func(j *install.Job) {
			j.Circuits[0].Protection.RCDType, j.Circuits[0].Serves.Concealed = "", true
		}, "residual", math.NaN(), working.Fail},
		{"100 mA is not additional protection", "sockets-20", func(j *install.Job) { j.Circuits[0].Protection.IdnMA = 100 },
			"residual", math.NaN(), working.Fail},
		{"type AC does not see what electronics leak", "lighting-6",
			func(j *install.Job) { j.Circuits[0].Protection.RCDType = "AC" }, "residual", math.NaN(), working.Fail},
		{"an inverter asks its manufacturer for type A", "cooling", nil, "residual", math.NaN(), working.Caution},
		{"power from both sides waits for the manufacturer", "infeed", nil, "backfeed", math.NaN(), working.Unknown},
		{"a device for one direction fails", "infeed", func(j *install.Job) { j.Circuits[0].Protection.BothWays = &no },
			"backfeed", math.NaN(), working.Fail},
		{"30 outlets of electronics stay under 9 mA only just", "sockets-32",
			func(j *install.Job) { j.Circuits[0].Serves.Outlets = 30 }, "leakage", 9 + 0.5*14.5/100, working.Fail},
		{"a measured leakage replaces the estimate", "sockets-32", func(j *install.Job) {
			j.Circuits[0].Serves.Outlets, j.Circuits[0].Serves.LeakMA = 30, num(2)
		}, "leakage", 2, working.Pass},
		{"a rewirable fuse lowers what the cable carries", "sockets-20", func(j *install.Job) {
			j.Circuits[0].Protection.Family, j.Circuits[0].Protection.RatingA = "bs3036", 20
		}, "capacity", 20, working.Fail},
		{"a cartridge fuse of 32 A is judged by its table", "cooker-32",
			func(j *install.Job) { j.Circuits[0].Protection.Family = "bs88_2_gg" }, "loop", 0.25 + (3.08+7.41)*14.5/1000*1.2, working.Pass},
		{"a fuse without a table is not yet known", "cooker-40",
			func(j *install.Job) { j.Circuits[0].Protection.Family = "bs88_3" }, "loop", math.NaN(), working.Unknown},
		{"a manufacturer's statement for a pair lifts the breaking capacity", "ring", func(j *install.Job) {
			j.Supply.PFCkA, j.Circuits[0].Protection.CascadeKA = num(8), 10
		}, "breaking-capacity", 8, working.Pass},
		{"without it 6 kA fails at 8", "ring", func(j *install.Job) { j.Supply.PFCkA = num(8) }, "breaking-capacity", 8, working.Fail},
		{"near the board class 3 is only assumed", "ring", nil, "withstand", math.NaN(), working.Caution},
		{"read off the device it holds", "ring", func(j *install.Job) { j.Circuits[0].Protection.EnergyClass = 3 },
			"withstand", 1.5, working.Pass},
		{"of class 1 the manufacturer's let-through is asked for", "ring",
			func(j *install.Job) { j.Circuits[0].Protection.EnergyClass = 1 }, "withstand", math.NaN(), working.Unknown},
		{"its manufacturer's figure settles it", "ring",
			func(j *install.Job) { j.Circuits[0].Protection.LetThroughA2S = num(12000) }, "withstand",
			1.5, working.Pass},
		{"or fails it", "ring", func(j *install.Job) { j.Circuits[0].Protection.LetThroughA2S = num(40000) }, "withstand",
			1.5, working.Fail},
		{"farther away the device end governs still", "ring",
			func(j *install.Job) { j.Circuits[0].Route.Segments[0].LengthM = 60 }, "withstand", 1.5, working.Caution},
		{"single cores on a wall in conduit", "ring", func(j *install.Job) {
			j.Circuits[0].Route.CableType, j.Circuits[0].Route.Segments[0].Method = "singles-70", "B"
		}, "capacity", 20, working.Pass},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := wired(c.template)
			if c.change != nil {
				c.change(j)
			}
			got, check := figureOf(t, j, "c1", c.check)
			assert.Equal(t, c.verdict, check.Verdict, "%s %v", check.Summary, check.Missing)
			if !math.IsNaN(c.value) {
				assert.InDelta(t, c.value, got, 1e-6)
			}
		})
	}
}

// outbuilding is a distribution circuit with a radial after it.
func outbuilding() *install.Job {
	j := wired("distribution", "sockets-20", "lighting-6")
	j.Circuits[0].Route.Segments[0].DepthMM = 600
	for i := 1; i < 3; i++ {
		j.Circuits[i].From = "c1"
		j.Circuits[i].Serves.PowerW = 460
	}
	return j
}

// What lies ahead counts: 20 A of sockets and 2 A of light (66 %) on 14.5 m of
// 10 mm² armoured held to 70 °C.
func TestADistributionCircuitIsAheadOfItsFinals(t *testing.T) {
	j := outbuilding()
	carried := 20 + 0.66*2
	amps, _ := figureOf(t, j, "c1", "design-current")
	assert.InDelta(t, carried, amps, 1e-9)
	drop, _ := figureOf(t, j, "c2", "voltage-drop")
	assert.InDelta(t, (4.4*carried*14.5+18*20*14.5+1.75*20*2)/1000/230*100, drop, 1e-6)
	loop, _ := figureOf(t, j, "c2", "loop")
	assert.InDelta(t, 0.25+3.66*14.5/1000*1.2+19.51*14.5/1000*1.2, loop, 1e-6)
	ka, check := figureOf(t, j, "c2", "breaking-capacity")
	assert.InDelta(t, 230/(230/1100.0+3.66*14.5/1000)/1000, ka, 1e-6)
	assert.Equal(t, working.Pass, check.Verdict)
	r := reportOf(j)
	for _, c := range r.Circuits[1].Checks {
		assert.NotEqual(t, "way", c.ID, "a circuit of another board takes no way of this one")
	}

	j.Circuits[0].From = "c1x"
	_, check = figureOf(t, j, "c2", "loop")
	assert.Equal(t, working.Unknown, check.Verdict, "what feeds the feed is not there")
	assert.Contains(t, check.Summary, "c1x")

	for _, wrong := range []struct{ from, says string }{{"c3", "is none"}, {"nowhere", "nowhere"}} {
		j = outbuilding()
		j.Circuits[1].From = wrong.from
		_, check = figureOf(t, j, "c2", "voltage-drop")
		assert.Equal(t, working.Unknown, check.Verdict)
		assert.Contains(t, check.Summary, wrong.says)
	}
	j = wired("distribution", "distribution")
	j.Circuits[0].From, j.Circuits[1].From = "c2", "c1"
	_, check = figureOf(t, j, "c1", "loop")
	assert.Contains(t, check.Summary, "feeds itself")
}

func TestResidualDevicesInSeries(t *testing.T) {
	j := outbuilding()
	j.Circuits[0].Protection.RCDType, j.Circuits[0].Protection.IdnMA = "A", 30
	_, check := figureOf(t, j, "c2", "selectivity")
	assert.Equal(t, working.Caution, check.Verdict, "two of 30 mA do not tell which one opens")
	j.Circuits[0].Protection.IdnMA, j.Circuits[0].Protection.Delayed = 100, true
	_, check = figureOf(t, j, "c2", "selectivity")
	assert.Equal(t, working.Pass, check.Verdict, check.Summary)
	j.Circuits[0].Protection.IdnMA, j.Circuits[0].Protection.Delayed = 30, false
	j.Circuits[1].Protection.RCDType = ""
	_, check = figureOf(t, j, "c2", "residual")
	assert.Equal(t, working.Pass, check.Verdict)
	assert.Contains(t, check.Summary, "everything after it is lost")
}

func TestASharedDeviceIsScoredByWhatIsLostWhenItTrips(t *testing.T) {
	j := wired("ring", "ring", "lighting-6", "lighting-6", "cooker-32")
	j.Board.Groups = []install.Group{{ID: "g", Name: "Left", RCDType: "A", IdnMA: 30, RatingA: 125}}
	for i := range j.Circuits {
		p := &j.Circuits[i].Protection
		p.RCDType, p.IdnMA, p.Group = "", 0, "g"
		j.Circuits[i].Serves.LeakMA = num(2.5)
	}
	_, check := figureOf(t, j, "", "group-g")
	assert.Equal(t, working.Fail, check.Verdict, "12.5 mA against 9")
	assert.Contains(t, check.Summary, "2 devices would bear it", "three of 2.5 mA fit under 9")
	assert.Contains(t, check.Summary, "Lost when it trips: 5 of 5")
	for i := range j.Circuits {
		j.Circuits[i].Serves.LeakMA = num(1)
	}
	_, check = figureOf(t, j, "", "group-g")
	assert.Equal(t, working.Caution, check.Verdict)
	assert.Contains(t, check.Summary, "All lighting")
	j.Circuits[2].Protection.Group, j.Circuits[2].Protection.RCDType, j.Circuits[2].Protection.IdnMA = "", "A", 30
	_, check = figureOf(t, j, "", "group-g")
	assert.Equal(t, working.Pass, check.Verdict, check.Summary)
	j.Board.Groups[0].RatingA = 40
	_, check = figureOf(t, j, "", "group-g")
	assert.Equal(t, working.Caution, check.Verdict, "100 A of devices and fuse around a device of 40 A")
	j.Circuits[1].Protection.Group = "gone"
	_, check = figureOf(t, j, "c2", "residual")
	assert.Equal(t, working.Unknown, check.Verdict)
}

func TestSurgeProtection(t *testing.T) {
	sound := install.SPD{Name: "d", Place: "origin", Type: "2", UpKV: 1.4, UcV: 275, LineM: 0.2, EarthM: 0.2, LineMM2: 6,
		EarthMM2: 16, BackupA: 125, IsccrKA: 25, Scheme: "CT2"}
	for _, c := range []struct {
		name    string
		change  func(*install.Job)
		check   string
		verdict working.Verdict
		says    string
	}{
		{"nobody asked", func(j *install.Job) { j.Surge = install.SurgePlan{} }, "surge-need", working.Unknown,
			"Without an assessment it is required"},
		{"the owner accepts", nil, "surge-need", working.Pass, "the owner declared"},
		{"nobody accepted", func(j *install.Job) { j.Surge.OwnerAccepts = "" }, "surge-need", working.Fail, "unless the owner"},
		{"life", func(j *install.Job) { j.Surge.Consequence = "life" }, "surge-need", working.Fail, "no device at the origin"},
		{"life, fitted", func(j *install.Job) { j.Surge.Consequence, j.Surge.Devices = "life", []install.SPD{sound} },
			"surge-need", working.Pass, "required"},
		{"a rod asks for Type 1", func(j *install.Job) { j.Surge.Rod, j.Surge.Devices = true, []install.SPD{sound} },
			"spd-1", working.Fail, "Type 1"},
		{"the level decides where that is the rule", func(j *install.Job) {
			j.Schools.Set("surgeNeed", install.Chose("risk-level"))
			j.Surge = install.SurgePlan{Environment: "urban", Flashes: num(0.5), CableLV: 0.6, CableHV: 0.4}
		}, "surge-need", working.Pass, "2500 is 1000 or more"},
		{"a country line", func(j *install.Job) {
			j.Schools.Set("surgeNeed", install.Chose("risk-level"))
			j.Surge = install.SurgePlan{Environment: "rural", Flashes: num(1.2), OverheadLV: 0.4, OverheadHV: 0.6}
		}, "surge-need", working.Fail, "68.11"},
		{"the level lacks its lines", func(j *install.Job) {
			j.Schools.Set("surgeNeed", install.Chose("risk-level"))
			j.Surge = install.SurgePlan{Environment: "rural", Flashes: num(1)}
		}, "surge-need", working.Unknown, ""},
		{"a sound device", func(j *install.Job) { j.Surge.Devices = []install.SPD{sound} }, "spd-1", working.Pass, "1.8 kV"},
		{"leads of 1.2 m", func(j *install.Job) { d := sound; d.LineM = 1; j.Surge.Devices = []install.SPD{d} }, "spd-1",
			working.Fail, "1.2 m of leads"},
		{"leads of 0.8 m", func(j *install.Job) { d := sound; d.LineM = 0.6; j.Surge.Devices = []install.SPD{d} }, "spd-1",
			working.Caution, "0.5 m is advised"},
		{"a thin earth lead", func(j *install.Job) { d := sound; d.EarthMM2 = 4; j.Surge.Devices = []install.SPD{d} },
			"spd-1", working.Fail, "earth lead of 4 mm²"},
		{"too large a fuse ahead", func(j *install.Job) { d := sound; d.BackupA = 63; j.Surge.Devices = []install.SPD{d} },
			"spd-1", working.Fail, "backup of its own"},
		{"a manufacturer's figure is missing",
			func(j *install.Job) { d := sound; d.IsccrKA = 0; j.Surge.Devices = []install.SPD{d} }, "spd-1",
			working.Unknown, "short-circuit rating"},
		{"TT ahead of the residual device", func(j *install.Job) {
			d := sound
			d.Scheme, j.Supply.Earthing = "CT1", "TT"
			j.Surge.Devices = []install.SPD{d}
		}, "spd-1", working.Fail, "CT2"},
		{"a second device 6 m on", func(j *install.Job) {
			d := sound
			d.Place, d.FromM, d.BranchA = "load", 6, 32
			j.Surge.Devices = []install.SPD{sound, d}
		}, "spd-2", working.Caution, "declare the two coordinated"},
		{"a second device whose branch is not known", func(j *install.Job) {
			d := sound
			d.Place, d.FromM = "load", 12
			j.Surge.Devices = []install.SPD{sound, d}
		}, "spd-2", working.Unknown, "the device of the branch"},
		{"the load is 14 m away", func(j *install.Job) { d := sound; d.ToLoadM = 14; j.Surge.Devices = []install.SPD{d} },
			"spd-1", working.Caution, "second device near the load"},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := wired("ring")
			if c.change != nil {
				c.change(j)
			}
			_, check := figureOf(t, j, "", c.check)
			assert.Equal(t, c.verdict, check.Verdict, "%s %v", check.Summary, check.Missing)
			assert.Contains(t, check.Summary, c.says)
		})
	}
}

func TestTheBoardsHeat(t *testing.T) {
	j := wired("water-stored", "cooling", "ring")
	j.Board.MakerRDF = 0
	_, check := figureOf(t, j, "", "board-heat")
	assert.Equal(t, working.Caution, check.Verdict)
	assert.Contains(t, check.Summary, "13.04 A of the 12.8 A", "three circuits: 0.8 × 16")
	j.Circuits[0].Serves.PowerW, j.Circuits[1].Point.CurrentA = 2990, 12.8
	_, check = figureOf(t, j, "", "board-heat")
	assert.Contains(t, check.Summary, "side by side", "13 and 12.8 A are both 80 % of 16")
	j.Circuits[1].Protection.Way = 3
	j.Circuits[2].Protection.Way = 2
	j.Board.MakerRDF = 0.9
	_, check = figureOf(t, j, "", "board-heat")
	assert.Equal(t, working.Pass, check.Verdict, check.Summary)
}
