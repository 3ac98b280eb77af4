package install

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What the walk says that points draw is what their circuit draws, as far as it says it of all of them.
func TestACircuitDrawsWhatItsPointsDraw(t *testing.T) {
	draws := func(own Point, points ...RoomPoint) (*Job, *Drawn) {
		j := &Job{Rooms: []Room{{ID: "r1", Name: "Scullery"}}, Circuits: []Circuit{{ID: "c1", Name: "Boiler", Point: own, Serves: Serves{PowerW: 1000}}}}
		for _, p := range points {
			j.Rooms[0].Points = append(j.Rooms[0].Points, p)
			j.Circuits[0].Serves.Boxes = append(j.Circuits[0].Serves.Boxes, Box{ID: p.ID, Room: "r1", Point: p.ID, Device: WiredIn})
		}
		j.Circuits[0].Serves.Boxes = append(j.Circuits[0].Serves.Boxes, Box{ID: "joint", Device: NoDevice})
		return j, j.DrawnBy(&j.Circuits[0])
	}
	watts := func(id string, w float64) RoomPoint { return RoomPoint{ID: id, Kind: "x", Count: 1, PowerW: w} }
	amps := func(id string, a float64) RoomPoint { return RoomPoint{ID: id, Kind: "x", Count: 1, CurrentA: a} }
	j, d := draws(Point{}, watts("a", 2000), watts("b", 500))
	assert.Equal(t, &Drawn{PowerW: 2500}, d)
	stands := j.Standing()
	assert.Equal(t, 2500.0, stands.Circuits[0].Serves.PowerW)
	assert.Equal(t, 1000.0, j.Circuits[0].Serves.PowerW, "what was entered is not overwritten")
	j, d = draws(Point{}, amps("a", 13))
	assert.Equal(t, &Drawn{CurrentA: 13}, d)
	assert.Equal(t, 0.0, j.Standing().Circuits[0].Serves.PowerW)
	for name, x := range map[string]*Drawn{
		"one of them not known": second(draws(Point{}, watts("a", 2000), watts("b", 0))),
		"power and current":     second(draws(Point{}, watts("a", 2000), amps("b", 3))),
		"two currents":          second(draws(Point{}, amps("a", 3), amps("b", 3))),
		"a current of its own":  second(draws(Point{CurrentA: 32}, watts("a", 7400))),
		"no points":             second(draws(Point{})),
	} {
		assert.Nil(t, x, name)
	}
	j, _ = draws(Point{}, watts("a", 0))
	assert.Same(t, j, j.Standing())
}

func second(_ *Job, d *Drawn) *Drawn { return d }

// A surge device and its branch are one thing: the rating ahead of it is that of the branch, and what contradicts it is refused.
func TestASurgeDeviceAndItsBranch(t *testing.T) {
	terms := boardTerms
	terms.Branch = "surge"
	house := func() *Job {
		j := twoBoards()
		j.Circuits[2].Use, j.Circuits[2].Protection.RatingA = "surge", 32
		j.Surge.Devices = []SPD{{Name: "Arrester", Circuit: "c3"}, {Name: "Other", BranchA: 20}}
		return j
	}
	j := house()
	require.NoError(t, j.Agrees(terms, nil))
	assert.Equal(t, 32.0, j.AheadA(&j.Surge.Devices[0]))
	assert.Equal(t, 20.0, j.AheadA(&j.Surge.Devices[1]))
	assert.Contains(t, j.circuitStays("c3"), "it is the branch of Arrester")
	for field, spoil := range map[string]func(*Job){
		"surge.devices[0].circuit": func(j *Job) { j.Surge.Devices[0].Circuit = "c9" },
		"surge.devices[1].circuit": func(j *Job) { j.Surge.Devices[1].Circuit, j.Surge.Devices[1].BranchA = "c3", 0 },
		"surge.devices[0].branchA": func(j *Job) { j.Surge.Devices[0].BranchA = 16 },
		"circuits/c3.use":          func(j *Job) { j.Circuits[2].Use = "lights" },
	} {
		j := house()
		spoil(j)
		var es Errors
		require.ErrorAs(t, j.Agrees(terms, nil), &es, field)
		fields := []string{}
		for _, e := range es {
			fields = append(fields, e.Field)
		}
		assert.Contains(t, fields, field)
	}
}

// The electrodes have one resistance: that which is entered with them, or with the supply in a job of before.
func TestTheElectrodesHaveOneResistance(t *testing.T) {
	ohm := func(v float64) Fact { return Fact{Value: &v, Basis: Measured} }
	j := &Job{}
	assert.False(t, j.ElectrodeOhm().Known())
	j.Supply.ElectrodeOhm = ohm(90)
	assert.Equal(t, 90.0, j.ElectrodeOhm().V())
	j.Outdoor.Electrodes.Measured = ohm(120)
	assert.Equal(t, 120.0, j.ElectrodeOhm().V())
	j.Supply.ElectrodeOhm = ohm(150)
	assert.Equal(t, 150.0, j.ElectrodeOhm().V(), "of two the worse")
	j.Supply.ElectrodeOhm = Fact{}
	assert.Equal(t, 120.0, j.ElectrodeOhm().V())
}
