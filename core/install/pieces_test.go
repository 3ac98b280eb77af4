package install

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPiecesAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string][]float64{"": nil, " ": nil, "30": {30}, "30 + 12": {30, 12}, "30m+ 12.5 m": {30, 12.5}} {
		got, err := Pieces(text, "m")
		assert.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"a few", "30 +", "-3", "0", "NaN", "1e9", "30 12"} {
		_, err := Pieces(text, "m")
		assert.Error(t, err, text)
	}
}

func FuzzPieces(f *testing.F) {
	f.Add("30 + 12")
	f.Add("m+m")
	f.Fuzz(func(t *testing.T, text string) {
		pieces, err := Pieces(text, "m")
		if err != nil {
			return
		}
		for _, p := range pieces {
			assert.True(t, p > 0 && p < 10000, fmt.Sprint(p))
		}
	})
}
