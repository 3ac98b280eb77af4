package iec230

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/working"
)

// A job under another country's tables is judged by them: lighting may lose 5 % in South
// Africa and 3 % elsewhere; at 25 °C a cable of 70 °C carries 1.03 times its rating by the
// British table and 1.06 by the IEC's; Cmin is 1.0 in India, and where a country names none
// the stricter 0.95 holds; a cable lies 500, 600 or 750 mm deep.
func TestNationalTables(t *testing.T) {
	at := func(tables, check string, change func(*install.Job)) working.Check {
		j := wired("lighting-6")
		j.Schools.Set("tables", install.Chose(tables))
		if change != nil {
			change(j)
		}
		_, c := figureOf(t, j, "c1", check)
		return c
	}
	for tables, want := range map[string]float64{"": 3, "bs7671": 3, "iec60364": 3, "sans10142": 5, "is732": 3} {
		assert.InDelta(t, want, *at(tables, "voltage-drop", nil).Limit, 0, tables)
	}
	cool := func(j *install.Job) { j.Circuits[0].Route.Segments[0].AmbientC = 25 }
	usual := *at("", "capacity", func(j *install.Job) { j.Circuits[0].Route.Segments[0].AmbientC = 30 }).Limit
	for tables, want := range map[string]float64{"": 1.03, "iec60364": 1.06, "sans10142": 1.06, "is732": 1.06} {
		assert.InDelta(t, want*usual, *at(tables, "capacity", cool).Limit, 1e-9, tables)
	}
	limit := *at("", "loop", nil).Limit
	for tables, want := range map[string]float64{"iec60364": 1, "sans10142": 1 / 0.95, "is732": 1 / 0.95} {
		assert.InDelta(t, want*limit, *at(tables, "loop", nil).Limit, 1e-9, tables)
	}
	for tables, want := range map[string]float64{"": 500, "iec60364": 600, "sans10142": 500, "is732": 750} {
		j := &install.Job{}
		j.Schools.Set("tables", install.Chose(tables))
		assert.InDelta(t, want, ruleOf(j, nil, "cover-garden"), 0, tables)
		for _, c := range (Practice{}).Outdoor(j).Covers {
			if tables != "" {
				assert.InDelta(t, want, c.MM, 0, "%s %s", tables, c.Place)
			}
		}
	}
	// A rule of the company lies over them all, with its reason.
	laid := at("sans10142", "voltage-drop", func(j *install.Job) {
		j.Schools.Local = []install.LocalRule{{Rule: "drop-lighting", Value: 4, Reason: "works rule 4"}}
	})
	assert.InDelta(t, 4, *laid.Limit, 0)
}

// Where the country's rule leaves the combined conductor to the installation, it is split
// once, at the main board; until there it is never switched and has at least 10 mm² copper
// or 16 mm² aluminium.
func TestTheCombinedConductorIsSplitAtTheMainBoard(t *testing.T) {
	at := func(change func(*install.Job)) (board, shed working.Verdict, pen working.Verdict) {
		j := house("TN-C-S")
		j.Schools.Set("penSplit", install.Chose(splitAtBoard))
		j.Chain.Enclosures[2].Joined = is(true)
		change(j)
		r := Practice{}.Chain(j)
		pen = "absent"
		for _, c := range r.Checks {
			if c.ID == "combined-board" {
				pen = c.Verdict
			}
		}
		return node(r, "board").Verdict, node(r, "shed").Verdict, pen
	}
	board, shed, pen := at(func(*install.Job) {})
	assert.Equal(t, [3]working.Verdict{working.Pass, working.Pass, working.Pass}, [3]working.Verdict{board, shed, pen})
	board, _, _ = at(func(j *install.Job) { j.Chain.Enclosures[2].Joined = is(false) })
	assert.Equal(t, working.Fail, board, "not joined there")
	_, shed, _ = at(func(j *install.Job) { j.Chain.Enclosures[3].Joined = is(true) })
	assert.Equal(t, working.Fail, shed, "joined again behind it")
	for size, want := range map[string]working.Verdict{"10": working.Pass, "6": working.Fail, "": working.Unknown} {
		_, _, pen = at(func(j *install.Job) { j.Chain.Enclosures[2].Feed.Size = size })
		assert.Equal(t, want, pen, size)
	}
	_, _, pen = at(func(j *install.Job) {
		j.Chain.Enclosures[2].Feed.Material, j.Chain.Enclosures[2].Feed.Size = "al", "10"
	})
	assert.Equal(t, working.Fail, pen, "10 mm² aluminium")
	j := house("TN-C-S")
	j.Schools.Set("penSplit", install.Chose(splitAtBoard))
	j.Chain.Enclosures[2].From = "switch"
	j.Chain.Enclosures = append(j.Chain.Enclosures,
		install.Enclosure{ID: "switch", Kind: "isolator", Name: "Isolator", From: "meter", Owner: install.OwnerCustomer,
			Joined: is(false), SwitchesN: is(true), Feed: install.Conductor{Material: "cu", Size: "16"}})
	assert.Equal(t, working.Fail, node(Practice{}.Chain(j), "switch").Verdict, "it switches the earth of the house")
	board, _, pen = at(func(j *install.Job) { j.Supply.Earthing = "TN-S" })
	assert.Equal(t, [2]working.Verdict{working.Fail, "absent"}, [2]working.Verdict{board, pen}, "no combined conductor comes in")
}

// How far a socket-outlet stands from zone 1 differs from country to country: a local rule
// lies over the edition's figure.
func TestALocalRuleOfABath(t *testing.T) {
	at := func(value float64) working.Verdict {
		j := wired("lighting-6")
		j.Circuits[0].Serves.Bath = true
		away := 700.0
		j.Rooms = []install.Room{{ID: "r1", Name: "Bathroom", Kind: "bathroom",
			Bath:   install.BathRoom{Fitted: "bath", NoMetal: true},
			Points: []install.RoomPoint{{ID: "p1", Kind: "socket-2", Count: 1, State: install.New, HeightMM: 1200, BathMM: &away}}}}
		if value > 0 {
			j.Schools.Local = []install.LocalRule{{Rule: "bath-socket", Value: value, Reason: "national annex"}}
		}
		_, c := figureOf(t, j, "", "bath-r1")
		return c.Verdict
	}
	assert.Equal(t, working.Fail, at(0))
	assert.Equal(t, working.Pass, at(0.6))
	assert.Equal(t, working.Fail, at(0.8))
}
