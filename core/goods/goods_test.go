package goods

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestNumbersAreReadWhereTheyMeanOneThing(t *testing.T) {
	for text, want := range map[string]float64{"12": 12, "12.5": 12.5, "12,5": 12.5, "1,234.50": 1234.5, "1.234,50": 1234.5, "1 234,5": 1234.5,
		"0,125": 0.125, "-3": -3, "1.234": 1.234, "12345,678": 12345.678, "1,234,567.8": 1234567.8} {
		got, ok := Number(text)
		assert.True(t, ok, text)
		assert.InDelta(t, want, got, 1e-9, text)
	}
	for _, text := range []string{"", "1,234", "12,345", "1.2.3", "1,2,3", "12a", "30 12", "1 2345", "1,23.4,5", "12,34.5", "NaN", "Inf", "1e400"} {
		_, ok := Number(text)
		assert.False(t, ok, text)
	}
}

func TestPiecesAreReadAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string][]float64{"": nil, "30 + 12": {30, 12}, "2x25m": {25, 25}, "2 × 25 + 4": {25, 25, 4}, "25,5": {25.5},
		"10 m": {10}, "100 ft": {30.48}} {
		got, ok := Lengths(text, "m")
		require.True(t, ok, text)
		assert.Equal(t, want, got, text)
	}
	got, ok := Lengths("32 ft + 32'", "ft")
	assert.True(t, ok)
	assert.Equal(t, []float64{32, 32}, got)
	for _, text := range []string{"a", "0x5", "-3", "3 +", "2x", "x4", "99999", "10 kg", "1000x2"} {
		got, ok := Lengths(text, "m")
		assert.False(t, ok, "%s: %v", text, got)
	}
	_, ok = Lengths("10 m", "pcs")
	assert.False(t, ok, "a length of what is counted")
}

func TestTablesAreReadInAnyEncoding(t *testing.T) {
	const text = "# number: D-7\nproduct;count;remark\nclip;50;größer – 5 €\n\n# nothing\ncable;\"25,5\";\n"
	wide := []byte{0xFF, 0xFE}
	for _, r := range text {
		wide = append(wide, byte(r), byte(r>>8))
	}
	western := []byte{}
	for _, r := range text {
		switch r {
		case '–':
			western = append(western, 0x96)
		case '€':
			western = append(western, 0x80)
		default:
			western = append(western, byte(r))
		}
	}
	for name, raw := range map[string][]byte{"utf-8": []byte(text), "marked": []byte("\ufeff" + text), "utf-16": wide, "windows": western} {
		got, err := Read(Text(raw))
		require.NoError(t, err, name)
		assert.Equal(t, "D-7", got.Notes["number"], name)
		require.Len(t, got.Rows, 2, name)
		assert.Equal(t, 3, got.Rows[0].Line)
		assert.Equal(t, 6, got.Rows[1].Line, "as the file counts them")
		assert.Equal(t, "größer – 5 €", got.Rows[0].Cell(got.Column("remark")), name)
		assert.Equal(t, "25,5", got.Rows[1].Cell(got.Column("quantity", "count")))
		assert.Empty(t, got.Rows[1].Cell(got.Column("price")))
	}
	_, err := Read(" \n# only: notes\n")
	assert.ErrorContains(t, err, "names of the columns")
}

// Whatever is sent, it is read or refused; what is read has a number in its own form.
func FuzzRead(f *testing.F) {
	f.Add([]byte("a,b\n1,2\n"))
	f.Add([]byte{0xFE, 0xFF, 0, 'a', 0})
	f.Add([]byte("a;b\n\"1;2\n"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		got, err := Read(Text(raw))
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		for i := range got.Rows {
			assert.Positive(t, got.Rows[i].Line)
			for n := range got.Rows[i].Cells {
				Number(got.Rows[i].Cell(n))
				Lengths(got.Rows[i].Cell(n), "m")
			}
		}
	})
}
