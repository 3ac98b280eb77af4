package core

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Arrows point inward: core imports the standard library, itself and gonum, and
// of the standard library nothing that reaches out. install, unit, working and
// physics know no rulebook; the practices never import each other.
func TestCoreImportsOnlyWhatItMay(t *testing.T) {
	outward := []string{"net", "os", "database/", "syscall", "math/rand", "log"}
	files := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		require.NoError(t, err)
		room := strings.Split(filepath.ToSlash(path), "/")[0]
		for _, i := range f.Imports {
			imported, err := strconv.Unquote(i.Path.Value)
			require.NoError(t, err)
			first, _, _ := strings.Cut(imported, "/")
			switch {
			case strings.HasPrefix(imported, "arvelt/core/"):
				if room == "install" || room == "unit" || room == "working" || room == "physics" {
					assert.NotContains(t, imported, "rulebook", "%s knows a rulebook", path)
				}
				if strings.Contains(path, "split120") {
					assert.NotContains(t, imported, "iec230", "%s: a practice imports the other", path)
				}
			case first == "gonum.org":
			default:
				assert.NotContains(t, first, ".", "%s imports %s, which is not the standard library", path, imported)
				for _, o := range outward {
					assert.False(t, imported == strings.TrimSuffix(o, "/") || strings.HasPrefix(imported, strings.TrimSuffix(o, "/")+"/"), "%s imports %s, which reaches out of core", path, imported)
				}
			}
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 20, "the walk must have found core")
}
