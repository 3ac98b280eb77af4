package whole

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/rulebook"
	"arvelt/core/working"
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

// The range that is stated of an input is the one it is held to: what lies outside is refused by
// its key, in each worked case that has it.
func TestEachRangeIsHeldTo(t *testing.T) {
	held := map[string]bool{}
	for _, practice := range []string{"iec230", "split120"} {
		raw, err := os.ReadFile("../rulebook/" + practice + "/testdata/cases.json")
		require.NoError(t, err)
		var cases []rulebook.Case
		require.NoError(t, json.Unmarshal(raw, &cases))
		for _, c := range cases {
			calcs := Practices[practice].Calcs()
			calc := calcs[slices.IndexFunc(calcs, func(k rulebook.Calc) bool { return k.Name == c.Calc })]
			for _, f := range calc.In {
				if f.Range == "" {
					continue
				}
				for _, wrong := range outside(t, f.Range) {
					var in any
					require.NoError(t, json.Unmarshal(c.Inputs, &in))
					if !put(in, strings.Split(f.Key, "."), wrong) {
						continue
					}
					changed, err := json.Marshal(in)
					require.NoError(t, err)
					_, _, err = calc.Run(changed)
					require.Errorf(t, err, "%s/%s: %s of %v is outside “%s” and was computed with", practice, c.Calc, f.Key, wrong, f.Range)
					held[practice+c.Calc+f.Key] = true
				}
			}
		}
	}
	assert.Greater(t, len(held), 50, "inputs with a range that some worked case has")
}

// outside are figures just outside a range.
func outside(t *testing.T, of string) []float64 {
	var low, high float64
	switch n, _ := fmt.Sscanf(of, "%g to %g", &low, &high); {
	case n == 2:
		return []float64{low - 0.5, high + 0.5}
	case of == "above 0":
		return []float64{0, -1}
	case of == "0 or more":
		return []float64{-1}
	}
	t.Fatalf("range %q is not understood", of)
	return nil
}

// put writes a figure at a key, in the first of a list; it reports whether there is one.
func put(in any, key []string, v float64) bool {
	switch x := in.(type) {
	case []any:
		return len(x) > 0 && put(x[0], key, v)
	case map[string]any:
		if len(key) > 1 {
			return put(x[key[0]], key[1:], v)
		}
		if _, number := x[key[0]].(float64); number {
			x[key[0]] = v
			return true
		}
	}
	return false
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

// Whatever works on the board or on what feeds it waits for a lawful way to make that dead: one that is offered on this job, not any.
func TestWorkOnTheBoardWaitsForALawfulWay(t *testing.T) {
	for practice, row := range map[string]struct {
		job          func() *install.Job
		lawful, only string // only is offered with an isolator ahead of the board alone
	}{"230 V": {designed, "operator-fuse", "existing-isolator"}, "split phase": {solar120, "utility-disconnect", "own-disconnect"}} {
		for _, kind := range install.JobKinds {
			j := row.job()
			j.Kind = kind
			asks := func(route string) bool {
				j.Outage.Route = route
				return slices.ContainsFunc(Of(j, nil, vik, day).State.Holds, func(h plan.Hold) bool {
					return h.What == j.Words.Say("a lawful way to isolate the intake") && h.Sheet == working.SupplySheet
				})
			}
			at := kind == install.Rewire || kind == install.SupplyUpgrade || kind == install.BoardChange
			assert.Equal(t, at, asks(""), "%s %s", practice, kind)
			assert.Equal(t, at, asks(row.only), "%s %s", practice, kind)
			assert.False(t, asks(row.lawful), "%s %s", practice, kind)
		}
	}
}
