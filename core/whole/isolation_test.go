package whole

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/proving"
)

// standing is the newest isolation of the site as it is judged.
func (s *site) standing() proving.Isolated {
	s.Helper()
	all := Of(s.j, nil, vik, s.now).Tests.Isolations
	require.NotEmpty(s, all)
	return all[0]
}

// What is wrong with an isolation is said of it: it is on record whatever is wrong, and opens nothing.
func TestAnIsolationThatProvesNothingIsRecordedAndOpensNothing(t *testing.T) {
	volts := func(r *install.Record, v float64) { r.Proofs[0].Read[0].V = &v }
	for says, change := range map[string]func(*install.Record){
		"a sensor is a hint":             func(r *install.Record) { r.TesterKind = install.SensorTester },
		"a multimeter proves nothing":    func(r *install.Record) { r.TesterKind = install.MeterTester },
		"was not proved on a known":      func(r *install.Record) { r.ProvedBefore = false },
		"was not proved again":           func(r *install.Record) { r.ProvedAfter = false },
		"L-N read 38 V at A, and 5 V at": func(r *install.Record) { volts(r, 38) },
		"L-N read 6 V at A":              func(r *install.Record) { volts(r, 6) },
		"only readings make dead":        func(r *install.Record) { r.Proofs = nil },
		"these were not read: L-PE, N-PE": func(r *install.Record) {
			r.Proofs = []install.Proof{{At: "board:", Read: r.Proofs[0].Read[:1]}}
		},
		"A is still live from the supply": func(r *install.Record) {
			r.Opens, r.Proofs = []install.Opened{{Device: "circuit:c1", Kept: install.ByLock}}, r.Proofs[:1]
		},
		"not in the installation any more": func(r *install.Record) { r.Opens[0].Device = "main:gone" },
		"was not authorised to isolate":    func(r *install.Record) { r.Authorised = false },
		"no lawful way to isolate the intake": func(r *install.Record) {
			r.Opens = append(r.Opens, install.Opened{Device: "intake", Kept: install.ByFuse})
		},
	} {
		t.Run(says, func(t *testing.T) {
			s := &site{T: t, j: designed(), now: day}
			r := isolation()
			change(&r)
			s.must(r)
			require.NotEmpty(t, s.standing().Flaws)
			assert.Contains(t, s.standing().Flaws[0], says)
			assert.Empty(t, s.standing().Proved)
			assert.Nil(t, Of(s.j, nil, vik, s.now).Tests.Isolation)
			s.refused(reading("r1r2", 0.1), "your own isolation of today")
			require.Error(t, s.try(energise()))
			require.Len(t, proving.Locks(s.j), 1, "its lock hangs")
		})
	}
}

// The supply is off at the intake by the way that was chosen, on its day and by whom it is for.
func TestTheIntakeIsIsolatedByTheWayThatWasChosen(t *testing.T) {
	today := day.Format(time.DateOnly)
	for says, o := range map[string]install.Outage{
		"no lawful way":                       {},
		"names an isolator and not":           {Route: "existing-isolator"},
		"goes off on 2026-06-01 by the plan":  {Route: "operator-fuse", Day: "2026-06-01", BookedOn: "2026-06-01"},
		"nobody is booked for " + today:       {Route: "operator-fuse", BookedOn: "2026-05-03"},
		"isolated by Ada Frost alone":         {Route: "authorised-person", Authorised: install.Authorised{Name: "Ada Frost", Until: "2027-01-01"}},
		"authorisation of Vik ended on 2026-": {Route: "authorised-person", Authorised: install.Authorised{Name: "Vik", Until: "2026-05-03"}},
		"":                                    {Route: "operator-fuse", Day: today, BookedOn: today},
		"also":                                {Route: "authorised-person", Authorised: install.Authorised{Name: "vik", Until: today}},
	} {
		s := &site{T: t, j: designed(), now: day}
		s.j.Outage = o
		r := isolation()
		r.Opens = append(r.Opens, install.Opened{Device: "intake", Kept: install.ByFuse})
		s.must(r)
		if says == "" || says == "also" {
			assert.Empty(t, s.standing().Flaws)
			continue
		}
		if says == "names an isolator and not" {
			says = "opens an isolator and not the intake"
		}
		require.NotEmpty(t, s.standing().Flaws, says)
		assert.Contains(t, s.standing().Flaws[0], says)
	}
}

// The tester is proved after the readings, in the same record or a later one; where it does not show the known source they prove nothing.
func TestTheClosingProofOfTheTester(t *testing.T) {
	yes, no := true, false
	open := isolation()
	open.ProvedAfter = false
	proof := func(p *bool, tester, by string) install.Record {
		return install.Record{Kind: install.TesterProof, Tester: tester, Passed: p, By: by, Role: proving.Electrician}
	}
	for name, c := range map[string]struct {
		after []install.Record
		holds bool
	}{
		"none":              {nil, false},
		"it passed":         {[]install.Record{proof(&yes, "T-2", "Vik")}, true},
		"it failed":         {[]install.Record{proof(&no, "T-2", "Vik")}, false},
		"failed, then not":  {[]install.Record{proof(&no, "T-2", "Vik"), proof(&yes, "T-2", "Vik")}, false},
		"another tester":    {[]install.Record{proof(&yes, "T-9", "Vik")}, false},
		"somebody else's":   {[]install.Record{proof(&yes, "T-2", "Mo")}, false},
		"passed, then fell": {[]install.Record{proof(&yes, "T-2", "Vik"), proof(&no, "T-2", "Vik")}, true},
	} {
		s := &site{T: t, j: designed(), now: day}
		s.must(open)
		assert.True(t, s.standing().Closes)
		for _, r := range c.after {
			s.must(r)
		}
		assert.Equal(t, c.holds, Of(s.j, nil, vik, s.now).Tests.Isolation != nil, name)
		assert.Equal(t, len(c.after) == 0 || c.after[0].Tester != "T-2" || c.after[0].By != "Vik", s.standing().Closes, name)
	}
}

// A closing proof serves as the one before the next, of the same tester and person, for so long as the practice says.
func TestAClosingProofServesTheNext(t *testing.T) {
	for name, c := range map[string]struct {
		wait   time.Duration
		change func(*install.Record)
		holds  bool
	}{
		"at once":           {0, nil, true},
		"too late":          {31 * time.Minute, nil, false},
		"another tester":    {0, func(r *install.Record) { r.Tester = "T-9" }, false},
		"somebody else's":   {0, func(r *install.Record) { r.By, r.Role = "Mo", proving.Electrician }, false},
		"of no such record": {0, func(r *install.Record) { r.Serves = "r99" }, false},
	} {
		s := &site{T: t, j: designed(), now: day}
		s.must(isolation())
		first := s.j.Records[0].ID
		s.now = s.now.Add(c.wait)
		next := isolation()
		next.ProvedBefore, next.Serves = false, first
		next.Opens = append(next.Opens, install.Opened{Device: "circuit:c1", Kept: install.ByLock})
		if c.change != nil {
			c.change(&next)
		}
		s.must(next)
		assert.Equal(t, c.holds, len(s.standing().Flaws) == 0, "%s: %v", name, s.standing().Flaws)
	}
}

// A further place opens when it was read; a reading there that is not dead closes everything under the isolation.
func TestAFurtherPlaceIsProvedUnderAnIsolation(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.firstFix()
	board := isolation()
	board.Proofs = board.Proofs[:1]
	s.must(board)
	id := s.j.Records[len(s.j.Records)-1].ID
	point := install.Record{Kind: install.Tick, Subject: "c1-point", Done: true}
	s.refused(point, "Charge point is expected dead and was not read")
	at := install.Record{Kind: install.ProvedDead, Subject: id, Tester: "T-2", TesterKind: install.ContactTester, ProvedBefore: true, ProvedAfter: true,
		Proofs: isolation().Proofs[1:]}
	wrong := at
	wrong.Subject = "r99"
	s.refused(wrong, "no isolation of yours")
	wrong = at
	wrong.By, wrong.Role = "Mo", proving.Electrician
	s.refused(wrong, "no isolation of yours")
	s.must(at)
	s.must(point)
	high := 60.0
	live := at
	live.Proofs = []install.Proof{{At: "circuit:c1", Read: []install.Pair{{Pair: "L-PE", V: &high}}}}
	s.must(live)
	assert.Contains(t, s.standing().Flaws[0], "L-PE read 60 V at Charge point")
	s.refused(reading("r1r2", 0.1), "Yours makes nothing dead: L-PE read 60 V")
}

// A source that comes into the installation, and what ends by itself: the day, the lock, the supply.
func TestAnIsolationEndsWithWhatItRestsOn(t *testing.T) {
	for name, end := range map[string]func(*site){
		"a source at the far end": func(s *site) { s.j.Circuits[0].Serves.Backfeed = true },
		"a standby source":        func(s *site) { s.j.Standby.Source = "generator" },
		"the lock is off":         func(s *site) { s.must(install.Record{Kind: install.LockOff, Subject: s.j.Records[0].ID}) },
		"the next day":            func(s *site) { s.now = s.now.Add(24 * time.Hour) },
		"it was withdrawn": func(s *site) {
			s.must(install.Record{Kind: install.Withdrawal, Subject: s.j.Records[0].ID, Note: "flat cell"})
		},
	} {
		s := &site{T: t, j: designed(), now: day}
		s.must(isolation())
		s.must(reading("r1r2", 0.09))
		end(s)
		if name == "a standby source" { // ahead of the main switch: what is behind it stays dead
			assert.NotNil(t, Of(s.j, nil, vik, s.now).Tests.Isolation, name)
			continue
		}
		s.refused(reading("insulation-ln", 200), "done dead")
	}
}

// The locks are counted where they hang; the number is that of the record.
func TestLocksAreCountedBeforeAnythingIsEnergised(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	ready(s)
	for _, n := range []*int{nil, new(int)} {
		r := energise()
		r.Counted = n
		s.refused(r, "energise.counted")
	}
	two := 2
	r := energise()
	r.Counted = &two
	s.refused(r, "look at the locks of the job")
	s.must(energise())
}
