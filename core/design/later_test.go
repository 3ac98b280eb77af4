package design_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/survey"
	"arvelt/core/whole"
)

// What is planned for later is held against what the job leaves: ways, demand, the direction of devices on its way; nothing of it is in the job.
func TestWhatComesLaterIsHeldAgainstWhatIsLeft(t *testing.T) {
	for practice, walk := range map[string]string{"iec230": walk230, "split120": walk120} {
		j := designed(t, practice, walk, 60)
		report := func(l install.Later) whole.LaterReport {
			l.ID = "l1"
			j.Plan.Later = []install.Later{l}
			r := whole.LaterOf(j, nil)
			require.Len(t, r, 1)
			return r[0]
		}
		garage := roomNamed(j, "garage")
		before := len(j.Circuits)
		r := report(install.Later{Kind: install.LaterCharger, Room: garage.ID, PowerW: 7400})
		require.Len(t, r.Circuits, 1, practice)
		assert.True(t, r.Circuits[0].New)
		assert.Positive(t, r.Circuits[0].Way)
		r = report(install.Later{Kind: install.LaterSolar, PowerW: 3600})
		require.Len(t, r.Circuits, 1)
		assert.Positive(t, r.Circuits[0].Way)
		r = report(install.Later{Kind: install.LaterRoom, Room: garage.ID, Becomes: "bedroom"})
		assert.NotEmpty(t, r.Circuits, "what a bedroom usually has goes somewhere")
		assert.Equal(t, before, len(j.Circuits))
		assert.Equal(t, "garage", garage.Kind)

		// A board that is full leaves no way for it.
		free := whole.Practices[practice].Terms()
		n := 60 - len(free.FreeWays(j, &j.Board))
		full := designed(t, practice, walk, n)
		require.Empty(t, free.FreeWays(full, &full.Board))
		full.Plan.Later = []install.Later{{ID: "l1", Kind: install.LaterBattery, PowerW: 5000}}
		got := whole.LaterOf(full, nil)[0]
		assert.False(t, got.Suits)
		assert.Contains(t, said(survey.Change{Effects: got.Effects}, survey.Circuits), map[string]string{"iec230": "No way of the board is free",
			"split120": "No space of the panel is free"}[practice])

		// On a board behind a circuit the device of that circuit has to work from either side.
		feeder := whole.Practices[practice].Defaults(map[string]string{"iec230": "distribution", "split120": "feeder-60"}[practice])
		feeder.ID, feeder.Name, feeder.Protection.Way = "feed", "To the shed", 55
		j.Circuits = append(j.Circuits, feeder)
		shed := install.Board{ID: "b1", Name: "Shed", Feed: "feed", MainSwitchA: fact(63)}
		for n := range 8 {
			shed.Ways = append(shed.Ways, install.Way{No: n + 1})
		}
		j.Boards = []install.Board{shed}
		j.Tidy()
		r = report(install.Later{Kind: install.LaterSolar, PowerW: 3600, Board: "b1"})
		assert.False(t, r.Suits)
		assert.Contains(t, said(survey.Change{Effects: r.Effects}, survey.Circuits), "To the shed")

		visit := whole.VisitOf(j, &install.Later{Kind: install.LaterCharger, Room: garage.ID, From: "2027-05-01"}, "V-2")
		require.NoError(t, whole.Accept(&visit))
		assert.Equal(t, [3]any{install.EVCharger, "2027-05-01", len(j.Circuits)}, [3]any{visit.Kind, visit.Plan.StartDate, len(visit.Circuits)})
		for _, k := range visit.Circuits {
			assert.Equal(t, install.KeptCircuit, k.State)
		}
		assert.Empty(t, visit.Records)
	}
}
