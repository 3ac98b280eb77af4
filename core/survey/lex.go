package survey

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// outside returns the index of the first of chars outside notes; a comma
// between two digits is a decimal comma. -1 when there is none.
func outside(s, chars string) int {
	depth, quoted := 0, false
	for i, r := range s {
		switch {
		case r == '"' && (quoted || strings.Contains(s[i+1:], `"`) && !digitBefore(s, i)):
			quoted = !quoted
		case quoted:
		case r == '(' && closes(s[i:]):
			depth++
		case r == ')' && depth > 0:
			depth--
		case depth == 0 && strings.ContainsRune(chars, r):
			if r == ',' && digitBefore(s, i) && i+1 < len(s) && isDigit(s[i+1]) {
				continue
			}
			return i
		}
	}
	return -1
}

func isDigit(b byte) bool { return b >= '0' && b <= '9' }

func digitBefore(s string, i int) bool { return i > 0 && isDigit(s[i-1]) }

// closes reports whether the bracket that s starts with is closed in it.
func closes(s string) bool { return closing(s) >= 0 }

func closing(s string) int {
	depth := 0
	for i, r := range s {
		switch r {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// lex cuts an item into spans: marks with what follows them, notes, words, and
// the space and glue between.
func lex(s string) []Span {
	var out []Span
	add := func(n int, class string) {
		out = append(out, Span{Text: s[:n], Class: class})
		s = s[n:]
	}
	first := true
	for s != "" {
		r, size := utf8.DecodeRuneInString(s)
		switch {
		case unicode.IsSpace(r):
			if n := strings.IndexFunc(s, notSpace); n > 0 {
				add(n, "space")
			} else {
				add(len(s), "space")
			}
			continue
		case first && strings.ContainsRune("+=>-−", r):
			add(size, "state")
		case r == '(':
			if n := closing(s); n >= 0 {
				add(n+1, "note")
			} else {
				add(len(s), "note")
			}
		case r == '"':
			if n := strings.IndexByte(s[1:], '"'); n >= 0 {
				add(n+2, "note")
			} else {
				add(len(s), "note")
			}
		case r == '@':
			add(heightEnd(s), "height")
		case r == '/':
			add(markEnd(s), "wall")
		case r == '<':
			add(markEnd(s), "fed")
		case r == '#':
			add(markEnd(s), "box")
		default:
			n := strings.IndexFunc(s, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(`()"@<#-–/`, r) })
			switch {
			case n < 0:
				add(len(s), "word")
			case n > 0:
				add(n, "word")
				if s != "" && strings.ContainsRune("-–/", firstRune(s)) {
					_, size := utf8.DecodeRuneInString(s)
					add(size, "glue")
				}
			default:
				add(size, "glue")
			}
		}
		first = false
	}
	return out
}

func firstRune(s string) rune { r, _ := utf8.DecodeRuneInString(s); return r }

// markEnd is where a mark and what follows it end: a quoted text or one word.
func markEnd(s string) int {
	if len(s) > 1 && s[1] == '"' {
		if n := strings.IndexByte(s[2:], '"'); n >= 0 {
			return n + 3
		}
	}
	if n := strings.IndexFunc(s[1:], func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(`()"@<#/`, r) }); n >= 0 {
		return n + 1
	}
	return len(s)
}

// heightEnd is where a height ends: it may hold feet and inches parted by a space.
func heightEnd(s string) int {
	n := 1
	for n < len(s) && s[n] == ' ' && n < 3 {
		n++
	}
	start := n
	for n < len(s) {
		r, size := utf8.DecodeRuneInString(s[n:])
		if unicode.IsSpace(r) || strings.ContainsRune("()@<#/", r) || r == '"' && !digitBefore(s, n) {
			break
		}
		n += size
	}
	if n == start {
		return 1
	}
	if feet := s[start:n]; strings.HasSuffix(feet, "'") || strings.HasSuffix(feet, "ft") {
		rest := strings.TrimLeft(s[n:], " ")
		digits := len(rest) - len(strings.TrimLeft(rest, "0123456789."))
		if digits > 0 {
			end := digits
			for _, mark := range []string{`"`, "in", "''"} {
				if strings.HasPrefix(rest[digits:], mark) {
					end = digits + len(mark)
				}
			}
			if end > digits {
				return len(s) - len(rest) + end
			}
		}
	}
	return n
}
