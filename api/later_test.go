package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/whole"
)

// What is planned for later is held against what the job leaves, stands on the pack, and becomes a visit that begins with what is there.
func TestWhatComesLaterBecomesAVisit(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct{ ref, like, walk string }{
		"iec230":   {"PW-9390", "PW-2052", wholeWalk230},
		"split120": {"PW-9396", "PW-2054", wholeWalk120},
	} {
		v := c.taken(x.ref, practice, x.like, x.walk)
		id := v.Id
		kitchen := roomOf(v, "kitchen")
		plan := v.View.Job.Plan
		plan.Later = []install.Later{{ID: "later1", Kind: install.LaterCharger, Room: kitchen.ID, PowerW: 7400, From: "2027-05-03"},
			{ID: "later2", Kind: install.LaterSolar, PowerW: 3600, Note: "a roof to the south"}}
		require.Equal(t, 200, c.part(v, "plan", plan).status)
		bad := plan
		bad.Later = []install.Later{{ID: "later1", Kind: "windmill"}}
		a := c.part(c.read(id), "plan", bad)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "solar")

		var sheet struct{ Later []whole.LaterReport }
		c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
		require.Len(t, sheet.Later, 2)
		for _, r := range sheet.Later {
			require.Len(t, r.Circuits, 1, r.Name)
			assert.Positive(t, r.Circuits[0].Way, r.Name)
		}
		assert.Equal(t, len(v.View.Job.Circuits), len(c.read(id).View.Job.Circuits), "nothing of it is in the job")
		text := strings.Join(strings.Fields(c.pdf("/api/jobs/"+id+"/pack")), " ")
		assert.Contains(t, text, "Planned for later")
		assert.Contains(t, text, "a roof to the south")
		assert.Contains(t, text, "from 2027-05-03")

		make := func(later, key string) answer {
			return c.do("POST", "/api/jobs/"+id+"/visits", put{"later": later}, "Idempotency-Key", key)
		}
		assert.Equal(t, 422, make("later9", "visit-0001").status)
		a = make("later1", "visit-0002"+practice)
		require.Equal(t, 201, a.status, a.text)
		var made api.JobView
		a.into(t, &made)
		visit := made.View.Job
		assert.Equal(t, [3]any{install.EVCharger, practice, "2027-05-03"}, [3]any{visit.Kind, visit.Practice, visit.Plan.StartDate})
		assert.Equal(t, v.View.Job.Site.Customer, visit.Site.Customer)
		assert.Equal(t, len(v.View.Job.Circuits), len(visit.Circuits))
		for _, k := range visit.Circuits {
			assert.Equal(t, install.KeptCircuit, k.State)
		}
		assert.Equal(t, visit.Ref, c.read(id).View.Job.Plan.Later[0].Visit)
		assert.Equal(t, 409, make("later1", "visit-0003"+practice).status, "it is made once")
		assert.Equal(t, 403, w.as("remy").do("POST", "/api/jobs/"+id+"/visits", put{"later": "later2"}).status)
	}
}
