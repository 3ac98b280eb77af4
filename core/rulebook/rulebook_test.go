package rulebook

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/working"
)

func at(v float64) *float64 { return &v }

// A number passes within the relative or the absolute tolerance; without one,
// and for everything else, it must be equal; inside lists within 0.5 %.
func TestExpectedValuesMeet(t *testing.T) {
	for name, row := range map[string]struct {
		want Expected
		got  any
		ok   bool
	}{
		"equal":                        {Expected{Value: 5.0}, 5.0, true},
		"near without tolerance":       {Expected{Value: 5.0}, 5.0001, false},
		"within relative":              {Expected{Value: 200.0, TolRel: at(0.01)}, 202.0, true},
		"beyond relative":              {Expected{Value: 200.0, TolRel: at(0.01)}, 202.1, false},
		"within absolute only":         {Expected{Value: 0.001, TolRel: at(0.01), TolAbs: at(0.01)}, 0.009, true},
		"relative of a negative":       {Expected{Value: -200.0, TolRel: at(0.01)}, -201.0, true},
		"a text":                       {Expected{Value: "pass"}, "pass", true},
		"another text":                 {Expected{Value: "pass"}, "Pass", false},
		"a text for a number":          {Expected{Value: 5.0}, "5", false},
		"nothing":                      {Expected{Value: 5.0}, nil, false},
		"null expected and given":      {Expected{Value: nil}, nil, true},
		"a truth":                      {Expected{Value: true}, true, true},
		"a list":                       {Expected{Value: []any{1.0, "a"}}, []any{1.004, "a"}, true},
		"a list out of order":          {Expected{Value: []any{"a", "b"}}, []any{"b", "a"}, false},
		"a shorter list":               {Expected{Value: []any{"a", "b"}}, []any{"a"}, false},
		"an object":                    {Expected{Value: map[string]any{"x": 0.0001}}, map[string]any{"x": 0.0005}, true},
		"an object with a key more":    {Expected{Value: map[string]any{"x": 1.0}}, map[string]any{"x": 1.0, "y": 2.0}, false},
		"a number beyond in an object": {Expected{Value: map[string]any{"x": 1.0}}, map[string]any{"x": 1.01}, false},
	} {
		assert.Equal(t, row.ok, row.want.Meets(row.got), name)
	}
}

type input struct {
	LengthM float64  `json:"length_m" unit:"m"`
	Poles   int      `json:"poles,omitempty"`
	Temp    *float64 `json:"temp_c" unit:"°C" doc:"of the conductor"`
	Parts   []struct {
		A float64 `json:"a"`
	} `json:"parts"`
}

type output struct {
	TwiceM float64   `json:"twice_m"`
	List   []float64 `json:"list"`
}

func double() Calc {
	return Define("double", "twice the length", func(in input) (out output, steps []working.Step, err error) {
		if in.LengthM < 0 {
			return out, nil, errors.New("length_m: -1 is not accepted; give 0 or more")
		}
		return output{TwiceM: in.LengthM * 2, List: []float64{in.LengthM / 3}}, nil, nil
	})
}

func TestACalculationNamesWhatIsWrongWithItsInput(t *testing.T) {
	for in, says := range map[string]string{
		`{}`:                                 `length_m is missing: give a number in m`,
		`{"length_m":"long","parts":[]}`:     `length_m: a string is not accepted; give a number in m`,
		`{"length_m":1,"parts":"none"}`:      `parts: a string is not accepted; give a list`,
		`{"length_m":1,"parts":[],"wide":2}`: `unknown field "wide"`,
		`{"length_m":1`:                      `JSON object with the keys length_m, poles, temp_c, parts`,
		`{"length_m":-1,"parts":[]}`:         `give 0 or more`,
		`[]`:                                 `JSON object`,
	} {
		_, _, err := double().Run([]byte(in))
		assert.ErrorContains(t, err, says, in)
	}
	out, _, err := double().Run([]byte(`{"length_m":1.23456,"parts":[]}`))
	require.NoError(t, err)
	assert.Equal(t, 2.469, out["twice_m"], "four significant figures")
	assert.Equal(t, 0.4115, out["list"].([]any)[0], "inside a list too")
}

func TestTheKeysOfACalculationAreListed(t *testing.T) {
	keys := map[string]Field{}
	for _, f := range double().In {
		keys[f.Key] = f
	}
	assert.Equal(t, Field{Key: "length_m", Type: "number", Unit: "m"}, keys["length_m"])
	assert.Equal(t, Field{Key: "temp_c", Type: "number", Unit: "°C", Doc: "of the conductor", Optional: true}, keys["temp_c"])
	assert.True(t, keys["poles"].Optional)
	assert.Contains(t, keys, "parts.a")
}

func TestCasesAreCounted(t *testing.T) {
	var cases []Case
	require.NoError(t, json.Unmarshal([]byte(`[
		{"id":"1","practice":"p","calc":"double","inputs":{"length_m":2,"parts":[]},"expected":{"twice_m":{"value":4}}},
		{"id":"2","practice":"p","calc":"double","inputs":{"length_m":2,"parts":[]},"expected":{"twice_m":{"value":5},"none":{"value":1}}},
		{"id":"3","practice":"p","calc":"double","inputs":{},"expected":{}},
		{"id":"4","practice":"q","calc":"double","inputs":{},"expected":{}}]`), &cases))
	var out strings.Builder
	passed, failed := RunCases(cases, func(practice, calc string) (Calc, bool) { return double(), practice == "p" }, &out)
	assert.Equal(t, 1, passed)
	assert.Equal(t, 3, failed)
	lines := strings.Split(strings.TrimSpace(out.String()), "\n")
	assert.Len(t, lines, 4, "one line for each value that differs: %v", lines)
	assert.Contains(t, lines[0], "none is <nil>, expected 1")
	assert.Contains(t, lines[3], "not built yet")
}
