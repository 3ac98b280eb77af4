package rulebook

import (
	"encoding/json"
	"fmt"
	"io"
	"math"
	"reflect"
	"sort"
)

// Case is one worked case: inputs of a calculation and what it must give.
type Case struct {
	ID       string              `json:"id"`
	Practice string              `json:"practice"`
	Calc     string              `json:"calc"`
	Title    string              `json:"title"`
	Inputs   json.RawMessage     `json:"inputs"`
	Expected map[string]Expected `json:"expected"`
}

// Expected is one expected output with its tolerance.
type Expected struct {
	Value  any      `json:"value"`
	TolRel *float64 `json:"tol_rel"`
	TolAbs *float64 `json:"tol_abs"`
}

// Numbers nested in a list or object are held to these.
const (
	nestedRel = 0.005
	nestedAbs = 0.0005
)

// Meets reports whether got is what is expected.
func (e Expected) Meets(got any) bool {
	want, isNumber := e.Value.(float64)
	g, gotNumber := got.(float64)
	if isNumber && gotNumber {
		return want == g ||
			e.TolRel != nil && math.Abs(g-want) <= *e.TolRel*math.Abs(want) ||
			e.TolAbs != nil && math.Abs(g-want) <= *e.TolAbs
	}
	return same(e.Value, got)
}

func same(want, got any) bool {
	switch w := want.(type) {
	case float64:
		g, ok := got.(float64)
		return ok && (math.Abs(g-w) <= nestedRel*math.Abs(w) || math.Abs(g-w) <= nestedAbs)
	case []any:
		g, ok := got.([]any)
		if !ok || len(g) != len(w) {
			return false
		}
		for i := range w {
			if !same(w[i], g[i]) {
				return false
			}
		}
		return true
	case map[string]any:
		g, ok := got.(map[string]any)
		if !ok || len(g) != len(w) {
			return false
		}
		for k := range w {
			if !same(w[k], g[k]) {
				return false
			}
		}
		return true
	}
	return reflect.DeepEqual(want, got)
}

// RunCases runs worked cases, writes a line to out for each value that
// differs, and returns how many cases passed and failed. A case of a
// calculation that is not built fails.
func RunCases(cases []Case, find func(practice, calc string) (Calc, bool), out io.Writer) (passed, failed int) {
	for _, c := range cases {
		ok := true
		say := func(format string, args ...any) {
			ok = false
			fmt.Fprintf(out, "%s %s/%s: %s\n", c.ID, c.Practice, c.Calc, fmt.Sprintf(format, args...))
		}
		if calc, built := find(c.Practice, c.Calc); !built {
			say("this calculation is not built yet")
		} else if got, _, err := calc.Run(c.Inputs); err != nil {
			say("%v", err)
		} else {
			keys := make([]string, 0, len(c.Expected))
			for k := range c.Expected {
				keys = append(keys, k)
			}
			sort.Strings(keys)
			normal := normalise(got)
			for _, k := range keys {
				if !c.Expected[k].Meets(normal[k]) {
					say("%s is %v, expected %v", k, normal[k], c.Expected[k].Value)
				}
			}
		}
		if ok {
			passed++
		} else {
			failed++
		}
	}
	return passed, failed
}

// normalise gives outputs the types that JSON would.
func normalise(v map[string]any) map[string]any {
	raw, err := json.Marshal(v)
	if err != nil {
		return nil
	}
	var out map[string]any
	if json.Unmarshal(raw, &out) != nil {
		return nil
	}
	return out
}
