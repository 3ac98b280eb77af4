package table

import (
	"math"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
)

func read(body string) *Table {
	return Load(fstest.MapFS{"data/t.csv": {Data: []byte(body)}}, "t")
}

func TestATableKnowsItsSource(t *testing.T) {
	x := read("# source: a book, clause 4\n# note: confidence=medium; restated\nsize,name,v\n1.5,a,10\n2.5,\"b, c\",\n")
	assert.Equal(t, "a book, clause 4", x.Source.Ref)
	assert.Equal(t, "medium", x.Source.Confidence)
	assert.Equal(t, []string{"size", "name", "v"}, x.Columns())
	assert.Equal(t, "b, c", x.Str(1, "name"))
	assert.Equal(t, 10.0, x.Num(0, "v"))
	assert.True(t, math.IsNaN(x.Num(1, "v")), "an empty cell holds no number")
	assert.Equal(t, 1, x.Where("size", 2.5))
	assert.Equal(t, 0, x.Where("name", "a", "v", 10.0))
	assert.Equal(t, -1, x.Where("size", 4.0))
	assert.Equal(t, []float64{1.5, 2.5}, x.Column("size"))
	assert.True(t, x.Has("v"))
	assert.False(t, x.Has("w"))
}

// A row is a value of its own, read once: its fields are of the table's columns.
func TestRowsAreValues(t *testing.T) {
	type metal string
	type row struct {
		Material metal   `col:"material"`
		Ohm      float64 `col:"ohm"`
		Bare     bool    `col:"bare"`
	}
	of := func(body string) *Of[row] {
		return LoadOf[row](fstest.MapFS{"data/t.csv": {Data: []byte("# note: confidence=high\n" + body)}}, "t")
	}
	x := of("bare,material,ohm\n1,cu,1.5\n0,al,\n")
	assert.Equal(t, row{"cu", 1.5, true}, *x.Row(0))
	assert.True(t, math.IsNaN(x.Row(1).Ohm), "an empty cell holds no number")
	assert.Equal(t, 1, x.Find(func(r *row) bool { return r.Material == "al" }))
	assert.Equal(t, -1, x.Find(func(r *row) bool { return r.Material == "fe" }))
	assert.Equal(t, metal("al"), x.One(func(r *row) bool { return !r.Bare }).Material)
	assert.PanicsWithValue(t, "table t has no such row", func() { x.One(func(r *row) bool { return r.Material == "fe" }) })
	x.Watch()
	x.Row(1)
	assert.Equal(t, []int{0}, x.Unread())
	assert.PanicsWithValue(t, "table t has no column bare", func() { of("material,ohm\ncu,1\n") })
	assert.PanicsWithError(t, `table t, row 1, ohm: "much" is no number`, func() { of("bare,material,ohm\n1,cu,much\n") })
}

// What is built wrong stops the program at its start, with the name of the table.
func TestABrokenTableIsNotServed(t *testing.T) {
	x := read("# note: confidence=high\nkey,value\na,1\n")
	assert.Equal(t, 1.0, x.Fixed("a"))
	assert.PanicsWithValue(t, "table t has no b", func() { x.Fixed("b") })
	assert.PanicsWithValue(t, "table t has no column w", func() { x.Num(0, "w") })
	assert.Panics(t, func() { Load(fstest.MapFS{}, "t") })
	assert.Panics(t, func() { read("# note: confidence=high\na,b\n1,2,3\n") })
}

// A table is as sure as its least sure row, where its head says nothing.
func TestATableIsAsSureAsItsLeastSureRow(t *testing.T) {
	load := func(body string) string { return read("# source: somewhere\n" + body).Source.Confidence }
	assert.Equal(t, "medium", load("a,confidence\n1,high\n2,medium\n"))
	assert.Equal(t, "low", load("a,confidence\n1,low\n2,medium\n"))
	for _, body := range []string{"a,confidence\n1,high\n2,\n", "a\n1\n", "# note: confidence=high for some of it\na\n1\n"} {
		assert.PanicsWithError(t, "table t states no confidence: high, medium or low, on top or in a column of its rows",
			func() { load(body) })
	}
	assert.Equal(t, "low", load("# note: confidence=low\na,confidence\n1,high\n"))
}
