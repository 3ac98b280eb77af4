// Package unit reads and writes the quantities of the trade.
//
// Values inside core are plain float64 in the unit that their name carries
// (LengthM, RatingA, ZeOhm), because nearly every formula of a rulebook mixes
// mV/A/m, mΩ/m and metres and its reader checks it against the printed page.
// This package is where such a number meets people: parsing what they type and
// writing a figure to a sensible number of places.
package unit

import (
	"fmt"
	"math"
	"reflect"
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
	var room [32]byte
	return string(appendFigure(room[:0], v))
}

// appendFigure appends what [Format] writes. Most of a circuit's time is spent in
// writing its working, so a usual figure is scaled to a whole number of four
// digits here; strconv decides where that is too close to a tie.
func appendFigure(out []byte, v float64) []byte {
	a := math.Abs(v)
	switch {
	case math.IsNaN(v) || math.IsInf(v, 0):
		return append(out, "–"...)
	case a < 0.001 || a >= 9999:
		return strconv.AppendFloat(out, Significant(v, 4), 'f', -1, 64)
	}
	if v < 0 {
		out = append(out, '-')
	}
	places, scale := 0, 1.0
	for a*scale < 1000 {
		places, scale = places+1, scale*10
	}
	whole, part := math.Modf(a * scale)
	if math.Abs(part-0.5) < 1e-6 {
		return strconv.AppendFloat(out, Significant(a, 4), 'f', -1, 64)
	}
	n := int64(whole)
	if part > 0.5 {
		n++
	}
	for ; places > 0 && n%10 == 0; places-- {
		n /= 10
	}
	if places == 0 {
		return strconv.AppendInt(out, n, 10)
	}
	var room [8]byte // digits from the last to the first, the point among them
	i := len(room)
	for k := 0; n > 0 || k <= places; k++ {
		if k == places {
			i--
			room[i] = '.'
		}
		i--
		room[i] = byte('0' + n%10)
		n /= 10
	}
	return append(out, room[i:]...)
}

// Text joins words and figures into a line: texts as they are, whole numbers
// whole, other numbers as [Format] writes them. Anything else is a mistake of
// the caller and shows as "?".
func Text(parts ...any) string {
	var room [192]byte
	return string(AppendText(room[:0], parts...))
}

// AppendText appends what [Text] writes.
func AppendText(out []byte, parts ...any) []byte {
	for _, p := range parts {
		switch p := p.(type) {
		case string:
			out = append(out, p...)
		case float64:
			out = appendFigure(out, p)
		case int:
			out = strconv.AppendInt(out, int64(p), 10)
		default: // an id of a type of its own; fmt would put every argument on the heap
			if v := reflect.ValueOf(p); v.Kind() == reflect.String {
				out = append(out, v.String()...)
			} else {
				panic("unit.Text: neither a text nor a figure")
			}
		}
	}
	return out
}

// With writes v and its unit with a no-break space between them.
func With(v float64, unit string) string {
	if unit == "" {
		return Format(v)
	}
	return Format(v) + "\u00a0" + unit
}

// Metres is how many metres a unit of length has, by the name under which lists and settings keep it; 0 for what is no length.
func Metres(of string) float64 {
	switch of {
	case "m":
		return 1
	case "ft":
		return 0.3048
	}
	return 0
}

// LengthError says what was typed for a length and what is accepted.
type LengthError struct{ Value string }

func (e *LengthError) Error() string {
	return fmt.Sprintf("length %q is not understood: give metres (12.5 or 12.5 m), millimetres (850 mm) or feet and inches (14 "+
		"ft 6 in, 14' 6\")", e.Value)
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

// Lengths writes lengths as a practice reads them: millimetres and metres, or
// inches and feet.
type Lengths struct{ Inches bool }

// Small returns millimetres in the small unit, with its name.
func (l Lengths) Small(mm float64) (float64, string) {
	if l.Inches {
		return Significant(mm/25.4, 4), "in"
	}
	return mm, "mm"
}

// Large returns metres in the large unit, with its name.
func (l Lengths) Large(m float64) (float64, string) {
	if l.Inches {
		return Significant(m/0.3048, 4), "ft"
	}
	return m, "m"
}

// tape rounds a length as people read one off a tape, to a tenth, for what is written; what
// is judged keeps its figures.
func tape(v float64) float64 { return math.Round(v*10) / 10 }

// MM writes millimetres in the small unit.
func (l Lengths) MM(mm float64) string {
	v, u := l.Small(mm)
	if l.Inches {
		v = tape(v)
	}
	return Format(v) + " " + u
}

// M writes metres in the large unit.
func (l Lengths) M(m float64) string {
	v, u := l.Large(m)
	if l.Inches {
		v = tape(v)
	}
	return Format(v) + " " + u
}

// Trade is a small size as it is sold: in inches by eighths where it is one of them, as 5/8 in, else as [Lengths.MM] has it.
func (l Lengths) Trade(mm float64) string {
	eighths := mm / 25.4 * 8
	n := math.Round(eighths)
	if !l.Inches || math.Abs(eighths-n) > 0.02 || n < 1 {
		return l.MM(mm)
	}
	of, whole := 8, int(n)/8
	part := int(n) % 8
	for part > 0 && part%2 == 0 {
		part, of = part/2, of/2
	}
	switch {
	case part == 0:
		return fmt.Sprintf("%d in", whole)
	case whole == 0:
		return fmt.Sprintf("%d/%d in", part, of)
	}
	return fmt.Sprintf("%d-%d/%d in", whole, part, of)
}

// ParseLengthMM reads a length and returns millimetres to a hundredth; a number
// without a unit is in bare, such as "mm" or "in". The error is a [*LengthError].
func ParseLengthMM(s, bare string) (mm float64, err error) {
	if _, err := strconv.ParseFloat(strings.ReplaceAll(strings.TrimSpace(s), ",", "."), 64); err == nil {
		s += bare
	}
	m, err := ParseLength(s)
	return math.Round(m*1e5) / 100, err
}

// Signed writes a difference with its sign: +3, −0.5.
func Signed(v float64) string {
	if v < 0 {
		return "−" + Format(-v)
	}
	return "+" + Format(v)
}

// Customary is a figure in mm of rain, m/s, km/h or °C in the unit of the United States: inches, miles an hour, degrees Fahrenheit. Of any other unit it is
// what it was.
func Customary(v float64, kept string) (float64, string) {
	switch kept {
	case "mm":
		return v / 25.4, "in"
	case "m/s":
		return v / 0.44704, "mph"
	case "km/h":
		return v / 1.609344, "mph"
	case "°C":
		return v*1.8 + 32, "°F"
	}
	return v, kept
}
