package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/plan"
	"arvelt/core/proving"
)

// What a test disconnects, or somebody by hand, holds every use of what rests on it, in both practices, and the pack says when it was off and
// who put it back.
func TestWhatIsDisconnectedForATestReachesEverySheet(t *testing.T) {
	w := serve(t)
	c, remy := w.as("tobias"), w.as("remy")
	for practice, x := range map[string]struct {
		ref, like, walk string
		reads           put
		id, name        string
	}{
		"iec230":   {"PW-9613", "PW-2052", wholeWalk230, reads("", "continuity-earth", "Ω", 0.03), "earth", "Main earthing conductor"},
		"split120": {"PW-9614", "PW-2054", wholeWalk120, put{"kind": "loose-end", "parted": "earth"}, "earth", "Grounding electrode conductor"},
	} {
		id := c.taken(x.ref, practice, x.like, x.walk).Id
		c.made(id, opens(c.read(id), func(d isolate.Device) bool { return d.Kind == isolate.SwitchKind || d.Kind == isolate.SourceKind }))
		remy.held(id, put{"kind": "loose-end", "parted": "curtain rail"}, 422, "loose-end.parted")
		v := c.made(id, x.reads)
		i := slices.IndexFunc(v.View.Tests.Conductors, func(k proving.Conductor) bool { return k.ID == x.id })
		require.GreaterOrEqual(t, i, 0)
		require.NotNil(t, v.View.Tests.Conductors[i].Parted, practice)
		asks := "Disconnected for a test and not on record as reconnected: " + x.name + "."
		for _, use := range install.PermitUses {
			assert.Contains(t, waitsFor(partOf(t, v, "main"), use), asks, "%s %s", practice, use)
		}
		c.held(id, put{"kind": "loose-end", "parted": x.id}, 409, "disconnected already")
		c.held(id, put{"kind": "loose-end", "parted": "surge", "path": "handover"}, 422, "loose-end.path")
		off := v.View.Tests.Conductors[i].Parted
		remy.held(id, put{"kind": "loose-end", "subject": off.ID, "done": true, "note": "on"}, 403, "clear what holds the work")
		v = c.made(id, put{"kind": "loose-end", "subject": off.ID, "done": true, "note": "on its terminal, torqued"})
		assert.NotContains(t, waitsFor(partOf(t, v, "main"), install.RestoreUse), asks)
		pack := c.pdf("/api/jobs/" + id + "/pack")
		for _, said := range []string{"Disconnected for a test", x.name, "Reconnected", "on its terminal, torqued"} {
			assert.Contains(t, pack, said, practice)
		}
	}
}

// A test is permitted with how people are kept out and which covers stay off; a live test that fails is energised once more only as the
// supervisor orders it in writing, and the pack says all of it.
func TestAFailedLiveTestAndTheOrderAfterIt(t *testing.T) {
	w := serve(t)
	jana, tobias := w.as("jana"), w.as("tobias")
	id := jana.job("PW-2037").Id
	jana.made(id, jana.isolates(id))
	v := deadTests(jana, id)
	v = jana.made(id, put{"kind": "loose-end", "subject": v.View.Loose[0].ID, "done": true, "note": "cover on"})
	unguarded := permits()
	delete(unguarded, "guarding")
	jana.held(id, unguarded, 422, "energise.guarding")
	bare := permits()
	bare["bare"], bare["guarding"] = []string{"attic"}, "barrier"
	jana.held(id, bare, 422, "energise.bare[0]")
	bare["bare"] = []string{"board:"}
	jana.made(id, bare)
	v = jana.made(id, reads("c1", "zs", "Ω", 7.5))
	row := rowOf(t, v, "c1", "zs")
	require.True(t, row.Orderable)

	jana.made(id, jana.isolates(id))
	order := put{"kind": "retest-order", "subject": row.Reading.ID, "path": "search", "note": "one leg at a time, leads nulled"}
	jana.held(id, order, 403, "not for the role electrician")
	wrong := put{"kind": "retest-order", "subject": row.Reading.ID, "path": "guess", "note": "x"}
	tobias.held(id, wrong, 422, "retest-order.path")
	jana.held(id, permits(), 409, "the supervisor orders a retest or a guarded search")
	v = tobias.made(id, order)
	assert.Equal(t, "search", rowOf(t, v, "c1", "zs").Ordered.Path)
	bare["bare"] = []string{}
	jana.held(id, bare, 422, "Tobias Marrick ordered a guarded search")
	v = jana.made(id, permits())
	assert.Equal(t, proving.PartTest, partOf(t, v, "main").State)
	asks := []string{}
	for _, f := range partOf(t, v, "main").For {
		for _, a := range f.Asks {
			asks = append(asks, string(f.Use)+" "+a.ID)
		}
	}
	assert.Contains(t, asks, "service cover:board:", "the cover that was off is asked about before service")
	pack := jana.pdf("/api/jobs/" + id + "/pack")
	for _, said := range []string{"Guarded search ordered", "one leg at a time", "guarded by barriers and a notice", "cover off:",
		"guarded by somebody who stands there"} {
		assert.Contains(t, pack, said)
	}
}

// A rewire asks for a lawful way to make the board dead, refuses one that is none, and is held until one is chosen that is offered on it.
func TestARewireAsksForALawfulWay(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, never, lawful string }{
		"iec230":   {"PW-9615", "PW-2052", wholeWalk230, "pull-it-yourself", "operator-fuse"},
		"split120": {"PW-9616", "PW-2054", wholeWalk120, "pull-meter", "utility-disconnect"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		held := func() bool {
			return slices.ContainsFunc(c.read(v.Id).View.State.Holds, func(h plan.Hold) bool {
				return strings.HasPrefix(h.What, "a lawful way to isolate") || strings.HasPrefix(h.What, "a lawful way to de-energize")
			})
		}
		require.True(t, v.View.Job.Trait().Intake, practice)
		out := c.job(x.ref).View.Job.Outage
		out.Route = ""
		require.Equal(t, 200, c.part(c.job(x.ref), "outage", out).status)
		assert.True(t, held(), practice)
		out.Route = x.never
		assert.Equal(t, 422, c.part(c.job(x.ref), "outage", out).status, practice)
		out.Route = x.lawful
		require.Equal(t, 200, c.part(c.job(x.ref), "outage", out).status)
		assert.False(t, held(), practice)
	}
}

// No conductor of earth, bonding or neutral is disconnected before its current is clamped and the voltage across the break is read; with current
// in it, only bridged. The pack says what it carried.
func TestNothingOfEarthIsDisconnectedBeforeItsCurrentIsClamped(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk string }{
		"iec230":   {"PW-9641", "PW-2052", wholeWalk230},
		"split120": {"PW-9642", "PW-2054", wholeWalk120},
	} {
		t.Run(practice, func(t *testing.T) {
			id := c.taken(x.ref, practice, x.like, x.walk).Id
			v := c.made(id, opens(c.read(id), func(d isolate.Device) bool { return d.Kind == isolate.SwitchKind || d.Kind == isolate.SourceKind }))
			i := slices.IndexFunc(v.View.Tests.Rows, func(r proving.Row) bool { return len(r.Parting) > 0 && r.Closed == "" })
			require.GreaterOrEqual(t, i, 0)
			row := v.View.Tests.Rows[i]
			take := func(clamp, across any, bridged bool) put {
				r := reads(row.Circuit, row.ID, row.Unit, 0.03)
				if len(row.Patterns) > 0 {
					r = put{"kind": "reading", "subject": row.ID, "circuit": row.Circuit, "answer": row.Patterns[0]}
				}
				r["clampA"], r["acrossV"], r["bridged"] = clamp, across, bridged
				return r
			}
			c.held(id, take(nil, nil, false), 422, "reading.clampA")
			c.held(id, take(0.02, nil, false), 422, "reading.acrossV")
			c.held(id, take(-1, 0, false), 422, "reading.clampA")
			c.held(id, take(3.2, 0.4, false), 409, "carries 3.2 A: do not disconnect it")
			c.held(id, take(0.02, 61, false), 409, "61 V stand across the break")
			byHand := v.View.Tests.Conductors[slices.IndexFunc(v.View.Tests.Conductors,
				func(k proving.Conductor) bool { return k.Name != row.Parting[0] && k.Clamped })]
			c.held(id, put{"kind": "loose-end", "parted": byHand.ID, "clampA": nil}, 422, "loose-end.clampA")
			v = c.made(id, take(3.2, 0.4, true))
			assert.Empty(t, v.View.Tests.Rows[i].Parting, "it is disconnected")
			v = c.made(id, put{"kind": "loose-end", "parted": byHand.ID, "clampA": nil, "couldNot": "it was found off"})
			pack := c.pdf("/api/jobs/" + id + "/pack")
			for _, said := range []string{row.Parting[0] + "; 3.2 A clamped in it before, 0.4 V across the break, bridged first", byHand.Name +
				"; not clamped: it was found off"} {
				assert.Contains(t, strings.Join(strings.Fields(pack), " "), said)
			}
		})
	}
}
