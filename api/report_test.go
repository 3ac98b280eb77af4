package api_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/demo"
)

// An inspection from the door to the signed report: no work is asked for, a test that fails waits for a finding and not for a repair, and
// the report says what it comes to, by which findings, how far it went and what was not looked at.
func TestAnInspectionFromTheDoorToTheReport(t *testing.T) {
	w := serve(t)
	tobias, jana := w.as("tobias"), w.as("jana")
	a := tobias.do("POST", "/api/jobs", put{"ref": "PW-9400", "title": "Report on the weir cottage", "kind": "inspection", "practice": "iec230",
		"customer": "Oda Brill", "address": "3 Tallow Court", "town": "Tarrowick"})
	require.Equal(t, 201, a.status, a.text)
	v := tobias.job("PW-9400")
	id := v.Id
	assert.True(t, v.View.About.Report)
	site := v.View.Job.Site
	site.Extent, site.Limits = "every circuit of the cottage", "above the fixed ceiling of the loft nothing was seen"
	require.Equal(t, 200, tobias.part(v, "site", site).status)
	require.Equal(t, 200, tobias.part(tobias.job("PW-9400"), "supply", tobias.job("PW-2052").View.Job.Supply).status)
	k := tobias.template("iec230", "lighting")
	k.ID, k.Name, k.State = "c1", "Lights", v.View.About.Circuit
	assert.Equal(t, install.InspectedCircuit, k.State)
	require.Equal(t, 200, tobias.part(tobias.job("PW-9400"), "circuits/c1", k).status)
	whats := func() (out []string) {
		for _, h := range tobias.job("PW-9400").View.State.Holds {
			out = append(out, h.What)
		}
		return out
	}
	assert.Contains(t, whats(), "Lights: its cable and device, looked at and as recorded")
	k.Seen = true
	require.Equal(t, 200, tobias.part(tobias.job("PW-9400"), "circuits/c1", k).status)
	v = tobias.job("PW-9400")
	require.Len(t, v.View.Tasks, 1, "nothing is done but the report gone through")
	assert.Empty(t, v.View.Take.Lines)
	assert.False(t, v.View.Outcome.Satisfactory, "nothing is tested yet")
	assert.Contains(t, tobias.pdf("/api/jobs/"+id+"/pack"), "Not yet known:")

	jana.made(id, jana.isolates(id))
	jana.made(id, reads("", "continuity-earth", "Ω", 0.04))
	jana.made(id, reads("", "continuity-bond", "Ω", 0.04))
	jana.made(id, reads("", "ze", "Ω", 0.21))
	jana.made(id, says("", "earth-back", true))
	jana.made(id, reads("c1", "r1r2", "Ω", 0.7))
	for test, megohm := range map[string]float64{"insulation-ln": 300, "insulation-le": 0.2, "insulation-ne": 250} {
		r := reads("c1", test, "MΩ", megohm)
		r["testV"] = 500
		jana.made(id, r)
	}
	jana.made(id, says("c1", "polarity-dead", true))
	v = jana.reconnects(id)
	require.Contains(t, v.View.Unanswered, plan.Unanswered{Key: "test c1 insulation-le", Title: rowOf(t, v, "c1", "insulation-le").Title, Circuit: "Lights",
		Says: rowOf(t, v, "c1", "insulation-le").Summary, Sheet: "test"})
	assert.NotEmpty(t, v.View.Tests.MayEnergise(), "it is not put on again while nothing is said of the fault")
	finding := put{"kind": "observation", "subject": "other", "path": "C2", "note": "0.2 MΩ from line to earth", "place": "Lights", "evidence": "measured",
		"risk": "A fault to earth is close.", "mend": "Find the damaged stretch and renew it.", "answers": "test c1 insulation-le"}
	jana.held(id, put{"kind": "observation", "subject": "other", "path": "C9", "note": "x", "evidence": "measured", "risk": "r", "mend": "m"}, 422, "C1, C2")
	v = jana.made(id, finding)
	assert.True(t, rowOf(t, v, "c1", "insulation-le").Answered)
	assert.Empty(t, v.View.Tests.MayEnergise())
	danger := jana.made(id, put{"kind": "observation", "subject": "live-exposed", "path": "C1", "note": "a bare terminal by the sink", "place": "scullery",
		"evidence": "seen"})
	assert.Contains(t, danger.View.Tests.MayEnergise(), "A danger that is not made safe")
	last := danger.View.Job.Records[len(danger.View.Job.Records)-1].ID
	v = jana.made(id, put{"kind": "finding-step", "subject": last, "path": "made-safe", "note": "taped and its breaker locked", "person": "Oda Brill"})
	v = jana.made(id, put{"kind": "finding-step", "subject": last, "path": "told", "person": "Oda Brill", "note": "in the kitchen, at once"})
	assert.Empty(t, v.View.Tests.MayEnergise())
	assert.Len(t, v.View.Outcome.Because, 2)
	jana.made(id, permits())
	for _, r := range []put{reads("", "voltage", "V", 231), reads("", "voltage-ne", "V", 0.5), reads("", "pfc", "kA", 1.1), says("c1", "polarity-live",
		true), reads("c1", "zs", "Ω", 0.95), reads("c1", "rcd-x1", "ms", 24),
		says("c1", "rcd-button", true), says("c1", "functional", true), restores(), ticks("owner", true)} {
		jana.made(id, r)
	}
	v = tobias.job("PW-9400")
	require.Len(t, v.View.State.Holds, 1, "%v", whats())
	for _, item := range v.View.Ready.Items {
		assert.NotContains(t, item.Title, " fix done", "a report does no work")
		assert.NotContains(t, item.Title, "material")
	}
	a = tobias.do("POST", "/api/jobs/"+id+"/sign", put{"password": demo.Password, "note": "reported"})
	require.Equal(t, 200, a.status, a.text)
	pack := tobias.pdf("/api/jobs/" + id + "/pack")
	for _, said := range []string{"Inspection report", "Unsatisfactory: 2 findings", "taped and", "C1 · A live part can be touched, scullery – C2", "0.2 MΩ from line to earth",
		"Find the damaged", "every circuit of the cottage",
		"above the fixed ceiling of the loft nothing was seen", "What was inspected and tested", "Next inspection"} {
		assert.Contains(t, pack, said)
	}
	for _, none := range []string{"Handover record", "What was done", "Board labels", "For the owner", "to be blanked"} {
		assert.NotContains(t, pack, none)
	}
}
