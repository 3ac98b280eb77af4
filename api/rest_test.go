package api_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/outdoor"
	"arvelt/core/working"
)

// Each electrode is held to the conductor that it needs, a device to the fault that it meets,
// and a rod to its thickness and its lie.
func TestElectrodesAndDevicesAreHeldToTheirOwnFigures(t *testing.T) {
	c := serve(t).as("tobias")
	rod := func(change func(*install.PlacedRod)) func(*install.Job) {
		return func(j *install.Job) { change(&j.Outdoor.Electrodes.Rods[0]) }
	}
	c.holds([]stood{
		{"6 AWG to the rods beside 4 AWG to the water pipe", "PW-2054", "", "electrode-conductor", working.Pass,
			func(j *install.Job) { j.Supply.EarthMM2, j.Supply.EarthTo = read(13.3), "rods" }},
		{"8 AWG to the rods", "PW-2054", "", "electrode-conductor", working.Fail,
			func(j *install.Job) { j.Supply.EarthMM2, j.Supply.EarthTo = read(8.367), "rods" }},
		{"a rod 0.24 in thick", "PW-2054", "", "rod-thickness-1", working.Fail,
			rod(func(r *install.PlacedRod) { r.DiameterMM = 6.1 })},
		{"flat at the surface where rock was met", "PW-2054", "", "rod-lie-1", working.Fail,
			rod(func(r *install.PlacedRod) { r.Mode, r.Rock, r.TopMM = "flat", true, 0 })},
		{"flat at 30 in", "PW-2054", "", "rod-lie-1", working.Pass,
			rod(func(r *install.PlacedRod) { r.Mode, r.Rock, r.TopMM = "flat", true, 762 })},
		{"rods 5 ft apart", "PW-2054", "", "rod-spacing", working.Fail,
			func(j *install.Job) { j.Outdoor.Electrodes.Rods[1].SpacingM = 1.524 }},
		{"a ring of 2.5/1.5 mm² at 683 A", "PW-2052", "c1", "withstand", working.Pass,
			func(j *install.Job) { j.Supply.PFCkA = read(0.683) }},
	})
	// A fresh rod meets the rule of its practice, so the second line does not begin in failure.
	for ref, least := range map[string]float64{"PW-2054": 8 * 0.3048, "PW-2058": 3, "PW-2052": 1} {
		var works outdoor.Report
		c.do("GET", "/api/jobs/"+c.job(ref).Id+"/outdoor", nil).into(t, &works)
		assert.GreaterOrEqual(t, works.Rules.Rod.LengthM, least-1e-9, ref)
	}
}

// Where an edition asks for no surge device the check names that edition, and never says
// that the service in hand is not new.
func TestASurgeDeviceByTheEdition(t *testing.T) {
	c := serve(t).as("tobias")
	file := c.do("GET", "/api/jobs/"+c.job("PW-2054").Id+"/file", nil).text
	var raw map[string]any
	require.NoError(t, json.Unmarshal([]byte(file), &raw))
	raw["edition"], raw["ref"] = "2017", "OLD-1"
	raw["surge"] = map[string]any{"devices": []any{}}
	a := c.do("POST", "/api/jobs/import?as=OLD-1", raw)
	require.Equal(t, 201, a.status, a.text)
	v := c.job("OLD-1")
	require.Equal(t, install.SupplyUpgrade, v.View.Job.Kind)
	for _, k := range c.shown(v.Id) {
		if k.ID == "surge-need" {
			assert.Equal(t, working.Caution, k.Verdict)
			assert.Contains(t, k.Summary, "The edition of 2017 does not ask for it")
			assert.NotContains(t, k.Summary, "it comes with a new or replaced service")
			return
		}
	}
	require.Fail(t, "no check of the need for surge protection")
}

// What rests on an assumed figure is said on the first page of the pack, whatever sheet the
// figure stands on; and what nobody was asked is claimed nowhere.
func TestThePackSaysWhatIsAssumed(t *testing.T) {
	c := serve(t).as("tobias")
	var jobs api.JobPage
	c.do("GET", "/api/jobs", nil).into(t, &jobs)
	some := 0
	for _, row := range jobs.Jobs {
		v := c.job(row.Ref)
		pack := c.pdf("/api/jobs/" + v.Id + "/pack")
		assumed := map[string]bool{}
		for _, k := range c.shown(v.Id) {
			for _, a := range k.Assumed {
				assumed[a] = true
			}
			assert.NotContains(t, k.Summary, "seen without opening", row.Ref)
			assert.NotContains(t, k.Summary, "first means of disconnection", row.Ref)
		}
		for a := range assumed {
			some++
			assert.Containsf(t, strings.ToLower(pack), strings.ToLower(a), "%s rests on %q and the pack does not say so", row.Ref, a)
			assert.NotContains(t, pack, "No figure of this job is marked as assumed", row.Ref)
		}
	}
	assert.Positive(t, some, "no job of the demo rests on an assumed figure")
}

// What holds a person who may not isolate tells them who can, not to make a record of their
// own.
func TestWhoIsNamedIsWhoCan(t *testing.T) {
	w := serve(t)
	jana, remy := w.as("jana"), w.as("remy")
	id := jana.job("PW-2037").Id
	jana.made(id, jana.isolates(id))
	deadTests(jana, id)
	jana.made(id, ticks("c1-point", false))
	remy.held(id, ticks("c1-point", true), 409, "whoever is qualified looks at it and does")
	assert.NotContains(t, taskOf(t, remy.job("PW-2037"), "c1-point").Closed, "your own isolation of today")
	w.as("tobias").held(id, ticks("c1-point", true), 409, "your own isolation of today")
}
