package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/demo"
)

// One luminaire is replaced: begun as a repair, its circuit named, dead, done, tested, on, signed and printed, with nothing asked about
// supply, board, walk or cable, and nothing said of a design that nobody made.
func TestOneLuminaireFromTheDoorToThePack(t *testing.T) {
	w := serve(t)
	tobias, jana := w.as("tobias"), w.as("jana")
	a := tobias.do("POST", "/api/jobs", put{"ref": "PW-9001", "title": "Luminaire below the loft room", "kind": "repair", "practice": "iec230",
		"customer": "Oda Brill", "address": "3 Tallow Court", "town": "Tarrowick"})
	require.Equal(t, 201, a.status, a.text)
	v := tobias.job("PW-9001")
	assert.Equal(t, install.KeptCircuit, v.View.About.Circuit)
	whats := func() (out []string) {
		for _, h := range tobias.job("PW-9001").View.State.Holds {
			out = append(out, h.What)
		}
		return out
	}
	assert.Contains(t, whats(), "how far the work goes, as agreed")
	assert.Contains(t, whats(), "at least one circuit with its route")
	assert.Less(t, len(whats()), 6, "%v", whats())
	site := v.View.Job.Site
	site.Extent, site.Limits = "the luminaire of the landing, replaced by its like", "the rest of the circuit was not looked into"
	require.Equal(t, 200, tobias.part(v, "site", site).status)

	var terms struct{ Defaults []install.Circuit }
	require.Equal(t, 200, tobias.do("GET", "/api/terms?practice=iec230", nil).status)
	tobias.do("GET", "/api/terms?practice=iec230", nil).into(t, &terms)
	i := slices.IndexFunc(terms.Defaults, func(c install.Circuit) bool { return c.Use == "lighting" })
	require.GreaterOrEqual(t, i, 0)
	light := terms.Defaults[i]
	yes := true
	light.ID, light.Name, light.State = "c1", "Landing light", install.KeptCircuit
	light.Serves.Recessed = install.Recess{Fitted: true, Fire: true, Coverable: &yes}
	v = tobias.job("PW-9001")
	require.Equal(t, 200, tobias.part(v, "circuits/c1", light).status)
	assert.True(t, slices.ContainsFunc(whats(), func(s string) bool { return strings.HasPrefix(s, "Recessed luminaires") }), "%v", whats())
	light.Serves.Recessed.Tested = &yes
	v = tobias.job("PW-9001")
	a = tobias.part(v, "circuits/c1", light)
	require.Equal(t, 200, a.status, a.text)
	bad := light
	bad.State = "gone"
	a = tobias.part(tobias.job("PW-9001"), "circuits/c1", bad)
	require.Equal(t, 422, a.status)
	assert.Contains(t, a.text, "altered, kept")

	jana.held(v.Id, ticks("c1-replace", true), 409, "your own isolation of today")
	jana.made(v.Id, jana.isolates(v.Id))
	jana.made(v.Id, ticks("c1-replace", true))
	for _, r := range []put{reads("c1", "continuity-cpc", "Ω", 0.3), says("c1", "polarity-dead", true)} {
		jana.made(v.Id, r)
	}
	insulation := reads("c1", "insulation-le", "MΩ", 200)
	insulation["testV"] = 500
	jana.made(v.Id, insulation)
	jana.made(v.Id, permits())
	zs := reads("c1", "zs", "Ω", 0.6)
	v = jana.made(v.Id, zs)
	assert.Contains(t, whats(), "Loop impedance Zs at the point", "against the limit of a device that nobody looked at it proves nothing")
	light.Seen = true
	require.Equal(t, 200, tobias.part(tobias.job("PW-9001"), "circuits/c1", light).status)
	for _, r := range []put{says("c1", "polarity-live", true), reads("c1", "rcd-x1", "ms", 24), says("c1", "rcd-button", true), says("c1", "functional", true),
		serves(), ticks("owner", true)} {
		jana.made(v.Id, r)
	}
	v = tobias.job("PW-9001")
	require.Len(t, v.View.State.Holds, 1, "%v", whats())
	assert.True(t, v.View.Ready.Ready)
	a = tobias.do("POST", "/api/jobs/"+v.Id+"/sign", put{"password": demo.Password, "note": "done"})
	require.Equal(t, 200, a.status, a.text)
	pack := tobias.pdf("/api/jobs/" + v.Id + "/pack")
	for _, said := range []string{"the luminaire of the landing, replaced by its like", "the rest of the circuit was not looked into",
		"repaired or replaced, the circuit left as it was", "of its design nothing is said here", "Recessed luminaires"} {
		assert.Contains(t, pack, said)
	}
	for _, none := range []string{"Voltage drop", "Maximum demand", "Main bonding", "design current", "length of from the board", "100 W for each"} {
		assert.NotContains(t, pack, none)
	}
}
