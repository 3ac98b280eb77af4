package whole

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/working"
)

// Every rule of a practice has an id of its own, a title, a sheet and somebody who mends it;
// what it holds is in the order of the work.
func TestRulesAreWhole(t *testing.T) {
	for _, id := range PracticeIDs {
		seen := map[working.RuleID]bool{}
		for _, r := range Rules(Practices[id]) {
			assert.False(t, seen[r.ID], "%s: two rules are called %s", id, r.ID)
			seen[r.ID] = true
			assert.NotEmpty(t, r.Title, r.ID)
			assert.NotEmpty(t, r.Scope, r.ID)
			assert.Contains(t, working.Sheets, r.Sheet, r.ID)
			assert.NotEmpty(t, r.Who, r.ID)
			at := -1
			for _, a := range r.Holds {
				next := slices.Index(working.Acts, a)
				assert.Greater(t, next, at, "%s holds %s out of order", r.ID, a)
				at = next
			}
		}
		assert.Greater(t, len(seen), 35, id)
	}
}
