package exact

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

type inner struct {
	Value float64 `json:"value"`
}

type Part struct {
	Edition string `json:"edition"`
}

type outer struct {
	Part
	Title string             `json:"title"`
	List  []inner            `json:"list"`
	Map   map[string]inner   `json:"map"`
	One   *inner             `json:"one"`
	Raw   json.RawMessage    `json:"raw"`
	Plain map[string]float64 `json:"plain"`
}

func TestKeysThatOthersReadOtherwiseAreRefused(t *testing.T) {
	for raw, says := range map[string]string{
		`{"title":"a","title":"b"}`:                    `"title" stands there twice`,
		`{"title":"a","TITLE":"b"}`:                    `"TITLE" is not accepted; give "title"`,
		`{"Title":"a"}`:                                `give "title"`,
		`{"Edition":"a"}`:                              `give "edition"`,
		`{"list":[{"value":1},{"value":1,"value":2}]}`: `"value" of list[1] stands there twice`,
		`{"map":{"x":{"VALUE":1}}}`:                    `"VALUE" of map.x is not accepted`,
		`{"one":{"value":0.3,"value":27}}`:             `"value" of one stands there twice`,
		`{"raw":{"a":{"b":1,"b":2}}}`:                  `"b" of raw.a stands there twice`,
		`{ "list" : [ 1.5e3 , {"a\"}":"]" , "value" : -1 , "\u0076alue":2 } ] }`: `"value" of list[1] stands there twice`,
		`{"plain":{"k":1,"k":2}}`: `"k" of plain stands there twice`,
	} {
		assert.ErrorContains(t, Check([]byte(raw), &outer{}), says, raw)
	}
	for _, raw := range []string{`{"title":"a","map":{"x":{"value":1},"X":{"value":1}},"plain":{"k":1,"K":2},"list":[{"value":1},{"value":1}]}`,
		`{}`, `null`, `[]`, `{"title"`, `nonsense`, ``, `{"other":1}`} {
		assert.NoError(t, Check([]byte(raw), &outer{}), raw)
	}
}

func FuzzCheck(f *testing.F) {
	f.Add([]byte(`{"title":"a","list":[{"value":1}],"map":{"x":{"value":1}}}`))
	f.Add([]byte(`{"title":"a","title":1}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		// What it lets pass decodes to the same by a reader that takes each key as it stands.
		if Check(raw, &outer{}) != nil || !json.Valid(raw) {
			return
		}
		var all map[string]json.RawMessage
		if json.Unmarshal(raw, &all) != nil {
			return
		}
		var o outer
		if json.Unmarshal(raw, &o) == nil && o.Title != "" {
			var title string
			assert.NoError(t, json.Unmarshal(all["title"], &title))
			assert.Equal(t, title, o.Title)
		}
	})
}

func BenchmarkCheck(b *testing.B) {
	raw := []byte(`{"title":"a","list":[` + strings.Repeat(`{"value":1.25},`, 400) + `{"value":2}]}`)
	for b.Loop() {
		if err := Check(raw, &outer{}); err != nil {
			b.Fatal(err)
		}
	}
	b.SetBytes(int64(len(raw)))
}
