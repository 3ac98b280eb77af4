package api

import (
	_ "embed"
	"fmt"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"golang.org/x/crypto/bcrypt"

	"arvelt/core/install"
)

// The bounds of a password: characters at least, and bytes at most, as the hash reads no more (bcrypt,
// Provos and Mazières 1999).
const (
	passwordLeast = 12
	passwordMost  = 72
)

//go:embed data/common-passwords.txt
var commonText string

// common are the words that the commonest passwords are made of.
var common = sync.OnceValue(func() map[string]bool {
	out := map[string]bool{}
	for line := range strings.Lines(commonText) {
		if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") {
			out[line] = true
		}
	}
	return out
})

// signs that stand for letters in passwords that were meant to be clever.
var letters = strings.NewReplacer("0", "o", "1", "i", "!", "i", "3", "e", "4", "a", "@", "a", "5", "s", "$", "s", "7", "t", "8", "b")

// CheckPassword holds a new password to its length, and refuses what is guessed first: what is made of the
// commonest words, of the person's own, of one sign or of rows of the keyboard. own are the person's and
// the company's names. The error is [install.Errors] without the password.
func CheckPassword(password string, own ...string) error {
	refuse := func(accept string) error {
		return install.Errors{{Field: "password", Value: "…", Accept: accept}}
	}
	if n := utf8.RuneCountInString(password); n < passwordLeast || len(password) > passwordMost || !utf8.ValidString(password) {
		return refuse(fmt.Sprintf("at least %d characters and at most %d bytes", passwordLeast, passwordMost))
	}
	words := common()
	mine := map[string]bool{}
	for _, name := range own {
		for _, w := range strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return !unicode.IsLetter(r) }) {
			if utf8.RuneCountInString(w) > 2 {
				mine[w] = true
			}
		}
	}
	low := strings.ToLower(password)
	for _, text := range []string{low, letters.Replace(low)} {
		if rest := without(text, words, mine); rest < 4 {
			return refuse("one that is not made of common words, names of the person or the company, rows of keys or figures alone; " +
				"several words that do not belong together are good")
		}
	}
	return nil
}

// without counts the letters of a text that are left once the words are taken out of it, from the
// left and the longest first. Figures and signs count for nothing, nor does a letter again and again.
func without(text string, sets ...map[string]bool) int {
	runes := []rune{}
	for _, r := range text {
		if unicode.IsLetter(r) {
			runes = append(runes, r)
		}
	}
	left := map[rune]bool{}
	for i := 0; i < len(runes); {
		n := 0
		for k := min(len(runes)-i, 20); k >= 2 && n == 0; k-- {
			for _, set := range sets {
				if set[string(runes[i:i+k])] {
					n = k
				}
			}
		}
		if n == 0 {
			left[runes[i]] = true
			n = 1
		}
		i += n
	}
	return len(left)
}

// HashPassword hashes a password for a person's row.
func HashPassword(password string) (string, error) {
	h, err := bcrypt.GenerateFromPassword([]byte(password), bcrypt.DefaultCost)
	return string(h), err
}
