package install

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// each calls f with every field below a type that is saved, and how it is reached.
func each(t reflect.Type, at string, f func(at string, field reflect.StructField)) {
	switch t.Kind() {
	case reflect.Pointer, reflect.Slice, reflect.Map:
		each(t.Elem(), at, f)
	case reflect.Struct:
		if t == timeType {
			return
		}
		for i := range t.NumField() {
			field := t.Field(i)
			if name, _, _ := strings.Cut(field.Tag.Get("json"), ","); field.IsExported() && name != "-" {
				f(at+"."+name, field)
				each(field.Type, at+"."+name, f)
			}
		}
	}
}

func models() []reflect.Type {
	out := []reflect.Type{reflect.TypeFor[Record]()}
	for _, k := range PartKinds {
		out = append(out, k.Model())
	}
	return out
}

// Nothing that is typed is without end: every text, figure and list that is saved has its bound in
// its tags, and every tag is understood.
func TestEveryFieldHasItsBound(t *testing.T) {
	n := 0
	for _, model := range models() {
		each(model, model.Name(), func(at string, f reflect.StructField) {
			b := BoundOf(f)
			of := f.Type
			if of.Kind() == reflect.Pointer {
				of = of.Elem()
			}
			if b.Set != "" {
				_, known := sets[b.Set]
				assert.True(t, known, "%s is of a set %q that is not there", at, b.Set)
			}
			assert.Contains(t, []string{"", "date", "clock", "id", "ip"}, b.Shape, at)
			assert.LessOrEqual(t, b.Low, b.High, at)
			n++
			switch of.Kind() {
			case reflect.String:
				fixed := of == basisOf || of == reflect.TypeFor[RecordKind]()
				assert.True(t, fixed || b.Chars > 0 || b.Set != "" || b.Shape != "", "%s has no bound", at)
			case reflect.Float64, reflect.Int, reflect.Int64:
				if !strings.HasSuffix(at, "Fact.value") && f.Type != reflect.TypeFor[*float64]() || b.Ranged() {
					assert.True(t, b.Ranged() || strings.Contains(at, "options"), "%s has no range", at)
				}
			case reflect.Slice:
				assert.Positive(t, b.Most, "%s has no end", at)
			case reflect.Map:
				assert.True(t, b.Most > 0 || strings.HasSuffix(at, "input") || strings.HasSuffix(at, "options"), "%s has no end", at)
			case reflect.Struct:
				if of == factType {
					assert.True(t, b.Ranged(), "%s has no range", at)
				}
			}
		})
	}
	assert.Greater(t, n, 350)
}

// A bound is exact: what it names is taken at both ends, refused beyond, and 0 where it says something.
func TestBoundsAreExact(t *testing.T) {
	terms := Terms{Surfaces: nil, Places: []string{"yard"}}
	refused := func(part any) string {
		c := &checker{}
		c.bounds(part, &terms)
		said := []string{}
		for _, e := range c.errs {
			said = append(said, e.Field+": "+e.Accept)
		}
		return strings.Join(said, "; ")
	}
	run := func(ribbon float64) RunStretch { return RunStretch{LengthM: 1, RibbonMM: ribbon} }
	assert.Empty(t, refused(run(0)))
	assert.Empty(t, refused(run(2000)))
	assert.Equal(t, "ribbonMM: a number from 0 to 2000 mm above the duct, or 0 for none", refused(run(2000.1)))
	limit := func(a float64) Point { return Point{LimitA: a} }
	assert.Empty(t, refused(limit(0)), "none")
	assert.Empty(t, refused(limit(6)))
	assert.Equal(t, "limitA: a number from 6 to 100 A, or 0 for none", refused(limit(5.9)))
	assert.Equal(t, "lengthM: a number from 0.1 to 500 m", refused(RunStretch{}), "0 says nothing of a length")
	assert.Empty(t, refused(RunStretch{LengthM: 1, Surface: "whatever"}), "a practice without a list takes any")
	assert.Contains(t, refused(RunStretch{LengthM: 1, Surface: strings.Repeat("x", openChars+1)}), "at most 80 characters")
	assert.Contains(t, refused(Serves{Place: "moor"}), "place: one of nothing, yard")
	assert.Contains(t, refused(Room{ID: "a/b", Name: "x"}), "id: letters, digits and dashes")
	assert.Contains(t, refused(Room{ID: "a", Name: " "}), "name: some text")
	assert.Contains(t, refused(Room{ID: "a", Name: "x", Answered: map[string]string{"q": strings.Repeat("y", 401)}}), "answered[q]")
	assert.Contains(t, refused(Standby{Carries: make([]Carry, 61)}), "carries: at most 60 entries")
	half := 0.5
	assert.Contains(t, refused(Route{CableType: "", Segments: nil, ArmourMM2: Fact{Value: &half}}), "armourMM2.value: a number from 1 to 500 mm²")
	require.NotPanics(t, func() { refused(&Room{}) })
}
