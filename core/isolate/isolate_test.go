package isolate

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

var (
	metric = &install.Terms{Pairs: []string{"L-N", "L-PE", "N-PE"}}
	legs   = &install.Terms{Pairs: []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"}, PairsOneHot: []string{"hot-N", "hot-G", "N-G"}, Columns: 2,
		PairsOf: func(k *install.Circuit) []string {
			if k.Protection.Poles < 2 {
				return []string{"hot-N", "hot-G", "N-G"}
			}
			return nil
		}}
	yes = true
)

// house has a lighting circuit behind a shared device, a solar circuit that power can come back through, and a loft board with a heater.
func house() *install.Job {
	k := func(id, name, from, group string, way int) install.Circuit {
		return install.Circuit{ID: id, Name: name, From: from, Protection: install.Protection{Way: way, Poles: 1, Group: group}}
	}
	j := &install.Job{Supply: install.Supply{Earthing: install.TNCS}, Board: install.Board{Name: "Board A", Groups: []install.Group{{ID: "g1", Name: "RCD 1"}}},
		Boards:   []install.Board{{ID: "b1", Name: "Loft board", Feed: "c3"}},
		Circuits: []install.Circuit{k("c1", "Lights", "", "g1", 1), k("c2", "Solar", "", "", 2), k("c3", "Feed of the loft", "", "", 3), k("c4", "Heater", "c3", "", 1)},
		Rooms:    []install.Room{{ID: "r1", Name: "Study"}, {ID: "r2", Name: "Hall"}}}
	j.Circuits[1].Serves.Backfeed = true
	j.Circuits[0].Serves.Boxes = []install.Box{{ID: "x1", Name: "rose", Room: "r1", Point: "p1"}, {ID: "x2", Name: "rose", From: "x1", Room: "r1", Point: "p1"}}
	return j
}

func ids(devices []Device) []string {
	out := []string{}
	for _, d := range devices {
		out = append(out, d.ID)
	}
	return out
}

// What is open makes dead what no source finds a way to, and nothing else.
func TestWhatIsOpenMakesDeadWhatNoSourceReaches(t *testing.T) {
	for name, c := range map[string]struct {
		terms *install.Terms
		job   func(*install.Job)
		opens []string
		place string
		live  []string // sources that still reach it
		next  []string // devices to open yet
	}{
		"nothing open":                           {metric, nil, nil, "circuit:c1", []string{"the supply", "the source on Solar"}, []string{"circuit:c1"}},
		"the breaker of the circuit":             {metric, nil, []string{"circuit:c1"}, "circuit:c1", nil, nil},
		"another breaker":                        {metric, nil, []string{"circuit:c3"}, "circuit:c1", []string{"the supply", "the source on Solar"}, []string{"circuit:c1"}},
		"the shared device":                      {metric, nil, []string{"group:g1"}, "circuit:c1", nil, nil},
		"the main switch leaves the solar":       {metric, nil, []string{"main"}, "board:", []string{"the source on Solar"}, []string{"own:c2"}},
		"both, the board is dead":                {metric, nil, []string{"main", "own:c2"}, "board:", nil, nil},
		"the solar's breaker is in the board":    {metric, nil, []string{"main", "circuit:c2"}, "board:", []string{"the source on Solar"}, []string{"own:c2"}},
		"the solar's own cable":                  {metric, nil, []string{"main"}, "circuit:c2", []string{"the source on Solar"}, []string{"own:c2"}},
		"the loft by its feed":                   {metric, nil, []string{"circuit:c3"}, "board:c3", nil, nil},
		"a heater of the loft by the main board": {metric, nil, []string{"main", "own:c2"}, "circuit:c4", nil, nil},
		"one pole where the neutral is not earthed": {metric, func(j *install.Job) { j.Supply.Earthing = install.TT }, []string{"circuit:c1"}, "circuit:c1",
			[]string{"the supply", "the source on Solar"}, []string{"group:g1"}},
		"nobody knows how it is earthed": {metric, func(j *install.Job) { j.Supply.Earthing = "" }, []string{"circuit:c1"}, "circuit:c1",
			[]string{"the supply", "the source on Solar"}, []string{"group:g1"}},
		"two poles there": {metric, func(j *install.Job) { j.Supply.Earthing, j.Circuits[0].Protection.Poles = install.TT, 2 }, []string{"circuit:c1"},
			"circuit:c1", nil, nil},
		"a standby source comes in at the board": {metric, func(j *install.Job) { j.Standby.Source = "generator" }, []string{"main", "own:c2"}, "board:", nil, nil},
		"and at its changeover ahead of it": {metric, func(j *install.Job) {
			j.Standby.Source = "generator"
			j.Chain.Enclosures = []install.Enclosure{{ID: "e1", Name: "Isolator", Disconnect: &yes}, {ID: "e2", Name: "Changeover", From: "e1", SwitchesN: &yes}}
		}, []string{"enclosure:e1", "own:c2"}, "board:", []string{"generator"}, []string{"main"}},
		"the changeover itself": {metric, func(j *install.Job) {
			j.Standby.Source = "generator"
			j.Chain.Enclosures = []install.Enclosure{{ID: "e1", Name: "Isolator", Disconnect: &yes}, {ID: "e2", Name: "Changeover", From: "e1", SwitchesN: &yes}}
		}, []string{"enclosure:e1", "main"}, "enclosure:e2", []string{"generator"}, []string{"own:standby"}},
		"an isolator that is not fitted yet disconnects nothing": {metric, func(j *install.Job) {
			j.Chain.Enclosures = []install.Enclosure{{ID: "e1", Name: "Isolator", Disconnect: &yes, New: true}}
		}, []string{"enclosure:e1"}, "enclosure:e1", []string{"the supply", "the source on Solar"}, []string{"intake", "own:c2"}},
		"the main board is an enclosure of the arrangement": {metric, func(j *install.Job) {
			j.Board.Enclosure = "e2"
			j.Chain.Enclosures = []install.Enclosure{{ID: "e1", Name: "Isolator", Disconnect: &yes}, {ID: "e2", Name: "Board", From: "e1", Disconnect: &yes},
				{ID: "e3", Name: "Garden board", From: "e2"}}
		}, []string{"main", "own:c2"}, "enclosure:e3", nil, nil},
		"and its incoming terminals are not dead by its own switch": {metric, func(j *install.Job) {
			j.Board.Enclosure = "e2"
			j.Chain.Enclosures = []install.Enclosure{{ID: "e1", Name: "Isolator", Disconnect: &yes}, {ID: "e2", Name: "Board", From: "e1"}}
		}, []string{"main", "own:c2"}, "enclosure:e2", []string{"the supply"}, []string{"enclosure:e1"}},
		"a device beside the board, on the tails": {metric, func(j *install.Job) { j.Circuits[0].Protection = install.Protection{OwnEnclosure: true, Poles: 1} },
			[]string{"main", "own:c2"}, "device:c1", []string{"the supply"}, []string{"intake"}},
		"one of two lines on one neutral": {legs, func(j *install.Job) {
			j.Circuits[0].Protection = install.Protection{Way: 1, Poles: 2, Shared: install.SharedNeutral{Is: true, Opens: install.OpensApart}}
		}, []string{"circuit:c1"}, "circuit:c1", []string{"the supply", "the source on Solar"}, []string{"circuit:c1/second"}},
		"both of them": {legs, func(j *install.Job) {
			j.Circuits[0].Protection = install.Protection{Way: 1, Poles: 2, Shared: install.SharedNeutral{Is: true, Opens: install.OpensTied}}
		}, []string{"circuit:c1", "circuit:c1/second"}, "circuit:c1", nil, nil},
		"a room on known circuits":       {metric, nil, []string{"circuit:c1"}, "room:r1", nil, nil},
		"whatever is found in its walls": {metric, nil, []string{"circuit:c1"}, "found:r1", []string{"the supply", "the source on Solar"}, []string{"main", "own:c2"}},
		"a room that nobody has walked":  {metric, nil, []string{"circuit:c1"}, "room:r2", []string{"the supply", "the source on Solar"}, []string{"main", "own:c2"}},
		"a place that is none":           {metric, nil, []string{"main", "own:c2"}, "circuit:c9", nil, nil},
	} {
		t.Run(name, func(t *testing.T) {
			j := house()
			if c.job != nil {
				c.job(j)
			}
			d := Of(j, c.terms).With(c.opens)
			assert.Equal(t, c.place != "circuit:c9" && c.live == nil, d.Expects(c.place))
			assert.ElementsMatch(t, c.live, d.Live(c.place))
			assert.ElementsMatch(t, c.next, ids(d.Next(c.place)))
		})
	}
}

// The pairs of a place are those that exist there, and a room knows how many cables enter its boxes.
func TestPlacesHaveTheirPairsAndCables(t *testing.T) {
	j := house()
	h := Of(j, legs)
	pairs := func(id string) []string {
		p, ok := h.Place(id)
		require.True(t, ok, id)
		return p.Pairs
	}
	assert.Equal(t, legs.PairsOneHot, pairs("circuit:c1"))
	assert.Equal(t, legs.PairsOneHot, pairs("room:r1"))
	assert.Equal(t, legs.Pairs, pairs("board:"))
	assert.Equal(t, legs.Pairs, pairs("room:r2"), "nobody knows what is there")
	study, _ := h.Place("room:r1")
	assert.Equal(t, 3, study.Cables, "in, out, and in of the next")
	j.Circuits[0].Serves.Back = "x2"
	study, _ = Of(j, legs).Place("room:r1")
	assert.Equal(t, 4, study.Cables, "and the way back of a ring")
}

// A circuit that the job takes out is dead for nobody until it was parted, and gone from then on.
func TestWhatLeavesIsThereUntilItIsParted(t *testing.T) {
	j := house()
	k := &j.Circuits[3]
	k.State = install.RemovedCircuit
	_, there := Of(j, metric).Place("circuit:c4")
	assert.True(t, there)
	j.Records = append(j.Records, install.Record{ID: "t", Kind: install.Tick, Subject: k.PartStep(), Done: true})
	_, there = Of(j, metric).Place("circuit:c4")
	assert.False(t, there)
}

// On random houses: what more is opened never makes live; what is to be opened next makes dead, and all of it is needed.
func TestOpeningNeverMakesLive(t *testing.T) {
	for seed := range uint64(300) {
		rnd := rand.New(rand.NewPCG(seed, 17))
		j := house()
		for i := range 1 + rnd.IntN(5) {
			k := install.Circuit{ID: fmt.Sprintf("d%d", i), Name: "d", Protection: install.Protection{Way: 5 + i, Poles: 1 + rnd.IntN(2), OwnEnclosure: rnd.IntN(6) == 0}}
			k.Serves.Backfeed = rnd.IntN(3) == 0
			if rnd.IntN(3) == 0 {
				k.From = "c3"
			}
			j.Circuits = append(j.Circuits, k)
		}
		j.Supply.Earthing = []install.Earthing{install.TT, install.TNS, ""}[rnd.IntN(3)]
		if rnd.IntN(2) == 0 {
			j.Standby.Source = "generator"
		}
		h := Of(j, []*install.Terms{metric, legs}[rnd.IntN(2)])
		opens := []string{}
		for _, d := range h.Devices {
			if rnd.IntN(3) == 0 {
				opens = append(opens, d.ID)
			}
		}
		before, more := h.With(opens).Places(), append(slices.Clone(opens), h.Devices[rnd.IntN(len(h.Devices))].ID)
		for _, place := range before {
			require.True(t, h.With(more).Expects(place), "seed %d: %s is live with more open", seed, place)
		}
		place := h.Places[rnd.IntN(len(h.Places))].ID
		next := ids(h.With(opens).Next(place))
		if h.With(opens).Expects(place) {
			require.Empty(t, next)
			continue
		}
		require.NotEmpty(t, next, "seed %d: nothing makes %s dead", seed, place)
		require.True(t, h.With(append(slices.Clone(opens), next...)).Expects(place), "seed %d: %v does not do it", seed, next)
		for i := range next {
			require.False(t, h.With(append(slices.Clone(opens), slices.Delete(slices.Clone(next), i, i+1)...)).Expects(place), "seed %d: %s is not needed", seed, next[i])
		}
	}
}
