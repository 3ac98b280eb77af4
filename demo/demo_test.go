package demo

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/working"
	"arvelt/store"
	"arvelt/store/storetest"
)

// The demo is what a newcomer sees first: one job of each kind, at different
// stages, loaded once.
func TestTheDemoIsLoadedOnceWithJobsOfEveryKind(t *testing.T) {
	st := storetest.New(t)
	ctx := context.Background()
	loaded, err := Load(ctx, st)
	require.NoError(t, err)
	assert.True(t, loaded)
	again, err := Load(ctx, st)
	require.NoError(t, err)
	assert.False(t, again, "a second load must change nothing")

	id, err := st.CompanyByName(ctx, Company)
	require.NoError(t, err)
	jobs, err := st.For(id).Jobs(ctx, store.Find{})
	require.NoError(t, err)
	kinds, stages := map[string]int{}, map[string]int{}
	for _, j := range jobs.Jobs {
		kinds[j.Kind]++
		stages[j.Stage]++
	}
	assert.Len(t, kinds, 4, "one of each kind of job: %v", kinds)
	assert.GreaterOrEqual(t, len(stages), 4, "at different stages: %v", stages)
	assert.Equal(t, 3, stages["aftercare"], "three jobs were signed")
}

// template is a database with the demo in it.
var template = storetest.NewTemplate("demo", func(url string) error {
	st, err := store.Open(context.Background(), url)
	if err != nil {
		return err
	}
	defer st.Close()
	_, err = Load(context.Background(), st)
	return err
})

// demonstrated is the demo company as it sees its jobs.
func demonstrated(t *testing.T) (store.Scope, store.Person) {
	st := storetest.Open(t, template.URL(t))
	company, err := st.CompanyByName(context.Background(), Company)
	require.NoError(t, err)
	return st.For(company), store.Person{CompanyID: company}
}

// Every line of every demo job has a price, so that each take-off has a total.
func TestEveryLineHasAPrice(t *testing.T) {
	scope, who := demonstrated(t)
	jobs, err := scope.Jobs(context.Background(), store.Find{})
	require.NoError(t, err)
	for _, row := range jobs.Jobs {
		l, err := scope.Job(context.Background(), who, row.ID)
		require.NoError(t, err)
		for _, line := range l.View().Take.Lines {
			assert.NotNil(t, line.Price, "%s: %s %s (%s)", row.Ref, line.Key, line.Name, line.Unit)
		}
	}
}

// The signed jobs are of one piece: every check holds, every test is read and passes,
// every point of the walk is fed by a circuit that the board has a way for, and every
// circuit that is a room's feeds one.
func TestSignedJobsAreOfOnePiece(t *testing.T) {
	ctx := context.Background()
	scope, who := demonstrated(t)
	for _, ref := range []string{"PW-2056", "PW-2057"} {
		id, err := scope.JobID(ctx, ref)
		require.NoError(t, err)
		l, err := scope.Job(ctx, who, id)
		require.NoError(t, err)
		v := l.View()
		assert.Empty(t, v.State.Holds, ref)
		for _, row := range v.Tests.Rows {
			assert.Equal(t, working.Pass, row.Verdict, "%s %s %s: %s", ref, row.Circuit, row.ID, row.Summary)
		}
		fed := map[string]int{}
		for _, room := range l.Job.Rooms {
			for _, p := range room.Points {
				fed[p.FedFrom]++
			}
		}
		for _, c := range l.Job.Circuits {
			w := slices.IndexFunc(l.Job.Board.Ways, func(w install.Way) bool { return w.No == c.Protection.Way })
			require.GreaterOrEqual(t, w, 0, "%s: %s has no way", ref, c.Name)
			assert.False(t, l.Job.Board.Ways[w].Blank, "%s: way of %s", ref, c.Name)
			if ref == "PW-2056" {
				assert.Positive(t, fed[c.ID], "%s feeds no point", c.Name)
			}
			delete(fed, c.ID)
		}
		delete(fed, "") // points of the structured cabling
		assert.Empty(t, fed, "%s: points of circuits that are not there", ref)
	}
}
