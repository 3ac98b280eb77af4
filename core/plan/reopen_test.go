package plan

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/words"
	"arvelt/core/working"
)

// A reading at a point opens the step of the room where that is; one of the whole circuit its own first step; one that passes, or that a finding
// answers, none.
func TestAReadingOpensTheStepThatItIsAbout(t *testing.T) {
	job := &install.Job{Words: words.In(words.British), Circuits: []install.Circuit{{ID: "c1", Serves: install.Serves{Boxes: []install.Box{
		{ID: "b1", Room: "r1", Point: "p1"}, {ID: "b2", Room: "r2", Point: "p2"}}}}}}
	for _, row := range []struct {
		name, box string
		verdict   working.Verdict
		answered  bool
		want      string // that is opened; empty for none
	}{
		{"in the second room", "b2", working.Fail, false, "r2-fit"},
		{"in the first room", "b1", working.Fail, false, "r1-fit"},
		{"of the whole circuit", "", working.Fail, false, "c1-board"},
		{"that passes", "b2", working.Pass, false, ""},
		{"that a finding answers", "b2", working.Fail, true, ""},
	} {
		t.Run(row.name, func(t *testing.T) {
			at := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
			tasks := []Task{{ID: "r1-boxes", Room: "r1", Done: true}, {ID: "r1-fit", Room: "r1", alters: true, Done: true, DoneAt: &at,
				circuits: []string{"c1"}},
				{ID: "r2-fit", Room: "r2", alters: true, Done: true, circuits: []string{"c1"}}, {ID: "c1-board", Circuit: "c1", alters: true,
					Done: true, held: "isolate first"},
				{ID: "c1-torque", Circuit: "c1", alters: true, Done: true}}
			Reopen(job, tasks, []proving.Row{{ID: "zs", Circuit: "c1", Title: "Loop", Verdict: row.verdict, Answered: row.answered,
				Points: []proving.PointRead{{ID: "b1", Name: "Loft"}, {ID: "b2", Name: "Larder"}}, Reading: &install.Record{Box: row.box, At: at}}})
			open := ""
			for _, x := range tasks {
				if !x.Done {
					open += x.ID
					assert.Contains(t, x.Again, "Loop")
					assert.Equal(t, x.held, x.Closed, "as it would be closed to whoever looks")
				}
			}
			assert.Equal(t, row.want, open)
		})
	}
}
