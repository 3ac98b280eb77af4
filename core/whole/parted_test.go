package whole

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/isolate"
	"arvelt/core/proving"
)

// A conductor that a test parts, or that somebody parted by hand, is back on record before anything that rests on it is energised, for
// whatever use; once it is parted where something is live, that is to be switched off.
func TestWhatIsPartedForATestIsBackBeforeAnythingIsEnergised(t *testing.T) {
	surge := func(j *install.Job) { j.Surge.Devices = []install.SPD{{Name: "Arrester", Place: "board", Type: "2"}} }
	full, low := reading("insulation-le", 200), reading("insulation-le", 200)
	full.TestV, low.TestV = 500, 250
	open := clamped(install.Record{Kind: install.Reading, Subject: "ng", Circuit: "c1", Answer: "open"})
	byHand := func(id string) install.Record { return clamped(install.Record{Kind: install.LooseEnd, Parted: id}) }
	for name, row := range map[string]struct {
		job  func() *install.Job
		with func(*install.Job)
		do   install.Record
		says string // empty where nothing is parted by it
	}{
		"earthing conductor":      {designed, nil, reading("continuity-earth", 0.02), "Main earthing conductor"},
		"surge devices, 500 V":    {designed, surge, full, "Surge devices"},
		"surge devices, 250 V":    {designed, surge, low, ""},
		"no surge device":         {designed, nil, full, ""},
		"bond, by hand":           {designed, nil, byHand("bond:water"), "Bonding of water"},
		"electrode, by hand":      {designed, nil, byHand("electrode:"), "Clamp at the electrode"},
		"neutrals of a panel":     {solar120, nil, open, "Circuit neutrals at A"},
		"ground, by hand":         {solar120, nil, byHand("earth"), "Grounding electrode conductor"},
		"could not be read":       {designed, nil, install.Record{Kind: install.Reading, Subject: "continuity-earth", CouldNot: "no access"}, ""},
		"incoming neutral, panel": {solar120, nil, byHand("neutral:"), "Incoming neutral of A"},
	} {
		t.Run(name, func(t *testing.T) {
			s := &site{T: t, j: row.job(), now: day}
			s.j.Supply.Bonds = append(s.j.Supply.Bonds, install.Bond{Service: "water"})
			if row.with != nil {
				row.with(s.j)
			}
			s.dead()
			s.must(row.do)
			want := "Disconnected for a test and not on record as reconnected: " + row.says + "."
			if row.says == "" {
				assert.Empty(t, proving.LooseEnds(s.j))
				return
			}
			for _, use := range install.PermitUses {
				assert.Contains(t, s.waitsFor("main", use), want, use)
			}
			left := proving.LooseEnds(s.j)
			require.Len(t, left, 1)
			if row.do.Kind == install.LooseEnd {
				s.refused(row.do, "on record as disconnected already")
			} else {
				s.must(row.do)
				require.Len(t, proving.LooseEnds(s.j), 1, "it is parted once")
			}
			later := install.Record{Kind: install.LooseEnd, Parted: "electrode:", Path: proving.BeforeHandover}
			s.refused(later, "reconnected before anything is")
			back := install.Record{Kind: install.LooseEnd, Subject: left[0].ID, Done: true, Note: "back, tightened"}
			s.holds = install.AuthoritiesOf(install.Isolating)
			s.refused(back, "to clear what holds the work looks at it")
			s.holds = 0
			s.must(back)
			assert.NotContains(t, s.waits("main"), want)
		})
	}
	s := &site{T: t, j: designed(), now: day}
	s.refused(byHand("curtain rail"), "a conductor of the installation")
}

// pairs is an isolation with what is read in the practice of the job.
func (s *site) pairs(r install.Record) install.Record {
	if s.j.Practice != "split120" {
		return r
	}
	r.Proofs = nil
	for _, place := range []string{"board:", "circuit:c1", "circuit:c2"} {
		p, v := install.Proof{At: place, Cables: 2}, 0.4
		for _, pair := range trials[1].pairs {
			p.Read = append(p.Read, install.Pair{Pair: pair, V: &v})
		}
		r.Proofs = append(r.Proofs, p)
	}
	r.Opens = append(r.Opens, install.Opened{Device: "own:c2", Kept: install.ByLock})
	return r
}

// dead opens a house of either practice and reads it dead wherever somebody works.
func (s *site) dead() {
	s.Helper()
	if s.j.Practice != "split120" {
		s.firstFix()
	}
	s.must(s.pairs(isolation()))
}

// What is parted where something is live already ends its permission; an incoming neutral or the neutrals of another board do not.
func TestWhatIsPartedLaterEndsThePermission(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.j.Boards = []install.Board{{ID: "b2", Name: "B", Enclosure: "shed"}}
	ready(s)
	s.must(s.closing(install.ForTest, "main"))
	s.must(clamped(install.Record{Kind: install.LooseEnd, Parted: "neutrals:b2"}))
	assert.Equal(t, proving.PartTest, s.part("main").State, s.part("main").Lapsed)
	s.must(clamped(install.Record{Kind: install.LooseEnd, Parted: "neutrals:"}))
	p := s.part("main")
	assert.Equal(t, proving.PartLapsed, p.State)
	assert.Contains(t, p.Lapsed, "Circuit neutrals at A")
}

// A standby source waits for its changeover to be read open between it and the supply, and for its neutral and earth as islanded running asks;
// nothing else of the house does. What it would feed back into waits too.
func TestAStandbySourceWaitsForItsChangeover(t *testing.T) {
	yes, no := true, false
	for practice, row := range map[string]struct {
		job   func() *install.Job
		chain []install.Enclosure
		want  string // of the neutral
	}{
		"230 V": {designed, []install.Enclosure{{ID: "sw", Kind: "changeover", Name: "Changeover", SwitchesN: &yes},
			{ID: "gen", Kind: "source", Name: "Generator", From: "sw", Electrode: &yes, IslandedOnly: &yes}}, "joined once, at the source"},
		"split phase": {solar120, []install.Enclosure{{ID: "sw", Kind: "transfer", Name: "Transfer switch", SwitchesN: &no}}, "no joint"},
		"split phase, derived": {solar120, []install.Enclosure{{ID: "sw", Kind: "transfer", Name: "Transfer switch", SwitchesN: &yes}},
			"joined once, at the source"},
	} {
		t.Run(practice, func(t *testing.T) {
			s := &site{T: t, j: row.job(), now: day}
			s.j.Standby = install.Standby{Source: "generator"}
			for i := range row.chain {
				row.chain[i].Owner = install.OwnerCustomer
			}
			s.j.Chain.Enclosures = row.chain
			r := s.pairs(isolation())
			for _, device := range []string{isolate.Intake, isolate.Standby} {
				r.Opens = append(r.Opens, install.Opened{Device: device, Kept: install.ByLock})
			}
			s.must(r)
			asks := s.waitsFor(isolate.Standby, install.RestoreUse)
			rows := Of(s.j, nil, vik, s.now).Tests.Rows
			of := func(id string) proving.Row {
				i := slices.IndexFunc(rows, func(r proving.Row) bool { return r.ID == id })
				require.GreaterOrEqual(t, i, 0, id)
				return rows[i]
			}
			want := "Dead tests come first: " + of("changeover:sw").Title + " is not done."
			assert.Contains(t, asks, want, "also of what is restored")
			assert.NotContains(t, s.waits("main"), want, "the rest of the house does not wait for it")
			assert.Contains(t, of("source-joint:sw").Where, row.want)
			assert.True(t, of("transfer").Live)
		})
	}
}

// Whoever permits a test says how people are kept out and which covers stay off; each of those is back on before it goes into service.
func TestCoversThatWereOffAreBackBeforeService(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	ready(s)
	r := s.closing(install.ForTest, "main")
	r.Guarded = ""
	s.refused(r, "person, barrier, room")
	r.Guarded = "curtain"
	s.refused(r, "guarding")
	r.Guarded, r.Bare = install.GuardRoom, []string{"board:attic"}
	s.refused(r, "a place of what this makes live")
	r.Bare = []string{"board:"}
	s.must(r)
	for id, v := range map[string]float64{"voltage": 231, "voltage-ne": 0.4, "pfc": 1.1, "zs": 0.34, "rcd-x1": 24, "rdc-6": 800} {
		s.must(reading(id, v))
	}
	for _, id := range []string{"polarity-live", "rcd-button", "functional", "ev-functional", "ev-pen"} {
		s.must(answer(id, true))
	}
	serve := s.closing(install.IntoUse, "main")
	s.refused(serve, "cover:board:: The cover of A is back on")
	serve.Confirmed = append(serve.Confirmed, "cover:board:")
	serve.Bare = r.Bare
	s.refused(serve, "every cover is on")
	serve.Bare = nil
	s.must(serve)
	assert.Equal(t, proving.PartService, s.part("main").State)
}

// The supervisor orders a retest or a guarded search for the fault, of a live test that failed and after which that is enough; while a fault is
// searched for somebody stands there.
func TestAGuardedSearchForAFault(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	ready(s)
	s.must(s.closing(install.ForTest, "main"))
	s.must(reading("zs", 9))
	s.must(reading("pfc", 1.1))
	id := func(test string) string {
		for _, r := range s.j.Records {
			if r.Kind == install.Reading && r.Subject == test {
				return r.ID
			}
		}
		return ""
	}
	s.must(isolation())
	order := install.Record{Kind: install.RetestOrder, By: "Sup", Role: proving.Supervisor, Subject: id("pfc"), Path: install.OrderSearch, Note: "look"}
	s.refused(order, "did not fail live")
	order.Subject, order.Path = id("zs"), "guess"
	s.refused(order, "path")
	order.Path = install.OrderSearch
	s.refused(s.closing(install.ForTest, "main"), "the supervisor orders a retest or a guarded search")
	s.must(order)
	r := s.closing(install.ForTest, "main") // behind barriers
	s.refused(r, "Sup ordered a guarded search for the fault of Loop impedance Zs at the point")
	r.Guarded = install.GuardPerson
	s.must(r)
}

// What is put into service rests on nothing that is only assumed; it is energised for a test all the same.
func TestServiceWaitsForWhatIsAssumed(t *testing.T) {
	for practice, job := range map[string]func() *install.Job{"230 V": designed, "split phase": solar120} {
		s := &site{T: t, j: job(), now: day}
		s.dead()
		says := func(use install.PermitUse) []string {
			return slices.DeleteFunc(s.waitsFor("main", use), func(why string) bool { return !strings.Contains(why, "rests on what is assumed") })
		}
		assert.Empty(t, says(install.IntoUse), practice)
		s.j.Circuits[0].Route.Segments[0].Basis = install.Assumed
		assert.NotEmpty(t, says(install.IntoUse), practice)
		assert.Empty(t, says(install.ForTest), practice)
		s.j.Circuits[0].Route.Segments[0].Basis = install.Measured
		assert.Empty(t, says(install.IntoUse), practice)
	}
}

// What is read on the test sheet settles what was only assumed of it, and is the figure that the design rests on where it is the worse.
func TestAReadingSettlesWhatWasAssumed(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.j.Supply.PFCkA.Basis = install.Assumed
	ready(s)
	s.must(s.closing(install.ForTest, "main"))
	const asks = "Not yet known: Breaking capacity rests on what is assumed: prospective fault current."
	says := func() []string { return s.waitsFor("main", install.IntoUse) }
	assert.Contains(t, says(), asks)
	s.must(reading("pfc", 0.9))
	assert.NotContains(t, says(), asks)
	ka := func() float64 {
		report := Practices["iec230"].Judge(s.j)
		for _, k := range report.Checks() {
			if k.Title == "Breaking capacity" {
				return *k.Value
			}
		}
		return 0
	}
	assert.Equal(t, 1.1, ka(), "less than assumed changes nothing")
	s.must(reading("pfc", 2.4))
	assert.Equal(t, 2.4, ka())
}

// The external loop is read with the earthing conductor off for the reading alone: it is clamped first all the same, and a test of its own says that
// it is back.
func TestTheEarthIsClampedBeforeTheExternalLoopIsRead(t *testing.T) {
	s := &site{T: t, j: designed(), now: day}
	s.dead()
	ze := reading("ze", 0.25)
	ze.ClampA = nil
	s.refused(ze, "clamped in this before it is disconnected: Main earthing conductor")
	s.must(install.Record{Kind: install.Reading, Subject: "ze", CouldNot: "no instrument"})
	s.must(reading("ze", 0.25))
	assert.Empty(t, proving.LooseEnds(s.j))
}
