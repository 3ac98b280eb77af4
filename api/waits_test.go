package api_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/working"
)

// The list says of each job what holds it, sheet by sheet: together as much as the job itself says, and changed with it.
func TestTheListSaysWhatHoldsEachJob(t *testing.T) {
	c := serve(t).as("tobias")
	row := func(ref string) (out api.JobRow) {
		var page api.JobPage
		c.do("GET", "/api/jobs?limit=200", nil).into(t, &page)
		for _, r := range page.Jobs {
			if r.Ref == ref {
				return r
			}
		}
		require.Fail(t, "no row", ref)
		return out
	}
	for _, ref := range []string{"PW-2037", "PW-2044", "PW-2054", "PW-2056"} {
		v, r, n := c.job(ref), row(ref), 0
		for i, w := range r.Waits {
			n += w.Count
			for _, before := range r.Waits[:i] {
				assert.NotEqual(t, before.Sheet, w.Sheet, "%s: each sheet once", ref)
			}
		}
		assert.Equal(t, len(v.View.State.Holds), n, "%s: none lost, none doubled", ref)
		if n > 0 {
			assert.Equal(t, v.View.State.Holds[0].What, r.Waits[0].First, ref)
			assert.Equal(t, v.View.State.Holds[0].Sheet, r.Waits[0].Sheet, ref)
		}
	}
	of := func(sheet working.Sheet) int {
		for _, w := range row("PW-2044").Waits {
			if w.Sheet == sheet {
				return w.Count
			}
		}
		return 0
	}
	was, v := of(working.SurveySheet), c.job("PW-2044")
	room := *roomOf(v, "bathroom")
	room.Bath.Fitted = ""
	require.Equal(t, 200, c.part(v, "rooms/"+room.ID, room).status)
	assert.NotEqual(t, was, of(working.SurveySheet), "what is asked of a bath has changed")
	assert.Equal(t, install.Survey, c.job("PW-2044").View.State.Stage)
}
