package unit

import (
	"errors"
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestFormatKeepsFourSignificantFigures(t *testing.T) {
	for v, want := range map[float64]string{0.71094: "0.7109", 11.6: "11.6", 1642.857: "1643", 230: "230", 0: "0",
		123456: "123500", -0.00012346: "-0.0001235", math.Inf(1): "–"} {
		assert.Equal(t, want, Format(v))
	}
	assert.Equal(t, "0.71\u00a0Ω", With(0.71, "Ω"))
	assert.Equal(t, "3", With(3, ""))
}

func FuzzFormatWritesTheNearestFourFigures(f *testing.F) {
	for _, v := range []float64{0, 0.001, 0.00123449, 0.0012345, 0.99995, 9.9995, 12.345, 999.95, 999.949, 1000, 9998.5,
		9999.5, 10000, 65.625, -0.5, 1.3655, 230} {
		f.Add(v)
	}
	f.Fuzz(func(t *testing.T, v float64) {
		if math.IsNaN(v) || math.IsInf(v, 0) {
			return
		}
		if v == 0 {
			v = 0 // written without a sign
		}
		assert.Equal(t, strconv.FormatFloat(Significant(v, 4), 'f', -1, 64), Format(v))
	})
}

// id is a text of a type of its own, as the ids of the model are.
type id string

func TestTextJoinsWordsAndFigures(t *testing.T) {
	assert.Equal(t, "3 ways of 0.7109 Ω", Text(3, " ways of ", 0.71094, " Ω"))
	assert.Equal(t, "max 8", Text(id("max"), " ", 8))
	assert.Empty(t, Text())
	assert.Panics(t, func() { Text(struct{}{}) }, "what is neither text nor figure is a mistake in the program")
}

func TestParseLengthReadsWhatPeopleType(t *testing.T) {
	for s, want := range map[string]float64{
		"12.5": 12.5, "12,5 m": 12.5, "850 mm": 0.85, "40cm": 0.4, "14 ft 6 in": 4.4196, "14' 6\"": 4.4196, "14’": 4.2672,
		"6\"": 0.1524, " 3 M ": 3, "-2": -2,
	} {
		got, err := ParseLength(s)
		require.NoError(t, err, s)
		assert.InDelta(t, want, got, 1e-9, s)
	}
	for _, s := range []string{"", "m", "abc", "12 miles", "1e400", "NaN", "x' 2", "3' x", "-3' 2\""} {
		_, err := ParseLength(s)
		var le *LengthError
		require.True(t, errors.As(err, &le), s)
		assert.Contains(t, err.Error(), "metres")
	}
}

func FuzzParseLength(f *testing.F) {
	for _, s := range []string{"12.5", "14' 6\"", "850 mm", "ft", "''", "1in"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		v, err := ParseLength(s)
		if err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
			t.Fatalf("%q gave %v", s, v)
		}
	})
}

// Format's short way writes what rounding to four figures and then writing does.
func TestFormatTakesTheShortWayToTheSameText(t *testing.T) {
	for i := range 200000 {
		v := math.Pow(10, float64(i)/200000*12-5) * 1.000000317
		for _, x := range []float64{v, -v, math.Round(v), Significant(v, 4), Significant(v, 3)} {
			want := strconv.FormatFloat(Significant(x, 4), 'f', -1, 64)
			if got := Format(x); got != want {
				t.Fatalf("Format(%v) = %s, want %s", x, got, want)
			}
		}
	}
}

func TestTradeSizesAreFractions(t *testing.T) {
	inches := Lengths{Inches: true}
	for mm, want := range map[float64]string{15.875: "5/8 in", 12.7: "1/2 in", 50.8: "2 in", 63.5: "2-1/2 in", 34.925: "1-3/8 in"} {
		assert.Equal(t, want, inches.Trade(mm))
	}
	assert.Equal(t, inches.MM(100), inches.Trade(100), "what is no eighth")
	assert.Equal(t, Lengths{}.MM(16), Lengths{}.Trade(16))
}
