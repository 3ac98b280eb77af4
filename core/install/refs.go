package install

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"
)

// RefPattern is how a company numbers its jobs: text with {n} for the number, {n:4} for one of at least four digits, and {yy} or {yyyy}
// for the year. The empty pattern numbers nothing.
type RefPattern string

// RefPatternAccepts says what a pattern looks like.
const RefPatternAccepts = "text of at most 30 characters with {n}, or {n:4} for four digits, once, and perhaps {yy} or {yyyy}, such as PW-{yy}-{n:3}"

var (
	refPart  = regexp.MustCompile(`\{(?:n(?::([1-9]))?|yy|yyyy)\}`)
	refPlain = regexp.MustCompile(`[{}]`)
)

// Valid reports whether the pattern is one.
func (p RefPattern) Valid() bool {
	if p == "" {
		return true
	}
	text := string(p)
	rest := refPart.ReplaceAllString(text, "")
	numbers := len(refPart.FindAllString(text, -1)) - strings.Count(text, "{yy}") - strings.Count(text, "{yyyy}")
	return utf8.ValidString(text) && utf8.RuneCountInString(text) <= 30 && !refPlain.MatchString(rest) && numbers == 1 &&
		strings.TrimSpace(text) == text
}

// Next is the reference after those that are taken, in a year: one more than the highest number of the pattern. It is empty of the empty
// pattern.
func (p RefPattern) Next(year int, taken []string) string {
	if p == "" || !p.Valid() {
		return ""
	}
	digits := 1
	var before, after strings.Builder
	into := &before
	at := 0
	for _, m := range refPart.FindAllStringSubmatchIndex(string(p), -1) {
		into.WriteString(string(p)[at:m[0]])
		switch part := string(p)[m[0]:m[1]]; part {
		case "{yy}":
			fmt.Fprintf(into, "%02d", year%100)
		case "{yyyy}":
			fmt.Fprintf(into, "%04d", year)
		default:
			if m[2] >= 0 {
				digits, _ = strconv.Atoi(string(p)[m[2]:m[3]])
			}
			into = &after
		}
		at = m[1]
	}
	into.WriteString(string(p)[at:])
	most := 0
	for _, ref := range taken {
		number, ok := strings.CutPrefix(ref, before.String())
		if !ok {
			continue
		}
		if number, ok = strings.CutSuffix(number, after.String()); !ok {
			continue
		}
		if n, err := strconv.Atoi(number); err == nil && n > most && n < maxRef && number[0] != '+' && number[0] != '-' {
			most = n
		}
	}
	return fmt.Sprintf("%s%0*d%s", before.String(), digits, most+1, after.String())
}

// maxRef is the largest number that is counted on from: a longer one is no number of a job.
const maxRef = 1_000_000_000
