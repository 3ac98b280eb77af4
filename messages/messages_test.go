package messages_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/words"
	"arvelt/messages"
)

var locales = []words.Locale{words.British, words.American, words.Canadian}

var verb = regexp.MustCompile(`%(\[\d\])?[.0-9]*[a-zA-Z]`)

// Every message that the code says is in every catalogue, with the same arguments, and no
// catalogue has one that is gone.
func TestTheCatalogueIsThatOfTheCode(t *testing.T) {
	said, err := messages.Said("..")
	require.NoError(t, err)
	assert.Greater(t, len(said), 900)
	for _, l := range locales {
		for key, at := range said {
			if !assert.True(t, words.In(l).Has(key), "%s: %s has no %q; go generate ./messages, and write it", at, l, key) {
				continue
			}
			want, has := verb.FindAllString(key, -1), verb.FindAllString(words.In(l).Say(key), -1)
			if !strings.Contains(words.In(l).Say(key), "%[") {
				assert.Equal(t, want, has, "%s: %q", l, key)
			}
		}
		for _, key := range words.In(l).Keys() {
			assert.Contains(t, said, key, "nobody says this any more")
		}
	}
}

// American and Canadian text is spelled and said as there: no word of the British trade is
// left where the trade has its own.
func TestNoWordOfAnotherTrade(t *testing.T) {
	american := regexp.MustCompile(`(?i)energis|\bearth(ed|ing)?\b|colour|labelled|aluminium|armoured|` +
		`metres?\b|authoris|residual-current|consumer unit|first fix|second fix|` +
		`\bintake\b|main switch|network operator|\bskirting|main fuse|\bboards?\b|\bsockets?\b`)
	canadian := regexp.MustCompile(`(?i)energis|\bearth(ed|ing)?\b|\bcolor|labeled|aluminium|residual-current|` +
		`consumer unit|first fix|second fix|\bintake\b|main switch|` +
		`network operator|equipment grounding conductor|\butility\b`)
	for l, barred := range map[words.Locale]*regexp.Regexp{words.American: american, words.Canadian: canadian} {
		for _, key := range words.In(l).Keys() {
			if text := words.In(l).Say(key); strings.Contains(key, "source's closes") || strings.Contains(key, "opens towards") {
				continue // the two sides of a transfer switch
			} else {
				assert.NotRegexp(t, barred, text, "%s of %q", l, key)
			}
		}
	}
}

// rooms are the packages that compose text for people; the rulebooks write their own, and
// tables of data for programs keep their English heads.
var rooms = []string{"plan", "materials", "outage", "outdoor", "survey", "desk", "handover", "proving", "standby", "../paper"}

// apart are texts that look like sentences and are none for people who read a sheet:
// patterns, shorthand that is parsed, and what a programmer or a file reader is told.
var apart = map[string]bool{"csv.go": true, "vocabulary.go": true, "nearest.go": true, "lex.go": true, "write.go": true, "note.go": true, "catalogue.go": true,
	"xlsx.go": true}

// No sentence that is composed outside the rulebooks escapes the catalogue.
func TestNoSentenceStandsOutsideTheCatalogue(t *testing.T) {
	sentence := regexp.MustCompile(`[A-Za-z’']{2,}[,.:;)]? [(“A-Za-z]{2,}`)
	data := []string{"not sealed", "live abandoned cable", `@42in or @3'6"`} // an outcome, and shorthand
	read := 0
	for _, room := range rooms {
		err := filepath.WalkDir(filepath.Join("../core", room), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || apart[d.Name()] {
				return err
			}
			read++
			files := token.NewFileSet()
			file, err := parser.ParseFile(files, path, nil, 0)
			if err != nil {
				return err
			}
			var look func(n ast.Node) bool
			look = func(n ast.Node) bool {
				switch x := n.(type) {
				case *ast.FuncDecl:
					return x.Name.Name != "Error" // whoever shows an error says it first
				case *ast.ImportSpec, *ast.Field:
					return false
				case *ast.CallExpr:
					name := ""
					switch f := x.Fun.(type) {
					case *ast.SelectorExpr:
						name = f.Sel.Name
					case *ast.Ident:
						name = f.Name
					}
					if slices.Contains([]string{"Say", "Key", "Errorf", "New", "panic", "Load", "Where", "MustCompile"}, name) {
						for _, a := range x.Args[min(1, len(x.Args)):] {
							ast.Inspect(a, look)
						}
						return false
					}
				case *ast.BasicLit:
					if s, err := strconv.Unquote(x.Value); err == nil && x.Kind == token.STRING && sentence.MatchString(s) &&
						!slices.Contains(data, s) {
						assert.Fail(t, "a sentence outside the catalogue", "%s: %s", files.Position(x.Pos()), x.Value)
					}
				}
				return true
			}
			ast.Inspect(file, look)
			return nil
		})
		require.NoError(t, err)
	}
	assert.Greater(t, read, 20)
}

// A message is said with its arguments, figures as the product writes them, in the order of
// the locale; a nil catalogue says British English.
func TestAMessageIsSaid(t *testing.T) {
	var none *words.Catalogue
	assert.Equal(t, words.British, none.Locale())
	assert.Equal(t, "First: a.", none.Say("First: %s.", "a"))
	assert.Equal(t, "way 3 is open: blank it", words.In(words.British).Say("%s is open: blank it", "way 3"))
	assert.Equal(t, "space 3 is open: fit a filler plate",
		words.In(words.American).Say("%s is open: blank it", words.In(words.American).Say("way %d", 3)))
	assert.Equal(t, "It runs 12.5 s without load.", none.Say("It runs %v s without load.", 12.5))
	assert.Equal(t, "0.33", none.Say("%.2f", 1/3.0))
	assert.Equal(t, "b before a", none.Say("%[2]s before %[1]s", "a", "b"))
	assert.Nil(t, words.In("xx"))
	assert.Equal(t, "Not labelled", words.In("xx").Say("Not labelled"))
}
