// Package messages finds every message that the code says, for the catalogue and its test.
package messages

//go:generate go run ./update

import (
	"encoding/csv"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"reflect"
	"strconv"
	"strings"
)

// Rooms are the folders that say messages, from the root of the project.
var Rooms = []string{"core", "api", "paper", "store"}

// columns are the columns of shared tables whose cells are messages.
var columns = map[string][]string{
	"core/materials/data/mountings.csv":          {"name", "inch_name", "rule"},
	"core/materials/data/consumables.csv":        {"name", "rule"},
	"core/rulebook/iec230/data/point_kits.csv":   {"name", "rule"},
	"core/rulebook/split120/data/point_kits.csv": {"name", "rule"},
	"core/rulebook/split120/data/box_sizes.csv":  {"name"},
	"core/rulebook/split120/data/connectors.csv": {"name"},
	"core/rulebook/iec230/data/connectors.csv":   {"name"},
	"core/materials/data/substitution.csv":       {"why"},
	"core/van/data/kit.csv":                      {"name"},
	"core/desk/data/kinds.csv":                   {"title"},
	"core/outage/data/weather.csv":               {"says"},
	"core/outdoor/data/steps.csv":                {"title", "who", "finds"},
	"core/outdoor/data/weather.csv":              {"name", "instead"},
	"core/survey/data/findings.csv":              {"title", "risk", "until", "mend"},
	"core/survey/data/rooms.csv":                 {"name"},
}

// Said are the messages of the code and where each is said first.
func Said(root string) (map[string]string, error) {
	found := map[string]string{}
	for _, room := range Rooms {
		err := filepath.WalkDir(filepath.Join(root, room), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			files := token.NewFileSet()
			file, err := parser.ParseFile(files, path, nil, 0)
			if err != nil {
				return err
			}
			ast.Inspect(file, func(n ast.Node) bool {
				if field, ok := n.(*ast.Field); ok {
					for _, key := range tagged(field) {
						if found[key] == "" {
							found[key] = fmt.Sprintf("%s:%d", path, files.Position(field.Pos()).Line)
						}
					}
					return true
				}
				call, ok := n.(*ast.CallExpr)
				if !ok || len(call.Args) == 0 || !says(call) {
					return true
				}
				if key, ok := text(call.Args[0]); ok && found[key] == "" {
					found[key] = fmt.Sprintf("%s:%d", path, files.Position(call.Pos()).Line)
				}
				return true
			})
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	for path, names := range columns {
		if err := cells(filepath.Join(root, path), names, found); err != nil {
			return nil, err
		}
	}
	return found, nil
}

// tagged are the messages in the tags of a field of the model: what 0 says, and a unit in words.
func tagged(field *ast.Field) (out []string) {
	if field.Tag == nil {
		return nil
	}
	tag := reflect.StructTag(strings.Trim(field.Tag.Value, "`"))
	if zero := tag.Get("zero"); zero != "" {
		out = append(out, zero)
	}
	if unit := tag.Get("unit"); strings.Contains(unit, " ") {
		out = append(out, unit)
	}
	return out
}

// says reports whether a call says a message or marks one: x.Say("…"), words.Key("…").
func says(call *ast.CallExpr) bool {
	f, ok := call.Fun.(*ast.SelectorExpr)
	if !ok {
		return false
	}
	if f.Sel.Name == "Key" {
		x, ok := f.X.(*ast.Ident)
		return ok && x.Name == "words"
	}
	return f.Sel.Name == "Say"
}

// text is a text that is written in the code, in one piece or several.
func text(e ast.Expr) (string, bool) {
	switch x := e.(type) {
	case *ast.BasicLit:
		s, err := strconv.Unquote(x.Value)
		return s, err == nil && x.Kind == token.STRING
	case *ast.BinaryExpr:
		a, ok := text(x.X)
		b, also := text(x.Y)
		return a + b, ok && also && x.Op == token.ADD
	case *ast.ParenExpr:
		return text(x.X)
	}
	return "", false
}

func cells(path string, names []string, into map[string]string) error {
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	defer f.Close()
	r := csv.NewReader(f)
	r.Comment = '#'
	rows, err := r.ReadAll()
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	for i, head := range rows[0] {
		for _, name := range names {
			if head != name {
				continue
			}
			for _, row := range rows[1:] {
				if row[i] != "" && into[row[i]] == "" {
					into[row[i]] = path
				}
			}
		}
	}
	return nil
}
