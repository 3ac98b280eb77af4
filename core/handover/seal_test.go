package handover

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// A revision that was signed before a field of the model came still verifies, and a
// change of it still shows: one of an old field, and one that fills a new field.
func TestARevisionSignedBeforeStillVerifies(t *testing.T) {
	read := func() *install.Job {
		raw, err := os.ReadFile("testdata/signed-before.json")
		require.NoError(t, err)
		var j install.Job
		require.NoError(t, json.Unmarshal(raw, &j))
		j.Tidy()
		return &j
	}
	outcome, says := Verify(read())
	assert.Equal(t, Unknown, outcome, says)
	for name, change := range map[string]func(*install.Job){
		"an old field":      func(j *install.Job) { j.Circuits[0].Protection.RatingA = 15 },
		"a bond's kind":     func(j *install.Job) { j.Supply.Bonds[0].Kind = "gas-pipe" },
		"a box":             func(j *install.Job) { j.Circuits[0].Serves.Boxes[0].Single = true },
		"what is not known": func(j *install.Job) { j.Circuits[0].Serves.Plugged = new(bool) },
	} {
		j := read()
		change(j)
		outcome, _ = Verify(j)
		assert.Equal(t, Changed, outcome, name)
	}
}
