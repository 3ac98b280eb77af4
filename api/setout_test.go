package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Points are set out with their tags and circuits, held against furniture, worktops and reach; the step of first fix says what is remarked on,
// and a plan of rooms and ways prints with it.
func TestPointsAreSetOutForWhoeverMarksThem(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk, says, box string }{
		"iec230":   {"PW-9400", "PW-2052", wholeWalk230, "above the worktop of base units", "2g 35"},
		"split120": {"PW-9401", "PW-2054", wholeWalk120, "above the countertop of base units", "in³"},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		id := v.Id
		room := *roomOf(v, "kitchen")
		room.Points = slices.Clone(room.Points)
		room.Points[0].Wall, room.Points[0].OffsetMM, room.Points[0].HeightMM = "north", 900, 960
		room.Furniture = []install.Furniture{{Name: "base units", Kind: install.Worktop, Wall: "north", ToMM: 2400, TopMM: 900}}
		bad := room
		bad.Furniture = []install.Furniture{{Name: "x", Kind: "ghost", Wall: "n"}}
		assert.Equal(t, 422, c.part(v, "rooms/"+room.ID, bad).status)
		a := c.part(v, "rooms/"+room.ID, room)
		require.Equal(t, 200, a.status, a.text)
		var sheet struct {
			SetOut []survey.SettingOut
			Ways   survey.WaysPlan
		}
		c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
		at := slices.IndexFunc(sheet.SetOut, func(s survey.SettingOut) bool { return s.Name == "kitchen" })
		require.GreaterOrEqual(t, at, 0)
		p := sheet.SetOut[at].Points[0]
		assert.Equal(t, working.Caution, p.Verdict)
		assert.Contains(t, p.Says[0], x.says)
		assert.NotEmpty(t, p.Tags, "it stands on a run")
		assert.NotEmpty(t, p.Circuit)
		assert.Contains(t, p.Box, x.box, "by what enters it")
		assert.False(t, p.BoxOpen, "it stands on a run")
		assert.Len(t, sheet.Ways.Rooms, len(v.View.Job.Rooms))
		step := slices.IndexFunc(c.read(id).View.Tasks, func(s plan.Task) bool { return s.ID == room.ID+"-boxes" })
		require.GreaterOrEqual(t, step, 0)
		assert.Contains(t, c.read(id).View.Tasks[step].Caution, "Of 1 points the")
		text := strings.Join(strings.Fields(c.pdf("/api/jobs/"+id+"/setting-out.pdf")), " ")
		for _, want := range []string{"kitchen", "base units", "landing", "not to scale"} {
			assert.Contains(t, text, want)
		}

		// Two rooms of one name on one floor are not told apart; on another floor they are.
		twin := *roomOf(v, "hall")
		twin.Name, twin.Floor = "Kitchen", room.Floor
		a = c.part(c.read(id), "rooms/"+twin.ID, twin)
		assert.Equal(t, 422, a.status, a.text)
		assert.Contains(t, a.text, "Kitchen 2")
		twin.Floor = "attic"
		assert.Equal(t, 200, c.part(c.read(id), "rooms/"+twin.ID, twin).status)
		a = c.do("POST", "/api/jobs/"+id+"/walk", put{"text": "boot room: switch"})
		require.Equal(t, 200, a.status, a.text)
		assert.Contains(t, a.text, "nothing that it switches")
	}
}
