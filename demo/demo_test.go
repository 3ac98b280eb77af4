package demo

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
	jobs, err := st.For(id).Jobs(ctx, "")
	require.NoError(t, err)
	kinds, stages := map[string]int{}, map[string]int{}
	for _, j := range jobs {
		kinds[j.Kind]++
		stages[j.Stage]++
	}
	assert.Len(t, kinds, 4, "one of each kind of job: %v", kinds)
	assert.GreaterOrEqual(t, len(stages), 4, "at different stages: %v", stages)
	assert.Equal(t, 3, stages["aftercare"], "three jobs were signed")
}

// Every line of every demo job has a price, so that each take-off has a total.
func TestEveryLineHasAPrice(t *testing.T) {
	st := storetest.New(t)
	_, err := Load(context.Background(), st)
	require.NoError(t, err)
	company, err := st.CompanyByName(context.Background(), Company)
	require.NoError(t, err)
	jobs, err := st.For(company).Jobs(context.Background(), "")
	require.NoError(t, err)
	for _, row := range jobs {
		l, err := st.For(company).Job(context.Background(), store.Person{CompanyID: company}, row.ID)
		require.NoError(t, err)
		for _, line := range l.View().Take.Lines {
			assert.NotNil(t, line.Price, "%s: %s %s (%s)", row.Ref, line.Key, line.Name, line.Unit)
		}
	}
}
