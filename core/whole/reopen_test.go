package whole

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/working"
)

// A test that fails opens the step again that it is about, which says so; once that is done again the test is taken anew.
func TestAFailingTestOpensItsStepAgain(t *testing.T) {
	closed := clamped(install.Record{Kind: install.Reading, Subject: "hg", Circuit: "c1", Answer: "closed"})
	for n, bad := range []install.Record{reading("insulation-le", 0.2), closed} {
		h := trials[n]
		t.Run(h.job().Practice, func(t *testing.T) {
			s := &site{T: t, j: h.job(), now: day}
			s.must(isolates(h))
			for _, id := range h.steps() {
				s.must(install.Record{Kind: install.Tick, Subject: id, Done: true})
			}
			step := func() plan.Task { v := Of(s.j, nil, vik, s.now); return *v.task("c1-point") }
			row := func() proving.Row {
				for _, r := range Of(s.j, nil, vik, s.now).Tests.Rows {
					if r.ID == bad.Subject && r.Circuit == "c1" {
						return r
					}
				}
				return proving.Row{}
			}
			require.True(t, step().Done)
			s.must(bad)
			require.Equal(t, working.Fail, row().Verdict)
			again := step()
			assert.False(t, again.Done)
			assert.Contains(t, again.Again, "failed on 2026-05-04: find the cause and put it right")
			assert.Contains(t, again.Again, row().Title)
			v := Of(s.j, nil, vik, s.now)
			assert.True(t, v.task("c1-board").Done, "no other is opened")
			s.must(install.Record{Kind: install.Tick, Subject: "c1-point", Done: true})
			assert.True(t, step().Done)
			assert.Contains(t, row().Summary, "Older than the last work")
		})
	}
}
