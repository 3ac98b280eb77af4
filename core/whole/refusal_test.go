package whole

import (
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/rulebook"
)

// Whatever one value of a worked case is replaced by, the calculation answers
// or its error begins with the key that has to be put right.
func TestARefusedInputNamesItsKey(t *testing.T) {
	refused := 0
	for _, practice := range []string{"iec230", "split120"} {
		raw, err := os.ReadFile("../rulebook/" + practice + "/testdata/cases.json")
		require.NoError(t, err)
		var cases []rulebook.Case
		require.NoError(t, json.Unmarshal(raw, &cases))
		for _, c := range cases {
			calcs := Practices[practice].Calcs()
			i := slices.IndexFunc(calcs, func(k rulebook.Calc) bool { return k.Name == c.Calc })
			require.GreaterOrEqual(t, i, 0, c.Calc)
			calc := calcs[i]
			var in any
			require.NoError(t, json.Unmarshal(c.Inputs, &in))
			everyChange(in, func(any) {}, func() {
				changed, err := json.Marshal(in)
				require.NoError(t, err)
				if _, _, err := calc.Run(changed); err != nil {
					refused++
					assert.True(t, beginsWithAKey(calc, err.Error()), "%s/%s: %v", practice, c.Calc, err)
				}
			})
		}
	}
	assert.Greater(t, refused, 1000)
}

// everyChange puts values that may be out of range at each place of v in turn, calls
// try and puts the place back; set writes v itself.
func everyChange(v any, set func(any), try func()) {
	var others []any
	switch x := v.(type) {
	case map[string]any:
		for k, e := range x {
			everyChange(e, func(n any) { x[k] = n }, try)
		}
		return
	case []any:
		for i, e := range x {
			everyChange(e, func(n any) { x[i] = n }, try)
		}
		others = []any{[]any{}}
	case float64:
		others = []any{0.0, -x - 1, x * 1.5, x * 10, 1e7}
	case string:
		others = []any{"", "?"}
	}
	for _, n := range others {
		set(n)
		try()
	}
	set(v)
}

func beginsWithAKey(c rulebook.Calc, says string) bool {
	for _, f := range c.In {
		if rest, is := strings.CutPrefix(says, f.Key); is && strings.ContainsAny(rest[:1], ": .") {
			return true
		}
	}
	return false
}
