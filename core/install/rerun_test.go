package install

import (
	"encoding/json"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/words"
)

var ringTerms = Terms{Locale: words.Locale("en-GB"), Ring: "ring", Unring: "radial"}

func asPoint(_ *Room, p *RoomPoint) Placing {
	return Placing{Name: p.Kind, Device: PlainOutlet, Height: 450}
}

// house is a job with a room of five points and a radial circuit of one measured route.
func house() *Job {
	j := &Job{Rooms: []Room{{ID: "r1", Name: "Study", Points: []RoomPoint{{ID: "q1", Kind: "socket-2", Count: 5, State: New}, {ID: "q2",
		Kind: "light", Count: 1, State: Removed}}}},
		Circuits: []Circuit{{ID: "c1", Name: "Sockets", Use: "radial", Protection: Protection{RatingA: 20},
			Route: Route{SlackM: 1, BoardTailM: 0.5, Segments: []Segment{{Place: "hall", LengthM: 12, Basis: Measured, Method: "C"}}}},
			{ID: "c2", Name: "Others", Use: "radial", Protection: Protection{RatingA: 20},
				Route: Route{Segments: []Segment{{Place: "hall", LengthM: 8, Basis: Assumed, Method: "A"}}}}}}
	j.Tidy()
	return j
}

func (j *Job) does(t *testing.T, ch RunChange) {
	t.Helper()
	_, err := j.Rerun(ch, ringTerms, asPoint)
	require.NoError(t, err)
	for i := range j.Circuits {
		require.NoError(t, j.Circuits[i].sound())
	}
	require.NoError(t, j.Agrees(ringTerms, nil))
}

// sound checks the run of a circuit alone.
func (k *Circuit) sound() error {
	c := &checker{in: k.ID + ".", w: words.In(ringTerms.Locale)}
	c.run(k, &ringTerms)
	return c.result()
}

func (k *Circuit) cableM() float64 {
	m := 0.0
	for _, s := range k.Route.Segments {
		m += s.LengthM
	}
	return m
}

func order(k *Circuit) []string {
	out := []string{}
	for i := range k.Serves.Boxes {
		out = append(out, k.Serves.Boxes[i].Label())
	}
	return out
}

func TestPointsOfTheWalkArePutOnARunAndMoved(t *testing.T) {
	j := house()
	k := &j.Circuits[0]
	j.does(t, RunChange{Do: PlacePoint, Circuit: "c1", Room: "r1", Point: "q1", Count: 3})
	assert.Equal(t, []string{"P001", "P002", "P003"}, order(k))
	assert.Equal(t, "Study, socket-2", k.Serves.Boxes[0].Name)
	assert.False(t, k.Legged(), "the route was entered for all of them")

	held := *j
	held.Circuits = append([]Circuit{}, j.Circuits...)
	j.does(t, RunChange{Do: SetLeg, Circuit: "c1", Box: "p2", LengthM: 3})
	assert.False(t, held.Circuits[0].Legged(), "whoever holds the job as it was holds it unchanged")
	legs := k.Legs()
	assert.Equal(t, []float64{4, 3, 4}, []float64{legs[0].LengthM, legs[1].LengthM, legs[2].LengthM}, "a third each, and the one that was measured")
	assert.Equal(t, []bool{false, true, false}, []bool{legs[0].Measured, legs[1].Measured, legs[2].Measured})
	assert.InDelta(t, 1.5, legs[0].TailsM, 1e-9)

	j.does(t, RunChange{Do: MoveBox, Circuit: "c1", Box: "p3", After: "p1", Before: "p2"})
	assert.Equal(t, []string{"P001", "P003", "P002"}, order(k))
	legs = k.Legs()
	assert.Equal(t, []float64{4, 1.5, 1.5}, []float64{legs[0].LengthM, legs[1].LengthM, legs[2].LengthM}, "the leg is parted, the end's is gone")
	assert.False(t, legs[1].Measured)

	j.does(t, RunChange{Do: MoveBox, Circuit: "c1", Box: "p3", To: "c2"})
	assert.Equal(t, []string{"P001", "P002"}, order(k))
	assert.Equal(t, []string{"P003"}, order(&j.Circuits[1]))
	assert.InDelta(t, 7, k.cableM(), 1e-9, "what joined the other two joins them again")

	j.does(t, RunChange{Do: InsertJoint, Circuit: "c1", After: "p1", Before: "p2", RatingA: 20})
	assert.Equal(t, NoDevice, k.Serves.Boxes[1].Device)
	assert.Equal(t, 2, k.Serves.Points(), "a joint is no point")
	assert.InDelta(t, 7, k.cableM(), 1e-9)

	j.does(t, RunChange{Do: SplitRun, Circuit: "c1", Box: "p2"})
	require.Len(t, j.Circuits, 3)
	assert.Equal(t, []string{"P002"}, order(&j.Circuits[2]))
	assert.InDelta(t, 4, j.Circuits[2].cableM(), 1e-9, "as far from the board as the first of the old one, assumed")
	assert.Equal(t, Assumed, j.Circuits[2].Route.Segments[0].Basis)
}

func TestARingClosesBreaksAndHasSpurs(t *testing.T) {
	j := house()
	k := &j.Circuits[0]
	k.Use = "ring"
	j.does(t, RunChange{Do: PlacePoint, Circuit: "c1", Room: "r1", Point: "q1", Count: 4})
	assert.Equal(t, []string{"p1", "p2", "p3", "p4"}, k.Serves.Main())
	for leg, m := range map[string]float64{"p1": 10, "p2": 3, "p3": 4, "p4": 5, BackLeg: 20} {
		j.does(t, RunChange{Do: SetLeg, Circuit: "c1", Box: leg, LengthM: m})
	}
	assert.InDelta(t, 42, k.cableM(), 1e-9)
	j.does(t, RunChange{Do: PlacePoint, Circuit: "c1", Room: "r1", Point: "q1", After: "p2"})
	j.does(t, RunChange{Do: SetLeg, Circuit: "c1", Box: "p5", LengthM: 2})
	spurs := k.Branches()
	require.Len(t, spurs, 1)
	assert.Equal(t, Spur{Place: "Study, socket-2", LengthM: 2, Outlets: 1}, spurs[0])

	j.does(t, RunChange{Do: BreakRing, Circuit: "c1", Box: "p3"})
	assert.Equal(t, Use("radial"), k.Use)
	from := map[string]string{}
	length := map[string]float64{}
	for _, l := range k.Legs() {
		from[l.To], length[l.To] = l.From, l.LengthM
	}
	assert.Equal(t, map[string]string{"p1": "", "p2": "p1", "p5": "p2", "p4": "", "p3": "p4"}, from)
	assert.Equal(t, map[string]float64{"p1": 10, "p2": 3, "p5": 2, "p4": 20, "p3": 5}, length, "the leg from the second to the third is left out")

	j.does(t, RunChange{Do: CloseRing, Circuit: "c1", Box: "p3"})
	assert.Equal(t, []string{"p4", "p3"}, k.Serves.Main())
}

func TestWhatARunCannotBeIsRefused(t *testing.T) {
	refused := func(name, field string, ch RunChange, set func(*Job)) {
		t.Helper()
		j := house()
		j.does(t, RunChange{Do: PlacePoint, Circuit: "c1", Room: "r1", Point: "q1", Count: 3})
		if set != nil {
			set(j)
		}
		_, err := j.Rerun(ch, ringTerms, asPoint)
		var es Errors
		require.ErrorAs(t, err, &es, name)
		assert.Equal(t, field, es[0].Field, name)
	}
	refused("a circuit that is not there", "run.circuit", RunChange{Do: TakeOff, Circuit: "c9", Box: "p1"}, nil)
	refused("a box that is not there", "run.box", RunChange{Do: TakeOff, Circuit: "c1", Box: "p9"}, nil)
	refused("more points than the walk has", "run.count", RunChange{Do: PlacePoint, Circuit: "c2", Room: "r1", Point: "q1", Count: 3}, nil)
	refused("a point that is taken out", "run.point", RunChange{Do: PlacePoint, Circuit: "c2", Room: "r1", Point: "q2"}, nil)
	refused("a place that is none", "run.before", RunChange{Do: MoveBox, Circuit: "c1", Box: "p1", After: "p3", Before: "p2"}, nil)
	refused("behind itself", "run.after", RunChange{Do: MoveBox, Circuit: "c1", Box: "p1", After: "p1"}, nil)
	refused("a joint that feeds nothing", "run.before", RunChange{Do: InsertJoint, Circuit: "c1", After: "p3"}, nil)
	refused("a leg of no length", "run.lengthM", RunChange{Do: SetLeg, Circuit: "c1", Box: "p1"}, nil)
	refused("a step that is none", "run.do", RunChange{Do: "wiggle", Circuit: "c1"}, nil)
	refused("no ring to break", "run.box", RunChange{Do: BreakRing, Circuit: "c1", Box: "p1"}, nil)
	refused("a circuit that is left as it is", "run.circuit", RunChange{Do: InsertJoint, Circuit: "c1", After: "p1", Before: "p2"},
		func(j *Job) { j.Circuits[0].State = KeptCircuit })
	refused("a box of which there is a reading", "run.box", RunChange{Do: TakeOff, Circuit: "c1", Box: "p2"},
		func(j *Job) { j.Records = append(j.Records, Record{Circuit: "c1", Subject: "trip:p2", By: "Jana"}) })

	j := house()
	j.does(t, RunChange{Do: PlacePoint, Circuit: "c1", Room: "r1", Point: "q1", Count: 3})
	wrong := func(name, field string, set func(k *Circuit)) {
		t.Helper()
		body, err := json.Marshal(j.Circuits)
		require.NoError(t, err)
		other := &Job{Rooms: j.Rooms}
		require.NoError(t, json.Unmarshal(body, &other.Circuits))
		set(&other.Circuits[0])
		var es Errors
		require.ErrorAs(t, other.Agrees(ringTerms, nil), &es, name)
		assert.Equal(t, field, es[0].Field, name)
	}
	wrong("one number twice", "circuits/c1.serves.boxes[1].tag", func(k *Circuit) { k.Serves.Boxes[1].Tag = 1 })
	wrong("more than the walk has", "circuits/c1.serves.boxes[2].point", func(k *Circuit) { j.Rooms[0].Points[0].Count = 2 })
	j.Rooms[0].Points[0].Count = 5
	wrong("new on what stays", "circuits/c1.serves.boxes[0].point", func(k *Circuit) { k.State = KeptCircuit })
	wrong("a board that feeds itself", "circuits/c1.from", func(k *Circuit) { k.From = "c1" })
	wrong("fed by nothing", "circuits/c1.from", func(k *Circuit) { k.From = "c7" })

	k := j.Circuits[0]
	k.Use, k.Serves.Back = "ring", ""
	assert.ErrorContains(t, k.sound(), "the ring returns to the board")
	k = j.Circuits[0]
	k.Route.Segments = []Segment{{To: "p9"}}
	assert.ErrorContains(t, k.sound(), "leads to")
	k.Route.Segments, k.Serves.Boxes = nil, []Box{{ID: "p1", From: "p2"}, {ID: "p2"}}
	assert.ErrorContains(t, k.sound(), "a box before it")
}

// Whatever is done to runs in whatever order, they stay runs, no point is lost, and cable comes and goes only by what says so.
func TestRunsStayRuns(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 7))
		j := house()
		j.Circuits[0].Use = []Use{"ring", "radial"}[seed%2]
		j.does(t, RunChange{Do: PlacePoint, Circuit: "c1", Room: "r1", Point: "q1", Count: 5})
		for range 25 {
			k := &j.Circuits[r.IntN(len(j.Circuits))]
			pick := func() string {
				if n := len(k.Serves.Boxes); n > 0 {
					return k.Serves.Boxes[r.IntN(n)].ID
				}
				return ""
			}
			ch := RunChange{Do: RunSteps[r.IntN(len(RunSteps))], Circuit: k.ID, Box: pick(), After: pick(), Before: []string{"", pick(), BackLeg}[r.IntN(3)],
				LengthM: 1 + 10*r.Float64(), To: j.Circuits[r.IntN(len(j.Circuits))].ID}
			if ch.Do == TakeOff || ch.Do == PlacePoint {
				continue
			}
			before, err := json.Marshal(j.Circuits)
			require.NoError(t, err)
			was, cable := boxesOf(j), k.cableM()
			_, err = j.Rerun(ch, ringTerms, asPoint)
			if err != nil {
				j.Circuits = nil
				require.NoError(t, json.Unmarshal(before, &j.Circuits))
				continue
			}
			for i := range j.Circuits {
				require.NoErrorf(t, j.Circuits[i].sound(), "seed %d: %+v", seed, ch)
				require.NotEmpty(t, j.Circuits[i].Route.Segments)
			}
			require.NoErrorf(t, j.Agrees(ringTerms, nil), "seed %d: %+v", seed, ch)
			switch ch.Do {
			case InsertJoint:
				assert.Equal(t, was+1, boxesOf(j))
				assert.InDelta(t, cable, j.CircuitByID(ch.Circuit).cableM(), 1e-9)
			default:
				assert.Equalf(t, was, boxesOf(j), "seed %d: %+v", seed, ch)
			}
			if ch.Do == DivideRoute || ch.Do == CloseRing {
				assert.InDelta(t, cable, j.CircuitByID(ch.Circuit).cableM(), 1e-9)
			}
		}
	}
}

func boxesOf(j *Job) int {
	n := 0
	for i := range j.Circuits {
		n += len(j.Circuits[i].Serves.Boxes)
	}
	return n
}
