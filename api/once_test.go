package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// An appliance is entered once, on the walk: its circuit draws what the walk says, and follows when the walk is corrected; a surge device
// has the rating of its branch, and is bought and fitted by a job only where it was not there; in both practices.
func TestOneOfEverythingReachesEverySheet(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	for practice, x := range map[string]struct {
		ref, like, walk string
		volts           float64
		use             install.Use
	}{
		"iec230":   {"PW-9320", "PW-2052", "scullery g: water heater 2kW", 230, "water-stored"},
		"split120": {"PW-9321", "PW-2054", "scullery: water heater 3600W", 240, "water-heater"},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		id := v.Id
		k := c.template(practice, x.use)
		k.ID, k.Name, k.Serves.PowerW = "c1", "Water heater", 1000
		require.Equal(t, 200, c.part(v, "circuits/c1", k).status)
		draws := func() float64 { return reportOf(c, id, "c1").Summary.DesignA }
		require.Nil(t, reportOf(c, id, "c1").Drawn)
		assert.InDelta(t, 1000/x.volts, draws(), 0.01, "what was entered with it, while no point stands on it")
		c.placeAll(id, func(string) string { return "c1" })
		room := c.read(id).View.Job.Rooms[0]
		watts := room.Points[0].PowerW
		require.Greater(t, watts, 0.0)
		assert.InDelta(t, watts/x.volts, draws(), 0.01)
		assert.Equal(t, &install.Drawn{PowerW: watts}, reportOf(c, id, "c1").Drawn)
		room.Points[0].PowerW = 2 * watts
		require.Equal(t, 200, c.part(c.job(x.ref), "rooms/"+room.ID, room).status)
		assert.InDelta(t, 2*watts/x.volts, draws(), 0.01, "the walk was corrected")

		branch := c.template(practice, "surge")
		branch.ID, branch.Name = "c2", "Surge branch"
		require.Equal(t, 200, c.part(c.job(x.ref), "circuits/c2", branch).status)
		plan := c.job(x.ref).View.Job.Surge
		plan.Devices = []install.SPD{{Name: "Arrester", Place: install.AtOrigin, Type: "2", Circuit: "c2"}, {Name: "Old arrester",
			Place: install.AtLoad, Type: "3", Kept: true},
			{Name: "Third arrester", Place: install.AtLoad, Type: "3"}}
		require.Equal(t, 200, c.part(c.job(x.ref), "surge", plan).status)
		v = c.read(id)
		bought, steps := []string{}, []string{}
		for _, l := range v.View.Take.Lines {
			if strings.HasPrefix(l.Key, "device:spd:") {
				bought = append(bought, l.Name)
			}
		}
		for _, s := range v.View.Tasks {
			if strings.HasPrefix(s.ID, "surge-") {
				steps = append(steps, s.Title)
			}
		}
		require.Len(t, bought, 2, "%v", bought)
		assert.NotContains(t, strings.Join(bought, "\n"), "Old arrester")
		require.Len(t, steps, 1, "the branch brings the step of its own device: %v", steps)
		assert.Contains(t, steps[0], "Third arrester")
		pack := c.pdf("/api/jobs/" + id + "/pack")
		done := pack[strings.Index(pack, "What was done"):strings.Index(pack, "Left to others")]
		assert.Contains(t, done, "Third arrester")
		assert.NotContains(t, done, "Old arrester")
		plan.Devices[0].BranchA = 20
		a := c.part(c.job(x.ref), "surge", plan)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "the rating is that of Surge branch")
		assert.Equal(t, 409, c.do("DELETE", "/api/jobs/"+id+"/parts?part=circuits/c2&base="+number(c.job(x.ref), "circuits/c2"), nil).status)
	}
}
