package install

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A circuit that leaves is none of the installation, gives its way back, and counts as live until both its ends were proved dead.
func TestACircuitThatLeaves(t *testing.T) {
	for _, state := range []CircuitState{RemovedCircuit, DormantCircuit} {
		j := twoBoards()
		assert.Same(t, j, j.Standing(), "nothing is copied where nothing leaves")
		j.Board.Ways[1].Label = "Old lights"
		free := func() (out []int) {
			for _, w := range boardTerms.FreeWays(j, &j.Board) {
				out = append(out, w.No)
			}
			return out
		}
		require.Equal(t, []int{4}, free())
		j.Circuits[2].State = state
		require.NoError(t, j.Agrees(boardTerms, nil))
		assert.Equal(t, []int{2, 4}, free(), "its way is free, whatever the board says of it")
		stays := j.Standing()
		require.Len(t, stays.Circuits, 2)
		assert.Nil(t, stays.CircuitByID("c3"))
		assert.NotNil(t, j.CircuitByID("c3"), "the job keeps it")
		other := j.Circuits[2]
		other.ID, other.Name, other.State = "c4", "New lights", NewCircuit
		j.Circuits = append(j.Circuits, other)
		require.NoError(t, j.Agrees(boardTerms, nil), "another takes its way")

		k := j.CircuitByID("c3")
		assert.Nil(t, j.LeavingOf(j.CircuitByID("c4")))
		require.Nil(t, j.LeavingOf(k).Parted)
		require.Len(t, j.Abandoned(nil), 1, "nobody knows where its cable lies")
		tick := func(done bool) {
			j.Records = append(j.Records, Record{Kind: Tick, Subject: k.PartStep(), Done: done, By: "Ada", At: time.Unix(int64(len(j.Records)), 0)})
		}
		tick(true)
		require.Equal(t, "Ada", j.LeavingOf(k).Parted.By)
		assert.Empty(t, j.Abandoned(nil))
		tick(false)
		assert.Nil(t, j.LeavingOf(k).Parted, "taken back")
	}
}

// Abandoned cable is a danger where its points are, and anywhere where nobody knows.
func TestAbandonedCableIsWhereItsPointsAre(t *testing.T) {
	j := twoBoards()
	j.Rooms = []Room{{ID: "r1", Name: "Store"}, {ID: "r2", Name: "Hall"}}
	j.Circuits[2].State, j.Circuits[2].Serves.Boxes = RemovedCircuit, []Box{{ID: "p1", Room: "r1"}}
	assert.Len(t, j.Abandoned(&j.Rooms[0]), 1)
	assert.Empty(t, j.Abandoned(&j.Rooms[1]))
	assert.Empty(t, j.Abandoned(nil), "its way is known")
}

func TestWhatHangsOnACircuitThatLeavesIsRefused(t *testing.T) {
	told := func(j *Job) map[string]string {
		var es Errors
		require.ErrorAs(t, j.Agrees(boardTerms, nil), &es)
		out := map[string]string{}
		for _, e := range es {
			out[e.Field] = e.Accept
		}
		return out
	}
	j := twoBoards()
	j.Circuits[0].State = RemovedCircuit
	got := told(j)
	assert.Contains(t, got["circuits/c2.from"], "Feed is taken out")
	assert.Contains(t, got["boards/b1.feed"], "Feed is taken out")
	assert.Contains(t, got["circuits/c1.state"], "stays behind it")
	var es Errors
	require.ErrorAs(t, j.Agrees(boardTerms, func(part string) bool { return part == "circuits/c1" }), &es, "who takes it out is told")

	j = twoBoards()
	j.Rooms = []Room{{ID: "r1", Name: "Store", Points: []RoomPoint{{ID: "x", Kind: "light", Count: 1, State: New}}}}
	j.Circuits[2].Serves.Boxes = []Box{{ID: "p1", Name: "lamp", Room: "r1", Point: "x"}}
	require.NoError(t, j.Agrees(boardTerms, nil))
	j.Circuits[2].State = RemovedCircuit
	assert.Contains(t, told(j)["circuits/c3.serves.boxes[0].point"], "taken out with the circuit", "a new point on a run that leaves")
	j.Circuits[2].State = DormantCircuit
	assert.Contains(t, told(j)["circuits/c3.serves.boxes[0].point"], "left as it is")
	// A point that stays is free for another circuit, though its own is taken out.
	j.Circuits[2].State = RemovedCircuit
	assert.Empty(t, j.Placed())
	j.Circuits[1].Serves.Boxes = []Box{{ID: "p2", Name: "lamp", Room: "r1", Point: "x"}}
	require.NoError(t, j.Agrees(boardTerms, func(part string) bool { return part == "circuits/c2" }))
	j.Circuits[1].Serves.Boxes = nil
	j.Rooms[0].Points[0].State = Removed
	require.NoError(t, j.Agrees(boardTerms, nil))
	j.Kind = Inspection
	assert.Contains(t, told(j)["circuits/c3.state"], "takes nothing out")
}
