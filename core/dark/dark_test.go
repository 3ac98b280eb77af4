package dark

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/words"
)

// house is one of two floors: a light and a socket in each room, two devices that circuits share.
func twoFloors(upLights, upSockets string) *install.Job {
	j := &install.Job{Words: words.In(words.Locale("en-GB")), Board: install.Board{Name: "Main", Groups: []install.Group{{ID: "a", Name: "RCD A"}, {ID: "b", Name: "RCD B"}}}}
	for _, r := range []struct{ id, name, floor string }{{"r1", "Parlour", "ground"}, {"r2", "Office", "first"}} {
		j.Rooms = append(j.Rooms, install.Room{ID: r.id, Name: r.name, Floor: r.floor, Points: []install.RoomPoint{
			{ID: "l", Kind: "light", Count: 1, State: install.New}, {ID: "s", Kind: "socket-2", Count: 2, State: install.New}}})
	}
	put := func(id, name, group, room, point string, device install.BoxDevice, n int) {
		k := install.Circuit{ID: id, Name: name, Protection: install.Protection{Group: group}}
		from := ""
		for i := range n {
			b := install.Box{ID: id + string(rune('a'+i)), Name: name, Tag: len(j.Circuits)*10 + i + 1, Room: room, Point: point, Device: device, From: from, Side: install.LineSide}
			k.Serves.Boxes, from = append(k.Serves.Boxes, b), b.ID
		}
		j.Circuits = append(j.Circuits, k)
	}
	put("c1", "Lights down", "a", "r1", "l", install.Luminaire, 1)
	put("c2", "Sockets down", "b", "r1", "s", install.PlainOutlet, 2)
	put("c3", "Lights up", upLights, "r2", "l", install.Luminaire, 1)
	put("c4", "Sockets up", upSockets, "r2", "s", install.PlainOutlet, 2)
	return j
}

func device(t *testing.T, r Report, id string) Device {
	t.Helper()
	for _, d := range r.Devices {
		if d.ID == id {
			return d
		}
	}
	require.Fail(t, "no device "+id)
	return Device{}
}

func TestWhatGoesDarkByADevice(t *testing.T) {
	r := Of(twoFloors("b", "b"))
	one := device(t, r, "circuit:c2")
	require.Len(t, one.Rooms, 1)
	assert.Equal(t, "Parlour", one.Rooms[0].Name)
	assert.Equal(t, []survey.Loss{survey.LosesPower}, one.Rooms[0].All)
	assert.Len(t, one.Rooms[0].Points, 2)
	assert.Empty(t, one.Both)

	b := device(t, r, "group:b")
	assert.Equal(t, []string{"all of floor first"}, b.Both, "light and sockets of the upper floor hang on it")
	assert.True(t, b.Worst, "and it takes most along")
	assert.Equal(t, []string{"all of floor ground", "all of floor first"}, device(t, r, "main").Both)
	assert.False(t, device(t, r, "main").Worst, "that a main switch takes all along is no news")

	require.NotEmpty(t, r.Moves)
	assert.Equal(t, Move{"c3", "Lights up", "RCD B", "RCD A", "a", "all of floor first: no longer without light and power at once."}, r.Moves[0])
	crossed := Of(twoFloors("a", "b"))
	assert.Empty(t, crossed.Moves)
	for _, d := range crossed.Devices {
		assert.True(t, d.ID == "main" || len(d.Both) == 0, "%s: %v", d.Name, d.Both)
	}
}

// What an outlet opens is what hangs on its load terminals, and what follows on its line terminals is spared.
func TestWhatAnOutletOfARunTakesAlong(t *testing.T) {
	j := twoFloors("a", "b")
	k := &j.Circuits[1]
	k.Serves.Boxes[0].Device = install.GroundFault
	assert.Len(t, device(t, Of(j), "box:c2/c2a").Rooms[0].Points, 1, "the next is on LINE")
	k.Serves.Boxes[1].Side = install.LoadSide
	assert.Len(t, device(t, Of(j), "box:c2/c2a").Rooms[0].Points, 2)
}

// A board that a circuit feeds goes dark with it, and a circuit with no point on a run is told by its name.
func TestABoardBehindACircuit(t *testing.T) {
	j := twoFloors("a", "b")
	j.Circuits = append(j.Circuits, install.Circuit{ID: "c5", Name: "To the annexe"}, install.Circuit{ID: "c6", Name: "Annexe heater", From: "c5"})
	r := Of(j)
	assert.Equal(t, []string{"To the annexe", "Annexe heater"}, r.Unplaced)
	feed := device(t, r, "circuit:c5")
	require.Len(t, feed.Rooms, 1)
	assert.Equal(t, []string{"To the annexe", "Annexe heater"}, feed.Rooms[0].Points)
	assert.Equal(t, "board behind To the annexe", device(t, r, "circuit:c6").Board)
	assert.Empty(t, Of(&install.Job{Words: j.Words}).Devices)
}

// A further board goes dark with its own main switch, with the circuit that feeds it and with the main switch ahead, and its shared
// devices take only what stands on it.
func TestAFurtherBoardGoesDarkWithWhatFeedsIt(t *testing.T) {
	j := twoFloors("u", "u")
	feed := install.Circuit{ID: "c9", Name: "Feed"}
	j.Circuits = append(j.Circuits, feed)
	j.Boards = []install.Board{{ID: "b1", Name: "Upper board", Feed: "c9", Groups: []install.Group{{ID: "u", Name: "RCD U"}}}}
	j.Circuits[2].From, j.Circuits[3].From = "c9", "c9"
	r := Of(j)
	for _, id := range []string{"main", "main:b1", "circuit:c9", "group:u"} {
		rooms := []string{}
		for _, x := range device(t, r, id).Rooms {
			rooms = append(rooms, x.Name)
		}
		assert.Contains(t, rooms, "Office", id)
		if id != "main" {
			assert.NotContains(t, rooms, "Parlour", id)
		}
	}
	assert.Equal(t, "Upper board", device(t, r, "circuit:c3").Board)
	assert.Equal(t, "Main", device(t, r, "circuit:c9").Board)
	assert.False(t, device(t, r, "main:b1").Worst, "that a main switch takes its board along is no news")
	assert.True(t, device(t, r, "group:u").Worst)
	assert.Empty(t, r.Moves, "a circuit does not move to a device of another board")
}

// Two lines that share a neutral go dark together where one handle opens them, else each by itself.
func TestLinesOfASharedNeutralGoDarkAsTheyOpen(t *testing.T) {
	j := twoFloors("a", "b")
	k := &j.Circuits[1]
	k.Protection.Shared = install.SharedNeutral{Is: true, Opens: install.OpensTogether}
	k.Serves.Boxes[1].Line = install.SecondLine
	points := func(id string) int {
		n := 0
		for _, d := range Of(j).Devices {
			if d.ID == id {
				for _, r := range d.Rooms {
					n += len(r.Points)
				}
			}
		}
		return n
	}
	assert.Equal(t, 2, points("circuit:c2"))
	k.Protection.Shared.Opens = install.OpensApart
	assert.Equal(t, 1, points("circuit:c2"))
	assert.Equal(t, 1, points("circuit:c2/second"))
	assert.Equal(t, 2, points("main")-points("circuit:c1")-points("circuit:c3")-points("circuit:c4"))
}

// A circuit that leaves goes dark by nothing, and is named until it was proved dead.
func TestWhatLeavesIsNamedUntilItIsDead(t *testing.T) {
	j := twoFloors("a", "b")
	j.Circuits[1].State = install.RemovedCircuit
	r := Of(j)
	for _, d := range r.Devices {
		assert.NotEqual(t, "circuit:c2", d.ID)
	}
	assert.Equal(t, []string{"Sockets down"}, r.Abandoned)
	j.Records = []install.Record{{Kind: install.Tick, Subject: j.Circuits[1].PartStep(), Done: true}}
	assert.Empty(t, Of(j).Abandoned)
}
