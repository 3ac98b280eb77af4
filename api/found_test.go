package api_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/survey"
)

// What is seen of an existing circuit is a finding on that circuit, and doubtful insulation is a reading that is asked for until it is made, in both
// practices.
func TestWhatIsSeenOfACircuitIsFoundOnIt(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct {
		ref   string
		use   install.Use
		test  string
		class string
	}{
		"iec230":   {"PW-2038", "sockets", "insulation-le", "C2"},
		"split120": {"PW-2054", "general", "insulation-hg", "unsafe"},
	} {
		v := c.job(x.ref)
		k := c.template(practice, x.use)
		k.ID, k.Name, k.State = "attic", "Attic", install.KeptCircuit
		a := c.part(v, "circuits/attic", k)
		require.Equal(t, 200, a.status, a.text)
		v = c.job(x.ref)
		found := v.View.Job.Found
		seen := install.FoundCircuit{Name: "Attic", Circuit: "attic", Insulation: "chewed", Terminal: install.TooMany}
		found.Circuits = append(slices.Clone(found.Circuits), seen)
		a = c.part(v, "found", found)
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "chewed")
		assert.Contains(t, a.text, "gnawed")
		at := len(found.Circuits) - 1
		found.Circuits[at].Insulation = install.InsulationGnawed
		a = c.part(v, "found", found)
		require.Equal(t, 200, a.status, a.text)

		look := func() (s struct{ Case survey.Case }) {
			c.do("GET", "/api/jobs/"+v.Id+"/case", nil).into(t, &s)
			return s
		}
		on := func() (kinds []string) {
			for _, s := range look().Case.Suggest {
				if s.Circuit == "attic" {
					kinds = append(kinds, s.Kind)
				}
			}
			return kinds
		}
		assert.ElementsMatch(t, []string{"vermin", "no-arc", "double-tapped"}, on(), practice)
		c.made(v.Id, put{"kind": "observation", "subject": "vermin", "path": x.class, "evidence": "seen", "circuit": "attic",
			"note": "bare for a hand’s breadth"})
		assert.NotContains(t, on(), "vermin", "it was taken up")
		finding := func() *survey.Finding {
			for _, s := range look().Case.Sections {
				for i := range s.Findings {
					if s.Findings[i].Circuit == "attic" {
						return &s.Findings[i]
					}
				}
			}
			return nil
		}
		require.NotNil(t, finding(), practice)
		assert.Equal(t, "vermin", finding().Kind)

		proof := func() survey.Proof {
			all := look().Case.Proofs
			i := slices.IndexFunc(all, func(p survey.Proof) bool { return p.Test == x.test })
			require.GreaterOrEqual(t, i, 0, practice)
			return all[i]
		}
		assert.Contains(t, proof().Open, "Attic")
		rows := c.job(x.ref).View.Tests.Rows
		assert.True(t, slices.ContainsFunc(rows, func(r api.TestRow) bool { return r.ID == x.test && r.Circuit == "attic" }),
			"it is on the Test sheet: %s", practice)

		found.Circuits[at].Insulation, found.Circuits[at].Terminal = install.InsulationSound, install.OneConductor
		require.Equal(t, 200, c.part(c.job(x.ref), "found", found).status)
		assert.Empty(t, on(), "what looks sound is no finding")
	}
}

// An existing circuit that is extended takes the cable of the legs to what is new on it, and a step that runs it; of what was there nothing is bought.
func TestAnExtendedCircuitTakesItsCable(t *testing.T) {
	c := serve(t).as("tobias")
	for practice, x := range map[string]struct {
		ref, like, walk, cable string
		use                    install.Use
		per                    float64 // of the list's unit in a metre
	}{
		"iec230":   {"PW-9430", "PW-2052", "study g: = 2 double socket, double socket", "cable:", "sockets", 1},
		"split120": {"PW-9431", "PW-2054", "study g: = 2 duplex, duplex", "cable:", "general", 1 / 0.3048},
	} {
		v := c.walked(x.ref, practice, x.like, x.walk)
		room := roomOf(v, "study")
		require.Len(t, room.Points, 2)
		k := c.template(practice, x.use)
		k.ID, k.Name, k.State = "old", "Old sockets", install.AlteredCircuit
		segment := k.Route.Segments[0]
		k.Route.Segments, k.Serves.Boxes, k.Serves.Back = nil, nil, ""
		for i, box := range []install.Box{{ID: "a"}, {ID: "b", From: "a"}, {ID: "n", From: "b"}} {
			box.Name, box.Device, box.Room, box.RatingA = "Outlet "+box.ID, install.PlainOutlet, room.ID, 15
			box.Point = room.Points[max(0, i-1)].ID
			k.Serves.Boxes = append(k.Serves.Boxes, box)
			segment.To, segment.LengthM, segment.Basis = box.ID, float64(4+i), install.Assumed
			k.Route.Segments = append(k.Route.Segments, segment)
		}
		a := c.part(v, "circuits/old", k)
		require.Equal(t, 200, a.status, a.text)
		own := func() (asks []materials.Ask) {
			for _, l := range c.job(x.ref).View.Take.Lines {
				for _, a := range l.Asks {
					if strings.HasPrefix(l.Key, x.cable) && a.By.Circuit == "old" {
						asks = append(asks, a)
					}
				}
			}
			return asks
		}
		require.Len(t, own(), 1, practice)
		assert.InDelta(t, 6*x.per, own()[0].Need, 0.01, "the last leg alone")
		assert.True(t, own()[0].Assumed)
		assert.Equal(t, []string{"old-cable"}, own()[0].Steps)
		assert.Contains(t, taskOf(t, c.job(x.ref), "old-cable").Title, "of cable to what it is extended by")

		k.Route.Segments[2].LengthM, k.Route.Segments[2].Basis = 9, install.Measured
		require.Equal(t, 200, c.part(c.job(x.ref), "circuits/old", k).status)
		assert.InDelta(t, 9*x.per, own()[0].Need, 0.01)
		assert.False(t, own()[0].Assumed)

		k.Serves.Boxes = k.Serves.Boxes[:2]
		k.Route.Segments = k.Route.Segments[:2]
		require.Equal(t, 200, c.part(c.job(x.ref), "circuits/old", k).status)
		assert.Empty(t, own(), "nothing is new on it")
	}
}
