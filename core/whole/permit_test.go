package whole

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/proving"
)

// closing is a permission for a use of some devices, with all that is asked seen and the locks counted.
func (s *site) closing(use install.PermitUse, devices ...string) install.Record {
	hang := proving.Hang(proving.Locks(s.j))
	r := install.Record{Kind: install.Energise, Use: use, Closes: devices, Counted: &hang}
	for _, ask := range proving.AsksOf(nil, use) {
		r.Confirmed = append(r.Confirmed, ask.ID)
	}
	if use == install.ForTest {
		r.Guarded = install.GuardBarrier
	}
	return r
}

// by is an act of somebody else.
func by(name string, r install.Record) install.Record {
	r.By, r.Role = name, install.RoleElectrician
	return r
}

// opening is an isolation by some devices, read at some places.
func opening(devices []string, places ...string) install.Record {
	r := isolation()
	read := r.Proofs[0].Read
	r.Opens, r.Proofs = nil, nil
	for _, d := range devices {
		r.Opens = append(r.Opens, install.Opened{Device: d, Kept: install.ByLock})
	}
	for _, p := range places {
		r.Proofs = append(r.Proofs, install.Proof{At: p, Cables: 2, Read: read})
	}
	return r
}

// part is the part of the house that some device closes first.
func (s *site) part(device string) proving.Part {
	s.Helper()
	for _, p := range Of(s.j, nil, vik, s.now).Tests.Parts {
		if p.Closes[0] == device {
			return p
		}
	}
	s.Fatalf("no part of %s", device)
	return proving.Part{}
}

// waits are what that part waits for to be energised for a test.
func (s *site) waits(device string) []string { s.Helper(); return s.waitsFor(device, install.ForTest) }

// waitsFor are what that part waits for to be energised for a use.
func (s *site) waitsFor(device string, use install.PermitUse) (out []string) {
	s.Helper()
	for _, f := range s.part(device).For {
		for _, x := range f.Waits {
			if f.Use == use {
				out = append(out, x.Why)
			}
		}
	}
	return out
}

// worked ticks steps that are done dead.
func (s *site) worked(ids ...string) {
	s.Helper()
	for _, id := range ids {
		s.must(install.Record{Kind: install.Tick, Subject: id, Done: true, Note: "no camera"})
	}
}

// read takes the dead tests of the house.
func (s *site) read() {
	s.Helper()
	for i := range deadTests {
		s.must(answered(&deadTests[i]))
	}
	s.putBack()
}

// What was in service before and not altered comes back, while what is unfinished stays out behind a lock of its own.
func TestWhatWasThereIsRestoredAroundTheWork(t *testing.T) {
	all := []string{"main", "own:c2"}
	places := []string{"board:", "circuit:c1", "circuit:c2"}
	t.Run("nothing is begun", func(t *testing.T) {
		s := &site{T: t, j: solar(), now: day}
		s.must(opening(all, places...))
		s.refused(s.closing(install.IntoUse, all...), "Dead tests come first")
		s.must(s.closing(install.RestoreUse, all...))
		assert.Equal(t, proving.PartService, s.part("main").State)
		assert.NotContains(t, s.part("main").Reaches, "Charge point", "it is not connected")
		s.refused(reading("zs", 0.3), "needs permission to energise")
		s.refused(install.Record{Kind: install.Tick, Subject: "c1-point", Done: true}, "your own isolation")
	})
	t.Run("the charge point is connected", func(t *testing.T) {
		s := &site{T: t, j: solar(), now: day}
		s.must(opening(all, places...))
		s.worked("c1-point", "c1-pen", "c1-board")
		s.refused(s.closing(install.RestoreUse, all...), "Charge point was worked on")
		s.refused(s.closing(install.ForTest, all...), "Dead tests come first")
		s.must(opening([]string{"circuit:c1"}, "circuit:c1"))
		s.refused(s.closing(install.RestoreUse, all...), "Not done yet: Charge point: tighten every terminal")
		s.worked("c1-torque")
		s.must(s.closing(install.RestoreUse, all...))
		assert.Equal(t, proving.PartLocked, s.part("circuit:c1").State)
		require.Len(t, proving.Locks(s.j), 1, "its lock hangs")
		use := map[string]bool{}
		for _, u := range Of(s.j, nil, vik, s.now).Tests.Use {
			use[u.Name] = u.InUse
		}
		assert.Equal(t, map[string]bool{"Charge point": false, "Solar": true, "Heater": true}, use)
	})
	t.Run("the other circuit was mended", func(t *testing.T) {
		s := &site{T: t, j: solar(), now: day}
		s.must(opening(all, places...))
		s.worked("c2-replace")
		s.refused(s.closing(install.RestoreUse, all...), "Solar was worked on")
		s.refused(s.closing(install.RestoreUse, "circuit:c2"), "")
	})
}

// Whoever's lock hangs on what is closed, or who works where that would be live, holds it.
func TestLocksInReachHoldThePermission(t *testing.T) {
	ready := func(t *testing.T) *site {
		s := &site{T: t, j: solar(), now: day}
		s.must(opening([]string{"main", "own:c2"}, "board:", "circuit:c1", "circuit:c2"))
		s.worked("c1-point", "c1-pen", "c1-board", "c1-torque", "c1-label", "c2-replace")
		s.read()
		return s
	}
	for says, hang := range map[string]install.Record{
		"lock of Mo is in place":       by("Mo", opening([]string{"main"}, "board:")),
		"Mo works where this would":    by("Mo", opening([]string{"circuit:c2"}, "board:")),
		"Vik works where this would":   opening([]string{"circuit:c2"}, "board:"),
		"The lock of Ap is in place (": {Kind: install.Lock, By: "Ap", Role: proving.Apprentice, LockTag: "red 9"},
	} {
		s := ready(t)
		if hang.Kind == install.Lock {
			hang.Subject = s.j.RecordByID(proving.Locks(s.j)[0].ID).ID
		}
		s.must(hang)
		s.refused(s.closing(install.ForTest, "main", "own:c2"), says)
		s.refused(s.closing(install.RestoreUse, "main", "own:c2"), "")
	}
	// What is kept open by one's own lock under another's isolation is not what was closed since.
	s := ready(t)
	s.must(install.Record{Kind: install.Lock, By: "Ap", Role: proving.Apprentice, LockTag: "red 9", Subject: proving.Locks(s.j)[0].ID})
	together := func() (n int) {
		for _, p := range Of(s.j, nil, install.Person{Name: "Ap", Role: proving.Apprentice}, s.now).Tests.Parts {
			n = max(n, len(p.Closes))
		}
		return n
	}
	assert.Equal(t, 2, together())
	s.must(install.Record{Kind: install.SwitchedOn, Subject: "own:c2", Note: "found on"})
	assert.Equal(t, 1, together())

	s = ready(t)
	s.must(by("Mo", opening([]string{"circuit:c2"}, "circuit:c2")))
	s.must(s.closing(install.ForTest, "main")) // what lies behind a locked open device stays out and bounds the part
	assert.NotContains(t, s.part("main").Reaches, "Solar")
	assert.Equal(t, proving.PartLocked, s.part("own:c2").State, "each closing for itself")
	assert.Equal(t, 2, proving.Hang(proving.Locks(s.j)))
	s.refused(s.closing(install.ForTest, "own:c2"), "Mo works where this would be live") // his device keeps nothing off that comes from there
}

// A permission is for what stood there when it was given: what changes it ends it, and what is live is switched off.
func TestAPermissionLapses(t *testing.T) {
	for name, end := range map[string]struct {
		do   func(*site)
		says string
	}{
		"a step is taken back": {func(s *site) { s.must(install.Record{Kind: install.Tick, Subject: "c1-torque"}) }, "Dead tests come first"},
		"the model is changed": {func(s *site) { s.j.Circuits[0].Route.Segments[0].LengthM = 13 }, "was changed since"},
		"a check fails":        {func(s *site) { s.j.Circuits[0].Protection.IcnKA = 1 }, "Breaking capacity"},
		"its time is over":     {func(s *site) { s.now = s.now.Add(2 * time.Hour) }, "it was given until"},
		"the day is over":      {func(s *site) { s.now = s.now.Add(24 * time.Hour) }, "it was given"},
		"somebody works there": {func(s *site) { s.must(by("Mo", opening([]string{"own:c2"}, "board:"))) }, "Mo works where this would be live"},
	} {
		t.Run(name, func(t *testing.T) {
			s := &site{T: t, j: solar(), now: day}
			s.must(opening([]string{"main", "own:c2"}, "board:", "circuit:c1", "circuit:c2"))
			s.worked("c1-point", "c1-pen", "c1-board", "c1-torque", "c1-label", "c2-replace")
			s.read()
			r := s.closing(install.ForTest, "main", "own:c2")
			r.Until = s.now.Add(-time.Minute)
			s.refused(r, "energise.until")
			r.Until = s.now.Add(90 * time.Minute)
			s.must(r)
			assert.Equal(t, proving.PartTest, s.part("main").State)
			s.must(answer("polarity-live", true))
			end.do(s)
			p := s.part("main")
			assert.Equal(t, proving.PartLapsed, p.State)
			assert.Contains(t, p.Lapsed, end.says)
			s.refused(reading("zs", 0.34), "its permission lapsed: switch off")
			s.refused(s.closing(install.ForTest, "main", "own:c2"), "")
			s.refused(s.closing(install.IntoUse, "main", "own:c2"), "")
			require.NotEmpty(t, Of(s.j, nil, vik, s.now).Tests.NotOn)
			s.must(opening([]string{"main", "own:c2"}, "board:")) // switching off is never refused
			assert.Equal(t, proving.PartLocked, s.part("main").State)
		})
	}
}

// What is energised for a test goes into service once it was read live, labelled, and nothing of it failed.
func TestIntoServiceAfterItsLiveTests(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	ready(s)
	s.must(install.Record{Kind: install.Tick, Subject: "c1-label"})
	s.must(s.closing(install.ForTest, "main"))
	serve := func() install.Record { return s.closing(install.IntoUse, "main") }
	s.refused(serve(), "label the circuit")
	s.worked("c1-label")
	s.refused(serve(), "Live tests come before service")
	for id, v := range map[string]float64{"voltage": 231, "voltage-ne": 0.4, "pfc": 1.1, "zs": 9, "rcd-x1": 24, "rdc-6": 800} {
		s.must(reading(id, v))
	}
	for _, id := range []string{"polarity-live", "rcd-button", "functional", "ev-functional", "ev-pen"} {
		s.must(answer(id, true))
	}
	s.refused(serve(), "Loop impedance Zs at the point failed")

	// Off again: a retest is ordered in writing by the supervisor, or the cause is put right.
	s.must(isolation())
	s.refused(s.closing(install.ForTest, "main"), "the supervisor orders a retest")
	zs := ""
	for _, r := range s.j.Records {
		if r.Kind == install.Reading && r.Subject == "zs" {
			zs = r.ID
		}
	}
	order := install.Record{Kind: install.RetestOrder, Subject: zs, Path: install.OrderRetest, Note: "leads were not nulled, read again"}
	s.refused(order, "not for the role electrician")
	order.By, order.Role = "Sup", proving.Supervisor
	s.must(order)
	s.must(s.closing(install.ForTest, "main"))
	again := reading("zs", 0.34)
	again.Supersedes, again.Note = zs, "leads nulled"
	s.must(again)
	for id, v := range map[string]float64{"voltage": 231, "voltage-ne": 0.4, "pfc": 1.1, "rcd-x1": 24, "rdc-6": 800} {
		s.must(reading(id, v))
	}
	for _, id := range []string{"polarity-live", "rcd-button", "functional", "ev-functional", "ev-pen"} {
		s.must(answer(id, true))
	}
	require.Contains(t, Of(s.j, nil, vik, s.now).Tests.NotOn, "Charge point")
	s.must(serve())
	assert.Empty(t, Of(s.j, nil, vik, s.now).Tests.NotOn)
	s.refused(serve(), "Already permitted")

	// What another circuit is to get does not end it; work on its own circuit does, and voids what was read live before.
	more := s.j.Circuits[0]
	more.ID, more.Name, more.Protection.Way = "c9", "Kiln", 3
	s.j.Circuits = append(s.j.Circuits, more)
	assert.Equal(t, proving.PartService, s.part("main").State, s.part("main").Lapsed)
	s.j.Circuits = s.j.Circuits[:1]
	s.must(isolation())
	s.must(install.Record{Kind: install.Tick, Subject: "c1-torque"})
	s.worked("c1-torque")
	s.refused(serve(), "Dead tests come first")
	for id, v := range map[string]float64{"r1r2": 0.09, "insulation-ln": 200, "insulation-le": 200, "insulation-ne": 200} {
		s.must(reading(id, v))
	}
	s.must(answer("polarity-dead", true))
	s.refused(serve(), "Live tests come before service")
}

// What was switched on without permission is recorded whatever it breaks, ends the isolations that it may have undone, and is switched off.
func TestSwitchedOnWithoutPermission(t *testing.T) {
	for _, device := range []string{"main", ""} {
		s := &site{T: t, j: designed(), now: day}
		s.must(isolation())
		s.must(reading("r1r2", 0.09))
		s.refused(install.Record{Kind: install.SwitchedOn, Subject: "lamp", Note: "x"}, "a device of the installation")
		s.refused(install.Record{Kind: install.SwitchedOn, Subject: "main"}, "note")
		r := by("Ap", install.Record{Kind: install.SwitchedOn, Subject: device, Note: "the neighbour pushed it in"})
		s.must(r)
		s.refused(reading("insulation-ln", 200), "done dead")
		assert.Contains(t, s.standing().Flaws[0], "put on since, or may have been: by Ap")
		require.Len(t, proving.Locks(s.j), 1, "the lock is on record until its owner takes it off")
		if device != "" {
			s.refused(s.closing(install.ForTest, "main"), "")
		}
		s.must(isolation())
		s.must(reading("insulation-ln", 200))
	}
}

// A source of the customer's own never reaches the operator's conductors without its agreement on record.
func TestASourceThatTheJobMakesWaitsForTheOperator(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	yes := true
	s.j.Circuits[0].Serves.Backfeed, s.j.Circuits[0].Protection.BothWays = true, &yes
	s.firstFix()
	s.must(opening([]string{"main", "own:c1"}, "board:", "circuit:c1"))
	waits := func() []string { return s.waits("main") }
	const asks = "the source on Charge point would feed back into the operator's conductors: the operator's agreement to parallel operation is not on record."
	assert.Contains(t, waits(), asks)
	s.must(install.Record{Kind: install.Operator, Path: "agreed", Circuit: "c1", Reference: "N-1", Person: "Ms Lund", Called: "2026-05-04T09:30"})
	assert.NotContains(t, strings.Join(waits(), "\n"), "parallel operation")
	const certificate = "the source on Charge point would feed back into the operator's conductors: the certificate of its loss-of-mains " +
		"protection is not on record."
	assert.Contains(t, waits(), certificate)
	s.j.Circuits[0].Serves.LossOfMains = "type test G-7781"
	assert.NotContains(t, waits(), certificate)
	assert.True(t, slices.ContainsFunc(Of(s.j, nil, vik, s.now).Tests.Rows, func(r proving.Row) bool { return r.ID == "loss-of-mains" && r.Live }))
	_, back := isolate.Of(s.j, &install.Terms{}).Feeds([]string{"main"}, []string{"own:c1"})
	assert.Empty(t, back, "while its isolator is open nothing comes back")
}

// A pair is energised for a moment, guarded, to find whether it is the feed: with nobody's lock and no begun work where it may lead, and every
// proof in its reach ends with it.
func TestGuardedEnergising(t *testing.T) {
	volts, yes := 231.0, true
	guarded := func(device string) install.Record {
		return install.Record{Kind: install.Guarded, Subject: device, Person: "Remy", Place: "grey pair, loft hatch", Value: &volts, Instrument: "MFT-4",
			Passed: &yes, Confirmed: []string{"apart", "people", "off", "dead"}}
	}
	s := &site{T: t, j: solar(), now: day}
	for field, change := range map[string]func(*install.Record){
		"guarded.person":     func(r *install.Record) { r.Person = "vik" },
		"guarded.value":      func(r *install.Record) { r.Value = nil },
		"guarded.passed":     func(r *install.Record) { r.Passed = nil },
		"guarded.place":      func(r *install.Record) { r.Place = "" },
		"guarded.instrument": func(r *install.Record) { r.Instrument = "" },
		"guarded.confirmed":  func(r *install.Record) { r.Confirmed = r.Confirmed[:2] },
		"guarded.subject":    func(r *install.Record) { r.Subject = "lamp" },
	} {
		r := guarded("")
		change(&r)
		s.refused(r, field)
	}
	s.must(by("Mo", opening([]string{"circuit:c2"}, "circuit:c2")))
	s.refused(guarded(""), "The lock of Mo is in place")
	s.refused(guarded("circuit:c2"), "The lock of Mo is in place")
	s.must(by("Mo", install.Record{Kind: install.LockOff, Subject: proving.Locks(s.j)[0].ID}))

	s.must(opening([]string{"main", "own:c2"}, "board:", "circuit:c1", "circuit:c2"))
	s.must(reading("r1r2", 0.05))
	s.must(guarded("own:c2"))
	assert.Contains(t, s.standing().Flaws[0], "the supply was put on since")
	s.refused(reading("insulation-ln", 200), "done dead")
	s.must(opening([]string{"main", "own:c2"}, "board:", "circuit:c1", "circuit:c2"))
	s.worked("c1-point")
	s.refused(guarded(""), "Begun and not done where the pair may lead")
	s.refused(guarded("main"), "Begun and not done")
	s.must(by("Remy", install.Record{Kind: install.SwitchedOn, Note: "it was put on all the same"})) // what happened is recorded
}

// The cards open from the loads to the supply and close backwards; in an emergency the main switch is first.
func TestOffAndOnCards(t *testing.T) {
	cards := Of(solar(), nil, vik, day).Tests.Cards
	ids := func(lines []proving.CardLine) (out []string) {
		for _, l := range lines {
			out = append(out, l.ID)
		}
		return out
	}
	assert.Equal(t, []string{"way::1", "circuit:c2", "circuit:c1", "own:c2", "main"}, ids(cards.Off), "also what is no circuit of the job")
	assert.Equal(t, []string{"main", "own:c2"}, ids(cards.Emergency))
	assert.Equal(t, []string{"main", "own:c2", "circuit:c1", "circuit:c2", "way::1"}, ids(cards.On))
	assert.Equal(t, "Heater", cards.Off[0].Name)
}

// A source that starts by itself is dead only once its start was disabled too.
func TestAutomaticStartIsDisabled(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.j.Standby = install.Standby{Source: "generator", Automatic: true}
	r := opening([]string{"main", "own:standby"}, "board:", "circuit:c1")
	s.must(r)
	assert.Contains(t, s.standing().Flaws[0], "the automatic start was not disabled")
	s.refused(reading("r1r2", 0.1), "done dead")
	r.Opens[1].StartOff = true
	s.must(r)
	s.must(reading("r1r2", 0.1))
}

// Where the operator is asked before the work, nothing of it is energised before they agreed.
func TestTheOperatorsAgreementComesBeforePower(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	more := s.j.Circuits[0]
	more.ID, more.Name, more.Protection.Way = "c9", "Second charge point", 3
	s.j.Circuits = append(s.j.Circuits, more)
	waits := func() []string { return s.waits("main") }
	const asks = "The design is not in order: the operator's agreement before the work."
	assert.Contains(t, waits(), asks)
	for _, path := range []string{"applied", "agreed"} {
		s.must(install.Record{Kind: install.Operator, Path: path, Reference: "N-2", Person: "Ms Lund", Called: "2026-05-04T09:30"})
		assert.Equal(t, path == "applied", slices.Contains(waits(), asks))
	}
}
