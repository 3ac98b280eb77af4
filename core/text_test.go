package core_test

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// perThousand is how many decisions by a text literal 1000 lines of core may hold.
const perThousand = 8

// byText are functions that decide by a text: a literal among what they are given counts.
var byText = map[string]bool{"HasPrefix": true, "HasSuffix": true, "Contains": true, "ContainsAny": true, "CutPrefix": true,
	"CutSuffix": true, "EqualFold": true, "MustCompile": true}

// decisions lists where a file decides by a non-empty text literal: comparisons, cases of
// a switch, look-ups in a map, and the functions of byText. A comment "typed by a person"
// on the line says that the text is one.
func decisions(fset *token.FileSet, f *ast.File) (out []string) {
	typed := map[int]bool{}
	for _, g := range f.Comments {
		for _, c := range g.List {
			if strings.Contains(c.Text, "typed by a person") {
				typed[fset.Position(c.Pos()).Line] = true
			}
		}
	}
	found := func(e ast.Expr) {
		lit, ok := e.(*ast.BasicLit)
		if !ok || lit.Kind != token.STRING {
			return
		}
		text, err := strconv.Unquote(lit.Value)
		at := fset.Position(lit.Pos())
		if err == nil && text != "" && !typed[at.Line] {
			out = append(out, fmt.Sprintf("%s:%d: %q", at.Filename, at.Line, text))
		}
	}
	written := map[ast.Expr]bool{} // m["key"] = v decides nothing
	ast.Inspect(f, func(n ast.Node) bool {
		switch x := n.(type) {
		case *ast.AssignStmt:
			for _, e := range x.Lhs {
				written[e] = true
			}
		case *ast.BinaryExpr:
			if slices.Contains([]token.Token{token.EQL, token.NEQ, token.LSS, token.GTR, token.LEQ, token.GEQ}, x.Op) {
				found(x.X)
				found(x.Y)
			}
		case *ast.CaseClause:
			for _, e := range x.List {
				found(e)
			}
		case *ast.IndexExpr:
			if !written[x] {
				found(x.Index)
			}
		case *ast.CallExpr:
			if sel, ok := x.Fun.(*ast.SelectorExpr); ok && byText[sel.Sel.Name] {
				for _, e := range x.Args {
					found(e)
				}
			}
		}
		return true
	})
	return out
}

// What is decided is decided by types, rules and columns, hardly ever by the letters of a
// text: a misspelt literal is found by nobody.
func TestHardlyAnythingIsDecidedByText(t *testing.T) {
	lines, all, by := 0, []string{}, map[string]int{}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		src, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		fset := token.NewFileSet()
		f, err := parser.ParseFile(fset, path, src, parser.ParseComments)
		if err != nil {
			return err
		}
		lines += strings.Count(string(src), "\n")
		found := decisions(fset, f)
		by[path] += len(found)
		all = append(all, found...)
		return nil
	}))
	density := float64(len(all)) * 1000 / float64(lines)
	t.Logf("%d decisions by a text literal in %d lines of core: %.1f in 1000", len(all), lines, density)
	if os.Getenv("BYTEXT") != "" {
		fmt.Println(strings.Join(all, "\n"))
	}
	assert.Less(t, density, float64(perThousand), strings.Join(all, "\n"))
}
