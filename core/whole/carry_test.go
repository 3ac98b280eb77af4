package whole

import (
	"bytes"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/handover"
	"arvelt/core/install"
	"arvelt/core/rulebook/split120"
)

// Jobs of a version in which the choices stood beside the local rules, and Canada was one of
// them, are carried over: they are of their practice, keep what was chosen, verify as they
// were signed, and go out and come back as they are.
func TestJobsOfTheVersionBeforeAreCarriedOver(t *testing.T) {
	for file, want := range map[string]string{"signed-before": "split120", "signed-canada": split120.CanadaID} {
		raw, err := os.ReadFile("../handover/testdata/" + file + ".json")
		require.NoError(t, err)
		j, err := Read(strings.NewReader(string(raw)))
		require.NoError(t, err, file)
		assert.Equal(t, want, j.Practice, file)
		assert.Equal(t, install.Chose("existing"), j.Schools.Options["loadMethod"], file)
		outcome, says := handover.Verify(j)
		assert.Equal(t, handover.Unknown, outcome, "%s: %s", file, says)

		var out bytes.Buffer
		require.NoError(t, handover.Write(&out, j))
		again, err := Read(bytes.NewReader(out.Bytes()))
		require.NoError(t, err)
		outcome, says = handover.Verify(again)
		assert.Equal(t, handover.Unknown, outcome, "%s, written again: %s", file, says)
		again.Schools.Set("loadMethod", install.Chose("optional"))
		outcome, _ = handover.Verify(again)
		assert.Equal(t, handover.Changed, outcome, file)
	}
}

// An option that a practice does not have, a way that an option does not have and a figure
// out of its bounds are refused by name.
func TestOptionsAreHeldToTheirPractice(t *testing.T) {
	chosen := func(id install.OptionID, v install.OptionValue) error {
		s := install.Schools{}
		s.Set(id, v)
		return s.Validate(Practices["iec230"].Terms())
	}
	assert.NoError(t, chosen("swaCores", install.Chose("B")))
	assert.NoError(t, chosen("rcdMonths", install.Figure(3)))
	assert.NoError(t, chosen("bondAt", install.Chose("meter")), "one of another practice, carried over")
	for _, wrong := range []struct {
		id install.OptionID
		v  install.OptionValue
	}{{"swaCores", install.Chose("C")}, {"rcdMonths", install.Figure(13)}, {"rcdMonths", install.Chose("often")},
		{"colour", install.Chose("A")}} {
		err := chosen(wrong.id, wrong.v)
		require.Error(t, err, wrong.id)
		assert.Contains(t, err.Error(), "schools.options."+string(wrong.id))
	}
	for _, id := range PracticeIDs {
		options := Practices[id].Terms().Options
		assert.NotEmpty(t, options, id)
		for _, o := range options {
			assert.NotEmpty(t, o.Title, o.ID)
			assert.NotEmpty(t, o.Help, o.ID)
			for _, way := range o.Choices {
				assert.NotEmpty(t, way.Why, "%s %s", o.ID, way.ID)
			}
		}
	}
}
