package design_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/dark"
	"arvelt/core/design"
	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
	"arvelt/core/words"
)

func fact(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

// house is a job of a walk, with a supply and a board of so many ways.
func house(t testing.TB, practice, walk string, ways int) *install.Job {
	t.Helper()
	p := whole.Practices[practice]
	j := &install.Job{Format: install.Format, Ref: "D-1", Title: "House", Kind: install.Rewire, Practice: practice,
		Rules: install.Rules{Edition: p.Terms().Editions[0]}, Words: words.In(p.Terms().Locale),
		Schools: install.Schools{Options: map[install.OptionID]install.OptionValue{}},
		Site:    install.Site{Customer: "A. Person", Address: "1 Test Row"},
		Supply: install.Supply{DeclaredV: p.Opening().DeclaredV, Earthing: install.Earthing(p.Opening().Earthing), ZeOhm: fact(0.2), PFCkA: fact(1.2),
			MainFuseA: fact(100)},
		Board: install.Board{Name: "A", MainSwitchA: fact(100)}}
	for n := range ways {
		j.Board.Ways = append(j.Board.Ways, install.Way{No: n + 1})
	}
	n := 0
	rooms, err := survey.Apply(j.Words, nil, survey.Read(walk, p.Survey(), ""), "", func() string { n++; return fmt.Sprintf("x%d", n) })
	require.NoError(t, err)
	j.Rooms = rooms
	j.Tidy()
	return j
}

const walk230 = `hall g: 2 double socket, 3 light, smoke alarm
parlour g: 6 double socket, 2 light
kitchen g: 8 double socket, cooker 9kW, hood, dishwasher, 6 downlight, heat alarm
utility g: 3 double socket, washer, light, water heater 3kW
landing up: double socket, 2 light, smoke alarm
front bedroom up: 5 double socket, light
back bedroom up: 4 double socket, light
bathroom up: shaver, 3 downlight, extractor, shower 9kW
garage g: 2 double socket, 2 strip light, charge point
outside g: 2 outdoor socket, 3 outdoor light`

const walk120 = `hall g: 2 duplex, 3 light, smoke alarm
den g: 6 duplex, 2 light
kitchen g: 8 duplex, range 9kW, dishwasher, fridge, 6 recessed light
laundry g: 2 duplex, washer, dryer, water heater 4500W, light
landing up: duplex, 2 light, smoke alarm
front bedroom up: 5 duplex, light
back bedroom up: 4 duplex, light
bathroom up: 2 duplex, 3 recessed light, exhaust fan
garage g: 2 duplex, 2 strip light, charge point
outside g: 2 outdoor receptacle, 3 outdoor light`

func pieces(j *install.Job) (n int) {
	for i := range j.Rooms {
		for _, p := range j.Rooms[i].Points {
			if k, _ := survey.KindOf(p.Kind); k.Box != "" && (p.State == install.New || p.State == install.Moved) {
				n += p.Count
			}
		}
	}
	return n
}

// A house of two floors is designed whole in both practices: every point stands on a circuit, nothing of a circuit fails, each device has a
// way of its own, every leg is assumed until it is measured, and the same walk has the same proposal.
func TestAHouseIsDesignedFromItsWalk(t *testing.T) {
	for practice, x := range map[string]struct {
		walk  string
		names []string
	}{
		"iec230": {walk230, []string{"Lighting, ground floor", "Lighting, first floor", "Ring final circuit, kitchen", "Ring final circuit, ground floor",
			"Ring final circuit, first floor", "Smoke and heat alarms", "Shower point, bathroom", "Charge point, garage"}},
		"split120": {walk120, []string{"Small-appliance circuit", "Small-appliance circuit 2", "Bathroom receptacles", "Laundry circuit",
			"Garage receptacles", "Outdoor receptacles", "Range receptacle, kitchen", "Lighting, first floor"}},
	} {
		book := whole.Practices[practice]
		j := house(t, practice, x.walk, 40)
		p, all := design.Propose(j, book)
		require.NoError(t, all.Validate(book.Terms()))
		assert.Empty(t, p.Left)
		assert.Zero(t, p.WaysShort)
		placed, names := 0, []string{}
		for _, c := range p.Circuits {
			assert.Empty(t, c.Fails, c.Name)
			assert.NotEmpty(t, c.Why)
			assert.NotEmpty(t, c.Device, c.Name)
			assert.Greater(t, c.Way, 0, c.Name)
			names = append(names, c.Name)
			placed += len(c.Stops)
			k := all.CircuitByID(c.ID)
			for _, s := range k.Route.Segments {
				assert.Equal(t, install.Assumed, s.Basis)
			}
			for i, b := range k.Serves.Boxes {
				assert.NotEmpty(t, b.Label())
				assert.Contains(t, c.Stops[i].Name, b.Label())
				assert.Greater(t, c.Stops[i].LegM, 0.0)
			}
		}
		assert.Equal(t, pieces(j), placed)
		assert.Subset(t, names, x.names)
		again, _ := design.Propose(j, book)
		assert.Equal(t, p, again)
		assert.Empty(t, j.Circuits, "the job itself is not touched")
		r := book.Judge(all)
		for _, c := range r.Checks() {
			assert.False(t, c.Rule == "way" && c.Verdict == "fail", c.Summary)
		}
	}
}

// The schools of the job decide: rings or radials, by floor, by kind or by room, devices of their own or shared.
func TestTheSchoolsOfTheJobDecide(t *testing.T) {
	book := whole.Practices["iec230"]
	with := func(option, choice string) (design.Proposal, *install.Job) {
		j := house(t, "iec230", walk230, 40)
		j.Schools.Options[install.OptionID(option)] = install.Chose(choice)
		return design.Propose(j, book)
	}
	uses := func(j *install.Job) map[install.Use]int {
		out := map[install.Use]int{}
		for i := range j.Circuits {
			out[j.Circuits[i].Use]++
		}
		return out
	}
	_, floor := with("circuitSplit", "floor")
	_, kind := with("circuitSplit", "kind")
	_, room := with("circuitSplit", "room")
	assert.Less(t, uses(kind)["lighting"], uses(floor)["lighting"]+1)
	assert.Less(t, len(floor.Circuits), len(room.Circuits))
	assert.Positive(t, uses(floor)["ring"])
	_, radial := with("socketRun", "radial")
	assert.Zero(t, uses(radial)["ring"])

	p, shared := with("residualShare", "shared")
	assert.Len(t, p.Shared, 2)
	require.NoError(t, shared.Validate(book.Terms()))
	assert.Len(t, shared.Board.Groups, 2)
	for _, d := range dark.Of(shared).Devices {
		assert.True(t, d.ID == "main" || len(d.Both) == 0, "%s takes light and sockets of %v", d.Name, d.Both)
	}
	for _, c := range p.Circuits {
		assert.Empty(t, c.Fails, c.Name)
	}
}

// What is there stays as it is, down to its last figure; only points that stand on no run are proposed for, and those that the walk feeds
// from something, or that stay, are left to whoever knows.
func TestWhatIsDecidedStays(t *testing.T) {
	for practice, walk := range map[string]string{"iec230": walk230, "split120": walk120} {
		book := whole.Practices[practice]
		_, all := design.Propose(house(t, practice, walk, 40), book)
		all.Circuits = all.Circuits[:3]
		all.Circuits[1].Protection.RatingA, all.Circuits[1].Name = 10, "Mine"
		all.Rooms[0].Points[0].State = install.Kept
		before, err := json.Marshal(all.Circuits)
		require.NoError(t, err)
		p, next := design.Propose(all, book)
		after, err := json.Marshal(next.Circuits[:3])
		require.NoError(t, err)
		assert.JSONEq(t, string(before), string(after))
		require.NoError(t, next.Validate(book.Terms()))
		for _, c := range p.Circuits {
			assert.NotContains(t, []string{all.Circuits[0].ID, all.Circuits[1].ID, all.Circuits[2].ID}, c.ID)
		}
		for i := range all.Circuits {
			for n := range all.Circuits[i].Serves.Boxes {
				if all.Circuits[i].Serves.Boxes[n].Point == all.Rooms[0].Points[0].ID {
					t.Skip("its kept point stands on a circuit already")
				}
			}
		}
		require.NotEmpty(t, p.Left)
		assert.Contains(t, p.Left[0].Why, "there and stays")
	}
}

// A proposal that cannot be met still answers: a board without room, and points that the practice has no circuit for.
func TestAProposalThatCannotBeMetAnswers(t *testing.T) {
	for practice, walk := range map[string]string{"iec230": walk230, "split120": walk120} {
		j := house(t, practice, walk, 6)
		p, all := design.Propose(j, whole.Practices[practice])
		require.NoError(t, all.Validate(whole.Practices[practice].Terms()))
		assert.Positive(t, p.WaysShort)
		without := 0
		for _, c := range p.Circuits {
			if c.Way == 0 {
				without++
			}
		}
		assert.Equal(t, p.WaysShort, without)
		for _, c := range p.Circuits {
			assert.Empty(t, c.Fails, "that it finds no way is said once")
		}
		big, _ := design.Propose(house(t, practice, walk, p.WaysNeeded), whole.Practices[practice])
		assert.Zero(t, big.WaysShort, "a board of %d ways is large enough", p.WaysNeeded)
	}
	j := house(t, "iec230", walk230, 40)
	*j.Supply.MainFuseA.Value = 60
	p, _ := design.Propose(j, whole.Practices["iec230"])
	assert.Contains(t, strings.Join(p.Fails, "; "), "Maximum demand")
	none, all := design.Propose(&install.Job{Practice: "iec230", Words: j.Words}, whole.Practices["iec230"])
	assert.Empty(t, none.Circuits)
	assert.Empty(t, all.Circuits)
}

// What is chosen of a proposal is taken, and nothing else.
func TestPartOfAProposalIsTaken(t *testing.T) {
	j := house(t, "iec230", walk230, 40)
	j.Schools.Options["residualShare"] = install.Chose("shared")
	book := whole.Practices["iec230"]
	p, _ := design.Propose(j, book)
	some, _ := design.Take(j, book, []string{p.Circuits[2].ID})
	require.Len(t, some.Circuits, 1)
	assert.Equal(t, p.Circuits[2].Name, some.Circuits[0].Name)
	assert.Len(t, some.Board.Groups, 1, "only the shared device that it hangs on")
	require.NoError(t, some.Validate(book.Terms()))
	rest, _ := design.Propose(some, book)
	assert.Len(t, rest.Circuits, len(p.Circuits)-1, "the others are proposed anew")
}

// Every point of any walk stands on a circuit or is said to be left, in every practice.
func TestEveryPointOfAnyWalkIsAnswered(t *testing.T) {
	kinds := []string{}
	for _, k := range survey.Kinds {
		if k.Box != "" && !k.ExtraLow {
			kinds = append(kinds, k.ID)
		}
	}
	rooms := []string{}
	for _, k := range survey.RoomKinds() {
		rooms = append(rooms, k.ID)
	}
	for _, practice := range whole.PracticeIDs {
		book := whole.Practices[practice]
		for seed := range uint64(12) {
			pick := rand.New(rand.NewPCG(seed, 3))
			j := house(t, practice, "", 42)
			for n := range 2 + pick.IntN(7) {
				r := install.Room{ID: fmt.Sprintf("r%d", n), Name: fmt.Sprintf("Room %d", n), Kind: rooms[pick.IntN(len(rooms))], Floor: []string{"",
					"ground", "first"}[pick.IntN(3)], At: float64(n)}
				if n > 0 && pick.IntN(2) == 0 {
					r.From = fmt.Sprintf("r%d", pick.IntN(n))
					r.Legs = []install.Leg{{LengthM: 1 + 9*pick.Float64(), Basis: install.Measured}}
				}
				for p := range 1 + pick.IntN(4) {
					r.Points = append(r.Points, install.RoomPoint{ID: fmt.Sprintf("p%d", p), Kind: kinds[pick.IntN(len(kinds))],
						Count: 1 + pick.IntN(5), State: install.New})
				}
				j.Rooms = append(j.Rooms, r)
			}
			j.Tidy()
			p, all := design.Propose(j, book)
			require.NoError(t, all.Validate(book.Terms()), "%s %d", practice, seed)
			n := 0
			for _, c := range p.Circuits {
				n += len(c.Stops)
			}
			for _, l := range p.Left {
				n += l.Count
			}
			assert.Equal(t, pieces(j), n, "%s %d: %v", practice, seed, p.Left)
			assert.Len(t, survey.UnplacedOf(all, book.Survey(), false), len(p.Left), "%s %d", practice, seed)
		}
	}
}

// BenchmarkPropose designs the house of the tests four times over: about 200 points.
func BenchmarkPropose(b *testing.B) {
	for practice, walk := range map[string]string{"iec230": walk230, "split120": walk120} {
		j := house(b, practice, walk, 60)
		b.Run(practice, func(b *testing.B) {
			b.ReportMetric(float64(pieces(j)), "points")
			for b.Loop() {
				design.Propose(j, whole.Practices[practice])
			}
		})
	}
}
