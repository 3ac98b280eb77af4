package api_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/whole"
)

// proposed is what is proposed of a job.
func (c *client) proposed(ref string) whole.ProposedJob {
	c.Helper()
	var p whole.Proposal
	a := c.do("GET", "/api/days", nil)
	require.Equal(c, 200, a.status, a.text)
	a.into(c.T, &p)
	i := slices.IndexFunc(p.Jobs, func(j whole.ProposedJob) bool { return j.Ref == ref })
	require.GreaterOrEqual(c, i, 0, ref)
	return p.Jobs[i]
}

func dayOf(j whole.ProposedJob, task string) *whole.ProposedStep {
	i := slices.IndexFunc(j.Steps, func(s whole.ProposedStep) bool { return s.Task == task })
	if i < 0 {
		return nil
	}
	return &j.Steps[i]
}

// Days are proposed for the open steps of all jobs: each after what comes before it, by somebody who has what it takes, one crew in a room at a time, not
// before others have done theirs; each says why it is not earlier, what somebody fixed stays, what slipped comes anew, and what is proposed can be taken
// over as it stands.
func TestDaysAreProposedForAllJobs(t *testing.T) {
	for practice, like := range map[string]string{"iec230": "PW-2044", "split120": "PW-2054"} {
		t.Run(practice, func(t *testing.T) {
			w := serve(t)
			tobias := w.as("tobias")
			const ref = "PW-9521"
			kind := map[string]string{"iec230": "double socket", "split120": "duplex"}[practice]
			v := tobias.walked(ref, practice, like, "study: 6 "+kind+"\nden: 4 "+kind+"\nhall: 2 "+kind)
			study, den := v.View.Job.Rooms[0].ID, v.View.Job.Rooms[1].ID
			assert.Equal(t, 403, w.as("remy").do("GET", "/api/days", nil).status, "who plans is proposed to")

			j := tobias.proposed(ref)
			for _, s := range j.Steps {
				assert.NotEmpty(t, s.Why, s.Task)
				assert.NotEmpty(t, s.Who, s.Task)
				task := taskOf(t, v, s.Task)
				assert.Len(t, s.Who, task.Crew, s.Task)
				for _, a := range task.After {
					if first := dayOf(j, a); first != nil {
						assert.LessOrEqual(t, first.Until, s.Day, "%s comes before %s", a, s.Task)
					}
				}
				if task.Isolation {
					assert.True(t, slices.ContainsFunc(s.Who, func(n string) bool { return n == "Jana Okell" || n == "Tobias Marrick" }), "%v may not isolate", s.Who)
				}
				day, err := time.Parse(time.DateOnly, s.Day)
				require.NoError(t, err)
				assert.NotContains(t, []time.Weekday{time.Saturday, time.Sunday}, day.Weekday())
			}
			require.NotNil(t, dayOf(j, study+"-locate"))
			require.NotNil(t, dayOf(j, study+"-boxes"))
			assert.True(t, slices.ContainsFunc(j.Steps, func(s whole.ProposedStep) bool { return strings.HasPrefix(s.Why, "After ") }))

			// Others: not before what they promised, and without a promise no day at all.
			today := time.Now().UTC()
			on := func(n int) string { return today.AddDate(0, 0, n).Format(time.DateOnly) }
			joiner := install.Trade{ID: "t1", Kind: install.Joiner, Who: "Adze", Rooms: []string{den}, Waits: install.FirstWaits, Asked: on(0), Promised: on(20)}
			painter := install.Trade{ID: "t2", Kind: install.Painter, Who: "Gesso", Rooms: []string{study}, Waits: install.SecondWaits}
			require.Equal(t, 200, tobias.traded(ref, joiner, painter).status)
			j = tobias.proposed(ref)
			require.NotNil(t, dayOf(j, den+"-locate"))
			assert.GreaterOrEqual(t, dayOf(j, den+"-locate").Day, on(20))
			assert.Contains(t, dayOf(j, den+"-locate").Why, "Adze")
			assert.Nil(t, dayOf(j, study+"-fit"))
			assert.True(t, slices.ContainsFunc(j.Out, func(o whole.ProposedOut) bool { return strings.Contains(o.Why, "Gesso") }))

			// What somebody fixed stays, and says where it does not go any more.
			next := today.AddDate(0, 0, 10)
			for next.Weekday() == time.Saturday || next.Weekday() == time.Sunday {
				next = next.AddDate(0, 0, 1)
			}
			fixed := next.Format(time.DateOnly)
			require.Equal(t, 200, tobias.planned(ref, map[string]install.TaskEdit{study + "-boxes": {Day: fixed}}).status)
			j = tobias.proposed(ref)
			assert.True(t, dayOf(j, study+"-boxes").Fixed)
			assert.Equal(t, fixed, dayOf(j, study+"-boxes").Day)
			assert.Empty(t, dayOf(j, study+"-boxes").Clash)
			joiner.Rooms, joiner.Promised = []string{study}, on(30)
			require.Equal(t, 200, tobias.traded(ref, joiner, painter).status)
			assert.Contains(t, dayOf(tobias.proposed(ref), study+"-boxes").Clash, "first")

			// What is proposed is taken over as it stands: the plan refuses none of it.
			require.Equal(t, 200, tobias.traded(ref, painter).status)
			j = tobias.proposed(ref)
			edits := map[string]install.TaskEdit{}
			for _, s := range j.Steps {
				edits[s.Task] = install.TaskEdit{Who: strings.Join(s.Who, ", "), Day: s.Day, StandBy: s.StandBy}
			}
			require.NotEmpty(t, edits)
			a := tobias.planned(ref, edits)
			require.Equal(t, 200, a.status, a.text)
			for _, s := range tobias.proposed(ref).Steps {
				assert.True(t, s.Fixed, s.Task)
				assert.Empty(t, s.Clash, s.Task)
			}

			// A week later what was not done has slipped: it comes anew, from then on.
			w.st.Now = func() time.Time { return time.Now().AddDate(0, 0, 8) }
			defer func() { w.st.Now = time.Now }()
			slipped := 0
			for _, s := range tobias.proposed(ref).Steps {
				if s.Was != "" && !s.Fixed {
					slipped++
					assert.Greater(t, s.Day, on(8))
				}
			}
			assert.Positive(t, slipped)
		})
	}
}
