package proving

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

// Who may record what. A row reads: kind, then owner, supervisor, electrician, apprentice, office,
// each without an authorisation and with all of them.
func TestWhoMayRecordWhat(t *testing.T) {
	for kind, rows := range map[install.RecordKind][2][5]bool{
		install.Signature:  {{}, {true, true, true, true, true}},
		install.Energise:   {{}, {true, true, true, true, true}},
		install.Isolation:  {{true, true, true, true, true}, {true, true, true, true, true}},
		install.ProvedDead: {{}, {true, true, true, true, true}},
		install.Reading:    {{}, {true, true, true, true, true}},
		install.Remark:     {{}, {true, true, true, true, true}},
		install.Lock:       {{true, true, true, true, true}, {true, true, true, true, true}},
		install.Tick:       {{false, true, true, true, false}, {false, true, true, true, false}},
		install.LooseEnd:   {{false, true, true, true, false}, {false, true, true, true, false}},
		install.Reopen:     {{true, true, false, false, false}, {true, true, false, false, false}},
		install.Operator:   {{true, true, true, false, true}, {true, true, true, false, true}},
		install.Decision:   {{true, true, true, false, true}, {true, true, true, false, true}},
	} {
		for i, role := range install.Roles {
			for k, holds := range []install.Authorities{0, install.EveryAuthority} {
				assert.Equal(t, rows[k][i], install.Person{Role: role, Holds: holds}.MayAdd(kind), "%s %s %v", role, kind, holds.List())
			}
		}
		assert.False(t, install.Person{Role: "visitor", Holds: install.EveryAuthority}.MayAdd(kind), kind)
	}
	assert.Len(t, install.RecordRules, len(install.Kinds), "every kind has its rule")
	for i, manages := range []bool{true, true, false, false, true} {
		assert.Equal(t, manages, Manages(install.Roles[i]), install.Roles[i])
	}
	none := func(string) (Step, bool) { return Step{}, false }
	err := Allow(&install.Job{}, install.Person{Name: "Ada", Role: Owner}, install.Record{Kind: install.Signature}, nil, &Facts{}, none, noon)
	assert.ErrorContains(t, err, "Ada is not authorised for it on this job. It is for whoever is authorised for it: sign the revision")
	err = Allow(&install.Job{}, install.Person{Name: "Ada", Role: Apprentice}, install.Record{Kind: install.Operator}, nil, &Facts{}, none, noon)
	assert.ErrorContains(t, err, "not for the role apprentice. It is for owner, supervisor, electrician, office")
	for _, a := range install.AuthorityList {
		assert.Equal(t, a == install.Testing || slices.Contains(install.Skills, a), install.MayHold(Apprentice, a), a)
		assert.True(t, install.MayHold(Owner, a), a)
	}
	assert.False(t, install.MayHold(Owner, "fly"))
}

// A lock of one's own holds the energising by others, opens nothing, and comes off by its owner.
func TestALockOfOnesOwn(t *testing.T) {
	remy := install.Person{ID: "r", Name: "Remy", Role: Apprentice}
	none := func(string) (Step, bool) { return Step{}, false }
	job := &install.Job{Records: []install.Record{iso("Vik", noon)}}
	job.Records[0].ID = "i1"
	lock := install.Record{ID: "l1", Kind: install.Lock, Subject: "i1", LockTag: "red 4", By: "Remy", PersonID: "r", Role: Apprentice, At: noon.UTC()}
	allow := func(who install.Person, r install.Record) error {
		return Allow(job, who, r, nil, &Facts{}, none, noon.Add(time.Hour))
	}
	wrong := lock
	wrong.Subject = "i9"
	assert.ErrorContains(t, allow(remy, wrong), "not in force any more")
	require.NoError(t, allow(remy, lock))
	job.Records = append(job.Records, lock)
	require.Len(t, Locks(job), 2)
	assert.True(t, inForce(job, remy, noon.Add(time.Hour)), "he works under it")
	assert.False(t, inForce(job, remy, noon.Add(20*time.Hour)), "on its day")
	tests := []rulebook.Test{{ID: "back", YesNo: true, Judge: func(install.Record) (working.Verdict, string) { return working.Pass, "" }}}
	yes := true
	job.Records = append(job.Records, install.Record{ID: "b", Kind: install.Reading, Subject: "back", Passed: &yes, By: "Vik", At: noon.UTC()})
	assert.Contains(t, TestSheet(job, tests, &Facts{}, vik, noon.Add(time.Hour)).MayEnergise(), "The lock of Remy is in place (red 4)")
	off := install.Record{Kind: install.LockOff, Subject: "l1", By: "Vik", Role: Electrician}
	assert.ErrorContains(t, allow(vik, off), "only its owner takes it off")
	require.NoError(t, allow(remy, off))
	job.Records = append(job.Records, off)
	assert.False(t, inForce(job, remy, noon.Add(time.Hour)), "no longer under it")
	assert.Empty(t, TestSheet(job, tests, &Facts{}, vik, noon.Add(time.Hour)).MayEnergise())
}

// Whose record another may take the place of.
func TestWhoCorrectsWhose(t *testing.T) {
	theirs := &install.Record{Kind: install.Observation, PersonID: "t"}
	for role, may := range map[string]bool{Owner: true, Supervisor: true, Electrician: true, Apprentice: false, Office: false} {
		assert.Equal(t, may, install.Person{ID: "x", Role: role}.MayCorrect(theirs), role)
		assert.True(t, install.Person{ID: "t", Role: role}.MayCorrect(theirs), role)
	}
	isolation := &install.Record{Kind: install.Isolation, PersonID: "t"}
	assert.False(t, install.Person{ID: "x", Role: Supervisor, Holds: install.EveryAuthority}.MayCorrect(isolation))
	assert.True(t, install.Person{ID: "t", Role: Electrician}.MayCorrect(isolation))
}

var (
	vienna = time.FixedZone("+02:00", 2*3600)
	noon   = time.Date(2026, 5, 4, 12, 0, 0, 0, vienna)
)

func iso(by string, at time.Time) install.Record {
	return install.Record{ID: by + at.Format(time.RFC3339), Kind: install.Isolation, By: by, At: at.UTC(), Authorised: true, LockTag: "4", Tester: "T",
		TesterKind:   install.ContactTester,
		ProvedBefore: true, ProvedAfter: true, Opens: []install.Opened{{Device: "main", Kept: install.ByLock}}, Proofs: []install.Proof{{At: "board:"}}}
}

// inForce reports whether a person has an isolation that makes something dead.
func inForce(job *install.Job, by install.Person, now time.Time) bool {
	terms := &install.Terms{}
	return ScopeOf(job, isolate.Of(job, terms), terms, by, now).InForce() != nil
}

func TestAnIsolationHoldsForItsPersonItsDayAndUntilSomethingIsEnergised(t *testing.T) {
	on := install.Record{Kind: install.Energise, By: "Vik", At: noon.UTC()}
	for name, row := range map[string]struct {
		records []install.Record
		by      string
		now     time.Time
		holds   bool
	}{
		"none":                         {nil, "Vik", noon, false},
		"the same day":                 {[]install.Record{iso("Vik", noon.Add(-4*time.Hour))}, "Vik", noon, true},
		"late in the day":              {[]install.Record{iso("Vik", noon)}, "Vik", noon.Add(11*time.Hour + 59*time.Minute), true},
		"past midnight where they are": {[]install.Record{iso("Vik", noon)}, "Vik", noon.Add(12*time.Hour + time.Minute), false},
		"past midnight only in UTC": {[]install.Record{iso("Vik", time.Date(2026, 5, 5, 0, 30, 0, 0, vienna))}, "Vik",
			time.Date(2026, 5, 5, 9, 0, 0, 0, vienna), true},
		"the same day of the next year": {[]install.Record{iso("Vik", noon)}, "Vik", noon.AddDate(1, 0, 0), false},
		"another's":                     {[]install.Record{iso("Mo", noon)}, "Vik", noon, false},
		"both did":                      {[]install.Record{iso("Vik", noon), iso("Mo", noon)}, "Vik", noon, true},
		"energised since":               {[]install.Record{iso("Vik", noon), on}, "Vik", noon, false},
		"isolated again":                {[]install.Record{iso("Vik", noon), on, iso("Vik", noon)}, "Vik", noon, true},
		"isolated again by another":     {[]install.Record{iso("Vik", noon), on, iso("Mo", noon)}, "Vik", noon, false},
	} {
		t.Run(name, func(t *testing.T) {
			assert.Equal(t, row.holds, inForce(&install.Job{Records: row.records}, install.Person{Name: row.by}, row.now))
		})
	}
}

var vik = install.Person{Name: "Vik", Role: Electrician, Holds: install.EveryAuthority}

func at(v float64) *float64 { return &v }

// sequence is one dead and one live test that pass at 1 or less.
func sequence() []rulebook.Test {
	judge := func(r install.Record) (working.Verdict, string) {
		if r.OverRange || *r.Value > 1 {
			return working.Fail, "too high."
		}
		return working.Pass, "fine."
	}
	return []rulebook.Test{
		{ID: "dead", Title: "Dead", Unit: "Ω", Expected: at(0.5), Judge: judge},
		{ID: "live", Title: "Live", Unit: "Ω", Live: true, Expected: at(0.7), Judge: judge},
	}
}

func read(id string, v float64) install.Record {
	return install.Record{ID: id + "-1", Kind: install.Reading, Subject: id, By: "Vik", At: noon.UTC(), Value: &v, Instrument: "M3"}
}

func TestTheSheetOpensDeadTestsThenPermissionThenLiveTests(t *testing.T) {
	job := &install.Job{}
	sheet := func() Sheet { return TestSheet(job, sequence(), &Facts{}, vik, noon) }
	add := func(r install.Record) { job.Records = append(job.Records, r) }

	s := sheet()
	assert.Contains(t, s.Rows[0].Closed, "isolation")
	assert.Contains(t, s.Rows[1].Closed, "permission")
	assert.Contains(t, s.MayEnergise(), "Dead is not done")

	add(iso("Vik", noon))
	s = sheet()
	assert.Empty(t, s.Rows[0].Closed)
	assert.NotEmpty(t, s.Rows[1].Closed)

	add(read("dead", 3))
	s = sheet()
	assert.Equal(t, working.Fail, s.Rows[0].Verdict)
	assert.Contains(t, s.MayEnergise(), "Dead failed")

	better := read("dead", 0.4)
	better.Supersedes, better.Note = "dead-1", "terminal remade"
	better.ID = "dead-2"
	add(better)
	s = sheet()
	assert.Empty(t, s.MayEnergise())
	assert.Empty(t, s.Unread(false, nil))

	add(install.Record{Kind: install.Energise, By: "Vik", At: noon.UTC()})
	s = sheet()
	assert.Contains(t, s.Rows[0].Closed, "isolate and prove dead again")
	assert.Empty(t, s.Rows[1].Closed)
	assert.Equal(t, working.Unknown, s.Verdict)

	add(read("live", 0.8))
	assert.Equal(t, working.Pass, sheet().Verdict)
}

func TestTheExpectedFigureLeavesOnlyBesideAReading(t *testing.T) {
	job := &install.Job{Records: []install.Record{iso("Vik", noon)}}
	for _, r := range TestSheet(job, sequence(), &Facts{}, vik, noon).Rows {
		assert.Nil(t, r.Expected)
	}
	job.Records = append(job.Records, read("dead", 0.4))
	rows := TestSheet(job, sequence(), &Facts{}, vik, noon).Rows
	assert.InDelta(t, 0.5, *rows[0].Expected, 0)
	assert.Nil(t, rows[1].Expected)
}

func TestReadingsThatAreNotFigures(t *testing.T) {
	numeric, yesNo := sequence()[0], rulebook.Test{ID: "q", YesNo: true,
		Judge: func(install.Record) (working.Verdict, string) { return working.Pass, "Correct." }}
	megohms := numeric
	megohms.Unit = "MΩ"
	megohms.Judge = func(install.Record) (working.Verdict, string) { return working.Pass, "Above the range." }
	yes := true
	lapsed := read("dead", 0.4)
	lapsed.Calibrated = "2026-05-03"
	same := lapsed
	same.Calibrated = "2026-05-04"
	for name, row := range map[string]struct {
		test rulebook.Test
		r    install.Record
		want working.Verdict
	}{
		"could not be tested":          {numeric, install.Record{CouldNot: "locked room"}, working.Unknown},
		"over range of an ohmmeter":    {numeric, install.Record{OverRange: true}, working.Fail},
		"over range of insulation":     {megohms, install.Record{OverRange: true}, working.Pass},
		"yes to a figure":              {numeric, install.Record{Passed: &yes}, working.Unknown},
		"a figure to a question":       {yesNo, read("q", 1), working.Unknown},
		"calibration ran out before":   {numeric, lapsed, working.Caution},
		"calibration ends on that day": {numeric, same, working.Pass},
	} {
		got, says := judge(nil, &row.test, row.r)
		assert.Equal(t, row.want, got, "%s: %s", name, says)
	}
}

func TestLooseEndsAreOpenUntilCleared(t *testing.T) {
	job := &install.Job{Records: []install.Record{
		{ID: "a", Kind: install.LooseEnd, Note: "cover off"}, {ID: "b", Kind: install.LooseEnd, Note: "joint open"},
		{ID: "c", Kind: install.LooseEnd, Subject: "a", Done: true}}}
	open := LooseEnds(job)
	require.Len(t, open, 1)
	assert.Equal(t, "b", open[0].ID)
	clear := install.Record{Kind: install.LooseEnd, Subject: "a", Done: true, Role: Electrician}
	none := func(string) (Step, bool) { return Step{}, false }
	assert.ErrorContains(t, Allow(job, vik, clear, nil, &Facts{}, none, noon), "not open", "a loose end is cleared once")
	clear.Subject = "b"
	assert.NoError(t, Allow(job, vik, clear, nil, &Facts{}, none, noon))
}

func TestTicksFollowTheirTask(t *testing.T) {
	tasks := func(id string) (Step, bool) {
		steps := map[string]Step{"open": {}, "later": {Closed: "First: open."}}
		s, known := steps[id]
		return s, known
	}
	for name, row := range map[string]struct {
		task    string
		done    bool
		records []install.Record
		says    string
	}{
		"a task not on the plan":    {"dig", true, nil, "not on this job's plan"},
		"what comes first":          {"later", true, nil, "First: open."},
		"taking a tick back":        {"later", false, nil, ""},
		"an open task":              {"open", true, nil, ""},
		"a signed sheet":            {"open", true, []install.Record{{Kind: install.Signature}}, "is signed"},
		"after it was opened again": {"open", true, []install.Record{{Kind: install.Signature}, {Kind: install.Reopen}}, ""},
	} {
		t.Run(name, func(t *testing.T) {
			r := install.Record{Kind: install.Tick, Subject: row.task, Done: row.done, By: "Vik", Role: Electrician}
			err := Allow(&install.Job{Records: row.records}, vik, r, nil, &Facts{}, tasks, noon)
			if row.says == "" {
				assert.NoError(t, err)
			} else {
				assert.ErrorContains(t, err, row.says)
			}
		})
	}
}

// A test that comes after another waits for it, and does not count when the other was
// done again since; a pattern is taken, and nothing else.
func TestPatternsAndWhatComesAfter(t *testing.T) {
	tests := []rulebook.Test{
		{ID: "joint", Title: "Joint", Patterns: []string{"open", "closed"}, Judge: func(r install.Record) (working.Verdict, string) {
			if r.Answer == "closed" {
				return working.Pass, "as it must be"
			}
			return working.Fail, "open"
		}},
		{ID: "back", Title: "Back in place", YesNo: true, After: []string{"joint"},
			Judge: func(install.Record) (working.Verdict, string) { return working.Pass, "" }},
	}
	yes := true
	reading := func(id, answer string, after time.Duration) install.Record {
		r := install.Record{Kind: install.Reading, Subject: id, By: "Vik", Role: Electrician, At: noon.Add(after).UTC()}
		if r.Answer = answer; answer == "" {
			r.Passed = &yes
		}
		return r
	}
	job := &install.Job{Records: []install.Record{iso("Vik", noon)}}
	state := func() (Sheet, Row, Row) {
		s := TestSheet(job, tests, &Facts{}, vik, noon.Add(time.Hour))
		return s, s.Rows[0], s.Rows[1]
	}
	_, joint, back := state()
	assert.Equal(t, []string{"open", "closed"}, joint.Patterns)
	assert.Empty(t, joint.Closed)
	assert.Contains(t, back.Closed, "First")
	none := func(string) (Step, bool) { return Step{}, false }
	allow := func(r install.Record) error { return Allow(job, vik, r, tests, &Facts{}, none, noon.Add(time.Hour)) }
	assert.ErrorContains(t, allow(reading("joint", "", 1)), "one of open, closed")
	assert.ErrorContains(t, allow(reading("joint", "sparks", 1)), "one of open, closed")
	assert.NoError(t, allow(reading("joint", "closed", 1)))

	job.Records = append(job.Records, reading("joint", "closed", time.Minute), reading("back", "", 2*time.Minute))
	s, _, back := state()
	assert.Equal(t, working.Pass, back.Verdict)
	assert.Empty(t, s.MayEnergise())

	job.Records = append(job.Records, reading("joint", "closed", 3*time.Minute))
	s, _, back = state()
	assert.Equal(t, working.Unknown, back.Verdict)
	assert.Contains(t, s.MayEnergise(), "Back in place", "a joint that was tested again has to be looked at again")

	job.Records = append(job.Records, reading("back", "", 4*time.Minute), reading("joint", "open", 5*time.Minute))
	s, joint, _ = state()
	assert.Equal(t, working.Fail, joint.Verdict)
	assert.NotEmpty(t, s.MayEnergise())
}

// What a phone kept while it had no connection arrives late. An isolation that may have been
// made before the supply was put on isolates nothing, and its lock is still shown.
func TestWhatArrivesLateIsolatesNothing(t *testing.T) {
	late := func(seq int64, made, had time.Time) install.Record {
		r := iso("Vik", made)
		r.ReceivedAt, r.Device, r.Seq = had.UTC(), "phone", seq
		return r
	}
	on := install.Record{Kind: install.Energise, By: "Mo", At: noon.UTC()}
	for name, c := range map[string]struct {
		records  []install.Record
		live, in bool
	}{
		"made and sent before":       {[]install.Record{late(1, noon.Add(-2*time.Hour), noon.Add(-time.Hour)), on}, true, false},
		"made before, arrived after": {[]install.Record{on, late(1, noon.Add(-time.Hour), noon.Add(time.Hour))}, true, false},
		"made after, arrived later":  {[]install.Record{on, late(1, noon.Add(time.Minute), noon.Add(time.Hour))}, false, true},
		"made after and put on again": {[]install.Record{on, late(1, noon.Add(time.Minute), noon.Add(time.Hour)),
			{Kind: install.Energise, At: noon.Add(2 * time.Hour).UTC()}}, true, false},
		"one late and one on the spot": {[]install.Record{on, late(1, noon.Add(-time.Hour), noon.Add(time.Hour)),
			iso("Vik", noon.Add(90*time.Minute))}, false, true},
		"nothing was ever put on, at all": {[]install.Record{late(1, noon.Add(-time.Hour), noon.Add(time.Hour))}, false, true},
	} {
		job := &install.Job{Records: c.records}
		live := LiveOf(job, isolate.Of(job, &install.Terms{})).At("board:")
		assert.Equal(t, c.live, live != nil, name)
		assert.Equal(t, c.in, inForce(job, install.Person{Name: "Vik"}, noon.Add(3*time.Hour)), name)
	}
	job := &install.Job{Records: []install.Record{on, late(1, noon.Add(-time.Hour), noon.Add(time.Hour))}}
	assert.Len(t, Locks(job), 1, "its lock is shown until somebody has taken it off")
	assert.Empty(t, locked(job, Locks(job)), "and keeps nothing open as far as anybody may rely on it")
	job.Records = append(job.Records[:1], late(1, noon.Add(time.Minute), noon.Add(time.Hour)))
	assert.Equal(t, []string{"main"}, locked(job, Locks(job)))
}
