package api_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/install"
	"arvelt/core/whole"
	"arvelt/core/working"
)

// Every check of every job comes from a rule of its practice's registry and says on which
// sheet it is mended; what lacks something never passes.
func TestEveryCheckIsOfARule(t *testing.T) {
	c := serve(t).as("tobias")
	var jobs []api.JobRow
	c.do("GET", "/api/jobs", nil).into(t, &jobs)
	for _, row := range jobs {
		job := c.job(row.Ref).View.Job
		p := whole.Practice(job)
		rules := map[working.RuleID]*working.Rule{}
		for _, r := range whole.Rules(p) {
			rules[r.ID] = r
		}
		v := whole.Of(job, nil, install.Person{}, time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC))
		require.NotEmpty(t, v.Checks, row.Ref)
		for i := range v.Checks {
			k := &v.Checks[i]
			r := rules[k.Rule]
			require.NotNil(t, r, "%s: %s is of no rule", row.Ref, k.ID)
			assert.Equal(t, r.ID, k.Of().ID)
			assert.Equal(t, r.Sheet, k.Sheet, k.ID)
			assert.False(t, len(k.Missing) > 0 && k.Verdict != working.Unknown, "%s: %s lacks something and is %s", row.Ref, k.ID, k.Verdict)
			assert.False(t, k.Stops(working.ToOrder) && k.Verdict != working.Fail, "only a failure holds the order")
		}
	}
}
