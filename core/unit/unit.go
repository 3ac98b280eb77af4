// Package unit reads and writes the quantities of the trade.
//
// Values inside core are plain float64 in the unit that their name carries
// (LengthM, RatingA, ZeOhm), because nearly every formula of a rulebook mixes
// mV/A/m, mΩ/m and metres and its reader checks it against the printed page.
// This package is where such a number meets people: parsing what they type and
// writing a figure to a sensible number of places.
package unit

import (
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Significant rounds v to n significant figures. Zero, NaN and infinities are
// returned as they are.
func Significant(v float64, n int) float64 {
	if v == 0 || math.IsNaN(v) || math.IsInf(v, 0) {
		return v
	}
	s, err := strconv.ParseFloat(strconv.FormatFloat(v, 'e', n-1, 64), 64)
	if err != nil {
		return v
	}
	return s
}

// Format writes v to four significant figures without an exponent and without
// trailing zeros: 0.7109, 11.6, 1643, 230.
func Format(v float64) string {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return "–"
	}
	a := math.Abs(v)
	if a < 0.001 || a >= 10000 {
		return strconv.FormatFloat(Significant(v, 4), 'f', -1, 64)
	}
	// The usual figures take the short way: most of a circuit's time is spent
	// in writing its working.
	places := 0
	for limit := 1000.0; a < limit; limit /= 10 {
		places++
	}
	var buf [24]byte
	out := strconv.AppendFloat(buf[:0], v, 'f', places, 64)
	if places > 0 {
		out = bytes.TrimSuffix(bytes.TrimRight(out, "0"), []byte("."))
	}
	return string(out)
}

// With writes v and its unit with a no-break space between them.
func With(v float64, unit string) string {
	if unit == "" {
		return Format(v)
	}
	return Format(v) + "\u00a0" + unit
}

// LengthError says what was typed for a length and what is accepted.
type LengthError struct{ Value string }

func (e *LengthError) Error() string {
	return fmt.Sprintf("length %q is not understood: give metres (12.5 or 12.5 m), millimetres (850 mm) or feet and inches (14 ft 6 in, 14' 6\")", e.Value)
}

// ParseLength reads a length and returns metres. A bare number is metres; a
// comma is taken as the decimal sign. The error is a [*LengthError].
func ParseLength(s string) (metres float64, err error) {
	t := strings.ToLower(strings.TrimSpace(strings.ReplaceAll(s, ",", ".")))
	t = strings.NewReplacer("′", "'", "’", "'", "″", `"`, "”", `"`, "ft", "'", "in", `"`, "\u00a0", " ").Replace(t)
	fail := &LengthError{Value: s}
	number := func(x string) (float64, bool) {
		v, err := strconv.ParseFloat(strings.TrimSpace(x), 64)
		return v, err == nil && !math.IsNaN(v) && !math.IsInf(v, 0)
	}
	if feet, rest, ok := strings.Cut(t, "'"); ok {
		ft, ok := number(feet)
		if !ok || ft < 0 {
			return 0, fail
		}
		rest = strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(rest), `"`))
		if rest == "" {
			return ft * 0.3048, nil
		}
		in, ok := number(rest)
		if !ok || in < 0 {
			return 0, fail
		}
		return ft*0.3048 + in*0.0254, nil
	}
	for _, u := range []struct {
		suffix string
		scale  float64
	}{{"mm", 0.001}, {"cm", 0.01}, {`"`, 0.0254}, {"m", 1}, {"", 1}} {
		if body, ok := strings.CutSuffix(t, u.suffix); ok {
			if v, ok := number(body); ok {
				return v * u.scale, nil
			}
			return 0, fail
		}
	}
	return 0, fail
}
