package iec230

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/working"
)

func at(v float64) install.Fact { return install.Fact{Value: &v, Basis: install.Measured} }

func is(b bool) *bool { return &b }

// house is a chain of head, meter, board and standby source.
func house(earthing string) *install.Job {
	return &install.Job{Supply: install.Supply{Earthing: install.Earthing(earthing), DeclaredV: 230, ZeOhm: at(0.2),
		PFCkA: at(1.15)}, Chain: install.Chain{Enclosures: []install.Enclosure{
		{ID: "head", Kind: "head", Name: "Head", Owner: install.OwnerOperator, Sealed: "yes"},
		{ID: "meter", Kind: "meter", Name: "Meter", From: "head", Owner: install.OwnerMeter},
		{ID: "board", Kind: "board", Name: "Board", From: "meter", Owner: install.OwnerCustomer, Joined: is(false),
			Feed: install.Conductor{Material: "cu", Size: "16", EarthMM2: "10", LengthM: at(2)}},
		{ID: "shed", Kind: "outbuilding", Name: "Kiln board", From: "board", Owner: install.OwnerCustomer,
			Joined: is(false), Feed: install.Conductor{Material: "cu", Size: "6", EarthMM2: "6", LengthM: at(20)}},
	}}}
}

func node(r rulebook.ChainReport, id string) rulebook.ChainNode {
	for _, n := range r.Nodes {
		if n.ID == id {
			return n
		}
	}
	return rulebook.ChainNode{}
}

// On the consumer's side neutral and earth are joined nowhere, whatever the
// earthing and wherever the joint is made.
func TestAJointOnTheConsumersSideIsRefused(t *testing.T) {
	for _, earthing := range []string{"TN-C-S", "TN-S", "TT"} {
		sound := Practice{}.Chain(house(earthing))
		assert.Equal(t, working.Pass, sound.Verdict, earthing)
		for _, kind := range []string{"isolator", "changeover", "board", "second-board", "outbuilding"} {
			job := house(earthing)
			job.Chain.Enclosures = append(job.Chain.Enclosures,
				install.Enclosure{ID: "x", Kind: kind, Name: "X", From: "meter", Owner: install.OwnerCustomer, Joined: is(true)})
			r := Practice{}.Chain(job)
			assert.Equal(t, working.Fail, node(r, "x").Verdict, "%s in %s", kind, earthing)
			require.Len(t, r.Jumpers, 1)
			assert.Equal(t, "take out", r.Jumpers[0].Action)
		}
	}
}

// A standby source's own joint needs both: only while islanded, and its own electrode.
func TestTheJointOfAStandbySource(t *testing.T) {
	for _, c := range []struct {
		islanded, electrode *bool
		want                working.Verdict
		says                string
	}{
		{is(true), is(true), working.Pass, ""},
		{is(true), is(false), working.Fail, "its own electrode"},
		{is(false), is(true), working.Fail, "only while it runs islanded"},
		{is(false), is(false), working.Fail, "neither"},
		{nil, nil, working.Fail, "neither"},
	} {
		job := house("TT")
		job.Chain.Enclosures = append(job.Chain.Enclosures,
			install.Enclosure{ID: "gen", Kind: "source", Name: "Source", From: "board", Owner: install.OwnerCustomer,
				Joined: is(true), IslandedOnly: c.islanded, Electrode: c.electrode})
		n := node(Practice{}.Chain(job), "gen")
		assert.Equal(t, c.want, n.Verdict)
		assert.Contains(t, n.JointSays, c.says)
	}
}

func TestWhetherTheyAreJoinedIsAskedBeforeItPasses(t *testing.T) {
	job := house("TN-S")
	job.Chain.Enclosure("board").Joined = nil
	assert.Equal(t, working.Unknown, node(Practice{}.Chain(job), "board").Verdict)
}

// The operator's and meter operator's boxes stay shut, whatever kind they are.
func TestWhoMayOpen(t *testing.T) {
	job := house("TN-C-S")
	job.Chain.Enclosures[3].Owner = install.OwnerOperator
	r := Practice{}.Chain(job)
	assert.Equal(t, "the operator only", node(r, "head").MayOpen)
	assert.Equal(t, "the meter operator only", node(r, "meter").MayOpen)
	assert.Equal(t, "the electrician", node(r, "board").MayOpen)
	assert.Equal(t, "the operator only", node(r, "shed").MayOpen)
	job.Chain.Enclosures[3].MayOpen = "Brisco Ltd, letter of 3 May"
	assert.Equal(t, "Brisco Ltd, letter of 3 May", node(Practice{}.Chain(job), "shed").MayOpen)
}

// Worked by hand: 16 and 10 mm² are 1.15 and 1.83 mΩ/m, 6 mm² 3.08 mΩ/m.
func TestImpedanceAndFaultLevelDownTheChain(t *testing.T) {
	r := Practice{}.Chain(house("TN-C-S"))
	assert.InDelta(t, 0.2, *node(r, "meter").ZOhm, 1e-9, "the operator's side keeps the origin's figure")
	assert.InDelta(t, 0.2+(1.15+1.83)*2/1000, *node(r, "board").ZOhm, 1e-9)
	assert.InDelta(t, 0.2+(1.15+1.83)*2/1000+2*3.08*20/1000, *node(r, "shed").ZOhm, 1e-9)
	z := 230 / 1150.0
	assert.InDelta(t, 230/(z+2*1.15*2/1000+2*3.08*20/1000)/1000, *node(r, "shed").FaultKA, 1e-9)
}

// An inserted enclosure with a length of its own moves everything behind it, and
// an unknown feed makes everything behind it unknown.
func TestInsertingAnEnclosureRecomputesDownstream(t *testing.T) {
	job := house("TN-C-S")
	before := Practice{}.Chain(job)
	job.Chain.Enclosures = append(job.Chain.Enclosures,
		install.Enclosure{ID: "iso", Kind: "isolator", Name: "Isolator", From: "meter", Owner: install.OwnerCustomer,
			Joined: is(false), Feed: install.Conductor{Material: "cu", Size: "16", EarthMM2: "10", LengthM: at(3)}})
	job.Chain.Enclosure("board").From = "iso"
	after := Practice{}.Chain(job)
	for _, id := range []string{"board", "shed"} {
		assert.InDelta(t, (1.15+1.83)*3/1000, *node(after, id).ZOhm-*node(before, id).ZOhm, 1e-9, id)
		assert.Less(t, *node(after, id).FaultKA, *node(before, id).FaultKA, id)
	}
	job.Chain.Enclosure("iso").Feed.LengthM = install.Fact{}
	lost := Practice{}.Chain(job)
	assert.Nil(t, node(lost, "shed").ZOhm)
	assert.Contains(t, node(lost, "shed").Summary, "not recorded")
}

func TestTheSupplyNumber(t *testing.T) {
	good := "4544173026556"
	for _, c := range []struct {
		typed, serial string
		want          working.Verdict
		says          string
	}{
		{good, "", working.Pass, "Distributor 45"},
		{"45 4417 3026 556", "", working.Pass, "check digit fits"},
		{"03801123" + good, "", working.Pass, ""},
		{"4544173026557", "", working.Fail, "should be 6"},
		{"4544173025656", "", working.Fail, "exchanged"},
		{"454417302655", "", working.Fail, "12 digits"},
		{"L19K 00417", "", working.Fail, "meter's serial"},
		{"l19k00417", "L19K 00417", working.Fail, "serial of the meter"},
		{good, good, working.Fail, "serial of the meter"},
		{"", "", working.Unknown, "bill"},
		{"0044173026555", "", working.Fail, "name the distributor"},
		{"9944173026558", "", working.Fail, "name the distributor"},
	} {
		n := Practice{}.SupplyNumber(c.typed, c.serial)
		assert.Equal(t, c.want, n.Verdict, c.typed)
		assert.Contains(t, n.Summary, c.says, c.typed)
	}
}

// A wrong digit is always seen, and two neighbours exchanged nearly always: the
// weights differ, and only the last step (11 to 10) lets a few pass.
func TestTheCheckDigitSeesEveryWrongDigit(t *testing.T) {
	good := "4544173026556"
	missed := 0
	for i := range 12 {
		for d := byte('0'); d <= '9'; d++ {
			if good[i] == d {
				continue
			}
			bad := good[:i] + string(d) + good[i+1:]
			if (Practice{}).SupplyNumber(bad, "").Verdict != working.Fail {
				missed++
			}
		}
	}
	assert.LessOrEqual(t, missed, 108/10, "of 108 wrong digits few may pass")
}

func FuzzSupplyNumber(f *testing.F) {
	f.Add("4544173026556", "")
	f.Add("０９", "x")
	f.Fuzz(func(t *testing.T, text, serial string) {
		n := Practice{}.SupplyNumber(text, serial)
		if n.Verdict == working.Pass {
			require.Len(t, n.Number, 13)
			require.Equal(t, n.Number, Practice{}.SupplyNumber(n.Number, "").Number)
		}
		require.NotEmpty(t, n.Summary)
	})
}

// Choosing an unlawful way is not offered, and the reason is.
func TestIsolationRoutes(t *testing.T) {
	today := time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)
	charge := func(route string) (float64, bool) { return 95, route == "operator-fuse" }
	job := house("TN-C-S")
	by := func() map[string]rulebook.IsolationRoute {
		out := map[string]rulebook.IsolationRoute{}
		for _, r := range (Practice{}).Isolation(job, charge, today) {
			out[r.ID] = r
			if !r.Offered {
				assert.True(t, strings.HasPrefix(r.Why, "Not offered"), r.ID)
				assert.Empty(t, r.Earliest, r.ID)
			}
		}
		return out
	}
	r := by()
	assert.False(t, r["pull-it-yourself"].Offered)
	assert.False(t, r["existing-isolator"].Offered)
	assert.False(t, r["authorised-person"].Offered)
	assert.Equal(t, "2026-12-16", r["operator-fuse"].Earliest)
	assert.Equal(t, 95.0, *r["operator-fuse"].Charge)
	assert.Nil(t, r["operator-isolator"].Charge)

	job.Outage.Authorised = install.Authorised{Name: "Wil Tasker", Number: "A-9", Until: "2026-11-24"}
	assert.Contains(t, by()["authorised-person"].Why, "ended")
	job.Outage.Authorised.Until = "2027-01-01"
	assert.True(t, by()["authorised-person"].Offered)
	job.Outage.Day = "2027-02-01"
	assert.False(t, by()["authorised-person"].Offered, "it must hold on the day")

	job.Chain.Enclosures[2].Disconnect = is(true) // the board itself disconnects what hangs on it
	assert.True(t, by()["existing-isolator"].Offered)
	job.Chain.Enclosures[2].New = true
	assert.False(t, by()["existing-isolator"].Offered, "what the job puts in is not there yet")

	days, job2 := 5, house("TT")
	job2.Outage = install.Outage{Route: "operator-fuse", AskedOn: "2026-11-20", LeadDays: &days}
	job = job2
	assert.Equal(t, "2026-11-25", by()["operator-fuse"].Earliest)
	job.Outage.BookedOn = "2026-12-03"
	assert.Equal(t, "2026-12-03", by()["operator-fuse"].Earliest)
}

// More soil resistivity gives more ohms, more rods fewer; the first row is the
// worked case of the rod formula.
func TestElectrodesExpectedAndMeasured(t *testing.T) {
	job := house("TT")
	assert.Equal(t, working.Unknown, Practice{}.Electrodes(job).Checks[0].Verdict, "a TT supply asks for it")
	e := &job.Outdoor.Electrodes
	e.SoilOhmM = at(100)
	e.Rods = []install.PlacedRod{{LengthM: 2.4, DiameterMM: 16, Mode: "vertical"}}
	one := *Practice{}.Electrodes(job).ExpectedOhm
	assert.InDelta(t, 40.3, one, 0.3, "ρ/(2πL)·(ln(8L/d) − 1) by hand")
	e.Rods = append(e.Rods, install.PlacedRod{LengthM: 2.4, DiameterMM: 16, SpacingM: 4.8, Mode: "vertical"})
	two := *Practice{}.Electrodes(job).ExpectedOhm
	assert.Less(t, two, one)
	assert.Greater(t, two, one/2, "rods share the ground between them")
	e.Measured = at(260)
	r := Practice{}.Electrodes(job)
	assert.Equal(t, working.Fail, r.Checks[0].Verdict)
	e.SoilOhmM = at(2000)
	assert.NotEmpty(t, Practice{}.Electrodes(job).Missed, "what to do is said")
	e.Measured = at(80)
	assert.Equal(t, working.Pass, Practice{}.Electrodes(job).Checks[0].Verdict)

	// What is asked of the ground, of the rods and of what joins them is judged.
	verdict := func(id working.RuleID) working.Verdict {
		for _, c := range (Practice{}.Electrodes(job)).Checks {
			if c.Rule == id {
				return c.Verdict
			}
		}
		return ""
	}
	e.Moisture = install.Wet
	assert.Equal(t, working.Caution, verdict("electrode-resistance"), "it will be higher when the ground dries")
	e.Moisture = install.Dry
	assert.Equal(t, working.Pass, verdict("electrode-resistance"))
	assert.Equal(t, working.Unknown, verdict("rod-join"))
	yes, no := true, false
	e.Continuous = &no
	assert.Equal(t, working.Caution, verdict("rod-join"))
	e.Continuous = &yes
	assert.Equal(t, working.Pass, verdict("rod-join"))
	assert.Equal(t, working.Pass, verdict("rod-thickness"))
	e.Rods[0].DiameterMM = 12
	assert.Equal(t, working.Fail, verdict("rod-thickness"))
}
