package core

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Arrows point inward: core imports the standard library and itself, the network
// matrices of gonum too, and of the standard library nothing that reaches out. install, unit, working and
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
				if own, at, found := strings.Cut(filepath.ToSlash(path), "rulebook/"); found && own == "" && strings.Contains(at, "/") {
					other := strings.TrimPrefix(imported, "arvelt/core/rulebook/")
					assert.True(t, other == imported || other == "", "%s: a practice imports another, %s", path, imported)
				}
			case (imported == "gonum.org/v1/gonum/mat" || imported == "gonum.org/v1/gonum/floats") && (room == "network" || room == "cutting"):
			default:
				assert.NotContains(t, first, ".", "%s imports %s, which is not the standard library", path, imported)
				for _, o := range outward {
					assert.False(t, imported == strings.TrimSuffix(o, "/") ||
						strings.HasPrefix(imported, strings.TrimSuffix(o, "/")+"/"),
						"%s imports %s, which reaches out of core", path, imported)
				}
			}
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 20, "the walk must have found core")
}

// Nothing outside the practices, the list of them and the demo asks which practice
// a job has: what differs is behind the interface.
func TestNothingElseSwitchesOnAPractice(t *testing.T) {
	read := 0
	for _, room := range []string{"desk", "handover", "install", "materials", "outage", "outdoor", "physics", "plan",
		"proving", "survey", "table", "unit", "working", "../api", "../cmd", "../paper", "../picture", "../standin",
		"../store", "../web/src"} {
		err := filepath.WalkDir(room, func(path string, d fs.DirEntry, err error) error {
			ext := filepath.Ext(path)
			if err != nil || d.IsDir() || ext != ".go" && ext != ".ts" && ext != ".tsx" ||
				strings.Contains(path, "_test.") || strings.Contains(path, ".test.") || strings.Contains(path, "testing") ||
				strings.Contains(path, ".gen.") || strings.HasSuffix(path, "schema.d.ts") {
				return err
			}
			read++
			source, err := os.ReadFile(path)
			for _, practice := range []string{"iec230", "split120"} {
				assert.False(t, strings.Contains(string(source), practice), "%s speaks of %s", path, practice)
			}
			return err
		})
		require.NoError(t, err)
	}
	assert.Greater(t, read, 100)
}
