package iec230

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/working"
)

func metres(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// behind is a house with a distribution circuit and a board of four ways behind it, on which a circuit stands.
func behind(t *testing.T) *install.Job {
	t.Helper()
	j := &install.Job{Practice: "iec230", Kind: install.Rewire, Supply: install.Supply{Earthing: install.TNCS, DeclaredV: 230, ZeOhm: metres(0.2),
		PFCkA: metres(2), MainFuseA: metres(100), TailsMM2: metres(25)},
		Board: install.Board{Name: "Board A", MainSwitchA: metres(100), Ways: []install.Way{{No: 1}, {No: 2}}}}
	feed, end := Practice{}.Defaults("distribution"), Practice{}.Defaults("sockets-20")
	feed.ID, feed.Name, feed.Protection.Way = "c1", "Feed", 1
	end.ID, end.Name, end.From, end.Protection.Way = "c2", "Sockets", "c1", 1
	j.Circuits = []install.Circuit{feed, end}
	b := install.Board{ID: "b1", Name: "Kiln board", Feed: "c1", New: true, MainSwitchA: metres(63), Joined: new(false)}
	for n := 1; n <= 4; n++ {
		b.Ways = append(b.Ways, install.Way{No: n})
	}
	j.Boards = []install.Board{b}
	j.Tidy()
	terms := Practice{}.Terms()
	require.NoError(t, j.Agrees(terms, nil))
	return j
}

func judgedOf(j *install.Job, rule working.RuleID, of string) *working.Check {
	r := Practice{}.Judge(j)
	for _, c := range r.Checks() {
		if c.Rule == rule && (c.Object == of || c.Circuit == of) {
			return &c
		}
	}
	return nil
}

func TestAFurtherBoardIsJudgedForItself(t *testing.T) {
	for name, x := range map[string]struct {
		change  func(*install.Job)
		rule    working.RuleID
		of      string
		verdict working.Verdict
		says    string
	}{
		"its way":              {nil, "way", "c2", working.Pass, "Way 1 is for this circuit."},
		"a way that is taken":  {func(j *install.Job) { j.Boards[0].Ways[0].Label = "Fan" }, "way", "c2", working.Fail, "taken by Fan"},
		"its main switch":      {nil, "board-feed", "b1", working.Pass, "63"},
		"a smaller one":        {func(j *install.Job) { j.Boards[0].MainSwitchA = metres(16) }, "board-feed", "b1", working.Caution, "may flow"},
		"none recorded":        {func(j *install.Job) { j.Boards[0].MainSwitchA = install.Fact{} }, "board-feed", "b1", working.Unknown, ""},
		"rated for less":       {func(j *install.Job) { j.Boards[0].RatingA = metres(16) }, "board-feed", "b1", working.Fail, "rated 16"},
		"neutral and earth":    {nil, "board-joint", "b1", working.Pass, "apart"},
		"joined":               {func(j *install.Job) { j.Boards[0].Joined = new(true) }, "board-joint", "b1", working.Fail, "are joined"},
		"nobody looked":        {func(j *install.Job) { j.Boards[0].Joined = nil }, "board-joint", "b1", working.Unknown, ""},
		"its shared device":    {shared, "group", "g1", working.Pass, "1 of 1 circuits"},
		"that of another one":  {func(j *install.Job) { shared(j); j.Circuits[1].From = "" }, "residual", "c2", working.Unknown, ""},
		"tails of 2 m":         {onTails(2, 25, 100, 100), "board-feed", "b1", working.Pass, "Tails of 25"},
		"tails of 4 m":         {onTails(4, 25, 100, 100), "board-feed", "b1", working.Fail, "at most 3"},
		"tails too thin":       {onTails(2, 16, 100, 100), "board-feed", "b1", working.Fail, "Tails of 16"},
		"a block of 60 A":      {onTails(2, 25, 60, 100), "board-feed", "b1", working.Fail, "rated 60"},
		"a torque not written": {onTails(2, 25, 100, 0), "board-feed", "b1", working.Unknown, ""},
	} {
		j := behind(t)
		if x.change != nil {
			x.change(j)
		}
		c := judgedOf(j, x.rule, x.of)
		if x.rule == "board-feed" && len(j.Chain.Enclosures) > 0 { // the tails come after the main switch
			r := Practice{}.Judge(j)
			for _, k := range r.Checks() {
				if k.Rule == x.rule && k.Title == "Tails to Kiln board" {
					c = &k
				}
			}
		}
		require.NotNil(t, c, name)
		assert.Equal(t, x.verdict, c.Verdict, "%s: %s %v", name, c.Summary, c.Missing)
		assert.Contains(t, c.Summary, x.says, name)
	}
}

func shared(j *install.Job) {
	j.Boards[0].Groups = []install.Group{{ID: "g1", Name: "Kilns", RCDType: "A", IdnMA: 30, RatingA: 63}}
	j.Circuits[1].Protection.Group, j.Circuits[1].Protection.RCDType, j.Circuits[1].Protection.IdnMA = "g1", "", 0
}

// onTails hangs the board on tails of the supply arrangement instead, split by a block.
func onTails(m, mm2, blockA, torque float64) func(*install.Job) {
	return func(j *install.Job) {
		block := install.Enclosure{ID: "e1", Kind: kindBlock, Name: "Block", Owner: install.OwnerCustomer, RatingA: metres(blockA)}
		if torque > 0 {
			block.TorqueNm, block.TorqueSheet = metres(3), "leaflet"
		}
		j.Chain.Enclosures = []install.Enclosure{block, {ID: "e2", Kind: "second-board", Name: "Second", From: "e1", Owner: install.OwnerCustomer,
			Feed: install.Conductor{Material: "cu", Size: f(mm2), LengthM: metres(m)}}}
		j.Boards[0].Feed, j.Boards[0].Enclosure = "", "e2"
		j.Circuits[1].From = "b1"
	}
}

// What lies behind short tails is reckoned as at the origin; behind longer ones it is not known until they are a distribution circuit.
func TestTailsCountForNothingWhileTheyAreShort(t *testing.T) {
	j := behind(t)
	far := Practice{}.Judge(j)
	onTails(2, 25, 100, 3)(j)
	near := Practice{}.Judge(j)
	assert.Less(t, near.Circuit("c2").Summary.ZsCold, far.Circuit("c2").Summary.ZsCold)
	main := *j
	main.Circuits = []install.Circuit{j.Circuits[0], j.Circuits[1]}
	main.Circuits[1].From, main.Circuits[1].Protection.Way = "", 2
	at := Practice{}.Judge(&main)
	assert.InDelta(t, at.Circuit("c2").Summary.ZsCold, near.Circuit("c2").Summary.ZsCold, 1e-9)
	j = behind(t)
	onTails(5, 25, 100, 3)(j)
	assert.Equal(t, working.Unknown, judgedOf(j, loopID, "c2").Verdict)
}

// A further board has its own tests, and its fault current is the one that its devices have to break.
func TestAFurtherBoardIsTestedForItself(t *testing.T) {
	j := behind(t)
	r := Practice{}.Judge(j)
	tests := map[string]bool{}
	for _, x := range (Practice{}).Tests(j, &r) {
		tests[x.ID] = true
		if x.ID == "pfc:b1" {
			require.NotNil(t, x.Expected)
			assert.Less(t, *x.Expected, 2.0, "the way to it takes from the 2 kA at the origin")
			v, says := x.Judge(install.Record{Value: new(7.0)})
			assert.Equal(t, working.Fail, v, says)
		}
	}
	for _, id := range []string{"polarity-board:b1", "pfc:b1", "functional:b1"} {
		assert.True(t, tests[id], id)
	}
	j.Boards[0].New = false
	for i := range j.Circuits {
		j.Circuits[i].State = install.KeptCircuit
	}
	for _, x := range (Practice{}).Tests(j, &r) {
		assert.NotEqual(t, "pfc:b1", x.ID, "nobody works on it")
	}
}

// A joint can be reached or is made to be left alone, and is rated for the device ahead of it.
func TestJointsAreReachedAndRated(t *testing.T) {
	for name, x := range map[string]struct {
		box     install.Box
		verdict working.Verdict
		says    string
	}{
		"in reach and rated":    {install.Box{Accessible: new(true), RatingA: 32}, working.Pass, "can be reached"},
		"plastered over":        {install.Box{Accessible: new(false), RatingA: 32}, working.Fail, "maintenance-free"},
		"made to be left alone": {install.Box{Accessible: new(false), Sealed: new(true), RatingA: 32}, working.Pass, "left alone"},
		"rated too low":         {install.Box{Accessible: new(true), RatingA: 16}, working.Fail, "is rated 16"},
		"nobody looked":         {install.Box{RatingA: 32}, working.Unknown, ""},
		"rating not read":       {install.Box{Accessible: new(true)}, working.Unknown, ""},
	} {
		j := behind(t)
		b := x.box
		b.ID, b.Name, b.Device, b.Side = "j1", "over the door", install.NoDevice, install.LineSide
		j.Circuits[1].Serves.Boxes = []install.Box{b}
		c := judgedOf(j, "joints", "c2")
		require.NotNil(t, c, name)
		assert.Equal(t, x.verdict, c.Verdict, "%s: %s %v", name, c.Summary, c.Missing)
		assert.Contains(t, c.Summary, x.says, name)
	}
	assert.Nil(t, judgedOf(behind(t), "joints", "c2"), "without a joint nothing is asked")
}
