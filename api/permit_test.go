package api_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/proving"
)

// partOf is the part of a job that a device closes.
func partOf(t *testing.T, v api.JobView, device string) proving.Part {
	t.Helper()
	i := slices.IndexFunc(v.View.Tests.Parts, func(p proving.Part) bool { return slices.Contains(p.Closes, device) })
	require.GreaterOrEqual(t, i, 0, "no part of %s", device)
	return v.View.Tests.Parts[i]
}

// waitsFor is all that a use of a part waits for.
func waitsFor(p proving.Part, use install.PermitUse) (out []string) {
	for _, f := range p.For {
		if f.Use == use {
			for _, x := range f.Waits {
				out = append(out, x.Why)
			}
		}
	}
	return out
}

// Energised is a part at a time: what was there is restored while the rest is worked on, the page for the house says what is in use, what is
// unfinished waits for its tests, and a lock keeps its own circuit out. In both practices.
func TestEnergiseByPartReachesEverySheet(t *testing.T) {
	w := serve(t)
	c, remy := w.as("tobias"), w.as("remy")
	for practice, x := range map[string]struct{ ref, like, walk, used, not string }{
		"iec230":   {"PW-9611", "PW-2052", wholeWalk230, "In use on", "Not in use: keep away, it counts as live"},
		"split120": {"PW-9612", "PW-2054", wholeWalk120, "In use on", "Not in use: keep away, it counts as live"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		id := v.Id
		made := v.View.Job.Circuits[0]
		old := made
		old.ID, old.Name, old.State, old.Seen, old.Serves, old.Protection.Way = "old", "Well pump", install.KeptCircuit, true, install.Serves{}, 40
		old.Route.Segments = []install.Segment{{Place: "along the wall", LengthM: 8, Basis: install.Measured, Method: made.Route.Segments[0].Method,
			AmbientC: made.Route.Segments[0].AmbientC, Grouped: 1}}
		a := c.part(c.job(x.ref), "circuits/"+old.ID, old)
		require.Equal(t, 200, a.status, a.text)
		v = c.read(id)
		usedNow := func() map[string]proving.Used {
			out := map[string]proving.Used{}
			for _, u := range c.read(id).View.Tests.Use {
				out[u.Circuit] = u
			}
			return out
		}
		assert.True(t, usedNow()[old.ID].InUse, "as it was before the work")
		assert.False(t, usedNow()[made.ID].InUse)

		iso := opens(c.read(id), func(d isolate.Device) bool { return d.Kind == isolate.SwitchKind || d.Kind == isolate.SourceKind })
		iso["proofs"] = []put{dead(placeOf(t, v, "board:"), 0.4), dead(placeOf(t, v, "circuit:"+old.ID), 0.4)}
		v = c.made(id, iso)
		assert.False(t, usedNow()[old.ID].InUse, "switched off and locked")
		p := partOf(t, v, "main")
		assert.Equal(t, proving.PartLocked, p.State)
		assert.NotEmpty(t, waitsFor(p, install.ForTest), "nothing was tested")
		assert.Greater(t, len(waitsFor(p, install.IntoUse)), len(waitsFor(p, install.ForTest)))
		assert.Empty(t, waitsFor(p, install.RestoreUse), "nothing of the rest is begun")
		assert.Contains(t, c.do("GET", "/api/jobs/"+id, nil).text, "not in service yet")

		remy.held(id, restores(), 403, "not authori")
		unknown := restores()
		unknown["closes"] = []string{"lamp"}
		c.held(id, unknown, 422, "energise.closes")
		twice := restores()
		twice["closes"] = []string{"main", "main"}
		c.held(id, twice, 422, "each device once")
		v = c.made(id, restores())
		assert.Empty(t, v.View.Tests.Locks)
		p = partOf(t, v, "main")
		assert.Equal(t, proving.PartService, p.State)
		assert.Equal(t, "Tobias Marrick", p.Permit.By)
		assert.NotContains(t, p.Reaches, made.Name, "nothing of it is connected")
		u := usedNow()
		assert.True(t, u[old.ID].InUse)
		assert.Contains(t, u[old.ID].Says, "in service since")
		assert.Equal(t, "it is not finished", u[made.ID].Says)
		c.held(id, ticks(made.ID+"-board", true), 409, "First:")

		c.made(id, left(install.LeftLoop, put{"place": "larder wall", "note": "two metres"}))
		page := c.pdf("/api/jobs/" + id + "/in-use.pdf")
		for _, said := range []string{"Where you stop", "larder wall", "Stop at its door", x.used, x.not, old.Name, made.Name, "counts as live",
			"Nothing on this page is leave to open or to cut",
			"at the end of"} {
			assert.Contains(t, page, said)
		}
		assert.Contains(t, c.pdf("/api/jobs/"+id+"/pack"), "nothing of it was altered or begun")

		// One circuit alone goes off and is switched on without permission; whoever sees it says so.
		iso = opens(c.read(id), func(d isolate.Device) bool { return d.ID == "circuit:"+old.ID })
		iso["proofs"] = []put{dead(placeOf(t, v, "circuit:"+old.ID), 0.4)}
		v = c.made(id, iso)
		require.NotNil(t, v.View.Tests.Isolation)
		assert.Equal(t, proving.PartService, partOf(t, v, "main").State, "the rest stays in use")
		assert.False(t, usedNow()[old.ID].InUse)
		assert.Contains(t, c.pdf("/api/jobs/"+id+"/in-use.pdf"), "Only who hung it takes it off")
		remy.held(id, put{"kind": "switched-on", "subject": "lamp", "note": "x"}, 422, "switched-on.subject")
		v = remy.made(id, put{"kind": "switched-on", "subject": "circuit:" + old.ID, "note": "the painter wanted light"})
		assert.Equal(t, proving.PartStray, partOf(t, v, "circuit:"+old.ID).State)
		v = c.read(id)
		assert.Nil(t, v.View.Tests.Isolation, "what was read dead proves nothing any more")
		assert.Contains(t, v.View.Tests.Isolations[0].Flaws[0], "by Remy Stroud")
		assert.Contains(t, c.pdf("/api/jobs/"+id+"/pack"), "the painter wanted light")
	}
}

// Whoever may be on the site has reported since the permission was asked for, or is confirmed clear by name, how and by whom.
func TestWhoMayBeOnSiteIsClearBeforeAnythingIsEnergised(t *testing.T) {
	w := serve(t)
	c, remy := w.as("tobias"), w.as("remy")
	v := c.taken("PW-9621", "iec230", "PW-2052", wholeWalk230)
	id := v.Id
	c.made(id, opens(v, func(d isolate.Device) bool { return d.Kind == isolate.SwitchKind }))
	remy.made(id, put{"kind": "loose-end", "note": "a gland to be tightened", "path": ""})
	loose := c.read(id).View.Loose[0].ID
	c.made(id, put{"kind": "loose-end", "subject": loose, "done": true, "note": "tightened"})
	at := func(of *client, method, path string) (on proving.Clearance) {
		of.do(method, "/api/jobs/"+id+path, nil).into(t, &on)
		return on
	}
	on := at(c, "GET", "/clear")
	assert.Nil(t, on.Asked)
	require.Len(t, on.People, 1)
	assert.Equal(t, "Remy Stroud", on.People[0].Name)
	assert.Nil(t, on.People[0].Seen)

	permit := restores()
	permit["clear"] = []put{}
	c.held(id, permit, 422, "Remy Stroud")
	permit["clear"] = []put{{"person": "Remy Stroud", "how": "", "by": "x"}}
	c.held(id, permit, 422, "how")
	permit["clear"] = []put{}
	require.Equal(t, 204, remy.do("POST", "/api/jobs/"+id+"/here", nil).status)
	c.held(id, permit, 422, "last seen 20")
	on = at(c, "POST", "/clear")
	require.NotNil(t, on.Asked)
	assert.False(t, on.People[0].Reported, "that was before it was asked")
	c.held(id, permit, 422, "Remy Stroud")
	require.Equal(t, 204, remy.do("POST", "/api/jobs/"+id+"/here", nil).status)
	assert.True(t, at(c, "GET", "/clear").People[0].Reported)
	assert.Nil(t, at(remy, "GET", "/clear").Asked, "who asked is who permits")
	c.made(id, permit)

	c.made(id, opens(c.read(id), func(d isolate.Device) bool { return d.Kind == isolate.SwitchKind }))
	permit["clear"] = []put{{"person": "Remy Stroud", "how": "went home, rang him", "by": "Tobias Marrick"}}
	c.made(id, permit)
	assert.Contains(t, c.pdf("/api/jobs/"+id+"/pack"), "went home, rang him")
}
