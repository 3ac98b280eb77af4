package materials

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
)

// needs is what a list takes of each product.
func needs(to TakeOff) map[string]float64 {
	out := map[string]float64{}
	for _, l := range to.Lines {
		out[l.Key] = l.Need
	}
	return out
}

// outletsOn is a job of a practice with six walked outlets of a studio on a run, the second of which feeds three others.
func outletsOn(p rulebook.Practice, use string) (*install.Job, *install.Circuit) {
	book := rulebook.Complete(p)
	k := book.Defaults(use)
	k.ID, k.State = "c1", install.NewCircuit
	for i, from := range []string{"", "a", "b", "b", "b", "c"} {
		k.Serves.Boxes = append(k.Serves.Boxes, install.Box{ID: string(rune('a' + i)), From: from, Name: "outlet", Device: install.PlainOutlet,
			RatingA: 15, Room: "r", Point: "p"})
	}
	j := &install.Job{Practice: p.ID(), Rules: install.Rules{Edition: p.Terms().Editions[0]}, Circuits: []install.Circuit{k},
		Rooms: []install.Room{{ID: "r", Name: "Studio", Points: []install.RoomPoint{{ID: "p", Kind: "socket-2", Count: 6, State: install.New}}}}}
	return j, &j.Circuits[0]
}

// The box of an outlet follows what enters it, and becomes another when the run does.
func TestBoxesFollowTheRun(t *testing.T) {
	j, k := outletsOn(iec230.Practice{}, "sockets")
	j.Rooms[0].Points[0].Box = "1g 35"
	n := needs(of(j, nil))
	assert.InDelta(t, 5, n["box:1g 35"], 0)
	assert.InDelta(t, 1, n["box:1g 47"], 0, "four cables behind one accessory")
	k.Serves.Boxes[4].From = "f"
	n = needs(of(j, nil))
	assert.InDelta(t, 1, n["box:1g 47"], 0, "three are still more than six conductors")
	k.Serves.Boxes[3].From = "e"
	n = needs(of(j, nil))
	assert.InDelta(t, 6, n["box:1g 35"], 0, "none has more than two")
	assert.NotContains(t, n, "box:1g 47")
	for _, l := range of(j, nil).Lines {
		if l.Key == "box:1g 35" {
			assert.False(t, l.Assumed)
		}
	}
	k.Serves.Boxes = k.Serves.Boxes[:4]
	assert.True(t, line(t, of(j, nil), "box:1g 35").Assumed, "two are on no run: nobody knows what enters them")

	split, _ := outletsOn(split120.Practice{}, "general-20")
	to := Of(Model{Job: split, Book: rulebook.Complete(split120.Practice{})})
	n = needs(to)
	total := 0.0
	for key, count := range n {
		if family(key) != nil && family(key).Group == string(BoxesGroup) {
			total += count
		}
	}
	assert.InDelta(t, 6, total, 0, "each once, on its circuit or on the walk: %v", n)
	assert.InDelta(t, 6, n["plate:duplex"], 0)
}

// What no box holds leaves the list open, and says where.
func TestWhatNoBoxHolds(t *testing.T) {
	j, k := outletsOn(iec230.Practice{}, "sockets")
	k.Serves.Boxes[1].Cables = 8
	gaps := of(j, nil).Gaps
	require.NotEmpty(t, gaps)
	assert.Contains(t, gaps[len(gaps)-1].What, "no box of the table holds what enters it")
	assert.Equal(t, "c1", gaps[len(gaps)-1].Circuit)
}

// A finish is another product with a price of its own; what is said of who brings an accessory stays with it.
func TestAFinishIsAProductOfItsOwn(t *testing.T) {
	j, _ := outletsOn(iec230.Practice{}, "sockets")
	prices := map[string]Item{"point:socket-2": {Key: "point:socket-2", Price: 4}}
	j.Materials.Brought = map[string]install.Brought{"r:point:socket-2": {By: install.ByClient, Expected: "2026-12-01"}}
	white := line(t, of(j, prices), "point:socket-2")
	require.NotNil(t, white.Asks[0].Brought)
	j.Materials.Finish = install.Brass
	to := of(j, prices)
	brass := line(t, to, "finish:brass:point:socket-2")
	assert.Nil(t, brass.Price, "the price of white plastic is not that of brass")
	require.NotNil(t, brass.Asks[0].Brought, "the client brings it whatever its finish is")
	assert.InDelta(t, 6, line(t, to, "earth-tail").Need, 0, "metal is earthed")
	j.Materials.Brought, j.Rooms[0].Finish = nil, install.Black
	to = of(j, prices)
	assert.InDelta(t, 6, needs(to)["finish:black:point:socket-2"], 0, "a room has its own")
	assert.NotContains(t, needs(to), "earth-tail", "plastic is not")
	j.Rooms[0].Finish = install.White
	assert.InDelta(t, 6, needs(of(j, prices))["point:socket-2"], 0, "white in a house of brass")

	split, k := outletsOn(split120.Practice{}, "general-20")
	split.Materials.Finish = install.Steel
	k.Serves.Boxes[0].Device, k.Serves.Boxes[0].Yokes = install.GroundFault, 2
	n := needs(Of(Model{Job: split, Book: rulebook.Complete(split120.Practice{})}))
	assert.InDelta(t, 5, n["finish:steel:plate:duplex"], 0)
	assert.InDelta(t, 1, n["finish:steel:plate:duplex+rectangular"], 0, "two devices under one plate")
	assert.NotContains(t, n, "earth-tail", "its screws ground it")
}

// A fan brings its isolator, its cable and its duct, which is as long as it was measured.
func TestAFanBringsItsKit(t *testing.T) {
	fan := install.RoomPoint{ID: "f", Kind: "fan", Count: 1, State: install.New}
	j := &install.Job{Rooms: []install.Room{{ID: "r", Name: "Shower room", Points: []install.RoomPoint{fan}}}}
	to := of(j, nil)
	duct := line(t, to, "air-duct:100")
	assert.True(t, duct.Assumed)
	assert.InDelta(t, 3, duct.Need, 0, "usual until it is measured")
	for _, key := range []string{"fan-isolator", "air-grille:100", "cable:strapper"} {
		assert.Positive(t, line(t, to, key).Need, key)
	}
	j.Rooms[0].Points[0].DuctM = 4.2
	duct = line(t, of(j, nil), "air-duct:100")
	assert.False(t, duct.Assumed)
	assert.InDelta(t, 4.2, duct.Need, 1e-9)
	j.Rooms[0].Points[0].State = install.Kept
	assert.Empty(t, of(j, nil).Lines, "one that stays takes nothing")

	j.Rooms[0].Points[0].State = install.New
	split := line(t, Of(Model{Job: j, Book: rulebook.Complete(split120.Practice{})}), "air-duct:4in")
	assert.Equal(t, "ft", split.Unit)
	assert.InDelta(t, 13.8, split.Need, 0.05, "4.2 m")
}

// What stands on a run and names no point is listed, except where the walk still has as many of its kind on no run: it may be those.
func TestWhatTheWalkHasIsNotBoughtTwice(t *testing.T) {
	sockets := func(walked, unnamed int) float64 {
		j, k := outletsOn(iec230.Practice{}, "sockets")
		j.Rooms[0].Points[0].Count = walked
		k.Serves.Boxes = k.Serves.Boxes[:unnamed]
		for i := range k.Serves.Boxes {
			k.Serves.Boxes[i].Room, k.Serves.Boxes[i].Point = "", ""
		}
		if walked == 0 {
			j.Rooms = nil
		}
		return needs(of(j, nil))["point:socket-2"]
	}
	assert.InDelta(t, 4, sockets(0, 4), 0, "no walk: those of the run")
	assert.InDelta(t, 6, sockets(6, 4), 0, "four of the six stand there")
	assert.InDelta(t, 4, sockets(3, 4), 0, "one more than was walked")
}

// Tools use up something with much work; for little it is on the van.
func TestWhatToolsUseUp(t *testing.T) {
	boxes := func(n int) map[string]float64 {
		return needs(of(&install.Job{Rooms: []install.Room{{ID: "r", Name: "Studio",
			Points: []install.RoomPoint{{ID: "p", Kind: "socket-2", Count: n, State: install.New}}}}}, nil))
	}
	assert.InDelta(t, 2, boxes(45)["consumable:blade"], 0)
	assert.InDelta(t, 1, boxes(45)["consumable:bit"], 0)
	assert.NotContains(t, boxes(19), "consumable:blade")
}

// Lamps are bought by what tells one from another; one of which that is not known leaves the list open.
func TestLampsAreToldByTheirAttributes(t *testing.T) {
	light := install.RoomPoint{ID: "l", Kind: "light", Count: 2, State: install.New, Dimmed: true, Lamp: install.Lamp{Cap: "E27", Each: 3}}
	j := &install.Job{Rooms: []install.Room{{ID: "r", Name: "Gallery", Points: []install.RoomPoint{light}}}}
	lacks := func() bool {
		for _, g := range of(j, nil).Gaps {
			if g.What == "Gallery: the colour temperature or the power of the lamps E27 is not said yet." {
				return true
			}
		}
		return false
	}
	assert.True(t, lacks())
	l := &j.Rooms[0].Points[0].Lamp
	l.ColourK, l.PowerW = 2700, 4.5
	assert.False(t, lacks())
	assert.InDelta(t, 6, needs(of(j, nil))["lamp:E27:2700:4.5:dim"], 0, "three in each of two")
	j.Rooms[0].Points[0].Dimmed = false
	assert.InDelta(t, 6, needs(of(j, nil))["lamp:E27:2700:4.5"], 0, "another product: it need not be dimmed")
	l.Cap = install.BuiltIn
	assert.NotContains(t, needs(of(j, nil)), "lamp:built in:2700:4.5")
}
