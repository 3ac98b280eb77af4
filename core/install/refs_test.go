package install

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestJobsAreNumberedByThePattern(t *testing.T) {
	for _, x := range []struct {
		pattern RefPattern
		taken   []string
		next    string
	}{
		{"", []string{"A-1"}, ""},
		{"PW-{n}", nil, "PW-1"},
		{"PW-{n}", []string{"PW-9", "PW-41", "PW-x", "PX-77", "PW-12b", "PW--50", "PW-+60"}, "PW-42"},
		{"{yy}-{n:3}", []string{"26-007", "25-900"}, "26-008"},
		{"{yyyy}/{n:2}/T", []string{"2026/11/T", "2026/99/X"}, "2026/12/T"},
		{"J{n:2}", []string{"J99"}, "J100"},
		{"W{n}", []string{"W99999999999999999999"}, "W1"},
	} {
		assert.True(t, x.pattern.Valid(), x.pattern)
		assert.Equal(t, x.next, x.pattern.Next(2026, x.taken), x.pattern)
	}
	for _, bad := range []RefPattern{"PW", "{n}{n}", "{yy}", "PW-{m}", "{n:0}", "{n", " {n}", "a very long pattern of a company {n}", "\xff{n}"} {
		assert.False(t, bad.Valid(), bad)
		assert.Empty(t, bad.Next(2026, nil))
	}
}

// Whatever the pattern and what is taken, the next reference is none of them, and the one after it is another.
func FuzzRefPattern(f *testing.F) {
	f.Add("PW-{n}", "PW-3", 2026)
	f.Add("{yy}-{n:3}", "26-999", 2026)
	f.Fuzz(func(t *testing.T, pattern, taken string, year int) {
		p := RefPattern(pattern)
		if !p.Valid() || p == "" {
			return
		}
		next := p.Next(year, []string{taken})
		if next == taken || next == "" {
			t.Fatalf("%q after %q is %q", pattern, taken, next)
		}
		if after := p.Next(year, []string{taken, next}); slices.Contains([]string{taken, next}, after) {
			t.Fatalf("%q after %q is %q again", pattern, next, after)
		}
	})
}
