package survey

import (
	"math"
	"unicode/utf8"
)

// nearest returns the known word that a misspelling is taken for: one letter
// off for words of four letters or more, two from seven.
func nearest(w string, list []string) string {
	n := utf8.RuneCountInString(w)
	if n < 4 {
		return ""
	}
	best, at := "", 2
	if n >= 7 {
		at = 3
	}
	for _, known := range list {
		if len(known) < 4 || math.Abs(float64(len(known)-len(w))) >= float64(at) {
			continue
		}
		if d := distance(w, known); d < at {
			best, at = known, d
		}
	}
	return best
}

// distance is the Damerau-Levenshtein distance (adjacent letters may swap).
func distance(a, b string) int {
	s, t := []rune(a), []rune(b)
	d := make([][]int, len(s)+1)
	for i := range d {
		d[i] = make([]int, len(t)+1)
		d[i][0] = i
	}
	for j := range d[0] {
		d[0][j] = j
	}
	for i := 1; i <= len(s); i++ {
		for j := 1; j <= len(t); j++ {
			cost := 1
			if s[i-1] == t[j-1] {
				cost = 0
			}
			d[i][j] = min(d[i-1][j]+1, d[i][j-1]+1, d[i-1][j-1]+cost)
			if i > 1 && j > 1 && s[i-1] == t[j-2] && s[i-2] == t[j-1] {
				d[i][j] = min(d[i][j], d[i-2][j-2]+1)
			}
		}
	}
	return d[len(s)][len(t)]
}
