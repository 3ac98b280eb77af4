package whole

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/working"
)

// started is a job of a kind with circuits of templates, as somebody would begin it.
func started(practice string, kind install.Kind, templates ...string) *install.Job {
	p := Practices[practice]
	j := &install.Job{Format: install.Format, Ref: "S-1", Title: "S", Kind: kind, Practice: practice, Rules: install.Rules{Edition: p.Terms().Editions[0]},
		Site: install.Site{Customer: "A. Person", Address: "1 Test Row", Extent: "what is named"}, Schools: install.Schools{},
		Supply: install.Supply{DeclaredV: p.Opening().DeclaredV, Earthing: install.Earthing(p.Opening().Earthing)}, Board: install.Board{Name: "A"}}
	for i, t := range templates {
		c := p.Defaults(t)
		c.ID, c.Name, c.State = fmt.Sprintf("c%d", i+1), t, j.Trait().Circuit
		j.Circuits = append(j.Circuits, c)
	}
	return j
}

// asks are the ids of everything that a job asks for: what the survey lacks, checks that hold something, tasks and tests.
func asks(t *testing.T, j *install.Job) []string {
	t.Helper()
	j.Tidy()
	require.NoError(t, j.Validate(Practice(j).Terms()))
	v := Of(j, nil, install.Person{}, day)
	out := []string{}
	for _, h := range v.State.Holds {
		if h.Stage == install.Survey {
			out = append(out, "survey: "+h.What)
		}
	}
	for i := range v.Checks {
		if c := &v.Checks[i]; !c.Outside && c.Of() != nil && len(c.Of().Holds) > 0 {
			out = append(out, "check "+c.Circuit+" "+c.ID)
		}
	}
	for i := range v.Tasks {
		out = append(out, "task "+v.Tasks[i].ID)
	}
	for _, r := range v.Tests.Rows {
		out = append(out, "test "+r.Circuit+" "+r.ID)
	}
	slices.Sort(out)
	return out
}

// A luminaire replaced by its like asks for its protective conductor, its polarity, fire and heat where it is recessed, and nothing of
// the supply, the board, the loads, the walk or the cable.
func TestReplacingALuminaireAsksForADozenThings(t *testing.T) {
	j := started("iec230", install.Repair, "lighting-6")
	yes := true
	j.Circuits[0].Serves.Recessed = install.Recess{Fitted: true, Fire: true, Tested: &yes, Coverable: &yes}
	assert.Equal(t, []string{"check c1 recessed", "task c1-replace", "task owner", "test c1 continuity-cpc", "test c1 functional", "test c1 insulation-le",
		"test c1 polarity-dead", "test c1 polarity-live", "test c1 rcd-button", "test c1 rcd-x1", "test c1 zs"}, asks(t, j))
	j.Circuits[0].Serves.Recessed.Tested = nil
	v := Of(j, nil, install.Person{}, day)
	assert.True(t, slices.ContainsFunc(v.State.Holds, func(h plan.Hold) bool { return strings.Contains(h.What, "Recessed luminaires") }),
		"a hood that nobody vouches for holds it")
	j.Site.Extent = ""
	assert.Contains(t, asks(t, j), "survey: how far the work goes, as agreed")
	assert.Empty(t, v.Take.Lines, "nothing is bought for a circuit that stays")

	us := started("split120", install.Repair, "lighting")
	assert.Equal(t, []string{"task c1-replace", "task owner", "test c1 functional", "test c1 ground-continuity", "test c1 polarity"}, asks(t, us))
}

// One outlet replaced by a ground-fault one in the middle of a run brings the rules of replacing a receptacle for that outlet, a trip at
// what it protects from then on, and nothing for the others or for the dwelling.
func TestReplacingAnOutletAsksForThatOutlet(t *testing.T) {
	j := started("split120", install.Repair, "general-15")
	ground := true
	box := func(id, from string, replaces bool) install.Box {
		b := install.Box{ID: id, Name: "outlet " + id, Place: "bedroom", Device: install.PlainOutlet, From: from, RatingA: 15, Ground: &ground, Replaces: replaces}
		if from == "b2" {
			b.Side = install.LoadSide
		}
		return b
	}
	j.Circuits[0].Serves.Boxes = []install.Box{box("b1", "", false), box("b2", "b1", true), box("b3", "b2", false)}
	b2 := &j.Circuits[0].Serves.Boxes[1]
	b2.Device, b2.Feed, b2.Shuttered, b2.VolumeML = install.GroundFault, install.LineSide, true, 330
	got := asks(t, j)
	for _, want := range []string{"check c1 arc-fault", "check c1 box-fill", "check c1 ground-fault", "check c1 receptacles", "check c1 string",
		"task c1-marking-b2", "task c1-replace", "test c1 ground-continuity", "test c1 tester:b2", "test c1 tester:b3", "test c1 trip:b2", "test c1 trip:b3"} {
		assert.Contains(t, got, want)
	}
	for _, none := range []string{"b1", "required-circuits", "spacing", "demand", "voltage-drop", "capacity", "volts", "survey", "electrode"} {
		assert.False(t, slices.ContainsFunc(got, func(id string) bool { return strings.Contains(id, none) }), "%s in %v", none, got)
	}
	v := Of(j, nil, install.Person{}, day)
	bought := 0.0
	for _, l := range v.Take.Lines {
		if strings.Contains(l.Key, "outlet:") {
			bought += l.Need
		}
	}
	assert.Equal(t, 1.0, bought, "the one outlet")
	// The others are shown as they are and hold nothing.
	j.Circuits[0].Serves.Boxes[0].Ground, j.Circuits[0].Serves.Boxes[0].RatingA = nil, 0
	assert.Equal(t, got, asks(t, j))
	for i := range v.Checks {
		assert.NotEqual(t, "required-circuits", string(v.Checks[i].Rule))
	}
}

// A board change leaves the cables of its circuits: no route, drilling, cable or drop, but the reach of their tails, every check of the
// new device and every dead and live test.
func TestABoardChangeKeepsItsCircuits(t *testing.T) {
	templates := []string{"ring", "ring", "lighting-6", "lighting-6", "cooker-32", "shower-40", "water-stored"}
	j := started("iec230", install.BoardChange, templates...)
	got := asks(t, j)
	for i, template := range templates {
		id := fmt.Sprintf("c%d", i+1)
		for _, want := range []string{"check " + id + " capacity", "check " + id + " breaking-capacity", "check " + id + " residual",
			"check " + id + " way", "task " + id + "-identify", "task " + id + "-board", "task " + id + "-torque", "task " + id + "-label", "test " + id + " r1r2",
			"test " + id + " insulation-ln", "test " + id + " insulation-le", "test " + id + " insulation-ne", "test " + id + " polarity-dead",
			"test " + id + " polarity-live", "test " + id + " zs", "test " + id + " functional"} {
			assert.Contains(t, got, want, template)
		}
		for _, none := range []string{"check " + id + " voltage-drop", "check " + id + " loop", "check " + id + " area",
			"task " + id + "-mark", "task " + id + "-core", "task " + id + "-cable",
			"task " + id + "-photo", "task " + id + "-point"} {
			assert.NotContains(t, got, none, template)
		}
	}
	for _, want := range []string{"check  earthing-conductor", "check  bonding", "check  tails", "check  surge-need", "test  ze", "test  continuity-earth",
		"survey: the ways of the board"} {
		assert.Contains(t, got, want)
	}
	assert.NotContains(t, got, "check  demand")
	assert.NotContains(t, got, "survey: the existing load", "it adds nothing to what is drawn")
	v := Of(j, nil, install.Person{}, day)
	for _, l := range v.Take.Lines {
		assert.NotContains(t, l.Key, "cable:", "no cable is bought")
	}
	asked := 0
	for _, l := range v.Take.Lines {
		asked += len(l.Asks)
	}
	assert.Equal(t, len(templates)+1, asked, "a device for each, and the chart")
	ring := v.Report.Circuit("c1")
	drop := slices.IndexFunc(ring.Checks, func(c working.Check) bool { return c.Rule == "voltage-drop" })
	require.GreaterOrEqual(t, drop, 0)
	assert.True(t, ring.Checks[drop].Outside, "the drop is said for information")
	assert.Zero(t, ring.Summary.R1R2Cold, "nobody knows how long its cable is")
	assert.Positive(t, ring.Summary.ZsMax, "what is read at it is held to the new device")
	capacity := slices.IndexFunc(ring.Checks, func(c working.Check) bool { return c.Rule == "capacity" })
	assert.Contains(t, ring.Checks[capacity].Missing, "whether its cable is as recorded: look at it and say so")
	j.Circuits[0].Seen = true
	v = Of(j, nil, install.Person{}, day)
	ring = v.Report.Circuit("c1")
	assert.Empty(t, ring.Checks[capacity].Missing)
	us := asks(t, started("split120", install.BoardChange, "general-20", "lighting"))
	assert.Contains(t, us, "check c1 capacity")
	assert.Contains(t, us, "task c2-identify")
	assert.NotContains(t, us, "check c1 voltage-drop")
	assert.NotContains(t, us, "task c1-cable")
}

// What stays is among the loads of an addition and is not added to them a second time.
func TestAnAdditionAddsWhatItMakes(t *testing.T) {
	for practice, templates := range map[string][]string{"iec230": {"cooker-32", "shower-40"}, "split120": {"range", "dryer"}} {
		j := started(practice, install.Addition, templates...)
		w := 3000.0
		category := Practices[practice].Terms().Categories[0]
		j.Loads.Items = []install.Load{{Name: "Heater", Category: category, Watts: &w, Volts: 240, Count: 1, Basis: install.Measured}}
		fuse, area := 200.0, 120.0
		j.Supply.MainFuseA = install.Fact{Value: &fuse, Basis: install.Measured}
		j.Loads.AreaM2 = install.Fact{Value: &area, Basis: install.Measured}
		j.Tidy()
		both := Of(j, nil, install.Person{}, day).Report.Demand.AddedA
		j.Circuits[1].State = install.AlteredCircuit
		one := Of(j, nil, install.Person{}, day).Report.Demand.AddedA
		j.Circuits = j.Circuits[:1]
		alone := Of(j, nil, install.Person{}, day).Report.Demand.AddedA
		assert.Greater(t, both, one, practice)
		assert.InDelta(t, alone, one, 1e-9, practice)
		assert.Positive(t, alone, practice)
		assert.Contains(t, asks(t, j), "check  demand", practice)
	}
}

// Surge protection of what is there asks for the device, what it stands behind, the earth that it leads to and its indicator, and
// nothing of loads, routes, cables or the tests of a circuit: its branch has leads.
func TestSurgeProtectionOfAnExistingSupply(t *testing.T) {
	for practice, want := range map[string][]string{
		"iec230": {"check  bonding", "check  earthing-conductor", "check  spd-1", "check  surge-need", "check  tails", "check c1 breaking-capacity", "check c1 residual", "check c1 way",
			"check c1 withstand", "task c1-board", "task c1-label", "task c1-torque", "task owner", "test  continuity-earth", "test  earth-back", "test  pfc",
			"test  spd-light", "test  voltage", "test  voltage-ne", "test  ze"},
		"split120": {"check  electrode-conductor", "check  spd-1", "check  surge-need", "check c1 breaking", "check c1 conduit", "check c1 way", "task c1-board", "task c1-label",
			"task c1-torque", "task owner", "test  path", "test  spd-light", "test  volts-an", "test  volts-bn", "test  volts-ll"},
	} {
		j := started(practice, install.Surge, "surge")
		j.Surge.Devices = []install.SPD{{Name: "Device A", Place: "origin", Type: "2"}}
		got := slices.DeleteFunc(asks(t, j), func(s string) bool { return strings.HasPrefix(s, "survey: ") })
		assert.Equal(t, want, got, practice)
		for _, l := range Of(j, nil, install.Person{}, day).Take.Lines {
			assert.False(t, l.ByLength, "%s: no cable is bought: %s", practice, l.Name)
		}
		for _, s := range asks(t, j) {
			assert.NotContains(t, s, "load", practice)
			assert.NotContains(t, s, "floor area", practice)
		}
		j.Circuits = nil
		assert.Contains(t, asks(t, j), "test  spd-light", "a device behind the main fuse has no branch, and is seen too")
	}
}

// A report asks for every test of what is there and of the supply, for circuits that somebody looked at, and for nothing that is designed,
// ordered or done; what fails holds it until a finding is about it, and its outcome follows from the findings.
func TestAReportAsksForEveryTestAndNoWork(t *testing.T) {
	for practice, want := range map[string][]string{
		"iec230": {"task owner", "test  continuity-earth", "test  earth-back", "test  pfc", "test  voltage", "test  voltage-ne", "test  ze",
			"test c1 functional", "test c1 insulation-le",
			"test c1 insulation-ln", "test c1 insulation-ne", "test c1 polarity-dead", "test c1 polarity-live", "test c1 r1r2", "test c1 rcd-button",
			"test c1 rcd-x1", "test c1 zs"},
		"split120": {"task owner", "test  load-an", "test  load-bn", "test  path", "test  volts-an", "test  volts-bn", "test  volts-ll",
			"test c1 functional", "test c1 ground-continuity",
			"test c1 hg", "test c1 hn", "test c1 ng", "test c1 ng-volts"},
	} {
		use := map[string]string{"iec230": "sockets-20", "split120": "small-appliance"}[practice]
		j := started(practice, install.Inspection, use)
		j.Circuits[0].Name = "Sockets"
		got := slices.DeleteFunc(asks(t, j), func(s string) bool { return strings.HasPrefix(s, "survey: ") })
		assert.Equal(t, want, got, practice)
		assert.Contains(t, asks(t, j), "survey: Sockets: its cable and device, looked at and as recorded")
		view := func() View { return Of(j, nil, install.Person{}, day) }
		assert.Empty(t, view().Take.Lines)
		assert.Empty(t, view().Unanswered, "of what nobody looked at nothing is said to fail")
		assert.Empty(t, view().Outcome.Because)
		assert.False(t, view().Outcome.Satisfactory, "nothing is tested yet")

		// Somebody looked: a device that breaks too little fails, and so does a reading; each waits for a finding.
		j.Circuits[0].Seen, j.Circuits[0].Protection.IcnKA = true, 1
		j.Supply.PFCkA = install.Fact{Value: new(5.0), Basis: install.Measured}
		test := map[string]string{"iec230": "polarity-dead", "split120": "functional"}[practice]
		j.Records = append(j.Records, install.Record{ID: "r1", Kind: install.Reading, Circuit: "c1", Subject: test, Passed: new(false), By: "A", At: day})
		check := map[string]string{"iec230": "breaking-capacity", "split120": "breaking"}[practice]
		keys := func() (out []string) {
			for _, u := range view().Unanswered {
				out = append(out, u.Key)
			}
			return out
		}
		assert.Contains(t, keys(), install.CheckKey("c1", check), practice)
		assert.Contains(t, keys(), install.TestKey("c1", test), practice)
		held := func(what string) bool {
			return slices.ContainsFunc(view().State.Holds, func(h plan.Hold) bool { return strings.Contains(h.What, what) })
		}
		assert.True(t, held("a finding of what fails"))
		class := Practice(j).Survey().Classes[1]
		require.Equal(t, "soon", class.Urgency)
		for n, key := range keys() {
			j.Records = append(j.Records, install.Record{ID: fmt.Sprint("f", n), Kind: install.Observation, Subject: "other", Path: class.ID, Note: "seen",
				Risk: "harm", Mend: "exchange it", Evidence: "measured", Answers: key, By: "A", At: day})
		}
		assert.Empty(t, view().Unanswered)
		assert.False(t, held("a finding of what fails"))
		assert.False(t, held(" failed"), "a test that failed and that a finding is about holds nothing")
		assert.NotEmpty(t, view().Outcome.Because)
		for i := range j.Records {
			if j.Records[i].Kind == install.Observation {
				j.Records[i].Path = Practice(j).Survey().Classes[3].ID // an improvement alone
			}
		}
		assert.Empty(t, view().Outcome.Because, practice)
		for i := range j.Records {
			j.Records[i].Done = j.Records[i].Kind == install.Observation
		}
		assert.NotEmpty(t, view().Unanswered, "one that was taken back answers nothing")
	}
}

// A circuit that is taken out, or left unconnected, changes no check, test, demand or order of those that stay; it brings two steps of its
// own and covers and labels for what stays in the wall.
func TestACircuitThatLeavesChangesNothingOfTheOthers(t *testing.T) {
	for practice, templates := range map[string][]string{"iec230": {"lighting-6", "ring-32", "radial-20"}, "split120": {"lighting",
		"Receptacles of 20 A", "range"}} {
		for _, state := range []install.CircuitState{install.RemovedCircuit, install.DormantCircuit} {
			j := started(practice, install.Rewire, templates...)
			alone := started(practice, install.Rewire, templates[1:]...)
			for i := range alone.Circuits {
				alone.Circuits[i] = j.Circuits[i+1]
			}
			j.Circuits[0].State = state
			j.Tidy()
			alone.Tidy()
			require.NoError(t, j.Validate(Practice(j).Terms()))
			got, want := Of(j, nil, install.Person{}, day), Of(alone, nil, install.Person{}, day)
			assert.Equal(t, want.Checks, got.Checks)
			assert.Equal(t, want.Report.Demand, got.Report.Demand)
			assert.Equal(t, rowIDs(&want), rowIDs(&got))
			own := []string{}
			for i := range got.Tasks {
				if got.Tasks[i].Circuit == "c1" {
					own = append(own, got.Tasks[i].ID)
				}
			}
			assert.Equal(t, []string{"c1-part", "c1-clear"}, own)
			bought := []string{}
			for _, l := range got.Take.Lines {
				for _, a := range l.Asks {
					if a.By.Circuit == "c1" {
						bought = append(bought, a.Key)
					}
				}
			}
			assert.ElementsMatch(t, []string{"c1:labels", "c1:caps"}, bought)
			require.Len(t, got.Report.Circuits, 3, "the sheet shows it")
			assert.NotNil(t, got.Report.Circuits[0].Leaving)
			assert.Nil(t, got.Report.Circuits[1].Leaving)
			p := Practice(j)
			assert.Nil(t, p.Try(j).Changed(0, func(*install.Circuit) {}, nil), "nothing of it is tried")
			assert.NotEmpty(t, p.Try(j).Changed(1, func(k *install.Circuit) { k.Protection.RatingA *= 10 }, nil))
			assert.True(t, slices.ContainsFunc(got.State.Holds, func(h plan.Hold) bool { return strings.Contains(h.What, j.Circuits[0].Name) }),
				"it is not done before it is gone: %v", got.State.Holds)
		}
	}
}

func rowIDs(v *View) (out []string) {
	for _, r := range v.Tests.Rows {
		out = append(out, r.Circuit+" "+r.ID)
	}
	return out
}
