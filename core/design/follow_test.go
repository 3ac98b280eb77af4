package design_test

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/design"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

var day = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

// designed is a house whose circuits are those that are proposed for its walk.
func designed(t testing.TB, practice, walk string, ways int) *install.Job {
	t.Helper()
	_, j := design.Propose(house(t, practice, walk, ways), whole.Practices[practice])
	j.Plan.StartDate = "2026-11-26"
	require.NoError(t, j.Validate(whole.Practices[practice].Terms()))
	return j
}

// priced is a list with a price for everything that two jobs order, and hours.
func priced(jobs ...*install.Job) map[string]materials.Item {
	list := map[string]materials.Item{"hour": {Price: 50}, "work:reopen": {Price: 30, Hours: 0.5}}
	for _, j := range jobs {
		v := whole.Of(j, nil, install.Person{}, day)
		for _, l := range v.Take.Lines {
			list[l.Key] = materials.Item{Key: l.Key, Price: 2, Hours: 0.5}
		}
	}
	return list
}

func roomNamed(j *install.Job, name string) *install.Room {
	return &j.Rooms[slices.IndexFunc(j.Rooms, func(r install.Room) bool { return r.Name == name })]
}

func said(c survey.Change, kind survey.EffectKind) string {
	out := []string{}
	for _, e := range c.Effects {
		if e.Kind == kind {
			out = append(out, e.Summary)
		}
	}
	return strings.Join(out, "\n")
}

func ids(prefix string) func() string {
	n := 0
	return func() string { n++; return fmt.Sprint(prefix, n) }
}

// vary works a variation out with a list that prices everything but what lacks.
func vary(t *testing.T, j *install.Job, room, text string, lacks ...string) (survey.Change, *install.Job) {
	t.Helper()
	then, _ := design.Follow(j, must(survey.Vary(*roomNamed(j, room), text, whole.Practices[j.Practice].Survey(), ids("v"))).Room, whole.Practices[j.Practice])
	list := priced(j, then)
	for _, key := range lacks {
		for k := range list {
			if strings.HasPrefix(k, key) {
				delete(list, k)
			}
		}
	}
	c, then, err := whole.VariationOf(j, list, install.QuoteRule{}, install.Person{}, day, *roomNamed(j, room), text, ids("v"))
	require.NoError(t, err)
	require.NoError(t, then.Validate(whole.Practices[j.Practice].Terms()))
	require.NoError(t, then.Agrees(whole.Practices[j.Practice].Terms(), nil))
	return c, then
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// What is new goes onto the circuit of its kind; an appliance brings a circuit of its own with its way, cable and device; what is dropped takes
// its circuit along; and the price is that of the whole difference.
func TestAVariationBringsItsCircuits(t *testing.T) {
	for practice, x := range map[string]struct{ walk, room, sockets, circuit, wet, gone, drop string }{
		"iec230":   {walk230, "parlour", "2 double socket @450", "Ring final circuit, ground floor", "utility", "Shower point, bathroom", "bathroom: - shower"},
		"split120": {walk120, "den", "2 duplex @18in", "Lighting and receptacles, ground floor", "laundry", "Range receptacle, kitchen", "kitchen: - range"},
	} {
		j := designed(t, practice, x.walk, 60)
		before := len(j.Circuits)
		c, then := vary(t, j, x.room, x.sockets)
		require.Len(t, c.Circuits, 1, practice)
		host := c.Circuits[0]
		assert.Equal(t, [3]any{false, false, 2}, [3]any{host.New, host.Gone, len(host.Gains)}, practice)
		assert.Equal(t, x.circuit, host.Name)
		assert.Greater(t, host.CableM, 0.0)
		assert.Equal(t, before, len(then.Circuits))
		require.NotNil(t, c.Cost, practice)
		sum := c.Hours * 50
		for _, l := range c.Lines {
			sum += *l.Cost
		}
		assert.InDelta(t, sum, *c.Cost, 0.01)
		assert.Contains(t, said(c, survey.Walls), "nothing is counted for opening them again")
		assert.Empty(t, said(c, survey.Breaks))

		c, then = vary(t, j, x.wet, "flow heater 6kW")
		require.Len(t, c.Circuits, 1)
		own := c.Circuits[0]
		assert.True(t, own.New, practice)
		assert.Greater(t, own.Way, 0)
		assert.NotEmpty(t, own.Device)
		assert.NotEmpty(t, own.Conductor)
		assert.Equal(t, before+1, len(then.Circuits))
		assert.NotNil(t, c.Cost)
		assert.True(t, slices.ContainsFunc(c.Lines, func(l survey.LineChange) bool { return strings.HasPrefix(l.Key, "cable:") && l.More > 0 }))

		c, _ = vary(t, j, x.room, x.sockets, "cable:")
		assert.Nil(t, c.Cost, "not known where the list has no cable")
		assert.Greater(t, c.AtLeast, 0.0)
		assert.Contains(t, said(c, survey.Material), "No price")

		roomNamed(j, x.room).Closed = "2026-11-20"
		c, _ = vary(t, j, x.room, x.sockets)
		assert.Contains(t, said(c, survey.Walls), "2 places are opened again")
		c, _ = vary(t, j, x.room, x.sockets, "work:")
		assert.Nil(t, c.Cost)
		room, drop, _ := strings.Cut(x.drop, ": ")
		c, then = vary(t, j, room, drop)
		require.Len(t, c.Circuits, 1)
		assert.Equal(t, [2]any{x.gone, true}, [2]any{c.Circuits[0].Name, c.Circuits[0].Gone})
		assert.Equal(t, before-1, len(then.Circuits))
		assert.Negative(t, *c.Cost)
		assert.Negative(t, c.Hours)
	}
}

// What was bought already is no saving; a wish that the board has no way for has no price; what nobody said of an appliance is not known.
func TestAVariationSaysWhatItBreaks(t *testing.T) {
	j := designed(t, "iec230", walk230, 60)
	v := whole.Of(j, nil, install.Person{}, day)
	j.Materials.Lines = map[string]install.Stock{}
	for _, l := range v.Take.Lines {
		if strings.HasSuffix(l.Key, "point:shower") {
			j.Materials.Lines[l.Key] = install.Stock{Ordered: 1}
		}
	}
	require.NotEmpty(t, j.Materials.Lines)
	c, _ := vary(t, j, "bathroom", "- shower")
	at := slices.IndexFunc(c.Lines, func(l survey.LineChange) bool { return l.Key == "point:shower" })
	require.GreaterOrEqual(t, at, 0)
	assert.Equal(t, [3]float64{-1, 1, 0}, [3]float64{c.Lines[at].More, c.Lines[at].Bought, *c.Lines[at].Cost})
	assert.Contains(t, said(c, survey.Material), "is no saving")

	c, _ = vary(t, j, "utility", "flow heater")
	assert.Nil(t, c.Cost)
	assert.Contains(t, said(c, survey.Circuits), "Not recorded: what the instantaneous water heater")

	full := designed(t, "iec230", walk230, 0)
	n := len(full.Circuits)
	full = designed(t, "iec230", walk230, n)
	terms := whole.Practices["iec230"].Terms()
	require.Empty(t, terms.FreeWays(full, &full.Board), "a full board")
	c, _ = vary(t, full, "utility", "flow heater 6kW")
	assert.Nil(t, c.Cost)
	assert.Contains(t, said(c, survey.Circuits), "No way of the board is free")

	// First fix of the room is ticked, then points come: its boxes, holes and cables are done again, and what was read is read again.
	room := roomNamed(j, "parlour")
	j.Records = append(j.Records, install.Record{ID: "s", Kind: install.Scope, At: day.Add(-48 * time.Hour), Person: "A. Person", Rooms: slices.Clone(j.Rooms)},
		install.Record{ID: "t", Kind: install.Tick, Subject: room.ID + "-boxes", Done: true, By: "J", At: day.Add(-24 * time.Hour)})
	c, _ = vary(t, j, "parlour", "2 double socket")
	assert.Contains(t, said(c, survey.Breaks), "Done before and to be done again: parlour: boxes, holes and cables")
	c, _ = vary(t, j, "parlour", "- double socket")
	assert.Empty(t, said(c, survey.Breaks), "what is only dropped leaves them done")

	// A point that moves keeps its circuit; its legs are assumed again.
	k := &j.Circuits[slices.IndexFunc(j.Circuits, func(k install.Circuit) bool { return k.Name == "Ring final circuit, ground floor" })]
	for i := range k.Route.Segments {
		k.Route.Segments[i].Basis = install.Measured
	}
	_, then := vary(t, j, "parlour", "> 2 double socket @1200 /east")
	now, assumed := then.CircuitByID(k.ID), 0
	for _, s := range now.Route.Segments {
		if s.Basis == install.Assumed {
			assumed++
		}
	}
	assert.Len(t, now.Serves.Boxes, len(k.Serves.Boxes))
	assert.Equal(t, 3, assumed, "to each of two neighbours, and on from the second")
	assert.Equal(t, 2, len(slices.DeleteFunc(slices.Clone(now.Serves.Boxes), func(b install.Box) bool { return b.HeightMM != 1200 })))
	for _, s := range k.Route.Segments {
		assert.Equal(t, install.Measured, s.Basis, "the job itself is not touched")
	}
}

// Whatever is added, moved or dropped in whatever room: the job stays valid, no more boxes stand on runs than there are points, what is new is on
// a run or said to be open, and circuits that neither gain nor lose stay as they were.
func TestRandomVariationsAreFollowed(t *testing.T) {
	r := rand.New(rand.NewPCG(16, 3))
	texts := map[string][]string{
		"iec230":   {"2 double socket", "light", "- double socket", "- light", "> double socket /north", "flow heater 6kW", "cooker 7kW", "3 downlight", "- 2 double socket, light", "2 data"},
		"split120": {"2 duplex", "light", "- duplex", "- light", "> duplex /north", "flow heater 6kW", "range 9kW", "3 recessed light", "- duplex, light", "2 data"},
	}
	for practice, walk := range map[string]string{"iec230": walk230, "split120": walk120} {
		book, job, done := whole.Practices[practice], designed(t, practice, walk, 60), 0
		for step := range 60 {
			room := &job.Rooms[r.IntN(len(job.Rooms))]
			c, err := survey.Vary(*room, texts[practice][r.IntN(len(texts[practice]))], book.Survey(), ids(fmt.Sprintf("s%d-", step)))
			if err != nil {
				continue // it drops what is not there
			}
			then, followed := design.Follow(job, c.Room, book)
			require.NoError(t, then.Validate(book.Terms()), c.Summary)
			require.NoError(t, then.Agrees(book.Terms(), nil), c.Summary)
			placed := then.Placed()
			for _, p := range then.RoomByID(room.ID).Points {
				kind, _ := survey.KindOf(p.Kind)
				if n := placed[[2]string{room.ID, p.ID}]; kind.Box != "" && p.State == install.New && n < p.Count {
					assert.NotEmpty(t, followed.Open, "%v: %d of %d", c.Summary, n, p.Count)
				}
			}
			for i := range then.Circuits {
				k := &then.Circuits[i]
				if old := job.CircuitByID(k.ID); old != nil && len(old.Serves.Boxes) == len(k.Serves.Boxes) && !strings.HasPrefix(c.Summary[0], "moves") {
					a, b := *old, *k
					assert.True(t, reflect.DeepEqual(a.Route, b.Route) && reflect.DeepEqual(a.Protection, b.Protection), "%s: %v", k.Name, c.Summary)
				}
			}
			job, done = then, done+1
		}
		assert.Greater(t, done, 30)
	}
}

// BenchmarkVariation works out what two sockets more bring to a house of two floors.
func BenchmarkVariation(b *testing.B) {
	for practice, x := range map[string]struct{ walk, text string }{"iec230": {walk230, "2 double socket"}, "split120": {walk120, "2 duplex"}} {
		j := designed(b, practice, x.walk, 60)
		b.Run(practice, func(b *testing.B) {
			for b.Loop() {
				_, _, err := whole.VariationOf(j, nil, install.QuoteRule{}, install.Person{}, day, *roomNamed(j, "hall"), x.text, ids("v"))
				require.NoError(b, err)
			}
		})
	}
}
