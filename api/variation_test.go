package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/design"
	"arvelt/core/install"
	"arvelt/core/survey"
)

// taken is a job of a walk with every circuit that is proposed for it.
func (c *client) taken(ref, practice, like, walk string) api.JobView {
	c.Helper()
	v := c.walked(ref, practice, like, walk)
	main := v.View.Job.Board
	main.Ways = ways(40)
	require.Equal(c, 200, c.part(v, "board", main).status)
	var p design.Proposal
	c.do("GET", "/api/jobs/"+v.Id+"/design", nil).into(c.T, &p)
	all := []string{}
	for _, k := range p.Circuits {
		all = append(all, k.ID)
	}
	a := c.do("POST", "/api/jobs/"+v.Id+"/design", put{"tag": p.Tag, "circuits": all})
	require.Equal(c, 200, a.status, a.text)
	return c.read(v.Id)
}

func roomOf(v api.JobView, name string) *install.Room {
	return &v.View.Job.Rooms[slices.IndexFunc(v.View.Job.Rooms, func(r install.Room) bool { return r.Name == name })]
}

// Agreed points change by a variation alone: it is worked out with its circuit, cable, device, way, hours and price, accepted by a person, and
// every sheet follows; whatever else would change them is stopped, in both practices.
func TestAVariationReachesEverySheet(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, room, more, appliance, wet, gone, goneIn string }{
		"iec230":   {"PW-9360", "PW-2052", wholeWalk230, "parlour", "2 double socket", "flow heater 6kW", "scullery", "- shower", "bathroom"},
		"split120": {"PW-9361", "PW-2054", wholeWalk120, "den", "2 duplex", "flow heater 6kW", "laundry", "- range", "kitchen"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		id := v.Id
		vary := func(room, text string, more put) answer {
			body := put{"room": roomOf(v, room).ID, "text": text, "accept": false, "person": "", "reason": "", "note": ""}
			for k, val := range more {
				body[k] = val
			}
			return c.do("POST", "/api/jobs/"+id+"/variations", body)
		}
		accept := put{"accept": true, "person": "Oda Brill", "reason": install.FoundOut}
		assert.Equal(t, 409, vary(x.room, x.more, accept).status, "first the scope")
		c.made(id, put{"kind": "scope", "person": "Oda Brill"})

		// Past the variation nothing of the agreed points changes.
		v = c.read(id)
		room := *roomOf(v, x.room)
		room.Points = slices.Clone(room.Points)
		room.Points[0].Count++
		for what, a := range map[string]answer{
			"a count":   c.part(v, "rooms/"+room.ID, room),
			"shorthand": c.do("POST", "/api/jobs/"+id+"/walk", put{"text": x.room + ": light"}),
			"a room":    c.do("POST", "/api/jobs/"+id+"/walk", put{"text": "boot room: 2 light"}),
		} {
			assert.Equal(t, 409, a.status, what+": "+a.text)
			assert.Contains(t, a.text, "The points were agreed by Oda Brill", what)
			assert.Contains(t, a.text, "is a variation", what)
		}
		room.Points[0].Count--
		room.Points[0].HeightMM = 600
		require.Equal(t, 200, c.part(c.read(id), "rooms/"+room.ID, room).status, "where a point is within its room stays open")
		require.Equal(t, 200, c.do("POST", "/api/jobs/"+id+"/walk", put{"text": "boot room:"}).status, "a room without points may be walked")
		v = c.read(id)

		// Nor does a circuit feed what was never agreed; to part one that feeds what was is design.
		fed := v.View.Job.Circuits[slices.IndexFunc(v.View.Job.Circuits, func(k install.Circuit) bool { return len(k.Serves.Boxes) > 2 })]
		more := fed
		more.Serves.Boxes = slices.Clone(fed.Serves.Boxes)
		box := more.Serves.Boxes[0]
		box.ID, box.Name, box.Point, box.From = "beside", "Beside", "", more.Serves.Boxes[len(more.Serves.Boxes)-1].ID
		more.Serves.Boxes, more.Serves.Back = append(more.Serves.Boxes, box), ""
		extra := c.template(practice, fed.Use)
		extra.ID, extra.Name = "c-extra", "One more"
		for what, a := range map[string]answer{"a thing on a run": c.part(v, "circuits/"+more.ID, more), "a circuit": c.part(v, "circuits/c-extra", extra)} {
			assert.Equal(t, 409, a.status, "%s: %s", what, a.text)
			assert.Contains(t, a.text, "would feed what no point of the walk is", what)
		}

		// What it brings is seen before it is accepted, and nothing is changed by looking.
		var seen api.VariationAnswer
		a := vary(x.room, x.more, nil)
		require.Equal(t, 200, a.status, a.text)
		a.into(t, &seen)
		require.Len(t, seen.Change.Circuits, 1, practice)
		host := seen.Change.Circuits[0]
		assert.False(t, host.New)
		assert.Len(t, host.Gains, 2)
		assert.NotEmpty(t, seen.Change.Lines)
		assert.Equal(t, v.Versions, c.read(id).Versions)
		for says, a := range map[string]answer{"wished": vary(x.room, x.more, put{"reason": "mood"}), "points in shorthand": vary(x.room, "", nil)} {
			assert.Equal(t, 422, a.status)
			assert.Contains(t, a.text, says)
		}

		order := func(prefix string) (n float64) {
			for _, l := range c.read(id).View.Take.Lines {
				if strings.HasPrefix(l.Key, prefix) {
					n += l.Need
				}
			}
			return n
		}
		cable, steps := order("cable:"), len(v.View.Tasks)
		require.Equal(t, 200, vary(x.room, x.more, accept).status)
		v = c.read(id)
		k := v.View.Job.CircuitByID(host.ID)
		for _, name := range host.Gains {
			assert.True(t, slices.ContainsFunc(k.Serves.Boxes, func(b install.Box) bool { return b.Called() == name }), name)
		}
		assert.Greater(t, order("cable:"), cable, "more cable on the order")
		a = vary(x.wet, x.appliance, nil)
		a.into(t, &seen)
		own := seen.Change.Circuits[0]
		assert.True(t, own.New)
		assert.Positive(t, own.Way)
		require.Equal(t, 200, vary(x.wet, x.appliance, accept).status)
		v = c.read(id)
		require.NotNil(t, v.View.Job.CircuitByID(own.ID))
		assert.Greater(t, len(v.View.Tasks), steps, "with steps")
		assert.True(t, slices.ContainsFunc(v.View.Tests.Rows, func(r api.TestRow) bool { return r.Circuit == own.ID }), "and tests of its own")
		verdict := reportOf(c, id, own.ID).Verdict
		assert.NotEqual(t, "fail", string(verdict))

		// What was accepted is not undone; another variation takes it back.
		undo := c.do("POST", "/api/jobs/"+id+"/undo", put{"command": "", "free": false})
		assert.Equal(t, 409, undo.status, undo.text)
		assert.Contains(t, undo.text, "is a variation")
		n := len(v.View.Job.Circuits)
		require.Equal(t, 200, vary(x.goneIn, x.gone, put{"accept": true, "person": "Oda Brill"}).status)
		v = c.read(id)
		assert.Equal(t, n-1, len(v.View.Job.Circuits), "its circuit falls away with it")

		var sheet struct{ Scope survey.Scope }
		c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
		assert.Zero(t, sheet.Scope.Unagreed)
		require.Len(t, sheet.Scope.Variations, 3)
		assert.Equal(t, [2]string{install.FoundOut, install.Wished}, [2]string{sheet.Scope.Variations[0].Path, sheet.Scope.Variations[2].Path})
		for _, path := range []string{"/variations.pdf", "/pack"} {
			text := strings.Join(strings.Fields(c.pdf("/api/jobs/"+id+path)), " ")
			assert.Contains(t, text, "Oda Brill", path)
			assert.Contains(t, text, "found during the work", path)
			assert.Contains(t, text, x.room+": adds 2", path)
		}
	}
	remy := w.as("remy")
	v := c.job("PW-9360")
	a := remy.do("POST", "/api/jobs/"+v.Id+"/variations", put{"room": roomOf(v, "parlour").ID, "text": "light", "accept": true, "person": "Oda Brill",
		"reason": "", "note": ""})
	assert.Equal(t, 403, a.status, a.text)
}
