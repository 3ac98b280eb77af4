package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// A clamp reading on a circuit reaches the device ahead of it: it replaces the estimate, direct current counts against what the type bears, and
// much leakage without a trip holds until the trip test is read. The age of the house hints at its wiring and says what proves it.
func TestWhatIsReadOnTheSurveyReachesItsDevice(t *testing.T) {
	c := serve(t).as("tobias")
	v := c.walked("PW-9370", "iec230", "PW-2052", "hall g: = 4 double socket\nloft up: = 3 double socket")
	id := v.Id
	main := v.View.Job.Board
	main.Ways = ways(8)
	main.Groups = []install.Group{{ID: "g1", Name: "left", RCDType: "A", IdnMA: 30, RatingA: 63}}
	parts := put{"board": main}
	for i, name := range []string{"c1", "c2"} {
		k := c.template("iec230", "sockets")
		k.ID, k.Name, k.State, k.Protection.Way = name, []string{"Down", "Up"}[i], install.AlteredCircuit, i+1
		k.Protection.Group, k.Protection.RCDType, k.Protection.IdnMA = "g1", "", 0
		parts["circuits/"+name] = k
	}
	a := c.together("PW-9370", "what is there", parts)
	require.Equal(t, 200, a.status, a.text)
	clamp := func(circuit, subject string, ma float64) put {
		return put{"kind": "survey-reading", "subject": subject, "circuit": circuit, "value": ma, "unit": "mA", "instrument": "Clamp 4",
			"calibrated": "2027-05-01"}
	}
	check := func(id_ string) *working.Check {
		for _, k := range c.circuitsOf(id).Report.Job {
			if string(k.Rule) == id_ {
				return &k
			}
		}
		return nil
	}
	estimate := check("group")
	require.NotNil(t, estimate)
	c.held(id, clamp("c9", "leakage-ac", 3), 422, "circuit")
	c.made(id, clamp("c1", "leakage-ac", 9))
	c.made(id, clamp("c2", "leakage-ac", 8))
	assert.Equal(t, working.Fail, check("group").Verdict)
	assert.Contains(t, check("group").Summary, "17 mA stand of 9 mA")
	quiet := check("group-quiet")
	require.NotNil(t, quiet)
	assert.Equal(t, working.Unknown, quiet.Verdict)
	c.made(id, clamp("c1", "leakage-dc", 4))
	c.made(id, clamp("c2", "leakage-dc", 3))
	assert.Equal(t, working.Fail, check("group-direct").Verdict)

	v = c.read(id)
	main = v.View.Job.Board
	main.Groups[0].Trips = install.TripsNever
	require.Equal(t, 200, c.part(v, "board", main).status)
	assert.Contains(t, check("group-quiet").Summary, "Suspect: 17 mA")
	ordered := false
	for _, r := range c.read(id).View.Tests.Rows {
		ordered = ordered || r.ID == "rcd-x1:g1"
	}
	assert.True(t, ordered, "the trip test stands on the Test sheet")
	holds := []string{}
	for _, h := range c.read(id).View.State.Holds {
		holds = append(holds, h.What)
	}
	assert.Contains(t, strings.Join(holds, "\n"), "the trip test of the device")

	v = c.read(id)
	found := v.View.Job.Found
	year := 1958
	found.Board.Built = &year
	require.Equal(t, 200, c.part(v, "found", found).status)
	var sheet struct{ Case survey.Case }
	c.do("GET", "/api/jobs/"+id+"/case", nil).into(t, &sheet)
	require.NotNil(t, sheet.Case.Hint)
	require.NotEmpty(t, sheet.Case.Proofs)
	for _, p := range sheet.Case.Proofs {
		assert.ElementsMatch(t, []string{"Down", "Up"}, p.Open, p.Name)
	}
}
