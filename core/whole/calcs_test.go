package whole

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/rulebook"
	"arvelt/core/table"
)

// Every calculation has its question, and every key that it takes or gives has a name of its
// own; no name is of a key that is gone, and no two figures of a result read alike.
func TestCalculationsAreNamed(t *testing.T) {
	for _, id := range PracticeIDs {
		calcs := map[string]rulebook.Calc{}
		used := map[string]bool{}
		for _, c := range Practices[id].Calcs() {
			calcs[c.Name] = c
			assert.True(t, strings.HasSuffix(c.Title, "?"), "%s: %q asks nothing", c.Name, c.Title)
			for _, f := range c.In {
				assert.NotEmpty(t, f.Label, "%s/%s: %s", id, c.Name, f.Key)
				used[f.Key[strings.LastIndexByte(f.Key, '.')+1:]] = true
			}
			for _, key := range c.Out {
				used[key] = true
			}
		}
		raw, err := os.ReadFile("../rulebook/" + strings.TrimSuffix(id, "ca") + "/testdata/cases.json") // of one package
		require.NoError(t, err)
		var cases []rulebook.Case
		require.NoError(t, json.Unmarshal(raw, &cases))
		for _, k := range cases {
			c := calcs[k.Calc]
			values, _, err := c.Run(k.Inputs)
			if err != nil {
				continue
			}
			names := c.KeysOf(values)
			read := map[string]string{}
			for key := range values {
				name, there := names[key]
				assert.True(t, there, "%s/%s: %s has no name", id, c.Name, key)
				as := name.Label + name.Unit
				assert.Empty(t, read[as], "%s/%s: %s reads as another", id, c.Name, key)
				read[as] = key
			}
			nested(values, used)
		}
		keys := table.Load(os.DirFS("../rulebook/"+strings.TrimSuffix(id, "ca")), "calc_keys")
		for r := range keys.Text {
			assert.True(t, used[keys.Str(r, "key")], "%s: %s is of no calculation", id, keys.Str(r, "key"))
		}
		titles := table.Load(os.DirFS("../rulebook/"+strings.TrimSuffix(id, "ca")), "calcs")
		for r := range titles.Text {
			assert.Contains(t, calcs, titles.Str(r, "calc"))
		}
	}
}

func nested(v any, into map[string]bool) {
	switch x := v.(type) {
	case map[string]any:
		for key, inner := range x {
			into[key] = true
			nested(inner, into)
		}
	case []any:
		for _, inner := range x {
			nested(inner, into)
		}
	}
}
