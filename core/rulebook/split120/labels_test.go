package split120_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/rulebook/split120"
)

// Every word of the trade stands in for a text that somebody still writes: a key that
// matches none would leave the common word on the screen.
func TestNoLabelIsOfATextThatIsGone(t *testing.T) {
	root := "../../.."
	var all strings.Builder
	require.NoError(t, filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		name := d.Name()
		switch {
		case err != nil:
			return err
		case d.IsDir() && (name == "node_modules" || name == ".git" || name == "dist" || name == "e2e" || name == "docs"):
			return filepath.SkipDir
		case strings.Contains(name, "_test.") || strings.Contains(name, ".test.") || name == "labels.csv" || name == "schema.d.ts":
			return nil
		case strings.HasSuffix(name, ".go") || strings.HasSuffix(name, ".ts") || strings.HasSuffix(name, ".tsx") ||
			strings.HasSuffix(name, ".csv"):
			raw, err := os.ReadFile(path)
			all.Write(raw)
			return err
		}
		return nil
	}))
	source := regexp.MustCompile(`\s+`).ReplaceAllString(all.String(), " ")
	n := 0
	for key := range (split120.Practice{}).Words() {
		if common, is := strings.CutPrefix(key, "label:"); is {
			n++
			assert.True(t, strings.Contains(source, common), "nobody writes %q any more", common)
		}
	}
	assert.Greater(t, n, 100)
}
