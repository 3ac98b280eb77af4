package install

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var boardTerms = Terms{Locale: "en-GB", Feeder: "feeder", Columns: 2}

// twoBoards is a job with a main board and one behind a distribution circuit, with a circuit on each.
func twoBoards() *Job {
	j := &Job{Board: Board{Name: "Main", Ways: []Way{{No: 1}, {No: 2}, {No: 3}, {No: 4, Halves: true}}},
		Boards: []Board{{ID: "b1", Name: "Kiln board", Feed: "c1", Ways: []Way{{No: 1}, {No: 2}, {No: 3}},
			Groups: []Group{{ID: "g1", Name: "Kilns"}}}},
		Chain: Chain{Enclosures: []Enclosure{{ID: "e1", Name: "Tap box"}, {ID: "e2", Name: "Second", From: "e1"}}},
		Circuits: []Circuit{{ID: "c1", Name: "Feed", Use: "feeder", Protection: Protection{Way: 1, Poles: 2}},
			{ID: "c2", Name: "Kiln", Use: "fixed", From: "c1", Protection: Protection{Way: 1, Poles: 1, Group: "g1"}},
			{ID: "c3", Name: "Lights", Use: "lights", Protection: Protection{Way: 2, Poles: 1}}}}
	j.Tidy()
	return j
}

func TestCircuitsStandOnTheirBoards(t *testing.T) {
	j := twoBoards()
	require.NoError(t, j.Agrees(boardTerms, nil))
	assert.Equal(t, "Kiln board", j.BoardOf(&j.Circuits[1]).Name)
	assert.Equal(t, "Main", j.BoardOf(&j.Circuits[2]).Name)
	assert.Equal(t, "Feed", j.FeederOf(&j.Circuits[1]).Name)
	assert.Equal(t, "Kilns", j.GroupOf(&j.Circuits[1]).Name)
	j.Circuits[2].Protection.Group = "g1"
	assert.Nil(t, j.GroupOf(&j.Circuits[2]), "a device of another board is none of this one's")
	free := []int{}
	for _, w := range boardTerms.FreeWays(j, &j.Board) {
		free = append(free, w.No)
	}
	assert.Equal(t, []int{4}, free, "1 and 3 are under the two poles of the feed")
	assert.Len(t, boardTerms.FreeWays(j, &j.Boards[0]), 2)
	assert.Equal(t, "Lights stays: it feeds Kiln board. Take the board off first.", (&Job{Circuits: []Circuit{{ID: "c9", Name: "Lights"}},
		Boards: []Board{{ID: "b1", Name: "Kiln board", Feed: "c9"}}}).circuitStays("c9"))
	assert.NotEmpty(t, j.boardStays("b1"), "a circuit shares a device of it")
	j.Circuits[1].Protection.Group = ""
	assert.Empty(t, j.boardStays("b1"))
}

// What does not go together is refused with the part, the value and what would be accepted, all of it at once.
func TestBoardsThatDoNotAgreeAreRefused(t *testing.T) {
	for name, x := range map[string]struct {
		spoil func(*Job)
		field string
	}{
		"fed by nothing":              {func(j *Job) { j.Boards[0].Feed = "" }, "boards/b1.feed"},
		"fed by what feeds no board":  {func(j *Job) { j.Boards[0].Feed = "c3" }, "boards/b1.feed"},
		"fed twice":                   {func(j *Job) { j.Boards[0].Enclosure = "e2" }, "boards/b1.enclosure"},
		"an enclosure that is none":   {func(j *Job) { j.Board.Enclosure = "e9" }, "board.enclosure"},
		"the main board fed":          {func(j *Job) { j.Board.Feed = "c1" }, "board.feed"},
		"two behind one circuit":      {func(j *Job) { j.Boards = append(j.Boards, Board{ID: "b2", Name: "Other", Feed: "c1"}) }, "boards/b2.feed"},
		"a shared device of one id":   {func(j *Job) { j.Board.Groups = []Group{{ID: "g1", Name: "Lights"}} }, "boards/b1.groups[0].id"},
		"the id of a circuit":         {func(j *Job) { j.Boards[0].ID = "c3" }, "boards/c3.id"},
		"a board that feeds itself":   {func(j *Job) { j.Circuits[0].From = "c1" }, "circuits/c1.from"},
		"a circuit from a fed board":  {func(j *Job) { j.Circuits[2].From = "b1" }, "circuits/c3.from"},
		"two on one way":              {func(j *Job) { j.Circuits[2].Protection.Way = 3 }, "circuits/c3.protection.way"},
		"two on one half":             {onHalves("a", "a"), "circuits/c3.protection.way"},
		"a whole one over a half":     {onHalves("a", ""), "circuits/c3.protection.way"},
		"a circuit from a lost board": {func(j *Job) { j.Circuits[2].From = "b7" }, "circuits/c3.from"},
	} {
		j := twoBoards()
		x.spoil(j)
		var es Errors
		require.ErrorAs(t, j.Agrees(boardTerms, nil), &es, name)
		fields := []string{}
		for _, e := range es {
			fields = append(fields, e.Field)
			assert.NotEmpty(t, e.Accept, name)
		}
		assert.Contains(t, fields, x.field, name)
	}
	j := twoBoards()
	onHalves("a", "b")(j)
	assert.NoError(t, j.Agrees(boardTerms, nil), "each on a half of its own")
	j = twoBoards()
	j.Boards = nil
	j.Circuits[2].From, j.Circuits[2].Protection.Way = "c1", 1
	assert.NoError(t, j.Agrees(boardTerms, nil), "ways of a board that nobody wrote down say nothing")
	j = twoBoards()
	j.Boards = append(j.Boards, Board{ID: "b2", Name: "Second", Enclosure: "e2", Ways: []Way{{No: 1}}})
	j.Circuits[2].From = "b2"
	j.Circuits[2].Protection.Way = 1
	assert.NoError(t, j.Agrees(boardTerms, nil), "a board of the supply arrangement")
	assert.True(t, j.AtOrigin(&j.Circuits[2]))
	assert.False(t, j.AtOrigin(&j.Circuits[1]))
	// Who takes the enclosure away is told, also where the board was not touched.
	j.Chain.Enclosures = j.Chain.Enclosures[:1]
	var es Errors
	require.ErrorAs(t, j.Agrees(boardTerms, func(part string) bool { return part == "chain" }), &es)
	assert.Equal(t, "chain.enclosures", es[0].Field)
}

// onHalves puts two circuits of one pole on space 4 of the main board.
func onHalves(first, second Half) func(*Job) {
	return func(j *Job) {
		j.Circuits[1].From, j.Circuits[1].Protection = "", Protection{Way: 4, Poles: 1, Half: first}
		j.Circuits[2].Protection = Protection{Way: 4, Poles: 1, Half: second}
	}
}
