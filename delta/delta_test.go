package delta_test

import (
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"testing"
	"time"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/delta"
)

// patched applies the difference of two values to the first one's JSON.
func patched[T any](t *testing.T, was, is T) ([]delta.Op, string, string) {
	t.Helper()
	ops := delta.Of(was, is)
	old, err := json.Marshal(was)
	require.NoError(t, err)
	want, err := json.Marshal(is)
	require.NoError(t, err)
	text, err := json.Marshal(ops)
	require.NoError(t, err)
	patch, err := jsonpatch.DecodePatch(text)
	require.NoError(t, err)
	got, err := patch.Apply(old)
	require.NoError(t, err, "%s", text)
	return ops, string(got), string(want)
}

type inner struct {
	A string         `json:"a"`
	N *float64       `json:"n"`
	L []string       `json:"l"`
	M map[string]int `json:"m"`
}

type outer struct {
	inner
	Many  []inner   `json:"many"`
	At    time.Time `json:"at,omitzero"`
	Maybe string    `json:"maybe,omitempty"`
	Any   any       `json:"any"`
	Not   string    `json:"-"`
	Slash int       `json:"a/b~c"`
}

func one(v float64) *float64 { return &v }

func TestADifferenceIsSmallAndWhole(t *testing.T) {
	base := func() outer {
		return outer{inner: inner{A: "x", L: []string{"p", "q", "r"}, M: map[string]int{"k/1": 1}},
			Many: []inner{{A: "1"}, {A: "2"}, {A: "3"}, {A: "4"}}, Any: map[string]any{"z": 1.0}}
	}
	for name, x := range map[string]struct {
		change func(*outer)
		ops    int
	}{
		"nothing":              {func(*outer) {}, 0},
		"a text":               {func(o *outer) { o.A = "y" }, 1},
		"a figure from none":   {func(o *outer) { o.N = one(2) }, 1},
		"a list that is gone":  {func(o *outer) { o.L = nil }, 1},
		"one taken out":        {func(o *outer) { o.Many = append(o.Many[:1:1], o.Many[2:]...) }, 1},
		"one put in front":     {func(o *outer) { o.Many = append([]inner{{A: "0"}}, o.Many...) }, 1},
		"one out, another in":  {func(o *outer) { o.Many = []inner{{A: "2"}, {A: "3"}, {A: "9"}, {A: "4"}} }, 2},
		"two added":            {func(o *outer) { o.Many = append(o.Many, inner{A: "5"}, inner{A: "6"}) }, 2},
		"a member that is new": {func(o *outer) { o.Maybe = "now" }, 1},
		"a time":               {func(o *outer) { o.At = time.Unix(0, 0).UTC() }, 1},
		"a key":                {func(o *outer) { o.M = map[string]int{"k/1": 2, "k~2": 3} }, 2},
		"an odd name":          {func(o *outer) { o.Slash = 4 }, 1},
		"what is not encoded":  {func(o *outer) { o.Not = "secret" }, 0},
		"another kind":         {func(o *outer) { o.Any = "text" }, 1},
		"nothing any more":     {func(o *outer) { o.Any = nil }, 1},
		"an empty text":        {func(o *outer) { o.A = "" }, 1},
		"deep":                 {func(o *outer) { o.Many[2].L = []string{"deep"} }, 1},
	} {
		is := base()
		x.change(&is)
		ops, got, want := patched(t, base(), is)
		assert.JSONEq(t, want, got, name)
		assert.Len(t, ops, x.ops, name)
	}
}

// Of any two states of a job the difference leads from one to the other.
func TestADifferenceOfJobsLeadsFromOneToTheOther(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 11))
	state := func() *install.Job {
		j := &install.Job{Format: install.Format, Ref: "T-1", Practice: "iec230", Rules: install.Rules{Edition: "2018+A2:2022"}, Kind: install.Rewire,
			Supply: install.Supply{DeclaredV: 230}}
		for i := range r.IntN(6) {
			j.Circuits = append(j.Circuits, whole.Practices["iec230"].Defaults("socket-radial"))
			j.Circuits[i].ID = string(rune('a' + r.IntN(8)))
		}
		for range r.IntN(9) {
			v := r.Float64()
			j.Records = append(j.Records, install.Record{ID: string(rune('a' + r.IntN(20))), Kind: install.Reading, Value: &v,
				PairsDead: []string{}})
		}
		for range r.IntN(4) {
			j.Rooms = append(j.Rooms, install.Room{ID: string(rune('a' + r.IntN(9))), Name: "room", Kind: "hall"})
		}
		j.Site.Town = string(rune('a' + r.IntN(3)))
		j.Tidy()
		return j
	}
	now := time.Date(2026, 3, 1, 9, 0, 0, 0, time.UTC)
	for range 60 {
		was, is := state(), state()
		_, got, want := patched(t, was, is)
		require.JSONEq(t, want, got)
		a, b := whole.Of(was, nil, install.Person{}, now), whole.Of(is, nil, install.Person{}, now)
		_, got, want = patched(t, a, b)
		require.JSONEq(t, want, got)
	}
	assert.Empty(t, delta.Of(reflect.ValueOf(1).Interface(), reflect.ValueOf(1).Interface()))
}
