package store_test

import (
	"errors"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/store"
	"arvelt/store/storetest"
)

func (f *firm) walk(t *testing.T, text string) *store.Loaded {
	t.Helper()
	l, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.Walk(text, "", false, 0) })
	require.NoError(t, err)
	return l
}

// Two instances keep jobs in memory, each under its version: what one saves the
// other sees at once, and a failed change leaves neither with it.
func TestWhatIsKeptIsNeverStale(t *testing.T) {
	url := storetest.URL(t)
	open := func() *store.Store {
		st, err := store.Open(ctx, url)
		require.NoError(t, err)
		t.Cleanup(st.Close)
		return st
	}
	one, two := open(), open()
	f := newFirm(t, one, "one")
	g := &firm{Scope: two.For(f.CompanyID), who: f.who, job: f.job, n: 5000}
	for i := range 6 {
		a, b := f, g
		if i%2 == 1 {
			a, b = g, f
		}
		a.walk(t, "room "+string(rune('a'+i))+": 2 socket")
		l, err := b.Job(ctx, b.who, b.job)
		require.NoError(t, err)
		require.Len(t, l.Job.Rooms, i+1)
		assert.Equal(t, 2*(i+1), l.View().Walk.House.Total.Left())
	}
	_, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error {
		if err := l.Walk("lost: 9 socket", "", false, 0); err != nil {
			return err
		}
		l.Job.Materials.Lines["x"] = install.Stock{Ordered: 1}
		l.Job.Rooms[0].Name = "spoiled"
		return errors.New("no")
	})
	require.ErrorContains(t, err, "no")
	for _, x := range []*firm{f, g} {
		l, err := x.Job(ctx, x.who, x.job)
		require.NoError(t, err)
		assert.Len(t, l.Job.Rooms, 6)
		assert.Equal(t, "room a", l.Job.Rooms[0].Name)
		assert.Empty(t, l.Job.Materials.Lines)
	}
	// A price that the company changes is used by the other instance too.
	k, err := f.Company(ctx)
	require.NoError(t, err)
	k.Settings.Prices = k.Settings.Prices[:1]
	_, err = f.SaveCompany(ctx, f.who, f.key(), k.Version, k.Settings)
	require.NoError(t, err)
	l, err := g.Job(ctx, g.who, g.job)
	require.NoError(t, err)
	assert.Len(t, l.Prices, 1)
}

// Whoever reads a job may do with it what they like: what is kept stays.
func TestAReaderCannotSpoilWhatIsKept(t *testing.T) {
	f := newFirm(t, storetest.New(t), "one")
	f.walk(t, "hall: 2 socket")
	l, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	l.Job.Rooms[0].Name, l.Job.Site.Customer = "spoiled", "spoiled"
	l.Job.Rooms = append(l.Job.Rooms, install.Room{})
	l.Versions["site"] = 99
	again, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	assert.Equal(t, [3]any{"hall", "C", 1}, [3]any{again.Job.Rooms[0].Name, again.Job.Site.Customer, len(again.Job.Rooms)})
	assert.Equal(t, 1, again.Versions["site"])
}

// Many walk at once in one house: every line is there, once.
func TestManyWalkAtOnce(t *testing.T) {
	f := newFirm(t, storetest.New(t), "one")
	var wait sync.WaitGroup
	for i := range 12 {
		key := f.key()
		wait.Go(func() {
			for range 2 { // each sent twice under its key
				_, err := f.Change(ctx, f.who, f.job, key, func(l *store.Loaded) error {
					return l.Walk("room "+string(rune('a'+i))+": light, 2 socket", "", false, 0)
				})
				assert.NoError(t, err)
			}
		})
	}
	wait.Wait()
	l, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	assert.Len(t, l.Job.Rooms, 12)
	assert.Equal(t, 36, l.View().Walk.House.Total.Left())
	at := map[float64]bool{}
	for _, r := range l.Job.Rooms {
		at[r.At] = true
	}
	assert.Len(t, at, 12, "each has its own place in the walk")
}

func TestARoomIsTakenOffUnlessSomethingHangsOnIt(t *testing.T) {
	f := newFirm(t, storetest.New(t), "one")
	l := f.walk(t, "hall: light\nstudy: light")
	hall, study := l.Job.Rooms[0], l.Job.Rooms[1]
	change := func(apply func(*store.Loaded) error) error {
		_, err := f.Change(ctx, f.who, f.job, f.key(), apply)
		return err
	}
	var nothing *store.NothingError
	require.NoError(t, change(func(l *store.Loaded) error {
		r := l.Job.RoomByID(study.ID)
		r.From = hall.ID
		return l.Touch("rooms/"+study.ID, l.Versions["rooms/"+study.ID], "edited")
	}))
	err := change(func(l *store.Loaded) error { return l.Remove("rooms/"+hall.ID, l.Versions["rooms/"+hall.ID]) })
	require.ErrorAs(t, err, &nothing)
	assert.Contains(t, err.Error(), "come through it")
	require.NoError(t, change(func(l *store.Loaded) error { return l.Remove("rooms/"+study.ID, l.Versions["rooms/"+study.ID]) }))
	require.NoError(t, change(func(l *store.Loaded) error { return l.Remove("rooms/"+hall.ID, l.Versions["rooms/"+hall.ID]) }))
	now, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	assert.Empty(t, now.Job.Rooms)
	_, err = f.Undo(ctx, f.who, f.job, f.key(), store.TakeBack{})
	require.NoError(t, err)
	now, err = f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	require.Len(t, now.Job.Rooms, 1, "undo brings a room back")
	assert.Equal(t, hall.ID, now.Job.Rooms[0].ID)
}

func TestAWalkHasItsBounds(t *testing.T) {
	f := newFirm(t, storetest.New(t), "one")
	text := ""
	for i := range 81 {
		text += "room " + string(rune('a'+i%26)) + string(rune('a'+i/26)) + ": light\n"
	}
	_, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.Walk(text, "", false, 0) })
	assert.ErrorContains(t, err, "at most 80 rooms")
	l, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	assert.Empty(t, l.Job.Rooms, "nothing of it was taken")
}

// Messages and photos are a company's own.
func TestAnotherCompanySeesNoPhotoAndNoMessage(t *testing.T) {
	st := storetest.New(t)
	f, g := newFirm(t, st, "one"), newFirm(t, st, "two")
	_, err := g.Photo(ctx, f.job, "x")
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = g.Change(ctx, g.who, f.job, g.key(), func(*store.Loaded) error { return nil })
	assert.ErrorIs(t, err, store.ErrNotFound, "even when the other has it in memory")
	messages, err := g.Messages(ctx, f.job)
	require.NoError(t, err)
	assert.Empty(t, messages)
}
