package survey_test

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
)

func trace(circuit, box string, at int, traced ...install.Traced) install.Record {
	return install.Record{Kind: install.Trace, Circuit: circuit, Subject: box, Traced: traced, By: "Jana", At: time.Date(2026, 11, 3, at, 0, 0, 0, time.UTC)}
}

// What goes dead with one device is on its circuit; with more devices than there are of it nothing is known; and what nobody tried stays open.
func TestWhatGoesDeadTellsTheCircuit(t *testing.T) {
	job := walked(t, "study: = 3 double socket, = light, tv")
	room := job.Rooms[0]
	sockets, light := room.Points[0].ID, room.Points[1].ID
	for i, name := range []string{"One", "Two"} {
		job.Circuits = append(job.Circuits, install.Circuit{ID: []string{"c1", "c2"}[i], Name: name, State: install.KeptCircuit})
	}
	job.Circuits = append(job.Circuits, install.Circuit{ID: "c3", Name: "New"})
	of := func(point string, dead, live int) install.Traced {
		return install.Traced{Room: room.ID, Point: point, Dead: dead, Live: live}
	}
	s := survey.TracingOf(job, words)
	require.Len(t, s.Circuits, 2, "what the job makes is not traced")
	require.Len(t, s.Points, 2, "nor what is new or extra-low voltage")
	assert.Equal(t, 4, s.Open)
	assert.Contains(t, s.Next, "Switch off One")

	job.Records = append(job.Records, trace("c1", "", 8, of(sockets, 2, 1), of(light, 0, 1)))
	s = survey.TracingOf(job, words)
	assert.Equal(t, [2]int{2, 1}, [2]int{s.Open, s.Points[0].Open})
	assert.Contains(t, s.Points[0].Says, "1 not found yet; not tried: Two")
	job.Records = append(job.Records, trace("c2", "", 9, of(sockets, 2, 0), of(light, 1, 0)))
	s = survey.TracingOf(job, words)
	assert.True(t, s.Points[0].Clash, "four of three went dead")
	assert.Equal(t, 3, s.Points[0].Open, "nothing is known of them")
	assert.Contains(t, s.Points[0].Says, "It counts as live")
	assert.Zero(t, s.Points[1].Open)
	assert.Contains(t, s.Next, "Every circuit was traced")
	job.Records = append(job.Records, trace("c2", "", 10, of(sockets, 1, 2), of(light, 1, 0)))
	s = survey.TracingOf(job, words)
	assert.Zero(t, s.Open, "the newest trace of a circuit counts")
	assert.Empty(t, s.Next)
	back := trace("c1", "", 11, of(sockets, 2, 1))
	back.Done = true
	job.Records = append(job.Records, back)
	assert.Equal(t, 2, survey.TracingOf(job, words).Open, "taken back")
}

func strung(n int) *install.Circuit {
	k := &install.Circuit{ID: "c1", Name: "One", State: install.KeptCircuit}
	for i := range n {
		k.Serves.Boxes = append(k.Serves.Boxes, install.Box{ID: string(rune('a' + i)), Name: "box " + string(rune('a'+i))})
	}
	return k
}

// On random runs partings never tell a wrong order: what is said to come before comes before, and parting everywhere tells it whole.
func TestPartingsTellTheOrderAndNoMore(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 278))
	for range 400 {
		k := strung(2 + r.IntN(7))
		truth := []string{}
		for _, i := range r.Perm(len(k.Serves.Boxes)) {
			truth = append(truth, k.Serves.Boxes[i].ID)
		}
		job := &install.Job{Circuits: []install.Circuit{*k}}
		all := r.IntN(2) == 0
		for i, id := range truth {
			if !all && r.IntN(2) == 0 {
				continue
			}
			traced := []install.Traced{}
			for n, other := range truth {
				if other != id {
					traced = append(traced, install.Traced{Box: other, Dead: map[bool]int{true: 1}[n > i], Live: map[bool]int{true: 1}[n < i]})
				}
			}
			job.Records = append(job.Records, trace("c1", id, 8, traced...))
		}
		if r.IntN(2) == 0 {
			job.Circuits[0].Serves.BoxByID(truth[len(truth)-1]).Cables = 1
		}
		c := survey.TracingOf(job, words).Circuits[0]
		require.Empty(t, c.Clash)
		at := 0
		for _, s := range c.Order {
			require.ElementsMatch(t, truth[at:at+len(s.Boxes)], s.Boxes)
			at += len(s.Boxes)
		}
		order, known := c.Known()
		assert.Equal(t, known, c.Tells == "" && len(c.Order) > 0)
		if all {
			require.True(t, known)
			assert.Equal(t, truth, order)
		}
	}
}

// Partings that do not go together tell nothing, and say why.
func TestPartingsThatClash(t *testing.T) {
	dead := func(ids ...string) (out []install.Traced) {
		for _, id := range ids {
			out = append(out, install.Traced{Box: id, Dead: 1})
		}
		return out
	}
	for says, records := range map[string][]install.Record{
		"the other way round": {trace("c1", "a", 8, dead("b", "c")...), trace("c1", "b", 9, dead("a")...)},
		"the run is a ring":   {trace("c1", "a", 8, dead("c", "d")...), trace("c1", "b", 9, dead("c")...)},
		"count its cables":    {trace("c1", "a", 8, dead("b", "c")...)},
	} {
		k := strung(4)
		if says == "count its cables" {
			k.Serves.Boxes[3].Cables = 1
		}
		c := survey.TracingOf(&install.Job{Circuits: []install.Circuit{*k}, Records: records}, words).Circuits[0]
		assert.Contains(t, c.Clash, says)
		_, known := c.Known()
		assert.False(t, known)
	}
	k := strung(4)
	k.Serves.Boxes[0].Cables = 3
	c := survey.TracingOf(&install.Job{Circuits: []install.Circuit{*k}, Records: []install.Record{trace("c1", "a", 8, dead("c", "d")...)}}, words).Circuits[0]
	assert.True(t, slices.ContainsFunc(c.Order, func(s survey.OrderStep) bool { return len(s.Boxes) == 2 }), "a run that branches is no order")
	assert.Contains(t, c.Tells, "is not known")
}
