package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// A circuit that a rewire takes out keeps its place on the sheet as abandoned, stops the rooms that it lies in until both its ends were
// proved dead under an isolation, gives its way to another, and stands on the papers as what became of it, in both practices.
func TestACircuitThatLeavesReachesEverySheet(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct {
		ref, like, walk string
		use             install.Use
		pairs           []string
		dead            string
	}{
		"iec230": {"PW-9310", "PW-2052", "parlour g: 4 double socket, -2 light", "lighting", []string{"L-N", "L-PE", "N-PE"}, "proved dead"},
		"split120": {"PW-9311", "PW-2054", "den: 4 duplex, -2 ceiling light", "lighting", []string{"L1-L2", "L1-N", "L2-N", "L1-G", "L2-G", "N-G"},
			"tested dead"},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		id := v.Id
		main := v.View.Job.Board
		main.Ways = ways(4)
		main.Ways[1].Label = "old lights"
		require.Equal(t, 200, c.part(v, "board", main).status)
		old := c.template(practice, x.use)
		old.ID, old.Name, old.State, old.Protection.Way = "c1", "Old lights", install.RemovedCircuit, 2
		require.Equal(t, 200, c.part(c.job(x.ref), "circuits/c1", old).status)
		fresh := c.template(practice, x.use)
		fresh.ID, fresh.Name, fresh.Protection.Way = "c2", "Lights", 2
		a := c.part(c.job(x.ref), "circuits/c2", fresh)
		require.Equal(t, 200, a.status, "its way is free: "+a.text)
		sheet := c.circuitsOf(id)
		for _, other := range sheet.Report.Checks() {
			assert.False(t, other.Circuit == "c1", "no rule is asked of it: %s", other.ID)
			assert.False(t, other.Circuit == "c2" && other.Rule == "way" && other.Verdict != "pass", other.Summary)
		}

		// The walk's points that go are put on it, those that stay are refused.
		s := c.circuitsOf(id)
		require.Len(t, s.Leaving, 1)
		u := s.Leaving[0]
		c.runs(id, install.RunChange{Do: install.PlacePoint, Circuit: "c1", Room: u.Room, Point: u.Point})
		assert.Empty(t, c.circuitsOf(id).Leaving)
		stays := c.circuitsOf(id).Unplaced[0]
		for says, ch := range map[string]install.RunChange{
			"taken out, as Old lights is": {Do: install.PlacePoint, Circuit: "c1", Room: stays.Room, Point: stays.Point},
			"a point that stays":          {Do: install.PlacePoint, Circuit: "c2", Room: u.Room, Point: u.Point},
		} {
			a := c.do("POST", "/api/jobs/"+id+"/runs", ch)
			assert.Equal(t, 422, a.status, says)
			assert.Contains(t, a.text, says)
		}
		assert.Equal(t, []string{"Old lights"}, c.darkOf(id).Abandoned)
		for _, d := range c.darkOf(id).Devices {
			assert.NotEqual(t, "circuit:c1", d.ID)
		}
		closed := func(task string) string {
			for _, x := range c.read(id).View.Tasks {
				if x.ID == task {
					return x.Closed
				}
			}
			require.Fail(t, "no step "+task)
			return ""
		}
		assert.Contains(t, closed(u.Room+"-boxes"), "Old lights", "its cable may be live where it lies")
		assert.Contains(t, c.pdf("/api/jobs/"+id+"/pack"), "Not yet "+x.dead)
		c.held(id, ticks("c1-part", true), 409, "of today")
		c.held(id, ticks("c1-clear", true), 409, "First:")

		c.made(id, c.isolates(id))
		c.made(id, ticks("c1-part", true))
		c.made(id, ticks(u.Room+"-locate", true))
		assert.Empty(t, closed(u.Room+"-boxes"))
		assert.Empty(t, c.darkOf(id).Abandoned)
		report := reportOf(c, id, "c1")
		require.NotNil(t, report.Leaving)
		assert.Equal(t, "Tobias Marrick", report.Leaving.Parted.By)
		assert.Nil(t, report.Leaving.Cleared)
		c.made(id, ticks("c1-clear", true))
		pack := c.pdf("/api/jobs/" + id + "/pack")
		assert.Contains(t, pack, "Not connected: Old lights")
		assert.Contains(t, strings.ReplaceAll(pack, "\n", " "), "taken out. Both ends "+x.dead+" and taken off by Tobias Marrick")

		// It feeds nothing that stays, and takes no new point.
		k := *c.read(id).View.Job.CircuitByID("c2")
		k.From = "c1"
		a = c.part(c.job(x.ref), "circuits/c2", k)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "what stays")
	}
}
