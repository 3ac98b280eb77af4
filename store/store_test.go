package store_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/store"
	"arvelt/store/storetest"
)

var ctx = context.Background()

// firm is a company with one person and one job.
type firm struct {
	store.Scope
	who store.Person
	job string
	n   int
}

func (f *firm) key() string { f.n++; return fmt.Sprintf("%s-%04d", f.CompanyID, f.n) }

func newFirm(t testing.TB, st *store.Store, name string) *firm {
	id, err := st.NewCompany(ctx, store.Company{Name: name, Timezone: "UTC", Settings: demo.Settings()})
	require.NoError(t, err)
	p := store.Person{CompanyID: id, Name: "Person of " + name, Email: name + "@firm.example", Role: "supervisor", Hash: "x"}
	p.ID, err = st.NewPerson(ctx, p)
	require.NoError(t, err)
	f := &firm{Scope: st.For(id), who: p}
	l, err := f.Create(ctx, p, f.key(), install.Job{Format: install.Format, Ref: "J-1", Title: "Job",
		Kind: install.EVCharger, Practice: "iec230", Rules: install.Rules{Edition: "2018+A2:2022"},
		Site: install.Site{Customer: "C", Address: "A"}, Supply: install.Supply{DeclaredV: 230},
		Board: install.Board{Name: "A"}, Schools: install.Schools{}})
	require.NoError(t, err)
	f.job = l.ID
	return f
}

func (f *firm) site(customer string, base int, key string) (*store.Loaded, error) {
	body, err := json.Marshal(install.Site{Customer: customer, Address: "A"})
	if err != nil {
		return nil, err
	}
	return f.Change(ctx, f.who, f.job, key, func(l *store.Loaded) error { return l.SetPart("site", base, body) })
}

func (f *firm) customer(t testing.TB) (string, int) {
	l, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	return l.Job.Site.Customer, l.Versions["site"]
}

func TestACompanySeesOnlyItsOwn(t *testing.T) {
	st := storetest.New(t)
	one, two := newFirm(t, st, "one"), newFirm(t, st, "two")
	_, err := two.Job(ctx, two.who, one.job)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = two.Change(ctx, two.who, one.job, two.key(), func(*store.Loaded) error { return nil })
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = two.State(ctx, one.job)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = two.History(ctx, one.job)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = two.SignedFile(ctx, one.job, "A")
	assert.ErrorIs(t, err, store.ErrNotFound)
	jobs, err := two.Jobs(ctx, store.Find{})
	require.NoError(t, err)
	require.Len(t, jobs.Jobs, 1)
	assert.Equal(t, two.job, jobs.Jobs[0].ID)
}

func TestAStaleWriteIsRefusedWithWhatIsThere(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	_, err := f.site("first", 1, f.key())
	require.NoError(t, err)
	_, err = f.site("second", 1, f.key())
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, 2, stale.Version)
	assert.Contains(t, string(stale.Body), "first")
	got, _ := f.customer(t)
	assert.Equal(t, "first", got)
}

func TestOfConcurrentWritersOnOneVersionExactlyOneWins(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	var wg sync.WaitGroup
	errs := make([]error, 8)
	for i := range errs {
		key := f.key()
		wg.Go(func() { _, errs[i] = f.site(fmt.Sprintf("writer %d", i), 1, key) })
	}
	wg.Wait()
	won := 0
	for _, err := range errs {
		var stale *store.StaleError
		if err == nil {
			won++
		} else {
			assert.ErrorAs(t, err, &stale)
		}
	}
	assert.Equal(t, 1, won)
	_, version := f.customer(t)
	assert.Equal(t, 2, version)
}

// However requests overtake each other, the audit's times are in the order of its rows.
func TestTheAuditIsInTheOrderOfItsTimes(t *testing.T) {
	f := newFirm(t, storetest.New(t), "one")
	var all sync.WaitGroup
	keys := make([]string, 40)
	for i := range keys {
		keys[i] = f.key()
	}
	for _, key := range keys {
		all.Go(func() {
			_, err := f.Change(ctx, f.who, f.job, key, func(l *store.Loaded) error { return l.Walk("hall: 1 socket", "", false, 0) })
			assert.NoError(t, err)
		})
	}
	all.Wait()
	var rows, late int
	require.NoError(t, storetest.Raw(t, f.Store).QueryRow(ctx, `SELECT count(*), count(*) FILTER (WHERE at < before) FROM
		(SELECT at, lag(at) OVER (ORDER BY seq) AS before FROM edit WHERE job_id = $1) AS e`, f.job).Scan(&rows, &late))
	assert.Greater(t, rows, len(keys))
	assert.Zero(t, late)
}

func TestARetryUnderItsKeyIsDoneOnce(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	key := f.key()
	note := func() (*store.Loaded, error) {
		return f.Change(ctx, f.who, f.job, key, func(l *store.Loaded) error {
			return l.NewRecord(install.Record{Kind: install.LooseEnd, Note: "cover off"})
		})
	}
	for range 3 {
		l, err := note()
		require.NoError(t, err)
		assert.Len(t, l.Job.Records, 1)
	}
	other := newFirm(t, f.Store, "g")
	l, err := other.Change(ctx, other.who, other.job, key, func(l *store.Loaded) error {
		return l.NewRecord(install.Record{Kind: install.LooseEnd, Note: "theirs"})
	})
	require.NoError(t, err, "the key of another company is another key")
	assert.Len(t, l.Job.Records, 1)
	_, err = f.Create(ctx, f.who, key, install.Job{Ref: "J-2"})
	var used *store.KeyError
	assert.ErrorAs(t, err, &used, "a key is for one write")
}

func TestRecordsCannotBeChangedEvenInTheDatabase(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	_, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error {
		return l.NewRecord(install.Record{Kind: install.LooseEnd, Note: "cover off"})
	})
	require.NoError(t, err)
	for _, sql := range []string{`UPDATE job_record SET kind = 'x'`, `DELETE FROM job_record`} {
		_, err := storetest.Raw(t, f.Store).Exec(ctx, sql)
		assert.ErrorContains(t, err, "append-only", sql)
	}
}

func TestUndoGoesBackEditByEditAndStopsAtSomebodyElses(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	for i, c := range []string{"one", "two", "three"} {
		_, err := f.site(c, i+1, f.key())
		require.NoError(t, err)
	}
	for _, want := range []string{"two", "one", "C"} {
		_, err := f.Undo(ctx, f.who, f.job, f.key(), store.TakeBack{})
		require.NoError(t, err)
		got, _ := f.customer(t)
		assert.Equal(t, want, got)
	}
	_, err := f.Undo(ctx, f.who, f.job, f.key(), store.TakeBack{})
	var nothing *store.NothingError
	assert.ErrorAs(t, err, &nothing)

	_, version := f.customer(t)
	_, err = f.site("mine", version, f.key())
	require.NoError(t, err)
	mine := f.who
	f.who = store.Person{CompanyID: f.CompanyID, Name: "Another", Email: "another@firm.example", Role: "electrician", Hash: "x"}
	f.who.ID, err = f.NewPerson(ctx, f.who)
	require.NoError(t, err)
	_, err = f.site("theirs", version+1, f.key())
	require.NoError(t, err)
	_, err = f.Undo(ctx, mine, f.job, f.key(), store.TakeBack{})
	var stale *store.StaleError
	assert.ErrorAs(t, err, &stale)
	got, _ := f.customer(t)
	assert.Equal(t, "theirs", got)
}

func circuitBody(t *testing.T, id string) []byte {
	k := install.Circuit{ID: id, Name: "Point", Use: "ev", Point: install.Point{CurrentA: 32},
		Route: install.Route{CableType: "swa3-90", LineMM2: 6,
			Segments: []install.Segment{{Place: "wall", LengthM: 9, Method: "C", AmbientC: 30, Grouped: 1}}},
		Protection: install.Protection{Family: "mcb_rcbo", Curve: "B", RatingA: 32, IcnKA: 6, Poles: 2}}
	body, err := json.Marshal(k)
	require.NoError(t, err)
	return body
}

func TestARemovedCircuitComesBackWithUndo(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	_, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.SetPart("circuits/c1", 0, circuitBody(t, "c1")) })
	require.NoError(t, err)
	remove := func() error {
		_, err := f.Change(ctx, f.who, f.job, f.key(),
			func(l *store.Loaded) error { return l.Remove("circuits/c1", l.Versions["circuits/c1"]) })
		return err
	}
	require.NoError(t, remove())
	l, err := f.Job(ctx, f.who, f.job)
	require.NoError(t, err)
	assert.Empty(t, l.Job.Circuits)
	l, err = f.Undo(ctx, f.who, f.job, f.key(), store.TakeBack{})
	require.NoError(t, err)
	require.Len(t, l.Job.Circuits, 1)
	_, err = f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error {
		return l.NewRecord(install.Record{Kind: install.Tick, Subject: "c1-mark", Circuit: "c1", Done: true})
	})
	require.NoError(t, err)
	assert.ErrorContains(t, remove(), "has records", "what was recorded is never lost")
}

func TestEveryChangeIsNotified(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	conn, err := storetest.Raw(t, f.Store).Acquire(ctx)
	require.NoError(t, err)
	defer conn.Release()
	_, err = conn.Exec(ctx, "LISTEN "+store.Channel)
	require.NoError(t, err)
	l, err := f.site("heard", 1, f.key())
	require.NoError(t, err)
	wait, cancel := context.WithTimeout(ctx, 60*time.Second)
	defer cancel()
	n, err := conn.Conn().WaitForNotification(wait)
	require.NoError(t, err)
	var e store.Event
	require.NoError(t, json.Unmarshal([]byte(n.Payload), &e))
	assert.Equal(t, store.Event{Company: f.CompanyID, What: "job", ID: f.job, Version: l.Version}, e)
}

func TestAFailedChangeLeavesNothing(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	before, err := f.State(ctx, f.job)
	require.NoError(t, err)
	key := f.key()
	_, err = f.Change(ctx, f.who, f.job, key, func(l *store.Loaded) error {
		require.NoError(t, l.SetPart("site", 1,
			[]byte(`{"customer":"x","phone":"","email":"","address":"y","town":"","premises":"","access":"","hazards":""}`)))
		return errors.New("then something fails")
	})
	require.Error(t, err)
	after, err := f.State(ctx, f.job)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	_, err = f.site("now", 1, key)
	assert.NoError(t, err, "the key of a write that failed is free again")
}

func TestSearchTakesSignsLiterally(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	_, err := f.site(`100% o'Hara_`, 1, f.key())
	require.NoError(t, err)
	for q, want := range map[string]int{"100%": 1, "o'hara_": 1, "%%": 0, "j_1": 0, "'; DROP TABLE job; --": 0, "": 1} {
		rows, err := f.Jobs(ctx, store.Find{Q: q})
		require.NoError(t, err)
		assert.Len(t, rows.Jobs, want, q)
	}
}

// Two circuits that change ways are one command: both or neither, and one undo takes both back.
func TestACommandIsSavedAndUndoneTogether(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	way := func(id string, way int) json.RawMessage {
		var k install.Circuit
		require.NoError(t, json.Unmarshal(circuitBody(t, id), &k))
		k.Protection.Way = way
		body, err := json.Marshal(k)
		require.NoError(t, err)
		return body
	}
	set := func(title string, parts ...store.PartChange) (*store.Loaded, error) {
		return f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.SetParts(title, parts) })
	}
	at := func(part string) int {
		l, err := f.Job(ctx, f.who, f.job)
		require.NoError(t, err)
		return l.Versions["circuits/"+part]
	}
	ways := func() (out []int) {
		l, err := f.Job(ctx, f.who, f.job)
		require.NoError(t, err)
		for _, k := range l.Job.Circuits {
			out = append(out, k.Protection.Way)
		}
		return out
	}
	for i, id := range []string{"c1", "c2"} {
		_, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.SetPart("circuits/"+id, 0, way(id, i+3)) })
		require.NoError(t, err)
	}
	_, err := set("swap ways 3 and 4", store.PartChange{Part: "circuits/c1", Base: at("c1"), Body: way("c1", 4)},
		store.PartChange{Part: "circuits/c2", Base: at("c2"), Body: way("c2", 3)})
	require.NoError(t, err)
	assert.Equal(t, []int{4, 3}, ways())

	// One of two that is stale, or broken, or no part: nothing of the command is there.
	_, err = set("half", store.PartChange{Part: "circuits/c1", Base: at("c1"), Body: way("c1", 9)},
		store.PartChange{Part: "circuits/c2", Base: at("c2") - 1, Body: way("c2", 8)})
	var stale *store.StaleError
	assert.ErrorAs(t, err, &stale)
	for name, parts := range map[string][]store.PartChange{
		"broken": {{Part: "circuits/c1", Base: at("c1"), Body: way("c1", 9)},
			{Part: "circuits/c2", Base: at("c2"), Body: json.RawMessage(`{}`)}},
		"no part": {{Part: "circuits/c1", Base: at("c1"), Body: way("c1", 9)}, {Part: "cellar", Base: 0, Body: json.RawMessage(`{}`)}},
		"twice":   {{Part: "circuits/c1", Base: at("c1"), Body: way("c1", 9)}, {Part: "circuits/c1", Base: at("c1"), Body: way("c1", 8)}},
		"nothing": {},
	} {
		_, err = set("half", parts...)
		assert.Error(t, err, name)
	}
	assert.Equal(t, []int{4, 3}, ways())

	edits, err := f.History(ctx, f.job)
	require.NoError(t, err)
	assert.Equal(t, "swap ways 3 and 4", edits[0].Title)
	_, err = f.Undo(ctx, f.who, f.job, f.key(), store.TakeBack{})
	require.NoError(t, err)
	assert.Equal(t, []int{3, 4}, ways(), "one undo takes both back")

	// What another person has changed since holds the whole of it.
	_, err = set("swap again", store.PartChange{Part: "circuits/c1", Base: at("c1"), Body: way("c1", 4)},
		store.PartChange{Part: "circuits/c2", Base: at("c2"), Body: way("c2", 3)})
	require.NoError(t, err)
	mine := f.who
	f.who = store.Person{CompanyID: f.CompanyID, Name: "Another", Email: "another@firm.example", Role: "electrician", Hash: "x"}
	f.who.ID, err = f.NewPerson(ctx, f.who)
	require.NoError(t, err)
	_, err = set("theirs", store.PartChange{Part: "circuits/c2", Base: at("c2"), Body: way("c2", 6)})
	require.NoError(t, err)
	_, err = f.Undo(ctx, mine, f.job, f.key(), store.TakeBack{})
	assert.ErrorAs(t, err, &stale)
	assert.Equal(t, []int{4, 6}, ways(), "nothing of it is undone")

	// It is said what holds it, by whom, and what can be taken back all the same.
	steps, err := f.Steps(ctx, mine, f.job)
	require.NoError(t, err)
	require.NotNil(t, steps.Undo)
	assert.Equal(t, "swap again", steps.Undo.Title)
	assert.Equal(t, []store.Blocked{{Part: "circuits/c2", Name: "Point", By: "Another"}}, steps.Undo.Blocked)
	_, err = f.Undo(ctx, mine, f.job, f.key(), store.TakeBack{Free: true})
	require.NoError(t, err)
	assert.Equal(t, []int{3, 6}, ways(), "what nobody has changed since is taken back alone")
}

// What was taken back is brought back in turn, the newest first, until something new is done.
func TestWhatWasTakenBackIsBroughtBack(t *testing.T) {
	f := newFirm(t, storetest.New(t), "f")
	said := func() string { got, _ := f.customer(t); return got }
	base := 1
	do := func(name string) {
		t.Helper()
		_, base = f.customer(t)
		_, err := f.site(name, base, f.key())
		require.NoError(t, err)
	}
	undo := func() {
		t.Helper()
		_, err := f.Undo(ctx, f.who, f.job, f.key(), store.TakeBack{})
		require.NoError(t, err)
	}
	redo := func() error { _, err := f.Redo(ctx, f.who, f.job, f.key()); return err }
	steps := func() store.Steps {
		t.Helper()
		out, err := f.Steps(ctx, f.who, f.job)
		require.NoError(t, err)
		return out
	}
	var nothing *store.NothingError
	require.ErrorAs(t, redo(), &nothing)
	assert.Nil(t, steps().Undo, "what began the job is not taken back")
	do("one")
	do("two")
	assert.Equal(t, "Site changed", steps().Undo.Title)
	undo()
	undo()
	assert.Nil(t, steps().Undo)
	require.NotNil(t, steps().Redo)
	assert.Equal(t, "Site changed", steps().Redo.Title)
	require.NoError(t, redo())
	assert.Equal(t, "one", said())
	require.NoError(t, redo())
	assert.Equal(t, "two", said())
	require.ErrorAs(t, redo(), &nothing)
	undo()
	assert.Equal(t, "one", said(), "what was brought back is taken back again")
	do("three")
	require.ErrorAs(t, redo(), &nothing, "after something new there is nothing to bring back")
	assert.Equal(t, "three", said())

	// A circuit that was added, taken off by the undo, comes back as it was; so does the removal.
	_, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.SetPart("circuits/c1", 0, circuitBody(t, "c1")) })
	require.NoError(t, err)
	assert.Equal(t, "Point added", steps().Undo.Title)
	count := func() int {
		l, err := f.Job(ctx, f.who, f.job)
		require.NoError(t, err)
		return len(l.Job.Circuits)
	}
	undo()
	assert.Equal(t, 0, count())
	require.NoError(t, redo())
	assert.Equal(t, 1, count())
	_, err = f.Change(ctx, f.who, f.job, f.key(),
		func(l *store.Loaded) error { return l.Remove("circuits/c1", l.Versions["circuits/c1"]) })
	require.NoError(t, err)
	assert.Equal(t, "Point taken off", steps().Undo.Title)
	undo()
	assert.Equal(t, 1, count())
	require.NoError(t, redo())
	assert.Equal(t, 0, count())

	// Somebody else has changed it since: it is not brought back over their change.
	do("mine")
	undo()
	mine := f.who
	f.who = store.Person{CompanyID: f.CompanyID, Name: "Another", Email: "another@firm.example", Role: "electrician", Hash: "x"}
	f.who.ID, err = f.NewPerson(ctx, f.who)
	require.NoError(t, err)
	do("theirs")
	f.who = mine
	var stale *store.StaleError
	require.ErrorAs(t, redo(), &stale)
	assert.Equal(t, "theirs", said())
	assert.Equal(t, "Another", steps().Redo.Blocked[0].By)
}
