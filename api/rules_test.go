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
	"arvelt/store/storetest"
)

// Every check of every job comes from a rule of its practice's registry and says on which
// sheet it is mended; what lacks something never passes.
func TestEveryCheckIsOfARule(t *testing.T) {
	c := serve(t).as("tobias")
	var jobs api.JobPage
	c.do("GET", "/api/jobs", nil).into(t, &jobs)
	for _, row := range jobs.Jobs {
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
			assert.False(t, len(k.Missing) > 0 && k.Verdict != working.Unknown, "%s: %s lacks something and is %s", row.Ref,
				k.ID, k.Verdict)
			assert.False(t, k.Stops(working.ToOrder) && k.Verdict != working.Fail, "only a failure holds the order")
		}
	}
}

// A job of a practice that is not built is refused, by name, wherever it is asked for: it is
// never judged by the rules of another, and the other jobs are not touched by it.
func TestAnUnknownPracticeIsRefusedEverywhere(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2052")
	_, err := storetest.Raw(t, w.st).Exec(t.Context(), `UPDATE job SET practice = 'ship', version = version + 1 WHERE ref = 'PW-2052'`)
	require.NoError(t, err)
	for _, sheet := range []string{"", "/circuits", "/supply", "/case", "/desk", "/outdoor", "/pack", "/file"} {
		a := c.do("GET", "/api/jobs/"+v.Id+sheet, nil)
		assert.Equal(t, 409, a.status, sheet)
		assert.Contains(t, a.text, "ship", sheet)
		assert.Contains(t, a.text, "iec230, split120", sheet)
	}
	assert.Equal(t, 409, c.part(v, "site", v.View.Job.Site).status)
	assert.Equal(t, 409, c.add(v.Id, put{"kind": "loose-end", "note": "x"}).status)
	assert.Equal(t, 200, c.do("GET", "/api/jobs/"+c.job("PW-2056").Id+"/circuits", nil).status)
	assert.Equal(t, 200, c.do("GET", "/api/jobs", nil).status)
}

// The edition of a running job is a choice: tried first, which lists what flips, then kept,
// taken back by undo, and refused by name where the practice does not have it.
func TestTheEditionOfARunningJobIsChanged(t *testing.T) {
	c := serve(t).as("tobias")
	for _, k := range []struct{ ref, from, to, flips string }{
		{"PW-2054", "2023", "2017", "Surge protection of the service"},
		{"PW-2052", "2018+A2:2022", "2018+A1:2020", "Arc-fault detection"},
	} {
		v := c.job(k.ref)
		require.Equal(t, k.from, v.View.Job.Edition)
		a := c.part(v, "rules", put{"edition": "1999 whatever"})
		assert.Equal(t, 422, a.status)
		assert.Contains(t, a.text, "1999 whatever")
		assert.Contains(t, a.text, k.to, "what would be accepted")
		var tried api.WhatIf
		c.do("POST", "/api/jobs/"+v.Id+"/what-if?part=rules", put{"edition": k.to}).into(t, &tried)
		flipped := map[string]bool{}
		for _, d := range tried.Differences {
			flipped[d.Check] = true
		}
		assert.True(t, flipped[k.flips], "%s: %v", k.ref, flipped)
		assert.Equal(t, k.from, c.job(k.ref).View.Job.Edition, "a trial keeps nothing")
		require.Equal(t, 200, c.part(v, "rules", put{"edition": k.to}).status)
		assert.Equal(t, k.to, c.job(k.ref).View.Job.Edition)
		assert.Equal(t, 409, c.part(v, "rules", put{"edition": k.from}).status, "somebody changed it meanwhile")
		require.Equal(t, 200, c.do("POST", "/api/jobs/"+v.Id+"/undo", put{"command": "", "free": false}).status)
		assert.Equal(t, k.from, c.job(k.ref).View.Job.Edition)
	}
	signed := c.job("PW-2056")
	assert.Equal(t, 409, c.part(signed, "rules", put{"edition": "2018"}).status)
}
